"""Pieces larger than every sheet: cut across, clear of hinges and openings and far from the root, and spliced."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from shapely import LineString, Polygon, box
from shapely.geometry.base import BaseGeometry

from ridgeline.design.cutting import Cutting, SheetStock
from ridgeline.engine.build.pieces import Line
from ridgeline.engine.templates.patterns import Label, Pattern

Array = NDArray[np.float64]
#: A splice reaches so far on either side of the cut, and ends so far inside the edges, m; a cut stays so far from ends
#: of hinges and openings, m; it is looked for in steps of this, m (chosen).
SPLICE, INSET, CLEAR, _STEP = 0.040, 0.008, 0.015, 0.005
#: No piece is cut into more than this.
_MOST = 12


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
    if stock.material not in ("", pattern.material) or stock.count < 1:
        return False
    low_x, low_y, high_x, high_y = pattern.cut(cutting.kerf).bounds
    along, across = high_x - low_x, high_y - low_y
    wide, long = stock.width - 2 * cutting.edge, stock.length - 2 * cutting.edge
    able = along <= long + 1e-9 and across <= wide + 1e-9
    return able or (not cutting.grain and along <= wide + 1e-9 and across <= long + 1e-9)


def split_to_fit(patterns: Sequence[Pattern], cutting: Cutting) -> tuple[Pattern, ...]:
    """Return patterns that each lie on a sheet on hand: those too long are cut across, with a splice for each cut.

    Parameters
    ----------
    patterns : sequence of Pattern
    cutting : Cutting

    Returns
    -------
    tuple of Pattern
        What is wider than every sheet stays as it is.
    """
    found: list[Pattern] = []
    for pattern in patterns:
        # A port piece is cut where its fellow is: as its mirror image.
        if pattern.hand < 0:
            found += [flipped(part) for part in _parts(flipped(pattern), cutting)]
        else:
            found += _parts(pattern, cutting)
    return tuple(found)


def flipped(pattern: Pattern) -> Pattern:
    """Return the mirror image of a pattern across its second axis.

    Parameters
    ----------
    pattern : Pattern

    Returns
    -------
    Pattern
    """
    over = np.array([-1.0, 1.0])
    return replace(
        pattern,
        outline=(pattern.outline * over)[::-1],
        openings=tuple((hole * over)[::-1] for hole in pattern.openings),
        lines=tuple(Line(line.kind, line.points * over) for line in pattern.lines),
        labels=tuple(label._replace(x=-label.x, turn=label.turn) for label in pattern.labels),
    )


def _parts(pattern: Pattern, cutting: Cutting) -> Iterator[Pattern]:
    if any(fits(pattern, stock, cutting) for stock in cutting.sheets):
        yield pattern
        return
    able = [s for s in cutting.sheets if s.material in ("", pattern.material) and s.count > 0]
    low_x, low_y, high_x, high_y = pattern.cut(cutting.kerf).bounds
    longest = max((s.length - 2 * cutting.edge for s in able if high_y - low_y <= s.width - 2 * cutting.edge),
                  default=0.0)  # fmt: skip
    longest -= cutting.kerf
    if longest <= 2 * SPLICE or (high_x - low_x) / longest > _MOST:
        yield pattern
        return
    rest, number = pattern, 1
    while True:
        low, _y, high, _h = rest.polygon.bounds
        if high - low <= longest:
            yield _named(rest, pattern, number)
            return
        at = _cut_at(rest, low, high, longest)
        inner, outer = (_within(rest, side) for side in (box(low - 1, -9, at, 9), box(at, -9, high + 1, 9)))
        yield _named(inner, pattern, number)
        yield from _splice(rest, pattern, at, number)
        rest, number = outer, number + 1


def _cut_at(pattern: Pattern, low: float, high: float, longest: float) -> float:
    """Return where a pattern is cut across: as far from its inner end as a sheet allows, clear of what is there."""
    spots = [x for line in pattern.lines if line.kind in ("hinge", "cut") for x in line.points[:, 0]]
    spans = [(float(hole[:, 0].min()), float(hole[:, 0].max())) for hole in pattern.openings]
    tried = np.arange(low + longest, low + 2 * SPLICE, -_STEP)

    def clear(x: float) -> bool:
        return all(abs(x - spot) >= CLEAR for spot in spots) and all(
            not a - CLEAR < x < b + CLEAR for a, b in spans
        )  # fmt: skip

    # The last part should be no sliver: as long as a splice at least.
    able = [float(x) for x in tried if high - x >= 2 * SPLICE]
    return next((x for x in able if clear(x)), able[0] if able else low + longest)


def _within(pattern: Pattern, side: Polygon) -> Pattern:
    """Return what of a pattern lies within a half of the plane."""
    part = _largest(pattern.polygon.intersection(side))
    lines = []
    for line in pattern.lines:
        kept = LineString(line.points).intersection(side)
        for one in getattr(kept, "geoms", [kept]):
            if one.geom_type == "LineString" and one.length > 1e-6:
                lines.append(Line(line.kind, np.asarray(one.coords)))
    labels = tuple(label for label in pattern.labels[1:] if side.contains_properly(_point(label)))
    outline = np.asarray(part.exterior.coords)[:-1]
    openings = tuple(np.asarray(ring.coords)[:-1] for ring in part.interiors)
    spot = part.representative_point() if not part.contains(part.centroid) else part.centroid
    name = pattern.labels[0]._replace(x=float(spot.x), y=float(spot.y))
    share = part.area / pattern.polygon.area
    return replace(pattern, outline=outline, openings=openings, lines=tuple(lines), labels=(name, *labels),
                   mass=pattern.mass * share)  # fmt: skip


def _point(label: Label) -> BaseGeometry:
    return LineString([(label.x, label.y), (label.x + 1e-9, label.y)])


def _largest(shape: BaseGeometry) -> Polygon:
    parts = [one for one in getattr(shape, "geoms", [shape]) if isinstance(one, Polygon)]
    return max(parts, key=lambda one: one.area)


def _named(part: Pattern, whole: Pattern, number: int) -> Pattern:
    name = f"{whole.name}, part {number}"
    return replace(part, key=f"{whole.key}/{number}", name=name,
                   labels=(part.labels[0]._replace(text=name), *part.labels[1:]))  # fmt: skip


def _splice(rest: Pattern, whole: Pattern, at: float, number: int) -> Iterator[Pattern]:
    """Yield the strip that is glued over a cut: across it, inside the edges, clear of openings."""
    band = rest.polygon.intersection(box(at - SPLICE, -9, at + SPLICE, 9)).buffer(-INSET, join_style="mitre")
    if band.is_empty:
        return
    strip = _largest(band)
    outline = np.asarray(strip.exterior.coords)[:-1]
    middle = strip.representative_point()
    name = f"{whole.name}, splice {number}"
    label = whole.labels[0]._replace(text=name, x=float(middle.x), y=float(middle.y), size=0.004)
    mass = whole.mass * strip.area / whole.polygon.area
    line = Line("mark", np.array([(at, float(strip.bounds[1])), (at, float(strip.bounds[3]))]))
    yield Pattern(f"{whole.key}/s{number}", name, whole.of, whole.hand, whole.material, whole.sheet, outline,
                  tuple(np.asarray(ring.coords)[:-1] for ring in strip.interiors), (line,), (label,), mass)  # fmt: skip
