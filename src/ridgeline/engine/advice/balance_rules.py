"""Findings on the balance point, and the levers that put it right by exact amounts."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, NamedTuple

from ridgeline.design.axes import mean_disc
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.results import given
from ridgeline.engine.stages.balancing import Targets
from ridgeline.engine.weights.items import kinds_of
from ridgeline.engine.weights.levers import ballast_for, ballast_item, slide_for

#: Sideways offset worth a word, as a share of the span (0.1 % is 1 mm on a 1 m wing).
_SIDEWAYS_SHARE = 0.005
_MOST_BALLAST = 0.30
#: A balance point less than this under its marks does not hold the model upright on them, m.
LEAST_HANG = 0.002
#: Less than half a gram no kitchen scale shows.
_LEAST_BALLAST = 5e-4
#: Lattice and hand formula agree within a few % c̄ on plain layouts (handbook of the trade §7).
_HAND_GAP = 0.05


def pack_on_rail(design: Design) -> int | None:
    """Return the index of the item that slides on a rail: the pack, or else the heaviest with one."""
    railed = kinds_of(design.parts).railed
    packs = [i for i in railed if design.parts[i].component == "pack" or design.parts[i].group == "battery"]
    return next(iter(packs or railed), None)


def rail_reach(part: Item) -> tuple[float, float]:
    """Return the foremost and rearmost centre of an item on its rail, m.

    Parameters
    ----------
    part : Item
        On a rail.

    Returns
    -------
    foremost, rearmost: float
        m.
    """
    assert part.rail is not None
    half = 0.5 * part.rail.item_length
    return part.rail.front + half, part.rail.back - half


def pack_reach(design: Design, report: Report) -> tuple[float, float] | None:
    """Return the foremost and rearmost balance the pack's rail allows, as fractions of the mean chord.

    Parameters
    ----------
    design : Design
    report : Report

    Returns
    -------
    tuple of float, or None
        Fractions of the mean chord.
    """
    index = pack_on_rail(design)
    masses, ref = report.results.masses, report.results.shape.reference
    if index is None or masses.state is None or ref is None:
        return None
    part = design.parts[index]
    share = float(masses.expected[index]) / masses.state.mass
    front, back = rail_reach(part)
    now = ref.fraction(float(masses.state.cg[0]))
    return now + (front - part.x) * share / ref.mac, now + (back - part.x) * share / ref.mac


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the balance point against the target of the wanted margin, sideways, and against habit."""
    balanced = report.results.balance
    if balanced is None:
        return
    targets = balanced.targets
    if targets is None:
        why = report.figures["stability.static_margin"].why_not
        yield Finding(
            "balance.unknown",
            "look",
            "balance",
            say("The balance target is not known yet."),
            say(f"{why}.".capitalize()),
        )
        return
    yield _fore_and_aft(design, report, balanced.cg_fraction, targets)
    if balanced.habit is not None:
        yield from _schools(balanced.habit, targets.settled)
    yield from _hand_check(report)
    yield from _sideways(design, report)


def _fore_and_aft(design: Design, report: Report, cg: float, targets: Targets) -> Finding:
    (low, high), first, aim = targets.settled, targets.first_throw, targets.aim
    margin = targets.neutral - cg
    words = (
        Measured(cg, "fraction"),
        Measured(low, "fraction", 0, bare=True),
        Measured(high, "fraction", 0),
    )
    figures = ("balance.cg_fraction", "stability.static_margin")
    # A hair of tolerance: a lever solved onto the edge of a window is inside it.
    first_low, first_high = (edge + hair for edge, hair in zip(first, (-1e-6, 1e-6), strict=True))
    if first_low <= cg <= max(first_high, low):
        return Finding(
            "balance.first_throw",
            "settled",
            "balance",
            say("Balanced for the first throw: {} of the chord.", words[0]),
            say(
                "The margin is {}. Move aft towards {} as the flights allow.",
                Measured(margin, "fraction"),
                Measured(aim, "fraction", 0),
            ),
            (),
            figures,
        )
    if low - 1e-6 <= cg <= high + 1e-6:
        throw = targets.first_aim
        return Finding(
            "balance.good",
            "look",
            "balance",
            say("Bring the balance {} ahead for the first throw.", Measured(cg - throw, "fraction")),
            say(
                "{} is inside the settled window of {} to {}. A first flight starts {} to {} further ahead: nose heavy "
                "costs speed, tail heavy costs the aircraft.",
                *words,
                Measured(aim - first[1], "fraction", 0, bare=True),
                Measured(aim - first[0], "fraction", 0),
            ),
            tuple(levers_to(design, report, throw, FIRST_THROW)),
            figures,
        )
    aft = cg > high
    remedies = tuple(levers_to(design, report, aim, SETTLED))
    level: Level = "stop" if margin < 0.25 * (targets.neutral - high) else "look"
    reason = (
        "The margin is only {}: a tail-heavy plane pitches away from your hand. Move the balance {} forward."
        if aft
        else "The margin is {}: it will need up elevator and speed, and land hot. Move the balance {} aft."
    )
    chord = report.value("wing.mac") or 0.0
    return Finding(
        "balance.tail_heavy" if aft else "balance.nose_heavy",
        level if aft else "look",
        "balance",
        say(("Tail heavy" if aft else "Nose heavy") + ": {} of the chord, {} to {} wanted.", *words),
        say(reason, Measured(margin, "fraction"), Measured(abs(aim - cg) * chord, "length")),
        remedies,
        figures,
    )


