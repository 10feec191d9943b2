"""What a linkage does: its arm, rod and horn in place, the angle of its control over the servo's travel, its play.

Axes at the horn: x aft from the hinge, y out along it, z up; a trailing edge that goes down is positive.
"""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.four_bar import NEAR_CENTRE, Bar, Motion, bar, motion

Array = NDArray[np.float64]
Side = Literal["starboard", "port"]
#: Servo turns over which a linkage is followed, of its travel each way, and how many.
FOLLOWED = 61
_FACING = {"out": (0.0, 1.0, 0.0), "in": (0.0, -1.0, 0.0), "up": (0.0, 0.0, 1.0), "down": (0.0, 0.0, -1.0)}
_POINTS = {"below": (0.0, 0.0, -1.0), "above": (0.0, 0.0, 1.0), "out": (0.0, 1.0, 0.0), "in": (0.0, -1.0, 0.0)}
_OTHER = {"out": "in", "in": "out"}
_AHEAD = np.array([-1.0, 0.0, 0.0])
#: Free play at the hinge by its kind where it was not measured, rad, and friction, N m for each metre of hinge (chosen:
#: tape and folds have none, a wire in tube the most).
HINGE_PLAY = {
    "tape": 0.0, "fold": 0.0, "fillet": 0.0, "silicone": 0.0, "printed": 0.002, "sewn": 0.003, "rod": 0.005
}  # fmt: skip
HINGE_FRICTION = {
    "tape": 0.004, "fold": 0.010, "fillet": 0.008, "silicone": 0.006, "printed": 0.010, "sewn": 0.004, "rod": 0.006
}  # fmt: skip


class Travel(NamedTuple):
    """A linkage over its servo's travel: ``turns`` of the servo and ``motion`` of the control, (n,) each.

    Turns are those of a rising pulse; the control's angle is positive trailing edge down.
    """

    turns: Array
    motion: Motion

    @property
    def binds(self) -> bool:
        """Whether the rod does not reach somewhere on the way."""
        return bool(np.isnan(self.motion.surface).any())

    @property
    def near_centre(self) -> float:
        """How near to over-centre it comes, rad: the least the rod stands off the line through either centre."""
        return float(min(np.nanmin(self.motion.at_arm), np.nanmin(self.motion.at_horn)))

    @property
    def is_near_centre(self) -> bool:
        """Whether it comes too near to over-centre."""
        return self.binds or self.near_centre < NEAR_CENTRE

    def at(self, turn: ArrayLike) -> Array:
        """Return the control's angle at turns of the servo, rad; nan where it binds."""
        found: Array = np.interp(np.asarray(turn, float), self.turns, self.motion.surface)
        return found


class Throw(NamedTuple):
    """How far a control goes up and down, rad, both positive."""

    up: float
    down: float

    @property
    def differential(self) -> float:
        """Up over down; infinite where it does not go down."""
        return self.up / self.down if self.down > 0 else math.inf


def square_angle(radius: float, toward: ArrayLike, points: ArrayLike) -> float:
    """Return how far ahead of pointing straight an arm stands that is square to its rod, rad.

    Parameters
    ----------
    radius : float
        Of the arm, m.
    toward : array_like, shape (3,)
        From the servo's centre to the horn's hole, m.
    points : array_like, shape (3,)
        Which way the arm points, a unit vector.

    Returns
    -------
    float
        Positive where its end lies ahead; 0 where the horn is nearer than the arm is long.

    Source
    ------
    (v − r a)·a = 0 with a = cos κ p + sin κ f: M cos(κ + ψ) = r, docs/theory.md §14.
    """
    along, forward = float(np.dot(toward, points)), float(np.dot(toward, _AHEAD))
    reach = math.hypot(along, forward)
    if reach <= radius:
        return 0.0
    # a·v = M cos(κ − ψ) with ψ the angle of v from straight, ahead positive.
    straight = math.atan2(forward, along)
    turn = math.acos(radius / reach)
    return min((_half_turn(straight + turn), _half_turn(straight - turn)), key=abs)


def _half_turn(angle: float) -> float:
    return (angle + math.pi) % (2 * math.pi) - math.pi


def built_in(one: Linkage, side: Side) -> tuple[str, str]:
    """Return which way a linkage's shaft looks and its arm points on a side, in that side's own axes."""
    if side == "port" and one.port == "alike":
        return _OTHER.get(one.facing, one.facing), _OTHER.get(one.arm_to, one.arm_to)
    return one.facing, one.arm_to


def arm_radius(one: Linkage) -> float:
    """Return the radius of the arm's hole with its extension, m."""
    return one.arm + one.extension


