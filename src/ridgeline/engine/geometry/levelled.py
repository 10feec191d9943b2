"""Angles of surfaces as they came out, from the heights of their edges over a bench, whichever way the model stands."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.as_built import AsBuilt, Diagonal, Levelled
from ridgeline.design.axes import is_upright
from ridgeline.engine.geometry.placed import placed_at, tip_angles

Array = NDArray[np.float64]
Side = Literal["starboard", "port"]
SIDES: tuple[Side, ...] = ("starboard", "port")
#: Places must be this share of the panel apart to tell twist and dihedral (chosen: nearer ones tell noise).
_APART = 0.3
_STEPS, _SMALL = 6, 1e-6


class Off(NamedTuple):
    """By how much something is off the drawing, and one sigma of it."""

    value: float
    sigma: float


def angle_of(leading: float, trailing: float, chord: float) -> float:
    """Return the angle of a chord to the bench, nose up, rad.

    Parameters
    ----------
    leading, trailing : float
        Heights of its ends, m.
    chord : float
        m; not less than the heights differ by.

    Returns
    -------
    float

    Source
    ------
    sin α = (h_L − h_T)/c; 1 mm over 200 mm is 0.29°: handbook of the trade §12.
    """
    return math.asin(max(-1.0, min(1.0, (leading - trailing) / chord)))


@dataclass(frozen=True)
class CameOut:
    """How one surface came out against the drawing, rad; each None where nothing was measured that tells it.

    ``incidence`` is against the surface all others are told against, where it is that one None. ``washin`` are the
    twists of its tips, starboard and port, nose up positive, beside those drawn; ``twist`` their mean, ``warp`` half
    their difference, starboard less port. ``dihedral`` is beside that drawn, tips up.
    """

    surface: int
    incidence: Off | None
    washin: tuple[Off | None, Off | None]
    twist: Off | None
    warp: Off | None
    dihedral: Off | None


@dataclass(frozen=True)
class BenchFit:
    """What all heights together say: how the model stands on the bench, rad, and how every surface came out.

    ``scatter`` is how much more the readings differ from one another than they should, 1 where they agree.
    """

    reference: int
    pitch: float
    tilt: float
    surfaces: tuple[CameOut, ...]
    scatter: float


class _Row(NamedTuple):
    surface: int
    side: int
    share: float
    out: float
    chord: float
    angle: float
    cosine: float
    sine: float
    place: tuple[float, float, float]
    heights: tuple[float, float]


#: An unknown: which of which surface, and of which side.
_Unknown = tuple[str, int, int]


def bench_fit(surfaces: Sequence[Surface], measured: AsBuilt, reference: int) -> BenchFit | None:
    """Fit the angles of surfaces to the heights of their edges.

    Parameters
    ----------
    surfaces : sequence of Surface
        As drawn.
    measured : AsBuilt
    reference : int
        Place of the surface that the others' incidences are told against; of the first measured one where that was not
        measured.

    Returns
    -------
    BenchFit or None
        None where nothing was measured that a level surface has.

    Source
    ------
    Least squares over both edges' heights, the model free to stand at any pitch and roll: docs/theory.md §16.
    """
    rows = _rows(surfaces, measured.levelled)
    if not rows:
        return None
    known = list(dict.fromkeys(row.surface for row in rows))
    first = reference if reference in known else known[0]
    unknowns = _unknowns(rows, known, first)
    seen = np.array([height for row in rows for height in row.heights])
    found = np.zeros(len(unknowns))
    for _step in range(_STEPS):
        base = _heights(rows, unknowns, found)
        slopes = np.empty((len(seen), len(unknowns)))
        for k in range(len(unknowns)):
            moved = found.copy()
            moved[k] += _SMALL
            slopes[:, k] = (_heights(rows, unknowns, moved) - base) / _SMALL
        step = np.linalg.lstsq(slopes, seen - base, rcond=None)[0]
        found = found + step
        if np.abs(step).max(initial=0.0) < 1e-12:
            break
    left = seen - _heights(rows, unknowns, found)
    spare = len(seen) - len(unknowns)
    sigma = measured.height_sigma
    scatter = math.sqrt(max(float(left @ left) / (sigma**2 * spare), 1.0)) if spare > 2 else 1.0
    spread: Array = np.asarray(np.linalg.pinv(slopes.T @ slopes) * (sigma * scatter) ** 2, float)
    of = {unknown: k for k, unknown in enumerate(unknowns)}
    at = found[of["pitch", -1, 0]]
    tilt = of.get(("tilt", -1, 0))
    told = tuple(_came_out(surface, of, found, spread) for surface in known)
    return BenchFit(first, float(at), 0.0 if tilt is None else float(found[tilt]), told, scatter)


def _rows(surfaces: Sequence[Surface], levelled: Iterable[Levelled]) -> list[_Row]:
    place = {surface.id: k for k, surface in enumerate(surfaces)}
    rows = []
    for one in levelled:
        index = place.get(one.of)
        if index is None or is_upright(surfaces[index]):
            continue
        surface, side = surfaces[index], SIDES.index(one.side)
        if side and not surface.mirrored:
            continue
        here = placed_at(surface, [one.out])
        x, y, z = (float(value) for value in here.leading[0])
        ends = surface.stations[0].y, surface.stations[-1].y
        share = min(max((one.out - ends[0]) / (ends[1] - ends[0]), 0.0), 1.0)
        angle = float(here.angle[0]) + share * tip_angles(surface)[side]
        rows.append(
            _Row(index, side, share, one.out, float(here.chord[0]), angle, here.c,
                 -here.s if side else here.s, (x, -y if side else y, z), (one.leading, one.trailing))
        )  # fmt: skip
    return rows


def _unknowns(rows: list[_Row], known: list[int], first: int) -> list[_Unknown]:
    """Return what the rows can tell: how the model stands, and of every surface what is measured far enough apart."""
    found: list[_Unknown] = [("pitch", -1, 0)]
    if any({row.side for row in rows if row.surface == k} == {0, 1} for k in known):
        found.append(("tilt", -1, 0))
    for k in known:
        mine = [row for row in rows if row.surface == k]
        found.append(("height", k, 0))
        if k != first:
            found.append(("incidence", k, 0))
        for side in (0, 1):
            shares = [row.share for row in mine if row.side == side]
            # The two sides share their root: one of them may be measured there for both.
            if shares and max(shares) - min(row.share for row in mine) >= _APART:
                found.append(("washin", k, side))
        shares = [row.share for row in mine]
        both = {row.side for row in mine} == {0, 1}
        if max(shares) - min(shares) >= _APART and (both or ("tilt", -1, 0) not in found):
            found.append(("dihedral", k, 0))
    return found


def _heights(rows: list[_Row], unknowns: list[_Unknown], values: Array) -> Array:
    """Return the heights of both edges of every row, m, by what is unknown."""
    of = dict(zip(unknowns, values.tolist(), strict=True))
    pitch, tilt = of[("pitch", -1, 0)], of.get(("tilt", -1, 0), 0.0)
    found = []
    for row in rows:
        k = row.surface
        turned = row.angle + of.get(("incidence", k, 0), 0.0) + row.share * of.get(("washin", k, row.side), 0.0)
        x, y, z = row.place
        lifted = row.out * row.cosine * of.get(("dihedral", k, 0), 0.0)
        leading = of[("height", k, 0)] + z * math.cos(pitch) - x * math.sin(pitch) + y * math.sin(tilt) + lifted
        drop = math.sin(turned) * row.cosine * math.cos(pitch) + math.cos(turned) * math.sin(pitch)
        drop -= math.sin(turned) * row.sine * math.sin(tilt)
        found += [leading, leading - row.chord * drop]
    return np.array(found)


def _came_out(surface: int, of: dict[_Unknown, int], found: Array, spread: Array) -> CameOut:
    def told(*parts: tuple[_Unknown, float]) -> Off | None:
        if any(unknown not in of for unknown, _share in parts):
            return None
        row = np.zeros(len(found))
        for unknown, share in parts:
            row[of[unknown]] = share
        return Off(float(row @ found), float(np.sqrt(row @ spread @ row)))

    star, port = ("washin", surface, 0), ("washin", surface, 1)
    twist = told((star, 0.5), (port, 0.5))
    one_side = told((star, 1.0)), told((port, 1.0))
    return CameOut(
        surface,
        told((("incidence", surface, 0), 1.0)),
        one_side,
        # Of a surface measured on one side the other is taken to be like it.
        twist or next((side for side in one_side if side is not None), None),
        told((star, 0.5), (port, -0.5)),
        told((("dihedral", surface, 0), 1.0)),
    )


def skew_of(surface: Surface, diagonal: Diagonal, sigma: float) -> Off:
    """Return how far a surface is turned about the middle of its root, starboard tip aft positive, rad.

    Parameters
    ----------
    surface : Surface
        A mirrored one.
    diagonal : Diagonal
    sigma : float
        One sigma of a length, m.

    Returns
    -------
    Off

    Source
    ------
    d_p² − d_s² = 4 L h sin ψ, exact for a turn about a point on the centre line: docs/theory.md §16.
    """
    here = placed_at(surface, [surface.stations[0].y, surface.stations[-1].y])
    half = abs(float(here.trailing[-1, 1]))
    middle = float(here.leading[0, 0] + 0.5 * here.chord[0])
    arm = 4 * (diagonal.to - middle) * half
    turned = (diagonal.port**2 - diagonal.starboard**2) / arm
    error = 2 * sigma * math.hypot(diagonal.port, diagonal.starboard) / abs(arm)
    return Off(math.asin(max(-1.0, min(1.0, turned))), error)
