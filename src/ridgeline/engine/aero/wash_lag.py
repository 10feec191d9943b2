"""How the tail's wash lags behind the wing's angle: the pitch of a turning angle, by the lattice."""

from __future__ import annotations

from typing import Any

import numpy as np

from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, Cases
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.kept import kept


@kept()
def wash_lag(model: AirframeLattice, surfaces: tuple[Any, ...]) -> float:
    """Return C_mα̇: the pitch of a turning angle, since the tail meets the wash of a moment ago.

    Parameters
    ----------
    model : AirframeLattice
    surfaces : tuple of Surface

    Returns
    -------
    float
        Per unit α̇ c̄/2V; nothing without a tail behind the wing.

    Source
    ------
    C_mα̇ = ε′ C_mq of the tail (second part of the handbook §18); ε′ by the lattice: what the tail lifts with the whole
    aircraft's angle, over what it lifts by its own.
    """
    tail = model.tail_angle
    if tail is None or not any(role in TAILS for role in model.roles):
        return 0.0
    lattice, scale = model.solver.lattice, model.scale
    wash = Cases(surfaces, lattice, list(model.owner), list(model.side), scale).incidence(TAILS)
    mine = wash != 0
    if not mine.any():
        return 0.0
    own = model.solver.circulation(wash, symmetric=True)
    alone = lifting.longitudinal(lattice, np.where(mine, own, 0.0), scale)
    whole = lifting.longitudinal(lattice, np.where(mine, model.found.alpha_circulation, 0.0), scale)
    behind = -alone.pitch / alone.lift
    if behind <= 0:
        # A foreplane stands ahead of the wash.
        return 0.0
    downwash = 1 - whole.lift / alone.lift
    return float(downwash * alone.pitch * 2 * behind)
