"""The transport box: what a part measures, what it comes apart into, and which joint is missing."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, Station, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.consequences import brings
from ridgeline.engine.geometry.transport import Load, joints_for, loads_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.units import SYSTEMS


def wing(joint="off", half=0.6, middle=None):
    stations = [Station(y=0.0, chord=0.2), Station(y=half, chord=0.1)]
    if middle is not None:
        stations.insert(1, Station(y=middle, chord=0.2))
    return Surface(name="Wing", role="wing", thickness=0.02, joint=joint, stations=tuple(stations))


def body(joint="off"):
    rows = ((0.0, 0.06), (0.9, 0.08))
    return Body(name="Body", joint=joint, stations=tuple(BodyStation(x=x, width=w, height=0.07) for x, w in rows))


def sides(load):
    return tuple(sorted(load.sides, reverse=True))


def test_a_wing_is_carried_whole_in_halves_or_in_panels():
    (whole,) = loads_of({"w": wing()})
    assert sides(whole) == pytest.approx((1.2, 0.2, 0.02)) and whole.pieces == 1
    (half,) = loads_of({"w": wing("halves")})
    assert sides(half) == pytest.approx((0.6, 0.2, 0.02)) and half.pieces == 2
    inner, outer = loads_of({"w": wing("panels", middle=0.25)})
    assert sides(inner) == pytest.approx((0.25, 0.2, 0.02)) and inner.pieces == 2
    assert sides(outer) == pytest.approx((0.35, 0.2, 0.02))


def test_what_stays_on_is_carried_together():
    (both,) = loads_of({"w": wing("fixed"), "b": body("fixed")})
    assert sides(both) == pytest.approx((1.2, 0.9, 0.07), abs=0.02) and both.path == ""
    (alone, off) = loads_of({"w": wing("off"), "b": body("fixed")})
    assert alone.name == "Body" and sides(alone) == pytest.approx((0.9, 0.08, 0.07)) and off.name == "Wing"
    (half,) = loads_of({"b": body("halves")})
    assert sides(half) == pytest.approx((0.45, 0.08, 0.07)) and half.pieces == 2


def test_joints_are_those_a_part_can_have():
    assert joints_for(body()) == ("fixed", "off", "halves")
    assert joints_for(wing()) == ("fixed", "off", "halves")
    assert joints_for(wing(middle=0.3)) == ("fixed", "off", "halves", "panels")
    assert "halves" not in joints_for(wing().model_copy(update={"mirrored": False}))


@given(st.permutations([0.3, 0.2, 0.1]), st.permutations([0.31, 0.21, 0.11]))
def test_a_piece_goes_in_whichever_way_it_is_turned(piece, box):
    assert Load("x", "", tuple(piece)).fits(tuple(box))
    assert not Load("x", "", (*piece[:2], piece[2] + 0.25)).fits(tuple(box))


def boxed(design, *box):
    return apply(design, [Change(f"brief.box_{n}", v) for n, v in zip(("length", "width", "height"), box, strict=True)])


def told(report):
    return next((f for f in report.findings if f.key == "brief.box"), None)


def words(phrase):
    return phrase.render(SYSTEMS["metric"])


def test_without_a_whole_box_nothing_is_said(whimbrel):
    assert told(evaluate(whimbrel)) is None
    assert told(evaluate(apply(whimbrel, [Change("brief.box_length", 0.5)]))) is None


def test_missing_joints_are_named_and_make_it_go_in(whimbrel):
    design = boxed(whimbrel, 1.0, 0.35, 0.25)
    before = evaluate(design)
    found = told(before)
    assert found.level == "look" and "1000 × 350 × 250 mm" in words(found.text)
    assert "Wing" in words(found.reason)
    (remedy,) = found.remedies
    after = evaluate(apply(design, remedy.changes))
    assert told(after).level == "settled" and "pieces go into the box" in words(told(after).text)
    assert not [f for f in brings(before, after) if f.level == "stop"]
    # No more joints than it takes: taking one back leaves something outside.
    for k in range(len(remedy.changes)):
        fewer = apply(design, [*remedy.changes[:k], *remedy.changes[k + 1 :]])
        assert told(evaluate(fewer)).level == "look"


def test_a_box_that_no_joint_makes_do_says_so(whimbrel):
    found = told(evaluate(boxed(whimbrel, 0.3, 0.1, 0.1)))
    assert found.level == "look" and found.remedies == () and "no joint" in words(found.reason)


def test_a_large_box_takes_it_as_it_is(whimbrel):
    found = told(evaluate(boxed(whimbrel, 2.0, 1.5, 1.0)))
    assert found.level == "settled" and words(found.text).startswith("In one piece")


def test_dihedral_makes_a_whole_wing_taller():
    raised = wing().model_copy(update={"stations": (Station(y=0.0, chord=0.2), Station(y=0.6, chord=0.1, z=0.1))})
    (load,) = loads_of({"w": raised})
    assert load.sides[2] == pytest.approx(0.1 + 0.02) and not math.isclose(load.sides[2], 0.02)


def test_an_empty_design_has_nothing_to_pack():
    assert told(evaluate(boxed(Design(), 1.0, 0.3, 0.2))) is None
