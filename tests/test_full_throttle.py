"""Full throttle over airspeed is settled once for a train, and read off for whatever airframe it pulls."""

import math
from dataclasses import replace

import numpy as np
import pytest

from ridgeline.design.paths import put
from ridgeline.engine.kept import kept
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.discharge import Profile, discharge
from ridgeline.engine.power.flight import _from_stall, _highest
from ridgeline.engine.power.full_throttle import MEAN_CHARGE, THROTTLES, full_throttle
from ridgeline.engine.power.held_thrust import held_thrust, turning_for
from ridgeline.engine.power.operating_point import solve
from ridgeline.files.design_file import load
from ridgeline.library import demo_names

AIR = 1.225


@pytest.fixture(scope="module")
def train():
    return load("demo:whimbrel").power


@pytest.fixture(scope="module")
def full(train):
    return full_throttle(train, AIR, 20.0, 0.1)


def test_it_runs_from_a_standstill_to_well_past_where_thrust_ends(train, full):
    assert full.speed[0] == 0 and np.allclose(np.diff(full.speed), full.speed[1])
    thrust = np.interp(full.ends, full.speed, full.point.thrust)
    assert thrust < 0 < full.point.thrust[0] and full.speed[-1] == pytest.approx(2.2 * full.ends)
    alone = solve(chain(train, MEAN_CHARGE, 20.0), 1.0, float(full.speed[70]), AIR)
    assert float(full.point.thrust[70]) == pytest.approx(float(alone.thrust), rel=1e-9)


def test_each_doubt_is_a_row_each_way_and_the_first_is_the_train_as_it_is(full):
    assert full.doubted.shape == (full.scatter.count, len(full.coarse))
    assert full.doubted[0] == pytest.approx(full.point.thrust[::5], rel=1e-9)
    assert (np.abs(full.doubted[1:, 3] - full.doubted[0, 3]) > 0).any()


@pytest.mark.parametrize("speed", [0.0, 3.3, 7.41, 11.93, 16.2])
def test_between_the_airspeeds_looked_at_it_is_read_off_a_parabola(train, full, speed):
    thrust, shaft, omega = full.over_throttle(speed)
    point = solve(chain(train, 1.0, 20.0), THROTTLES, speed, AIR)
    top = float(point.thrust.max())
    assert thrust == pytest.approx(point.thrust, abs=2e-3 * top)
    assert shaft[-1] == pytest.approx(float(point.shaft_power[-1]), rel=2e-4)
    assert omega[-1] == pytest.approx(float(point.omega[-1]), rel=1e-4)


