"""The harness: ways of leads, what has to be plugged in, how near signal comes to power, what the supply bears."""

import math
from itertools import combinations_with_replacement, pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply, put
from ridgeline.design.radio import Lead, Via
from ridgeline.engine.advice.harness_rules import with_lead
from ridgeline.engine.controls.harness import (
    APART,
    AT_PLUG,
    FARTHEST,
    SLACK,
    STOCK,
    Y_LEAD,
    along,
    laid,
    length_of,
    nearest,
    own_lead,
    pieces_for,
    wall_of,
    way_of_lead,
)
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.supply import RECEIVER, draw_of
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

WHIMBREL = load("demo:whimbrel")


@pytest.fixture(scope="module")
def wired():
    return evaluate(WHIMBREL).results.harness


# -- lengths ----------------------------------------------------------------------------------------------------------


@given(st.floats(0.0, 2.4))
def test_extensions_are_the_fewest_and_of_those_the_shortest(missing):
    found = pieces_for(missing)
    if missing <= 1e-9:
        assert found == ()
        return
    assert math.fsum(found) >= missing - 1e-9
    for count in range(1, len(found) + 1):
        able = [math.fsum(some) for some in combinations_with_replacement(STOCK, count)]
        able = [total for total in able if total >= missing - 1e-9]
        if count < len(found):
            assert not able
        else:
            assert math.fsum(found) == pytest.approx(min(able))


def test_leads_are_sold_in_the_lengths_of_the_handbook():
    assert STOCK == (0.10, 0.15, 0.20, 0.30, 0.50, 1.00) and SLACK == 0.05 and APART == 0.020
    assert [own_lead(mass) for mass in (0.004, 0.009, 0.045)] == [0.15, 0.20, 0.30]


@given(st.lists(st.tuples(*[st.floats(-2, 2)] * 3), min_size=2, max_size=6))
def test_a_way_is_as_long_as_its_stretches_and_looked_along_whole(points):
    path = np.array(points)
    long = math.fsum(math.dist(a, b) for a, b in pairwise(points))
    assert length_of(path) == pytest.approx(long)
    if long > 1e-3:
        looked = along(path)
        assert looked[0] == pytest.approx(path[0]) and looked[-1] == pytest.approx(path[-1])
        assert length_of(looked) <= long + 1e-9


def servo(**fields):
    made = next(item.servo for item in WHIMBREL.parts if item.servo is not None)
    return Item(id="i900", name="Servo", group="radio", estimate=0.009, servo=made, **fields)


def test_a_lead_that_was_told_its_places_goes_by_them():
    item = servo(x=0.3, y=0.2, z=0.0, mirrored=True)
    lead = Lead(of=item.id, via=(Via(x=0.3, y=0.05), Via(x=0.1, y=0.05)))
    path, root = way_of_lead(item, "port", None, (0.1, 0.0, 0.0), lead)
    assert path.tolist() == [[0.3, -0.2, 0.0], [0.3, -0.05, 0.0], [0.1, -0.05, 0.0], [0.1, 0.0, 0.0]] and root == 0


ENDS = ((0.0, 0.08), (1.0, 0.04))
BOX = (Body(name="Box", stations=tuple(BodyStation(x=x, width=wide, height=wide) for x, wide in ENDS)),)


def test_a_lead_runs_inside_the_wall_of_the_body():
    assert wall_of(BOX, 0.5, 0.0) == pytest.approx(0.03 - 0.006)
    assert wall_of(BOX, 1.5, 0.0) == 0.0 and wall_of(BOX, 0.5, 0.2) == 0.0
    wide = (Body(name="Wide", stations=tuple(BodyStation(x=x, width=0.4, height=0.1) for x in (0.0, 1.0))),)
    assert wall_of(wide, 0.5, 0.0) == FARTHEST
    item = servo(x=0.8, y=0.0, z=0.0)
    for side, hand in (("starboard", 1), ("port", -1)):
        path, _root = way_of_lead(item, side, None, (0.2, 0.0, 0.0), None, BOX)
        assert path[1].tolist() == pytest.approx([0.8, hand * 0.024, 0.0])
    other, _root = way_of_lead(item, "starboard", None, (0.2, 0.0, 0.0), None, BOX, "port")
    assert other[1][1] == pytest.approx(-0.024)


def test_along_a_panel_it_goes_round_the_kinks_and_turns_along_the_wall():
    wing = WHIMBREL.surfaces[0]
    item = next(i for i in WHIMBREL.parts if i.servo is not None and i.on is not None and i.on.to == wing.id)
    receiver = next(i for i in WHIMBREL.parts if i.harness == "receiver")
    path, root = way_of_lead(item, "starboard", wing, (receiver.x, receiver.y, receiver.z), None, WHIMBREL.bodies)
    assert path[0].tolist() == pytest.approx([item.x, item.y, item.z]) and root >= 1
    # It never goes nearer to the middle than the wall it runs along, until it comes to the receiver.
    assert min(path[:-1, 1]) == pytest.approx(path[root][1], abs=1e-6)
    port, _ = way_of_lead(item, "port", wing, (receiver.x, receiver.y, receiver.z), None, WHIMBREL.bodies)
    assert port[:-1] == pytest.approx(path[:-1] * np.array([1, -1, 1]))


