"""The strip over the sheet that says one thing and never blocks the work."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, QTimer
from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, line, write
from ridgeline.desk.theme import VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, TextButton


class Notice(QWidget):
    """A strip over the sheet that says one thing, with at most two ways to answer; it never blocks the work."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._words, self._grave = "", False
        self._buttons: list[RuledButton] = []
        self._close = TextButton(self, "Close", "close the notice")
        self._close.clicked.connect(self.hide)
        self.setFixedHeight(32)
        self._timer = QTimer(self, singleShot=True, interval=5000)
        self._timer.timeout.connect(self.hide)
        self.hide()

    @property
    def words(self) -> str:
        return self._words

    def say(self, words: str, *, grave: bool = False, answers: tuple[tuple[str, Callable[[], None]], ...] = ()) -> None:
        """Show words, with buttons for answers; unanswered small news goes away by itself."""
        for button in self._buttons:
            button.deleteLater()
        self._words, self._grave = words, grave
        self.setAccessibleName(words)
        self.setToolTip(words)
        self._buttons = []
        for label, action in answers:
            button = RuledButton(self, label)
            button.clicked.connect(self.hide)
            button.clicked.connect(lambda _=False, a=action: a())
            button.show()
            self._buttons.append(button)
        self._place()
        self.show()
        self.raise_()
        self._timer.stop()
        if not grave and not answers:
            self._timer.start()

    def _place(self) -> None:
        right = self.width() - 60
        self._close.setGeometry(right, 5, 54, 22)
        for button in reversed(self._buttons):
            right -= button.sizeHint().width() + 8
            button.setGeometry(right, 4, button.sizeHint().width(), 24)
        self._room = right - 40

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        colour = inks.stop if self._grave else inks.live
        p.fillRect(QRectF(0, 0, 4, self.height()), colour)
        line(p, 0, self.height() - 0.5, self.width(), self.height() - 0.5, colour)
        write(p, 16, 20, fit(self._words, self._room), VALUE, colour)
