import math
import statistics
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench_points import AIR, points, told, train
from ridgeline.design.power import Propeller
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.sections import section
from ridgeline.engine.power import thermal
from ridgeline.engine.power.blade_element import coefficients_over
from ridgeline.engine.power.chain import chain, lag_of
from ridgeline.engine.power.flight import climb_sine, level_flight
from ridgeline.engine.power.full_throttle import full_throttle
from ridgeline.engine.power.limits import MOTOR_HEAT_CONTINUOUS, MOTOR_HEAT_MINUTE
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.prop_families import FAMILIES
from ridgeline.engine.power.propeller import TIP_RANGE, law_of
from ridgeline.engine.power.scatter import CONSTANTS, scatter_of, widened_past_mach

POINTS = points()
FLYER = DragModel(0.24, 6.0, 0.2, section("flat_bottom"), 0.05, 0.12, 0.12, 0.9, 0.0)


def shares(which):
    """Return |model over bench − 1| of thrust (0) or current (1), and whether the bench lies in the band."""
    errors, inside = [], []
    for row in POINTS:
        value, sigma = told(row)[which]
        bench = row[("thrust_g", "current_a")[which]]
        errors.append(abs(value / bench - 1))
        inside.append(abs(value - bench) <= 1.645 * sigma)
    return errors, inside


def test_common_motors_give_the_thrust_and_current_of_the_bench():
    (thrust, thrust_in), (current, current_in) = shares(0), shares(1)
    assert statistics.median(thrust) <= 0.07
    assert statistics.median(current) <= 0.11
    # 90 % bands hold thirteen of fourteen, and are no wider than they must be.
    assert 12 <= sum(thrust_in) + sum(current_in) <= 14
    for row in POINTS:
        (pull, sigma), (amps, spread) = told(row)
        assert 0.08 < 1.645 * sigma / pull < 0.35 and 0.10 < 1.645 * spread / amps < 0.45


def test_an_outrunner_turns_at_two_thirds_of_what_its_constant_says():
    # Handbook §8: 0.62–0.75 of K_v·V at full throttle on a usual propeller; 0.79–0.92 is the cold winding's error.
    for row in POINTS:
        link = replace(chain(train(row)), open_circuit=row["volts"], pack_resistance=0.0, lead_resistance=0.0)
        share = float(solve(link, 1.0, 0.0, AIR).rpm) / (row["kv_rpm_per_v"] * row["volts"])
        cold = float(solve(replace(link, lag=0.0, warming=0.0), 1.0, 0.0, AIR).rpm) / (
            row["kv_rpm_per_v"] * row["volts"]
        )
        assert 0.58 <= share <= 0.83 and cold > share + 0.06


def test_the_lag_grows_with_the_mass_to_the_power_fitted_on_the_table_and_brushes_have_none():
    motor = train(POINTS[0]).motor
    light, heavy = (lag_of(motor.model_copy(update={"mass": m})) for m in (0.020, 0.160))
    assert heavy == pytest.approx(8**0.4 * light)
    assert lag_of(motor.model_copy(update={"mass": 0.060})) == pytest.approx(0.40e-3)
    assert lag_of(motor.model_copy(update={"kind": "brushed"})) == 0.0


def test_more_poles_turn_slower_and_so_does_a_hot_day():
    row = POINTS[3]
    power = train(row)
    many = power.model_copy(update={"motor": power.motor.model_copy(update={"poles": 24})})
    few, more = (float(solve(chain(p), 1.0, 0.0, AIR).rpm) for p in (power, many))
    assert more < 0.93 * few
    warm, hot = (float(solve(chain(power, 1.0, t), 1.0, 0.0, AIR).rpm) for t in (20.0, 45.0))
    assert hot < warm


def test_the_winding_is_held_at_what_would_have_burnt_it():
    row = {**POINTS[0], "diameter_in": 12.0, "pitch_in": 8.0}
    point = solve(chain(train(row)), 1.0, 0.0, AIR)
    assert float(point.winding_rise) == thermal.MOST_RISE
    assert float(point.motor_heat) > 5 * MOTOR_HEAT_MINUTE * train(row).motor.mass


def test_the_heat_limits_are_those_of_rated_watts():
    # Rated 3–4 W/g at 0.65 efficiency leaves about 1.1 W/g (handbook §8); 0.6 W/g for good.
    assert pytest.approx(0.35 * 3.15, abs=0.02) == MOTOR_HEAT_MINUTE / 1000
    assert MOTOR_HEAT_CONTINUOUS == 600.0
    assert thermal.time_constant() == pytest.approx(60 / math.log(1.1 / 0.5))


def test_what_is_not_known_is_what_a_thousand_draws_say():
    row = POINTS[1]
    power = train(row)
    link = replace(chain(power), open_circuit=row["volts"], pack_resistance=0.0, lead_resistance=0.0)
    scatter = scatter_of(power, link)
    told_sigma = scatter.sigma(solve(scatter.moved(link), 1.0, 0.0, AIR).thrust)
    rng = np.random.default_rng(5)
    logs = rng.normal(size=(20_000, len(scatter.steps))) @ scatter.steps
    by = dict(zip(CONSTANTS, np.exp(logs).T, strict=True))
    drawn = replace(
        link,
        k_v=link.k_v * by["k_v"],
        motor_resistance=link.motor_resistance * by["winding"],
        lag=link.lag * by["lag"],
        i0_still=link.i0_still * by["idle"],
        i0_slope=link.i0_slope * by["idle"] / by["k_v"],
        power_factor=by["power"],
        thrust_factor=by["thrust"],
        esc_resistance=link.esc_resistance * by["supply"],
    )
    thrust = solve(drawn, 1.0, 0.0, AIR).thrust
    assert float(np.std(thrust)) == pytest.approx(float(told_sigma), rel=0.10)


