"""Findings on torsion: ailerons that lose their effect or reverse, wings that twist off, tips that tuck; and cures."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial

from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.design.paths import Change
from ridgeline.engine.advice.consequences import harmless
from ridgeline.engine.advice.twist_cures import TUCK, WORTH, Cure, cures, least_speed, stiffer
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.twisting import OVER_DIVE, Twisting

#: Least of the ailerons that is to be left in cruise (second part of the handbook §16.5).
LEAST_LEFT = 0.70
#: Hinge play that lets a control flutter, of its chord, and from which speed on large controls want balance, m/s
#: (second part of the handbook §16.5); a large one has this share of the wing's chord (chosen).
SLOP, _FAST, _LARGE = 0.015, 25.0, 0.2
#: So many cures are named where none is enough by itself.
_PARTS = 2


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what twist leaves of the ailerons, reversal, divergence, tuck and flutter."""
    found, twist = report.results.bearing, report.results.twisting
    if found is None or twist is None:
        return
    yield from _reversing(design, report, found, twist)
    yield from _diverging(design, report, found, twist)
    yield from _others(design, report, found, twist)
    yield from _tucking(design, report, found, twist)
    yield from _fluttering(design, report, found)


def _speed(value: float) -> Measured:
    return Measured(value, "speed", 0)


def _slowest(report: Report) -> float:
    """Return the speed under which it cannot be flown at all without reversing or twisting off, m/s."""
    return OVER_DIVE * (report.value("speed.cruise") or 0.0)


