"""As built: heights of the edges over the bench, lengths from tips to tail, and how the airframe came out by them."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter

from ridgeline.design.airframe import Surface
from ridgeline.design.as_built import Diagonal, Levelled
from ridgeline.design.axes import is_upright
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import fit, heading, line, pen, rule, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import discard
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.advice.as_built_rules import certain, fit_of
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.levelled import SIDES, Off, Side, skew_of
from ridgeline.engine.geometry.placed import mirrored, placed_at
from ridgeline.errors import DesignError
from ridgeline.typed import parse, short
from ridgeline.units import shown, with_unit

#: Places that are measured, shares of the panel; a reading within this of one is of it.
_PLACES, _NEAR = (0.05, 0.5, 0.95), 0.02
_ROW, _CELL, _GAP = 22, 92, 44
#: A table narrower than this leaves the bands to the findings, px.
_BANDED = 400
_HOW = ("Stand it on a flat bench, propped so that it cannot rock, controls at neutral. At each place read the height "
        "of the leading edge, then of the trailing edge: 312 / 305. A millimetre over 200 mm is 0.29°.")  # fmt: skip


class HeightField(Entry):
    """Heights of both edges at one place of one side: leading / trailing."""

    def __init__(self, sheet: FlightsBuiltSheet, surface: str, side: Side, share: float) -> None:
        super().__init__(sheet, f"leading and trailing edge heights, {side}, {share:.0%} out")
        self._sheet, self.of, self.side, self.share = sheet, surface, side, share
        self.refresh()

    def current(self) -> str:
        found = self._sheet.reading(self.of, self.side, self.share)
        if found is None:
            return ""
        unit = self._sheet.store.units["length"]
        ends = (f"{value * unit.factor:.{unit.decimals + 1}f}".rstrip("0").rstrip(".") for value in
                (found.leading, found.trailing))  # fmt: skip
        return " / ".join(ends)

    def accept(self, text: str) -> None:
        if not text.strip():
            self._sheet.put(self.of, self.side, self.share, None)
            return
        parts = text.split("/")
        if len(parts) != 2:
            raise DesignError("heights", f"“{short(text)}”", "two heights, leading / trailing, such as 312 / 305")
        bare = self._sheet.store.unit_of("length")
        leading, trailing = (float(parse(part, "length", path="height", bare=bare)) for part in parts)
        self._sheet.put(self.of, self.side, self.share, (leading, trailing))


class DiagonalField(Entry):
    """Lengths from the tips of a surface to the tail: starboard / port."""

    def __init__(self, sheet: FlightsBuiltSheet, surface: str) -> None:
        super().__init__(sheet, "lengths from the starboard and port tips to the tail")
        self._sheet, self.of = sheet, surface
        self.refresh()

    def current(self) -> str:
        found = self._sheet.diagonal(self.of)
        if found is None:
            return ""
        return " / ".join(shown(value, "length", self._sheet.store.units) for value in (found.starboard, found.port))

    def accept(self, text: str) -> None:
        if not text.strip():
            self._sheet.put_diagonal(self.of, None)
            return
        parts = text.split("/")
        if len(parts) != 2:
            raise DesignError("lengths", f"“{short(text)}”", "two lengths, starboard / port, such as 1204 / 1207")
        bare = self._sheet.store.unit_of("length")
        lengths = [float(parse(part, "length", path="length", bare=bare)) for part in parts]
        half = self._sheet.half_of(self.of)
        if any(not abs(self._sheet.tail - self._sheet.middle_of(self.of)) - half < one < 4 * half + self._sheet.tail + 1
               for one in lengths):  # fmt: skip
            raise DesignError("lengths", f"“{short(text)}”", "lengths that this airframe can have")
        self._sheet.put_diagonal(self.of, (lengths[0], lengths[1]))


class FlightsBuiltSheet(Sheet):
    """The airframe as it came out."""

    key = "flights.built"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.fields: list[HeightField] = []
        self.diagonals: list[DiagonalField] = []
        self._of: tuple[str, ...] = ()

    @property
    def surfaces(self) -> list[Surface]:
        """Those whose edges have a height: all that do not stand upright."""
        return [surface for surface in self.store.design.surfaces if not is_upright(surface)]

    @property
    def tail(self) -> float:
        """The point that diagonals are measured to: the rear end of the bodies, m behind the datum."""
        ends = [body.x + body.stations[-1].x for body in self.store.design.bodies if body.stations]
        return max(ends, default=extent(self.store.design, "plan").bottom())

    def _surface(self, ident: str) -> Surface | None:
        return next((one for one in self.store.design.surfaces if one.id == ident), None)

    def half_of(self, ident: str) -> float:
        """Return half the span of a surface, m."""
        surface = self._surface(ident)
        return 0.0 if surface is None else abs(float(placed_at(surface, [surface.stations[-1].y]).trailing[0, 1]))

    def middle_of(self, ident: str) -> float:
        """Return the middle of a surface's root, m behind the datum."""
        surface = self._surface(ident)
        return 0.0 if surface is None else surface.x + surface.stations[0].x + 0.5 * surface.stations[0].chord

    # -- readings -----------------------------------------------------------------------------------------------------

    def _out(self, surface: Surface, share: float) -> float:
        ends = surface.stations[0].y, surface.stations[-1].y
        return ends[0] + share * (ends[1] - ends[0])

    def reading(self, ident: str, side: Side, share: float) -> Levelled | None:
        """Return what was read at a place; None where nothing was."""
        surface = self._surface(ident)
        if surface is None:
            return None
        out, near = self._out(surface, share), _NEAR * (surface.stations[-1].y - surface.stations[0].y)
        rows = self.store.design.as_built.levelled
        return next((one for one in rows if one.of == ident and one.side == side and abs(one.out - out) < near), None)

    def put(self, ident: str, side: Side, share: float, heights: tuple[float, float] | None) -> None:
        """Write down the heights at a place, or that there are none."""
        surface, before = self._surface(ident), self.reading(ident, side, share)
        if surface is None:
            return
        kept = tuple(one for one in self.store.design.as_built.levelled if one is not before)
        if heights is not None:
            chord = float(placed_at(surface, [self._out(surface, share)]).chord[0])
            if abs(heights[0] - heights[1]) >= chord:
                raise DesignError("heights", f"{abs(heights[0] - heights[1]) * 1e3:.0f} mm apart",
                                  f"less than the chord there, {chord * 1e3:.0f} mm")  # fmt: skip
            out = round(self._out(surface, share), 6)
            try:
                fresh = Levelled(of=ident, side=side, out=out, leading=heights[0], trailing=heights[1])
            except ValueError as error:
                raise DesignError("heights", f"{heights[0] * 1e3:.0f} mm", "−3 m to 5 m over the bench") from error
            kept = (*kept, fresh)
        self.store.edit([Change("as_built.levelled", kept)], "Height over the bench")

    def diagonal(self, ident: str) -> Diagonal | None:
        """Return the diagonals of a surface; None where none were measured."""
        return next((one for one in self.store.design.as_built.diagonals if one.of == ident), None)

    def put_diagonal(self, ident: str, lengths: tuple[float, float] | None) -> None:
        """Write down the diagonals of a surface, or that there are none."""
        kept = tuple(one for one in self.store.design.as_built.diagonals if one.of != ident)
        if lengths is not None:
            kept = (*kept, Diagonal(of=ident, to=round(self.tail, 6), starboard=lengths[0], port=lengths[1]))
        self.store.edit([Change("as_built.diagonals", kept)], "Lengths from tip to tail")

    # -- what is shown ------------------------------------------------------------------------------------------------

    def subtitle(self) -> str:
        if self.empty:
            return ""
        many = len(self.store.design.as_built.levelled)
        if not many:
            return "nothing measured of the finished airframe yet"
        found = fit_of(self.store.design)
        told = "" if found is None else f"; it stands {with_unit(abs(found.pitch), 'angle')} nose " + (
            "up" if found.pitch > 0 else "down")  # fmt: skip
        return f"{many} places measured{told}"

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        rows = (
            Dimension("A height is good to", "as_built.height_sigma"),
            Dimension("A length is good to", "as_built.length_sigma"),
        )
        many = bool(self.store.design.as_built.levelled or self.store.design.as_built.diagonals)
        acts = (("Measure anew", self.clear),) if many else ()
        return Selection("bench", rows, acts)

    def clear(self) -> None:
        """Forget what was measured."""
        changes = [Change("as_built.levelled", ()), Change("as_built.diagonals", ())]
        self.store.edit(changes, "Measure anew")

    def arrange(self) -> None:
        surfaces = self.surfaces
        of = tuple(surface.id for surface in surfaces)
        if of != self._of:
            for field in (*self.fields, *self.diagonals):
                discard(field)
            self.fields = [
                HeightField(self, surface.id, side, share)
                for surface in surfaces
                for share in _PLACES
                for side in SIDES
                if side == "starboard" or surface.mirrored
            ]
            self.diagonals = [DiagonalField(self, surface.id) for surface in surfaces if surface.mirrored]
            self._of = of
            for field in (*self.fields, *self.diagonals):
                field.show()
        left, y = self._left, self._table_top
        for surface in surfaces:
            for share in _PLACES:
                for field in self.fields:
                    if field.of == surface.id and field.share == share:
                        at = left + 92 + (0 if field.side == "port" else _CELL + 8)
                        field.setGeometry(int(at), int(y), _CELL, 20)
                        field.refresh()
                y += _ROW
            for diagonal in self.diagonals:
                if diagonal.of == surface.id:
                    diagonal.setGeometry(int(left + 92), int(y), 2 * _CELL + 8, 20)
                    diagonal.refresh()
                    y += _ROW
            y += _GAP

    @property
    def _left(self) -> float:
        return self.width() - PAD - 92 - 2 * _CELL - 8

    @property
    def _table_top(self) -> float:
        return 66.0

    def draw(self, p: QPainter) -> None:
        inks, left = theme.inks, self._left
        room = left - PAD - 20
        heading(p, PAD, 52, room, "As it came out", "against the drawing")
        told = wrap(_HOW, room, LABEL)
        for k, words in enumerate(told):
            write(p, PAD, 76 + 15 * k, words, LABEL, inks.soft)
        top = 80.0 + 15 * len(told)
        line(p, left - 10.5, 40, left - 10.5, self.height() - 8, inks.hair)
        y = self._table_top
        for k, surface in enumerate(self.surfaces):
            unit = self.store.units["length"].symbol
            heading(p, left, y - 14, self.width() - PAD - left, fit(surface.name, 90), f"port · starboard, {unit}",
                    strong=k == 0)  # fmt: skip
            for share in _PLACES:
                words = f"{self.length(self._out(surface, share))} out"
                write(p, left, y + 14, words, VALUE, inks.soft)
                rule(p, left + 92, y + 20, self.width() - PAD - left - 92)
                y += _ROW
            if surface.mirrored:
                write(p, left, y + 14, "tips to tail", VALUE, inks.soft)
                rule(p, left + 92, y + 20, self.width() - PAD - left - 92)
                y += _ROW
            y += _GAP
        high = 0.55 * (self.height() - top)
        self._draw_plan(p, QRectF(PAD, top, room, high))
        self._draw_found(p, QRectF(PAD, top + high + 12, room, self.height() - top - high - 22))

    def _draw_plan(self, p: QPainter, area: QRectF) -> None:
        """Draw the aircraft from above with the places that are measured, those read filled, and the diagonals."""
        inks, design = theme.inks, self.store.design
        box = extent(design, "plan")
        self.scale = min(area.width() / max(box.width(), 1e-3), area.height() / max(box.height(), 1e-3))
        view = View("plan", area.center().x() - box.center().x() * self.scale, area.top() - box.top() * self.scale,
                    self.scale)  # fmt: skip
        draw_aircraft(p, design, view, fill=inks.paper)
        for field in self.fields:
            surface = self._surface(field.of)
            if surface is None:
                continue
            here = placed_at(surface, [self._out(surface, field.share)])
            ends = [here.leading[0], here.trailing[0]]
            read = self.reading(field.of, field.side, field.share) is not None
            ink = inks.measured if read else inks.soft
            points = [QPointF(*view.at(tuple(mirrored(end) if field.side == "port" else end))) for end in ends]
            live = field.hasFocus()
            p.setPen(pen(inks.live if live else ink, 2 if read or live else 1))
            p.drawLine(points[0], points[1])
            p.setBrush(ink if read else inks.paper)
            for point in points:
                p.drawEllipse(point, 3, 3)
        for diagonal in design.as_built.diagonals:
            surface = self._surface(diagonal.of)
            if surface is None:
                continue
            tip = placed_at(surface, [surface.stations[-1].y]).trailing[0]
            end = QPointF(*view.at((diagonal.to, 0.0, 0.0)))
            for place in (tip, mirrored(tip)):
                line(p, *view.at(tuple(place)), end.x(), end.y(), inks.measured, 1, dash=True)

    def _draw_found(self, p: QPainter, area: QRectF) -> None:
        """List what is off the drawing with its band; what is certain in the ink of what is measured."""
        inks, design = theme.inks, self.store.design
        columns = (0.335, 0.50, 0.665, 0.835, 1.0)
        ends = [area.left() + share * area.width() for share in columns]
        aside = "°" if area.width() < _BANDED else "°, ± 90 %"
        heading(p, area.left(), area.top() + 12, area.width(), "Off the drawing", aside, strong=False)
        y = area.top() + 36
        for end, words in zip(ends, ("incidence", "twist", "warp", "dihedral", "skew"), strict=True):
            write(p, end, y, words, LABEL, inks.soft, align="right")
        y += 20
        found = fit_of(design)
        told = {} if found is None else {one.surface: one for one in found.surfaces}
        for k, surface in enumerate(design.surfaces):
            diagonal, one = self.diagonal(surface.id), told.get(k)
            if is_upright(surface) or (diagonal is None and one is None):
                continue
            skew = None if diagonal is None else skew_of(surface, diagonal, design.as_built.length_sigma)
            reference = found is not None and found.reference == k
            offs = (None,) * 4 if one is None else (one.incidence, one.twist, one.warp, one.dihedral)
            write(p, area.left(), y, fit(surface.name, 0.165 * area.width()), VALUE)
            for end, off in zip(ends, (*offs, skew), strict=True):
                self._write_off(p, end, y, off, banded=area.width() >= _BANDED)
            if reference and one is not None:
                write(
                    p, ends[0], y, "zero" if area.width() < _BANDED else "others’ zero", LABEL, inks.soft, align="right"
                )
            rule(p, area.left(), y + 6, area.width())
            y += 22
        if not told and not design.as_built.diagonals:
            write(p, area.left(), y, "Type heights at the right: three places a side tell all of it.", VALUE, inks.soft)

    def _write_off(self, p: QPainter, end: float, y: float, off: Off | None, *, banded: bool) -> None:
        if off is None:
            return
        inks = theme.inks
        units = self.store.units
        words = ("+" if off.value >= 0 else "") + shown(off.value, "angle", units, 2)
        if banded:
            words += f" ± {shown(BAND * off.sigma, 'angle', units, 2)}"
        sure = certain(off)
        write(p, end, y, words, LABEL, inks.measured if sure else inks.soft, sure, "right")
