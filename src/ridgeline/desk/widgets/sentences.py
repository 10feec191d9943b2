"""Wishes as sentences: plain words painted, underlined values pressed or typed where they stand."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import width_of, write
from ridgeline.desk.theme import VALUE, theme
from ridgeline.desk.widgets.fields import PathField

_LINE, _TIGHT_LINE = 23, 20


@dataclass(frozen=True)
class Sentence:
    """Words and widgets in reading order; widgets are placed among the words."""

    parts: tuple[str | QWidget, ...]


class Sentences(QWidget):
    """Paragraphs that flow to the width and keep their values in line."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._sentences: tuple[Sentence, ...] = ()
        self._words: list[tuple[float, float, str]] = []
        self._line = _LINE

    @property
    def tight(self) -> bool:
        """Tell whether lines are set closer, for a small window."""
        return self._line == _TIGHT_LINE

    @tight.setter
    def tight(self, on: bool) -> None:
        self._line = _TIGHT_LINE if on else _LINE

    def tell(self, sentences: tuple[Sentence, ...]) -> None:
        """Set the paragraphs."""
        self._sentences = sentences
        self.flow()

    def flow(self) -> int:
        """Place words and values; returns the height used."""
        x, y, space = 0.0, 0, width_of(" ")
        self._words = []
        for sentence in self._sentences:
            for part in sentence.parts:
                if isinstance(part, QWidget):
                    if isinstance(part, PathField):
                        # Told of a change before its field was: the width is that of the new words.
                        part.refresh()
                        part.fit_width()
                    x, y = self._room_for(part.width(), x, y)
                    part.move(round(x), y)
                    part.show()
                    x += part.width() + (0 if self._glued(sentence, part) else space)
                    continue
                for word in part.split():
                    wide = width_of(word)
                    if word not in ".,;":
                        x, y = self._room_for(wide, x, y)
                    self._words.append((x, y + 14, word))
                    x += wide + space
            x, y = 0.0, y + self._line + (2 if self.tight else 5)
        self.update()
        return y

    def _glued(self, sentence: Sentence, part: QWidget) -> bool:
        """Tell whether a full stop or comma follows a value directly."""
        following = sentence.parts[sentence.parts.index(part) + 1 :][:1]
        return bool(following) and isinstance(following[0], str) and following[0][:1] in ".,;"

    def _room_for(self, wide: float, x: float, y: int) -> tuple[float, int]:
        return (0.0, y + self._line) if x > 0 and x + wide > self.width() else (x, y)

    def paintEvent(self, _event: QPaintEvent) -> None:
        p = QPainter(self)
        for x, y, word in self._words:
            write(p, x, y, word, VALUE, theme.inks.soft)
