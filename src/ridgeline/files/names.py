"""Names of files: made safe from the name of a design, and with the suffix of their kind."""

from __future__ import annotations

import re
from pathlib import Path

_LONGEST_BYTES = 120
#: What some file system or shell takes for something else than a letter of a name.
_UNSAFE = re.compile(r'[\\/:*?"<>|\x00-\x1f\x7f]+')


def named(place: str | Path, suffix: str, *also: str) -> Path:
    """Return a path that ends in a suffix of its kind: ``Mud Plover 1.2`` becomes ``Mud Plover 1.2.ridge``."""
    path = Path(place)
    if path.name.lower().endswith((suffix, *also)):
        return path
    return path.with_name(path.name + suffix) if path.name else path


def safe_name(words: str, suffix: str = "") -> str:
    """Return a file name made of the name of a design: no folders, no hidden file, no letters a file cannot carry."""
    plain = " ".join(_UNSAFE.sub(" ", words).split()).strip(". ").lstrip("-~")
    cut = plain.encode("utf-8", "ignore")[:_LONGEST_BYTES].decode("utf-8", "ignore").strip(". ")
    return (cut or "Untitled") + suffix
