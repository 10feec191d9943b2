"""A run over the ground until it flies, and what its wheels allow, on plain numbers."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY

Array = NDArray[np.float64]
#: Friction of wheels on short grass over the load on them, and its one sigma (handbook of the trade §3).
GRASS, GRASS_SIGMA = 0.10, 0.03
#: It lifts off at this over the stall.
LIFT_OFF = 1.1
_STEPS = 60


def run_length(speed: Array, force: Array, *, mass: float, lift_off: float, wind: float = 0.0) -> float | None:
    """Return the run over the ground until an airspeed is reached, m; None where it is never reached.

    Parameters
    ----------
    speed : ndarray, shape (n,)
        Airspeeds that the force is told at, m/s.
    force : ndarray, shape (n,)
        What is left to speed it up: thrust less drag and friction, N.
    mass : float
        kg.
    lift_off : float
        Airspeed, m/s.
    wind : float
        From ahead, m/s.

    Returns
    -------
    float or None

    Source
    ------
    s = ∫ m (V − w)/F(V) dV from the wind's speed on; m (V − w)²/2F where the force is constant.
    """
    if lift_off <= wind:
        return 0.0
    v = np.linspace(max(wind, 0.0), lift_off, _STEPS + 1)
    left = np.interp(v, speed, force)
    if not np.all(left > 0):
        return None
    return float(np.trapezoid(mass * (v - wind) / left, v))


class Stance(NamedTuple):
    """How it stands on its wheels: angle at which it tips over its main wheels, rad, and whether onto its nose.

    ``behind`` is how far the main wheels stand behind the balance point, m: below nothing they are ahead of it, as with
    a tail wheel or a skid.
    """

    tips: float
    behind: float
    high: float


def stance_of(wheels: Array, cg: Array) -> Stance | None:
    """Return how an aircraft stands on its main wheels; None without two that bear it.

    Parameters
    ----------
    wheels : ndarray, shape (n, 3)
        Where the tyres touch the ground, m, one row for each wheel or pair, in the document's axes.
    cg : ndarray, shape (3,)
        Balance point, m.

    Returns
    -------
    Stance or None
        The main wheels are those nearest to the balance point lengthwise.

    Source
    ------
    Statics: it tips when the balance point passes over the contact, tan = distance over height.
    """
    if not len(wheels):
        return None
    main = wheels[int(np.argmin(np.abs(wheels[:, 0] - cg[0])))]
    behind, high = float(main[0] - cg[0]), float(cg[2] - main[2])
    if high <= 0:
        return None
    return Stance(math.atan2(abs(behind), high), behind, high)


def rotation_left(
    *, mass: float, behind: float, high: float, most: float, steady: float, thrust: float, thrust_arm: float,
    friction: float = GRASS,
) -> float:  # fmt: skip
    """Return the share of the pitch control left over when the nose wheel is lifted; below nothing it cannot be.

    Parameters
    ----------
    mass : float
        kg.
    behind, high : float
        Main wheels behind and under the balance point, m.
    most : float
        Moment of the pitch control fully up at lift-off, nose up, N m.
    steady : float
        Moment of the air on the rest, nose up, N m.
    thrust, thrust_arm : float
        N, and its line under the balance point, m.
    friction : float

    Returns
    -------
    float

    Source
    ------
    Moments about the wheels' contact with the whole weight on them: m g behind + μ m g high against the rest.
    """
    needed = mass * GRAVITY * (behind + friction * high) - steady - thrust * thrust_arm
    if needed <= 0:
        return 1.0
    return 1.0 - needed / most if most > 0 else -math.inf
