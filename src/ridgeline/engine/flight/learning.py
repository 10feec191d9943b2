"""What a measured speed says of the drag, when neither thrust nor drag was known for sure before."""

from __future__ import annotations

import math

from ridgeline.engine.flight.battery import Told


def drag_from_speed(ratio: float, slope: float, *, speed_share: float, thrust_share: float, drag_share: float) -> Told:
    """Return the drag over the reckoned one, and its one-sigma error as a share, from a measured top speed.

    Parameters
    ----------
    ratio : float
        Thrust over drag, both as reckoned, at the speed that was measured: above 1 where it flew slower than
        predicted.
    slope : float
        How that ratio falls with the speed there, −d ln(T/D)/d ln V.
    speed_share, thrust_share, drag_share : float
        One-sigma errors before, as shares: of the measured speed, of the thrust, of the drag.

    Returns
    -------
    Told
        Times the drag that was reckoned.

    Source
    ------
    ln D − ln T is measured as ln(T/D), with the error |slope| σ_V; what is known before of each shares it out, by
    normal errors of their logarithms: docs/theory.md §16.
    """
    measured = slope * speed_share
    whole = drag_share**2 + thrust_share**2 + measured**2
    gain = drag_share**2 / whole
    factor = math.exp(gain * math.log(ratio))
    return Told(factor, drag_share * math.sqrt(1 - gain))
