"""What saves most: changes that make the aircraft lighter, ranked by grams, each with what else it changes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.lighter_builds import LESS_GLUE, Lighter, of_pieces, peeling, thinner_walls
from ridgeline.engine.advice.strength_kept import weakened
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError

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
    for one in (*_pack(design, shelf), *_of_items(design, base, shelf)):
        try:
            after = evaluator(apply(design, one.changes))
        except DesignError:
            continue
        saved = _change(base, after, "mass.auw")
        if -saved > _LEAST:
            weak = weakened(design, base, one.changes) if one.grave else None
            found.append(
                Saving(
                    one.text,
                    -saved,
                    _change(base, after, "balance.cg_fraction"),
                    _change(base, after, "power.thrust_ratio"),
                    _change(base, after, "flight.endurance"),
                    one.price if weak is None else weak,
                    one.grave,
                    tuple(one.changes),
                )
            )
    found.sort(key=lambda saving: -saving.saved)
    return tuple(found[:most])


def _change(before: Report, after: Report, key: str) -> float:
    one, other = before.value(key), after.value(key)
    return 0.0 if one is None or other is None else other - one


def lighter_items(design: Design, report: Report, wanted: float, most: int = 3) -> tuple[tuple[Lighter, float], ...]:
    """Return what saves most of the items still guessed, one change of each, without exchanging a bought part.

    Parameters
    ----------
    report : Report
        Of the design.
    wanted : float
        kg to save: where one change of an item is enough, its least such is taken, else its greatest.
    most : int
        Items named.

    Returns
    -------
    tuple of (Lighter, float)
        Greatest saving first, each with the kg of all-up weight it saves.
    """
    trial, now = report.trial(), float(report.results.masses.expected.sum())
    best: dict[str, tuple[Lighter, float]] = {}
    for one in _of_items(design, report, None):
        try:
            saved = now - float(trial.result(apply(design, one.changes), "masses").expected.sum())
        except DesignError:
            continue
        known = best.get(one.of, (one, 0.0))[1]
        better = saved < known if min(saved, known) >= wanted else saved > known
        if saved > _LEAST and better and not (one.grave and weakened(design, report, one.changes)):
            best[one.of] = one, saved
    return tuple(sorted(best.values(), key=lambda pair: -pair[1])[:most])


def _of_items(design: Design, report: Report, shelf: Shelf | None) -> Iterator[Lighter]:
    """Offer what makes each item lighter that was not weighed; with a shelf, lighter servos too."""
    masses = report.results.masses.items.mass
    for index, part in enumerate(design.parts):
        if part.weighed is not None:
            continue
        yield from _recipe(index, part)
        yield from of_pieces(design, part)
        mass = float(masses[index])
        if part.basis == "adhesive" and part.group == "adhesive" and part.estimate is not None and part.build is None:
            changes = [Change(f"parts[{index}].estimate", LESS_GLUE * part.estimate)]
            words = say("thin beads, joints cut to fit")
            yield Lighter(part.id, say("{}: a third less", part.name), words, False, changes)
        if part.servo is not None and shelf is not None:
            yield from _servos(index, part, mass / part.count, shelf)
        if part.group == "ballast" and mass > 0:
            words = say("dead weight: move what is carried instead, see the levers")
            changes = [Change(f"parts[{index}].estimate", 0.0)]
            yield Lighter(part.id, say("{} left out", part.name), words, True, changes)


def _recipe(index: int, part: Item) -> Iterator[Lighter]:
    """Offer lighter board, thinner walls and slimmer stock for what follows the geometry."""
    build, base = part.build, f"parts[{index}].build"
    if build is None:
        return
    if build.kind == "sheet" and build.faced:
        yield from peeling(part, f"{base}.peeled", build.peeled)
    if build.kind == "print":
        yield from thinner_walls(part, base, build.perimeters, build.line_width)
    if build.kind == "length" and build.linear > 0.006:
        slim = [Change(f"{base}.linear", 0.7 * build.linear)]
        price = say("bends more: check it at the Structure")
        yield Lighter(part.id, say("{}: the next lighter stock", part.name), price, True, slim)


def _servos(index: int, part: Item, each: float, shelf: Shelf) -> Iterator[Lighter]:
    lighter = [(servo.mass, servo) for servo in shelf.servos if servo.mass is not None and servo.mass < 0.95 * each]
    _mass, servo = max(lighter, key=lambda pair: pair[0], default=(0.0, None))
    if servo is not None:
        price = say("{} of stall torque at 5 V", Measured(servo.stall_torque or 0.0, "torque", 2))
        base = f"parts[{index}]"
        changes = [Change(f"{base}.servo", servo), Change(f"{base}.estimate", None)]
        yield Lighter(part.id, say("{}: {}", part.name, servo.name), price, False, changes)


def _pack(design: Design, shelf: Shelf) -> Iterator[Lighter]:
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
            yield Lighter(
                now.name, say("Pack {} → {}", now.name, pack.name), say("less time in the air"), False, changes
            )
            return
