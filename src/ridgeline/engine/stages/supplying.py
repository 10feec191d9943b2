"""What the power train must also stand: heat and cooling, the receiver supply, controller speed, one motor out."""

from __future__ import annotations

import math

from ridgeline.design.axes import all_discs
from ridgeline.design.brief import Brief
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.power import thermal
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.limits import MOTOR_HEAT_CONTINUOUS, SPEED_OF_SOUND
from ridgeline.engine.power.pack import least_voltage
from ridgeline.engine.power.supply import NO_DRAW, RECEIVER, Draw, servos_aboard
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.standing import Standing

_SOURCE = "docs/theory.md §9"
_KEYS = (
    "power.cell_voltage",
    "power.efficiency",
    "power.tip_mach",
    "power.erpm",
    "power.motor_rise",
    "power.motor_seconds",
    "power.cooling_inlet",
    "power.receiver_load",
    "power.one_out_rudder",
)


def supplying(
    power: PowerTrain | None,
    parts: tuple[Item, ...],
    mass: Masses,
    stand: Standing | None,
    flown: FlightFigures | None,
    here: Air,
    brief: Brief,
    model: AirframeLattice | None,
    handled: Handling | None,
) -> Outcome[tuple[Draw, ...] | None]:
    """Give the figures the limits of the power train are judged by."""
    if power is None or stand is None:
        why = NO_POWER if power is None else "the motor does not turn"
        return Outcome(None, tuple(absent(key, why) for key in _KEYS))
    servos = servos_aboard(parts, mass.items)
    largest = max(servos, default=NO_DRAW)
    others = math.fsum(one.working for one in servos) - largest.working
    load = derive(
        "power.receiver_load",
        "{r} + {others} + {one}",
        lambda r, others, one: r + others + one,
        {
            "r": Put(RECEIVER, "the receiver", "current"),
            "others": Put(others, f"{max(len(servos) - 1, 0)} servos at work", "current", largest.sigma * others),
            "one": Put(largest.stalled, "the largest, stalled", "current", largest.sigma * largest.stalled),
        },
        source="handbook of the trade §14",
    )
    return Outcome(
        tuple(servos),
        (
            *_standing(power, stand),
            *_heat(power, stand, flown, here, brief),
            load,
            _one_out(power, flown, here, model, handled),
        ),
    )


def _standing(power: PowerTrain, stand: Standing) -> tuple[Figure, ...]:
    cell = derive(
        "power.cell_voltage",
        "{V}/{n}",
        lambda V, n: V / n,
        {
            "V": Put(float(stand.point.pack_voltage), "pack under load", "voltage", stand.sigmas["pack_voltage"]),
            "n": Put(power.cells, "cells in series", "count"),
        },
        source=_SOURCE,
        note=f"{least_voltage(power.pack):.1f} V is the least a cell should be pulled to",
    )
    drawn = float(stand.point.pack_power)
    efficiency = derive(
        "power.efficiency",
        "1000·{T}/(9.807·{P})",
        lambda T, P: 1000 * T / (9.80665 * P),
        {
            "T": Put(stand.thrust, "static thrust", "force"),
            "P": Put(drawn, "drawn from the pack", "power"),
        },
        source=_SOURCE,
        # Thrust and watts rise and fall together.
        model_sigma=stand.sigmas["grams_per_watt"],
    )
    tip = math.pi * power.propeller.diameter * stand.rpm / 60
    share = stand.sigmas["omega"] / float(stand.point.omega)
    mach = derive(
        "power.tip_mach",
        "{v}/{a}",
        lambda v, a: v / a,
        {"v": Put(tip, "π D n", "speed", share * tip), "a": Put(SPEED_OF_SOUND, "speed of sound", "speed")},
        source=_SOURCE,
        note="noisy, and outside the blade model, above 0.65",
    )
    electric = derive(
        "power.erpm",
        "{rpm}·{p}/2",
        lambda rpm, p: rpm * p / 2,
        {
            "rpm": Put(stand.rpm, "of the motor", "rotation", share * stand.rpm),
            "p": Put(power.motor.poles, "magnets", "count"),
        },
        source=_SOURCE,
    )
    if power.motor.kind == "brushed":
        electric = absent("power.erpm", "a brushed motor commutates itself")
    return cell, efficiency, mach, electric


