"""Findings on what comes into the way of controls: one another, propellers, bodies, and wings that come off."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import numpy as np

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.linkage_edits import called
from ridgeline.engine.controls.clearing import Blocked, Meeting, Moving, Struck, blocked, start_for, struck
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report

#: Horns and throws are moved by steps of this, m and rad.
_STEP, _ANGLE = 0.005, 0.0175


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the room of every control at full throw."""
    found = report.results.clearing
    told = set()
    for meeting in found.meetings:
        pair = frozenset((meeting.one.control.id, meeting.other.control.id))
        if pair not in told:
            told.add(pair)
            yield _meets(design, meeting)
    hit = {one.one.control.id: one for one in sorted(found.struck, key=lambda one: one.inside)}
    for one in hit.values():
        yield _strikes(design, report, one)
    for way in found.blocked:
        yield _in_the_way(design, way)


def control_path(design: Design, surface: Surface, control: ControlSurface) -> str:
    """Return the path of a control."""
    k = next(k for k, one in enumerate(design.surfaces) if one.id == surface.id)
    j = next(j for j, one in enumerate(design.surfaces[k].controls) if one.id == control.id)
    return f"surfaces[{k}].controls[{j}]"


def _degrees(value: float) -> Measured:
    return Measured(abs(value), "angle", 0)


def _meets(design: Design, meeting: Meeting) -> Finding:
    one, other = meeting.one, meeting.other
    return Finding(
        f"controls.meets.{one.control.id}.{other.control.id}",
        "look",
        "controls",
        say(f"{called(one.surface, one.control)} and {called(other.surface, other.control)} meet at full throw."),
        say(f"At {{}} {_way(one, meeting.at[0])} and {{}} {_way(other, meeting.at[1])}.", _degrees(meeting.at[0]),
            _degrees(meeting.at[1])),
        partial(_cut_back, design, meeting),
    )  # fmt: skip


def _way(one: Moving, angle: float) -> str:
    if one.surface.role == "fin":
        return "aside"
    return "down" if angle > 0 else "up"


def _cut_back(design: Design, meeting: Meeting) -> Iterator[Remedy]:
    """Offer to begin either control farther out: the lesser cut first."""
    ways = []
    for one, other in ((meeting.one, meeting.other), (meeting.other, meeting.one)):
        start = start_for(one, other)
        if start is not None:
            cut = start - one.control.start
            words = say(f"Cut {{}} off the inner end of {called(one.surface, one.control)}", Measured(cut, "length", 0))
            change = Change(f"{control_path(design, one.surface, one.control)}.start", start)
            ways.append((cut, Remedy(f"cut_{one.control.id}", words, (change,))))
    for _cut, way in sorted(ways, key=lambda pair: pair[0]):
        yield way


def _strikes(design: Design, report: Report, hit: Struck) -> Finding:
    return Finding(
        f"controls.struck.{hit.one.control.id}",
        "stop",
        "controls",
        say(f"{called(hit.one.surface, hit.one.control)} comes into the propeller at {{}}.", _degrees(hit.at)),
        say("By {}, with {} of room counted.", Measured(hit.inside, "length", 0), Measured(0.008, "length", 0)),
        partial(_out_of_the_disc, design, report, hit),
    )


def _out_of_the_disc(design: Design, report: Report, hit: Struck) -> Iterator[Remedy]:
    """Offer the largest throw that passes the blade, and the place farther out at which the control passes it."""
    power = design.power
    if power is None:
        return
    discs, radius = all_discs(power), 0.5 * power.propeller.diameter
    one = hit.one
    path = control_path(design, one.surface, one.control)
    field, full = ("down", one.throw.down) if hit.at > 0 else ("up", one.throw.up)
    for less in np.arange(full - _ANGLE, 2 * _ANGLE, -_ANGLE) if hit.at else ():
        throw = Throw(*(float(less) if name == field else value for name, value in zip(
            ("up", "down"), one.throw, strict=True)))  # fmt: skip
        if not struck([one._replace(throw=throw)], discs, radius):
            yield Remedy("less_throw", say(f"No more than {{}} {field}", _degrees(float(less))),
                         (Change(f"{path}.{field}", round(float(less), 4)),))  # fmt: skip
            break
    control = one.control
    for start in np.arange(control.start + _STEP, control.start + 0.5 * (control.end - control.start), _STEP):
        trial = control.model_copy(update={"start": round(float(start), 4)})
        if not struck([one._replace(control=trial)], discs, radius):
            words = say("Begin it {} farther out", Measured(float(start) - control.start, "length", 0))
            yield Remedy("start", words, (Change(f"{path}.start", round(float(start), 4)),))
            break


def _in_the_way(design: Design, found: Blocked) -> Finding:
    control = next(c for c in found.surface.controls if c.id == found.linkage.control)
    name = called(found.surface, control)
    text = say(f"{name}: its horn holds the wing where it comes off.") if found.comes_off else say(
        f"{name}: its horn stands inside the body.")  # fmt: skip
    return Finding(
        f"controls.horn.{control.id}",
        "look",
        "controls",
        text,
        say("It strikes the body as it moves, or as the wing is lifted off."),
        partial(_elsewhere, design, found, control),
    )


def _elsewhere(design: Design, found: Blocked, control: ControlSurface) -> Iterator[Remedy]:
    """Offer the nearest place farther out that is clear, and the other side of the control."""
    one, surface = found.linkage, found.surface
    base = f"linkages[{next(k for k, row in enumerate(design.linkages) if row.id == one.id)}]"
    now = one.out if one.out is not None else 0.5 * (control.start + control.end)
    for out in np.arange(now + _STEP, control.end, _STEP):
        if not blocked([(one.model_copy(update={"out": float(out)}), surface, control)], design.bodies):
            words = say("Horn {} out along it", Measured(float(out), "length", 0))
            yield Remedy("farther_out", words, (Change(f"{base}.out", round(float(out), 4)),))
            break
    turned = one.model_copy(update={"horn_below": not one.horn_below})
    if not blocked([(turned, surface, control)], design.bodies):
        side = "above" if one.horn_below else "below"
        yield Remedy("other_side", say(f"Horn {side} it"), (Change(f"{base}.horn_below", not one.horn_below),))
