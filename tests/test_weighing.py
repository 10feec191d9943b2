"""What the scale teaches, where things may lie, level wings, and the model on three supports or tilted."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from ridgeline.design.brief import Brief
from ridgeline.design.build import Build
from ridgeline.design.document import Design
from ridgeline.design.parts import Item, Rail
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.advice.side_levers import level_with_least, side_levers
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.weights.inertia import inertia_of
from ridgeline.engine.weights.items import ESTIMATE_SIGMA, item_arrays
from ridgeline.engine.weights.learning import learnt
from ridgeline.engine.weights.places import settle
from ridgeline.engine.weights.supports import Supported, from_supports, height_from_tilt, spread_over
from ridgeline.library import shipped_shelf


def board(name, area, weighed=None, areal=0.3):
    build = Build(kind="sheet", material="Board", extent=area, areal=areal)
    return Item(name=name, group="airframe", basis="sheet", x=0.1, build=build, weighed=weighed)


def taught(*parts):
    return learnt(Design(parts=parts), {})


# -- learning -----------------------------------------------------------------


def test_one_weighed_panel_rescales_the_unbuilt_ones_of_its_board():
    design = Design(parts=(board("panel", 0.1, weighed=0.033), board("other", 0.2), board("third", 0.05)))
    (found,) = learnt(design, {})
    assert found.constant == pytest.approx(0.33) and found.ratio == pytest.approx(1.1)
    after = item_arrays(apply(design, found.changes()).parts, None)
    assert after.mass == pytest.approx([0.033, 0.066, 0.0165])
    before = item_arrays(design.parts, None)
    assert (after.sigma[1:] / after.mass[1:] < before.sigma[1:] / before.mass[1:]).all()
    assert after.estimate[0] == pytest.approx(0.030), "what was weighed keeps its estimate for comparison"


def test_learning_twice_changes_nothing_more():
    design = Design(parts=(board("panel", 0.1, weighed=0.033), board("other", 0.2)))
    once = apply(design, learnt(design, {})[0].changes())
    (again,) = learnt(once, {})
    assert again.ratio == pytest.approx(1.0) and apply(once, again.changes()) == once


@given(st.floats(0.5, 1.6), st.integers(1, 5))
def test_the_more_is_weighed_the_surer_the_rest(ratio, count):
    parts = [board(f"panel {k}", 0.2, weighed=0.06 * ratio) for k in range(count)]
    (found,) = taught(*parts, board("other", 0.2))
    assert found.constant == pytest.approx(0.3 * ratio)
    assert found.sigma < ESTIMATE_SIGMA["sheet"]
    if count > 1:
        (fewer,) = taught(*parts[:-1], board("other", 0.2))
        assert found.sigma <= fewer.sigma + 1e-12


def test_another_material_learns_nothing_and_nothing_open_needs_nothing():
    foam = board("foam", 0.1, weighed=0.04)
    ply = foam.model_copy(
        update={"name": "ply", "weighed": None, "build": foam.build.model_copy(update={"material": "Ply"})}
    )
    assert taught(foam, ply) == () and taught(foam) == ()


def test_the_finding_offers_the_rescale_once(by_items):
    weighed = put(put(by_items, "parts[1].weighed", 0.066), "brief.ceiling", 1.2)
    report = evaluate(weighed)
    found = next(f for f in report.findings if f.key.startswith("mass.learnt"))
    assert "18 %" in str(found.text.render()) and len(found.remedies) == 1
    after = evaluate(apply(weighed, found.remedies[0].changes))
    assert not [f for f in after.findings if f.key.startswith("mass.learnt")]
    tail = next(i for i, p in enumerate(by_items.parts) if p.name == "V-tail, board")
    assert after.results.masses.items.mass[tail] == pytest.approx(0.032 * 0.132 / 0.112, rel=1e-6)


# -- places -------------------------------------------------------------------


def parts_with_a_bay():
    pack = Item(name="Pack", group="battery", x=0.2, estimate=0.2, rail=Rail(front=0.1, back=0.3, item_length=0.1))
    return (
        pack,
        Item(name="Receiver", group="radio", x=0.4, z=0.05, estimate=0.01),
        Item(name="Camera", group="payload", x=0.5, y=0.1, z=-0.04, estimate=0.05),
    )


@given(st.floats(-1, 1), st.floats(-0.5, 0.5), st.floats(-0.3, 0.3), st.integers(0, 2))
def test_a_settled_item_is_never_in_anothers_bay_and_a_railed_one_never_leaves_its_own(x, y, z, index):
    parts = parts_with_a_bay()
    place = settle(parts, index, x, y, z, 0.003)
    if index == 0:
        assert 0.15 - 1e-12 <= place.x <= 0.25 + 1e-12
    else:
        inside = 0.1 < place.x < 0.3 and abs(place.z) < 0.015 and abs(place.y) < 0.025
        assert not inside
    again = settle(parts, index, place.x, place.y, place.z, 0.003)
    assert (again.x, again.y, again.z) == (place.x, place.y, place.z)


def test_it_snaps_to_its_neighbours_and_the_centre_line_and_says_so():
    parts = parts_with_a_bay()
    lined = settle(parts, 2, 0.402, 0.1, -0.04, 0.003)
    assert lined.x == 0.4 and "in line with Receiver" in lined.why
    assert settle(parts, 2, 0.45, 0.004, -0.04, 0.003).y == 0.0
    free = settle(parts, 2, 0.45, 0.1, -0.04, 0.003)
    assert (free.x, free.why) == (0.45, "")
    pushed = settle(parts, 1, 0.28, 0.0, 0.0, 0.001)
    assert pushed.x == 0.3 and "bay of Pack" in pushed.why


# -- level wings --------------------------------------------------------------


def lopsided(factor=1.0):
    """The asymmetric twin-fuselage case: camera and receiver ride in the one body, and nothing in the other."""
    design = lay_out(start_brief(Brief(ceiling=1.2, layout="twin_fuselage"), "sport"), shipped_shelf())
    changes = []
    for index, part in enumerate(design.parts):
        if part.group in ("payload", "battery", "radio") and not part.mirrored and part.rail is None:
            changes.append(Change(f"parts[{index}].y", factor * 0.12))
    extra = Item(name="Survey camera", group="payload", x=0.2, y=factor * 0.12, estimate=0.06)
    return apply(design, [*changes, Change("parts[-]", extra)])


@pytest.mark.parametrize("factor", [1.0, -1.0])
def test_every_side_lever_applied_leaves_what_it_says(factor):
    design = lopsided(factor)
    report = evaluate(design)
    offset = report.value("balance.cg_y")
    assert abs(offset) > 0.002 and offset * factor > 0
    found = side_levers(design, report)
    assert {lever.key for lever in found} >= {"ballast_tip", "ballast_half"}
    for lever in found:
        after = evaluate(apply(design, lever.changes))
        assert after.value("balance.cg_y") == pytest.approx(lever.reached, abs=1e-9)
        assert after.value("mass.auw") - report.value("mass.auw") == pytest.approx(lever.added, abs=1e-12)
    tip, half = (next(lever for lever in found if lever.key == f"ballast_{k}") for k in ("tip", "half"))
    assert tip.added < half.added, "far out a fraction of the mass does"


def test_an_asymmetric_twin_is_levelled_with_what_it_carries_before_ballast():
    design = lopsided()
    found = level_with_least(design, evaluate(design))
    assert found.there and found.added == pytest.approx(0.0, abs=1e-12)
    after = evaluate(apply(design, found.changes))
    assert abs(after.value("balance.cg_y")) < 5e-5
    assert abs(after.value("trim.aileron") or 0.0) < abs(evaluate(design).value("trim.aileron") or 0.0) + 1e-12


def test_a_level_airframe_has_no_side_levers(whimbrel):
    level = apply(
        whimbrel, [Change(f"parts[{i}].y", 0.0) for i, p in enumerate(whimbrel.parts) if not p.mirrored and p.y]
    )
    assert side_levers(level, evaluate(level)) == ()


# -- supports -----------------------------------------------------------------


@given(st.floats(-0.05, 0.05), st.floats(-0.04, 0.1), st.floats(5, 60), st.floats(0.3, 5))
def test_the_height_of_the_balance_point_comes_back_from_two_attitudes(ahead, height, tilt, mass):
    angle = math.radians(tilt)
    places = np.array([(0.0, 0.0), (0.4, 0.0)])
    x = 0.15 + ahead
    # Nose down by the angle about the front support, in the plane of the floor.
    level, turned = x, x - height * math.tan(angle)
    assume(0 < turned < 0.4)
    found = [from_supports([mass * (1 - at / 0.4), mass * at / 0.4], places) for at in (level, turned)]
    solved, error = height_from_tilt(found[0], found[1], angle)
    assert solved == pytest.approx(height, abs=1e-9) and error > 0


def test_a_small_tilt_tells_too_little():
    here = Supported(1.0, np.zeros(2), 0.001, np.full(2, 0.001))
    with pytest.raises(ValueError, match="5 to 60"):
        height_from_tilt(here, here, math.radians(2))


@given(st.floats(0.8, 1.3), st.floats(-0.02, 0.02), st.floats(-0.01, 0.01))
def test_spreading_matches_mass_and_both_balances_and_leaves_the_weighed_alone(factor, dx, dy):
    parts = (
        Item(name="a", group="payload", x=0.0, y=-0.2, estimate=0.1),
        Item(name="b", group="payload", x=0.3, y=0.1, estimate=0.2),
        Item(name="c", group="payload", x=0.6, y=0.2, estimate=0.15),
        Item(name="w", group="payload", x=0.2, y=0.0, weighed=0.3),
    )
    items = item_arrays(parts, None)
    mass = factor * float(items.mass.sum())
    x = float(items.mass @ items.place[:, 0] / items.mass.sum()) + dx
    y = float(items.mass @ items.place[:, 1] / items.mass.sum()) + dy
    fresh = spread_over(items, items.mass, mass, x, y)
    assert fresh[3] == pytest.approx(0.3, abs=1e-12) and fresh.sum() == pytest.approx(mass)
    assert fresh @ items.place[:, 0] == pytest.approx(mass * x) and fresh @ items.place[:, 1] == pytest.approx(mass * y)


def test_a_sideways_balance_that_nothing_open_can_make_is_left_as_it_is():
    parts = tuple(Item(name=n, group="payload", x=x, estimate=0.1) for n, x in (("a", 0.0), ("b", 0.4)))
    items = item_arrays(parts, None)
    fresh = spread_over(items, items.mass, 0.25, 0.2, 0.03)
    assert fresh.sum() == pytest.approx(0.25)


# -- extents ------------------------------------------------------------------


def test_a_rod_across_has_the_inertia_of_the_textbook():
    found = inertia_of([0.6], [[0.0, 0.0, 0.0]], [0.0], [0.0, 0.0, 0.0], [[0.0, 1.2, 0.0]])
    assert found.roll == pytest.approx(0.6 * 1.2**2 / 12) and found.yaw == pytest.approx(found.roll)
    assert found.pitch == pytest.approx(0.0)


def test_two_half_wings_are_as_hard_to_roll_as_the_whole_one():
    whole = inertia_of([1.0], [[0.0, 0.0, 0.0]], [0.0], [0.0, 0.0, 0.0], [[0.2, 2.0, 0.0]])
    halves = inertia_of([1.0], [[0.0, 0.0, 0.0]], [0.5], [0.0, 0.0, 0.0], [[0.2, 1.0, 0.0]])
    assert halves.roll == pytest.approx(whole.roll) and halves.yaw == pytest.approx(whole.yaw)


def test_an_item_that_follows_the_wing_is_as_wide_as_the_wing(by_items):
    panels = next(i for i, p in enumerate(by_items.parts) if p.name == "Wing panels, board")
    size = evaluate(by_items).results.masses.items.size[panels]
    wing = next(s for s in by_items.surfaces if s.role == "wing")
    assert size[1] == pytest.approx(wing.stations[-1].y, rel=0.03) and 0.1 < size[0] < 0.25


# -- hanging ------------------------------------------------------------------


def test_the_model_hangs_as_sharply_as_its_weight_lies_deep(whimbrel):
    report = evaluate(whimbrel)
    depth = report.value("balance.hang_depth")
    assert depth > 0.02, "a high wing carries its weight under it"
    assert report.value("balance.hang_per_degree") == pytest.approx(depth * math.tan(math.radians(1)))
    low = put(whimbrel, "surfaces[0].z", -0.05)
    assert evaluate(low).value("balance.hang_depth") < 0, "a low wing has to be turned over"


# -- the cases of the trade ---------------------------------------------------


def test_a_peeled_wing_is_lighter_and_moves_the_balance_as_its_moment_says(by_items):
    index = next(i for i, p in enumerate(by_items.parts) if p.name == "Wing panels, board")
    before, after = evaluate(by_items), evaluate(put(by_items, f"parts[{index}].build.peeled", 1))
    saved = before.value("mass.auw") - after.value("mass.auw")
    assert saved == pytest.approx(1.2 * 0.22 * 0.112, rel=1e-4), "and what would have grown of it"
    x, cg = by_items.parts[index].x, before.value("balance.cg_x")
    assert after.value("balance.cg_x") - cg == pytest.approx(-saved * (x - cg) / after.value("mass.auw"), rel=1e-6)


def test_a_hybrid_print_weighs_each_part_in_its_own_material():
    design = lay_out(start_brief(Brief(ceiling=0.9, build_method="printed_foaming"), "sport"), shipped_shelf())
    built = [i for i, p in enumerate(design.parts) if p.build is not None and p.build.pieces == "shell"]
    body = next(i for i in built if design.parts[i].build.of == design.bodies[0].id)
    strong = put(design, "bodies[0].built.printing.density", 1270.0)
    old, new = (evaluate(d).results.masses.items for d in (design, strong))
    assert new.mass[body] / old.mass[body] == pytest.approx(1270.0 / 575.0)
    others = [i for i in range(len(design.parts)) if i != body]
    assert new.mass[others] == pytest.approx(old.mass[others])


def test_a_factory_nose_weight_taken_out_counts_negative_whether_guessed_or_weighed(whimbrel):
    gone = Item(name="Factory nose weight", group="ballast", x=0.02, weighed=-0.03)
    before, after = evaluate(whimbrel), evaluate(put(whimbrel, "parts[-]", gone))
    assert after.value("mass.auw") == pytest.approx(before.value("mass.auw") - 0.03)
    assert after.value("balance.cg_x") > before.value("balance.cg_x")


def test_a_pack_too_big_for_its_bay_is_a_stop(whimbrel):
    tight = put(whimbrel, "power.pack.width", 0.06)
    found = next(f for f in evaluate(tight).findings if f.key == "mass.bay_wide")
    assert found.level == "stop" and "60 mm" in found.text.render()
