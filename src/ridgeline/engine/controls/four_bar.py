"""A servo's arm, a rod and a horn, solved in space: which way a surface stands for every turn of the servo.

Both arm and horn turn about axes of their own, which need not be parallel; a rod of one length joins their ends.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
#: A rod nearer than this to the line through the centre it turns is near over-centre, rad (second part of the handbook
#: §17).
NEAR_CENTRE = math.radians(20.0)


class Bar(NamedTuple):
    """One end of a linkage: a point on its axis, the axis (a unit vector), and the vector to the rod's end, (3,) each.

    The vector is that at neutral.
    """

    centre: Array
    axis: Array
    vector: Array


class Motion(NamedTuple):
    """What a linkage does at each turn of its servo, (n,) each; nan where it binds.

    ``surface`` is how far the horn has turned about its axis, rad; ``ratio`` its turn over that of the servo;
    ``at_arm`` and ``at_horn`` how far the rod stands off the line through the arm's and the horn's centre, rad: the
    linkage is near over-centre where one is small.
    """

    surface: Array
    ratio: Array
    at_arm: Array
    at_horn: Array


def bar(centre: ArrayLike, axis: ArrayLike, vector: ArrayLike) -> Bar:
    """Return one end of a linkage, its axis made a unit.

    Parameters
    ----------
    centre, axis, vector : array_like, shape (3,)

    Returns
    -------
    Bar
    """
    along = np.asarray(axis, float)
    return Bar(np.asarray(centre, float), along / np.linalg.norm(along), np.asarray(vector, float))


def turned(one: Bar, angle: ArrayLike) -> Array:
    """Return where the end of a bar is after turns about its axis.

    Parameters
    ----------
    one : Bar
    angle : array_like, shape (n,)
        rad, by the right hand about the axis.

    Returns
    -------
    ndarray, shape (n, 3)
        m.

    Source
    ------
    Rodrigues' rotation.
    """
    a = np.atleast_1d(np.asarray(angle, float))[:, None]
    along = one.axis * float(one.axis @ one.vector)
    found: Array = one.centre + along + np.cos(a) * (one.vector - along) + np.sin(a) * np.cross(one.axis, one.vector)
    return found


def rod_length(arm: Bar, horn: Bar) -> float:
    """Return the rod that leaves both at neutral, m."""
    return float(np.linalg.norm(arm.centre + arm.vector - horn.centre - horn.vector))


def motion(arm: Bar, horn: Bar, turns: ArrayLike, rod: float | None = None) -> Motion:
    """Return how a surface stands at each turn of its servo.

    Parameters
    ----------
    arm, horn : Bar
    turns : array_like, shape (n,)
        Of the servo from neutral, rad.
    rod : float, optional
        m; what leaves both at neutral where left out.

    Returns
    -------
    Motion

    Source
    ------
    |A(φ) − P(δ)|² = L² is a cos δ + b sin δ = k, so δ = atan2(b, a) ± acos(k/√(a² + b²)) (second part of the handbook
    §17); the branch is that which the horn stands on at neutral. The ratio by the velocities along the rod:
    u·(e_s × r_s) φ′ = u·(e_h × r_h) δ′.
    """
    long = rod_length(arm, horn) if rod is None else rod
    ends = turned(arm, turns)
    beside, across, still = _horn_terms(horn)
    a, b, k = _closing(ends, horn, beside, across, still, long)
    size = np.hypot(a, b)
    with np.errstate(invalid="ignore", divide="ignore"):
        reach = np.arccos(np.where(size > 0, k / size, np.nan))
    middle = np.arctan2(b, a)
    way = _branch(arm, horn, beside, across, still, long)
    surface = _wrapped(middle + way * reach)
    pivots = turned(horn, np.nan_to_num(surface))
    rods = pivots - ends
    arm_speed = np.cross(arm.axis, ends - arm.centre)
    horn_speed = np.cross(horn.axis, pivots - horn.centre)
    with np.errstate(invalid="ignore", divide="ignore"):
        ratio = np.sum(rods * arm_speed, axis=1) / np.sum(rods * horn_speed, axis=1)
    bound = ~np.isfinite(surface)
    ratio = np.where(bound | ~np.isfinite(ratio), np.nan, ratio)
    return Motion(surface, ratio, _off(rods, arm_speed, bound), _off(rods, horn_speed, bound))


def _horn_terms(horn: Bar) -> tuple[Array, Array, Array]:
    """Return the horn's vector square to its axis, that a quarter turn on, and what of it lies along the axis."""
    still = horn.axis * float(horn.axis @ horn.vector)
    return horn.vector - still, np.cross(horn.axis, horn.vector), still


def _closing(
    ends: Array, horn: Bar, beside: Array, across: Array, still: Array, long: float
) -> tuple[Array, Array, Array]:
    """Return a, b and k of a cos δ + b sin δ = k for each place of the arm's end."""
    apart = ends - horn.centre - still
    size = float(beside @ beside)
    k = 0.5 * (np.sum(apart**2, axis=1) + size - long**2)
    return apart @ beside, apart @ across, k


def _branch(arm: Bar, horn: Bar, beside: Array, across: Array, still: Array, long: float) -> int:
    """Return on which side of the arm's end the horn stands at neutral: 1 or -1."""
    a, b, _k = _closing((arm.centre + arm.vector)[None, :], horn, beside, across, still, long)
    return -1 if float(np.arctan2(b[0], a[0])) > 0 else 1


def _wrapped(angle: Array) -> Array:
    found: Array = (angle + math.pi) % (2 * math.pi) - math.pi
    return found


def _off(rods: Array, speed: Array, bound: NDArray[np.bool_]) -> Array:
    """Return how far rods stand off the line through a centre, rad: a right angle where they pull square."""
    with np.errstate(invalid="ignore", divide="ignore"):
        share = np.abs(np.sum(rods * speed, axis=1)) / (np.linalg.norm(rods, axis=1) * np.linalg.norm(speed, axis=1))
    found: Array = np.where(bound, np.nan, np.arcsin(np.clip(share, 0.0, 1.0)))
    return found


def planar(
    servo: tuple[float, float],
    arm: tuple[float, float],
    hinge: tuple[float, float],
    horn: tuple[float, float],
    turns: ArrayLike,
    rod: float | None = None,
) -> Motion:
    """Return how a surface stands where servo and hinge turn in one plane, by plain numbers.

    Parameters
    ----------
    servo, hinge : tuple of float
        x aft and z up of both centres, m.
    arm, horn : tuple of float
        Radius, m, and angle at neutral, rad, from aft towards up.
    turns : array_like, shape (n,)
        Of the servo from neutral, rad, from aft towards up.
    rod : float, optional
        m; what leaves both at neutral where left out.

    Returns
    -------
    Motion
        ``surface`` from aft towards up: a trailing edge that goes up is positive.
    """
    # Turning from aft (x) towards up (z) is turning about −y by the right hand.
    axis = (0.0, -1.0, 0.0)

    def made(centre: tuple[float, float], radius: tuple[float, float]) -> Bar:
        long, angle = radius
        return bar((centre[0], 0.0, centre[1]), axis, (long * math.cos(angle), 0.0, long * math.sin(angle)))

    return motion(made(servo, arm), made(hinge, horn), turns, rod)
