"""Moments of inertia of placed masses about the balance point."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike


@dataclass(frozen=True)
class Inertia:
    """Moments of inertia about the balance point, kg m²: in roll, pitch and yaw."""

    roll: float
    pitch: float
    yaw: float


def inertia_of(mass: ArrayLike, place: ArrayLike, out: ArrayLike, centre: ArrayLike) -> Inertia:
    """Sum point masses into moments of inertia.

    Parameters
    ----------
    mass : array_like, shape (n,)
        Mass of each item, kg.
    place : array_like, shape (n, 3)
        Centre of each item in the roll-up, m (a mirrored item stands on the centre line).
    out : array_like, shape (n,)
        How far each item's pieces lie to the sides of that centre, m.
    centre : array_like, shape (3,)
        Balance point, m.

    Source
    ------
    Parallel axes; items as points, so wide panels are taken at their middles: docs/theory.md §10.
    """
    m, r, y = np.asarray(mass, float), np.asarray(place, float) - np.asarray(centre, float), np.asarray(out, float)
    side = r[:, 1] ** 2 + y**2
    return Inertia(
        float(np.sum(m * (side + r[:, 2] ** 2))),
        float(np.sum(m * (r[:, 0] ** 2 + r[:, 2] ** 2))),
        float(np.sum(m * (r[:, 0] ** 2 + side))),
    )
