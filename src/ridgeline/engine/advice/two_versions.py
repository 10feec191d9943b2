"""Two aircraft side by side: which figures, masses, parts, builds and linkages differ, and what moved the balance."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.design.kinds import KINDS, listed
from ridgeline.engine.advice.compare import FittedSet, Swapped, swapped
from ridgeline.engine.figures import Figure
from ridgeline.engine.geometry.placed import mean_chord_of
from ridgeline.engine.report import Report

#: Figures that differ by less than this share of their band are the same to whoever reads them.
_SAME_SHARE = 0.02
#: A mass or a place that differs by less is the same, kg and m.
_SAME_MASS, _SAME_PLACE = 5e-5, 5e-5


class FigurePair(NamedTuple):
    """A figure of both; ``apart`` is how far they are from one another over their common band, 0 where one has none."""

    key: str
    one: Figure
    other: Figure
    apart: float


class Shift(NamedTuple):
    """What an item did to weight and balance: masses kg with what they still gain, and the balance point's move, m."""

    ident: str
    name: str
    before: float
    after: float
    moved: float


class Built(NamedTuple):
    """A part whose make differs: its id and name, which field, and what it was and is; None where there was none.

    A number is of a ``quantity``.
    """

    ident: str
    name: str
    field: str
    before: Any
    after: Any
    quantity: str = ""


@dataclass(frozen=True)
class Differences:
    """What differs from one aircraft to another."""

    figures: tuple[FigurePair, ...]
    shifts: tuple[Shift, ...]
    parts: tuple[Swapped, ...]
    built: tuple[Built, ...]

    @property
    def moved(self) -> float:
        """How far the balance point moved, m: what all items did to it together."""
        return float(sum(shift.moved for shift in self.shifts))

    @property
    def gained(self) -> float:
        """How much heavier it got, kg."""
        return float(sum(shift.after - shift.before for shift in self.shifts))


def differences(one: Design, report: Report, other: Design, other_report: Report) -> Differences:
    """Compare two aircraft.

    Parameters
    ----------
    one : Design
        Before.
    report : Report
    other : Design
        After.
    other_report : Report

    Returns
    -------
    Differences
    """
    fitted = (FittedSet("", "", d, r, "", "") for d, r in ((one, report), (other, other_report)))
    return Differences(
        tuple(_figures(report, other_report)),
        tuple(_shifts(one, report, other, other_report)),
        tuple(swap for swap in swapped(*fitted) if not isinstance(swap.new or swap.old, _SHAPES)),
        tuple(_built(one, other)),
    )


def _figures(report: Report, other: Report) -> Iterator[FigurePair]:
    for key, before in report.figures.items():
        after = other.figures.get(key)
        if after is None or before.value is None or after.value is None:
            if after is not None and (before.value is None) != (after.value is None):
                yield FigurePair(key, before, after, 0.0)
            continue
        if before.value == after.value:
            continue
        gap = abs(after.value - before.value)
        band = float(np.hypot(before.below + before.above, after.below + after.above)) / 2
        if gap > max(_SAME_SHARE * band, 1e-9 * abs(before.value)):
            yield FigurePair(key, before, after, gap / band if band > 0 else 0.0)


def _rows(design: Design, report: Report) -> dict[str, tuple[str, float, float]]:
    """Return the name of each item, its mass with what it still gains, kg, and how far behind the datum it is, m."""
    masses = report.results.masses
    back = masses.items.place[:, 0]
    rows = zip(design.parts, masses.expected, back, strict=True)
    return {item.id: (item.name, float(mass), float(x)) for item, mass, x in rows}


def _shifts(one: Design, report: Report, other: Design, other_report: Report) -> Iterator[Shift]:
    """Yield what every item did to weight and balance: the moves sum to the balance point's own.

    Source
    ------
    x̄' − x̄ = Σ [m' (x' − x̄) − m (x − x̄)]/M', since Σ m (x − x̄) is nothing: docs/theory.md §16.
    """
    before, after = report.results.masses.state, other_report.results.masses.state
    if before is None or after is None:
        return
    middle, total = float(before.cg[0]), after.mass
    old, new = _rows(one, report), _rows(other, other_report)
    for ident in [*old, *(ident for ident in new if ident not in old)]:
        name, mass, back = old.get(ident, ("", 0.0, middle))
        fresh, more, there = new.get(ident, ("", 0.0, middle))
        moved = (more * (there - middle) - mass * (back - middle)) / total
        if abs(more - mass) > _SAME_MASS or abs(moved) > _SAME_PLACE / 10:
            yield Shift(ident, fresh or name, mass, more, moved)


#: Shapes are told by what of them differs.
_SHAPES = (Surface, Body, Wheel)


def _of_surface(surface: Surface) -> dict[str, tuple[Any, str]]:
    first, last = surface.stations[0], surface.stations[-1]
    half = mean_chord_of(surface) * (last.y - first.y)
    return {
        "built": (surface.built and surface.built.form, ""),
        "section": (surface.section, ""),
        "span": ((2 if surface.mirrored else 1) * last.y, "length"),
        "root chord": (first.chord, "length"),
        "tip chord": (last.chord, "length"),
        "area": (2 * half if surface.mirrored else half, "area"),
        "sweep of the tip": (last.x - first.x, "length"),
        "twist of the tip": (last.twist, "angle"),
        "behind the datum": (surface.x, "length"),
        "over the datum": (surface.z, "length"),
        "incidence": (surface.incidence, "angle"),
        "cant": (surface.cant, "angle"),
    }


def _of_body(body: Body) -> dict[str, tuple[Any, str]]:
    length = body.stations[-1].x - body.stations[0].x if body.stations else 0.0
    return {
        "built": (body.built and body.built.form, ""),
        "length": (length, "length"),
        "behind the datum": (body.x, "length"),
        "widest": (max((one.width for one in body.stations), default=0.0), "length"),
    }


def _of_any(part: Any) -> dict[str, tuple[Any, str]]:
    """Every field of a part, with its quantity."""
    found = {}
    for field, info in type(part).model_fields.items():
        extra = info.json_schema_extra
        if field not in ("id", "name", "sets"):
            found[field] = getattr(part, field), str(extra.get("quantity", "")) if isinstance(extra, dict) else ""
    return found


#: What of a part is told when it differs: by the kind of part.
_TOLD: tuple[tuple[type, Callable[[Any], dict[str, tuple[Any, str]]]], ...] = ((Surface, _of_surface), (Body, _of_body))


def _built(one: Design, other: Design) -> Iterator[Built]:
    """Yield parts whose make differs, and linkages and fastenings that do."""
    for kind in KINDS:
        if kind.field in ("parts", "power", "radio"):
            continue
        old = {part.id: part for part in listed(one, kind)}
        new = {part.id: part for part in listed(other, kind)}
        for ident in [*old, *(ident for ident in new if ident not in old)]:
            a, b = old.get(ident), new.get(ident)
            if a is b or a == b:
                continue
            yield from _fields(ident, kind.word, a, b)


def _fields(ident: str, word: str, a: Any, b: Any) -> Iterator[Built]:
    whole = a if b is None else b
    name = getattr(whole, "name", "") or word
    if a is None or b is None:
        yield Built(ident, name, word, None if a is None else name, None if b is None else name)
        return
    told = next((told for kind, told in _TOLD if isinstance(whole, kind)), _of_any)
    before, after = told(a), told(b)
    for field, (was, quantity) in before.items():
        now = after[field][0]
        if was != now:
            yield Built(ident, name, field, was, now, quantity)
