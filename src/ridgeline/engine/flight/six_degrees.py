"""Flight in six degrees of freedom on plain numbers: coefficients in, path out, for many builds at once.

Axes of the earth: x along the launch, y to the right of it, z down; of the body as in `craft`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

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
    """Return the nine entries of the matrix from body to earth axes, of a quaternion of length one."""
    twice = (2 * q)[:, None] * q
    (ab, ac, ad), (bb, bc, bd), (cc, cd), dd = twice[0, 1:], twice[1, 1:], twice[2, 2:], twice[3, 3]
    level = 1 - cc
    return level - dd, bc - ad, bd + ac, bc + ad, 1 - bb - dd, cd - ab, bd - ac, cd + ab, level - bb


def _turned(m: tuple[Array, ...], v: Array) -> Array:
    """Return vectors (3, n) turned by the nine entries of a matrix."""
    turned = np.empty_like(m[0], shape=(3, *np.shape(m[0])))
    turned[0] = m[0] * v[0] + m[1] * v[1] + m[2] * v[2]
    turned[1] = m[3] * v[0] + m[4] * v[1] + m[5] * v[2]
    turned[2] = m[6] * v[0] + m[7] * v[1] + m[8] * v[2]
    return turned


def _back(m: tuple[Array, ...]) -> tuple[Array, ...]:
    """Return the matrix that turns the other way."""
    return m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]


def to_earth(q: Array, v: Array) -> Array:
    """Return vectors (3, n) of body axes in earth axes."""
    return _turned(_rotation(q), v)


def to_body(q: Array, v: Array) -> Array:
    """Return vectors (3, n) of earth axes in body axes."""
    return _turned(_back(_rotation(q)), v)


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
    turn = _rotation(q)
    body = _back(turn)
    u, v, w = state[VELOCITY]
    # The air's own motion turns with the body as its velocity does.
    along, right, rising = air
    met_u = u - (body[0] * along + body[1] * right - body[2] * rising)
    met_v = v - (body[3] * along + body[4] * right - body[5] * rising)
    met_w = w - (body[6] * along + body[7] * right - body[8] * rising)
    plane = met_u * met_u + met_w * met_w
    root = np.maximum(np.sqrt(plane), _STILL * _STILL)
    speed = np.maximum(np.sqrt(plane + met_v * met_v), _STILL)
    alpha, beta = np.arctan2(met_w, met_u), np.arcsin(met_v / speed)
    flow = Flow(speed, alpha, beta, separated(craft, alpha), met_u / root, met_w / root)
    load = (0.5 * density * craft.area) * speed * speed
    thrust, torque = pulled(pull, state[RUNS], met_u)
    force, moment, lag = air_forces(craft, flow, load, (p, pitching, r), held, thrust, pull)
    if pull is not None:
        line = [thrust * part for part in pull.along]
        for row in range(3):
            force[row] += line[row]
        moment += _cross(pull.at, line)
        # A propeller that turns right rolls the aircraft left.
        moment[0] -= pull.sense * torque
    if tow is not None:
        drawn = _turned(body, tow[0])
        force += drawn
        moment += _cross(tow[1], list(drawn))
    change = np.empty_like(state)
    change[PLACE] = _turned(turn, state[VELOCITY])
    pushed_x, pushed_z = force[0] / craft.mass + GRAVITY * body[2], force[2] / craft.mass + GRAVITY * body[8]
    change[3] = pushed_x + r * v - pitching * w
    change[4] = force[1] / craft.mass + GRAVITY * body[5] + p * w - r * u
    change[5] = pushed_z + pitching * u - p * v
    # The wash that the tail meets lags the wing: by how fast the angle to the air changes, in a wind as in none.
    turning = met_u * (pushed_z + pitching * met_u - p * met_v) - met_w * (pushed_x + r * met_v - pitching * met_w)
    moment[1] += lag * turning / np.maximum(plane, _STILL**2)
    _spun(craft, moment, p, pitching, r, change[RATES])
    a, b, c = (0.5 * state[RATES])[:, None] * q
    change[6] = -(a[1] + b[2] + c[3])
    change[7] = a[0] + c[2] - b[3]
    change[8] = b[0] - c[1] + a[3]
    change[9] = c[0] + b[1] - a[2]
    change[RUNS] = (held.throttle - state[RUNS]) / SPIN_UP
    return change


def _cross(at: tuple[Number, Number, Number], force: list[Number]) -> Array:
    """Return the moment (3, n) of a force at a place, both in body axes."""
    x, y, z = at
    fx, fy, fz = force
    found = np.empty((3, *np.shape(fx)))
    found[0], found[1], found[2] = y * fz - z * fy, z * fx - x * fz, x * fy - y * fx
    return found


def _spun(craft: Aircraft, moment: Array, p: Array, q: Array, r: Array, into: Array) -> None:
    """Write the angular accelerations (3, n), rad/s², of a body with a plane of symmetry."""
    ix, iy, iz, ixz = craft.roll_inertia, craft.pitch_inertia, craft.yaw_inertia, craft.product
    roll = moment[0] + q * ((iy - iz) * r + ixz * p)
    yaw = moment[2] + q * ((ix - iy) * p - ixz * r)
    whole = ix * iz - ixz * ixz
    into[0] = (iz * roll + ixz * yaw) / whole
    into[1] = (moment[1] + (iz - ix) * p * r - ixz * (p * p - r * r)) / iy
    into[2] = (ixz * roll + ix * yaw) / whole


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

    for k in range(round(seconds * rate)):
        time = k * step
        # Sticks and wind are those of the step's beginning.
        held, blows = pilot(time, state), air(time, -state[2])

        def slope(time: float, here: Array, held: Held = held, blows: Any = blows) -> Array:
            drawn = None if tow is None else tow(time, here)
            return rates_of(craft, pull, here, held, blows, density, drawn)

        one = slope(time, state)
        two = slope(time + step / 2, state + (step / 2) * one)
        three = slope(time + step / 2, state + (step / 2) * two)
        four = slope(time + step, state + step * three)
        moved = state + (step / 6) * (one + 2 * (two + three) + four)
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