def _reversing(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    left, top = report.value("structure.effectiveness_cruise"), found.top
    if left is None:
        return
    dive = found.dive
    keys = ("structure.reversal_speed", "structure.effectiveness_cruise")
    if left >= LEAST_LEFT and twist.reversal >= least_speed(found):
        words = "Ailerons keep {} of their effect in cruise."
        reason = (
            say("They reverse at {}; a dive is {}.", _speed(twist.reversal), _speed(dive))
            if math.isfinite(twist.reversal) and dive is not None
            else say("They do not reverse at any speed it is judged at.")
        )
        text = say(words, Measured(left, "fraction", 0))
        yield Finding("structure.reversal", "settled", "structure", text, reason, (), keys)
        return
    level: Level = "stop" if twist.reversal < _slowest(report) else "look"

    def ways() -> Iterator[Remedy]:
        enough = _enough(
            cures(design, report),
            lambda cure: (
                cure.reversal >= least_speed(found) and cure.divergence >= min(least_speed(found), twist.divergence)
            ),
        )
        yield from harmless(design, report, enough)
        if left >= LEAST_LEFT:
            yield from _heeding(report, found, twist)

    if math.isfinite(twist.reversal) and dive is not None:
        text = say("Ailerons reverse at {}, a dive is {}.", _speed(twist.reversal), _speed(dive))
    else:
        text = say("Twist leaves {} of the ailerons in cruise.", Measured(left, "fraction", 0))
    yield Finding("structure.reversal", level, "structure", text, _why(twist, left, top, report), ways, keys)


def _heeding(report: Report, found: Bearing, twist: Twisting) -> Iterator[Remedy]:
    """Offer never to fly it faster than the wing bears in torsion, where that leaves its level flight alone."""
    most = min(twist.reversal, twist.divergence) / OVER_DIVE
    most = math.floor(10 * most) / 10
    if most >= max(found.top or 0.0, _slowest(report)):
        yield Remedy("heed", say("Never faster than {}", Measured(most, "speed")), (Change("loads.dive_speed", most),))


def _enough(found: tuple[Cure, ...], holds: Callable[[Cure], bool]) -> tuple[Remedy, ...]:
    """Return the cures that are enough; where none is, those that go farthest, as parts of one."""
    whole = tuple(cure.remedy for cure in found if holds(cure))
    if whole:
        return whole
    best = sorted(found, key=lambda cure: -min(cure.reversal, cure.divergence))[:_PARTS]
    return tuple(replace(cure.remedy, key=f"part_{cure.remedy.key}") for cure in best)


def _why(twist: Twisting, left: float, top: float | None, report: Report) -> Phrase:
    words = "The wing twists: {} is left in cruise"
    values = [Measured(left, "fraction", 0)]
    if top is not None:
        at_top = float(twist.left([top], report.results.air.density)[0])
        if math.isfinite(at_top) and at_top > 0:
            words += ", {} at top speed"
            values.append(Measured(at_top, "fraction", 0))
        else:
            words += ", nothing at top speed: keep the throttle down"
    built = twist.half.surface.built
    papers = built is not None and built.board.papers > 0
    return say(
        words + f". {OVER_DIVE:g} times a dive is wanted." + (" Tape over paper adds nothing." if papers else ""),
        *values,
    )


def _diverging(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    if twist.divergence >= least_speed(found) or found.dive is None:
        return

    def ways() -> Iterator[Remedy]:
        enough = _enough(cures(design, report), lambda cure: cure.divergence >= least_speed(found))
        yield from harmless(design, report, enough)
        yield from _heeding(report, found, twist)

    yield Finding(
        "structure.divergence",
        "stop" if twist.divergence < _slowest(report) else "look",
        "structure",
        say("The wing twists off at {}, a dive is {}.", _speed(twist.divergence), _speed(found.dive)),
        say("The air turns it further the more it has turned. Stay well below, or stiffen it."),
        ways,
        ("structure.divergence_speed",),
    )


def _others(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    """Judge the divergence of further wings, tails and foreplanes."""
    if found.dive is None:
        return
    for index, (surface, speed) in enumerate(zip(design.surfaces, twist.others, strict=True)):
        if index == found.main or speed >= least_speed(found):
            continue
        yield Finding(
            f"structure.divergence.{surface.id}",
            "stop" if speed < _slowest(report) else "look",
            "structure",
            say(f"{surface.name} twists off at {{}}, a dive is {{}}.", _speed(speed), _speed(found.dive)),
            say("The air turns it further the more it has turned: a spar farther ahead, or glass, stops it."),
            partial(_ways_of_other, design, report, found, index, speed),
        )


def _ways_of_other(design: Design, report: Report, found: Bearing, index: int, speed: float) -> Iterator[Remedy]:
    yield from harmless(design, report, stiffer(design, report, index))
    most = math.floor(10 * speed / OVER_DIVE) / 10
    if most >= max(found.top or 0.0, _slowest(report)):
        yield Remedy("heed", say("Never faster than {}", Measured(most, "speed")), (Change("loads.dive_speed", most),))


def _tucking(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    if twist.tip_dive is None or twist.tip_dive > -TUCK or found.dive is None:
        return
    yield Finding(
        "structure.tuck",
        "look",
        "structure",
        say("In a dive the tips twist {} nose down.", Measured(-twist.tip_dive, "angle")),
        say(
            "The camber's moment does that at {}; the trim goes with it, and on a swept wing the nose. Ease out early.",
            _speed(found.dive),
        ),
        lambda: harmless(design, report, _flat_enough(cures(design, report), twist.tip_dive)),
    )


def _flat_enough(found: tuple[Cure, ...], now: float | None) -> tuple[Remedy, ...]:
    """Return the cures that leave the tips flat enough; where none is, those that go farthest, as parts of one."""
    able = sorted((cure for cure in found if cure.tip is not None), key=lambda cure: -(cure.tip or 0.0))
    whole = tuple(cure.remedy for cure in able if (cure.tip or 0.0) > -TUCK)
    if whole:
        return whole
    better = [cure for cure in able[:_PARTS] if now is not None and WORTH * (cure.tip or 0.0) > now]
    return tuple(replace(cure.remedy, key=f"part_{cure.remedy.key}") for cure in better)


def _fluttering(design: Design, report: Report, found: Bearing) -> Iterator[Finding]:
    """Warn of flutter by what lets it begin: play at the trailing edge of controls, and speed."""
    fast = found.top if found.top is not None else found.dive
    if fast is None or fast < _FAST:
        return
    chords = [
        (float(hinge_share(surface, c, [c.start])[0]) * surface.stations[0].chord, surface.stations[0].chord)
        for surface in design.surfaces
        for c in surface.controls
    ]
    large = [chord for chord, whole in chords if chord >= _LARGE * whole]
    if not large:
        return
    yield Finding(
        "structure.flutter",
        "settled",
        "structure",
        say("Above {} keep controls free of play.", _speed(_FAST)),
        say(
            "It flies {}. Less than {} of play at any trailing edge, or balance weights ahead of the hinge; no flutter "
            "speed is computed.",
            _speed(fast),
            Measured(SLOP * min(large), "length", 1),
        ),
    )
