"""Findings on the harness: leads too short, signal beside power, what leads weigh, and which item is the receiver."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial
from typing import Any

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change
from ridgeline.design.radio import Lead
from ridgeline.engine.controls.harness import (
    APART,
    AT_PLUG,
    FARTHEST,
    SLACK,
    Run,
    laid,
    nearest,
    pieces_for,
)
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.stages.harnessing import Wired

#: Nearer than this to what carries motor current a signal lead is a look, m: half of what is wanted (chosen).
_CLOSE = 0.5 * APART
#: Leads that could be shorter by so much in all are told, m, and cut to whole steps (chosen).
_LONG, _CUT = 0.40, 0.01
#: What is listed for leads is told when it is off by this share and by this much, kg (chosen).
_OFF, _GRAMS = 0.25, 0.002
#: So many items are offered as the receiver.
_OFFERED = 3
#: Sides of the body that are tried for a run, shares of the farthest.
_TRIED = np.linspace(-1.0, 1.0, 21)


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge every lead of the harness."""
    wired = report.results.harness
    if design.radio is None:
        return
    if wired.receiver is None:
        yield from _unsaid(design)
        return
    if not wired.runs:
        return
    for run in wired.runs:
        if run.margin < -1e-6:
            yield _short(design, run)
    yield from _beside(design, wired)
    yield from _weights(design, wired)
    yield from _long(design, wired)


def called(design: Design, run: Run) -> str:
    """Return what a lead is called: its channel's name, and its servo's side where two share that."""
    channels = design.radio.channels if design.radio is not None else ()
    return channels[run.channel].name if run.channel < len(channels) else run.of


def with_lead(design: Design, item: str, **fields: Any) -> Change:
    """Return the edit that tells something of the lead of an item; None takes back what was told.

    Parameters
    ----------
    design : Design
        With a radio.
    item : str
        Its id.
    **fields
        Of a `Lead`.

    Returns
    -------
    Change
    """
    leads = () if design.radio is None else design.radio.leads
    now = next((lead for lead in leads if lead.of == item), Lead(of=item))
    told = now.model_copy(update=fields)
    others = tuple(lead for lead in leads if lead.of != item)
    plain = told == Lead(of=item)
    return Change("radio.leads", others if plain else (*others, told))


def _unsaid(design: Design) -> Iterator[Finding]:
    able = [k for k, item in enumerate(design.parts) if item.group == "radio" and item.servo is None]
    if not able:
        return
    ways = tuple(
        Remedy(f"receiver_{design.parts[k].id}", say("It is {}", design.parts[k].name),
               (Change(f"parts[{k}].harness", "receiver"),))
        for k in able[:_OFFERED]
    )  # fmt: skip
    yield Finding(
        "harness.receiver",
        "settled",
        "controls",
        say("Which item is the receiver is not said."),
        say("Leads are measured to it once it is."),
        ways,
    )


def _short(design: Design, run: Run) -> Finding:
    need = run.own + run.extension - run.margin - run.own
    one = pieces_for(need)
    ways = [Remedy("extension", _plugged(one), (with_lead(design, run.of, extension=round(math.fsum(one), 4)),))]
    return Finding(
        f"harness.short.{run.of}.{run.side}",
        "look",
        "controls",
        say("Lead of {}: {} short.", called(design, run), Measured(-run.margin, "length", 0)),
        say("Its way is {}, and {} of slack; it has {}.", Measured(run.long, "length", 0),
            Measured(SLACK, "length", 0), Measured(run.own + run.extension, "length", 0)),
        tuple(ways),
        ("harness.shortest_margin",),
    )  # fmt: skip


def _plugged(pieces: tuple[float, ...]) -> Phrase:
    values = [Measured(one, "length", 0) for one in pieces]
    return say("Extension " + " and ".join(["{}"] * len(values)), *values)


def _beside(design: Design, wired: Wired) -> Iterator[Finding]:
    if wired.near is None:
        return
    k, near = wired.near
    run = wired.runs[k]
    if near.apart >= APART:
        return
    yield Finding(
        "harness.beside",
        "look" if near.apart < _CLOSE else "settled",
        "controls",
        say("The lead of {} comes within {} of one that carries motor current.", called(design, run),
            Measured(near.apart, "length", 1)),
        say("{} and more keep the motor out of the signal; where they must cross, they cross square.",
            Measured(APART, "length", 0)),
        partial(_apart, design, wired, run),
        ("harness.apart",),
    )  # fmt: skip


