"""Linkages as they are built in: square arms, clocking, which way a pulse moves a control, play and neutral."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.linkage import Hinge, Linkage
from ridgeline.design.parts import Servo
from ridgeline.engine.controls.four_bar import turned
from ridgeline.engine.controls.linkage import (
    HINGE_PLAY,
    bars,
    built_in,
    neutral_shift,
    play_of,
    throw_between,
    travel_of,
)
from ridgeline.engine.controls.servo import stall_torque

FULL = math.radians(45)


def link(**fields):
    return Linkage(**{"control": "c1", "hinge": Hinge(kind="tape"), **fields})


@given(
    st.floats(0.005, 0.02), st.floats(0.005, 0.02), st.floats(0.04, 0.3), st.floats(-0.02, 0.02),
    st.sampled_from([("out", "below"), ("in", "below"), ("out", "above"), ("up", "out"), ("down", "in")]),
)  # fmt: skip
@settings(max_examples=60, deadline=None)
def test_an_arm_stands_square_to_its_rod(arm, horn, ahead, up, way):
    one = link(arm=arm, horn=horn, ahead=ahead, up=up, facing=way[0], arm_to=way[1])
    a, h = bars(one)
    rod = h.vector - (a.centre + a.vector)
    # In the plane it turns in.
    rod = rod - a.axis * (rod @ a.axis)
    assert abs(rod @ a.vector) < 1e-9 and np.linalg.norm(a.vector) == pytest.approx(arm)
    points = {"below": (0, 0, -1), "above": (0, 0, 1), "out": (0, 1, 0), "in": (0, -1, 0)}[way[1]]
    assert a.vector @ np.array(points) > 0


def test_equal_throws_come_of_a_square_arm_and_differential_of_a_clocked_one():
    square = throw_between(travel_of(link(arm=0.008, horn=0.012)), -FULL, FULL)
    assert square.differential == pytest.approx(1.0, abs=0.05)
    ahead = throw_between(travel_of(link(arm=0.008, horn=0.012, clocked=1)), -FULL, FULL)
    behind = throw_between(travel_of(link(arm=0.008, horn=0.012, clocked=-1)), -FULL, FULL)
    assert ahead.differential > 1.08 and behind.differential < 0.93
    # Above the wing it is the other way round: computed, not recited.
    over = throw_between(
        travel_of(link(arm=0.008, horn=0.012, clocked=1, arm_to="above", horn_below=False)), -FULL, FULL
    )
    assert over.differential == pytest.approx(1 / ahead.differential, rel=1e-6)


def test_a_tooth_turns_the_arm_by_its_share_of_a_turn():
    plain, ahead = (bars(link(teeth=24, clocked=n))[0].vector for n in (0, 1))
    turn = math.acos(plain @ ahead / np.linalg.norm(plain) / np.linalg.norm(ahead))
    assert turn == pytest.approx(2 * math.pi / 24) and ahead[0] < plain[0], "ahead is towards the nose"


@pytest.mark.parametrize(("facing", "arm_to", "below", "way"), [
    # From the shaft's face a rising pulse turns it anticlockwise. Seen from the tip the nose is to the right, so that
    # an arm below swings forward, pulls a horn below the hinge forward, and the trailing edge goes down.
    ("out", "below", True, 1), ("in", "below", True, -1),
    ("out", "above", False, 1), ("in", "above", False, -1),
    # Arm and horn on different sides turn it over.
    ("out", "below", False, -1), ("out", "above", True, -1),
])  # fmt: skip
def test_which_way_a_pulse_moves_a_control_follows_from_how_it_is_built_in(facing, arm_to, below, way):
    one = link(facing=facing, arm_to=arm_to, horn_below=below)
    travel = travel_of(one)
    assert math.copysign(1, travel.at(0.2)) == way
    # By hand: where the end of the arm goes, against which side the horn is on.
    arm, horn = bars(one)
    pushed_aft = turned(arm, 0.05)[0][0] > (arm.centre + arm.vector)[0]
    assert way == (-1 if pushed_aft == (horn.vector[2] < 0) else 1)


def test_mirrored_servos_turn_a_pair_apart_and_servos_the_same_way_round_together():
    apart = link(port="mirrored")
    assert travel_of(apart).at(0.3) == pytest.approx(-travel_of(apart, "port").at(0.3), rel=0.2)
    assert travel_of(apart).at(0.3) * travel_of(apart, "port").at(0.3) < 0
    alike = link(port="alike")
    assert travel_of(alike).at(0.3) == pytest.approx(travel_of(alike, "port").at(0.3))
    assert built_in(alike, "port") == ("in", "below") and built_in(apart, "port") == ("out", "below")
    flat = link(facing="up", arm_to="out", port="alike")
    assert built_in(flat, "port") == ("up", "in")


def test_a_servo_that_lies_flat_moves_its_control_through_a_rod_in_space():
    one = link(facing="up", arm_to="out", ahead=0.07, up=-0.01)
    arm, horn = bars(one)
    assert (arm.centre + arm.vector)[1] == pytest.approx(horn.vector[1]), "the rod runs straight"
    travel = travel_of(one)
    assert not travel.binds and abs(travel.at(FULL)) > math.radians(20)


def test_direct_drive_turns_the_control_as_the_servo():
    assert travel_of(link(kind="direct")).at(0.3) == pytest.approx(0.3)
    assert travel_of(link(kind="direct", facing="in")).at(0.3) == pytest.approx(-0.3)


def test_sub_trim_turns_the_arm_and_a_rod_of_its_own_length_keeps_it():
    one = link()
    trimmed = travel_of(one, trim=0.1)
    assert trimmed.at(0.0) == pytest.approx(0.0, abs=1e-9), "the rod was made for it"
    arm, horn = bars(one)
    fixed = one.model_copy(update={"rod_long": float(np.linalg.norm(arm.centre + arm.vector - horn.vector))})
    assert travel_of(fixed, trim=0.1).at(0.0) == pytest.approx(travel_of(one).at(0.1), abs=1e-5)


def test_it_is_near_over_centre_from_twenty_degrees_of_the_rod_on():
    edge = [travel_of(link(arm=0.012, horn=0.012, travel=math.radians(t))) for t in (69.0, 71.0)]
    # Level and as long as one another: the rod stands off each arm by what that stands off level.
    assert [travel.is_near_centre for travel in edge] == [False, True]
    assert edge[0].near_centre == pytest.approx(math.radians(21), abs=math.radians(1.5))


def test_a_servo_is_as_strong_as_it_says_or_as_its_mass():
    assert stall_torque(Servo(stall_torque=0.33), 0.009) == 0.33
    for mass, torque in ((0.002, 0.02), (0.005, 0.07), (0.009, 0.15), (0.017, 0.25), (0.045, 0.5)):
        assert stall_torque(Servo(), mass) == pytest.approx(torque)
    assert 0.07 < stall_torque(Servo(), 0.007) < 0.15


def test_play_is_that_of_holes_gears_and_hinge():
    one = link(arm=0.008, horn=0.016, hole_play=0.0002, gear_play=0.01, hinge=Hinge(kind="rod"))
    found = play_of(one, travel_of(one))
    ratio = abs(np.interp(0.0, travel_of(one).turns, travel_of(one).motion.ratio))
    assert found == pytest.approx(2 * 0.0002 / 0.016 + 0.01 * ratio + HINGE_PLAY["rod"])
    assert play_of(link(hinge=Hinge(play=0.02)), travel_of(link())) > 0.02


def test_neutral_moves_by_a_millimetre_over_the_horn_and_by_a_tooth_through_the_ratio():
    one = link(arm=0.008, horn=0.016)
    by_mm, by_tooth = neutral_shift(one)
    arm, horn = bars(one)
    long = float(np.linalg.norm(arm.centre + arm.vector - horn.vector))
    shifted = travel_of(one.model_copy(update={"rod_long": long + 0.001})).at(0.0)
    assert abs(shifted) == pytest.approx(by_mm, rel=0.05)
    clocked = one.model_copy(update={"clocked": 1, "rod_long": long})
    assert abs(travel_of(clocked).at(0.0)) == pytest.approx(by_tooth, rel=0.08)


@given(
    st.floats(0.004, 0.02), st.floats(0.006, 0.03), st.floats(0.03, 0.4), st.floats(-0.03, 0.03),
    st.integers(-4, 4), st.booleans(),
)  # fmt: skip
@settings(max_examples=80, deadline=None)
def test_no_linkage_gives_what_is_not_a_number_where_it_moves(arm, horn, ahead, up, teeth, flat):
    way = {"facing": "up", "arm_to": "out"} if flat else {}
    one = link(arm=arm, horn=horn, ahead=ahead, up=up, clocked=teeth, **way)
    travel = travel_of(one)
    throw = throw_between(travel, -one.travel, one.travel)
    assert math.isfinite(throw.up) and math.isfinite(throw.down) and math.isfinite(play_of(one, travel))
    assert travel.binds or math.isfinite(travel.near_centre)
