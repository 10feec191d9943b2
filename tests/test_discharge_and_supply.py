"""The flight down the pack, power off, packs together, brushed motors, heat and supply, and what is said of them."""

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from ridgeline.design.axes import all_discs
from ridgeline.design.brief import Brief
from ridgeline.design.parts import Servo
from ridgeline.design.paths import put
from ridgeline.design.power import Advance
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.glide import glide, slope_wind
from ridgeline.engine.aero.sections import section
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import thermal
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.discharge import Profile, discharge
from ridgeline.engine.power.held_thrust import throttle_for_thrust
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.supply import draw_of, gauge_for, receiver_load, servo_stall, wire_current
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.library import shipped_shelf

AIR, G = 1.225, 9.80665
MODEL = DragModel(0.256, 6.4, 0.203, section("flat_bottom"), 0.06, 0.12, 0.15, 0.9, 0.004)


@pytest.fixture(scope="module")
def train(whimbrel):
    return whimbrel.power


def fly(train, **more):
    given = {"drag_level": 1.1, "speed_level": 11.5, "speed_climb": 12.0, "air_density": AIR} | more
    return discharge(train, **given)


def found(design, key):
    return next((f for f in evaluate(design).findings if f.key == key), None)


def test_the_discharge_uses_what_lies_between_full_and_the_reserve(train):
    flown = fly(train)
    assert flown.ends == "reserve"
    assert flown.used == pytest.approx((1 - packs.RESERVE) * train.capacity_ah * 3600, rel=1e-9)
    assert flown.total == pytest.approx(flown.climb + flown.seconds.sum())
    assert (np.diff(flown.throttle) > 0).all() and (np.diff(flown.voltage) < 0).all()


def test_the_stepped_time_is_that_of_the_differential_equation(train):
    profile = Profile(climb=0.0, full_share=0.15)
    flown = fly(train, profile=profile)

    def slope(_t, state):
        link = chain(train, float(np.clip(state[0], 0, 1)))
        level = float(solve(link, float(throttle_for_thrust(link, 1.1, 11.5, AIR)), 11.5, AIR).pack_current)
        full = float(solve(link, 1.0, 12.0, AIR).pack_current)
        return [-(0.15 * full + 0.85 * level) / (train.capacity_ah * 3600)]

    def empty(_t, state):
        return state[0] - packs.RESERVE

    empty.terminal = True
    whole = solve_ivp(slope, (0, 10_000), [1.0], events=empty, rtol=1e-8)
    assert flown.total == pytest.approx(whole.t_events[0][0], rel=1e-3)


def test_a_pack_that_sags_too_far_lands_early_and_one_too_weak_does_not_fly(train):
    tired = train.model_copy(update={"pack": train.pack.model_copy(update={"cell_resistance": 0.12})})
    assert (
        fly(tired, drag_level=1.6).ends in ("voltage", "thrust") and fly(tired, drag_level=1.6).total < fly(train).total
    )
    assert fly(train, drag_level=50.0) is None


def test_two_packs_side_by_side_last_more_than_twice_and_in_series_double_the_volts(train):
    double = train.model_copy(update={"pack_parallel": 2})
    assert fly(double).total > 2 * fly(train).total
    series = train.model_copy(update={"pack_series": 2})
    assert series.cells == 6 and chain(series).open_circuit == pytest.approx(2 * chain(train).open_circuit)
    assert chain(double).pack_resistance == pytest.approx(chain(train).pack_resistance / 2)
    assert packs.battery_current(double) == pytest.approx(2 * packs.battery_current(train))


def test_two_packs_weigh_twice(whimbrel):
    bare = put(whimbrel, "parts[0].weighed", None)
    one, two = evaluate(bare), evaluate(put(bare, "power.pack_parallel", 2))
    gained = two.value("mass.auw") - one.value("mass.auw")
    assert gained == pytest.approx(whimbrel.power.pack.mass)


def test_the_cold_doubles_the_resistance_at_most(train):
    assert packs.cold_factor(25) == 1 and packs.cold_factor(-30) == 2 and packs.cold_factor(10) == pytest.approx(1.4)
    warm, cold = (float(solve(chain(train, 1.0, t), 1.0, 0.0, AIR).thrust) for t in (20, -5))
    assert cold < warm


