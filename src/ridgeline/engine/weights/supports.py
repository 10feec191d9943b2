"""The finished model on two or three scales: its mass and balance, and what that says of the unweighed items."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.weights.items import ItemArrays

Array = NDArray[np.float64]


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


def spread_over(items: ItemArrays, mass: float, cg_x: float | None = None) -> Array:
    """Return masses that sum to what was weighed, moving only unweighed items in proportion to their variance.

    Parameters
    ----------
    items : ItemArrays
        The items as they are.
    mass : float
        Mass weighed, kg.
    cg_x : float, optional
        Balance weighed, m: the moment is matched too where two or more items are open.

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
        return items.mass.copy()
    variance = np.where(open_, items.sigma**2, 0.0)
    rows = [np.ones(len(items.mass))]
    wanted = [mass - float(items.mass.sum())]
    if cg_x is not None and np.count_nonzero(open_) > 1:
        rows.append(items.place[:, 0])
        wanted.append(mass * cg_x - float(items.mass @ items.place[:, 0]))
    a = np.array(rows)
    normal = (a * variance) @ a.T
    if np.linalg.cond(normal) > 1e12:
        a, wanted = a[:1], wanted[:1]
        normal = (a * variance) @ a.T
    found: Array = items.mass + (variance[:, None] * a.T) @ np.linalg.solve(normal, np.array(wanted))
    return found
