"""Start the application: fonts, style, window; or write one picture and leave."""

from __future__ import annotations

import sys

from PySide6.QtCore import QTimer
from PySide6.QtGui import QPalette
from PySide6.QtWidgets import QApplication

from ridgeline.desk.store import Store
from ridgeline.desk.theme import load_fonts, style_sheet, theme
from ridgeline.desk.trail import STOPS
from ridgeline.desk.window import Window
from ridgeline.errors import DesignError
from ridgeline.files import desk_memory
from ridgeline.files.design_file import load


def prepare(name: str | None = None) -> QApplication:
    """Return the application with its type and style in place."""
    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("Ridgeline")
    app.setStyle("Fusion")
    load_fonts()
    dress(app, name or desk_memory.remembered().get("theme", "light"))
    return app


def dress(app: QApplication, name: str) -> None:
    """Put the application in light or dark."""
    theme.choose(name)
    palette = QPalette()
    inks = theme.inks
    palette.setColor(QPalette.ColorRole.Window, inks.paper)
    palette.setColor(QPalette.ColorRole.Base, inks.paper)
    palette.setColor(QPalette.ColorRole.Text, inks.ink)
    palette.setColor(QPalette.ColorRole.WindowText, inks.ink)
    palette.setColor(QPalette.ColorRole.Highlight, inks.live)
    palette.setColor(QPalette.ColorRole.PlaceholderText, inks.soft)
    app.setPalette(palette)
    app.setStyleSheet(style_sheet())


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
    size: str = "1280x800",
    theme: str | None = None,
) -> int:
    """Open the window on a design, or write a picture of it and return.

    Raises
    ------
    DesignError
        When the file, the sheet or the size is not one; before any window opens.
    """
    width, height = _size(size)
    alive = [stop.key for stop in STOPS if stop.alive]
    if sheet not in alive:
        raise DesignError("--sheet", f"“{sheet}”", ", ".join(alive))
    design = load(file) if file else None
    app = prepare(theme)
    if shot:
        return _shoot(design, file, shot, sheet, width, height)
    from ridgeline.design.document import Design

    store = Store(design or Design(), system=desk_memory.remembered().get("units", "metric"))
    if file and not file.startswith("demo:"):
        store.open(file)
    window = Window(store, first="brief" if design is None else sheet)
    window.resize(width, height)
    window.show()
    if design is None:
        QTimer.singleShot(0, window.offer_unsaved)
    return int(app.exec())


def _shoot(design: object, file: str | None, shot: str, sheet: str, width: int, height: int) -> int:
    from ridgeline.design.document import Design

    store = Store(design if isinstance(design, Design) else Design(), keep=False)
    window = Window(store, first=sheet)
    window.resize(width, height)
    window.show()
    QApplication.processEvents()
    if not window.grab().save(shot, "PNG"):
        raise DesignError(shot, "a place that cannot be written", "a .png file in a folder that exists")
    window.close()
    return 0
