"""What holds the aircraft together: each law by hand, what makes it hold, the usual ones, and their findings."""

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.fastening import Fastening
from ridgeline.design.paths import apply, put
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.sizing.held_together import usual_fastenings, usual_sizes
from ridgeline.engine.structure.fastened import shares_of, stronger
from ridgeline.engine.structure.fastening_laws import NOSE_OVER, Doing, Motor, Plate, Pull, Tail
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names, shipped_shelf

G = 9.80665
#: 750 g with a wing of 200 g, 4 g, a 7 N motor of 60 g, a pack of 180 g; 8 N on the tail.
DOING = Doing(
    4.0, 0.75, 7.1, Motor(7.0, 0.2, 30.0, 2, 0.12), Tail(8.0, 0.04, 3.5, 250.0),
    lambda ident: {"wing": 0.2, "mount": 0.06, "pack": 0.18}.get(ident, 0.0),
    lambda ident: {"mount": 0.03, "boom": 0.4}.get(ident, 0.0),
    lambda _ident, _out: 0.5,
    lambda _ident, out: 0.012 - out / 170,
    lambda ident: {"servo": 0.15}.get(ident, 0.0),
    lambda ident, out, force: Plate(force * out, 2.0, 0.004) if ident == "tail" else None,
    lambda one: Pull(40.0, 12.0, 0.4) if one.of == "wing" else None,
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
    motor = next(s for s in shares_of(joint("bond", of="mount", length=0.03, width=0.03), DOING)
                 if s.quantity == "stress")  # fmt: skip
    assert motor.load == pytest.approx(1.5 * 7.0 / 9e-4) and "thrust" in motor.acts


def test_straps_hold_ten_g_and_propeller_bands_the_thrust():
    assert share("strap", of="pack", count=1).share == pytest.approx(10 * 0.18 * G / 60)
    assert share("prop_bands", of="mount", count=2).share == pytest.approx(7.0 / (2 * 2 * 3.5))


def test_legs_bend_by_their_reach_and_say_at_which_sink_for_good():
    found = share("legs", count=2, size=0.003, length=0.06)
    force = 7.1 * 0.75 * G / 2
    assert found.load == pytest.approx(32 * force * 0.06 / (math.pi * 0.003**3)) and found.bears == 1200e6
    volume = 2 * math.pi / 4 * 0.003**2 * 0.06
    sink = math.sqrt(2 * 1200e6**2 * volume / (24 * 200e9) / 0.75)
    assert f"{sink:.1f} m/s" in str(found.words)


def test_a_boom_bends_by_the_tail_and_loses_elevator():
    found = share("boom", of="boom", size=0.012, inner=0.010, length=0.4)
    section = math.pi * (0.012**4 - 0.010**4) / 64
    assert found.load == pytest.approx(8 * 0.4 * 0.006 / section) and found.bears == pytest.approx(400e6 / 1.5)
    lost = 1 - 1 / (1 + 250 * 0.04 * 3.5 * 0.4**2 / (2 * 120e9 * section))
    assert f"{100 * lost:.0f} % of the elevator" in str(found.words)
    assert share("boom", of="boom", size=0.012, inner=0.010, length=0.4, count=2).share == pytest.approx(
        found.share / 2
    )


def test_a_socket_bears_at_its_mouth():
    found = share("socket", of="boom", size=0.012, length=0.06)
    assert found.load == pytest.approx(1.5 * (6 * 8 * 0.4 / 0.06**2 + 4 * 8 / 0.06) / 0.012) and found.bears == 5e6


def test_a_firewall_gives_at_its_glue_in_its_plate_or_by_heat():
    plate = joint("firewall", of="mount", length=0.04, width=0.005, sheet=0.003)
    rows = {s.acts.split(":")[0]: s for s in shares_of(plate, DOING)}
    over, edge = 10 * 0.06 * G, 0.04 * 0.005
    moment = over * 0.5 * 0.03
    shear = max(7.0, over) / (4 * edge) + moment / (edge * 0.04) + 0.2 / (4 * edge * 0.02)
    assert rows["its glued edge"].load == pytest.approx(1.5 * shear) and rows["its glued edge"].bears == 0.12e6
    # Roark's square plate held all round, loaded in its middle.
    assert rows["the plate itself"].load == pytest.approx(1.5 * 0.7542 * 7.0 / 0.003**2)
    assert rows["the plate itself"].bears == 40e6
    assert rows["the motor's heat after half a minute of full throttle"].share == pytest.approx(0.6 * 30 / (60 - 20))


def test_a_motors_heat_is_held_against_what_its_mount_softens_at():
    plain = shares_of(joint("screws", of="mount", count=4, width=0.02), DOING)
    assert all(s.quantity != "temperature_rise" for s in plain), "ply does not soften"
    printed = shares_of(joint("screws", of="mount", count=4, width=0.02, softens_c=55.0), DOING)
    warm = next(s for s in printed if s.quantity == "temperature_rise")
    assert warm.share == pytest.approx(0.6 * 30 / 35)
    glued = shares_of(joint("bond", of="mount", length=0.03, width=0.03), DOING)
    assert any(s.quantity == "temperature_rise" for s in glued)
    assert len(shares_of(joint("bond", of="tail"), DOING)) == 1, "no motor, no heat"


def test_a_blades_stop_is_pushed_by_its_thrust():
    found = share("blade_stop", of="mount", size=0.002, length=0.006)
    force = 7.0 / 2 * 0.7 * 0.12 / 0.006
    assert found.load == pytest.approx(1.5 * force / (math.pi / 4 * 0.002**2)) and found.bears == 300e6


def test_a_skid_presses_on_its_foam_and_a_servo_pulls_on_its_seat():
    skid = share("skid", length=0.1, width=0.02)
    assert skid.load == pytest.approx(7.1 * 0.75 * G / 0.002) and skid.bears == 0.16e6
    seat = share("servo_seat", of="servo", length=0.022, width=0.012)
    assert seat.load == pytest.approx(1.5 * 0.15 / 0.008 / (0.022 * 0.012)) and seat.bears == 0.12e6


def test_lines_bend_a_tail_and_say_by_how_much():
    found = share("lines", of="tail", hold=4.0, out=0.05)
    assert found.share == pytest.approx(4.0 * 0.05 / 2.0) and "4.0 mm" in str(found.words)
    assert share("lines", of="nobody").load == 0
    assert share("lines", of="tail", out=0.05).load == pytest.approx(3.0 * 0.05)


def test_a_launch_by_the_tip_pulls_seats_along_the_span():
    swung = Doing(**{**DOING.__dict__, "swing": 31.0})
    side = 1.5 * 31 * (0.75 - 0.2) * G
    rows = {kind: next(s for s in shares_of(joint(kind, **fields), swung) if "wing tip" in s.acts)
            for kind, fields in (("bolts", {"count": 2, "size": 0.005}), ("bands", {"count": 8, "angle": 0.61}),
                                 ("magnets", {"count": 4, "hold": 40.0}), ("elbow", {"width": 0.1}))}  # fmt: skip
    assert all(row.load == pytest.approx(side) for row in rows.values())
    assert rows["bolts"].bears == pytest.approx(0.58 * 2 * 360)
    assert rows["bands"].bears == pytest.approx(0.5 * 2 * 8 * 3.5 * math.sin(0.61))
    assert rows["magnets"].bears == pytest.approx(0.5 * 4 * 12) and rows["elbow"].bears == pytest.approx(4000 * 0.1)


def test_a_strut_that_holds_nothing_says_so():
    assert "holds nothing" in str(share("strut", of="tail").words)
    rows = {s.acts: s for s in shares_of(joint("strut", size=0.004, length=0.03, width=0.02), DOING)}
    assert rows["pushed, the worst of all cases"].load == 12 and len(rows) == 3
    assert len(shares_of(joint("thread", size=0.001), DOING)) == 2
    area = math.pi / 4 * 0.001**2
    assert share("thread", size=0.001, length=0.2).bears == pytest.approx(area * 400e6 / 1.5)


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
    ("firewall", {"of": "mount", "length": 0.03, "width": 0.002, "sheet": 0.0005}),
    ("blade_stop", {"of": "mount", "size": 0.0005, "length": 0.004}),
    ("skid", {"length": 0.02, "width": 0.01}),
    ("servo_seat", {"of": "servo", "length": 0.01, "width": 0.008}),
    ("strut", {"size": 0.0008, "length": 0.01, "width": 0.01}),
    ("thread", {"size": 0.0003, "length": 0.01, "width": 0.01}),
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
            "motor": DOING.motor._replace(thrust=7 * (1 + times), torque=0.2 * (1 + times)),
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


@pytest.mark.parametrize(("over", "level"), [(0.99, None), (1.05, "look"), (1.45, "look"), (1.55, "stop")])
def test_a_joint_past_what_it_bears_is_a_look_and_past_its_reserve_a_stop(sample, over, level):
    index, held = _strap(sample, over)
    told = {f.key: f.level for f in evaluate(held).findings}
    assert told.get(f"structure.joint.{held.fastenings[index].id}") == level


def _strap(sample, share, count=1):
    """Return the sample with straps that hold ten weights of the pack at a share, and which they are."""
    index = next(k for k, one in enumerate(sample.fastenings) if one.kind == "strap")
    doing = evaluate(sample).results.fastened.doing
    load = 10 * doing.masses(sample.fastenings[index].of) * G
    held = put(sample, f"fastenings[{index}].count", 1)
    return index, put(held, f"fastenings[{index}].hold", load / (share * count))


@pytest.mark.parametrize(("share", "count"), [(0.96, 2), (0.98, 3)])
def test_what_makes_a_joint_hold_leaves_room_for_the_next_gram(sample, share, count):
    # Two straps would come to that share of what they bear.
    index, weak = _strap(sample, share, 2)
    told = next(f for f in evaluate(weak).findings if f.key == f"structure.joint.{weak.fastenings[index].id}")
    assert apply(weak, told.remedies[0].changes).fastenings[index].count == count


def _usual_at(design, mass):
    """Return the usual fastenings of a design as if it weighed so much, one g of load asked of it."""
    report = evaluate(design)
    held = report.results.fastened
    doing = replace(held.doing, mass=mass, factor=1.0, landing=1.0)
    return usual_fastenings(
        design, replace(report, results=replace(report.results, fastened=replace(held, doing=doing)))
    )


@pytest.mark.parametrize(("mass", "kind"), [(1.9, "bands"), (2.1, "bolts")])
def test_wings_of_foam_are_held_by_bands_up_to_two_kilograms(sample, mass, kind):
    assert _usual_at(put(sample, "fastenings", ()), mass)[0].kind == kind


@pytest.mark.parametrize(
    ("mass", "size"), [(0.1, 0.0015), (0.35, 0.0025), (0.95, 0.0025), (1.1, 0.003), (2.9, 0.003), (3.1, 0.005)]
)
def test_legs_begin_with_the_wire_of_their_weight(sample, mass, size):
    # Short legs, so that none has to grow.
    short = put(put(sample, "fastenings", ()), "wheels[0].y", 0.045)
    legs = next(one for one in _usual_at(short, mass) if one.kind == "legs")
    assert legs.size == size


def test_a_printed_mount_knows_at_what_it_softens_and_is_offered_a_plastic_that_stands():
    design = load("demo:dunlin")
    bare = put(design, "fastenings", ())
    report = Evaluator(stock=shipped_shelf)(bare)
    index, screws = next((k, o) for k, o in enumerate(usual_fastenings(bare, report)) if o.kind == "screws")
    assert screws.softens_c == 55.0 and index >= 0
    fixed = put(bare, "fastenings", (screws,))
    hot = put(fixed, "brief.temperature_c", 38.0)
    told = next(f for f in Evaluator(stock=shipped_shelf)(hot).findings if f.key == f"structure.joint.{screws.id}")
    assert told.level == "look" and "heat" in str(told.reason)
    (way,) = told.remedies
    after = Evaluator(stock=shipped_shelf)(apply(hot, way.changes))
    assert "PETG" in str(way.text) and after.value(f"structure.joint_share.{screws.id}") <= 0.97


def test_a_brace_begins_half_way_out_on_the_body_or_the_wing_below(sample):
    wing = sample.surfaces[0]
    sizes = usual_sizes(sample, "strut", wing.id)
    assert sizes["out"] == pytest.approx(0.5 * wing.stations[-1].y) and sizes["to"] == sample.bodies[0].id
    assert usual_sizes(sample, "thread", wing.id)["size"] == 0.0005 and usual_sizes(sample, "bolts", wing.id) == {}
    two = load("demo:turnstone")
    upper = next(s for s in two.surfaces if s.name == "Upper wing")
    below = next(s for s in two.surfaces if s.name == "Lower wing")
    found = usual_sizes(two, "strut", upper.id)
    assert found["to"] == below.id and found["foot"] == found["out"]


def test_an_edit_of_a_joint_redoes_the_joints_alone(sample):
    evaluator = Evaluator()
    evaluator(sample)
    before = dict(evaluator.runs)
    evaluator(put(sample, "fastenings[0].count", 20))
    assert {name for name, runs in evaluator.runs.items() if runs > before.get(name, 0)} == {"bracing", "fastened"}


def test_joints_have_ids_of_their_own_and_what_they_hold_is_referred_to(sample):
    added = put(sample, "fastenings", (*sample.fastenings, Fastening(kind="strap", name="Second strap")))
    assert added.fastenings[-1].id.startswith("j") and len({one.id for one in added.fastenings}) == len(
        added.fastenings
    )
    with pytest.raises(DesignError, match="count"):
        put(sample, "fastenings[0].count", 0)
