"""The figures of a linkage: throws, play, rod, hinge moment and what its servo works at, each with its working."""

from __future__ import annotations

import math

import numpy as np

from ridgeline.design.parts import Item
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.four_bar import motion
from ridgeline.engine.controls.hinge_moment import KEPT, KEPT_SIGMA
from ridgeline.engine.controls.linkage import (
    HINGE_PLAY,
    arm_radius,
    bars,
)
from ridgeline.engine.controls.servo import DEAD_BAND, STEPS, seconds_per_60
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.register import (
    CONTROL_CENTRE,
    CONTROL_DOWN,
    CONTROL_GIVE,
    CONTROL_PLAY,
    CONTROL_STEPS,
    CONTROL_TIME,
    CONTROL_UP,
    DIFFERENTIAL,
    HINGE_MOMENT,
    ROD_LENGTH,
    SERVO_SHARE,
)
from ridgeline.engine.stages.linked import LinkedControl

#: One sigma of a servo's stall torque, as a share: as its class says, or by its mass.
_TORQUE_TOLD, _TORQUE_BY_MASS = 0.10 / BAND, 0.35 / BAND
#: One sigma of where a hole is drilled, m; an end of the travel is told from a dip before it by this, rad.
_DRILLED, _ENDS = 0.0002 / BAND, 1e-3
_SOURCE = "docs/theory.md §14"
#: One sigma, as a share, of what gives way: rods as sold, arms of a usual section, foam as a bed of springs.
_SOFT_ROD, _SOFT_ARM, _SOFT_BASE = 0.20 / BAND, 0.50 / BAND, 1.0 / BAND


def moved_figures(row: LinkedControl) -> list[Figure]:
    """Give throws, play, rod and differential of a linkage.

    Parameters
    ----------
    row : LinkedControl

    Returns
    -------
    list of Figure
    """
    ident, first = row.control.id, row.sides[0]
    found = [_angle_figure(row, family.key(ident), way) for family, way in ((CONTROL_UP, -1.0), (CONTROL_DOWN, 1.0))]
    found += [_play_figure(row), _rod_figure(row)]
    half, differential = 0.5 * row.play, first.throw.differential
    if not math.isfinite(differential):
        return [*found, absent(DIFFERENTIAL.key(ident), "it does not go down")]
    sides = {"u": Put(first.throw.up, "up", "angle", half), "d": Put(first.throw.down, "down", "angle", half)}
    return [*found, derive(DIFFERENTIAL.key(ident), "{u}/{d}", lambda u, d: u / d, sides, source=_SOURCE)]


def _angle_figure(row: LinkedControl, key: str, way: float) -> Figure:
    """Give how far a control goes one way: its linkage at the servo's turn that takes it there."""
    one, first = row.linkage, row.sides[0]
    trim = 0.0 if first.channel is None else first.channel.sub_trim * one.travel
    throw = first.throw.down if way > 0 else first.throw.up
    turns = [turn for turn in (first.low, first.high) if np.isfinite(first.travel.at(turn))]
    turn = max(turns, key=lambda t: way * float(first.travel.at(t)), default=0.0)
    inside = way * float(first.travel.at(turn)) if turns else 0.0

    def stands(a: float, h: float, t: float) -> float:
        ends = bars(one.model_copy(update={"arm": a - one.extension, "horn": h}), first.side, trim)
        at = float(motion(*ends, [t], one.rod_long).surface[0])
        return way * at if math.isfinite(at) else throw

    plain = one.kind == "direct" or abs(inside - throw) > _ENDS
    row_: dict[str, Put] = {} if plain else {
        "a": Put(arm_radius(one), "arm, to its hole", "length", _DRILLED),
        "h": Put(one.horn, "horn, to its hole", "length", _DRILLED),
    }  # fmt: skip
    row_["t"] = Put(throw if plain else turn, "as far as it gets" if plain else "the servo's turn", "angle")
    row_["p"] = Put(0.0, "half its free play, either way", "angle", 0.5 * row.play)
    if plain:
        return derive(key, "{t} + {p}", lambda t, p: t + p, row_, source=_SOURCE)
    return derive(key, "angle({a}, {h}, {t}) + {p}", lambda a, h, t, p: stands(a, h, t) + p, row_, source=_SOURCE,
                  note="arm, rod and horn in space, at full signal")  # fmt: skip


