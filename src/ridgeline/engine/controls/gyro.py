"""A board that turns controls against what it feels: whether it turns them against it, and how hard it may."""

from __future__ import annotations

import math

from ridgeline.design.radio import Gyro, GyroAxis

#: Turn at which a gain of one asks for full control, rad/s (the document's).
FULL_TURN = math.pi
#: What a servo takes for a small correction, and a board, s (typical); the phase that must be left at the loop's
#: crossing, rad (usual practice: 45°).
SERVO_LAG, BOARD_LAG, PHASE_LEFT = 0.05, 0.010, math.radians(45.0)


def opposes(gyro: Gyro, axis: GyroAxis) -> bool:
    """Tell whether a board asks the sticks against what it feels about an axis, as it is mounted and set.

    Parameters
    ----------
    gyro : Gyro
    axis : {"roll", "pitch", "yaw"}

    Returns
    -------
    bool

    Source
    ------
    Turned over about the way it flies, a board feels roll as it was and pitch and yaw the other way round.
    """
    turned_over = gyro.upside_down and axis != "roll"
    return turned_over == (axis in gyro.reversed)


def most_gain(power: float, lag: float = SERVO_LAG + BOARD_LAG) -> float:
    """Return the gain above which a board shakes an axis.

    Parameters
    ----------
    power : float
        Angular acceleration of full control, rad/s², at the speed in question.
    lag : float
        Of servo and board together, s.

    Returns
    -------
    float
        Of full control at half a turn a second; endless without power.

    Source
    ------
    A rate loop about an axis that only has inertia: it crosses at ω = K, where the lag must leave 45° of the 90° that
    inertia leaves; damping by the air is left out, which is the safe side. docs/theory.md §14.
    """
    if power <= 0:
        return math.inf
    crossing = (math.pi / 2 - PHASE_LEFT) / lag
    return crossing * FULL_TURN / power
