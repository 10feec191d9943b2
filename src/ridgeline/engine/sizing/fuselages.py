"""Bodies and motor mounts around the surfaces of a layout."""

from __future__ import annotations

from typing import NamedTuple

from ridgeline.design.airframe import Body, BodyStation, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.power import Mount, PowerTrain
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.building import Plan, boom_build
from ridgeline.engine.sizing.sizes import Size

Row = tuple[float, float, float, float]
#: Height and width of a tail boom as it is drawn, m; its stock is chosen by weight.
BOOM = 0.012
#: Adapter and spinner before a nose motor, m.
_BEFORE = 0.020
#: Room for motor and propeller of a sketch without a power train, m: can length, propeller radius.
_TYPICAL_CAN, _TYPICAL_RADIUS = 0.02, 0.1
#: Cross-sections over the body's width and height (usual outlines of boxes): at the nose, behind the wing, at its end
#: without a tail, at a pusher's firewall, and of each of two bodies.
_NOSE, _BEHIND, _SHORT_TAIL, _FIREWALL, _EACH = (0.75, 0.7), (0.7, 0.7), (0.5, 0.5), (0.6, 0.6), (0.7, 0.8)
#: Where the full section begins, over the way to the wing, and that way at least, m; where it ends, over the root
#: chord, and how far behind the shoulder at least, m.
_SHOULDER, _LEAST_NOSE, _MIDDLE, _LEAST_MIDDLE = 0.3, 0.05, 0.5, 0.02
#: The body slims from this far behind the wing (root chords); ends no farther behind than the other have no tail cone.
_SLIMS, _NO_CONE = 0.1, 0.12
#: Height of the cone's beginning and of the tail's end over the middle, over the body's height.
_CONE_UP, _TAIL_UP = 0.1, 0.25
#: Width of the tail's end over the body's, and at least, m.
_TAIL_SLIM, _LEAST_SLIM = 0.22, 0.018
#: A pusher's disc clears the trailing edge by this and its shaft, m; of a twin's discs each other, m.
_PUSHER_CLEAR, _DISC_CLEAR = 0.002, 0.01
#: Booms begin at this share of the root chord.
_BOOM_FROM = 0.3


class Frame(NamedTuple):
    """Bodies, the one that carries pack and payload first, and where the motors stand."""

    bodies: tuple[Body, ...]
    mounts: tuple[Mount, ...]


def _body(name: str, rows: list[Row], *, mirrored: bool = False, y: float = 0.0, boom: bool = False) -> Body:
    nose = rows[0][0]
    stations = tuple(BodyStation(x=round(x - nose, 12), width=w, height=h, z=z) for x, w, h, z in rows)
    return Body(name=name, kind="boom" if boom else "fuselage", mirrored=mirrored, x=nose, y=y, stations=stations)


def _forward(front: float, wing: Surface, w: float, h: float) -> list[Row]:
    """Return the cross-sections from the nose to under the wing."""
    shoulder = front + _SHOULDER * max(wing.x - front, _LEAST_NOSE)
    middle = max(wing.x + _MIDDLE * wing.stations[0].chord, shoulder + _LEAST_MIDDLE)
    return [(front, _NOSE[0] * w, _NOSE[1] * h, 0.0), (shoulder, w, h, 0.0), (middle, w, h, 0.0)]


def frame_of(brief: Brief, size: Size, surfaces: tuple[Surface, ...], train: PowerTrain | None, plan: Plan) -> Frame:
    """Return bodies and mounts of a layout.

    Parameters
    ----------
    surfaces : tuple of Surface
        Wings first, as `airframe_surfaces` gives them.
    train : PowerTrain or None
        Motor and propeller that must fit; typical sizes without one.
    plan : Plan
        How they are built; booms are stock.
    """
    frame = _frame(brief, size, surfaces, train)
    boom = boom_build(size.mass)
    bodies = (b.model_copy(update={"built": boom if b.kind == "boom" else plan.body}) for b in frame.bodies)
    return frame._replace(bodies=tuple(bodies))


def _frame(brief: Brief, size: Size, surfaces: tuple[Surface, ...], train: PowerTrain | None) -> Frame:
    facts = arrangement_of(brief.layout)
    wing = surfaces[0]
    others = surfaces[facts.wings :]
    w, h = size.width, size.height
    motor = train.motor.length if train else _TYPICAL_CAN
    radius = 0.5 * train.propeller.diameter if train else _TYPICAL_RADIUS
    back = max(s.x + s.stations[0].chord for s in surfaces[: facts.wings])
    end = max(s.x + s.stations[0].chord for s in others)
    # The firewall is the body's front; disc and spinner come before it.
    front = (motor + _BEFORE) if facts.motor == "nose" and brief.propulsion != "none" else 0.0
    slim = max(_LEAST_SLIM, _TAIL_SLIM * w)
    cone = (back + _SLIMS * size.root, _BEHIND[0] * w, _BEHIND[1] * h, _CONE_UP * h)
    tail_rows = [cone, (end, slim, slim, _TAIL_UP * h)]
    if brief.layout == "twin_fuselage":
        y = next(s.y for s in others if s.role == "fin")
        rows = [(x, _EACH[0] * a, _EACH[1] * b, z) for x, a, b, z in _forward(motor + _BEFORE, wing, w, h)]
        slimmed = [(x, _EACH[0] * a, b, z) for x, a, b, z in tail_rows]
        body = _body("Fuselages", rows + slimmed, mirrored=True, y=y)
        return Frame((body,), (Mount(x=motor + _BEFORE, y=max(y, radius + _DISC_CLEAR), mirrored=True),))
    if facts.motor == "nose":
        rows = _forward(front, wing, w, h)
        if end <= back + _NO_CONE * size.root:
            tail_rows = [(back, _SHORT_TAIL[0] * w, _SHORT_TAIL[1] * h, 0.0)]
        return Frame((_body("Fuselage", rows + tail_rows),), (Mount(x=front),))
    rows = [*_forward(0.0, wing, w, h), (back, _FIREWALL[0] * w, _FIREWALL[1] * h, 0.0)]
    mount = Mount(x=back + _PUSHER_CLEAR, pusher=True)
    pod = _body("Pod" if brief.layout == "twin_boom" else "Fuselage", rows)
    if brief.layout != "twin_boom":
        return Frame((pod,), (mount,))
    y = next(s.y for s in others if s.role == "fin")
    boom_rows = [(wing.x + _BOOM_FROM * size.root, BOOM, BOOM, _TAIL_UP * h), (end, BOOM, BOOM, _TAIL_UP * h)]
    return Frame((pod, _body("Booms", boom_rows, mirrored=True, y=y, boom=True)), (mount,))
