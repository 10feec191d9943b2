"""Thrust against drag in flight."""

from __future__ import annotations

import math
from dataclasses import replace

from ridgeline.design.airframe import Surface
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DRAG_SIGMA, DragModel
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.reference import (
    WINGS,
)
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power.flight import CLIMB_SHARE, FlightFigures, level_flight
from ridgeline.engine.power.pack import RESERVE
from ridgeline.engine.stages.common import NO_POWER, NO_WING, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Bodies, Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.standing import Standing
from ridgeline.engine.weights.rollup import MassState

_FLIGHT_KEYS = (
    "speed.max",
    "flight.climb_rate",
    "flight.climb_thrust_ratio",
    "flight.cruise_throttle",
    "flight.endurance",
)


def flight(
    power: PowerTrain | None,
    form: Shape,
    body: Bodies,
    mass: Masses,
    speed: Speeds | None,
    here: Air,
    surfaces: tuple[Surface, ...],
    stand: Standing | None,
    model_of: AirframeLattice | None,
) -> Outcome:
    """Compare thrust with drag over the speed range."""
    ref = form.reference
    if power is None or stand is None or ref is None or mass.state is None or speed is None:
        why = NO_POWER if power is None else (NO_WING if ref is None else "it needs mass and a turning motor first")
        return Outcome(None, tuple(absent(key, why) for key in _FLIGHT_KEYS))
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
    )
    if model_of is not None and model_of.induced_k > 0:
        efficiency = 1 / (math.pi * model_of.induced_k * ref.aspect_ratio)
        model = replace(model, span_efficiency=min(max(efficiency, 0.4), 2.0))
    level = level_flight(power, model, mass.state.mass, speed.stall, speed.cruise, here.density, here.viscosity)
    return Outcome(level, _flight_figures(level, power, mass.state, speed))


def _flight_figures(f: FlightFigures, power: PowerTrain, state: MassState, speed: Speeds) -> tuple[Figure, ...]:
    source, weight = "docs/theory.md §8", state.mass * GRAVITY
    drag_put = Put(f.cruise_drag, "drag in cruise", "force", DRAG_SIGMA * f.cruise_drag)
    cannot = "full throttle does not hold level flight at cruise speed"
    figures = []
    if f.top_speed is None:
        figures.append(absent("speed.max", "thrust is less than drag at every speed above the stall"))
    else:
        row = {"V": Put(f.top_speed, "where thrust and drag cross", "speed", 0.08 * f.top_speed)}
        figures.append(derive("speed.max", "{V}", lambda V: V, row, source=source))
    climb_row = {
        "V": Put(f.climb_speed, "best climbing speed", "speed"),
        "T": Put(f.thrust_at_climb, "thrust there", "force", propellers.THRUST_SIGMA * f.thrust_at_climb),
        "D": Put(
            f.thrust_at_climb - f.climb_rate * weight / f.climb_speed,
            "drag there",
            "force",
            DRAG_SIGMA * f.cruise_drag,
        ),
        "W": Put(weight, "weight", "force"),
    }
    figures.append(
        derive(
            "flight.climb_rate",
            "{V}·({T} − {D})/{W}",
            lambda V, T, D, W: V * (T - D) / W,
            climb_row,
            source=source,
        )
    )
    ratio_row = {"T": climb_row["T"], "W": climb_row["W"]}
    figures.append(derive("flight.climb_thrust_ratio", "{T}/{W}", lambda T, W: T / W, ratio_row, source=source))
    if f.cruise_throttle is None or f.cruise_current is None or f.endurance is None:
        return (*figures, absent("flight.cruise_throttle", cannot), absent("flight.endurance", cannot))
    figures.append(
        derive(
            "flight.cruise_throttle",
            "{d} where thrust = {D} at {V}",
            lambda d, D, V: d,
            {
                "d": Put(f.cruise_throttle, "throttle", "fraction", 0.08 * f.cruise_throttle),
                "D": drag_put,
                "V": Put(speed.cruise, "cruise speed", "speed"),
            },
            source=source,
        )
    )
    figures.append(
        derive(
            "flight.endurance",
            "3600·(1 − {keep})·{Q}/({share}·{I_full} + (1 − {share})·{I_cruise})",
            lambda keep, Q, share, I_full, I_cruise: 3600 * (1 - keep) * Q / (share * I_full + (1 - share) * I_cruise),
            {
                "keep": Put(RESERVE, "kept in the pack", "ratio"),
                "Q": Put(power.pack.capacity_ah, "capacity", "capacity", 0.03 * power.pack.capacity_ah),
                "share": Put(CLIMB_SHARE, "time at full throttle", "ratio"),
                "I_full": Put(f.climb_current, "full throttle, climbing", "current", 0.06 * f.climb_current),
                "I_cruise": Put(f.cruise_current, "level cruise", "current", 0.13 * f.cruise_current),
            },
            source=source,
            note="simple profile; a stepped discharge takes its place later",
        )
    )
    return tuple(figures)