def test_a_wing_that_comes_off_parts_its_leads_at_the_root():
    wing = WHIMBREL.surfaces[0]
    item = next(i for i in WHIMBREL.parts if i.servo is not None and i.on is not None and i.on.to == wing.id)
    at = (0.1, 0.0, 0.0)
    fixed = laid(item, 0.009, "starboard", 0, wing.model_copy(update={"joint": "fixed"}), at, None)
    off = laid(item, 0.009, "starboard", 0, wing.model_copy(update={"joint": "off"}), at, None)
    assert not fixed.parted and off.parted and off.long == pytest.approx(fixed.long)
    assert {piece.where for piece in off.pieces} >= {"body"} and off.margin >= -1e-9
    mine = math.fsum(piece.length for piece in off.pieces if piece.where == "wing")
    root = way_of_lead(item, "starboard", wing, at, None)[1]
    inside = length_of(off.path[: root + 1])
    assert off.own + mine >= inside + AT_PLUG - 1e-9


def test_told_lengths_are_kept_and_may_be_too_short():
    item = servo(x=0.8, y=0.0, z=0.0)
    told = laid(item, 0.009, "starboard", 0, None, (0.0, 0.0, 0.0), Lead(of=item.id, own=0.2, extension=0.3))
    assert told.kept and told.extension == 0.3
    assert told.margin == pytest.approx(0.2 + 0.3 - 0.8 - SLACK)
    usual = laid(item, 0.009, "starboard", 0, None, (0.0, 0.0, 0.0), None)
    # 800 mm and 50 of slack, with 200 of its own: the next that is sold is a metre.
    assert usual.extension == pytest.approx(1.0) and usual.margin == pytest.approx(0.35)
    assert usual.mass == pytest.approx(0.009 * 1.0 + 0.0012)


# -- nearness ---------------------------------------------------------------------------------------------------------


@given(st.floats(0.001, 0.2), st.floats(-0.1, 0.1))
def test_parallel_ways_stay_as_far_apart_as_they_are(apart, up):
    path = np.array([[0.0, apart, up], [1.0, apart, up]])
    found = nearest(path, [np.array([[0.2, 0.0, 0.0], [0.8, 0.0, 0.0]])])
    assert found.apart == pytest.approx(math.hypot(apart, up))
    assert nearest(path, []) is None


def test_where_leads_begin_together_they_are_not_judged():
    path = np.array([[0.0, 0.0, 0.0], [0.3, 0.06, 0.0]])
    power = [np.array([[-0.2, 0.0, 0.0], [0.0, 0.0, 0.0]])]
    assert nearest(path, power).apart == 0.0
    assert nearest(path, power, [np.zeros(3)]).apart > 0.05


# -- on aircraft ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_lead_of_every_sample_reaches_and_its_figures_add_up(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    harness = report.results.harness
    assert harness.receiver is not None and len(harness.runs) >= 2
    assert min(run.margin for run in harness.runs) == pytest.approx(report.value("harness.shortest_margin"))
    assert all(run.margin >= 0 for run in harness.runs)
    assert report.value("harness.mass") == pytest.approx(
        math.fsum(run.mass for run in harness.runs) + Y_LEAD * harness.joins
    )
    assert not [f for f in report.findings if f.key.startswith("harness") and f.level != "settled"]
    draws = [draw_of(item.servo, abs(float(mass)) / item.count)
             for item, mass in zip(design.parts, report.results.masses.expected, strict=True)
             if item.servo is not None for _ in range(item.count)]  # fmt: skip
    working, largest = math.fsum(d.working for d in draws), max(draws)
    assert report.value("radio.supply_typical") == pytest.approx(RECEIVER + working)
    assert report.value("radio.supply_stalled") == pytest.approx(RECEIVER + working - largest.working + largest.stalled)
    moving = report.value("radio.supply_moving")
    assert report.value("radio.supply_typical") - 1e-9 <= moving <= RECEIVER + math.fsum(d.stalled for d in draws)


def test_all_moving_each_draws_by_what_it_bears():
    report = evaluate(load("demo:heron"))
    shares = {row.linkage.servo: row.share for row in report.results.linking.rows}
    total = RECEIVER
    for ident, draw in report.results.feeding:
        total += max(draw.working, draw.stalled * (0.15 + 0.85 * shares.get(ident, 0.0)))
    assert report.value("radio.supply_moving") == pytest.approx(total)


