"""Findings on a gyro board: an axis on which it turns with what it feels, and a gain that would shake it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.radio import GyroAxis
from ridgeline.engine.controls.gyro import most_gain, opposes
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report

#: What is tried by hand about each axis, and what a control then has to do.
TRIED: dict[GyroAxis, str] = {
    "roll": "Roll it right by hand: the starboard aileron goes down",
    "pitch": "Lift its nose by hand: the elevator goes down",
    "yaw": "Swing its nose right by hand: the rudder goes left",
}
TRIED_AHEAD = "Lift its nose by hand: the foreplane's control goes up"
#: Gains are set to whole steps of this.
_STEP = 0.05


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge a gyro board, where there is one."""
    radio = design.radio
    gyro = None if radio is None else radio.gyro
    if gyro is None or not gyro.axes:
        return
    sticks = report.results.sticking
    ahead = any(surface.role == "foreplane" and surface.controls for surface in design.surfaces)
    for axis in gyro.axes:
        if opposes(gyro, axis) or (sticks is not None and sticks.of(axis) is None):
            continue
        tried = TRIED_AHEAD if axis == "pitch" and ahead else TRIED[axis]
        turned = tuple(one for one in gyro.reversed if one != axis)
        changed = turned if axis in gyro.reversed else (*gyro.reversed, axis)
        yield Finding(
            f"gyro.sense.{axis}",
            "stop",
            "controls",
            say(f"The gyro turns with the {axis} it feels: it flies the aircraft into the ground."),
            say(f"{tried}; propeller off."),
            (Remedy("reverse", say(f"Turn its {axis} over"), (Change("radio.gyro.reversed", changed),)),),
        )
    yield from _gain(design, report)


def gains(design: Design, report: Report) -> dict[GyroAxis, float]:
    """Return the largest gain that each axis of a gyro takes at top speed.

    Parameters
    ----------
    design : Design
    report : Report

    Returns
    -------
    dict
        Of axes that a control or motors turn.
    """
    sticks, motions, flown = report.results.sticking, report.results.motions, report.results.flight
    radio, model = design.radio, report.results.lattice
    if sticks is None or motions is None or radio is None or radio.gyro is None or model is None:
        return {}
    speed = report.value("speed.max") if flown is not None else None
    found: dict[GyroAxis, float] = {}
    for axis in radio.gyro.axes:
        answer = sticks.of(axis)
        if answer is None:
            continue
        top = max(speed or answer.speed, answer.speed)
        load = 0.5 * report.results.air.density * top**2 * model.scale.area
        size = model.scale.chord if axis == "pitch" else model.scale.span
        moment = abs(getattr(answer, axis)) * load * size
        found[axis] = most_gain(moment / getattr(motions.inertia, axis))
    return found


def _gain(design: Design, report: Report) -> Iterator[Finding]:
    radio = design.radio
    gyro = None if radio is None else radio.gyro
    most = gains(design, report)
    if gyro is None or not most:
        return
    axis = min(most, key=lambda one: most[one])
    if gyro.gain <= most[axis]:
        return
    less = math.floor(most[axis] / _STEP + 1e-9) * _STEP
    ways = (Remedy("gain", say("A gain of {}", Measured(less, "fraction", 0)),
                   (Change("radio.gyro.gain", round(less, 2)),)),) if less > 0 else ()  # fmt: skip
    yield Finding(
        "gyro.gain",
        "look",
        "controls",
        say(f"At top speed the gyro would shake it in {axis}: a gain of {{}} is too much.",
            Measured(gyro.gain, "fraction", 0)),
        say("Its servo answers too late for more than {}. Begin with half of that.",
            Measured(most[axis], "fraction", 0)),
        ways,
    )  # fmt: skip
