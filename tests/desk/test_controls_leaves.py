"""The leaf of linkages: drawn on every sample, holes, tooth and servo dragged, ways out seen and pressed."""

import math

import pytest
from linked_wing import link_it
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.desk.stops import STOP, headline
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

LEAVES = [leaf.key for leaf in STOP["controls"].leaves]


@pytest.fixture
def leaf(open_window):
    """Return a function that opens a leaf on a sample."""

    def at(key="controls", name="whimbrel", design=None, **more):
        window = open_window(design or load(f"demo:{name}"), first=key, **more)
        return window, window.sheets[key]

    return at


def test_a_linkage_is_set_by_mouse_and_keys(open_window):
    link_it(open_window(load("demo:whimbrel"), first="controls"))


@pytest.mark.parametrize("key", LEAVES)
@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_control_of_every_sample_is_drawn(leaf, caplog, key, name):
    for size in ((1280, 800), (1100, 700)):
        _window, sheet = leaf(key, name, size=size)
        for row in sheet.linking.rows:
            sheet.choose(row.control.id)
            sheet.grab()
            assert row.control.kind in sheet.subtitle()
    assert not caplog.records, "a fault in a drawing is logged"


def test_without_linkages_they_are_said_by_one_press(leaf, caplog):
    bare = put(put(load("demo:whimbrel"), "linkages", ()), "radio", None)
    window, sheet = leaf(design=bare)
    sheet.grab()
    assert "not said yet" in sheet.subtitle() and sheet.usual_button.isVisible()
    assert headline(window.store, STOP["controls"]) == "not linked yet"
    press(sheet.usual_button)
    assert len(window.store.design.linkages) == 2 and not sheet.usual_button.isVisible()
    assert headline(window.store, STOP["controls"]).startswith("servos at ")
    for design in (Design(), put(bare, "surfaces[0].controls", ())):
        window, sheet = leaf(design=design)
        sheet.grab()
    assert not caplog.records


def test_holes_are_dragged_from_one_to_the_next(leaf):
    window, sheet = leaf()
    store, one = window.store, window.store.design.linkages[0]
    scale = sheet.scale
    drag(sheet.arm_handle, 0, round(scale * 0.004))
    assert store.design.linkages[0].arm > one.arm and store.design.linkages[0].arm in one.arm_holes
    drag(sheet.horn_handle, 0, -round(scale * 0.006))
    assert store.design.linkages[0].horn < one.horn and store.design.linkages[0].horn in one.horn_holes
    store.undo()
    store.undo()
    assert store.design.linkages[0] == one, "two drags, two steps"


def test_the_arm_is_clocked_by_whole_teeth_and_the_servo_moved(leaf):
    window, sheet = leaf()
    store, one = window.store, window.store.design.linkages[0]
    drag(sheet.tooth_handle, -24, 0)
    ahead = store.design.linkages[0].clocked
    assert ahead > 0, "towards the nose is ahead"
    throw = sheet.row.sides[0].throw
    assert throw.up == pytest.approx(sheet.row.wish.up, abs=math.radians(0.5)), "the radio follows the wish"
    drag(sheet.servo_handle, -20, 0)
    moved = store.design.linkages[0]
    assert moved.ahead == pytest.approx(one.ahead + 20 / sheet.scale, abs=0.004) and moved.clocked == ahead
    sheet.tooth_handle.setFocus()
    QTest.keyClick(sheet.tooth_handle, Qt.Key.Key_Right)
    QApplication.processEvents()


def test_a_long_rod_is_drawn_with_a_piece_left_out_and_dragged_all_the_same(leaf):
    window, sheet = leaf(name="heron")
    ident = next(row.control.id for row in sheet.linking.rows if row.control.kind == "elevator")
    sheet.choose(ident)
    frame = sheet._frame(sheet.row, sheet._drawn(sheet.row))
    assert frame.last > frame.first
    shape = sheet._drawn(sheet.row)
    for point in (shape.arm_centre, shape.horn_holes[0], shape.arm_holes[-1]):
        spot = frame.at(point)
        assert frame.back(spot.x(), spot.y()) == pytest.approx(tuple(point), abs=1e-9)
    before = window.store.design.linkages[sheet.place].ahead
    drag(sheet.servo_handle, -10, 0)
    assert window.store.design.linkages[sheet.place].ahead == pytest.approx(before + 10 / sheet.scale, abs=0.004)


def test_sizes_are_typed_and_choices_made_in_words(leaf):
    window, sheet = leaf()
    store = window.store
    fields = window.margin.dimensions.fields
    type_into(fields["linkages[0].horn"], "15 mm")
    assert store.design.linkages[0].horn == pytest.approx(0.015)
    type_into(fields["surfaces[0].controls[0].up"], "14°")
    assert sheet.row.sides[0].throw.up == pytest.approx(math.radians(14), abs=math.radians(0.1))
    sheet._face("up")
    assert (store.design.linkages[0].facing, store.design.linkages[0].arm_to) == ("up", "out")
    assert not sheet.arm_handle.isVisible(), "seen from the side its arm has no length"
    sheet._face("in")
    assert store.design.linkages[0].arm_to == "below" and sheet.arm_handle.isVisible()


def test_a_press_on_a_row_or_on_the_aircraft_shows_that_control(leaf):
    window, sheet = leaf()
    sheet.grab()
    assert sheet.row.control.kind == "aileron"
    rect = next(shape for shape, control in sheet._places if control == "c27")
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(int(rect.left() + 60), int(rect.center().y())))
    QApplication.processEvents()
    assert sheet.row.control.kind == "ruddervator" and "V-tail" in sheet.subtitle()
    assert "linkages[1].arm" in window.margin.dimensions.fields
    sheet.grab()
    path = next(shape for shape, control in reversed(sheet._places) if control == "c26")
    spot = path.boundingRect().center()
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    QApplication.processEvents()
    assert sheet.row.control.kind == "aileron"


def test_a_ghost_is_drawn_on_the_linkage(leaf, caplog):
    design = put(put(load("demo:whimbrel"), "linkages[0].arm", 0.012), "linkages[0].horn", 0.012)
    window, sheet = leaf(design=design)
    told = next(f for f in window.store.report.findings if f.key.startswith("controls.travel"))
    before = sheet.grab().toImage()
    window.store.show_ghost(told.remedies[0])
    assert sheet.grab().toImage() != before
    window.store.apply_remedy(told.remedies[0])
    assert not [f for f in window.store.report.findings if f.key.startswith("controls.travel")] and not caplog.records
