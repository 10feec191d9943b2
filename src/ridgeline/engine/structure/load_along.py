"""What pulls on a half along its span, as it is drawn: lift and the weight that relieves it, outside the seat."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.structure.beam import Carried
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.hung import Hanging

Array = NDArray[np.float64]


class LoadAlong(NamedTuple):
    """Lift up and weight of the panel down, (k,) N/m, at even places ``y`` (k,) m out from the seat's edge to the tip.

    ``items`` is what hangs there besides: places out, m, and what each weighs, N.
    """

    y: Array
    lift: Array
    weight: Array
    items: tuple[tuple[float, float], ...]

    @property
    def lifted(self) -> float:
        """All of the lift outside the seat, N."""
        return float(np.sum(self.lift) * (self.y[1] - self.y[0]))

    @property
    def hung(self) -> float:
        """All that hangs outside the seat, N."""
        return float(np.sum(self.weight) * (self.y[1] - self.y[0])) + sum(weight for _out, weight in self.items)


def load_along(half: Half, shear: Array, places: int) -> LoadAlong:
    """Return what pulls on a half of which only the air's load is known.

    Parameters
    ----------
    half : Half
    shear : ndarray, shape (n,)
        At its stations, N.
    places : int

    Returns
    -------
    LoadAlong
    """
    edges = np.linspace(max(half.seat, float(half.y[0])), float(half.y[-1]), places)
    lift = -np.diff(np.interp(edges, half.y, shear)) / np.diff(edges)
    return LoadAlong(0.5 * (edges[1:] + edges[:-1]), lift, np.zeros(places - 1), ())


def flown_along(half: Half, shear: Array, hanging: Hanging, weight: Carried, inertia: float, places: int) -> LoadAlong:
    """Return what pulls on a half in a case: its lift, and what hangs on it times the load factor.

    Parameters
    ----------
    half : Half
    shear : ndarray, shape (n,)
        Of the case at its stations, N: lift less weight.
    hanging : Hanging
    weight : Carried
        What hangs on it as shear at 1 g, (n,) N.
    inertia : float
        Load factor.
    places : int

    Returns
    -------
    LoadAlong
    """
    found = load_along(half, shear - inertia * weight.shear, places)
    own = hanging.panel / float(np.trapezoid(half.chord, half.y)) * np.interp(found.y, half.y, half.chord)
    items = tuple((out, inertia * GRAVITY * mass) for out, mass in hanging.items if out > half.seat)
    return found._replace(weight=inertia * GRAVITY * own, items=items)