def _apart(design: Design, wired: Wired, run: Run) -> Iterator[Remedy]:
    """Offer the run nearest to the present one that keeps its distance, on either side of the body."""
    item = next((item for item in design.parts if item.id == run.of), None)
    receiver = wired.receiver
    if item is None or receiver is None or design.radio is None:
        return
    told = next((lead for lead in design.radio.leads if lead.of == item.id), Lead(of=item.id))
    surface = next((s for s in design.surfaces if item.on is not None and s.id == item.on.to), None)
    hands = {one.side for one in wired.runs if one.of == run.of}
    ends = [np.array((i.x, hand * i.y, i.z)) for i in design.parts if i.component == "esc" for hand in (1, -1)]
    ends.append(np.array((receiver.x, receiver.y, receiver.z)))
    at = (receiver.x, receiver.y, receiver.z)
    best: tuple[float, float] | None = None
    for share in _TRIED:
        aside = round(float(share) * FARTHEST, 4)
        trial = told.model_copy(update={"aside": aside})
        ways = [laid(item, 0.01, hand, 0, surface, at, trial, design.bodies).path for hand in hands]
        apart = min(near.apart if (near := nearest(way, wired.powers, ends)) is not None else math.inf for way in ways)
        if apart >= APART and (best is None or abs(aside) < abs(best[0])):
            best = aside, apart
    if best is not None:
        side = "starboard" if best[0] > 0 else "port"
        words = say(f"Run it {{}} to {side} of the middle: {{}} apart", Measured(abs(best[0]), "length", 0),
                    Measured(best[1], "length", 0))  # fmt: skip
        yield Remedy("aside", words, (with_lead(design, item.id, aside=best[0]),))


def _weights(design: Design, wired: Wired) -> Iterator[Finding]:
    place = next((k for k, item in enumerate(design.parts) if item.harness == "leads"), None)
    mass = wired.mass
    if place is None:
        if mass < _GRAMS:
            return
        listed, level = 0.0, "No item stands for them."
    else:
        item = design.parts[place]
        if item.weighed is not None or item.estimate is None:
            return
        listed, level = item.estimate * item.count, "Masses and places follow the ways they run."
    # What is listed may hold other wires too: only what is missing is told.
    if mass - listed < max(_OFF * listed, _GRAMS):
        return
    yield Finding(
        "harness.weight",
        "settled",
        "controls",
        say("What is plugged into the leads weighs {}; {} are listed.", Measured(mass, "mass", 0),
            Measured(listed, "mass", 0)),
        say(level),
        partial(_listed, design, wired, place),
        ("harness.mass",),
    )  # fmt: skip


def _listed(design: Design, wired: Wired, place: int | None) -> Iterator[Remedy]:
    x, y, z = (round(float(v), 4) for v in wired.middle)
    words = say("List {} of leads at {} behind the datum", Measured(wired.mass, "mass", 0), Measured(x, "length", 0))
    if place is None:
        item = Item(name="Leads", group="radio", harness="leads", estimate=round(wired.mass, 5), x=x, y=y, z=z)
        yield Remedy("listed", words, (Change("parts", (*design.parts, item)),))
        return
    base, count = f"parts[{place}]", design.parts[place].count
    changes = (Change(f"{base}.estimate", round(wired.mass / count, 5)), Change(f"{base}.x", x),
               Change(f"{base}.y", y), Change(f"{base}.z", z))  # fmt: skip
    yield Remedy("listed", words, changes)


def _long(design: Design, wired: Wired) -> Iterator[Finding]:
    cut = {run.of: run for run in wired.runs if run.margin > 2 * _CUT and not run.parted}
    spare = math.fsum(run.margin for run in wired.runs if run.of in cut)
    if spare < _LONG or design.radio is None:
        return
    radio = design.radio
    trial = design
    for run in cut.values():
        need = math.ceil((run.own + run.extension - run.margin) / _CUT - 1e-9) * _CUT
        fields = {"own": min(run.own, round(need, 4)), "extension": round(max(need - run.own, 0.0), 4)}
        change = with_lead(trial, run.of, **fields)
        trial = trial.model_copy(update={"radio": radio.model_copy(update={"leads": change.value})})
        radio = trial.radio or radio
    way = Remedy("cut", say("Cut them to their ways: {} less wire", Measured(spare, "length", 0)),
                 (Change("radio.leads", radio.leads),))  # fmt: skip
    yield Finding(
        "harness.long",
        "settled",
        "controls",
        say("The leads are {} longer in all than they need be.", Measured(spare, "length", 0)),
        say("What is too long is coiled near the receiver, or shortened; slack of {} each is kept.",
            Measured(SLACK + AT_PLUG * any(run.parted for run in wired.runs), "length", 0)),
        (way,),
        ("harness.shortest_margin",),
    )  # fmt: skip
