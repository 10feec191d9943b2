"""The list of stock tried as a spar: what it weighs, how hard it works, how far the tip goes; the lightest first."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import brush_of, fit, hatch, line, rule, state_mark, width_of, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.spar_ways import called
from ridgeline.engine.structure.stock import Tried
from ridgeline.units import shown, with_unit

_ROW, _HEAD, _BAR, _WIDE = 19, 22, 92, 640
#: A share past this is drawn as long as this.
_MOST = 2.0


class StockList(QWidget):
    """Rows of stock; arrows move, Enter or a second press fits, and the chosen one is shown as a ghost."""

    picked = Signal(int)
    fitted = Signal(int)

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.rows: tuple[Tried, ...] = ()
        self._factor, self._most_tip, self._now = 1.0, 1.0, ("", 0)
        self.chosen, self._first = -1, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("stock tried as the spar")

    def show_rows(self, rows: tuple[Tried, ...], factor: float, most_tip: float, now: tuple[str, int]) -> None:
        """Show what was tried for a load factor and a wished bend, m; ``now`` is what is fitted, name and number."""
        self.rows, self._factor, self._most_tip, self._now = rows, factor, most_tip, now
        self.chosen, self._first = -1, 0
        self.update()

    def shown_rows(self) -> int:
        """Return how many rows there is room for."""
        return max(int((self.height() - _HEAD) // _ROW), 1)

    def choose(self, index: int) -> None:
        """Choose a row, keep it in view, and tell it."""
        if not self.rows:
            return
        self.chosen = min(max(index, 0), len(self.rows) - 1)
        self._first = min(max(self._first, self.chosen - self.shown_rows() + 1), self.chosen)
        row = self.rows[self.chosen]
        self.setAccessibleName(f"stock {self.chosen + 1} of {len(self.rows)}: {called(row.material.name, row.number)}")
        self.picked.emit(self.chosen)
        self.update()

    def row_at(self, y: float) -> int:
        """Return the row at a height, −1 for none."""
        index = self._first + int((y - _HEAD) // _ROW)
        return index if y >= _HEAD and index < len(self.rows) else -1

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
        step = -3 if event.angleDelta().y() > 0 else 3
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

    def _columns(self) -> dict[str, float]:
        """Return where numbers end, and where the bar and the words begin."""
        name = min(0.34 * self.width(), 250)
        mass = name + 54
        price = mass + (48 if self._priced else 0)
        bar = price + 16
        bears = bar + _BAR + 56
        tip = bears + 52
        return {"name": name, "mass": mass, "price": price, "bar": bar, "bears": bears, "tip": tip, "words": tip + 18}

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
        mark = at["bar"] + _BAR / _MOST
        line(p, mark, _HEAD, mark, _HEAD + (last - self._first) * _ROW, inks.ink, dash=True)

    def _draw_row(self, p: QPainter, index: int, at: dict[str, float]) -> None:
        inks, units, row = theme.inks, self._store.units, self.rows[index]
        rect = QRectF(0, _HEAD + (index - self._first) * _ROW, self.width(), _ROW)
        base = rect.top() + 14
        if index == self.chosen:
            p.fillRect(rect, inks.wash)
            p.fillRect(QRectF(0, rect.top(), 3, _ROW), inks.live)
        now = self._now == (row.material.name, row.number)
        ink = inks.ink if row.holds else inks.soft
        if row.holds:
            state_mark(p, 9, base - 4, "settled")
        elif now:
            state_mark(p, 9, base - 4, "stop")
        else:
            line(p, 5, base - 4, 13, base - 4, inks.soft)
        name = called(row.material.name, row.number)
        write(
            p, 18, base, fit(name, at["name"] - 20, VALUE), VALUE, inks.live if index == self.chosen else ink, bold=now
        )
        write(p, at["mass"], base, shown(row.mass, "mass", units, 1), VALUE, ink, align="right")
        if row.material.price is not None:
            write(p, at["price"], base, f"{row.material.price:.2f}", VALUE, ink, align="right")
        share = min(row.share, _MOST)
        bar = QRectF(at["bar"], base - 9, _BAR * share / _MOST, 8)
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
