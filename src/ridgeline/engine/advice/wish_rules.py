"""Findings on what the drawn airframe makes of the wishes: which of them gave way."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.purposes import AGREES

#: A span this far over its limit is over it, m; below this ratio no thrust is wished for (no loading is so small).
_OVER_SPAN, _NOTHING = 5e-4, 0.05


@dataclass(frozen=True)
class _Wish:
    """A wish of a value, the figure it is held against, and what is said of one beyond it on either side."""

    key: str
    field: str
    figure: str
    quantity: str
    more_is_worse: bool
    gave_way: str
    cure: str
    better: str
    means: str


_WISHES = (
    _Wish(
        *("wish.loading", "wing_loading", "wing.loading", "loading", True),
        gave_way="The loading gave way: {} against {} wished.",
        cure="What is drawn flies faster than asked for. Lighten it, or give it more wing.",
        better="Lighter loaded than wished: {} against {}.",
        means="It flies slower than asked for; a smaller wing, or more to carry, would come to the wish.",
    ),
    _Wish(
        *("wish.thrust", "thrust_ratio", "power.thrust_ratio", "ratio", False),
        gave_way="The thrust ratio gave way: {} against {} wished.",
        cure="Less weight or another power train would bring it back: see Weights and Power.",
        better="More thrust than wished: {} against {}.",
        means="It climbs steeper than asked for; a smaller propeller would draw less.",
    ),
)


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Say which of loading, thrust ratio and span came out otherwise than wished; and what laying it out chose."""
    for wish in _WISHES:
        yield from _held_against(wish, design, report)
    yield from _span(design, report)
    for number, choice in enumerate(design.choices):
        told, why = say("{}: {}.", choice.part, choice.what), say("{}.", choice.why[:1].upper() + choice.why[1:])
        yield Finding(f"layout.{number}", "settled", "brief", told, why)


def _held_against(wish: _Wish, design: Design, report: Report) -> Iterator[Finding]:
    now, wished = report.value(wish.figure), float(getattr(design.brief, wish.field))
    if now is None or wished < _NOTHING or abs(now - wished) <= AGREES * wished:
        return
    both = Measured(now, wish.quantity, bare=True), Measured(wished, wish.quantity)
    if (now > wished) is not wish.more_is_worse:
        yield Finding(wish.key, "settled", "brief", say(wish.better, *both), say(wish.means), (), (wish.figure,))
        return
    taken = _taken(f"brief.{wish.field}", round(now, 3), say("Take {} as the wish", Measured(now, wish.quantity)))
    yield Finding(wish.key, "look", "brief", say(wish.gave_way, *both), say(wish.cure), (taken,), (wish.figure,))


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
