"""Wing: half of it from the front with its loads and its true bend, and the moment against what it bears."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPolygonF

from ridgeline.design.paths import Change
from ridgeline.desk.paint import (
    arrow_head,
    fit,
    hatch,
    line,
    outline,
    path_of,
    pen,
    rule,
    write,
)
from ridgeline.desk.scales import Plot, Scale, nice_step
from ridgeline.desk.sheets.base import PAD
from ridgeline.desk.sheets.structure.foot import draw_cases, draw_section, draw_strips
from ridgeline.desk.sheets.structure.shown import HalfSheet, Shown
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.spar_ways import called
from ridgeline.engine.geometry.placed import relative_sizes
from ridgeline.engine.geometry.reference import LIFTING
from ridgeline.engine.structure.choosing import main_spar
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.load_along import LoadAlong, flown_along, load_along
from ridgeline.units import with_unit

Array = NDArray[np.float64]
#: Room for the words left and right of the half, px; places at which loads are drawn.
_LEFT, _RIGHT, _FINE = 52, 118, 90
#: Shares of the sheet's height: loads, bend, moments; the strips under them, px.
_LOADS, _BENDS, _MOMENTS, _STRIPS = 0.13, 0.17, 0.17, 78
_LEAST_FACTOR, _MOST_FACTOR = 1.5, 30.0


class StructureWingSheet(HalfSheet):
    """The half wing under load."""

    key = "structure"
    known_by = "structure.wing_share"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.factor_handle = Handle(self, "load factor", self._drag_factor, self._let_go,
                                    cursor=Qt.CursorShape.SizeVerCursor)  # fmt: skip
        self.end_handle = Handle(self, "end of the spar", self._drag_end, self._let_go,
                                 cursor=Qt.CursorShape.SizeHorCursor)  # fmt: skip
        self.place_handle = Handle(self, "place of the spar on the chord", self._drag_place, self._let_go,
                                   cursor=Qt.CursorShape.SizeHorCursor)  # fmt: skip
        self._most_load = self._most_moment = 0.0

    # -- what is shown ------------------------------------------------------------------------------------------------

    def subtitle(self) -> str:
        found = self.store.report.results.bearing
        if found is None or self.shown is None:
            return self.why_not()
        factor = with_unit(found.factor, "factor", self.store.units)
        by = "as wished" if self.store.design.loads.factor is not None else "the load this purpose is built to"
        half = "half of " if self.surface.mirrored else ""
        return f"{half}{self.surface.name} at {factor}, {by}"

    @property
    def _across(self) -> Scale:
        shown_half = self.shown
        assert shown_half is not None
        y = shown_half.half.y
        return Scale(0.0, float(y[-1]), PAD + _LEFT, self.width() - PAD - _RIGHT)

    @property
    def _tops(self) -> tuple[float, float, float, float, float]:
        """Where loads, bend, moments, strips and what is below begin, px."""
        tall = self.height() - 60
        loads = 84.0
        bends = loads + _LOADS * tall + 20
        moments = bends + _BENDS * tall + 22
        strips = moments + _MOMENTS * tall + 12
        return loads, bends, moments, strips, strips + _STRIPS

    @property
    def _lifts(self) -> bool:
        return self.surface.role in LIFTING

    @property
    def _spar(self) -> int | None:
        return main_spar(self.surface)

    # -- handles ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        there = self.shown
        wing = there is not None and self._lifts
        self.factor_handle.setVisible(wing)
        has_spar = there is not None and self._spar is not None
        for handle in (self.end_handle, self.place_handle):
            handle.setVisible(has_spar)
        if there is None:
            return
        held = any(h.held for h in (self.factor_handle, self.end_handle, self.place_handle))
        if not held:
            self._most_load = 1.5 * max(float(np.abs(self._loads(there).lift).max()), 1e-6)
            self._most_moment = 1.12 * max(
                float(np.abs(there.own.moment).max()), min(float(there.half.bears.max()), 3 * self._peak(there)), 1e-6
            )
        loads, _bends, _moments, strips, _below = self._tops
        if wing:
            along = self._loads(there)
            plot = self._load_plot(loads)
            self.factor_handle.place(plot.x.at(float(along.y[0])), plot.at(0.0, float(along.lift[0])).y())
        if has_spar:
            self.end_handle.place(self._across.at(there.half.spar_end), strips + 9)
            box = self._section_box()
            spar = there.half.spars[self._spar or 0]
            self.place_handle.place(box.left() + spar.place * box.width(), box.center().y())

    def _peak(self, there: Shown) -> float:
        return float(np.abs(there.own.moment).max())

    def _drag_factor(self, _x: float, y: float) -> None:
        there, found = self.shown, self.store.report.results.bearing
        if there is None or found is None:
            return
        lift = float(self._loads(there).lift[0])
        wanted = self._load_plot(self._tops[0]).y.value(y)
        factor = min(max(found.factor * wanted / max(lift, 1e-6), _LEAST_FACTOR), _MOST_FACTOR)
        self.store.edit([Change("loads.factor", round(factor, 1))], "Load factor", merge="factor")

    def _drag_end(self, x: float, _y: float) -> None:
        there, which = self.shown, self._spar
        if there is None or which is None:
            return
        first = float(there.half.y[0])
        share = (self._across.value(x) - first) / there.half.half_span
        spar = there.half.spars[which]
        share = min(max(round(share, 3), spar.start + 0.02), 1.0)
        self.store.put(f"surfaces[{self.index}].built.spars[{which}].end", share, "End of the spar", merge="spar_end")

    def _drag_place(self, x: float, _y: float) -> None:
        which = self._spar
        if self.shown is None or which is None:
            return
        box = self._section_box()
        share = min(max(round((x - box.left()) / box.width(), 3), 0.02), 0.95)
        self.store.put(f"surfaces[{self.index}].built.spars[{which}].place", share, "Place of the spar", merge="place")

    def _let_go(self) -> None:
        self.store.seal()
        self.refresh()

    # -- drawing ------------------------------------------------------------------------------------------------------

    def draw(self, p: QPainter) -> None:
        there = self.shown
        if there is None:
            self.say_why(p)
            self.draw_key(p, QRectF(PAD + 40, 130, self.width() - 2 * PAD - 80, self.height() - 160))
            return
        loads, bends, moments, strips, below = self._tops
        note = "load in the pull, bend drawn true, heights and span at one scale"
        used = write(p, PAD, 52, "Half wing from the front" if self.surface.role == "wing" else self.surface.name, 13,
                     bold=True)  # fmt: skip
        write(p, PAD + used + 10, 52, fit(note, self.width() - 2 * PAD - used - 10, LABEL), LABEL, theme.inks.soft)
        self._draw_loads(p, there, loads)
        self._draw_bend(p, there, QRectF(PAD, bends, self.width() - 2 * PAD, moments - bends - 18))
        self._draw_moments(p, there, moments)
        draw_strips(self, p, there, self._across, (strips, _RIGHT))
        rule(p, PAD, below + 4, self.width() - 2 * PAD)
        self._draw_below(p, there, below + 22)

    def _loads(self, there: Shown) -> LoadAlong:
        """Return what pulls on the half in the pull; of a tail the air's load alone."""
        flex, found = self.store.report.results.flexed, self.store.report.results.bearing
        down = None if flex is None else flex.weight[there.place]
        if flex is None or found is None or down is None or not self._lifts:
            return load_along(there.half, there.own.shear[0], _FINE)
        free, hanging = found.free[there.place], flex.hanging[there.place]
        # What braces pull is no lift.
        shear = there.own.shear if free is None else free.shear
        return flown_along(there.half, shear[0], hanging, down, found.cases[0].inertia, _FINE)

    def _load_plot(self, top: float) -> Plot:
        across = self._across
        tall = _LOADS * (self.height() - 60)
        return Plot(QRectF(across.start, top, across.end - across.start, tall), across,
                    Scale(0.0, self._most_load, top + tall, top))  # fmt: skip

    def _draw_loads(self, p: QPainter, there: Shown, top: float) -> None:
        inks, units = theme.inks, self.store.units
        along = self._loads(there)
        y, lift = along.y, along.lift
        plot = self._load_plot(top)
        own = np.clip(along.weight, 0.0, self._most_load)
        net = np.clip(lift - own, 0.0, self._most_load)
        hatch(p, plot.between(y, net, np.clip(lift, 0.0, self._most_load)), inks.soft)
        for k in range(3, len(y), 6):
            x, high, foot = plot.x.at(float(y[k])), plot.at(0, float(net[k])).y(), plot.box.bottom()
            if foot - high > 6:
                line(p, x, foot, x, high + 3, inks.hair)
                p.setBrush(inks.hair)
                p.setPen(Qt.PenStyle.NoPen)
                p.drawPolygon(QPolygonF([QPointF(x, high), QPointF(x - 2.5, high + 6), QPointF(x + 2.5, high + 6)]))
                p.setBrush(Qt.BrushStyle.NoBrush)
        plot.curve(p, y, net, inks.ink, 1)
        plot.curve(p, y, np.clip(lift, 0.0, self._most_load), inks.predicted, 2)
        line(p, plot.box.left(), plot.box.bottom(), plot.box.right(), plot.box.bottom(), inks.ink)
        plot.side(p, nice_step(self._most_load, 3))
        write(p, plot.box.left() - 8, top - 8, "N/m", LABEL, inks.soft, align="right")
        for out, _weight in along.items:
            # What is bolted on pulls at its place: an arrow, with its weight in the pull.
            x, high = plot.x.at(out), plot.at(0, float(np.interp(out, y, lift))).y()
            line(p, x, high - 16, x, high - 2, inks.ink, 1.5)
            arrow_head(p, x, high - 1, 0, 1, inks.ink)
        told = f"lift {with_unit(along.lifted, 'force', units, 1)} outside the seat"
        hangs = f"what hangs on it, hatched and arrows: {with_unit(along.hung, 'force', units, 1)}"
        used = write(p, plot.box.right(), top - 8, hangs, LABEL, inks.soft, align="right")
        write(p, plot.box.right() - used - 12, top - 8, told, LABEL, inks.predicted, align="right")

    def _draw_bend(self, p: QPainter, there: Shown, room: QRectF) -> None:
        """Draw the half at rest, at 1 g and in the pull, with the bend of a ghost."""
        inks, across, half = theme.inks, self._across, there.half
        stations = self.surface.stations
        drawn = np.interp(half.y, [s.y for s in stations], [s.z for s in stations])
        thick = relative_sizes(self.surface)[0] * half.chord
        rows = self._bends(there)
        ghost = self.ghost_shown
        if ghost is not None:
            rows.append(("as proposed", np.interp(half.y, ghost.half.y, ghost.own.bend), inks.live, "dash"))
        scale = (across.end - across.start) / float(half.y[-1])
        highs = [float((drawn + bend + thick / 2).max()) for _w, bend, _i, _s in rows]
        lows = [float((drawn + bend - thick / 2).min()) for _w, bend, _i, _s in rows]
        tall = max(max(highs) - min(lows), 1e-6)
        true = scale * tall <= room.height()
        up = scale if true else room.height() / tall
        foot = room.bottom() if not true else room.center().y() + 0.5 * up * tall
        base = foot + up * min(lows)

        def at(values: Array) -> list[tuple[float, float]]:
            return [(across.at(float(a)), base - up * float(b)) for a, b in zip(half.y, values, strict=True)]

        taken: list[float] = []
        ends = sorted(rows, key=lambda row: -float(row[1][-1] + drawn[-1]))
        for words, bend, ink, style in rows:
            middle = drawn + bend
            if style == "solid":
                outline(p, path_of(at(middle + thick / 2) + at(middle - thick / 2)[::-1]), ink, 1.5, inks.fill)
            else:
                p.setPen(pen(ink, 1.2, Qt.PenStyle.DotLine if style == "dot" else Qt.PenStyle.DashLine))
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.drawPolyline(QPolygonF([QPointF(*spot) for spot in at(middle + thick / 2)]))
            del words
        for words, bend, ink, style in ends:
            y = base - up * float(drawn[-1] + bend[-1] + thick[-1] / 2) + 4
            y = max([y, *(other + 14 for other in taken if abs(other - y) < 14 or y < other + 14)])
            taken.append(y)
            way = "up" if bend[-1] >= 0 else "down"
            told = f"{words}: {self.length(abs(float(bend[-1])), 0)} {way}"
            write(p, across.end + 8, y, fit(told, _RIGHT, LABEL), LABEL, ink, bold=style == "solid")
        self._draw_braces(p, room, there, (base, up, drawn + there.own.bend))
        if half.seat > half.y[0] + 1e-6:
            x, foot = across.at(half.seat), base + 0.5 * up * float(thick[0]) + 14
            p.setPen(pen(inks.ink, 1.4))
            under = foot - 12
            p.drawPolyline(QPolygonF([QPointF(across.start - 22, under), QPointF(x, under), QPointF(x, foot)]))
            write(p, x + 5, foot + 2, f"seat ± {self.length(half.seat, 0)}", LABEL, inks.soft)
        if not true:
            times = with_unit(up / scale, "fraction", self.store.units, 0)
            write(p, room.left(), room.top() - 4, f"heights at {times} of the span's scale", LABEL, inks.soft)

    def _draw_braces(self, p: QPainter, room: QRectF, there: Shown, high: tuple[float, float, Array]) -> None:
        """Draw struts and threads from where they hold the half to their feet, with the most each is pulled."""
        design, found, inks = self.store.design, self.store.report.results.bearing, theme.inks
        if found is None:
            return
        base, up, middle = high
        names = {one.id: one for one in design.fastenings}
        p.save()
        p.setClipRect(room.adjusted(-30, -14, 0, 22))
        for k, brace in enumerate(found.braced.braces):
            mine = next((end for end in brace.ends if end.half == there.place), None)
            if mine is None:
                continue
            across = brace.lean * brace.long * (1 if mine.sign > 0 else -1)
            x, y = self._across.at(mine.out), base - up * float(np.interp(mine.out, there.half.y, middle))
            foot = QPointF(self._across.at(mine.out - across), y + mine.sign * up * brace.rise * brace.long)
            p.setPen(pen(inks.ink, 1.2, Qt.PenStyle.DashLine if brace.pulls_only else Qt.PenStyle.SolidLine))
            p.drawLine(QPointF(x, y), foot)
            pulled = max(float(found.braced.pulls[:, k].max()), 0.0)
            told = f"{names[brace.ident].name}: pulled by {with_unit(pulled, 'force', self.store.units, 0)} at most"
            write(p, x + 6, min(y + 22, room.bottom() + 16), told, LABEL, inks.ink, halo=True)
        p.restore()

    def _bends(self, there: Shown) -> list[tuple[str, Array, QColor, str]]:
        inks, flex, found = theme.inks, self.store.report.results.flexed, self.store.report.results.bearing
        wing = self._lifts
        rows = []
        if flex is not None and wing:
            rest, flying = flex.rest[there.place], flex.flying[there.place]
            if rest is not None and flying is not None:
                rows += [("at rest", rest, inks.soft, "dot"), ("1 g", flying, inks.ink, "solid")]
        limit = with_unit(found.factor, "factor", self.store.units) if found is not None and wing else "full load"
        return [*rows, (limit, there.own.bend, inks.predicted, "solid" if not rows else "dash")]

    def _moment_plot(self, top: float) -> Plot:
        across = self._across
        tall = _MOMENTS * (self.height() - 60)
        return Plot(QRectF(across.start, top, across.end - across.start, tall), across,
                    Scale(0.0, self._most_moment, top + tall, top), inside=True)  # fmt: skip

    def _draw_moments(self, p: QPainter, there: Shown, top: float) -> None:
        inks, units, half = theme.inks, self.store.units, there.half
        plot = self._moment_plot(top)
        worst, pull = np.abs(there.own.moment).max(axis=0), np.abs(there.own.moment[0])
        nothing = np.zeros_like(worst)
        plot.fill(p, half.y, nothing, worst, inks.soft, 40)
        over = np.where(worst > half.bears, half.bears, worst)
        if np.any(worst > half.bears):
            hatch(p, plot.between(half.y, over, worst), inks.stop, step=4)
        plot.curve(p, half.y, worst, inks.predicted, 2)
        if not np.allclose(worst, pull):
            plot.curve(p, half.y, pull, inks.predicted, 1, dash=True)
        self._draw_bears(p, plot, half, inks.stop if there.own.greatest > 1 else inks.ink, self._bears_words(there))
        ghost = self.ghost_shown
        if ghost is not None:
            self._draw_bears(p, plot, ghost.half, inks.live, self._bears_words(ghost), below=True)
        line(p, plot.box.left(), plot.box.bottom(), plot.box.right(), plot.box.bottom(), inks.ink)
        plot.side(p, nice_step(self._most_moment, 4))
        write(p, plot.box.left() - 8, top - 6, "N m", LABEL, inks.soft, align="right")
        at = half.at_seat
        told = f"{with_unit(float(worst[at]), 'torque', units, 2)} at the seat"
        spot = plot.at(float(half.y[at]), float(worst[at]))
        self.written(p, spot.x() + 8, spot.y() - 7, told, "structure.wing_share", VALUE,
                     inks.predicted, bold=True)  # fmt: skip
        what = f"worst: {there.own.words[there.own.worst]}"
        dash = "" if np.allclose(worst, pull) else "; dashed: the pull"
        write(p, plot.box.right(), top - 6, what + dash, LABEL, inks.predicted, align="right")

    def _bears_words(self, there: Shown) -> str:
        which = main_spar(there.half.surface)
        bears = there.half.bears[there.half.at_seat]
        name = "skins bear" if which is None else (
            f"{called(there.half.spars[which].material, there.half.spars[which].count)} bears"
        )  # fmt: skip
        return f"{name} {with_unit(float(bears), 'torque', self.store.units, 2)}"

    def _draw_bears(self, p: QPainter, plot: Plot, half: Half, ink: QColor, words: str, *, below: bool = False) -> None:
        spots = plot.points(half.y, half.bears)
        p.setPen(pen(ink, 1.2, Qt.PenStyle.DashLine))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPolyline(QPolygonF(spots))
        at = half.at_seat
        y = spots[at].y()
        place = y + 13 if below or y < plot.box.top() + 14 else y - 5
        x = min(max(plot.x.at(half.spar_end) - 8, plot.box.left() + 260), plot.box.right())
        write(p, x, place, words, LABEL, ink, align="right", halo=True)

    def _section_box(self) -> QRectF:
        below = self._tops[4] + 22
        wide = self.width() - 2 * PAD
        return QRectF(PAD + 0.47 * wide, below + 26, 0.24 * wide, max(self.height() - below - 76, 20))

    def _draw_below(self, p: QPainter, there: Shown, top: float) -> None:
        wide = self.width() - 2 * PAD
        if self.height() - top < 60:
            return
        draw_cases(self, p, there, QRectF(PAD, top, 0.43 * wide, self.height() - top - 8))
        draw_section(p, there, self._section_box(), self.store.units)
        key = QRectF(PAD + 0.75 * wide, top + 16, 0.25 * wide, self.height() - top - 24)
        write(p, key.left(), top, "Press what to see", LABEL, theme.inks.soft)
        self.draw_key(p, key)
