"""The scale, the packs and the levers used by hand."""

import pytest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.paths import put
from ridgeline.desk.exporting import write
from ridgeline.desk.sheets.balance.foot import _hang_words
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
from ridgeline.files.own_bin import OwnBin, save_bin
from ridgeline.library import demo_names, shipped_shelf

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


def test_the_table_goes_to_a_file_and_comes_back_as_added_items(desk, tmp_path):
    desk.open_sheet("weights")
    sheet = desk.sheet
    before = desk.store.design.parts
    write(desk.store, "items", tmp_path / "items.csv")
    sheet.read_table(str(tmp_path / "items.csv"))
    assert len(desk.store.design.parts) == 2 * len(before)
    assert [p.name for p in desk.store.design.parts[len(before) :]] == [p.name for p in before]
    assert desk.notice.words.startswith(f"{len(before)} items added")
    desk.store.undo()
    assert desk.store.design.parts == before
    (tmp_path / "letter.csv").write_text("Dear club\n")
    sheet.read_table(str(tmp_path / "letter.csv"))
    assert desk.store.design.parts == before and "column" in desk.notice.words


def test_cells_are_copied_and_pasted_with_the_keys(desk):
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    desk.open_sheet("weights")
    sheet = desk.sheet
    sheet.table.selectRow(2)
    sheet.table.setFocus()
    QTest.keyClick(sheet.table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert "1 item copied" in desk.notice.words
    count = len(desk.store.design.parts)
    QTest.keyClick(sheet.table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(desk.store.design.parts) == count + 1
    assert desk.store.design.parts[-1].name == desk.store.design.parts[2].name


def test_what_moved_the_balance_is_told_with_its_cause_and_size(desk):
    desk.open_sheet("balance")
    pack = next(i for i, part in enumerate(desk.store.design.parts) if part.component == "pack")
    x = desk.store.design.parts[pack].x
    desk.store.put(f"parts[{pack}].x", x - 0.03, "Slide pack by hand")
    view = desk.margin.findings.views[0]
    assert view.finding.key == "balance.moved"
    assert "forward" in str(view.finding.text) and "Slide pack by hand" in str(view.finding.reason)
    desk.store.put("note", "a word", "Note")
    assert all(v.finding.key != "balance.moved" for v in desk.margin.findings.views)
    desk.store.put(f"parts[{pack}].x", x - 0.031, "A little")
    assert desk.store.moved is None


def test_a_drag_is_judged_from_where_it_began(desk):
    pack = next(i for i, part in enumerate(desk.store.design.parts) if part.component == "pack")
    x, start = desk.store.design.parts[pack].x, desk.store.report.value("balance.cg_fraction")
    for k in range(1, 11):
        desk.store.put(f"parts[{pack}].x", x - 0.003 * k, "Slide pack", merge="pack")
    assert desk.store.moved is not None and desk.store.moved[1] == pytest.approx(start)


def test_a_typed_estimate_takes_a_recipes_place(open_window):
    from ridgeline.design.brief import Brief
    from ridgeline.engine.sizing.constraints import start_brief
    from ridgeline.engine.sizing.layout import lay_out
    from ridgeline.library import shipped_shelf

    design = lay_out(start_brief(Brief(ceiling=0.9), "sport"), shipped_shelf())
    window = open_window(design, first="weights")
    sheet = window.sheet
    window.store.select("parts[0]")
    type_into(window.margin.dimensions.fields["surfaces[0].built.board.areal"], "450 g/m^2")
    assert window.store.report.value("mass.auw") > evaluate(design).value("mass.auw") + 0.05
    column = 3
    sheet.model.setData(sheet.model.index(0, column), "90")
    part = window.store.design.parts[0]
    assert part.build is None and part.estimate == pytest.approx(0.09)


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("key", ["weights.save", "weights.finish"])
def test_saving_and_finishing_paint_every_demo(open_window, name, key):
    window = open_window(load(f"demo:{name}"), first=key, size=(1100, 700))
    assert not window.grab().isNull()


@pytest.mark.parametrize("key", ["weights.save", "weights.finish"])
def test_saving_and_finishing_paint_an_empty_design(open_window, key):
    assert not open_window(first=key).grab().isNull()


def test_a_saving_is_pressed_and_saves(desk):
    desk.open_sheet("weights.save")
    sheet = desk.sheet
    before = desk.store.report.value("mass.auw")
    saved = sheet.savings[0].saved
    press(sheet.buttons[0])
    assert desk.store.report.value("mass.auw") == pytest.approx(before - saved)


def test_the_finished_model_is_weighed_on_two_scales_and_the_items_follow(desk):
    desk.open_sheet("weights.finish")
    sheet = desk.sheet
    drag(sheet.handles[0], -20, 0)
    press(sheet.read_button)
    found = sheet.found
    assert found.mass == pytest.approx(1.04 * desk.store.report.value("mass.auw"), abs=0.002)
    desk.grab()
    weighed = [part.weighed for part in desk.store.design.parts]
    press(sheet.take_button)
    assert desk.store.report.value("mass.auw") == pytest.approx(found.mass)
    assert desk.store.report.value("balance.cg_x") == pytest.approx(float(found.cg[0]))
    assert [part.weighed for part in desk.store.design.parts] == weighed
    desk.store.undo()
    type_into(sheet.pans[0], "16 oz")
    assert sheet.readings[0] == pytest.approx(0.4536, abs=1e-3)


def test_a_name_with_braces_is_only_a_name(open_window, whimbrel):
    from ridgeline.design.paths import put

    odd = put(put(whimbrel, "surfaces[0].name", "Wing {} {0} {x"), "parts[0].name", "Pack {}")
    odd = put(odd, "surfaces[0].incidence", 0.15)
    for key in ("shape", "weights.save", "balance.levers", "weights"):
        assert not open_window(odd, first=key).grab().isNull()


def test_one_press_shows_every_figure_as_listed_and_another_goes_back(desk):
    desk.open_sheet("weights")
    row, cell = desk.sheet.growth, next(c for c in desk.title_block.cells if c.key == "mass.auw")
    design = desk.store.design
    press(row.as_listed)
    assert desk.store.ghost is not None and row.as_listed.isChecked()
    assert desk.store.ghost[1].value("mass.auw") == pytest.approx(desk.store.report.value("mass.listed"))
    assert cell._ghost_value() == "712", "what it comes to stands beside what it is"
    desk.grab()
    press(row.as_listed)
    assert desk.store.ghost is None and desk.store.design is design and not cell._ghost_value()
    press(row.as_listed)
    type_into(row.share, "25")
    assert desk.store.design.brief.growth == 0.25 and not row.as_listed.isChecked(), "an edit ends it"
    assert desk.store.report.value("mass.auw") == pytest.approx(0.71247 + 0.25 * 0.23447, abs=1e-4)


def test_a_weighed_finished_model_gains_no_more(desk):
    desk.open_sheet("weights.finish")
    sheet = desk.sheet
    sheet.readings[:] = [0.5, 0.35]
    sheet.take()
    assert desk.store.design.brief.growth == 0
    assert desk.store.report.value("mass.auw") == pytest.approx(0.85, abs=1e-6)
    assert desk.store.report.value("balance.cg_x") == pytest.approx(float(sheet.found.cg[0]), abs=1e-6)


def test_an_allowance_is_typed_at_its_bar_and_judged(desk):
    desk.open_sheet("weights")
    sheet = desk.sheet
    assert set(sheet.allowances) == set(sheet.groups())
    type_into(sheet.allowances["airframe"], "175 g")
    assert desk.store.design.allowances.airframe == pytest.approx(0.175)
    finding = next(f for f in desk.store.report.findings if f.key == "mass.allowance.airframe")
    assert "Airframe" in str(finding.text) and "18 g" in str(finding.text)
    view = next(v for v in desk.margin.findings.views if v.finding.key == finding.key)
    press(view.buttons[0])
    assert not any(f.key.startswith("mass.allowance") for f in desk.store.report.findings)
    type_into(sheet.allowances["airframe"], "-")
    assert desk.store.design.allowances.airframe is None
    desk.grab()


def test_an_item_is_dragged_in_both_views_and_a_railed_one_stays_on_its_rail(desk):
    desk.open_sheet("weights")
    sheet = desk.sheet
    camera = next(i for i, part in enumerate(desk.store.design.parts) if part.name == "Camera")
    desk.store.select(f"parts[{camera}]")
    before = desk.store.design.parts[camera]
    scale = sheet._views(sheet._aircraft_area())[0].scale
    drag(sheet.mass_side, -15, 6)
    after = desk.store.design.parts[camera]
    assert after.x == pytest.approx(before.x - 15 / scale, abs=2.5 / scale)
    assert after.z == pytest.approx(before.z - 6 / scale, abs=2.5 / scale)
    drag(sheet.mass_plan, 0, 20)
    assert desk.store.design.parts[camera].y == pytest.approx(20 / scale, abs=2.5 / scale)
    drag(sheet.mass_plan, 0, -40)
    assert desk.store.design.parts[camera].y == 0
    desk.store.undo()
    assert desk.store.design.parts[camera].y > 0
    pack = next(i for i, part in enumerate(desk.store.design.parts) if part.rail is not None)
    desk.store.select(f"parts[{pack}]")
    drag(sheet.mass_side, -400, 0)
    part = desk.store.design.parts[pack]
    assert part.x == pytest.approx(part.rail.front + part.rail.item_length / 2)
    desk.grab()


@pytest.mark.parametrize(("depth", "said"), [(0.0019, "upright it tips"), (0.0021, "hang level"), (None, "lie level")])
def test_a_model_is_told_to_hang_from_its_marks_only_where_it_would(desk, monkeypatch, depth, said):
    told = {"balance.hang_depth": depth, "balance.hang_per_degree": 0.001}
    monkeypatch.setattr(type(desk.store.report), "value", lambda _self, key: told.get(key))
    assert said in _hang_words(desk.sheet)


def test_every_pack_of_the_library_is_tried_when_none_is_named(open_window, whimbrel, qtbot):
    window = open_window(put(whimbrel, "brief.packs", ()), first="balance.packs", size=(1100, 700))
    sheet = window.sheet
    qtbot.waitUntil(lambda: sheet._search is None, timeout=60_000)
    packs = shipped_shelf().packs
    assert {option.pack.name for option in sheet.options} == {pack.name for pack in packs}
    # What fits stands first, and what does not says why.
    levels = [option.level for option in sheet.options]
    assert levels == sorted(levels, key=["settled", "look", "stop"].index)
    assert all(option.verdict.render(window.store.units) for option in sheet.options)
    assert sheet.area.verticalScrollBar().maximum() > 0
    sheet.buttons[0].setFocus()
    window.grab()


def test_packs_of_the_bin_are_tried_beside_those_of_the_brief(open_window, whimbrel):
    mine = whimbrel.power.pack.model_copy(update={"name": "Old faithful"})
    save_bin(OwnBin(packs=(mine,)))
    sheet = open_window(whimbrel, first="balance.packs").sheet
    names = {option.pack.name for option in sheet.options}
    assert names == {"Old faithful", *whimbrel.brief.packs} and "bin" in sheet.subtitle()
