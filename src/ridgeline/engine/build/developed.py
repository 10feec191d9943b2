"""A skin laid flat: triangles between the stations unrolled one after the other; every edge keeps its length."""

from __future__ import annotations

import math
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.engine.geometry.placed import outline_over_chord, placed
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]
_Spot = tuple[float, ...]
#: A skin is followed over the section in steps no longer than this, of its girth; corners within this of a straight
#: line are left out, m.
_STEP, _STRAIGHT = 1 / 24, 1e-7


class Net(NamedTuple):
    """A skin laid flat: at stations ``out`` (k,) m and ``share`` (m,) of the chord, ``points`` (k, m, 2) m."""

    out: Array
    share: Array
    points: Array

    def at(self, out: ArrayLike, share: ArrayLike) -> Array:
        """Return where places of the skin lie on the sheet, (n, 2) m.

        Parameters
        ----------
        out : array_like, shape (n,)
            m.
        share : array_like, shape (n,)
            Of the chord, from the nose.

        Returns
        -------
        ndarray
        """
        y, x = np.broadcast_arrays(np.asarray(out, float), np.asarray(share, float))
        rows = np.clip(np.searchsorted(self.out, y, "right") - 1, 0, len(self.out) - 2)
        columns = np.clip(np.searchsorted(self.share, x, "right") - 1, 0, len(self.share) - 2)
        a = (y - self.out[rows]) / (self.out[rows + 1] - self.out[rows])
        wide = self.share[columns + 1] - self.share[columns]
        b = np.where(wide > 0, (x - self.share[columns]) / np.where(wide > 0, wide, 1.0), 0.0)
        a, b = np.clip(a, 0.0, 1.0)[..., None], np.clip(b, 0.0, 1.0)[..., None]
        near = (1 - b) * self.points[rows, columns] + b * self.points[rows, columns + 1]
        far = (1 - b) * self.points[rows + 1, columns] + b * self.points[rows + 1, columns + 1]
        found: Array = (1 - a) * near + a * far
        return found

    def outline(self, start: int = 0) -> Array:
        """Return the outline of the skin from its nose, or from one of its shares, back, (n, 2) m."""
        inner, outer = self.points[0, start:], self.points[-1, start:]
        front, back = self.points[:, start], self.points[:, -1]
        ring = np.vstack([front, outer[1:], back[::-1][1:], inner[::-1][1:-1]])
        return _plain(ring)


def opened(net: Net, ahead: Net) -> Array:
    """Return the outline of two sides that are one sheet, opened about their nose, (n, 2) m.

    Parameters
    ----------
    net, ahead : Net
        The side behind the nose, and the one laid ahead of it.

    Returns
    -------
    ndarray
    """
    back, front = net.points, ahead.points
    inner = (front[0, ::-1], back[0, 1:], back[1:, -1])
    outer = (back[-1, ::-1][1:], front[-1, 1:], front[1:-1, -1][::-1])
    return _plain(np.vstack([*inner, *outer]))


def _plain(ring: Array) -> Array:
    """Return an outline without corners that lie on a straight line."""
    # Imported when a skin is first laid flat: it is not needed to open a window.
    from shapely import LinearRing

    kept: Array = np.asarray(LinearRing(ring).simplify(_STRAIGHT).coords)[:-1]
    return kept


def developed(surface: Surface, side: Array, flat: Array, reach: float = 1.0, *, ahead: bool = False) -> Net:
    """Lay one side of a surface flat, from its nose to a share of the chord.

    Parameters
    ----------
    surface : Surface
    side : ndarray, shape (n, 2)
        Of its section over a unit chord, from nose to tail.
    flat : ndarray, shape (k, 2)
        Where the leading edge lies on the sheet at each station, m; only its bays' directions are taken.
    reach : float
        Share of the chord it goes to.
    ahead : bool
        Lay it to the other side of its leading edge: what is folded over there.

    Returns
    -------
    Net

    Source
    ------
    Triangles with their true sides, one laid to the next: exact for what is flat, a cylinder or a cone between two
    stations; of a twisted bay its short diagonals are kept (second part of the handbook §15.3; docs/theory.md §15).
    """
    share, height = _followed(side, reach)
    here = placed(surface)
    corners = here.points(share, height)
    points = np.zeros((len(here.out), len(share), 2))
    sign = -1.0 if ahead else 1.0
    points[0, 0] = flat[0]
    for k in range(len(here.out) - 1):
        near, far = corners[k], corners[k + 1]
        way = flat[k + 1] - flat[k]
        way = way / max(float(np.hypot(*way)), 1e-12)
        first = np.array([points[k, 0], points[k, 0] + way * np.linalg.norm(far[0] - near[0])])
        bay = _unrolled(near, far, first, sign)
        if k == 0:
            points[0] = bay[0]
        else:
            bay = _onto(bay, points[k])
        points[k + 1] = bay[1]
    return Net(here.out, share, points)


