"""Thrust and power coefficients of a propeller by family laws. Blade elements take this place later.

The law is chosen so that the torque balance stays a quadratic: with ``x = J/J0`` and the zero-thrust advance
``J0 = 1.25 P/D``, ``C_T = C_T0 (1 − x)(1 + 0.35 x)`` and ``C_P = C_P0 (1 + 0.20 x − 0.80 x²)``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.power import Propeller

#: Static C_T at the reference pitch ratio, that pitch ratio, and the rise of C_T with pitch ratio.
#: Two-blade means of published wind-tunnel tests, 8–11 in, 4–7 krpm (handbook of the trade §8).
_FAMILIES: dict[str, tuple[float, float, float]] = {
    "thin_electric": (0.0975, 0.50, 0.45),
    "slow_fly": (0.1200, 0.45, 0.35),
    "wood": (0.0920, 0.50, 0.45),
    "folding": (0.0950, 0.55, 0.45),
}
_CT_CEILING = 0.135
#: Pitch ratios the law was set by; propellers outside them are held at the nearer end.
PITCH_RATIOS = (0.3, 1.1)
ZERO_THRUST_OVER_PITCH = 1.25
THRUST_SIGMA = 0.08 / 1.645
POWER_SIGMA = 0.10 / 1.645
#: Advance ratio where the law stops: past zero thrust the propeller brakes, which it does not describe.
_LIFT = 0.35
_POWER_LINEAR, _POWER_SQUARE = 0.20, -0.80


@dataclass(frozen=True)
class Coefficients:
    """``C_T = t0 + t1 J + t2 J²`` and ``C_P = p0 + p1 J + p2 J²``, valid for ``0 ≤ J ≤ j_zero``."""

    t0: float
    t1: float
    t2: float
    p0: float
    p1: float
    p2: float
    j_zero: float


def figure_of_merit(pitch_ratio: float, diameter: float) -> float:
    """Return the static figure of merit: 0.64 to P/D 0.6, falling to 0.45 at 1.0; less below 6 in.

    Source
    ------
    Published ranges 0.55–0.72 for 8–11 in, about 0.5 below 6 in, 0.4–0.5 near P/D 1 (handbook of the trade §8).
    """
    merit = float(np.interp(pitch_ratio, (0.3, 0.6, 1.0, 1.4), (0.64, 0.64, 0.45, 0.36)))
    size = float(np.interp(diameter / 0.0254, (2.0, 6.0, 9.0), (0.72, 0.86, 1.0)))
    return merit * size


def in_range(propeller: Propeller) -> bool:
    """Tell whether the family law was set for this pitch ratio."""
    return PITCH_RATIOS[0] <= propeller.pitch / propeller.diameter <= PITCH_RATIOS[1]


def coefficients(propeller: Propeller) -> Coefficients:
    """Return the family law of a propeller.

    Source
    ------
    docs/theory.md §9; band ±8 % thrust, ±10 % power (90 %).
    """
    static_ct, reference, exponent = _FAMILIES[propeller.family]
    # Outside its range the law is held at its end; a finding says so (`in_range`).
    ratio = min(max(propeller.pitch / propeller.diameter, PITCH_RATIOS[0]), PITCH_RATIOS[1])
    t_static = min(static_ct * (ratio / reference) ** exponent, _CT_CEILING)
    merit = figure_of_merit(ratio, propeller.diameter)
    # More blades add thrust less than in proportion: each works in the others' wash.
    t_static *= (propeller.blades / 2) ** 0.75
    merit *= (2 / propeller.blades) ** 0.10
    p_static = math.sqrt(2 / math.pi) * t_static**1.5 / merit
    j0 = ZERO_THRUST_OVER_PITCH * ratio
    return Coefficients(
        t0=t_static,
        t1=t_static * (_LIFT - 1) / j0,
        t2=-t_static * _LIFT / j0**2,
        p0=p_static,
        p1=p_static * _POWER_LINEAR / j0,
        p2=p_static * _POWER_SQUARE / j0**2,
        j_zero=j0,
    )


def thrust(law: Coefficients, diameter: float, n: ArrayLike, speed: ArrayLike, air_density: float) -> NDArray:
    """Return the thrust, N, at ``n`` turns per second and airspeed ``speed`` m/s (broadcast)."""
    n, v = np.asarray(n, float), np.asarray(speed, float)
    return air_density * diameter**4 * (law.t0 * n**2 + law.t1 * n * v / diameter + law.t2 * (v / diameter) ** 2)


def shaft_power(law: Coefficients, diameter: float, n: ArrayLike, speed: ArrayLike, air_density: float) -> NDArray:
    """Return the shaft power, W, at ``n`` turns per second and airspeed ``speed`` m/s (broadcast)."""
    n, v = np.asarray(n, float), np.asarray(speed, float)
    return air_density * diameter**5 * n * (law.p0 * n**2 + law.p1 * n * v / diameter + law.p2 * (v / diameter) ** 2)


def actuator_disc_thrust(power: float, diameter: float, air_density: float) -> float:
    """Return the most static thrust any propeller of this disc can make of a power, N: (2 d A P²)^⅓."""
    area = math.pi * diameter**2 / 4
    return (2 * air_density * area * power**2) ** (1 / 3)
