"""Plain flaps by thin-airfoil theory: how much angle they are worth, and where their lift acts."""

from __future__ import annotations

import math


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
