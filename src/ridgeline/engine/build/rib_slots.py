"""Slots of ribs: holes for rods, notches for strips, and where a strip as high as the rib cuts it in two."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.construction import SurfaceBuild
from ridgeline.engine.build.pieces import Line

if TYPE_CHECKING:
    # Imported where ribs are cut: what has none does without it.
    from shapely.geometry.base import BaseGeometry

Array = NDArray[np.float64]
#: What stays of a rib over and under a hole, or under a notch, m; edges of a hole.
LAND, _ROUND = 0.0015, 24


def slotted(
    outline: Array, built: SurfaceBuild, sheet: float, chord: float
) -> tuple[Array, tuple[Array, ...], tuple[Line, ...]]:
    """Return a rib with room for its spars.

    Parameters
    ----------
    outline : ndarray, shape (n, 2)
        Back from the leading edge and over the chord, m.
    built : SurfaceBuild
        Whose spars and strips pass through it.
    sheet : float
        Thickness of the strips' board, m.
    chord : float
        Of the rib's section, m.

    Returns
    -------
    outline : ndarray
    openings : tuple of ndarray
        Holes of rods.
    lines : tuple of Line
        Where it is cut through, for a strip as high as the rib.
    """
    from shapely import Polygon, box

    rib: BaseGeometry = Polygon(outline).buffer(0)
    lines: list[Line] = []
    holes: list[Array] = []
    if built.strips and built.form in ("ribbed",):
        low, high, middle = _at(rib, built.strip_place * chord)
        half, tall = 0.5 * built.strip_width, built.strips * sheet
        if high > low and tall < high - low - LAND:
            rib = _one(rib.difference(box(middle - half, low - 1.0, middle + half, low + tall)), rib)
        elif high > low:
            for x in (middle - half, middle + half):
                a, b, _x = _at(rib, x)
                lines += [Line("cut", np.array([(x, a), (x, b)]))] if b > a else []
    for spar in built.spars:
        low, high, x = _at(rib, spar.place * chord)
        wide, tall = (spar.height, spar.height) if spar.round else (spar.width * spar.count, spar.height)
        if high - low < LAND:
            continue
        middle = 0.5 * (low + high)
        if high - low >= tall + 2 * LAND:
            holes.append(_hole(x, middle, wide, tall, round_=spar.round))
        elif middle - 0.5 * tall - low >= LAND:
            # Open at the top: what is left of it below still bears.
            rib = _one(rib.difference(box(x - 0.5 * wide, middle - 0.5 * tall, x + 0.5 * wide, high + 1.0)), rib)
    shape = rib if isinstance(rib, Polygon) else Polygon(outline)
    inside = tuple(hole for hole in holes if shape.contains(Polygon(hole)))
    return np.asarray(shape.exterior.coords)[:-1], inside, tuple(lines)


def _hole(x: float, z: float, wide: float, tall: float, *, round_: bool) -> Array:
    if not round_:
        return np.array([(x - wide / 2, z - tall / 2), (x + wide / 2, z - tall / 2), (x + wide / 2, z + tall / 2),
                         (x - wide / 2, z + tall / 2)])  # fmt: skip
    turn = 2 * math.pi * np.arange(_ROUND) / _ROUND
    return np.column_stack([x + 0.5 * wide * np.cos(turn), z + 0.5 * tall * np.sin(turn)])


def _at(rib: BaseGeometry, x: float) -> tuple[float, float, float]:
    """Return the lower and upper edge of a rib at a place, and the place, m; nothing between them beside it."""
    from shapely import box

    cut = rib.intersection(box(x - 1e-6, -9.0, x + 1e-6, 9.0))
    if cut.is_empty:
        return 0.0, 0.0, x
    _x, low, _w, high = cut.bounds
    return low, high, x


def _one(shape: BaseGeometry, before: BaseGeometry) -> BaseGeometry:
    """Return a shape that is still in one, else what it was before."""
    from shapely import Polygon

    return shape if isinstance(shape, Polygon) and not shape.is_empty else before
