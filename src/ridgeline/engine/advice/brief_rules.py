"""Findings on the brief: what rules the design point, and whether it meets the wishes."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from ridgeline.design.brief import Brief
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.constraints import THROWN_TO, ConstraintChart, constraint_chart, throw_speed
from ridgeline.engine.sizing.purposes import PURPOSES, loading_range

_WORDS = {
    "stall": "The stall",
    "hand": "The hand launch",
    "climb": "The climb",
    "turn": "The turn",
    "roll": "The ground roll",
}
#: A remedy steps this far inside the limit it clears.
_INSIDE = 0.02


def known_of(report: Report) -> tuple[float | None, float | None]:
    """Return what a chart is drawn for once there is an airframe.

    Parameters
    ----------
    report : Report

    Returns
    -------
    cl_max : float or None
        Its lift limit.
    mass : float or None
        All-up, kg; None without a lift limit.
    """
    limit = report.value("wing.cl_max")
    return limit, None if limit is None else report.value("mass.auw")


def findings(brief: Brief, cl_max: float | None = None, mass: float | None = None) -> Iterator[Finding]:
    """Judge the design point of a brief against its own wishes, at lift limit and weight of the airframe once it is."""
    chart = constraint_chart(brief, cl_max=cl_max, mass=mass)
    yield _loading(brief, chart, brief.ceiling if mass is None else mass)
    if brief.propulsion != "none":
        yield _thrust(brief, chart)
    yield from _habit(brief)
    if brief.launch == "hand" and brief.ceiling > THROWN_TO:
        yield Finding(
            "brief.hand_launch",
            "look",
            "brief",
            say("{} is heavy for a hand launch.", Measured(brief.ceiling, "mass")),
            say(
                "Above {} a throw is unsafe for arm and propeller alike: use wheels or a bungee.",
                Measured(THROWN_TO, "mass"),
            ),
            (Remedy("wheels", say("Launch from wheels"), (Change("brief.launch", "wheels"),)),),
        )


def _loading(brief: Brief, chart: ConstraintChart, mass: float) -> Finding:
    limit = Measured(chart.loading_high, "loading")
    now = Measured(brief.wing_loading, "loading")
    ruler = _WORDS[chart.ruling_high]
    if chart.ruling_high == "hand":
        why = say(
            "At {} a throw gives {}; with {} of wind that is 1.15 times the stall.",
            Measured(mass, "mass"),
            Measured(throw_speed(mass), "speed"),
            Measured(brief.head_wind, "speed"),
        )
    else:
        why = say("Heavier loading stalls above the {} wished.", Measured(brief.stall_speed, "speed"))
    if chart.loading_low > chart.loading_high:
        return _no_loading(brief, chart, why)
    if brief.wing_loading > chart.loading_high:
        fitting = round(chart.loading_high * (1 - _INSIDE), 3)
        return Finding(
            "brief.loading",
            "look",
            "brief",
            say(f"{ruler} allows {{}}, the design point has {{}}.", limit, now),
            why,
            (
                Remedy(
                    "lighter",
                    say("Design for {}", Measured(fitting, "loading")),
                    (Change("brief.wing_loading", fitting),),
                ),
            ),
        )
    if brief.wing_loading < chart.loading_low:
        fitting = round(chart.loading_low * (1 + _INSIDE), 3)
        return Finding(
            "brief.loading",
            "look",
            "brief",
            say("The span limit asks for {} or more.", Measured(chart.loading_low, "loading")),
            say(
                "{} at {} needs a wider wing than {}.",
                now,
                Measured(mass, "mass"),
                Measured(brief.span_limit, "length"),
            ),
            (
                Remedy(
                    "heavier",
                    say("Design for {}", Measured(fitting, "loading")),
                    (Change("brief.wing_loading", fitting),),
                ),
            ),
        )
    return Finding("brief.loading", "settled", "brief", say(f"{ruler} rules the loading: {{}}.", limit), why)


def _no_loading(brief: Brief, chart: ConstraintChart, why: Phrase) -> Finding:
    """Say that two limits shut each other out; only a wider span brings them together."""
    high, low = Measured(chart.loading_high, "loading"), Measured(chart.loading_low, "loading")
    fitting = round(chart.loading_high * (1 - _INSIDE), 3)
    # The least loading goes with one over the span squared.
    span = math.ceil(1000 * brief.span_limit * math.sqrt(chart.loading_low / (fitting * (1 - _INSIDE)))) / 1000
    words = say("Allow a span of {}, design for {}", Measured(span, "length", 0), Measured(fitting, "loading"))
    changes = (Change("brief.span_limit", span), Change("brief.wing_loading", fitting))
    return Finding(
        "brief.loading",
        "look",
        "brief",
        say(f"{_WORDS[chart.ruling_high]} allows {{}} at most, the span limit asks for {{}} or more.", high, low),
        why,
        (Remedy("wider", words, changes),),
    )


def _thrust(brief: Brief, chart: ConstraintChart) -> Finding:
    floor = float(np.interp(brief.wing_loading, chart.loading, chart.floor))
    roof = float(np.interp(brief.wing_loading, chart.loading, chart.roof))
    needed, now = Measured(floor, "ratio"), Measured(brief.thrust_ratio, "ratio")
    ruler = _WORDS[chart.ruling_floor]
    if floor > roof:
        most = Measured(max(roof, 0.0), "ratio")
        words = say(f"{ruler} asks for a thrust ratio of {{}}, the ceiling leaves mass for {{}}.", needed, most)
        reason = say(
            "No motor light enough pulls that much: a higher ceiling, less payload, or a lighter loading helps."
        )
        return Finding("brief.thrust", "look", "brief", words, reason)
    if brief.thrust_ratio < floor:
        fitting = round(floor * (1 + 2 * _INSIDE), 3)
        return Finding(
            "brief.thrust",
            "look",
            "brief",
            say(f"{ruler} asks for a thrust ratio of {{}}, the design point has {{}}.", needed, now),
            say("Thrust falls with airspeed: three quarters of the bench value is counted on."),
            (
                Remedy(
                    "stronger",
                    say("Design for {}", Measured(fitting, "ratio")),
                    (Change("brief.thrust_ratio", fitting),),
                ),
            ),
        )
    if brief.thrust_ratio > roof:
        return Finding(
            "brief.thrust",
            "look",
            "brief",
            say("That thrust does not fit under the ceiling: {} at most.", Measured(max(roof, 0.0), "ratio")),
            say("Payload, radio, pack and airframe leave no more mass for motor and propeller."),
        )
    spare = Measured(brief.thrust_ratio / floor - 1 if floor > 0 else 0.0, "fraction", 0)
    return Finding(
        "brief.thrust",
        "settled",
        "brief",
        say(f"{ruler} rules the thrust: {{}}.", needed),
        say("{} leaves {} over.", now, spare),
    )


def _habit(brief: Brief) -> Iterator[Finding]:
    low, high = loading_range(brief.purpose, brief.ceiling)
    label = PURPOSES[brief.purpose].label.lower()
    ends = (Measured(low, "loading", bare=True), Measured(high, "loading"))
    if brief.wing_loading < low:
        yield Finding(
            "brief.habit",
            "settled",
            "brief",
            say(
                "Lighter loaded than usual: {} against {} to {}.",
                Measured(brief.wing_loading, "loading", bare=True),
                *ends,
            ),
            say(f"It flies slower than most {label} designs and feels gusts more."),
        )
    elif brief.wing_loading > high:
        yield Finding(
            "brief.habit",
            "look",
            "brief",
            say(
                "Heavier loaded than usual: {} against {} to {}.",
                Measured(brief.wing_loading, "loading", bare=True),
                *ends,
            ),
            say(f"It flies and lands faster than most {label} designs."),
        )
