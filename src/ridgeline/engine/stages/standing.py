"""The power train standing at full throttle."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.power import propeller_loads
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.operating_point import OperatingPoint, solve
from ridgeline.engine.power.scatter import scatter_of, widened_past_mach
from ridgeline.engine.stages.common import NO_MASS, NO_POWER, Air, Outcome, Told


@dataclass(frozen=True)
class Standing:
    """The chain standing at full throttle on a full pack, and its constants.

    ``sigmas`` are one-sigma errors of fields of ``point`` (and ``pack_power``) by what is not known of the train.
    """

    chain: Chain
    point: OperatingPoint
    thrust: float
    current: float
    rpm: float
    disc_limit: float
    sigmas: Mapping[str, float]


_DOUBTED = ("omega", "thrust", "pack_current", "pack_voltage", "pack_power", "shaft_power", "motor_heat")
_STANDING_KEYS = (
    "power.static_thrust",
    "power.static_current",
    "power.static_power",
    "power.static_rpm",
    "power.pitch_speed",
    "power.motor_heat",
)


def standing(power: PowerTrain | None, here: Air, brief: Brief) -> Outcome[Standing | None]:
    """Solve the chain standing at full throttle on a full pack."""
    if power is None:
        return Outcome(None, tuple(absent(key, NO_POWER) for key in _STANDING_KEYS))
    link = chain(power, 1.0, brief.temperature_c)
    point = solve(link, 1.0, 0.0, here.density)
    if bool(point.stopped):
        why = "this pack cannot turn the motor: its voltage is less than friction asks"
        return Outcome(None, tuple(absent(key, why) for key in _STANDING_KEYS))
    link = widened_past_mach(link, float(point.omega))
    scatter = scatter_of(power, link)
    rows = solve(scatter.moved(link), 1.0, 0.0, here.density, point.omega)
    sigmas = {name: float(scatter.sigma(getattr(rows, name))) for name in _DOUBTED}
    sigmas["grams_per_watt"] = float(scatter.sigma(1000 * rows.thrust / (GRAVITY * np.maximum(rows.pack_power, 1e-9))))
    disc = power.motors * propeller_loads.actuator_disc_thrust(
        float(point.shaft_power), link.diameter, here.density, power.propeller.family == "ducted_fan"
    )
    result = Standing(link, point, float(point.thrust), float(point.pack_current), float(point.rpm), disc, sigmas)
    return Outcome(result, _standing_figures(power, here, result))


def _standing_figures(power: PowerTrain, here: Air, s: Standing) -> tuple[Figure, ...]:
    law, point, source = s.chain.law, s.point, "docs/theory.md §9"
    omega, turns = float(point.omega), float(point.omega) / (2 * math.pi)
    prop = power.propeller
    c_t = s.chain.thrust_factor * float(law.at(0.0, math.pi * prop.diameter * turns)[0])
    rpm = derive(
        "power.static_rpm",
        "9.549·{w}",
        lambda w: w * 30 / math.pi,
        {"w": Put(omega, "where motor and propeller torque meet, rad/s", "ratio", s.sigmas["omega"])},
        source=source,
        note=_doubts(power),
    )
    thrust = derive(
        "power.static_thrust",
        "{N}·{C_T}·{d}·{n}²·{D}⁴",
        lambda N, C_T, d, n, D: N * C_T * d * n * n * D**4,
        {
            "N": Put(power.motors, "propellers", "count"),
            "C_T": Put(c_t, _of_what(power), "ratio", law.sigma_thrust * c_t),
            "d": Put(here.density, "air density", "density"),
            "n": Put(turns, "turns per second", "ratio", s.sigmas["omega"] / (2 * math.pi)),
            "D": Put(prop.diameter, "propeller diameter", "length"),
        },
        source=source,
    )
    outside = s.chain.esc_resistance + s.chain.motors * s.chain.source_resistance
    winding = float(point.motor_resistance)
    current = derive(
        "power.static_current",
        "{N}·({V_oc} − {w}/{K_v})/({R} + {R_m})",
        lambda N, V_oc, w, K_v, R, R_m: N * (V_oc - w / K_v) / (R + R_m),
        {
            "N": Put(power.motors, "motors", "count"),
            "V_oc": Put(s.chain.open_circuit - s.chain.brush_drop, "pack at no load, full", "voltage"),
            "w": Put(omega, "speed of rotation, rad/s", "ratio"),
            "K_v": Put(s.chain.k_v, "speed constant, rad/s per V", "ratio"),
            "R": Put(outside, "pack, leads and controller", "resistance"),
            "R_m": Put(winding, _winding_words(s), "resistance"),
        },
        source=source,
        # Volts, speed and resistance move together: what the doubts do is found with the whole balance.
        model_sigma=s.sigmas["pack_current"],
    )
    drawn = derive(
        "power.static_power",
        "{V}·{I}",
        lambda V, I: V * I,  # noqa: E741
        {"V": Put(float(point.pack_voltage), "pack under load", "voltage"), "I": put(current)},
        source=source,
    )
    heat = derive(
        "power.motor_heat",
        "{V_m}·{I} − {P}",
        lambda V_m, I, P: V_m * I - P,  # noqa: E741
        {
            "V_m": Put(float(point.motor_voltage), "at the motor", "voltage"),
            "I": Put(float(point.motor_current), "one motor", "current"),
            "P": Put(float(point.shaft_power), "one shaft", "power"),
        },
        source=source,
        model_sigma=s.sigmas["motor_heat"],
    )
    pitch = derive(
        "power.pitch_speed",
        "{p}·{n}",
        lambda p, n: p * n,
        {
            "p": Put(prop.pitch, "propeller pitch", "length"),
            "n": Put(turns, "turns per second", "ratio", s.sigmas["omega"] / (2 * math.pi)),
        },
        source=source,
    )
    return thrust, current, drawn, rpm, pitch, heat


def _of_what(power: PowerTrain) -> str:
    """Say where the thrust coefficient comes from."""
    prop = power.propeller
    if prop.factor_sigma is not None:
        return "thrust coefficient, measured"
    return "thrust coefficient of the table" if prop.table else "thrust coefficient of the family"


def _winding_words(s: Standing) -> str:
    """Say what the resistance of the winding under load is made of."""
    cold, rise = s.chain.motor_resistance, float(s.point.winding_rise)
    return f"winding: {1e3 * cold:.0f} mΩ cold, {rise:.0f} K warmer, and late by its inductance"


def _doubts(power: PowerTrain) -> str:
    """Say what the band of full throttle rests on."""
    if power.motor.kv_sigma is not None:
        return "constants from the bench"
    return "constants by class: Kv ±8 %, winding ×/÷ 1.8; one reading of a thrust stand narrows all of it"


def thrust_ratio(stand: Standing | None, told: Told) -> Outcome[None]:
    """Compare what it pulls standing, and the most any propeller of the size could, with what it weighs."""
    keys = ("power.thrust_ratio", "power.disc_ratio")
    thrust, auw = told["power.static_thrust"], told["mass.auw"]
    if thrust.value is None or auw.value is None or stand is None:
        why = thrust.why_not if thrust.value is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))

    def over_weight(key: str, pull: Put, note: str) -> Figure:
        row = {"T": pull, "m": put(auw, "all-up weight"), "g": Put(GRAVITY, "gravity", "acceleration")}
        return derive(key, "{T}/({m}·{g})", lambda T, m, g: T / (m * g), row, source="docs/theory.md §9", note=note)

    falls = "standing; thrust falls with airspeed, so 1.0 here does not climb straight up"
    ideal = Put(stand.disc_limit, "ideal thrust of the disc at this shaft power", "force")
    best = "standing; no propeller of this size beats an ideal disc on the same shaft power"
    return Outcome(None, (over_weight(keys[0], put(thrust), falls), over_weight(keys[1], ideal, best)))
