"""The inside of the balance: slopes that Newton's steps go by, guesses that must not matter, doubts carried through."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from ridgeline.engine.aero.drag import DRAG_SIGMA
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power import propeller_loads, thermal
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.discharge import Profile, discharge
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.engine.power.held_thrust import held_thrust, throttle_for_thrust
from ridgeline.engine.power.operating_point import full_draw, motor_current, solve, winding
from ridgeline.engine.power.scatter import CONSTANTS, Scatter, scatter_of
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.typed import parse
from test_power import AIR, train, trains

_RATE = 1e-5


def slope_of(function, at):
    """Return the slope of a function of one array by central differences."""
    step = _RATE * at
    return (function(at + step) - function(at - step)) / (2 * step)


@given(trains, st.floats(150.0, 3000.0), st.floats(0.0, 25.0))
def test_the_current_rises_as_its_slope_says(t, omega, speed):
    link, at, v = chain(t), np.array([omega]), np.array([speed])
    # At a knot of the law the slope jumps: two pieces meet there.
    j = speed / (omega / (2 * math.pi) * link.diameter)
    assume(np.abs(link.law.knots - j).min() > 1e-3)
    tip = 0.5 * link.diameter * omega
    assume(all(abs(tip - edge) > 0.01 * edge for edge in propellers.TIP_RANGE))
    found = motor_current(link, at, v, AIR)[1]
    by_hand = slope_of(lambda w: motor_current(link, w, v, AIR)[0], at)
    assert found == pytest.approx(by_hand, rel=2e-4, abs=1e-7)


@given(trains, st.floats(150.0, 3000.0), st.floats(0.5, 40.0), st.floats(0.0, 0.1))
def test_the_winding_rises_as_its_slope_says(t, omega, current, rise):
    link, at = chain(t), np.array([omega])

    def resistance(w):
        return winding(link, w, current + rise * (w - omega), rise)[0]

    told, slope, warm = winding(link, at, np.array([current]), rise)
    assume(float(warm[0]) < 0.98 * thermal.MOST_RISE)
    assert slope == pytest.approx(slope_of(resistance, at), rel=1e-3, abs=1e-9)
    assert told[0] >= link.motor_resistance


@given(trains, st.floats(100.0, 3000.0), st.floats(0.0, 25.0))
def test_thrust_and_power_rise_with_the_turns_as_their_slopes_say(t, omega, speed):
    law, size = chain(t).law, t.propeller.diameter
    n, v = np.array([omega / (2 * math.pi)]), np.array([speed])
    assume(np.abs(law.knots - speed / (float(n[0]) * size)).min() > 1e-3)
    tip = math.pi * size * float(n[0])
    assume(all(abs(tip - edge) > 0.01 * edge for edge in propellers.TIP_RANGE))

    for of_kind in (propeller_loads.thrust_load, propeller_loads.power_load):
        by_hand = slope_of(lambda turns, of_kind=of_kind: of_kind(law, size, turns, v)[0], n)
        assert of_kind(law, size, n, v)[1] == pytest.approx(by_hand, rel=2e-4, abs=1e-4)


@settings(max_examples=60)
@given(trains, st.floats(0.2, 1.0), st.floats(0.0, 20.0), st.floats(0.01, 3.0))
def test_no_first_guess_moves_the_answer(t, throttle, speed, share):
    link = chain(t)
    plain = solve(link, throttle, speed, AIR)
    guessed = solve(link, throttle, speed, AIR, share * np.asarray(plain.omega))
    assert float(guessed.omega) == pytest.approx(float(plain.omega), rel=1e-10, abs=1e-10)


@given(trains, st.floats(0.2, 0.9), st.floats(2.0, 15.0))
def test_what_holds_a_thrust_is_the_throttle_and_the_current_of_that_state(t, throttle, speed):
    link = chain(t, 0.6)
    point = solve(link, throttle, speed, AIR)
    assume(not point.stopped and float(point.thrust) > 1e-3)
    found, current = held_thrust(link, point.thrust, speed, AIR)
    assume(math.isfinite(float(found)) and float(found) == pytest.approx(throttle, rel=1e-6))
    assert float(current) == pytest.approx(float(point.motor_current), rel=1e-6)
    assert float(throttle_for_thrust(link, point.thrust, speed, AIR)) == float(found)


def test_a_hot_day_warms_the_copper_before_it_turns():
    cold, hot = (chain(train(), 1.0, t) for t in (20.0, 45.0))
    still = np.array([0.0])
    told = [float(winding(link, still, still)[0][0]) for link in (cold, hot)]
    assert told[0] == pytest.approx(0.073) and told[1] == pytest.approx(0.073 * (1 + 0.0039 * 25))


@pytest.fixture(scope="module")
def flown():
    design = load("demo:whimbrel")
    report = evaluate(design)
    return design, report


def fly(design, report, scatter=None, train=None, needed=None):
    """The discharge of the demo as the flight stage flies it."""
    speeds, air = report.results.speeds, report.results.air
    level = report.results.flight.cruise_drag if needed is None else needed
    return discharge(
        train or design.power,
        drag_level=level,
        speed_level=speeds.cruise,
        speed_climb=report.results.flight.climb_speed,
        air_density=air.density,
        temperature_c=design.brief.temperature_c,
        profile=Profile(design.brief.climb_seconds, design.brief.full_share),
        scatter=scatter,
    )


def test_more_drag_shortens_the_flight_by_what_its_doubt_says(flown):
    design, report = flown
    only_drag = np.zeros((1, len(CONSTANTS)))
    only_drag[0, CONSTANTS.index("drag")] = 0.1
    told = fly(design, report, Scatter(only_drag)).total_sigma
    level = report.results.flight.cruise_drag
    less, more = (fly(design, report, needed=level * math.exp(s)).total for s in (-0.1, 0.1))
    assert told == pytest.approx(0.5 * (less - more), rel=1e-6) and less > more


def test_a_measured_speed_constant_moves_the_flight_by_what_its_doubt_says(flown):
    design, report = flown
    only_kv = np.zeros((1, len(CONSTANTS)))
    only_kv[0, CONSTANTS.index("k_v")] = 0.05
    told = fly(design, report, Scatter(only_kv)).total_sigma

    def at(share):
        motor = design.power.motor
        kv = motor.kv_rpm_per_v * math.exp(share)
        return design.power.model_copy(update={"motor": motor.model_copy(update={"kv_rpm_per_v": kv})})

    ends = [fly(design, report, train=at(s)).total for s in (-0.05, 0.05)]
    assert told == pytest.approx(0.5 * abs(ends[0] - ends[1]), rel=1e-6)


def test_nothing_unknown_leaves_no_band(flown):
    design, report = flown
    none = Scatter(np.zeros((1, len(CONSTANTS))))
    assert fly(design, report, none).total_sigma == 0.0
    link = chain(design.power, MEAN_CHARGE)
    assert none.count == 3 and float(none.sigma(solve(none.moved(link), 1.0, 0.0, AIR).thrust)) == 0.0


def test_the_flight_stage_counts_the_drags_doubt_in_top_speed(flown):
    design, report = flown
    link = chain(design.power, MEAN_CHARGE, design.brief.temperature_c)
    scatter = scatter_of(design.power, link, DRAG_SIGMA)
    assert np.sqrt((scatter.steps**2).sum(axis=0))[CONSTANTS.index("drag")] == pytest.approx(DRAG_SIGMA)
    figure = report.figures["speed.max"]
    assert 0.05 < 1.645 * figure.sigma / figure.value < 0.25


def test_moved_chains_err_up_and_down_alike():
    link = chain(train())
    scatter = scatter_of(train(), link)
    moved = scatter.moved(link)
    n = len(scatter.steps)
    up, down = moved.k_v[1 : n + 1], moved.k_v[n + 1 :]
    assert moved.k_v[0] == link.k_v and up * down == pytest.approx(np.full(n, link.k_v**2))
    assert replace(link).reactance == pytest.approx(3 / math.pi * 7 * link.lag * link.motor_resistance)


@pytest.mark.parametrize(
    ("text", "newton"), [("780 g", 7.649187), ("27 oz", 7.506374), ("1.7 lb", 7.562), ("5 N", 5.0)]
)
def test_thrust_is_typed_as_it_hangs_on_a_scale(text, newton):
    assert parse(text, "force") == pytest.approx(newton, rel=1e-4)
    with pytest.raises(DesignError, match="weight of 780 g"):
        parse("12 mm", "force")


def test_a_bench_that_told_little_is_kept_as_it_was(flown):
    design, _report = flown
    from ridgeline.design.paths import put
    from ridgeline.design.power import BenchRow

    kept = put(design, "power.bench", (BenchRow(voltage=11.4, thrust=7.6), BenchRow(power=120.0, current=11.0)))
    again = from_text(to_text(kept), "kept.ridge")
    assert again.power.bench == kept.power.bench and again.power.bench[0].current is None


@given(trains, st.sampled_from([0.0, 12.0]))
def test_the_draw_alone_is_that_of_the_whole_state(t, speed):
    link = chain(t)
    omega, current = full_draw(link, AIR, speed)
    point = solve(link, 1.0, speed, AIR)
    assert float(omega) == pytest.approx(float(point.omega), rel=1e-10)
    assert float(current) == pytest.approx(float(point.motor_current), rel=1e-7, abs=1e-9)


@given(trains)
@settings(max_examples=10)
def test_many_states_settle_as_each_does_alone(t):
    """Those that take longest go on apart from the rest: from standing still to a dive, at every throttle."""
    link, throttle = chain(t), np.linspace(0.05, 1.0, 24)[:, None]
    speed = np.array([0.0, 4.0, 9.0, 15.0, 22.0, 30.0, 40.0, 55.0, 70.0, 90.0, 110.0, 130.0])
    together = solve(link, throttle, speed, AIR)
    for i, k in ((0, 1), (3, 11), (12, 6), (23, 0), (23, 11), (17, 9)):
        alone = solve(link, throttle[i], speed[k], AIR)
        assert float(together.omega[i, k]) == pytest.approx(float(alone.omega[0]), rel=1e-9, abs=1e-9)
        assert bool(together.stopped[i, k]) == bool(alone.stopped[0])
