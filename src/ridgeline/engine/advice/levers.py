"""Every lever on the balance point by its exact amount: what is carried first, ballast last, and all together."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from ridgeline.design.airframe import Surface
from ridgeline.design.carrying import free_of_mounts
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.balance_rules import levers_to, pack_on_rail, rail_reach
from ridgeline.engine.advice.seat_levers import Place, moved_to, place_words, seated
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Remedy, Report, Trial
from ridgeline.engine.results import given
from ridgeline.engine.roots import root_in
from ridgeline.engine.weights.levers import slide_for

#: Room kept between something moved and the ends of the body, m; a move smaller than the second is none.
_INSIDE, _LEAST_MOVE = 0.015, 5e-4
#: How far a motor can be moved on its mount, m.
_MOTOR_MOVE = 0.03
#: A wing seat is moved by no more than this share of the mean chord.
_WING_MOVE = 0.35
_MOVABLE = ("radio", "payload")


@dataclass(frozen=True)
class Lever:
    """One lever: what it does, the balance it reaches (fraction of c̄), the mass it adds kg, and what limits it."""

    key: str
    text: Phrase
    reached: float
    added: float
    limit: Phrase
    whole: bool
    changes: tuple[Change, ...]


def _body_room(design: Design) -> tuple[float, float] | None:
    ends = [s.x for body in design.bodies if body.kind != "boom" for s in body.sections]
    return (min(ends) + _INSIDE, max(ends) - _INSIDE) if ends else None


def _state(report: Report) -> tuple[Any, Any]:
    return report.results.masses.state, report.results.shape.reference


def levers(design: Design, report: Report, aim: float) -> tuple[Lever, ...]:
    """Return every lever towards a balance point, exact ones first, what adds mass last.

    Parameters
    ----------
    aim : float
        Balance wanted, fraction of the mean chord.

    Source
    ------
    Moment balance of docs/theory.md §6; moving the wing is solved on the whole evaluation, since it takes the neutral
    point with it.
    """
    state, ref = _state(report)
    if state is None or ref is None:
        return ()
    found = [*_slide(design, report, aim), *_moves(design, report, aim), *_motor(design, report, aim)]
    found += [*_wing(design, report, aim), *_ballast(design, report, aim)]
    return tuple(sorted(found, key=lambda lever: (lever.added > 0, not lever.whole)))


def _fraction(report: Report, cg_x: float) -> float:
    return float(given(report.results.shape.reference).fraction(cg_x))


def _slide(design: Design, report: Report, aim: float) -> Iterator[Lever]:
    state, ref = _state(report)
    index = pack_on_rail(design)
    if index is None:
        return
    part = design.parts[index]
    moving = float(report.results.masses.expected[index])
    if moving <= 0:
        return
    full = slide_for(state.mass, moving, float(state.cg[0]), ref.at(aim))
    front, back = rail_reach(part)
    place = min(max(part.x + full, front), back)
    move = place - part.x
    reached = _fraction(report, float(state.cg[0]) + move * moving / state.mass)
    if abs(move) < _LEAST_MOVE:
        return
    yield Lever(
        "slide_pack",
        say(f"Slide {_name(part)} {{}} {_way(move)}", Measured(abs(move), "length")),
        reached,
        0.0,
        say("{} of rail left, fore and aft {}", Measured(place - front, "length"), Measured(back - place, "length")),
        abs(move - full) < 1e-9,
        (Change(f"parts[{index}].x", place),),
    )


def _name(part: Item) -> str:
    return "the pack" if part.group == "battery" else part.name.lower()


def _way(move: float) -> str:
    return "forward" if move < 0 else "aft"


def _moves(design: Design, report: Report, aim: float) -> Iterator[Lever]:
    """Offer to move servos, receiver and payload along the body."""
    state, ref = _state(report)
    room = _body_room(design)
    if room is None:
        return
    wanted = ref.at(aim)
    for index, part in enumerate(design.parts):
        moving = float(report.results.masses.expected[index])
        if part.group not in _MOVABLE or part.rail is not None or moving <= 0 or abs(part.y) > 0.02:
            continue
        full = slide_for(state.mass, moving, float(state.cg[0]), wanted)
        place = min(max(part.x + full, min(room[0], part.x)), max(room[1], part.x))
        move = place - part.x
        reached = _fraction(report, float(state.cg[0]) + move * moving / state.mass)
        if abs(move) < _LEAST_MOVE or abs(reached - _fraction(report, float(state.cg[0]))) < 5e-4:
            continue
        yield Lever(
            f"move_{index}",
            say(f"Move {part.name.lower()} {{}} {_way(move)}", Measured(abs(move), "length")),
            reached,
            0.0,
            say(
                "the body ends {} and {} away", Measured(place - room[0], "length"), Measured(room[1] - place, "length")
            ),
            abs(move - full) < 1e-9,
            (Change(f"parts[{index}].x", place),),
        )


def _motor(design: Design, report: Report, aim: float) -> Iterator[Lever]:
    """Offer to move the motor with its propeller on longer or shorter stand-offs."""
    state, ref = _state(report)
    if design.power is None:
        return
    mounts = {mount.id for mount in design.power.mounts}
    members = [i for i, part in enumerate(design.parts) if part.on is not None and part.on.to in mounts]
    members += free_of_mounts(design)
    moving = sum(float(report.results.masses.expected[i]) for i in members)
    if moving <= 0:
        return
    full = slide_for(state.mass, moving, float(state.cg[0]), ref.at(aim))
    move = min(max(full, -_MOTOR_MOVE), _MOTOR_MOVE)
    if abs(move) < _LEAST_MOVE:
        return
    changes = [Change(f"power.mounts[{i}].x", m.x + move) for i, m in enumerate(design.power.mounts)]
    changes += [Change(f"parts[{i}].x", design.parts[i].x + move) for i in free_of_mounts(design)]
    yield Lever(
        "move_motor",
        say(f"Move the motor {{}} {_way(move)}", Measured(abs(move), "length")),
        _fraction(report, float(state.cg[0]) + move * moving / state.mass),
        0.0,
        say("stand-offs of up to {}", Measured(_MOTOR_MOVE, "length")),
        abs(move - full) < 1e-9,
        tuple(changes),
    )


def wing_moved(design: Design, move: float) -> tuple[Change, ...]:
    """Return the edits that move all wings and what is built on them by a distance, m.

    Parameters
    ----------
    design : Design
    move : float
        Aft, m.

    Returns
    -------
    tuple of Change
    """
    wings = [i for i, s in enumerate(design.surfaces) if s.role == "wing"]
    carriers = {design.surfaces[i].id for i in wings}
    changes = [Change(f"surfaces[{i}].x", design.surfaces[i].x + move) for i in wings]
    for index, part in enumerate(design.parts):
        if part.on is not None:
            continue
        built = part.build is not None and part.build.of in carriers
        out = part.mirrored and part.group in ("airframe", "radio") and abs(part.y) > 0.05
        if built or out:
            changes.append(Change(f"parts[{index}].x", part.x + move))
    return tuple(changes)


def _wing(design: Design, report: Report, aim: float) -> Iterator[Lever]:
    """Offer to move the wing seat: the balance point stays nearly, the mean chord and the neutral point go along."""
    targets, (_state_now, ref) = report.results.targets, _state(report)
    if targets is None:
        return
    margin = targets.neutral - aim
    trial = report.trial()

    def miss(move: float) -> float:
        moved = apply(design, wing_moved(design, move))
        neutral, now = (trial.value(moved, key) for key in ("stability.neutral_in_flight", "balance.cg_fraction"))
        result: float = (neutral or 0.0) - (now or 0.0) - margin
        return result

    reach = _WING_MOVE * ref.mac
    low, high = miss(-reach), miss(reach)
    if low * high > 0:
        nearer = -reach if abs(low) < abs(high) else reach
        yield from _on_seats(design, report, trial, list(seated(design, nearer)), aim)
        return
    move = root_in(miss, -reach, reach, 1e-7, low, high)
    seats = list(seated(design, move))
    yield from _on_seats(design, report, trial, seats, aim)
    if abs(move) < _LEAST_MOVE or seats:
        # A wing with a seat goes where its seat lets it.
        return
    changes = wing_moved(design, move)
    yield Lever(
        "move_wing",
        say(f"Move the wing {{}} {_way(move)}", Measured(abs(move), "length")),
        trial.value(apply(design, changes), "balance.cg_fraction") or aim,
        0.0,
        say("the neutral point goes with it: margin {}", Measured(margin, "fraction")),
        True,
        changes,
    )


def _on_seats(
    design: Design, report: Report, trial: Trial, seats: list[tuple[int, Surface, Place]], aim: float
) -> Iterator[Lever]:
    """Offer the place on its rail or bolt grid that brings a wing nearest to where it should be."""
    now = report.value("stability.static_margin")
    for index, surface, place in seats:
        if abs(place.x - surface.x) < _LEAST_MOVE:
            continue
        changes = moved_to(index, place)
        moved = apply(design, changes)
        margin = trial.value(moved, "stability.static_margin")
        if margin is None or now is None:
            continue
        yield Lever(
            f"seat_{surface.id}",
            place_words(surface, place),
            trial.value(moved, "balance.cg_fraction") or aim,
            0.0,
            say("margin {} → {}", Measured(now, "fraction", bare=True), Measured(margin, "fraction")),
            place.holes == 1,
            changes,
        )


def _ballast(design: Design, report: Report, aim: float) -> Iterator[Lever]:
    for remedy in levers_to(design, report, aim):
        if remedy.key == "ballast":
            mass = float(remedy.changes[0].value["estimate"])
            nose = "nose" if "Nose" in str(remedy.changes[0].value["name"]) else "tail"
            yield Lever(
                "ballast",
                say(f"{{}} of ballast in the {nose}", Measured(mass, "mass")),
                aim,
                mass,
                say("the last resort: it flies along for nothing"),
                True,
                remedy.changes,
            )


@dataclass(frozen=True)
class Combined:
    """Several levers together: the words of each step, the edits, the balance reached and the mass added."""

    steps: tuple[Phrase, ...]
    changes: tuple[Change, ...]
    reached: float
    added: float
    there: bool


def least_added_mass(design: Design, report: Report, aim: float) -> Combined:
    """Balance with the least added mass: slide what slides, move what moves, and only then add ballast.

    Levers that add nothing are used in order of what they can do, each no further than needed; ballast makes up the
    rest. When even that does not reach, ``there`` is false and ``reached`` says how far one gets.

    Parameters
    ----------
    design : Design
    report : Report
    aim : float
        Fraction of the mean chord.

    Returns
    -------
    Combined
    """
    trial = report.trial()
    steps: list[Phrase] = []
    changes: list[Change] = []
    now, found = design, report
    for _ in range(8):
        here = found.value("balance.cg_fraction")
        if here is None or abs(here - aim) < 1e-7:
            break
        free = [*_slide(now, found, aim), *_moves(now, found, aim)]
        used = {step.template.split("{")[0] for step in steps}
        free = [lever for lever in free if lever.text.template.split("{")[0] not in used]
        choice = max(free, key=lambda lever: (lever.whole, abs(lever.reached - here)), default=None)
        if choice is None:
            choice = next(_ballast(now, found, aim), None)
        if choice is None:
            break
        steps.append(choice.text)
        changes += list(choice.changes)
        now = apply(now, choice.changes)
        found = trial(now)
    reached = found.value("balance.cg_fraction")
    added = (found.value("mass.auw") or 0.0) - (report.value("mass.auw") or 0.0)
    there = reached is not None and abs(reached - aim) < 1e-6
    return Combined(tuple(steps), tuple(changes), reached if reached is not None else aim, max(added, 0.0), there)


def as_remedy(found: Combined, before: float) -> Remedy:
    """Return the combination as one undoable step."""
    words = say("{} → {} together", Measured(before, "fraction", bare=True), Measured(found.reached, "fraction"))
    return Remedy("least_added", words, found.changes)
