"""Findings on what the controls can do: elevator, roll, rudder alone, flaps. Amounts are solved."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.document import Design
from ridgeline.design.hinges import mean_share
from ridgeline.design.paths import Change
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.control_edits import angle, controls_of, less_throw
from ridgeline.engine.advice.trials import settled_by
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS
from ridgeline.engine.aero.flap import thin_effectiveness
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report, Wanted
from ridgeline.engine.results import given
from ridgeline.engine.roots import root_in
from ridgeline.engine.stages.handling import Handling

#: Travel from cruise to stall below which an elevator is touchy, and throw over travel above which it is too strong.
_TOUCHY, _STRONG = math.radians(1.5), 8.0
#: The least throw left by calming an elevator, over what the stall takes.
_OVER_REACH = 1.1
#: Largest elevator throw offered, rad.
_MOST_ELEVATOR = 0.6


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge control power and the means to turn."""
    handled = report.results.handling
    if handled is None:
        return
    yield from _elevator(design, report, handled)
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
        # Less than it takes to slow to the stall would bring the opposite fault.
        calm = min(throw, max(5.0 * span, _OVER_REACH * reach))
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


def wanted(handled: Handling | None) -> dict[str, Wanted]:
    """Return the wanted range of each figure of control; None is an open end.

    Parameters
    ----------
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
        "control.elevator_to_stall": (None, throw),
        "control.pitch_sensitivity": (max(_TOUCHY, throw / _STRONG), None),
        "control.rudder_sideslip": (None, handled.throws.yaw),
    }


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
