"""Thrust against drag over airspeed: top speed, climb, cruise throttle, and the flight down the pack."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag, drag_of, thrust_left
from ridgeline.engine.power.discharge import Discharge, Profile, discharge
from ridgeline.engine.power.full_throttle import FullThrottle
from ridgeline.engine.power.held_thrust import throttle_for, turning_for
from ridgeline.engine.power.operating_point import solve

Array = NDArray[np.float64]
#: Fewest airspeeds over the stall that make a curve.
_LEAST = 12
#: Rounds of climb angle and lift: five figures and more; secants before that, and how close their last step must be.
_CLIMB_ROUNDS, _SECANTS, _CLOSED = 10, 5, 1e-6


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

    ``sigmas`` are one-sigma errors by the same names, of what is not known of train and drag; ``doubts`` finds them
    when they are first asked for.
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
    doubts: Callable[[], Mapping[str, float]] = field(repr=False, compare=False)

    @cached_property
    def sigmas(self) -> Mapping[str, float]:
        """The one-sigma errors by name."""
        return self.doubts()


def level_flight(
    full: FullThrottle,
    model: DragModel,
    mass: float,
    stall: float,
    cruise: float,
    viscosity: float,
    *,
    profile: Profile | None = None,
) -> FlightFigures:
    """Compare thrust and drag from the stall upwards, and fly the pack down at cruise.

    Parameters
    ----------
    full : FullThrottle
        Of the train, in its air.
    model : DragModel
    mass : float
        kg.
    stall, cruise : float
        Airspeeds, m/s.
    viscosity : float
        Of the air, Pa s.
    profile : Profile, optional

    Returns
    -------
    FlightFigures

    Source
    ------
    docs/theory.md §8.
    """
    flown, air_density = profile or Profile(), full.air_density
    full = full.held_at(cruise)
    speed, thrust = _from_stall(full, stall, cruise)
    level = drag(model, speed, mass, air_density, viscosity)
    # What the wash scrubs off is lost to the thrust, whatever the speed.
    left = thrust_left(model, full.link.diameter)
    pull = left * thrust
    sine = climb_sine(pull, model, speed, mass, air_density, viscosity)
    climb = sine * speed
    # Where it hangs the rate is the speed, and the top a corner.
    smooth = sine.max() < 1.0
    v_best, rate = _highest(speed, climb) if smooth else _corner(speed, climb)
    needed = float(drag(model, cruise, mass, air_density, viscosity)) / left
    scatter = full.scatter
    # Rows: as it is, then what each doubt does.
    moved = scatter.moved(full.link, axes=1)
    turning = turning_for(moved, needed * scatter.factor("drag", axes=1), cruise, air_density)
    throttles = throttle_for(moved, *turning)[:, 0]
    angle = float(np.arcsin(np.clip(rate / v_best, -1.0, 1.0)))

    def doubts() -> dict[str, float]:
        return _sigmas(full, left, model, v_best, stall, mass, viscosity) | {
            "drag_at_climb": model.sigma * float(np.interp(v_best, speed, level)),
            "cruise_throttle": float(scatter.sigma(np.where(np.isfinite(throttles), throttles, 1.0))),
        }

    down = cruise_throttle = None
    if np.isfinite(throttles[0]):
        cruise_throttle = float(throttles[0])
        down = discharge(
            full.train,
            drag_level=needed,
            speed_level=cruise,
            speed_climb=v_best,
            air_density=air_density,
            temperature_c=full.temperature_c,
            profile=flown,
            scatter=scatter,
            climb=full.climb_away(v_best, flown),
            turning=turning,
        )
    return FlightFigures(
        top_speed=_last_crossing(speed, pull - level),
        climb_rate=rate,
        climb_speed=v_best,
        climb_angle=angle,
        thrust_at_climb=float(np.interp(v_best, speed, pull)),
        drag_at_climb=float(drag(model, v_best, mass * np.cos(angle), air_density, viscosity)),
        steepest=float(np.arcsin(np.clip(np.max(sine), -1.0, 1.0))),
        cruise_drag=needed,
        cruise_throttle=cruise_throttle,
        discharge=down,
        curves=FlightCurves(speed, pull, level, climb),
        doubts=doubts,
    )


def gained_without(found: FlightFigures, areas: ArrayLike, air_density: float) -> Array:
    """Return how much faster it is with some drag area taken off, m/s: what each thing in the wind costs.

    Parameters
    ----------
    found : FlightFigures
    areas : array_like, shape (n,)
        Drag areas taken off, one at a time, m².
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray, shape (n,)
        0 where it flies level at no speed.
    """
    taken, top = np.atleast_1d(np.asarray(areas, float)), found.top_speed
    if top is None:
        return np.zeros(taken.shape)
    curves = found.curves
    pressure, spare = 0.5 * air_density * curves.speed**2, curves.thrust - curves.drag
    return np.array([(_last_crossing(curves.speed, spare + area * pressure) or top) - top for area in taken])


def _highest(x: Array, y: Array) -> tuple[float, float]:
    """Return where samples are highest and how high: the top of the parabola through the best and its neighbours."""
    k = int(np.argmax(y))
    if 0 < k < len(x) - 1:
        (a, b), (f, g) = x[[k - 1, k + 1]] - x[k], y[[k - 1, k + 1]] - y[k]
        bend = (g / b - f / a) / (b - a)
        if bend < 0:
            slope = f / a - bend * a
            top = -0.5 * slope / bend
            return float(x[k] + top), float(y[k] + top * (slope + bend * top))
    return _corner(x, y)


def _corner(x: Array, y: Array) -> tuple[float, float]:
    k = int(np.argmax(y))
    return float(x[k]), float(y[k])


def _from_stall(full: FullThrottle, stall: float, cruise: float) -> tuple[Array, Array]:
    """Return airspeeds from the stall to past where thrust ends, or half past cruise, and the thrust there, N."""
    last = max(full.ends, 1.5 * cruise)
    chosen = (full.speed > stall * (1 + 1e-6)) & (full.speed <= last)
    if np.count_nonzero(chosen) >= _LEAST:
        at_stall = np.interp(stall, full.speed, full.point.thrust)
        return np.r_[stall, full.speed[chosen]], np.r_[at_stall, full.point.thrust[chosen]]
    # It stalls where this train hardly pulls: looked at where it flies.
    speed = np.linspace(stall, max(last, 1.2 * stall), 4 * _LEAST)
    return speed, solve(full.link, 1.0, speed, full.air_density).thrust


def _sigmas(
    full: FullThrottle, left: float, model: DragModel, best: float, stall: float, mass: float, viscosity: float
) -> dict[str, float]:
    """Return the errors of speeds and climb: at few airspeeds, for the doubts move them all alike."""
    scatter, air_density = full.scatter, full.air_density
    chosen = full.coarse > stall
    few = np.r_[stall, full.coarse[chosen]]
    more_drag = scatter.factor("drag", axes=1)
    thrust = left * np.column_stack([_at(stall, full.coarse, full.doubted), full.doubted[:, chosen]])
    sine = climb_sine(thrust, model, few, mass, air_density, viscosity, more_drag)
    level = drag(model, few, mass, air_density, viscosity)
    tops = [_last_crossing(few, row) for row in thrust - more_drag * level]
    return {
        "climb_rate": float(scatter.sigma((sine * few).max(axis=1))),
        "thrust_at_climb": float(scatter.sigma(left * _at(best, full.coarse, full.doubted))),
        "steepest": float(scatter.sigma(np.arcsin(np.clip(sine.max(axis=1), -1.0, 1.0)))),
        # One that no longer flies level at all is told by the stall: the least speed looked at.
        "top_speed": float(scatter.sigma(np.array([stall if top is None else top for top in tops]))),
    }


def _at(speed: float, speeds: Array, rows: Array) -> Array:
    """Return rows over airspeeds, read between two of them."""
    k = int(np.clip(np.searchsorted(speeds, speed) - 1, 0, len(speeds) - 2))
    share = (min(speed, speeds[-1]) - speeds[k]) / (speeds[k + 1] - speeds[k])
    result: Array = (1 - share) * rows[:, k] + share * rows[:, k + 1]
    return result


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
    Forces along and across the path; the wing carries less the steeper it goes. Secants from the level flight's
    surplus; where they do not close, bracketed false position (Dowell and Jarratt, BIT 11 (1971) 168).
    docs/theory.md §8.
    """
    weight, carrying = mass * GRAVITY, drag_of(model, speed, air_density, viscosity)

    def spare(sine: Array) -> Array:
        left: Array = thrust - drag_factor * carrying(mass * np.sqrt(1 - sine * sine)) - weight * sine
        return left

    before = np.zeros(np.shape(thrust))
    at_before = spare(before)
    sine = np.clip(at_before / weight, -1.0, 1.0)
    for _ in range(_SECANTS):
        at = spare(sine)
        rise = at - at_before
        step = np.where(rise != 0, at * (sine - before) / np.where(rise != 0, rise, 1.0), 0.0)
        before, at_before, sine = sine, at, np.minimum(np.maximum(sine - step, -1.0), 1.0)
        if np.abs(sine - before).max() <= _CLOSED:
            return sine
    return _bracketed(spare, np.shape(thrust))


def _bracketed(spare: Callable[[Array], Array], shape: tuple[int, ...]) -> Array:
    """Return where what is left over falls through nothing between −1 and 1; the end beyond which it does."""
    kept, near = -np.ones(shape), np.ones(shape)
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
