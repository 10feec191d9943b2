"""Pieces larger than every sheet on hand: where they are cut, and the splices that join them again.

A piece too long is cut across, as far from its root as a sheet allows and clear of hinges and openings; one too wide
along its fold where it has one, which is taped again, or else straight along it. Splices are pieces of their own: they
weigh, and are cut.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.cutting import Cutting
from ridgeline.engine.build.pieces import Line, Piece

if TYPE_CHECKING:
    # Imported where something is cut up: what no sheet is too small for does without it.
    from shapely import Polygon
    from shapely.geometry.base import BaseGeometry

Array = NDArray[np.float64]
#: A splice reaches so far on either side of the cut, and ends so far inside the edges, m; a cut stays so far from ends
#: of hinges and openings, m; it is looked for in steps of this, m (chosen).
SPLICE, INSET, CLEAR, _STEP = 0.040, 0.008, 0.015, 0.005
#: No piece is cut into more than this; what is smaller than this is nothing, m².
_MOST, _NOTHING = 12, 1e-8


class Room(NamedTuple):
    """What a sheet on hand takes: boards of a material, any where that is empty; along and across its grain, m."""

    material: str
    long: float
    wide: float
    turned: bool

    def takes(self, along: float, across: float) -> bool:
        """Tell whether something so large lies on it some way it may be turned."""
        least = 1e-9
        able = along <= self.long + least and across <= self.wide + least
        return able or (self.turned and along <= self.wide + least and across <= self.long + least)


Rooms = tuple[Room, ...]
#: What a region falls into, and the cut between, where that is spliced.
_Halves = tuple["list[Polygon]", Array | None]


class CutUp(NamedTuple):
    """What a region is cut into, and what is glued over the cuts: its outline, and the cut on it."""

    parts: tuple[Polygon, ...]
    splices: tuple[tuple[Polygon, Array], ...]


def rooms_of(cutting: Cutting) -> Rooms:
    """Return what the sheets on hand take, less their edges and the tool's kerf.

    Parameters
    ----------
    cutting : Cutting

    Returns
    -------
    tuple of Room
    """
    less = 2 * cutting.edge + cutting.kerf
    found = {Room(one.material, one.length - less, one.width - less, not cutting.grain)
             for one in cutting.sheets if one.count > 0}  # fmt: skip
    return tuple(sorted(found))


def longest_of(rooms: Rooms) -> float:
    """Return how long a panel is that some sheet may take, m; without any sheet, without end."""
    return max((room.long for room in rooms), default=math.inf)


def spliced(piece: Piece, rooms: Rooms, blocks: Sequence[Array] = ()) -> tuple[Piece, ...]:
    """Return a piece with what it is cut into, and its splices; alone where a sheet takes it.

    Parameters
    ----------
    piece : Piece
    rooms : tuple of Room
        Of the sheets on hand; without any nothing is cut up.
    blocks : sequence of ndarray
        Outlines of openings, which cuts stay clear of and splices leave free, m.

    Returns
    -------
    tuple of Piece
    """
    able = tuple(room for room in rooms if room.material in ("", piece.material))
    if not piece.flat or not able or len(piece.outline) < 3:
        return (piece,)
    wide, tall = np.ptp(piece.outline, axis=0)
    if any(room.takes(float(wide), float(tall)) for room in able):
        return (piece,)
    from shapely import Polygon

    holes = [np.array([(x - d / 2, y - d / 2), (x + d / 2, y - d / 2), (x + d / 2, y + d / 2), (x - d / 2, y + d / 2)])
             for x, y, d in piece.holes]  # fmt: skip
    found = cut_up(Polygon(piece.outline), piece.lines, [*blocks, *holes], able)
    if found is None:
        return (piece,)
    parts = tuple(np.asarray(one.exterior.coords)[:-1] for one in found.parts)
    # The same board over the same area: what a splice weighs is its share of the piece.
    return (replace(piece, parts=parts), *(_splice(piece, shape, line, k) for k, (shape, line)
                                           in enumerate(found.splices)))  # fmt: skip


def about_spliced(piece: Piece, rooms: Rooms) -> float:
    """Return about what the splices of a piece weigh over the piece itself, by how often it is cut across.

    Parameters
    ----------
    piece : Piece
    rooms : tuple of Room

    Returns
    -------
    float
        0 of what a sheet takes, and of what is no sheet.
    """
    if not piece.flat or len(piece.outline) < 3:
        return 0.0
    long, wide = (float(size) for size in np.ptp(piece.outline, axis=0))
    longest = max((room.long for room in rooms if room.material in ("", piece.material)), default=math.inf)
    cuts = max(math.ceil(long / longest - 1e-9) - 1, 0)
    strip = 2 * (SPLICE - INSET) * max(wide - 2 * INSET, 0.0)
    return cuts * strip / max(long * wide, strip, 1e-12)


def _splice(piece: Piece, shape: Polygon, line: Array, number: int) -> Piece:
    rings = [np.asarray(ring.coords)[:-1] for ring in (shape.exterior, *shape.interiors)]
    mass = piece.mass * shape.area / max(piece.area, 1e-12)
    return replace(
        piece, name=f"{piece.name}, splice {number + 1}", mass=mass, outline=rings[0], area=float(shape.area),
        openings=tuple(rings[1:]), lines=(Line("mark", line),), holes=(), face="splice", parts=(),
        lies=piece.lies_at(np.asarray(shape.centroid.coords)[0]),
    )  # fmt: skip


def cut_up(region: Polygon, lines: Sequence[Line], blocks: Sequence[Array], rooms: Rooms) -> CutUp | None:
    """Return how a region is cut into parts that sheets take.

    Parameters
    ----------
    region : Polygon
        Its first axis along the grain, m.
    lines : sequence of Line
        On it: hinges and cuts are kept clear of, a fold may be cut along.
    blocks : sequence of ndarray
        Outlines of openings, m.
    rooms : tuple of Room

    Returns
    -------
    CutUp or None
        None where no dozen of parts would do.
    """
    parts: list[Polygon] = []
    splices: list[tuple[Polygon, Array]] = []
    waiting = [region]
    while waiting:
        here = waiting.pop(0)
        low_x, low_y, high_x, high_y = here.bounds
        if any(room.takes(high_x - low_x, high_y - low_y) for room in rooms):
            parts.append(here)
            continue
        if len(parts) + len(waiting) >= _MOST:
            return None
        halves, cut = _across(here, lines, blocks, rooms) if _too_long(here, rooms) else _along(here, lines, rooms)
        if len(halves) < 2:
            return None
        waiting = [*halves, *waiting]
        if cut is not None:
            splices += (one for strip in _over(here, cut, blocks) for one in _shorter(*strip, rooms))
    return CutUp(tuple(parts), tuple(splices))


def _too_long(region: Polygon, rooms: Rooms) -> bool:
    low_x, _low_y, high_x, _high_y = region.bounds
    return bool(high_x - low_x > max(max(room.long, room.wide if room.turned else 0.0) for room in rooms) + 1e-9)


def _across(region: Polygon, lines: Sequence[Line], blocks: Sequence[Array], rooms: Rooms) -> _Halves:
    """Cut a region across, as far from its inner end as a sheet allows, clear of what is there."""
    low, low_y, high, high_y = region.bounds
    longest = max(room.long for room in rooms)
    if longest <= 2 * SPLICE:
        return [], None
    spots = [float(x) for line in lines if line.kind in ("hinge", "cut") for x in line.points[:, 0]]
    spans = [(float(hole[:, 0].min()), float(hole[:, 0].max())) for hole in blocks]
    tried = np.arange(low + longest, low + 2 * SPLICE, -_STEP)
    # The last part should be no sliver: as long as a splice at least.
    able = [float(x) for x in tried if high - x >= 2 * SPLICE]
    clear = (x for x in able if all(abs(x - spot) >= CLEAR for spot in spots)
             and all(not a - CLEAR < x < b + CLEAR for a, b in spans))  # fmt: skip
    at = next(clear, able[0] if able else low + longest)
    line = np.array([(at, low_y), (at, high_y)])
    return _pieces(region, line), line


def _along(region: Polygon, lines: Sequence[Line], rooms: Rooms) -> _Halves:
    """Cut a region along: at its fold, which is taped again, or straight where it is too wide."""
    for line in lines:
        if line.kind == "score":
            halves = _pieces(region, line.points)
            if len(halves) == 2 and min(one.area for one in halves) > 0.1 * region.area:
                return halves, None
    low_x, low, high_x, high = region.bounds
    widest = max(room.wide for room in rooms)
    spots = [float(y) for line in lines if line.kind == "hinge" for y in line.points[:, 1]]
    tried = np.arange(min(low + widest, high - 2 * INSET), low + 2 * INSET, -_STEP)
    at = next((float(y) for y in tried if all(abs(y - spot) >= CLEAR for spot in spots)), None)
    if at is None:
        return [], None
    cut = np.array([(low_x, at), (high_x, at)])
    return _pieces(region, cut), cut


def _pieces(region: Polygon, line: Array) -> list[Polygon]:
    """Return the two parts of a region on either side of a line, carried on beyond it; what lies inward first."""
    from shapely import LineString, Polygon
    from shapely.ops import split

    a, b = line[0], line[-1]
    way = (b - a) / max(float(np.hypot(*(b - a))), 1e-12)
    longer = LineString([a - 5 * way, *line[1:-1], b + 5 * way])
    found = [one for one in split(region, longer).geoms if isinstance(one, Polygon) and one.area > _NOTHING]
    if len(found) <= 2:
        return sorted(found, key=lambda one: (one.centroid.x, one.centroid.y))
    # A ragged edge may fall into more: those on a side stay together as far as they can.
    return sorted(found, key=lambda one: (one.centroid.x, one.centroid.y))


def _shorter(strip: Polygon, line: Array, rooms: Rooms) -> Iterator[tuple[Polygon, Array]]:
    """Yield a splice in lengths that sheets take, butted along the cut, the grain over it."""
    from shapely import LineString, Polygon, box

    low_x, low, high_x, high = strip.bounds
    wide, long = max(room.wide for room in rooms), max(room.long for room in rooms)
    across, along = math.ceil((high - low) / wide - 1e-9), math.ceil((high_x - low_x) / long - 1e-9)
    if across <= 1 and along <= 1:
        yield strip, line
        return
    xs, ys = np.linspace(low_x, high_x, along + 1), np.linspace(low, high, across + 1)
    for x0, x1 in pairwise(xs):
        for y0, y1 in pairwise(ys):
            cell = box(x0, y0, x1, y1)
            part, mark = strip.intersection(cell), LineString(line).intersection(cell)
            for one in getattr(part, "geoms", [part]):
                if isinstance(one, Polygon) and one.area > _NOTHING:
                    yield one, np.asarray(mark.coords) if isinstance(mark, LineString) and mark.length else line


def _over(region: Polygon, line: Array, blocks: Sequence[Array]) -> Iterator[tuple[Polygon, Array]]:
    """Yield the strip that is glued over a cut: across it, inside the edges, clear of openings."""
    from shapely import LineString, Polygon, box

    low, high = line.min(axis=0) - SPLICE, line.max(axis=0) + SPLICE
    upright = float(np.ptp(line[:, 0])) < float(np.ptp(line[:, 1]))
    low_x, high_x = (low[0], high[0]) if upright else (low[0] - 1, high[0] + 1)
    low_y, high_y = (low[1] - 1, high[1] + 1) if upright else (low[1], high[1])
    band: BaseGeometry = region.intersection(box(low_x, low_y, high_x, high_y)).buffer(-INSET, join_style="mitre")
    for hole in blocks:
        band = band.difference(Polygon(hole).buffer(INSET))
    strips = [one for one in getattr(band, "geoms", [band]) if isinstance(one, Polygon) and one.area > _NOTHING]
    if not strips:
        return
    strip = max(strips, key=lambda one: one.area)
    kept = LineString(line).intersection(strip)
    marks = [one for one in getattr(kept, "geoms", [kept]) if isinstance(one, LineString) and one.length > 1e-6]
    yield strip, np.asarray(marks[0].coords) if marks else line
