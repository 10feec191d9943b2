"""Findings on what the drawn airframe makes of the wishes: which of them gave way."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Remedy, Report

#: A loading or thrust ratio within this share of its wish agrees with it: about the band of a first estimate.
AGREES = 0.15
#: A span this far over its limit is over it, m; and no thrust is wished for below this ratio.
_OVER_SPAN, _NO_THRUST = 5e-4, 0.05


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Say which of loading, thrust ratio and span came out otherwise than wished."""
    yield from _loading(design, report)
    yield from _thrust(design, report)
    yield from _span(design, report)


def _loading(design: Design, report: Report) -> Iterator[Finding]:
    now, wish = report.value("wing.loading"), design.brief.wing_loading
    if now is None or abs(now - wish) <= AGREES * wish:
        return
    drawn, wished = Measured(now, "loading", bare=True), Measured(wish, "loading")
    weight = Measured(report.value("mass.auw") or 0.0, "mass")
    if now < wish:
        yield Finding(
            "wish.loading",
            "settled",
            "brief",
            say("Lighter loaded than wished: {} against {}.", drawn, wished),
            say("It flies slower than asked for; a smaller wing, or more to carry, would come to the wish."),
            (),
            ("wing.loading",),
        )
        return
    yield Finding(
        "wish.loading",
        "look",
        "brief",
        say("The loading gave way: {} against {} wished.", drawn, wished),
        say("What is drawn comes to {}. Lighten it, or give it more wing.", weight),
        (_taken("brief.wing_loading", round(now, 3), say("Take {} as the wish", Measured(now, "loading"))),),
        ("wing.loading", "mass.auw"),
    )


def _thrust(design: Design, report: Report) -> Iterator[Finding]:
    now, wish = report.value("power.thrust_ratio"), design.brief.thrust_ratio
    if now is None or wish < _NO_THRUST or abs(now - wish) <= AGREES * wish:
        return
    drawn, wished = Measured(now, "ratio"), Measured(wish, "ratio")
    if now > wish:
        yield Finding(
            "wish.thrust",
            "settled",
            "brief",
            say("More thrust than wished: {} against {}.", drawn, wished),
            say("It climbs steeper than asked for; a smaller propeller would draw less."),
            (),
            ("power.thrust_ratio",),
        )
        return
    yield Finding(
        "wish.thrust",
        "look",
        "brief",
        say("The thrust ratio gave way: {} against {} wished.", drawn, wished),
        say("Less weight or another power train would bring it back: see Weights and Power."),
        (_taken("brief.thrust_ratio", round(now, 3), say("Take {} as the wish", drawn)),),
        ("power.thrust_ratio",),
    )


def _span(design: Design, report: Report) -> Iterator[Finding]:
    now, limit = report.value("wing.span"), design.brief.span_limit
    if now is None or now <= limit + _OVER_SPAN:
        return
    span = Measured(now, "length")
    yield Finding(
        "wish.span",
        "look",
        "brief",
        say("The span limit gave way: {} is drawn, {} the limit.", span, Measured(limit, "length")),
        say("It may not fit where it is kept and carried."),
        (_taken("brief.span_limit", round(now + _OVER_SPAN, 3), say("Allow a span of {}", span)),),
        ("wing.span",),
    )


def _taken(path: str, value: float, words: Phrase) -> Remedy:
    return Remedy("take_as_wish", words, (Change(path, value),))
