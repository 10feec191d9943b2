"""The choice of the text size in the window: remembered, and in force from the next start, which may be now."""

from __future__ import annotations

import sys

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QMenu

from ridgeline.desk.text_size import SIZES, chosen_size, fits
from ridgeline.desk.whole import Desk
from ridgeline.errors import DesignError
from ridgeline.files.choices import remember


def fill_text_sizes(menu: QMenu, window: Desk) -> None:
    """List the sizes, the one that is remembered marked, those the screen has no room for greyed."""
    menu.clear()
    now = chosen_size()
    room = window.screen().availableGeometry()
    for size in SIZES:
        action = menu.addAction(f"{size} %")
        action.setCheckable(True)
        action.setChecked(size == now)
        action.setEnabled(size <= now or fits(size, now, room.width(), room.height()))
        action.triggered.connect(lambda _=False, s=size: choose_text_size(window, s))


def choose_text_size(window: Desk, size: int) -> None:
    """Remember a text size, and offer to start anew with it."""
    if size == chosen_size():
        window.notice.say(f"Text is at {size} % already.")
        return
    try:
        remember(text=size)
    except DesignError as error:
        window.notice.say(str(error), grave=True)
        return
    words = f"Text at {size} % from the next start. Unsaved work is kept and offered then."
    window.store.questioned.emit(words, (("Start anew now", lambda: start_anew(window)), ("Later", lambda: None)))


def start_anew(window: Desk) -> None:
    """Start another window on the same design, and close this one."""
    path = window.store.path
    arguments = ["-m", "ridgeline", "open", *([] if path is None else [str(path)])]
    if QProcess.startDetached(sys.executable, arguments):
        window.window().close()
