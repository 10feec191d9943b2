"""Sets, materials and the model on its supports, used by mouse and keys."""

import math

import pytest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.configurations import called, name_of
from ridgeline.files.design_file import load


def here(window):
    """Return the name of the fitted set."""
    return name_of(window.store.design, window.store.design.fitted)


def names(window):
    """Return the names of the sets."""
    return [one.name for one in window.store.design.configurations]


def test_the_strip_fits_a_set_and_undo_brings_the_other_back(desk):
    strip = desk.bar.sets
    desk.resize(1920, 1080)
    QApplication.processEvents()
    floats = strip.buttons[called(desk.store.design, "Marker floats")]
    assert floats.text() == "Marker floats" and floats.isVisible() and not strip.menu.isVisible()
    press(floats)
    assert here(desk) == "Marker floats"
    assert "Camera" not in [p.name for p in desk.store.design.parts]
    desk.store.undo()
    assert here(desk) == "Seal count"


def test_where_there_is_little_room_the_sets_are_a_menu(open_window, whimbrel):
    window = open_window(whimbrel, size=(1100, 700))
    wide = called(whimbrel, "Long wing")
    assert window.bar.sets.menu.isVisible() and not window.bar.sets.buttons[wide].isVisible()
    window.bar.sets.menu.choose(wide)
    assert here(window) == "Long wing"


def test_a_set_is_made_named_changed_and_dropped(open_window):
    window = open_window(load("demo:turnstone"), first="weights.sets")
    sheet = window.sheet
    press(sheet.add)
    assert names(window) == ["Standard", "Set 2"]
    type_into(sheet.names[1], "With floats")
    assert here(window) == "With floats"
    window.open_sheet("weights")
    window.store.select("parts[1]")
    QApplication.processEvents()
    window.margin.dimensions.words["Flies in"].choose("own")
    index = next(i for i, p in enumerate(window.store.design.parts) if p.sets == (window.store.design.fitted,))
    window.store.select(f"parts[{index}]")
    QApplication.processEvents()
    type_into(window.margin.dimensions.fields[f"parts[{index}].x"], "210 mm")
    window.open_sheet("weights.sets")
    QApplication.processEvents()
    assert len(window.sheet.swaps) == 1
    assert not window.grab().isNull()
    type_into(window.sheet.names[0], "With floats")
    assert window.sheet.names[0].property("wrong") == "true" and "Standard" in names(window)
    press(window.sheet.drop)
    assert window.store.design.configurations == ()
    assert not window.grab().isNull()


@pytest.mark.parametrize("size", [(1100, 700), (1920, 1080)])
@pytest.mark.parametrize("name", ["whimbrel", "avocet", "dunlin"])
def test_the_sets_paint_every_demo(open_window, name, size):
    assert not open_window(load(f"demo:{name}"), first="weights.sets", size=size).grab().isNull()


def test_another_material_changes_the_estimate_at_once_and_typed_again_it_stays(open_window, by_items):
    desk = open_window(by_items, first="weights")
    store = desk.store
    index = next(i for i, p in enumerate(store.design.parts) if p.name == "Wing panels, board")
    store.select(f"parts[{index}]")
    QApplication.processEvents()
    before = store.report.results.masses.items.mass[index]
    desk.margin.dimensions.words["Made of"].choose("Extruded sheet 3 mm")
    after = store.report.results.masses.items.mass[index]
    assert after / before == pytest.approx(105 / 300)
    desk.margin.dimensions.words["Along"].choose(store.design.surfaces[1].id)
    assert store.report.results.masses.items.mass[index] < after
    desk.margin.dimensions.words["Along"].choose("")
    kept = store.report.results.masses.items.mass[index]
    desk.margin.dimensions.words["Made of"].choose("")
    assert store.design.parts[index].build is None
    assert store.report.results.masses.items.mass[index] == pytest.approx(kept)


def test_a_spar_is_made_of_stock_by_its_length(desk):
    desk.open_sheet("weights")
    store = desk.store
    index = next(i for i, p in enumerate(store.design.parts) if p.name == "Spar tube")
    store.put(f"parts[{index}].weighed", None, "forget")
    store.select(f"parts[{index}]")
    QApplication.processEvents()
    desk.margin.dimensions.words["Made of"].choose("Carbon tube 8/6 mm")
    desk.margin.dimensions.words["Along"].choose(store.design.surfaces[0].id)
    span = 2 * store.design.surfaces[0].stations[-1].y
    mass = store.report.results.masses.items.mass[index]
    assert mass == pytest.approx(1550 * math.pi / 4 * (0.008**2 - 0.006**2) * span, rel=0.02)


