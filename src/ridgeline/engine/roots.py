"""Roots: one in a bracket, the edge of what holds, and the root of a parabola that lies in an interval."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

Array = np.ndarray[Any, np.dtype[np.float64]]


def root_in(
    function: Callable[[float], float],
    low: float,
    high: float,
    close: float,
    at_low: float | None = None,
    at_high: float | None = None,
) -> float:
    """Return where a function crosses nothing between two places.

    Parameters
    ----------
    function : callable
        Of one place; it may be a whole aircraft, so that each call counts.
    low, high : float
        The bracket.
    close : float
        How near the root must be known, in the units of ``low`` and ``high``.
    at_low, at_high : float, optional
        The function's values at the ends where they are known already.

    Returns
    -------
    float

    Raises
    ------
    ValueError
        When both ends have the same sign.

    Source
    ------
    Brent's method, from SciPy; imported when the first root is looked for, since it takes long.
    """
    from scipy.optimize import brentq

    known = {place: value for place, value in ((low, at_low), (high, at_high)) if value is not None}
    return float(brentq(lambda x: known[x] if x in known else function(x), low, high, xtol=close))


def edge_in(holds: Callable[[float], bool], low: float, high: float, close: float) -> float:
    """Return the largest value at which something still holds, where it holds below an edge and not above.

    Parameters
    ----------
    holds : callable
        Of one value.
    low, high : float
        Where it holds, and where it does not.
    close : float
        How near the edge must be known.

    Returns
    -------
    float
        On the side where it holds.
    """
    while high - low > close:
        middle = 0.5 * (low + high)
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low


def parabola_root(a: Array, b: Array, c: Array, low: Array, high: Array) -> Array:
    """Return the root of a x² + b x + c that lies nearest to an interval, without cancellation.

    Parameters
    ----------
    a, b, c : ndarray
        Of a x² + b x + c.
    low, high : ndarray
        Ends of the interval.

    Returns
    -------
    ndarray
        The root nearest to it.
    """
    with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
        q = -0.5 * (b + np.where(b < 0, -1.0, 1.0) * np.sqrt(np.maximum(b * b - 4 * a * c, 0.0)))
        one, two = q / a, c / q
        far_one = np.where(np.isfinite(one), np.maximum(low - one, one - high), np.inf)
        far_two = np.where(np.isfinite(two), np.maximum(low - two, two - high), np.inf)
    result: Array = np.where(far_one <= far_two, one, two)
    return result
