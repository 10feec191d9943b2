"""The propeller on the airframe: the air it drives aft, what stands in it, and the force across its shaft."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.engine.geometry.placed import placed_at
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]
Place = tuple[float, float, float]
#: A propeller's blades bear across their shaft as de Young's fit of Ribner's charts has it.
_ACROSS, _ANGLE, _SPREAD = 4.25, math.radians(8.0), 2.0
#: Width of the driven air over the disc's: between cruise (0.95) and standing (0.71). Past this share lost the sum of
#: drag areas no longer means anything.
_NARROWED, MOST_LOST = 0.85, 0.35


def induced_speed(thrust: ArrayLike, speed: ArrayLike, disc: float, air_density: float) -> Array:
    """Return the speed the air has gained at the disc, m/s; nothing without thrust.

    Parameters
    ----------
    thrust : array_like
        Of one propeller, N.
    speed : array_like
        Airspeed, m/s.
    disc : float
        Area swept, m².

    Source
    ------
    Actuator disc: v = −V/2 + √(V²/4 + T/(2ρA)). Handbook of the trade §14.
    """
    v, pull = np.asarray(speed, float), np.maximum(np.asarray(thrust, float), 0.0)
    result: Array = np.maximum(-v / 2 + np.sqrt(v**2 / 4 + pull / (2 * air_density * disc)), 0.0)
    return result


def wash_speed(behind: ArrayLike, radius: float, induced: ArrayLike) -> Array:
    """Return the speed the air has gained some way behind a disc, m/s; nothing ahead of it.

    Parameters
    ----------
    behind : array_like
        Distance behind the disc, m.
    radius : float
        Of the disc, m.
    induced : array_like
        Induced speed at the disc, m/s.

    Returns
    -------
    ndarray
        m/s.

    Source
    ------
    Vortex tube: v(1 + x/√(x² + R²)), twice that of the disc far aft. Handbook of the trade §14.
    """
    x = np.asarray(behind, float)
    return np.where(x > 0, np.asarray(induced, float) * (1 + x / np.hypot(x, radius)), 0.0)


def tube_radius(radius: float, speed: ArrayLike, induced: ArrayLike, wash: ArrayLike) -> Array:
    """Return the radius of the driven air, m: what passes the disc passes there, R√((V + v_i)/(V + v)).

    Parameters
    ----------
    radius : float
        Of the disc, m.
    speed : array_like
        Airspeed, m/s.
    induced : array_like
        Induced speed at the disc, m/s.
    wash : array_like
        Speed gained there, m/s.

    Returns
    -------
    ndarray
        m.
    """
    v, near, far = (np.asarray(value, float) for value in (speed, induced, wash))
    through = v + far
    return radius * np.sqrt(np.where(through > 0, (v + near) / np.where(through > 0, through, 1.0), 1.0))


def pressure_gain(speed: ArrayLike, wash: ArrayLike, air_density: float) -> Array:
    """Return the dynamic pressure that the driven air has over the free stream, Pa: ½ρ((V + v)² − V²).

    Parameters
    ----------
    speed : array_like
        Airspeed, m/s.
    wash : array_like
        Speed gained there, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray
        Pa.
    """
    v, more = np.asarray(speed, float), np.asarray(wash, float)
    result: Array = 0.5 * air_density * more * (2 * v + more)
    return result


def covered(distance: ArrayLike, width: ArrayLike, radius: ArrayLike) -> Array:
    """Return the share of strips that stands in a tube: wholly within, wholly outside, or across its edge.

    Parameters
    ----------
    distance, width : array_like
        Of each strip's middle from the axis, and how wide it is, m.
    radius : array_like
        Of the tube there, m.
    """
    d, w, r = (np.asarray(value, float) for value in (distance, width, radius))
    result: Array = np.clip((r - d) / np.maximum(w, 1e-9) + 0.5, 0.0, 1.0)
    return result


def across_slope(blades: int, chord: float, pitch_ratio: float) -> float:
    """Return the normal force of a propeller per angle of its shaft to the air, over dynamic pressure and disc, 1/rad.

    Parameters
    ----------
    blades : int
    chord : float
        Blade chord at three quarters of the radius, over the diameter.
    pitch_ratio : float
        Pitch over diameter.

    Source
    ------
    de Young, Journal of Aircraft 2 (1965) 479, after Ribner, NACA Report 819, lightly loaded:
    4.25 σ sin(β + 8°)/(1 + 2σ), σ = (4/3π) B c/D, β the blade angle at three quarters of the radius.
    """
    solidity = 4 / (3 * math.pi) * blades * chord
    angle = math.atan2(pitch_ratio, 0.75 * math.pi)
    return _ACROSS * solidity * math.sin(angle + _ANGLE) / (1 + _SPREAD * solidity)


class Strips(NamedTuple):
    """Parts of the airframe behind a propeller: how far behind and off its axis, how wide, and what each counts, (n,).

    All in m but ``share``, which is a drag area, m², or any weight.
    """

    behind: Array
    distance: Array
    width: Array
    share: Array


@kept()
def strips_of(surface: Surface, start: float, end: float, place: Place, count: int = 16) -> Strips:
    """Cut a surface from one distance out to another into strips as a propeller at a place sees them.

    ``share`` is each strip's area, m²; ``behind`` is taken at the quarter chord. Both sides of a mirrored surface.

    Parameters
    ----------
    surface : Surface
    start, end : float
        Along the panel, m.
    place : tuple of float
        Of the disc, in aircraft axes, m.
    count : int
        Strips a side.

    Returns
    -------
    Strips
        With areas, m², as their share.
    """
    out = np.array([s.y for s in surface.stations])
    edges = np.linspace(max(start, out[0]), min(end, out[-1]), count + 1)
    middle, width = 0.5 * (edges[1:] + edges[:-1]), np.diff(edges)
    here = placed_at(surface, middle)
    chord, (x, y, z) = here.chord, here.leading.T
    sides = np.array([1.0, -1.0] if surface.mirrored else [1.0])[:, None]
    distance = np.hypot(sides * y - place[1], z - place[2]).ravel()
    behind = np.tile(x + 0.25 * chord - place[0], len(sides))
    return Strips(behind, distance, np.tile(width, len(sides)), np.tile(chord * width, len(sides)))


@kept()
def body_strips(body: Body, place: Place) -> Strips:
    """Cut a body at its cross-sections as a propeller at a place sees them; ``share`` is the skin of each piece, m².

    Parameters
    ----------
    body : Body
    place : tuple of float
        Of the disc, in aircraft axes, m.

    Returns
    -------
    Strips
        With skins, m², as their share.
    """
    rows = np.array([(s.x, s.width, s.height, s.z) for s in body.sections], float)
    middle, step = 0.5 * (rows[1:] + rows[:-1]), np.diff(rows[:, 0])
    rounding = np.array(body.roundings)
    rounding = 0.5 * (rounding[1:] + rounding[:-1])
    skin = 2 * (middle[:, 1] + middle[:, 2]) * step * (1 - rounding * (1 - math.pi / 4))
    sides = np.array([1.0, -1.0] if body.mirrored else [1.0])[:, None]
    distance = np.hypot(sides * body.y - place[1], middle[:, 3] - place[2]).ravel()
    both = len(sides)
    return Strips(
        np.tile(middle[:, 0] - place[0], both),
        distance,
        np.tile(np.maximum(middle[:, 1], middle[:, 2]), both),
        np.tile(skin, both),
    )


def joined(parts: Sequence[Strips]) -> Strips:
    """Put strips together."""
    if not parts:
        return Strips(*(np.zeros(0) for _ in range(4)))
    return Strips(*(np.concatenate(column) for column in zip(*parts, strict=True)))


def share_washed(strips: Strips, radius: float, speed: ArrayLike, induced: ArrayLike) -> tuple[Array, Array]:
    """Return the share of strips in the driven air, and the mean speed that air has gained there, m/s.

    Parameters
    ----------
    radius : float
        Of the propeller, m.
    speed, induced : array_like, shape (m,)
        Airspeed, and the speed gained at the disc, m/s.
    """
    v, near = np.atleast_1d(speed).astype(float)[:, None], np.atleast_1d(induced).astype(float)[:, None]
    far = wash_speed(strips.behind, radius, near)
    inside = covered(strips.distance, strips.width, tube_radius(radius, v, near, far)) * (strips.behind > 0)
    whole = strips.share.sum()
    if whole <= 0:
        return np.zeros(len(near)), np.zeros(len(near))
    wetted = inside @ strips.share
    mean = (inside * far) @ strips.share / np.where(wetted > 0, wetted, 1.0)
    return wetted / whole, mean


class Scrubbed(NamedTuple):
    """What stands behind the propellers of an airframe, ``share`` a drag area in m², and how many turn."""

    strips: Strips
    propellers: int


def thrust_lost(found: Scrubbed | None, diameter: float) -> float:
    """Return the share of the thrust that its own wash costs on what stands in it.

    Parameters
    ----------
    found : Scrubbed
        What stands behind the discs.
    diameter : float
        Of the propeller, m.

    Returns
    -------
    float
        Share of the thrust.

    Source
    ------
    Far aft the driven air carries 2T/A more dynamic pressure than the free stream, standing or flying (momentum), so
    that drag areas f in it cost T·f/A: docs/theory.md §11. The tube is taken at a width between disc and far aft.
    """
    if found is None or found.propellers == 0:
        return 0.0
    strips = found.strips
    inside = covered(strips.distance, strips.width, _NARROWED * 0.5 * diameter) * (strips.behind > 0)
    disc = math.pi * diameter**2 / 4
    return min(float(inside @ strips.share) / (found.propellers * disc), MOST_LOST)
