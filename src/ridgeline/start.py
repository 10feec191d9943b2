"""Where `ridgeline` begins: the command line, and behind it the window, which it is handed and does not import."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ridgeline import cli
from ridgeline.desk.stops import LEAVES


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line with the window behind it; returns the exit status."""
    return cli.main(arguments, window, tuple(LEAVES))


def window(file: str | None, **options: Any) -> int:
    """Open the window on a file, or on the last one; Qt is imported here."""
    from ridgeline.desk.app import run

    return run(file, **options)
