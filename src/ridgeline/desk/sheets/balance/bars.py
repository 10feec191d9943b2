"""The windows of the balance point as bars over the chord: habit, neutral point, reach of the pack, and where it is."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import arrow_head, fit, hatch, line, pen, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.balance_rules import pack_reach
from ridgeline.engine.bands import BAND
from ridgeline.engine.stages.balancing import Balance, Targets

_TOP, _ROW, _TALL = 62, 21, 11
_LABEL_ROOM = 190
Ends = tuple[float, float]


class Bars:
    """The rows of bars, from the top down; ``scale`` stands in % of the chord, and ``foot`` is where lines end, px."""

    def __init__(self, p: QPainter, sheet: Sheet, balanced: Balance, scale: Scale, foot: float) -> None:
        self._p, self._sheet, self._balanced, self._foot = p, sheet, balanced, foot
        self._scale = scale
        self._reach = pack_reach(sheet.store.design, sheet.store.report)
        self._y = float(_TOP)

    def draw(self) -> None:
        """Draw every row there is, and the lines of the balance point and the neutral point through them."""
        b = self._balanced
        if b.habit is not None:
            self._draw_habit(b.habit, b.tailless)
        if b.targets is not None:
            self._draw_targets(b.targets)
        if self._reach is not None:
            self._draw_reach(self._reach)
        self._draw_now()
        self._draw_lines()

    def _at(self, fraction: float) -> float:
        return self._scale.at(100 * fraction)

    def _box(self, ends: Ends) -> QRectF:
        left, right = (self._at(edge) for edge in ends)
        return QRectF(left, self._y - 9, right - left, _TALL)

    def _draw_habit(self, habit: Ends, tailless: bool) -> None:
        self._label("Rule of thumb", f"{_percents(habit)}, habit for {'tailless' if tailless else 'tailed'} planes")
        hatch(self._p, self._box(habit), theme.inks.soft, rising=False)
        self._p.setPen(pen(theme.inks.soft, 1))
        self._p.drawRect(self._box(habit))
        self._y += _ROW

    def _draw_targets(self, targets: Targets) -> None:
        low, high = targets.settled
        margins = (100 * (targets.neutral - high), 100 * (targets.neutral - low))
        first = f"{_percents(targets.settled).removesuffix(' %')}, first {_percents(targets.first_throw)}"
        self._label(f"Neutral point less {margins[0]:.0f} to {margins[1]:.0f} %", first)
        hatch(self._p, self._box(targets.settled), theme.inks.ink)
        self._p.setPen(pen(theme.inks.ink, 1))
        self._p.drawRect(self._box(targets.settled))
        self._p.setPen(pen(theme.inks.live, 1, Qt.PenStyle.DashLine))
        self._p.drawRect(self._box(targets.first_throw))
        self._y += _ROW

    def _draw_reach(self, reach: Ends) -> None:
        p, y, ink = self._p, self._y, theme.inks.ink
        self._label("Pack on its rail can reach", _percents(reach))
        # A reach past the paper's edge goes on there: an arrow instead of an end.
        ends = [self._at(edge) for edge in reach]
        seen = [min(max(x, PAD), self._sheet.width() - PAD) for x in ends]
        line(p, seen[0], y - 3, seen[1], y - 3, ink, 1.5)
        for x, end, way in zip(seen, ends, (-1, 1), strict=True):
            if x == end:
                line(p, x, y - 8, x, y + 2, ink, 1.5)
            else:
                arrow_head(p, x, y - 3, way, 0, ink, 8)
        self._y += _ROW

    def _draw_now(self) -> None:
        figures, now = self._sheet.store.report.figures, self._balanced.cg_fraction
        band, margin = BAND * figures["balance.cg_fraction"].sigma, figures["stability.static_margin"]
        tail = "" if margin.value is None else f"; margin {100 * margin.value:.1f} ± {100 * BAND * margin.sigma:.1f} %"
        self._label("Balance point now", f"{100 * now:.1f} ± {100 * band:.1f} %{tail}".replace("-", "−"))
        left, right = self._at(now - band), self._at(now + band)
        self._p.fillRect(QRectF(left, self._y - 6, right - left, 5), theme.inks.live)

    def _draw_lines(self) -> None:
        p, inks, report, top = self._p, theme.inks, self._sheet.store.report, _TOP - 24
        cg, neutral = report.figures["balance.cg_fraction"], report.figures["stability.neutral_in_flight"]
        cg_x = self._at(self._balanced.cg_fraction)
        line(p, cg_x, top, cg_x, self._foot, inks.live, 2)
        words = f"CG {100 * self._balanced.cg_fraction:.1f} %".replace("-", "−")
        self._sheet.written(p, cg_x + 6, top + 2, words, cg.key, VALUE, inks.live, bold=True, halo=True)
        if neutral.value is None:
            return
        x = self._at(neutral.value)
        line(p, x, top, x, self._foot, inks.predicted, 1.2, dash=True)
        place = x + 6 if x - cg_x > 84 or x < cg_x else x + max(6, 90 - (x - cg_x))
        by_hand = report.value("stability.neutral_point_hand")
        check = "" if by_hand is None else f", hand check {100 * by_hand:.0f} %"
        words = f"NP {100 * neutral.value:.1f} ± {100 * BAND * neutral.sigma:.1f} %{check}".replace("-", "−")
        self._sheet.written(p, place, top + 2, words, neutral.key, VALUE, inks.predicted, halo=True)

    def _label(self, left: str, right: str) -> None:
        """Write a row's name before all bars, and its values behind them."""
        p, y, width = self._p, self._y, self._sheet.width()
        places = [self._at(value) for value in self._values()]
        start, end = min(places), min(max(places), width - 220)
        if start > _LABEL_ROOM:
            write(p, start - 10, y, left, LABEL, align="right")
            write(p, end + 12, y, fit(right, width - end - 14, LABEL), LABEL, theme.inks.soft)
            return
        # Bars that begin at the paper's edge leave no room before them: all words go behind.
        used = write(p, end + 12, y, left, LABEL)
        write(p, end + 20 + used, y, fit(right, width - end - 22 - used, LABEL), LABEL, theme.inks.soft)

    def _values(self) -> list[float]:
        b = self._balanced
        values = [*(b.habit or ()), b.cg_fraction, *(self._reach or ())]
        if b.targets is not None:
            values += [*b.targets.settled, *b.targets.first_throw, b.targets.neutral]
        return values


def _percents(ends: Ends) -> str:
    return f"{100 * ends[0]:.0f} to {100 * ends[1]:.0f} %".replace("-", "−")
