"""Thrust against drag over airspeed: top speed, climb, cruise throttle, endurance."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.power.operating_point import chain, solve, throttle_for_thrust
from ridgeline.engine.power.pack import RESERVE

Array = NDArray[np.float64]
#: The simple flight profile until a discharge is stepped: this share of the time at full throttle, the rest level.
CLIMB_SHARE = 0.10
#: State of charge the flight figures are taken at: the middle of the usable range.
MEAN_CHARGE = 0.6


@dataclass(frozen=True)
class FlightCurves:
    """Curves over airspeed, each of shape (n,): full-throttle thrust and drag, N."""

    speed: Array
    thrust: Array
    drag: Array


@dataclass(frozen=True)
class FlightFigures:
    """Speeds m/s, rates m/s, throttle 0–1, currents A, endurance s; None where the aircraft cannot."""

    top_speed: float | None
    climb_rate: float
    climb_speed: float
    thrust_at_climb: float
    cruise_drag: float
    cruise_throttle: float | None
    cruise_current: float | None
    climb_current: float
    endurance: float | None
    curves: FlightCurves


def level_flight(
    train: PowerTrain,
    model: DragModel,
    mass: float,
    stall: float,
    cruise: float,
    air_density: float,
    viscosity: float,
) -> FlightFigures:
    """Compare thrust and drag from the stall upwards.

    Source
    ------
    docs/theory.md §8. Endurance: (1 − reserve) of the capacity over a mean current of 10 % full throttle and
    90 % level cruise, at the middle of the discharge.
    """
    half = chain(train, MEAN_CHARGE)
    pitch_limit = half.law.j_zero * half.diameter * half.k_v * half.open_circuit / (2 * np.pi)
    speed = np.linspace(stall, max(1.05 * pitch_limit, 1.5 * cruise), 160)
    full = solve(half, 1.0, speed, air_density)
    needed = drag(model, speed, mass, air_density, viscosity)
    spare = full.thrust - needed
    climb = spare * speed / (mass * GRAVITY)
    best = int(np.argmax(climb))
    level = float(drag(model, cruise, mass, air_density, viscosity))
    throttle = float(throttle_for_thrust(half, level, cruise, air_density))
    climb_current = float(solve(half, 1.0, speed[best], air_density).pack_current)
    usable = (1 - RESERVE) * train.pack.capacity_ah * 3600
    cruise_throttle = cruise_current = endurance = None
    if np.isfinite(throttle):
        cruise_throttle = throttle
        cruise_current = float(solve(half, throttle, cruise, air_density).pack_current)
        endurance = usable / (CLIMB_SHARE * climb_current + (1 - CLIMB_SHARE) * cruise_current)
    return FlightFigures(
        top_speed=_last_crossing(speed, spare),
        climb_rate=float(climb[best]),
        climb_speed=float(speed[best]),
        thrust_at_climb=float(full.thrust[best]),
        cruise_drag=level,
        cruise_throttle=cruise_throttle,
        cruise_current=cruise_current,
        climb_current=climb_current,
        endurance=endurance,
        curves=FlightCurves(speed, full.thrust, needed),
    )


def _last_crossing(speed: Array, spare: Array) -> float | None:
    """Return the highest speed at which thrust still meets drag, interpolated between samples."""
    enough = np.nonzero(spare >= 0)[0]
    if enough.size == 0:
        return None
    last = int(enough[-1])
    if last + 1 >= speed.size:
        return float(speed[-1])
    share = spare[last] / (spare[last] - spare[last + 1])
    return float(speed[last] + share * (speed[last + 1] - speed[last]))
