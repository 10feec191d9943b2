"""How often the Shape is redrawn while a tip is dragged: evaluation, layout and painting together, offscreen.

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


def main() -> None:
    """Drag the wing tip of the demo back and forth and time each step until it is painted."""
    prepare("light")
    window = Window(Store(load("demo:whimbrel"), keep=False), first="shape")
    window.resize(1280, 800)
    window.show()
    for _ in range(3):
        QApplication.processEvents()
    handle = window.sheet.handles[(0, 2, "te")]  # type: ignore[attr-defined]
    start = QPointF(handle.centre())
    _send(handle, QEvent.Type.MouseButtonPress, start)
    times = []
    for step in range(_STEPS):
        begun = time.perf_counter()
        _send(handle, QEvent.Type.MouseMove, start + QPointF(0, 12 * math.sin(0.2 * step)))
        QApplication.processEvents()
        times.append(time.perf_counter() - begun)
    _send(handle, QEvent.Type.MouseButtonRelease, start)
    median = statistics.median(times[5:])
    print(f"a dragged tip is redrawn every {1e3 * median:.1f} ms, {1 / median:.0f} times a second (30 wanted)")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
