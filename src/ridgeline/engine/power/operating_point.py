"""Where pack, controller, motor and propeller agree: a quadratic in the speed of rotation."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import propeller as propellers

Array = NDArray[np.float64]
_RPM_PER_RAD = 30 / math.pi
#: No-load current grows mildly with speed: I0 (0.6 + 0.4 ω/ω_ref) (handbook of the trade §8).
_I0_STILL, _I0_TURNING = 0.6, 0.4


@dataclass(frozen=True)
class OperatingPoint:
    """One settled state of the chain (arrays broadcast over throttle and speed).

    ``omega`` rad/s; ``motor_current`` A per motor; ``pack_current`` A in all; ``pack_voltage`` and
    ``motor_voltage`` V; ``thrust`` N in all; ``shaft_power`` W per motor; heats in W per unit (pack whole).
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
    stopped: NDArray[np.bool_]

    @property
    def rpm(self) -> Array:
        return self.omega * _RPM_PER_RAD

    @property
    def pack_power(self) -> Array:
        return self.pack_voltage * self.pack_current


@dataclass(frozen=True)
class Chain:
    """The constants of a power train in the form the balance is solved in (SI, rad/s per volt)."""

    k_v: float
    motor_resistance: float
    esc_resistance: float
    pack_resistance: float
    open_circuit: float
    i0_still: float
    i0_slope: float
    motors: int
    diameter: float
    law: propellers.Coefficients


def chain(train: PowerTrain, charge: float = 1.0) -> Chain:
    """Collect the constants of a power train at a state of charge."""
    motor = train.motor
    k_v = motor.kv_rpm_per_v / _RPM_PER_RAD
    reference = k_v * motor.no_load_voltage
    return Chain(
        k_v=k_v,
        motor_resistance=motor.resistance,
        esc_resistance=train.esc.resistance,
        pack_resistance=packs.resistance(train.pack) + train.lead_resistance,
        open_circuit=packs.open_circuit_voltage(train.pack, charge),
        i0_still=_I0_STILL * motor.no_load_current,
        i0_slope=_I0_TURNING * motor.no_load_current / reference,
        motors=train.motors,
        diameter=train.propeller.diameter,
        law=propellers.coefficients(train.propeller),
    )


def solve(link: Chain, throttle: ArrayLike, speed: ArrayLike, air_density: float) -> OperatingPoint:
    """Solve the chain at a throttle (0–1) and airspeed (m/s); both broadcast.

    Voltage: d V_oc = I (d² N R_pack + R_esc + R) + ω/K_v, with the pack giving N d I.
    Torque: (I − I0(ω))/K_v = Q_prop(ω, V). With the family law both make one quadratic in ω.

    Returns
    -------
    OperatingPoint
        With ``stopped`` where the voltage cannot turn the propeller; such states are all zero.

    Source
    ------
    Three-constant motor; derived in docs/theory.md §9.
    """
    d, v = np.broadcast_arrays(np.asarray(throttle, float), np.asarray(speed, float))
    law, size = link.law, link.diameter
    resistance = d**2 * link.motors * link.pack_resistance + link.esc_resistance + link.motor_resistance
    # Q = q2 ω² + q1 ω v + q0 v², from P = 2πn Q.
    base = air_density * size**5 / (2 * math.pi)
    q2 = base * law.p0 / (2 * math.pi) ** 2
    q1 = base * law.p1 / (2 * math.pi * size)
    q0 = base * law.p2 / size**2
    a = link.k_v * q2
    b = link.k_v * q1 * v + 1 / (link.k_v * resistance) + link.i0_slope
    c = link.k_v * q0 * v**2 + link.i0_still - d * link.open_circuit / resistance
    with np.errstate(invalid="ignore", divide="ignore"):
        # The form without cancellation: the useful root is 2c'/(b + √…) with c' = −c.
        omega = -2 * c / (b + np.sqrt(np.maximum(b * b - 4 * a * c, 0.0)))
    stopped = ~(c < 0) | (d <= 0)
    omega = np.where(stopped, 0.0, omega)
    current = np.where(stopped, 0.0, (d * link.open_circuit - omega / link.k_v) / resistance)
    pack_current = link.motors * d * current
    pack_voltage = link.open_circuit - pack_current * link.pack_resistance
    turns = omega / (2 * math.pi)
    shaft = np.where(stopped, 0.0, propellers.shaft_power(law, size, turns, v, air_density))
    pull = np.where(stopped, 0.0, link.motors * propellers.thrust(law, size, turns, v, air_density))
    motor_voltage = d * pack_voltage - current * link.esc_resistance
    return OperatingPoint(
        omega=omega,
        motor_current=current,
        pack_current=pack_current,
        pack_voltage=pack_voltage,
        motor_voltage=motor_voltage,
        thrust=pull,
        shaft_power=shaft,
        motor_heat=motor_voltage * current - shaft,
        esc_heat=current**2 * link.esc_resistance,
        pack_heat=pack_current**2 * link.pack_resistance,
        stopped=stopped,
    )


def throttle_for_thrust(link: Chain, wanted: ArrayLike, speed: ArrayLike, air_density: float) -> Array:
    """Return the throttle that gives a thrust at an airspeed; NaN where full throttle does not reach it.

    Thrust fixes the turns (a quadratic), turns fix torque and current, and those the throttle (a quadratic).

    Parameters
    ----------
    wanted : array_like
        Total thrust, N.
    """
    t, v = np.broadcast_arrays(np.asarray(wanted, float), np.asarray(speed, float))
    law, size = link.law, link.diameter
    scale = air_density * size**4
    b, c = law.t1 * v / size, law.t2 * (v / size) ** 2 - t / link.motors / scale
    turns = (-b + np.sqrt(np.maximum(b * b - 4 * law.t0 * c, 0.0))) / (2 * law.t0)
    omega = 2 * math.pi * turns
    torque = propellers.shaft_power(law, size, turns, v, air_density) / np.maximum(omega, 1e-9)
    current = link.k_v * torque + link.i0_still + link.i0_slope * omega
    a2 = link.motors * link.pack_resistance * current
    c2 = current * (link.esc_resistance + link.motor_resistance) + omega / link.k_v
    inside = link.open_circuit**2 - 4 * a2 * c2
    with np.errstate(invalid="ignore"):
        throttle = 2 * c2 / (link.open_circuit + np.sqrt(inside))
    return np.where((inside >= 0) & (throttle <= 1.0), throttle, np.nan)
