"""The log as rows: version, wind, minutes, charge and current, trim, and what was seen; what cannot be is marked."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent

from ridgeline.desk.paint import fit, pen, rule, state_mark, write
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.row_list import RowList
from ridgeline.engine.flight.entries import LogRow
from ridgeline.engine.flight.sightings import SIGHTINGS
from ridgeline.units import shown

#: Right ends of the columns, px, their heads and quantities; what was seen begins after the last.
_WIDE = ((22, "", ""), (46, "v", ""), (88, "wind", "speed"), (126, "min", "flight_time"),
         (200, "mAh back", "capacity"), (242, "A", "current"), (294, "up trim", "angle"))  # fmt: skip
_SHORT = ((22, "", ""), (22, "", ""), (64, "min", "flight_time"), (128, "mAh back", "capacity"), (168, "A", "current"),
          (204, "trim", "angle"))  # fmt: skip
#: A list narrower than this leaves version and wind to the margin, px.
_NARROW = 440


def seen_words(row: LogRow) -> str:
    """Return what was seen of a flight, in one line."""
    flight = row.flight
    parts = [SIGHTINGS[key].words for key in flight.seen]
    return "; ".join([*parts, *(words for words in (flight.words, flight.damage) if words)])


class LogList(RowList):
    """The flights, newest last."""

    head = 22

    def named(self) -> str:
        if not 0 <= self.chosen < len(self.rows):
            return "flights of the log"
        row = self.rows[self.chosen]
        told = f"flight {self.chosen + 1}, version {row.flight.version}, {row.flight.day}"
        return f"{told}, {seen_words(row) or 'nothing noted'}" + (", cannot be" if self._doubts(self.chosen) else "")

    def _doubts(self, place: int) -> bool:
        found = self._store.report.results.logged.doubts.get(place, ())
        return any(doubt.kind != "left" for doubt in found)

    def renew(self) -> None:
        """Show the log as it is now; the chosen flight stays chosen, a new one is."""
        rows = self._store.report.results.logged.rows
        before = self.rows[self.chosen].flight.id if 0 <= self.chosen < len(self.rows) else ""
        more = len(rows) > len(self.rows)
        self.rows = rows
        places = {row.flight.id: k for k, row in enumerate(rows)}
        self.chosen = len(rows) - 1 if more or before not in places else places[before]
        if rows:
            self._first = min(max(self._first, self.chosen - self.shown_rows() + 1), self.chosen)
        self.setAccessibleName(self.named())
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Home: 0, Qt.Key.Key_End: len(self.rows) - 1}
        if Qt.Key(event.key()) in moves:
            self.choose(moves[Qt.Key(event.key())])
            return
        super().keyPressEvent(event)

    @property
    def _columns(self) -> tuple[tuple[int, str, str], ...]:
        return _SHORT if self.width() < _NARROW else _WIDE

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, units = theme.inks, self._store.units
        columns = self._columns
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for right, title, quantity in columns:
            words = units["capacity"].symbol + " back" if quantity == "capacity" else title
            write(p, right, 13, words, LABEL, inks.soft, align="right")
        seen = columns[-1][0] + 14
        write(p, seen, 13, fit("what was seen", self.width() - seen, LABEL), LABEL, inks.soft)
        rule(p, 0, 18, self.width())
        for k in range(self._first, min(self._first + self.shown_rows(), len(self.rows))):
            self._draw_row(p, k, self.head + (k - self._first) * self.row_height)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))

    def _draw_row(self, p: QPainter, k: int, top: float) -> None:
        inks, units, row = theme.inks, self._store.units, self.rows[k]
        flight, doubted = row.flight, self._doubts(k)
        if k == self.chosen:
            p.fillRect(QRectF(0, top, self.width(), self.row_height), inks.wash)
        y, live = top + 14, k == self.chosen
        mean = None if row.mean is None else row.mean.value
        columns = self._columns
        values = {
            "speed": flight.wind,
            "flight_time": flight.aloft,
            "capacity": flight.put_back_ah,
            "current": mean,
            "angle": flight.trim_pitch,
        }
        for right, _title, quantity in columns:
            if not quantity:
                continue
            value, measured = values[quantity], quantity in ("capacity", "current")
            words = "–" if value is None else shown(value, quantity, units)
            wrong = doubted and measured
            ink = inks.look if wrong else inks.measured if measured and value is not None else inks.ink
            write(p, right, y, words, VALUE, ink, wrong, "right")
        if doubted:
            minutes = next(right for right, _title, quantity in columns if quantity == "flight_time")
            state_mark(p, minutes + 16, y - 4, "look")
        write(p, columns[0][0], y, f"{k + 1}", VALUE, inks.live if live else inks.ink, live, "right")
        if columns is _WIDE:
            write(p, columns[1][0], y, f"{flight.version}", VALUE, inks.soft, align="right")
        seen = columns[-1][0] + 14
        write(p, seen, y, fit(seen_words(row), self.width() - seen - 2), VALUE)
        rule(p, 0, top + self.row_height - 1, self.width())
