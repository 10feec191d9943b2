"""Balance: the chord as a long ruler, the pack on its rail, and every lever with its exact amount."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent, panel_point
from ridgeline.desk.paint import cg_mark, dimension, heading, line, pen, rule, write
from ridgeline.desk.scales import Scale, nice_step, ruler
from ridgeline.desk.sheets.balance.bars import Bars
from ridgeline.desk.sheets.balance.foot import draw_balance_marks, draw_sideways, draw_upright
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.balance_rules import levers_to, pack_on_rail, rail_reach
from ridgeline.engine.geometry.reference import main_wing
from ridgeline.engine.report import Remedy
from ridgeline.engine.results import given
from ridgeline.units import shown, with_unit

_RULER_TOP, _RULER_HEIGHT = 142, 44
_FOOT = 124


class BalanceSheet(Sheet):
    """The balance point against both schools' targets."""

    key = "balance"
    known_by = "balance.cg_from_root"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.pack = Handle(
            self,
            "pack on its rail",
            self._drag_pack,
            store.seal,
            look="frame",
            step=self.document_step,
            cursor=Qt.CursorShape.SizeHorCursor,
        )
        self.pack._press = self._select_pack
        self.levers: list[RuledButton] = []
        self._lever_key: tuple[object, ...] = ()
        self._view = View("side", 0, 0, 1)

    def subtitle(self) -> str:
        balanced = self.store.report.results.balance
        if balanced is None:
            return self.store.report.figures["balance.cg_fraction"].why_not
        root = self.store.report.value("balance.cg_from_root") or 0.0
        units = self.store.units
        side = "behind" if root >= 0 else "ahead of"
        words = f"{with_unit(abs(root), 'length', units)} {side} the root leading edge"
        if balanced.targets is None:
            return words
        chord = self.store.report.value("wing.mac") or 0.0
        gap = (balanced.targets.neutral - balanced.cg_fraction) * chord
        return (
            f"{words}, {with_unit(abs(gap), 'length', units)} {'ahead of' if gap >= 0 else 'behind'} the neutral point"
        )

    def selection(self) -> Selection:
        index = pack_on_rail(self.store.design)
        if index is None:
            return Selection("", ())
        part = self.store.design.parts[index]
        state = self.store.report.results.masses.state
        units = self.store.units
        moving = float(self.store.report.results.masses.expected[index])
        chord = self.store.report.value("wing.mac") or 1.0
        front, back = rail_reach(part)
        share = 0.010 * moving / state.mass / chord if state is not None else 0.0
        base = f"parts[{index}]"
        return Selection(
            part.name,
            (
                Dimension("Mass, weighed", f"{base}.weighed"),
                Dimension("Centre behind the nose", f"{base}.x"),
                Dimension("Centre over the datum", f"{base}.z"),
                Dimension("Room from", f"{base}.rail.front"),
                Dimension("Room to", f"{base}.rail.back"),
                Dimension("Length on the rail", f"{base}.rail.item_length"),
                Dimension(
                    "Left to slide, fore and aft",
                    read=lambda: f"{shown(part.x - front, 'length', units)}, {shown(back - part.x, 'length', units)}",
                    unit=units["length"].symbol,
                ),
                Dimension("Balance marks, out", "brief.mark_out"),
                Dimension("10 mm of slide moves it", read=lambda: shown(share, "fraction", units), unit="% c\u0304"),
            ),
        )

    def arrange(self) -> None:
        self._fit_view()
        index = pack_on_rail(self.store.design)
        self.pack.setProperty("off", index is None)
        self.pack.setVisible(index is not None)
        if index is not None:
            box = self._pack_box(index)
            self.pack.setFixedSize(max(int(box.width()), 12), max(int(box.height()), 12))
            self.pack.place(box.center().x(), box.center().y())
        self._arrange_levers()

    def _fit_view(self) -> None:
        """Scale the side view to its room, with its balance point under that of the ruler where it fits."""
        box = extent(self.store.design, "side")
        top, bottom = _RULER_TOP + _RULER_HEIGHT + 34, self.height() - _FOOT - self._levers_height() - 38
        width = self.width() - 2 * PAD - 34
        scale = min(width / box.width(), (bottom - top) / box.height())
        slack = width - box.width() * scale
        left = PAD + 8 + slack / 2
        balanced, ref = self.store.report.results.balance, self.store.report.results.shape.reference
        if balanced is not None and ref is not None:
            # Aligned at the target, which stays put while the pack is dragged.
            at = balanced.targets.aim if balanced.targets is not None else balanced.cg_fraction
            wanted = self._percent(100 * at) - (ref.at(at) - box.left()) * scale
            left = min(max(wanted, PAD + 8), PAD + 8 + slack)
        middle = (top + bottom) / 2
        self._view = View("side", left - box.left() * scale, middle - box.center().y() * scale, scale)
        self.scale = scale

    def _percent(self, percent: float) -> float:
        return self._scale().at(percent)

    def _scale(self) -> Scale:
        """Return the scale of the ruler, % of the mean chord."""
        rect = self._ruler_rect()
        return Scale(*self._range(), rect.left(), rect.right())

    def _range(self) -> tuple[float, float]:
        balanced = self.store.report.results.balance
        marks = [0.0, 100.0]
        if balanced is not None:
            marks += [100 * balanced.cg_fraction - 8, 100 * balanced.cg_fraction + 8]
        return min(marks), max(marks)

    def _ruler_rect(self) -> QRectF:
        return QRectF(PAD + 22, _RULER_TOP, self.width() - 2 * PAD - 66, _RULER_HEIGHT)

    def _pack_box(self, index: int) -> QRectF:
        part = self.store.design.parts[index]
        assert part.rail is not None
        x, y = self._view.at((part.x, 0.0, part.z))
        long = part.rail.item_length * self._view.scale
        high = max(0.24 * long, 14)
        return QRectF(x - long / 2, y - high / 2, long, high)

    def _select_pack(self) -> None:
        index = pack_on_rail(self.store.design)
        if index is not None:
            self.store.select(f"parts[{index}]")

    def _drag_pack(self, px: float, _py: float) -> None:
        index = pack_on_rail(self.store.design)
        if index is None:
            return
        front, back = rail_reach(self.store.design.parts[index])
        x = min(max(self._view.back(px, 0)[0], front), back)
        self.store.put(f"parts[{index}].x", round(x, 5), "Slide pack", merge="pack")

    def _levers_height(self) -> int:
        """Return the room for the longer column of levers under its heading."""
        rows = [sum(1 for _ in levers_to(self.store.design, self.store.report, aim)) for _words, aim in self._targets()]
        return 34 + 29 * max(rows, default=0)

    def _targets(self) -> list[tuple[str, float]]:
        targets = self.store.report.results.targets
        if targets is None:
            return []
        return [("To the first throw", targets.first_aim), ("To the settled balance", targets.aim)]

    def _arrange_levers(self) -> None:
        found: list[tuple[int, int, Remedy]] = []
        for column, (_words, aim) in enumerate(self._targets()):
            found += [(column, row, r) for row, r in enumerate(levers_to(self.store.design, self.store.report, aim))]
        key = (self.store.design, self.store.system)
        if self._lever_key != key:
            self._lever_key = key
            for old in self.levers:
                discard(old)
            self.levers = []
            for _column, _row, remedy in found:
                button = RuledButton(self, remedy.text.render(self.store.units))
                button.clicked.connect(lambda _=False, r=remedy: self.store.apply_remedy(r))
                button.rested.connect(lambda on, r=remedy: self.store.show_ghost(r if on else None))
                button.show()
                self.levers.append(button)
        top = self.height() - _FOOT - self._levers_height() + 22
        width = (self.width() - 2 * PAD - 24) // 2
        for button, (column, row, _remedy) in zip(self.levers, found, strict=True):
            button.setGeometry(PAD + column * (width + 24), top + row * 29, width, 24)

    def draw(self, p: QPainter) -> None:
        balanced = self.store.report.results.balance
        if balanced is not None:
            self._draw_ruler(p)
            Bars(p, self, balanced, self._scale(), _RULER_TOP + _RULER_HEIGHT).draw()
        self._draw_side(p)
        self._draw_levers(p)
        self._draw_foot(p)

    def _draw_ruler(self, p: QPainter) -> None:
        rect = self._ruler_rect()
        low, high = self._range()
        chord = (self.store.report.value("wing.mac") or 1.0) * self.store.units["length"].factor
        upper = QRectF(rect.left(), rect.top(), rect.width(), rect.height() / 2)
        lower = QRectF(rect.left(), rect.top() + rect.height() / 2, rect.width(), rect.height() / 2)
        ruler(p, upper, low, high, 10, unit="% c\u0304")
        ruler(
            p,
            lower,
            low * chord / 100,
            high * chord / 100,
            nice_step((high - low) * chord / 100, 10),
            unit=self.store.units["length"].symbol,
            top=False,
        )
        p.setPen(pen(theme.inks.ink, 1))
        p.drawRect(rect)

    def _draw_side(self, p: QPainter) -> None:
        inks, design, report, view = theme.inks, self.store.design, self.store.report, self._view
        ref = report.results.shape.reference
        if self.store.ghost is not None:
            draw_aircraft(p, self.store.ghost[0], view, ghost=True)
        draw_aircraft(p, design, view, fill=inks.paper)
        box = extent(design, "side")
        floor = view.y0 + box.bottom() * view.scale + 8
        factor = self.store.units["length"].factor
        low, high = box.left() * factor, box.right() * factor
        rect = QRectF(view.x0 + box.left() * view.scale, floor, box.width() * view.scale, 22)
        ruler(p, rect, low, high, nice_step(high - low, max(int(rect.width() / 50), 2)), unit="", box=False)
        line(p, rect.left(), floor, rect.right(), floor, inks.ink)
        write(p, rect.right() + 5, floor + 19, self.store.units["length"].symbol, LABEL, inks.soft)
        if ref is not None:
            wing = main_wing(design.surfaces)
            _x, _y, z = panel_point(wing, ref.mac_y, 0.0, 0.0)
            for percent, x in ((0.0, ref.mac_x_le), (100.0, ref.at(1.0))):
                foot = view.at((x, 0.0, wing.z if wing.cant == 0 else z))
                line(p, self._percent(percent), _RULER_TOP + _RULER_HEIGHT, foot[0], foot[1] - 26, inks.hair, dash=True)
                line(p, foot[0], foot[1] - 26, foot[0], foot[1] - 6, inks.hair, dash=True)
        self._draw_pack(p)
        self._draw_marks(p, floor)

    def _draw_pack(self, p: QPainter) -> None:
        inks = theme.inks
        index = pack_on_rail(self.store.design)
        if index is None:
            return
        part, view = self.store.design.parts[index], self._view
        assert part.rail is not None
        box = self._pack_box(index)
        mass = float(self.store.report.results.masses.expected[index])
        rail_y = box.bottom() + 4
        x1, x2 = view.at((part.rail.front, 0, 0))[0], view.at((part.rail.back, 0, 0))[0]
        line(p, x1, rail_y, x2, rail_y, inks.ink, 1.5)
        for x in (x1, x2):
            line(p, x, rail_y - 5, x, rail_y + 5, inks.ink, 1.5)
        p.setPen(pen(inks.live, 2 if self.pack.hasFocus() else 1.5))
        p.setBrush(inks.wash)
        p.drawRect(box)
        p.setBrush(Qt.BrushStyle.NoBrush)
        words = f"pack {with_unit(mass, 'mass', self.store.units)}" if part.group == "battery" else part.name
        write(p, box.center().x(), box.top() - 4, words, LABEL, inks.live, True, "centre", halo=True)
        if self.store.ghost is not None:
            ghost = self.store.ghost[0].parts[index] if index < len(self.store.ghost[0].parts) else part
            shift = (ghost.x - part.x) * view.scale
            if abs(shift) > 0.5:
                p.setPen(pen(inks.live, 1, Qt.PenStyle.DashLine))
                p.drawRect(box.translated(shift, 0))

    def _draw_marks(self, p: QPainter, floor: float) -> None:
        inks, report, view = theme.inks, self.store.report, self._view
        state, ref = report.results.masses.state, report.results.shape.reference
        if state is None:
            return
        x, y = view.at((float(state.cg[0]), 0.0, float(state.cg[2])))
        head = _RULER_TOP + _RULER_HEIGHT
        balanced = report.results.balance
        if balanced is not None:
            mark = self._percent(100 * balanced.cg_fraction)
            line(p, mark, head, x, head + 22, inks.live, 2)
            line(p, x, head + 22, x, floor, inks.live, 2)
        neutral = report.value("stability.neutral_point_x")
        if neutral is not None and ref is not None:
            nx = view.at((neutral, 0, 0))[0]
            mark = self._percent(100 * ref.fraction(neutral))
            line(p, mark, head, nx, head + 22, inks.predicted, 1.2, dash=True)
            line(p, nx, head + 22, nx, y - 26, inks.predicted, 1.2, dash=True)
        cg_mark(p, x, y, 7)
        ghost = self.store.ghost
        if ghost is not None and ghost[1].value("balance.cg_x") is not None:
            gx, gy = view.at((ghost[1].value("balance.cg_x") or 0.0, 0.0, ghost[1].value("balance.cg_z") or 0.0))
            p.setPen(pen(inks.live, 1.5, Qt.PenStyle.DashLine))
            p.drawEllipse(QRectF(gx - 7, gy - 7, 14, 14))
        if ref is not None:
            root_x = view.at((ref.x_root_le, 0, 0))[0]
            row = head + 36
            gap = float(state.cg[0]) - ref.x_root_le
            words = self.length(abs(gap))
            dimension(p, root_x, x, row, words, colour=inks.live, bold=True, witness=(row + 26, row))

    def _draw_levers(self, p: QPainter) -> None:
        top = self.height() - _FOOT - self._levers_height() + 4
        width = (self.width() - 2 * PAD - 24) / 2
        targets = self._targets()
        for column, (words, aim) in enumerate(targets):
            there = abs(aim - given(self.store.report.results.balance).cg_fraction) < 5e-4
            aside = "it is there" if there else f"{100 * aim:.1f} % c\u0304".replace("-", "−")
            heading(p, PAD + column * (width + 24), top + 2, width, words, aside)
        if not targets:
            why = self.store.report.figures["stability.static_margin"].why_not
            write(p, PAD, top + 2, f"No lever is offered: {why}.", VALUE, theme.inks.soft)

    def _draw_foot(self, p: QPainter) -> None:
        top = self.height() - _FOOT + 8
        rule(p, PAD, top - 8, self.width() - 2 * PAD)
        each = (self.width() - 2 * PAD) / 3
        for index in (1, 2):
            line(p, PAD + index * each, top - 8, PAD + index * each, self.height() - 6, theme.inks.hair)
        draw_sideways(p, self, QRectF(PAD, top, each - 14, _FOOT - 16))
        draw_upright(p, self, QRectF(PAD + each + 14, top, each - 28, _FOOT - 16))
        draw_balance_marks(p, self, QRectF(PAD + 2 * each + 14, top, each - 14, _FOOT - 16))
