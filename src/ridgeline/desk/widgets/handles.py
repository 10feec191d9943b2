"""Handles on the drawing: dragged with the mouse, nudged with the arrow keys, named for a screen reader."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import pen
from ridgeline.desk.theme import theme

Move = Callable[[float, float], None]


class Handle(QWidget):
    """A small square to drag. ``on_move`` gets the wanted centre in the parent's px.

    ``shape`` is ``square``, ``frame`` (an outline as large as the widget, such as a pack) or ``hidden``.
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
        cursor: Qt.CursorShape = Qt.CursorShape.SizeAllCursor,
    ) -> None:
        super().__init__(parent)
        self.setFixedSize(size, size)
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: drag, or use the arrow keys (Shift for finer)")
        self.setCursor(cursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._move, self._done, self._press, self._look = on_move, on_done, on_press, look
        self._grip: QPointF | None = None
        self.chosen = False

    @property
    def held(self) -> bool:
        """Tell whether a hand is dragging it now."""
        return self._grip is not None

    def centre(self) -> QPointF:
        """Return the handle's centre in the parent's px."""
        return QPointF(self.x() + self.width() / 2, self.y() + self.height() / 2)

    def place(self, x: float, y: float) -> None:
        """Put the handle's centre somewhere in the parent."""
        self.move(round(x - self.width() / 2), round(y - self.height() / 2))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
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
        size = 0.5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 2.0
        here = self.centre()
        self._move(here.x() + step[0] * size, here.y() + step[1] * size)
        self._done()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if self._press:
            self._press()
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
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