def _heat(
    power: PowerTrain, stand: Standing, flown: FlightFigures | None, here: Air, brief: Brief
) -> tuple[Figure, ...]:
    heat, mass = float(stand.point.motor_heat), power.motor.mass
    rise = derive(
        "power.motor_rise",
        "80·{Q}/({m}·{q})",
        lambda Q, m, q: thermal.steady_rise(Q, m, q),
        {
            "Q": Put(heat, "heat of one motor", "power", stand.sigmas["motor_heat"], "power.motor_heat"),
            "m": Put(mass, "motor", "mass"),
            "q": Put(
                MOTOR_HEAT_CONTINUOUS,
                "W per kg that keeps it 80 K over the air",
                "ratio",
                thermal.RISE_SIGMA * MOTOR_HEAT_CONTINUOUS,
            ),
        },
        source=_SOURCE,
    )
    seconds = thermal.seconds_to_limit(heat, mass, brief.temperature_c)
    if seconds is None:
        lasting = absent("power.motor_seconds", "it may last: the motor stays under 100 °C")
    else:
        lag, room = thermal.time_constant(), thermal.MOTOR_LIMIT_C - brief.temperature_c
        # Less room or more heat shortens it; the share of the steady rise that is room holds how much.
        doubt = math.hypot(stand.sigmas["motor_heat"] / heat, thermal.RISE_SIGMA)
        lasting = derive(
            "power.motor_seconds",
            "−{t}·ln(1 − {room}/{rise})",
            lambda t, room, rise: -t * math.log1p(-room / rise),
            {
                "t": Put(lag, "the motor's time constant", "seconds", thermal.TIME_SIGMA * lag),
                "room": Put(room, "from the air to 100 °C", "temperature_rise"),
                "rise": Put(thermal.steady_rise(heat, mass), "kept for good", "temperature_rise"),
            },
            source=_SOURCE,
            model_sigma=doubt * seconds,
        )
    if flown is None:
        return rise, lasting, absent("power.cooling_inlet", "it does not fly yet")
    total = power.motors * heat + power.motors * float(stand.point.esc_heat) + float(stand.point.pack_heat)
    inlet = derive(
        "power.cooling_inlet",
        "{Q}/({d}·0.5·{V}·1005·20)",
        lambda Q, d, V: thermal.inlet_area(Q, V, d),
        {
            "Q": Put(
                total,
                "motors, controllers and pack at full throttle",
                "power",
                total * stand.sigmas["motor_heat"] / heat,
            ),
            "d": Put(here.density, "air density", "density"),
            "V": Put(flown.climb_speed, "climbing speed", "speed", 0.1 * flown.climb_speed),
        },
        source=_SOURCE,
        note="air warmed by 20 K, half the airspeed at the opening; make the exit half as large again",
    )
    return rise, lasting, inlet


def _one_out(
    power: PowerTrain,
    flown: FlightFigures | None,
    here: Air,
    model: AirframeLattice | None,
    handled: Handling | None,
) -> Figure:
    """Give the rudder that holds the aircraft straight when the motor farthest out stops in the climb."""
    key = "power.one_out_rudder"
    arm = max(abs(y) for _x, y, _z in all_discs(power))
    if power.motors < 2 or arm < 0.01:
        return absent(key, "there is no motor off the centre line")
    if flown is None or model is None or handled is None or model.yaw_control is None:
        return absent(key, "there is no rudder, or it does not fly yet")
    per = abs(model.yaw_control.yaw)
    if per < 1e-4:
        return absent(key, "the rudder does not yaw it")
    each = flown.thrust_at_climb / power.motors
    load = 0.5 * here.density * flown.climb_speed**2 * model.scale.area * model.scale.span
    return derive(
        key,
        "{T}·{y}/({q_S_b}·{C_n})",
        lambda T, y, q_S_b, C_n: T * y / (q_S_b * C_n),
        {
            "T": Put(each, "one motor at climbing speed", "force", 0.06 * each),
            "y": Put(arm, "off the centre line", "length"),
            "q_S_b": Put(load, "dynamic pressure × area × span", "torque"),
            "C_n": Put(per, "yaw per rudder", "per_radian", 0.15 / BAND * per, "control.cn_rudder"),
        },
        source="docs/theory.md §11",
        note="wings level and no sideslip; closing the throttle is the first cure",
    )
