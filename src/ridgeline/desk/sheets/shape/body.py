"""Body: a fuselage, pod or boom drawn by its cross-sections from the side and above, over a picture if there is one."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.airframe import Body, BodyStation
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, body_points, draw_aircraft
from ridgeline.desk.paint import brush_of, heading, line, outline, path_of, rule, write
from ridgeline.desk.part_edits import add_body
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.shape.body_section import draw_section
from ridgeline.desk.sheets.shape.dimensions import body_selection
from ridgeline.desk.sheets.shape.grips import Grip, Key, body_grips, hollow_grips
from ridgeline.desk.sheets.shape.tracing import edge_near
from ridgeline.desk.sheets.shape.underlay import draw_underlays
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.built_row import TALL, BuiltRow
from ridgeline.desk.widgets.buttons import RuledButton, WordButton
from ridgeline.desk.widgets.handles import Handle, keep_handles
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.sizing.hollows import hollow_of, hollows_in, mass_of_hollow
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.units import with_unit

_ASIDE = 168
#: A hand over a picture snaps to an edge of it within so many px.
_SNAP = 7.0
_SECTIONS = ((0.0, "box"), (0.35, "soft corners"), (1.0, "round"))
#: What is solid foam: the other forms are hollow as they are.
_SOLID = ("carved", "bought")
_OPEN = (("none", "closed all round"), ("top", "open on top"), ("bottom", "open below"))


class ShapeBodySheet(Sheet):
    """One body, cross-section by cross-section."""

    key, needs_airframe = "shape.body", False

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.handles: dict[Key, Handle] = {}
        self._grips: dict[Key, Grip] = {}
        self._side, self._axis = View("side", 0, 0, 1), 0.0
        self.which = WordButton(self, "body that is shown", (), self._ident, self._select)
        self.adds = RuledButton(self, "Add a station")
        self.adds.clicked.connect(self.add_station)
        self.drops = RuledButton(self, "Remove it")
        self.drops.clicked.connect(self.remove_station)
        self.hollow = RuledButton(self, "Hollow it out")
        self.hollow.clicked.connect(self.hollow_out)
        self.first = RuledButton(self, "Add a fuselage")
        self.first.clicked.connect(lambda: add_body(self.store, "fuselage"))
        self.rounds = {value: RuledButton(self, words) for value, words in _SECTIONS}
        for value, button in self.rounds.items():
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, v=value: self.round_station(v))
        self.built = BuiltRow(self, store)

    @property
    def chosen(self) -> tuple[int, int] | None:
        """Return the selected body and cross-section; the first body's widest when no body is selected."""
        spot, bodies = self.store.spot("body"), self.store.design.bodies
        if spot is not None:
            return spot.index, spot.inner
        if not bodies:
            return None
        stations = bodies[0].stations
        return 0, max(range(len(stations)), key=lambda k: stations[k].width * stations[k].height)

    @property
    def body(self) -> Body | None:
        return None if self.chosen is None else self.store.design.bodies[self.chosen[0]]

    def subtitle(self) -> str:
        body = self.body
        if body is None:
            return "no body yet"
        found = measure_body(body)
        units = self.store.units
        return f"{body.name}, {with_unit(found.length, 'length', units)}, {1000 * found.volume:.2f} litres"

    def selection(self) -> Selection:
        chosen = self.chosen
        if chosen is None:
            return Selection("", ())
        found = body_selection(self.store, *chosen)
        return Selection(found.title, (*found.rows, *self._open_row(chosen[0])), found.acts)

    def _open_row(self, index: int) -> tuple[Dimension, ...]:
        """Return the row of the side of a box that is left out."""
        built = self.store.design.bodies[index].built
        if built is None or built.form not in ("box", "folded_box"):
            return ()
        path = f"bodies[{index}]"

        def read() -> str:
            found = self.store.design.bodies[index].built
            return "none" if found is None else found.open

        def choose(side: str) -> None:
            found = self.store.design.bodies[index].built
            if found is not None:
                fresh = found.model_copy(update={"open": side})
                self.store.edit(changed_part(self.store.design, path, {"built": fresh}), dict(_OPEN)[side].capitalize())

        return (Dimension("The box is", read=read, choices=_OPEN, choose=choose),)

    def _ident(self) -> str:
        return "" if self.body is None else self.body.id

    def _select(self, ident: str) -> None:
        for index, body in enumerate(self.store.design.bodies):
            if body.id == ident:
                self.store.select(f"bodies[{index}].stations[0]")

    # -- edits ---------------------------------------------------------------------------------------------------

    def add_station(self) -> None:
        """Add a cross-section halfway to the next one aft, or ahead of the last."""
        if self.chosen is None or self.body is None:
            return
        b, k = self.chosen
        stations = self.body.stations
        k = min(k, len(stations) - 2)
        fore, aft = stations[k], stations[k + 1]
        names = ("x", "width", "height", "z")
        told = {n: round(0.5 * (getattr(fore, n) + getattr(aft, n)), 4) for n in names}
        made = BodyStation(**told, rounding=fore.rounding if fore.rounding == aft.rounding else None)
        fresh = (*stations[: k + 1], made, *stations[k + 1 :])
        if self.store.put(f"bodies[{b}].stations", fresh, f"Add a station to {self.body.name}"):
            self.store.select(f"bodies[{b}].stations[{k + 1}]")

    def remove_station(self) -> None:
        """Take the selected cross-section out."""
        if self.chosen is None or self.body is None:
            return
        b, k = self.chosen
        self.store.select("")
        if self.store.edit([Change(f"bodies[{b}].stations[{k}]", REMOVE)], f"Remove a station of {self.body.name}"):
            self.store.select(f"bodies[{b}].stations[{max(k - 1, 0)}]")

    def round_station(self, value: float) -> None:
        """Make the selected cross-section a box, soft at its corners, or round."""
        if self.chosen is not None:
            b, k = self.chosen
            words = dict(_SECTIONS)[value]
            self.store.put(f"bodies[{b}].stations[{k}].rounding", value, f"Section {k + 1}: {words}")

    def hollow_out(self) -> None:
        """Cut a hollow out of the body: an item of negative mass, to be placed and sized, and select it."""
        body = self.body
        if body is None:
            return
        made = hollow_of(self.store.design, body)
        if self.store.edit([Change("parts[-]", made)], f"Hollow {body.name} out"):
            self.store.noted.emit(
                f"{made.name} takes {with_unit(-(made.estimate or 0.0), 'mass', self.store.units)} out: "
                "drag its frame, or type its mass on Weights."
            )

    # -- places --------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        body = self.body
        there = body is not None
        self.which.offer(tuple((b.id, b.name) for b in self.store.design.bodies))
        self.which.move(PAD + 32, 38)
        self.which.setVisible(there)
        self.first.setGeometry(int(self.width() / 2 - 70), int(self.height() / 2 + 8), 140, 24)
        self.first.setVisible(not there)
        if there and not any(handle.held for handle in self.handles.values()):
            self._fit()
        wide = self.width() - 2 * PAD
        foot = self.height() - 16 - self.built.tall_for(wide)
        self.built.show_part("" if self.chosen is None else f"bodies[{self.chosen[0]}]")
        self.built.setGeometry(PAD, foot, wide, self.built.tall_for(wide))
        left = self.width() - PAD - _ASIDE + 14
        for number, (value, button) in enumerate(self.rounds.items()):
            button.setGeometry(left, int(self._aside_top() + 150 + 28 * number), _ASIDE - 14, 24)
            button.setChecked(there and abs(self._rounding() - value) < 1e-3)
            button.setVisible(there)
        for number, button in enumerate((self.adds, self.drops, self.hollow)):
            button.setGeometry(PAD + 122 * number, int(self._floor()) - 30, 114, 24)
            button.setVisible(there)
        built = None if body is None else body.built
        self.hollow.setEnabled(built is None or built.form in _SOLID)
        self.drops.setEnabled(there and body is not None and len(body.stations) > 2)
        self._arrange_handles()

    def _rounding(self) -> float:
        chosen = self.chosen
        return 0.0 if chosen is None else self.store.design.bodies[chosen[0]].roundings[chosen[1]]

    def _floor(self) -> float:
        """Return where the views end, over the row of ways to build it."""
        return float(self.height() - TALL - 58)

    def _aside_top(self) -> float:
        return 74.0

    def _fit(self) -> None:
        """Fit side and plan over one ruler, at one scale."""
        body = self.body
        assert body is not None
        sections = body.sections
        long = max(sections[-1].x - sections[0].x, 0.02)
        high = max(s.z + 0.5 * s.height for s in sections) - min(s.z - 0.5 * s.height for s in sections)
        broad = max(s.width for s in sections)
        room = QRectF(PAD + 8, 70, self.width() - 2 * PAD - _ASIDE - 26, self._floor() - 116)
        scale = min(room.width() / (1.06 * long), (room.height() - 60) / max(high + broad, 0.02))
        self.scale = scale
        left = room.left() + 0.5 * (room.width() - long * scale) - sections[0].x * scale
        spare = room.height() - 60 - (high + broad) * scale
        top = max(s.z + 0.5 * s.height for s in sections)
        base = room.top() + 10 + spare / 4 + top * scale
        self._side = View("side", left, base, scale)
        self._axis = room.bottom() - spare / 4 - 0.5 * broad * scale - 4

    def _arrange_handles(self) -> None:
        chosen = self.chosen
        found: list[Grip] = []
        if chosen is not None and self.body is not None:
            found += body_grips(self.store.design, chosen[0])
            found += hollow_grips(self.store.design, self.body)
        grips = {grip.key: grip for grip in found}
        keep_handles(self.handles, grips, lambda key: self._make_handle(key, grips[key].name))
        for key, grip in grips.items():
            handle = self.handles[key]
            handle.place(*self._at(grip))
            handle.chosen = chosen is not None and grip.path == f"bodies[{chosen[0]}].stations[{chosen[1]}]"
            handle.show()
            handle.update()
        self._grips = grips

    def _make_handle(self, key: Key, name: str) -> Handle:
        move, press = partial(self._drag, key), partial(self._press, key)
        return Handle(self, name, move, self._let_go, on_press=press, size=13, step=self.document_step)

    def _at(self, grip: Grip) -> tuple[float, float]:
        x, y, _z = grip.place
        if grip.view == "side":
            return self._side.at(grip.place)
        middle = 0.0 if self.body is None else self.body.y
        return self._side.x0 + x * self.scale, self._axis + (y - middle) * self.scale

    def _press(self, key: Key) -> None:
        self.store.select(self._grips[key].path)

    def _let_go(self) -> None:
        self.store.seal()
        self.refresh()

    def _drag(self, key: Key, px: float, py: float) -> None:
        grip, design = self._grips[key], self.store.design
        reach = 0.0 if self.handles[key].by_keys else _SNAP / self.scale
        if grip.view == "side":
            across, along = self._side.back(px, py)
            edge = edge_near(design, "side", across, -along, "along", reach) if reach else None
            changes = grip.move(design, across, along if edge is None else -edge)
        else:
            middle = 0.0 if self.body is None else self.body.y
            along, across = (px - self._side.x0) / self.scale, middle + (py - self._axis) / self.scale
            edge = edge_near(design, "plan", across, along, "across", reach) if reach else None
            changes = grip.move(design, across if edge is None else edge, along)
        self.store.edit(changes, f"Drag {grip.name}", merge=f"{grip.path}{key}")

    # -- drawing -------------------------------------------------------------------------------------------------

    def draw(self, p: QPainter) -> None:
        body = self.body
        if body is None:
            write(p, self.width() / 2, self.height() / 2 - 10, "There is no body yet.", VALUE, align="centre")
            return
        inks, design = theme.inks, self.store.design
        write(p, PAD, 52, "Body", VALUE, inks.soft)
        views = QRectF(PAD, 66, self.width() - 2 * PAD - _ASIDE - 4, self._floor() - 100)
        p.save()
        p.setClipRect(views)
        draw_underlays(p, design, self._side)
        self._lying(p, lambda q, view: draw_underlays(q, design, view))
        p.setOpacity(0.25)
        draw_aircraft(p, design, self._side)
        self._lying(p, lambda q, view: draw_aircraft(q, design, view))
        p.setOpacity(1.0)
        side = path_of([self._side.at(place) for place in body_points(body, "side")])
        plan = path_of([self._down(s.x, w) for s, w in _rim(body)])
        for outlined in (side, plan):
            p.fillPath(outlined, brush_of(inks.paper, 150))
            outline(p, outlined, inks.ink, 1.6)
        self._draw_stations(p, body)
        self._draw_hollows(p, body)
        p.restore()
        self._draw_ruler(p, body)
        left = self.width() - PAD - _ASIDE + 14
        line(p, left - 14.5, 66, left - 14.5, self._floor() - 8, inks.hair)
        if self.chosen is not None:
            area = QRectF(left, self._aside_top(), _ASIDE - 14, self._floor() - 8 - self._aside_top())
            draw_section(p, self, body, self.chosen[1], area)
        rule(p, PAD, self._floor() + 4, self.width() - 2 * PAD)
        built = "each with what it weighs so" if body.built else "not said yet: press one"
        heading(p, PAD, self._floor() + 22, self.width() - 2 * PAD, "Built as", built)

    def _down(self, x: float, y: float) -> tuple[float, float]:
        """Return where a place in plan stands, starboard down, y from the body's middle."""
        return self._side.x0 + x * self.scale, self._axis + y * self.scale

    def _lying(self, p: QPainter, draw: Callable[[QPainter, View], None]) -> None:
        """Draw a plan lying on its side, starboard down, about the body's own middle."""
        middle = 0.0 if self.body is None else self.body.y
        p.save()
        p.translate(self._side.x0, self._axis - middle * self.scale)
        p.rotate(-90)
        p.scale(-1, 1)
        draw(p, View("plan", 0, 0, self.scale))
        p.restore()

    def _draw_stations(self, p: QPainter, body: Body) -> None:
        inks, chosen = theme.inks, self.chosen
        for k, s in enumerate(body.sections):
            mine = chosen is not None and chosen[1] == k
            colour, wide = (inks.live, 1.5) if mine else (inks.hair, 1.0)
            top, low = (self._side.at((s.x, 0.0, s.z + half)) for half in (0.5 * s.height, -0.5 * s.height))
            line(p, *top, *low, colour, wide)
            line(p, *self._down(s.x, -0.5 * s.width), *self._down(s.x, 0.5 * s.width), colour, wide)

    def _draw_hollows(self, p: QPainter, body: Body) -> None:
        """Draw what is cut out of it: a dashed box, crossed, with the mass it takes."""
        inks = theme.inks
        for _index, item in hollows_in(self.store.design, body):
            assert item.size is not None
            half, tall, broad = 0.5 * item.size.length, 0.5 * item.size.height, 0.5 * item.size.width
            a, b = self._side.at((item.x - half, 0, item.z + tall)), self._side.at((item.x + half, 0, item.z - tall))
            c, d = self._down(item.x - half, -broad), self._down(item.x + half, broad)
            for (x1, y1), (x2, y2) in ((a, b), (c, d)):
                outline(p, path_of([(x1, y1), (x2, y1), (x2, y2), (x1, y2)]), inks.predicted, 1.2, dash=True)
                line(p, x1, y1, x2, y2, inks.predicted, 0.8)
                line(p, x1, y2, x2, y1, inks.predicted, 0.8)
            words = f"−{with_unit(-mass_of_hollow(item), 'mass', self.store.units)} cut out"
            write(p, 0.5 * (a[0] + b[0]), b[1] - 4, words, LABEL, inks.predicted, align="centre", halo=True)

    def _draw_ruler(self, p: QPainter, body: Body) -> None:
        unit = self.store.units["length"]
        first, last = body.sections[0].x, body.sections[-1].x
        low, high = first * unit.factor, last * unit.factor
        lowest = min(s.z - 0.5 * s.height for s in body.sections)
        y = 0.5 * (self._side.at((0, 0, lowest))[1] + self._down(0, -0.5 * max(s.width for s in body.sections))[1])
        box = QRectF(self._side.x0 + first * self.scale, y - 10, (last - first) * self.scale, 20)
        ruler(p, box, low, high, nice_step(max(high - low, 1e-3), 8))
        words = f"{unit.symbol} behind the datum; side above, plan below"
        write(p, self.width() - PAD, 52, words, LABEL, theme.inks.soft, align="right")


def _rim(body: Body) -> list[tuple[BodyStation, float]]:
    """Return the rim of a body in plan: each section with the place of its side, round once."""
    sections = body.sections
    return [(s, 0.5 * s.width) for s in sections] + [(s, -0.5 * s.width) for s in reversed(sections)]
