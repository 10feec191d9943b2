"""Power → Drag: what stands in the wind, added by a press, typed in the margin, and taken off again."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.files.design_file import load


@pytest.fixture
def leaf(open_window):
    """The leaf on the demo with wheels."""
    window = open_window(load("demo:turnstone"), first="power.drag")
    return window, window.sheets["power.drag"]


def click(sheet, at):
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=at)
    QApplication.processEvents()


def test_a_strut_is_added_typed_and_taken_off_again(leaf):
    window, sheet = leaf
    store = window.store
    before, top = store.design, store.report.value("speed.max")
    assert not sheet.remove_button.isVisible()
    press(sheet.add_buttons["strut"])
    assert [item.kind for item in store.design.drag_items] == ["strut"] and sheet.chosen == 0
    field = window.margin.dimensions.fields["drag_items[0].length"]
    type_into(field, "400 mm")
    assert store.design.drag_items[0].length == pytest.approx(0.4)
    assert store.report.value("speed.max") < top - 0.5
    press(sheet.remove_button)
    assert store.design.drag_items == () and sheet.chosen is None
    for _ in range(3):
        store.undo()
    assert store.design == before


def test_each_line_costs_what_flying_without_it_gains_and_the_dearest_stands_first(leaf):
    _window, sheet = leaf
    areas = [row.one.drag_area for row in sheet.rows]
    costs = [row.cost for row in sheet.rows]
    assert areas == sorted(areas, reverse=True) and costs == sorted(costs, reverse=True)
    assert all(cost > 0 for cost in costs)


def test_pressing_a_line_selects_the_part_it_comes_from(leaf):
    window, sheet = leaf
    sheet.grab()
    rect = next(rect for rect, path in sheet._places if path == "wheels[0]" and rect.width() > 100)
    click(sheet, rect.center().toPoint())
    assert window.store.spot("wheel").path == "wheels[0]"


def test_pressing_a_disc_on_the_aircraft_does_too(leaf):
    window, sheet = leaf
    sheet.grab()
    disc = next(rect for rect, path in sheet._places if path == "wheels[0]" and rect.width() < 100)
    click(sheet, disc.center().toPoint())
    assert window.store.spot("wheel").path == "wheels[0]"


def test_its_kind_is_chosen_from_a_list(leaf):
    window, sheet = leaf
    press(sheet.add_buttons["strut"])
    before = sheet.rows
    window.margin.dimensions.words["Is a"].choose("faired_strut")
    QApplication.processEvents()
    assert window.store.design.drag_items[0].kind == "faired_strut"
    strut = next(row for row in before if row.one.added)
    faired = next(row for row in sheet.rows if row.one.added)
    assert faired.one.drag_area < 0.25 * strut.one.drag_area and faired.cost < 0.3 * strut.cost


def test_the_discs_are_plates_of_the_drag_area_to_scale(leaf):
    _window, sheet = leaf
    image = sheet.grab().toImage()
    row = next(row for row in sheet.rows if row.one.path == "bodies[0].stations[0]")
    rect = next(rect for rect, path in sheet._places if path == row.one.path and rect.width() < 100)
    area = 3.14159 * (rect.width() / 2) ** 2
    assert area == pytest.approx(row.one.drag_area * sheet.scale**2, rel=0.01)
    inside, outside = (image.pixelColor(rect.center().toPoint() + QPoint(x, 0)) for x in (3, int(rect.width()) + 3))
    assert inside != outside


def test_without_power_the_list_stands_and_no_speed_is_told(open_window):
    from ridgeline.design.paths import Change, apply

    window = open_window(apply(load("demo:turnstone"), [Change("power", None)]), first="power.drag")
    sheet = window.sheets["power.drag"]
    assert sheet.rows and all(row.cost is None for row in sheet.rows)
    assert "motor" in sheet.subtitle() or "power" in sheet.subtitle()
    sheet.grab()
