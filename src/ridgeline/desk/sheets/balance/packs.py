"""Packs: every pack of the bin as a row, with the balance it can reach drawn on the chord."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import fit, hatch, heading, line, outline, path_of, rule, state_mark, write
from ridgeline.desk.scales import Scale, nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.engine.advice.balance_rules import pack_on_rail
from ridgeline.engine.advice.pack_bin import PackOption, options
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Remedy
from ridgeline.units import shown

_ROW, _TOP = 42, 84
_NAME, _BAR_LEFT = 110, 130


class BalancePacksSheet(Sheet):
    """The packs on hand, fitted one after another."""

    key = "balance.packs"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.options: list[PackOption] = []
        self.buttons: list[RuledButton] = []
        self._of: Design | None = None

    def subtitle(self) -> str:
        named = self.store.design.brief.packs
        return (
            f"{len(named)} packs on hand, from the Brief" if named else "the library's packs; name yours at the Brief"
        )

    def _fill(self) -> None:
        """Fit every pack anew when the design changed."""
        if self._of is self.store.design:
            return
        from ridgeline.engine.sizing.matching import packs_in_hand
        from ridgeline.library import shipped_shelf

        design = self._of = self.store.design
        self.options = list(options(design, self.store.report, packs_in_hand(design.brief, shipped_shelf())))
        for old in self.buttons:
            discard(old)
        self.buttons = []
        for option in self.options:
            button = RuledButton(self, "Fit it")
            button.setAccessibleName(f"fit pack {option.pack.name}")
            remedy = Remedy("fit_pack", say(f"Fit pack {option.pack.name}"), option.changes)
            button.setEnabled(bool(option.changes))
            button.clicked.connect(lambda _=False, r=remedy: self.store.apply_remedy(r))
            button.rested.connect(lambda on, r=remedy: self.store.show_ghost(r if on and r.changes else None))
            self.buttons.append(button)

    def arrange(self) -> None:
        self._fill()
        for index, button in enumerate(self.buttons):
            y = _TOP + 34 + index * _ROW
            button.setGeometry(self.width() - PAD - 60, y + 4, 60, 24)
            button.setVisible(y + 30 < self.height())

    @property
    def _columns(self) -> tuple[float, float, float]:
        right = self.width() - PAD - 76
        return right - 92, right - 40, right

    def draw(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        targets = self.store.report.results.targets
        heading(p, PAD, 52, self.width() - 2 * PAD, "Packs in the bin", "each slid as near the first throw as it goes")
        mass, ratio, time = self._columns
        bar = QRectF(PAD + _BAR_LEFT, _TOP, mass - 60 - PAD - _BAR_LEFT, 18)
        low, high = self._range()
        ruler(p, bar, low, high, nice_step(high - low, 6), unit="% c\u0304")
        for x, label in ((mass, units["mass"].symbol), (ratio, "T/W"), (time, "min")):
            write(p, x, _TOP + 12, label, LABEL, inks.soft, align="right")
        bottom = _TOP + 34 + _ROW * len(self.options)
        if targets is not None:
            left, right = self._x(bar, targets.settled[0]), self._x(bar, targets.settled[1])
            hatch(p, QRectF(left, _TOP + 22, right - left, bottom - _TOP - 22), inks.hair)
            for edge in targets.first_throw:
                x = self._x(bar, edge)
                line(p, x, _TOP + 22, x, bottom, inks.live, dash=True)
            write(p, left, bottom + 14, "hatched: settled window; dashed: first throw", LABEL, inks.soft)
        for index, option in enumerate(self.options):
            y = _TOP + 34 + index * _ROW + 14
            if y + 20 > self.height():
                break
            self._draw_row(p, option, y, bar, (mass, ratio, time))
            rule(p, PAD, y + 26, self.width() - 2 * PAD)
        self._draw_bay(p, bottom + 34)

    def _draw_row(
        self, p: QPainter, option: PackOption, y: float, bar: QRectF, columns: tuple[float, float, float]
    ) -> None:
        inks, units = theme.inks, self.store.units
        power = self.store.design.power
        fitted = power is not None and power.pack.name == option.pack.name
        state_mark(p, PAD + 6, y, option.level)
        write(p, PAD + 18, y + 4, fit(option.pack.name, _NAME - 20), VALUE, inks.live if fitted else inks.ink, fitted)
        if option.reach is not None:
            x1, x2 = (self._x(bar, v) for v in option.reach)
            line(p, x1, y, x2, y, inks.ink, 1.5)
            for x in (x1, x2):
                line(p, x, y - 5, x, y + 5, inks.ink, 1.5)
        if option.balance is not None:
            x = self._x(bar, option.balance)
            line(p, x, y - 8, x, y + 8, inks.live, 2.5)
        mass, ratio, time = columns
        for x, value, quantity in (
            (mass, option.mass, "mass"),
            (ratio, option.thrust_ratio, "ratio"),
            (time, option.endurance, "time"),
        ):
            write(p, x, y + 4, "–" if value is None else shown(value, quantity, units), VALUE, align="right")
        write(p, PAD + 18, y + 19, fit(option.verdict, 240, LABEL), LABEL, inks.soft)

    def _range(self) -> tuple[float, float]:
        ends = [100 * v for option in self.options for v in (*(option.reach or ()), option.balance) if v is not None]
        targets = self.store.report.results.targets
        if targets is not None:
            ends += [100 * v for v in (*targets.settled, *targets.first_throw)]
        low, high = min(ends, default=0.0), max(ends, default=100.0)
        slack = max(0.08 * (high - low), 2.0)
        return low - slack, high + slack

    def _x(self, bar: QRectF, fraction: float) -> float:
        return Scale(*self._range(), bar.left(), bar.right()).at(100 * fraction)

    def _draw_bay(self, p: QPainter, top: float) -> None:
        """Draw the aircraft from the side with the pack in its bay, and where a pack under the hand would lie."""
        design, index = self.store.design, pack_on_rail(self.store.design)
        if self.height() - top < 130 or index is None:
            return
        inks, box = theme.inks, extent(design, "side")
        room = QRectF(PAD + 20, top, self.width() - 2 * PAD - 40, self.height() - top - 34)
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0, y0 = room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale
        view = View("side", x0, y0, scale)
        draw_aircraft(p, design, view, fill=inks.paper)
        for shown_design, dash in ((design, False), (self.store.ghost[0] if self.store.ghost else None, True)):
            if shown_design is None or index >= len(shown_design.parts):
                continue
            part = shown_design.parts[index]
            if part.rail is None:
                continue
            x, y = view.at((part.x, 0.0, part.z))
            long = part.rail.item_length * scale
            pack = QRectF(x - long / 2, y - 0.12 * long, long, 0.24 * long)
            left, right, upper, lower = pack.left(), pack.right(), pack.top(), pack.bottom()
            path = path_of([(left, upper), (right, upper), (right, lower), (left, lower)])
            outline(p, path, inks.live, 1.5, None if dash else inks.wash, dash)
        rail = design.parts[index].rail
        if rail is not None:
            y = view.at((0.0, 0.0, design.parts[index].z))[1] + 0.16 * rail.item_length * scale + 4
            line(p, view.at((rail.front, 0, 0))[0], y, view.at((rail.back, 0, 0))[0], y, inks.ink, 1.5)
            write(p, view.at((rail.front, 0, 0))[0], y + 14, "the bay", LABEL, inks.soft, halo=True)