def test_three_scales_find_the_offset_to_the_side(desk):
    desk.open_sheet("weights.finish")
    sheet = desk.sheet
    press(sheet.ways[1])
    drag(sheet.handles[1], 12, -8)
    press(sheet.read_button)
    found, report = sheet.found, desk.store.report
    assert found.mass == pytest.approx(1.04 * report.value("mass.auw"), abs=0.003)
    assert found.cg[1] == pytest.approx(report.value("balance.cg_y") - 0.003, abs=0.002)
    press(sheet.take_button)
    assert desk.store.report.value("balance.cg_x") == pytest.approx(float(found.cg[0]))
    assert not desk.grab().isNull()


def test_tilted_on_the_same_two_supports_it_tells_its_height(desk):
    desk.open_sheet("weights.finish")
    sheet = desk.sheet
    press(sheet.ways[2])
    press(sheet.read_button)
    assert sheet.weighed_height is None
    press(sheet.ways[0])
    press(sheet.read_button)
    press(sheet.ways[2])
    type_into(sheet.angle, "40")
    press(sheet.read_button)
    height, error = sheet.weighed_height
    assert height == pytest.approx(desk.store.report.value("balance.cg_z") + 0.005, abs=3 * error)
    type_into(sheet.angle, "2")
    assert math.degrees(sheet.tilt) == pytest.approx(40)
    assert not desk.grab().isNull()


def test_supports_that_would_topple_it_are_told(desk):
    desk.open_sheet("weights.finish")
    sheet = desk.sheet
    drag(sheet.handles[0], 200, 0)
    drag(sheet.handles[0], 200, 0)
    before = list(sheet.readings)
    press(sheet.read_button)
    assert sheet.readings == before and "topple" in desk.notice.words


def test_levers_sideways_level_the_wings(desk):
    desk.store.put("parts[3].y", 0.03, "to the side")
    desk.open_sheet("balance.levers")
    sheet = desk.sheet
    press(sheet.ways[1])
    assert sheet.levers and "aileron" in sheet.subtitle()
    assert not desk.grab().isNull()
    press(sheet.buttons[-1])
    assert abs(desk.store.report.value("balance.cg_y")) < 5e-5
    press(sheet.ways[0])
    assert sheet.levers[0].key == "slide_pack"


def test_an_item_dragged_into_the_packs_bay_comes_to_lie_at_its_end(desk):
    desk.open_sheet("weights")
    sheet, store = desk.sheet, desk.store
    index = next(i for i, p in enumerate(store.design.parts) if p.name == "Camera")
    store.select(f"parts[{index}]")
    QApplication.processEvents()
    pack = store.design.parts[0]
    view = sheet._views(sheet._aircraft_area())[0]
    x, y = view.at((pack.x, 0.0, pack.z))
    here = sheet.mass_side.centre()
    drag(sheet.mass_side, x - here.x(), y - here.y())
    assert store.design.parts[index].x in (pack.rail.front, pack.rail.back)


def test_a_table_of_items_may_say_sets_by_name(desk, tmp_path):
    place = tmp_path / "items.csv"
    place.write_text("name,group,mass [g],x [mm],sets\nBuoy,payload,30,200,Marker floats; Seal count\n", "utf-8")
    desk.open_sheet("weights")
    desk.sheet.read_table(str(place))
    design = desk.store.design
    assert design.parts[-1].name == "Buoy"
    assert design.parts[-1].sets == (called(design, "Marker floats"), called(design, "Seal count"))


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_no_name_of_a_set_lies_under_a_button(open_window, whimbrel, size):
    sheet = open_window(whimbrel, first="weights.sets", size=size).sheet
    rooms = [widget.geometry() for widget in (*sheet.names, *sheet.fits)]
    assert len(rooms) == 6
    assert not any(a.intersects(b) for k, a in enumerate(rooms) for b in rooms[k + 1 :])


def test_sets_are_compared_by_sink_over_airspeed_with_ballast_and_wind(desk):
    desk.open_sheet("weights.sets")
    sheet = desk.sheet
    assert not sheet.conditions["ballast"].isVisible()
    sheet.compared.choose("air")
    assert sheet.conditions["wind"].isVisible()
    desk.grab()
    before = sheet.polars
    type_into(sheet.conditions["ballast"], "200 g")
    type_into(sheet.conditions["wind"], "6")
    after = sheet.polars
    assert after[0].mass == pytest.approx(before[0].mass + 0.2)
    assert after[0].over_ground < before[0].over_ground
    type_into(sheet.conditions["wind"], "90 m/s")
    assert sheet.wind == pytest.approx(6.0) and sheet.conditions["wind"].property("wrong") == "true"
    desk.grab()
    sheet.compared.choose("figures")
    assert not sheet.conditions["wind"].isVisible()
