"""Items picked from library and bin: each brings its mass, its kind and its group, and is in the menu once."""

import pytest
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication

from ridgeline.desk.item_picks import add_picked, picking_menu, shelves
from ridgeline.engine.weights.items import estimate_of
from ridgeline.files.own_bin import OwnBin, save_bin
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


def kinds(desk):
    return {shelf.words: shelf.picks for shelf in shelves(desk.store)}


def test_every_kind_can_be_picked(desk):
    found = kinds(desk)
    wanted = {"Servo", "Receiver", "ESC or supply", "Pack, beside the power train's", "Spar, rod or tube", "Wheel"}
    assert wanted | {"Control horn", "Skid, hook", "Payload"} <= set(found)
    assert all(picks for picks in found.values())
    assert len(found["Servo"]) == len(SHELF.servos)
    for picks in found.values():
        assert len({pick.words for pick in picks}) == len(picks)


@pytest.mark.parametrize(
    ("kind", "name", "group", "grams"),
    [
        ("Servo", "Servo 9 g", "radio", 9.0),
        ("Receiver", "Receiver, micro, 4 channels", "radio", 2.5),
        ("Wheel", "Wheel, light, 50 mm", "gear", 7.0),
        ("Spar, rod or tube", "Carbon tube 6/4 mm", "structure", 12.15),
        ("Pack, beside the power train's", "Pack 2S 450", "battery", None),
    ],
)
def test_what_is_picked_weighs_and_counts_to_what_it_is(desk, kind, name, group, grams):
    store = desk.store
    item = next(pick.item for pick in kinds(desk)[kind] if pick.item.name == name)
    assert add_picked(store, item)
    made = store.design.parts[-1]
    assert (made.name, made.group) == (name, group) and store.spot("item").index == len(store.design.parts) - 1
    mass = float(store.report.results.masses.items.mass[-1])
    if grams is not None:
        assert mass == pytest.approx(grams / 1000, rel=2e-3)
    else:
        assert mass == pytest.approx(next(p for p in SHELF.packs if p.name == "2S 450").mass)
    # It stands at the balance, so that nothing moves by it.
    assert made.x == pytest.approx(float(store.report.results.masses.state.cg[0]), abs=2e-3)
    assert add_picked(store, item) and store.design.parts[-1].name == f"{name} 2"


def test_a_servo_is_known_as_one(desk):
    item = next(pick.item for pick in kinds(desk)["Servo"] if pick.item.name == "Servo 9 g")
    add_picked(desk.store, item)
    made = desk.store.design.parts[-1]
    assert made.servo.stall_torque == pytest.approx(0.15) and estimate_of(made, None) == pytest.approx(0.009)


def test_packs_of_the_bin_are_in_the_menu_and_marked(desk, whimbrel):
    save_bin(OwnBin(packs=(whimbrel.power.pack.model_copy(update={"name": "Old faithful"}),)))
    words = [pick.words for pick in kinds(desk)["Pack, beside the power train's"]]
    assert words[0].startswith("Pack Old faithful") and words[0].endswith("(bin)")


def test_the_menu_adds_by_a_press(desk):
    desk.open_sheet("weights")
    sheet = desk.sheet
    menu = picking_menu(sheet, desk.store, sheet.add_item, sheet._show_added)
    action = next(a for a in menu.findChildren(QAction) if a.text().startswith("Wheel, light, 40 mm"))
    count = len(desk.store.design.parts)
    action.trigger()
    QApplication.processEvents()
    assert len(desk.store.design.parts) == count + 1
    assert sheet.table.currentIndex().row() == count


@pytest.mark.parametrize("words", ["Skid", "Tow hook"])
def test_a_skid_and_a_hook_hang_under_the_belly(desk, words):
    action = next(a for a in desk.bar.menus.findChildren(QAction) if a.text() == words)
    action.trigger()
    QApplication.processEvents()
    design = desk.store.design
    made, body = design.parts[-1], design.bodies[0]
    assert made.name == words and made.on.to == body.id
    near = min(body.sections, key=lambda s: abs(s.x - made.x))
    assert made.z < near.z - 0.5 * near.height + 0.02
    if words == "Tow hook":
        assert made.x < float(desk.store.report.results.masses.state.cg[0])
