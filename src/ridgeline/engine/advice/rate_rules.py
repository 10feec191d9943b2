"""Findings on rates and expo: whether a full pull turns inside the field, and what would suit purpose and field."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.stages.stick_answers import Sticks, turns

#: Rates this far from those that suit are told (chosen); a circle is too wide that leaves a third of the field.
_OFF = 0.15


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the rates."""
    sticks = report.results.sticking
    if sticks is None or design.radio is None:
        return
    yield from _room(design, report, sticks)
    yield from _rates(design, report, sticks)


def set_rates(design: Design, report: Report) -> Change | None:
    """Return the edit that sets rates and expo to those that suit; None where they are, or cannot be had.

    Parameters
    ----------
    design : Design
    report : Report

    Returns
    -------
    Change or None
    """
    sticks, radio = report.results.sticking, design.radio
    if sticks is None or radio is None or not sticks.proposed.rates:
        return None
    suits = {rate.stick: rate for rate in sticks.proposed.rates}
    made = tuple(suits.pop(rate.stick, rate) for rate in radio.rates)
    found = (*made, *suits.values())
    return None if found == radio.rates else Change("radio.rates", found)


def _room(design: Design, report: Report, sticks: Sticks) -> Iterator[Finding]:
    """Say when a full pull at the high rate does not turn inside a third of the field."""
    turned, radio = turns(sticks, design.radio, high=True), design.radio
    if turned is None or radio is None or not math.isfinite(turned[1]):
        return
    widest = sticks.proposed.radius
    if turned[1] <= widest:
        return
    whole = turns(sticks, None, high=True)
    ways: list[Remedy] = []
    rate = next((k for k, rate in enumerate(radio.rates) if rate.stick == "pitch"), None)
    if rate is not None and whole is not None and whole[1] <= widest:
        ways.append(Remedy("all_of_it", say("High rate 100 %: {} round", Measured(whole[1], "distance", 0)),
                           (Change(f"radio.rates[{rate}].high", 1.0),)))  # fmt: skip
    else:
        needs = math.ceil(6 * turned[1] / 5 - 1e-9) * 5.0
        ways.append(Remedy("wider_field", say("Fly it over {} of field", Measured(needs, "distance", 0)),
                           (Change("brief.field", needs),)))  # fmt: skip
    yield Finding(
        "sticks.room",
        "look",
        "controls",
        say("A full pull turns it with a radius of {}; a third of the field would be {}.",
            Measured(turned[1], "distance", 0), Measured(widest, "distance", 0)),
        say("In cruise, level, both rates up."),
        tuple(ways),
        ("control.turn_radius",),
    )  # fmt: skip


def _rates(design: Design, report: Report, sticks: Sticks) -> Iterator[Finding]:
    change, radio = set_rates(design, report), design.radio
    if change is None or radio is None:
        return
    suits = {rate.stick: rate for rate in sticks.proposed.rates}
    off = [rate for rate in radio.rates if rate.stick in suits and (
        abs(rate.low - suits[rate.stick].low) > _OFF or abs(rate.high - suits[rate.stick].high) > _OFF)]  # fmt: skip
    if not off:
        return
    yield Finding(
        "sticks.rates",
        "settled",
        "controls",
        say("Other rates would suit a field of {} better.", Measured(design.brief.field, "distance", 0)),
        say("At the low rate a circle with a radius of {} wants {} g and {}.",
            Measured(sticks.proposed.radius, "distance", 0), Measured(sticks.proposed.load, "ratio", 1),
            Measured(sticks.proposed.roll, "turn_rate", 0)),
        (Remedy("rates", say("Set rates and expo by purpose and field"), (change,)),),
        ("control.turn_radius_low", "control.roll_rate_low"),
    )  # fmt: skip
