"""Holes, tooth and travel for wished throws: what is chosen hits the wish; finer and lighter ones come first."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.inverse import LEAST_TRAVEL, fitted, settings_for, turn_for
from ridgeline.engine.controls.linkage import Throw, throw_between, travel_of

ONE = Linkage(control="c1", ahead=0.06, up=-0.005)


def degrees(up, down):
    return Throw(math.radians(up), math.radians(down))


def thrown(one, setting):
    """The throws of a linkage set so, over the travel that was said."""
    travel = travel_of(fitted(one, setting))
    rising = travel.at(0.01) < 0
    low, high = (setting.down_travel, setting.up_travel) if rising else (setting.up_travel, setting.down_travel)
    return throw_between(travel, -low * one.travel, high * one.travel)


@given(st.floats(10.0, 32.0), st.floats(0.6, 1.0), st.booleans())
@settings(max_examples=60, deadline=None)
def test_every_setting_hits_its_wish_within_half_a_degree(up, less, flat):
    one = ONE.model_copy(update={"facing": "up", "arm_to": "out"}) if flat else ONE
    wish = degrees(up, less * up)
    for setting in settings_for(one, wish)[:6]:
        found = thrown(one, setting)
        assert found.up == pytest.approx(wish.up, abs=math.radians(0.5))
        assert found.down == pytest.approx(wish.down, abs=math.radians(0.5))
        assert setting.resolution >= LEAST_TRAVEL and max(setting.up_travel, setting.down_travel) <= 1.0 + 1e-9


def test_the_finest_comes_first_and_of_like_ones_the_lightest_for_the_servo():
    found = settings_for(ONE, degrees(20, 16))
    assert len(found) > 5
    keys = [(-round(s.resolution, 2), s.load) for s in found]
    assert keys == sorted(keys)
    best = max(s.resolution for s in found)
    assert found[0].resolution == pytest.approx(best, abs=0.006)


def test_more_up_than_down_takes_teeth_and_a_square_arm_wastes_the_radio():
    wish = degrees(24, 12)
    best = settings_for(ONE, wish)[0]
    square = settings_for(ONE, wish, teeth=(0,), least=0.3)
    assert best.clocked > 0 and best.resolution > max(s.resolution for s in square)


def test_a_wish_no_hole_gives_has_no_setting():
    assert settings_for(ONE, degrees(80, 80)) == () and settings_for(ONE, degrees(0, 0)) == ()
    assert settings_for(ONE, degrees(1, 1)) == (), "less than the radio may be cut back to"


def test_the_radio_keeps_six_tenths_of_its_travel():
    found = [s for up in range(8, 30, 3) for s in settings_for(ONE, degrees(up, up))]
    least = min(setting.resolution for setting in found)
    assert 0.60 <= least < 0.64


def test_one_way_alone_is_wished_for_of_a_flap():
    found = settings_for(ONE, Throw(0.0, math.radians(30)))
    assert found and found[0].down_travel == found[0].up_travel
    travel = travel_of(fitted(ONE, found[0]))
    turn = turn_for(travel, math.radians(30))
    assert abs(turn) == pytest.approx(found[0].down_travel * ONE.travel)


def test_a_turn_for_an_angle_is_the_one_nearest_neutral():
    travel = travel_of(ONE)
    for angle in np.radians([-15.0, -3.0, 0.0, 7.0]):
        assert float(travel.at(turn_for(travel, angle))) == pytest.approx(angle, abs=1e-6)
    assert turn_for(travel, 1.5) is None
