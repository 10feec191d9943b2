"""The handling stage: what the controls can do, and how dihedral and fin share the work of a turn."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.flap import effective_deflection
from ridgeline.engine.aero.throws import Throws
from ridgeline.engine.aero.trim import trim
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import HANDBOOK, Outcome, Told
from ridgeline.engine.stages.flexing import Flexed
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.sideslip import BEND_SIGMA, Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

_KEYS = (
    "stability.dihedral",
    "stability.spiral_parameter",
    "control.cm_elevator",
    "control.cl_aileron",
    "control.cn_rudder",
    "control.roll_helix",
    "control.roll_rate",
    "control.elevator_to_stall",
    "control.pitch_sensitivity",
    "control.rudder_sideslip",
)
_SOURCE = "docs/theory.md §11"
#: What a control's power may err by, as a share: gaps, hinges and thick low-speed layers against the lattice's flap.
POWER_SIGMA = 0.20 / BAND
#: A rudder's fin is backed by the body it stands on, which the lattice leaves out.
RUDDER_SIGMA = 0.40 / BAND
#: Slow flight, at which a spiral is judged, and the sideslip a rudder is asked to hold.
SLOW_LIFT, SIDESLIP = 0.75, math.radians(10)


@dataclass(frozen=True)
class Handling:
    """Throws rad, equivalent dihedral rad, what steers it, and yaw stiffness with bodies, 1/rad.

    ``by_rudder`` tells that the rudder alone rolls it; ``unsteered`` that neither rudder nor ailerons do.
    """

    throws: Throws
    dihedral: float
    by_rudder: bool
    yaw_stiffness: float
    unsteered: bool = False


def handling(
    form: Shape,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    throws: Throws,
    slip: Sideslip | None,
    flex: Flexed | None,
    told: Told,
) -> Outcome[Handling | None]:
    """Give control derivatives, roll rate, elevator reserve, and the measures of spiral behaviour."""
    ref = form.reference
    if model is None or stable is None or balanced is None or speed is None or ref is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in _KEYS))
    wings = form.of("wing")
    built = sum(w.area * w.dihedral for w in wings) / sum(w.area for w in wings)
    bend = 0.0 if flex is None else flex.dihedral
    dihedral = built + bend
    assert slip is not None
    rolls, yaws = model.roll_control is not None, model.yaw_control is not None
    result = Handling(throws, dihedral, yaws and not rolls, slip.yaw, not yaws and not rolls)
    powers = {figure.key: figure for figure in _derivatives(model, throws)}
    told = {**told, **powers}
    figures = (
        *_lateral_measures(form, built, bend, told),
        *powers.values(),
        *_roll(model, result, slip, told),
        *_pitch(model, stable, balanced, speed, told),
        _sideslip(model, told),
    )
    return Outcome(result, figures)


def _lateral_measures(form: Shape, built: float, bend: float, told: Told) -> tuple[Figure, Figure]:
    angle = derive(
        "stability.dihedral",
        "∫ Γ·c·y dy / ∫ c·y dy = {G} + {B}",
        lambda G, B: G + B,
        {
            "G": Put(built, "panel angles, by area and distance out", "angle", math.radians(0.3)),
            "B": Put(bend, "bent up by the lift of cruise", "angle", BEND_SIGMA * abs(bend)),
        },
        source=f"{HANDBOOK} §4; docs/theory.md §13",
        note="the bend is computed, unless the droop in flight was measured",
    )
    tails = form.tails
    if tails is None or tails.arm_v is None:
        return angle, absent("stability.spiral_parameter", "there is no fin")
    spiral = derive(
        "stability.spiral_parameter",
        "{l_V}·{EDA}/({b}·{C_L}), EDA in degrees",
        lambda l_V, EDA, b, C_L: l_V * math.degrees(EDA) / (b * C_L),
        {
            "l_V": Put(tails.arm_v, "fin arm", "length"),
            "EDA": put(angle),
            "b": put(told["wing.span"], "span"),
            "C_L": Put(SLOW_LIFT, "lift coefficient in slow flight", "ratio"),
        },
        source=f"{HANDBOOK} §4",
        note="5 and more for rudder alone, 3 to 5 with ailerons",
    )
    return angle, spiral


def _derivatives(model: AirframeLattice, throws: Throws) -> tuple[Figure, ...]:
    pitch, roll, yaw = model.pitch_control, model.roll_control, model.yaw_control
    rows: tuple[tuple[str, float | None, float, float, str], ...] = (
        ("control.cm_elevator", pitch.pitch if pitch else None, throws.pitch_up, POWER_SIGMA, "no pitch control"),
        (
            "control.cl_aileron",
            roll.roll if roll else None,
            throws.roll,
            POWER_SIGMA,
            "no ailerons, elevons or flaperons",
        ),
        ("control.cn_rudder", yaw.yaw if yaw else None, throws.yaw, RUDDER_SIGMA, "no rudder"),
    )
    return tuple(
        absent(key, f"there is {why}")
        if value is None
        else derive(
            key,
            "{C}·{d_e}/{d}",
            lambda C, d_e, d: C * d_e / d,
            {
                "C": Put(value, "one radian of it, small angles, by the lattice", "per_radian", sigma * abs(value)),
                "d_e": Put(effective_deflection(_throw(throw)), "full throw, as it counts", "angle"),
                "d": Put(_throw(throw), "full throw", "angle"),
            },
            source=_SOURCE,
            note="about the quarter of the mean chord; large throws count by what a real plain flap keeps",
        )
        for key, value, throw, sigma, why in rows
    )


def _throw(throw: float) -> float:
    """Return a throw to judge a control's power at, rad: its own, or a small one where it has none."""
    return throw if throw > 0 else math.radians(5.0)


