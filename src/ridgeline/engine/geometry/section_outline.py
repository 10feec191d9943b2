"""Outlines of the built section forms for a given thickness and sheet, and the mean line of any outline."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
#: Chordwise places of an outline: cosine spacing, fine at both ends.
STATIONS = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 41)))
_FOLD = 0.3
_FOUR_DIGIT_MOST = 0.10002


def _four_digit(x: Array) -> Array:
    """Return the half thickness of the four-digit sections over their thickness (0.5 at the thickest).

    Source
    ------
    NACA Report 460, trailing edge closed.
    """
    return 5 * (0.2969 * np.sqrt(x) - 0.1260 * x - 0.3516 * x**2 + 0.2843 * x**3 - 0.1036 * x**4)


def _rounded(x: Array, sheet: float, nose: float) -> Array:
    """Return the half thickness of a sheet whose nose is rounded over a length."""
    result: Array = 0.5 * sheet * np.sqrt(np.clip(1 - (1 - np.minimum(x / nose, 1)) ** 2, 0, 1))
    return result


def _sharp_plate(_t: float, sheet: float) -> tuple[Array, Array]:
    half = np.full_like(STATIONS, 0.5 * sheet)
    return half, -half


def _rounded_plate(_t: float, sheet: float) -> tuple[Array, Array]:
    half = _rounded(STATIONS, sheet, max(0.5 * sheet, 0.01))
    return half, -half


def _curved_sheet(t: float, sheet: float) -> tuple[Array, Array]:
    arc = 4 * max(t - sheet, 0.0) * STATIONS * (1 - STATIONS)
    half = _rounded(STATIONS, sheet, max(0.5 * sheet, 0.01))
    return arc + half, arc - half


def _folded(t: float, sheet: float) -> tuple[Array, Array]:
    # Two sheets meet at the nose fold and are glued at the trailing edge; the spar holds them apart between.
    top = np.interp(STATIONS, [0.0, _FOLD, 1.0], [1.6 * sheet, max(t, 2 * sheet), 1.2 * sheet])
    nose = np.sqrt(np.clip(1 - (1 - np.minimum(STATIONS / (1.6 * sheet), 1)) ** 2, 0, 1))
    middle = 0.5 * top
    return middle + nose * middle, middle - nose * middle


def _flat_bottom(t: float, _sheet: float) -> tuple[Array, Array]:
    # The nose is raised a quarter of the thickness, as on the classic flat-bottomed sections.
    lift = 0.25 * t * np.clip(1 - STATIONS / 0.1, 0, None) ** 2
    return np.maximum(2 * t * _four_digit(STATIONS), lift), lift


def _cambered(camber: float, place: float) -> Callable[[float, float], tuple[Array, Array]]:
    def build(t: float, _sheet: float) -> tuple[Array, Array]:
        x = STATIONS
        ahead = camber / place**2 * (2 * place * x - x**2)
        behind = camber / (1 - place) ** 2 * (1 - 2 * place + 2 * place * x - x**2)
        line = np.where(x < place, ahead, behind)
        half = t * _four_digit(x)
        return line + half, line - half

    return build


def _reflexed(t: float, _sheet: float) -> tuple[Array, Array]:
    line = np.interp(STATIONS, [0.0, 0.2, 0.45, 0.75, 1.0], [0.0, 0.022, 0.018, -0.003, 0.0])
    half = t * _four_digit(STATIONS)
    return line + half, line - half


_SHAPES: dict[str, Callable[[float, float], tuple[Array, Array]]] = {
    "sharp_plate": _sharp_plate,
    "rounded_plate": _rounded_plate,
    "curved_sheet": _curved_sheet,
    "folded": _folded,
    "flat_bottom": _flat_bottom,
    "semi_symmetrical": _cambered(0.02, 0.4),
    "symmetrical": _cambered(0.0, 0.4),
    "reflexed": _reflexed,
}


def outline_of(form: str, thickness: float, sheet: float) -> Array:
    """Return the closed outline of a built section over a unit chord, shape (n, 2).

    It runs from the trailing edge over the top to the nose and back.

    Parameters
    ----------
    form : str
        A built form, not ``profile``.
    thickness, sheet : float
        Greatest thickness (overall height for curved sheet), and that of the sheet, over the chord.

    Source
    ------
    Shapes as built: plates of one thickness, a second sheet to half chord, a fold over a spar at 30 %, or the
    four-digit thickness form (NACA Report 460) on the form's mean line.
    """
    if form == "stepped_plate":
        nose = 0.02
        return np.array(
            [
                *((1.0, sheet), (0.5, sheet), (0.5, 2 * sheet), (nose, 2 * sheet), (0.0, 1.4 * sheet)),
                *((0.0, 0.1 * sheet), (nose, 0.0), (1.0, 0.0)),
            ]
        )
    upper, lower = _SHAPES[form](thickness, sheet)
    return np.vstack([np.column_stack([STATIONS[::-1], upper[::-1]]), np.column_stack([STATIONS[1:], lower[1:]])])


def split(outline: ArrayLike) -> tuple[Array, Array]:
    """Return upper and lower surface of an outline, each from nose to tail, shape (m, 2).

    Parameters
    ----------
    outline : ndarray, shape (n, 2)
        Over a unit chord, from the trailing edge over the top.

    Returns
    -------
    upper, lower: ndarray, shape (m, 2)
        From nose to tail.
    """
    points = np.asarray(outline, float)
    nose = int(np.argmin(points[:, 0]))
    # A square nose has its lower corner straight under the upper one.
    blunt = nose + 1 < len(points) and points[nose + 1, 0] <= points[nose, 0] + 1e-12
    return points[: nose + 1][::-1], points[nose + int(blunt) :]


def mean_line_of(outline: ArrayLike) -> Array:
    """Return the mean line of an outline, halfway between top and bottom at the cosine places, shape (41, 2).

    Parameters
    ----------
    outline : ndarray, shape (n, 2)
        Over a unit chord.

    Returns
    -------
    ndarray, shape (41, 2)
        Over a unit chord.
    """
    upper, lower = split(outline)

    def at(side: Array) -> Array:
        order = np.argsort(side[:, 0], kind="stable")
        result: Array = np.interp(STATIONS, side[order, 0], side[order, 1])
        return result

    return np.column_stack([STATIONS, 0.5 * (at(upper) + at(lower))])


def thickness_of(outline: ArrayLike) -> float:
    """Return the greatest distance between top and bottom, over the chord.

    Parameters
    ----------
    outline : ndarray, shape (n, 2)
        Over a unit chord.

    Returns
    -------
    float
        Over the chord.
    """
    upper, lower = split(outline)
    x = np.linspace(0.0, 1.0, 201)

    def at(side: Array) -> Array:
        order = np.argsort(side[:, 0], kind="stable")
        result: Array = np.interp(x, side[order, 0], side[order, 1])
        return result

    return float(np.max(at(upper) - at(lower)))


def camber_of(line: ArrayLike) -> float:
    """Return the greatest height of a mean line over the straight line between its ends, with its sign.

    Parameters
    ----------
    line : ndarray, shape (n, 2)
        Mean line over a unit chord.

    Returns
    -------
    float
        Over the chord.
    """
    points = np.asarray(line, float)
    chord = np.interp(points[:, 0], [0.0, 1.0], [points[0, 1], points[-1, 1]])
    height = points[:, 1] - chord
    return float(height[np.argmax(np.abs(height))])
