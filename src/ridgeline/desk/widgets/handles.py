"""Handles on the drawing: dragged with the mouse, nudged with the arrow keys, named for a screen reader."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from typing import TypeVar

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import pen
from ridgeline.desk.theme import theme
from ridgeline.desk.widgets.buttons import discard

Move = Callable[[float, float], None]
K = TypeVar("K", bound=Hashable)
#: A run of key presses ends, and is one undoable step, when no key came for this long.
_RUN_ENDS_MS = 900
#: Without Shift an arrow moves by this many steps.
_COARSE = 5
#: Where the parent has no step of its own, px.
_STEP_PX = 0.5


class Handle(QWidget):
    """A small square to drag. ``on_move`` gets the wanted centre in the parent's px, ``on_done`` ends a drag.

    ``look`` is ``square``, or ``frame`` (an outline as large as the widget, such as a pack). ``step`` gives what one
    step of the document is now, px: Shift and an arrow move by it, an arrow alone by five.
    """

    def __init__(
        self,
        parent: QWidget,
        name: str,
        on_move: Move,
        on_done: Callable[[], None],
        *,
        on_press: Callable[[], None] | None = None,
        size: int = 15,
        look: str = "square",
        step: Callable[[], float] | None = None,
        cursor: Qt.CursorShape = Qt.CursorShape.SizeAllCursor,
    ) -> None:
        super().__init__(parent)
        self.setFixedSize(size, size)
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: drag, or use the arrow keys (Shift for single steps)")
        self.setCursor(cursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._move, self._done, self._press, self._look = on_move, on_done, on_press, look
        self._step = step
        self._grip: QPointF | None = None
        #: Where the centre is wanted, unrounded: widgets stand on whole px, the document does not.
        self._exact = QPointF()
        self._run = QTimer(self, singleShot=True, interval=_RUN_ENDS_MS)
        self._run.timeout.connect(self._done)
        self.chosen = False

    @property
    def held(self) -> bool:
        """Tell whether a hand is dragging it now, or keys are moving it."""
        return self._grip is not None or self._run.isActive()

    @property
    def by_keys(self) -> bool:
        """Tell whether keys are moving it now: then it goes where it is sent, and snaps to nothing."""
        return self._run.isActive()

    def centre(self) -> QPointF:
        """Return the handle's centre in the parent's px."""
        return QPointF(self.x() + self.width() / 2, self.y() + self.height() / 2)

    def place(self, x: float, y: float) -> None:
        """Put the handle's centre somewhere in the parent."""
        self._exact = QPointF(x, y)
        self.move(round(x - self.width() / 2), round(y - self.height() / 2))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._end_run()
        self._grip = event.position() - QPointF(self.width() / 2, self.height() / 2)
        if self._press:
            self._press()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is None:
            return
        wanted = self.mapToParent(event.position()) - self._grip
        self._move(wanted.x(), wanted.y())

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._grip is not None:
            self._grip = None
            self._done()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        size = max(self._step() if self._step else _STEP_PX, 1e-3)
        if not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            size *= _COARSE
        # Begun before the move: a view stands still while the run goes on.
        self._run.start()
        self._move(self._exact.x() + step[0] * size, self._exact.y() + step[1] * size)

    def _end_run(self) -> None:
        if self._run.isActive():
            self._run.stop()
            self._done()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if self._press:
            self._press()
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self._end_run()
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.chosen or self.hasFocus()
        if self._look == "square":
            box = QRectF(self.width() / 2 - 3.5, self.height() / 2 - 3.5, 7, 7)
            p.setPen(pen(inks.live if live else inks.ink, 1))
            p.setBrush(inks.live if live else inks.paper)
            p.drawRect(box)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))


def keep_handles(handles: dict[K, Handle], wanted: Iterable[K], make: Callable[[K], Handle]) -> None:
    """Take away the handles that are no longer wanted, and make those that are not there yet."""
    keys = list(wanted)
    for key in [k for k in handles if k not in keys]:
        # Taking away what has the focus may come back here.
        if (gone := handles.pop(key, None)) is not None:
            discard(gone)
    for key in keys:
        if key not in handles:
            handles[key] = make(key)
