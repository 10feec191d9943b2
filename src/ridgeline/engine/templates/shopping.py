"""What a design is made of that is bought: how much of each, how much of it is there, what is still to buy."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from ridgeline.design.document import Design
from ridgeline.design.fastening import FasteningKind
from ridgeline.design.linkage import LinkageKind
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.nesting import Nested
from ridgeline.engine.templates.stock_cut import cut_from, rods_of

Unit = Literal["pieces", "m", "m²"]
#: Fastenings that are bought by the piece, what one is called, and whether its size tells it.
_SOLD: dict[FasteningKind, tuple[str, bool]] = {
    "bands": ("rubber band", False),
    "bolts": ("bolt", True),
    "magnets": ("magnet", True),
    "screws": ("screw", True),
    "prop_bands": ("rubber ring", False),
    "strap": ("strap", False),
}
#: Linkages whose control carries a horn.
_HORNED: tuple[LinkageKind, ...] = ("rod", "pull_pull", "spring_line")


@dataclass(frozen=True)
class Need:
    """Something to have: of what kind, its name, what for; how much, how much is there, and what one costs.

    ``there`` and ``each`` are None where nobody has said.
    """

    kind: str
    name: str
    use: str
    amount: float
    unit: Unit = "pieces"
    there: float | None = None
    each: float | None = None

    @property
    def buy(self) -> float:
        """How much of it is not there."""
        return max(self.amount - (self.there or 0.0), 0.0)

    @property
    def cost(self) -> float | None:
        """What that costs, in the builder's money; None where no price is known."""
        return 0.0 if self.buy == 0 else None if self.each is None else self.each * self.buy


def needs_of(
    design: Design, report: Report, nested: Nested, stocked: Mapping[str, int] = MappingProxyType({})
) -> tuple[Need, ...]:
    """Return what a design needs that is not made: boards, rods, power train, servos, leads, fastenings, beads of glue.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    nested : Nested
        Its patterns on sheets: those that were opened are needed.
    stocked : mapping of str to int, optional
        How many of a part of a name lie in the builder's bin.

    Returns
    -------
    tuple of Need
        Kind by kind; what weighs in as an allowance alone is not among them.
    """
    return (
        *_boards(nested),
        *_rods(design, report),
        *_power(design, stocked),
        *_fitted(design, stocked),
        *_leads(report),
        *_horns(report),
        *_fastened(design),
        *_laid_on(design),
    )


def _boards(nested: Nested) -> Iterator[Need]:
    opened = Counter((sheet.stock, sheet.laid[0].pattern.material) for sheet in nested.sheets)
    for (stock, material), count in opened.items():
        size = f"{1000 * stock.width:.0f} × {1000 * stock.length:.0f} mm"
        yield Need("board", f"{material}, {size}", "pieces of board", count, there=stock.count, each=stock.price)


def _rods(design: Design, report: Report) -> Iterator[Need]:
    for material, pieces in rods_of(design, report).items():
        lengths = Counter(length.stock for length in cut_from(pieces))
        for long, count in sorted(lengths.items()):
            uses = ", ".join(dict.fromkeys(piece.name for piece in pieces))
            yield Need("rod", f"{material}, {1000 * long:.0f} mm", uses, count)


def _power(design: Design, stocked: Mapping[str, int]) -> Iterator[Need]:
    power = design.power
    if power is None:
        return
    for kind, part, count in (
        ("motor", power.motor, power.motors),
        ("propeller", power.propeller, power.motors),
        ("speed controller", power.esc, power.motors),
        ("pack", power.pack, power.packs),
    ):
        if part is not None:
            yield Need(kind, part.name, "power train", count, there=stocked.get(part.name), each=part.price)


def _fitted(design: Design, stocked: Mapping[str, int]) -> Iterator[Need]:
    """Give servos, receiver and what else is bought by the piece and hung in."""
    for item in design.parts:
        made = item.build is not None or item.component is not None or item.harness == "leads"
        if made or item.group in ("airframe", "adhesive") or item.basis == "print":
            continue
        name = item.servo.name if item.servo is not None and item.servo.name else item.name
        kind = "servo" if item.servo is not None else item.group
        yield Need(kind, name, item.name, item.count, there=stocked.get(name))


def _leads(report: Report) -> Iterator[Need]:
    wired = report.results.harness
    if wired is None:
        return
    for long, count in wired.extensions:
        yield Need("lead", f"Extension {1000 * long:.0f} mm", "servo leads", count)
    if wired.joins:
        yield Need("lead", "Y lead", "servos on one channel", wired.joins)


def _horns(report: Report) -> Iterator[Need]:
    for row in report.results.linking.rows:
        if row.linkage.kind in _HORNED:
            count = 1 if row.linkage.port == "joined" else len(row.sides)
            yield Need("horn", f"Horn, hole at {1000 * row.linkage.horn:.0f} mm", row.control.kind, count)


def _fastened(design: Design) -> Iterator[Need]:
    for one in design.fastenings:
        if one.kind in _SOLD:
            name, sized = _SOLD[one.kind]
            words = f"{name} {1000 * one.size:g} mm" if sized else name
            yield Need("fastening", words.capitalize(), one.name, one.count)


def _laid_on(design: Design) -> Iterator[Need]:
    """Give glue and tape by their length, and coverings by their area."""
    long: dict[str, float] = {}
    wide: dict[str, float] = {}
    for piece in pieces_of_design(design):
        if piece.group == "glue":
            long[piece.material] = long.get(piece.material, 0.0) + piece.length * piece.pieces
        elif piece.group == "covering":
            wide[piece.material] = wide.get(piece.material, 0.0) + piece.area * piece.pieces
    for material, length in long.items():
        yield Need("glue and tape", material, "joints and hinges", math.ceil(10 * length) / 10, "m")
    for material, area in wide.items():
        yield Need("covering", material, "skins", math.ceil(100 * area) / 100, "m²")
