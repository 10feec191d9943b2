"""Thrust against drag in flight, and how long the pack lasts."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DRAG_SIGMA, DragModel, scrubbed
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.aero.slipstream import Scrubbed, thrust_lost
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, later, put
from ridgeline.engine.geometry.reference import (
    WINGS,
)
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.flight import FlightFigures, level_flight
from ridgeline.engine.power.full_throttle import FullThrottle, full_throttle
from ridgeline.engine.stages.common import HANDBOOK, NO_POWER, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Bodies, Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.standing import Standing

_FLIGHT_KEYS = (
    "power.pitch_ratio",
    "speed.max",
    "flight.climb_rate",
    "flight.climb_angle",
    "flight.climb_thrust_ratio",
    "flight.cruise_throttle",
    "flight.endurance",
    "flight.range",
    "flight.radius",
)
_WASH = "power.wash_drag"
#: What stands in the wash is known to a half (90 %): turning flow, gaps, legs.
_WASH_SIGMA = 0.5 / BAND
#: Mounts, nacelles and the inflow's own drag, as a share of the thrust: what no airframe is without.
_LEAST_LOST = 0.01 / BAND
_CANNOT = "full throttle does not hold level flight at cruise speed"
_ENDS = {
    "reserve": "a fifth stays in the pack",
    "voltage": "it lands early: a cell is pulled down to its least",
    "thrust": "it lands early: what is left in the pack no longer holds level flight",
}


def polar(
    form: Shape,
    body: Bodies,
    surfaces: tuple[Surface, ...],
    model_of: AirframeLattice | None,
    bodies: tuple[Body, ...],
    power: PowerTrain | None,
) -> Outcome[DragModel | None]:
    """Collect what the drag of the whole aircraft needs, and what its propellers blow on."""
    ref = form.reference
    if ref is None:
        return Outcome(None, (absent(_WASH, NO_WING),))
    tail = [s for s in form.surfaces if s.role not in WINGS]
    tail_area = sum(s.area for s in tail)
    model = DragModel(
        area=ref.area,
        aspect_ratio=ref.aspect_ratio,
        mac=ref.mac,
        wing_section=section_of(next(s for s in surfaces if s.role in WINGS)),
        tail_area=tail_area,
        tail_chord=sum(s.area * s.mean_chord.length for s in tail) / tail_area if tail_area else 0.0,
        body_wetted=sum(b.wetted for b in body.bodies),
        body_length=max((b.length for b in body.bodies), default=0.0),
        gear_frontal=body.gear_frontal,
        washed=_washed(surfaces, bodies, power),
    )
    if model_of is not None and model_of.induced_k > 0:
        efficiency = 1 / (math.pi * model_of.induced_k * ref.aspect_ratio)
        model = replace(
            model,
            span_efficiency=min(max(efficiency, 0.4), 2.0),
            body_planform=sum(b.planform for b in body.bodies),
            slope=model_of.found.alpha.lift,
            lift_level=model_of.found.zero.lift,
        )
    return Outcome(model, (_wash_lost(model, power),))


def _washed(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], power: PowerTrain | None) -> Scrubbed | None:
    """Return what the propellers blow on; a ducted fan blows clear of its own airframe."""
    if power is None or power.propeller.family == "ducted_fan":
        return None
    return scrubbed(surfaces, bodies, list(all_discs(power)))


def _wash_lost(model: DragModel, power: PowerTrain | None) -> Figure:
    """Give the share of the thrust that its own wash costs on what stands in it."""
    if power is None:
        return absent(_WASH, NO_POWER)
    diameter = power.propeller.diameter
    disc = math.pi * diameter**2 / 4 * power.motors
    lost = thrust_lost(model.washed, diameter)
    return derive(
        _WASH,
        "{f}/{A}",
        lambda f, A: f / A,
        {
            "f": Put(lost * disc, "drag areas in the wash", "area", _WASH_SIGMA * lost * disc),
            "A": Put(disc, "discs", "area"),
        },
        source="docs/theory.md §11",
        model_sigma=_LEAST_LOST,
        note="taken off the thrust in flight, by as much at every speed; nothing behind the disc, nothing lost",
    )


def pulling(power: PowerTrain | None, here: Air, stand: Standing | None, brief: Brief) -> Outcome[FullThrottle | None]:
    """Settle the train at full throttle over airspeed: whatever the airframe, so that an edit of that leaves it be."""
    if power is None or stand is None:
        return Outcome(None)
    return Outcome(full_throttle(power, here.density, brief.temperature_c, DRAG_SIGMA))


def flight(
    power: PowerTrain | None,
    model: DragModel | None,
    mass: Masses,
    speed: Speeds | None,
    here: Air,
    stand: Standing | None,
    full: FullThrottle | None,
    brief: Brief,
    told: Told,
) -> Outcome[FlightFigures | None]:
    """Compare thrust with drag over the speed range, and fly the pack down."""
    if power is None or stand is None or full is None or model is None or mass.state is None or speed is None:
        why = NO_POWER if power is None else (NO_WING if model is None else "it needs mass and a turning motor first")
        return Outcome(None, tuple(absent(key, why) for key in _FLIGHT_KEYS))
    profile = Profile(brief.climb_seconds, brief.full_share)
    level = level_flight(full, model, mass.state.mass, speed.stall, speed.cruise, here.viscosity, profile=profile)
    figures = _flight_figures(level, told)
    ratio = derive(
        "power.pitch_ratio",
        "{p}·{n}/{V_s}",
        lambda p, n, V_s: p * n / V_s,
        {
            "p": Put(power.propeller.pitch, "propeller pitch", "length"),
            "n": Put(stand.rpm / 60, "turns per second, standing", "ratio", stand.sigmas["omega"] / (2 * math.pi)),
            "V_s": put(told["speed.stall"], "stall speed"),
        },
        source=f"{HANDBOOK} §8",
    )
    return Outcome(level, (ratio, *figures, *_time_figures(level, power, brief, told)))


def _flight_figures(f: FlightFigures, told: Told) -> tuple[Figure, ...]:
    source, mass = "docs/theory.md §8", put(told["mass.auw"], "all-up weight")
    gravity, weight = Put(GRAVITY, "gravity", "acceleration"), mass.value * GRAVITY
    figures = []
    if f.top_speed is None:
        figures.append(absent("speed.max", "thrust is less than drag at every speed above the stall"))
    else:
        pull = float(np.interp(f.top_speed, f.curves.speed, f.curves.thrust))
        row = {
            "V": later(f.top_speed, "airspeed, raised until", "speed", lambda: f.sigmas["top_speed"]),
            "T": Put(pull, "thrust has fallen to", "force"),
            "D": Put(float(np.interp(f.top_speed, f.curves.speed, f.curves.drag)), "the drag", "force"),
        }
        figures.append(derive("speed.max", "{V} where {T} = {D}", lambda V, T, D: V, row, source=source))
    climb_row = {
        "V": Put(f.climb_speed, "best climbing speed", "speed"),
        "T": later(f.thrust_at_climb, "thrust there", "force", lambda: f.sigmas["thrust_at_climb"]),
        "D": later(f.drag_at_climb, "drag there, lifting m·g·cos γ", "force", lambda: f.sigmas["drag_at_climb"]),
        "m": mass,
        "g": gravity,
    }
    figures.append(
        derive(
            "flight.climb_rate",
            "{V}·({T} − {D})/({m}·{g})",
            lambda V, T, D, m, g: V * min((T - D) / (m * g), 1.0),
            climb_row,
            source=source,
            note="a steady climb: at most straight up, at its own airspeed",
        )
    )
    ratio_row = {name: climb_row[name] for name in "Tmg"}
    figures.append(
        derive("flight.climb_thrust_ratio", "{T}/({m}·{g})", lambda T, m, g: T / (m * g), ratio_row, source=source)
    )
    spare, level = weight * math.sin(f.steepest), weight * math.cos(f.steepest)
    angle_row = {
        "spare": later(spare, "largest thrust less drag", "force", lambda: level * f.sigmas["steepest"]),
        "m": mass,
        "g": gravity,
    }
    figures.append(
        derive(
            "flight.climb_angle",
            "arcsin({spare}/({m}·{g}))",
            lambda spare, m, g: math.asin(min(max(spare / (m * g), -1.0), 1.0)),
            angle_row,
            source=source,
            note="at most straight up",
        )
    )
    if f.cruise_throttle is None:
        return (*figures, absent("flight.cruise_throttle", _CANNOT))
    figures.append(
        derive(
            "flight.cruise_throttle",
            "{d} where thrust = {D} at {V}",
            lambda d, D, V: d,
            {
                "d": later(f.cruise_throttle, "throttle", "fraction", lambda: f.sigmas["cruise_throttle"]),
                "D": Put(f.cruise_drag, "pulled in cruise: drag, and what the wash costs", "force"),
                "V": put(told["speed.cruise"], "cruise speed"),
            },
            source=source,
        )
    )
    return tuple(figures)


def _time_figures(f: FlightFigures, power: PowerTrain, brief: Brief, told: Told) -> tuple[Figure, ...]:
    """Give time and range by the discharge, step by step down to the reserve."""
    keys, flown = ("flight.endurance", "flight.range", "flight.radius"), f.discharge
    if flown is None or flown.total <= flown.climb:
        return tuple(absent(key, _CANNOT) for key in keys)
    after = float((flown.seconds * flown.current).sum())
    mean = after / float(flown.seconds.sum())
    time = derive(
        "flight.endurance",
        "{t_climb} + {Q}/{I}·3600",
        lambda t_climb, Q, I: t_climb + 3600 * Q / I,  # noqa: E741
        {
            "t_climb": Put(flown.climb, "climbing away", "seconds"),
            "Q": Put(after / 3600, "used after it", "capacity", 0.03 * power.capacity_ah),
            "I": Put(mean, f"mean, {100 * brief.full_share:.0f} % of it full throttle", "current", flown.mean_sigma),
        },
        source="docs/theory.md §9",
        note=f"stepped down the discharge curve; {_ENDS[flown.ends]}",
    )
    level_seconds = float(flown.seconds.sum()) * (1 - brief.full_share)
    base = {
        "V": put(told["speed.cruise"], "cruise speed"),
        "t": Put(level_seconds, "of it level", "time", flown.total_sigma),
    }
    far = derive("flight.range", "{V}·{t}", lambda V, t: V * t, base, source="docs/theory.md §9", note="in still air")
    wind = {**base, "w": Put(brief.head_wind, "wind of the brief", "speed")}
    back = derive(
        "flight.radius",
        "{t}·({V}² − {w}²)/(2·{V})",
        lambda V, t, w: t * max(V * V - w * w, 0.0) / (2 * V),
        wind,
        source="docs/theory.md §9",
        note="out against the wind and home with it, or the other way: the same; keep it in sight",
    )
    return time, far, back
