"""The throttle that holds a thrust: thrust fixes the turns, turns fix torque and current, and those the throttle."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power import propeller_loads
from ridgeline.engine.power.chain import Chain
from ridgeline.engine.power.operating_point import PART_THROTTLE_LOSS, motor_current, winding
from ridgeline.engine.roots import parabola_root

Array = NDArray[np.float64]
#: Newton's steps from the turns at one tip speed: coefficients hardly move with it.
_TIP_STEPS = 3


def turns_for_thrust(
    law: propellers.Law, diameter: float, wanted: ArrayLike, speed: ArrayLike, air_density: float
) -> Array:
    """Return the turns per second at which one propeller gives a thrust, N, at an airspeed, m/s.

    C_T/J² falls with J, so that it tells the piece at one tip speed, and on the piece the thrust is a quadratic in the
    turns; Newton's steps from there bring in what the tip speed does.

    Parameters
    ----------
    law : Law
    diameter : float
        m.
    wanted : array_like
        Thrust, N.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray
        Turns per second.
    """
    t, v = np.broadcast_arrays(np.asarray(wanted, float), np.asarray(speed, float))
    load, u, inner = t / (air_density * diameter**4), v / diameter, law.knots[1:]
    at_knots = law.at(inner)[0] / inner**2
    piece = np.where(v > 0, np.count_nonzero(at_knots * u[..., None] ** 2 > load[..., None], axis=-1), 0)
    # A wish below what a held propeller gives has no turns: the last piece before is the nearest.
    piece = np.minimum(piece, len(inner) - 1)
    rows = law.thrust[piece]
    high = np.where((piece > 0) & (v > 0), u / np.maximum(law.knots[piece], 1e-12), np.inf)
    low = np.where(v > 0, u / law.knots[piece + 1], 0.0)
    turns = parabola_root(rows[..., 0], rows[..., 1] * u, rows[..., 2] * u**2 - load, low, high)
    if not law.thrust_tip.any():
        return turns
    with np.errstate(divide="ignore", invalid="ignore"):
        for _ in range(_TIP_STEPS):
            found, rise = propeller_loads.thrust_load(law, diameter, turns, v)
            turns = np.where(rise > 0, turns - (found - load) / rise, turns)
    return turns


def throttle_for_thrust(link: Chain, wanted: ArrayLike, speed: ArrayLike, air_density: float) -> Array:
    """Return the throttle that gives a thrust, N in all, at an airspeed; NaN where full throttle does not reach it.

    Parameters
    ----------
    link : Chain
    wanted : array_like
        Thrust in all, N.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray
        0 to 1, NaN where it is not reached.
    """
    return held_thrust(link, wanted, speed, air_density)[0]


def held_thrust(link: Chain, wanted: ArrayLike, speed: ArrayLike, air_density: float) -> tuple[Array, Array]:
    """Return the throttle that gives a thrust at an airspeed, and the current of one motor, A.

    Thrust fixes the turns, turns fix torque and current, and those the throttle (a quadratic); NaN where full throttle
    does not reach it. The packs give motors × throttle × current.

    Parameters
    ----------
    wanted : array_like
        Total thrust, N.
    """
    omega, current = turning_for(link, wanted, speed, air_density)
    return throttle_for(link, omega, current), np.broadcast_to(current, np.broadcast(current, link.open_circuit).shape)


def turning_for(link: Chain, wanted: ArrayLike, speed: ArrayLike, air_density: float) -> tuple[Array, Array]:
    """Return the speed of rotation, rad/s, and the current of one motor, A, at which a thrust is given.

    Whatever the pack: its volts only tell the throttle of it.

    Parameters
    ----------
    link : Chain
    wanted : array_like
        Thrust in all, N.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    omega, current : ndarray
    """
    t, v, *_ = np.broadcast_arrays(np.asarray(wanted, float), np.asarray(speed, float), link.k_v, link.power_factor)
    each = t / (link.motors * link.thrust_factor)
    omega = 2 * math.pi * turns_for_thrust(link.law, link.diameter, each, v, air_density)
    return omega, motor_current(link, omega, v, air_density)[0]


def throttle_for(link: Chain, omega: Array, current: Array) -> Array:
    """Return the throttle at which a motor turns at ω, rad/s, on a current, A; NaN past full throttle.

    Parameters
    ----------
    link : Chain
    omega : ndarray
        rad/s.
    current : ndarray
        Of one motor, A.

    Returns
    -------
    ndarray
        0 to 1, NaN past full throttle.
    """
    # N R_source I d² − (V_oc + s R_esc I) d + I (R + (1 + s) R_esc) + V_brush + ω/K_v = 0.
    resistance, _slope, _warm = winding(link, omega, current)
    a = link.motors * link.source_resistance * current
    b = link.open_circuit + PART_THROTTLE_LOSS * link.esc_resistance * current
    c = current * (resistance + (1 + PART_THROTTLE_LOSS) * link.esc_resistance)
    c = c + link.brush_drop + omega / link.k_v
    inside = b * b - 4 * a * c
    with np.errstate(invalid="ignore"):
        throttle = 2 * c / (b + np.sqrt(inside))
    return np.where((inside >= 0) & (throttle <= 1.0 + 1e-12) & (c > 0), np.minimum(throttle, 1.0), np.nan)
