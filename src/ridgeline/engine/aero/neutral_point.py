"""Lift slopes, downwash and the neutral point by the pencil-and-paper formula."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ridgeline.engine.bands import BAND

#: Tail dynamic pressure over free stream: 0.9 to 1.0 (handbook of the trade §7).
TAIL_PRESSURE_RATIO = 0.95
TAIL_PRESSURE_SIGMA = 0.05 / BAND
#: Downwash factor k for a tail 0, 0.1 and 0.2 spans off the wing plane (handbook of the trade §7).
_DOWNWASH_HEIGHT = (0.0, 0.1, 0.2)
_DOWNWASH_FACTOR = (0.86, 0.74, 0.60)
#: What the formula itself is good for on plain layouts, as a share of the mean chord (one sigma).
FORMULA_SIGMA = 0.03 / BAND


def lift_slope(aspect_ratio: float, half_chord_sweep: float = 0.0) -> float:
    """Return the lift slope of a surface, 1/rad: 2πA/(2 + √(4 + A²(1 + tan²Λ½))).

    Parameters
    ----------
    aspect_ratio : float
        Span squared over area.
    half_chord_sweep : float
        Tangent of the half-chord sweep.

    Source
    ------
    Helmbold–Polhamus form at low speed (DATCOM §4.1.3.2 with κ = 1): docs/theory.md §7.
    """
    a = aspect_ratio
    return 2 * math.pi * a / (2 + math.sqrt(4 + a * a * (1 + half_chord_sweep**2)))


def downwash_gradient(wing_slope: float, aspect_ratio: float, height_over_span: float) -> float:
    """Return dε/dα at the tail: k · 2 a_w/(π A), k by the tail's height off the wing plane.

    Parameters
    ----------
    wing_slope : float
        1/rad.
    aspect_ratio : float
    height_over_span : float
        Of the tail over the wing plane.

    Returns
    -------
    float
        dε/dα.

    Source
    ------
    Lifting-line far wake with the handbook's k: docs/theory.md §7.
    """
    k = float(np.interp(abs(height_over_span), _DOWNWASH_HEIGHT, _DOWNWASH_FACTOR))
    return k * 2 * wing_slope / (math.pi * aspect_ratio)


class HandNeutralPoint(NamedTuple):
    """Neutral point as a fraction of the mean chord, and the whole aircraft's lift slope, 1/rad."""

    fraction: float
    lift_slope: float


def hand_neutral_point(
    wing_slope: float,
    tail_slope: float,
    tail_area_ratio: float,
    tail_volume: float,
    downwash: float,
    pressure_ratio: float = TAIL_PRESSURE_RATIO,
) -> HandNeutralPoint:
    """Return the neutral point of wing and tail, as a fraction of c̄ behind its leading edge.

    x_np/c̄ = ¼ + η V_H (a_t/a)(1 − ε′), a = a_w + η (S_t/S) a_t (1 − ε′).

    Parameters
    ----------
    wing_slope, tail_slope : float
        1/rad.
    tail_area_ratio : float
        Over the wing's.
    tail_volume : float
    downwash : float
        dε/dα.
    pressure_ratio : float
        Dynamic pressure at the tail.

    Returns
    -------
    HandNeutralPoint

    Source
    ------
    docs/theory.md §7. Holds for one wing with a tail behind it, or without a tail (then ¼ c̄).
    """
    tail_share = pressure_ratio * tail_slope * (1 - downwash)
    slope = wing_slope + tail_area_ratio * tail_share
    return HandNeutralPoint(0.25 + tail_volume * tail_share / slope, slope)


def body_shift(volume: float, fineness: float, area: float, mac: float, slope: float) -> float:
    """Return how far a body moves the neutral point forward, as a fraction of c̄ (positive = forward).

    Parameters
    ----------
    volume : float
        Body volume, m³.
    fineness : float
        Length over equivalent diameter.
    area, mac, slope : float
        Reference area m², mean chord m, lift slope 1/rad.

    Source
    ------
    Munk, NACA Report 184: dM/dα = 2 (k2 − k1) q Vol, with k2 − k1 read from Munk's ellipsoids.
    """
    mass_factor = float(np.interp(fineness, (1.0, 2.0, 4.0, 6.0, 10.0, 20.0), (0.0, 0.49, 0.78, 0.87, 0.94, 0.98)))
    return 2 * mass_factor * volume / (area * mac * slope)
