"""What saves most, and the finished model on its scales."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.brief import Brief
from ridgeline.design.paths import apply
from ridgeline.engine.advice.savings import savings
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.weights.items import item_arrays
from ridgeline.engine.weights.supports import from_supports, spread_over
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


def laid_out(build="foam_board"):
    return lay_out(start_brief(Brief(ceiling=0.9, build_method=build), "sport"), SHELF)


@pytest.mark.parametrize("build", ["foam_board", "printed_plain"])
def test_every_saving_applied_saves_what_it_says(build):
    design = laid_out(build)
    before = evaluate(design)
    found = savings(design, evaluate(design), SHELF)
    assert len(found) >= 4
    assert [s.saved for s in found] == sorted((s.saved for s in found), reverse=True)
    for saving in found:
        after = evaluate(apply(design, saving.changes))
        assert before.value("mass.auw") - after.value("mass.auw") == pytest.approx(saving.saved)
        change = after.value("balance.cg_fraction") - before.value("balance.cg_fraction")
        assert change == pytest.approx(saving.balance)


def test_peeling_papers_says_what_it_costs_in_stiffness():
    found = [s for s in savings(laid_out(), evaluate(laid_out()), SHELF, most=40) if "peel" in str(s.text)]
    # Or, where it would no longer bear its loads, that.
    assert found and all(s.grave and ("stiffness" in str(s.price) or "then bears" in str(s.price)) for s in found)
    both = next(s for s in found if "Wing" in str(s.text) and "both" in str(s.text))
    one = next(s for s in found if "Wing" in str(s.text) and "one" in str(s.text))
    assert both.saved / one.saved == pytest.approx(0.45 / 0.22)


def test_what_is_weighed_is_not_guessed_lighter():
    design = load("demo:whimbrel")
    weighed = {f"parts[{i}]" for i, part in enumerate(design.parts) if part.weighed is not None}
    for saving in savings(design, evaluate(design), SHELF, most=40):
        own = [c for c in saving.changes if c.path.startswith("parts[") and not c.path.startswith("power")]
        if "Pack" not in str(saving.text):
            assert not {c.path.partition(".")[0] for c in own} & weighed


@given(st.floats(0.1, 5), st.floats(-0.2, 0.8), st.floats(0.02, 0.3), st.floats(0.1, 0.9))
def test_two_supports_give_back_the_mass_and_balance_they_carry(mass, x, ahead, share):
    places = [(x - ahead * share, 0.0), (x + ahead * (1 - share), 0.0)]
    readings = [mass * (1 - share), mass * share]
    found = from_supports(readings, places)
    assert found.mass == pytest.approx(mass) and found.cg[0] == pytest.approx(x, abs=1e-12)


def test_three_supports_find_the_sideways_offset_too():
    places = [(0.1, 0.0), (0.4, -0.3), (0.4, 0.3)]
    found = from_supports([0.2, 0.3, 0.4], places)
    assert found.cg[1] == pytest.approx((0.4 - 0.3) * 0.3 / 0.9)
    wide = from_supports([0.2, 0.3, 0.4], [(x, 2 * y) for x, y in places])
    assert wide.sigma_cg[1] > found.sigma_cg[1]


def test_the_errors_of_a_support_weighing_match_a_sample():
    random = np.random.default_rng(3)
    places, readings = np.array([(0.1, 0.0), (0.42, 0.0)]), np.array([0.3, 0.45])
    stated = from_supports(readings, places, 0.0007, 0.001)
    r = readings + random.normal(0, 0.0007, (100_000, 2))
    at = places[:, 0] + random.normal(0, 0.001, (100_000, 2))
    x = (r * at).sum(axis=1) / r.sum(axis=1)
    assert x.std() == pytest.approx(stated.sigma_cg[0], rel=0.02)
    assert r.sum(axis=1).std() == pytest.approx(stated.sigma_mass, rel=0.02)


@pytest.mark.parametrize("wrong", [([0.5], [(0, 0)]), ([0, 0], [(0, 0), (1, 0)]), ([1, 2], [(0, 0)])])
def test_a_model_on_less_than_two_supports_is_refused(wrong):
    with pytest.raises(ValueError):
        from_supports(*wrong)


@given(st.floats(0.9, 1.15), st.floats(-0.01, 0.01))
def test_the_difference_is_spread_over_what_was_only_guessed(factor, shift):
    design = load("demo:whimbrel")
    items = item_arrays(design.parts, design.power)
    mass = float(items.mass.sum()) * factor
    cg = float(items.mass @ items.place[:, 0] / items.mass.sum()) + shift
    found = spread_over(items, items.mass, mass, cg)
    assert found.sum() == pytest.approx(mass)
    assert found @ items.place[:, 0] / found.sum() == pytest.approx(cg)
    assert (found[items.weighed] == items.mass[items.weighed]).all()


def test_more_uncertain_items_take_more_of_the_difference():
    design = load("demo:whimbrel")
    items = item_arrays(design.parts, design.power)
    more = spread_over(items, items.mass, float(items.mass.sum()) + 0.02) - items.mass
    open_ = ~items.weighed
    assert np.allclose(more[open_] / items.sigma[open_] ** 2, (more[open_] / items.sigma[open_] ** 2)[0])
