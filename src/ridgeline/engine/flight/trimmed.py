"""Steady flight of the simulated aircraft, and its motions about that, from the very equations it is flown by."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.flight.craft import Aircraft, Held, Pull
from ridgeline.engine.flight.six_degrees import PLACE, TURNED, rates_of, state_of

Array = NDArray[np.float64]
#: Newton's steps at most, how close the last must be, and the step of a slope.
_STEPS, _CLOSE, _SMALL = 40, 1e-11, 1e-6
#: Unknowns are held within this of nothing while they are looked for, rad.
_MOST = 0.6


class Steady(NamedTuple):
    """Steady flight: airspeed m/s, angle of attack, path upward and pitch control rad, throttle; each (n,)."""

    speed: Array
    alpha: Array
    path: Array
    pitch: Array
    throttle: Array

    @property
    def held(self) -> Held:
        """What is held in it."""
        return Held(pitch=self.pitch, throttle=self.throttle)

    def state(self, height: float = 0.0) -> Array:
        """Return the state of it at a height."""
        n = len(self.speed)
        return state_of(
            place=(0.0, 0.0, height), speed=self.speed, path=self.path, pitch=self.path + self.alpha,
            runs=self.throttle, builds=n,
        )  # fmt: skip


def _numbers(craft: Aircraft) -> int:
    """Return how many builds an aircraft stands for."""
    return max((np.size(value) for value in vars(craft).values() if isinstance(value, np.ndarray)), default=1)


def steady(
    craft: Aircraft,
    pull: Pull | None,
    *,
    speed: Any,
    density: float,
    throttle: Any = 0.0,
    path: Any = None,
) -> Steady | None:
    """Return steady straight flight at an airspeed: at a throttle wherever it leads, or along a path.

    Parameters
    ----------
    craft : Aircraft
    pull : Pull or None
    speed : float or ndarray
        m/s.
    density : float
        kg/m³.
    throttle : float or ndarray
        Held, where no path is wished.
    path : float or ndarray, optional
        Upward, rad; the throttle is found for it.

    Returns
    -------
    Steady or None
        None where there is no such flight.
    """
    n = max(_numbers(craft), np.size(speed), np.size(throttle), np.size(path) if path is not None else 1)
    v = np.broadcast_to(np.asarray(speed, float), (n,)).copy()
    wished = None if path is None else np.broadcast_to(np.asarray(path, float), (n,))
    open_ = np.broadcast_to(np.asarray(throttle, float), (n,)).copy()

    def left(unknown: Array) -> Array:
        """What is left of forward and downward acceleration and of pitching, (3, n)."""
        alpha, pitch, third = unknown
        climb, runs = (third, open_) if wished is None else (wished, third)
        state = state_of(speed=v, path=climb, pitch=climb + alpha, runs=runs, builds=n)
        change = rates_of(craft, pull, state, Held(pitch=pitch, throttle=runs), (0.0, 0.0, 0.0), density)
        return np.stack([change[3], change[5], change[11]])

    load = 0.5 * density * v * v * craft.area
    guess = (np.asarray(craft.mass, float) * GRAVITY / load - craft.lift_zero) / craft.lift_alpha
    unknown = np.stack([np.broadcast_to(guess, (n,)), np.zeros(n), np.zeros(n) if wished is None else np.full(n, 0.5)])
    found = _newton(left, unknown.copy())
    if found is None:
        return None
    alpha, pitch, third = found
    climb, runs = (third, open_) if wished is None else (wished, third)
    return Steady(v, alpha, np.asarray(climb, float), pitch, np.asarray(runs, float))


def _newton(left: Callable[[Array], Array], unknown: Array) -> Array | None:
    """Return where three equations of each build are nothing; None where they are not for every one."""
    for _ in range(_STEPS):
        base = left(unknown)
        slopes = np.empty((unknown.shape[1], 3, 3))
        for k in range(3):
            moved = unknown.copy()
            moved[k] += _SMALL
            slopes[:, :, k] = ((left(moved) - base) / _SMALL).T
        try:
            step = np.linalg.solve(slopes, base.T[:, :, None])[:, :, 0].T
        except np.linalg.LinAlgError:
            return None
        unknown = unknown - np.clip(step, -0.2, 0.2)
        unknown[:2] = np.clip(unknown[:2], -_MOST, _MOST)
        unknown[2] = np.clip(unknown[2], -1.5, 1.5)
        if np.abs(step).max() < _CLOSE:
            break
    return unknown if np.abs(left(unknown)).max() < 1e-6 and np.isfinite(unknown).all() else None


def linearised(craft: Aircraft, pull: Pull | None, flight: Steady, density: float) -> tuple[Array, Array]:
    """Return the matrices of small motions about steady flight: of (u, w, q, θ) and of (v, p, r, φ).

    Parameters
    ----------
    craft : Aircraft
        One build.
    pull : Pull or None
    flight : Steady
    density : float
        kg/m³.

    Returns
    -------
    along, across : ndarray, shape (4, 4)
        By central differences of the equations of motion, the throttle held.
    """
    start, held = flight.state(), flight.held

    def slope(state: Array) -> Array:
        change = rates_of(craft, pull, state, held, (0.0, 0.0, 0.0), density)
        change[PLACE] = 0.0
        return change[:, 0]

    def turned(row: int, by: float) -> Array:
        """The state with one small thing more: a row, or a turn of the body about its own y or x axis."""
        state = start.copy()
        if row >= 0:
            state[row] += by
            return state
        a, b, c, d = state[TURNED]
        half = by / 2
        # A small turn about the body's own axis, from the right.
        state[TURNED] = (np.stack([a - c * half, b - d * half, c + a * half, d + b * half]) if row == -1 else
                         np.stack([a - b * half, b + a * half, c + d * half, d - c * half]))  # fmt: skip
        state[TURNED] /= np.sqrt((state[TURNED] ** 2).sum(axis=0))
        return state

    def column(row: int, step: float) -> Array:
        return (slope(turned(row, step)) - slope(turned(row, -step))) / (2 * step)

    along = np.empty((4, 4))
    for k, (row, step) in enumerate(((3, 1e-4), (5, 1e-4), (11, 1e-5), (-1, 1e-5))):
        change = column(row, step)
        along[:, k] = change[3], change[5], change[11], 1.0 if row == 11 else 0.0
    across = np.empty((4, 4))
    pitch = float(flight.path[0] + flight.alpha[0])
    for k, (row, step) in enumerate(((4, 1e-4), (10, 1e-5), (12, 1e-5), (-2, 1e-5))):
        change = column(row, step)
        bank = 1.0 if row == 10 else np.tan(pitch) if row == 12 else 0.0
        across[:, k] = change[4], change[10], change[12], bank
    return along, across
