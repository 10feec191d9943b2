"""The design that a command names, with the edits it is given."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from typing import Any

from ridgeline.errors import DesignError


def edits(options: argparse.Namespace, such_as: str) -> Iterator[tuple[str, str]]:
    """Yield the path and the typed value of each edit."""
    from ridgeline.typed import short

    for edit in options.edits:
        path, equals, text = edit.partition("=")
        if not equals:
            raise DesignError("--set", f"“{short(edit)}”", f"PATH=VALUE, such as {such_as}")
        yield path.strip(), text


def edited(options: argparse.Namespace) -> Any:
    """Return the design of a file, or of the demos, edited."""
    from ridgeline.design.paths import put, read_text
    from ridgeline.files.design_file import load

    if not options.file:
        raise DesignError("FILE", "nothing", "a .ridge file or demo:NAME")
    design = load(options.file)
    for path, text in edits(options, "surfaces[0].stations[0].chord=0.18"):
        design = put(design, path, read_text(design, path, text))
    return design