def _play_figure(row: LinkedControl) -> Figure:
    one, travel = row.linkage, row.sides[0].travel
    ratio = abs(float(np.nan_to_num(np.interp(0.0, travel.turns, travel.motion.ratio), nan=1.0)))
    hinge = one.hinge.play if one.hinge.play is not None else HINGE_PLAY[one.hinge.kind]
    holes = 0.0 if one.kind == "direct" else one.hole_play
    terms = {
        "e": Put(holes, "play of the rod in each hole", "length", 0.5 / BAND * holes),
        "h": Put(one.horn, "horn, to its hole", "length"),
        "g": Put(one.gear_play, "play of the servo's gears", "angle", 0.5 / BAND * one.gear_play),
        "r": Put(ratio, "turn of the control over that of the servo", "ratio"),
        "q": Put(hinge, "play at the hinge", "angle", 0.5 / BAND * hinge),
    }
    return derive(CONTROL_PLAY.key(row.control.id), "2·{e}/{h} + {g}·{r} + {q}",
                  lambda e, h, g, r, q: 2 * e / h + g * r + q, terms, source=_SOURCE)  # fmt: skip


def _rod_figure(row: LinkedControl) -> Figure:
    arm, horn = bars(row.linkage)
    x, y, z = np.abs(arm.centre + arm.vector - horn.centre - horn.vector)
    terms = {
        "x": Put(float(x), "fore and aft between its holes", "length", _DRILLED),
        "y": Put(float(y), "sideways", "length", _DRILLED),
        "z": Put(float(z), "up and down", "length", _DRILLED),
        "o": Put(row.rod - math.sqrt(x * x + y * y + z * z), "longer than that, as typed", "length"),
    }
    return derive(ROD_LENGTH.key(row.control.id), "√({x}² + {y}² + {z}²) + {o}",
                  lambda x, y, z, o: math.sqrt(x * x + y * y + z * z) + o, terms, source=_SOURCE)  # fmt: skip


def _give_figure(row: LinkedControl) -> Figure:
    """Give how far the air of the dive pushes a control back through its linkage."""
    given = row.given
    parts = (
        ("r", given.rod, "rod or line, stretched", _SOFT_ROD),
        ("a", given.arm, "arm, bent", _SOFT_ARM),
        ("t", given.twist, "rod, twisted", _SOFT_ROD),
        ("h", given.horn, "horn, rocking on its base", _SOFT_BASE),
    )
    terms = {name: Put(value, words, "angle", share * value) for name, value, words, share in parts}
    return derive(CONTROL_GIVE.key(row.control.id), "{r} + {a} + {t} + {h}", lambda r, a, t, h: r + a + t + h, terms,
                  source=_SOURCE)  # fmt: skip


