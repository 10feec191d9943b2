"""What an item hangs on is chosen and typed in its dimensions; wings dragged on the views carry what hangs on them."""

import pytest
from PySide6.QtWidgets import QApplication

from conftest import drag, type_into
from ridgeline.design.paths import get


@pytest.fixture
def servos(desk):
    """The aileron servos, chosen on the Weights."""
    desk.open_sheet("weights")
    index = next(k for k, p in enumerate(desk.store.design.parts) if p.servo is not None and p.mirrored)
    desk.store.select(f"parts[{index}]")
    QApplication.processEvents()
    return desk, index


def test_a_place_on_the_wing_is_typed_as_a_share_of_its_chord(servos):
    desk, index = servos
    before = desk.store.design.parts[index]
    type_into(desk.margin.dimensions.fields[f"parts[{index}].on.share"], "60")
    after = desk.store.design.parts[index]
    assert after.on.share == pytest.approx(0.60) and after.x > before.x and after.y == before.y
    type_into(desk.margin.dimensions.fields[f"parts[{index}].x"], "300")
    moved = desk.store.design.parts[index]
    assert moved.x == pytest.approx(0.3) and moved.on.share != after.on.share
    desk.store.undo()
    assert desk.store.design.parts[index] == after


def test_what_it_hangs_on_is_chosen_and_it_stays_where_it_lies(servos):
    desk, index = servos
    before = desk.store.design.parts[index]
    row = desk.margin.dimensions.words["Hangs on"]
    row.choose(desk.store.design.bodies[0].id)
    hung = desk.store.design.parts[index]
    assert hung.on.to == desk.store.design.bodies[0].id
    assert (hung.x, hung.y, hung.z) == pytest.approx((before.x, before.y, before.z), abs=1e-9)
    assert f"parts[{index}].on.back" in desk.margin.dimensions.fields
    desk.margin.dimensions.words["Hangs on"].choose("")
    assert desk.store.design.parts[index].on is None
    desk.grab()


def test_one_a_pair_or_two_at_one_side_is_one_switch(servos):
    desk, index = servos
    row = desk.margin.dimensions.words["Sides"]
    for word, (count, mirrored) in {"one": (1, False), "pair": (2, True), "same": (2, False)}.items():
        row.choose(word)
        part = desk.store.design.parts[index]
        assert (part.count, part.mirrored) == (count, mirrored)
        row = desk.margin.dimensions.words["Sides"]


def test_a_wing_dragged_by_its_root_carries_its_servos_and_spar(desk):
    desk.open_sheet("shape")
    store, wing = desk.store, desk.store.design.surfaces[0]
    mine = [k for k, p in enumerate(store.design.parts) if p.on is not None and p.on.to == wing.id]
    before = store.design
    drag(desk.sheet.handles["root", 0], 30, 0)
    move = store.design.surfaces[0].x - wing.x
    assert move > 0.01
    for k, (now, was) in enumerate(zip(store.design.parts, before.parts, strict=True)):
        assert now.x - was.x == pytest.approx(move if k in mine else 0.0, abs=1e-9)
    store.undo()
    assert store.design == before


def test_the_turn_and_the_hand_of_a_motor_are_chosen(desk):
    desk.open_sheet("power.wash")
    words = desk.margin.dimensions.words
    words["Turns, seen from behind"].choose("anticlockwise")
    assert get(desk.store.design, "power.mounts[0].clockwise") is False
    assert any(f.key == "power.hand.0" for f in desk.store.report.findings)
    desk.margin.dimensions.words["Propeller"].choose("left")
    assert not any(f.key == "power.hand.0" for f in desk.store.report.findings)
    desk.grab()
