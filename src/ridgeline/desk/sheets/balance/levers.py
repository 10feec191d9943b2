"""Levers: every way to move the balance point, with its exact amount, its price in grams and its limit."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.design.underlay import ViewName
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import arrow_head, cg_mark, fit, heading, line, rule, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import LeafButton, RuledButton, discard
from ridgeline.engine.advice.levers import Combined, Lever, as_remedy, least_added_mass, levers
from ridgeline.engine.advice.side_levers import level_with_least, side_levers
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Remedy
from ridgeline.units import with_unit

_ROW = 40


class BalanceLeversSheet(Sheet):
    """All levers to the first throw, and the cheapest of them together."""

    key = "balance.levers"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.levers: tuple[Lever, ...] = ()
        self.together: Combined | None = None
        self.buttons: list[RuledButton] = []
        self._of: tuple[Design, bool] | None = None
        #: Fore and aft, or from side to side.
        self.sideways = False
        self.ways = [LeafButton(self, words, chosen=k == 0) for k, words in enumerate(("Fore and aft", "Sideways"))]
        for k, button in enumerate(self.ways):
            button.clicked.connect(lambda _=False, side=bool(k): self.turn(side))

    def turn(self, sideways: bool) -> None:
        """Show the levers fore and aft, or those from side to side."""
        self.sideways = sideways
        for k, button in enumerate(self.ways):
            button.choose(bool(k) == sideways)
        self.refresh()

    @property
    def aim(self) -> float | None:
        """Return the balance aimed at: the middle of the first throw's window."""
        targets = self.store.report.results.targets
        return None if targets is None else targets.first_aim

    def subtitle(self) -> str:
        if self.sideways:
            held = self.store.report.value("trim.aileron")
            told = "level wings with what is carried; weight far out last"
            if held is not None and abs(held) > 1e-4:
                told = f"{abs(math.degrees(held)):.1f}° of aileron would hold it as it is; levelling costs no drag"
            return told
        if self.aim is None:
            return self.store.report.figures["stability.static_margin"].why_not
        return f"to the first throw, {100 * self.aim:.1f} % of the mean chord".replace("-", "−")

    def _fill(self) -> None:
        if self._of is not None and self._of[0] is self.store.design and self._of[1] == self.sideways:
            return
        self._of = (self.store.design, self.sideways)
        for old in self.buttons:
            discard(old)
        self.buttons, self.levers, self.together = [], (), None
        design, report = self.store.design, self.store.report
        aim, now, side = self.aim, report.value("balance.cg_fraction"), report.value("balance.cg_y")
        if self.sideways and side is not None:
            self.levers, self.together = side_levers(design, report), level_with_least(design, report)
            last = Remedy("level", say("Level the wings together"), self.together.changes)
        elif not self.sideways and aim is not None and now is not None:
            self.levers, self.together = levers(design, report, aim), least_added_mass(design, report, aim)
            last = as_remedy(self.together, now)
        else:
            return
        remedies = [*(Remedy(lever.key, lever.text, lever.changes) for lever in self.levers), last]
        for remedy in remedies:
            button = RuledButton(self, "Do it")
            button.setAccessibleName(remedy.text.render(self.store.units))
            button.setEnabled(bool(remedy.changes))
            button.clicked.connect(lambda _=False, r=remedy: self.store.apply_remedy(r))
            button.rested.connect(lambda on, r=remedy: self.store.show_ghost(r if on and r.changes else None))
            self.buttons.append(button)

    @property
    def _list_top(self) -> int:
        return int(0.36 * self.height())

    def arrange(self) -> None:
        self._fill()
        x = PAD + 70
        for way in self.ways:
            way.move(x, self._list_top + 2)
            x += way.width() + 6
        for index, button in enumerate(self.buttons[:-1]):
            y = self._list_top + 44 + index * _ROW
            button.setGeometry(self.width() - PAD - 64, y, 64, 24)
            button.setVisible(y + 110 < self.height())
        if self.buttons:
            self.buttons[-1].setGeometry(self.width() - PAD - 64, self.height() - 62, 64, 24)

    def draw(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        self._draw_side(p)
        top = self._list_top
        heading(p, PAD, top + 18, self.width() - 2 * PAD, "Levers", "resting on one draws its ghost")
        columns = (PAD, PAD + int(0.40 * (self.width() - 2 * PAD)), PAD + int(0.60 * (self.width() - 2 * PAD)))
        for index, lever in enumerate(self.levers):
            y = top + 44 + index * _ROW
            if y + 110 >= self.height():
                break
            write(
                p,
                columns[0],
                y + 12,
                fit(lever.text.render(units), columns[1] - columns[0] - 12),
                VALUE,
                bold=lever.whole,
            )
            write(
                p,
                columns[0],
                y + 27,
                fit(lever.limit.render(units), columns[1] - columns[0] - 10, LABEL),
                LABEL,
                inks.soft,
            )
            reached = f"reaches {100 * lever.reached:.1f} %".replace("-", "−")
            if self.sideways:
                reached = "level" if lever.whole else f"leaves {with_unit(abs(lever.reached), 'length', units, 1)}"
            write(p, columns[1], y + 12, reached, VALUE, inks.live if lever.whole else inks.look)
            write(p, columns[1], y + 27, "all the way" if lever.whole else "its end", LABEL, inks.soft)
            price = "adds nothing" if lever.added <= 0 else f"adds {with_unit(lever.added, 'mass', units)}"
            write(p, columns[2], y + 12, price, VALUE, inks.ink if lever.added <= 0 else inks.look)
            rule(p, PAD, y + 34, self.width() - 2 * PAD)
        self._draw_together(p)

    def _draw_together(self, p: QPainter) -> None:
        inks, units, found = theme.inks, self.store.units, self.together
        if found is None:
            return
        y = self.height() - 70
        line(p, PAD, y - 8.5, self.width() - PAD, y - 8.5, inks.ink)
        words = "Balanced with the least added mass" if found.there else "No lever reaches it"
        if self.sideways and not self.levers:
            words = "The wings are level"
        write(p, PAD, y + 10, words, 13, bold=True)
        price = "adds nothing" if found.added < 1e-4 else f"adds {with_unit(found.added, 'mass', units)}"
        write(p, self.width() - PAD - 80, y + 10, price, VALUE, inks.soft, align="right")
        steps = "; ".join(step.render(units) for step in found.steps) or "it is there already"
        if not found.there and self.sideways and self.levers:
            steps += f": {with_unit(abs(found.reached), 'length', units, 1)} is left."
        elif not found.there and not self.sideways:
            steps += (
                f": {100 * found.reached:.1f} % at most. A heavier motor or pack, or a longer nose, would.".replace(
                    "-", "−"
                )
            )
        write(p, PAD, y + 30, fit(steps, self.width() - 2 * PAD - 80), VALUE, inks.soft)

    def _draw_side(self, p: QPainter) -> None:
        """Draw the aircraft from the side, or from ahead, with the balance point and where it should be."""
        inks, design, report = theme.inks, self.store.design, self.store.report
        kind: ViewName = "front" if self.sideways else "side"
        box = extent(design, kind)
        room = QRectF(PAD + 20, 46, self.width() - 2 * PAD - 40, self._list_top - 70)
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0 = room.center().x() - box.center().x() * scale
        view = View(kind, x0, room.center().y() - box.center().y() * scale, scale)
        draw_aircraft(p, design, view, fill=inks.paper)
        if self.store.ghost is not None:
            draw_aircraft(p, self.store.ghost[0], view, ghost=True)
        cg, ref = report.value("balance.cg_x"), report.results.shape.reference
        if cg is None or ref is None or self.aim is None:
            return
        at = view.at((cg, report.value("balance.cg_y") or 0.0, report.value("balance.cg_z") or 0.0))
        wanted = view.at((ref.at(self.aim), 0.0, 0.0))[0]
        line(p, wanted, room.top(), wanted, room.bottom(), inks.live, dash=True)
        write(p, wanted, room.bottom() + 12, "wanted", LABEL, inks.live, align="centre", halo=True)
        if abs(wanted - at[0]) > 9:
            line(p, at[0], at[1], wanted, at[1], inks.live, 1.5)
            arrow_head(p, wanted, at[1], wanted - at[0], 0, inks.live, 7)
        cg_mark(p, *at, 7)
