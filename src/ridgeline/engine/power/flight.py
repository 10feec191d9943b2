"""Thrust against drag over airspeed: top speed, climb, cruise throttle, and the flight down the pack."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DRAG_SIGMA, DragModel, drag, thrust_left
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.discharge import Discharge, Profile, discharge
from ridgeline.engine.power.held_thrust import throttle_for_thrust
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.scatter import Scatter, scatter_of, widened_past_mach

Array = NDArray[np.float64]
#: State of charge the speeds are taken at: the middle of the usable range.
MEAN_CHARGE = 0.6
#: Airspeeds looked at, and every how many of them for what only errors ask.
_SPEEDS, _EVERY = 160, 5
#: Rounds of climb angle and lift: five figures and more.
_CLIMB_ROUNDS = 10


@dataclass(frozen=True)
class FlightCurves:
    """Curves over airspeed, each of shape (n,): full-throttle thrust less what its wash costs, level drag, N, and the
    steady climb, m/s.
    """

    speed: Array
    thrust: Array
    drag: Array
    climb: Array


@dataclass(frozen=True)
class FlightFigures:
    """Speeds m/s, rates m/s, throttle 0–1; None where the aircraft cannot. ``steepest`` rad.

    Thrusts are less what their wash costs, N; ``cruise_drag`` is what the propellers must pull, that included.

    ``sigmas`` are one-sigma errors by the same names, of what is not known of train and drag.
    """

    top_speed: float | None
    climb_rate: float
    climb_speed: float
    climb_angle: float
    thrust_at_climb: float
    drag_at_climb: float
    steepest: float
    cruise_drag: float
    cruise_throttle: float | None
    discharge: Discharge | None
    curves: FlightCurves
    sigmas: Mapping[str, float]


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
    docs/theory.md §8.
    """
    half = chain(train, MEAN_CHARGE, temperature_c)
    pitch_limit = half.law.j_zero * half.diameter * half.k_v * half.open_circuit / (2 * np.pi)
    speed = np.linspace(stall, max(1.05 * pitch_limit, 1.5 * cruise), _SPEEDS)
    full = solve(half, 1.0, speed, air_density)
    half = widened_past_mach(half, float(np.interp(cruise, speed, full.omega)))
    scatter = scatter_of(train, half, DRAG_SIGMA)
    level = drag(model, speed, mass, air_density, viscosity)
    # What the wash scrubs off is lost to the thrust, whatever the speed.
    left = thrust_left(model, half.diameter)
    pull = left * full.thrust
    sine = climb_sine(pull, model, speed, mass, air_density, viscosity)
    climb = sine * speed
    best = int(np.argmax(climb))
    needed = float(drag(model, cruise, mass, air_density, viscosity)) / left
    moved, more_drag = scatter.moved(half), scatter.factor("drag")
    throttles = throttle_for_thrust(moved, needed * more_drag, cruise, air_density)
    sigmas = _sigmas(scatter, half, model, speed, full.omega, best, mass, air_density, viscosity)
    sigmas["cruise_throttle"] = float(scatter.sigma(np.where(np.isfinite(throttles), throttles, 1.0)))
    flown = cruise_throttle = None
    if np.isfinite(throttles[0]):
        cruise_throttle = float(throttles[0])
        flown = discharge(
            train,
            drag_level=needed,
            speed_level=cruise,
            speed_climb=float(speed[best]),
            air_density=air_density,
            temperature_c=temperature_c,
            profile=profile,
            scatter=scatter,
        )
    angle = float(np.arcsin(sine[best]))
    return FlightFigures(
        top_speed=_last_crossing(speed, pull - level),
        climb_rate=float(climb[best]),
        climb_speed=float(speed[best]),
        climb_angle=angle,
        thrust_at_climb=float(pull[best]),
        drag_at_climb=float(drag(model, speed[best], mass * np.cos(angle), air_density, viscosity)),
        steepest=float(np.arcsin(np.clip(np.max(sine), -1.0, 1.0))),
        cruise_drag=needed,
        cruise_throttle=cruise_throttle,
        discharge=flown,
        curves=FlightCurves(speed, pull, level, climb),
        sigmas=sigmas,
    )


def _sigmas(
    scatter: Scatter,
    half: Chain,
    model: DragModel,
    speed: Array,
    omega: Array,
    best: int,
    mass: float,
    air_density: float,
    viscosity: float,
) -> dict[str, float]:
    """Return the errors of speeds and climb: at few airspeeds, for the doubts move them all alike."""
    some = slice(best % _EVERY, None, _EVERY)
    few = speed[some]
    more_drag = scatter.factor("drag", axes=1)
    standing = solve(scatter.moved(half, axes=1), 1.0, few, air_density, omega[some])
    thrust = thrust_left(model, half.diameter) * standing.thrust
    sine = climb_sine(thrust, model, few, mass, air_density, viscosity, more_drag)
    level = drag(model, few, mass, air_density, viscosity)
    tops = [_last_crossing(few, row) for row in thrust - more_drag * level]
    return {
        "climb_rate": float(scatter.sigma((sine * few).max(axis=1))),
        "thrust_at_climb": float(scatter.sigma(thrust[:, best // _EVERY])),
        "drag_at_climb": DRAG_SIGMA * float(level[best // _EVERY]),
        "steepest": float(scatter.sigma(np.arcsin(np.clip(sine.max(axis=1), -1.0, 1.0)))),
        # One that no longer flies level at all is told by the stall: the least speed looked at.
        "top_speed": float(scatter.sigma(np.array([few[0] if top is None else top for top in tops]))),
    }


def climb_sine(
    thrust: Array,
    model: DragModel,
    speed: Array,
    mass: float,
    air_density: float,
    viscosity: float,
    drag_factor: Array | float = 1.0,
) -> Array:
    """Return sin γ of the steady climb at each airspeed: L = W cos γ, T − D(L) = W sin γ; 1 where it hangs or more.

    Parameters
    ----------
    thrust : ndarray
        N.
    model : DragModel
    speed : ndarray
        Airspeed, m/s.
    mass : array_like
        kg.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.
    drag_factor : array_like
        Times the drag.

    Returns
    -------
    ndarray
        sin γ.

    Source
    ------
    Forces along and across the path; the wing carries less the steeper it goes. Bracketed false position (Dowell and
    Jarratt, BIT 11 (1971) 168). docs/theory.md §8.
    """
    weight = mass * GRAVITY

    def spare(sine: Array) -> Array:
        carried = mass * np.sqrt(1 - sine**2)
        left: Array = thrust - drag_factor * drag(model, speed, carried, air_density, viscosity) - weight * sine
        return left

    kept, near = -np.ones(np.shape(thrust)), np.ones(np.shape(thrust))
    at_kept, at_near = spare(kept), spare(near)
    hangs, dives = at_near >= 0, at_kept <= 0
    for _ in range(_CLIMB_ROUNDS):
        gap = at_near - at_kept
        fresh = np.clip(near - at_near * (near - kept) / np.where(gap != 0, gap, 1.0), -1.0, 1.0)
        at = spare(fresh)
        across = at * at_near < 0
        # An end that stays is weighted down in proportion, so that it does not stay for ever.
        both = at_near + at
        at_kept = np.where(across, at_near, at_kept * at_near / np.where(both != 0, both, 1.0))
        kept = np.where(across, near, kept)
        near, at_near = fresh, at
    return np.where(hangs, 1.0, np.where(dives, -1.0, near))


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
