"""The motions stage: inertias from the placed masses, and the five classic motions in cruise."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.engine.aero import modes
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, Sides, absent, derive, put
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.sideslip import Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability
from ridgeline.engine.weights.inertia import Inertia, inertia_of

_KEYS = (
    "modes.pitch_half_time",
    "modes.phugoid_period",
    "modes.roll_half_time",
    "modes.dutch_roll_damping",
    "modes.spiral_rate",
    "modes.spiral_double_time",
)
#: Drag coefficient in cruise where nothing better is known; only the phugoid's damping hangs on it.
_CRUISE_DRAG = 0.06
#: Band of times and dampings: point masses, no body, no lag of downwash (90 %, as a share).
_SIGMA = 0.30 / BAND
#: What the roll by a yaw rate may err by, as a share; and the slowest growth told as a time, s to double: nobody
#: leaves a bank alone for ten minutes.
TURN_SIGMA, SLOWEST = 0.35 / BAND, 600.0
#: Strip-theory share of the lift coefficient in yaw due to roll of a plain wing (Nelson, Flight Stability and
#: Automatic Control, table 3.4).
YAW_FROM_ROLL = -0.125


@dataclass(frozen=True)
class Motions:
    """Inertias and motions in cruise; ``across`` is the sideways matrix, and the rest what coefficients weigh in it.

    A change of C_lβ by one adds ``roll_per_beta`` to its roll from sideslip, one of C_nβ ``yaw_per_beta``, one of
    C_yβ ``side_per_beta``, one of C_lp or C_lr ``roll_per_rate``, and one of C_nr ``yaw_per_rate``.
    """

    inertia: Inertia
    lengthwise: modes.Lengthwise
    sideways: modes.Sideways
    across: np.ndarray
    roll_per_beta: float
    yaw_per_beta: float
    side_per_beta: float
    roll_per_rate: float
    yaw_per_rate: float


def motions(
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    slip: Sideslip | None,
    told: Told,
) -> Outcome[Motions | None]:
    """Give the five motions at cruise speed."""
    if model is None or stable is None or balanced is None or speed is None or slip is None or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in _KEYS))
    items = mass.items
    inertia = inertia_of(mass.expected, items.place, items.out, mass.state.cg, items.size)
    if min(inertia.roll, inertia.pitch, inertia.yaw) <= 1e-9:
        return Outcome(None, tuple(absent(key, "the masses are all in one place") for key in _KEYS))
    along, across = _matrices(model, stable, balanced, slip, speed.cruise, mass.state.mass, inertia, here.density)
    load = 0.5 * here.density * speed.cruise**2 * model.scale.area
    span = model.scale.span
    result = Motions(
        inertia,
        modes.lengthwise(along),
        modes.sideways(across),
        across,
        load * span / inertia.roll,
        load * span / inertia.yaw,
        load / (mass.state.mass * speed.cruise),
        load * span / inertia.roll * span / (2 * speed.cruise),
        load * span / inertia.yaw * span / (2 * speed.cruise),
    )
    return Outcome(result, (*_figures(result), *_spiral(result, told)))


def _matrices(
    model: AirframeLattice,
    stable: Stability,
    balanced: Balance,
    slip: Sideslip,
    v: float,
    m: float,
    inertia: Inertia,
    density: float,
) -> tuple[np.ndarray, np.ndarray]:
    """Return the lengthwise and sideways matrices in cruise, derivatives moved to the balance point."""
    scale, found = model.scale, model.found
    q_s = 0.5 * density * v * v * scale.area
    c_l = m * GRAVITY / q_s
    force = q_s / (m * v)
    assert balanced.targets is not None
    margin = balanced.targets.neutral - balanced.cg_fraction
    pitch = q_s * scale.chord / inertia.pitch
    along = modes.longitudinal_matrix(
        x_u=-2 * _CRUISE_DRAG * force,
        x_w=(c_l - 2 * model.induced_k * c_l * stable.slope) * force,
        z_u=-2 * c_l * force,
        z_w=-(stable.slope + _CRUISE_DRAG) * force,
        m_w=-stable.slope * margin * pitch / v,
        m_q=found.pitch_rate.pitch * scale.chord / (2 * v) * pitch,
        speed=v,
    )
    roll, yaw = q_s * scale.span / inertia.roll, q_s * scale.span / inertia.yaw
    rate = scale.span / (2 * v)
    across = modes.lateral_matrix(
        slip.side * force,
        (
            slip.roll * roll,
            found.roll_rate.roll * rate * roll,
            (found.yaw_rate.roll - found.yaw_rate.side * slip.rise + slip.roll_by_turn) * rate * roll,
        ),
        (
            slip.yaw * yaw,
            (found.roll_rate.yaw + YAW_FROM_ROLL * c_l) * rate * yaw,
            found.yaw_rate.yaw * rate * yaw,
        ),
        v,
    )
    return along, across


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
        note="in cruise; items as points; bodies' damping and the wash's lag left out",
        model_sigma=_SIGMA * abs(value),
    )


def _spiral(found: Motions, told: Told) -> tuple[Figure, Figure]:
    """Give the growth of a bank left alone, and its time to double: the small difference of two effects."""
    keys = ("modes.spiral_rate", "modes.spiral_double_time")
    spiral = found.sideways.spiral
    if spiral is None:
        return absent(keys[0], "no slow motion sideways"), absent(keys[1], "no slow motion sideways")

    def rate(C_lb: float, C_lp: float, C_lr: float, C_nb: float, C_nr: float) -> float:
        moved = found.across.copy()
        moved[1, 0] = C_lb * found.roll_per_beta
        moved[1, 1] = C_lp * found.roll_per_rate
        moved[1, 2] = C_lr * found.roll_per_rate
        moved[2, 0] = C_nb * found.yaw_per_beta
        moved[2, 2] = C_nr * found.yaw_per_rate
        slow = modes.spiral_near(moved, spiral.rate)
        return math.nan if slow is None else slow

    turn = float(found.across[1, 2]) / found.roll_per_rate
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
