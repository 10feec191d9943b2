"""The trim stage: angles that hold cruise, the ways to build them in, and what one side's twist or weight costs."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.design.hinges import mean_share
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.attitude import Height
from ridgeline.engine.aero.trim import Setting, Trim, settings, shim_height, sweep, trim
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

_KEYS = ("trim.alpha", "trim.elevator", "trim.wing_shim", "trim.tail_shim", "trim.reflex", "trim.reflex_sheets")
_AILERON = "trim.aileron"
_SOURCE = "docs/theory.md §7"
_SIGMA = math.radians(1.0) / BAND
#: One sigma of the height of the balance point, in mean chords: a centimetre or so.
_HEIGHT_SIGMA = 0.05
#: Speeds of the sweep over the stall speed.
SWEEP = np.linspace(1.05, 3.2, 44)


@dataclass(frozen=True)
class Trimmed:
    """Trim in cruise, every way to set it, and the sweep: speeds m/s, body angle and pitch control rad, (n,) each."""

    cruise: Trim
    settings: tuple[Setting, ...]
    speed: np.ndarray
    alpha: np.ndarray
    control: np.ndarray


def trimmed(
    form: Shape,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    surfaces: tuple[Surface, ...],
    brief: Brief,
    told: Told,
) -> Outcome[Trimmed | None]:
    """Solve level cruise for angle and elevator, and the incidences that would need none."""
    ref, state = form.reference, mass.state
    if model is None or stable is None or balanced is None or speed is None or ref is None or state is None:
        keys = (*_KEYS, _AILERON)
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in keys))
    q = 0.5 * here.density * speed.cruise**2
    aileron = _aileron(model, state, q, told)
    if model.pitch_control is None:
        why = "no surface has an elevator, ruddervator or elevon"
        return Outcome(None, (*(absent(key, why) for key in _KEYS), aileron))
    c_l = state.mass * GRAVITY / (q * ref.area)
    cg, shift = balanced.cg_fraction, balanced.shift
    solved = trim(model, c_l, cg, shift, balanced.height)
    swept = sweep(model, c_l * (speed.cruise / (SWEEP * speed.stall)) ** 2, cg, shift, balanced.height)
    if solved is None or swept is None:
        why = "lift and moment do not fix one trim here"
        return Outcome(None, (*(absent(key, why) for key in _KEYS), aileron))
    ways = settings(model, c_l, cg, shift, brief.body_angle, balanced.height)
    result = Trimmed(solved, ways, SWEEP * speed.stall, *swept)
    alpha, elevator = _angles(model, shift, balanced.height, c_l, told)
    figures = (alpha, elevator, *_shims(ways, surfaces, brief), *_reflex(elevator, surfaces), aileron)
    return Outcome(result, figures)


def _angles(model: AirframeLattice, shift: float, height: Height, c_l: float, told: Told) -> tuple[Figure, Figure]:
    rows = {
        "C_L": Put(c_l, "lift coefficient in cruise", "ratio", 0.05 * c_l),
        "cg": put(told["balance.cg_fraction"], "balance point"),
        "z": Put(height.value, "its height over the wing, mean chords", "ratio", _HEIGHT_SIGMA),
        "body": Put(shift, "forward shift by body and propeller", "ratio", 0.4 * abs(shift)),
    }

    @lru_cache(maxsize=32)
    def solved(C_L: float, cg: float, z: float, body: float) -> Trim | None:
        return trim(model, C_L, cg, body, height._replace(value=z))

    def part(name: str) -> Any:
        def value(**at: float) -> float:
            result = solved(**at)
            return math.nan if result is None else float(getattr(result, name))

        return value

    formula = "lift {C_L}, no moment about {cg}, {z} up, body shift {body}: "
    note = "linear; small angles; the propeller's wash is left out"
    return (
        derive("trim.alpha", formula + "the angle", part("alpha"), rows, source=_SOURCE, note=note, model_sigma=_SIGMA),
        derive(
            "trim.elevator",
            formula + "the elevator",
            part("control"),
            rows,
            source=_SOURCE,
            note=note,
            model_sigma=1.5 * _SIGMA,
        ),
    )


def _shims(ways: tuple[Setting, ...], surfaces: tuple[Surface, ...], brief: Brief) -> tuple[Figure, Figure]:
    """Give shim heights under the leading edges that bring the body to its chosen angle with the control neutral."""
    way = next((w for w in ways if w.held == "body"), None)
    wing = next(s for s in surfaces if s.role in WINGS)
    tail = next((s for s in surfaces if s.role in TAILS), next((s for s in surfaces if s.role == "foreplane"), None))
    note = f"with the body at {math.degrees(brief.body_angle):.1f}° to the air; below nothing: under the trailing edge"

    def shim(key: str, surface: Surface | None, change: float | None) -> Figure:
        if surface is None or change is None:
            return absent(key, "there is no such surface to shim, or no one setting that trims it")
        return derive(
            key,
            "{c}·tan {di}",
            lambda c, di: shim_height(c, di),
            {
                "c": Put(surface.stations[0].chord, f"root chord of {surface.name}", "length"),
                "di": Put(change, "change of incidence", "angle", _SIGMA),
            },
            source=_SOURCE,
            note=note,
        )

    return (
        shim("trim.wing_shim", wing, way.wing_change if way else None),
        shim("trim.tail_shim", tail, way.tail_change if way else None),
    )


def _reflex(elevator: Figure, surfaces: tuple[Surface, ...]) -> tuple[Figure, Figure]:
    """Give the elevons' trim as millimetres at the trailing edge and as a share of the sheet."""
    place = next(((s, c) for s in surfaces for c in s.controls if c.kind == "elevon"), None)
    if place is None or elevator.value is None:
        why = "only for elevons, on an aircraft without a tail"
        return absent("trim.reflex", why), absent("trim.reflex_sheets", why)
    surface, control = place
    y = [s.y for s in surface.stations]
    chord = float(np.interp(0.5 * (control.start + control.end), y, [s.chord for s in surface.stations]))
    reflex = derive(
        "trim.reflex",
        "−{x}·{c}·sin {e}",
        lambda x, c, e: -x * c * math.sin(e),
        {
            "x": Put(mean_share(surface, control), "elevon over chord", "fraction"),
            "c": Put(chord, "chord at its middle", "length"),
            "e": put(elevator),
        },
        source=_SOURCE,
        note="up positive; a wider margin is paid for in reflex",
    )
    sheets = derive(
        "trim.reflex_sheets",
        "{r}/{t}",
        lambda r, t: r / t,
        {"r": put(reflex), "t": Put(surface.sheet, "sheet", "length")},
        source=_SOURCE,
    )
    return reflex, sheets


