"""The outline typed by what is known of it, tips chosen, kinks and strips added; hinges by a width of their own."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import type_into
from ridgeline.design.document import Design
from ridgeline.engine.sizing.planforms import planform_of


@pytest.fixture
def sheet(desk):
    desk.open_sheet("shape.planform")
    return desk.sheet


def outline(sheet):
    return planform_of(sheet.surface)


def test_the_two_typed_last_hold_and_the_others_follow(sheet):
    assert sheet.held() == ("span", "area")
    type_into(sheet.fields["aspect_ratio"], "8")
    # The area was typed before it, as far as anybody knows.
    assert sheet.held() == ("area", "aspect_ratio")
    assert outline(sheet).aspect_ratio == pytest.approx(8, rel=1e-3)
    type_into(sheet.fields["span"], "1500 mm")
    assert sheet.held() == ("aspect_ratio", "span")
    now = outline(sheet)
    assert (now.span, now.aspect_ratio) == (pytest.approx(1.5, abs=1e-4), pytest.approx(8, rel=1e-3))
    assert sheet.fields["area"].text() == f"{100 * 1.5**2 / 8:.1f}"


def test_taper_and_sweep_hold_the_rest_and_are_one_undo_each(sheet):
    before = sheet.store.design
    type_into(sheet.fields["taper"], "0.5")
    type_into(sheet.fields["sweep"], "8")
    now = outline(sheet)
    assert now.taper == pytest.approx(0.5, rel=1e-3) and now.sweep == pytest.approx(0.1396, abs=1e-3)
    assert now.area == pytest.approx(planform_of(before.surfaces[0]).area, rel=1e-3)
    sheet.store.undo()
    sheet.store.undo()
    assert sheet.store.design == before


@pytest.mark.parametrize("text", ["0", "-3", "3 kg", "twelve"])
def test_what_is_no_span_is_refused_where_it_is_typed(sheet, text):
    before = sheet.store.design
    type_into(sheet.fields["span"], text)
    assert sheet.store.design is before and sheet.fields["span"].property("wrong") == "true"


def test_a_span_past_what_the_document_allows_is_refused_in_the_builders_units(sheet):
    before = sheet.store.design
    type_into(sheet.fields["span"], "40 m")
    assert sheet.store.design is before and sheet.fields["span"].property("wrong") == "true"


def test_tips_are_chosen_by_a_press_and_weigh_what_is_left(sheet):
    mass = sheet.store.report.value("mass.listed")
    QTest.mouseClick(sheet.tips["elliptical"], Qt.MouseButton.LeftButton)
    assert len(sheet.surface.stations) > 4
    assert sheet.store.report.value("mass.listed") < mass
    assert sheet.store.report.value("wing.span") == pytest.approx(1.28, abs=1e-3)


def test_a_kink_stands_on_the_straight_line_until_it_is_moved(sheet):
    area = outline(sheet).area
    QTest.mouseClick(sheet.kink, Qt.MouseButton.LeftButton)
    assert outline(sheet).area == pytest.approx(area, rel=1e-4)
    spot = sheet.store.spot("surface")
    assert 0 < spot.inner < len(sheet.surface.stations) - 1


def test_a_strip_is_added_beside_the_ailerons_and_its_width_typed(desk, sheet):
    area = outline(sheet).area
    QTest.mouseClick(sheet.strip, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    strip = sheet.surface.controls[-1]
    assert strip.kind == "flap" and strip.width == pytest.approx(0.024, abs=1e-4)
    assert outline(sheet).area > 1.02 * area
    desk.open_sheet("shape.control")
    field = desk.margin.dimensions.fields[f"surfaces[0].controls[{len(sheet.surface.controls) - 1}].width"]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "30")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert sheet.surface.controls[-1].width == pytest.approx(0.030)


def test_a_hinge_stays_where_it_is_when_it_is_told_by_width_instead(desk):
    desk.open_sheet("shape.control")
    store = desk.store
    store.select("surfaces[0].controls[0]")
    rate = store.report.value("control.roll_rate")
    words = desk.margin.dimensions.words["Hinge by"]
    words.choose("width")
    control = store.design.surfaces[0].controls[0]
    assert control.width > control.width_out > 0.02
    assert store.report.value("control.roll_rate") == pytest.approx(rate, rel=2e-3)
    desk.margin.dimensions.words["Hinge by"].choose("share")
    back = store.design.surfaces[0].controls[0]
    assert back.width is None and back.chord_fraction == pytest.approx(0.22, abs=2e-3)


def test_the_end_of_a_hinge_by_width_is_dragged_alone(desk):
    desk.open_sheet("shape.control")
    store = desk.store
    store.select("surfaces[0].controls[0]")
    desk.margin.dimensions.words["Hinge by"].choose("width")
    before = store.design.surfaces[0].controls[0]
    handle = desk.sheet.handles[(0, 0, "end")]
    handle.setFocus()
    for _ in range(5):
        QTest.keyClick(handle, Qt.Key.Key_Up)
    after = store.design.surfaces[0].controls[0]
    assert after.width_out > before.width_out + 0.003 and after.width == before.width


def test_any_surface_can_be_shown_and_an_empty_design_says_so(open_window, sheet):
    sheet.which.choose(sheet.store.design.surfaces[1].id)
    assert (
        sheet.surface.role == "v_tail"
        and sheet.fields["span"].text() == f"{planform_of(sheet.surface).span * 1000:.0f}"
    )
    empty = open_window(Design(), first="shape.planform")
    assert empty.sheet.surface is None and empty.sheet.empty
