import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.parts import Item
from ridgeline.design.paths import put
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.items import ItemRows, item_arrays, kinds_of, sigma_of
from ridgeline.engine.weights.levers import ballast_for, slide_for
from ridgeline.engine.weights.rollup import roll_up

ALONE = -1


def test_a_lever_of_two_balances_at_its_weighted_middle():
    state = roll_up([1.0, 3.0], [[0, 0, 0], [1, 0.2, -0.4]], [0, 0], [0, 0], [ALONE, ALONE])
    assert state.mass == 4.0
    assert state.cg == pytest.approx([0.75, 0.15, -0.3])
    assert state.sigma_mass == 0 and state.sigma_cg == pytest.approx([0, 0, 0])


def test_nothing_aboard_is_refused():
    with pytest.raises(ValueError, match="more than nothing"):
        roll_up([0.1, -0.1], np.zeros((2, 3)), [0, 0], [0, 0], [ALONE, ALONE])


masses = st.lists(
    st.tuples(st.floats(0.001, 2), st.floats(-1, 2), st.floats(-1, 1), st.floats(-1, 1)), min_size=1, max_size=30
)


@given(masses, st.randoms())
def test_the_order_of_items_does_not_matter(rows, random):
    def state(items):
        table = np.array(items)
        zeros = np.zeros(len(items))
        return roll_up(table[:, 0], table[:, 1:], 0.05 * table[:, 0], zeros, zeros - 1)

    shuffled = list(rows)
    random.shuffle(shuffled)
    one, other = state(rows), state(shuffled)
    assert other.mass == pytest.approx(one.mass)
    assert other.cg == pytest.approx(one.cg, abs=1e-9)
    assert other.sigma_cg == pytest.approx(one.sigma_cg, abs=1e-9)


@given(masses, st.floats(-3, 3))
def test_moving_the_datum_moves_the_balance_point_and_not_its_band(rows, shift):
    table = np.array(rows)
    n = len(rows)
    sigma, batch = 0.07 * table[:, 0], np.arange(n) % 3 - 1
    here = roll_up(table[:, 0], table[:, 1:], sigma, np.full(n, 0.004), batch)
    there = roll_up(table[:, 0], table[:, 1:] + [shift, 0, 0], sigma, np.full(n, 0.004), batch)
    assert there.cg[0] - here.cg[0] == pytest.approx(shift, abs=1e-9)
    assert there.sigma_cg == pytest.approx(here.sigma_cg, rel=1e-6, abs=1e-9)


def test_the_band_agrees_with_a_hundred_thousand_samples():
    rng = np.random.default_rng(3)
    mass = np.array([0.178, 0.112, 0.084, 0.032, 0.056, 0.031])
    x = np.array([0.158, 0.310, 0.252, 0.846, 0.038, 0.312])
    sigma, sigma_x = np.array([0.001, 0.008, 0.006, 0.002, 0.001, 0.009]), np.full(6, 0.004)
    batch = np.array([-1, 0, 0, 0, -1, 2])
    state = roll_up(mass, np.column_stack([x, 0 * x, 0 * x]), sigma, sigma_x, batch)
    n = 100_000
    common = rng.standard_normal((n, 1))
    own = rng.standard_normal((n, 6))
    errors = np.where(batch == 0, common, own) * sigma
    m = mass + errors
    cg = (m * (x + rng.standard_normal((n, 6)) * sigma_x)).sum(axis=1) / m.sum(axis=1)
    assert state.sigma_mass == pytest.approx(m.sum(axis=1).std(ddof=1), rel=0.02)
    assert state.sigma_cg[0] == pytest.approx(cg.std(ddof=1), rel=0.02)
    assert state.x_shares.sum() == pytest.approx(1.0)


