"""Servo arm, rod and horn: parallelograms, numeric closure, energy, and where a linkage binds."""

import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from ridgeline.engine.controls.four_bar import bar, motion, planar, rod_length, turned

TURNS = np.radians(np.linspace(-45, 45, 31))


def test_a_parallelogram_turns_the_surface_as_the_servo():
    found = planar((0.0, 0.0), (0.012, -math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), TURNS)
    assert found.surface == pytest.approx(TURNS, abs=1e-12) and found.ratio == pytest.approx(np.ones(31))
    # The rod stays level, so it stands off each arm as that stands off level.
    assert found.at_arm == pytest.approx(math.pi / 2 - np.abs(TURNS))


def test_an_arm_half_as_long_turns_it_about_half_as_far():
    found = planar((0.0, 0.0), (0.008, -math.pi / 2), (0.07, 0.0), (0.016, -math.pi / 2), np.radians([-1.0, 0.0, 1.0]))
    assert found.ratio[1] == pytest.approx(0.5, rel=0.01) and found.surface[1] == pytest.approx(0.0, abs=1e-12)


def test_an_arm_on_the_other_side_of_the_rod_turns_it_the_other_way():
    same = planar((0.0, 0.0), (0.010, -math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), TURNS)
    other = planar((0.0, 0.0), (0.010, math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), TURNS)
    assert np.all(same.ratio > 0) and np.all(other.ratio[np.isfinite(other.ratio)] < 0)


def test_a_clocked_arm_gives_differential_and_a_square_one_almost_none():
    square = planar((0.0, 0.0), (0.010, -math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), TURNS[[0, -1]])
    tooth = planar((0.0, 0.0), (0.010, -math.pi / 2 - 2 * math.pi / 25), (0.07, 0.0), (0.012, -math.pi / 2),
                   TURNS[[0, -1]])  # fmt: skip
    assert abs(square.surface[1] / square.surface[0]) == pytest.approx(1.0, abs=0.06)
    assert not 0.9 < abs(tooth.surface[1] / tooth.surface[0]) < 1.1


def test_a_rod_that_no_longer_reaches_binds_and_is_near_over_centre_before():
    found = planar((0.0, 0.0), (0.020, -math.pi / 2), (0.03, 0.0), (0.006, -math.pi / 2), TURNS)
    assert np.isnan(found.surface[0]) or np.isnan(found.surface[-1])
    there = np.isfinite(found.surface)
    assert np.nanmin(found.at_horn[there]) < math.radians(20) and np.isfinite(found.surface[15])
    assert np.all(np.isnan(found.ratio[~there])) and np.all(np.isnan(found.at_arm[~there]))


def test_a_longer_rod_stands_the_surface_off_neutral_by_its_length_over_the_horn():
    plain = planar((0.0, 0.0), (0.010, -math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), [0.0])
    longer = planar((0.0, 0.0), (0.010, -math.pi / 2), (0.07, 0.0), (0.012, -math.pi / 2), [0.0],
                    rod=rod_length(bar((0, 0, 0), (0, -1, 0), (0, 0, -0.010)),
                                   bar((0.07, 0, 0), (0, -1, 0), (0, 0, -0.012)))
                    + 0.001)  # fmt: skip
    assert plain.surface[0] == pytest.approx(0.0, abs=1e-12)
    # Pushed aft below its hinge, the trailing edge goes up.
    assert longer.surface[0] == pytest.approx(0.001 / 0.012, rel=0.05)


lengths, angles = st.floats(0.005, 0.03), st.floats(-2.6, -0.6)


@given(lengths, angles, lengths, angles, st.floats(0.03, 0.4), st.floats(-0.02, 0.02), st.floats(-0.8, 0.8))
@settings(max_examples=150, deadline=None)
def test_the_closed_form_closes_and_is_what_bisection_finds(r_s, phi, r_h, theta, x, z, turn):
    turns = np.linspace(0.0, turn, 41)
    found = planar((0.0, 0.0), (r_s, phi), (x, z), (r_h, theta), turns)
    assume(np.isfinite(found.surface).all() and np.nanmin(found.at_horn) > 0.05)
    arm = bar((0, 0, 0), (0, -1, 0), (r_s * math.cos(phi), 0, r_s * math.sin(phi)))
    horn = bar((x, 0, z), (0, -1, 0), (r_h * math.cos(theta), 0, r_h * math.sin(theta)))
    long, end = rod_length(arm, horn), turned(arm, turn)[0]

    def lacks(angle):
        return float(np.linalg.norm(turned(horn, angle)[0] - end) - long)

    assert lacks(found.surface[-1]) == pytest.approx(0.0, abs=1e-12)
    low, high = found.surface[-1] - 0.02, found.surface[-1] + 0.02
    if lacks(low) * lacks(high) < 0:
        assert brentq(lacks, low, high, xtol=1e-13) == pytest.approx(found.surface[-1], abs=1e-9)
    # One branch throughout: no leaps from neutral on.
    assert found.surface[0] == pytest.approx(0.0, abs=1e-9) and np.abs(np.diff(found.surface)).max() < 0.5


@given(lengths, lengths, st.floats(0.04, 0.4), st.floats(-0.02, 0.02), st.floats(-0.6, 0.6), st.floats(-0.3, 0.3))
@settings(max_examples=100, deadline=None)
def test_what_the_servo_does_the_surface_gets(r_s, r_h, x, aside, turn, tilt):
    """Torque × servo rate = moment × surface rate: the ratio is the slope of the angle, in space too."""
    arm = bar((0.0, aside, 0.0), (tilt, -1.0, 0.2), (0.0, 0.0, -r_s))
    horn = bar((x, 0.0, 0.0), (0.0, -1.0, 0.0), (0.0, 0.0, -r_h))
    step = 1e-4
    found = motion(arm, horn, [turn - step, turn, turn + step])
    assume(np.all(np.isfinite(found.surface)) and found.at_horn.min() > 0.15)
    slope = (found.surface[2] - found.surface[0]) / (2 * step)
    assert found.ratio[1] == pytest.approx(slope, rel=1e-4, abs=1e-6)
    # Forces: a rod pull u makes torque u·(e × r) on either side, and their powers are the same to the last digit.
    ends, pivot = turned(arm, turn)[0], turned(horn, found.surface[1])[0]
    u = (pivot - ends) / np.linalg.norm(pivot - ends)
    torque, moment = u @ np.cross(arm.axis, ends - arm.centre), u @ np.cross(horn.axis, pivot - horn.centre)
    assert torque * 1.0 == pytest.approx(moment * found.ratio[1], abs=1e-12)


def test_a_servo_on_its_side_moves_a_surface_through_a_rod_in_space():
    # The arm turns in the plane of the wing, the surface square to it.
    arm = bar((0.0, 0.0, -0.004), (0.0, 0.0, 1.0), (0.0, 0.010, 0.0))
    horn = bar((0.06, 0.010, 0.0), (0.0, -1.0, 0.0), (0.0, 0.0, -0.012))
    found = motion(arm, horn, TURNS)
    assert np.all(np.isfinite(found.surface)) and found.surface[15] == pytest.approx(0.0, abs=1e-12)
    assert abs(found.ratio[15]) == pytest.approx(10 / 12, rel=0.03)
