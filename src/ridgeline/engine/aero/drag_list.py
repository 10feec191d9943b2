"""The drag list: everything that stands in the wind beside wing, tail and the skin of the bodies, and its drag area."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.axes import all_discs
from ridgeline.design.carrying import Carrier
from ridgeline.design.drag_items import DragItem, DragKind
from ridgeline.design.hanging import carrier_of
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.slipstream import Place
from ridgeline.engine.bands import BAND
from ridgeline.engine.build.seats import servo_case, servo_mass
from ridgeline.engine.geometry.bodies import measure_body, underside


class Shape(NamedTuple):
    """Drag coefficient over its own area, and how well it is known (90 %, a share)."""

    coefficient: float
    band: float
    words: str
    source: str


_HOERNER = "Hoerner, Fluid-Dynamic Drag"
#: What a builder can add, by kind.
SHAPES: dict[DragKind, Shape] = {
    "wire": Shape(1.1, 0.15, "wire or round rod", f"{_HOERNER}, ch. 3: circular cylinder below the critical Re"),
    "strut": Shape(1.3, 0.25, "strut of a flat strip", f"{_HOERNER}, ch. 3: rectangle four times as long as thick"),
    "faired_strut": Shape(0.30, 0.50, "strut, faired", f"{_HOERNER}, ch. 6: section 0.25 thick at chord Re 2·10⁴"),
    "opening": Shape(0.06, 0.60, "open cockpit or hatch", f"{_HOERNER}, ch. 5: holes about as deep as long"),
    "box": Shape(1.05, 0.25, "box standing out", f"{_HOERNER}, ch. 3: cube, a face to the wind"),
    "plate_edge": Shape(1.2, 0.30, "horn or plate, edge on", f"{_HOERNER}, ch. 3: short bluff pieces on a wall"),
    "air_inlet": Shape(0.7, 0.50, "inlet for cooling air", f"{_HOERNER}, ch. 9: momentum lost inside, 2 (V_i/V)"),
}
#: A box with a side left out, over that side.
OPEN_SIDE = Shape(0.02, 0.60, "open side", f"{_HOERNER}, ch. 5: long shallow cavities")
#: Wheels bare to the wind, over their frontal area: full-size tyres 0.25 to 0.3, small square-edged ones twice that.
WHEEL = Shape(0.6, 0.40, "wheel", f"{_HOERNER}, ch. 13")
#: Flat front of a body, over that face: 0.7 with square edges, 0.2 with edges well rounded; sanded board lies between.
FACE = Shape(0.45, 0.50, "flat nose", f"{_HOERNER}, ch. 3: cylinders in axial flow, edges sharp to rounded")
#: Drag of a blunt end over its area: 0.029 over the root of the skin's drag by the same area; this is its 0.029.
BASE = Shape(0.029, 0.40, "blunt end", f"{_HOERNER}, ch. 3: base drag under the boundary layer")
#: A motor can with its mount, no body behind it to hide in.
CAN = Shape(0.8, 0.30, "motor in the open", f"{_HOERNER}, ch. 3: short cylinder, end on")

#: Breadth of a foam wheel over its diameter, and wire of its leg over that, m at least and at most.
_WHEEL_BREADTH, _LEG_SHARE, _LEG_WIRE = 0.25, 0.05, (0.001, 0.005)
#: Width and height of a pack over its length, where they are not known.
_PACK_SHAPE = (0.33, 0.25)
#: A horn with its rod end: height over the local chord, least and most, m, and breadth over height.
_HORN_SHARE, _HORN, _HORN_BREADTH = 0.1, (0.006, 0.020), 0.25
#: Board on both sides of a box, m, where its construction does not tell.
_SIDES = 0.01
#: Turbulent skin of a body by the area of its blunt end: what the base formula is fed with.
_SKIN = 0.0055
#: What drags less than this is not listed, m²: a twentieth of a cm².
_LEAST_LISTED = 5e-6
#: Faces smaller than this are none, m²: 1 cm².
_LEAST_FACE = 1e-4
#: A body hides a motor that stands off it by no more of its diameters, and that it is nearly as thick as.
_STANDS_OFF, _HIDES = 3.0, 0.8
#: Ends of bodies nearer one another than this meet, m.
_TOUCHING = 0.002
#: These forms have no inside.
_SOLID = ("profile", "stick")


class Hindrance(NamedTuple):
    """One line of the list: ``pieces`` of ``area`` m² each with ``shape``, one of them at ``place``.

    ``path`` is where in the document it comes from; ``added`` tells that the builder entered it as such.
    """

    name: str
    pieces: int
    area: float
    shape: Shape
    place: Place
    path: str = ""
    added: bool = False

    @property
    def words(self) -> str:
        """Its name, with how many there are."""
        return self.name if self.pieces == 1 else f"{self.pieces} × {self.name}"

    @property
    def drag_area(self) -> float:
        """Drag over dynamic pressure of all pieces, m²."""
        return self.pieces * self.area * self.shape.coefficient

    @property
    def sigma(self) -> float:
        """One sigma of it, m²."""
        return self.drag_area * self.shape.band / BAND


def hindrances(
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    wheels: tuple[Wheel, ...],
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    added: tuple[DragItem, ...],
    inlet: float = 0.0,
) -> tuple[Hindrance, ...]:
    """Return what stands in the wind, from the parts present and from what the builder added.

    Parameters
    ----------
    surfaces : tuple of Surface
    bodies : tuple of Body
    wheels : tuple of Wheel
    parts : tuple of Item
    power : PowerTrain, optional
    added : tuple of DragItem
    inlet : float
        Opening for cooling air, m².

    Returns
    -------
    tuple of Hindrance
        The largest drag area first; what hardly drags is left out, unless the builder entered it.

    Source
    ------
    docs/theory.md §8; S. F. Hoerner, Fluid-Dynamic Drag (1965), by the chapters named with each shape.
    """
    found = [
        *_ends(bodies),
        *_gear(wheels, bodies),
        *_motors(power, bodies),
        *_servos(parts, surfaces, bodies),
        *_packs(parts, power, bodies),
        *_horns(surfaces),
        *_openings(bodies),
        *_inlet(power, inlet),
        *_added(added),
    ]
    told = (one for one in found if one.added or one.drag_area >= _LEAST_LISTED)
    return tuple(sorted(told, key=lambda one: -one.drag_area))


def _ends(bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    """Give the flat front and the blunt end of each body that no other body covers."""
    for index, body in enumerate(bodies):
        copies, final = 2 if body.mirrored else 1, len(body.stations) - 1
        wetted = measure_body(body).wetted / copies
        for number, shape in ((0, FACE), (final, BASE)):
            station = body.sections[number]
            face = station.width * station.height * (1 - (1 - math.pi / 4) * body.roundings[number])
            if face < _LEAST_FACE or _inside_another(body, station.x, bodies):
                continue
            if shape is BASE:
                # C_DB = 0.029 / √(C_f wetted / base), over the base.
                face /= math.sqrt(max(_SKIN * wetted / face, 1e-3))
            place, path = (station.x, body.y, station.z), f"bodies[{index}].stations[{number}]"
            yield Hindrance(f"{body.name}: {shape.words}", copies, face, shape, place, path)


def _inside_another(body: Body, x: float, bodies: tuple[Body, ...]) -> bool:
    """Tell whether a place along a body lies within the length of another one near it."""
    return any(
        other is not body
        and other.sections[0].x - _TOUCHING <= x <= other.sections[-1].x + _TOUCHING
        and abs(other.y - body.y) < 0.5 * (_width_at(other, x) + _width_at(body, x)) + 1e-6
        for other in bodies
    )


def _width_at(body: Body, x: float) -> float:
    return float(np.interp(x, [s.x for s in body.sections], [s.width for s in body.sections]))


def _height_at(body: Body, x: float) -> float:
    return float(np.interp(x, [s.x for s in body.sections], [s.height for s in body.sections]))


def _gear(wheels: tuple[Wheel, ...], bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    for index, wheel in enumerate(wheels):
        path = f"wheels[{index}]"
        count, place = 2 if wheel.mirrored else 1, (wheel.x, wheel.y, wheel.z)
        yield Hindrance(wheel.name, count, _WHEEL_BREADTH * wheel.diameter**2, WHEEL, place, path)
        near = next((b for b in bodies if b.sections[0].x <= wheel.x <= b.sections[-1].x), None)
        aside = abs(wheel.y) - (abs(near.y) + 0.5 * _width_at(near, wheel.x) if near else 0.0)
        # From the axle up to the belly, and out to the wheel.
        length = math.hypot(underside(bodies, wheel.x) - wheel.z, max(aside, 0.0))
        wire = min(max(_LEG_SHARE * wheel.diameter, _LEG_WIRE[0]), _LEG_WIRE[1])
        middle = (wheel.x, 0.5 * wheel.y, 0.5 * (wheel.z + underside(bodies, wheel.x)))
        yield Hindrance(f"{wheel.name}: leg", count, length * wire, SHAPES["wire"], middle, path)


def _motors(power: PowerTrain | None, bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    """Give the cans that no body hides; a fan has its motor inside."""
    if power is None or power.propeller.family == "ducted_fan":
        return
    can = 0.25 * math.pi * power.motor.diameter**2
    bare = [place for place in all_discs(power) if not any(_hides(b, place, power.motor.diameter) for b in bodies)]
    if bare:
        yield Hindrance("motor in the open", len(bare), can, CAN, bare[0], "power.motor")


def _hides(body: Body, place: Place, diameter: float) -> bool:
    """Tell whether a body is as thick as a motor just behind or before it."""
    x, y, z = place
    rows = body.sections
    near = min(max(x, rows[0].x), rows[-1].x)
    # A mount stands off its firewall by about its motor's own size.
    beside = abs(abs(y) - abs(body.y)) > 0.5 * (diameter + _width_at(body, near))
    if beside or abs(near - x) > _STANDS_OFF * diameter:
        return False
    middle = float(np.interp(near, [s.x for s in rows], [s.z for s in rows]))
    level = abs(z - middle) < 0.5 * (_height_at(body, near) + diameter)
    return level and min(_width_at(body, near), _height_at(body, near)) >= _HIDES * diameter


def _servos(parts: tuple[Item, ...], surfaces: tuple[Surface, ...], bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    """Give what of each servo stands out of the surface or body it sits on; it lies on its side in a surface."""
    found: dict[str, Carrier] = {}
    found.update({surface.id: surface for surface in surfaces})
    found.update({body.id: body for body in bodies})
    for index, item in enumerate(parts):
        if item.servo is None:
            continue
        (width, depth), carrier = servo_case(servo_mass(item)), carrier_of(item, found)
        out = 0.0
        if isinstance(carrier, Surface):
            out = depth * max(width - carrier.thickness, 0.0)
        elif isinstance(carrier, Body):
            out = _standing_out(carrier, item.x, width, depth)
        yield Hindrance(item.name, item.count, out, SHAPES["box"], (item.x, item.y, item.z), f"parts[{index}]")


def _packs(parts: tuple[Item, ...], power: PowerTrain | None, bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    """Give the packs that are strapped on where the body has no inside for them."""
    found: dict[str, Carrier] = {part.id: part for part in bodies}
    for index, item in enumerate(parts):
        if item.component != "pack" or power is None:
            continue
        body = carrier_of(item, found)
        if not isinstance(body, Body):
            continue
        pack = power.pack
        width, height = pack.width or _PACK_SHAPE[0] * pack.length, pack.height or _PACK_SHAPE[1] * pack.length
        # The pieces of the item carry all packs between them.
        out = power.packs / item.count * _standing_out(body, item.x, width, height)
        yield Hindrance(item.name, item.count, out, SHAPES["box"], (item.x, item.y, item.z), f"parts[{index}]")


def _standing_out(body: Body, x: float, one: float, other: float) -> float:
    """Return what of a box's front, m², a body at that place does not hold."""
    small, large = sorted((one, other))
    rows = body.sections
    if not rows[0].x <= x <= rows[-1].x:
        # At the very end of a body or past it: what lies there is behind or before its face.
        return 0.0
    width, height = _width_at(body, x), _height_at(body, x)
    if body.built is not None and body.built.form in _SOLID:
        # Flat on both sides of a profile, under a stick: what the form itself fills is no part of it.
        return max(small - min(width, height), 0.0) * large
    sides = 2 * body.built.sheet if body.built is not None else _SIDES
    narrow, wide = sorted((width - sides, height - sides))
    if narrow >= small and wide >= large:
        return 0.0
    return small * large - max(min(narrow, small), 0.0) * max(min(wide, large), 0.0)


