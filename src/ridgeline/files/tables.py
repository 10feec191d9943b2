"""Reading tables of any make: bytes to text, the mark between cells, rows by line number, forgiving numbers."""

from __future__ import annotations

import csv
import re
from pathlib import Path

from ridgeline.errors import DesignError

_MOST_BYTES = 4_000_000
HEADER = re.compile(r"^\s*(?P<name>[^(\[]*?)\s*(?:[(\[]\s*(?P<unit>[^)\]]*?)\s*[)\]])?\s*$")


def table_text(place: str | Path, most: int = _MOST_BYTES, what: str = "table") -> str:
    """Return the text of a file of up to ``most`` bytes, in UTF-8 or Latin-1; ``what`` names it in a refusal.

    Raises
    ------
    DesignError
        When it cannot be read, or is larger than any table is.
    """
    path = Path(place)
    try:
        if path.stat().st_size > most:
            allowed = f"a {what} of up to {most // 1000} kB"
            raise DesignError(path.name, f"{path.stat().st_size // 1024} kB", allowed)
        data = path.read_bytes()
    except OSError as error:
        raise DesignError(str(path), (error.strerror or str(error)).lower(), f"a readable {what}") from error
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def split_table(
    text: str, source: str, example: str, notes: bool = False
) -> tuple[str, list[str], list[tuple[int, list[str]]]]:
    """Return the mark between cells, the header, and the rows with their line numbers.

    Lines before the header that begin with # are notes; with ``notes`` so are rows that do.

    Raises
    ------
    DesignError
        When there is no header, or the text is no table.
    """
    lines = text.replace("\x00", "").splitlines()
    start = next((i for i, line in enumerate(lines) if line.strip() and not line.lstrip().startswith("#")), None)
    if start is None:
        raise DesignError(source, "nothing", f"a table with a header: {example}")
    mark = max("\t;,", key=lines[start].count)
    try:
        rows = list(csv.reader(lines[start:], delimiter=mark))
    except csv.Error as error:
        raise DesignError(
            source, f"text that is no table ({error})", "comma, semicolon or tab between cells"
        ) from error
    kept = [
        (number, cells)
        for number, cells in enumerate(rows[1:], start=start + 2)
        if any(cell.strip() for cell in cells) and not (notes and cells[0].lstrip().startswith("#"))
    ]
    return mark, rows[0], kept


def number(text: str, mark: str) -> float:
    """Read a number, with a decimal comma where the comma does not stand between cells.

    Raises
    ------
    ValueError
        When it is none.
    """
    cleaned = text.strip().replace("−", "-").replace("\u00a0", "").replace(" ", "")
    if mark != "," and "," in cleaned and "." not in cleaned:
        cleaned = cleaned.replace(",", ".")
    return float(cleaned)
