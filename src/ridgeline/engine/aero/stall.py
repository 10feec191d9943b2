"""The lift limit of the airframe and the speeds that follow from it."""

from __future__ import annotations

import math

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.sections import Section, lift_limit

#: Airframe over section lift limit, 0.85–0.92 by the critical section (handbook of the trade §14).
AIRFRAME_SHARE = 0.88
AIRFRAME_SHARE_SIGMA = 0.02


def stall_speed(mass: float, air_density: float, area: float, cl_max: float) -> float:
    """Return the level stall speed, m/s: √(2 m g/(d S C_Lmax)).

    Parameters
    ----------
    mass : float
        kg.
    air_density : float
        kg/m³.
    area : float
        m².
    cl_max : float

    Returns
    -------
    float
        m/s.

    Source
    ------
    docs/theory.md §3.
    """
    return math.sqrt(2 * mass * GRAVITY / (air_density * area * cl_max))


def airframe_cl_max(
    shape: Section, mass: float, air_density: float, viscosity: float, area: float, chord: float
) -> float:
    """Return C_Lmax of the airframe, with the section's limit taken at the stall's own Reynolds number.

    The stall speed sets the Reynolds number and the Reynolds number the lift limit: a few rounds settle it.

    Parameters
    ----------
    shape : Section
        Of the wing.
    mass : float
        kg.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.
    area : float
        m².
    chord : float
        Mean chord, m.

    Returns
    -------
    float
        C_Lmax.

    Source
    ------
    Handbook of the trade §14; docs/theory.md §7.
    """
    reynolds = 1e5
    for _ in range(6):
        cl_max = AIRFRAME_SHARE * lift_limit(shape, reynolds)
        reynolds = air_density * stall_speed(mass, air_density, area, cl_max) * chord / viscosity
    return cl_max