def bars(one: Linkage, side: Side = "starboard", trim: float = 0.0) -> tuple[Bar, Bar]:
    """Return arm and horn of a linkage at neutral.

    Parameters
    ----------
    one : Linkage
    side : {"starboard", "port"}
    trim : float
        Sub-trim: turn of the servo at neutral, rad.

    Returns
    -------
    arm, horn : Bar
        The arm turns about its shaft as a rising pulse turns it.
    """
    facing, arm_to = built_in(one, side)
    radius, points = arm_radius(one), np.array(_POINTS[arm_to])
    below = -1.0 if one.horn_below else 1.0
    hole = np.array([-one.horn_ahead, 0.0, below * one.horn])
    aside = one.aside if one.aside is not None else -radius * points[1]
    centre = np.array([-one.ahead, aside, one.up])
    ahead = square_angle(radius, hole - centre, points) + one.clocked * 2 * math.pi / one.teeth + one.arm_angle
    vector = radius * (math.cos(ahead) * points + math.sin(ahead) * _AHEAD)
    # Port is drawn as starboard in a mirror, in which everything turns the other way.
    axis = np.array(_FACING[facing]) * (1.0 if side == "starboard" else -1.0)
    if one.backwards in (side, "both"):
        axis = -axis
    arm = bar(centre, axis, vector)
    if trim:
        c, s = math.cos(trim), math.sin(trim)
        arm = bar(centre, axis, c * vector + s * np.cross(arm.axis, vector))
    return arm, bar((0.0, 0.0, 0.0), (0.0, 1.0, 0.0), hole)


def _turned_over(found: Travel) -> Travel:
    moved = found.motion
    return Travel(found.turns, moved._replace(surface=-moved.surface, ratio=-moved.ratio))


def travel_of(one: Linkage, side: Side = "starboard", trim: float = 0.0, most: float = 1.0) -> Travel:
    """Return a linkage over its servo's travel. A port side that has no servo of its own goes as starboard makes it.

    Parameters
    ----------
    one : Linkage
    side : {"starboard", "port"}
    trim : float
        Sub-trim: turn of the servo at neutral, rad. The rod is as long as it is said to be, or as leaves the control at
        neutral with it.
    most : float
        Of the full pulse.

    Returns
    -------
    Travel
    """
    if side == "port" and one.port in ("joined", "opposed"):
        starboard = travel_of(one, "starboard", trim, most)
        return starboard if one.port == "joined" else _turned_over(starboard)
    turns = np.linspace(-most * one.travel, most * one.travel, FOLLOWED)
    if one.kind == "direct":
        way = bars(one, side)[0].axis[1] or 1.0
        ones = np.ones_like(turns)
        return Travel(turns, Motion(way * turns, way * ones, ones * math.pi / 2, ones * math.pi / 2))
    arm, horn = bars(one, side, trim)
    return Travel(turns, motion(arm, horn, turns, one.rod_long))


def throw_between(travel: Travel, low: float, high: float) -> Throw:
    """Return how far a control goes between two turns of its servo; as far as it gets where it binds.

    Parameters
    ----------
    travel : Travel
    low, high : float
        rad.

    Returns
    -------
    Throw
    """
    turns = np.unique([low, high, *travel.turns[(travel.turns > low) & (travel.turns < high)]])
    angles = travel.at(turns)
    angles = angles[np.isfinite(angles)]
    if not len(angles):
        return Throw(0.0, 0.0)
    return Throw(max(float(-angles.min()), 0.0), max(float(angles.max()), 0.0))


def play_of(one: Linkage, travel: Travel) -> float:
    """Return the free play of a control, rad: of both holes, of the servo's gears and of its hinge.

    Parameters
    ----------
    one : Linkage
    travel : Travel

    Returns
    -------
    float

    Source
    ------
    Σ hole plays/horn radius + gear play × ratio (second part of the handbook §17).
    """
    hinge = one.hinge.play if one.hinge.play is not None else HINGE_PLAY[one.hinge.kind]
    ratio = abs(float(np.interp(0.0, travel.turns, travel.motion.ratio)))
    holes = 0.0 if one.kind == "direct" else 2 * one.hole_play / one.horn
    return holes + one.gear_play * (ratio if math.isfinite(ratio) else 1.0) + hinge


def neutral_shift(one: Linkage) -> tuple[float, float]:
    """Return how far a control's neutral moves, rad: by a millimetre more of rod, and by one tooth of the spline.

    Parameters
    ----------
    one : Linkage

    Returns
    -------
    by_millimetre, by_tooth : float
    """
    travel = travel_of(one)
    ratio = float(np.interp(0.0, travel.turns, travel.motion.ratio))
    across = math.sin(float(np.interp(0.0, travel.turns, travel.motion.at_horn)))
    return 0.001 / (one.horn * max(across, 1e-6)), abs(ratio) * 2 * math.pi / one.teeth
