"""A tow line as a force at its hook."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.flight.craft import Number
from ridgeline.engine.flight.six_degrees import PLACE, TURNED, Tow, to_earth

Array = NDArray[np.float64]
#: The ring slides off the hook when the line stands this steeply under it, rad, or pulls no more.
SLIPS_OFF = math.radians(75.0)


def bungee(pull: float, length: float, hook: tuple[Number, Number, Number]) -> Tow:
    """Return a stretched line that is pegged ahead, and slackens on the way there.

    Parameters
    ----------
    pull : float
        At first, N.
    length : float
        From the launch to the peg, m; the pull falls in proportion to what is left of it.
    hook : tuple
        Where it pulls, (x, y, z) m in body axes from the balance point.

    Returns
    -------
    callable
        Of time and state: the force (3, n) N in earth axes, and the hook.
    """

    def drawn(_time: float, state: Array) -> tuple[Array, tuple[Number, Number, Number]]:
        at = np.zeros_like(state[PLACE])
        at[0], at[1], at[2] = hook
        here = state[PLACE] + to_earth(state[TURNED], at)
        to = np.array([[length], [0.0], [0.0]]) - here
        far = np.maximum(np.sqrt((to * to).sum(axis=0)), 1e-3)
        steep = np.arctan2(to[2], to[0])
        holds = (to[0] > 0) & (steep < SLIPS_OFF)
        return np.where(holds, pull * np.clip(far / length, 0.0, 1.0), 0.0) * to / far, hook

    return drawn
