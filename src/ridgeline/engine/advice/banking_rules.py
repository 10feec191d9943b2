"""Findings on how it banks and turns: by ailerons, by rudder through the dihedral, by unlike thrust, or not at all."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.engine.advice.control_edits import angle, less_throw, longer_ailerons, more_dihedral
from ridgeline.engine.aero.airframe_lattice import ROLL_CONTROLS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Report, Wanted
from ridgeline.engine.stages.handling import Handling

#: Helix angles wanted by purpose (handbook of the trade §7): low, high.
_HELIX = {
    "tailless": (0.06, 0.15),
    "trainer": (0.05, 0.09),
    "slow": (0.04, 0.09),
    "glider": (0.04, 0.09),
    "camera": (0.05, 0.10),
}
_HELIX_USUAL, _HELIX_AEROBATIC = (0.06, 0.12), (0.10, 0.30)
#: Below this even ailerons are busy holding a bank.
_LEAST_SPIRAL = 1.0
#: Spiral parameter B and V_V·B that let a rudder roll the aircraft (handbook of the trade §4).
_RUDDER_ONLY, _FIN_SPIRAL = 5.0, 0.10
#: Less roll than this from the motors of one side answers late, rad/s (chosen: a bank of 30° in two seconds).
_LEAST_TURN = math.radians(15)
#: Wings that hang by more than this roll out of no bank, rad (well past what building errs by).
_ANHEDRAL = math.radians(-1.0)


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge how it banks and turns."""
    handled = report.results.handling
    if handled is not None:
        yield from _hanging(design, report, handled)
        yield from _roll(design, report, handled)


def helix_range(purpose: str) -> tuple[float, float]:
    """Return the helix angles p b/2V wanted for a purpose, least and most.

    Parameters
    ----------
    purpose : str

    Returns
    -------
    least, most: float
    """
    return _HELIX_AEROBATIC if purpose == "aerobatic" else _HELIX.get(purpose, _HELIX_USUAL)


def wanted(brief: Brief, handled: Handling | None) -> dict[str, Wanted]:
    """Return the wanted ranges of the figures that banking is judged by.

    Parameters
    ----------
    brief : Brief
    handled : Handling or None
        None where there is nothing to judge yet.

    Returns
    -------
    dict
        By the figure's key, in stored units.
    """
    if handled is None:
        return {}
    return {
        "control.roll_helix": helix_range(brief.purpose),
        "stability.spiral_parameter": (_RUDDER_ONLY if handled.by_rudder else _LEAST_SPIRAL, None),
    }


def _hanging(design: Design, report: Report, handled: Handling) -> Iterator[Finding]:
    """Say that wings droop: anhedral, which on a straight wing steepens every bank."""
    if handled.dihedral > _ANHEDRAL:
        return
    dihedral_effect = report.value("stability.cl_beta")
    rights = dihedral_effect is not None and dihedral_effect < 0
    yield Finding(
        "shape.anhedral",
        "settled" if rights else "look",
        "shape",
        say("The wings hang: {} of anhedral.", angle(-handled.dihedral)),
        say(
            "Sweep and body still right it in a slip."
            if rights
            else "A slip rolls it further into the bank: it must be held level all the time."
        ),
        () if rights else tuple(more_dihedral(design, report, math.radians(1.0))),
        ("stability.dihedral",),
    )


def _roll(design: Design, report: Report, handled: Handling) -> Iterator[Finding]:
    helix, rate = report.value("control.roll_helix"), report.value("control.roll_rate")
    spiral = report.value("stability.spiral_parameter")
    if handled.by_rudder:
        yield from _by_rudder(design, report, handled, spiral)
        return
    if handled.unsteered:
        yield _unsteered(report)
        return
    if helix is None or rate is None:
        return
    low, high = helix_range(design.brief.purpose)
    words = (Measured(helix, "ratio"), Measured(low, "ratio"), Measured(high, "ratio"))
    turn = Measured(rate, "turn_rate", 0)
    if helix < low:
        yield Finding(
            "control.roll_low",
            "look",
            "shape",
            say("It rolls slowly: {} in cruise.", turn),
            say("Helix angle {}; {} to {} is wanted.", *words),
            tuple(longer_ailerons(design, report, 1.05 * low / helix)) if helix > 1e-4 else (),
            ("control.roll_rate",),
        )
    elif helix > high:
        middle = 0.5 * (low + high)
        yield Finding(
            "control.roll_high",
            "look",
            "shape",
            say("It rolls fast: {} in cruise.", turn),
            say("Helix angle {}; {} to {} is wanted. Less throw tames it at no cost.", *words),
            tuple(less_throw(design, ROLL_CONTROLS, middle / helix)),
            ("control.roll_rate",),
        )
    else:
        yield Finding(
            "control.roll_good",
            "settled",
            "shape",
            say("It rolls at {} in cruise.", turn),
            say("Helix angle {}; {} to {} is wanted.", *words),
            (),
            ("control.roll_rate",),
        )


def _unsteered(report: Report) -> Finding:
    """Judge an aircraft without rudder and ailerons: its motors turn it, or nothing does."""
    turn = report.value("control.thrust_turn")
    if turn is None:
        return Finding(
            "control.free",
            "settled",
            "shape",
            say("Nothing steers it: it goes where it is let go."),
            say("Trim it in small steps, in calm air, over a field wider than it glides; nobody stands ahead of it."),
        )
    weak = turn < _LEAST_TURN
    return Finding(
        "control.thrust_turns",
        "look" if weak else "settled",
        "shape",
        say("Its motors turn it: it rolls at {} with one side idle.", Measured(turn, "turn_rate", 0)),
        say(
            "Less than {} answers late: motors farther out, or more dihedral, turn it better."
            if weak
            else "{} and more answers in time. With the throttle closed nothing turns it: keep some on.",
            Measured(_LEAST_TURN, "turn_rate", 0),
        ),
        (),
        ("control.thrust_turn",),
    )


def _by_rudder(design: Design, report: Report, handled: Handling, spiral: float | None) -> Iterator[Finding]:
    """Judge a rudder-only aircraft by the spiral parameter: without dihedral it yaws and does not turn."""
    volume = report.value("tail.volume_v")
    if spiral is None or volume is None:
        return
    enough = spiral >= _RUDDER_ONLY and volume * spiral >= _FIN_SPIRAL
    words = (Measured(spiral, "ratio", 1), angle(handled.dihedral))
    if enough:
        yield Finding(
            "control.rudder_turns",
            "settled",
            "shape",
            say("Rudder alone turns it: spiral parameter {}, dihedral {}.", *words),
            say(f"{_RUDDER_ONLY:.0f} and more is enough to bank through the dihedral."),
            (),
            ("stability.spiral_parameter",),
        )
        return
    needed = max(_RUDDER_ONLY, _FIN_SPIRAL / max(volume, 1e-3)) * 1.02
    yield Finding(
        "control.rudder_only",
        "look" if spiral > 0.5 * _RUDDER_ONLY else "stop",
        "shape",
        say("Rudder alone will not turn it: spiral parameter {}, dihedral {}.", *words),
        say("It would yaw and slide. {} or more banks it; else add ailerons.", Measured(needed, "ratio", 1)),
        tuple(
            more_dihedral(
                design, report, handled.dihedral * needed / max(spiral, 1e-6) if spiral > 1e-3 else None, needed
            )
        ),
        ("stability.spiral_parameter",),
    )
