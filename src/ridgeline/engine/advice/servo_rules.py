"""Findings on servos: too weak for the air of a dive, or heavier than they need be."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from ridgeline.design.document import Design
from ridgeline.design.parts import Servo
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.linkage_edits import control_path, with_setting
from ridgeline.engine.controls.inverse import settings_for
from ridgeline.engine.controls.sense import FOLLOWS
from ridgeline.engine.controls.servo import PLANNED, seconds_per_60, stall_torque
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.register import CONTROL_TIME, SERVO_SHARE
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.linkages import HOLES, passing, with_servo
from ridgeline.engine.stages.linked import LinkedControl, Linking
from ridgeline.engine.stages.linking import EFFICIENCY

#: A servo that works at less than this of its stall is heavier than it need be, where another saves this mass, kg
#: (chosen).
_IDLE, _SAVES = 0.20, 0.003
#: Throws are not cut below this, degrees, and no dive below so many cruises (chosen).
_LEAST_THROW, _OVER_CRUISE = 4.0, 1.2
#: A control reaches full throw within the first, s, however slow the aircraft; no servo need be quicker than the second
#: (chosen).
_SLOWEST, _QUICKEST = 0.40, 0.10
#: Tries of a slower dive.
_TRIES = 5


def of_servo(design: Design, report: Report, row: LinkedControl, name: str) -> Iterator[Finding]:
    """Judge the servo of a linkage.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    row : LinkedControl
    name : str
        What its control is called.

    Yields
    ------
    Finding
    """
    share = row.share
    found = report.results.bearing
    if share is None or found is None:
        return
    key, figures = f"controls.servo.{row.control.id}", (SERVO_SHARE.key(row.control.id),)
    dive = Measured(found.dive if found.dive is not None else 2 * found.cases[0].speed, "speed", 0)
    reason = say("{} about the hinge at {} is {} at the servo, which stalls at {}; half of that is planned on.",
                 Measured(row.moment, "torque", 2), dive, Measured(row.torque, "torque", 2),
                 Measured(row.stall or 0.0, "torque", 2))  # fmt: skip
    yield from _slow(design, report, row, name)
    if share > PLANNED * (1 + 1e-6):
        level: Level = "stop" if share > 1 else "look"
        yield Finding(key, level, "controls",
                      say(f"{name}: its servo works at {{}} of stall.", Measured(share, "fraction", 0)),
                      reason, partial(_stronger, design, report, row), figures)  # fmt: skip
        return
    if share < _IDLE:
        ways = tuple(_lighter(design, report, row))
        if ways:
            yield Finding(key, "settled", "controls",
                          say(f"{name}: its servo works at {{}} of stall.", Measured(share, "fraction", 0)),
                          say("A lighter one would do."), ways,
                          figures)  # fmt: skip


def quick_enough(report: Report, row: LinkedControl) -> float:
    """Return the time in which a control must reach full throw, s: half of that in which it rolls 45°, within limits.

    Parameters
    ----------
    report : Report
    row : LinkedControl

    Returns
    -------
    float
    """
    rate = report.value("control.roll_rate")
    if "roll" not in FOLLOWS[row.control.kind] or not rate:
        return _SLOWEST
    return min(max(0.5 * math.radians(45.0) / abs(rate), _QUICKEST), _SLOWEST)


def _slow(design: Design, report: Report, row: LinkedControl, name: str) -> Iterator[Finding]:
    """Say when a servo is slower than the aircraft it turns."""
    takes, most = report.value(CONTROL_TIME.key(row.control.id)), quick_enough(report, row)
    if takes is None or takes <= most:
        return
    yield Finding(
        f"controls.slow.{row.control.id}",
        "look",
        "controls",
        say(f"{name}: its servo takes {{}} to full throw.", Measured(takes, "seconds")),
        say("{} would keep up with how quickly it answers.", Measured(most, "seconds")),
        partial(_quicker, design, report, row, most / takes),
        (CONTROL_TIME.key(row.control.id),),
    )


def _quicker(design: Design, report: Report, row: LinkedControl, less: float) -> Iterator[Remedy]:
    """Offer the lightest servo that is quick and strong enough, and holes that ask for less of its turn."""
    place = _item(design, row)
    if place is None:
        return
    now = design.parts[place].servo
    mass = 0.01 if now is None or now.mass is None else now.mass
    seconds = less * seconds_per_60(now or Servo(), mass)
    for servo in _passing(report, _torque_of_item(report, row)):
        if seconds_per_60(servo, servo.mass or 0.01) <= seconds:
            way = _fit(design, report, row, servo)
            if way is not None:
                yield way
            return


def _item(design: Design, row: LinkedControl) -> int | None:
    return next((k for k, item in enumerate(design.parts) if item.id == row.linkage.servo), None)


def _passing(report: Report, torque: float) -> list[Servo]:
    """Return the servos of shelf and bin that a torque leaves on half of their stall, the lightest first."""
    return passing(() if report.shelf is None else report.shelf.servos, torque)


def _torque_of_item(report: Report, row: LinkedControl) -> float:
    """Return the greatest torque asked of the servos of an item: all of them are of one kind."""
    found: Linking = report.results.linking
    return max(other.torque for other in found.rows if other.linkage.servo == row.linkage.servo)


def _fit(design: Design, report: Report, row: LinkedControl, servo: Servo) -> Remedy | None:
    place = _item(design, row)
    if place is None:
        return None
    changes = with_servo(place, servo)
    gain = mass_gained(design, report, changes)
    share = row.torque / stall_torque(servo, servo.mass or 0.01)
    words = f"{servo.name}: {{}} of stall, {{}} {'more' if gain >= 0 else 'less'}"
    values = (Measured(share, "fraction", 0), Measured(abs(gain), "mass", 0))
    return Remedy("servo", say(words, *values), changes)


def _stronger(design: Design, report: Report, row: LinkedControl) -> Iterator[Remedy]:
    able = _passing(report, _torque_of_item(report, row))
    if able and (way := _fit(design, report, row, able[0])) is not None:
        yield way
    # A setting that turns the control less for each turn of the servo lightens it.
    now = row.torque / max(row.moment, 1e-9)
    longer = tuple(sorted({*row.linkage.horn_holes, *(hole for row_ in HOLES for hole in row_[2])}))
    for setting in settings_for(row.linkage, row.wish, horns=longer):
        share = (row.share or 0.0) * setting.load / (EFFICIENCY * now)
        if share <= PLANNED:
            yield with_setting(design, row, setting)
            break
    yield from _heeding(design, report, row)
    if row.stall:
        reach = PLANNED * row.stall / row.torque
        path = control_path(design, row)
        up, down = (math.floor(math.degrees(reach * angle) * 2) / 2 for angle in row.wish)
        if min(up, down) >= _LEAST_THROW or (row.wish.up == 0 and down >= _LEAST_THROW):
            changes = (
                Change(f"{path}.up", round(math.radians(up), 4)),
                Change(f"{path}.down", round(math.radians(down), 4)),
            )
            less = say(
                "Throw {} up, {} down", Measured(math.radians(up), "angle", 1), Measured(math.radians(down), "angle", 1)
            )
            trial = report.trial().result(apply(design, changes), "linking").of(row.control.id)
            if trial is not None and trial.share is not None and trial.share <= PLANNED:
                yield Remedy("less_throw", less, changes)


def _heeding(design: Design, report: Report, row: LinkedControl) -> Iterator[Remedy]:
    """Offer never to fly it faster than its servo holds, where that leaves its level flight alone."""
    found, trial = report.results.bearing, report.trial()
    if found is None or found.dive is None or row.share is None:
        return
    most, share = found.dive, row.share
    least = max(found.top or 0.0, _OVER_CRUISE * (report.value("speed.cruise") or 0.0))
    # What rubs at the hinge does not go with the speed.
    for _ in range(_TRIES):
        most = math.floor(10 * most * math.sqrt(PLANNED / share)) / 10
        if most < least:
            return
        changes = (Change("loads.dive_speed", most),)
        after = trial.result(apply(design, changes), "linking").of(row.control.id)
        share = PLANNED if after is None or after.share is None else after.share
        if share <= PLANNED:
            yield Remedy("heed", say("Never faster than {}", Measured(most, "speed")), changes)
            return


def _lighter(design: Design, report: Report, row: LinkedControl) -> Iterator[Remedy]:
    place = _item(design, row)
    if place is None or design.parts[place].weighed is not None:
        return
    item = design.parts[place]
    mass = report.results.masses.expected[place] / item.count
    for servo in _passing(report, _torque_of_item(report, row))[:1]:
        if servo.mass is not None and (mass - servo.mass) * item.count >= _SAVES:
            way = _fit(design, report, row, servo)
            if way is not None:
                yield way
