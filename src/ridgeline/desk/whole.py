"""What the parts of a window may ask of the whole: said here, so that none of them needs to know the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QMainWindow, QWidget

from ridgeline.desk.notice import Notice
from ridgeline.desk.store import Store

#: A command as the builder finds it: its words, and what it does.
Command = tuple[str, Callable[[], object]]


class Desk(QMainWindow):
    """A window with a design on it: its store, its strip, and the ways about it."""

    store: Store
    notice: Notice

    @property
    def sheet(self) -> QWidget:
        """The sheet that is open."""
        raise NotImplementedError

    def open_sheet(self, key: str) -> None:
        """Turn to a sheet."""
        raise NotImplementedError

    def show_working(self, key: str) -> None:
        """Open the working of a figure."""
        raise NotImplementedError

    def open(self, place: str | Path) -> bool:
        """Open a design file or a sample."""
        raise NotImplementedError

    def commands(self) -> list[Command]:
        """Return what can be done by its words alone."""
        raise NotImplementedError
