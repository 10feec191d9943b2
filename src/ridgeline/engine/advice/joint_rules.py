"""Findings on what holds the aircraft together: fastenings that give, what makes them hold, and that none are said."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.fastening import Fastening
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.register import JOINT_SHARE
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.held_together import usual_fastenings
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.fastened import shares_of, stronger
from ridgeline.engine.structure.fastening_laws import Doing, Share

#: What is counted, by kind, and what is measured instead.
_COUNTED = {
    "bands": "strands",
    "bolts": "bolts",
    "magnets": "magnets",
    "screws": "screws",
    "prop_bands": "bands",
    "strap": "straps",
}
_MEASURED = {"length": "long", "width": "wide", "size": "thick"}
#: A way out comes to this share, so that the next gram does not undo it.
_TO = 0.97


def level_of(share: Share) -> Level:
    """Return how a fastening under load is judged: a look past what it bears, a stop where the reserve is used up."""
    if share.share <= 1 + 1e-9:
        return "settled"
    return "stop" if share.share > ULTIMATE else "look"


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge every fastening."""
    held = report.results.fastened
    if held is None:
        return
    if not held.rows:
        yield Finding(
            "structure.joints",
            "settled",
            "structure",
            say("How it is held together is not said."),
            say("Seats, mounts, straps, legs and booms are judged once it is."),
            lambda: _the_usual(design, report),
        )
        return
    weak = False
    for index, (one, shares) in enumerate(held.rows):
        worst = shares[0]
        if level_of(worst) == "settled":
            continue
        weak = True
        better = stronger(one, held.doing, _TO)
        amounts = Measured(worst.load, worst.quantity), Measured(worst.bears, worst.quantity)
        words = worst.words
        ways = tuple(_cooler(report, held.doing, one, index)) if better is None else (_way(one, better, index),)
        yield Finding(
            f"structure.joint.{one.id}",
            level_of(worst),
            "structure",
            say("{}: {} of what it bears.", one.name, Measured(worst.share, "fraction", 0)),
            say(f"{{}} of {{}}: {words.template}.", *amounts, *words.values),
            ways,
            (JOINT_SHARE.key(one.id),),
        )
    if not weak:
        nearest = max(held.rows, key=lambda row: row[1][0].share)
        count, words = len(held.rows), nearest[1][0].words
        yield Finding(
            "structure.joints",
            "settled",
            "structure",
            say(f"All {count} joints hold; {{}} is nearest.", nearest[0].name)
            if count > 1
            else (say("Its one joint holds.")),
            say(
                f"{{}} of what it bears: {words.template}.",
                Measured(nearest[1][0].share, "fraction", 0),
                *words.values,
            ),
            (),
            (JOINT_SHARE.key(nearest[0].id),),
        )


def _the_usual(design: Design, report: Report) -> Iterator[Remedy]:
    usual = usual_fastenings(design, report)
    if usual:
        names = ", ".join(one.name[0].lower() + one.name[1:] for one in usual[:3])
        yield Remedy("usual_joints", say("Say the usual: {} …", names), (Change("fastenings", usual),))


def _cooler(report: Report, doing: Doing, one: Fastening, index: int) -> Iterator[Remedy]:
    """Offer to print a motor's mount of the plastic that softens just above what it has to stand, where heat is all."""
    worst = shares_of(one, doing)[0]
    if worst.quantity != "temperature_rise" or report.shelf is None:
        return
    able = [m for m in report.shelf.materials if m.kind == "print" and m.softens_c is not None]
    for plastic in sorted(able, key=lambda m: m.softens_c or 0.0):
        cooler = one.model_copy(update={"softens_c": plastic.softens_c})
        if shares_of(cooler, doing)[0].share <= _TO:
            softens = Measured(plastic.softens_c or 0.0, "temperature", 0)
            change = Change(f"fastenings[{index}].softens_c", plastic.softens_c)
            yield Remedy("plastic", say(f"{{}} of {plastic.name}: it softens at {{}}", one.name, softens), (change,))
            return


def _way(one: Fastening, better: Fastening, index: int) -> Remedy:
    """Return the edit that makes a fastening hold, in words of what changes."""
    told: list[str] = []
    changes: list[Change] = []
    values: list[Measured] = []
    for field in ("count", "size", "length", "width", "inner"):
        now, then = getattr(one, field), getattr(better, field)
        if now == then:
            continue
        changes.append(Change(f"fastenings[{index}].{field}", then))
        if field == "count":
            told.append(f"{then} {_COUNTED.get(one.kind, 'pieces')} instead of {now}")
        elif field in _MEASURED:
            told.append(f"{{}} {_MEASURED[field]}")
            values.append(Measured(then, "length", 1))
    return Remedy("hold", say("{}: " + ", ".join(told), one.name, *values), tuple(changes))
