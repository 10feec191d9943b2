"""The trim stage: angle of attack and elevator in cruise."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.engine.aero import neutral_point as hand
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.sections import SLOPE_FACTOR, mean_line
from ridgeline.engine.aero.trim import TrimTerms, flap_effectiveness, flap_lift_arm, trim
from ridgeline.engine.figures import Put, absent, derive
from ridgeline.engine.geometry.reference import (
    TAILS,
    WINGS,
)
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.stability import Balance, Speeds, Stability


def trimmed(
    form: Shape,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    surfaces: tuple[Surface, ...],
    mass: Masses,
    here: Air,
) -> Outcome:
    """Solve angle of attack and elevator for level cruise."""
    keys = ("trim.alpha", "trim.elevator")
    if stable is None or balanced is None or speed is None or form.reference is None or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in keys))
    terms = _trim_terms(form, stable, surfaces)
    if terms is None:
        return Outcome(None, tuple(absent(key, "no surface has an elevator, ruddervator or elevon") for key in keys))
    c_l = mass.state.mass * GRAVITY / (0.5 * here.density * speed.cruise**2 * form.reference.area)
    solved = trim(terms, c_l, balanced.cg_fraction, stable.neutral_fraction)
    if solved is None:
        return Outcome(None, tuple(absent(key, "lift and moment do not fix one trim here") for key in keys))
    rows = {
        "C_L": Put(c_l, "lift coefficient in cruise", "ratio", 0.05 * c_l),
        "cg": Put(balanced.cg_fraction, "balance point", "fraction", 0.008),
        "np": Put(
            stable.neutral_fraction,
            "neutral point",
            "fraction",
            stable.neutral_sigma,
            "stability.neutral_point_fraction",
        ),
    }
    note = "linear; small angles; the propeller's wash is left out"

    def part(name: str) -> Any:
        def value(C_L: float, cg: float, np: float) -> float:
            result = trim(terms, C_L, cg, np)
            return math.nan if result is None else float(getattr(result, name))

        return value

    formula = "lift = {C_L} and moment = 0 about {cg}, neutral point {np}; solved for "
    source, sigma = "docs/theory.md §7", math.radians(1.0) / 1.645
    alpha = derive(
        "trim.alpha", formula + "the angle", part("alpha"), rows, source=source, note=note, model_sigma=sigma
    )
    elevator = derive(
        "trim.elevator",
        formula + "the elevator",
        part("control"),
        rows,
        source=source,
        note=note,
        model_sigma=1.5 * sigma,
    )
    return Outcome(solved, (alpha, elevator))


_PITCH_CONTROLS = ("elevator", "ruddervator", "elevon")


def _trim_terms(form: Shape, stable: Stability, surfaces: tuple[Surface, ...]) -> TrimTerms | None:
    wing = next(s for s in surfaces if s.role in WINGS)
    owner = next(
        ((s, c) for s in surfaces if s.role in (*TAILS, *WINGS) for c in s.controls if c.kind in _PITCH_CONTROLS),
        None,
    )
    if owner is None:
        return None
    surface, control = owner
    line = mean_line(wing.section)
    mac_y = form.of(*WINGS)[0].mean_chord.y
    stations = wing.stations
    twist = float(np.interp(mac_y, [s.y for s in stations], [s.twist for s in stations]))
    tail = next((s for s in surfaces if s.role in TAILS), None)
    covered = (control.end - control.start) / (surface.stations[-1].y - surface.stations[0].y)
    tails = form.tails
    return TrimTerms(
        wing_slope=stable.wing_slope,
        wing_zero_lift=line.alpha_0,
        wing_incidence=wing.incidence + twist,
        wing_moment=line.cm_quarter * SLOPE_FACTOR,
        tail_slope=stable.tail_slope,
        tail_incidence=tail.incidence if tail else 0.0,
        tail_area_ratio=stable.tail_ratio,
        tail_volume=(tails.horizontal or 0.0) if tails and tail else 0.0,
        downwash=stable.downwash,
        pressure_ratio=hand.TAIL_PRESSURE_RATIO,
        control_effect=flap_effectiveness(control.chord_fraction) * min(covered, 1.0),
        control_on_wing=surface.role in WINGS,
        control_arm=flap_lift_arm(control.chord_fraction),
    )
