"""What a servo can do, as its class says or by its mass."""

from __future__ import annotations

import math

import numpy as np

from ridgeline.design.parts import Servo

#: Stall torque at 5 V by mass, kg and N m (handbook of the trade §14).
_MASS, _TORQUE = (0.002, 0.005, 0.009, 0.017, 0.045), (0.02, 0.07, 0.15, 0.25, 0.50)

#: Seconds for 60° at 5 V by mass, kg, of servos as sold (shipped table; ± a quarter).
_SLOW_MASS, _SECONDS = (0.002, 0.005, 0.012, 0.020, 0.045, 0.080), (0.10, 0.09, 0.11, 0.12, 0.16, 0.16)
#: A pulse that differs by less moves no servo: a servo's turn, rad (5 of 1 000 µs of pulse, typical of analogue ones);
#: steps of a radio over both ends of its pulse (usual, 10 bits).
DEAD_BAND, STEPS = math.radians(0.45), 1024
#: A servo is planned on this share of its stall (second part of the handbook §17).
PLANNED = 0.50


def stall_torque(servo: Servo, mass: float) -> float:
    """Return the torque at which a servo stalls at 5 V, N m.

    Parameters
    ----------
    servo : Servo
        Left out, its torque follows from the mass.
    mass : float
        Of one, kg.

    Returns
    -------
    float

    Source
    ------
    Typical classes by mass, straight between them in logarithms (handbook of the trade §14).
    """
    if servo.stall_torque is not None:
        return servo.stall_torque
    return float(np.exp(np.interp(np.log(max(mass, 1e-4)), np.log(_MASS), np.log(_TORQUE))))


def seconds_per_60(servo: Servo, mass: float) -> float:
    """Return what a servo takes for 60° at 5 V without a load, s.

    Parameters
    ----------
    servo : Servo
        Left out, its speed follows from the mass.
    mass : float
        Of one, kg.

    Returns
    -------
    float
    """
    if servo.seconds_per_60_deg is not None:
        return servo.seconds_per_60_deg
    return float(np.interp(np.log(max(mass, 1e-4)), np.log(_SLOW_MASS), _SECONDS))
