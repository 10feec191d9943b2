"""Where the balance point stands to the wing once the aircraft flies at its angle: turned with the body."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


class Height(NamedTuple):
    """How the balance point hangs: over the wing's quarter chord (negative under it), in mean chords.

    ``profile`` and ``induced`` give the drag that pulls at the wing's height, C_D = profile + induced·C_L².
    """

    value: float = 0.0
    profile: float = 0.0
    induced: float = 0.0


#: A balance point in the plane of the wing, turned by nothing.
LEVEL = Height()


def arm(cg_fraction: float, height: Height, alpha: ArrayLike) -> Array:
    """Return how far behind the wing's quarter chord the balance point stands in flight, in mean chords along the body.

    Parameters
    ----------
    cg_fraction : array_like
        Fraction of the mean chord.
    height : Height
        Of the balance point.
    alpha : array_like
        Body angle, rad.

    Returns
    -------
    ndarray
        In mean chords.

    Source
    ------
    Turned about the quarter chord by the body's angle to the air, a point z over it moves aft by z·tan α as measured
    along the body, where the lattice's own arms are: docs/theory.md §7.
    """
    result: Array = cg_fraction - 0.25 + height.value * np.tan(np.asarray(alpha, float))
    return result


def drag_couple(height: Height, c_l: Any) -> Any:
    """Return the moment coefficient, nose up, of the wing's drag past the balance point: −C_D z (any shape)."""
    return -(height.profile + height.induced * c_l * c_l) * height.value


def margin_of_height(height: float, alpha: float, c_l: float, slope: float, induced: float) -> float:
    """Return what the height of the balance point adds to the static margin, in mean chords.

    Parameters
    ----------
    height : float
        Over the wing's quarter chord, in mean chords.
    alpha : float
        Body's angle to the air, rad.
    c_l, slope : float
        Lift coefficient there, and its slope, 1/rad.
    induced : float
        Drag over lift squared.

    Source
    ------
    −dC_m/dC_L of `arm` and `drag_couple`: −z (tan α + C_L(1/C_Lα − 2k)), sec² α taken as one. docs/theory.md §7.
    """
    return float(-height * (np.tan(alpha) + c_l * (1 / slope - 2 * induced)))
