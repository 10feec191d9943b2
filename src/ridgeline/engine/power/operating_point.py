"""Where pack, controller, motor and propeller agree: one balance of volts, rising in the speed of rotation."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.power import propeller_loads, thermal
from ridgeline.engine.power.chain import RPM_PER_RAD, Chain

Array = NDArray[np.float64]
#: Closed down, a controller loses more than its on-resistance: switching and freewheeling, as (1 + s (1 − d)) R;
#: chosen, so that at half throttle the loss is three quarters above the on-resistance's.
PART_THROTTLE_LOSS = 1.5
#: Newton's steps at most (in a bracket, so that halving alone would do), and the share of a last step: the error left
#: is its square.
_STEPS, _CLOSE = 60, 1e-6
#: When fewer than this share of many states still move, the rest go on alone.
_FEW, _MANY = 0.3, 256
#: Room over the speed of a propeller that the air drives without thrust: its power ends a little past its thrust.
_DRIVEN = 1.3


@dataclass(frozen=True)
class OperatingPoint:
    """One settled state of the chain (arrays broadcast over throttle and speed).

    ``omega`` rad/s; ``motor_current`` A per motor; ``pack_current`` A in all; ``pack_voltage`` and
    ``motor_voltage`` V; ``thrust`` N in all; ``shaft_power`` W per motor; heats in W per unit (pack whole);
    ``winding_rise`` K over the air after half a minute; ``motor_resistance`` Ω so warm and at that speed.
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
    winding_rise: Array
    motor_resistance: Array
    stopped: NDArray[np.bool_]

    @property
    def rpm(self) -> Array:
        return self.omega * RPM_PER_RAD

    @property
    def pack_power(self) -> Array:
        return self.pack_voltage * self.pack_current


def motor_current(link: Chain, omega: Array, v: Array, air_density: float) -> tuple[Array, Array]:
    """Return the current, A, that friction and propeller ask for at ω, rad/s, and airspeed, and its rise with ω.

    Parameters
    ----------
    link : Chain
    omega : ndarray
        rad/s.
    v : ndarray
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    current, rise: ndarray
        A, and its slope in ω, A s.
    """
    base = link.power_factor * link.k_v * air_density * link.diameter**5 / (2 * math.pi)
    load, rise = propeller_loads.power_load(link.law, link.diameter, omega / (2 * math.pi), v)
    return base * load + link.i0_still + link.i0_slope * omega, base * rise / (2 * math.pi) + link.i0_slope


def winding(link: Chain, omega: Array, current: Array, rise: Any = 0.0) -> tuple[Array, Array, Array]:
    """Return what a motor resists at ω, rad/s, and a current, A: Ω, its rise with ω, and the winding over the air, K.

    R = R_20 (1 + 0.0039 (T − 20 °C)) + (3/π) ω_e L, T by the heat of half a minute; ``rise`` is dI/dω.

    Parameters
    ----------
    link : Chain
    omega : ndarray
        rad/s.
    current : ndarray
        A.
    rise : array_like
        Slope of the current in ω, A s.

    Returns
    -------
    resistance, slope, warm: ndarray
        Ω, Ω s, and K over the air.

    Source
    ------
    The heat holds R, and R the heat: ΔT = h (I² R + losses) is linear in ΔT. docs/theory.md §9.
    """
    cold, a, h = link.motor_resistance, link.reactance, link.warming
    air = cold * (1 + thermal.COPPER_RISE * (link.air_c - thermal.REFERENCE_C))
    per_k = cold * thermal.COPPER_RISE
    idle, idle_slope = link.i0_still / link.k_v, link.i0_slope / link.k_v
    i = np.maximum(current, 0.0)
    still, square = air + a * omega, i * i
    drop = i * still
    top = h * (i * (drop + link.brush_drop) + (idle + idle_slope * omega) * omega)
    # Where the heat makes the resistance that makes the heat there is no end to it: held at the burnt winding.
    room = np.maximum(1 - h * per_k * square, 1e-9)
    warm = np.minimum(top / room, thermal.MOST_RISE)
    growing = rise * (2 * drop + link.brush_drop) + a * square + (idle + 2 * idle_slope * omega)
    slope = h * (growing + 2 * per_k * i * rise * warm) / room * (warm < thermal.MOST_RISE)
    return still + per_k * warm, a + per_k * slope, warm


