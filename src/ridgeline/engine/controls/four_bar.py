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

    The vector is that at neutral; many at once by leading axes, (..., 3).
    """

    centre: Array
    axis: Array
    vector: Array


class Motion(NamedTuple):
    """What a linkage does at each turn of its servo, (..., n) each; nan where it binds.

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
    ndarray, shape (..., n, 3)
        m.

    Source
    ------
    Rodrigues' rotation.
    """
    a = np.atleast_1d(np.asarray(angle, float))[..., None]
    along = one.axis * (one.vector @ one.axis)[..., None]
    beside, across = (one.vector - along)[..., None, :], np.cross(one.axis, one.vector)[..., None, :]
    found: Array = one.centre + along[..., None, :] + np.cos(a) * beside + np.sin(a) * across
    return found


def rod_length(arm: Bar, horn: Bar) -> Array:
    """Return the rod that leaves both at neutral, m, (...)."""
    found: Array = np.linalg.norm(arm.centre + arm.vector - horn.centre - horn.vector, axis=-1)
    return found


def motion(arm: Bar, horn: Bar, turns: ArrayLike, rod: ArrayLike | None = None) -> Motion:
    """Return how a surface stands at each turn of its servo.

    Parameters
    ----------
    arm, horn : Bar
    turns : array_like, shape (n,)
        Of the servo from neutral, rad.
    rod : array_like, optional
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
    long = rod_length(arm, horn) if rod is None else np.asarray(rod, float)
    # What of the horn turns, and a quarter turn on; what lies along its axis stands still.
    still = horn.axis * (horn.vector @ horn.axis)[..., None]
    beside, across = horn.vector - still, np.cross(horn.axis, horn.vector)
    ends = turned(arm, turns)
    a, b, k = _closing(ends, horn, (beside, across, still), long)
    size = np.hypot(a, b)
    with np.errstate(invalid="ignore", divide="ignore"):
        reach = np.arccos(np.where(size > 0, k / size, np.nan))
    # The side of the arm's end on which the horn stands at neutral.
    first = (arm.centre + arm.vector)[..., None, :]
    a_0, b_0, _k = _closing(first, horn, (beside, across, still), long)
    way = np.where(np.arctan2(b_0, a_0) > 0, -1.0, 1.0)
    surface = _wrapped(np.arctan2(b, a) + way * reach)
    turn = np.nan_to_num(surface)[..., None]
    pivots = (
        horn.centre + still[..., None, :] + np.cos(turn) * beside[..., None, :] + np.sin(turn) * across[..., None, :]
    )
    rods = pivots - ends
    arm_speed = np.cross(arm.axis, ends - arm.centre)
    horn_speed = np.cross(horn.axis, pivots - horn.centre)
    with np.errstate(invalid="ignore", divide="ignore"):
        ratio = np.sum(rods * arm_speed, axis=-1) / np.sum(rods * horn_speed, axis=-1)
    bound = ~np.isfinite(surface)
    ratio = np.where(bound | ~np.isfinite(ratio), np.nan, ratio)
    return Motion(surface, ratio, _off(rods, arm_speed, bound), _off(rods, horn_speed, bound))


def _closing(ends: Array, horn: Bar, turning: tuple[Array, Array, Array], long: Array) -> tuple[Array, Array, Array]:
    """Return a, b and k of a cos δ + b sin δ = k for each place of the arm's end, (..., n)."""
    beside, across, still = turning
    apart = ends - horn.centre - still[..., None, :]
    size = np.sum(beside**2, axis=-1)[..., None]
    k = 0.5 * (np.sum(apart**2, axis=-1) + size - np.asarray(long)[..., None] ** 2)
    return np.sum(apart * beside[..., None, :], axis=-1), np.sum(apart * across[..., None, :], axis=-1), k


def _wrapped(angle: Array) -> Array:
    found: Array = (angle + math.pi) % (2 * math.pi) - math.pi
    return found


def _off(rods: Array, speed: Array, bound: NDArray[np.bool_]) -> Array:
    """Return how far rods stand off the line through a centre, rad: a right angle where they pull square."""
    long = np.linalg.norm(rods, axis=-1) * np.linalg.norm(speed, axis=-1)
    with np.errstate(invalid="ignore", divide="ignore"):
        share = np.abs(np.sum(rods * speed, axis=-1)) / long
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
