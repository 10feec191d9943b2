"""Causes of what was measured and seen in flight, in words: how far it slipped, its cure, and what that changes."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.flown_in import is_taken, taken
from ridgeline.engine.advice.pack_slide import pack_slid
from ridgeline.engine.flight.diagnosis import Cause, Contradiction, Diagnosis, Test
from ridgeline.engine.flight.observed import UNKNOWNS, Unknown
from ridgeline.engine.flight.sightings import SIGHTINGS
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Report

#: Unknowns in two words.
UNKNOWN_WORDS: dict[Unknown, str] = {
    "balance": "balance", "mass": "weight", "wing": "wing set", "tail": "tail set", "washout": "tips", "warp": "warp",
    "thrust": "thrust", "turns": "motor turns", "down": "thrust line", "side": "side thrust", "drag": "drag",
    "resistance": "pack", "capacity": "capacity", "throws": "throws", "play": "play", "lift_most": "lift limit",
    "neutral": "neutral point", "supply": "supply", "cooling": "cooling", "imbalance": "blades",
}  # fmt: skip
#: What is measured, in the words of the field.
MEASURED_WORDS: dict[str, str] = {
    "mass": "the weight", "balance": "the balance on supports", "trim_pitch": "the elevator trim",
    "trim_power": "the trim with power", "trim_flap": "the trim with flaps", "trim_roll": "the aileron trim",
    "trim_yaw": "the rudder trim", "roll_seconds": "the time of a roll", "glide_ratio": "the glide",
    "rpm": "the turns at full throttle", "resistance": "the pack's resistance", "mean_current": "the charge used",
    "top_speed": "the speed of passes", "rested": "the rested cells", "tail_level": "the tail on the bench",
    "washout": "the tips on the bench", "warp": "the tips against one another",
}  # fmt: skip
#: Quantities of measurements that are not told as shares.
_PLAIN: dict[str, str] = {
    "mass": "mass", "balance": "length", "trim_pitch": "angle", "trim_power": "angle", "trim_flap": "angle",
    "trim_roll": "angle", "trim_yaw": "angle", "rested": "cell_voltage", "tail_level": "angle", "washout": "angle",
    "warp": "angle",
}  # fmt: skip
#: What to measure next, and what with.
TEST_WORDS: dict[str, str] = {
    "weigh": "Weigh it, ready to fly", "supports": "Balance it on two supports",
    "trim": "Note the elevator trim, cruising",
    "power_trim": "Open the throttle in level flight, note the trim it wants",
    "slow_trim": "Glide just over the stall, note the pull it takes", "flap_trim": "Note the trim that flaps take",
    "roll_trim": "Note the aileron trim", "passes": "Time full-throttle passes, both ways",
    "glide": "Glide from a known height, pace the distance", "charge": "Time a flight, note what goes back in",
    "turns": "Read the turns at full throttle, held down", "roll": "Time a whole roll at full stick",
    "resistance": "Read the pack's resistance at the charger", "tail_level": "Level the tail against the wing",
    "wing_level": "Level the wing against the body", "tips_level": "Measure the tips against the root",
    "warp_level": "Compare the two tips", "shaft": "Measure the motor's down angle", "side": "Measure its side angle",
    "throws": "Measure the throws", "play": "Feel for play at the hinges and horns",
    "supply": "Load the receiver's supply, watch its volts", "cooling": "Feel the motor after half a minute, full",
    "balance_blades": "Balance the propeller", "stand": "Hang it on a thrust stand",
    "capacity": "Discharge the pack once, by the charger",
}  # fmt: skip
#: What a cure is judged by besides, and how that is told: observable, words, quantity, and whether it is a logarithm.
_EFFECTS: tuple[tuple[str, str, str, bool], ...] = (
    ("trim_pitch", "up trim", "angle", False),
    ("margin", "static margin", "fraction", False),
    ("trim_power", "trim for power", "angle", False),
    ("trim_roll", "aileron trim", "angle", False),
    ("slow_trim", "pull to glide slowly", "angle", False),
    ("top_speed", "top speed", "speed", True),
    ("roll_seconds", "a roll", "seconds", True),
    ("throttle", "cruise throttle", "fraction", False),
)
#: An effect is told when it is at least so much, in the quantity's own unit.
_LEAST = {"angle": math.radians(0.1), "fraction": 0.004, "speed": 0.15, "seconds": 0.04}


class Effect(NamedTuple):
    """What a cure changes: words, before and after, in a quantity."""

    words: str
    before: float
    after: float
    quantity: str


class ToldCause(NamedTuple):
    """A cause in words: what it is, its cure, and what else the cure changes."""

    cause: Cause
    words: Phrase
    cure: Phrase
    effects: tuple[Effect, ...]


def told_causes(design: Design, report: Report, found: Diagnosis) -> tuple[ToldCause, ...]:
    """Return the ranked causes in words.

    Parameters
    ----------
    design : Design
        The aircraft that flew.
    report : Report
        Of it.
    found : Diagnosis

    Returns
    -------
    tuple of ToldCause
    """
    return tuple(
        ToldCause(one, *_words(design, report, one.name, one.slip), _effects(found, one)) for one in found.causes
    )


def _surface(design: Design, roles: tuple[str, ...]) -> Surface | None:
    return next((one for one in design.surfaces if one.role in roles), None)


def _angle(value: float) -> Measured:
    return Measured(abs(value), "angle", 1)


def _length(value: float) -> Measured:
    return Measured(abs(value), "length", 0 if abs(value) >= 0.003 else 1)


def _words(design: Design, report: Report, name: Unknown, slip: float) -> tuple[Phrase, Phrase]:
    """Return what a cause is and its solved cure."""
    more = slip > 0
    state = report.results.masses.state
    if name == "balance":
        return say(f"Balance {{}} {'aft' if more else 'forward'} of reckoned", _length(slip)), _slide(
            design, report, slip
        )
    if name == "mass":
        heavier = abs(slip) * (state.mass if state is not None else 0.0)
        words = say(f"It weighs {{}} {'more' if more else 'less'}", Measured(heavier, "mass"))
        return words, say("weigh it, and carry what the scale says")
    if name in ("tail", "wing"):
        surface = _surface(design, (*TAILS, "foreplane") if name == "tail" else WINGS)
        called = surface.name if surface is not None else name.capitalize()
        chord = surface.stations[0].chord if surface is not None else 0.1
        words = say(f"{{}} set {{}} nose {'up' if more else 'down'}", called, _angle(slip))
        end = "back" if more else "front"
        return words, say(f"shim its {end} edge {{}}", _length(chord * math.tan(slip)))
    if name == "washout":
        words = say(f"Tips {{}} {'nose down' if more else 'nose up'} of drawn", _angle(slip))
        return words, say("reset both tips by {} at the edge", _length(_tip(design) * math.tan(slip)))
    if name == "warp":
        words = say(f"Warped: {'starboard' if more else 'port'} tip {{}} nose up", _angle(slip))
        return words, say("twist it back: {} at the tip's edge", _length(2 * _tip(design) * math.tan(slip)))
    if name in ("down", "side"):
        way = ("down" if more else "up") if name == "down" else ("to starboard" if more else "to port")
        wide = design.power.motor.diameter if design.power is not None and design.power.motor.diameter else 0.03
        words = say(f"Thrust line {{}} {way} of drawn", _angle(slip))
        return words, say("a washer of {} under the mount's other side", _length(wide * math.tan(slip)))
    share = Measured(abs(math.expm1(slip)), "fraction", 0)
    plain: dict[Unknown, tuple[str, str]] = {
        "thrust": ("Thrust {} {more}", "bench it: blades, nick, or another make of the same size"),
        "turns": ("Motor turns {} {faster}", "read the turns; winding, magnets or a tired pack"),
        "drag": ("Drag {} {more}", "{smooth}"),
        "resistance": ("Pack resists {} {more}", "another pack, or warm it; this one sags"),
        "capacity": ("Pack holds {} {more}", "fly by the timer, and count what goes back in"),
        "throws": ("Throws {} {more}", "rod one hole {hole} on the horn"),
        "lift_most": ("Lift limit {} {more}", "smooth the leading edges; a sharp one stalls early"),
    }
    if name in plain:
        told, way = plain[name]
        smooth = "tape gaps, fair wheels and horns; what hangs out costs most" if more else "keep it: cleaner than told"
        for place, yes, no in (
            ("{more}", "more", "less"), ("{faster}", "faster", "slower"), ("{hole}", "out", "in"),
            ("{smooth}", smooth, smooth),
        ):  # fmt: skip
            told, way = (text.replace(place, yes if more else no) for text in (told, way))
        return say(told, share), say(way)
    if name == "neutral":
        words = say(
            f"Neutral point {{}} of the chord {'aft' if more else 'forward'}", Measured(abs(slip), "fraction", 1)
        )
        return words, say("move the balance by as much")
    if name == "play":
        return say("Hinges or rods give {}", _angle(slip)), say("shorten rods, closer holes, no free play at the horn")
    others: dict[Unknown, tuple[str, str]] = {
        "supply": ("The receiver's supply sags", "a supply of its own, fewer or smaller servos on it"),
        "cooling": ("Motor and controller get too little air", "open the inlet, and half as much again behind"),
        "imbalance": ("Propeller out of balance", "balance it; look for a nick or a bent shaft"),
    }
    told, way = others[name]
    return say(told), say(way)


def _tip(design: Design) -> float:
    wing = _surface(design, WINGS)
    return 0.1 if wing is None else wing.stations[-1].chord


def _slide(design: Design, report: Report, slip: float) -> Phrase:
    slid, way = pack_slid(design, report, -slip), "forward" if slip > 0 else "aft"
    if slid is None:
        return say(f"move the balance {{}} {way}", _length(slip))
    if slid.whole:
        return say(f"slide pack {{}} {way}", _length(slid.wanted))
    left = abs(slip) * (1 - slid.move / slid.wanted)
    return say(
        f"slide pack {{}} {way}, its end, and balance {{}} more by other things", _length(slid.move), _length(left)
    )


def _effects(found: Diagnosis, cause: Cause) -> tuple[Effect, ...]:
    """Return what curing a cause changes, from what was flown to what it would be, the most telling first."""
    k, model = UNKNOWNS.index(cause.name), found.model
    rated: list[tuple[float, Effect]] = []
    for of, words, quantity, logs in _EFFECTS:
        slopes = model.slopes.get(of)
        if slopes is None:
            continue
        cured = model.values[of]
        flown = cured + float(slopes[k]) * cause.slip
        measured = next((one.residual for one in found.measured if one.of == of), None)
        if measured is not None:
            flown, cured = model.values[of] + measured, model.values[of] + measured - float(slopes[k]) * cause.slip
        ends = (math.exp(flown), math.exp(cured)) if logs else (flown, cured)
        if not all(np.isfinite(ends)) or abs(ends[1] - ends[0]) < _LEAST[quantity]:
            continue
        rated.append((abs(ends[1] - ends[0]) / _LEAST[quantity], Effect(words, *ends, quantity)))
    rated.sort(key=lambda row: -row[0])
    return tuple(effect for _size, effect in rated[:3])


def test_words(test: Test) -> str:
    """Return what to do next, in words.

    Parameters
    ----------
    test : Test

    Returns
    -------
    str
    """
    return TEST_WORDS[test.key]


def seen_words(key: str) -> str:
    """Return a measurement or a sighting in words.

    Parameters
    ----------
    key : str

    Returns
    -------
    str
    """
    return MEASURED_WORDS[key] if key in MEASURED_WORDS else f"“{SIGHTINGS[key].words}”"  # type: ignore[index]


def residual_words(of: str, residual: float) -> Phrase:
    """Return how far a measurement is off what was reckoned, in the builder's units.

    Parameters
    ----------
    of : str
        What was measured.
    residual : float
        Measured less reckoned; of logarithms where it is told as a share.

    Returns
    -------
    Phrase
    """
    sign = "+" if residual >= 0 else "−"
    if of in _PLAIN:
        return say(f"{sign}{{}}", Measured(abs(residual), _PLAIN[of]))
    return say(f"{sign}{{}}", Measured(abs(math.expm1(residual)), "fraction", 0))


def contradiction_words(one: Contradiction) -> Phrase:
    """Return what does not go together, in words.

    Parameters
    ----------
    one : Contradiction

    Returns
    -------
    Phrase
    """
    if one.other:
        return say(f"{seen_words(one.one)} and {seen_words(one.other)} cannot both be of one aircraft.".capitalize())
    if one.sigmas:
        return say(f"{seen_words(one.one).capitalize()} does not go with the rest: look at the entry again.")
    return say(f"{seen_words(one.one).capitalize()} does not go with what was measured.")


def cure_edits(design: Design, report: Report, cause: Cause) -> tuple[Change, ...]:
    """Return the edits that cure a cause on the drawing too: it is carried as flown, and put right.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    cause : Cause

    Returns
    -------
    tuple of Change
        None where only the aircraft can be cured: a seat that is shimmed is as drawn again.
    """
    slid = pack_slid(design, report, -cause.slip) if cause.name == "balance" else None
    if slid is None:
        return ()
    known = () if is_taken(design, "balance") else taken(design, report, "balance", cause.slip, cause.slip_sigma)
    return (*known, Change(f"parts[{slid.part}].x", slid.place))
