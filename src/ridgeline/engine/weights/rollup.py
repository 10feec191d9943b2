"""Roll up masses into the all-up weight and the centre of gravity, with bands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class MassState:
    """All-up mass kg, centre of gravity m (x aft, y starboard, z up) and one-sigma values of each.

    ``x_shares`` (n,) is each item's part of the variance of x; with the correlated batches shared out in
    proportion to each member's contribution, the shares sum to one.
    """

    mass: float
    cg: Array
    sigma_mass: float
    sigma_cg: Array
    x_shares: Array


def roll_up(
    mass: ArrayLike, place: ArrayLike, sigma_mass: ArrayLike, sigma_place: ArrayLike, batch: ArrayLike
) -> MassState:
    """Sum items into mass, centre of gravity and bands.

    Parameters
    ----------
    mass, sigma_mass : array_like, shape (n,)
        Mass of each item and its one-sigma error, kg. Negative masses (cut-outs) are allowed.
    place : array_like, shape (n, 3)
        Centre of each item, m.
    sigma_place : array_like, shape (n,)
        One-sigma error of the fore-and-aft place, m.
    batch : array_like of int, shape (n,)
        Items of one non-negative batch err together (one material, one setting); −1 errs alone.

    Raises
    ------
    ValueError
        When the total mass is not positive.

    Source
    ------
    r = Σ m r/Σ m; first-order propagation with full correlation inside a batch: docs/theory.md §5.
    """
    m, s = np.asarray(mass, float), np.asarray(sigma_mass, float)
    r, s_r, group = np.asarray(place, float).reshape(-1, 3), np.asarray(sigma_place, float), np.asarray(batch)
    total = float(m.sum())
    if not total > 0:
        raise ValueError("the masses must sum to more than nothing")
    cg = (m @ r) / total

    by_mass = (r - cg) / total * s[:, None]
    by_place = (m / total * s_r) ** 2
    alone = group < 0
    variance = np.sum(by_mass[alone] ** 2, axis=0)
    mass_variance = float(np.sum(s[alone] ** 2))
    x_part = np.where(alone, by_mass[:, 0] ** 2, 0.0) + by_place
    for label in np.unique(group[~alone]):
        members = group == label
        together = by_mass[members].sum(axis=0)
        variance = variance + together**2
        mass_variance += float(s[members].sum()) ** 2
        weight = np.abs(by_mass[members, 0])
        x_part[members] += together[0] ** 2 * weight / max(float(weight.sum()), 1e-30)
    variance = variance + np.array([by_place.sum(), 0.0, 0.0])
    whole = float(x_part.sum())
    return MassState(
        mass=total,
        cg=cg,
        sigma_mass=float(np.sqrt(mass_variance)),
        sigma_cg=np.sqrt(variance),
        x_shares=x_part / whole if whole > 0 else np.zeros_like(x_part),
    )
