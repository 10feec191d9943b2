"""Tables of any make: the mark between cells, headers with units, rows by line number, forgiving numbers.

What cannot be read in one way only is left out and reported, never guessed.
"""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import NamedTuple

from ridgeline.errors import DesignError
from ridgeline.files.reading import read_text
from ridgeline.typed import plain_number, short

_MOST_BYTES = 4_000_000
_MOST_ROWS, _MOST_COLUMNS = 10_000, 200
#: A row is taken to be no longer than this on average, where more rows are allowed.
_ROW_BYTES = 160
_MARKS = "\t;,"


class Table(NamedTuple):
    """A table as read: the mark between its cells, its header, its rows by line number, and what was left out."""

    mark: str
    header: list[str]
    rows: list[tuple[int, list[str]]]
    report: list[str]


def read_table(place: str | Path, example: str, notes: bool = False, rows: int = _MOST_ROWS) -> Table:
    """Read a table from a file; see `split_table`."""
    report: list[str] = []
    text = read_text(place, max(_MOST_BYTES, _ROW_BYTES * rows), "table", report)
    table = split_table(text, Path(place).name, example, notes, rows)
    return table._replace(report=[*report, *table.report])


def split_table(text: str, source: str, example: str, notes: bool = False, rows: int = _MOST_ROWS) -> Table:
    """Split a text into a table.

    Parameters
    ----------
    text : str
        The whole text.
    source, example : str
        What a refusal calls it, and a header that would do.
    notes : bool
        Lines before the header that begin with # are notes; with this so are rows that do.
    rows : int
        At most.

    Raises
    ------
    DesignError
        When there is no header, a quote is never closed, header and rows are set with different marks, or there are
        more rows, columns or letters in a cell than any table has.
    """
    lines = text.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    start = next((i for i, line in enumerate(lines) if line.strip() and not line.lstrip().startswith("#")), None)
    if start is None:
        raise DesignError(source, "nothing", f"a table with a header: {example}")
    if len(lines) - start > rows + 1:
        raise DesignError(source, f"{len(lines) - start} lines", f"a table of up to {rows} rows")
    mark = max(_MARKS, key=lines[start].count)
    found = _rows("\n".join(lines[start:]), mark, start, source)
    header = found[0][1]
    if len(header) > _MOST_COLUMNS:
        raise DesignError(source, f"{len(header)} columns", f"a table of up to {_MOST_COLUMNS} columns")
    filled = [
        (line, cells)
        for line, cells in found[1:]
        if any(cell.strip() for cell in cells) and not (notes and cells[0].lstrip().startswith("#"))
    ]
    _check_mark(mark, header, filled, source)
    report: list[str] = []
    kept = []
    for line, cells in filled:
        if any(cell.strip() for cell in cells[len(header) :]):
            report.append(f"line {line} left out: {len(cells)} cells under {len(header)} headers")
        else:
            kept.append((line, cells[: len(header)]))
    return Table(mark, header, kept, report)


def _rows(text: str, mark: str, before: int, source: str) -> list[tuple[int, list[str]]]:
    """Return the rows with the line each begins on."""
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark, strict=True)
    rows: list[tuple[int, list[str]]] = []
    line = before + 1
    try:
        for cells in reader:
            rows.append((line, cells))
            line = before + reader.line_num + 1
    except csv.Error as error:
        words = str(error)
        understood = (
            "a quote that is never closed" if "unexpected end" in words
            else "a cell of more letters than any has" if "limit" in words
            else "a quote within a cell"
        )  # fmt: skip
        allowed = (
            f"cells of up to {csv.field_size_limit()} letters" if "limit" in words
            else "cells with both their quotes, or none, comma, semicolon or tab between them"
        )  # fmt: skip
        raise DesignError(f"{source}: line {line}", understood, allowed) from error
    return rows


def _check_mark(mark: str, header: list[str], rows: list[tuple[int, list[str]]], source: str) -> None:
    """Refuse rows set with another mark than the header: every cell would be in the wrong place."""
    names = {"\t": "tabs", ";": "semicolons", ",": "commas"}
    other = next((m for m in _MARKS if m != mark and rows and all(len(c) == 1 and m in c[0] for _l, c in rows)), None)
    if other is not None:
        where = f"{source}: line {rows[0][0]}"
        raise DesignError(
            where, f"rows set with {names[other]} under a header set with {names[mark]}", "one mark for both"
        )


def header_parts(title: str) -> tuple[str, str]:
    """Return the name and the unit of a header such as ``thrust (g)``, both in small letters; no unit where none is."""
    words = title.strip()
    opened = min((words.index(b) for b in "([" if b in words), default=-1)
    if opened < 0 or words[-1] not in ")]":
        return words.lower(), ""
    return words[:opened].strip().lower(), words[opened + 1 : -1].strip().lower()


def number(text: str, mark: str) -> float:
    """Read a number of a cell, with a decimal comma where the comma does not stand between cells.

    Raises
    ------
    ValueError
        When it is none, is not finite, or could be two; the message says which.
    """
    cleaned = "".join(text.split())
    if mark == ";" and cleaned.count(",") == 1 and "." not in cleaned:
        # Where cells are parted by semicolons the comma is the decimal one.
        cleaned = cleaned.replace(",", ".")
    try:
        return plain_number(cleaned)
    except ValueError as error:
        raise ValueError(str(error).replace(f"“{cleaned}”", f"“{short(text)}”")) from error
