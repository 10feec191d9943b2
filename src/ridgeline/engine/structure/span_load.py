"""What pulls on a half wing along its span: the lattice's lift of a case, less the weight that hangs there."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.structure.beam import Carried, Force, carried

Array = NDArray[np.float64]


class SpanLift(NamedTuple):
    """Lift along one side of a surface: strips' middles out along the panel, m, their width, m, and lift, N/m; (s,).

    The lift is that square to the panel.
    """

    out: Array
    width: Array
    lift: Array

    @property
    def total(self) -> float:
        """Return the lift of the side, N."""
        return float(np.sum(self.lift * self.width))


def span_lift(model: AirframeLattice, surface: int, lift: float, pressure: float) -> SpanLift:
    """Return how a surface shares in a lift of the whole airframe.

    Parameters
    ----------
    model : AirframeLattice
    surface : int
        Index of the surface; its starboard side, where there are two.
    lift : float
        Of all surfaces together, N.
    pressure : float
        Dynamic pressure, Pa.

    Returns
    -------
    SpanLift
        From the root to the tip.

    Source
    ------
    The lattice at the angle that gives the lift, controls neutral (docs/theory.md §7, §13).
    """
    found = model.found
    wanted = lift / (pressure * model.scale.area)
    alpha = (wanted - found.zero.lift) / found.alpha.lift
    strips = model.loading(alpha)
    here = (model.strip_owner == surface) & (strips.y >= -1e-9)
    order = np.argsort(strips.out[here])
    lattice = model.solver.lattice
    # Tails meet a little less dynamic pressure.
    met = lattice.pressure[np.unique(lattice.strip, return_index=True)[1]]
    per_length = pressure * met * strips.chord * strips.c_l
    return SpanLift(strips.out[here][order], strips.width[here][order], per_length[here][order])


def net_load(
    lift: SpanLift, y: ArrayLike, chord: ArrayLike, mass: float, items: Iterable[tuple[float, float]], factor: float
) -> Carried:
    """Return shear and moment of a half wing: lift, less what hangs on it times the load factor.

    Parameters
    ----------
    lift : SpanLift
    y, chord : array_like, shape (n,)
        Stations from root to tip and their chords, m.
    mass : float
        Of the panel itself, kg: it lies in proportion to the chord.
    items : iterable of tuple
        Place out, m, and mass, kg, of what else hangs on the side.
    factor : float
        Load factor; what hangs pulls down by it.

    Returns
    -------
    Carried
        At ``y``. The lift is brought to the stations so that its sum stays.
    """
    y, chord = np.asarray(y, float), np.asarray(chord, float)
    along = np.interp(y, lift.out, lift.lift)
    # Past the last strip's middle the lift goes to nothing at the tip.
    beyond = y > lift.out[-1]
    if beyond.any():
        left = np.clip((y[-1] - y[beyond]) / max(y[-1] - lift.out[-1], 1e-9), 0.0, 1.0)
        along[beyond] = lift.lift[-1] * np.sqrt(left)
    read = float(np.trapezoid(along, y))
    if abs(read) > 1e-9:
        along *= lift.total / read
    own = mass * chord / float(np.trapezoid(chord, y))
    forces = [Force(place, -factor * GRAVITY * each) for place, each in items]
    return carried(y, along - factor * GRAVITY * own, forces)