def handy_figures(row: LinkedControl, weighed: dict[str, tuple[Item, float]]) -> list[Figure]:
    """Give how quickly a control is thrown, how truly it comes back, and in how many steps it goes.

    Parameters
    ----------
    row : LinkedControl
    weighed : dict
        Items and the mass of one of them, kg, by id.

    Returns
    -------
    list of Figure
    """
    ident, first, one = row.control.id, row.sides[0], row.linkage
    item = weighed.get(one.servo)
    turn = max(abs(first.low), abs(first.high))
    ratio = abs(float(np.nan_to_num(np.interp(0.0, first.travel.turns, first.travel.motion.ratio), nan=1.0)))
    if item is None or item[0].servo is None:
        time = absent(CONTROL_TIME.key(ident), "no servo is named for it")
    else:
        told = item[0].servo.seconds_per_60_deg is not None
        seconds = seconds_per_60(item[0].servo, item[1])
        time = derive(
            CONTROL_TIME.key(ident), "{t}/60°·{s}", lambda t, s: t / math.radians(60.0) * s,
            {"t": Put(turn, "the servo's turn to full throw", "angle"),
             "s": Put(seconds, "it takes for 60°", "seconds", (0.10 if told else 0.25) / BAND * seconds)},
            source=_SOURCE, note="without a load: half as long again at a third of its stall",
        )  # fmt: skip
    centre = derive(
        CONTROL_CENTRE.key(ident), "{d}·{r} + {p}/2", lambda d, r, p: d * r + 0.5 * p,
        {"d": Put(DEAD_BAND, "a servo's dead band", "angle", 0.5 / BAND * DEAD_BAND),
         "r": Put(ratio, "turn of the control over that of the servo", "ratio"),
         "p": Put(row.play, "free play", "angle", 0.5 / BAND * row.play)},
        source=_SOURCE,
    )  # fmt: skip
    steps = derive(
        CONTROL_STEPS.key(ident), "{n}/2·{t}/{f}", lambda n, t, f: n / 2 * t / f,
        {"n": Put(float(STEPS), "steps of a radio end to end", "count"),
         "t": Put(turn, "the servo's turn to full throw", "angle", math.radians(0.5)),
         "f": Put(one.travel, "at full pulse", "angle")},
        source=_SOURCE,
    )  # fmt: skip
    return [time, centre, steps]


def load_figures(row: LinkedControl, weighed: dict[str, tuple[Item, float]], *, known: bool) -> list[Figure]:
    """Give the hinge moment of a linkage, and what its servo works at.

    Parameters
    ----------
    row : LinkedControl
        Under its load.
    weighed : dict
        Items and the mass of one of them, kg, by id.
    known : bool
        Whether the dive is known.

    Returns
    -------
    list of Figure
    """
    ident = row.control.id
    if not known:
        why = "its dive speed is not known"
        found = [absent(family.key(ident), why) for family in (HINGE_MOMENT, SERVO_SHARE, CONTROL_GIVE)]
        return [*found, *handy_figures(row, weighed)]
    air = row.air
    able = KEPT * air.coefficient * air.pressure * air.area * air.chord
    angle = max(row.moment / air.halves - air.rub, 0.0) / able if able > 0 else 0.0
    terms = {
        "n": Put(float(air.halves), "sides it moves", "count"),
        "k": Put(KEPT, "kept of the theory", "ratio", KEPT_SIGMA),
        "C": Put(air.coefficient, "hinge moment per rad", "per_radian"),
        "d": Put(angle, "its largest angle", "angle"),
        "q": Put(air.pressure, "dynamic pressure in the dive", "pressure"),
        "S": Put(air.area, "its area on one side", "area"),
        "c": Put(air.chord, "its mean chord", "length"),
        "f": Put(air.rub, "what rubs at the hinge", "torque", 0.5 / BAND * air.rub),
    }
    found = [derive(HINGE_MOMENT.key(ident), "{n}·({k}·{C}·{d}·{q}·{S}·{c} + {f})",
                    lambda n, k, C, d, q, S, c, f: n * (k * C * d * q * S * c + f), terms, source=_SOURCE)]  # fmt: skip
    found.append(_give_figure(row))
    found += handy_figures(row, weighed)
    item = weighed.get(row.linkage.servo)
    if row.stall is None or item is None or item[0].servo is None:
        return [*found, absent(SERVO_SHARE.key(ident), "no servo is named for it")]
    told = item[0].servo.stall_torque is not None
    found.append(
        derive(
            SERVO_SHARE.key(ident),
            "{Q}/{Q_s}",
            lambda Q, Q_s: Q / Q_s,
            {
                "Q": Put(row.torque, "asked of the servo, through its linkage and friction", "torque",
                         KEPT_SIGMA / KEPT * row.torque),
                "Q_s": Put(row.stall, "it stalls at", "torque",
                           (_TORQUE_TOLD if told else _TORQUE_BY_MASS) * row.stall),
            },
            source=_SOURCE,
            note="planned on half of it",
        )
    )  # fmt: skip
    return found
