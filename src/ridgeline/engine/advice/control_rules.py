"""Findings on what the controls can do: elevator, roll, rudder alone, flaps. Amounts are solved."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.hinges import mean_share
from ridgeline.design.paths import Change
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.control_edits import angle, controls_of, less_throw, longer_ailerons, more_dihedral
from ridgeline.engine.advice.trials import settled_by
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, ROLL_CONTROLS
from ridgeline.engine.aero.flap import thin_effectiveness
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report, Wanted
from ridgeline.engine.results import given
from ridgeline.engine.roots import root_in
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
#: Travel from cruise to stall below which an elevator is touchy, and throw over travel above which it is too strong.
_TOUCHY, _STRONG = math.radians(1.5), 8.0
#: Spiral parameter B and V_V·B that let a rudder roll the aircraft (handbook of the trade §4).
_RUDDER_ONLY, _FIN_SPIRAL = 5.0, 0.10
#: Below this even ailerons are busy holding a bank.
_LEAST_SPIRAL = 1.0
#: Largest elevator throw offered, rad.
_MOST_ELEVATOR = 0.6


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge control power and the means to turn."""
    handled = report.results.handling
    if handled is None:
        return
    yield from _elevator(design, report, handled)
    yield from _roll(design, report, handled)
    yield from _flaps(report)


def _elevator(design: Design, report: Report, handled: Handling) -> Iterator[Finding]:
    reach, span = report.value("control.elevator_to_stall"), report.value("control.pitch_sensitivity")
    throw = handled.throws.pitch_up
    if reach is None or span is None or throw <= 0 or given(report.results.speeds).vortex:
        return
    if reach > throw:
        yield Finding(
            "control.elevator_low",
            "look",
            "shape",
            say("The elevator is too weak to stall it: {} needed, {} there is.", angle(reach), angle(throw)),
            say("With the balance at its foremost it cannot be slowed to its stall, so it lands fast."),
            tuple(_more_elevator(design, report, reach / throw)),
            ("control.elevator_to_stall",),
        )
    elif 0 < span < _TOUCHY or (span > 0 and throw / span > _STRONG):
        calm = min(throw, 5.0 * span)
        yield Finding(
            "control.elevator_touchy",
            "look",
            "shape",
            say("A touchy elevator: {} from cruise to stall, {} of throw.", angle(span), angle(throw)),
            say("Little margin or a big elevator. Less throw, or the balance further ahead, makes it gentle."),
            (
                *less_throw(design, PITCH_CONTROLS, calm / throw),
                *(_balance_ahead(design, report, span) if span < _TOUCHY else ()),
            ),
            ("control.pitch_sensitivity",),
        )


def _balance_ahead(design: Design, report: Report, span: float) -> Iterator[Remedy]:
    """Offer the slide of the pack that gives the elevator enough travel from cruise to stall."""
    balanced, margin = report.results.balance, report.value("stability.static_margin")
    if balanced is None or margin is None:
        return
    found: dict[float, Remedy] = {}

    def edits(shift: float) -> tuple[Change, ...] | None:
        slides = (r for r in levers_to(design, report, balanced.cg_fraction - shift) if r.key == "slide_pack")
        slide = next(slides, None)
        if slide is None or found.get(shift) == slide:
            return None
        found[shift] = slide
        return slide.changes

    def excess(after: Report) -> float | None:
        reached = after.value("control.pitch_sensitivity")
        return None if reached is None or reached <= 0 else _TOUCHY / reached

    # The travel goes about with the margin.
    shift = max(margin, 0.02) * (_TOUCHY / span - 1)
    done = settled_by(design, report, edits, excess, max(shift, 0.005))
    if done is not None:
        yield found[done[0]]


