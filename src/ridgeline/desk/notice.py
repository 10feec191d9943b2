"""The strip at the foot of the sheet that says one thing and never blocks the work."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QRectF, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, line, width_of, wrap, write
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, TextButton, discard

HEIGHT = 32
_TALL = 48
#: Small news goes away by itself after this long.
_NEWS_MS = 5000

Answer = tuple[str, Callable[[], object]]


class News(NamedTuple):
    """Something said: in grave ink when something was refused, with buttons when it is a question."""

    words: str
    grave: bool
    answers: tuple[Answer, ...]

    @property
    def stands(self) -> bool:
        """Tell whether it stays until it is closed or answered."""
        return self.grave or bool(self.answers)


class Notice(QWidget):
    """Says the newest thing. A question stays until it is answered, under newer news if need be; none is lost."""

    #: That it came, went, or changed between standing and passing: what stands has room made for it.
    moved = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._pile: list[News] = []
        self._buttons: list[RuledButton] = []
        self._room = 0
        self._close = TextButton(self, "Close", "close the notice")
        self._close.clicked.connect(self.dismiss)
        self.setFixedHeight(HEIGHT)
        self._timer = QTimer(self, singleShot=True, interval=_NEWS_MS)
        self._timer.timeout.connect(self.dismiss)
        self.hide()

    @property
    def words(self) -> str:
        """Return what is said now, or was last."""
        return self.accessibleName()

    @property
    def buttons(self) -> list[RuledButton]:
        """Return the buttons of what is said now."""
        return self._buttons

    @property
    def waiting(self) -> int:
        """Return how many more things wait under what is said now."""
        return max(len(self._pile) - 1, 0)

    @property
    def standing(self) -> bool:
        """Tell whether what is said stays until it is closed."""
        return bool(self._pile) and self._pile[-1].stands

    def say(self, words: str, *, grave: bool = False, answers: tuple[Answer, ...] = ()) -> None:
        """Show words, with buttons for answers; unanswered small news goes away by itself."""
        # Only questions wait: news and refusals give way to what came after them.
        self._pile = [news for news in self._pile if news.answers and news.words != words]
        self._pile.append(News(words, grave, answers))
        self._show_top()

    def withdraw(self, words: str) -> None:
        """Take back what was said, when it is true no longer."""
        self._pile = [news for news in self._pile if news.words != words]
        self._show_top()

    def dismiss(self) -> None:
        """Take away what is said now; what waited under it comes back."""
        if self._pile:
            self._pile.pop()
        self._show_top()

    def _answer(self, news: News, action: Callable[[], object]) -> None:
        self._pile = [other for other in self._pile if other is not news]
        self._show_top()
        action()

    def _show_top(self) -> None:
        for button in self._buttons:
            discard(button)
        self._buttons = []
        self._timer.stop()
        if not self._pile:
            self.hide()
            self.moved.emit()
            return
        top = self._pile[-1]
        self.setAccessibleName(top.words)
        self.setToolTip(top.words)
        for label, action in top.answers:
            button = RuledButton(self, label)
            button.clicked.connect(lambda _=False, n=top, a=action: self._answer(n, a))
            button.show()
            self._buttons.append(button)
        self._place()
        self.show()
        self.raise_()
        if not top.stands:
            self._timer.start()
        self.update()
        self.moved.emit()

    def _place(self) -> None:
        right = self.width() - 60
        self._close.setGeometry(right, 5, 54, 22)
        for button in reversed(self._buttons):
            right -= button.sizeHint().width() + 8
            button.setGeometry(right, 4, button.sizeHint().width(), 24)
        self._room = right - 28 - (60 if self.waiting else 0)
        words = self._pile[-1].words if self._pile else ""
        self.setFixedHeight(_TALL if width_of(words, VALUE) > self._room else HEIGHT)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if not self._pile:
            return
        inks, top = theme.inks, self._pile[-1]
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        colour = inks.stop if top.grave else inks.live
        p.fillRect(QRectF(0, 0, 4, self.height()), colour)
        line(p, 0, 0.5, self.width(), 0.5, colour)
        lines = wrap(top.words, self._room, VALUE) or [""]
        if len(lines) > 2:
            lines = [lines[0], " ".join(lines[1:])]
        for index, words in enumerate(lines):
            write(p, 16, 20 + 17 * index, fit(words, self._room), VALUE, colour)
        if self.waiting:
            write(p, self._room + 76, 20, f"{self.waiting} more", LABEL, inks.soft, align="right")
