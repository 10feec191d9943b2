"""What a servo can do, as its class says or by its mass."""

from __future__ import annotations

import numpy as np

from ridgeline.design.parts import Servo

#: Stall torque at 5 V by mass, kg and N m (handbook of the trade §14).
_MASS, _TORQUE = (0.002, 0.005, 0.009, 0.017, 0.045), (0.02, 0.07, 0.15, 0.25, 0.50)

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