def test_a_brush_drop_is_lost_before_the_winding(train):
    brushed = train.model_copy(update={"motor": train.motor.model_copy(update={"brush_drop": 1.0})})
    plain, dropped = (solve(chain(t), 0.8, 0.0, AIR) for t in (train, brushed))
    assert dropped.omega < plain.omega
    heat = dropped.motor_voltage * dropped.motor_current - dropped.shaft_power
    assert float(dropped.motor_heat) == pytest.approx(float(heat))
    assert float(dropped.motor_heat) >= float(dropped.motor_current) * 1.0


def test_a_windmilling_propeller_drives_its_motor(train):
    point = solve(chain(train), 0.05, 30.0, AIR)
    assert float(point.thrust) < 0 and float(point.motor_current) < 0 and float(point.rpm) > 0


def test_part_throttle_costs_more_than_full_for_the_same_current(train):
    link = replace(chain(train), pack_resistance=0.0, lead_resistance=0.0)
    half, full = (solve(link, d, 0.0, AIR) for d in (0.5, 1.0))
    assert float(half.esc_heat / half.motor_current**2) == pytest.approx(
        1.75 * float(full.esc_heat / full.motor_current**2)
    )


def test_best_glide_and_least_sink_of_a_parabola_are_the_closed_form():
    # With a polar of constant C_D0 the best glide is ½ √(π A e/C_D0); sections vary with Re, so only nearly.
    got = glide(MODEL, 0.74, 5.0, AIR, 1.79e-5)
    v = np.linspace(5.3, 17, 4000)
    lift_over_drag = 0.74 * G / drag(MODEL, v, 0.74, AIR, 1.79e-5)
    assert got.ratio == pytest.approx(float(lift_over_drag.max()), rel=1e-3)
    assert got.sink == pytest.approx(float((v / lift_over_drag).min()), rel=1e-3)
    assert got.sink_speed < got.ratio_speed and slope_wind(got.sink) == pytest.approx(got.sink / 0.35)


def test_range_radius_and_wind(whimbrel):
    report = evaluate(whimbrel)
    calm = evaluate(put(whimbrel, "brief.head_wind", 0.0))
    assert calm.value("flight.radius") == pytest.approx(calm.value("flight.range") / 2)
    assert report.value("flight.radius") < calm.value("flight.radius")
    gale = evaluate(put(whimbrel, "brief.head_wind", 14.0))
    assert gale.value("flight.radius") == 0


def test_heat_warms_by_its_law_and_says_how_long():
    # Handbook §8: 0.6 W/g for good, 1.1 W/g for a minute, both to 100 °C in air of 20 °C.
    assert thermal.steady_rise(0.6 * 55, 0.055) == pytest.approx(80)
    assert thermal.seconds_to_limit(1.1 * 55, 0.055, 20) == pytest.approx(60)
    assert thermal.warming(0.055) * 33 == pytest.approx(80 * (1 - math.exp(-30 / thermal.time_constant())))
    assert thermal.seconds_to_limit(20, 0.055, 20) is None
    seconds = thermal.seconds_to_limit(100, 0.055, 20)
    rise = thermal.steady_rise(100, 0.055)
    assert rise * (1 - math.exp(-seconds / thermal.time_constant())) == pytest.approx(80)
    assert thermal.inlet_area(80, 12, AIR) == pytest.approx(80 / (AIR * 6 * 1005 * 20))


def test_servos_and_wire_by_their_tables():
    assert servo_stall(0.009) == pytest.approx(0.8)
    assert receiver_load([draw_of(Servo(), 0.009)] * 4) == pytest.approx(0.1 + 0.8 + 3 * 0.24)
    assert receiver_load([]) == pytest.approx(0.1)
    assert wire_current(14) == pytest.approx(40) and wire_current(14) > wire_current(15) > wire_current(16)
    assert gauge_for(38) == 14 and gauge_for(1000) == 8


