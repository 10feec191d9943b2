"""Open and save designs as plain-text JSON, atomically, keeping the previous file."""

from __future__ import annotations

import json
from pathlib import Path

from ridgeline.design.document import Design, from_plain
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.library import demo_text

SUFFIX = ".ridge"
_LARGEST = 32 * 1024 * 1024


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
        raise DesignError(source, "an empty file", "a Ridgeline design (.ridge)")

    def refuse(word: str) -> float:
        raise DesignError(source, f"“{word}”", "finite numbers only")

    try:
        data = json.loads(text, parse_constant=refuse)
    except json.JSONDecodeError as error:
        where = f"{source}: line {error.lineno}, column {error.colno}"
        last = error.pos >= len(text.rstrip()) - 1
        understood = "the end of a file that was cut short" if last else f"text that is not JSON ({error.msg})"
        raise DesignError(where, understood, "a whole Ridgeline design (.ridge)") from error
    except RecursionError as error:
        raise DesignError(source, "JSON nested too deep", "a Ridgeline design (.ridge)") from error
    return from_plain(data, source=source)


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
    path = Path(place)
    try:
        if path.stat().st_size > _LARGEST:
            raise DesignError(str(path), f"a file of {path.stat().st_size // 2**20} MB", "design files up to 32 MB")
        text = path.read_text("utf-8")
    except UnicodeDecodeError as error:
        raise DesignError(str(path), "a file that is not text", "a Ridgeline design (.ridge), UTF-8") from error
    except OSError as error:
        raise DesignError(str(path), (error.strerror or str(error)).lower(), "a readable design file") from error
    return from_text(text, path.name)


def save(design: Design, place: str | Path) -> Path:
    """Save a design; a name without a suffix gets ``.ridge``. Returns the path written."""
    path = Path(place)
    if path.suffix == "":
        path = path.with_suffix(SUFFIX)
    write_atomically(path, to_text(design))
    return path
