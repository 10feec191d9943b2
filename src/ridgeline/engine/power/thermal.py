"""Heat: how warm a motor gets, how long it may pull, and the opening that cools it."""

from __future__ import annotations

import math

from ridgeline.engine.power.limits import MOTOR_HEAT_LIMIT

#: A motor that sheds its limit of 0.7 W/g in a propeller's wash stands this much over the air (typical), K.
_RISE_AT_LIMIT = 60.0
#: Copper, iron and magnets together, J/(kg K) (typical).
_HEAT_CAPACITY = 430.0
#: Magnets and lacquer suffer above this, °C (typical).
MOTOR_LIMIT_C = 100.0
#: Cooling air: warmed by this much, K, coming in at this share of the airspeed; the exit half as large again.
_AIR_RISE, _INLET_SHARE = 20.0, 0.5
_AIR_HEAT = 1005.0


def steady_rise(heat: float, mass: float, limit: float = MOTOR_HEAT_LIMIT) -> float:
    """Return the rise over the air, K, that a motor of ``mass`` kg keeps at ``heat`` W; ``limit`` W/kg is 60 K.

    Source
    ------
    In proportion to heat per mass through 60 K at 0.7 W/g: docs/theory.md §9. Band ±30 %.
    """
    return _RISE_AT_LIMIT * heat / (mass * limit)


def time_constant() -> float:
    """Return the seconds in which a motor goes 63 % of the way: heat capacity over what it sheds per degree."""
    return _HEAT_CAPACITY * _RISE_AT_LIMIT / MOTOR_HEAT_LIMIT


def seconds_to_limit(heat: float, mass: float, air_c: float) -> float | None:
    """Return how long full throttle may last from cold, s; None when it may last.

    Source
    ------
    First-order warming T = T_air + ΔT (1 − e^(−t/τ)).
    """
    rise, room = steady_rise(heat, mass), MOTOR_LIMIT_C - air_c
    if rise <= room:
        return None
    return -time_constant() * math.log(1 - room / rise)


def inlet_area(heat: float, speed: float, air_density: float) -> float:
    """Return the opening, m², whose air carries a heat, W, away at an airspeed, m/s: Q = ρ A V c_p ΔT."""
    return heat / (air_density * _INLET_SHARE * speed * _AIR_HEAT * _AIR_RISE)
