"""Stock: every rod, tube and strip tried where the spar stands; how short it may end; what joins or mends it."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.design.paths import Change
from ridgeline.desk.paint import fit, heading, rule, wrap, write
from ridgeline.desk.sheets.base import PAD
from ridgeline.desk.sheets.structure.shown import HalfSheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.stock_list import StockList
from ridgeline.engine.advice.spar_ways import called, fitting, joiners, question, stepped_way, stock_of, with_spars
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Remedy
from ridgeline.engine.structure.choosing import Question, answers, shortest_end, with_spar_of
from ridgeline.engine.structure.stock import Tried
from ridgeline.units import with_unit

_TOP, _LIST = 66, 0.62
#: Number of sleeves that are named.
_NAMED = 2


class StructureStockSheet(HalfSheet):
    """The search for the spar."""

    key = "structure.stock"
    known_by = "structure.wing_share"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.list = StockList(self, self.store)
        self.list.picked.connect(self._show)
        self.list.fitted.connect(self._fit)
        self.shorten_button = RuledButton(self, "End it there")
        self.shorten_button.clicked.connect(self._shorten)
        self.step_button = RuledButton(self, "Step it")
        self.step_button.clicked.connect(self._step)
        self.pieces_button = RuledButton(self, "In two halves")
        self.pieces_button.clicked.connect(self._turn_pieces)
        self._of: tuple[object, int] = (None, -1)
        self.stepped: Remedy | None = None
        self.asked: Question | None = None
        self._remedies: dict[int, Remedy] = {}

    @property
    def rows(self) -> tuple[Tried, ...]:
        """What was tried, the lightest that holds first."""
        return self.list.rows

    def subtitle(self) -> str:
        if self.shown is None:
            return self.why_not()
        best = next((row for row in self.rows if row.holds), None)
        if best is None:
            return "nothing on the shelf holds there"
        return f"{called(best.material.name, best.number, apart=best.apart)} is the lightest that holds"

    def _fill(self) -> None:
        """Search anew when the design or the surface changed."""
        now = (self.store.design, self.index)
        if self._of[0] is now[0] and self._of[1] == now[1]:
            return
        self._of, self._remedies, self.stepped = now, {}, None
        self.asked = None if self.shown is None else question(self.store.design, self.store.report, self.index)
        found = self.store.report.results.bearing
        if self.asked is None or found is None:
            self.list.show_rows((), 1.0, 1.0, ("", 0))
            return
        spar = None if self.asked.which is None else self.asked.half.spars[self.asked.which]
        fitted = ("", 0) if spar is None else (spar.material, spar.count)
        self.stepped = stepped_way(self.store.design, self.store.report, self.index)
        rows = answers(self.asked, stock_of(self.store.report))
        self.list.show_rows(rows, found.factor, self.asked.most_tip, fitted)

    def _remedy(self, index: int) -> Remedy:
        """Return the fitting of a row, the same object each time it is asked for."""
        if index not in self._remedies:
            row = self.rows[index]
            assert self.asked is not None
            changes = fitting(self.store.design, self.index, self.asked, row)
            words = say("{}: {}", self.surface.name, called(row.material.name, row.number, apart=row.apart))
            self._remedies[index] = Remedy("stock", words, changes)
        return self._remedies[index]

    def _show(self, index: int) -> None:
        self.store.show_ghost(self._remedy(index))

    def _fit(self, index: int) -> None:
        self.store.apply_remedy(self._remedy(index))

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        if self.store.ghost_remedy in self._remedies.values():
            self.store.show_ghost(None)

    def _shorten(self) -> None:
        if self.asked is None or self.asked.which is None:
            return
        spar = self.asked.half.spars[self.asked.which]
        shorter = spar.model_copy(update={"end": max(shortest_end(self.asked), spar.start + 0.02)})
        spars = with_spar_of(self.surface, self.asked.which, shorter)
        self.store.edit(with_spars(self.store.design, self.index, spars), "Spar ends where the skins bear")

    def _step(self) -> None:
        if self.stepped is not None:
            self.store.apply_remedy(self.stepped)

    def _turn_pieces(self) -> None:
        if self.asked is None or self.asked.which is None:
            return
        base = f"surfaces[{self.index}].built.spars[{self.asked.which}].through"
        whole = self.asked.half.spars[self.asked.which].through
        self.store.edit([Change(base, not whole)], "Spar in two halves" if whole else "Spar in one piece")

    def arrange(self) -> None:
        self._fill()
        wide = self.width() - 2 * PAD
        self.list.setGeometry(PAD, _TOP, int(wide), int(_LIST * (self.height() - _TOP)))
        self.list.setVisible(self.shown is not None and not self.empty)
        has_spar = self.asked is not None and self.asked.which is not None
        top, column = self._foot()
        spar = self.asked.half.spars[self.asked.which] if has_spar and self.asked is not None else None  # type: ignore[index]
        each = int((column - 18) / 2)
        self.shorten_button.setGeometry(PAD, int(top + 72), each, 26)
        self.step_button.setGeometry(PAD + each + 6, int(top + 72), each, 26)
        self.step_button.setVisible(self.stepped is not None and has_spar)
        longer = self.asked is not None and shortest_end(self.asked) < self.asked.end
        self.shorten_button.setVisible(has_spar and longer)
        self.pieces_button.setText("In two halves" if spar is None or spar.through else "In one piece")
        self.pieces_button.setGeometry(int(PAD + column + 12), int(top + 72), 130, 26)
        self.pieces_button.setVisible(has_spar and self.surface.mirrored)

    def _foot(self) -> tuple[float, float]:
        """Return where the foot begins and how wide one of its three columns is, px."""
        return _TOP + _LIST * (self.height() - _TOP) + 26, (self.width() - 2 * PAD) / 3

    def draw(self, p: QPainter) -> None:
        heading(p, PAD, 52, self.width() - 2 * PAD, "Stock", "a press shows it, Enter or a second press fits it")
        if self.shown is None or self.asked is None:
            self.say_why(p)
            return
        top, column = self._foot()
        rule(p, PAD, top - 20, self.width() - 2 * PAD)
        for k, draw in enumerate((self._draw_end, self._draw_pieces, self._draw_mend)):
            draw(p, QRectF(PAD + k * column + (12 if k else 0), top, column - (24 if k else 12), self.height() - top))

    def _draw_end(self, p: QPainter, area: QRectF) -> None:
        assert self.asked is not None
        inks, half, end = theme.inks, self.asked.half, shortest_end(self.asked)
        heading(p, area.left(), area.top(), area.width(), "How short it may end", strong=False)
        if end >= 1:
            words = "the skins bear nowhere alone: to the tip"
        elif end <= 0:
            words = "the skins bear all of it alone: no spar is needed for strength"
        else:
            out = float(half.y[0]) + end * half.half_span
            words = f"at {self.length(out)} of {self.length(float(half.y[-1]))} {self.store.units['length'].symbol}"
            words += f", {100 * end:.0f} % of the panel: farther out the {half.skins.facing} bears alone"
        y = area.top() + 30
        for told in wrap(words, area.width(), LABEL)[:3]:
            write(p, area.left(), y, told, LABEL, inks.ink)
            y += 16
        y = area.top() + 116
        if half.spar_here.any():
            write(p, area.left(), y, f"ends now at {self.length(half.spar_end)}", LABEL, inks.soft)
            y += 18
        if self.stepped is not None:
            for told in wrap("in two steps: " + self.stepped.text.render(self.store.units), area.width(), LABEL)[:3]:
                write(p, area.left(), y, told, LABEL, inks.ink)
                y += 15

    def _draw_pieces(self, p: QPainter, area: QRectF) -> None:
        inks = theme.inks
        heading(p, area.left(), area.top(), area.width(), "One piece or two", strong=False)
        asked = self.asked
        if asked is None or asked.which is None:
            write(p, area.left(), area.top() + 30, "there is no spar", LABEL, inks.soft)
            return
        spar = asked.half.spars[asked.which]
        words = "one piece from side to side: lightest and stiffest" if spar.through else (
            "two pieces: packs smaller, and wants a joiner"
        )  # fmt: skip
        y = area.top() + 30
        for told in wrap(words, area.width(), LABEL)[:3]:
            write(p, area.left(), y, told, LABEL, inks.ink)
            y += 16
        self._draw_sleeves(p, QRectF(area.left(), area.top() + 122, area.width(), area.height()), broken=False)

    def _draw_mend(self, p: QPainter, area: QRectF) -> None:
        heading(p, area.left(), area.top(), area.width(), "If it breaks", strong=False)
        if self.asked is None or self.asked.which is None:
            write(p, area.left(), area.top() + 30, "there is no spar", LABEL, theme.inks.soft)
            return
        words = "a sleeve glued over the break bears all the spar could, this long on either side of it"
        y = area.top() + 30
        for told in wrap(words, area.width(), LABEL)[:3]:
            write(p, area.left(), y, told, LABEL, theme.inks.ink)
            y += 16
        self._draw_sleeves(p, QRectF(area.left(), area.top() + 84, area.width(), area.height()), broken=True)

    def _draw_sleeves(self, p: QPainter, area: QRectF, *, broken: bool) -> None:
        inks, units = theme.inks, self.store.units
        found = joiners(self.store.design, self.store.report, self.index, broken=broken)
        if not found:
            words = "no stock on the shelf fits and bears"
            write(p, area.left(), area.top(), fit(words, area.width(), LABEL), LABEL, inks.look)
            return
        y = area.top()
        for one in found[:_NAMED]:
            where = "in its bore" if one.inside else "round it"
            told = one.material.name
            size = f"{where}, {self.length(one.grip)} on either side, {with_unit(one.mass, 'mass', units, 1)}"
            write(p, area.left(), y, fit(told, area.width(), VALUE), VALUE, inks.ink)
            write(p, area.left() + 12, y + 15, fit(size, area.width() - 12, LABEL), LABEL, inks.soft)
            y += 34
