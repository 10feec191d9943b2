"""Findings on what gives between servo and control: soft rods and horns, slack lines, springs and what they bend."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.linkage_edits import called, place_of
from ridgeline.engine.controls.lines import preload_for, slack_of
from ridgeline.engine.controls.yielding import base_for
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.register import CONTROL_GIVE
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.stages.linked import LinkedControl

#: A control pushed back by more than this share of its throw is told, and by more than the other a look; what a cure
#: leaves of it; slack or tightness of a second line, m, and bend of a panel under a spring, m, that are a look
#: (chosen).
TOLD, MUCH, _LEAVES, SLACK, BENT = 0.15, 0.30, 0.10, 0.001, 0.002
#: Springs are set to steps of this, N, and horn bases and rods to this, m.
_NEWTONS, _LENGTHS = 0.1, 0.0005


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what gives way in every linkage."""
    for row in report.results.linking.rows:
        name = called(design.surfaces[row.surface], row.control)
        yield from _given(design, row, name)
        yield from _slack(design, row, name)
        yield from _spring(design, row, name)


def _up(value: float, step: float) -> float:
    return round(math.ceil(value / step - 1e-9) * step, 5)


def _given(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    most = max(row.sides[0].throw)
    if most <= 0 or row.given.whole <= TOLD * most:
        return
    parts = {"rod": row.given.rod + row.given.twist, "arm": row.given.arm, "horn": row.given.horn}
    worst = max(parts, key=lambda key: parts[key])
    words = {"rod": "Most of it is the rod", "arm": "Most of it is the arm", "horn": "Most of it is the horn's base"}
    yield Finding(
        f"controls.give.{row.control.id}",
        "look" if row.given.whole > MUCH * most else "settled",
        "controls",
        say(f"{name}: the air of a dive pushes it back by {{}} of {{}}.", Measured(row.given.whole, "angle", 1),
            Measured(most, "angle", 0)),
        say(f"{words[worst]}: {{}}.", Measured(parts[worst], "angle", 1)),
        tuple(_stiffer(design, row, worst, parts[worst] / (_LEAVES * most))),
        (CONTROL_GIVE.key(row.control.id),),
    )  # fmt: skip


def _stiffer(design: Design, row: LinkedControl, part: str, times: float) -> Iterator[Remedy]:
    """Offer what makes a part stiffer by a factor."""
    one, base = row.linkage, place_of(design, row)
    if times <= 1:
        return
    if part == "horn":
        long = _up(base_for(row.moment, row.given.horn / times), _LENGTHS)
        if long <= 0.2:
            yield Remedy("base", say("A horn with a base of {}", Measured(long, "length", 0)),
                         (Change(f"{base}.base", long),))  # fmt: skip
    elif part == "rod" and one.kind in ("rod", "torque_rod"):
        # Twist falls with the fourth power of a rod's diameter, stretch with the second.
        power = 0.25 if one.kind == "torque_rod" else 0.5
        thick = _up(one.rod_size * times**power, _LENGTHS)
        if thick <= 0.02:
            yield Remedy("thicker_rod", say("A rod of {}", Measured(thick, "length", 1)),
                         (Change(f"{base}.rod_size", thick),))  # fmt: skip
    elif part == "arm" and one.extension > 0:
        # Bending falls with the third power of its length at least.
        short = (one.arm + one.extension) / times ** (1 / 3) - one.arm
        free = max(math.floor(short / _LENGTHS) * _LENGTHS, 0.0)
        yield Remedy("shorter_arm", say("An arm {} longer than its hole, not {}", Measured(free, "length", 1),
                                        Measured(one.extension, "length", 1)),
                     (Change(f"{base}.extension", round(free, 5)),))  # fmt: skip


def _slack(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    found = row.slack
    if max(found) <= SLACK:
        return
    one, base, first = row.linkage, place_of(design, row), row.sides[0]
    ways = []
    for update in ({"horn_ahead": 0.0}, {"horn": round(one.arm + one.extension, 5), "horn_ahead": 0.0}):
        left = max(slack_of(one.model_copy(update=update), first.low, first.high))
        if left > SLACK:
            continue
        changes = tuple(Change(f"{base}.{field}", value) for field, value in update.items()
                        if getattr(one, field) != value)  # fmt: skip
        words = "Horn holes over the hinge line" if "horn" not in update else "Horn as long as the arm, over the hinge"
        ways.append(Remedy("taut", say(f"{words}: {{}} at most", Measured(left, "length", 1)), changes))
        break
    slack = found.slack >= found.tight
    told = "hangs slack by {}" if slack else "is {} too short"
    yield Finding(
        f"controls.slack.{row.control.id}",
        "look",
        "controls",
        say(f"{name}: at the ends of its travel the other line {told}.",
            Measured(found.slack if slack else found.tight, "length", 1)),
        say("Slack flutters; too short presses servo and hinge together."),
        tuple(ways),
        (),
    )  # fmt: skip


def _spring(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    one, base = row.linkage, place_of(design, row)
    if row.spring is None:
        return
    away = row.sides[0].throw.up if one.horn_below else row.sides[0].throw.down
    holds = preload_for(one, away, _moment_away(row, away))
    least = _up(holds, _NEWTONS)
    if row.spring < -1e-9:
        yield Finding(
            f"controls.spring.{row.control.id}",
            "look",
            "controls",
            say(f"{name}: in a dive the air is stronger than its spring."),
            say("It lacks {} at full throw.", Measured(-row.spring, "torque", 3)),
            (Remedy("preload", say("A pull of {} at neutral", Measured(least, "force", 1)),
                    (Change(f"{base}.preload", least),)),) if least <= 100 else (),
            (),
        )  # fmt: skip
    if row.bent is None or row.bent <= BENT:
        return
    ways = []
    if least < one.preload - _NEWTONS:
        ways.append(Remedy("softer", say("A pull of {} at neutral still holds", Measured(least, "force", 1)),
                           (Change(f"{base}.preload", least),)))  # fmt: skip
    ways.append(Remedy("by_rod", say("A rod in place of line and spring"), (Change(f"{base}.kind", "rod"),)))
    yield Finding(
        f"controls.bend.{row.control.id}",
        "look",
        "controls",
        say(f"{name}: line and spring move the edge of its panel by {{}}.", Measured(row.bent, "length", 1)),
        say("A thin tail bends under a spring, and trims the aircraft by itself."),
        tuple(ways),
        (),
    )


def _moment_away(row: LinkedControl, away: float) -> float:
    """Return the moment that the air holds against a spring at full throw, N m."""
    spring = row.spring if row.spring is not None else 0.0
    one = row.linkage
    return max(one.preload - one.spring * one.horn * math.sin(away), 0.0) * one.horn - spring
