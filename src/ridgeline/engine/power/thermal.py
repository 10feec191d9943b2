"""Heat: how warm a motor gets, how long it may pull, and the opening that cools it.

Both limits of the handbook (§8) fix the motor as a first-order body: what it may shed for good warms it to
`MOTOR_LIMIT_C` in the end, what it may shed for a minute warms it so far in that minute.
"""

from __future__ import annotations

import math

from ridgeline.engine.bands import BAND
from ridgeline.engine.power.limits import MOTOR_HEAT_CONTINUOUS, MOTOR_HEAT_MINUTE

#: Magnets and lacquer suffer above this, °C (typical).
MOTOR_LIMIT_C = 100.0
#: Air the heat limits are told for, °C; the winding's resistance is stated there.
REFERENCE_C = 20.0
#: Seconds of full throttle after which windings are counted: what a rating for half a minute, and a bench, see.
WARM_SECONDS = 30.0
#: One-sigma share of the rise at a given heat: cowls and wind differ.
RISE_SIGMA = 0.30 / BAND
#: One-sigma share of the time constant.
TIME_SIGMA = 0.20
#: Copper resists by this share more per K.
COPPER_RISE = 0.0039
#: A winding is not counted warmer than this over the air, K: it would have burnt.
MOST_RISE = 200.0
#: Cooling air: warmed by this much, K, coming in at this share of the airspeed; the exit half as large again.
_AIR_RISE, _INLET_SHARE = 20.0, 0.5
_AIR_HEAT = 1005.0


def steady_rise(heat: float, mass: float, limit: float = MOTOR_HEAT_CONTINUOUS) -> float:
    """Return the rise over the air, K, that a motor of ``mass`` kg keeps at ``heat`` W.

    ``limit`` W/kg takes it to `MOTOR_LIMIT_C` in air of `REFERENCE_C`.

    Parameters
    ----------
    heat : float
        W.
    mass : float
        Of the motor, kg.
    limit : float
        Heat it sheds for good, W/kg.

    Returns
    -------
    float
        K over the air.

    Source
    ------
    In proportion to heat per mass through 80 K at 0.6 W/g: docs/theory.md §9. Band ±30 %.
    """
    return (MOTOR_LIMIT_C - REFERENCE_C) * heat / (mass * limit)


def time_constant() -> float:
    """Return the seconds in which a motor goes 63 % of the way, by what it may shed for a minute and for good.

    ΔT_minute (1 − e^(−60 s/τ)) = ΔT_continuous gives τ = 60 s / ln(q_m/(q_m − q_c)).
    """
    return 60.0 / math.log(MOTOR_HEAT_MINUTE / (MOTOR_HEAT_MINUTE - MOTOR_HEAT_CONTINUOUS))


def warming(mass: float) -> float:
    """Return the rise of a motor after `WARM_SECONDS`, K per W of heat.

    Parameters
    ----------
    mass : float
        Of the motor, kg.

    Returns
    -------
    float
        K per W.
    """
    return steady_rise(1.0, mass) * -math.expm1(-WARM_SECONDS / time_constant())


def seconds_to_limit(heat: float, mass: float, air_c: float) -> float | None:
    """Return how long full throttle may last from cold, s; None when it may last.

    Parameters
    ----------
    heat : float
        W.
    mass : float
        Of the motor, kg.
    air_c : float
        °C.

    Returns
    -------
    float or None
        S.

    Source
    ------
    First-order warming T = T_air + ΔT (1 − e^(−t/τ)).
    """
    rise, room = steady_rise(heat, mass), MOTOR_LIMIT_C - air_c
    if rise <= room:
        return None
    return -time_constant() * math.log1p(-room / rise)


def inlet_area(heat: float, speed: float, air_density: float) -> float:
    """Return the opening, m², whose air carries a heat, W, away at an airspeed, m/s: Q = ρ A V c_p ΔT.

    Parameters
    ----------
    heat : float
        W.
    speed : float
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    float
        m².
    """
    return heat / (air_density * _INLET_SHARE * speed * _AIR_HEAT * _AIR_RISE)
