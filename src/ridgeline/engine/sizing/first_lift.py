"""The lift limit of an airframe before there is one: of the section it is going to be built with, at its size."""

from __future__ import annotations

import math

from ridgeline.design.brief import Brief
from ridgeline.engine.aero.atmosphere import GRAVITY, density, dynamic_viscosity
from ridgeline.engine.aero.sections import lift_limit, section
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.building import plan_of
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, first_sizes

#: An airframe's lift limit over that of its section (handbook of the trade §14: 0.85–0.92, less what trim costs).
AIRFRAME_SHARE = 0.86
#: Without a tail, trimming costs the wing itself more of it (read off laid-out ones).
TAILLESS_SHARE = 0.76


def first_cl_max(brief: Brief) -> float:
    """Return the lift limit a brief's airframe is going to have, about.

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    float

    Source
    ------
    The section's limit at the Reynolds number of its stall: handbook of the trade §14.
    """
    tailless = arrangement_of(brief.layout).family == "tailless"
    share = TAILLESS_SHARE if tailless else AIRFRAME_SHARE
    shape = section(plan_of(brief).section)
    chord = first_sizes(brief, AIM_UNDER_CEILING * brief.ceiling).mac
    air = density(brief.elevation, brief.temperature_c)
    speed = math.sqrt(2 * brief.wing_loading * GRAVITY / (air * share * shape.cl_max))
    return share * lift_limit(shape, air * speed * chord / dynamic_viscosity(brief.temperature_c))
