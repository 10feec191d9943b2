"""Small parts of a design at their sizes: motor mounts, horns, frames of servos; cut from ply or printed alike."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from ridgeline.design.airframe import Body
from ridgeline.design.cutting import PLY_2, PLY_3
from ridgeline.design.document import Design
from ridgeline.design.power import Motor, Mount, PowerTrain
from ridgeline.engine.build.seats import servo_case, servo_mass
from ridgeline.engine.report import Report

if TYPE_CHECKING:
    # Imported where a horn is drawn: findings ask for a motor's bolts before any window is.
    from shapely import Polygon

#: Ply that small parts are cut from, and how thick it is, m; its density, kg/m³ (birch: the shelf's).
PLY, HORN_PLY, PLY_DENSITY = (PLY_3, 0.003), (PLY_2, 0.002), 680.0
#: Bolt circle of an outrunner over its diameter where it was not measured, in steps of half a millimetre; motors
#: thinner than this take 2 mm bolts, others 3 mm; play of a bolt in its hole, m (typical of motors of 18 to 50 mm).
CIRCLE, _STEP, _THIN, PLAY = 0.58, 0.0005, 0.022, 0.0002
#: The shaft's end and its clip turn in a hole of this share of the motor; room round a motor; a plate is no larger
#: than this over the motor, nor where nothing holds it; wires go out through a notch so wide and deep, m (chosen).
_SHAFT, _ROOM, _MOST, NOTCH = 0.3, 0.004, 1.9, (0.010, 0.006)
#: A section at least as round as this takes a round plate.
_ROUND = 0.8
#: What is left round the hole of a horn, and at either end of it; arms of linkages that have a horn, m (chosen).
LAND = 0.0035
_HORNED = ("rod", "pull_pull", "spring_line")


class MountPlan(NamedTuple):
    """A plate that a motor is bolted to, m: how wide and high, or round; ``down`` and ``right`` rad of the shaft."""

    name: str
    width: float
    height: float
    round: bool
    circle: float
    measured: bool
    bolt: float
    shaft: float
    motor: float
    down: float
    right: float
    pieces: int

    @property
    def bolts(self) -> tuple[tuple[float, float], ...]:
        """Where its four bolts stand, about the shaft, m."""
        r = 0.5 * self.circle * math.sqrt(0.5)
        return (r, r), (-r, r), (-r, -r), (r, -r)


class HornPlan(NamedTuple):
    """A horn, m: its base along the chord, its holes over the skin, how far they stand ahead, and a tab let in."""

    name: str
    base: float
    holes: tuple[float, ...]
    ahead: float
    tab: float
    pieces: int

    @property
    def outline(self) -> Polygon:
        """Its outline: the hinge at nothing, the base behind it, the holes up."""
        from shapely import MultiPoint, Point, Polygon

        tip = Point(-self.ahead, self.holes[-1]).buffer(LAND, quad_segs=12)
        low = Point(-self.ahead, self.holes[0]).buffer(LAND, quad_segs=12)
        feet = [(0.0, 0.0), (self.base, 0.0)]
        corners = [*feet, *tip.exterior.coords, *low.exterior.coords]
        return Polygon(MultiPoint(corners).convex_hull.exterior)  # type: ignore[attr-defined]


class FramePlan(NamedTuple):
    """A frame that holds a servo lying on its side, m: the case, thick and across, and how many."""

    name: str
    thick: float
    wide: float
    pieces: int


def circle_of(motor: Motor) -> tuple[float, bool]:
    """Return the bolt circle of a motor, m, and whether it was measured.

    Parameters
    ----------
    motor : Motor

    Returns
    -------
    circle : float
    measured : bool
        False where it is that of its class: to be measured before holes are drilled.
    """
    if motor.bolt_circle > 0:
        return motor.bolt_circle, True
    return max(round(CIRCLE * motor.diameter / _STEP) * _STEP, 0.006), False


def mounts_of(design: Design) -> tuple[MountPlan, ...]:
    """Return the motor mounts of a design, as large as the body they close leaves.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of MountPlan
        None of a glider, nor of a motor whose diameter is not known.
    """
    power = design.power
    if power is None or power.motor is None or power.motor.diameter <= 0:
        return ()
    return tuple(_mount(design, power, power.motor, k, mount) for k, mount in enumerate(power.mounts))


def _mount(design: Design, power: PowerTrain, motor: Motor, k: int, mount: Mount) -> MountPlan:
    circle, measured = circle_of(motor)
    bolt = (0.002 if motor.diameter < _THIN else 0.003) + PLAY
    body = _body_at(design, mount)
    least = max(motor.diameter, circle + 3 * bolt) + _ROOM
    width = height = least
    round_ = body is None
    if body is not None:
        wide, tall, rounding = _inside(body, mount.x)
        # A plate fills the body it closes, unless that is far larger than its motor.
        width, height = (min(max(size, least), _MOST * motor.diameter + _ROOM) for size in (wide, tall))
        round_ = rounding >= _ROUND
        if round_:
            width = height = max(min(wide, tall), least)
    if mount.inside is not None:
        # Measured: it closes that, whatever the body is drawn as.
        width, height, round_ = mount.inside, mount.inside, True
    words = "Motor mount" + (f" {k + 1}" if len(power.mounts) > 1 else "")
    return MountPlan(words, width, height, round_, circle, measured, bolt, _SHAFT * motor.diameter, motor.diameter,
                     mount.down, mount.right, 2 if mount.mirrored else 1)  # fmt: skip


def _body_at(design: Design, mount: Mount) -> Body | None:
    """Return the body that a mount stands on: the one it is nearest to, within a motor's length."""
    near: list[tuple[float, Body]] = []
    for body in design.bodies:
        x = [one.x for one in body.sections]
        off = max(x[0] - mount.x, mount.x - x[-1], 0.0)
        if off <= 0.05 and abs(abs(mount.y) - abs(body.y)) <= 0.02:
            near.append((off, body))
    return min(near, key=lambda one: one[0])[1] if near else None


