"""The finished model on two or three scales: its mass and balance, and what that says of the unweighed items."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.weights.items import ItemArrays

Array = NDArray[np.float64]
#: How far nose down a model is turned to tell the height of its balance point, rad: less tells nothing, more slides.
LEAST_TILT, MOST_TILT = math.radians(5) - 1e-9, math.radians(60) + 1e-9
#: Supports whose equations are worse than this stand in one line.
_IN_LINE = 1e8


@dataclass(frozen=True)
class Supported:
    """What supports say: mass kg, centre of gravity (x, y) m, and one-sigma errors of each."""

    mass: float
    cg: Array
    sigma_mass: float
    sigma_cg: Array


def from_supports(reading: ArrayLike, place: ArrayLike, sigma: float = 0.0007, sigma_place: float = 0.001) -> Supported:
    """Return mass and balance from the readings under a level model.

    Parameters
    ----------
    reading : array_like, shape (n,)
        What each support carries, kg.
    place : array_like, shape (n, 2)
        Where each stands, x aft and y to starboard, m.
    sigma, sigma_place : float
        One-sigma errors of a reading, kg, and of a support's place, m.

    Raises
    ------
    ValueError
        With fewer than two supports, or nothing on them.

    Source
    ------
    r = Σ R r/Σ R, errors to first order: docs/theory.md §6.
    """
    r, at = np.asarray(reading, float), np.asarray(place, float).reshape(-1, 2)
    total = float(r.sum())
    if len(r) < 2 or len(r) != len(at) or not total > 0:
        raise ValueError("a model stands on two supports or more, and weighs something")
    cg = r @ at / total
    by_reading = ((at - cg) / total * sigma) ** 2
    by_place = (r[:, None] / total * sigma_place) ** 2
    return Supported(total, cg, float(np.sqrt(len(r)) * sigma), np.sqrt((by_reading + by_place).sum(axis=0)))


def on_supports(mass: float, cg: ArrayLike, place: ArrayLike) -> Array:
    """Return what two or three supports carry of a level model, kg: the inverse of `from_supports`.

    Parameters
    ----------
    mass : float
        kg.
    cg : array_like, shape (2,)
        Balance point, x aft and y to starboard, m.
    place : array_like, shape (n, 2)
        Where each support stands, m. Two carry it along the line between them, whatever the balance point's side.

    Returns
    -------
    ndarray, shape (n,)

    Raises
    ------
    ValueError
        When it would topple: supports in one place or in one line, or a balance point outside them.

    Source
    ------
    Σ R = m, Σ R r = m r: docs/theory.md §6.
    """
    at, point = np.asarray(place, float).reshape(-1, 2), np.asarray(cg, float)
    axes = 1 if len(at) == 2 else 2
    rows = np.vstack([np.ones(len(at)), at[:, :axes].T])
    if len(at) not in (2, 3) or np.linalg.cond(rows) > _IN_LINE:
        raise ValueError("supports in one line hold nothing")
    loads: Array = np.linalg.solve(rows, mass * np.array([1.0, *point[:axes]]))
    if loads.min() < 0:
        raise ValueError("the balance point lies outside the supports")
    return loads


def height_from_tilt(level: Supported, tilted: Supported, tilt: float) -> tuple[float, float]:
    """Return how high the balance point lies over the line of the supports, m, and its one-sigma error.

    Parameters
    ----------
    level, tilted : Supported
        What the supports say level, and with the model nose down; both with places measured along the model.
    tilt : float
        Nose down, rad.

    Raises
    ------
    ValueError
        When it is tilted by less than 5 degrees or more than 60.

    Source
    ------
    Tilted by θ, a point h over the line moves ahead by h tan θ as the supports see it: docs/theory.md §6.
    """
    if not LEAST_TILT <= tilt <= MOST_TILT:
        raise ValueError("tilt it nose down by 5 to 60 degrees")
    turn = float(np.tan(tilt))
    error = float(np.hypot(level.sigma_cg[0], tilted.sigma_cg[0])) / turn
    return float(level.cg[0] - tilted.cg[0]) / turn, error


def spread_over(
    items: ItemArrays, expected: Array, mass: float, cg_x: float | None = None, cg_y: float | None = None
) -> Array:
    """Return masses that sum to what was weighed, moving only unweighed items in proportion to their variance.

    Parameters
    ----------
    items : ItemArrays
        The items as they are.
    expected : ndarray, shape (n,)
        Their masses to expect, with what the unweighed still gains, kg: what is moved as little as may be.
    mass : float
        Mass weighed, kg.
    cg_x : float, optional
        Balance weighed, m: the moment is matched too where two or more items are open.
    cg_y : float, optional
        Balance weighed to starboard, m: matched too where open items stand on different sides.

    Returns
    -------
    ndarray, shape (n,)
        New masses of all pieces of each item; unchanged where nothing is open.

    Source
    ------
    Least squares with weights 1/σ² under the constraints Σ δ = ΔM and Σ δ x = ΔMoment: δ = V Aᵀ (A V Aᵀ)⁻¹ c.
    """
    open_ = ~items.weighed & (items.sigma > 0)
    if not open_.any():
        return expected.copy()
    variance = np.where(open_, items.sigma**2, 0.0)
    rows = [np.ones(len(expected))]
    wanted = [mass - float(expected.sum())]
    for axis, aim in enumerate((cg_x, cg_y)):
        arm = items.place[:, axis]
        trial = np.array([*rows, arm])
        # A moment that the open items cannot make is left as it is.
        if aim is None or np.linalg.cond((trial * variance) @ trial.T) > 1e12:
            continue
        rows.append(arm)
        wanted.append(mass * aim - float(expected @ arm))
    a = np.array(rows)
    normal = (a * variance) @ a.T
    found: Array = expected + (variance[:, None] * a.T) @ np.linalg.solve(normal, np.array(wanted))
    return found
