"""Findings on clearances, incidence and what holds cruise. Amounts are solved with the lattice."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.carrying import free_of_mounts
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.seat_levers import angle_ways
from ridgeline.engine.advice.trials import proved
from ridgeline.engine.geometry.clearance import LEAST_APART, LEAST_GROUND, clearance_of
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.results import given

#: Incidence beyond which the body flies far off its own axis (handbook of the trade §7).
_MOST_INCIDENCE = math.radians(6)
#: Elevator held in cruise that is worth building in, and what no elevator should have to hold.
_TRIM_LOOK, _TRIM_STOP = math.radians(4), math.radians(8)
#: Aileron held against lopsidedness that is worth a word.
_HELD_AILERON = math.radians(2)
#: Elevator against full throttle that is worth a word, and how far a shaft is tilted.
_THROTTLE_LOOK, _MOST_SHAFT = math.radians(2), math.radians(10)

#: A disc is moved this far at most, mm.
_MOST_DISC_STEPS = 60


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the propeller's room, the wing's setting, and the trim in cruise."""
    yield from _clearance(design, report)
    yield from _incidence(design, report)
    yield from _cruise_trim(design, report)
    yield from _held_aileron(report)
    yield from _throttle(design, report)


def _clearance(design: Design, report: Report) -> Iterator[Finding]:
    """Say when a propeller turns too near the ground or a part, and by how much to move it."""
    found = report.results.clearances
    if found is None or design.power is None:
        return
    if found.ground is not None and found.ground < LEAST_GROUND - 1e-9:
        lift = LEAST_GROUND - found.ground
        wheels = tuple(Change(f"wheels[{i}].z", w.z - lift) for i, w in enumerate(design.wheels))
        yield Finding(
            "clearance.ground",
            "look" if found.ground > 0 else "stop",
            "shape",
            say("The propeller clears the ground by {}.", Measured(found.ground, "length")),
            say("{} and more is wanted at rest and with the tail up.", Measured(LEAST_GROUND, "length")),
            (Remedy("longer_legs", say("Wheels {} lower", Measured(lift, "length")), wheels),),
            ("clearance.ground",),
        )
    if found.nearest is not None and found.nearest < LEAST_APART - 1e-9:
        yield Finding(
            "clearance.disc",
            "stop",
            "shape",
            say(f"The propeller turns {{}} from {found.part}.", Measured(found.nearest, "length")),
            say("It needs {} and more, with the controls at full throw.", Measured(LEAST_APART, "length")),
            tuple(_move_discs(design)),
            ("clearance.disc",),
        )


def _move_discs(design: Design) -> Iterator[Remedy]:
    """Move every disc along its shaft's way, out from its motor, by the least whole millimetres that clear it."""
    train = design.power
    assert train is not None
    for step in range(1, _MOST_DISC_STEPS + 1):
        move = 0.001 * step
        mounts = tuple(m.model_copy(update={"x": m.x + (move if m.pusher else -move)}) for m in train.mounts)
        moved = train.model_copy(update={"mounts": mounts})
        found = clearance_of(moved, 0.5 * train.propeller.diameter, design.surfaces, design.bodies, design.wheels)
        if found.nearest is None or found.nearest >= LEAST_APART:
            way = "aft" if mounts[0].pusher else "forward"
            changes = tuple(Change(f"power.mounts[{i}].x", m.x) for i, m in enumerate(mounts))
            yield Remedy("move_disc", say(f"Discs {{}} {way}", Measured(move, "length")), changes)
            return


def _angle(value: float, decimals: int = 1) -> Measured:
    return Measured(value, "angle", decimals)


def _incidence(design: Design, report: Report) -> Iterator[Finding]:
    """Say when a wing is set so steeply that the body flies off its own axis, and what setting levels it."""
    for surface in design.surfaces:
        if surface.role not in WINGS or abs(surface.incidence) <= _MOST_INCIDENCE:
            continue
        alpha = report.value("trim.alpha")
        reason = "The body then flies far off its own axis: its drag and moment spoil the trim."
        yield Finding(
            "trim.incidence",
            "look",
            "shape",
            say(f"{surface.name} stands at {{}} to the body.", _angle(surface.incidence)),
            say(reason + (" In cruise the body points {}." if alpha is not None else ""), *_optional(alpha)),
            tuple(_level_body(design, report)),
            ("trim.alpha",),
        )


def _optional(value: float | None) -> tuple[Measured, ...]:
    return () if value is None else (_angle(value),)


def _level_body(design: Design, report: Report) -> Iterator[Remedy]:
    """Offer the incidences that fly the body at its chosen angle with the control neutral."""
    solved = report.results.trim
    way = None if solved is None else next((w for w in solved.settings if w.held == "body"), None)
    if way is None:
        return
    changes = tuple(setting_changes(design, way.wing_change, way.tail_change))
    wing = next(s for s in design.surfaces if s.role in WINGS)
    words = say(
        "Wing to {}, tail to match: body {} to the air",
        _angle(wing.incidence + way.wing_change),
        _angle(way.alpha),
    )
    yield Remedy("level_body", words, changes)


