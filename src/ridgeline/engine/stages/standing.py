"""The power train standing at full throttle."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power.operating_point import Chain, OperatingPoint, chain, solve
from ridgeline.engine.stages.common import NO_MASS, NO_POWER, Air, Outcome
from ridgeline.engine.stages.masses import Masses


@dataclass(frozen=True)
class Standing:
    """The chain standing at full throttle on a full pack, and its constants."""

    chain: Chain
    point: OperatingPoint
    thrust: float
    current: float
    rpm: float
    disc_limit: float


_STANDING_KEYS = (
    "power.static_thrust",
    "power.static_current",
    "power.static_power",
    "power.static_rpm",
    "power.thrust_ratio",
    "power.pitch_speed",
    "power.motor_heat",
)


def standing(power: PowerTrain | None, mass: Masses, here: Air, brief: Brief) -> Outcome:
    """Solve the chain standing at full throttle on a full pack."""
    if power is None:
        return Outcome(None, tuple(absent(key, NO_POWER) for key in _STANDING_KEYS))
    link = chain(power, 1.0, brief.temperature_c)
    point = solve(link, 1.0, 0.0, here.density)
    if bool(point.stopped):
        why = "this pack cannot turn the motor: its voltage is less than friction asks"
        return Outcome(None, tuple(absent(key, why) for key in _STANDING_KEYS))
    disc = power.motors * propellers.actuator_disc_thrust(
        float(point.shaft_power), link.diameter, here.density, power.propeller.family == "ducted_fan"
    )
    result = Standing(link, point, float(point.thrust), float(point.pack_current), float(point.rpm), disc)
    return Outcome(result, _standing_figures(power, mass, here, result))


def _standing_figures(power: PowerTrain, mass: Masses, here: Air, s: Standing) -> tuple[Figure, ...]:
    law, link, source = s.chain.law, s.chain, "docs/theory.md §9"
    omega, turns = float(s.point.omega), float(s.point.omega) / (2 * math.pi)
    prop = power.propeller
    # What an error of the propeller's power law does to the speed: ω² ∝ 1/C_P against the motor's own slope.
    loaded = 2 * law.static_power / (2 * law.static_power + _motor_slope(s, here))
    rpm_sigma = s.rpm * math.hypot(0.5 * loaded * law.sigma_power, _kv_share(power))
    rpm = derive(
        "power.static_rpm",
        "9.549·{w}",
        lambda w: w * 30 / math.pi,
        {"w": Put(omega, "where motor and propeller torque meet, rad/s", "ratio")},
        source=source,
        note="(V_oc − ω/K_v)/R − I0(ω) = K_v·Q, a quadratic in ω; Kv is often wrong by 10 %: measure it",
        model_sigma=rpm_sigma,
    )
    thrust = derive(
        "power.static_thrust",
        "{N}·{C_T}·{d}·{n}²·{D}⁴",
        lambda N, C_T, d, n, D: N * C_T * d * n * n * D**4,
        {
            "N": Put(power.motors, "propellers", "count"),
            "C_T": Put(law.static_thrust, _of_what(power), "ratio", law.sigma_thrust * law.static_thrust),
            "d": Put(here.density, "air density", "density"),
            "n": Put(turns, "turns per second", "ratio", turns * rpm_sigma / s.rpm),
            "D": Put(prop.diameter, "propeller diameter", "length"),
        },
        source=source,
    )
    resistance = link.motor_resistance + link.esc_resistance + link.motors * link.source_resistance
    current = derive(
        "power.static_current",
        "{N}·({V_oc} − {w}/{K_v})/{R}",
        lambda N, V_oc, w, K_v, R: N * (V_oc - w / K_v) / R,
        {
            "N": Put(power.motors, "motors", "count"),
            "V_oc": Put(link.open_circuit - link.brush_drop, "pack at no load, full", "voltage"),
            "w": Put(omega, "speed of rotation, rad/s", "ratio"),
            "K_v": Put(link.k_v, "speed constant, rad/s per V", "ratio"),
            "R": Put(resistance, "pack, leads, controller and winding", "resistance"),
        },
        source=source,
        model_sigma=0.09 * s.current / 1.645 + 0.03 * s.current,
    )
    drawn = derive(
        "power.static_power",
        "{V}·{I}",
        lambda V, I: V * I,  # noqa: E741
        {"V": Put(float(s.point.pack_voltage), "pack under load", "voltage", 0.1), "I": put(current)},
        source=source,
    )
    heat = derive(
        "power.motor_heat",
        "{V_m}·{I} − {P}",
        lambda V_m, I, P: V_m * I - P,  # noqa: E741
        {
            "V_m": Put(float(s.point.motor_voltage), "at the motor", "voltage"),
            "I": Put(float(s.point.motor_current), "one motor", "current"),
            "P": Put(float(s.point.shaft_power), "one shaft", "power"),
        },
        source=source,
        model_sigma=0.2 * float(s.point.motor_heat) / 1.645,
    )
    pitch = derive(
        "power.pitch_speed",
        "{p}·{n}",
        lambda p, n: p * n,
        {
            "p": Put(prop.pitch, "propeller pitch", "length"),
            "n": Put(turns, "turns per second", "ratio", turns * rpm_sigma / s.rpm),
        },
        source=source,
    )
    return thrust, current, drawn, rpm, _thrust_ratio(thrust, mass), pitch, heat


def _of_what(power: PowerTrain) -> str:
    """Say where the thrust coefficient comes from."""
    prop = power.propeller
    if prop.factor_sigma is not None:
        return "thrust coefficient, measured"
    return "thrust coefficient of the table" if prop.table else "thrust coefficient of the family"


def _kv_share(power: PowerTrain) -> float:
    """Return the one-sigma share of the speed constant: as measured, or what sellers' figures scatter by."""
    return 0.03 if power.motor.kv_sigma is None else power.motor.kv_sigma


def _motor_slope(s: Standing, here: Air) -> float:
    """Return the motor's torque fall per speed, in the units of C_P, for the share of the law's error in rpm."""
    link, omega = s.chain, float(s.point.omega)
    resistance = link.motor_resistance + link.esc_resistance + link.motors * link.source_resistance
    slope = (1 / (link.k_v * resistance) + link.i0_slope) / link.k_v
    torque_scale = here.density * link.diameter**5 / (2 * math.pi) ** 3 * omega
    return slope / torque_scale


def _thrust_ratio(thrust: Figure, mass: Masses) -> Figure:
    if mass.state is None:
        return absent("power.thrust_ratio", NO_MASS)
    return derive(
        "power.thrust_ratio",
        "{T}/({m}·{g})",
        lambda T, m, g: T / (m * g),
        {
            "T": put(thrust),
            "m": Put(mass.state.mass, "all-up weight", "mass", mass.state.sigma_mass, "mass.auw"),
            "g": Put(GRAVITY, "gravity", "acceleration"),
        },
        source="docs/theory.md §9",
        note="standing; thrust falls with airspeed, so 1.0 here does not climb straight up",
    )
