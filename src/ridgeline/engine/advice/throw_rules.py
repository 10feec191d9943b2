"""Findings on the launch: the take-off run, wheels that tip it over, a nose that stays down, blades that land first."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.pack_slide import pack_slid
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.bodies import underside
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.stages.running import Running

#: Main wheels ahead of the balance point tip it over under this, rad, and are set so (chosen: grass, by its friction,
#: leans it six degrees, a tuft twice that), and the pitch control that ought to be left when the nose wheel lifts.
_TIPS, _STEADY, _LEFT = math.radians(11.0), math.radians(16.0), 0.15
#: Blades that reach further than this under the belly are met by the ground, m; a skid reaches so much further.
_UNDER, _SKID = 0.004, 0.010
#: Blades that fold back as it lands.
_FOLD = ("folding", "ducted_fan")


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge how it gets off the ground, and down to it."""
    running = report.results.running
    if running is not None:
        yield from _run(design, report, running)
        yield from _tips(design, running)
        yield from _nose(design, report, running)
    yield from _strikes(design)
    yield from _by_trim(design, report)


def _run(design: Design, report: Report, running: Running) -> Iterator[Finding]:
    figure, room = report.figures["flight.takeoff_run"], design.brief.ground_roll
    if design.brief.launch != "wheels":
        return
    if figure.value is None:
        yield Finding("throw.run", "stop", "flights", say("It does not take off: drag and grass outweigh the thrust."),
                      say("A firmer ground, larger wheels, or more thrust."), (), ("flight.takeoff_run",))  # fmt: skip
        return
    within = figure.value <= room
    words = "The take-off takes {} of the {} there are." if within else "The take-off takes {}, and there are {}."
    why = say("{} to {} on short grass into the brief's wind; twice that in long grass or calm air.",
              Measured(figure.low or 0.0, "distance"), Measured(figure.high or 0.0, "distance"))  # fmt: skip
    told = say(words, Measured(figure.value, "distance"), Measured(room, "distance"))
    yield Finding("throw.run", "settled" if within else "look", "flights", told, why, (), ("flight.takeoff_run",))


def _tips(design: Design, running: Running) -> Iterator[Finding]:
    stance = running.stance
    if stance is None or stance.behind >= 0 or stance.tips >= _TIPS:
        return
    main = _main_wheel(design, stance.behind)
    move = math.tan(_STEADY) * stance.high + stance.behind
    ways = () if main is None else (
        Remedy("wheels_ahead", say("Main wheels {} further ahead", Measured(move, "length")),
               (Change(f"wheels[{main}].x", design.wheels[main].x - move),)),
    )  # fmt: skip
    yield Finding(
        "throw.nose_over",
        "look",
        "flights",
        say("It tips onto its nose at {}.", Measured(stance.tips, "angle", 0)),
        say("Its main wheels stand {} ahead of the balance point; {} and more keeps the blades off the grass.",
            Measured(-stance.behind, "length"), Measured(_TIPS, "angle", 0)),
        ways,
    )  # fmt: skip


def _main_wheel(design: Design, behind: float) -> int | None:
    """Return the main wheel's place in the list: the one that stands so far behind the balance point, or ahead."""
    if not design.wheels:
        return None
    order = sorted(range(len(design.wheels)), key=lambda k: design.wheels[k].x)
    return order[0] if behind < 0 else order[-1]


def _nose(design: Design, report: Report, running: Running) -> Iterator[Finding]:
    if running.left is None or running.left >= _LEFT or running.stance is None:
        return
    lifts = running.left > 0
    words = "The elevator hardly lifts the nose wheel." if lifts else "The elevator does not lift the nose wheel."
    main = _main_wheel(design, running.stance.behind)
    ways: tuple[Remedy, ...] = ()
    nearer = 0.4 * running.stance.behind
    if main is not None and nearer > 0.002:
        ways = (Remedy("wheels_nearer", say("Main wheels {} further ahead", Measured(nearer, "length")),
                       (Change(f"wheels[{main}].x", design.wheels[main].x - nearer),)),)  # fmt: skip
    left = Measured(max(running.left, -9.99), "fraction", 0)
    why = say("At lift-off {} of it is left. Main wheels nearer to the balance point need less.", left)
    yield Finding("throw.nose_wheel", "look", "flights", say(words), why, ways)


def _strikes(design: Design) -> Iterator[Finding]:
    train = design.power
    if train is None or design.wheels or train.propeller.family in _FOLD or not design.bodies:
        return
    radius, worst = train.propeller.diameter / 2, 0.0
    for x, _y, z in all_discs(train):
        belly = min(underside(design.bodies, float(at)) for at in np.linspace(x - 0.05, x + 0.3, 8))
        worst = max(worst, belly - (z - radius))
    if worst <= _UNDER:
        return
    yield Finding(
        "throw.blades",
        # Most that are thrown land so, and many blades live through it: told, not to be mended first.
        "settled",
        "flights",
        say("Its blades reach {} under the belly: they land first.", Measured(worst, "length")),
        say("A skid of {}, blades that fold, or a wire hoop round them; stop the motor with the blades level.",
            Measured(worst + _SKID, "length")),
    )  # fmt: skip


def _by_trim(design: Design, report: Report) -> Iterator[Finding]:
    """The balance that the flown elevator tells, where it is off by more than its band."""
    told, now = report.figures["log.cg_by_trim"], report.value("balance.cg_fraction")
    reference = report.results.shape.reference
    if told.value is None or now is None or reference is None:
        return
    off = (told.value - now) * reference.mac
    sure = abs(told.value - now) > BAND * told.sigma
    way = "forward" if off < 0 else "aft"
    words = say(f"The flown trim puts the balance {{}} {way}.", Measured(abs(off), "length"))
    why = say("{} ± {}, as if nothing else were off; Causes tells what else it may be.",
              Measured(told.value, "fraction"), Measured(BAND * told.sigma, "fraction", bare=True))  # fmt: skip
    ways: tuple[Remedy, ...] = ()
    slid = pack_slid(design, report, -off) if sure else None
    if slid is not None and abs(slid.move) > 5e-4:
        side = "forward" if slid.move < 0 else "aft"
        ways = (Remedy("slide_for_trim", say(f"Slide pack {{}} {side}", Measured(abs(slid.move), "length")),
                       (Change(f"parts[{slid.part}].x", slid.place),)),)  # fmt: skip
    yield Finding("flights.trim", "look" if sure else "settled", "flights", words, why, ways, ("log.cg_by_trim",))
