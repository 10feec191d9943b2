"""What a model weighs and where it balances now, while some of its parts are not on yet."""

from __future__ import annotations

from dataclasses import fields, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.weights.growth import roll_up_grown
from ridgeline.engine.weights.items import ItemArrays
from ridgeline.engine.weights.rollup import MassState


def without(items: ItemArrays, growth: float, off: NDArray[np.bool_]) -> MassState | None:
    """Return what the rest weighs and where it balances, while some items are not on.

    Parameters
    ----------
    items : ItemArrays
    growth : float
        Kept on what is not weighed yet, a share.
    off : ndarray of bool, shape (n,)
        Which are not on.

    Returns
    -------
    MassState or None
        None where nothing is left.

    Source
    ------
    x = (M x̄ − Σ m x)/(M − Σ m): docs/theory.md §16.
    """
    rest: ItemArrays = replace(items, **{one.name: getattr(items, one.name)[~off] for one in fields(items)})
    return roll_up_grown(rest, growth)[0] if float(rest.mass.sum()) > 0 else None


def with_the_rest(
    mass: float, cg: NDArray[np.float64], absent_mass: NDArray[np.float64], absent_place: NDArray[np.float64]
) -> tuple[float, NDArray[np.float64]]:
    """Return mass and balance of the whole from those of what was weighed, and what was not on.

    Parameters
    ----------
    mass : float
        As weighed, kg.
    cg : ndarray, shape (k,)
        Balance as weighed, m.
    absent_mass : ndarray, shape (n,)
        kg.
    absent_place : ndarray, shape (n, k)
        m.

    Returns
    -------
    mass : float
    cg : ndarray, shape (k,)
    """
    total = mass + float(absent_mass.sum())
    return total, (mass * cg + absent_mass @ absent_place) / total
