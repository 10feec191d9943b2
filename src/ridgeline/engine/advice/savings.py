"""What saves most: changes that make the aircraft lighter, ranked by grams, each with what else it changes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.design.shelf import Shelf
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError

#: What is left of a faced board's bending stiffness with one and with both papers off (handbook of the trade §5).
_STIFFNESS = {1: 0.10, 2: 0.03}
_LESS_GLUE = 0.7
_LEAST = 5e-4


@dataclass(frozen=True)
class Saving:
    """One way to save: words, kg saved, changes of balance (fractions of c̄), thrust ratio and seconds, and its price.

    ``price`` says what it costs in strength or comfort; ``grave`` marks a structural price.
    """

    text: Phrase
    saved: float
    balance: float
    thrust_ratio: float
    endurance: float
    price: Phrase
    grave: bool
    changes: tuple[Change, ...]


def savings(design: Design, base: Report, shelf: Shelf, most: int = 12) -> tuple[Saving, ...]:
    """Return what saves most, greatest first, each tried by evaluating the design with it.

    Parameters
    ----------
    base : Report
        Of the design.
    shelf : Shelf
        Packs and servos to choose lighter ones from.
    """
    evaluator = base.trial()
    found = []
    for text, price, grave, changes in _candidates(design, base, shelf):
        try:
            after = evaluator(apply(design, changes))
        except DesignError:
            continue
        saved = _change(base, after, "mass.auw")
        if -saved > _LEAST:
            found.append(
                Saving(
                    text,
                    -saved,
                    _change(base, after, "balance.cg_fraction"),
                    _change(base, after, "power.thrust_ratio"),
                    _change(base, after, "flight.endurance"),
                    price,
                    grave,
                    tuple(changes),
                )
            )
    found.sort(key=lambda saving: -saving.saved)
    return tuple(found[:most])


def _change(before: Report, after: Report, key: str) -> float:
    one, other = before.value(key), after.value(key)
    return 0.0 if one is None or other is None else other - one


Candidate = tuple[Phrase, Phrase, bool, list[Change]]


def _candidates(design: Design, report: Report, shelf: Shelf) -> Iterator[Candidate]:
    yield from _pack(design, shelf)
    masses = report.results.masses.items.mass
    for index, part in enumerate(design.parts):
        if part.weighed is not None:
            continue
        yield from _recipe(index, part)
        mass = float(masses[index])
        if part.basis == "adhesive" and part.group == "adhesive" and part.estimate is not None and part.build is None:
            changes = [Change(f"parts[{index}].estimate", _LESS_GLUE * part.estimate)]
            yield say(f"{part.name}: a third less"), say("thin beads, joints cut to fit"), False, changes
        if part.servo is not None:
            yield from _servos(index, part, mass / part.count, shelf)
        if part.group == "ballast" and mass > 0:
            words = say("dead weight: move what is carried instead, see the levers")
            yield say(f"{part.name} left out"), words, True, [Change(f"parts[{index}].estimate", 0.0)]


def _recipe(index: int, part: Item) -> Iterator[Candidate]:
    """Offer lighter board, thinner walls and slimmer stock for what follows the geometry."""
    build, base = part.build, f"parts[{index}].build"
    if build is None:
        return
    if build.kind == "sheet" and build.faced:
        for peeled in range(build.peeled + 1, 3):
            which = "one paper" if peeled == 1 else "both papers"
            left = Measured(_STIFFNESS[peeled], "fraction", 0)
            price = say("leaves {} of the board's bending stiffness: it needs a spar", left)
            yield say(f"{part.name}: peel {which}"), price, True, [Change(f"{base}.peeled", peeled)]
    if build.kind == "print" and build.perimeters > 1:
        fewer = build.perimeters - 1
        price = say("half the wall bends and dents sooner")
        yield say(f"{part.name}: one perimeter less"), price, True, [Change(f"{base}.perimeters", fewer)]
    if build.kind == "print" and build.line_width > 0.00035:
        thin = [Change(f"{base}.line_width", 0.00035)]
        width = Measured(0.00035, "length", 2)
        yield (
            say(f"{part.name}: lines of {{}}", width),
            say("slower to print, a little weaker between layers"),
            False,
            thin,
        )
    if build.kind == "length" and build.linear > 0.006:
        slim = [Change(f"{base}.linear", 0.7 * build.linear)]
        yield say(f"{part.name}: the next lighter stock"), say("bends more: check it at the Structure"), True, slim


def _servos(index: int, part: Item, each: float, shelf: Shelf) -> Iterator[Candidate]:
    lighter = [(servo.mass, servo) for servo in shelf.servos if servo.mass is not None and servo.mass < 0.95 * each]
    _mass, servo = max(lighter, key=lambda pair: pair[0], default=(0.0, None))
    if servo is not None:
        price = say("{} of stall torque at 5 V", Measured(servo.stall_torque or 0.0, "torque", 2))
        base = f"parts[{index}]"
        changes = [Change(f"{base}.servo", servo), Change(f"{base}.estimate", None)]
        yield say(f"{part.name}: {servo.name}"), price, False, changes


def _pack(design: Design, shelf: Shelf) -> Iterator[Candidate]:
    """Offer the next lighter pack of the same cells, those on hand first."""
    if design.power is None:
        return
    now = design.power.pack
    named = [pack for pack in shelf.packs if pack.name in design.brief.packs]
    for bin_ in (named, list(shelf.packs)):
        lighter = [pack for pack in bin_ if pack.cells == now.cells and mass_of(pack) < mass_of(now) - _LEAST]
        pack = max(lighter, key=mass_of, default=None)
        if pack is not None:
            changes = list(exchange(design, "pack", pack, f"Pack {pack.name}"))
            yield say(f"Pack {now.name} → {pack.name}"), say("less time in the air"), False, changes
            return
