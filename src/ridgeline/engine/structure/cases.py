"""Load cases: how many times its weight an aircraft has to bear, and at which speed."""

from __future__ import annotations

import math

from ridgeline.engine.aero.atmosphere import GRAVITY

#: Ultimate load over limit load (second part of the handbook §16.1).
ULTIMATE = 1.5
#: A dive under power over the level top speed; without a motor its angle, and its most over the best glide's speed.
_DIVE, _DIVE_ANGLE, _DIVE_MOST = 1.4, math.radians(30), 2.5
#: From the thrower's shoulder to the hand that swings it, m, and how fast a builder turns, rad/s (chosen: two turns
#: and a half in a second; practised throwers reach 20).
_SWING_ARM, _SWING_TURN = 0.6, 15.0


def pull_factor(speed: float, stall: float) -> float:
    """Return the load factor a full pull reaches: the wing at its greatest lift.

    Parameters
    ----------
    speed : float
        m/s.
    stall : float
        At the weight it has, m/s.

    Returns
    -------
    float

    Source
    ------
    (V/V_s)² (handbook of the trade §10).
    """
    return (speed / stall) ** 2


def gust_factor(speed: float, gust: float, slope: float, loading: float, chord: float, air_density: float) -> float:
    """Return the load factor that flying into an upward gust adds to level flight.

    Parameters
    ----------
    speed : float
        m/s.
    gust : float
        Up, m/s.
    slope : float
        Of the lift, 1/rad.
    loading : float
        Of the wing, kg/m².
    chord : float
        Mean, m.
    air_density : float
        kg/m³.

    Returns
    -------
    float

    Source
    ------
    Δn = K_g ρ U V a/(2 g m/S), K_g = 0.88 μ/(5.3 + μ), μ = 2 (m/S)/(ρ c̄ a) (second part of the handbook §16.1).
    """
    heavy = 2 * loading / (air_density * chord * slope)
    eased = 0.88 * heavy / (5.3 + heavy)
    return eased * air_density * gust * speed * slope / (2 * GRAVITY * loading)


def gust_bears(speed: float, stall: float, added: float) -> float:
    """Return the load factor in a gust: level flight and what it adds, no more than the wing can lift.

    Parameters
    ----------
    speed, stall : float
        m/s.
    added : float
        By the gust.

    Returns
    -------
    float
    """
    return min(1.0 + added, pull_factor(speed, stall))


def powered_dive(top_speed: float) -> float:
    """Return the speed of a dive with a motor, m/s, from the level top speed, m/s.

    Parameters
    ----------
    top_speed : float

    Returns
    -------
    float
    """
    return _DIVE * top_speed


def unpowered_dive(loading: float, drag: float, best_glide: float, air_density: float) -> float:
    """Return the speed a dive of 30° without a motor settles at, m/s.

    Parameters
    ----------
    loading : float
        Of the wing, kg/m².
    drag : float
        Drag coefficient at almost no lift.
    best_glide : float
        Speed of the best glide, m/s; no more than 2.5 of it.
    air_density : float
        kg/m³.

    Returns
    -------
    float

    Source
    ------
    √(2 W sin 30°/(ρ S C_D)) (second part of the handbook §16.1).
    """
    settled = math.sqrt(2 * loading * GRAVITY * math.sin(_DIVE_ANGLE) / (air_density * drag))
    return min(settled, _DIVE_MOST * best_glide)


def swing_speed(span: float) -> float:
    """Return the speed with which a launch swung by the wing tip leaves the hand, m/s.

    Parameters
    ----------
    span : float
        m.

    Returns
    -------
    float
    """
    return _SWING_TURN * (_SWING_ARM + 0.5 * span)


def swing_factor(speed: float, span: float) -> float:
    """Return the load factor along the span of a launch swung by the wing tip.

    Parameters
    ----------
    speed : float
        It leaves the hand with, m/s.
    span : float
        m.

    Returns
    -------
    float

    Source
    ------
    V²/(g (0.6 m + b/2)) (second part of the handbook §16.1).
    """
    return speed**2 / (GRAVITY * (_SWING_ARM + 0.5 * span))


def landing_factor(sink: float, stroke: float, efficiency: float) -> float:
    """Return the load factor of a touch-down.

    Parameters
    ----------
    sink : float
        m/s.
    stroke : float
        What legs or belly give, m.
    efficiency : float
        1 for foam that crushes, 0.5 for a spring.

    Returns
    -------
    float

    Source
    ------
    (1 + v²/(2 g s))/η (second part of the handbook §16.1).
    """
    return (1 + sink**2 / (2 * GRAVITY * stroke)) / efficiency