def _more_elevator(design: Design, report: Report, factor: float) -> Iterator[Remedy]:
    """Offer the throw that does it, and the chord that does it at the throw there is."""
    purpose = design.brief.purpose
    found = list(controls_of(design, PITCH_CONTROLS))
    if not found:
        return

    def throws(times: float) -> list[Change] | None:
        changes = []
        for i, j, _surface, control in found:
            up, down = travel(control, purpose)
            if up * times >= _MOST_ELEVATOR:
                return None
            base = f"surfaces[{i}].controls[{j}]"
            changes += [Change(f"{base}.up", up * times), Change(f"{base}.down", down)]
        return changes

    def chords(times: float) -> list[Change] | None:
        changes = []
        for i, j, surface, control in found:
            share = mean_share(surface, control)
            wanted = _chord_for(thin_effectiveness(share) * times)
            if wanted is None:
                return None
            changes += _with_share(f"surfaces[{i}].controls[{j}]", control, share, wanted)
        return changes

    def excess(after: Report) -> float | None:
        reach, handled = after.value("control.elevator_to_stall"), after.results.handling
        return None if reach is None or handled is None else reach / max(handled.throws.pitch_up, 1e-6)

    thrown = settled_by(design, report, throws, excess, 1.1 * factor)
    if thrown is not None:
        yield Remedy("more_throw", say("Elevator throw up {}", angle(thrown[1][0].value, 0)), thrown[1])
    deeper = settled_by(design, report, chords, excess, 1.1 * factor)
    if deeper is not None:
        to = deeper[1][0].value
        if found[0][-1].width is None:
            text = say("Elevator chord {} of the tail's", Measured(to, "fraction", 0))
        else:
            text = say("Elevator {} wide at its root", Measured(to, "length"))
        yield Remedy("more_elevator", text, deeper[1])


def _with_share(base: str, control: ControlSurface, share: float, wanted: float) -> list[Change]:
    """Return the edits that bring a control to another share of the chord, by its widths where it has them."""
    if control.width is None:
        return [Change(f"{base}.chord_fraction", wanted)]
    times = wanted / share
    outer = [] if control.width_out is None else [Change(f"{base}.width_out", round(control.width_out * times, 4))]
    return [Change(f"{base}.width", round(control.width * times, 4)), *outer]


def _chord_for(effect: float) -> float | None:
    """Return the chord share whose effectiveness this is, None past a half."""
    low, high = 0.02, 0.5
    if thin_effectiveness(high) < effect:
        return None
    if thin_effectiveness(low) >= effect:
        return low
    return round(root_in(lambda share: thin_effectiveness(share) - effect, low, high, 1e-9), 4)


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
    """Return the wanted range of each figure of control; None is an open end.

    Parameters
    ----------
    brief : Brief
    handled : Handling or None
        None where there is nothing to hold yet.

    Returns
    -------
    dict
        By the figure's key, in stored units.
    """
    if handled is None:
        return {}
    throw = handled.throws.pitch_up
    return {
        "control.roll_helix": helix_range(brief.purpose),
        "control.elevator_to_stall": (None, throw),
        "control.pitch_sensitivity": (max(_TOUCHY, throw / _STRONG), None),
        "control.rudder_sideslip": (None, handled.throws.yaw),
        "stability.spiral_parameter": (_RUDDER_ONLY if handled.by_rudder else _LEAST_SPIRAL, None),
    }


def _roll(design: Design, report: Report, handled: Handling) -> Iterator[Finding]:
    helix, rate = report.value("control.roll_helix"), report.value("control.roll_rate")
    spiral = report.value("stability.spiral_parameter")
    if handled.by_rudder:
        yield from _by_rudder(design, report, handled, spiral)
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


def _flaps(report: Report) -> Iterator[Finding]:
    """Say what the flaps are worth, and when they are too small to matter."""
    found = report.results.flaps
    slow, plain = report.value("speed.stall_flaps"), report.value("speed.stall")
    if found is None or slow is None or plain is None:
        return
    gain = 1 - slow / plain
    elevator = report.value("flap.elevator") or 0.0
    if gain < 0.04:
        yield Finding(
            "flap.small",
            "look",
            "shape",
            say(
                "The flaps are too small to matter: stall {} → {}.",
                Measured(plain, "speed", bare=True),
                Measured(slow, "speed"),
            ),
            say("They cost servos and hinges for {} of speed.", Measured(gain, "fraction", 0)),
            (),
            ("speed.stall_flaps",),
        )
        return
    left = " {} of the roll authority is left." if found.roll_left < 1 else ""
    more = (Measured(found.roll_left, "fraction", 0),) if found.roll_left < 1 else ()
    yield Finding(
        "flap.worth",
        "look" if found.roll_left < 0.5 else "settled",
        "shape",
        say(
            "Flaps at {}: stall {} → {}.",
            angle(found.setting, 0),
            Measured(plain, "speed", bare=True),
            Measured(slow, "speed"),
        ),
        say(
            f"Mix in {{}} of elevator {'down' if elevator > 0 else 'up'} to hold the nose.{left}",
            angle(abs(elevator)),
            *more,
        ),
        (),
        ("speed.stall_flaps",),
    )
