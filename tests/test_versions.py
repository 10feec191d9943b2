"""Versions of an aircraft: kept as what changed, looked at again, compared, gone back to; nothing is lost by it."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight
from ridgeline.design.keeping import at, back_to, counted, is_kept, keep, same_aircraft, shared
from ridgeline.design.patches import patched, plain_difference
from ridgeline.design.paths import REMOVE, apply, put
from ridgeline.design.paths import Change as Edit
from ridgeline.design.underlay import Underlay
from ridgeline.engine.advice.two_versions import differences
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text

PLAIN = st.recursive(
    st.none() | st.booleans() | st.integers(-9, 9) | st.text("abc", max_size=2),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.sampled_from("abcd"), inner, max_size=4),
    max_leaves=14,
)
RECORD = st.lists(st.dictionaries(st.sampled_from("abc"), st.integers(0, 3), max_size=3), max_size=5)


def edited(design: Design, path: str, value: Any) -> Design:
    return counted(design, put(design, path, value))


@given(
    st.dictionaries(st.sampled_from("abcde"), PLAIN | RECORD), st.dictionaries(st.sampled_from("abcde"), PLAIN | RECORD)
)
@settings(max_examples=200)
def test_what_changed_turns_one_plain_text_into_the_other(before, after):
    changed = json.loads(json.dumps(plain_difference(before, after)))
    assert patched(json.loads(json.dumps(before)), changed) == after


@pytest.fixture(scope="module")
def grown() -> tuple[Design, list[Design]]:
    """The sample, and what it was at each of five versions: dragged, part added, part gone, renamed, redrawn."""
    design = load("demo:whimbrel").model_copy(update={"revision": 1})
    kept, states = design, []
    for edits in (
        (),
        (Edit("surfaces[0].stations[1].chord", 0.16),),
        (Edit("parts[-]", {"name": "Camera", "group": "payload", "estimate": 0.03, "x": 0.2}),),
        (Edit("parts[2]", REMOVE),),
        (Edit("power.pack.capacity_ah", 1.3), Edit("surfaces[1].name", "Tail")),
    ):
        kept = keep(counted(kept, apply(kept, edits)), name=f"{len(states)}", day="2026-11-27")
        states.append(kept)
    return kept, states


def test_every_version_comes_back_as_it_was(grown):
    last, states = grown
    assert [version.number for version in last.versions] == [1, 2, 3, 4, 5]
    for number, state in enumerate(states, 1):
        assert same_aircraft(at(last, number), state)
        assert at(last, number).revision == number


def test_what_is_the_same_in_a_version_is_the_same_object(grown):
    last, _states = grown
    then = at(last, 4)
    assert then.bodies is last.bodies and then.linkages is last.linkages and then.surfaces[0] is last.surfaces[0]
    assert then.surfaces[1] is not last.surfaces[1]
    assert shared(load("demo:whimbrel"), load("demo:whimbrel")) is not None


def test_versions_come_back_from_the_file_with_all_they_hold(grown):
    last, _states = grown
    again = from_text(to_text(last), "x")
    assert again == last and to_text(again) == to_text(last)


def test_two_hundred_versions_of_the_sample_take_less_than_three_megabytes():
    design = load("demo:whimbrel").model_copy(update={"revision": 1})
    for k in range(200):
        design = keep(edited(design, f"surfaces[{k % 2}].stations[1].chord", 0.12 + 2e-4 * k), name=f"v{k}")
    text = to_text(design)
    assert len(design.versions) == 200 and len(text.encode()) < 3_000_000
    assert same_aircraft(at(from_text(text, "x"), 200), design)


def test_the_revision_counts_only_edits_of_an_aircraft_that_was_kept():
    design = load("demo:whimbrel").model_copy(update={"revision": 1})
    assert edited(design, "surfaces[0].stations[1].chord", 0.16).revision == 1
    kept = keep(design)
    assert is_kept(kept) and kept.revision == 1
    assert edited(kept, "note", "words are no change").revision == 1
    assert edited(kept, "flights[-]", {"aloft": 60.0}).revision == 1
    twice = edited(edited(kept, "surfaces[0].stations[1].chord", 0.16), "surfaces[0].stations[1].chord", 0.17)
    assert twice.revision == 2 and not is_kept(twice)
    assert keep(kept) is kept
    assert keep(twice).revision == 2


def test_going_back_keeps_what_is_left_and_every_flight():
    design = keep(load("demo:whimbrel").model_copy(update={"revision": 1}), name="first")
    flown = put(design, "flights[-]", {"aloft": 240.0, "put_back_ah": 0.4})
    later = edited(flown, "surfaces[0].stations[1].chord", 0.16)
    back = back_to(later, 1, day="2026-11-27")
    assert same_aircraft(back, design) and back.flights == later.flights
    assert [version.number for version in back.versions] == [1, 2] and back.revision == 3
    assert back.versions[-1].kept == "left"
    assert same_aircraft(at(back, 2), later)


def test_going_back_carries_what_was_weighed_of_the_same_part_and_of_no_other():
    design = keep(load("demo:whimbrel").model_copy(update={"revision": 1}))
    servo, board = (
        next(k for k, item in enumerate(design.parts) if (item.servo is None) == plain and bool(item.build) == plain)
        for plain in (False, True)
    )
    later = edited(design, f"parts[{servo}].weighed", 0.0111)
    later = edited(later, f"parts[{board}].weighed", 0.2)
    back = back_to(later, 1)
    assert back.parts[servo].weighed == 0.0111 and back.parts[board].weighed == 0.2
    # Built of another board it is another part to a scale.
    build = design.parts[board].build.model_copy(update={"material": "another"})
    other = back_to(edited(later, f"parts[{board}].build", build), 1)
    assert other.parts[board].weighed is None and other.parts[servo].weighed == 0.0111


def test_a_measured_motor_goes_along_and_another_one_does_not():
    design = keep(load("demo:whimbrel").model_copy(update={"revision": 1}))
    rows = ({"throttle": 1.0, "voltage": 11.1, "current": 9.0}, {"throttle": 0.5, "voltage": 11.6, "current": 3.0})
    motor = design.power.motor.model_copy(update={"kv_rpm_per_v": 1111.0, "stated_kv": design.power.motor.kv_rpm_per_v})
    later = apply(design, [Edit("power.motor", motor), *(Edit("power.bench[-]", row) for row in rows)])
    back = back_to(counted(design, later), 1)
    assert back.power.motor.kv_rpm_per_v == 1111.0 and len(back.power.bench) == 2
    heavier = back_to(counted(design, put(later, "power.motor.mass", 0.09)), 1)
    assert heavier.power == design.power


PICTURE = "iVBORw0KGgo" + "A" * 4000


def test_a_picture_of_many_versions_is_stored_once():
    design = load("demo:whimbrel").model_copy(update={"revision": 1})
    design = put(design, "underlays", (Underlay(name="plan", picture=PICTURE),))
    for k in range(5):
        design = keep(edited(design, "surfaces[0].stations[1].chord", 0.15 + 0.001 * k))
    text = to_text(design)
    assert text.count(PICTURE) == 1
    assert from_text(text, "x") == design
    bare = edited(design, "underlays[0]", REMOVE)
    text = to_text(bare)
    assert text.count(PICTURE) == 1
    assert at(from_text(text, "x"), 3).underlays[0].picture == PICTURE


def test_versions_that_cannot_be_read_say_so_and_leave_the_rest_alone(grown):
    last, _states = grown
    with pytest.raises(DesignError, match="one of those kept: 1, 2, 3, 4, 5"):
        at(last, 9)
    broken = last.model_copy(
        update={"versions": (last.versions[0], last.versions[1].model_copy(update={"changed": '[[["nowhere",3],1]]'}))}
    )
    assert same_aircraft(at(broken, 1), at(last, 1))
    with pytest.raises(DesignError, match="do not fit"):
        at(broken, 2)
    text = to_text(last)
    with pytest.raises(DesignError, match="order of their numbers"):
        from_text(text.replace('"number": 2,', '"number": 7,', 1), "x")
    with pytest.raises(DesignError, match="at least 5"):
        from_text(text.replace('"revision": 5', '"revision": 4', 1), "x")


def test_the_moves_of_all_items_are_the_move_of_the_balance_point(grown):
    _last, states = grown
    for one, other in ((states[0], states[2]), (states[1], states[4]), (states[4], states[0])):
        report, after = evaluate(one), evaluate(other)
        found = differences(one, report, other, after)
        state, then = report.results.masses.state, after.results.masses.state
        # What moved by less than is told is left out: a thousandth of a millimetre each.
        assert found.moved == pytest.approx(float(then.cg[0] - state.cg[0]), abs=5e-5)
        assert found.gained == pytest.approx(then.mass - state.mass, abs=2e-4)


def test_only_what_differs_is_told_of_two_versions(grown):
    _last, states = grown
    report = evaluate(states[0])
    same = differences(states[0], report, states[0], report)
    assert same.figures == () and same.shifts == () and same.parts == () and same.built == ()
    found = differences(states[0], report, states[1], report.trial()(states[1]))
    told = {pair.key for pair in found.figures}
    assert {"wing.area", "wing.loading", "speed.stall"} <= told and "power.static_thrust" not in told
    gone = differences(states[2], evaluate(states[2]), states[3], evaluate(states[3]))
    lost = states[2].parts[2]
    assert next(shift for shift in gone.shifts if shift.ident == lost.id).after == 0.0


def test_comparing_costs_only_what_differs(grown):
    last, _states = grown
    evaluator = Evaluator()
    evaluator(last)
    before = evaluator.runs.copy()
    evaluator(at(last, 4))
    assert evaluator.runs["lattice"] == before["lattice"] + 1
    evaluator(at(last, 5))
    runs = evaluator.runs.copy()
    evaluator(last)
    assert evaluator.runs == runs


def test_a_flight_keeps_its_number_whatever_comes_before_it():
    design = load("demo:whimbrel")
    for _k in range(3):
        design = put(design, "flights[-]", Flight(aloft=60.0))
    assert [flight.id for flight in design.flights] == ["t1", "t2", "t3"]
    fewer = put(put(design, "flights[0]", REMOVE), "flights[-]", Flight(aloft=60.0))
    assert [flight.id for flight in fewer.flights] == ["t2", "t3", "t4"]
