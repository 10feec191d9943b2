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
_BOOM = 0.012


#: Adapter and spinner before a nose motor, m.
_BEFORE = 0.020


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
    shoulder = front + 0.3 * max(wing.x - front, 0.05)
    middle = max(wing.x + 0.5 * wing.stations[0].chord, shoulder + 0.02)
    return [(front, 0.75 * w, 0.7 * h, 0.0), (shoulder, w, h, 0.0), (middle, w, h, 0.0)]


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
    motor = train.motor.length if train else 0.02
    radius = 0.5 * train.propeller.diameter if train else 0.1
    back = max(s.x + s.stations[0].chord for s in surfaces[: facts.wings])
    end = max(s.x + s.stations[0].chord for s in others)
    # The firewall is the body's front; disc and spinner come before it.
    front = (motor + _BEFORE) if facts.motor == "nose" else 0.0
    slim = max(0.018, 0.22 * w)
    tail_rows = [(back + 0.1 * size.root, 0.7 * w, 0.7 * h, 0.1 * h), (end, slim, slim, 0.25 * h)]
    if brief.layout == "twin_fuselage":
        y = next(s.y for s in others if s.role == "fin")
        rows = [(x, 0.7 * a, 0.8 * b, z) for x, a, b, z in _forward(motor + _BEFORE, wing, w, h)]
        slimmed = [(x, 0.7 * a, b, z) for x, a, b, z in tail_rows]
        body = _body("Fuselages", rows + slimmed, mirrored=True, y=y)
        return Frame((body,), (Mount(x=motor + _BEFORE, y=max(y, radius + 0.01), mirrored=True),))
    if facts.motor == "nose":
        rows = _forward(front, wing, w, h)
        if end <= back + 0.12 * size.root:
            tail_rows = [(back, 0.5 * w, 0.5 * h, 0.0)]
        return Frame((_body("Fuselage", rows + tail_rows),), (Mount(x=front),))
    rows = [*_forward(0.0, wing, w, h), (back, 0.6 * w, 0.6 * h, 0.0)]
    mount = Mount(x=back + 0.002, pusher=True)
    pod = _body("Pod" if brief.layout == "twin_boom" else "Fuselage", rows)
    if brief.layout != "twin_boom":
        return Frame((pod,), (mount,))
    y = next(s.y for s in others if s.role == "fin")
    boom_rows = [(wing.x + 0.3 * size.root, _BOOM, _BOOM, 0.25 * h), (end, _BOOM, _BOOM, 0.25 * h)]
    return Frame((pod, _body("Booms", boom_rows, mirrored=True, y=y, boom=True)), (mount,))