def _inside(body: Body, x: float) -> tuple[float, float, float]:
    """Return how wide, high and round a body is inside its walls at a place, m."""
    places = [one.x for one in body.sections]
    wall = 0.0 if body.built is None else body.built.sheet if body.built.form in ("box", "folded_box") else 0.001
    width, height = (float(np.interp(x, places, [getattr(one, name) for one in body.sections]))
                     for name in ("width", "height"))  # fmt: skip
    return width - 2 * wall, height - 2 * wall, float(np.interp(x, places, body.roundings))


def horns_of(design: Design, report: Report) -> tuple[HornPlan, ...]:
    """Return the horns of a design, one plan for each control that has them.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design: its linkages at their sizes.

    Returns
    -------
    tuple of HornPlan
    """
    found = []
    for row in report.results.linking.rows:
        one = row.linkage
        if one.kind not in _HORNED:
            continue
        surface = design.surfaces[row.surface]
        holes = tuple(sorted({*one.horn_holes, one.horn}))
        sides = 1 if one.port == "joined" else len(row.sides)
        count = sides * (2 if one.kind == "pull_pull" else 1)
        name = f"{surface.name}: {row.control.kind} horn"
        found.append(HornPlan(name, one.base, holes, one.horn_ahead, surface.sheet, count))
    return tuple(found)


def frames_of(design: Design) -> tuple[FramePlan, ...]:
    """Return the frames of the servos that sit in surfaces: they are screwed in and come out again.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of FramePlan
    """
    surfaces = {surface.id for surface in design.surfaces}
    found = []
    for item in design.parts:
        if item.servo is not None and item.on is not None and item.on.to in surfaces:
            thick, wide = servo_case(servo_mass(item))
            if thick > 0:
                found.append(FramePlan(f"{item.name}: frame", thick, wide, item.count))
    return tuple(found)
