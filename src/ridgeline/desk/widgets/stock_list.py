"""The list of stock tried as a spar: what it weighs, how hard it works, how far the tip goes; the lightest first."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import brush_of, fit, hatch, line, rule, state_mark, width_of, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.row_list import RowList
from ridgeline.engine.advice.spar_ways import called
from ridgeline.engine.structure.stock import Tried
from ridgeline.units import shown, with_unit

_ROW, _HEAD, _WIDE = RowList.row_height, RowList.head, 640
#: How long the bar of the stress is, px, and what it gives to the name on a narrow list.
_BAR, _GIVES = 92, 36
#: A share past this is drawn as long as this.
_MOST = 2.0


class StockList(RowList):
    """Rows of stock; arrows move, Enter or a second press fits, and the chosen one is shown as a ghost."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self._factor, self._most_tip, self._now = 1.0, 1.0, ("", 0)
        self.set_rows((), -1)

    def named(self) -> str:
        if self.chosen < 0:
            return "stock tried as the spar"
        row = self.rows[self.chosen]
        return f"stock {self.chosen + 1} of {len(self.rows)}: {called(row.material.name, row.number, apart=row.apart)}"

    def show_rows(self, rows: tuple[Tried, ...], factor: float, most_tip: float, now: tuple[str, int]) -> None:
        """Show what was tried for a load factor and a wished bend, m; ``now`` is what is fitted, name and number."""
        self._factor, self._most_tip, self._now = factor, most_tip, now
        self.set_rows(rows, -1)

    def _columns(self) -> dict[str, float]:
        """Return where numbers end, and where the bar and the words begin."""
        name = min(0.34 * self.width(), 250) + _BAR - self._bar
        mass = name + 54
        price = mass + (48 if self._priced else 0)
        bar = price + 16
        bears = bar + self._bar + 56
        tip = bears + 52
        return {"name": name, "mass": mass, "price": price, "bar": bar, "bears": bears, "tip": tip, "words": tip + 18}

    @property
    def _bar(self) -> int:
        return _BAR if self.width() > _WIDE else _BAR - _GIVES

    @property
    def _priced(self) -> bool:
        return any(row.material.price is not None for row in self.rows)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, units = theme.inks, self._store.units
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        at = self._columns()
        write(p, 18, 13, "stock, both sides", LABEL, inks.soft)
        write(p, at["mass"], 13, units["mass"].symbol, LABEL, inks.soft, align="right")
        if self._priced:
            write(p, at["price"], 13, "price", LABEL, inks.soft, align="right")
        write(p, at["bar"], 13, "stress", LABEL, inks.soft)
        write(p, at["bears"], 13, f"bears {units['factor'].symbol}", LABEL, inks.soft, align="right")
        write(p, at["tip"], 13, f"tip {units['length'].symbol}", LABEL, inks.soft, align="right")
        rule(p, 0, _HEAD - 4, self.width())
        last = min(self._first + self.shown_rows(), len(self.rows))
        for index in range(self._first, last):
            self._draw_row(p, index, at)
        mark = at["bar"] + self._bar / _MOST
        line(p, mark, _HEAD, mark, _HEAD + (last - self._first) * _ROW, inks.ink, dash=True)

    def _draw_row(self, p: QPainter, index: int, at: dict[str, float]) -> None:
        inks, units, row = theme.inks, self._store.units, self.rows[index]
        rect = QRectF(0, _HEAD + (index - self._first) * _ROW, self.width(), _ROW)
        base = rect.top() + 14
        if index == self.chosen:
            p.fillRect(rect, inks.wash)
            p.fillRect(QRectF(0, rect.top(), 3, _ROW), inks.live)
        now = self._now == (row.material.name, row.number) and not row.apart
        ink = inks.ink if row.holds else inks.soft
        if row.holds:
            state_mark(p, 9, base - 4, "settled")
        elif now:
            state_mark(p, 9, base - 4, "stop")
        else:
            line(p, 5, base - 4, 13, base - 4, inks.soft)
        name = called(row.material.name, row.number, apart=row.apart)
        write(
            p, 18, base, fit(name, at["name"] - 20, VALUE), VALUE, inks.live if index == self.chosen else ink, bold=now
        )
        write(p, at["mass"], base, shown(row.mass, "mass", units, 1), VALUE, ink, align="right")
        if row.material.price is not None:
            write(p, at["price"], base, f"{row.material.price:.2f}", VALUE, ink, align="right")
        share = min(row.share, _MOST)
        bar = QRectF(at["bar"], base - 9, self._bar * share / _MOST, 8)
        p.fillRect(bar, brush_of(inks.predicted if row.share <= 1 else inks.stop, 130))
        if row.share > _MOST:
            hatch(p, bar, inks.stop)
        write(p, at["bears"], base, f"{self._factor * row.bears:.1f}", VALUE, ink, align="right")
        write(p, at["tip"], base, shown(abs(row.tip), "length", units), VALUE, ink, align="right")
        words = self._verdict(row, now, first=index == 0)
        if width_of(words, LABEL) > self.width() - at["words"]:
            words = fit(words, self.width() - at["words"], LABEL)
        write(p, at["words"], base, words, LABEL, inks.live if index == 0 and row.holds else ink)
        rule(p, 0, rect.bottom() - 1, self.width())

    def _verdict(self, row: Tried, now: bool, *, first: bool) -> str:
        fitted = "fitted" if now else ""
        if row.holds:
            words = "holds" if not first else "lightest that holds" if self.width() > _WIDE else "lightest"
        elif not row.fits:
            words = "too thick for its place"
        elif row.share > 1:
            words = f"{with_unit(row.share - 1, 'fraction', self._store.units, 0)} over"
        else:
            words = f"bends {with_unit(abs(row.tip) - self._most_tip, 'length', self._store.units, 0)} too far"
        return f"{fitted}, {words}" if fitted else words
