"""Power off: best glide, least sink, and the wind over a slope that keeps it up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag

Array = NDArray[np.float64]
#: Rise of the air over the wind near the ridge of a smooth 20° slope.
SLOPE_RISE = 0.35
#: Speeds looked at, over the stall speed.
_FROM, _TO, _STEPS = 1.05, 3.5, 120


@dataclass(frozen=True)
class Glide:
    """Best glide ratio and its speed, least sink and its speed, m/s; ``sinks`` over ``speeds``, shape (n,), m/s."""

    ratio: float
    ratio_speed: float
    sink: float
    sink_speed: float
    speeds: Array
    sinks: Array


def glide(model: DragModel, mass: float, stall: float, air_density: float, viscosity: float) -> Glide:
    """Find the best glide and the least sink above the stall, the propeller folded or off.

    Parameters
    ----------
    model : DragModel
    mass : float
        kg.
    stall : float
        m/s.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.

    Returns
    -------
    Glide
        Speeds and sinks, m/s.

    Source
    ------
    Shallow glide: L/D = W/D(V), sink = V D/W: docs/theory.md §8.
    """
    speed = stall * np.linspace(_FROM, _TO, _STEPS)
    resistance = drag(model, speed, mass, air_density, viscosity)
    weight = mass * GRAVITY
    sinks = speed * resistance / weight
    flat, slow = int(np.argmin(resistance)), int(np.argmin(sinks))
    return Glide(
        ratio=weight / float(resistance[flat]),
        ratio_speed=float(speed[flat]),
        sink=float(sinks[slow]),
        sink_speed=float(speed[slow]),
        speeds=speed,
        sinks=sinks,
    )


def slope_wind(w: float, k: float = SLOPE_RISE) -> float:
    """Return the wind, m/s, over a slope whose air rises at a share ``k`` of it, that holds a sink ``w``, m/s.

    Parameters
    ----------
    w : float
        Sink, m/s.
    k : float
        Share of the wind that rises.

    Returns
    -------
    float
        m/s.

    Source
    ------
    Over a smooth 20° slope the air near the ridge rises at about a third of the wind (potential flow, typical).
    """
    return w / k
