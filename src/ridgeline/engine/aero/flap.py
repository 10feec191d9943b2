"""Plain flaps by thin-airfoil theory: how much angle they are worth, where their lift acts, what they cost."""

from __future__ import annotations

import math
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.bands import BAND
from ridgeline.engine.roots import root_in

#: Share of the thin-airfoil effect that real plain flaps keep, by deflection in degrees (handbook of the trade §14).
_KEPT_AT = (0.0, 10.0, 25.0, 40.0, 60.0)
_KEPT = (0.85, 0.85, 0.60, 0.45, 0.35)
#: A plain flap raises the section's limit by about this share of the lift it adds at a fixed angle (DATCOM §6.1.4).
LIMIT_SHARE = 0.60
LIMIT_SIGMA = 0.30 / BAND


#: Shares of the chord: one, or an array of them.
Shares = TypeVar("Shares", float, NDArray[np.float64])


def thin_effectiveness(chord_fraction: Shares) -> Shares:
    """Return τ of a plain flap by thin-airfoil theory: angle of attack per angle of deflection.

    Parameters
    ----------
    chord_fraction : float or ndarray
        Of the chord behind the hinge.

    Returns
    -------
    float or ndarray
        Τ.

    Source
    ------
    τ = 1 − (θ − sin θ)/π, θ = arccos(1 − 2x) at the hinge x: Glauert.
    """
    theta = np.arccos(1 - 2 * (1 - chord_fraction))
    effect: Shares = 1 - (theta - np.sin(theta)) / math.pi
    return effect


def flap_effectiveness(chord_fraction: Shares) -> Shares:
    """Return τ of a plain flap with 0.85 for small real deflections.

    Parameters
    ----------
    chord_fraction : float or ndarray
        Of the chord behind the hinge.

    Returns
    -------
    float or ndarray
        Τ.

    Source
    ------
    `thin_effectiveness`; factor: handbook of the trade §14.
    """
    return _KEPT[0] * thin_effectiveness(chord_fraction)


def effective_deflection(deflection: float) -> float:
    """Return the small deflection, rad, that is worth as much lift as a large one: flow parts from a steep flap.

    Parameters
    ----------
    deflection : float
        rad.

    Returns
    -------
    float
        rad.

    Source
    ------
    Effectiveness ×0.85 below 10°, ×0.6 at 25°, ×0.45 at 40°: handbook of the trade §14.
    """
    kept = float(np.interp(abs(math.degrees(deflection)), _KEPT_AT, _KEPT))
    return deflection * kept / _KEPT[0]


def deflection_for(effective: float) -> float:
    """Return the deflection, rad, that is worth an effective one: the inverse of `effective_deflection`, up to 60°.

    Parameters
    ----------
    effective : float
        rad.

    Returns
    -------
    float
        rad.
    """
    most = math.radians(_KEPT_AT[-1])
    wanted = abs(effective)
    if wanted >= effective_deflection(most):
        return math.copysign(most, effective)
    return math.copysign(root_in(lambda d: effective_deflection(d) - wanted, 0.0, most, 1e-12), effective)


def flap_lift_arm(chord_fraction: Shares) -> Shares:
    """Return how far behind the quarter chord the lift of a plain flap acts, as a fraction of the chord.

    Parameters
    ----------
    chord_fraction : float or ndarray
        Of the chord behind the hinge.

    Returns
    -------
    float or ndarray
        Over the chord.

    Source
    ------
    Thin-airfoil theory: ½ sin θ (1 − cos θ)/(2(π − θ + sin θ)) at the hinge, docs/theory.md §7.
    """
    theta = np.arccos(1 - 2 * (1 - chord_fraction))
    arm: Shares = 0.5 * np.sin(theta) * (1 - np.cos(theta)) / (2 * (math.pi - theta + np.sin(theta)))
    return arm


def flap_drag(chord_fraction: float, area_share: float, deflection: float) -> float:
    """Return the profile drag coefficient that plain flaps add, referred to the wing, ±30 %.

    Parameters
    ----------
    area_share : float
        Wing area with flaps behind it over wing area.

    Source
    ------
    Young, ARC R&M 2622: 1.7 (c_f/c)^1.38 (S_f/S) sin²δ for plain flaps.
    """
    result: float = 1.7 * chord_fraction**1.38 * area_share * math.sin(deflection) ** 2
    return result
