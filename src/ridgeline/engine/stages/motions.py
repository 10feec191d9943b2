"""The motions stage: inertias from the placed masses, and the five classic motions in cruise."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ridgeline.design.airframe import Surface
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero import modes
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.drag import DragModel, thrust_left
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, Sides, absent, derive, put
from ridgeline.engine.flight.craft import Aircraft
from ridgeline.engine.flight.small import Across, Drawn, Straight, across_of, lengthwise_matrix, straight
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.full_throttle import FullThrottle
from ridgeline.engine.power.operating_point import thrust_slope
from ridgeline.engine.stages.coefficients import aircraft, line_of, tail_blown
from ridgeline.engine.stages.common import Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.sideslip import Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability
from ridgeline.engine.stages.washing import Washing
from ridgeline.engine.weights.inertia import Inertia, inertia_of

_KEYS = (
    "modes.pitch_half_time",
    "modes.phugoid_period",
    "modes.roll_half_time",
    "modes.dutch_roll_damping",
    "modes.spiral_rate",
    "modes.spiral_double_time",
)
#: Band of times and dampings: bodies' damping is left out (90 %, as a share).
_SIGMA = 0.30 / BAND
#: What the roll by a yaw rate may err by, as a share; and the slowest growth told as a time, s to double: nobody
#: leaves a bank alone for ten minutes.
TURN_SIGMA, SLOWEST = 0.35 / BAND, 600.0


@dataclass(frozen=True)
class Motions:
    """The aircraft as coefficients, its inertias, its steady flight in cruise, and its motions about that."""

    inertia: Inertia
    craft: Aircraft
    flight: Straight
    lengthwise: modes.Lengthwise
    sideways: modes.Sideways
    across: Across
    trim_slope: float | None


def _trim_slope(craft: Aircraft, flight: Straight, density: float) -> float | None:
    """Return the pitch control that holds cruise for the balance moved aft by the mean chord, rad."""
    if not craft.pitch_control:
        return None
    near, drawn = 0.005 * craft.chord, flight.drawn if flight.drawn.thrust else None
    x, z = craft.centre
    ends = [straight(replace(craft, centre=(x + by, z)), flight.speed, density, drawn).pitch for by in (-near, near)]
    # In the wash the control does more than it is turned.
    load = 0.5 * density * flight.speed**2 * craft.area
    more = 1.0 if drawn is None else 1.0 + drawn.tail * drawn.thrust / load
    return (ends[1] - ends[0]) / (2 * near) * craft.chord / more or None


def motions(
    surfaces: tuple[Surface, ...],
    model: AirframeLattice | None,
    stable: Stability | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    slip: Sideslip | None,
    polar: DragModel | None,
    power: PowerTrain | None,
    full: FullThrottle | None,
    flown: FlightFigures | None,
    washed: Washing | None,
    told: Told,
) -> Outcome[Motions | None]:
    """Give the five motions at cruise speed: level with the motor that holds it, in a glide without."""
    if model is None or stable is None or speed is None or slip is None or polar is None or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in _KEYS))
    items = mass.items
    inertia = inertia_of(mass.expected, items.place, items.out, mass.state.cg, items.size)
    if inertia.least <= 1e-9:
        return Outcome(None, tuple(absent(key, "the masses are all in one place, or in one line") for key in _KEYS))
    craft = aircraft(surfaces, model, stable, slip, speed, polar, mass.state, inertia, here)
    drawn = None
    if power is not None and full is not None and flown is not None and flown.cruise_throttle is not None:
        slope = thrust_slope(full.link, flown.cruise_throttle, speed.cruise, here.density)
        at, along = line_of(power, mass.state.cg)
        left = thrust_left(polar, power.propeller.diameter)
        tail = tail_blown(power, washed, craft.area)
        drawn = Drawn(0.0, slope * left, (at[0], at[2]), (along[0], along[2]), tail)
    flight = straight(craft, speed.cruise, here.density, drawn)
    across = across_of(craft, flight, here.density)
    result = Motions(
        inertia,
        craft,
        flight,
        modes.lengthwise(lengthwise_matrix(craft, flight, here.density)),
        modes.sideways(across.matrix),
        across,
        _trim_slope(craft, flight, here.density),
    )
    return Outcome(result, (*_figures(result), *_spiral(result, told)))


def _figures(found: Motions) -> tuple[Figure, ...]:
    along, across = found.lengthwise, found.sideways
    rows: tuple[tuple[str, float | None, str, str], ...] = (
        (
            "modes.pitch_half_time",
            along.short_period.half_time if along.short_period else None,
            "ln 2/{r}",
            "no short period",
        ),
        ("modes.phugoid_period", along.phugoid.period if along.phugoid else None, "2π/{w}", "no slow swing in pitch"),
        ("modes.roll_half_time", across.roll.half_time if across.roll else None, "ln 2/{r}", "no plain roll motion"),
        (
            "modes.dutch_roll_damping",
            across.dutch_roll.damping if across.dutch_roll else None,
            "−{s}/√({s}² + {w_d}²)",
            "it does not swing in yaw",
        ),
    )
    swing = across.dutch_roll
    parts = {} if swing is None else {"s": swing.rate, "w_d": swing.frequency}
    return tuple(_figure(*row, parts) for row in rows)


def _figure(key: str, value: float | None, formula: str, why: str, swing: dict[str, float]) -> Figure:
    if value is None or not math.isfinite(value):
        return absent(key, why)
    numbers = {"r": math.log(2) / value if value else 0.0, "w": 2 * math.pi / value if value else 0.0, **swing}
    labels = {"r": "real part of the root, 1/s", "w": "frequency, rad/s"}
    labels |= {"s": "real part of the root, 1/s", "w_d": "frequency, rad/s"}
    put_in = {name: Put(numbers[name], labels[name], "ratio") for name in labels if f"{{{name}}}" in formula}
    return derive(
        key,
        formula,
        lambda **_: value,
        put_in,
        source="docs/theory.md §10",
        note="in cruise, the throttle held; bodies' damping left out",
        model_sigma=_SIGMA * abs(value),
    )


def _spiral(found: Motions, told: Told) -> tuple[Figure, Figure]:
    """Give the growth of a bank left alone, and its time to double: the small difference of two effects."""
    keys = ("modes.spiral_rate", "modes.spiral_double_time")
    spiral = found.sideways.spiral
    if spiral is None:
        return absent(keys[0], "no slow motion sideways"), absent(keys[1], "no slow motion sideways")

    mine, usual = found.across, put(told["stability.cl_beta"]).value

    def rate(C_lb: float, C_lp: float, C_lr: float, C_nb: float, C_nr: float) -> float:
        # Lift is a little less where the thrust bears some of the weight.
        moved = replace(mine, roll=(mine.roll[0] + C_lb - usual, C_lp, C_lr), yaw=(C_nb, mine.yaw[1], C_nr)).matrix
        slow = modes.spiral_near(moved, spiral.rate)
        return math.nan if slow is None else slow

    turn = mine.roll[2]
    growth = derive(
        keys[0],
        "slow root of the sideways motion with {C_lb}, {C_lp}, {C_lr}; {C_nb}, {C_nr}",
        rate,
        {
            "C_lb": put(told["stability.cl_beta"]),
            "C_lp": put(told["stability.cl_p"]),
            "C_lr": Put(turn, "roll from a turn in yaw, in cruise", "per_radian", TURN_SIGMA * abs(turn)),
            "C_nb": put(told["stability.cn_beta"]),
            "C_nr": put(told["stability.cn_r"]),
        },
        source="docs/theory.md §10",
        note="it grows where C_nb·C_lr passes C_lb·C_nr, a small difference of two effects",
    )
    if growth.value is None:
        return growth, absent(keys[1], growth.why_not)
    if growth.value <= math.log(2) / SLOWEST:
        return growth, absent(keys[1], "the spiral hardly grows or dies away: a bank left alone stays or is given back")
    time = derive(
        keys[1],
        "ln 2/{r}",
        lambda r: math.log(2) / r,
        {"r": put(growth)},
        source="docs/theory.md §10",
        note="in cruise; its longer end is held at ten minutes, past which it hardly grows",
    )
    return growth, time.with_error(lambda: (None, _doubling_sides(growth)))


def _doubling_sides(growth: Figure) -> Sides:
    """Return the one-sigma errors of a time to double, from both ends of the growth's band."""
    assert growth.value is not None and growth.low is not None and growth.high is not None
    time = math.log(2) / growth.value
    slow = math.log(2) / max(growth.low, math.log(2) / SLOWEST)
    return Sides((time - math.log(2) / growth.high) / BAND, (slow - time) / BAND)
