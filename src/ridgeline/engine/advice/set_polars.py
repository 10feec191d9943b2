"""Sets compared in the air: sink over airspeed at any ballast and wind, and which is best for calm, slope and power."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.advice.compare import FittedSet
from ridgeline.engine.aero.glide import SLOPE_RISE, glide
from ridgeline.engine.aero.stall import stall_speed

Array = NDArray[np.float64]


class SetPolar(NamedTuple):
    """One set in the air: its name, sink over airspeed (n,) m/s, and what it is best at.

    ``mass`` kg with ballast; ``sink`` least, m/s; ``over_ground`` best metres forward per metre down against the wind;
    ``endurance`` s with its motor, None without one;
    ``slope`` the least and the most wind up a 20° slope, m/s, that it stays up in and makes way against.
    """

    ident: str
    name: str
    mass: float
    speeds: Array
    sinks: Array
    sink: float
    over_ground: float
    slope: tuple[float, float]
    endurance: float | None = None


def polar_of(fitted: FittedSet, ballast: float, wind: float) -> SetPolar | None:
    """Return a set in the air with its propeller folded or off.

    Parameters
    ----------
    fitted : FittedSet
    ballast : float
        At its balance point, kg.
    wind : float
        Against it, m/s.

    Returns
    -------
    SetPolar or None
        None where it does not fly yet.

    Source
    ------
    Sink by the polar at the heavier weight, docs/theory.md §8; the slope's air rises at 0.35 of the wind.
    """
    report = fitted.report
    model, mass, limit = report.results.polar, report.value("mass.auw"), report.value("wing.cl_max")
    area, air = report.value("wing.area"), report.results.air
    if model is None or mass is None or limit is None or area is None:
        return None
    heavy = mass + ballast
    stall = stall_speed(heavy, air.density, area, limit)
    found = glide(model, heavy, stall, air.density, air.viscosity)
    forward = np.maximum(found.speeds - wind, 0.0) / found.sinks
    return SetPolar(
        fitted.ident,
        fitted.name,
        heavy,
        found.speeds,
        found.sinks,
        found.sink,
        float(forward.max()),
        (found.sink / SLOPE_RISE, _most_wind(found.speeds, found.sinks)),
        report.value("flight.endurance"),
    )


def _most_wind(speeds: Array, sinks: Array) -> float:
    """Return the strongest wind up a slope that it makes way against while the air rises as fast as it sinks, m/s."""
    wind = sinks / SLOPE_RISE
    ahead = wind <= speeds
    if not ahead.any():
        return 0.0
    last = int(np.flatnonzero(ahead)[-1])
    return float(wind[last])


def best_of(polars: tuple[SetPolar, ...]) -> dict[str, str]:
    """Return which set is best for calm air, for going against the wind and for a strong slope, by its id.

    Parameters
    ----------
    polars : tuple of SetPolar

    Returns
    -------
    dict
        Under calm, upwind, slope and power; nothing for what none of them does.
    """
    if not polars:
        return {}
    powered = [p for p in polars if p.endurance is not None]
    power = {"power": max(powered, key=lambda p: p.endurance or 0.0).ident} if powered else {}
    return {
        **power,
        "calm": min(polars, key=lambda p: p.sink).ident,
        "upwind": max(polars, key=lambda p: p.over_ground).ident,
        "slope": max(polars, key=lambda p: p.slope[1]).ident,
    }