def _horns(surfaces: tuple[Surface, ...]) -> Iterator[Hindrance]:
    """Give one horn for each control on each side."""
    for index, surface in enumerate(surfaces):
        ys, chords = [s.y for s in surface.stations], [s.chord for s in surface.stations]
        for number, control in enumerate(surface.controls):
            chord = float(np.interp(control.start, ys, chords))
            height = min(max(_HORN_SHARE * chord, _HORN[0]), _HORN[1])
            out, up = control.start * math.cos(surface.cant), control.start * math.sin(surface.cant)
            place = (surface.x + chord, surface.y + out, surface.z + up)
            yield Hindrance(
                f"{surface.name}: {control.kind} horn",
                2 if surface.mirrored else 1,
                _HORN_BREADTH * height * height,
                SHAPES["plate_edge"],
                place,
                f"surfaces[{index}].controls[{number}]",
            )


def _openings(bodies: tuple[Body, ...]) -> Iterator[Hindrance]:
    """Give the boxes built with a side left out."""
    for index, body in enumerate(bodies):
        if body.built is None or body.built.form not in ("box", "folded_box") or body.built.open == "none":
            continue
        rows, copies = body.sections, 2 if body.mirrored else 1
        seen = measure_body(body).planform / copies
        place = (0.5 * (rows[0].x + rows[-1].x), body.y, max(s.z + 0.5 * s.height for s in rows))
        name = f"{body.name}: open {body.built.open}"
        yield Hindrance(name, copies, seen, OPEN_SIDE, place, f"bodies[{index}].stations[0]")


def _inlet(power: PowerTrain | None, inlet: float) -> Iterator[Hindrance]:
    if power is not None and inlet > 0:
        yield Hindrance("cooling air", 1, inlet, SHAPES["air_inlet"], all_discs(power)[0], "power.esc")


def _added(added: tuple[DragItem, ...]) -> Iterator[Hindrance]:
    for index, item in enumerate(added):
        path, area = f"drag_items[{index}]", item.length * item.width
        yield Hindrance(item.name, item.count, area, SHAPES[item.kind], (0.0, 0.0, 0.0), path, added=True)
