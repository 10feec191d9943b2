"""The speeds stage: lift limit by the critical section in trim, stall speeds level and turning, cruise speed."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.engine.aero import stall
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.attitude import arm, drag_couple
from ridgeline.engine.aero.critical import (
    VORTEX_ANGLE,
    VORTEX_ASPECT,
    VORTEX_SIGMA,
    VORTEX_SWEEP,
    Stall,
    critical_section,
    trimmed,
    vortex_lift,
)
from ridgeline.engine.aero.sections import lift_limit, section_of
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import LIFTING, WINGS
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.stability import Stability

_KEYS = ("wing.cl_max", "speed.stall", "speed.stall_45", "speed.stall_60", "speed.cruise")


@dataclass(frozen=True)
class Speeds:
    """Lift limit and speeds m/s; the critical section (None where it does not hold) and the limits it was judged by.

    ``vortex`` tells a wing carried by leading-edge vortices, which has no critical section.
    """

    cl_max: float
    stall: float
    cruise: float
    section: Stall | None
    limits: np.ndarray | None
    vortex: bool


def speeds(
    form: Shape,
    mass: Masses,
    here: Air,
    brief: Brief,
    surfaces: tuple[Surface, ...],
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    told: Told,
) -> Outcome[Speeds | None]:
    """Give lift limit, stall speeds and cruise speed."""
    if form.reference is None or mass.state is None:
        why = NO_WING if form.reference is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in _KEYS))
    ref = form.reference
    vortex = model is not None and _is_vortex_wing(surfaces, ref.aspect_ratio)
    section, limits = None, None
    if vortex and model is not None:
        cl_max = _vortex_limit(model)
    else:
        cl_max, section, limits = _lift_limit(form, surfaces, mass, here, model, stable, balanced)
    row = {
        "m": put(told["mass.auw"], "all-up weight"),
        "g": Put(GRAVITY, "gravity", "acceleration"),
        "d": Put(here.density, "air density", "density", 0.01 * here.density),
        "S": Put(ref.area, "wing area", "area", 0.006 * ref.area),
        "C_Lmax": put(cl_max),
    }
    slowest = derive(
        "speed.stall",
        "√(2·{m}·{g}/({d}·{S}·{C_Lmax}))",
        lambda m, g, d, S, C_Lmax: math.sqrt(2 * m * g / (d * S * C_Lmax)),
        row,
        source="docs/theory.md §3",
    )
    ratio = Put(brief.cruise_ratio, "cruise over stall, from the brief", "ratio")
    cruise = derive(
        "speed.cruise", "{r}·{V_s}", lambda r, V_s: r * V_s, {"r": ratio, "V_s": put(slowest)}, source="the brief"
    )
    assert slowest.value is not None and cruise.value is not None and cl_max.value is not None
    figures = (cl_max, slowest, *_turning(slowest), cruise)
    found = Speeds(
        cl_max.value,
        slowest.value,
        cruise.value,
        section,
        limits,
        vortex,
    )
    return Outcome(found, figures)


def _turning(slowest: Figure) -> tuple[Figure, ...]:
    """Return the stall speeds in level turns at 45° and 60° of bank: the wing carries 1/cos of the weight."""
    return tuple(
        derive(
            f"speed.stall_{degrees}",
            "{V_s}/√(cos {bank})",
            lambda V_s, bank: V_s / math.sqrt(math.cos(bank)),
            {"V_s": put(slowest), "bank": Put(math.radians(degrees), "bank", "angle")},
            source="docs/theory.md §3",
        )
        for degrees in (45, 60)
    )


def _is_vortex_wing(surfaces: tuple[Surface, ...], aspect_ratio: float) -> bool:
    wing = max((s for s in surfaces if s.role in WINGS), key=lambda s: s.stations[-1].y * s.stations[0].chord)
    first, last = wing.stations[0], wing.stations[-1]
    sweep = math.atan2(last.x - first.x, last.y - first.y)
    return aspect_ratio < VORTEX_ASPECT or sweep > VORTEX_SWEEP


def _vortex_limit(model: AirframeLattice) -> Figure:
    slope = model.found.alpha.lift
    return derive(
        "wing.cl_max",
        "{K_p}·sin {a}·cos²{a} + π·cos {a}·sin²{a}",
        lambda K_p, a: vortex_lift(K_p, a),
        {
            "K_p": Put(slope, "lift slope by the lattice", "per_radian", 0.02 * slope, "stability.cl_alpha"),
            "a": Put(VORTEX_ANGLE, "steepest angle counted on", "angle", VORTEX_SIGMA * VORTEX_ANGLE),
        },
        source="docs/theory.md §7; Polhamus, NASA TN D-3767",
        note="strong sweep or low aspect ratio: vortices carry it, there is no critical section and no sharp stall",
    )


def _lift_limit(
    form: Shape,
    surfaces: tuple[Surface, ...],
    mass: Masses,
    here: Air,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
) -> tuple[Figure, Stall | None, np.ndarray | None]:
    """Return the airframe's lift limit: by the critical section in trim, or by the usual share without a lattice."""
    ref, state = form.reference, mass.state
    assert ref is not None and state is not None
    wing = section_of(next(s for s in surfaces if s.role in WINGS))
    limit = stall.airframe_cl_max(wing, state.mass, here.density, here.viscosity, ref.area, ref.mac)
    share, at_section, source = stall.AIRFRAME_SHARE, limit / stall.AIRFRAME_SHARE, f"{HANDBOOK} §14"
    sigma, note = wing.limit_sigma, "no lattice here: the usual share of the section's limit"
    found, limits = None, None
    if model is not None:
        speed = stall.stall_speed(state.mass, here.density, ref.area, limit)
        limits = _limits(model, surfaces, here.density * speed / here.viscosity)
        line = None
        if stable is not None and balanced is not None:
            line = trimmed(model, balanced.cg_fraction, balanced.shift)
        found = critical_section(model, limits, line)
        if found is not None and line is not None and not 0.5 < found.cl_max / limits[found.strip] < 1.3:
            found, line = critical_section(model, limits), None
        elif found is not None and line is not None and stable is not None and balanced is not None:
            # Nose up, weight under the wing stands further ahead, and the drag over it helps to hold it there.
            along = 0.25 + arm(balanced.cg_fraction, balanced.height, found.alpha)
            couple = drag_couple(balanced.height, found.cl_max)
            line = trimmed(model, float(along), balanced.shift, float(couple))
            found = critical_section(model, limits, line)
    if found is not None and limits is not None and 0.5 < found.cl_max / limits[found.strip] < 1.3:
        at_section = float(limits[found.strip])
        share, sigma = found.cl_max / at_section, section_of(surfaces[found.surface]).limit_sigma
        source = "docs/theory.md §7, critical section of the lattice"
        trim = ", the elevator holding it there" if line is not None else ""
        place = f"the {found.role}'s section at {100 * found.where:.0f} % of its half span meets its limit first"
        note = place + trim
    else:
        found = None
    figure = derive(
        "wing.cl_max",
        "{k}·{c_lmax}",
        lambda k, c_lmax: k * c_lmax,
        {
            "k": Put(share, "airframe over section", "ratio", stall.AIRFRAME_SHARE_SIGMA),
            "c_lmax": Put(at_section, "section lift limit at the stall", "ratio", sigma * at_section),
        },
        source=source,
        note=note,
    )
    return figure, found, limits


def _limits(model: AirframeLattice, surfaces: tuple[Surface, ...], reynolds_per_metre: float) -> np.ndarray:
    """Return each strip's lift limit at its own Reynolds number; tails are not judged, they fly unloaded."""
    strips = model.loading(0.0)
    limits = np.full(len(strips.c_l), np.inf)
    shapes = {k: section_of(s) for k, s in enumerate(surfaces) if s.role in LIFTING}
    for index, (owner, chord) in enumerate(zip(model.strip_owner, strips.chord, strict=True)):
        if owner in shapes:
            limits[index] = lift_limit(shapes[owner], reynolds_per_metre * float(chord))
    return limits
