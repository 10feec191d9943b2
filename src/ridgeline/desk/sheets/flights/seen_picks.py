"""What was seen, picked from the list: by a press, by arrows and Space, or by the letters a word begins with."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.flights import SightingKey
from ridgeline.desk.paint import fit, pen, write
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.flight.sightings import SIGHTINGS

#: Width a column of words takes, and the least height of a row, px.
_WIDE, _LEAST, _MOST = 146, 12.5, 19
_KEYS: tuple[SightingKey, ...] = tuple(SIGHTINGS)


class SeenPicks(QWidget):
    """The list of sightings, those of one flight ticked."""

    def __init__(self, parent: QWidget, turn: Callable[[SightingKey], None]) -> None:
        super().__init__(parent)
        self._turn = turn
        self.chosen: tuple[SightingKey, ...] = ()
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._rename()

    def show_chosen(self, chosen: tuple[SightingKey, ...]) -> None:
        """Tick what was seen of a flight."""
        self.chosen = chosen
        self._rename()
        self.update()

    def _rename(self) -> None:
        key = _KEYS[self.at]
        told = "seen" if key in self.chosen else "not seen"
        self.setAccessibleName(f"what was seen: {SIGHTINGS[key].words}, {told}")
        self.setToolTip("Arrows and Space pick, letters find a word")

    @property
    def _down(self) -> int:
        # All of them stand in view: where the words have no room for it they are cut before a row is.
        columns = max(int(self.width() // _WIDE), ceil(len(_KEYS) * _LEAST / max(self.height(), 1)), 1)
        return ceil(len(_KEYS) / columns)

    def place_of(self, key: SightingKey) -> QRectF:
        """Return where a sighting stands."""
        k, down = _KEYS.index(key), self._down
        high = max(_LEAST, min(_MOST, self.height() / down))
        wide = self.width() / ceil(len(_KEYS) / down)
        return QRectF((k // down) * wide, (k % down) * high, wide, high)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        for k, key in enumerate(_KEYS):
            if self.place_of(key).contains(event.position()):
                self.at = k
                self._turn(key)
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -self._down, Qt.Key.Key_Right: self._down}
        key, letter = Qt.Key(event.key()), event.text().lower()
        if key in moves:
            self.at = min(max(self.at + moves[key], 0), len(_KEYS) - 1)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._turn(_KEYS[self.at])
        elif letter.isalpha():
            turned = (*range(self.at + 1, len(_KEYS)), *range(self.at + 1))
            self.at = next((k for k in turned if SIGHTINGS[_KEYS[k]].words.startswith(letter)), self.at)
        else:
            super().keyPressEvent(event)
            return
        self._rename()
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for k, key in enumerate(_KEYS):
            place, on = self.place_of(key), key in self.chosen
            middle = place.center().y()
            p.setPen(pen(inks.live if on else inks.hair, 1))
            p.setBrush(inks.live if on else inks.paper)
            p.drawRect(QRectF(place.left() + 2.5, middle - 4, 8, 8))
            p.setBrush(Qt.BrushStyle.NoBrush)
            ink = inks.live if on else inks.ink if self.isEnabled() else inks.hair
            write(
                p, place.left() + 15, middle + 4, fit(SIGHTINGS[key].words, place.width() - 20, LABEL), LABEL, ink, on
            )
            if self.hasFocus() and k == self.at:
                p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
                p.drawRect(place.adjusted(0.5, 0.5, -4.5, -0.5))
