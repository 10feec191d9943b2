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
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.stops import STOP, headline
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names
from twin_motors import twin

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
        sheet.grab()
        assert sheet.subtitle()
        for row in sheet.linking.rows if key == "controls" else ():
            sheet.choose(row.control.id)
            sheet.grab()
            assert row.control.kind in sheet.subtitle()
    assert not caplog.records, "a fault in a drawing is logged"


@pytest.mark.parametrize("key", LEAVES)
def test_without_linkages_they_are_said_by_one_press(leaf, caplog, key):
    bare = put(put(load("demo:whimbrel"), "linkages", ()), "radio", None)
    window, sheet = leaf(key, design=bare)
    sheet.grab()
    assert "not said yet" in sheet.subtitle() and sheet.usual_button.isVisible()
    assert headline(window.store, STOP["controls"]) == "not linked yet"
    press(sheet.usual_button)
    assert len(window.store.design.linkages) == 2 and not sheet.usual_button.isVisible()
    assert headline(window.store, STOP["controls"]).startswith("servos at ")
    for design in (Design(), put(bare, "surfaces[0].controls", ())):
        window, sheet = leaf(key, design=design)
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


# -- the radio --------------------------------------------------------------------------------------------------------


def test_sticks_move_the_surfaces_under_the_hand_and_spring_back(leaf):
    _window, sheet = leaf("controls.radio")
    radio = sheet.store.design.radio
    still = sheet.grab().toImage()
    seen = []
    grabbed = sheet._let_go_right
    sheet._let_go_right = lambda: None
    sheet.right._done = lambda: (seen.append(dict(sheet.sticks)), grabbed())
    drag(sheet.right, 30, 24)
    assert seen[0]["roll"] == pytest.approx(30 / 48, abs=0.03) and seen[0]["pitch"] == pytest.approx(0.5, abs=0.03)
    assert sheet.sticks["roll"] == sheet.sticks["pitch"] == 0.0, "it springs back"
    sheet.move(roll=1.0)
    assert sheet.grab().toImage() != still
    port, *_rest, starboard = sheet.here.outputs
    angles = [one.moved.angle(one.row.linkage, radio, sheet.sticks) for one in (port, starboard)]
    assert angles[0] > 0 > angles[1], "right stick: port aileron down, starboard up"
    drag(sheet.left, 0, -40)
    assert sheet.sticks["throttle"] == pytest.approx(40 / 96, abs=0.03) and sheet.sticks["yaw"] == 0.0
    sheet.move(roll=5.0, throttle=-1.0)
    assert sheet.sticks["roll"] == 1.0 and sheet.sticks["throttle"] == 0.0


def test_arrow_keys_move_a_stick(leaf):
    _window, sheet = leaf("controls.radio")
    sheet.right.setFocus()
    QTest.keyClick(sheet.right, Qt.Key.Key_Right)
    QApplication.processEvents()
    assert sheet.sticks["roll"] > 0


def test_a_press_reverses_a_channel_and_the_table_tells_what_goes_wrong(leaf):
    window, sheet = leaf("controls.radio")
    store = window.store
    assert "right way" in sheet.subtitle()
    sheet.grab()
    rect, k = sheet._channels[0]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=rect.center().toPoint())
    QApplication.processEvents()
    assert store.design.radio.channels[k].reversed and sheet.subtitle() == "one movement goes the wrong way"
    assert [f.level for f in store.report.findings if f.key == "controls.way.c26"] == ["stop"]
    store.undo()
    assert "right way" in sheet.subtitle()


def test_rates_and_trims_are_typed(leaf):
    window, sheet = leaf("controls.radio")
    fields = window.margin.dimensions.fields
    type_into(fields["radio.rates[0].expo"], "40 %")
    type_into(fields["radio.channels[0].sub_trim"], "5 %")
    radio = window.store.design.radio
    assert radio.rates[0].expo == pytest.approx(0.4) and radio.channels[0].sub_trim == pytest.approx(0.05)
    sheet.grab()


def test_flaps_are_let_down_where_there_are_some(leaf):
    design = load("demo:lapwing")
    flap = design.surfaces[0].controls[0].model_copy(update={"id": "", "kind": "flap", "start": 0.05, "end": 0.2})
    with_flaps = put(design, "surfaces[0].controls", (*design.surfaces[0].controls, flap))
    _window, sheet = leaf("controls.radio", design=with_flaps)
    assert not sheet.flap_button.isVisible(), "nothing moves them yet"
    usual = put(put(with_flaps, "linkages", ()), "radio", None)
    _window, sheet = leaf("controls.radio", design=usual)
    press(sheet.usual_button)
    if any(row.control.kind == "flap" for row in sheet.linking.rows):
        press(sheet.flap_button)
        assert sheet.sticks["flap"] == 1.0
        sheet.grab()


@pytest.mark.parametrize("size", [(1280, 800), (1100, 700)])
def test_turns_by_thrust_are_said_over_spread_mix_and_without_the_fin(leaf, monkeypatch, size):
    said, written = {}, Sheet.written

    def spy(sheet, p, x, y, words, key, *more, **named):
        said.setdefault(key, []).append(words)
        return written(sheet, p, x, y, words, key, *more, **named)

    monkeypatch.setattr(Sheet, "written", spy)
    window, sheet = leaf("controls.radio", design=twin(load("demo:lapwing")), size=size)
    sheet.grab()
    radius = window.store.report.value("control.thrust_radius")
    spread, mixed = said["control.thrust_radius"][:2]
    assert spread in (
        f"300, 600, 1200 mm: {2 * radius:.0f}, {radius:.0f}, {radius / 2:.0f} m",
        f"600, 1200 mm: {radius:.0f}, {radius / 2:.0f} m",
    )
    assert f" {radius:.0f}, " in mixed and "%" in mixed
    assert said["control.thrust_slip_bare"][0] == "spins round"
