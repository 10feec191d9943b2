"""The stage of strength: every load case over every half, against what it may bear."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.axes import is_upright
from ridgeline.design.brief import Brief
from ridgeline.design.fastening import Fastening
from ridgeline.design.hinges import mean_share
from ridgeline.design.loads import Loads
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.flap import effective_deflection, flap_effectiveness
from ridgeline.engine.aero.glide import Glide
from ridgeline.engine.aero.sections import SLOPE_FACTOR
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.planform import panel_areas
from ridgeline.engine.geometry.reference import LIFTING, main_wing
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.flexing import AT_SEAT, Flexed, bend_figure, hold, lifted_put, pulls_level, settled
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.structure.beam import Carried, carried
from ridgeline.engine.structure.bracing import Braced, thrust_share
from ridgeline.engine.structure.cases import ULTIMATE, powered_dive, pull_factor, swing_speed, unpowered_dive
from ridgeline.engine.structure.half import Half, why_not
from ridgeline.engine.structure.hung import Hanging
from ridgeline.engine.structure.load_cases import Case, Flown, cases_of, design_factor
from ridgeline.engine.structure.span_load import SpanLoad

Array = NDArray[np.float64]
_STATIC = ("structure.load_factor", "structure.dive_speed", "structure.wing_share", "structure.tip_limit")
#: One sigma of what stock and skins bear, as a share.
STRENGTH_SIGMA = 0.20 / BAND
#: A tail lifts no more than this over its area (chosen: its lift limit), a fin meets the air at this angle (second part
#: of the handbook §16.6); strip theory of low aspect ratios ends here.
TAIL_MOST, SLIP, _LEAST_ASPECT = 0.9, math.radians(15), 0.5
#: A dive is flown at almost no lift: share of the mass that the drag is read for.
_NO_LIFT = 1e-3


@dataclass(frozen=True, eq=False)
class Borne:
    """What a half bears: moments N m and shears N of every case (cases, n), and over what it may bear.

    ``share`` (cases, n), in bending and by what pushes along it; ``worst`` the case and ``at`` the station with the
    greatest; ``shear_share`` that in shear. ``bend`` (n,) m up in the pull.
    """

    words: tuple[str, ...]
    moment: Array
    shear: Array
    share: Array
    worst: int
    at: int
    shear_share: float
    bend: Array

    @property
    def greatest(self) -> float:
        """The greatest share of what it may bear, in bending or shear."""
        return max(float(self.share[self.worst, self.at]), self.shear_share)


@dataclass(frozen=True, eq=False)
class Bearing:
    """The structure under load: cases, what each surface bears (None where not known), speeds m/s and factors.

    ``pull`` is the load factor a full pull reaches at top speed, None without one. ``free`` is what halves would carry
    without their braces, (cases, n) each, ``braced`` what those do.
    """

    factor: float
    cases: tuple[Case, ...]
    borne: tuple[Borne | None, ...]
    main: int
    dive: float | None
    top: float | None
    pull: float | None
    free: tuple[Carried | None, ...]
    braced: Braced

    @property
    def swing(self) -> float:
        """The load factor along the span of a launch by the wing tip, 0 where it is not launched so."""
        return max((case.swing for case in self.cases), default=0.0)


def bearing(
    loads: Loads,
    halves: tuple[Half | None, ...],
    spread: tuple[SpanLoad | None, ...],
    flex: Flexed | None,
    model: AirframeLattice | None,
    form: Shape,
    mass: Masses,
    speed: Speeds | None,
    level: FlightFigures | None,
    glides: Glide | None,
    polar: DragModel | None,
    handled: Handling | None,
    here: Air,
    brief: Brief,
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    wheels: tuple[Wheel, ...],
    braces: tuple[Fastening, ...],
    told: Told,
) -> Outcome[Bearing | None]:
    """Judge every half by every load case."""
    n = design_factor(loads, brief)
    by = "the wish" if loads.factor is not None else f"{HANDBOOK} §10, by the purpose"
    factor = derive(_STATIC[0], "{n}", lambda n: n, {"n": Put(n, "limit load factor", "factor")}, source=by)
    if model is None or flex is None or speed is None or mass.state is None or form.reference is None:
        why = NO_WING if model is None else NO_MASS
        return Outcome(None, (factor, *(absent(key, why) for key in _STATIC[1:])))
    top = None if level is None else level.top_speed
    diving = _launched(_dive(loads, told, mass, glides, polar, here, top), loads, form.reference.span)
    flown = Flown(
        speed.stall,
        speed.cruise,
        diving.value,
        mass.state.mass / form.reference.area,
        form.reference.mac,
        model.found.alpha.lift,
        here.density,
        model.flap is not None,
        model.roll_control is not None,
        bool(wheels),
        form.reference.span,
    )
    cases = cases_of(loads, brief, flown)
    weight, corner = mass.state.mass * GRAVITY, cases[0].speed
    free = tuple(
        None
        if load is None or down is None or surface.role not in LIFTING
        else _pulled(load, down, cases, model, weight, handled, here.density)
        for load, down, surface in zip(spread, flex.weight, surfaces, strict=True)
    )
    main = surfaces.index(main_wing(surfaces))
    held = hold(halves, list(free), braces, surfaces, bodies)
    words = tuple(case.words for case in cases)
    borne = tuple(
        None
        if half is None or spread[k] is None or flex.weight[k] is None
        else _borne(
            half, words, load, _along(half, k, held, cases, flex.hanging[k], mass.state.mass if k == main else 0.0)
        )
        if load is not None
        else _of_tail(half, surface, min(corner, diving.value or corner), brief.purpose, here.density)
        for k, (half, load, surface) in enumerate(zip(halves, held.carried, surfaces, strict=True))
    )
    pull = None if top is None else pull_factor(top, speed.stall)
    result = Bearing(n, cases, borne, main, diving.value, top, pull, free, held)
    half, own = halves[main], borne[main]
    if half is None or own is None:
        why = f"{surfaces[main].name}: {why_not(surfaces[main])}"
        return Outcome(result, (factor, diving, *(absent(key, why) for key in _STATIC[2:])))
    return Outcome(result, (factor, diving, _share(result, half, own, told), _tip(result, half, own, told)))


def _pulled(
    load: SpanLoad,
    down: Carried,
    cases: tuple[Case, ...],
    model: AirframeLattice,
    weight: float,
    handled: Handling | None,
    density: float,
) -> Carried:
    """Return shear and moment of a half in every case, (cases, n)."""
    flap = 0.0 if handled is None else effective_deflection(handled.throws.flap)
    roll = 0.0 if handled is None else handled.throws.roll
    rows = np.zeros((len(cases), 5))
    inertia = np.zeros(len(cases))
    for k, case in enumerate(cases):
        q = 0.5 * density * case.speed**2
        rows[k, :2] = pulls_level(model, case.lift * weight, q, flap if case.flap else 0.0)
        rows[k, 2] = q * flap if case.flap else 0.0
        rows[k, 4] = q * roll if case.roll else 0.0
        inertia[k] = case.inertia
    moment = rows @ load.moment + inertia[:, None] * down.moment
    shear = rows @ load.shear + inertia[:, None] * down.shear
    return Carried(shear, moment)


def _along(half: Half, place: int, held: Braced, cases: tuple[Case, ...], hung: Hanging, mass: float) -> Array | None:
    """Return the share of what a half may bear along itself, (cases, n): braces push, a launch by its tip pulls.

    ``mass`` kg is what hangs on a wing that is swung, 0 of another surface. None where nothing acts along it.
    """
    thrust, swung = held.thrust[place], np.array([case.swing for case in cases])
    if thrust is None or not (thrust.any() or (swung.any() and mass > 0)):
        return None
    if mass > 0:
        # The hand holds all but what lies farther out than a station.
        area = np.concatenate([[0.0], np.cumsum(panel_areas(half.y, half.chord))])
        outside = hung.panel * (1 - area / area[-1]) + sum(each * (half.y < out) for out, each in hung.items)
        thrust = thrust - swung[:, None] * GRAVITY * (mass - outside)
    ends = (end.out for brace in held.braces for end in brace.ends if end.half == place)
    return thrust_share(half, thrust, max(ends, default=float(half.y[-1])))


def tail_slope(surface: Surface) -> float:
    """Return the lift slope of a tail or fin by its own aspect ratio, 1/rad.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    float
    """
    plain = SLOPE_FACTOR * 2 * math.pi
    return plain / (1 + plain / (math.pi * max(measure_surface(surface).aspect_ratio, _LEAST_ASPECT)))


def tail_lift(surface: Surface, purpose: str) -> float:
    """Return the lift coefficient a tail is judged by: full control, of a fin a slip; no more than it can lift.

    Parameters
    ----------
    surface : Surface
    purpose : str
        For the throws.

    Returns
    -------
    float
    """
    effects = [
        flap_effectiveness(mean_share(surface, control)) * effective_deflection(max(travel(control, purpose)))
        for control in surface.controls
        if control.kind in PITCH_CONTROLS
    ]
    angle = SLIP if is_upright(surface) else max(effects, default=SLIP)
    return min(tail_slope(surface) * angle, TAIL_MOST)


def _of_tail(half: Half, surface: Surface, speed: float, purpose: str, density: float) -> Borne:
    """Judge a tail by full control at the speed up to which that is allowed, a fin by a slip: even over its chords."""
    upright = is_upright(surface)
    lift = tail_lift(surface, purpose)
    load = carried(half.y, 0.5 * density * speed**2 * lift * half.chord)
    moment = np.where(half.y < half.seat - 1e-9, np.interp(half.seat, half.y, load.moment), load.moment)
    words = "a slip of 15°" if upright else "full elevator"
    full = Carried(load.shear[None], moment[None])
    return _borne(half, (f"{words} at the speed of a full pull",), full)


def _borne(half: Half, words: tuple[str, ...], load: Carried, along: Array | None = None) -> Borne:
    shear, moment = load
    share = np.abs(moment) / np.maximum(half.bears, 1e-9)
    if along is not None:
        share = share + along
    worst, at = np.unravel_index(int(np.argmax(share)), share.shape)
    # Where a spar stands it takes the shear too.
    bare = ~half.spar_here & (half.skins.shear_bears > 0)
    sheared = np.abs(shear[:, bare]) / half.skins.shear_bears[bare]
    bend = settled(half, Carried(shear[0], moment[0]))
    return Borne(words, moment, shear, share, int(worst), int(at), float(sheared.max(initial=0.0)), bend)


def _dive(
    loads: Loads,
    told: Told,
    mass: Masses,
    glides: Glide | None,
    polar: DragModel | None,
    here: Air,
    top: float | None,
) -> Figure:
    key, source = "structure.dive_speed", "second part of the handbook §16.1"
    if loads.dive_speed is not None:
        typed = Put(loads.dive_speed, "as wished", "speed")
        return derive(key, "{V}", lambda V: V, {"V": typed}, source="the wish")
    if top is not None:
        row = {"V": put(told["speed.max"], "top speed")}
        return derive(key, "1.4·{V}", lambda V: powered_dive(V), row, source=source, note="a dive under power")
    if glides is None or polar is None or mass.state is None:
        return absent(key, "neither a top speed nor a glide is known")
    fast = 2.5 * glides.ratio_speed
    share = float(drag(polar, fast, _NO_LIFT * mass.state.mass, here.density, here.viscosity))
    c_d = share / (0.5 * here.density * fast**2 * polar.area)
    row = {
        "m": put(told["mass.auw"]),
        "S": Put(polar.area, "wing area", "area"),
        "d": Put(here.density, "air density", "density"),
        "C_D": Put(c_d, "drag coefficient at almost no lift", "coefficient", 0.25 / BAND * c_d),
        "V_g": Put(glides.ratio_speed, "speed of the best glide", "speed"),
    }
    return derive(
        key,
        "min(√({m}·g/({d}·{S}·{C_D})), 2.5·{V_g})",
        lambda m, S, d, C_D, V_g: unpowered_dive(m / S, C_D, V_g, d),
        row,
        source=source,
        note="a dive of 30° without power",
    )


def _launched(diving: Figure, loads: Loads, span: float) -> Figure:
    """Return the dive speed, no less than that at which a launch by the wing tip leaves the hand; a typed one stays."""
    if not loads.swung or loads.dive_speed is not None:
        return diving
    fast = loads.swing_speed if loads.swing_speed is not None else swing_speed(span)
    if diving.value is not None and diving.value >= fast:
        return diving
    row = {"V": Put(fast, "it leaves the hand with, swung by the wing tip", "speed", 0.15 / BAND * fast)}
    return derive(_STATIC[1], "{V}", lambda V: V, row, source="docs/theory.md §13", note="faster than its dive")


def _share(found: Bearing, half: Half, own: Borne, told: Told) -> Figure:
    moment, bears = float(own.moment[own.worst, own.at]), float(half.bears[own.at])
    out = (half.y[own.at] - half.y[0]) / half.half_span
    place = "at the seat" if half.y[own.at] <= half.seat + 1e-6 else f"at {out:.0%} of the panel"
    what = "spar" if half.spar_here[own.at] else "skins"
    return derive(
        "structure.wing_share",
        "{M}/{M_b}",
        lambda M, M_b: abs(M) / M_b,
        {
            "M": lifted_put(moment, f"moment {place}, lift less what hangs there", told),
            "M_b": Put(bears, f"the {what} may carry there, {ULTIMATE:g} below what breaks it", "torque",
                       STRENGTH_SIGMA * bears),
        },
        source="docs/theory.md §13",
        note=f"the worst of {len(found.cases)} cases: {own.words[own.worst]}",
    )  # fmt: skip


def _tip(found: Bearing, half: Half, own: Borne, told: Told) -> Figure:
    moment = lifted_put(float(own.moment[0, half.at_seat]), AT_SEAT, told)
    note = f"in {found.cases[0].words}: tips up"
    return bend_figure("structure.tip_limit", half, float(own.bend[-1]), moment, note)
