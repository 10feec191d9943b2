"""The speeds stage: lift limit by the critical section, stall speed, cruise speed."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.engine.aero import stall
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, Stall, critical_section
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.sections import CL_MAX_SIGMA, lift_limit
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape


@dataclass(frozen=True)
class Speeds:
    """Lift limit and speeds m/s, and the critical section (None where the lattice does not hold)."""

    cl_max: float
    stall: float
    cruise: float
    section: Stall | None


def speeds(
    form: Shape, mass: Masses, here: Air, brief: Brief, surfaces: tuple[Surface, ...], model: AirframeLattice | None
) -> Outcome:
    """Give lift limit, stall speed and cruise speed."""
    keys = ("wing.cl_max", "speed.stall", "speed.cruise")
    if form.reference is None or mass.state is None:
        why = NO_WING if form.reference is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    ref, state = form.reference, mass.state
    cl_max, section = _lift_limit(form, surfaces, mass, here, model)
    slowest = derive(
        "speed.stall",
        "√(2·{m}·{g}/({d}·{S}·{C_Lmax}))",
        lambda m, g, d, S, C_Lmax: math.sqrt(2 * m * g / (d * S * C_Lmax)),
        {
            "m": Put(state.mass, "all-up weight", "mass", state.sigma_mass, "mass.auw"),
            "g": Put(GRAVITY, "gravity", "acceleration"),
            "d": Put(here.density, "air density", "density", 0.01 * here.density),
            "S": Put(ref.area, "wing area", "area", 0.006 * ref.area),
            "C_Lmax": put(cl_max),
        },
        source="docs/theory.md §3",
    )
    cruise = derive(
        "speed.cruise",
        "{r}·{V_s}",
        lambda r, V_s: r * V_s,
        {"r": Put(brief.cruise_ratio, "cruise over stall, from the brief", "ratio"), "V_s": put(slowest)},
        source="the brief",
    )
    assert slowest.value is not None and cruise.value is not None
    assert cl_max.value is not None
    return Outcome(Speeds(cl_max.value, slowest.value, cruise.value, section), (cl_max, slowest, cruise))


def _lift_limit(
    form: Shape, surfaces: tuple[Surface, ...], mass: Masses, here: Air, model: AirframeLattice | None
) -> tuple[Figure, Stall | None]:
    """Return the airframe's lift limit: by the critical section of the lattice, or by the usual share without one."""
    ref, state = form.reference, mass.state
    assert ref is not None and state is not None
    wing = next(s for s in surfaces if s.role in WINGS)
    limit = stall.airframe_cl_max(wing.section, state.mass, here.density, here.viscosity, ref.area, ref.mac)
    share, section, source = stall.AIRFRAME_SHARE, limit / stall.AIRFRAME_SHARE, f"{HANDBOOK} §14"
    found, note = None, "no lattice here: the usual share of the section's limit"
    if model is not None:
        speed = stall.stall_speed(state.mass, here.density, ref.area, limit)
        found, section = _critical(model, surfaces, here.density * speed / here.viscosity)
        share = found.cl_max / section
        if not 0.5 < share < 1.3:
            found, share = None, stall.AIRFRAME_SHARE
        else:
            source = "docs/theory.md §7, critical section of the lattice"
            note = f"the {found.role}'s section at {100 * found.where:.0f} % of its half span meets its limit first"
    figure = derive(
        "wing.cl_max",
        "{k}·{c_lmax}",
        lambda k, c_lmax: k * c_lmax,
        {
            "k": Put(share, "airframe over section", "ratio", stall.AIRFRAME_SHARE_SIGMA),
            "c_lmax": Put(section, "section lift limit at the stall", "ratio", CL_MAX_SIGMA * section),
        },
        source=source,
        note=note,
    )
    return figure, found


def _critical(model: AirframeLattice, surfaces: tuple[Surface, ...], reynolds_per_metre: float) -> tuple[Stall, float]:
    """Return the critical section and its own lift limit; tails are not judged, they fly unloaded."""
    strips = model.loading(0.0)
    limits = np.full(len(strips.c_l), np.inf)
    for index, (strip_sheet, chord) in enumerate(zip(strips.sheet, strips.chord, strict=True)):
        surface = surfaces[int(strip_sheet)]
        if surface.role in (*WINGS, "foreplane"):
            limits[index] = lift_limit(surface.section, reynolds_per_metre * float(chord))
    found = critical_section(model, limits)
    return found, float(limits[found.strip])
