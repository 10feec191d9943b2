"""Trim of a tailed or tailless aircraft in the linear range: angle of attack and elevator at a speed."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np


class TrimTerms(NamedTuple):
    """The linear coefficients that trim solves with (per radian unless they are angles or moments)."""

    wing_slope: float
    wing_zero_lift: float
    wing_incidence: float
    wing_moment: float
    tail_slope: float
    tail_incidence: float
    tail_area_ratio: float
    tail_volume: float
    downwash: float
    pressure_ratio: float
    control_effect: float
    control_on_wing: bool
    control_arm: float


class Trim(NamedTuple):
    """Body angle of attack and control angle (trailing edge down positive), rad."""

    alpha: float
    control: float


def flap_effectiveness(chord_fraction: float) -> float:
    """Return τ of a plain flap by thin-airfoil theory, with 0.85 for small real deflections.

    Source
    ------
    τ = 1 − (θ − sin θ)/π, θ = arccos(1 − 2x) at the hinge x: Glauert; factor: handbook of the trade §14.
    """
    theta = math.acos(1 - 2 * (1 - chord_fraction))
    return 0.85 * (1 - (theta - math.sin(theta)) / math.pi)


def flap_lift_arm(chord_fraction: float) -> float:
    """Return how far behind the quarter chord the lift of a plain flap acts, as a fraction of the chord.

    Source
    ------
    Thin-airfoil theory: ½ sin θ (1 − cos θ)/(2(π − θ + sin θ)) at the hinge, docs/theory.md §7.
    """
    theta = math.acos(1 - 2 * (1 - chord_fraction))
    return 0.5 * math.sin(theta) * (1 - math.cos(theta)) / (2 * (math.pi - theta + math.sin(theta)))


def trim(terms: TrimTerms, c_l: float, cg_fraction: float, neutral_point: float) -> Trim | None:
    """Solve lift and pitching moment for the angle of attack and the control, or None when singular.

    Parameters
    ----------
    c_l : float
        Lift coefficient wanted.
    cg_fraction, neutral_point : float
        Centre of gravity and neutral point, fractions of c̄.

    Source
    ------
    Two linear equations, docs/theory.md §7. The moment slope is −a (x_np − x_cg), so body effects in the
    neutral point are kept.
    """
    t = terms
    tail_gain = t.pressure_ratio * t.tail_slope
    slope = t.wing_slope + t.tail_area_ratio * tail_gain * (1 - t.downwash)
    wing_angle_0 = t.wing_incidence - t.wing_zero_lift
    # At zero body angle the wing already lifts, and so already washes the tail down.
    tail_angle_0 = t.tail_incidence - t.downwash * wing_angle_0
    wing_lift_0 = t.wing_slope * wing_angle_0
    tail_lift_0 = tail_gain * tail_angle_0
    arm = cg_fraction - 0.25
    cl_0 = wing_lift_0 + t.tail_area_ratio * tail_lift_0
    cm_0 = t.wing_moment + wing_lift_0 * arm - tail_lift_0 * (t.tail_volume - t.tail_area_ratio * arm)
    if t.control_on_wing:
        lift_control = t.wing_slope * t.control_effect
        moment_control = lift_control * (arm - t.control_arm)
    else:
        lift_control = t.tail_area_ratio * tail_gain * t.control_effect
        moment_control = -tail_gain * t.control_effect * (t.tail_volume - t.tail_area_ratio * arm)
    matrix = np.array([[slope, lift_control], [-slope * (neutral_point - cg_fraction), moment_control]])
    if abs(np.linalg.det(matrix)) < 1e-6:
        return None
    alpha, control = np.linalg.solve(matrix, [c_l - cl_0, -cm_0])
    return Trim(float(alpha), float(control))
