"""Start the application: paper first, then the design on it; or write one picture and leave."""

from __future__ import annotations

import os
import sys
from functools import partial
from threading import Thread
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QApplication, QWidget

from ridgeline.desk.shell import LEAST_SIZE, Shell
from ridgeline.desk.stops import LEAVES
from ridgeline.desk.text_size import put_in_force
from ridgeline.desk.theme import dress, load_fonts
from ridgeline.errors import DesignError
from ridgeline.files.choices import remembered, remembered_word

if TYPE_CHECKING:
    from ridgeline.desk.window import Window

#: When what is wanted later is read, after the window stands.
_READ_AHEAD_MS = 400
_USUAL_SIZE = (1280, 800)
_STYLE = "Fusion"
#: Height of a title bar, px.
_FRAME = 30


def prepare(name: str | None = None) -> QApplication:
    """Return the application with its type and style in place."""
    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("Ridgeline")
    # Every widget there is would be polished anew.
    if app.style().objectName().lower() != _STYLE.lower():
        app.setStyle(_STYLE)
    load_fonts()
    dress(app, name or remembered_word("theme", ("light", "dark")))
    return app


def _size(text: str) -> tuple[int, int]:
    try:
        width, height = (int(part) for part in text.lower().split("x"))
    except ValueError as error:
        raise DesignError("--size", f"“{text}”", "WIDTHxHEIGHT, such as 1280x800") from error
    if not (640 <= width <= 8000 and 480 <= height <= 8000):
        raise DesignError("--size", f"{width}x{height}", "640x480 to 8000x8000")
    return width, height


def run(
    file: str | None,
    *,
    shot: str | None = None,
    sheet: str = "balance",
    size: str | None = None,
    theme: str | None = None,
) -> int:
    """Open the window on a design, or write a picture of it and return.

    The empty sheet is painted before anything heavy is imported; the design follows on it.

    Raises
    ------
    DesignError
        When the file, the sheet or the size is not one.
    """
    chosen = _size(size) if size else None
    if sheet not in LEAVES:
        raise DesignError("--sheet", f"“{sheet}”", ", ".join(LEAVES))
    if file and not file.startswith("demo:") and not os.path.isfile(file):
        _load(file)
    _find_display(drawing=bool(shot))
    if shot:
        return _shoot(file, shot, sheet, *(chosen or _USUAL_SIZE), theme)
    put_in_force()
    app = prepare(theme)
    shell = Shell(file.removeprefix("demo:").capitalize() if file else "a new sheet")
    fit_screen(shell, chosen or _remembered_size())
    shell.show()
    app.processEvents()
    window = open_window(file, sheet)
    shell.adopt(window)
    sys.excepthook = partial(_say_fault, window)
    QTimer.singleShot(0, window.filing.start)
    QTimer.singleShot(_READ_AHEAD_MS, read_ahead)
    return int(app.exec())


def read_ahead() -> None:
    """Do, in a thread of its own, what is wanted at the first press: typed units, propeller laws, least squares."""

    def read() -> None:
        from ridgeline.engine.power.propeller import law_of
        from ridgeline.library import shipped_shelf
        from ridgeline.typed import parse

        parse("1 mm", "length")
        for propeller in shipped_shelf().propellers:
            law_of(propeller)
        import scipy.optimize  # noqa: F401

    Thread(target=read, name="read ahead", daemon=True).start()


def _remembered_size() -> tuple[int, int]:
    """Return the size the window had when it was closed last."""
    size = remembered().get("size")
    if isinstance(size, list) and len(size) == 2 and all(isinstance(n, int) and 0 < n <= 8000 for n in size):
        return size[0], size[1]
    return _USUAL_SIZE


def fit_screen(shell: QWidget, wish: tuple[int, int]) -> None:
    """Give a window its wished size, or as much of it as the screen it opens on has room for."""
    screen = shell.screen() or QApplication.primaryScreen()
    room = screen.availableGeometry()
    # The frame the window manager puts round it, as far as it can be known before it is shown.
    width, height = min(wish[0], room.width()), min(wish[1], room.height() - _FRAME)
    shell.setMinimumSize(min(LEAST_SIZE[0], width), min(LEAST_SIZE[1], height))
    shell.resize(width, height)
    shell.move(
        room.left() + max((room.width() - width) // 2, 0), room.top() + max((room.height() - _FRAME - height) // 2, 0)
    )


def _find_display(*, drawing: bool) -> None:
    """Draw pictures without a display; refuse to open a window where there is none, before Qt gives up on it."""
    names = ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")
    if any(os.environ.get(name) for name in names):
        return
    if not drawing:
        raise DesignError("window", "no display", "a graphical session; ./demo starts a virtual one, --shot needs none")
    os.environ["QT_QPA_PLATFORM"] = "offscreen"


def _say_fault(window: Window, kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
    """Say a fault of ours in the window instead of losing it on a terminal nobody sees."""
    sys.__excepthook__(kind, fault, trace)
    if issubclass(kind, Exception):
        why = f"{kind.__name__}: {fault}"
        window.notice.say(
            f"That failed inside Ridgeline ({why}). Your work is kept; undo takes the last step back.", grave=True
        )


def _load(file: str) -> object:
    from ridgeline.files.design_file import load

    return load(file)


def open_window(file: str | None, sheet: str) -> Window:
    """Return the window on a design, to be put into a shell."""
    from ridgeline.design.document import Design
    from ridgeline.desk.store import Store
    from ridgeline.desk.window import Window
    from ridgeline.files.design_file import load

    design = load(file) if file else Design()
    store = Store(design, system=remembered_word("units", ("metric", "imperial")))
    if file and not file.startswith("demo:"):
        store.open(file)
    window = Window(store, first=sheet if file else "brief")
    window.setWindowFlags(Qt.WindowType.Widget)
    return window


def _shoot(file: str | None, shot: str, sheet: str, width: int, height: int, theme: str | None) -> int:
    from ridgeline.design.document import Design
    from ridgeline.desk.store import Store
    from ridgeline.desk.window import Window
    from ridgeline.files.design_file import load

    design = load(file) if file else Design()
    app = prepare(theme or "light")
    window = Window(Store(design, keep=False), first=sheet)
    window.resize(width, height)
    window.show()
    app.processEvents()
    if not window.grab().save(shot, "PNG"):
        raise DesignError(shot, "a place that cannot be written", "a .png file in a folder that exists")
    window.close()
    return 0
