"""A body drawn by its cross-sections: handles by mouse and keys, stations, rounding, hollows, pictures to snap to."""

import base64

import pytest
from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QPoint, Qt
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.design.underlay import Underlay
from ridgeline.desk.sheets.shape.tracing import edge_near
from ridgeline.engine.sizing.hollows import hollows_in
from ridgeline.engine.sizing.offers import built_as


@pytest.fixture
def sheet(desk):
    desk.open_sheet("shape.body")
    return desk.sheet


def press(button):
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def drag(handle, dx, dy):
    middle = handle.rect().center()
    QTest.mousePress(handle, Qt.MouseButton.LeftButton, pos=middle)
    QTest.mouseMove(handle, middle + QPoint(dx, dy))
    QTest.mouseRelease(handle, Qt.MouseButton.LeftButton, pos=handle.rect().center())
    QApplication.processEvents()


def test_top_and_bottom_are_dragged_from_the_side(sheet):
    store = sheet.store
    before = store.design.bodies[0].stations[2]
    drag(sheet.handles[("body", 0, 2, "top")], 0, -20)
    after = store.design.bodies[0].stations[2]
    grown = 20 / sheet.scale
    assert after.height - before.height == pytest.approx(grown, abs=1.5 / sheet.scale)
    # The bottom stays where it was.
    assert after.z - 0.5 * after.height == pytest.approx(before.z - 0.5 * before.height, abs=2e-4)
    store.undo()
    assert store.design.bodies[0].stations[2] == before


def test_the_width_is_dragged_in_the_plan_that_lies_below(sheet):
    before = sheet.store.design.bodies[0].stations[3]
    drag(sheet.handles[("body", 0, 3, "side")], 0, 12)
    after = sheet.store.design.bodies[0].stations[3]
    assert after.width - before.width == pytest.approx(24 / sheet.scale, abs=3 / sheet.scale)
    assert after.height == before.height


def test_stations_are_added_between_and_taken_out(sheet):
    store = sheet.store
    store.select("bodies[0].stations[1]")
    stations = store.design.bodies[0].stations
    press(sheet.adds)
    made = store.design.bodies[0].stations[2]
    assert made.x == pytest.approx(0.5 * (stations[1].x + stations[2].x), abs=1e-4)
    assert store.spot("body").inner == 2
    press(sheet.drops)
    assert store.design.bodies[0].stations == stations
    while len(store.design.bodies[0].stations) > 2:
        press(sheet.drops)
    assert not sheet.drops.isEnabled()


def test_a_section_is_made_round_by_itself(sheet):
    store = sheet.store
    store.select("bodies[0].stations[2]")
    press(sheet.rounds[1.0])
    roundings = store.design.bodies[0].roundings
    assert roundings[2] == 1.0 and roundings[1] == store.design.bodies[0].rounding
    assert sheet.rounds[1.0].isChecked() and not sheet.rounds[0.0].isChecked()
    assert desk_field(sheet, "bodies[0].stations[3].rounding") is None


def desk_field(sheet, path):
    return sheet.window().margin.dimensions.fields.get(path)


def test_a_box_is_opened_below_and_weighs_less(sheet):
    store = sheet.store
    store.select("bodies[0].stations[2]")
    mass = store.report.value("mass.listed")
    sheet.window().margin.dimensions.words["The box is"].choose("bottom")
    assert store.design.bodies[0].built.open == "bottom"
    assert store.report.value("mass.listed") < mass - 0.003


def test_only_foam_is_hollowed_and_its_frame_is_dragged(open_window, whimbrel):
    carved = apply(whimbrel, built_as(whimbrel, "bodies[0]", "carved"))
    sheet = open_window(carved, first="shape.body").sheet
    store = sheet.store
    press(sheet.hollow)
    ((index, item),) = hollows_in(store.design, store.design.bodies[0])
    handle = sheet.handles[("hollow", index, "corner")]
    drag(handle, 20, 0)
    ((_index, larger),) = hollows_in(store.design, store.design.bodies[0])
    ratio = larger.size.length / item.size.length
    assert ratio > 1.05 and larger.estimate / item.estimate == pytest.approx(
        ratio * larger.size.height / item.size.height, rel=2e-3
    )
    drag(sheet.handles[("hollow", index, "middle")], 15, 0)
    assert store.design.parts[index].x > larger.x + 0.5 * 15 / sheet.scale


def test_a_box_of_board_is_hollow_already(sheet):
    assert not sheet.hollow.isEnabled()


def test_a_design_without_bodies_offers_one(open_window):
    window = open_window(Design(), first="shape.body")
    press(window.sheet.first)
    assert [b.kind for b in window.store.design.bodies] == ["fuselage"] and window.sheet.which.isVisible()


def picture_of(view, metres_per_pixel, edge):
    """A white picture, black below a row (side) or right of a column (plan)."""
    image = QImage(400, 300, QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    painter = QPainter(image)
    if view == "side":
        painter.fillRect(0, edge, 400, 300 - edge, QColor("black"))
    else:
        painter.fillRect(edge, 0, 400 - edge, 300, QColor("black"))
    painter.end()
    store = QByteArray()
    buffer = QBuffer(store)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return base64.b64encode(store.data()).decode()


@pytest.mark.parametrize(("view", "way"), [("side", "along"), ("plan", "across")])
def test_the_edge_of_a_picture_is_found_where_it_is(whimbrel, view, way):
    under = Underlay(
        name="drawing", view=view, picture=picture_of(view, 0.002, 120), across=-0.1, along=-0.2, metres_per_pixel=0.002
    )
    design = apply(whimbrel, [Change("underlays", (under,))])
    start = under.along if way == "along" else under.across
    true = start + 120 * 0.002
    place = {"across": (true + 0.006, 0.0), "along": (0.1, true + 0.006)}[way]
    assert edge_near(design, view, *place, way, 0.01) == pytest.approx(true, abs=0.0021)
    assert edge_near(design, view, *place, way, 0.002) is None
    hidden = apply(design, [Change("underlays[0].shown", False)])
    assert edge_near(hidden, view, *place, way, 0.01) is None


def test_a_hand_snaps_to_the_picture_and_keys_do_not(open_window, whimbrel):
    under = Underlay(
        name="drawing", view="side", picture=picture_of("side", 0.002, 100), across=-0.1, along=-0.28,
        metres_per_pixel=0.002,
    )  # fmt: skip
    sheet = open_window(apply(whimbrel, [Change("underlays", (under,))]), first="shape.body").sheet
    # The edge lies at z = 0.08; the hand stops a few px off it.
    station = sheet.store.design.bodies[0].sections[2]
    top = station.z + 0.5 * station.height
    drag(sheet.handles[("body", 0, 2, "top")], 0, -round((0.08 - top) * sheet.scale) + 3)
    station = sheet.store.design.bodies[0].sections[2]
    assert station.z + 0.5 * station.height == pytest.approx(0.08, abs=0.0021)
    handle = sheet.handles[("body", 0, 2, "top")]
    handle.setFocus()
    QTest.keyClick(handle, Qt.Key.Key_Up)
    moved = sheet.store.design.bodies[0].sections[2]
    assert moved.z + 0.5 * moved.height > station.z + 0.5 * station.height + 0.001
