"""Thrust and shaft power of a propeller by its law, and how they rise with its turns."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike

from ridgeline.engine.power.blade_element import TIP_SPEED
from ridgeline.engine.power.propeller import TIP_RANGE, Array, Law


def advance(n: Array, v: Array, diameter: float) -> Array:
    """Return J = V/(n D): 0 standing, infinite for a propeller that is held.

    Parameters
    ----------
    n : ndarray
        Turns per second.
    v : ndarray
        Airspeed, m/s.
    diameter : float
        m.

    Returns
    -------
    ndarray
        J.
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(v == 0, 0.0, np.where(n > 0, v / (np.maximum(n, 1e-300) * diameter), np.inf))


def thrust(law: Law, diameter: float, n: ArrayLike, speed: ArrayLike, air_density: float) -> Array:
    """Return the thrust, N, at ``n`` turns per second and airspeed ``speed`` m/s (broadcast).

    Parameters
    ----------
    law : Law
    diameter : float
        m.
    n : array_like
        Turns per second.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray
        N.
    """
    turns, v = np.broadcast_arrays(np.asarray(n, float), np.asarray(speed, float))
    return air_density * diameter**4 * thrust_load(law, diameter, turns, v)[0]


def shaft_power(law: Law, diameter: float, n: ArrayLike, speed: ArrayLike, air_density: float) -> Array:
    """Return the shaft power, W, at ``n`` turns per second and airspeed ``speed`` m/s (broadcast).

    Parameters
    ----------
    law : Law
    diameter : float
        m.
    n : array_like
        Turns per second.
    speed : array_like
        Airspeed, m/s.
    air_density : float
        kg/m³.

    Returns
    -------
    ndarray
        W.
    """
    turns, v = np.broadcast_arrays(np.asarray(n, float), np.asarray(speed, float))
    return air_density * diameter**5 * turns * power_load(law, diameter, turns, v)[0]


def thrust_load(law: Law, diameter: float, n: Array, v: Array) -> tuple[Array, Array]:
    """Return C_T n² and its rise with the turns n, 1/s, at an airspeed v, m/s, of the same shape.

    Parameters
    ----------
    law : Law
    diameter : float
        m.
    n : ndarray
        Turns per second.
    v : ndarray
        Airspeed, m/s.

    Returns
    -------
    load, rise: ndarray
        C_T n², 1/s², and its slope in n, 1/s.
    """
    return _load(law, law._thrust_rows, diameter, n, v)


def power_load(law: Law, diameter: float, n: Array, v: Array) -> tuple[Array, Array]:
    """Return C_P n² and its rise with the turns n, 1/s, at an airspeed v, m/s, of the same shape.

    Parameters
    ----------
    law : Law
    diameter : float
        m.
    n : ndarray
        Turns per second.
    v : ndarray
        Airspeed, m/s.

    Returns
    -------
    load, rise: ndarray
        C_P n², 1/s², and its slope in n, 1/s.
    """
    return _load(law, law._power_rows, diameter, n, v)


def _load(law: Law, rows: Array, diameter: float, n: Array, v: Array) -> tuple[Array, Array]:
    tip = math.pi * diameter * n
    held = np.minimum(np.maximum(tip, TIP_RANGE[0]), TIP_RANGE[1])
    s, moving = np.log(held * (1 / TIP_SPEED)), held == tip
    if not np.any(v):
        c, moved = rows[0, 0] + s * rows[0, 3], rows[0, 3]
        return c * n**2, n * (2 * c + moving * moved)
    u = v * (1 / diameter)
    # One gathering of whole rows is quicker than six of numbers; a held propeller lies on the last piece.
    here = rows.take(law.piece(u / np.maximum(n, 1e-300)), axis=0)
    b0, b1, b2 = here[..., 3], here[..., 4], here[..., 5]
    c0, c1, c2 = here[..., 0] + s * b0, here[..., 1] + s * b1, here[..., 2] + s * b2
    moved = n * (b0 * n + b1 * u) + b2 * u**2
    # d(ln tip)/dn = 1/n, and nothing where the law is held.
    first = c1 * u
    return n * (c0 * n + first) + c2 * u**2, 2 * c0 * n + first + moving * moved / np.maximum(n, 1e-9)


def actuator_disc_thrust(power: float, diameter: float, air_density: float, ducted: bool = False) -> float:
    """Return the most static thrust, N, of a disc and a power, W: (2 d A P²)^⅓, and (4 d A P²)^⅓ in a duct.

    Parameters
    ----------
    power : float
        W.
    diameter : float
        m.
    air_density : float
        kg/m³.
    ducted : bool
        In a duct that neither opens nor narrows.

    Returns
    -------
    float
        N.
    """
    area = math.pi * diameter**2 / 4
    result: float = ((4 if ducted else 2) * air_density * area * power**2) ** (1 / 3)
    return result
