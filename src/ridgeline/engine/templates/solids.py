"""Solids to print: lofts, channels and cuts as closed bodies, in millimetres; the one place that knows the kernel."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any

import numpy as np
from manifold3d import CrossSection, Manifold, Mesh, triangulate
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.templates.patterns import circle

Array = NDArray[np.float64]
#: Edges of a round channel or hole; how far what cuts reaches beyond what is cut, mm.
ROUND, BEYOND = 48, 1.0
#: Edges shorter than this are taken out of every body, and than these of one that does not close in a file, mm.
SHORT, _TOLERANCES = 1e-3, (3e-3, 1e-2, 3e-2, 1e-1)
#: Corners of an outline nearer one another than this are one, over the outline's size.
_SAME = 1e-7


class NoSolid(ValueError):
    """A body that cannot be made: rings that cross, or nothing left."""


def loft(rings: ArrayLike) -> Manifold:
    """Return the body between rings of corners, both ends closed.

    Parameters
    ----------
    rings : array_like, shape (k, n, 3)
        mm; each runs anticlockwise seen against the way from the first ring to the last.

    Returns
    -------
    Manifold

    Raises
    ------
    NoSolid
        Where it encloses nothing.
    """
    points = np.asarray(rings, float)
    count, around = points.shape[:2]
    here = np.arange(count - 1)[:, None] * around + np.arange(around)
    after = np.roll(here, -1, axis=1)
    walls = np.concatenate(
        [np.stack([here, after, after + around], -1), np.stack([here, after + around, here + around], -1)]
    ).reshape(-1, 3)
    first, last = _cap(points[0]), _cap(points[-1]) + (count - 1) * around
    faces = np.concatenate([walls, first[:, ::-1], last])
    return _closed(points.reshape(-1, 3), faces)


def _cap(ring: Array) -> NDArray[np.int64]:
    """Return the triangles that close a flat ring, (m, 3), anticlockwise as the ring is."""
    # In the ring's own plane: Newell's normal, and two axes across it.
    after = np.roll(ring, -1, axis=0)
    normal = np.cross(ring, after).sum(axis=0)
    size = float(np.linalg.norm(normal))
    if size < 1e-12:
        raise NoSolid("a ring that encloses nothing")
    normal = normal / size
    across = np.cross(normal, np.eye(3)[int(np.argmin(np.abs(normal)))])
    across /= np.linalg.norm(across)
    flat = np.column_stack([ring @ across, ring @ np.cross(normal, across)])
    found: NDArray[np.int64] = np.asarray(triangulate([flat]), np.int64)
    return found


def _closed(points: Array, faces: NDArray[np.int64]) -> Manifold:
    mesh = Mesh(vert_properties=points.astype(np.float32), tri_verts=faces.astype(np.uint32))
    mesh.merge()
    made = Manifold(mesh)
    if made.is_empty() or made.volume() <= 0:
        raise NoSolid(f"a body that encloses nothing ({made.status()})")
    return made


def outline_corners(outline: ArrayLike) -> Array:
    """Return an outline without corners that repeat or close it, anticlockwise.

    Parameters
    ----------
    outline : array_like, shape (n, 2)

    Returns
    -------
    ndarray, shape (m, 2)
    """
    points = np.asarray(outline, float)
    least = _SAME * float(np.ptp(points, axis=0).max())
    kept = points[np.hypot(*(points - np.roll(points, 1, axis=0)).T) > least]
    x, y = kept.T
    area = float(x @ np.roll(y, -1) - y @ np.roll(x, -1))
    found: Array = kept if area > 0 else kept[::-1]
    return found


def plate(outline: ArrayLike, thick: float, holes: Iterable[ArrayLike] = ()) -> Manifold:
    """Return a flat plate on the bed.

    Parameters
    ----------
    outline : array_like, shape (n, 2)
        mm.
    thick : float
        mm.
    holes : iterable of array_like
        Outlines cut through, mm.

    Returns
    -------
    Manifold
    """
    flat = CrossSection([outline_corners(outline).tolist()])
    for hole in holes:
        flat = flat - CrossSection([outline_corners(hole).tolist()])
    return Manifold.extrude(flat, thick)


def disc(x: float, y: float, diameter: float) -> Array:
    """Return a hole as corners outside its circle by so much that its area is the circle's, (n, 2) mm."""
    return circle(x, y, 0.5 * diameter, ROUND)


