"""What is cut out of a body's pieces: ways for wires and pack in formers, the hatch in its top, seats in its sides."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.engine.build.hulls import run_along
from ridgeline.engine.build.pieces import Line, Piece
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at

Array = NDArray[np.float64]
#: A hole for wires is this share of a former's lesser side, between these, m; what is left round openings, m.
WIRES, WIRES_LEAST, WIRES_MOST, LAND = 0.3, 0.006, 0.020, 0.006
#: Room round a pack, all round, and lengthways in its hatch, m; one whose length is not known is taken as this, m.
ROUND_PACK, LIFTED, UNKNOWN = 0.003, 0.02, 0.09
#: Density of a pack, kg/m³, and how much wider than high it is, where its sizes were not measured (pouch cells).
PACK_DENSITY, PACK_SHAPE = 1900.0, 1.4
#: A hatch takes this share of a body's width, ends so far inside it, so far from a wing on top, and is no shorter, m.
HATCH_WIDE, HATCH_IN, HATCH_WING, HATCH_LEAST = 0.7, 0.01, 0.005, 0.03
#: Where air comes in and goes out, of the bottom's length; how much larger the exit is; what stays beside it, m; the
#: longest opening, of the bottom's length (chosen: behind the nose, and behind pack and controller).
INLET_AT, EXIT_AT, EXIT, AIR_LAND, AIR_LONGEST = 0.06, 0.62, 1.5, 0.012, 0.2
#: Corners of a round opening; a seat smaller than this is none, m².
_ROUND, _NOTHING = 32, 1e-6


class Box(NamedTuple):
    """A pack as it lies, m: its middle behind the datum and over it, how long, wide and high."""

    x: float
    z: float
    long: float
    wide: float
    high: float


class Hatch(NamedTuple):
    """Where a body is opened from above, behind the datum, m."""

    start: float
    end: float


def pack_of(design: Design) -> Box | None:
    """Return the flight pack of a design as it lies; None without one.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Box or None
        By its measured sizes, else by its mass: docs/theory.md §15.
    """
    item: Item | None = next((one for one in design.parts if one.group == "battery" and one.x is not None), None)
    if item is None or item.x is None:
        return None
    pack = None if design.power is None else design.power.pack
    long = pack.length if pack is not None and pack.length > 0 else UNKNOWN
    mass = next((one for one in (item.weighed, item.estimate, None if pack is None else pack.mass) if one), 0.1)
    across = mass / PACK_DENSITY / long
    high = pack.height if pack is not None and pack.height > 0 else math.sqrt(across / PACK_SHAPE)
    wide = pack.width if pack is not None and pack.width > 0 else across / high
    return Box(item.x, item.z or 0.0, long, wide, high)


def hatch_of(body: Body, surfaces: Sequence[Surface], needs: float, at: float) -> Hatch | None:
    """Return where a body is opened for its pack: over it, and not under the wing.

    Parameters
    ----------
    body : Body
    surfaces : sequence of Surface
    needs, at : float
        How long the opening is and where its middle lies behind the datum, m.

    Returns
    -------
    Hatch or None
        None where no opening takes it.
    """
    x = [one.x for one in body.sections]
    low, high = x[0] + HATCH_IN, x[-1] - HATCH_IN
    middle = float(np.interp(at, x, [one.z for one in body.sections]))
    for surface in surfaces:
        root = surface.stations[0]
        if surface.role in ("wing", "foreplane") and surface.mirrored and surface.z + root.z > middle:
            front, back = surface.x + root.x, surface.x + root.x + root.chord
            if at < 0.5 * (front + back):
                high = min(high, front - HATCH_WING)
            else:
                low = max(low, back + HATCH_WING)
    start, end = max(at - 0.5 * needs, low), min(at + 0.5 * needs, high)
    return Hatch(start, end) if end - start > HATCH_LEAST else None


def hatch_over_pack(design: Design, body: Body) -> Hatch | None:
    """Return where a body is opened for the pack that lies in it; None where it lies elsewhere."""
    pack = pack_of(design)
    x = [one.x for one in body.sections]
    if pack is None or not x[0] <= pack.x <= x[-1] or body.kind == "boom":
        return None
    return hatch_of(body, design.surfaces, pack.long + LIFTED, pack.x)


def former_openings(design: Design, body: Body, piece: Piece) -> Iterator[Array]:
    """Yield what is cut out of a former, m in its plane: the pack's way where it passes, else a hole for wires.

    Parameters
    ----------
    design : Design
    body : Body
    piece : Piece
        A former of it.

    Yields
    ------
    ndarray, shape (n, 2)
    """
    low, high = piece.outline.min(axis=0), piece.outline.max(axis=0)
    room = high - low - 2 * LAND
    if room.min() < WIRES_LEAST:
        return
    pack, x = pack_of(design), float(piece.origin[0])
    if pack is not None and abs(pack.x - x) < 0.5 * pack.long + ROUND_PACK:
        half = 0.5 * np.array([pack.wide, pack.high]) + ROUND_PACK
        middle = np.array([0.0, pack.z])
        a, b = np.maximum(middle - half, low + LAND), np.minimum(middle + half, high - LAND)
        if np.all(b - a > WIRES_LEAST):
            yield np.array([(a[0], a[1]), (b[0], a[1]), (b[0], b[1]), (a[0], b[1])])
            return
    wide = float(min(max(WIRES * room.min(), WIRES_LEAST), WIRES_MOST, room.min()))
    turn = 2 * math.pi * np.arange(_ROUND) / _ROUND
    yield np.array([0.5 * (low[0] + high[0]), low[1] + LAND + 0.5 * wide]) + 0.5 * wide * np.column_stack(
        [np.cos(turn), np.sin(turn)])  # fmt: skip


def hatch_lines(design: Design, body: Body) -> tuple[Array, tuple[Line, ...]] | None:
    """Return where the hatch's name stands and the lines it is cut along, on a body's top laid flat, m.

    Parameters
    ----------
    design : Design
    body : Body

    Returns
    -------
    (ndarray, tuple of Line) or None
    """
    hatch = hatch_over_pack(design, body)
    if hatch is None:
        return None
    rows = np.array([(one.x, one.width, one.z + 0.5 * one.height) for one in body.sections])
    run = run_along(rows[:, 0], rows[:, 2])
    ends = np.interp([hatch.start, hatch.end], rows[:, 0], run)
    half = 0.5 * HATCH_WIDE * float(np.interp([hatch.start, hatch.end], rows[:, 0], rows[:, 1]).min())
    corners = np.array([(ends[0], -half), (ends[1], -half), (ends[1], half), (ends[0], half), (ends[0], -half)])
    return corners[:4].mean(axis=0), (Line("cut", corners),)


def air_in(body: Body, inlet: float) -> Iterator[tuple[str, Array]]:
    """Yield the inlet and the exit of the air that cools the power train, on a body's bottom laid flat, m.

    Parameters
    ----------
    body : Body
    inlet : float
        m².

    Yields
    ------
    words, outline : str, ndarray
        The exit half as large again as the inlet, far behind it; nothing where the bottom is too narrow for them.

    Source
    ------
    Air that is warmed wants more room: the exit 1.5 times the inlet (docs/theory.md §15).
    """
    rows = np.array([(one.x, one.width, one.z - 0.5 * one.height) for one in body.sections])
    run = run_along(rows[:, 0], rows[:, 2])
    for words, at, area in (("air in", INLET_AT, inlet), ("air out", EXIT_AT, EXIT * inlet)):
        middle = at * float(run[-1])
        room = float(np.interp(middle, run, rows[:, 1])) - 2 * AIR_LAND
        wide = min(math.sqrt(2 * area), room)
        if wide < WIRES_LEAST:
            return
        long = area / wide
        if long > AIR_LONGEST * float(run[-1]):
            return
        a, b, half = middle - 0.5 * long, middle + 0.5 * long, 0.5 * wide
        if a < LAND:
            a, b = LAND, LAND + long
        yield f"{words} {1e4 * area:.1f} cm²", np.array([(a, -half), (b, -half), (b, half), (a, half)])


def seats_in(design: Design, body: Body, piece: Piece) -> Iterator[Polygon]:
    """Yield what surfaces take out of a side they pass through, at their incidence, m in its plane.

    Parameters
    ----------
    design : Design
    body : Body
    piece : Piece
        A side of it.

    Yields
    ------
    Polygon
    """
    whole = Polygon(piece.outline)
    xs = np.array([one.x for one in body.sections])
    half = np.array([0.5 * one.width for one in body.sections])
    run = run_along(xs, half)
    aside = abs(float(piece.origin[1]) - body.y) > 1e-9
    for surface in design.surfaces:
        if is_upright(surface) or not surface.mirrored:
            continue
        root = surface.stations[0]
        middle = surface.x + root.x + 0.5 * root.chord
        out = float(np.interp(middle, xs, half)) if aside else 0.0
        y = float(np.clip(out, surface.stations[0].y, surface.stations[-1].y))
        unit = outline_over_chord(surface)
        ring = placed_at(surface, [y]).points(unit[:, 0], unit[:, 1])[0]
        along = np.interp(ring[:, 0], xs, run) if aside else ring[:, 0] - xs[0]
        shape = Polygon(np.column_stack([along, ring[:, 2]])).buffer(0)
        seat = whole.intersection(shape)
        if seat.area > _NOTHING:
            yield shape if isinstance(shape, Polygon) else Polygon(shape.convex_hull.exterior)
