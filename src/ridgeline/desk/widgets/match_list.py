"""The ranked list of matches: every row with its reach of balance on a common scale, and what binds it."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, hatch, line, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.row_list import RowList
from ridgeline.engine.advice.match import Match
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.units import shown

#: Heights of rows, of the head, and of the dashed rule above the near misses, px.
_ROW, _HEAD, _RULE = RowList.row_height, 20, 6


def short_name(match: Match) -> str:
    """Return motor, propeller and pack as one line."""
    motor = match.motor.name.replace("Outrunner ", "").replace(" Kv", "").replace(",", "")
    blades = "" if match.propeller.blades == 2 else f"×{match.propeller.blades}"
    words = {"slow_fly": " slow", "folding": " fold", "wood": " wood"}.get(match.propeller.family, "")
    return f"{motor} · {size_words(match.propeller)}{blades}{words} · {match.pack.name}"


class MatchList(RowList):
    """Rows of matches, the near misses under a dashed rule; arrows move, Enter fits, Space sets beside."""

    pinned = Signal(int)
    head, foot = _HEAD, _RULE

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.good = 0
        self._window: tuple[float, float] | None = None
        self.set_rows((), -1)

    def show_matches(
        self, good: tuple[Match, ...], near: tuple[Match, ...], window: tuple[float, float] | None
    ) -> None:
        """Show what fits, then what nearly does; ``window`` is the balance wanted, m."""
        self.good, self._window = len(good), window
        rows = (*good, *near)
        self.set_rows(rows, min(self.chosen, len(rows) - 1))

    def named(self) -> str:
        if self.chosen < 0:
            return f"{len(self.rows)} matches"
        return f"match {self.chosen + 1} of {len(self.rows)}: {short_name(self.rows[self.chosen])}"

    def row_at(self, y: float) -> int:
        """Return the row at a height, −1 for none."""
        index = self._first + math.floor((y - _HEAD - (_RULE if y > self._rule_y() else 0)) / _ROW)
        return index if y > _HEAD and index < len(self.rows) else -1

    def place_of(self, index: int) -> QRectF:
        """Return where a row is drawn, px."""
        y = _HEAD + (index - self._first) * _ROW + (_RULE if index >= self.good else 0)
        return QRectF(0, y, self.width(), _ROW)

    def _rule_y(self) -> float:
        return _HEAD + (self.good - self._first) * _ROW

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and self.chosen >= 0:
            self.pinned.emit(self.chosen)
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()

    @property
    def _narrow(self) -> bool:
        return self.width() < 680

    def _columns(self) -> dict[str, float]:
        """Return the right end of each number, and where reach and words begin; narrow, the cruise is left out."""
        w = self.width()
        if self._narrow:
            end = w - 128.0
            places = {"min": 8, "reach": 122, "AUW": 130, "A": 170, "T/W": 208}
        else:
            end = w - max(0.27 * w, 190)
            places = {"cruise": 8, "min": 52, "reach": 190, "AUW": 202, "A": 246, "T/W": 288}
        return {name: end - back for name, back in places.items()} | {"words": end + 10}

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, units = theme.inks, self._store.units
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        at = self._columns()
        for key in ("T/W", "A", "min"):
            write(p, at[key], 13, key, LABEL, inks.soft, align="right")
        write(p, at["AUW"], 13, units["mass"].symbol, LABEL, inks.soft, align="right")
        if "cruise" in at:
            write(p, at["cruise"], 13, "cruise", LABEL, inks.soft, align="right")
        write(p, at["reach"] + 10, 13, "balance" if self._narrow else "balance reach", LABEL, inks.soft)
        write(p, at["words"], 13, "nearest limit", LABEL, inks.soft)
        write(p, 0, 13, "motor · propeller · pack", LABEL, inks.soft)
        shown_rows = range(self._first, min(self._first + self.shown_rows(), len(self.rows)))
        for index in shown_rows:
            self._draw_row(p, index, at)
        rule_y = self._rule_y()
        if self._first < self.good < self._first + len(shown_rows) or (self.good == 0 and self.rows):
            line(p, 0, rule_y + 3, self.width(), rule_y + 3, inks.soft, dash=True)

    def _draw_row(self, p: QPainter, index: int, at: dict[str, float]) -> None:
        inks, units, match = theme.inks, self._store.units, self.rows[index]
        rect, near = self.place_of(index), index >= self.good
        base = rect.top() + 14
        if index == self.chosen:
            p.fillRect(rect, inks.wash)
            if self.hasFocus():
                p.fillRect(QRectF(0, rect.top(), 3, _ROW), inks.live)
        ink = inks.live if index == self.chosen else inks.soft if near else inks.ink
        name = ("" if near else f"{index + 1}  ") + short_name(match)
        write(p, 6, base, fit(name, at["T/W"] - 48, VALUE), VALUE, ink)
        write(p, at["T/W"], base, f"{match.ratio:.2f}", VALUE, ink, align="right")
        write(p, at["A"], base, f"{match.current:.1f}", VALUE, ink, align="right")
        write(p, at["AUW"], base, shown(match.mass, "mass", units), VALUE, ink, align="right")
        write(p, at["min"], base, f"{match.seconds / 60:.1f}" if match.seconds else "–", VALUE, ink, align="right")
        if "cruise" in at:
            cruise = f"{100 * match.throttle:.0f} %" if math.isfinite(match.throttle) else "–"
            write(p, at["cruise"], base, cruise, VALUE, ink, align="right")
        words = match.binding if self._narrow else f"{match.binding}, {self._by(match)}"
        write(p, at["words"], base, fit(words, self.width() - at["words"] - 4, LABEL), LABEL, ink)
        long = 70 if self._narrow else 88
        self._draw_reach(p, match, QRectF(at["reach"] + 8, rect.top() + 2, long, _ROW - 4))

    @staticmethod
    def _by(match: Match) -> str:
        if match.excess <= 0:
            return f"{-100 * match.excess:.0f} % left"
        return f"by {100 * match.excess:.0f} %" if match.excess >= 0.005 else "just"

    def _draw_reach(self, p: QPainter, match: Match, box: QRectF) -> None:
        """Draw where the balance point can be brought by sliding the pack, against the window wanted."""
        inks = theme.inks
        if self._window is None:
            return
        low, high = self._window
        start, end = low - 1.2 * (high - low), high + 1.6 * (high - low)
        scale = box.width() / (end - start)

        def x(place: float) -> float:
            return box.left() + min(max((place - start) * scale, 0.0), box.width())

        hatch(p, QRectF(x(low), box.top(), x(high) - x(low), box.height()), inks.hair)
        front, back = match.balance
        y = box.center().y()
        ink = inks.live if front <= high and back >= low else inks.stop
        line(p, x(front), y, x(back), y, ink, 1.5)
        for place in (front, back):
            line(p, x(place), y - 4, x(place), y + 4, ink, 1.5)
