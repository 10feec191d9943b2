"""Open and save designs as plain-text JSON, atomically, keeping the previous file."""

from __future__ import annotations

import json
import os
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from ridgeline.design.document import Design, from_plain
from ridgeline.design.plain import as_plain
from ridgeline.errors import DesignError
from ridgeline.files.atomic import DoubtKind, Stamp, digest_of, parts_left, previous_of, write_atomically
from ridgeline.files.json_text import place_of, read_json
from ridgeline.files.names import named
from ridgeline.files.reading import decode, read_bytes
from ridgeline.library import demo_text

SUFFIX = ".ridge"
_WHAT = "Ridgeline design (.ridge)"
#: Six pictures of the largest size and a large design.
_LARGEST = 64_000_000


def to_text(design: Design) -> str:
    """Return the text of a design file: JSON with the fields in document order, one per line."""
    return json.dumps(as_plain(design), indent=1, ensure_ascii=False) + "\n"


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


class OpenedFile(NamedTuple):
    """A design file as read: the design, what the file was then, and what a builder should know of it."""

    design: Design
    stamp: Stamp | None
    note: str = ""


def open_file(place: str | Path) -> OpenedFile:
    """Open a design file.

    A file that a kill cut short while it was written in place is read from the whole text that lies beside it then.

    Raises
    ------
    DesignError
        When the file cannot be read or is not a design; it names the earlier state where one is kept.
    """
    path = Path(place)
    data = read_bytes(path, _LARGEST, "design file")
    found = os.stat(path)
    stamp = Stamp(found.st_mtime_ns, found.st_size, found.st_ino, digest_of(data))
    try:
        return OpenedFile(from_text(decode(data, path.name, "design file"), path.name), stamp)
    except DesignError as error:
        for part in parts_left(Path(os.path.realpath(path))):
            try:
                design = from_text(decode(read_bytes(part, _LARGEST, "design file"), part.name, ""), part.name)
            except DesignError:
                continue
            return OpenedFile(design, stamp, f"{path.name} was cut short while it was saved; its whole text was found.")
        earlier = [kept.name for age in (1, 2) if (kept := previous_of(path, age)).exists()]
        if not earlier:
            raise
        allowed = f"{error.allowed}; an earlier state is kept as {' and '.join(earlier)}"
        raise DesignError(error.path, error.understood, allowed, route=error.route) from error


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
    return open_file(place).design


def save(design: Design, place: str | Path, *, even_if: Iterable[DoubtKind] = ()) -> Path:
    """Save a design; a name that does not end in ``.ridge`` (or ``.json``) gets it. Returns the path as given.

    Raises
    ------
    SaveDoubt
        When the file is marked read-only, unless ``even_if`` holds that.
    DesignError
        When it cannot be written.
    """
    path = named(place, SUFFIX, ".json")
    write_atomically(path, to_text(design), even_if=even_if)
    return path
