"""Thrust against drag over airspeed: top speed, climb, cruise throttle, and the flight down the pack."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.power.discharge import Discharge, Profile, discharge
from ridgeline.engine.power.operating_point import chain, solve, throttle_for_thrust

Array = NDArray[np.float64]
#: State of charge the speeds are taken at: the middle of the usable range.
MEAN_CHARGE = 0.6


@dataclass(frozen=True)
class FlightCurves:
    """Curves over airspeed, each of shape (n,): full-throttle thrust and drag, N, and the climb they give, m/s."""

    speed: Array
    thrust: Array
    drag: Array
    climb: Array


@dataclass(frozen=True)
class FlightFigures:
    """Speeds m/s, rates m/s, throttle 0–1, currents A; None where the aircraft cannot. ``steepest`` rad."""

    top_speed: float | None
    climb_rate: float
    climb_speed: float
    thrust_at_climb: float
    drag_at_climb: float
    steepest: float
    cruise_drag: float
    cruise_throttle: float | None
    cruise_current: float | None
    discharge: Discharge | None
    curves: FlightCurves


def level_flight(
    train: PowerTrain,
    model: DragModel,
    mass: float,
    stall: float,
    cruise: float,
    air_density: float,
    viscosity: float,
    *,
    temperature_c: float = 20.0,
    profile: Profile | None = None,
) -> FlightFigures:
    """Compare thrust and drag from the stall upwards, and fly the pack down at cruise.

    Source
    ------
    docs/theory.md §8. Climb angle: sin γ = (T − D)/W, at most straight up.
    """
    half = chain(train, MEAN_CHARGE, temperature_c)
    pitch_limit = half.law.j_zero * half.diameter * half.k_v * half.open_circuit / (2 * np.pi)
    speed = np.linspace(stall, max(1.05 * pitch_limit, 1.5 * cruise), 160)
    full = solve(half, 1.0, speed, air_density)
    needed = drag(model, speed, mass, air_density, viscosity)
    spare = full.thrust - needed
    climb = spare * speed / (mass * GRAVITY)
    best = int(np.argmax(climb))
    level = float(drag(model, cruise, mass, air_density, viscosity))
    throttle = float(throttle_for_thrust(half, level, cruise, air_density))
    flown = None
    cruise_throttle = cruise_current = None
    if np.isfinite(throttle):
        cruise_throttle = throttle
        cruise_current = float(solve(half, throttle, cruise, air_density).pack_current)
        flown = discharge(
            train,
            drag_level=level,
            speed_level=cruise,
            speed_climb=float(speed[best]),
            air_density=air_density,
            temperature_c=temperature_c,
            profile=profile,
        )
    return FlightFigures(
        top_speed=_last_crossing(speed, spare),
        climb_rate=float(climb[best]),
        climb_speed=float(speed[best]),
        thrust_at_climb=float(full.thrust[best]),
        drag_at_climb=float(needed[best]),
        steepest=float(np.arcsin(np.clip(np.max(spare) / (mass * GRAVITY), -1.0, 1.0))),
        cruise_drag=level,
        cruise_throttle=cruise_throttle,
        cruise_current=cruise_current,
        discharge=flown,
        curves=FlightCurves(speed, full.thrust, needed, climb),
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
