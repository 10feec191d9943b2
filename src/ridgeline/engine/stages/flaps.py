"""The flaps stage: lift, drag, trim change and landing with flaps, flaperons, or none."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ridgeline.design.airframe import Surface
from ridgeline.design.hinges import mean_share
from ridgeline.engine.aero.airframe_lattice import FLAP_CONTROLS, AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.critical import flap_gain
from ridgeline.engine.aero.flap import LIMIT_SIGMA, effective_deflection, flap_drag
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.placed import mean_chord_of
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome, Told
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

_KEYS = ("flap.lift", "flap.drag", "flap.elevator", "speed.stall_flaps")
_LANDING = ("speed.approach", "flight.landing_slide")
_SOURCE = "docs/theory.md §12"
#: Friction of a belly or braked wheels on short grass, and touch-down speed over the stall speed.
_FRICTION, _FRICTION_SIGMA, _TOUCH = 0.35, 0.10 / BAND, 1.1


@dataclass(frozen=True)
class Flaps:
    """Flap setting rad, lift limit with flaps, share of roll authority flaperons keep when down (1 for plain flaps)."""

    setting: float
    cl_max: float
    roll_left: float
    share: float


def flaps(
    form: Shape,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    handled: Handling | None,
    surfaces: tuple[Surface, ...],
    told: Told,
) -> Outcome[Flaps | None]:
    """Give what the flaps do, and the landing with or without them."""
    ref = form.reference
    ready = model is not None and stable is not None and balanced is not None and speed is not None
    if not ready or ref is None or handled is None or mass.state is None:
        why = "it needs wing, mass and neutral point first"
        return Outcome(None, tuple(absent(key, why) for key in (*_KEYS, *_LANDING)))
    assert model is not None and stable is not None and balanced is not None and speed is not None
    setting = handled.throws.flap
    if model.flap is None or setting <= 0 or speed.vortex:
        why = "there are no flaps" if model.flap is None else "vortices carry this wing: no flap rule holds for it"
        return Outcome(None, (*(absent(key, why) for key in _KEYS), *_landing(told["speed.stall"])))
    effective = effective_deflection(setting)
    share, chord = _covered(surfaces, ref.area)
    gain = flap_gain(model, effective, ref.area)
    cl_max = speed.cl_max + gain
    spread = math.hypot(told["wing.cl_max"].sigma, LIMIT_SIGMA * gain)
    stall = derive(
        "speed.stall_flaps",
        "√(2·{m}·{g}/({d}·{S}·{C_Lf}))",
        lambda m, g, d, S, C_Lf: math.sqrt(2 * m * g / (d * S * C_Lf)),
        {
            "m": put(told["mass.auw"], "all-up weight"),
            "g": Put(GRAVITY, "gravity", "acceleration"),
            "d": Put(here.density, "air density", "density"),
            "S": put(told["wing.area"], "wing area"),
            "C_Lf": Put(cl_max, "lift limit, flaps down", "ratio", spread),
        },
        source=_SOURCE,
    )
    result = Flaps(setting, cl_max, _roll_left(surfaces, handled, setting), share)
    figures = (*_effects(model, stable, balanced, setting, effective, share, chord), stall)
    return Outcome(result, (*figures, *_landing(stall)))


def _covered(surfaces: tuple[Surface, ...], area: float) -> tuple[float, float]:
    """Return the share of the wing ahead of flaps, and their mean chord share."""
    share = weighted = 0.0
    for surface in surfaces:
        for control in surface.controls:
            if control.kind in FLAP_CONTROLS:
                mine = (2 if surface.mirrored else 1) * (control.end - control.start) * mean_chord_of(surface) / area
                share += mine
                weighted += mine * mean_share(surface, control)
    return min(share, 1.0), weighted / share if share else 0.0


def _roll_left(surfaces: tuple[Surface, ...], handled: Handling, setting: float) -> float:
    """Return the share of roll authority left with the flaps down.

    The half that goes further down gains little, the half that goes up starts from the flaps' setting.
    """
    if not any(c.kind == "flaperon" for s in surfaces for c in s.controls):
        return 1.0
    roll = handled.throws.roll
    apart = effective_deflection(setting + roll) - effective_deflection(setting - roll)
    return min(max(0.5 * apart / effective_deflection(roll), 0.0), 1.0) if roll > 0 else 0.0


def _effects(
    model: AirframeLattice,
    stable: Stability,
    balanced: Balance,
    setting: float,
    effective: float,
    share: float,
    chord: float,
) -> tuple[Figure, Figure, Figure]:
    assert model.flap is not None
    put_in = Put(setting, "flaps down", "angle", math.radians(1.0))
    worth = Put(effective, "worth a small deflection of", "angle", 0.1 * effective)
    lift = derive(
        "flap.lift",
        "{C_Lf}·{d}",
        lambda C_Lf, d: C_Lf * d,
        {"C_Lf": Put(model.flap.lift, "lift per flap", "per_radian", 0.05 * model.flap.lift), "d": worth},
        source=_SOURCE,
        note=f"{math.degrees(setting):.0f}° of flap",
    )
    drag = derive(
        "flap.drag",
        "1.7·{x}^1.38·{s}·sin²{d}",
        lambda x, s, d: flap_drag(x, s, d),
        {"x": Put(chord, "flap over chord", "fraction"), "s": Put(share, "wing with flaps", "fraction"), "d": put_in},
        source="Young, ARC R&M 2622",
        model_sigma=0.18 * flap_drag(chord, share, setting),
    )
    elevator = _trim_change(model, stable, balanced, worth)
    return lift, drag, elevator


def _trim_change(model: AirframeLattice, stable: Stability, balanced: Balance, worth: Put) -> Figure:
    """Give the elevator that holds lift and moment when the flaps go down: two equations in angle and elevator."""
    control, flap, alpha = model.pitch_control, model.flap, model.found.alpha
    assert flap is not None
    if control is None:
        return absent("flap.elevator", "there is no pitch control")
    arm = balanced.cg_fraction - 0.25
    a_m = alpha.pitch + (arm + balanced.shift) * alpha.lift
    c_m, f_m = control.pitch + arm * control.lift, flap.pitch + arm * flap.lift
    det = alpha.lift * c_m - control.lift * a_m
    if abs(det) < 1e-4:
        return absent("flap.elevator", "lift and moment do not fix one trim here")
    per = (flap.lift * a_m - alpha.lift * f_m) / det
    return derive(
        "flap.elevator",
        "{k}·{d}",
        lambda k, d: k * d,
        {"k": Put(per, "elevator per flap at the same lift", "ratio", 0.2 * abs(per)), "d": worth},
        source=_SOURCE,
        note="trailing edge down positive; mix this in so that the nose stays where it is",
    )


def _landing(stall: Figure) -> tuple[Figure, Figure]:
    slow = put(stall, "stall speed for landing")
    approach = derive(
        "speed.approach",
        "{r}·{V_s}",
        lambda r, V_s: r * V_s,
        {"r": Put(1.3, "approach over stall", "ratio"), "V_s": slow},
        source="docs/theory.md §3",
    )
    slide = derive(
        "flight.landing_slide",
        "({t}·{V_s})²/(2·{mu}·g)",
        lambda t, V_s, mu: (t * V_s) ** 2 / (2 * mu * GRAVITY),
        {
            "t": Put(_TOUCH, "touch-down over stall", "ratio"),
            "V_s": slow,
            "mu": Put(_FRICTION, "friction on short grass", "ratio", _FRICTION_SIGMA),
        },
        source=_SOURCE,
        note="without head wind",
    )
    return approach, slide