def _guess(link: Chain, free: Array, outside: Array, air_density: float) -> Array:
    """Return about the speed, rad/s, by what alone would hold it standing: volts, the resistances, the lag."""
    load = link.power_factor * link.law.static_power * link.k_v * air_density * link.diameter**5 / (2 * math.pi) ** 3
    volts = free / link.k_v
    with np.errstate(divide="ignore", invalid="ignore"):
        by_volts = 1 / free**2
        by_resistance = load * (outside + link.motor_resistance) / volts
        by_lag = (load * link.reactance / volts) ** (2 / 3)
        result: Array = np.nan_to_num(1 / np.sqrt(by_volts + by_resistance + by_lag))
        return result


def _speed_of(
    link: Chain, volts: Array, outside: Array, v: Array, air_density: float, start: Array | None, near: float = _CLOSE
) -> tuple[Array, NDArray[np.bool_]]:
    """Return the speed of rotation, rad/s, and where there is none, for ideal volts behind a resistance.

    ``near`` is the share of the last step: what is wrong after it is about its square.
    """
    free = np.maximum(volts, 0.0) * link.k_v
    # Driven by the air it turns faster than unloaded, never faster than without thrust.
    high = np.maximum(free, 2 * math.pi * v / (link.diameter * link.law.j_zero) * _DRIVEN)
    low = np.zeros_like(high)
    held = motor_current(link, low, v, air_density)[0] if np.any(v) else link.i0_still
    stopped = held * (outside + link.motor_resistance) >= volts
    omega = np.clip(_guess(link, free, outside, air_density) if start is None else start + low, low, high)
    states = _States(link, *np.broadcast_arrays(volts, outside, v, low, high, omega, ~stopped))
    return np.where(stopped, 0.0, states.settle(air_density, near)), stopped


@dataclass
class _States:
    """Newton's steps in brackets, of all states at once; the stragglers of many go on alone."""

    link: Chain
    volts: Array
    outside: Array
    speed: Array
    low: Array
    high: Array
    omega: Array
    moving: NDArray[np.bool_]

    def settle(self, air_density: float, near: float, steps: int = _STEPS) -> Array:
        """Return the speeds of rotation, rad/s; those that do not move from the start stay there."""
        moving = self.moving
        with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
            for left in range(steps, 0, -1):
                count = np.count_nonzero(moving)
                if not count:
                    break
                if moving.size > _MANY and count < _FEW * moving.size:
                    found = np.array(self.omega)
                    found[moving] = self._of(moving).settle(air_density, near, left)
                    return found
                moving = moving & (self._step(air_density) > near)
        return self.omega

    def _step(self, air_density: float) -> Array:
        """Take one step and return how far it went, as a share."""
        omega, low, high = self.omega, self.low, self.high
        current, rise = motor_current(self.link, omega, self.speed, air_density)
        resistance, growth, _warm = winding(self.link, omega, current, rise)
        whole = self.outside + resistance
        rest = current * whole + omega / self.link.k_v - self.volts
        above = rest > 0
        low, high = np.where(above, low, omega), np.where(above, omega, high)
        step = omega - rest / (rise * whole + current * growth + 1 / self.link.k_v)
        astray = ~((step >= low) & (step <= high))
        if astray.any():
            step = np.where(astray, 0.5 * (low + high), step)
        self.omega, self.low, self.high = step, low, high
        result: Array = np.abs(1 - omega / step)
        return result

    def _of(self, chosen: NDArray[np.bool_]) -> _States:
        """Return some of the states, flat."""
        some: list[Any] = [self.volts, self.outside, self.speed, self.low, self.high, self.omega, self.moving]
        return _States(self.link.of(chosen, chosen.shape), *(array[chosen] for array in some))


