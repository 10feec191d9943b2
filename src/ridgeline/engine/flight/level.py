"""Level flight by the model: what it draws over airspeed, and where it settles at a throttle."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.drag import DragModel, drag, thrust_left
from ridgeline.engine.bands import BAND
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.full_throttle import FullThrottle
from ridgeline.engine.power.held_thrust import held_thrust
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import open_circuit_voltage

Array = NDArray[np.float64]
#: Airspeeds looked at.
_SPEEDS = 48


class LevelCurrents(NamedTuple):
    """Current of level flight over airspeed, each of shape (n,): m/s, A, and the ends of its band, A."""

    speed: Array
    current: Array
    low: Array
    high: Array


def level_currents(
    full: FullThrottle, model: DragModel, mass: float, stall: float, viscosity: float
) -> LevelCurrents | None:
    """Return what level flight draws from the pack, from the stall to where full throttle ends.

    Parameters
    ----------
    full : FullThrottle
        Of the train, in its air.
    model : DragModel
    mass : float
        kg.
    stall : float
        m/s.
    viscosity : float
        Of the air, Pa s.

    Returns
    -------
    LevelCurrents or None
        None where it holds level flight nowhere.

    Source
    ------
    Thrust that meets the drag fixes turns, current and throttle: docs/theory.md §9. The band is that of the drag.
    """
    speed = np.linspace(stall, max(full.ends, 1.1 * stall), _SPEEDS)
    left = thrust_left(model, full.train.propeller.diameter)
    held = np.isfinite(
        held_thrust(full.link, _needed(full, model, mass, viscosity, speed) / left, speed, full.air_density)[0]
    )
    if not held.any():
        return None
    # As far as it is held, as near as the airspeeds lie.
    last = min(int(np.flatnonzero(held)[-1]) + 1, _SPEEDS - 1)
    speed = np.linspace(stall, speed[last], _SPEEDS)
    needed = _needed(full, model, mass, viscosity, speed) / left
    found = []
    for share in (1.0, 1 - BAND * model.sigma, 1 + BAND * model.sigma):
        throttle, each = held_thrust(full.link, share * needed, speed, full.air_density)
        found.append(full.train.motors * throttle * each)
    held = np.isfinite(found[0])
    middle, low = found[0][held], found[1][held]
    # Past what full throttle holds the upper end of the band is full throttle.
    most = np.interp(speed[held], full.speed, full.point.pack_current)
    high = np.where(np.isfinite(found[2][held]), found[2][held], most)
    return LevelCurrents(speed[held], middle, low, high)


def _needed(full: FullThrottle, model: DragModel, mass: float, viscosity: float, speed: Array) -> Array:
    return drag(model, speed, mass, full.air_density, viscosity)


class Settled(NamedTuple):
    """Where an aircraft settles at a throttle: pack V and A, airspeed and climb m/s, propeller rpm."""

    voltage: float
    current: float
    speed: float
    climb: float
    rpm: float


def settles_at(
    full: FullThrottle, model: DragModel, mass: float, stall: float, viscosity: float, climb: float
) -> Callable[[float, float], Settled]:
    """Return what gives where an aircraft settles at a throttle and a state of charge.

    Parameters
    ----------
    full : FullThrottle
    model : DragModel
    mass : float
        kg.
    stall : float
        m/s; it flies no slower.
    viscosity : float
        Pa s.
    climb : float
        Best climb at full throttle, m/s.

    Returns
    -------
    callable
        Of throttle and charge, 0 to 1 each.
    """
    train = full.train
    speed = np.linspace(stall, max(full.ends, 1.1 * stall), _SPEEDS)
    left = thrust_left(model, train.propeller.diameter)
    needed = drag(model, speed, mass, full.air_density, viscosity) / left
    link = chain(train, 1.0, full.temperature_c)

    def settled(throttle: float, charge: float) -> Settled:
        here = replace(link, open_circuit=train.pack_series * open_circuit_voltage(train.pack, charge))
        if throttle <= 0:
            return Settled(float(np.ravel(here.open_circuit)[0]), 0.0, stall, -1.0, 0.0)
        point = solve(here, throttle, speed, full.air_density)
        held = np.flatnonzero(point.thrust >= needed)
        k = int(held[-1]) if len(held) else 0
        volts, amps, rpm = (float(values[k]) for values in (point.pack_voltage, point.pack_current, point.rpm))
        return Settled(volts, max(amps, 0.0), float(speed[k]), climb * max(throttle - 0.4, 0.0) / 0.6, rpm)

    return settled
