"""A list of rows of which one is chosen: arrows and pages move, the wheel scrolls, Enter or a second press fits."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.store import Store

#: Rows that one notch of the wheel moves.
_NOTCH = 3


class RowList(QWidget):
    """What the lists share: which row is chosen and which is the first in view.

    A list says how high its rows and its head are, what lies under the last row, and what a row is called.
    """

    picked = Signal(int)
    fitted = Signal(int)
    row_height, head, foot = 19, 22, 0

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.rows: tuple[Any, ...] = ()
        self.chosen, self._first = -1, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def named(self) -> str:
        """Return what the list is called, by its chosen row."""
        raise NotImplementedError

    def set_rows(self, rows: tuple[Any, ...], chosen: int) -> None:
        """Show other rows from the first on."""
        self.rows, self.chosen, self._first = rows, chosen, 0
        self.setAccessibleName(self.named())
        self.update()

    def shown_rows(self) -> int:
        """Return how many rows there is room for."""
        return max(int((self.height() - self.head - self.foot) // self.row_height), 1)

    def choose(self, index: int) -> None:
        """Choose a row, keep it in view, and tell it."""
        if not self.rows:
            return
        self.chosen = min(max(index, 0), len(self.rows) - 1)
        self._first = min(max(self._first, self.chosen - self.shown_rows() + 1), self.chosen)
        self.setAccessibleName(self.named())
        self.picked.emit(self.chosen)
        self.update()

    def row_at(self, y: float) -> int:
        """Return the row at a height, −1 for none."""
        index = self._first + int((y - self.head) // self.row_height)
        return index if y >= self.head and index < len(self.rows) else -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        index = self.row_at(event.position().y())
        if index >= 0:
            self.choose(index)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        index = self.row_at(event.position().y())
        if index >= 0:
            self.fitted.emit(index)

    def wheelEvent(self, event: QWheelEvent) -> None:
        step = -_NOTCH if event.angleDelta().y() > 0 else _NOTCH
        self._first = min(max(self._first + step, 0), max(len(self.rows) - self.shown_rows(), 0))
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        page = self.shown_rows()
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -page, Qt.Key.Key_PageDown: page}
        key = Qt.Key(event.key())
        if key in moves:
            self.choose(self.chosen + moves[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.chosen >= 0:
            self.fitted.emit(self.chosen)
        else:
            super().keyPressEvent(event)