@pytest.mark.parametrize(
    ("path", "value", "key", "level"),
    [
        ("power.esc.kind", "brushed", "power.kinds", "stop"),
        ("power.pack.cell_resistance", 0.08, "power.cell_voltage", "look"),
        ("power.esc.max_erpm", 30000.0, "power.erpm", "stop"),
        ("power.esc.bec_current", 1.0, "power.receiver_supply", "stop"),
        ("power.esc.bec_current", 0.0, "power.receiver_supply", "look"),
        ("power.esc.bec_linear", True, "power.linear_supply", "look"),
        ("power.lead_awg", 24, "power.wire", "stop"),
        ("power.cooling_inlet", 1e-5, "power.cooling", "look"),
        ("power.propeller.family", "slow_fly", "power.propeller_speed", "look"),
        ("brief.endurance", 2600.0, "flight.endurance", "look"),
        ("brief.head_wind", 0.0, "launch.throw", "look"),
    ],
)
def test_each_limit_is_said_when_it_is_passed(whimbrel, path, value, key, level):
    told = found(put(whimbrel, path, value), key)
    assert told is not None and told.level == level and str(told.text) and str(told.reason)


@pytest.mark.parametrize(
    ("path", "value", "key"),
    [
        ("power.lead_awg", 22, "power.wire"),
        ("power.propeller.family", "slow_fly", "power.propeller_speed"),
        ("brief.endurance", 2200.0, "flight.endurance"),
        ("power.esc.bec_current", 1.0, "power.receiver_supply"),
        ("power.esc.max_cells", 2, "power.cells"),
        ("power.propeller.pitch", 0.09, "power.pitch_speed"),
        ("brief.cruise_ratio", 1.9, "flight.cruise_throttle"),
    ],
)
def test_a_remedy_taken_settles_what_it_was_offered_for(whimbrel, path, value, key):
    from ridgeline.design.paths import apply

    design = put(put(whimbrel, "brief.ceiling", 1.2), path, value)
    told = found(design, key)
    for _ in range(6):
        design = apply(design, told.remedies[0].changes)
        told = found(design, key)
        if told is None or told.level == "settled":
            return
    raise AssertionError(str(told.text))


def test_a_measured_kv_is_compared_with_what_was_stated(whimbrel):
    motor = whimbrel.power.motor.model_copy(update={"kv_rpm_per_v": 950.0, "stated_kv": 1050.0, "kv_sigma": 0.004})
    told = found(put(whimbrel, "power.motor", motor), "power.measured_kv")
    assert told.level == "settled" and "under what was stated" in str(told.text)
    assert (
        evaluate(put(whimbrel, "power.motor", motor)).figures["power.static_rpm"].sigma
        < evaluate(whimbrel).figures["power.static_rpm"].sigma
    )


def test_top_speed_past_the_table_is_said(whimbrel):
    table = tuple(
        Advance(advance=j, thrust=t, power=p) for j, t, p in ((0.0, 0.11, 0.055), (0.2, 0.1, 0.056), (0.4, 0.08, 0.054))
    )
    told = found(put(whimbrel, "power.propeller.table", table), "power.table_reach")
    assert told is not None and "table" in str(told.text)


def test_a_twin_says_what_rudder_one_motor_out_asks_for(whimbrel):
    brief = Brief(layout="twin_boom", ceiling=1.5, controls="full_house")
    design = lay_out(brief, shipped_shelf(), "twin_boom")
    report = evaluate(design)
    if design.power.motors < 2:
        mounts = (design.power.mounts[0].model_copy(update={"y": 0.2, "mirrored": True}),)
        design = put(design, "power.mounts", mounts)
        report = evaluate(design)
    rudder = report.value("power.one_out_rudder")
    arm = max(abs(y) for _x, y, _z in all_discs(design.power))
    assert rudder is not None and arm > 0.05
    # Half the arm, half the rudder: a little less still, for a large deflection turns the flow less.
    nearer = put(design, "power.mounts[0].y", 0.5 * design.power.mounts[0].y)
    assert rudder == pytest.approx(2 * evaluate(nearer).value("power.one_out_rudder"), rel=0.02)
    assert found(design, "power.one_out") is not None