def box(low: Sequence[float], high: Sequence[float]) -> Manifold:
    """Return a box between two corners, mm."""
    a, b = np.asarray(low, float), np.asarray(high, float)
    return Manifold.cube((b - a).tolist()).translate(a.tolist())


def round_along(line: ArrayLike, diameter: float) -> Manifold:
    """Return a round body along a line of places whose rings lie level.

    Parameters
    ----------
    line : array_like, shape (k, 3)
        mm, rising.
    diameter : float
        Across the line, mm: where it leans, its level rings are ellipses.

    Returns
    -------
    Manifold
    """
    places = np.asarray(line, float)
    ring = disc(0.0, 0.0, diameter)
    rings = [place + np.column_stack([_leaning(ring, lean), np.zeros(ROUND)])
             for place, lean in zip(places, _leans(places), strict=True)]  # fmt: skip
    return loft(rings)


def _leans(places: Array) -> Array:
    """Return how far a line leans at each place, (k, 2): along level axes for each unit it rises."""
    steps = np.diff(places, axis=0)
    slopes = steps[:, :2] / steps[:, 2:]
    lean = np.vstack([slopes[:1], slopes])
    if len(slopes) > 1:
        lean[1:-1] = 0.5 * (slopes[:-1] + slopes[1:])
    return lean


def _leaning(ring: Array, lean: Array) -> Array:
    """Return the level cut of a round body that leans."""
    far = float(np.hypot(*lean))
    if far < 1e-9:
        return ring
    way = lean / far
    along = ring @ way
    found: Array = ring + np.outer(along, way) * (math.sqrt(1 + far * far) - 1)
    return found


def largest(body: Manifold, least: float = 0.01) -> Manifold:
    """Return a body without crumbs: what is less than a share of its largest part.

    Parameters
    ----------
    body : Manifold
    least : float

    Returns
    -------
    Manifold
    """
    parts = body.decompose()
    if len(parts) < 2:
        return body
    most = max(part.volume() for part in parts)
    return Manifold.compose([part for part in parts if part.volume() >= least * most])


def mesh_of(body: Manifold) -> tuple[Array, NDArray[np.int64]]:
    """Return corners, (n, 3) mm, and triangles, (m, 3), turned outward.

    Parameters
    ----------
    body : Manifold

    Returns
    -------
    points, faces : ndarray
    """
    made: Any = body.to_mesh()
    return np.asarray(made.vert_properties[:, :3], float), np.asarray(made.tri_verts, np.int64)


def closes_welded(body: Manifold) -> bool:
    """Tell whether a body still closes where a file keeps its corners in single precision, each once.

    Parameters
    ----------
    body : Manifold

    Returns
    -------
    bool
        False where it touches itself along an edge, or two corners fall together.
    """
    points, faces = mesh_of(body)
    _corners, number = np.unique(points.astype(np.float32), axis=0, return_inverse=True)
    welded = np.sort(number.reshape(-1)[faces], axis=1)
    if np.any(welded[:, 0] == welded[:, 1]) or np.any(welded[:, 1] == welded[:, 2]):
        return False
    edges = np.concatenate([welded[:, [0, 1]], welded[:, [1, 2]], welded[:, [0, 2]]])
    _edges, count = np.unique(edges, axis=0, return_counts=True)
    return bool(np.all(count == 2))


def sound(body: Manifold) -> Manifold:
    """Return a body that closes in a file too: where it does not, with its shortest edges taken out.

    Parameters
    ----------
    body : Manifold

    Returns
    -------
    Manifold
        As it is where nothing helps; what writes it says so.
    """
    if body.is_empty() or closes_welded(body):
        return body
    tried = (body.as_original().simplify(tolerance) for tolerance in _TOLERANCES)
    return next((one for one in tried if closes_welded(one)), body)


def bounds_of(body: Manifold) -> tuple[Array, Array]:
    """Return the least and greatest corner of a body, mm."""
    found = np.asarray(body.bounding_box(), float)
    return found[:3], found[3:]


def on_bed(body: Manifold) -> Manifold:
    """Return a body moved so that it stands on the bed, its corner at the bed's.

    Parameters
    ----------
    body : Manifold

    Returns
    -------
    Manifold
    """
    low, _high = bounds_of(body)
    return body.translate((-low).tolist())