@kept()
def skin_net(surface: Surface, face: Literal["lower", "upper"]) -> Net:
    """Return one whole side of a surface laid flat, its leading edge as that of the unfolded panel.

    Parameters
    ----------
    surface : Surface
    face : {"lower", "upper"}

    Returns
    -------
    Net
    """
    upper, lower = split(outline_over_chord(surface))
    return developed(surface, lower if face == "lower" else upper, leading_of(surface))


def leading_of(surface: Surface) -> Array:
    """Return the leading edge along the unfolded panel at the stations, out and back, (k, 2) m."""
    rows = np.array([(one.y, one.z, one.x) for one in surface.stations])
    out = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(rows[:, 0]), np.diff(rows[:, 1])))])
    return np.column_stack([out, rows[:, 2]])


def _followed(side: Array, reach: float) -> tuple[Array, Array]:
    """Return shares and heights of a side up to a reach, its corners among them."""
    x = np.maximum.accumulate(side[:, 0])
    steps = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(side, axis=0).T))])
    end = float(np.interp(reach, x, steps)) if reach < x[-1] else float(steps[-1])
    at = np.unique(np.concatenate([steps[steps < end], np.linspace(0.0, end, int(1 / _STEP) + 1)]))
    return np.interp(at, steps, x), np.interp(at, steps, side[:, 1])


def _unrolled(near: Array, far: Array, first: Array, sign: float) -> Array:
    """Return two edges, (m, 3) each, laid flat from a first line between them, (2, 2): shape (2, m, 2)."""
    along_near, along_far = (np.linalg.norm(np.diff(edge, axis=0), axis=1).tolist() for edge in (near, far))
    short = np.linalg.norm(near[1:] - far[:-1], axis=1).tolist()
    across = np.linalg.norm(near - far, axis=1).tolist()
    a, b = (tuple(point) for point in first.tolist())
    rows = [(a, b)]
    for j in range(len(near) - 1):
        c = _beside(a, b, along_near[j], short[j], sign)
        # Seen from the line c to b the next corner lies on the side that a does not.
        d = _beside(b, c, along_far[j], across[j + 1], -sign)
        a, b = c, d
        rows.append((a, b))
    return np.array(rows).transpose(1, 0, 2)


def _beside(a: _Spot, b: _Spot, from_a: float, from_b: float, sign: float) -> _Spot:
    """Return the third corner of a triangle over the side a to b: to the left of it, or to the right."""
    x, y = b[0] - a[0], b[1] - a[1]
    long = max(math.hypot(x, y), 1e-12)
    along = (from_a**2 - from_b**2 + long**2) / (2 * long)
    high = sign * math.sqrt(max(from_a**2 - along**2, 0.0))
    return a[0] + (along * x - high * y) / long, a[1] + (along * y + high * x) / long


def _onto(bay: Array, edge: Array) -> Array:
    """Return a bay moved and turned so that its inner edge lies on the outer edge of the bay before it."""
    old, new = bay[0, -1] - bay[0, 0], edge[-1] - edge[0]
    turn = np.arctan2(new[1], new[0]) - np.arctan2(old[1], old[0])
    c, s = np.cos(turn), np.sin(turn)
    found: Array = (bay - bay[0, 0]) @ np.array([[c, s], [-s, c]]) + edge[0]
    return found