def test_a_weighed_value_wins_and_narrows_the_band():
    guess = Item(name="Wing", group="airframe", basis="sheet", count=2, x=0.3, estimate=0.056)
    read = guess.model_copy(update={"weighed": 0.060})
    arrays = item_arrays((guess, read), None)
    assert arrays.mass == pytest.approx([0.112, 0.120])
    assert arrays.estimate == pytest.approx([0.112, 0.112])
    assert sigma_of(guess, None) == pytest.approx(0.07 * 0.112)
    assert sigma_of(read, None) == pytest.approx(2**0.5 * (0.0002 + 0.0005 + 0.002 * 0.060))


def test_a_mirrored_item_never_pulls_sideways(whimbrel):
    pair = put(whimbrel, "parts[1].y", 0.45)
    assert evaluate(pair).value("balance.cg_y") == pytest.approx(evaluate(whimbrel).value("balance.cg_y"))
    lone = put(whimbrel, "parts[1].mirrored", False)
    assert evaluate(lone).value("balance.cg_y") > 0.03


@given(st.floats(-0.05, 0.04))
def test_moving_the_pack_aft_moves_the_cg_by_its_mass_share(whimbrel, move):
    before = evaluate(whimbrel)
    after = evaluate(put(whimbrel, "parts[0].x", whimbrel.parts[0].x + move))
    share = 0.178 / before.value("mass.auw")
    assert after.value("balance.cg_x") - before.value("balance.cg_x") == pytest.approx(move * share, abs=1e-12)


@given(st.floats(0.1, 5), st.floats(0.01, 0.09), st.floats(-0.5, 0.5), st.floats(-0.5, 0.5))
def test_a_slide_solved_lands_on_the_target(total, share, now, wanted):
    moving = share * total
    assert now + slide_for(total, moving, now, wanted) * moving / total == pytest.approx(wanted)


@given(st.floats(0.1, 5), st.floats(0.2, 0.4), st.floats(0.1, 0.19), st.floats(-0.3, 0.05))
def test_ballast_solved_lands_on_the_target(total, now, wanted, place):
    mass = ballast_for(total, now, wanted, place)
    assert (total * now + mass * place) / (total + mass) == pytest.approx(wanted)


def test_ballast_behind_the_target_cannot_bring_it_forward():
    assert ballast_for(1.0, 0.3, 0.2, 0.25) is None
    assert ballast_for(1.0, 0.3, 0.2, 0.2) is None


edits = st.lists(
    st.tuples(st.sampled_from(["move", "weigh", "append", "remove", "recipe", "swap"]), st.integers(0, 99)), max_size=12
)


@given(edits)
def test_rows_read_after_any_run_of_edits_are_those_of_a_fresh_reading(whimbrel, order):
    """Only what changed is read anew; copies are all new objects, so that those are read whole."""
    parts, power, extents = whimbrel.parts, whimbrel.power, evaluate(whimbrel).results.extents
    known = ItemRows()
    for kind, number in order:
        k = number % len(parts)
        one = parts[k]
        if kind == "append":
            parts = (*parts, one)
        elif kind == "remove" and len(parts) > 1:
            parts = parts[:k] + parts[k + 1 :]
        elif kind == "swap":
            pack = power.pack.model_copy(update={"mass": 0.1 + 0.01 * number})
            power = power.model_copy(update={"pack": pack})
        else:
            change = {"move": {"x": 0.01 * number}, "weigh": {"weighed": 0.001 * number}, "recipe": {"build": None}}
            fresh = one.model_copy(update={**change.get(kind, {}), "estimate": 0.02})
            parts = (*parts[:k], fresh, *parts[k + 1 :])
        kept, kinds = item_arrays(parts, power, extents, known), kinds_of(parts)
        copies = tuple(part.model_copy() for part in parts)
        whole = item_arrays(copies, power, extents)
        for name, column in vars(kept).items():
            assert np.array_equal(column, vars(whole)[name]), name
        assert kinds.built == tuple(k for k, p in enumerate(parts) if p.build is not None)
        assert kinds.railed == tuple(k for k, p in enumerate(parts) if p.rail is not None)
        assert sorted(k for members in kinds.links.values() for k in members) == [
            k for k, p in enumerate(parts) if p.component is not None
        ]
