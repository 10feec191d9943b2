"""Struts, threads and wires: springs between wings and bodies against closed forms, what they do to a design."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.fastening import Fastening
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.advice.brace_ways import brace_ways
from ridgeline.engine.advice.spar_ways import stock_ways
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.engine.structure.beam import Carried, bent, carried, strain_energy
from ridgeline.engine.structure.bracing import Brace, End, braced, braces_of, buckles, constants, drop_of, thrust_share
from ridgeline.engine.structure.stock import spar_of
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()
STOCK = {material.name: material for material in SHELF.materials}
LONG, STIFF = 0.6, 8.0
Y = np.linspace(0.0, LONG, 241)


@pytest.fixture(scope="module")
def sample():
    return load("demo:whimbrel")


@pytest.fixture(scope="module")
def report(sample):
    return evaluate(sample)


@pytest.fixture(scope="module")
def half(report):
    """An even cantilever of 0.6 m and 8 N m², its skins stiff in shear, held at its root."""
    real = report.results.beams[0]
    nothing, ones = np.zeros_like(Y), np.ones_like(Y)
    skins = replace(real.skins, bending=STIFF * ones, torsion=ones, bears=5 * ones, shear=nothing, shear_bears=nothing)
    return replace(real, y=Y, chord=0.2 * ones, skins=skins, spars=(), spar_bending=np.zeros((0, len(Y))),
                   spar_bears=np.zeros((0, len(Y))), seat=0.0)  # fmt: skip


def even(*loads):
    """Even loads, N/m, as cases."""
    found = [carried(Y, np.full_like(Y, w)) for w in loads]
    return Carried(np.array([one.shear for one in found]), np.array([one.moment for one in found]))


def brace(*ends, rise=1.0, lean=0.0, spring=1e12, pulls_only=False):
    return Brace("j1", tuple(End(*end) for end in ends), 0.3, rise, lean, spring, pulls_only)


# -- closed forms -----------------------------------------------------------------------------------------------------


def test_a_strut_at_the_tip_of_an_even_load_carries_three_eighths_of_it(half):
    found = braced([half], [even(10.0)], [brace((0, LONG, 1))])
    assert found.pulls[0, 0] == pytest.approx(3 / 8 * 10 * LONG, rel=1e-3)
    # The propped cantilever's root moment: w L²/8.
    assert found.carried[0].moment[0, 0] == pytest.approx(10 * LONG**2 / 8, rel=1e-3)


def test_a_spring_takes_what_its_give_leaves_it(half):
    spring = 300.0
    found = braced([half], [even(10.0)], [brace((0, LONG, 1), spring=spring)])
    free, gives = 10 * LONG**4 / (8 * STIFF), LONG**3 / (3 * STIFF)
    assert found.pulls[0, 0] == pytest.approx(free / (gives + 1 / spring), rel=1e-3)


def test_a_brace_at_an_angle_pulls_harder_and_pushes_the_wing_in(half):
    rise, lean = math.sin(0.4), math.cos(0.4)
    (found, steep) = (braced([half], [even(10.0)], [one]) for one in
                      (brace((0, 0.4, 1), rise=rise, lean=lean), brace((0, 0.4, 1))))  # fmt: skip
    assert found.pulls[0, 0] * rise == pytest.approx(steep.pulls[0, 0], rel=1e-6)
    pushed = found.thrust[0][0]
    assert pushed[0] == pytest.approx(found.pulls[0, 0] * lean) and not pushed[Y > 0.401].any()


def test_a_thread_hangs_slack_where_a_strut_would_push(half):
    loads = even(10.0, -4.0)
    thread, strut = (braced([half], [loads], [brace((0, 0.4, 1), pulls_only=only)]) for only in (True, False))
    assert thread.pulls[1, 0] == 0 and strut.pulls[1, 0] == pytest.approx(-0.4 * strut.pulls[0, 0])
    assert np.array_equal(thread.carried[0].moment[1], loads.moment[1])
    assert thread.pulls[0, 0] == pytest.approx(strut.pulls[0, 0])


def test_a_thread_above_the_wing_pulls_where_the_load_is_down(half):
    above = brace((0, 0.4, 1), rise=-0.5, lean=0.8, pulls_only=True)
    found = braced([half], [even(10.0, -4.0)], [above])
    assert found.pulls[0, 0] == 0 < found.pulls[1, 0]


def test_two_wings_joined_share_a_load_by_half_and_equal_loads_leave_the_strut_idle(half):
    joint = brace((0, LONG, 1), (1, LONG, -1))
    both = braced([half, half], [even(10.0), even(10.0)], [joint])
    assert both.pulls[0, 0] == pytest.approx(0.0, abs=1e-9)
    # One alone is loaded: the free tip goes up by w L⁴/8EI, and a rigid strut makes both go up by half of it.
    one = braced([half, half], [even(10.0), even(0.0)], [joint])
    assert one.pulls[0, 0] == pytest.approx(0.5 * 3 / 8 * 10 * LONG, rel=1e-3)
    assert one.carried[1].moment[0, 0] == pytest.approx(one.pulls[0, 0] * LONG, rel=1e-6)


def test_two_struts_are_those_of_a_beam_on_three_props(half):
    # Both rigid: the free beam's bend at both is undone at once.
    found = braced([half], [even(10.0)], [brace((0, 0.3, 1)), brace((0, 0.6, 1))])
    bend = bent(Y, Carried(*(row[0] for row in found.carried[0])), np.full_like(Y, STIFF)).deflection
    free = bent(Y, Carried(*(row[0] for row in even(10.0))), np.full_like(Y, STIFF)).deflection
    assert abs(np.interp(0.3, Y, bend)) < 1e-6 * free[-1] and abs(bend[-1]) < 1e-6 * free[-1]


@given(st.floats(0.1, 0.59), st.floats(1e2, 1e9), st.floats(-30.0, 30.0), st.booleans(), st.floats(0.1, 1.0))
@settings(max_examples=40, deadline=None)
def test_a_brace_never_adds_to_the_energy_of_bending(half, at, spring, load_, only, rise):
    loads = even(load_)
    one = brace((0, round(at, 4), 1), rise=rise, spring=spring, pulls_only=only)
    found = braced([half], [loads], [one])
    stiff = np.full_like(Y, STIFF)
    before, after = (strain_energy(Y, Carried(c.shear[0], c.moment[0]), stiff) for c in (loads, found.carried[0]))
    assert np.isfinite(found.pulls).all() and after <= before * (1 + 1e-9)
    assert not only or found.pulls[0, 0] >= 0


def test_threads_are_of_polyester_and_weigh_as_much(sample):
    one = Fastening(kind="thread", name="T", of=sample.surfaces[0].id, to=sample.bodies[0].id, out=0.35, size=0.001)
    assert constants(one) == (5e9, 400e6) and constants(one.model_copy(update={"kind": "strut"})) == (120e9, 400e6)
    assert constants(one.model_copy(update={"modulus": 200e9, "bears": 2e9})) == (200e9, 2e9)


def test_nothing_pulls_where_nothing_bends(half):
    assert not braced([half], [even(0.0)], [brace((0, 0.4, 1))]).pulls.any()


def test_a_push_is_borne_by_the_area_of_the_spars_or_to_where_it_buckles(report):
    real = report.results.beams[0]
    ones = np.ones((1, len(real.y)))
    area = math.pi / 4 * (0.006**2 - 0.004**2)
    at = real.at_seat
    pulled = thrust_share(real, -100 * ones, 0.35)[0, at]
    assert pulled == pytest.approx(100 / (area * 400e6 / 1.5))
    bay = (real.y >= real.seat - 1e-9) & (real.y <= 0.35)
    slender = math.pi**2 * real.bending[bay].min() / (0.35 - real.seat) ** 2 / 1.5
    assert slender < area * 400e6 / 1.5 and thrust_share(real, 100 * ones, 0.35)[0, at] == pytest.approx(100 / slender)
    assert buckles(2.0, 0.5) == pytest.approx(math.pi**2 * 2.0 / 0.25)


# -- of a design ------------------------------------------------------------------------------------------------------


def with_brace(design, kind="strut", **more):
    fields = {"name": "Struts", "of": design.surfaces[0].id, "to": design.bodies[0].id, "out": 0.35, **more}
    return apply(design, [Change("fastenings[-]", Fastening(kind=kind, **fields))])


def test_a_foot_stands_on_the_far_side_of_its_body_or_on_another_wing(sample):
    one = Fastening(kind="strut", name="S", of=sample.surfaces[0].id, to=sample.bodies[0].id, out=0.35)
    body, wing = sample.bodies[0], sample.surfaces[0]
    x, rows = wing.x + 0.4 * wing.stations[0].chord, body.sections
    low = np.interp(x, [s.x for s in rows], [s.z - s.height / 2 for s in rows])
    high = wing.z + np.interp(0.35, [s.y for s in wing.stations], [s.z for s in wing.stations])
    assert drop_of(one, sample.surfaces, sample.bodies) == pytest.approx(high - low)
    assert drop_of(one.model_copy(update={"drop": -0.07}), sample.surfaces, sample.bodies) == -0.07
    assert drop_of(one.model_copy(update={"to": ""}), sample.surfaces, sample.bodies) is None
    other = one.model_copy(update={"to": sample.surfaces[1].id, "foot": 0.05})
    assert drop_of(other, sample.surfaces, sample.bodies) == pytest.approx(
        wing.z + np.interp(0.35, [s.y for s in wing.stations], [s.z for s in wing.stations])
        - sample.surfaces[1].z - np.interp(0.05, [s.y for s in sample.surfaces[1].stations],
                                           [s.z for s in sample.surfaces[1].stations])
    )  # fmt: skip


@pytest.mark.parametrize("fields", [{"out": 0.02}, {"out": 0.9}, {"of": "nobody"}, {"drop": 0.01}])
def test_what_stands_in_the_seat_beyond_the_tip_or_flat_holds_nothing(sample, report, fields):
    design = with_brace(sample, **fields)
    assert not braces_of(design.fastenings[-1:], design.surfaces, design.bodies, report.results.beams)
    after = evaluate(design)
    assert after.value("structure.wing_share") == report.value("structure.wing_share")
    assert after.figures[f"structure.joint_share.{design.fastenings[-1].id}"].value == 0


def test_the_spring_is_that_of_all_of_them_side_by_side(sample, report):
    design = with_brace(sample, count=2, size=0.004, inner=0.002, modulus=70e9)
    (found,) = braces_of(design.fastenings[-1:], design.surfaces, design.bodies, report.results.beams)
    area = math.pi / 4 * (0.004**2 - 0.002**2)
    drop = drop_of(design.fastenings[-1], design.surfaces, design.bodies)
    assert found.long == pytest.approx(math.hypot(drop, 0.35 - 0.03))
    assert found.spring == pytest.approx(2 * 70e9 * area / found.long) and found.rise == pytest.approx(
        drop / found.long
    )


def test_a_strut_stiffens_at_rest_too_and_a_thread_does_not(sample, report):
    strut = evaluate(with_brace(sample, size=0.004))
    thread = evaluate(with_brace(sample, "thread", size=0.001, drop=0.1))
    for after in (strut, thread):
        assert after.value("structure.wing_share") < report.value("structure.wing_share")
        assert after.value("structure.flight_bend") < report.value("structure.flight_bend")
        assert after.value("stability.dihedral") < report.value("stability.dihedral")
    assert strut.value("structure.droop") < 0.5 * report.value("structure.droop")
    assert thread.value("structure.droop") == pytest.approx(report.value("structure.droop"))


def test_braces_are_judged_as_joints_by_pull_push_and_pads(sample):
    design = with_brace(sample, size=0.002, length=0.02, width=0.01)
    after = evaluate(design)
    (_one, shares) = after.results.fastened.rows[-1]
    pulls = after.results.bearing.braced.pulls[:, 0]
    told = {share.acts: share for share in shares}
    assert told["pulled, the worst of all cases"].load == pytest.approx(pulls.max())
    pushed = told["pushed, the worst of all cases"]
    long = after.results.bearing.braced.braces[0].long
    assert pushed.load == pytest.approx(-pulls.min())
    assert pushed.bears == pytest.approx(math.pi**2 * 120e9 * math.pi * 0.002**4 / 64 / long**2 / 1.5)
    assert told["the pads at its ends"].load == pytest.approx(1.5 * pulls.max() / 2e-4)


def test_other_joints_leave_the_bend_alone_and_braces_do_not(sample):
    evaluator = Evaluator()
    design = with_brace(sample)
    evaluator(design)
    before = dict(evaluator.runs)
    evaluator(put(design, "fastenings[0].count", 20))
    assert {n for n, runs in evaluator.runs.items() if runs > before.get(n, 0)} == {"bracing", "fastened"}
    evaluator(put(design, f"fastenings[{len(design.fastenings) - 1}].out", 0.3))
    assert evaluator.runs["flexed"] == before["flexed"] + 1


def test_a_wing_that_gives_is_offered_struts_and_a_thread_that_let_it_bear(sample):
    spar = spar_of(STOCK["Carbon rod 3 mm"], place=0.3, end=0.683)
    design = put(sample, "surfaces[0].built.spars", (spar,))
    told = Evaluator(stock=lambda: SHELF)(design)
    ways = {way.key: way for way in brace_ways(design, told, 0)}
    assert set(ways) == {"strut", "thread"}
    for way in ways.values():
        braced_ = apply(design, way.changes)
        after = evaluate(braced_)
        own = after.results.bearing.borne[0].greatest
        assert own <= 1 and way.text.values[-2].value == pytest.approx(4 / own)
        assert after.value("mass.auw") - told.value("mass.auw") == pytest.approx(way.text.values[-1].value, rel=0.01)
        assert after.value(f"structure.joint_share.{braced_.fastenings[-1].id}") <= 1
        brace_, item, wind = braced_.fastenings[-1], braced_.parts[-1], braced_.drag_items[-1]
        dense = 1380 * math.pi / 4 * brace_.size**2 if way.key == "thread" else STOCK["Carbon rod 3 mm"].constant
        assert item.estimate == pytest.approx(dense * wind.length) and item.count == wind.count == 2
        half = told.results.beams[0]
        assert brace_.out == pytest.approx(half.seat + 0.5 * (half.y[-1] - half.seat), abs=1e-3)
        assert len(braced_.drag_items) == len(design.drag_items) + 1
        assert not list(brace_ways(braced_, after, 0)), "it is braced"
    low = put(design, "surfaces[0].z", -0.02)
    assert "thread" not in {way.key for way in brace_ways(low, evaluate(low), 0)}, "a thread above bears no lift"


def test_stock_for_a_braced_wing_is_judged_with_its_braces(sample):
    braced_ = with_brace(sample, size=0.003)
    weak = put(braced_, "surfaces[0].built.spars[0].strength", 50e6)
    harder = put(weak, "loads.factor", 9.0)
    (way,) = stock_ways(harder, Evaluator(stock=lambda: SHELF)(harder), 0)
    own = evaluate(apply(harder, way.changes)).results.bearing.borne[0].greatest
    assert own <= 1 and way.text.values[0].value == pytest.approx(9.0 / own, rel=1e-6)


def test_wings_one_over_another_come_with_struts_that_hold():
    design = lay_out(brief_of({"layout": "biplane", "ceiling": 1.2}), SHELF)
    (strut,) = [one for one in design.fastenings if one.kind == "strut"]
    wings = [s for s in design.surfaces if s.role in ("wing", "wing_2", "wing_3")]
    assert {strut.of, strut.to} <= {s.id for s in wings} and strut.count == 2
    report = evaluate(design)
    assert report.figures[f"structure.joint_share.{strut.id}"].value <= 1
    assert report.results.bearing.braced.braces[0].ends[1].sign == -1
