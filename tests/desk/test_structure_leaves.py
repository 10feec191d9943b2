"""The leaves of the Structure: the half under load, what twist leaves, and the stock that bears."""

import pytest
from bearing_wing import make_it_bear
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.desk.stops import STOP
from ridgeline.engine.structure.choosing import shortest_end
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

LEAVES = [leaf.key for leaf in STOP["structure"].leaves]


@pytest.fixture
def leaf(open_window):
    """Return a function that opens a leaf on a sample."""

    def at(key, name="whimbrel", **more):
        window = open_window(load(f"demo:{name}"), first=key, **more)
        return window, window.sheets[key]

    return at


def test_a_wing_is_made_to_bear_by_mouse_and_keys(open_window, whimbrel):
    make_it_bear(open_window(load("demo:whimbrel"), first="structure"))


@pytest.mark.parametrize("key", LEAVES)
@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_is_drawn_on_every_leaf(leaf, caplog, key, name):
    for size in ((1280, 800), (1100, 700)):
        _window, sheet = leaf(key, name, size=size)
        sheet.grab()
        assert sheet.subtitle()
    assert not caplog.records, "a fault in a drawing is logged"


@pytest.mark.parametrize("key", LEAVES)
def test_what_is_not_known_is_said_in_place_of_the_drawing(open_window, whimbrel, caplog, key):
    unknown = put(whimbrel, "surfaces[0].built", None)
    for design in (unknown, Design()):
        window = open_window(design, first=key)
        window.sheets[key].grab()
    assert not caplog.records
    window = open_window(unknown, first=key)
    if key != "structure.joints":
        assert "nothing says how it is built" in window.sheets[key].subtitle()


def test_the_load_factor_is_dragged_nudged_and_typed(leaf):
    window, sheet = leaf("structure")
    store = window.store
    drag(sheet.factor_handle, 0, -30)
    dragged = store.design.loads.factor
    assert dragged > 4.2
    sheet.factor_handle.setFocus()
    QTest.keyClick(sheet.factor_handle, Qt.Key.Key_Down)
    QApplication.processEvents()
    assert 1.5 <= store.design.loads.factor < dragged
    type_into(window.margin.dimensions.fields["loads.factor"], "3.5 g")
    assert store.design.loads.factor == 3.5 and "3.5 g, as wished" in sheet.subtitle()
    drag(sheet.factor_handle, 0, 4000)
    assert store.design.loads.factor == 1.5


def test_the_end_and_the_place_of_the_spar_are_dragged(leaf):
    window, sheet = leaf("structure")
    store = window.store
    drag(sheet.end_handle, -120, 0)
    spar = store.design.surfaces[0].built.spars[0]
    assert 0.4 < spar.end < 0.6
    assert sheet.end_handle.centre().x() == pytest.approx(sheet._across.at(sheet.shown.half.spar_end), abs=1)
    drag(sheet.place_handle, 30, 0)
    moved = store.design.surfaces[0].built.spars[0]
    assert moved.place > spar.place + 0.05 and moved.end == spar.end
    assert store.history.undo_label == "Place of the spar"
    store.undo()
    store.undo()
    assert store.design.surfaces[0].built.spars[0].end == pytest.approx(0.683)


def test_a_tail_is_pressed_on_the_small_aircraft_and_shown(leaf):
    window, sheet = leaf("structure")
    sheet.grab()
    shape = next(shape for shape, k in sheet._pressed if k == 1)
    at = shape.boundingRect().center().toPoint() if hasattr(shape, "boundingRect") else shape.center().toPoint()
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(at.x() + 8, at.y()))
    QApplication.processEvents()
    assert window.store.spot("surface").index == 1 and sheet.index == 1
    assert not sheet.factor_handle.isVisible() and not sheet.end_handle.isVisible()
    assert "V-tail" in sheet.subtitle()
    sheet.grab()


def test_pressing_the_share_opens_its_working(leaf):
    _window, sheet = leaf("structure")
    sheet.grab()
    rect = next(rect for rect, key in sheet._traced if key == "structure.wing_share")
    asked = []
    sheet.asks.connect(asked.append)
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=rect.center().toPoint())
    assert asked == ["structure.wing_share"]


def test_a_cure_is_seen_before_it_is_pressed(leaf):
    window, sheet = leaf("structure.twist")
    assert len(sheet.buttons) == len(sheet.cures) >= 3
    sheet.buttons[0].rested.emit(True)
    ghost = window.store.ghost
    assert ghost[1].value("structure.reversal_speed") > window.store.report.value("structure.reversal_speed")
    sheet.grab()
    sheet.buttons[0].rested.emit(False)
    assert window.store.ghost is None
    press(sheet.buttons[0])
    assert window.store.design.surfaces[0].built.covering is not None
    assert not any(button.text().startswith("Glass") for button in sheet.buttons), "solved anew"


