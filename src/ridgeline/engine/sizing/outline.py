"""What a brief comes to before it is laid out: outlines and first figures, quick enough to follow a drag."""

from __future__ import annotations

import math

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.engine.aero.atmosphere import GRAVITY, density
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.sizing.airframe import airframe_surfaces
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.first_lift import first_cl_max
from ridgeline.engine.sizing.first_mass import comes_to, likely_plan, sized_for
from ridgeline.engine.sizing.fuselages import frame_of
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, sized, within_the_document

#: Nose length of the sketch, in root chords; the laid-out one is solved for the balance.
_NOSE = {"tail": 0.9, "tailless": 0.3, "canard": 2.2}


def sketch(brief: Brief) -> Design:
    """Return wing, tail and body of a brief, wing first, with a typical nose ahead of it and nothing aboard.

    Raises
    ------
    DesignError
        When the wishes come to no airframe; it says which of them, and what would do.
    """
    sized(brief, AIM_UNDER_CEILING * brief.ceiling)
    plan = likely_plan(brief)
    size = sized(brief, sized_for(brief, plan))
    with within_the_document():
        surfaces = airframe_surfaces(
            brief, size, max(_NOSE[arrangement_of(brief.layout).family] * size.root, 0.05), plan
        )
        bodies = frame_of(brief, size, surfaces, None, plan).bodies
        return Design(name="sketch", brief=brief, surfaces=surfaces, bodies=bodies)


def outcome(brief: Brief, surfaces: tuple[Surface, ...]) -> list[tuple[str, float, str]]:
    """Return labelled first figures of a brief: (label, value, quantity).

    Source
    ------
    docs/theory.md §3, at the lift limit assumed before there is an airframe.
    """
    wings = [measure_surface(s) for s in surfaces if s.role == "wing"]
    wing, area = wings[0], sum(w.area for w in wings)
    plan = likely_plan(brief)
    mass = comes_to(brief, plan, sized_for(brief, plan))
    d = density(brief.elevation, brief.temperature_c)
    loading = mass / area
    stall = math.sqrt(2 * loading * GRAVITY / (d * first_cl_max(brief)))
    rows = [
        ("Span", wing.span, "length"),
        ("Wing", area, "area"),
        ("Mean chord", wing.mean_chord.length, "length"),
    ]
    tails = [measure_surface(s) for s in surfaces if s.role != "wing"]
    if tails:
        rows.append(("Tail, all of it", sum(t.area for t in tails), "area"))
        rows.append(("Tail arm", tails[0].x_quarter - wing.x_quarter, "length"))
    rows += [
        ("Comes to", mass, "mass"),
        ("Thrust", brief.thrust_ratio * mass * GRAVITY, "force"),
        ("Stall", stall, "speed"),
        ("Cruise", brief.cruise_ratio * stall, "speed"),
    ]
    return rows
