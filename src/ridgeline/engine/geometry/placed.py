"""A surface in aircraft axes: leading edge, chord, angle and true section at any places along it, as arrays.

Lattice, solid, views, clearances, wash and templates all take the same surface from here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright, raised
from ridgeline.engine.geometry.section_outline import outline_of
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]
#: Places along the span that follow the parabola of a bent surface.
_BENT = 6
_MIRROR = np.array([1.0, -1.0, 1.0])


def in_the_middle(surface: Surface) -> bool:
    """Tell whether a lone surface lies in the plane of symmetry, so that both sides of the aircraft are alike."""
    return abs(surface.y) <= 1e-3 and abs(math.cos(surface.cant)) <= 0.02


def tip_angles(surface: Surface) -> tuple[float, float]:
    """Return the nose-up angles of the tips that the measured warps mean, starboard and port, rad.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    starboard, port: float
        rad.
    """
    chord = surface.stations[-1].chord
    return math.atan2(surface.warp_starboard, chord), math.atan2(surface.warp_port, chord)


@dataclass(frozen=True)
class Placed:
    """A surface's starboard side at n places ``out`` along it, m.

    ``leading`` (n, 3) m, in aircraft axes; ``chord`` (n,) m; ``angle`` (n,) rad, to the body axis, nose up; ``c`` and
    ``s`` of the cant turn what stands over the chord.
    """

    out: Array
    leading: Array
    chord: Array
    angle: Array
    c: float
    s: float

    def points(self, share: ArrayLike, over: ArrayLike = 0.0) -> Array:
        """Return points at shares of the chord, and over the chord line as shares of it, (m,): shape (n, m, 3), m."""
        x, z = np.broadcast_arrays(np.asarray(share, float), np.asarray(over, float))
        along, high = self.chord[:, None] * x, self.chord[:, None] * z
        cos, sin = np.cos(self.angle)[:, None], np.sin(self.angle)[:, None]
        back, up = along * cos + high * sin, high * cos - along * sin
        result: Array = self.leading[:, None, :] + np.stack([back, -up * self.s, up * self.c], axis=-1)
        return result

    def along(self, share: ArrayLike) -> Array:
        """Return the line at a share of the chord of each place, (n,): shape (n, 3), m."""
        shares = np.broadcast_to(np.asarray(share, float), self.chord.shape)
        result: Array = np.einsum("iij->ij", self.points(shares))
        return result

    @property
    def trailing(self) -> Array:
        """The trailing edge, (n, 3) m."""
        edge: Array = self.points([1.0])[:, 0]
        return edge


def mirrored(points: Array) -> Array:
    """Return points of the other side, (…, 3)."""
    other: Array = points * _MIRROR
    return other


@kept()
def placed(surface: Surface) -> Placed:
    """Place a surface at its stations, at rest.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    Placed
        The starboard side.
    """
    return placed_at(surface, [s.y for s in surface.stations])


@kept()
def bent(surface: Surface) -> Placed:
    """Place a surface as it flies, bent to its droop under load: at its stations, and at more where that bends it.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    Placed
        The starboard side.
    """
    return placed_at(surface, _followed(surface), flying=True)


def _followed(surface: Surface) -> Array:
    """Return places along a surface, m, that follow its stations and, where it bends, a parabola."""
    stations = np.array([s.y for s in surface.stations])
    if not surface.droop:
        return stations
    return np.union1d(stations, stations[0] + np.linspace(0.0, 1.0, _BENT) * (stations[-1] - stations[0]))


def warped(surface: Surface, warp: float) -> Placed:
    """Place a surface as it flies, with a warp.

    Parameters
    ----------
    warp : float
        Nose-up angle of the tip, rad; in proportion to the distance out.

    Returns
    -------
    Placed
        The starboard side, bent to its droop.
    """
    return placed_at(surface, _followed(surface), flying=True, warp=warp)


def placed_at(surface: Surface, out: ArrayLike, *, flying: bool = False, warp: float = 0.0) -> Placed:
    """Place a surface at distances out along it; beyond its ends it is held as at the end.

    Parameters
    ----------
    out : array_like, shape (n,)
        Along the panel from the surface's root, m.
    flying : bool
        Bent to its droop under load.
    warp : float
        Nose-up angle of the tip, rad; in proportion to the distance out.

    Returns
    -------
    Placed
        The starboard side.

    Source
    ------
    docs/theory.md §2, places.
    """
    y = np.asarray(out, float)
    rows = np.array([(s.y, s.chord, s.x, s.z, s.twist) for s in surface.stations], float)
    chord, x, z, twist = (np.interp(y, rows[:, 0], rows[:, k]) for k in range(1, 5))
    share = np.clip((y - rows[0, 0]) / (rows[-1, 0] - rows[0, 0]), 0.0, 1.0)
    if flying:
        z = z + (surface.droop or 0.0) * share**2
    # Twist, incidence and warp turn about the leading edge, so that this stays where it is.
    across, up = raised(surface, y, z)
    leading = np.column_stack([surface.x + x, across, up])
    c, s = math.cos(surface.cant), math.sin(surface.cant)
    angle = np.zeros_like(y) if is_upright(surface) else surface.incidence + twist + warp * share
    return Placed(y, leading, chord, angle, c, s)


def mean_chord_of(surface: Surface) -> float:
    """Return the plain mean chord of a surface's half, m: what thickness ratios refer to."""
    y = np.array([s.y for s in surface.stations])
    c = np.array([s.chord for s in surface.stations])
    return float(np.sum(0.5 * (c[1:] + c[:-1]) * np.diff(y)) / (y[-1] - y[0]))


def relative_sizes(surface: Surface) -> tuple[float, float]:
    """Return a surface's thickness and that of its sheet over its mean chord.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    thickness, sheet: float
        Over the mean chord.
    """
    chord = mean_chord_of(surface)
    thickness = min(max(surface.thickness / chord, 0.002), 0.6)
    return round(thickness, 4), round(min(max(surface.sheet / chord, 0.0005), 0.3), 4)


@kept()
def outline_over_chord(surface: Surface) -> Array:
    """Return the closed outline of a section over a unit chord, (n, 2), from the trailing edge over the top.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    ndarray, shape (n, 2)
        Over a unit chord.
    """
    if surface.section == "profile" and surface.profile is not None:
        return np.array(surface.profile.points)
    return outline_of(surface.section, *relative_sizes(surface))


def sections(here: Placed, outline: Array) -> Array:
    """Return the true sections of a placed surface.

    Parameters
    ----------
    here : Placed
        At n places.
    outline : ndarray, shape (m, 2)
        Over a unit chord.

    Returns
    -------
    ndarray, shape (n, m, 3)
        In aircraft axes, m.
    """
    return here.points(outline[:, 0], outline[:, 1])
