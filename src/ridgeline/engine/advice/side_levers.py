"""Levers on the balance from side to side: what is carried first, weight far out where that is not enough."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.levers import Combined, Lever
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Report
from ridgeline.engine.results import given
from ridgeline.engine.weights.levers import ballast_for, ballast_item, slide_for

#: Sideways offset that is level, m, and a move that is none.
_LEVEL, _LEAST_MOVE = 5e-5, 5e-4
_CARRIED = ("battery", "radio", "payload", "power", "ballast")
_MOST_BALLAST = 0.15


def side_levers(design: Design, report: Report) -> tuple[Lever, ...]:
    """Return every lever to level wings; ``reached`` is the offset to starboard left, m.

    Source
    ------
    Σ m y = 0: docs/theory.md §6. Ballast far out needs the least.
    """
    offset = report.value("balance.cg_y")
    if offset is None or abs(offset) < _LEVEL:
        return ()
    found = [*_across(design, report, offset), *_spread(design, report, offset), *_tip(design, report, offset)]
    return tuple(sorted(found, key=lambda lever: (lever.added > 0, not lever.whole, abs(lever.reached))))


def _side(move: float) -> str:
    return "to starboard" if move > 0 else "to port"


def _room(design: Design) -> tuple[float, float]:
    """Return how far to either side the bodies give room, m."""
    ends = [0.0]
    for body in design.bodies:
        half = 0.5 * max(s.width for s in body.stations)
        for y in (body.y, -body.y) if body.mirrored else (body.y,):
            ends += [y - half, y + half]
    return min(ends), max(ends)


def _across(design: Design, report: Report, offset: float) -> Iterator[Lever]:
    """Offer to move one lone carried part across, as far as the bodies reach."""
    total, low, high = given(report.results.masses.state).mass, *_room(design)
    for index, part in enumerate(design.parts):
        moving = float(report.results.masses.expected[index])
        if part.group not in _CARRIED or part.mirrored or moving <= 0 or part.component in ("motor", "propeller"):
            continue
        full = slide_for(total, moving, offset, 0.0)
        place = min(max(part.y + full, min(low, part.y)), max(high, part.y))
        move = place - part.y
        left = offset + move * moving / total
        if abs(move) < _LEAST_MOVE or abs(left - offset) < _LEVEL:
            continue
        yield Lever(
            f"across_{index}",
            say(f"Move {part.name.replace('{', '(')} {{}} {_side(move)}", Measured(abs(move), "length")),
            left,
            0.0,
            say("it then stands {} from the middle", Measured(abs(place), "length")),
            abs(move - full) < 1e-9,
            (Change(f"parts[{index}].y", place),),
        )


def _spread(design: Design, report: Report, offset: float) -> Iterator[Lever]:
    """Offer to move the lone parts on the heavy side over to the other, all together, by one share of their way."""
    total = given(report.results.masses.state).mass
    heavy = [
        (index, part, float(report.results.masses.expected[index]))
        for index, part in enumerate(design.parts)
        if part.group in _CARRIED and not part.mirrored and part.y * offset > 0 and part.component != "motor"
    ]
    moment = sum(mass * part.y for _i, part, mass in heavy if mass > 0)
    if len(heavy) < 2 or abs(moment) < 1e-9:
        return
    # Their own moment times the share that they move across must take away the whole offset.
    share = min(offset * total / moment, 2.0)
    changes = tuple(Change(f"parts[{i}].y", part.y * (1 - share)) for i, part, mass in heavy if mass > 0)
    yield Lever(
        "spread",
        say(
            f"Spread the {len(changes)} parts on the heavy side across, {{}} of their way",
            Measured(share, "fraction", 0),
        ),
        offset - share * moment / total,
        0.0,
        say("carried parts first: that costs nothing"),
        share < 2.0 - 1e-12,
        changes,
    )


def _tip(design: Design, report: Report, offset: float) -> Iterator[Lever]:
    """Offer ballast at the light tip, and half way out for comparison."""
    state, ref, span = given(report.results.masses.state), report.results.shape.reference, report.value("wing.span")
    if ref is None or span is None:
        return
    way = -1.0 if offset > 0 else 1.0
    side = "starboard" if way > 0 else "port"
    for key, share, where in (("tip", 0.5, "tip"), ("half", 0.25, "wing, half way out")):
        mass = ballast_for(state.mass, offset, 0.0, way * share * span)
        if mass is None or not 1e-5 < mass < _MOST_BALLAST * state.mass:
            continue
        item = ballast_item(f"{side.capitalize()} ballast", mass, (float(state.cg[0]), way * share * span, ref.z))
        yield Lever(
            f"ballast_{key}",
            say(f"{{}} of ballast in the {side} {where}", Measured(mass, "mass", 1)),
            0.0,
            mass,
            say("far out a little does it; it slows the roll a little too"),
            True,
            (Change("parts[-]", item),),
        )


def level_with_least(design: Design, report: Report) -> Combined:
    """Level the wings with the least added mass: one move that does it, else the best one and ballast at the tip."""
    from ridgeline.design.paths import apply

    steps: list[Phrase] = []
    changes: list[Change] = []
    now, found = design, report
    trial = report.trial()
    for _ in range(4):
        offset = found.value("balance.cg_y")
        if offset is None or abs(offset) < 1e-9:
            break
        free = [lever for lever in side_levers(now, found) if abs(lever.reached) < abs(offset) - 1e-9]
        if not free:
            break
        choice = free[0]
        steps.append(choice.text)
        changes += list(choice.changes)
        now = apply(now, choice.changes)
        found = trial(now)
    reached = found.value("balance.cg_y")
    added = (found.value("mass.auw") or 0.0) - (report.value("mass.auw") or 0.0)
    there = reached is not None and abs(reached) < _LEVEL
    return Combined(tuple(steps), tuple(changes), reached or 0.0, max(added, 0.0), there)
