"""How hard the air holds a control: hinge moments of plain flaps by thin-airfoil theory, and what is kept of them."""

from __future__ import annotations

import math
from typing import NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.bands import BAND

#: Share of the theory's hinge moment that real sections show, middle and half width of nine in ten (second part of the
#: handbook §17: 0.7 to 1.0).
KEPT, KEPT_SIGMA = 0.85, 0.15 / BAND

#: Shares of the chord: one, or an array of them.
Shares = TypeVar("Shares", float, NDArray[np.float64])


class Hinge(NamedTuple):
    """Hinge-moment coefficients per rad of angle of attack and of deflection, trailing edge down positive."""

    alpha: float
    delta: float


def hinge_coefficients(chord_fraction: float) -> Hinge:
    """Return the hinge-moment coefficients of a plain flap by thin-airfoil theory: upper bounds.

    Parameters
    ----------
    chord_fraction : float
        Of the chord behind the hinge.

    Returns
    -------
    Hinge
        Over q, the control's area and its chord.

    Source
    ------
    Glauert's flat plate and flap integrated behind the hinge (docs/theory.md §14), θ = arccos(1 − 2x) at the hinge:
    C_hα = −K/E², K = (π − θ)(cos θ − ½) + sin θ (1 − ½ cos θ);
    C_hδ = −[(π − θ) K + ½ sin θ ((π − θ) cos θ + sin θ)]/(π E²).
    """
    share = min(max(chord_fraction, 1e-3), 1.0)
    theta = math.acos(1 - 2 * (1 - share))
    behind, cosine, sine = math.pi - theta, math.cos(theta), math.sin(theta)
    k = behind * (cosine - 0.5) + sine * (1 - 0.5 * cosine)
    delta = behind * k + 0.5 * sine * (behind * cosine + sine)
    return Hinge(-k / share**2, -delta / (math.pi * share**2))


def flap_moment(chord_fraction: Shares) -> Shares:
    """Return the pitching moment about the quarter chord that a plain flap makes, per rad at a fixed angle of attack.

    Parameters
    ----------
    chord_fraction : float or ndarray
        Of the chord behind the hinge.

    Returns
    -------
    float or ndarray
        Nose up positive.

    Source
    ------
    c_mδ = −½ sin θ (1 − cos θ): Glauert.
    """
    theta = np.arccos(1 - 2 * (1 - chord_fraction))
    found: Shares = -0.5 * np.sin(theta) * (1 - np.cos(theta))
    return found


def hinge_moment(
    chord_fraction: float, pressure: float, area: float, chord: float, alpha: float, deflection: float
) -> float:
    """Return the moment of the air about a hinge, N m, trailing edge down positive.

    Parameters
    ----------
    chord_fraction : float
        Of the chord behind the hinge.
    pressure : float
        Dynamic, Pa.
    area, chord : float
        Of the control behind its hinge, m² and mean m.
    alpha, deflection : float
        rad; trailing edge down positive.

    Returns
    -------
    float

    Source
    ------
    H = (C_hα α + C_hδ δ) q S_c c_c (handbook of the trade §9), times what is kept of the theory.
    """
    found = hinge_coefficients(chord_fraction)
    return KEPT * (found.alpha * alpha + found.delta * deflection) * pressure * area * chord
