"""How often a sheet is redrawn while a hand drags: a tip, one of 2 000 masses, a servo, a horn, a stick; offscreen.

Each step is evaluation, layout and painting together.

Run: QT_QPA_PLATFORM=offscreen ./.venv/bin/python bench/redraw.py
"""

from __future__ import annotations

import math
import os
import statistics
import time

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

from ridgeline.design.document import Design
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load

_STEPS = 60


def _send(handle: QWidget, kind: QEvent.Type, at: QPointF) -> None:
    """Send a mouse event as a hand at a place of the sheet makes it."""
    local = handle.mapFromParent(at)
    button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else Qt.MouseButton.LeftButton
    held = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseButtonRelease else Qt.MouseButton.LeftButton
    event = QMouseEvent(kind, local, handle.mapToGlobal(local), button, held, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(handle, event)


def open_window(design: Design, sheet: str) -> Window:
    """Show a design on a sheet and let it settle."""
    window = Window(Store(design, keep=False), first=sheet)
    window.resize(1280, 800)
    window.show()
    for _ in range(3):
        QApplication.processEvents()
    return window


def time_drag(window: Window, handle: QWidget, what: str) -> None:
    """Drag a handle back and forth and print how often the window was painted anew."""
    start = QPointF(handle.centre())  # type: ignore[attr-defined]
    _send(handle, QEvent.Type.MouseButtonPress, start)
    times = []
    for step in range(_STEPS):
        begun = time.perf_counter()
        _send(handle, QEvent.Type.MouseMove, start + QPointF(6 * math.sin(0.2 * step), 12 * math.sin(0.2 * step)))
        QApplication.processEvents()
        times.append(time.perf_counter() - begun)
    _send(handle, QEvent.Type.MouseButtonRelease, start)
    median = statistics.median(times[5:])
    print(f"{what} is redrawn every {1e3 * median:.1f} ms, {1 / median:.0f} times a second (30 wanted)")
    window.store.forget()
    window.close()


def main() -> None:
    """Drag the wing tip of the demo, one mass among two thousand, a linkage and a stick."""
    prepare("light")
    design = load("demo:whimbrel")
    window = open_window(design, "shape")
    time_drag(window, window.sheet.handles[(0, 2, "te")], "a dragged tip")  # type: ignore[attr-defined]
    extra = tuple(design.parts[3].model_copy(update={"name": f"Part {n}"}) for n in range(2000))
    window = open_window(design.model_copy(update={"parts": (*design.parts, *extra)}), "weights")
    window.store.select("parts[1]")
    QApplication.processEvents()
    time_drag(window, window.sheet.mass_side, "a mass dragged among 2 017 items")  # type: ignore[attr-defined]
    for name, handle in (("a servo", "servo_handle"), ("a horn's hole", "horn_handle")):
        window = open_window(design, "controls")
        time_drag(window, getattr(window.sheet, handle), f"{name} of a linkage")
    window = open_window(design, "controls.radio")
    time_drag(window, window.sheet.right, "a stick")  # type: ignore[attr-defined]


if __name__ == "__main__":
    main()
