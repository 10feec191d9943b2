"""Ranked causes: how likely each is, its cure, and what the cure changes; arrows choose, Enter cures."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent

from ridgeline.desk.paint import fit, hatch, pen, rule, width_of, write
from ridgeline.desk.theme import HEADING, LABEL, VALUE, theme
from ridgeline.desk.widgets.row_list import RowList
from ridgeline.engine.advice.flight_causes import ToldCause
from ridgeline.engine.flight.diagnosis import Diagnosis
from ridgeline.engine.phrase import Measured, say

#: Width of a bar of full chance, px.
_BAR = 132


class CauseList(RowList):
    """The causes, the likeliest first."""

    row_height, head, foot = 62, 4, 0

    def show_causes(self, causes: tuple[ToldCause, ...], found: Diagnosis | None) -> None:
        """Show other causes; the same one stays chosen where it is among them."""
        before = self.rows[self.chosen].cause.name if 0 <= self.chosen < len(self.rows) else ""
        names = [one.cause.name for one in causes]
        self.rows = causes
        self.chosen = names.index(before) if before in names else (0 if causes else -1)
        self._first = 0
        self.setAccessibleName(self.named() if found is not None else "no flight yet")
        self.setToolTip("Arrows choose a cause, Enter cures it")
        self.update()

    def named(self) -> str:
        if not 0 <= self.chosen < len(self.rows):
            return "no cause stands out"
        told = self.rows[self.chosen]
        return f"cause: {told.words}, {100 * told.cause.chance:.0f} percent; {told.cure}"

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for k in range(self._first, min(self._first + self.shown_rows(), len(self.rows))):
            self._draw_row(p, k, self.head + (k - self._first) * self.row_height)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))

    def _draw_row(self, p: QPainter, k: int, top: float) -> None:
        inks, units, told = theme.inks, self._store.units, self.rows[k]
        live = k == self.chosen
        if live:
            p.fillRect(QRectF(0, top, self.width(), self.row_height - 2), inks.wash)
        bar = QRectF(4, top + 9, max(_BAR * told.cause.chance, 3), 13)
        if live:
            p.fillRect(bar, inks.live)
        else:
            hatch(p, bar, inks.soft)
        p.setPen(pen(inks.soft, 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(bar)
        ink = inks.live if live else inks.ink
        write(p, _BAR + 44, top + 20, f"{100 * told.cause.chance:.0f} %", HEADING, ink, True, "right")
        left, room = _BAR + 58, self.width() - _BAR - 66
        write(p, left, top + 20, fit(told.words.render(units), room, HEADING), HEADING, ink, True)
        write(p, left, top + 37, fit(told.cure.render(units), room, VALUE), VALUE)
        parts = [
            say(f"{one.words} {{}} → {{}}", Measured(one.before, one.quantity, bare=True),
                Measured(one.after, one.quantity)).render(units)
            for one in told.effects
        ]  # fmt: skip
        if parts:
            start = write(p, left, top + 53, "cured: ", LABEL, inks.soft)
            words = ", ".join(parts)
            while parts and width_of(words, LABEL) > room - start:
                parts.pop()
                words = ", ".join(parts)
            write(p, left + start, top + 53, words, LABEL, inks.soft)
        rule(p, 0, top + self.row_height - 2, self.width())
