"""The scale, the packs and the levers used by hand."""

import pytest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
from ridgeline.library import demo_names

LEAVES = ("weights.weigh", "balance.packs", "balance.levers")


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("key", LEAVES)
def test_each_leaf_paints_every_demo_small_and_large(open_window, name, key):
    window = open_window(load(f"demo:{name}"), first=key, size=(1100, 700))
    window.grab()
    window.resize(1920, 1080)
    QApplication.processEvents()
    assert not window.grab().isNull()


@pytest.mark.parametrize("key", LEAVES)
def test_each_leaf_paints_an_empty_design(open_window, key):
    assert not open_window(first=key).grab().isNull()


def test_a_weigh_session_walks_through_what_is_not_weighed_yet(desk):
    desk.open_sheet("weights.weigh")
    sheet = desk.sheet
    open_ones = [i for i, part in enumerate(desk.store.design.parts) if part.weighed is None]
    assert sheet.part_index == open_ones[0]
    for index in open_ones:
        assert sheet.part_index == index
        sheet.settle()
        shown = sheet.reading.mass
        press(sheet.take_button)
        part = desk.store.design.parts[index]
        assert part.weighed == pytest.approx(shown / part.count, abs=2e-3)
    assert all(part.weighed is not None for part in desk.store.design.parts)
    before = desk.store.report.figures["mass.auw"].sigma
    desk.grab()
    for _ in open_ones:
        desk.store.undo()
    assert desk.store.report.figures["mass.auw"].sigma > 3 * before


def test_an_item_is_skipped_gone_back_to_and_typed_instead(desk):
    desk.open_sheet("weights.weigh")
    sheet = desk.sheet
    first = sheet.part_index
    press(sheet.skip_button)
    assert sheet.part_index != first
    while sheet.part_index != first:
        press(sheet.back_button)
    type_into(sheet._typed, "2 oz")
    assert desk.store.design.parts[first].weighed == pytest.approx(0.0567, abs=1e-4)
    press(sheet.step_button)
    assert sheet.scale_device.step == pytest.approx(0.005)
    press(sheet.tare_button)
    sheet.settle()
    assert sheet.reading.steady


def test_a_pack_of_the_bin_shows_its_ghost_and_is_fitted_by_a_press(desk):
    desk.open_sheet("balance.packs")
    sheet = desk.sheet
    option = next(o for o in sheet.options if o.pack.name == "3S 1800")
    button = sheet.buttons[sheet.options.index(option)]
    button.rested.emit(True)
    assert desk.store.ghost[1].value("mass.auw") == pytest.approx(option.mass)
    desk.grab()
    press(button)
    assert desk.store.design.power.pack.name == "3S 1800"
    assert desk.store.report.value("balance.cg_fraction") == pytest.approx(option.balance)
    desk.store.undo()
    assert desk.store.design.power.pack.name == "3S 2200"


def test_a_lever_is_pressed_and_the_first_throw_is_settled(desk):
    desk.open_sheet("balance.levers")
    sheet = desk.sheet
    aim = sheet.aim
    assert sheet.levers and sheet.together.there
    press(sheet.buttons[-1])
    assert desk.store.report.value("balance.cg_fraction") == pytest.approx(aim, abs=1e-6)
    assert any(f.key == "balance.first_throw" for f in evaluate(desk.store.design).findings)
