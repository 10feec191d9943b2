"""The bench: the fit recovers what the simulated stand hides, and says how sure it is."""

import math

import numpy as np
import pytest
from pydantic import ValidationError

from ridgeline.design.power import BenchRow
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import bench
from ridgeline.engine.power.chain import chain, lag_of
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.scatter import scatter_of
from ridgeline.files.design_file import load
from ridgeline.standins.thrust_stand import SimulatedStand, as_built, sweep

AIR = 1.225
WHAT = ("thrust", "current")
THROTTLES = (0.25, 0.4, 0.55, 0.7, 0.85, 1.0)


@pytest.fixture(scope="module")
def train():
    return load("demo:whimbrel").power


def run(train, seed, noise=1.0, truth=None):
    truth = truth or as_built(train, seed, lag_of(train.motor))
    stand = SimulatedStand(bench.response(truth, AIR), truth.pack.capacity_ah, noise, seed)
    return truth, sweep(stand, THROTTLES)


def true_values(train, truth):
    return (
        truth.motor.kv_rpm_per_v,
        truth.motor.resistance,
        lag_of(truth.motor),
        truth.motor.no_load_current,
        truth.propeller.power_factor / train.propeller.power_factor,
        truth.propeller.thrust_factor / train.propeller.thrust_factor,
    )


def test_rows_without_noise_give_what_turns_the_propeller_back(train):
    truth, rows = run(train, 3, noise=0.0)
    found = bench.fit(train, rows, AIR)
    values = dict(zip(bench.NAMES, zip(found.values, true_values(train, truth), strict=True), strict=True))
    for name, near in (("kv_rpm_per_v", 0.004), ("power_factor", 0.02), ("thrust_factor", 0.01)):
        assert values[name][0] == pytest.approx(values[name][1], rel=near), name
    # Warm copper and lag are told apart by the throttles only in part; what they come to together is.
    whole = [r * (1 + 6000 * lag) for r, lag in zip(values["resistance"], values["lag"], strict=True)]
    assert whole[0] == pytest.approx(whole[1], rel=0.05)


def inside_share(train, rows_of, seeds=100):
    """Return, for each constant, the share of seeds whose band holds the truth."""
    inside = np.zeros(len(bench.NAMES))
    for seed in range(seeds):
        truth, rows = rows_of(seed)
        found = bench.fit(train, rows, AIR)
        off = np.abs(np.log(np.array(found.values) / np.array(true_values(train, truth))))
        inside += off <= 1.645 * np.array(found.sigmas)
    return dict(zip(bench.NAMES, inside / seeds, strict=True))


def test_the_stated_band_holds_the_truth_in_nine_seeds_of_ten(train):
    shares = inside_share(train, lambda seed: run(train, seed))
    assert all(share >= 0.88 for share in shares.values()), shares


@pytest.mark.parametrize("fields", [("voltage", "current", "thrust"), ("voltage", "rpm")])
def test_so_does_that_of_a_single_reading_at_full_throttle(train, fields):
    def one(seed):
        truth, rows = run(train, seed)
        return truth, (BenchRow(**{name: getattr(rows[-1], name) for name in fields}),)

    shares = inside_share(train, one)
    assert all(share >= 0.88 for share in shares.values()), shares


def test_one_reading_moves_what_it_can_and_says_what_stays_assumed(train):
    # "780 g at 17 A on 11.4 V."
    reading = BenchRow(voltage=11.4, current=17.0, thrust=0.780 * 9.80665)
    sold = bench.predicted(train, np.array([1.0]), np.array([11.4]), AIR)
    found = bench.fit(train, (reading,), AIR)
    after = found.fitted(train)
    told = bench.predicted(after, np.array([1.0]), np.array([11.4]), AIR)
    for name, wanted in (("pack_current", 17.0), ("thrust", reading.thrust)):
        before, now = (abs(float(getattr(point, name)[0]) - wanted) for point in (sold, told))
        assert now < 0.25 * before, name
    assert found.used == 1 and found.chi < 1.5
    # No reading at one throttle tells the friction from the rest: it stays of the class, and is said so.
    assert "no_load_current" not in found.told
    assert found.of("no_load_current")[1] == pytest.approx(0.25, rel=0.1)


