"""Moments of inertia of placed masses about the balance point."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike


@dataclass(frozen=True)
class Inertia:
    """Moments of inertia about the balance point, kg m²: in roll, pitch and yaw; ``product`` of roll and yaw.

    The product is the sum of m·x·z, x forward and z down.
    """

    roll: float
    pitch: float
    yaw: float
    product: float = 0.0

    @property
    def least(self) -> float:
        """The least moment about any axis in the plane of symmetry, or across it."""
        middle, half = (self.roll + self.yaw) / 2, (self.roll - self.yaw) / 2
        return min(self.pitch, middle - math.hypot(half, self.product))


def inertia_of(
    mass: ArrayLike, place: ArrayLike, out: ArrayLike, centre: ArrayLike, size: ArrayLike = (0.0, 0.0, 0.0)
) -> Inertia:
    """Sum placed masses into moments of inertia.

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
    size : array_like, shape (n, 3) or (3,)
        Extent of each piece along x, y and z, m, evenly filled; nothing for points.

    Source
    ------
    Parallel axes, and m (b² + c²)/12 of each piece about its own middle: docs/theory.md §10.
    """
    m, r, y = np.asarray(mass, float), np.asarray(place, float) - np.asarray(centre, float), np.asarray(out, float)
    # Second moments about the three planes through the balance point, over the mass.
    extent = np.broadcast_to(np.asarray(size, float), r.shape)
    squares = r**2 + extent**2 / 12.0
    squares[:, 1] += y**2
    total = m @ squares
    return Inertia(
        float(total[1] + total[2]),
        float(total[0] + total[2]),
        float(total[0] + total[1]),
        float(m @ (r[:, 0] * r[:, 2])),
    )
