"""What holds the aircraft together: each law by hand, what makes it hold, the usual ones, and their findings."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.fastening import Fastening
from ridgeline.design.paths import apply, put
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.sizing.held_together import usual_fastenings
from ridgeline.engine.structure.fastened import NOSE_OVER, Doing, Tail, shares_of, stronger
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

G = 9.80665
#: 750 g with a wing of 200 g, 4 g, a 7 N motor of 60 g, a pack of 180 g; 8 N on the tail.
DOING = Doing(
    4.0, 0.75, 7.1, 7.0, Tail(8.0, 0.04, 3.5, 250.0),
    lambda ident: {"wing": 0.2, "mount": 0.06, "pack": 0.18}.get(ident, 0.0),
    lambda ident: {"mount": 0.03, "boom": 0.4}.get(ident, 0.0),
    lambda _ident, _out: 0.5,
    lambda _ident, _out: 0.01,
)  # fmt: skip
LIFT = 1.5 * 4 * (0.75 - 0.2) * G


def joint(kind, **more):
    return Fastening(id="j1", kind=kind, name="Joint", **{"of": "wing", **more})


def share(kind, **more):
    return shares_of(joint(kind, **more), DOING)[0]


# -- laws -------------------------------------------------------------------------------------------------------------


def test_bands_hold_by_strands_pull_and_angle_and_crush_the_edge_under_them():
    # The handbook's eight strands of 3.5 N at 35°, both sides: 32 N.
    rows = {s.quantity: s for s in shares_of(joint("bands", count=8, angle=math.radians(35), length=0.05), DOING)}
    assert rows["force"].bears == pytest.approx(32.1, abs=0.1) and rows["force"].load == pytest.approx(LIFT)
    assert rows["stress"].load == pytest.approx(rows["force"].bears / 2 / (2 * 0.05 * 0.005))
    # A bare dowel crushes what a stick along the edge spares.
    bare = shares_of(joint("bands", count=8, size=0.006, length=0.001), DOING)[0]
    assert bare.quantity == "stress" and bare.share > 1 > rows["stress"].share
    assert share("bands", count=8, hold=7.0, length=0.3).share == pytest.approx(LIFT / (2 * 8 * 7 * math.sin(0.61)))


@pytest.mark.parametrize(("size", "tension"), [(0.003, 110), (0.004, 220), (0.005, 360), (0.006, 520)])
def test_nylon_bolts_work_at_half_of_what_breaks_them(size, tension):
    rows = {s.quantity: s for s in shares_of(joint("bolts", count=2, size=size), DOING)}
    assert rows["force"].share == pytest.approx(LIFT / (2 * tension))
    head = math.pi / 4 * ((2.5 * size) ** 2 - size**2)
    assert rows["stress"].load == pytest.approx(LIFT / 2 / head) and rows["stress"].bears == 20e6


def test_magnets_hold_three_tenths_of_what_is_printed_and_less_across_a_gap():
    assert share("magnets", count=6, hold=40.0).bears == pytest.approx(72.0)
    assert share("magnets", count=6, hold=40.0, gap=0.0005).bears == pytest.approx(18.0)


def test_a_tongue_bears_half_the_lift_over_its_face():
    assert share("tongue", length=0.01, width=0.02).load == pytest.approx(LIFT / 2 / 2e-4)


def test_an_elbow_is_tape_pulling_against_a_fold():
    found = share("elbow", width=0.1, out=0.34)
    assert found.load == pytest.approx(1.5 * 0.5) and found.bears == pytest.approx(4000 * 0.1 * 0.8 * 0.01)


def test_screws_hold_thrust_or_ten_g_on_the_motor():
    found = share("screws", of="mount", count=4, width=0.02)
    side = NOSE_OVER * 0.06 * G
    assert found.load == pytest.approx(1.5 * max(7.0, side * 0.5 * 0.03 / 0.02 + side)) and found.bears == 600
    assert NOSE_OVER == 10.0


def test_bonds_are_as_strong_as_the_foam():
    tail = share("bond", of="tail", length=0.1, width=0.02)
    assert tail.load == pytest.approx(1.5 * 8.0 / 0.002) and tail.bears == 0.12e6
    motor = share("bond", of="mount", length=0.03, width=0.03)
    assert motor.load == pytest.approx(1.5 * 7.0 / 9e-4) and "thrust" in motor.words


def test_straps_hold_ten_g_and_propeller_bands_the_thrust():
    assert share("strap", of="pack", count=1).share == pytest.approx(10 * 0.18 * G / 60)
    assert share("prop_bands", of="mount", count=2).share == pytest.approx(7.0 / (2 * 2 * 3.5))


def test_legs_bend_by_their_reach_and_say_at_which_sink_for_good():
    found = share("legs", count=2, size=0.003, length=0.06)
    force = 7.1 * 0.75 * G / 2
    assert found.load == pytest.approx(32 * force * 0.06 / (math.pi * 0.003**3)) and found.bears == 1200e6
    volume = 2 * math.pi / 4 * 0.003**2 * 0.06
    sink = math.sqrt(2 * 1200e6**2 * volume / (24 * 200e9) / 0.75)
    assert f"{sink:.1f} m/s" in found.words


def test_a_boom_bends_by_the_tail_and_loses_elevator():
    found = share("boom", of="boom", size=0.012, inner=0.010, length=0.4)
    section = math.pi * (0.012**4 - 0.010**4) / 64
    assert found.load == pytest.approx(8 * 0.4 * 0.006 / section) and found.bears == pytest.approx(400e6 / 1.5)
    lost = 1 - 1 / (1 + 250 * 0.04 * 3.5 * 0.4**2 / (2 * 120e9 * section))
    assert f"{100 * lost:.0f} % of the elevator" in found.words
    assert share("boom", of="boom", size=0.012, inner=0.010, length=0.4, count=2).share == pytest.approx(
        found.share / 2
    )


def test_a_socket_bears_at_its_mouth():
    found = share("socket", of="boom", size=0.012, length=0.06)
    assert found.load == pytest.approx(1.5 * (6 * 8 * 0.4 / 0.06**2 + 4 * 8 / 0.06) / 0.012) and found.bears == 5e6


# -- stronger ---------------------------------------------------------------------------------------------------------

WEAK = (
    ("bands", {"count": 2, "length": 0.01}),
    ("bolts", {"count": 1, "size": 0.003, "hold": None}),
    ("magnets", {"count": 1, "hold": 20.0}),
    ("tongue", {"length": 0.002, "width": 0.005}),
    ("elbow", {"width": 0.01}),
    ("screws", {"of": "mount", "count": 1, "width": 0.004, "hold": 9.0}),
    ("bond", {"of": "tail", "length": 0.01, "width": 0.005}),
    ("prop_bands", {"of": "mount", "count": 1, "hold": 1.5}),
    ("strap", {"of": "pack", "count": 1, "hold": 9.0}),
    ("legs", {"count": 2, "size": 0.001, "length": 0.08}),
    ("boom", {"of": "boom", "size": 0.005, "inner": 0.003, "length": 0.4}),
    ("socket", {"of": "boom", "size": 0.008, "length": 0.015}),
)


@pytest.mark.parametrize(("kind", "fields"), WEAK)
def test_what_gives_is_made_to_hold_with_the_least_more(kind, fields):
    weak = joint(kind, **fields)
    better = stronger(weak, DOING)
    assert better is not None and shares_of(better, DOING)[0].share <= 1
    if shares_of(weak, DOING)[0].share > 1:
        assert better != weak
    assert stronger(better, DOING) == better, "what holds is left alone"
    if kind == "boom":
        assert better.size - better.inner == pytest.approx(weak.size - weak.inner)


def test_what_nothing_usual_would_hold_has_no_way():
    heavy = Doing(**{**DOING.__dict__, "mass": 60.0})
    assert stronger(joint("bands"), heavy) is None


@given(st.sampled_from(WEAK), st.floats(0.05, 20.0))
@settings(max_examples=40, deadline=None)
def test_more_load_never_makes_a_share_smaller(weak, times):
    kind, fields = weak
    more = Doing(
        **{
            **DOING.__dict__,
            "mass": 0.75 * (1 + times),
            "tail": DOING.tail._replace(load=8 * (1 + times)),
            "thrust": 7 * (1 + times),
        }
    )
    one = joint(kind, **fields)
    now, then = (shares_of(one, doing)[0].share for doing in (DOING, more))
    assert math.isfinite(now) and then >= now


# -- the design -------------------------------------------------------------------------------------------------------


@pytest.fixture(scope="module")
def sample():
    return load("demo:whimbrel")


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_is_held_together_by_what_bears(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    assert len(design.fastenings) >= 3
    for one in design.fastenings:
        figure = report.figures[f"structure.joint_share.{one.id}"]
        assert 0 < figure.value <= 1 and figure.sigma > 0 and figure.working.note == one.name
    (told,) = [f for f in report.findings if f.key == "structure.joints"]
    assert told.level == "settled" and f"All {len(design.fastenings)} joints hold" in str(told.text)


def test_the_usual_ones_are_of_the_parts_there_are(sample):
    bare = put(sample, "fastenings", ())
    report = evaluate(bare)
    usual = usual_fastenings(bare, report)
    assert [one.kind for one in usual] == ["bands", "bond", "screws", "strap", "legs", "boom", "socket"]
    known = {p.id for p in (*sample.surfaces, *sample.bodies, *sample.wheels, *sample.parts, *sample.power.mounts)}
    assert {one.of for one in usual} <= known and len({one.id for one in usual}) == len(usual)
    told = next(f for f in report.findings if f.key == "structure.joints")
    assert "not said" in str(told.text)
    assert apply(bare, told.remedies[0].changes).fastenings == usual
    shares = [report.results.fastened.doing and shares_of(one, report.results.fastened.doing)[0].share for one in usual]
    assert max(shares) <= 0.85, "with something to spare for the next gram"


def test_a_heavy_wing_is_bolted(sample):
    heavy = put(put(sample, "fastenings", ()), "loads.factor", 30.0)
    assert usual_fastenings(heavy, evaluate(heavy))[0].kind == "bolts"


def test_a_joint_that_gives_is_told_with_what_makes_it_hold(sample):
    index = next(k for k, one in enumerate(sample.fastenings) if one.kind == "legs")
    weak = put(sample, f"fastenings[{index}].size", 0.002)
    report = evaluate(weak)
    told = next(f for f in report.findings if f.key == f"structure.joint.{sample.fastenings[index].id}")
    assert told.level == "stop" and "what it bears" in str(told.text)
    after = evaluate(apply(weak, told.remedies[0].changes))
    assert after.value(f"structure.joint_share.{sample.fastenings[index].id}") <= 1
    nearly = put(sample, f"fastenings[{index}].size", 0.0023)
    level = next(f.level for f in evaluate(nearly).findings if f.key == told.key)
    assert level == "look"


def test_an_edit_of_a_joint_redoes_the_joints_alone(sample):
    evaluator = Evaluator()
    evaluator(sample)
    before = dict(evaluator.runs)
    evaluator(put(sample, "fastenings[0].count", 20))
    assert {name for name, runs in evaluator.runs.items() if runs > before.get(name, 0)} == {"fastened"}


def test_joints_have_ids_of_their_own_and_what_they_hold_is_referred_to(sample):
    added = put(sample, "fastenings", (*sample.fastenings, Fastening(kind="strap", name="Second strap")))
    assert added.fastenings[-1].id.startswith("j") and len({one.id for one in added.fastenings}) == len(
        added.fastenings
    )
    with pytest.raises(DesignError, match="count"):
        put(sample, "fastenings[0].count", 0)
