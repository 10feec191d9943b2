"""The work former sittings left unsaved, as a list: bring back, compare, drop, later."""

from __future__ import annotations

import time
from pathlib import Path

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, line, write
from ridgeline.desk.theme import HEADING, LABEL, TITLE, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, TextButton, discard
from ridgeline.files.sittings import Leftover

_ROW, _TOP = 46, 66


class LeftoversPanel(QWidget):
    """A slip over the sheet with one row for each piece of work that was left."""

    brought = Signal(object)
    compared = Signal(object)
    dropped = Signal(object)
    closed = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.rows: list[Leftover] = []
        self.buttons: list[tuple[RuledButton, RuledButton, RuledButton]] = []
        self.later = TextButton(self, "Later  Esc", "leave the unsaved work for later")
        self.later.clicked.connect(self.dismiss)
        self.setAccessibleName("unsaved work of former sittings")
        self.hide()

    def show_rows(self, rows: list[Leftover]) -> None:
        """List what was left; an empty list closes the slip."""
        for former in self.buttons:
            for button in former:
                discard(button)
        self.rows, self.buttons = rows, []
        if not rows:
            self.dismiss()
            return
        for left in rows:
            trio = []
            for words, signal in (("Bring back", self.brought), ("Compare", self.compared), ("Drop", self.dropped)):
                button = RuledButton(self, words)
                button.setAccessibleName(f"{words.lower()}: {left.name}")
                button.clicked.connect(lambda _=False, s=signal, work=left: s.emit(work))
                trio.append(button)
            self.buttons.append((trio[0], trio[1], trio[2]))
        self.place()
        self.show()
        self.raise_()
        self.setFocus()
        self.update()

    def dismiss(self) -> None:
        """Leave it all for later."""
        self.hide()
        self.closed.emit()

    @property
    def most(self) -> int:
        """Return how many rows there is room for."""
        return max((self.height() - _TOP - 30) // _ROW, 1)

    def place(self) -> None:
        """Lie over the upper sheet, as high as the rows need."""
        sheet = self.parentWidget()
        assert sheet is not None
        self.setGeometry(0, 0, sheet.width(), min(_TOP + _ROW * len(self.rows) + 34, sheet.height()))
        self._place_buttons()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place_buttons()

    def _place_buttons(self) -> None:
        self.later.setGeometry(self.width() - 96, 8, 84, 22)
        for index, trio in enumerate(self.buttons):
            x = self.width() - 16
            for button in reversed(trio):
                x -= button.sizeHint().width() + 8
                button.setGeometry(x, _TOP + index * _ROW - 6, button.sizeHint().width(), 24)
                button.setVisible(index < self.most)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
            return
        super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        p.fillRect(QRectF(0, 0, self.width(), 2), inks.live)
        used = write(p, 16, 26, "Work not saved", TITLE, bold=True)
        told = "Left by former sittings. It stays here until it is brought back or dropped."
        write(p, 16 + used + 14, 26, fit(told, self.width() - used - 150, LABEL), LABEL, inks.soft)
        for index, left in enumerate(self.rows[: self.most]):
            y = _TOP + index * _ROW
            line(p, 16, y - 16.5, self.width() - 16, y - 16.5, inks.hair)
            room = (self.buttons[index][0].x() if self.buttons else self.width()) - 32
            write(p, 16, y + 2, fit(left.name, room, HEADING, True), HEADING, bold=True)
            write(p, 16, y + 19, fit(self._told(left), room, VALUE), LABEL, inks.soft)
        line(p, 0, self.height() - 0.5, self.width(), self.height() - 0.5, inks.live)
        hidden = len(self.rows) - self.most
        if hidden > 0:
            write(p, 16, self.height() - 12, f"{hidden} more when these are done", LABEL, inks.soft)

    def _told(self, left: Leftover) -> str:
        when = time.strftime("%d %b %Y, %H:%M", time.localtime(left.when))
        count = "" if left.edits is None else f" · {left.edits} edit{'' if left.edits == 1 else 's'}"
        file = " · never saved to a file"
        if left.file is not None:
            place = Path(left.file)
            file = f" · from {place.name} in {place.parent}"
        return f"{when}{count}{file}"
