"""Flat patterns: each piece of sheet of a design as it is cut, one for each side, with lines, openings and names."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from shapely import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.document import Design
from ridgeline.engine.build.pieces import Line, Piece
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.templates.features import Features, features_of

Array = NDArray[np.float64]
#: Corners of a hole that is drawn as a polygon: it is short of a circle by less than 0.01 mm up to 60 mm across.
_ROUND = 128
#: Letters on a piece, m: no taller than this, and no wider than so much of it.
_LETTERS, _WIDE, _LETTER = 0.008, 0.8, 0.6
#: A kerf less than this is none, m; a piece that keeps less than this in one is not cut apart by a seat.
_NO_KERF, _WHOLE = 1e-7, 0.98
_HANDS = {1: "starboard", -1: "port", 0: ""}


class Label(NamedTuple):
    """Words on a piece: where their middle stands, how tall they are, m, and how they are turned, rad."""

    text: str
    x: float
    y: float
    size: float
    turn: float


@dataclass(frozen=True)
class Pattern:
    """One piece of sheet as it is cut: its contour anticlockwise, openings, lines and words, in its own plane, m.

    ``key`` tells it from all others of the design and stays with it; ``hand`` is 1 to starboard, -1 to port, 0 where it
    is neither; ``sheet`` m thick; ``mass`` kg. ``origin`` (3,) and ``axes`` (2, 3) tell where its plane lies in the
    aircraft; None of aids, that are no part of it.
    """

    key: str
    name: str
    of: str
    hand: int
    material: str
    sheet: float
    outline: Array
    openings: tuple[Array, ...]
    lines: tuple[Line, ...]
    labels: tuple[Label, ...]
    mass: float
    origin: Array | None = None
    axes: Array | None = None

    @cached_property
    def polygon(self) -> Polygon:
        """What is left of the sheet: contour less openings."""
        return orient(Polygon(self.outline, self.openings))

    @property
    def area(self) -> float:
        """Net, m²."""
        return float(self.polygon.area)

    def placed(self, points: Array) -> Array | None:
        """Return places of the pattern in aircraft axes, (n, 3) m; None of what is no part of the aircraft.

        Parameters
        ----------
        points : ndarray, shape (n, 2)
            m.

        Returns
        -------
        ndarray or None
        """
        if self.origin is None or self.axes is None:
            return None
        found: Array = self.origin + np.asarray(points, float) @ self.axes
        return found

    def cut(self, kerf: float) -> Polygon:
        """Return the way of the tool's middle: contours half a kerf outside, openings half a kerf inside.

        Parameters
        ----------
        kerf : float
            m.

        Returns
        -------
        Polygon
        """
        if kerf < _NO_KERF:
            return self.polygon
        return orient(self.polygon.buffer(0.5 * kerf, join_style="mitre", mitre_limit=3.0))


def patterns_of(design: Design, balance: float | None = None, inlet: float | None = None) -> tuple[Pattern, ...]:
    """Return the flat patterns of a design.

    Parameters
    ----------
    design : Design
    balance : float, optional
        Balance point behind the datum, m, for its marks.
    inlet : float, optional
        Air that cools the power train comes in through so much, m².

    Returns
    -------
    tuple of Pattern
        In the order of the pieces, starboard before port; none of what is printed, carved, bought or stock.
    """
    parts: dict[str, Surface | Body] = {surface.id: surface for surface in design.surfaces}
    parts.update({body.id: body for body in design.bodies})
    found: list[Pattern] = []
    counted: dict[str, int] = {}
    for piece in pieces_of_design(design):
        part = parts[piece.of]
        if not piece.flat:
            continue
        number = counted[piece.of] = counted.get(piece.of, 0) + 1
        found += _each(piece, part, number, features_of(design, piece, part, balance, inlet))
    return tuple(found)


def _each(piece: Piece, part: Surface | Body, number: int, features: Features) -> Iterator[Pattern]:
    """Yield a pattern for every one of a kind of piece: those to port are mirror images, cut up alike."""
    hands = (1, -1) if piece.mirrored else (0,)
    for n in range(piece.count):
        for hand in hands:
            key = f"{piece.of}.{number}.{n + 1}{'spc'[(1, -1, 0).index(hand)]}"
            words = f"{part.name}: {piece.name.lower()}" + (f" {n + 1}" if piece.count > 1 else "")
            name = f"{words}, {_HANDS[hand]}" if hand else words
            whole = _pattern(key, name, hand, piece, part, features)
            if piece.parts:
                flip = np.array([-1.0 if hand < 0 else 1.0, 1.0])
                yield from parts_of(whole, [outline * flip for outline in piece.parts])
            else:
                yield whole


def parts_of(whole: Pattern, outlines: Sequence[Array]) -> Iterator[Pattern]:
    """Yield what a pattern is cut up into, with what of its openings, lines and words lies on each part.

    Parameters
    ----------
    whole : Pattern
    outlines : sequence of ndarray
        Of the parts, m.

    Yields
    ------
    Pattern
    """
    for number, outline in enumerate(outlines):
        side = Polygon(outline)
        part = _largest(whole.polygon.intersection(side))
        lines = []
        for line in whole.lines:
            kept = LineString(line.points).intersection(side)
            lines += [Line(line.kind, np.asarray(one.coords)) for one in getattr(kept, "geoms", [kept])
                      if isinstance(one, LineString) and one.length > 1e-6]  # fmt: skip
        name = f"{whole.name}, part {number + 1}"
        edge = np.asarray(part.exterior.coords)[:-1]
        labels = tuple(label for label in whole.labels[1:] if side.contains(Point(label.x, label.y)))
        yield replace(
            whole, key=f"{whole.key}/{number + 1}", name=name, outline=edge, lines=tuple(lines),
            openings=tuple(np.asarray(ring.coords)[:-1] for ring in part.interiors),
            labels=(_name_on(edge, name), *labels), mass=whole.mass * part.area / whole.polygon.area,
        )  # fmt: skip


def _largest(shape: BaseGeometry) -> Polygon:
    parts = [one for one in getattr(shape, "geoms", [shape]) if isinstance(one, Polygon)]
    return orient(max(parts, key=lambda one: one.area))


def _pattern(key: str, name: str, hand: int, piece: Piece, part: Surface | Body, features: Features) -> Pattern:
    holes = (*(circle(x, y, 0.5 * d) for x, y, d in piece.holes), *piece.openings)
    flip = -1.0 if hand < 0 else 1.0

    def turned(points: Array) -> Array:
        found: Array = points * np.array([flip, 1.0])
        return found[::-1] if flip < 0 else found

    lines = (*piece.lines, *features.lines)
    mirrored = tuple(Line(line.kind, line.points * np.array([flip, 1.0])) for line in lines)
    outline = turned(piece.outline)
    made = Pattern(
        key,
        name,
        piece.of,
        hand,
        piece.material,
        thickness(part),
        outline,
        tuple(turned(hole) for hole in (*holes, *features.openings)),
        mirrored,
        (_name_on(outline, name), *(replace_label(one, flip) for one in features.labels)),
        piece.mass,
        piece.origin * (1.0, flip, 1.0),
        # To port the pattern is turned over, and the aircraft mirrored.
        piece.axes * (1.0, flip, 1.0) * np.array([[flip], [1.0]]),
    )
    for seat in features.seats:
        made = _less(made, Polygon(turned(np.asarray(seat.exterior.coords)[:-1])))
    return made


def _less(pattern: Pattern, seat: Polygon) -> Pattern:
    """Return a pattern with a seat cut out of it, from its edge or from its midst; marked where it would fall apart."""
    rest = pattern.polygon.difference(seat)
    left = _largest(rest)
    if left.area < _WHOLE * rest.area:
        ring = np.asarray(seat.exterior.coords)
        return replace(pattern, lines=(*pattern.lines, Line("mark", ring)))
    outline = np.asarray(left.exterior.coords)[:-1]
    openings = tuple(np.asarray(ring.coords)[:-1] for ring in left.interiors)
    return replace(pattern, outline=outline, openings=openings, labels=(_name_on(outline, pattern.name),
                                                                        *pattern.labels[1:]))  # fmt: skip


def replace_label(label: tuple[str, float, float, float], flip: float) -> Label:
    """Return words at a place of a piece, on its mirror image where it is one."""
    text, x, y, size = label
    return Label(text, flip * x, y, size, 0.0)


def thickness(part: Surface | Body) -> float:
    """Return the thickness of the sheet a part is cut from, m."""
    if isinstance(part, Surface):
        return part.sheet
    return 0.005 if part.built is None else part.built.sheet


def circle(x: float, y: float, radius: float, corners: int = _ROUND) -> Array:
    """Return a hole as a polygon that holds its area, (corners, 2).

    Parameters
    ----------
    x, y, radius : float
        m, or any other length.
    corners : int

    Returns
    -------
    ndarray
    """
    turn = 2 * math.pi * np.arange(corners) / corners
    # A polygon of the same area stands a little outside the circle.
    out = radius * math.sqrt(2 * math.pi / corners / math.sin(2 * math.pi / corners))
    return np.column_stack([x + out * np.cos(turn), y + out * np.sin(turn)])


def _name_on(outline: Array, name: str) -> Label:
    """Return the name of a piece inside it, along its longer side."""
    polygon = Polygon(outline)
    spot = polygon.representative_point() if not polygon.contains(polygon.centroid) else polygon.centroid
    size = np.ptp(outline, axis=0)
    tall = size[1] > size[0]
    room = float(max(size))
    letters = min(_LETTERS, _WIDE * room / (_LETTER * max(len(name), 1)), 0.4 * float(min(size)))
    return Label(name, spot.x, spot.y, letters, math.pi / 2 if tall else 0.0)
