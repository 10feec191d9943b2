"""Laying patterns on the builder's sheets: grain, gap and edges kept, sheets filled one after the other.

The lower left corner rule is ours and always there; the packer of `packing` is tried where it is installed.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon, STRtree, affinity

from ridgeline.design.cutting import Cutting, SheetStock
from ridgeline.engine.build.cut_up import rooms_of
from ridgeline.engine.templates.patterns import Pattern

Array = NDArray[np.float64]
#: Told the share of the patterns that lies; what it answers tells whether to go on.
Progress = Callable[[float], bool]
#: Pieces within the gap by less than this touch by rounding alone, m; steps in which one is pushed into a corner, m.
_TOUCH, _PUSH = 1e-6, (0.02, 0.005, 0.001)
#: A quarter of a rounded corner has so many edges.
_CORNER = 8


class Cancelled(Exception):
    """Laying out was stopped before its end."""


class Laid(NamedTuple):
    """A pattern on a sheet: which one, the place of its own origin, m, and how it is turned, rad."""

    pattern: Pattern
    x: float
    y: float
    turn: float

    def shape(self, kerf: float = 0.0) -> Polygon:
        """Return what is cut, on the sheet, m."""
        turned = affinity.rotate(self.pattern.cut(kerf), self.turn, origin=(0, 0), use_radians=True)
        return affinity.translate(turned, self.x, self.y)

    def points(self, points: Array) -> Array:
        """Return places of the pattern on the sheet, (n, 2) m."""
        c, s = math.cos(self.turn), math.sin(self.turn)
        found: Array = np.asarray(points, float) @ np.array([[c, s], [-s, c]]) + (self.x, self.y)
        return found


@dataclass(frozen=True)
class UsedSheet:
    """A sheet and what lies on it; ``number`` counts the sheets on hand, from 0."""

    stock: SheetStock
    laid: tuple[Laid, ...]
    number: int = 0

    @property
    def share(self) -> float:
        """What of the sheet becomes pieces."""
        return math.fsum(one.pattern.area for one in self.laid) / (self.stock.width * self.stock.length)

    @property
    def reach(self) -> float:
        """How far along the sheet anything lies, m: what is beyond is an offcut."""
        return max((one.shape().bounds[3] for one in self.laid), default=0.0)


@dataclass(frozen=True)
class Nested:
    """All sheets, and patterns that no sheet on hand takes."""

    sheets: tuple[UsedSheet, ...]
    left: tuple[Pattern, ...]

    @property
    def share(self) -> float:
        """What of all sheets becomes pieces; 0 without one."""
        whole = math.fsum(one.stock.width * one.stock.length for one in self.sheets)
        return 0.0 if whole == 0 else math.fsum(one.share * one.stock.width * one.stock.length
                                                for one in self.sheets) / whole  # fmt: skip


def fits(pattern: Pattern, stock: SheetStock, cutting: Cutting) -> bool:
    """Tell whether a pattern lies on an empty sheet some way it may be turned.

    Parameters
    ----------
    pattern : Pattern
    stock : SheetStock
    cutting : Cutting

    Returns
    -------
    bool
    """
    room = next(iter(rooms_of(cutting.model_copy(update={"sheets": (stock,)}))), None)
    if room is None or stock.material not in ("", pattern.material):
        return False
    # What a sheet takes is less by the kerf already.
    low_x, low_y, high_x, high_y = pattern.polygon.bounds
    return room.takes(high_x - low_x, high_y - low_y)


def turns_of(*, grain: bool) -> tuple[float, ...]:
    """Return the ways a piece may be turned on a sheet, rad: its long way along the sheet, or any of four.

    Parameters
    ----------
    grain : bool

    Returns
    -------
    tuple of float
    """
    # A pattern's own first axis, along the span or the body, goes with the grain, along the sheet.
    along = (math.pi / 2, -math.pi / 2)
    return along if grain else (*along, 0.0, math.pi)


class Nesting:
    """Laying patterns on sheets, one at a time: `steps` yields the share that is done, `result` what came of it."""

    def __init__(self, patterns: Sequence[Pattern], cutting: Cutting) -> None:
        self._cutting = cutting
        self._sheets = [_Open(stock) for stock in cutting.sheets for _ in range(stock.count)]
        self._left: list[Pattern] = []
        rest = {pattern.key: pattern for pattern in sorted(patterns, key=lambda one: -one.area)}
        # What was laid last stays where it is; what it was laid on is laid anew.
        for told in reversed(cutting.laid):
            pattern = rest.get(told.piece)
            if pattern is not None and told.sheet < len(self._sheets):
                laid = Laid(pattern, told.x, told.y, told.turn)
                if self._sheets[told.sheet].accepts(laid, cutting):
                    self._sheets[told.sheet].take(laid, cutting)
                    del rest[told.piece]
        self._rest = list(rest.values())

    def steps(self) -> Iterator[float]:
        """Lay one pattern after the other; yield the share of them that lies."""
        for done, pattern in enumerate(self._rest):
            yield done / len(self._rest)
            # Sheets kept for this board come before those of any.
            sheets = sorted(self._sheets, key=lambda sheet: not sheet.stock.material)
            able = (sheet for sheet in sheets if sheet.takes(pattern) and sheet.lay(pattern, self._cutting))
            if next(able, None) is None:
                self._left.append(pattern)

    def result(self) -> Nested:
        """Return the sheets as they are laid so far."""
        every = (UsedSheet(sheet.stock, tuple(sheet.laid), number) for number, sheet in enumerate(self._sheets))
        used = tuple(sheet for sheet in every if sheet.laid)
        return Nested(used, tuple(self._left))


def nested(patterns: Sequence[Pattern], cutting: Cutting, progress: Progress | None = None) -> Nested:
    """Lay patterns on sheets, those laid by hand first where they were left.

    Parameters
    ----------
    patterns : sequence of Pattern
    cutting : Cutting
    progress : callable, optional

    Returns
    -------
    Nested

    Raises
    ------
    Cancelled
        When ``progress`` answers that it is not to go on.
    """
    laying = Nesting(patterns, cutting)
    for share in laying.steps():
        if progress is not None and not progress(share):
            raise Cancelled
    return laying.result()


class _Open:
    """A sheet that is being filled."""

    def __init__(self, stock: SheetStock) -> None:
        self.stock = stock
        self.laid: list[Laid] = []
        self._grown: list[Polygon] = []
        self._tree: STRtree | None = None
        self._free = stock.width * stock.length

    def takes(self, pattern: Pattern) -> bool:
        """Tell whether a pattern is of this sheet's board and not larger than what is left of it."""
        return self._alike(pattern) and pattern.area < self._free

    def _alike(self, pattern: Pattern) -> bool:
        """Tell whether a pattern is of this board, or of that which lies here already."""
        here = self.laid[0].pattern if self.laid else pattern
        alike = (pattern.material, pattern.sheet) == (here.material, here.sheet)
        return alike and self.stock.material in ("", pattern.material)

    def accepts(self, one: Laid, cutting: Cutting) -> bool:
        """Tell whether a pattern may lie where it is said: of this board, on the sheet, clear of what is there."""
        shape = one.shape(cutting.kerf)
        low_x, low_y, high_x, high_y = shape.bounds
        inside = min(low_x, low_y, self.stock.width - high_x, self.stock.length - high_y) >= -_TOUCH
        return inside and self._alike(one.pattern) and self._clear(shape)

    def take(self, one: Laid, cutting: Cutting) -> None:
        """Lay a pattern where it is said."""
        self.laid.append(one)
        # Grown a little short of the gap, so that what touches it is free; corners are rounded from outside.
        grown = one.shape(cutting.kerf).buffer(cutting.gap / math.cos(math.pi / (4 * _CORNER)), quad_segs=_CORNER)
        self._grown.append(grown.buffer(-_TOUCH, join_style="mitre"))
        self._tree = STRtree(self._grown)
        self._free -= one.pattern.area

    def lay(self, pattern: Pattern, cutting: Cutting) -> bool:
        """Lay a pattern into the lowest place, then the one farthest left; tell whether there was one."""
        best: tuple[float, float, float] | None = None
        shape: tuple[Polygon, Laid] | None = None
        for turn in turns_of(grain=cutting.grain):
            flat = affinity.rotate(pattern.cut(cutting.kerf), turn, origin=(0, 0), use_radians=True)
            low_x, low_y, high_x, high_y = flat.bounds
            wide, tall = high_x - low_x, high_y - low_y
            edge = cutting.edge
            if wide > self.stock.width - 2 * edge + _TOUCH or tall > self.stock.length - 2 * edge + _TOUCH:
                continue
            at = self._lowest(affinity.translate(flat, -low_x, -low_y), wide, tall, edge)
            if at is None:
                continue
            key = (at[1] + tall, at[1], at[0])
            if best is None or key < best:
                best, shape = key, (flat, Laid(pattern, at[0] - low_x, at[1] - low_y, turn))
        if shape is None:
            return False
        self.take(shape[1], cutting)
        return True

    def _lowest(self, flat: Polygon, wide: float, tall: float, edge: float) -> tuple[float, float] | None:
        """Return the lowest free place of a shape whose corner lies at nothing, pushed down and left."""
        most_x, most_y = self.stock.width - edge - wide, self.stock.length - edge - tall
        bounds = [one.bounds for one in self._grown]
        # What is laid is grown by the gap already: a shape may all but touch it.
        xs = sorted({edge, most_x, *(b[2] + _TOUCH for b in bounds), *(b[0] - wide - _TOUCH for b in bounds)})
        ys = sorted({edge, *(b[3] + _TOUCH for b in bounds), *(b[1] for b in bounds)})
        for y in ys:
            if not edge - _TOUCH <= y <= most_y + _TOUCH:
                continue
            for x in xs:
                if edge - _TOUCH <= x <= most_x + _TOUCH and self._clear(affinity.translate(flat, x, y)):
                    return self._pushed(flat, x, y, edge)
        return None

    def _pushed(self, flat: Polygon, x: float, y: float, edge: float) -> tuple[float, float]:
        """Push a shape down and left until it touches."""
        for step in _PUSH:
            moved = True
            while moved:
                moved = False
                for dx, dy in ((0.0, -step), (-step, 0.0)):
                    there = x + dx, y + dy
                    if min(there) >= edge - _TOUCH and self._clear(affinity.translate(flat, *there)):
                        (x, y), moved = there, True
        return x, y

    def _clear(self, shape: Polygon) -> bool:
        if self._tree is None:
            return True
        return not len(self._tree.query(shape, predicate="intersects"))


def faults(found: Nested, cutting: Cutting) -> tuple[str, ...]:
    """Return what is wrong with a layout: pieces that overlap or come nearer than the gap, or over the sheet's edge.

    Parameters
    ----------
    found : Nested
    cutting : Cutting

    Returns
    -------
    tuple of str
        Words for each fault; nothing of a sound layout.
    """
    told = []
    for k, sheet in enumerate(found.sheets):
        shapes = [one.shape(cutting.kerf) for one in sheet.laid]
        for one, shape in zip(sheet.laid, shapes, strict=True):
            low_x, low_y, high_x, high_y = shape.bounds
            inside = min(low_x, low_y, sheet.stock.width - high_x, sheet.stock.length - high_y)
            if inside < -_TOUCH:
                told.append(f"{one.pattern.name} reaches over the edge of sheet {k + 1}")
        tree = STRtree(shapes)
        for i, shape in enumerate(shapes):
            for j in tree.query(shape, predicate="dwithin", distance=max(cutting.gap - 10 * _TOUCH, 0.0)):
                if j > i and shapes[j].distance(shape) < cutting.gap - 10 * _TOUCH:
                    told.append(f"{sheet.laid[i].pattern.name} and {sheet.laid[j].pattern.name} are too near")
    return tuple(told)