def test_stock_is_chosen_by_the_mouse_shown_and_fitted(leaf):
    window, sheet = leaf("structure.stock")
    stock = sheet.list
    assert stock.rows[0].holds and "the lightest that holds" in sheet.subtitle()
    y = 22 + 19 * 2 + 9
    QTest.mouseClick(stock, Qt.MouseButton.LeftButton, pos=QPoint(60, y))
    QApplication.processEvents()
    assert stock.chosen == 2 and window.store.ghost is not None
    wanted = ("Carbon tube 8/6 mm", 1)
    row = next(k for k, one in enumerate(stock.rows) if (one.material.name, one.number) == wanted)
    QTest.mouseDClick(stock, Qt.MouseButton.LeftButton, pos=QPoint(60, 22 + 19 * row + 9))
    QApplication.processEvents()
    spar = window.store.design.surfaces[0].built.spars[0]
    assert (spar.material, spar.count) == wanted
    # What was weighed was another tube.
    item = next(p for p in window.store.design.parts if p.build and p.build.pieces == "spars")
    assert item.weighed is None and item.name == "Spar tube"


def test_a_ghost_does_not_outlive_its_leaf(leaf):
    window, sheet = leaf("structure.stock")
    sheet.list.choose(1)
    assert window.store.ghost is not None
    window.open_sheet("structure")
    assert window.store.ghost is None


def test_the_spar_is_ended_where_the_skins_bear_and_cut_in_two(leaf):
    window, sheet = leaf("structure.stock")
    store, asked = window.store, sheet.asked
    press(sheet.shorten_button)
    assert store.design.surfaces[0].built.spars[0].end == pytest.approx(shortest_end(asked))
    assert not sheet.shorten_button.isVisible()
    assert store.report.value("structure.wing_share") <= 1
    press(sheet.pieces_button)
    assert not store.design.surfaces[0].built.spars[0].through and sheet.pieces_button.text() == "In one piece"
    press(sheet.pieces_button)
    assert store.design.surfaces[0].built.spars[0].through


def test_the_list_scrolls_with_what_is_chosen(leaf):
    _window, sheet = leaf("structure.stock")
    stock = sheet.list
    stock.setFocus()
    for _ in range(4):
        QTest.keyClick(stock, Qt.Key.Key_PageDown)
    assert stock.chosen == 4 * stock.shown_rows() - 1
    assert stock._first <= stock.chosen < stock._first + stock.shown_rows()
    stock.grab()
    assert not stock.rows[-1].holds


def test_the_trail_says_what_the_wing_bears(leaf):
    window, _sheet = leaf("structure")
    from ridgeline.desk.stops import headline

    assert headline(window.store, STOP["structure"]) == "bears 6.9 g of 4.0"


def test_the_usual_joints_are_said_by_one_press_and_judged(open_window):
    bare = put(load("demo:whimbrel"), "fastenings", ())
    window = open_window(bare, first="structure.joints")
    sheet = window.sheets["structure.joints"]
    assert "not said" in sheet.subtitle() and sheet.usual_button.isVisible()
    press(sheet.usual_button)
    assert len(window.store.design.fastenings) == 7 and not sheet.usual_button.isVisible()
    assert sheet.subtitle() == "all 7 hold"


def test_a_joint_is_pressed_typed_added_and_taken_off(leaf):
    window, sheet = leaf("structure.joints")
    store = window.store
    sheet.grab()
    rect = next(rect for rect, index in sheet._places if index == 4 and rect.width() > 100)
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(int(rect.left()) + 60, int(rect.center().y())))
    QApplication.processEvents()
    assert sheet.chosen == 4
    type_into(window.margin.dimensions.fields["fastenings[4].size"], "2 mm")
    assert store.design.fastenings[4].size == pytest.approx(0.002)
    assert store.design.fastenings[4].name in sheet.subtitle() and "gives first" in sheet.subtitle()
    press(sheet.add_buttons["magnets"])
    assert store.design.fastenings[-1].kind == "magnets" and sheet.chosen == len(store.design.fastenings) - 1
    assert store.design.fastenings[-1].of == "s1"
    window.margin.dimensions.words["Holds"].choose("s2")
    assert store.design.fastenings[-1].of == "s2"
    sheet.grab()
    press(sheet.remove_button)
    assert [one.kind for one in store.design.fastenings].count("magnets") == 0 and sheet.chosen is None
    for kind, button in sheet.add_buttons.items():
        press(button)
        assert store.design.fastenings[-1].kind == kind and window.margin.dimensions.fields
        sheet.grab()