def setting_changes(design: Design, wing: float, tail: float) -> Iterator[Change]:
    """Yield the edits that change the incidence of all wings and of all tails (or foreplanes), rad."""
    tails = [i for i, s in enumerate(design.surfaces) if s.role in TAILS]
    tails = tails or [i for i, s in enumerate(design.surfaces) if s.role == "foreplane"]
    for index, surface in enumerate(design.surfaces):
        change = wing if surface.role in WINGS else (tail if index in tails else 0.0)
        if change:
            yield Change(f"surfaces[{index}].incidence", surface.incidence + change)


def _cruise_trim(design: Design, report: Report) -> Iterator[Finding]:
    held, solved, stable = report.value("trim.elevator"), report.results.trim, report.results.stability
    if held is None or solved is None or stable is None:
        return
    tailless = stable.tailless
    side = "up" if held < 0 else "down"
    name = "Elevons" if tailless else "Elevator"
    verb = "are" if tailless else "is"
    if abs(held) <= _TRIM_LOOK:
        yield Finding(
            "trim.cruise",
            "settled",
            "shape",
            say(
                f"In cruise the {name.lower()} {verb} {{}} {side}, the body at {{}}.",
                _angle(abs(held)),
                _angle(solved.cruise.alpha),
            ),
            say("Close enough to trim in the air."),
            (),
            ("trim.elevator",),
        )
        return
    grave = abs(held) > _TRIM_STOP
    yield Finding(
        "trim.cruise",
        "stop" if grave else "look",
        "shape",
        say(f"{name} {{}} {side} to hold cruise.", _angle(abs(held))),
        say(
            "That is more than a trim lever has, and it leaves little to fly with."
            if grave
            else "Build it in instead: it costs travel and drag on every flight."
        ),
        tuple(_trim_remedies(design, report, held)),
        ("trim.elevator",),
    )


def _at_rest(after: Report) -> float:
    """Return how near neutral the elevator holds cruise, rad: the less negative the nearer."""
    held = after.value("trim.elevator")
    return -math.inf if held is None else -abs(held)


def _trim_remedies(design: Design, report: Report, held: float) -> Iterator[Remedy]:
    seats = tuple(angle_ways(design, report))
    # What is set in steps is set so; the exact angle is none of its settings.
    yield from seats
    for way in () if seats else given(report.results.trim).settings:
        if way.held == "wing":
            tail = next(s for s in design.surfaces if s.role in (*TAILS, "foreplane"))
            setting = tail.incidence + way.tail_change
            words = say(f"{tail.name} set at {{}}: neutral in cruise", _angle(setting))
            remedy = Remedy("tail_incidence", words, tuple(setting_changes(design, 0.0, way.tail_change)))
            yield from proved(design, report, (remedy,), _at_rest, -_TRIM_LOOK)
    targets = report.results.targets
    if given(report.results.stability).tailless and targets is not None:
        # Reflex is the price of margin: a balance further aft asks for less, down to the least margin wanted.
        aft = targets.settled[1] if held < 0 else targets.settled[0]
        yield from (r for r in levers_to(design, report, aft) if r.key == "slide_pack")


def _throttle(design: Design, report: Report) -> Iterator[Finding]:
    """Say when opening the throttle pitches it, and the shaft angle that would not."""
    change, found = report.value("trim.thrust_elevator"), report.results.thrusting
    if change is None or found is None or design.power is None:
        return
    turn = "up" if found.moment > 0 else "down"
    if abs(change) <= _THROTTLE_LOOK:
        return
    remedies: list[Remedy] = []
    level, mounts = found.level_shaft, design.power.mounts
    if level is not None and abs(level) <= _MOST_SHAFT:
        side = "down" if level > 0 else "up"
        tilt = tuple(Change(f"power.mounts[{i}].down", level) for i, _m in enumerate(mounts))
        remedies.append(
            Remedy("shaft", say(f"Shaft tilted {{}} {side}: no pitch with power", _angle(abs(level))), tilt)
        )
    move = found.rise
    if abs(move) > 1e-4:
        side = "higher" if move > 0 else "lower"
        moved = [Change(f"power.mounts[{i}].z", m.z + move) for i, m in enumerate(mounts)]
        moved += [Change(f"parts[{i}].z", design.parts[i].z + move) for i in free_of_mounts(design)]
        words = say(f"Motor {{}} {side}: nearly no pitch with power", Measured(abs(move), "length"))
        remedies.append(Remedy("thrust_line", words, tuple(moved)))
    yield Finding(
        "trim.throttle",
        "look",
        "balance",
        say(f"Full throttle pitches it {turn}: {{}} of elevator holds it.", _angle(abs(change))),
        say("The thrust line passes the balance point at a distance; tilt the shaft through it, or learn to hold it."),
        tuple(remedies),
        ("trim.thrust_elevator",),
    )


def _held_aileron(report: Report) -> Iterator[Finding]:
    held = report.value("trim.aileron")
    if held is None or abs(held) < _HELD_AILERON:
        return
    side = "starboard" if held > 0 else "port"
    yield Finding(
        "trim.aileron",
        "look",
        "shape",
        say(f"{{}} of aileron, {side} up, to keep the wings level.", _angle(abs(held))),
        say("Weight to one side or a twisted wing costs that on every flight: balance sideways, or bend the warp out."),
        (),
        ("trim.aileron",),
    )
