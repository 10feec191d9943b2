"""A surface in a frame of its own to print from: forward, up and out along the panel, in millimetres."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from manifold3d import Manifold
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.engine.build.developed import leading_of
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.templates.solids import loft, outline_corners

Array = NDArray[np.float64]
#: A loft leaves a twisted skin by no more than this, m; what cuts is so much larger than what is cut, mm.
_BULGE, _WIDE = 1e-5, 40.0


class Frame:
    """A surface in a frame of its own, mm: forward, up and out along the panel, from the root's leading edge."""

    def __init__(self, surface: Surface) -> None:
        self.surface = surface
        c, s = math.cos(surface.cant), math.sin(surface.cant)
        self._axes = np.array([(-1.0, 0.0, 0.0), (0.0, -s, c), (0.0, c, s)])
        self._origin = np.array([surface.x, surface.y, surface.z])
        self.y = np.array([station.y for station in surface.stations])
        self.s = leading_of(surface)[:, 0]
        self.followed = _followed(surface)
        self.section = outline_corners(outline_over_chord(surface) * (-1.0, 1.0)) * (-1.0, 1.0)
        self.sides = split(outline_over_chord(surface))

    def at(self, out: ArrayLike, share: ArrayLike, over: ArrayLike) -> Array:
        """Return places at distances out, m, (k,), and over the chord, (k, m): (k, m, 3) mm."""
        here = placed_at(self.surface, out)
        rows = [placed_at(self.surface, [y]).points(a, b)[0]
                for y, a, b in zip(here.out, np.atleast_2d(share), np.atleast_2d(over), strict=True)]  # fmt: skip
        found: Array = 1000 * (np.array(rows) - self._origin) @ self._axes.T
        return found

    def between(self, low: float, high: float) -> Array:
        """Return the places out that a body between two of them must follow, m."""
        inner = self.followed[(self.followed > low + 1e-9) & (self.followed < high - 1e-9)]
        return np.concatenate([[low], inner, [high]])

    def heights(self, share: ArrayLike) -> tuple[Array, Array]:
        """Return the lower and upper side over the chord at shares of it."""
        at = np.asarray(share, float)
        upper, lower = (np.interp(at, np.maximum.accumulate(side[:, 0]), side[:, 1]) for side in self.sides)
        return lower, upper

    def thick(self, out: ArrayLike, share: ArrayLike) -> Array:
        """Return how thick the section is there, mm."""
        lower, upper = self.heights(share)
        chord = np.interp(np.asarray(out, float), self.y, [one.chord for one in self.surface.stations])
        found: Array = 1000 * chord * (upper - lower)
        return found

    def whole(self) -> Manifold:
        """Return the loft of the panel."""
        many = np.tile(self.section, (len(self.followed), 1, 1))
        return loft(self.at(self.followed, many[..., 0], many[..., 1]))

    def middle(self, out: Array, share: ArrayLike) -> Array:
        """Return places half way between the skins, (k, 3) mm."""
        shares = np.broadcast_to(np.asarray(share, float), out.shape)
        lower, upper = self.heights(shares)
        return self.at(out, shares[:, None], 0.5 * (lower + upper)[:, None])[:, 0]

    def ring(self, out: Array, corners: Sequence[tuple[Array, Array]]) -> Array:
        """Return rings of corners forward and up, mm, each (k,), at distances out: (k, n, 3)."""
        w = 1000 * (out - self.y[0]) + self.at(self.y[:1], [[0.0]], [[0.0]])[0, 0, 2]
        rows = [np.column_stack([x, v, w]) for x, v in corners]
        found: Array = np.stack(rows, axis=1)
        return found


def _followed(surface: Surface) -> Array:
    """Return places out that a loft follows, m: the stations, and more where twist bends the skin between them."""
    places = [np.array([station.y for station in surface.stations])]
    for inner, outer in pairwise(surface.stations):
        # Chord times twist is a parabola between stations; straight lines between more places stay near it.
        bulge = 0.25 * abs(outer.twist - inner.twist) * abs(outer.chord - inner.chord)
        places.append(np.linspace(inner.y, outer.y, math.ceil(math.sqrt(bulge / _BULGE)) + 1))
    return np.unique(np.concatenate(places))


def beyond(line: Array, first: float, last: float) -> Array:
    """Return a line carried on straight at its ends by so much height, mm."""
    down, up = line[1] - line[0], line[-1] - line[-2]
    return np.vstack([line[0] - down * first / down[2], line[1:-1], line[-1] + up * last / up[2]])


class Edge(NamedTuple):
    """A line along a panel, mm: places out, m, and there how far forward it lies, and the lower and upper skin."""

    out: Array
    x: Array
    low: Array
    high: Array


def edge_along(frame: Frame, out: Array, share: Array) -> Edge:
    """Return the line at shares of the chord, (k,), of places out, m, (k,)."""
    lower, upper = frame.heights(share)
    low, high = (frame.at(out, share[:, None], side[:, None])[:, 0] for side in (lower, upper))
    return Edge(out, low[:, 0], low[:, 1], high[:, 1])


def behind(frame: Frame, edge: Edge) -> Manifold:
    """Return all that lies behind a line along a panel."""
    tails = frame.at(frame.y, np.ones((len(frame.y), 1)), np.zeros((len(frame.y), 1)))[..., 0]
    far = np.full_like(edge.x, float(tails.min()) - _WIDE)
    deep = np.full_like(edge.x, float(edge.low.min()) - _WIDE)
    top = np.full_like(edge.x, float(edge.high.max()) + _WIDE)
    return loft(frame.ring(edge.out, ((edge.x, deep), (edge.x, top), (far, top), (far, deep))))
