"""Findings on what holds the aircraft together: fastenings that give, what makes them hold, and that none are said."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.fastening import Fastening
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.held_together import usual_fastenings
from ridgeline.engine.stages.fastening import JOINT
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.fastened import stronger

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
        if worst.share <= 1 + 1e-9:
            continue
        weak = True
        better = stronger(one, held.doing, _TO)
        amounts = Measured(worst.load, worst.quantity), Measured(worst.bears, worst.quantity)
        ways = () if better is None else (_way(one, better, index),)
        yield Finding(
            f"structure.joint.{one.id}",
            "stop" if worst.share > ULTIMATE else "look",
            "structure",
            say(f"{one.name}: {{}} of what it bears.", Measured(worst.share, "fraction", 0)),
            say(f"{{}} of {{}}: {worst.words}.", *amounts),
            ways,
            (JOINT + one.id,),
        )
    if not weak:
        nearest = max(held.rows, key=lambda row: row[1][0].share)
        count = len(held.rows)
        yield Finding(
            "structure.joints",
            "settled",
            "structure",
            say(f"All {count} joints hold; {nearest[0].name} is nearest." if count > 1 else "Its one joint holds."),
            say(f"{{}} of what it bears: {nearest[1][0].words}.", Measured(nearest[1][0].share, "fraction", 0)),
            (),
            (JOINT + nearest[0].id,),
        )


def _the_usual(design: Design, report: Report) -> Iterator[Remedy]:
    usual = usual_fastenings(design, report)
    if usual:
        words = "Say the usual: " + ", ".join(one.name[0].lower() + one.name[1:] for one in usual[:3]) + " …"
        yield Remedy("usual_joints", say(words.replace("{}", "")), (Change("fastenings", usual),))


def _way(one: Fastening, better: Fastening, index: int) -> Remedy:
    """Return the edit that makes a fastening hold, in words of what changes."""
    told, changes = [], []
    values = []
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
    return Remedy("hold", say(f"{one.name}: " + ", ".join(told), *values), tuple(changes))
