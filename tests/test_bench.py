"""The bench: the fit recovers what the simulated stand hides, and says how sure it is."""

import math

import numpy as np
import pytest

from ridgeline.engine.power import bench
from ridgeline.engine.power.operating_point import chain, solve
from ridgeline.standins.thrust_stand import SimulatedStand, as_built, sweep

AIR = 1.225
THROTTLES = (0.25, 0.4, 0.55, 0.7, 0.85, 1.0)


@pytest.fixture(scope="module")
def train():
    from ridgeline.files.design_file import load

    return load("demo:whimbrel").power


def run(train, seed, noise=1.0, truth=None):
    truth = truth or as_built(train, seed)
    stand = SimulatedStand(bench.response(truth, AIR), truth.pack.capacity_ah, noise, seed)
    return truth, sweep(stand, THROTTLES)


def true_values(train, truth):
    return (
        truth.motor.kv_rpm_per_v,
        truth.motor.resistance,
        truth.motor.no_load_current,
        truth.propeller.power_factor / train.propeller.power_factor,
        truth.propeller.thrust_factor / train.propeller.thrust_factor,
    )


def test_rows_without_noise_give_the_hidden_constants_back(train):
    truth, rows = run(train, 3, noise=0.0)
    found = bench.fit(train, rows, AIR)
    assert found.values == pytest.approx(true_values(train, truth), rel=0.02)
    assert found.of("kv_rpm_per_v")[0] == pytest.approx(truth.motor.kv_rpm_per_v, rel=0.004)


def test_the_stated_band_holds_the_truth_in_nine_seeds_of_ten(train):
    inside = np.zeros(len(bench.NAMES))
    seeds = 200
    for seed in range(seeds):
        truth, rows = run(train, seed)
        found = bench.fit(train, rows, AIR)
        off = np.abs(np.log(np.array(found.values) / np.array(true_values(train, truth))))
        inside += off <= 1.645 * np.array(found.sigmas)
    assert (inside / seeds >= 0.88).all(), dict(zip(bench.NAMES, inside / seeds, strict=True))


def test_more_rows_make_the_band_narrower(train):
    truth = as_built(train, 1)
    few, many = (
        bench.fit(train, sweep(SimulatedStand(bench.response(truth, AIR), 2.2, 1.0, 5), THROTTLES, n), AIR)
        for n in (2, 12)
    )
    assert many.of("kv_rpm_per_v")[1] < 0.6 * few.of("kv_rpm_per_v")[1]


def test_what_is_fitted_predicts_the_rows_and_keeps_what_was_stated(train):
    _truth, rows = run(train, 7)
    after = bench.fit(train, rows, AIR).fitted(train)
    throttle, voltage, current, rpm, thrust = bench.columns(rows)
    point = bench.predicted(after, throttle, voltage, AIR)
    assert point.rpm == pytest.approx(rpm, rel=0.02)
    assert point.pack_current == pytest.approx(current, rel=0.08, abs=0.15)
    assert point.thrust == pytest.approx(thrust, rel=0.06, abs=0.05)
    assert after.motor.stated_kv == train.motor.kv_rpm_per_v and 0 < after.motor.kv_sigma < 0.03


def test_too_few_rows_are_refused(train):
    _truth, rows = run(train, 1)
    with pytest.raises(ValueError, match="5 rows or more"):
        bench.fit(train, rows[:3], AIR)


def test_the_stand_ramps_sags_and_stops(train):
    stand = SimulatedStand(bench.response(train, AIR), 2.2, noise=0.0)
    stand.ask(1.0)
    readings = [stand.read() for _ in range(30)]
    throttles = [r.row.throttle for r in readings]
    assert throttles == sorted(throttles) and not readings[0].settled and readings[-1].settled
    settled = [r.row.voltage for r in readings if r.settled]
    assert settled[-1] < settled[0] and stand.charge < 1
    stand.stop()
    assert stand.read().row.rpm == 0


def test_the_response_of_a_stand_is_the_operating_point_of_one_motor(train):
    volts, amps, rpm, newtons = bench.response(train, AIR)(0.8, 0.9)
    point = solve(chain(train, 0.9), 0.8, 0.0, AIR)
    assert (amps, rpm, newtons) == pytest.approx((float(point.pack_current), float(point.rpm), float(point.thrust)))
    back = bench.predicted(train, np.array([0.8]), np.array([volts]), AIR)
    assert float(back.rpm[0]) == pytest.approx(rpm) and math.isclose(float(back.pack_current[0]), amps, rel_tol=1e-9)
