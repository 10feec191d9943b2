"""The weight to expect: items and what the unweighed still gains, where it gains it, doubted more upward than down."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Put, Sides, derive
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.growth import roll_up_grown
from ridgeline.engine.weights.inertia import inertia_of
from ridgeline.engine.weights.items import item_arrays
from ridgeline.engine.weights.levers import slide_for

BOARD = Item(name="Board", group="airframe", basis="sheet", x=0.5, y=0.0, z=0.1, estimate=0.1)
MOTOR = Item(name="Motor", group="power", x=0.1, estimate=0.1)


def rolled(*parts, share=0.2):
    return roll_up_grown(item_arrays(parts, None), share)


def test_what_is_gained_stands_at_the_centroid_of_what_gains():
    tail = BOARD.model_copy(update={"name": "Tail", "x": 0.9, "estimate": 0.05})
    state, _sides = rolled(BOARD, tail, MOTOR)
    gain, centroid = 0.2 * 0.15, (0.1 * 0.5 + 0.05 * 0.9) / 0.15
    listed, moment = 0.25, 0.1 * 0.5 + 0.05 * 0.9 + 0.1 * 0.1
    assert state.mass == pytest.approx(listed + gain)
    assert state.cg[0] == pytest.approx((moment + gain * centroid) / (listed + gain))


def test_weighed_bought_and_cut_out_items_gain_nothing():
    weighed = BOARD.model_copy(update={"weighed": 0.1})
    hole = BOARD.model_copy(update={"estimate": -0.03})
    for parts in ((weighed, MOTOR), (MOTOR,), (weighed, hole)):
        items = item_arrays(parts, None)
        state, sides = roll_up_grown(items, 0.2)
        assert state.mass == pytest.approx(float(items.mass.sum()))
        assert sides.below == pytest.approx(sides.above) == pytest.approx(state.sigma_mass)


def test_nine_builds_in_ten_gain_between_a_quarter_and_twice_of_what_is_kept():
    # A sheet known exactly leaves only the growth in doubt.
    known = BOARD.model_copy(update={"basis": "stock"})
    items = item_arrays((known,), None)
    exact = item_arrays((known,), None).__class__(**{**vars(items), "sigma": np.zeros(1)})
    state, sides = roll_up_grown(exact, 0.2)
    assert state.mass == pytest.approx(0.12)
    assert state.mass - BAND * sides.below == pytest.approx(0.105)
    assert state.mass + BAND * sides.above == pytest.approx(0.140)


def test_the_doubt_of_growth_moves_the_balance_as_one():
    tail = BOARD.model_copy(update={"name": "Tail", "x": 0.9})
    items = item_arrays((BOARD, tail, MOTOR), None)
    exact = items.__class__(**{**vars(items), "sigma": np.zeros(3), "sigma_place": np.zeros(3)})
    state, sides = roll_up_grown(exact, 0.2)
    sigma = math.hypot(*sides) / math.sqrt(2) / 0.2
    moved = sum(sigma * 0.1 * (x - state.cg[0]) / state.mass for x in (0.5, 0.9))
    assert state.sigma_cg[0] == pytest.approx(moved, rel=1e-6)
    assert state.x_shares.shape == (3,) and state.x_shares.sum() == pytest.approx(1)
    assert state.x_shares[2] == pytest.approx(0, abs=1e-12)


def test_figures_judge_the_weight_to_expect_and_agree_with_it(whimbrel):
    report = evaluate(whimbrel)
    m, area = report.value("mass.auw"), report.value("wing.area")
    assert m == pytest.approx(report.value("mass.listed") + report.value("mass.reserve")) and m > 0.75
    assert report.value("wing.loading") == pytest.approx(m / area)
    assert report.value("power.thrust_ratio") == pytest.approx(report.value("power.static_thrust") / (m * 9.80665))
    air, c_l = report.results.air.density, report.value("wing.cl_max")
    assert report.value("speed.stall") == pytest.approx(math.sqrt(2 * m * 9.80665 / (air * area * c_l)))
    assert report.results.masses.expected.sum() == pytest.approx(m)


def test_the_band_leans_upward_until_all_is_weighed(whimbrel):
    figures = evaluate(whimbrel).figures
    for key in ("mass.auw", "wing.loading", "speed.stall"):
        assert figures[key].above > 1.02 * figures[key].below, key
    # More mass is less thrust ratio: it leans the other way.
    assert figures["power.thrust_ratio"].below > figures["power.thrust_ratio"].above
    changes = [Change(f"parts[{i}].weighed", p.estimate or 0.01) for i, p in enumerate(whimbrel.parts) if not p.weighed]
    done = evaluate(apply(whimbrel, changes))
    assert done.value("mass.reserve") == 0 and done.value("mass.auw") == pytest.approx(done.value("mass.listed"))
    assert done.figures["mass.auw"].above == pytest.approx(done.figures["mass.auw"].below)


def test_nothing_kept_is_the_design_as_listed(whimbrel):
    listed = evaluate(put(whimbrel, "brief.growth", 0.0))
    assert listed.value("mass.auw") == pytest.approx(evaluate(whimbrel).value("mass.listed"))
    assert listed.figures["mass.auw"].sigma == pytest.approx(listed.figures["mass.listed"].sigma)


@given(st.floats(-0.03, 0.03))
def test_an_item_that_still_grows_moves_the_balance_by_its_grown_mass(by_items, move):
    index = next(i for i, p in enumerate(by_items.parts) if p.name == "Fuselage, board")
    before = evaluate(by_items)
    after = evaluate(put(by_items, f"parts[{index}].x", by_items.parts[index].x + move))
    m, moving = before.value("mass.auw"), before.results.masses.expected[index]
    assert moving == pytest.approx(1.2 * 0.084)
    gone = after.value("balance.cg_x") - before.value("balance.cg_x")
    assert gone == pytest.approx(moving * move / m, abs=1e-12)
    if abs(move) > 1e-6:
        assert slide_for(m, moving, before.value("balance.cg_x"), after.value("balance.cg_x")) == pytest.approx(move)


def test_the_motions_feel_what_has_grown(whimbrel):
    report = evaluate(whimbrel)
    masses = report.results.masses
    items, state = masses.items, masses.state
    grown = inertia_of(masses.expected, items.place, items.out, state.cg, items.size)
    assert grown.yaw > 1.02 * inertia_of(items.mass, items.place, items.out, state.cg, items.size).yaw
    assert report.results.motions.inertia.yaw == pytest.approx(grown.yaw)


def test_over_as_listed_is_a_stop_and_over_once_grown_a_look(whimbrel):
    def found(ceiling):
        keys = ("mass.over_ceiling", "mass.no_reserve", "mass.under_ceiling")
        return next(f for f in evaluate(put(whimbrel, "brief.ceiling", ceiling)).findings if f.key in keys)

    assert (found(0.71).key, found(0.71).level) == ("mass.over_ceiling", "stop")
    assert (found(0.72).key, found(0.72).level) == ("mass.no_reserve", "look")
    assert (found(0.77).key, found(0.77).level) == ("mass.under_ceiling", "settled")
    # Over it as good as surely is over it, whatever was listed.
    sure = put(put(whimbrel, "brief.growth", 0.5), "brief.ceiling", 0.715)
    assert {f.key: f.level for f in evaluate(sure).findings}["mass.over_ceiling"] == "stop"


@given(st.floats(0.5, 3), st.floats(0.01, 0.2), st.floats(0.01, 0.2), st.sampled_from([1, -1]))
def test_a_skewed_input_skews_what_is_derived_from_it_the_way_it_moves_it(value, below, above, sign):
    sigma = math.hypot(below, above) / math.sqrt(2)
    put_in = Put(value, "a mass", "mass", sigma, sides=Sides(below, above))
    other = Put(1.0, "another", "mass", 0.05)
    found = derive(
        "mass.auw", "{a} + {b}", lambda a, b: sign * a + b, {"a": put_in, "b": other}, source="", model_sigma=0.02
    )
    down, up = (below, above) if sign > 0 else (above, below)
    rest = 0.05**2 + 0.02**2
    assert found.sides == pytest.approx((math.sqrt(down**2 + rest), math.sqrt(up**2 + rest)))
    assert found.sigma == pytest.approx(math.sqrt((found.sides.below**2 + found.sides.above**2) / 2))
    assert found.high - found.value == pytest.approx(BAND * found.sides.above)
    assert found.value - found.low == pytest.approx(BAND * found.sides.below)
