"""Flight in six degrees of freedom on plain numbers: coefficients in, path out, for many builds at once.

Axes of the earth: x along the launch, y to the right of it, z down; of the body as in `craft`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.flight.air_forces import Flow, air_forces, pulled, separated
from ridgeline.engine.flight.craft import Aircraft, Held, Number, Pull

Array = NDArray[np.float64]
#: A motor follows its throttle within this, s (second part of the handbook §18).
SPIN_UP = 0.25
#: Slower air than this gives no force that matters, m/s.
_STILL = 0.3

#: Time s, and the state (13, n) → what is held then.
Pilot = Callable[[float, Array], Held]
#: Time s, and heights m → the air's own motion along, to the right and up, m/s.
Air = Callable[[float, Array], tuple[Number, Number, Number]]
#: Time s, and the state → a force (3, n) N in earth axes and where on the body it pulls, (x, y, z) m.
Tow = Callable[[float, Array], tuple[Array, tuple[Number, Number, Number]]]
#: Rows of a state: place in earth axes, velocity in body axes, quaternion body to earth, rates, what the motor runs at.
PLACE, VELOCITY, TURNED, RATES, RUNS = slice(0, 3), slice(3, 6), slice(6, 10), slice(10, 13), 13
ROWS = 14


def still_air(_time: float, _height: Array) -> tuple[float, float, float]:
    """Return no wind at all."""
    return 0.0, 0.0, 0.0


def state_of(
    *, place: tuple[Number, Number, Number] = (0.0, 0.0, 0.0), speed: Number, path: Number = 0.0, pitch: Number = 0.0,
    bank: Number = 0.0, yaw: Number = 0.0, rates: tuple[Number, Number, Number] = (0.0, 0.0, 0.0), runs: Number = 0.0,
    builds: int = 1,
) -> Array:  # fmt: skip
    """Return a state: flying along a path, over the ground, with the body turned.

    Parameters
    ----------
    place : tuple
        Along, to the right and up, m.
    speed, path : float or ndarray
        Over the ground m/s, and upward rad.
    pitch, bank, yaw : float or ndarray
        Of the body, nose up, starboard down, nose to the right, rad.
    rates : tuple
        Roll, pitch and yaw, rad/s.
    runs : float or ndarray
        What the motor runs at, 0 to 1.
    builds : int

    Returns
    -------
    ndarray, shape (14, builds)
    """
    state = np.zeros((ROWS, builds))
    state[0], state[1], state[2] = place[0], place[1], -np.asarray(place[2], float)
    half = [np.asarray(angle, float) / 2 for angle in (bank, pitch, yaw)]
    (c1, s1), (c2, s2), (c3, s3) = ((np.cos(angle), np.sin(angle)) for angle in half)
    state[6] = c1 * c2 * c3 + s1 * s2 * s3
    state[7] = s1 * c2 * c3 - c1 * s2 * s3
    state[8] = c1 * s2 * c3 + s1 * c2 * s3
    state[9] = c1 * c2 * s3 - s1 * s2 * c3
    over_ground = np.zeros((3, builds))
    over_ground[0], over_ground[2] = speed * np.cos(path), -speed * np.sin(path)
    state[VELOCITY] = to_body(state[TURNED], over_ground)
    state[10], state[11], state[12] = rates
    state[RUNS] = runs
    return state


def _rotation(q: Array) -> tuple[Array, ...]:
    """Return the nine entries of the matrix from body to earth axes."""
    a, b, c, d = q
    return (
        a * a + b * b - c * c - d * d, 2 * (b * c - a * d), 2 * (b * d + a * c),
        2 * (b * c + a * d), a * a - b * b + c * c - d * d, 2 * (c * d - a * b),
        2 * (b * d - a * c), 2 * (c * d + a * b), a * a - b * b - c * c + d * d,
    )  # fmt: skip


def to_earth(q: Array, v: Array) -> Array:
    """Return vectors (3, n) of body axes in earth axes."""
    m = _rotation(q)
    return np.stack([m[0] * v[0] + m[1] * v[1] + m[2] * v[2], m[3] * v[0] + m[4] * v[1] + m[5] * v[2],
                     m[6] * v[0] + m[7] * v[1] + m[8] * v[2]])  # fmt: skip


def to_body(q: Array, v: Array) -> Array:
    """Return vectors (3, n) of earth axes in body axes."""
    m = _rotation(q)
    return np.stack([m[0] * v[0] + m[3] * v[1] + m[6] * v[2], m[1] * v[0] + m[4] * v[1] + m[7] * v[2],
                     m[2] * v[0] + m[5] * v[1] + m[8] * v[2]])  # fmt: skip


def angles_of(q: Array) -> tuple[Array, Array, Array]:
    """Return bank, pitch and yaw of a body, rad."""
    m = _rotation(q)
    return np.arctan2(m[7], m[8]), np.arcsin(np.clip(-m[6], -1.0, 1.0)), np.arctan2(m[3], m[0])


def rates_of(
    craft: Aircraft, pull: Pull | None, state: Array, held: Held, air: tuple[Number, Number, Number], density: float,
    tow: tuple[Array, tuple[Number, Number, Number]] | None = None,
) -> Array:  # fmt: skip
    """Return how a state changes, per second.

    Parameters
    ----------
    craft : Aircraft
    pull : Pull or None
    state : ndarray, shape (14, n)
    held : Held
    air : tuple
        The air's own motion along, to the right and up, m/s.
    density : float
        kg/m³.
    tow : tuple, optional
        A force in earth axes, N, and where on the body it pulls, m.

    Returns
    -------
    ndarray, shape (14, n)

    Source
    ------
    Rigid body about its balance point; forces as docs/theory.md §17 has them.
    """
    q, (p, pitching, r) = state[TURNED], state[RATES]
    n = state.shape[1]
    wind = np.empty((3, n))
    wind[0], wind[1], wind[2] = air[0], air[1], -np.asarray(air[2], float)
    met = state[VELOCITY] - to_body(q, wind)
    speed = np.maximum(np.sqrt((met * met).sum(axis=0)), _STILL)
    alpha, beta = np.arctan2(met[2], met[0]), np.arcsin(np.clip(met[1] / speed, -1.0, 1.0))
    flow = Flow(speed, alpha, beta, separated(craft, alpha))
    load = 0.5 * density * speed * speed * craft.area
    thrust, torque = pulled(pull, state[RUNS], met[0])
    force, moment, lag = air_forces(craft, flow, load, (p, pitching, r), held, thrust, pull)
    if pull is not None:
        line = [np.asarray(part, float) for part in pull.along]
        force = force + np.stack([thrust * part for part in line])
        moment = moment + _cross(pull.at, [thrust * part for part in line])
        # A propeller that turns right rolls the aircraft left.
        moment[0] -= pull.sense * torque
    if tow is not None:
        drawn = to_body(q, tow[0])
        force, moment = force + drawn, moment + _cross(tow[1], list(drawn))
    weight = np.zeros((3, n))
    weight[2] = GRAVITY
    fall = to_body(q, weight)
    u, v, w = state[VELOCITY]
    change = np.empty_like(state)
    change[PLACE] = to_earth(q, state[VELOCITY])
    change[3] = force[0] / craft.mass + fall[0] + r * v - pitching * w
    change[4] = force[1] / craft.mass + fall[1] + p * w - r * u
    change[5] = force[2] / craft.mass + fall[2] + pitching * u - p * v
    # The wash that the tail meets lags the wing: by how fast the angle changes.
    turning = (met[0] * change[5] - met[2] * change[3]) / np.maximum(met[0] ** 2 + met[2] ** 2, _STILL**2)
    moment[1] += lag * turning
    change[RATES] = _spun(craft, moment, p, pitching, r)
    a, b, c, d = q
    change[6] = -0.5 * (b * p + c * pitching + d * r)
    change[7] = 0.5 * (a * p + c * r - d * pitching)
    change[8] = 0.5 * (a * pitching - b * r + d * p)
    change[9] = 0.5 * (a * r + b * pitching - c * p)
    change[RUNS] = (np.asarray(held.throttle, float) - state[RUNS]) / SPIN_UP
    return change


def _cross(at: tuple[Number, Number, Number], force: list[Number]) -> Array:
    """Return the moment (3, n) of a force at a place, both in body axes."""
    x, y, z = at
    fx, fy, fz = force
    return np.stack(np.broadcast_arrays(y * fz - z * fy, z * fx - x * fz, x * fy - y * fx)).astype(float)


def _spun(craft: Aircraft, moment: Array, p: Array, q: Array, r: Array) -> Array:
    """Return the angular accelerations (3, n), rad/s², of a body with a plane of symmetry."""
    ix, iy, iz, ixz = craft.roll_inertia, craft.pitch_inertia, craft.yaw_inertia, craft.product
    roll = moment[0] + (iy - iz) * q * r + ixz * p * q
    yaw = moment[2] + (ix - iy) * p * q - ixz * q * r
    pitch = moment[1] + (iz - ix) * p * r - ixz * (p * p - r * r)
    whole = ix * iz - ixz * ixz
    return np.stack([(iz * roll + ixz * yaw) / whole, pitch / iy, (ixz * roll + ix * yaw) / whole])


# -- in time ----------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Path:
    """What was flown: times (k,) s, states (k, 14, n), and where each build met the ground, s (infinite where not)."""

    time: Array
    state: Array
    landed: Array

    @property
    def height(self) -> Array:
        """Height over the ground, (k, n), m."""
        found: Array = -self.state[:, 2]
        return found


def fly(
    craft: Aircraft,
    pull: Pull | None,
    start: Array,
    pilot: Pilot,
    *,
    seconds: float,
    density: float,
    air: Air = still_air,
    tow: Tow | None = None,
    ground: Callable[[Array], Array] | None = None,
    rate: float = 200.0,
    every: int = 4,
    stop: Callable[[float], bool] | None = None,
) -> Path:
    """Fly from a state, step by step, until the time is up or all have met the ground.

    Parameters
    ----------
    craft : Aircraft
    pull : Pull or None
        None without a motor.
    start : ndarray, shape (14, n)
    pilot : callable
        What is held, by time and state.
    seconds : float
    density : float
        kg/m³.
    air : callable
        The air's own motion, by time and height.
    tow : callable, optional
        A line, by time and state.
    ground : callable, optional
        Height of the ground under places along the launch, m; level at 0 without; −inf for none at all.
    rate : float
        Steps a second.
    every : int
        Of so many steps one is kept.
    stop : callable, optional
        Asked with the share flown now and then; True leaves off.

    Returns
    -------
    Path

    Source
    ------
    Runge and Kutta's fourth-order rule at 200 steps a second (second part of the handbook §18).
    """
    state, step = start.copy(), 1.0 / rate
    n = state.shape[1]
    landed = np.full(n, np.inf)
    times, states = [0.0], [state.copy()]

    def slope(time: float, here: Array) -> Array:
        drawn = None if tow is None else tow(time, here)
        return rates_of(craft, pull, here, pilot(time, here), air(time, -here[2]), density, drawn)

    for k in range(round(seconds * rate)):
        time = k * step
        one = slope(time, state)
        two = slope(time + step / 2, state + step / 2 * one)
        three = slope(time + step / 2, state + step / 2 * two)
        four = slope(time + step, state + step * three)
        moved = state + step / 6 * (one + 2 * two + 2 * three + four)
        moved[TURNED] /= np.sqrt((moved[TURNED] ** 2).sum(axis=0))
        # What met the ground stays where it did.
        flying = np.isinf(landed)
        state = np.where(flying, moved, state)
        under = -state[2] <= (0.0 if ground is None else ground(state[0]))
        landed = np.where(flying & under, time + step, landed)
        if (k + 1) % every == 0:
            times.append(time + step)
            states.append(state.copy())
            if not np.isinf(landed).any() or (stop is not None and stop(time / seconds)):
                break
    return Path(np.array(times), np.array(states), landed)