def full_draw(
    link: Chain, air_density: float, speed: ArrayLike = 0.0, start: Array | None = None, near: float = _CLOSE
) -> tuple[Array, Array]:
    """Return the speed of rotation, rad/s, and one motor's current, A, at full throttle, and nothing else of it.

    Parameters
    ----------
    speed : array_like
        Airspeed, m/s.
    start : ndarray, optional
        A guess of the speed of rotation, rad/s.
    near : float
        Share of the last step; what is wrong after it is about its square.
    """
    volts, v, *_ = np.broadcast_arrays(
        link.open_circuit - link.brush_drop,
        np.asarray(speed, float),
        link.k_v,
        link.pack_resistance,
        link.motor_resistance,
    )
    outside = link.motors * link.source_resistance + link.esc_resistance
    omega, stopped = _speed_of(link, volts, outside, v, air_density, start, near)
    return omega, np.where(stopped, 0.0, motor_current(link, omega, v, air_density)[0])


def solve(
    link: Chain, throttle: ArrayLike, speed: ArrayLike, air_density: float, start: Array | None = None
) -> OperatingPoint:
    """Solve the chain at a throttle (0–1) and airspeed (m/s); both broadcast.

    ``start`` is a guess of the speed of rotation, rad/s, from a chain much like it.

    Voltage: d V_oc = I (d² N R_source + R_esc(d) + R(ω, I)) + V_brush + ω/K_v, with the pack giving N d I.
    Torque: (I − I0(ω))/K_v = Q_prop(ω, V) gives I; what is left rises with ω, and Newton's steps in a bracket find it.

    Parameters
    ----------
    link : Chain
    throttle : array_like
        0 to 1.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.
    start : ndarray, optional
        A guess of the speed of rotation, rad/s.

    Returns
    -------
    OperatingPoint
        With ``stopped`` where the voltage cannot turn the propeller; such states are all zero.

    Source
    ------
    Three-constant motor with the commutation's lag; derived in docs/theory.md §9.
    """
    d, v, *_ = np.broadcast_arrays(
        np.asarray(throttle, float),
        np.asarray(speed, float),
        link.open_circuit,
        link.k_v,
        link.pack_resistance,
        link.motor_resistance,
        link.power_factor,
    )
    esc = link.esc_resistance * (1 + PART_THROTTLE_LOSS * (1 - d))
    outside = d**2 * link.motors * link.source_resistance + esc
    volts = d * link.open_circuit - link.brush_drop
    omega, stopped = _speed_of(link, volts, outside, v, air_density, start)
    stopped = stopped | (d <= 0)
    omega = np.where(stopped, 0.0, omega)
    resistance, _slope, warm = winding(link, omega, motor_current(link, omega, v, air_density)[0])
    current = np.where(stopped, 0.0, (volts - omega / link.k_v) / (outside + resistance))
    pack_current = link.motors * d * current
    pack_voltage = link.open_circuit - pack_current * link.pack_resistance
    turns = omega / (2 * math.pi)
    shaft = link.power_factor * propeller_loads.shaft_power(link.law, link.diameter, turns, v, air_density)
    pull = link.thrust_factor * link.motors * propeller_loads.thrust(link.law, link.diameter, turns, v, air_density)
    motor_voltage = d * (pack_voltage - pack_current * link.lead_resistance) - current * esc
    shaft = np.where(stopped, 0.0, shaft)
    return OperatingPoint(
        omega=omega,
        motor_current=current,
        pack_current=pack_current,
        pack_voltage=pack_voltage,
        motor_voltage=np.where(stopped, 0.0, motor_voltage),
        thrust=np.where(stopped, 0.0, pull),
        shaft_power=shaft,
        motor_heat=motor_voltage * current - shaft,
        esc_heat=current**2 * esc,
        pack_heat=pack_current**2 * link.pack_resistance,
        lead_heat=pack_current**2 * link.lead_resistance,
        winding_rise=np.where(stopped, 0.0, warm),
        motor_resistance=resistance,
        stopped=stopped,
    )


def thrust_slope(link: Chain, throttle: float, speed: float, air_density: float) -> float:
    """Return how the thrust of a chain goes with airspeed, its throttle held, N s/m.

    Parameters
    ----------
    link : Chain
    throttle : float
        0 to 1.
    speed : float
        m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    float
        Over two hundredths of the speed.
    """
    near = 0.01 * speed
    slower, faster = solve(link, throttle, [speed - near, speed + near], air_density).thrust
    return float(faster - slower) / (2 * near)