def test_class_scatter_is_as_wide_as_parts_are_sold():
    power = train(POINTS[0])
    scatter = scatter_of(power, chain(power), drag_sigma=0.12)
    sigma = dict(zip(CONSTANTS, np.sqrt((scatter.steps**2).sum(axis=0)), strict=True))
    assert (sigma["k_v"], sigma["winding"], sigma["lag"], sigma["idle"]) == (0.05, 0.35, 0.30, 0.25)
    assert sigma["drag"] == 0.12 and sigma["thrust"] == pytest.approx(7 / 5 * 0.08 / 1.645, rel=2e-3)
    measured = power.model_copy(update={"motor": power.motor.model_copy(update={"kv_sigma": 0.004})})
    assert np.sqrt((scatter_of(measured, chain(measured)).steps ** 2).sum(axis=0))[0] == 0.004


def blade(family, d, p, blades=2):
    return Propeller(name="x", family=family, diameter=0.0254 * d, pitch=0.0254 * p, blades=blades, mass=0.01)


def test_wide_blades_and_square_pitches_stand_where_the_bench_has_them():
    three = law_of(blade("wide", 5, 4.5, 3))
    assert three.static_thrust == pytest.approx(0.20, rel=0.05) and three.static_power == pytest.approx(0.105, rel=0.05)
    # 17 % more than was counted: 0.0746/0.83.
    assert law_of(blade("thin_electric", 8, 8)).static_power == pytest.approx(0.090, rel=0.05)


@pytest.mark.parametrize(("family", "tip"), [("thin_electric", 40.0), ("wide", 140.0), ("tiny", 110.0)])
def test_a_law_follows_the_blade_elements_at_the_tip_speed_it_turns_at(family, tip):
    law, at = law_of(blade(family, 6, 4)), np.array([0.0, 0.3, 0.5])
    c_t, c_p = coefficients_over(
        at, family=FAMILIES[family], diameter=0.1524, pitch_ratio=4 / 6, blades=2, tip_speed=tip
    )
    told_t, told_p = law.at(at, tip)
    assert told_t == pytest.approx(c_t, abs=0.0025) and told_p == pytest.approx(c_p, abs=0.0015)
    held = law.at(0.2, 2 * TIP_RANGE[1]), law.at(0.2, TIP_RANGE[1])
    assert held[0] == held[1]


def test_small_propellers_have_wider_bands_in_proportion_to_what_the_families_were_set_by():
    shares = [law_of(blade("thin_electric", d, 0.5 * d)).sigma_power * 1.645 for d in (12, 7.1, 5, 3, 2)]
    assert shares == pytest.approx([0.10, 0.10, 0.14, 0.20, 0.20], rel=2e-3)


def test_bands_double_past_the_pitches_and_the_tip_speed_the_model_holds_for():
    inside, outside = law_of(blade("thin_electric", 8, 9.5)), law_of(blade("thin_electric", 8, 9.7))
    assert outside.sigma_thrust == 2 * inside.sigma_thrust and outside.sigma_power == 2 * inside.sigma_power
    link = chain(train(POINTS[0]))
    edge = 0.65 * 340 / (0.5 * link.diameter)
    assert widened_past_mach(link, 0.999 * edge).law.sigma_thrust == link.law.sigma_thrust
    assert widened_past_mach(link, 1.001 * edge).law.sigma_thrust == 2 * link.law.sigma_thrust


@settings(max_examples=60)
@given(st.floats(0.2, 40.0), st.floats(4.0, 30.0), st.floats(0.2, 3.0))
def test_a_steady_climb_balances_along_and_across_its_path(thrust, speed, mass):
    sine = float(climb_sine(np.array([thrust]), FLYER, np.array([speed]), mass, AIR, 1.8e-5)[0])
    assert -1.0 <= sine <= 1.0
    cosine = math.sqrt(1 - sine**2)
    along = thrust - float(drag(FLYER, speed, mass * cosine, AIR, 1.8e-5))
    if abs(sine) < 1:
        lift = 2 * mass * 9.80665 * cosine / (AIR * speed**2 * FLYER.area)
        if lift < 1.5:
            assert along == pytest.approx(mass * 9.80665 * sine, rel=1e-7, abs=1e-7 * mass)


def test_no_climb_is_faster_than_the_airspeed_it_is_flown_at():
    strong = train({**POINTS[4], "mass_g": 200.0})
    found = level_flight(full_throttle(strong, AIR, 20.0, 0.1), FLYER, 0.6, 7.0, 12.0, 1.8e-5)
    assert 0.95 * found.climb_speed < found.climb_rate <= found.climb_speed
    assert (found.curves.climb <= found.curves.speed + 1e-9).all()
    assert found.steepest == pytest.approx(math.pi / 2)
    # Straight up the wing carries nothing.
    assert found.drag_at_climb == pytest.approx(float(drag(FLYER, found.climb_speed, 0.0, AIR, 1.8e-5)), rel=1e-3)