def _roll(model: AirframeLattice, result: Handling, slip: Sideslip, told: Told) -> tuple[Figure, Figure]:
    """Give the steady roll: by ailerons against the roll damping, or by rudder through the dihedral."""
    damp = put(told["stability.cl_p"], "roll damping")
    if model.roll_control is not None:
        helix = derive(
            "control.roll_helix",
            "−{C_la}·{da}/{C_lp}",
            lambda C_la, da, C_lp: -C_la * da / C_lp,
            {
                "C_la": put(told["control.cl_aileron"], "roll per aileron"),
                "da": Put(result.throws.roll, "full throw", "angle", math.radians(1.0)),
                "C_lp": damp,
            },
            source=_SOURCE,
            note="steady roll; large throws count by what a real plain flap keeps",
        )
    elif model.yaw_control is not None and result.yaw_stiffness > 1e-4:
        yaw = model.yaw_control
        kept = effective_deflection(_throw(result.throws.yaw)) / _throw(result.throws.yaw)
        helix = derive(
            "control.roll_helix",
            "({C_lb}·{C_nr}/{C_nb} − {C_lr})·{dr}/{C_lp}",
            lambda C_lb, C_nr, C_nb, C_lr, dr, C_lp: (C_lb * C_nr / C_nb - C_lr) * dr / C_lp,
            {
                "C_lb": put(told["stability.cl_beta"], "dihedral effect"),
                "C_nr": put(told["control.cn_rudder"], "yaw per rudder"),
                "C_nb": put(told["stability.cn_beta"], "weathercock"),
                "C_lr": Put(yaw.roll * kept, "roll per rudder itself", "per_radian"),
                "dr": Put(result.throws.yaw, "full rudder", "angle", math.radians(1.0)),
                "C_lp": damp,
            },
            source=_SOURCE,
            note="the rudder yaws it, the dihedral rolls it; steady values",
        )
    else:
        why = "neither ailerons, elevons nor a rudder that the fin answers to"
        return absent("control.roll_helix", why), absent("control.roll_rate", why)
    rate = derive(
        "control.roll_rate",
        "{h}·2·{V}/{b}",
        lambda h, V, b: h * 2 * V / b,
        {
            "h": put(helix),
            "V": put(told["speed.cruise"], "cruise speed"),
            "b": put(told["wing.span"], "span"),
        },
        source=_SOURCE,
    )
    return helix, rate


def _pitch(
    model: AirframeLattice, stable: Stability, balanced: Balance, speed: Speeds, told: Told
) -> tuple[Figure, Figure]:
    keys = ("control.elevator_to_stall", "control.pitch_sensitivity")
    why = "no pitch control, or no trim it could fix"
    forward = balanced.targets.settled[0] if balanced.targets else balanced.cg_fraction
    stall = trim(model, speed.cl_max, forward, balanced.shift, balanced.height)
    here = trim(model, speed.cl_max, balanced.cg_fraction, balanced.shift, balanced.height)
    c_l = speed.cl_max * (speed.stall / speed.cruise) ** 2
    cruise = trim(model, c_l, balanced.cg_fraction, balanced.shift, balanced.height)
    if stall is None or here is None or cruise is None or model.pitch_control is None:
        return absent(keys[0], why), absent(keys[1], why)
    target = told["balance.target_low"]
    forward_put = (
        put(target, "foremost wanted balance")
        if balanced.targets
        else Put(forward, "balance point, no target known", "fraction")
    )
    # Nose up is trailing edge up on a tail, and down on a foreplane.
    way = -1.0 if model.pitch_control.pitch < 0 else 1.0
    reach = derive(
        keys[0],
        "{e} holds lift {C_L} with the balance at {cg}",
        lambda e, C_L, cg: e,
        {
            "e": Put(way * stall.control, "elevator, nose up", "angle", math.radians(1.5) / BAND),
            "C_L": put(told["wing.cl_max"], "lift limit"),
            "cg": forward_put,
        },
        source=_SOURCE,
    )
    travel = derive(
        keys[1],
        "{e_s} − {e_c}",
        lambda e_s, e_c: e_s - e_c,
        {
            "e_s": Put(way * here.control, "elevator at the stall, nose up", "angle", math.radians(1.0) / BAND),
            "e_c": Put(way * cruise.control, "elevator in cruise, nose up", "angle"),
        },
        source=_SOURCE,
        note="at the balance as it is; a short travel makes a touchy elevator",
    )
    return reach, travel


def _sideslip(model: AirframeLattice, told: Told) -> Figure:
    key = "control.rudder_sideslip"
    if model.yaw_control is None or abs(model.yaw_control.yaw) < 1e-4:
        return absent(key, "there is no rudder")
    return derive(
        key,
        "{C_nb}·{beta}/{C_nr}",
        lambda C_nb, beta, C_nr: C_nb * beta / C_nr,
        {
            "C_nb": put(told["stability.cn_beta"], "weathercock"),
            "beta": Put(SIDESLIP, "sideslip", "angle"),
            "C_nr": put(told["control.cn_rudder"], "yaw per rudder"),
        },
        source=_SOURCE,
    )
