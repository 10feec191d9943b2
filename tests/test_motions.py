import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import put
from ridgeline.engine.aero.modes import Motion, lateral_matrix, lengthwise, longitudinal_matrix, sideways
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.inertia import inertia_of
from ridgeline.files.design_file import load
from ridgeline.library import demo_names


def test_the_light_aircraft_of_the_textbook_has_its_published_sideways_motions():
    # Nelson, Flight Stability and Automatic Control, ex. 5.3: a general aviation aircraft at 176 ft/s, derivatives
    # per radian and second; roots −8.435, −0.00877 and −0.487 ± 2.335 i.
    matrix = lateral_matrix(-0.254, (-16.02, -8.40, 2.19), (4.488, -0.350, -0.760), 176.0, gravity=32.2)
    found = sideways(matrix)
    assert found.roll.rate == pytest.approx(-8.435, rel=2e-3)
    assert found.spiral.rate == pytest.approx(-0.00877, abs=2e-3)
    assert found.dutch_roll.rate == pytest.approx(-0.487, rel=0.02)
    assert found.dutch_roll.frequency == pytest.approx(2.335, rel=0.02)


def test_a_plain_glider_swings_slowly_at_lanchesters_period():
    # Lanchester: with pitch held stiffly the period is √2 π V/g, whatever the aircraft.
    speed = 12.0
    lift = 9.80665 / speed
    matrix = longitudinal_matrix(-0.02, 0.0, -2 * lift, -8.0, -60.0, -25.0, speed)
    found = lengthwise(matrix)
    assert found.phugoid.period == pytest.approx(math.sqrt(2) * math.pi * speed / 9.80665, rel=0.15)
    assert found.short_period.half_time < 0.1


def test_an_unstable_margin_grows():
    matrix = longitudinal_matrix(-0.05, 0.1, -1.6, -8.0, 20.0, -5.0, 12.0)
    assert lengthwise(matrix).growth > 0.5
    stable = longitudinal_matrix(-0.05, 0.1, -1.6, -8.0, -20.0, -5.0, 12.0)
    assert lengthwise(stable).growth < 0.2


@given(st.floats(-5, -0.01), st.floats(0.01, 10))
def test_a_motion_tells_its_times_as_its_root_does(rate, frequency):
    motion = Motion(rate, frequency)
    assert math.exp(rate * motion.half_time) == pytest.approx(0.5)
    assert motion.period * frequency == pytest.approx(2 * math.pi)
    assert 0 < motion.damping < 1
    assert Motion(rate, 0.0).damping == 1.0 and Motion(rate, 0.0).period == math.inf


def test_a_dumbbells_inertias_are_mass_times_distance_squared():
    found = inertia_of([1.0, 1.0], [[0.5, 0, 0], [-0.5, 0, 0]], [0, 0], [0, 0, 0])
    assert (found.roll, found.pitch, found.yaw) == pytest.approx((0.0, 0.5, 0.5))
    wings = inertia_of([2.0], [[0.0, 0.0, 0.0]], [0.3], [0, 0, 0])
    assert (wings.roll, wings.pitch, wings.yaw) == pytest.approx((0.18, 0.0, 0.18))


@given(
    st.lists(
        st.tuples(st.floats(0.01, 1), st.floats(-1, 1), st.floats(-1, 1), st.floats(-0.3, 0.3)), min_size=2, max_size=9
    )
)
def test_inertias_are_least_about_the_balance_point_and_obey_the_triangle(rows):
    table = np.array(rows)
    mass, place = table[:, 0], table[:, 1:]
    centre = mass @ place / mass.sum()
    here = inertia_of(mass, place, np.zeros(len(rows)), centre)
    there = inertia_of(mass, place, np.zeros(len(rows)), np.add(centre, (0.1, 0.2, 0.05)))
    assert there.roll >= here.roll and there.pitch >= here.pitch and there.yaw >= here.yaw
    assert here.yaw <= here.roll + here.pitch + 1e-12


@pytest.mark.parametrize("name", demo_names())
def test_every_demo_settles_in_pitch_and_roll_and_does_not_wag(name):
    report = evaluate(load(f"demo:{name}"))
    assert 0.01 < report.value("modes.pitch_half_time") < 0.5
    assert 0.005 < report.value("modes.roll_half_time") < 0.3
    assert report.value("modes.dutch_roll_damping") > 0.02
    assert 2 < report.value("modes.phugoid_period") < 12


def test_a_slow_swing_takes_longer_at_more_speed(whimbrel):
    faster = put(whimbrel, "brief.cruise_ratio", 2.4)
    assert evaluate(faster).value("modes.phugoid_period") > evaluate(whimbrel).value("modes.phugoid_period")


def test_dihedral_slows_or_ends_the_spiral(whimbrel):
    flat = put(whimbrel, "surfaces[0].stations[2].z", -0.02)
    bent = put(whimbrel, "surfaces[0].stations[2].z", 0.09)

    def rate(design):
        spiral = evaluate(design).results.motions.sideways.spiral
        return spiral.rate

    assert rate(bent) < rate(whimbrel) < rate(flat)


def test_a_quick_spiral_is_worth_a_look(whimbrel):
    steep = put(put(whimbrel, "surfaces[0].stations[2].z", -0.12), "surfaces[1].cant", 0.8)
    report = evaluate(steep)
    found = next(f for f in report.findings if f.key == "modes.spiral")
    assert found.level == ("look" if report.value("modes.spiral_double_time") < 4 else "settled")


def test_masses_in_one_place_have_no_motions(whimbrel):
    item = whimbrel.parts[3]
    lone = whimbrel.model_copy(update={"parts": (item,), "power": None})
    report = evaluate(lone)
    assert report.value("modes.roll_half_time") is None
    assert report.figures["modes.roll_half_time"].why_not


def test_a_doubling_time_is_not_told_past_ten_minutes(whimbrel):
    found = evaluate(put(whimbrel, "surfaces[0].droop", 0.0)).figures
    growth, time = found["modes.spiral_rate"], found["modes.spiral_double_time"]
    assert growth.low < 0 < growth.value and time.high == pytest.approx(600.0)
    assert time.low == pytest.approx(math.log(2) / growth.high)
