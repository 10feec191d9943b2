"""Thrust against drag in flight, and how long the pack lasts."""

from __future__ import annotations

import math

import numpy as np

from ridgeline.design.brief import Brief
from ridgeline.design.flights import Learnt
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag_sigma_of
from ridgeline.engine.figures import Figure, Put, absent, derive, later, put
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.flight import FlightFigures, gained_without, level_flight
from ridgeline.engine.power.full_throttle import FullThrottle, full_throttle
from ridgeline.engine.stages.common import HANDBOOK, NO_POWER, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.standing import Standing

_FLIGHT_KEYS = (
    "power.pitch_ratio",
    "speed.max",
    "speed.bare",
    "flight.climb_rate",
    "flight.climb_angle",
    "flight.climb_thrust_ratio",
    "flight.cruise_throttle",
    "flight.mean_current",
    "flight.endurance",
    "flight.range",
    "flight.radius",
)
_CANNOT = "full throttle does not hold level flight at cruise speed"
_ENDS = {
    "reserve": "a fifth stays in the pack",
    "voltage": "it lands early: a cell is pulled down to its least",
    "thrust": "it lands early: what is left in the pack no longer holds level flight",
}


def pulling(
    power: PowerTrain | None, here: Air, stand: Standing | None, brief: Brief, learnt: Learnt
) -> Outcome[FullThrottle | None]:
    """Settle the train at full throttle over airspeed: whatever the airframe, so that an edit of that leaves it be."""
    if power is None or stand is None:
        return Outcome(None)
    return Outcome(full_throttle(power, here.density, brief.temperature_c, drag_sigma_of(learnt)))


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
    return Outcome(level, (ratio, *figures, _bare(level, here, told), *_time_figures(level, power, brief, told)))


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


def _bare(f: FlightFigures, here: Air, told: Told) -> Figure:
    """Give the top speed with nothing of the drag list on it."""
    if f.top_speed is None:
        return absent("speed.bare", "thrust is less than drag at every speed above the stall")
    row = {
        "V": later(f.top_speed, "top speed as it is", "speed", lambda: f.sigmas["top_speed"]),
        "A": put(told["drag.standing_out"], "what stands out"),
    }
    return derive(
        "speed.bare",
        "{V}, raised until thrust meets the drag without {A}",
        lambda V, A: V + float(gained_without(f, A, here.density)[0]),
        row,
        source="docs/theory.md §8",
        note="as if every wheel, strut, horn and flat nose were gone: what smoothing could gain at most",
    )


def _time_figures(f: FlightFigures, power: PowerTrain, brief: Brief, told: Told) -> tuple[Figure, ...]:
    """Give time and range by the discharge, step by step down to the reserve."""
    keys, flown = ("flight.mean_current", "flight.endurance", "flight.range", "flight.radius"), f.discharge
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
    whole = derive(
        "flight.mean_current",
        "3600·{Q}/{t}",
        lambda Q, t: 3600 * Q / t,
        {
            "Q": Put(flown.used / 3600, "used from launch to the reserve", "capacity", 0.03 * power.capacity_ah),
            "t": Put(flown.total, "in that time", "flight_time", flown.total_sigma),
        },
        source="docs/theory.md §9",
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
    return whole, time, far, back
