"""The bar over the window: menus, sets, the command line, undo and redo, units."""

from __future__ import annotations

from PySide6.QtGui import (
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PySide6.QtWidgets import QMenuBar, QWidget

from ridgeline.desk.paint import line, path_of, pen, write
from ridgeline.desk.theme import HEADING, LABEL, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.desk.trail import WIDTH
from ridgeline.desk.whole import Desk
from ridgeline.desk.widgets.buttons import TextButton
from ridgeline.desk.widgets.command_line import CommandLine
from ridgeline.desk.widgets.set_strip import SetStrip

BAR = 28


class TopBar(QWidget):
    """Brand, menus, the command line, undo and redo."""

    def __init__(self, window: Desk) -> None:
        super().__init__(window)
        self.setFixedHeight(BAR)
        self._window = window
        self.menus = QMenuBar(self)
        self.menus.setNativeMenuBar(False)
        self.command = CommandLine(self, window)
        self.undo = TextButton(self, "Undo")
        self.redo = TextButton(self, "Redo")
        self.sets = SetStrip(self, window.store)
        self._told: tuple[object, ...] = ()
        self.undo.clicked.connect(window.store.undo)
        self.redo.clicked.connect(window.store.redo)
        window.store.changed.connect(self.refresh)

    def refresh(self) -> None:
        """Show what undo and redo would do."""
        history = self._window.store.history
        told = (history.undo_label, history.redo_label, self.width(), self.sets.used)
        if told == self._told:
            return
        self._told = told
        for button, label, word in ((self.undo, history.undo_label, "Undo"), (self.redo, history.redo_label, "Redo")):
            button.setEnabled(label is not None)
            button.setText(f"{word} {label}" if label else word)
            button.setAccessibleName(button.text())
            button.setToolTip(button.text())
        self._place()

    def _place(self) -> None:
        left = self.width() - MARGIN_WIDTH
        first = min(self.undo.sizeHint().width(), 170)
        self.undo.setGeometry(left + 11, 3, first, 22)
        self.redo.setGeometry(left + 15 + first, 3, min(self.redo.sizeHint().width(), MARGIN_WIDTH - first - 100), 22)
        self.menus.setGeometry(WIDTH + 4, 0, 260, BAR)
        start = WIDTH + 270
        # The sets take what they need; the command line the rest, and a word of its own when that is little.
        wide = max(min(288, left - 28 - start - (self.sets.wish if self.sets.used else 0)), 150)
        self.command.narrow(wide < 240)
        self.command.setGeometry(left - 12 - wide, 3, wide, 22)
        self.sets.setGeometry(start, 0, max(left - 12 - wide - 16 - start, 0), BAR)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(pen(inks.live, 1.6))
        p.drawPath(path_of([(16, 20), (22, 10), (27, 16), (33, 8), (40, 20)], closed=False))
        write(p, 48, 19, "Ridgeline", HEADING, bold=True)
        system = "mm  g  m/s" if self._window.store.system == "metric" else "in  oz  mph"
        write(p, self.width() - 16, 18, system, LABEL, inks.soft, align="right")
        line(p, 0, BAR - 0.5, self.width(), BAR - 0.5, inks.hair)
