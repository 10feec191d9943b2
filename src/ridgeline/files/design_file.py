"""Open and save designs as plain-text JSON, atomically, keeping the previous file."""

from __future__ import annotations

import json
from pathlib import Path

from ridgeline.design.document import Design, from_plain
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.json_text import place_of, read_json
from ridgeline.files.reading import read_text
from ridgeline.library import demo_text

SUFFIX = ".ridge"
_WHAT = "Ridgeline design (.ridge)"
#: Six pictures of the largest size and a large design.
_LARGEST = 64_000_000


def to_text(design: Design) -> str:
    """Return the text of a design file: JSON with the fields in document order, one per line."""
    return json.dumps(design.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def from_text(text: str, source: str) -> Design:
    """Read the text of a design file.

    Raises
    ------
    DesignError
        Naming the file and the line or field that is wrong. Nothing is half-loaded.
    """
    if not text.strip():
        raise DesignError(source, "an empty file", f"a {_WHAT}")
    data = read_json(text, source, _WHAT)
    try:
        return from_plain(data, source=source)
    except DesignError as error:
        if error.route is None:
            raise
        where = f"{source}: {place_of(text, error.route)}"
        told = f"{where}: {error.path.removeprefix(source).removeprefix(': ')}"
        raise DesignError(told, error.understood, error.allowed, bound=error.bound, route=error.route) from error


def load(place: str | Path) -> Design:
    """Open a design file, or a shipped one named ``demo:NAME``.

    Raises
    ------
    DesignError
        When the file cannot be read or is not a design.
    """
    if isinstance(place, str) and place.startswith("demo:"):
        name = place.removeprefix("demo:")
        return from_text(demo_text(name), place)
    return from_text(read_text(place, _LARGEST, "design file"), Path(place).name)


def save(design: Design, place: str | Path) -> Path:
    """Save a design; a name without a suffix gets ``.ridge``. Returns the path written."""
    path = Path(place)
    if path.suffix == "":
        path = path.with_suffix(SUFFIX)
    write_atomically(path, to_text(design))
    return path