def levers_to(design: Design, report: Report, aim: float, words: str = "") -> Iterator[Remedy]:
    """Yield every lever that brings the balance point to a fraction of the mean chord, by its exact amount.

    Parameters
    ----------
    design : Design
    report : Report
    aim : float
        Fraction of the mean chord.
    words : str
        What that aim is, said of ballast: it stays where it is glued.

    Returns
    -------
    iterator of Remedy
        Ballast last.
    """
    state, ref = given(report.results.masses.state), given(report.results.shape.reference)
    now, wanted = float(state.cg[0]), ref.at(aim)
    arrow = (Measured(ref.fraction(now), "fraction", bare=True), Measured(aim, "fraction"))
    index = pack_on_rail(design)
    if index is not None:
        yield from _slide(design, report, index, wanted, arrow[0])
    yield from _ballast(design, state.mass, now, wanted, arrow, words)


def _slide(design: Design, report: Report, index: int, wanted: float, before: Measured) -> Iterator[Remedy]:
    part = design.parts[index]
    state, ref = given(report.results.masses.state), given(report.results.shape.reference)
    moving = float(report.results.masses.expected[index])
    if moving <= 0:
        return
    full = slide_for(state.mass, moving, float(state.cg[0]), wanted)
    front, back = rail_reach(part)
    place = min(max(part.x + full, front), back)
    move = place - part.x
    if abs(move) < 5e-4:
        return
    cg = float(state.cg[0]) + move * moving / state.mass
    after = Measured(ref.fraction(cg), "fraction")
    whole = abs(move - full) < 1e-9
    name = "pack" if part.group == "battery" else part.name
    side = "forward" if move < 0 else "aft"
    text = f"Slide {name} {{}} {side}: {{}} → {{}}" if whole else f"Slide {name} {{}} {side}, its end: {{}} → {{}}"
    yield Remedy(
        "slide_pack",
        say(text, Measured(abs(move), "length"), before, after),
        (Change(f"parts[{index}].x", place),),
    )


#: What an aim is, said after where the balance goes.
FIRST_THROW, SETTLED = " for the first throw", " for settled flying"
#: Coins to hand, kg, lightest first, and the most of one kind that is glued on.
_COINS, _MOST_COINS = (0.001, 0.002, 0.004, 0.006, 0.008), 8


def _is_tossed(design: Design) -> bool:
    """Tell whether nothing drives or steers it: a toss glider, which whole coins balance."""
    return design.power is None and not any(part.servo is not None or part.drives for part in design.parts)


class _Coins(NamedTuple):
    """So many coins of one kind, kg each, at a place behind the datum, m."""

    pieces: int
    each: float
    place: float

    def words(self, nose: float) -> tuple[str, Measured, Measured]:
        """Return count, mass of one, and how far behind the nose."""
        return str(self.pieces), Measured(self.each, "mass", 0), Measured(self.place - nose, "length", 0)

    def item(self) -> dict[str, Any]:
        """Return them as an item."""
        return {**ballast_item("Coins", self.each, (self.place, 0.0, 0.0)), "count": self.pieces}


def _coins(total: float, now: float, wanted: float, front: float) -> _Coins | None:
    """Return the fewest whole coins that balance it, kg and m, no farther forward than the front; None past a few."""
    options = [(count * each, count, each) for each in _COINS for count in range(1, _MOST_COINS + 1)]
    for mass, count, each in sorted(options, key=lambda one: (one[0], one[1])):
        place = wanted - total * (now - wanted) / mass
        if place >= front:
            return _Coins(count, each, round(place, 4))
    return None


