"""Where pack, controller, motor and propeller agree: on each piece of the propeller's law a quadratic in the speed."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import propeller as propellers

Array = NDArray[np.float64]
_RPM_PER_RAD = 30 / math.pi
#: No-load current grows mildly with speed: I0 (0.6 + 0.4 ω/ω_ref) (handbook of the trade §8).
I0_STILL, I0_TURNING = 0.6, 0.4
#: Closed down, a controller loses more than its on-resistance: switching and freewheeling, as (1 + s (1 − d)) R;
#: chosen, so that at half throttle the loss is three quarters above the on-resistance's.
PART_THROTTLE_LOSS = 1.5


@dataclass(frozen=True)
class OperatingPoint:
    """One settled state of the chain (arrays broadcast over throttle and speed).

    ``omega`` rad/s; ``motor_current`` A per motor; ``pack_current`` A in all; ``pack_voltage`` and
    ``motor_voltage`` V; ``thrust`` N in all; ``shaft_power`` W per motor; heats in W per unit (pack whole).
    A propeller driven by the air gives negative current: a controller that brakes would charge the pack.
    """

    omega: Array
    motor_current: Array
    pack_current: Array
    pack_voltage: Array
    motor_voltage: Array
    thrust: Array
    shaft_power: Array
    motor_heat: Array
    esc_heat: Array
    pack_heat: Array
    lead_heat: Array
    stopped: NDArray[np.bool_]

    @property
    def rpm(self) -> Array:
        return self.omega * _RPM_PER_RAD

    @property
    def pack_power(self) -> Array:
        return self.pack_voltage * self.pack_current


@dataclass(frozen=True)
class Chain:
    """The constants of a power train in the form the balance is solved in (SI, rad/s per volt).

    All but ``motors``, ``diameter`` and ``law`` may be arrays that broadcast with throttle and speed.
    """

    k_v: Any
    motor_resistance: Any
    esc_resistance: Any
    pack_resistance: Any
    lead_resistance: Any
    open_circuit: Any
    brush_drop: Any
    i0_still: Any
    i0_slope: Any
    motors: int
    diameter: float
    law: propellers.Law

    @property
    def source_resistance(self) -> Any:
        """Pack and leads in series, Ω."""
        return self.pack_resistance + self.lead_resistance


def chain(train: PowerTrain, charge: float = 1.0, temperature_c: float = 20.0) -> Chain:
    """Collect the constants of a power train at a state of charge and air temperature."""
    motor = train.motor
    k_v = motor.kv_rpm_per_v / _RPM_PER_RAD
    reference = k_v * motor.no_load_voltage
    cold = packs.cold_factor(temperature_c)
    return Chain(
        k_v=k_v,
        motor_resistance=motor.resistance,
        esc_resistance=train.esc.resistance,
        pack_resistance=packs.resistance(train.pack) * cold * train.pack_series / train.pack_parallel,
        lead_resistance=train.lead_resistance,
        open_circuit=train.pack_series * float(packs.open_circuit_voltage(train.pack, charge)),
        brush_drop=motor.brush_drop,
        i0_still=I0_STILL * motor.no_load_current,
        i0_slope=I0_TURNING * motor.no_load_current / reference,
        motors=train.motors,
        diameter=train.propeller.diameter,
        law=propellers.law_of(train.propeller),
    )


def root_between(a: Array, b: Array, c: Array, low: Array, high: Array) -> Array:
    """Return the root of a x² + b x + c that lies nearest to an interval, without cancellation."""
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        q = -0.5 * (b + np.where(b < 0, -1.0, 1.0) * np.sqrt(np.maximum(b * b - 4 * a * c, 0.0)))
        one, two = q / a, c / q
        far_one = np.where(np.isfinite(one), np.maximum(low - one, one - high), np.inf)
        far_two = np.where(np.isfinite(two), np.maximum(low - two, two - high), np.inf)
    return np.where(far_one <= far_two, one, two)


def _speed_of(
    link: Chain, volts: Array, resistance: Array, v: Array, air_density: float
) -> tuple[Array, NDArray[np.bool_]]:
    """Return the speed of rotation, rad/s, and where there is none, for ideal volts behind a resistance."""
    law, size = link.law, link.diameter
    base = link.k_v * air_density * size**5 / (2 * math.pi)
    friction = 1 / (link.k_v * resistance) + link.i0_slope
    offset = link.i0_still - volts / resistance
    if not np.any(v):
        standing = law.power[0, 0] * base / (2 * math.pi) ** 2
        still = offset >= 0
        omega = root_between(np.asarray(standing), friction, offset, np.zeros_like(v), np.full_like(v, np.inf))
        return np.where(still, 0.0, omega), still
    # At each knot the speed is known: the balance there tells on which piece the answer lies.
    inner = law.knots[1:]
    with np.errstate(divide="ignore", invalid="ignore"):
        at_knots = 2 * math.pi * v[..., None] / (size * inner)
    _c_t, c_p = law.at(inner)
    rest = (
        np.asarray(base)[..., None] * c_p * (at_knots / (2 * math.pi)) ** 2
        + friction[..., None] * at_knots
        + offset[..., None]
    )
    # Short of power there (rest > 0) the propeller turns slower, at a higher advance.
    piece = np.where(v > 0, np.count_nonzero(rest > 0, axis=-1), 0)
    p = law.power[piece]
    a = base * p[..., 0] / (2 * math.pi) ** 2
    b = base * p[..., 1] / (2 * math.pi * size) * v + friction
    c = base * p[..., 2] / size**2 * v**2 + offset
    bounds = np.concatenate([np.full((*v.shape, 1), np.inf), at_knots, np.zeros((*v.shape, 1))], axis=-1)
    high = np.take_along_axis(bounds, piece[..., None], -1)[..., 0]
    low = np.where(v > 0, np.take_along_axis(bounds, piece[..., None] + 1, -1)[..., 0], 0.0)
    stopped = (np.where(piece == len(inner), c, -1.0) >= 0) | ((v <= 0) & (offset >= 0))
    omega = np.where(stopped, 0.0, root_between(a, b, c, low, high))
    return omega, stopped


def solve(link: Chain, throttle: ArrayLike, speed: ArrayLike, air_density: float) -> OperatingPoint:
    """Solve the chain at a throttle (0–1) and airspeed (m/s); both broadcast.

    Voltage: d V_oc = I (d² N R_source + R_esc(d) + R) + V_brush + ω/K_v, with the pack giving N d I.
    Torque: (I − I0(ω))/K_v = Q_prop(ω, V). On each piece of the propeller's law both make one quadratic in ω.

    Returns
    -------
    OperatingPoint
        With ``stopped`` where the voltage cannot turn the propeller; such states are all zero.

    Source
    ------
    Three-constant motor; derived in docs/theory.md §9.
    """
    d, v, *_ = np.broadcast_arrays(
        np.asarray(throttle, float), np.asarray(speed, float), link.open_circuit, link.k_v, link.pack_resistance
    )
    esc = link.esc_resistance * (1 + PART_THROTTLE_LOSS * (1 - d))
    resistance = d**2 * link.motors * link.source_resistance + esc + link.motor_resistance
    volts = d * link.open_circuit - link.brush_drop
    omega, stopped = _speed_of(link, volts, resistance, v, air_density)
    stopped = stopped | (d <= 0)
    omega = np.where(stopped, 0.0, omega)
    current = np.where(stopped, 0.0, (volts - omega / link.k_v) / resistance)
    pack_current = link.motors * d * current
    pack_voltage = link.open_circuit - pack_current * link.pack_resistance
    turns = omega / (2 * math.pi)
    shaft = np.where(stopped, 0.0, propellers.shaft_power(link.law, link.diameter, turns, v, air_density))
    pull = np.where(stopped, 0.0, link.motors * propellers.thrust(link.law, link.diameter, turns, v, air_density))
    motor_voltage = d * (pack_voltage - pack_current * link.lead_resistance) - current * esc
    return OperatingPoint(
        omega=omega,
        motor_current=current,
        pack_current=pack_current,
        pack_voltage=pack_voltage,
        motor_voltage=np.where(stopped, 0.0, motor_voltage),
        thrust=pull,
        shaft_power=shaft,
        motor_heat=motor_voltage * current - shaft,
        esc_heat=current**2 * esc,
        pack_heat=pack_current**2 * link.pack_resistance,
        lead_heat=pack_current**2 * link.lead_resistance,
        stopped=stopped,
    )


def turns_for_thrust(
    law: propellers.Law, diameter: float, wanted: ArrayLike, speed: ArrayLike, air_density: float
) -> Array:
    """Return the turns per second at which one propeller gives a thrust, N, at an airspeed, m/s.

    C_T/J² falls with J, so that it tells the piece; on the piece the thrust is a quadratic in the turns.
    """
    t, v = np.broadcast_arrays(np.asarray(wanted, float), np.asarray(speed, float))
    inner = law.knots[1:]
    load = t / (air_density * diameter**2)
    at_knots = law.at(inner)[0] / inner**2
    piece = np.where(v > 0, np.count_nonzero(at_knots * v[..., None] ** 2 > load[..., None], axis=-1), 0)
    # A wish below what a held propeller gives has no turns: the last piece before is the nearest.
    piece = np.minimum(piece, len(inner) - 1)
    rows = law.thrust[piece]
    u = v / diameter
    high = np.where((piece > 0) & (v > 0), u / np.maximum(law.knots[piece], 1e-12), np.inf)
    low = np.where(v > 0, u / law.knots[piece + 1], 0.0)
    return root_between(rows[..., 0], rows[..., 1] * u, rows[..., 2] * u**2 - load / diameter**2, low, high)


def throttle_for_thrust(link: Chain, wanted: ArrayLike, speed: ArrayLike, air_density: float) -> Array:
    """Return the throttle that gives a thrust at an airspeed; NaN where full throttle does not reach it.

    Thrust fixes the turns (a quadratic), turns fix torque and current, and those the throttle (a quadratic).

    Parameters
    ----------
    wanted : array_like
        Total thrust, N.
    """
    t, v = np.broadcast_arrays(np.asarray(wanted, float), np.asarray(speed, float))
    turns = turns_for_thrust(link.law, link.diameter, t / link.motors, v, air_density)
    omega = 2 * math.pi * turns
    shaft = propellers.shaft_power(link.law, link.diameter, turns, v, air_density)
    current = link.k_v * shaft / np.maximum(omega, 1e-9) + link.i0_still + link.i0_slope * omega
    return throttle_for(link, omega, current)


def throttle_for(link: Chain, omega: Array, current: Array) -> Array:
    """Return the throttle at which a motor turns at ω, rad/s, on a current, A; NaN past full throttle."""
    # N R_source I d² − (V_oc + s R_esc I) d + I (R + (1 + s) R_esc) + V_brush + ω/K_v = 0.
    a = link.motors * link.source_resistance * current
    b = link.open_circuit + PART_THROTTLE_LOSS * link.esc_resistance * current
    c = current * (link.motor_resistance + (1 + PART_THROTTLE_LOSS) * link.esc_resistance)
    c = c + link.brush_drop + omega / link.k_v
    inside = b * b - 4 * a * c
    with np.errstate(invalid="ignore"):
        throttle = 2 * c / (b + np.sqrt(inside))
    return np.where((inside >= 0) & (throttle <= 1.0 + 1e-12) & (c > 0), np.minimum(throttle, 1.0), np.nan)