@pytest.mark.parametrize("name", demo_names())
def test_a_flight_down_the_pack_is_that_of_a_climb_at_its_very_speed(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    flown, speeds = report.results.flight, report.results.speeds
    exact = discharge(
        design.power,
        drag_level=flown.cruise_drag,
        speed_level=speeds.cruise,
        speed_climb=flown.climb_speed,
        air_density=report.results.air.density,
        temperature_c=design.brief.temperature_c,
        profile=Profile(design.brief.climb_seconds, design.brief.full_share),
        scatter=report.results.pulling.scatter,
    )
    assert flown.discharge.total == pytest.approx(exact.total, rel=3e-4)
    assert flown.discharge.total_sigma == pytest.approx(exact.total_sigma, rel=1e-2)
    assert flown.discharge.climb_charge == pytest.approx(exact.climb_charge, rel=1e-3)


def test_an_edit_of_the_airframe_leaves_it_be_and_one_of_the_train_does_not(whimbrel):
    evaluator = Evaluator()
    first = evaluator(whimbrel).results.pulling
    wider = put(whimbrel, "surfaces[0].stations[2].chord", 0.15)
    assert evaluator(wider).results.pulling is first and evaluator.runs["flight"] == 2
    assert evaluator(put(wider, "parts[0].x", 0.18)).results.pulling is first
    assert evaluator(put(wider, "power.propeller.pitch", 0.12)).results.pulling is not first


def test_tips_too_fast_for_blade_elements_double_the_doubts_of_the_propeller(train):
    motor = train.motor.model_copy(update={"kv_rpm_per_v": 2000.0, "resistance": 0.005})
    pack = train.pack.model_copy(update={"cells": 12, "cell_resistance": 0.001})
    quick = train.model_copy(update={"motor": motor, "pack": pack})
    full = full_throttle(quick, AIR, 20.0, 0.1)
    held = full.held_at(12.0)
    assert held is not full and held is full.held_at(13.0)
    assert held.link.law.sigma_thrust == 2 * full.link.law.sigma_thrust
    assert held.scatter.factor("drag") == pytest.approx(full.scatter.factor("drag"))
    slow = train.model_copy(update={"motor": train.motor.model_copy(update={"kv_rpm_per_v": 500.0})})
    calm = full_throttle(slow, AIR, 20.0, 0.1)
    assert calm.held_at(12.0) is calm


def test_the_climb_goes_smoothly_with_the_airframe(whimbrel):
    """No steps of the airspeeds looked at show in what hangs on the climbing speed."""
    evaluator = Evaluator()
    edits = [put(whimbrel, "surfaces[0].stations[2].chord", 0.14 + 0.001 * k) for k in range(12)]
    for key in ("trim.torque_aileron", "flight.climb_thrust_ratio", "control.elevator_wash", "flight.endurance"):
        told = np.array([evaluator(edit).value(key) for edit in edits])
        steps = np.diff(told)
        assert np.abs(np.diff(steps)).max() < 0.25 * np.abs(steps).max() + 1e-4 * np.abs(told).max(), key


def test_the_top_of_a_parabola_is_found_between_uneven_samples():
    x = np.array([0.0, 1.0, 1.7, 4.0])
    top, height = _highest(x, 5.0 - 2.0 * (x - 1.3) ** 2)
    assert (top, height) == (pytest.approx(1.3), pytest.approx(5.0))
    assert _highest(x, -x) == (0.0, 0.0) and _highest(x, x) == (4.0, 4.0)


def test_the_turns_that_give_a_thrust_do_not_ask_the_pack(train):
    link = chain(train, 1.0)
    flat = replace(link, open_circuit=0.8 * link.open_circuit)
    one, other = (turning_for(of, 2.0, 11.0, AIR) for of in (link, flat))
    assert one == other
    throttle, current = held_thrust(flat, 2.0, 11.0, AIR)
    assert float(current) == float(one[1]) and float(throttle) > float(held_thrust(link, 2.0, 11.0, AIR)[0])
    there = solve(link, float(held_thrust(link, 2.0, 11.0, AIR)[0]), 11.0, AIR)
    assert float(there.thrust) == pytest.approx(2.0, rel=1e-6)
    assert float(there.omega) == pytest.approx(float(one[0]), rel=1e-6)


def test_what_is_kept_of_a_part_is_kept_for_each_of_the_other_arguments():
    asked = []

    @kept(3)
    def size(part, factor, offset=0.0):
        asked.append(factor)
        return part[0] * factor + offset

    part, other = (2.0,), (3.0,)
    assert [size(part, 1.0), size(part, 2.0), size(part, 1.0), size(other, 1.0)] == [2.0, 4.0, 2.0, 3.0]
    assert asked == [1.0, 2.0, 1.0]
    assert size(part, 5.0) == 10.0 and size(part, 1.0) == 2.0 and len(asked) == 5
    with pytest.raises(AssertionError, match="by place"):
        size(part, 1.0, offset=1.0)


def test_a_dozen_airspeeds_over_the_stall_make_a_curve_and_fewer_are_looked_at_anew(full):
    fast = 0.7 * float(full.speed[-1])
    speed, thrust = _from_stall(full, float(full.speed[-13]) - 1e-3, fast)
    assert len(speed) == 14 and (speed[1:] == full.speed[-13:]).all()
    assert thrust[0] == pytest.approx(thrust[1], abs=0.05)
    speed, thrust = _from_stall(full, float(full.speed[-12]), fast)
    assert len(speed) == 48 and speed[0] == full.speed[-12] and speed[-1] > 1.1 * speed[0]
    assert thrust[7] == pytest.approx(float(solve(full.link, 1.0, speed[7], AIR).thrust), rel=1e-6)


def test_climbs_at_several_speeds_are_kept_side_by_side(full):
    profile = Profile(20.0, 0.1)
    first = full._climb(3, profile)
    for k in range(4, 12):
        full._climb(k, profile)
    assert full._climb(3, profile) is first
    assert full._climb(3, Profile(30.0, 0.1)) is not first


def test_an_aircraft_that_stalls_where_its_train_hardly_pulls_still_has_its_curves(whimbrel):
    slow = put(whimbrel, "power.propeller.pitch", 0.03)
    heavy = put(slow, "parts[-]", {"name": "Lead", "group": "payload", "x": 0.25, "estimate": 12.0})
    report = evaluate(heavy)
    flown = report.results.flight
    assert flown.curves.speed[0] == pytest.approx(report.value("speed.stall"))
    assert len(flown.curves.speed) >= 12 and report.value("speed.max") is None
    assert all(f.value is None or math.isfinite(f.value) for f in report.figures.values())