def _ballast(
    design: Design, total: float, now: float, wanted: float, arrow: tuple[Measured, Measured], words: str
) -> Iterator[Remedy]:
    """Offer ballast as the last resort, as far out as there is something to fix it to; whole coins on a toss glider."""
    ends = [s.x for body in design.bodies for s in body.sections] + [part.x for part in design.parts]
    if not ends:
        return
    nose = wanted < now
    place = (min(ends) if nose else max(ends)) + (0.02 if nose else -0.02)
    mass = ballast_for(total, now, wanted, place)
    if nose and mass is not None and _is_tossed(design):
        coins = _coins(total, now, wanted, place)
        if coins is not None:
            told = say(f"{{}} × {{}} coins, {{}} behind the nose: {{}} → {{}}{words}", *coins.words(min(ends)), *arrow)
            yield Remedy("coins", told, (Change("parts[-]", coins.item()),))
            return
    if mass is None or not _LEAST_BALLAST <= mass < _MOST_BALLAST * total:
        return
    height = mean_disc(design.power)[1] if design.power and nose else 0.0
    item = ballast_item("Nose ballast" if nose else "Tail ballast", mass, (place, 0.0, height))
    yield Remedy(
        "ballast",
        say(
            f"Last resort, {{}} in the {'nose' if nose else 'tail'}: {{}} → {{}}{words}",
            Measured(mass, "mass"),
            *arrow,
        ),
        (Change("parts[-]", item),),
    )


def _schools(habit: tuple[float, float], settled: tuple[float, float]) -> Iterator[Finding]:
    low, high = settled
    both_low, both_high = max(habit[0], low), min(habit[1], high)
    if both_low <= both_high:
        yield Finding(
            "balance.schools",
            "settled",
            "balance",
            say(
                "Both schools agree from {} to {}.",
                Measured(both_low, "fraction", 0, bare=True),
                Measured(both_high, "fraction", 0),
            ),
            say("Habit and the neutral point overlap there."),
        )
        return
    further = "further aft" if low > habit[1] else "further forward"
    why = "the tail is large or long" if low > habit[1] else "the tail is small or short"
    yield Finding(
        "balance.schools",
        "settled",
        "balance",
        say(
            f"The neutral point allows {further} than habit: {{}} to {{}}.",
            Measured(low, "fraction", 0, bare=True),
            Measured(high, "fraction", 0),
        ),
        say(
            f"Habit says {{}} to {{}}; {why}. Start at the front of the window.",
            Measured(habit[0], "fraction", 0, bare=True),
            Measured(habit[1], "fraction", 0),
        ),
    )


def _hand_check(report: Report) -> Iterator[Finding]:
    """Compare the lattice with the pencil-and-paper formula where that holds."""
    by_hand, solved = report.value("stability.neutral_point_hand"), report.value("stability.neutral_point_fraction")
    if by_hand is None or solved is None:
        return
    gap = by_hand - solved
    words = (Measured(solved, "fraction", 1, bare=True), Measured(by_hand, "fraction", 1))
    if abs(gap) > _HAND_GAP:
        yield Finding(
            "balance.hand_check",
            "look",
            "balance",
            say("Lattice and hand check differ by {}.", Measured(abs(gap), "fraction")),
            say(
                "{} and {}. The formula knows one flat wing and one tail: a lifting body or bent wing is beyond it; "
                "if the layout is plain, look for a number typed wrong.",
                *words,
            ),
            (),
            ("stability.neutral_point_hand",),
        )
        return
    yield Finding(
        "balance.hand_check",
        "settled",
        "balance",
        say("The hand check agrees: neutral point {} and {}.", *words),
        say("The lattice takes all surfaces and their wakes together; the formula fits on a scrap of paper."),
        (),
        ("stability.neutral_point_hand",),
    )


def _sideways(design: Design, report: Report) -> Iterator[Finding]:
    offset, span = report.value("balance.cg_y"), report.value("wing.span")
    if offset is None or span is None:
        return
    side = "starboard" if offset > 0 else "port"
    if abs(offset) < _SIDEWAYS_SHARE * span:
        yield Finding(
            "balance.sideways",
            "settled",
            "balance",
            say(
                f"Sideways it is {{}} to {side}: leave it." if abs(offset) > 5e-5 else "Sideways it is level.",
                Measured(abs(offset), "length", 1),
            ),
            say("A little aileron trim holds that."),
        )
        return
    auw = report.value("mass.auw") or 0.0
    tip = 0.5 * span
    mass = ballast_for(auw, offset, 0.0, -tip if offset > 0 else tip)
    other = "port" if offset > 0 else "starboard"
    remedies: tuple[Remedy, ...] = ()
    if mass is not None:
        state, ref = given(report.results.masses.state), given(report.results.shape.reference)
        place = (float(state.cg[0]), -tip if offset > 0 else tip, ref.z)
        item = ballast_item("Tip ballast", mass, place)
        text = say(f"{{}} in the {other} tip: level", Measured(mass, "mass", 1))
        remedies = (Remedy("tip_ballast", text, (Change("parts[-]", item),)),)
    yield Finding(
        "balance.sideways",
        "look",
        "balance",
        say(f"Sideways it is {{}} to {side}.", Measured(abs(offset), "length", 1)),
        say("One wing hangs: move what is carried across first; weight at the tip is the cheapest to add."),
        remedies,
        ("balance.cg_y",),
    )
