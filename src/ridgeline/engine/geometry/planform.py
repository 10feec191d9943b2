"""Planform integrals of a half wing given as stations, exact for straight panels."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


class MeanChord(NamedTuple):
    """The mean aerodynamic chord of a half wing: its ``length``, spanwise place ``y`` and ``x_leading_edge``, m."""

    length: float
    y: float
    x_leading_edge: float


def panel_areas(y: ArrayLike, chord: ArrayLike) -> Array:
    """Return the area of each panel between stations.

    Parameters
    ----------
    y, chord : array_like, shape (n,)
        Stations from root to tip, m.

    Returns
    -------
    ndarray, shape (n-1,)
        Areas, m².
    """
    y, chord = np.asarray(y, float), np.asarray(chord, float)
    result: Array = 0.5 * (chord[1:] + chord[:-1]) * np.diff(y)
    return result


def _integral_of_product(y: Array, first: Array, second: Array) -> float:
    """Integrate the product of two piecewise-linear functions exactly (Simpson is exact to cubics)."""
    a0, a1, b0, b1 = first[:-1], first[1:], second[:-1], second[1:]
    return float(np.sum(np.diff(y) * (2 * a0 * b0 + a0 * b1 + a1 * b0 + 2 * a1 * b1) / 6))


def mean_aerodynamic_chord(y: ArrayLike, chord: ArrayLike, x_leading_edge: ArrayLike) -> MeanChord:
    """Integrate a half wing of straight panels to its mean aerodynamic chord.

    Parameters
    ----------
    y, chord, x_leading_edge : array_like, shape (n,)
        Stations from root to tip, m; ``y`` strictly increasing.

    Returns
    -------
    MeanChord
        ``length``, ``y`` and ``x_leading_edge`` of the mean aerodynamic chord, m.

    Raises
    ------
    ValueError
        When ``y`` does not increase or the area is not positive.

    Source
    ------
    Definition c̄ = (2/S) ∫ c² dy, exact for linear chord: docs/theory.md §2.
    """
    y, c, x = (np.asarray(values, float) for values in (y, chord, x_leading_edge))
    if np.any(np.diff(y) <= 0):
        raise ValueError("y must increase from root to tip")
    half_area = float(panel_areas(y, c).sum())
    if not half_area > 0:
        raise ValueError("the area must be positive")
    return MeanChord(
        _integral_of_product(y, c, c) / half_area,
        _integral_of_product(y, c, y) / half_area,
        _integral_of_product(y, c, x) / half_area,
    )


def sweep_tangent(y: ArrayLike, chord: ArrayLike, x_leading_edge: ArrayLike, at: float) -> float:
    """Return the area-weighted mean tangent of the sweep of the line at chord fraction ``at``.

    Parameters
    ----------
    y, chord, x_leading_edge : array_like, shape (n,)
        Stations from root to tip, m.
    at : float
        Fraction of the chord.

    Returns
    -------
    float
        Tangent of the sweep, aft positive.

    Source
    ------
    Weighted by panel area, exact for one panel: docs/theory.md §2.
    """
    y, c, x = (np.asarray(values, float) for values in (y, chord, x_leading_edge))
    areas = panel_areas(y, c)
    return float(np.sum(areas * np.diff(x + at * c) / np.diff(y)) / np.sum(areas))


def chord_at(y_wanted: ArrayLike, y: ArrayLike, chord: ArrayLike) -> Array:
    """Interpolate a station quantity linearly along the span; constant beyond the ends.

    Parameters
    ----------
    y_wanted : array_like
        Out from the root, m.
    y, chord : array_like, shape (n,)
        Stations from root to tip, m.

    Returns
    -------
    ndarray
        At the places wanted.
    """
    result: Array = np.interp(np.asarray(y_wanted, float), np.asarray(y, float), np.asarray(chord, float))
    return result