def test_a_measured_train_has_narrower_bands_of_what_it_does(train):
    _truth, rows = run(train, 4)
    design = load("demo:whimbrel")
    whole = bench.fit(train, rows, AIR).fitted(train)
    last = BenchRow(voltage=rows[-1].voltage, current=rows[-1].current, thrust=rows[-1].thrust)
    one = bench.fit(train, (last,), AIR).fitted(train)

    def band(power):
        report = evaluate(design.model_copy(update={"power": power}))
        return [report.figures[f"power.static_{name}"].sigma / report.value(f"power.static_{name}") for name in WHAT]

    classed, single, full = band(train), band(one), band(whole)
    assert all(b < 0.45 * a for a, b in zip(classed, single, strict=True))
    assert all(b < 0.45 * a for a, b in zip(classed, full, strict=True))
    # Another propeller: what was told of the two together no longer holds, the motor's own bands do.
    other = whole.model_copy(update={"propeller": train.propeller})
    assert scatter_of(other, chain(other)).steps.shape[0] == 7 and len(whole.bench_fit.steps) == 36
    assert scatter_of(whole, chain(whole)).steps.shape[0] == 9


@pytest.mark.parametrize(
    ("told", "right"),
    [
        ({"voltage": 11.1, "current": 10.0}, True),
        ({"thrust": 5.0, "throttle": 0.8}, True),
        ({"power": 120.0, "current": 11.0}, True),
        ({"voltage": 11.1}, False),
        ({"thrust": 5.0}, False),
        ({"voltage": 11.1, "throttle": 1.0}, False),
    ],
)
def test_a_reading_is_two_numbers_one_of_them_measured(told, right):
    if right:
        assert BenchRow(**told)
    else:
        with pytest.raises(ValidationError, match="two or more of volts"):
            BenchRow(**told)


def test_volts_that_nobody_read_are_watts_over_amperes_or_the_packs(train):
    rows = (BenchRow(power=120.0, current=10.0), BenchRow(thrust=5.0, rpm=9000.0), BenchRow(voltage=11.0, rpm=9000.0))
    throttle, voltage, *_ = bench.columns(rows, train)
    assert throttle == pytest.approx([1, 1, 1])
    full, link = 4.18 * train.cells, chain(train)
    assert voltage[[0, 2]] == pytest.approx([12.0, 11.0])
    own = solve(link, 1.0, 0.0, 1.2)
    assert voltage[1] == pytest.approx(full - float(own.pack_current) * link.source_resistance)
    read = bench.columns((BenchRow(current=20.0, throttle=1.0),), train)[1]
    assert read == pytest.approx([full - 20.0 * link.source_resistance])


def test_more_rows_make_the_band_narrower(train):
    truth = as_built(train, 1, lag_of(train.motor))
    few, many = (
        bench.fit(train, sweep(SimulatedStand(bench.response(truth, AIR), 2.2, 1.0, 5), THROTTLES, n), AIR)
        for n in (2, 12)
    )
    assert many.of("thrust_factor")[1] < 0.6 * few.of("thrust_factor")[1]
    assert many.of("kv_rpm_per_v")[1] < few.of("kv_rpm_per_v")[1]


def test_what_is_fitted_predicts_the_rows_and_keeps_what_was_stated(train):
    _truth, rows = run(train, 7)
    after = bench.fit(train, rows, AIR).fitted(train)
    throttle, voltage, current, rpm, thrust, _power = bench.columns(rows, train)
    point = bench.predicted(after, throttle, voltage, AIR)
    assert point.rpm == pytest.approx(rpm, rel=0.02)
    assert point.pack_current == pytest.approx(current, rel=0.08, abs=0.15)
    assert point.thrust == pytest.approx(thrust, rel=0.06, abs=0.05)
    assert after.motor.stated_kv == train.motor.kv_rpm_per_v and 0 < after.motor.kv_sigma < 0.03


def test_readings_that_say_nothing_are_refused(train):
    idle = BenchRow(throttle=0.05, voltage=12.0, current=0.4, rpm=1200.0)
    stalled = BenchRow(throttle=1.0, voltage=12.0, current=30.0, rpm=10.0)
    with pytest.raises(ValueError, match="above 15 % throttle"):
        bench.fit(train, (idle, stalled), AIR)


def test_fitting_twice_is_fitting_once(train):
    _truth, rows = run(train, 5)
    once = bench.fit(train, rows, AIR)
    again = bench.fit(once.fitted(train), rows, AIR)
    assert again.values == pytest.approx(once.values, rel=1e-6) and again.sigmas == pytest.approx(once.sigmas, rel=1e-6)
    assert bench.as_sold(once.fitted(train)) == bench.as_sold(train)


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
