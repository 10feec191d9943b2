"""A vortex lattice of all lifting surfaces together: horseshoes on the chord planes, one solve for many cases.

The geometry is flat panels along the stations; incidence, twist, camber and deflections enter through the
normals, so that one factored matrix serves angle of attack, sideslip, rates and every control. Wakes trail
straight aft. Valid for attached flow, small angles, low speed, aspect ratio above about 1.5.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.geometry.placed import mirrored

Array = NDArray[np.float64]
_AFT = np.array([1.0, 0.0, 0.0])
#: A wake that passes another surface is smeared over this share of the span: a real one has rolled up and sunk. Less
#: lets the answer swing with where strips of coplanar surfaces happen to meet.
WAKE_CORE = 0.03


@dataclass(frozen=True)
class Sheet:
    """One panelled surface: its starboard or lone side as stations in aircraft axes.

    ``leading`` (n, 3) leading-edge places root to tip, m; ``chord`` (n,) m; ``angle`` (n,) angle of the zero-lift
    line to the x axis, rad; ``moment`` section moment coefficient about the quarter chord at zero lift;
    ``pressure`` dynamic pressure there over that of flight. ``mirrored`` surfaces get their other side by image; a
    ``port`` sheet is given as its starboard twin and stands on the other side; one with a
    ``free_root`` ends at its root as at its tip; ``slope`` is its section's lift slope over 2π. Sheets of one
    ``surface`` share a wake (by default each its own).

    Camber enters as its thin-airfoil zero-lift angle and couple, which are exact for any number of panels.
    """

    leading: Array
    chord: Array
    angle: Array
    mirrored: bool
    moment: float = 0.0
    pressure: float = 1.0
    port: bool = False
    free_root: bool = False
    surface: int = -1
    slope: float = 1.0


@dataclass(frozen=True)
class Lattice:
    """Panels of all sheets, starboard and lone sides only; shapes (n, 3) and (n,).

    ``sheet`` and ``strip`` index each panel's sheet and its strip over all sheets; ``area`` is the panel's own,
    ``chord`` and ``slope`` its strip's; ``out`` is the strip's middle along the unfolded panel, ``inner`` and ``outer``
    its ends.
    """

    left: Array
    right: Array
    control: Array
    normal: Array
    angle: Array
    area: Array
    chord: Array
    out: Array
    inner: Array
    outer: Array
    moment: Array
    sheet: NDArray[np.int64]
    surface: NDArray[np.int64]
    strip: NDArray[np.int64]
    mirrored: NDArray[np.bool_]
    pressure: Array
    slope: Array
    reach: float

    @property
    def bound(self) -> Array:
        """Bound vortex of each panel, from its inner to its outer end, m."""
        return self.right - self.left

    @property
    def middle(self) -> Array:
        """Middle of each bound vortex, where the force acts, m."""
        return 0.5 * (self.left + self.right)


def _spread(breaks: Array, count: int, cosine: bool, free_root: bool = False) -> tuple[Array, Array]:
    """Divide a half span at its breaks into strips: edges and control places (cosine middles, not arithmetic)."""
    edges: list[float] = [float(breaks[0])]
    middles: list[float] = []
    reach = breaks[-1] - breaks[0]

    def at(theta: ArrayLike) -> Array:
        # Quarter cosine: fine at the tip, where the load falls off, coarse at the mirrored root. Both ends free: fine
        # at both.
        share = 0.5 * (1 - np.cos(2 * np.asarray(theta))) if free_root else np.sin(np.asarray(theta))
        result: Array = breaks[0] + reach * share
        return result

    def angle(place: float) -> float:
        share = min(max((place - breaks[0]) / reach, 0.0), 1.0)
        return float(0.5 * np.arccos(1 - 2 * share)) if free_root else float(np.arcsin(share))

    for inner, outer in pairwise(breaks):
        share = (outer - inner) / reach
        if cosine:
            a, b = angle(inner), angle(outer)
            n = max(2, round(count * (b - a) / (0.5 * np.pi)))
            theta = np.linspace(a, b, n + 1)
            edges += list(at(theta[1:]))
            middles += list(at(0.5 * (theta[1:] + theta[:-1])))
        else:
            n = max(1, round(count * share))
            places = np.linspace(inner, outer, n + 1)
            edges += list(places[1:])
            middles += list(0.5 * (places[1:] + places[:-1]))
    return np.array(edges), np.array(middles)


def build(sheets: Sequence[Sheet], along: int = 4, across: int | Sequence[int] = 14, *, cosine: bool = True) -> Lattice:
    """Panel the sheets.

    Parameters
    ----------
    sheets : sequence of Sheet
    along : int
        Panels along the chord.
    across : int or sequence of int
        Strips across a half span, shared out between stations; one number, or one for each sheet.
    cosine : bool
        Space strips by the cosine law (finer at the tips); evenly otherwise.

    Raises
    ------
    ValueError
        When there is no sheet.
    """
    if not sheets:
        raise ValueError("a lattice needs at least one surface")
    parts: list[dict[str, Array]] = []
    strips = 0
    counts = [across] * len(sheets) if isinstance(across, int) else across
    for index, (sheet, count) in enumerate(zip(sheets, counts, strict=True)):
        part = _panel(sheet, along, count, cosine)
        part["sheet"] = np.full(len(part["area"]), index)
        part["surface"] = np.full(len(part["area"]), index if sheet.surface < 0 else sheet.surface)
        part["strip"] = part["strip"] + strips
        strips = int(part["strip"].max()) + 1
        parts.append(part)
    joined = {name: np.concatenate([part[name] for part in parts]) for name in parts[0]}
    return Lattice(
        reach=_reach(sheets),
        sheet=joined.pop("sheet").astype(np.int64),
        surface=joined.pop("surface").astype(np.int64),
        strip=joined.pop("strip").astype(np.int64),
        mirrored=joined.pop("mirrored").astype(bool),
        **joined,
    )


def _reach(sheets: Sequence[Sheet]) -> float:
    """Return the span (or height) of the largest surface, both its sides together, m."""
    sides: dict[int, list[float]] = {}
    for index, sheet in enumerate(sheets):
        y = sheet.leading[:, 1] * (-1 if sheet.port else 1)
        both = (*y, *-y) if sheet.mirrored else y
        sides.setdefault(index if sheet.surface < 0 else sheet.surface, []).extend(both)
    return float(max(*(np.ptp(y) for y in sides.values()), *(np.ptp(s.leading[:, 2]) for s in sheets)))


def _panel(sheet: Sheet, along: int, across: int, cosine: bool) -> dict[str, Array]:
    lead, chord = sheet.leading, sheet.chord
    steps = np.hypot(np.diff(lead[:, 1]), np.diff(lead[:, 2]))
    out = np.concatenate([[0.0], np.cumsum(steps)])
    edges, middles = _spread(out, across, cosine, sheet.free_root)

    def place(s: Array) -> Array:
        return np.column_stack([np.interp(s, out, lead[:, k]) for k in range(3)])

    def width(s: Array) -> Array:
        return np.interp(s, out, chord)

    inner, outer = edges[:-1], edges[1:]
    # One strip after another, each from nose to tail.
    fraction = (np.arange(along)[None, :] + np.array([0.25, 0.75])[:, None]) / along

    def at(s: Array, share: Array) -> Array:
        result: Array = (place(s)[:, None, :] + (width(s)[:, None] * share[None, :])[..., None] * _AFT).reshape(-1, 3)
        return result

    left, right = at(inner, fraction[0]), at(outer, fraction[0])
    control = at(middles, fraction[1])
    span = place(outer) - place(inner)
    span[:, 0] = 0.0
    axis = span / np.linalg.norm(span, axis=1)[:, None]
    # x̂ × axis.
    normal = np.column_stack([np.zeros(len(axis)), -axis[:, 2], axis[:, 1]])
    if sheet.port:
        left, right, control, normal = mirrored(right), mirrored(left), mirrored(control), mirrored(normal)
    count = len(middles)
    strip_area = 0.5 * (width(inner) + width(outer)) * (outer - inner)
    return {
        "left": left,
        "right": right,
        "control": control,
        "normal": np.repeat(normal, along, axis=0),
        "angle": np.repeat(np.interp(middles, out, sheet.angle), along),
        "area": np.repeat(strip_area / along, along),
        "chord": np.repeat(width(middles), along),
        "out": np.repeat(middles, along),
        "inner": np.repeat(inner, along),
        "outer": np.repeat(outer, along),
        "moment": np.full(count * along, sheet.moment),
        "strip": np.repeat(np.arange(count), along),
        "mirrored": np.full(count * along, sheet.mirrored),
        "pressure": np.full(count * along, sheet.pressure),
        "slope": np.full(count * along, sheet.slope),
    }


def influence(lattice: Lattice, points: Array, *, image: bool, own: NDArray[np.int64] | None = None) -> Array:
    """Return the velocity each unit horseshoe (or its mirror image) makes at points, shape (3, m, n), 1/m.

    ``own`` is the surface of each point: wakes are smeared only where they pass another one.

    Parameters
    ----------
    lattice : Lattice
    points : ndarray, shape (m, 3)
        m.
    image : bool
        Of the mirror image.
    own : ndarray of int, shape (m,), optional
        Surface of each point.

    Returns
    -------
    ndarray, shape (3, m, n)
        1/m.

    Source
    ------
    Biot–Savart for a bound segment and two semi-infinite legs along +x (Katz and Plotkin, Low-Speed
    Aerodynamics, ch. 10 and 12): docs/theory.md §7.
    """
    a, b = lattice.left, lattice.right
    if image:
        a, b = mirrored(b), mirrored(a)
    core: Array | float = 0.0
    if own is not None:
        foreign = own[:, None] != lattice.surface[None, :]
        if foreign.any():
            core = foreign * (WAKE_CORE * lattice.reach) ** 2
    # One array for each component: plain two-dimensional arithmetic is quicker than a trailing axis of three.
    x1, y1, z1 = (points[:, None, k] - a[None, :, k] for k in range(3))
    x2, y2, z2 = (points[:, None, k] - b[None, :, k] for k in range(3))
    off1, off2 = y1 * y1 + z1 * z1, y2 * y2 + z2 * z2
    d1, d2 = np.sqrt(x1 * x1 + off1), np.sqrt(x2 * x2 + off2)
    cx, cy, cz = y1 * z2 - z1 * y2, z1 * x2 - x1 * z2, x1 * y2 - y1 * x2
    square = cx * cx + cy * cy + cz * cz
    span = b - a
    i1, i2 = 1 / np.maximum(d1, 1e-12), 1 / np.maximum(d2, 1e-12)
    reach = span[:, 0] * (x1 * i1 - x2 * i2) + span[:, 1] * (y1 * i1 - y2 * i2) + span[:, 2] * (z1 * i1 - z2 * i2)
    bound = reach / np.maximum(square, 1e-12 * np.einsum("jk,jk->j", span, span)[None, :] ** 2)
    # The legs run aft to infinity: their flow turns about the x axis.
    leg1 = (1 + x1 * i1) / np.maximum(off1 + core, 1e-12)
    leg2 = (1 + x2 * i2) / np.maximum(off2 + core, 1e-12)
    found = np.empty((3, *x1.shape))
    found[0] = cx * bound
    found[1] = cy * bound + leg1 * z1 - leg2 * z2
    found[2] = cz * bound - leg1 * y1 + leg2 * y2
    return found / (4 * np.pi)


def _through(lattice: Lattice, *, image: bool) -> Array:
    """Return the flow of each unit horseshoe through each panel, along its normal, shape (n, n)."""
    flow = influence(lattice, lattice.control, image=image, own=lattice.surface)
    n = lattice.normal
    result: Array = flow[0] * n[:, None, 0] + flow[1] * n[:, None, 1] + flow[2] * n[:, None, 2]
    return result


class Solver:
    """The factored lattice: circulation for any onset flow, symmetric or antisymmetric.

    ``solves`` counts the factorisations made, so that a test can prove when none was needed.
    """

    solves = 0

    def __init__(self, lattice: Lattice) -> None:
        Solver.solves += 1
        self.lattice = lattice
        direct = _through(lattice, image=False)
        # A strip of less slope κ than a thin airfoil's sees its own lift as so much less angle: c_l (1/κ − 1)/2π.
        own = lattice.strip[:, None] == lattice.strip[None, :]
        direct -= own * ((1 / lattice.slope - 1) / (np.pi * lattice.chord))[:, None]
        mirror = np.zeros_like(direct)
        if lattice.mirrored.any():
            mirror = _through(lattice, image=True) * lattice.mirrored[None, :]
        # Inverted once: trial twists, controls and angles are then products.
        self._even = np.linalg.inv(direct + mirror)
        self._odd = self._even if not lattice.mirrored.any() else np.linalg.inv(direct - mirror)

    def circulation(self, wash: Array, *, symmetric: bool) -> Array:
        """Return circulations, m²/s per m/s, that cancel a normal wash (n,) or (n, k) on the panels.

        Parameters
        ----------
        wash : ndarray
            Onset flow through each panel along its normal, over the flight speed.
        symmetric : bool
            Whether port carries the same circulation as starboard, or the opposite.
        """
        found: Array = (self._even if symmetric else self._odd) @ -wash
        return found