def test_leads_keep_to_the_wall_away_from_power(wired):
    # A controller beside the starboard wall: leads of the body change sides.
    k = next(k for k, item in enumerate(WHIMBREL.parts) if item.component == "esc")
    tail = [run for run in wired.runs if run.path[0][0] > 0.5]
    assert tail
    moved = put(WHIMBREL, f"parts[{k}].y", 0.03) if WHIMBREL.parts[k].on is None else WHIMBREL
    after = evaluate(moved).results.harness
    assert after.near is None or after.near[1].apart >= min(APART, wired.near[1].apart) - 1e-9


def finding(design, key):
    report = evaluate(design)
    return next((f for f in report.findings if f.key.startswith(key)), None)


def test_a_lead_too_short_is_told_and_what_is_plugged_in_makes_it_reach(wired):
    run = max(wired.runs, key=lambda one: one.long)
    short = apply(WHIMBREL, [with_lead(WHIMBREL, run.of, own=run.own, extension=0.0)])
    told = finding(short, f"harness.short.{run.of}")
    assert told.level == "look" and "short" in str(told.text)
    cured = apply(short, told.remedies[0].changes)
    assert finding(cured, f"harness.short.{run.of}") is None
    assert evaluate(cured).value("harness.shortest_margin") >= 0


def test_signal_beside_power_is_told_and_the_run_offered_keeps_its_distance():
    tried = 0
    for name in ("dunlin", "lapwing", "turnstone", "whimbrel"):
        design = load(f"demo:{name}")
        harness = evaluate(design).results.harness
        for run in {run.of: run for run in harness.runs}.values():
            near = apply(design, [with_lead(design, run.of, aside=0.0)])
            told = finding(near, "harness.beside")
            if told is None or evaluate(near).results.harness.runs[
                evaluate(near).results.harness.near[0]].of != run.of:  # fmt: skip
                continue
            apart = evaluate(near).value("harness.apart")
            assert apart < APART and (told.level == "look") == (apart < 0.5 * APART)
            for way in told.remedies:
                tried += 1
                assert evaluate(apply(near, way.changes)).value("harness.apart") >= APART - 1e-9
    assert tried


def test_the_weight_of_leads_is_listed_where_they_lie(wired):
    told = finding(put(WHIMBREL, next(f"parts[{k}].estimate" for k, i in enumerate(WHIMBREL.parts)
                                      if i.harness == "leads"), 0.001), "harness.weight")  # fmt: skip
    listed = apply(WHIMBREL, told.remedies[0].changes)
    item = next(i for i in listed.parts if i.harness == "leads")
    assert item.estimate == pytest.approx(wired.mass, abs=1e-5)
    assert [item.x, item.y, item.z] == pytest.approx(wired.middle.tolist(), abs=1e-3)
    assert finding(listed, "harness.weight") is None


def test_long_leads_are_cut_to_their_ways():
    long = [run.of for run in evaluate(WHIMBREL).results.harness.runs if not run.parted][:1]
    design = apply(WHIMBREL, [with_lead(WHIMBREL, long[0], extension=1.0)])
    told = finding(design, "harness.long")
    cut = apply(design, told.remedies[0].changes)
    report = evaluate(cut)
    assert finding(cut, "harness.long") is None and report.value("harness.shortest_margin") >= 0
    assert report.results.harness.mass < evaluate(design).results.harness.mass


def test_which_item_is_the_receiver_is_asked():
    k = next(k for k, item in enumerate(WHIMBREL.parts) if item.harness == "receiver")
    unsaid = put(WHIMBREL, f"parts[{k}].harness", None)
    told = finding(unsaid, "harness.receiver")
    assert told.level == "settled" and told.remedies
    report = evaluate(unsaid)
    assert report.figures["harness.shortest_margin"].value is None
    said = apply(unsaid, next(w for w in told.remedies if w.key == f"receiver_{WHIMBREL.parts[k].id}").changes)
    assert said.parts[k].harness == "receiver"


def test_what_is_told_of_a_lead_can_be_taken_back():
    run = evaluate(WHIMBREL).results.harness.runs[0]
    told = apply(WHIMBREL, [with_lead(WHIMBREL, run.of, own=0.4)])
    assert told.radio.leads == (Lead(of=run.of, own=0.4),)
    again = apply(told, [with_lead(told, run.of, own=None)])
    assert again.radio.leads == () and again == WHIMBREL


def test_one_lead_an_item():
    with pytest.raises(Exception, match="one lead"):
        apply(WHIMBREL, [Change("radio.leads", (Lead(of="i1"), Lead(of="i1")))])


def test_the_supply_turns_into_heat_what_it_does_not_give():
    report = evaluate(WHIMBREL)
    load = report.value("radio.supply_typical")
    assert report.value("radio.bec_heat") == pytest.approx(5 * load * (1 / 0.85 - 1))
    linear = evaluate(put(WHIMBREL, "power.esc.bec_linear", True))
    volts = float(np.max(linear.results.standing.chain.open_circuit))
    assert linear.value("radio.bec_heat") == pytest.approx((volts - 5) * load)
    none = evaluate(put(WHIMBREL, "power.esc.bec_current", 0.0))
    assert none.figures["radio.bec_heat"].value is None