def _aileron(model: AirframeLattice, state: Any, q: float, told: Told) -> Figure:
    """Give the aileron that holds the wings level against weight to one side and unlike twist or panels."""
    power = model.roll_control
    if power is None or abs(power.roll) < 1e-4:
        return absent(_AILERON, "nothing rolls it: no ailerons, elevons or flaperons")
    scale = model.scale
    twist = model.warp.roll if model.warp is not None else 0.0
    return derive(
        _AILERON,
        "−({m}·{g}·{y}/({q}·{S}·{b}) + {t})/{C_la}",
        lambda m, g, y, q, S, b, t, C_la: -(m * g * y / (q * S * b) + t) / C_la,
        {
            "m": put(told["mass.auw"], "all-up weight"),
            "g": Put(GRAVITY, "gravity", "acceleration"),
            "y": Put(float(state.cg[1]), "balance sideways", "length", float(state.sigma_cg[1]), "balance.cg_y"),
            "q": Put(q, "dynamic pressure in cruise", "pressure"),
            "S": Put(scale.area, "wing area", "area"),
            "b": Put(scale.span, "span", "length"),
            "t": Put(twist, "roll by the measured warps", "ratio", 0.1 * abs(twist)),
            "C_la": Put(power.roll, "roll per aileron", "per_radian", 0.15 / BAND * abs(power.roll)),
        },
        source=_SOURCE,
        model_sigma=0.5 * _SIGMA,
    )
