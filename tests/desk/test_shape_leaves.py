"""The leaves of the Shape: solid, sections, trim, control and the gallery, driven by mouse and keys."""

import math

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.paths import put
from ridgeline.desk.exporting import write
from ridgeline.desk.stops import STOP
from ridgeline.engine.aero.sections import FORMS, section
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.files.design_file import load
from ridgeline.files.section_file import read_section, section_text
from ridgeline.library import demo_names


def turn(desk, key):
    desk.open_sheet(key)
    QApplication.processEvents()
    return desk.sheet


def test_the_leaves_are_turned_by_pressing_their_words_and_stay_at_one_stop(desk):
    turn(desk, "shape")
    for key, _word in [(leaf.key, leaf.word) for leaf in STOP["shape"].leaves]:
        press(desk.sheet.leaf_buttons[key])
        assert desk.open_key == key
        assert desk.trail.buttons["shape"].isChecked()
        assert desk.margin.findings.views and not desk.sheet.grab().isNull()


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("key", [key for key, _word in [(leaf.key, leaf.word) for leaf in STOP["shape"].leaves]])
def test_every_leaf_paints_every_demo_small_and_large(open_window, name, key):
    window = open_window(load(f"demo:{name}"), first=key, size=(1100, 700))
    window.grab()
    window.resize(1920, 1080)
    QApplication.processEvents()
    assert not window.grab().isNull()


@pytest.mark.parametrize("key", [key for key, _word in [(leaf.key, leaf.word) for leaf in STOP["shape"].leaves]])
def test_every_leaf_paints_without_an_airframe(open_window, key):
    window = open_window(first=key)
    assert not window.grab().isNull()
    assert window.sheet.empty == (key not in ("shape.start", "shape.body"))


def send(sheet, kind, at):
    held = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseButtonRelease else Qt.MouseButton.LeftButton
    place = QPointF(at)
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    event = QMouseEvent(kind, place, sheet.mapToGlobal(place), left, held, none)
    QApplication.sendEvent(sheet, event)


def test_the_solid_turns_with_the_hand_and_the_arrow_keys(desk):
    sheet = turn(desk, "shape.solid")
    before = sheet.picture()
    send(sheet, QEvent.Type.MouseButtonPress, QPoint(300, 300))
    send(sheet, QEvent.Type.MouseMove, QPoint(360, 280))
    send(sheet, QEvent.Type.MouseButtonRelease, QPoint(360, 280))
    assert sheet.turn == pytest.approx(math.radians(38 - 24)) and sheet.tilt == pytest.approx(math.radians(24 - 8))
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    assert sheet.turn == pytest.approx(math.radians(19))
    after = sheet.picture()
    assert len(after.faces) > 50 and not np.array_equal(before.faces, after.faces)
    press(sheet.buttons[3])
    assert math.degrees(sheet.tilt) == pytest.approx(89)
    assert desk.store.history.undo_label is None


def test_pressing_a_form_sets_the_section_of_the_chosen_surface(desk):
    sheet = turn(desk, "shape.section")
    for form in FORMS:
        press(sheet.forms[form])
        assert desk.store.design.surfaces[0].section == form
        sheet.grab()
    press(sheet.surfaces[1])
    press(sheet.forms["symmetrical"])
    assert desk.store.design.surfaces[1].section == "symmetrical"
    assert desk.store.design.surfaces[0].section == list(FORMS)[-1]


def test_another_sheet_is_typed_in_any_unit_and_moves_the_mean_line(desk):
    sheet = turn(desk, "shape.section")
    before = desk.store.report.value("trim.alpha")
    type_into(desk.margin.dimensions.fields["surfaces[0].sheet"], "3/8 in")
    assert desk.store.design.surfaces[0].sheet == pytest.approx(0.009525)
    assert desk.store.report.value("trim.alpha") != before
    sheet.grab()


def test_a_coordinate_file_is_read_reported_and_written_back(desk, tmp_path):
    sheet = turn(desk, "shape.section")
    outline = section("semi_symmetrical", 0.14, 0.02).outline
    place = tmp_path / "mine.dat"
    place.write_text(section_text("Made up 14", 100 * outline, "blocks") + "and a remark\n")
    sheet.read(place)
    wing = desk.store.design.surfaces[0]
    assert wing.section == "profile" and wing.profile.name == "Made up 14"
    assert any("scaled" in words for words in sheet.report) and any("left out" in words for words in sheet.report)
    sheet.grab()
    for ordering, key in (("round", "section"), ("blocks", "section_halves")):
        write(desk.store, key, tmp_path / f"{ordering}.dat")
        found = read_section(tmp_path / f"{ordering}.dat")
        assert found.ordering == ordering
        assert np.allclose(np.array(found.profile.points), np.array(wing.profile.points), atol=1e-5)
    desk.store.undo()
    assert desk.store.design.surfaces[0].section == "stepped_plate"


def test_a_file_that_is_no_section_changes_nothing_and_says_why(desk, tmp_path):
    sheet = turn(desk, "shape.section")
    place = tmp_path / "letter.dat"
    place.write_text("Dear club,\n\nthe seals are back.\n")
    before = desk.store.design
    sheet.read(place)
    assert desk.store.design is before and "points" in desk.notice.words


def test_a_way_to_trim_shows_its_ghost_and_is_set_by_a_press(desk):
    sheet = turn(desk, "shape.trim")
    button = sheet.buttons["wing"]
    button.rested.emit(True)
    assert desk.store.ghost is not None
    assert desk.store.ghost[1].value("trim.elevator") == pytest.approx(0, abs=0.003)
    sheet.grab()
    press(button)
    assert desk.store.report.value("trim.elevator") == pytest.approx(0, abs=0.003)
    desk.store.undo()
    assert desk.store.design.surfaces[1].incidence == 0


def test_the_bodys_angle_and_the_cruise_are_typed_in_the_sentence(desk):
    sheet = turn(desk, "shape.trim")
    type_into(sheet.body, "2 deg")
    assert desk.store.design.brief.body_angle == pytest.approx(math.radians(2))
    way = next(w for w in desk.store.report.results.trim.settings if w.held == "body")
    assert way.alpha == pytest.approx(math.radians(2))
    type_into(sheet.ratio, "2")
    assert desk.store.report.value("speed.cruise") == pytest.approx(2 * desk.store.report.value("speed.stall"))


def test_a_control_is_dragged_on_the_plan_and_its_throws_typed(desk):
    sheet = turn(desk, "shape.control")
    before = desk.store.design.surfaces[0].controls[0]
    rolled = desk.store.report.value("control.roll_helix")
    drag(sheet.handles[(0, 0, "start")], -30, 0)
    after = desk.store.design.surfaces[0].controls[0]
    assert after.start == pytest.approx(before.start - 30 / sheet.scale, abs=2 / sheet.scale)
    assert after.end == before.end
    assert desk.store.report.value("control.roll_helix") > rolled
    assert desk.store.spot().path == "surfaces[0].controls[0]"
    type_into(desk.margin.dimensions.fields["surfaces[0].controls[0].up"], "20")
    assert desk.store.design.surfaces[0].controls[0].up == pytest.approx(math.radians(20))


def test_a_control_is_added_given_another_kind_and_removed(desk):
    sheet = turn(desk, "shape.control")
    press(sheet.add)
    controls = desk.store.design.surfaces[0].controls
    assert len(controls) == 2 and controls[1].kind == "flap"
    assert desk.store.report.value("speed.stall_flaps") is not None
    sheet.kind.choose("flaperon")
    assert desk.store.design.surfaces[0].controls[1].kind == "flaperon"
    sheet.grab()
    press(sheet.remove)
    assert len(desk.store.design.surfaces[0].controls) == 1


@pytest.mark.parametrize("layout", ["canard", "delta", "twin_boom"])
def test_pressing_a_silhouette_lays_the_layout_out_as_one_step(desk, layout):
    before = desk.store.design
    sheet = turn(desk, "shape.start")
    assert set(sheet.layouts) == set(ARRANGEMENTS) and len(sheet.layouts) >= 10
    press(sheet.layouts[layout])
    assert desk.store.design.brief.layout == layout and desk.store.design.name == before.name
    assert desk.open_key == "shape"
    desk.store.undo()
    assert desk.store.design == before


def test_a_silhouette_starts_an_empty_design_too(open_window):
    window = open_window(first="shape.start")
    press(window.sheet.layouts["plank"])
    assert window.store.design.surfaces and window.store.report.value("stability.static_margin") is not None


def test_wishes_that_leave_no_wing_are_refused_in_words(desk):
    desk.store.put("brief.span_limit", 0.25, "narrow")
    sheet = turn(desk, "shape.start")
    before = desk.store.design
    press(sheet.layouts["conventional"])
    assert desk.store.design is before and "aspect ratio" in desk.notice.words


def test_names_as_long_as_they_come_still_paint(open_window, whimbrel):
    long = put(whimbrel, "surfaces[0].name", "A wing with a name that goes on and on past every column")
    for key, _word in [(leaf.key, leaf.word) for leaf in STOP["shape"].leaves]:
        assert not open_window(long, first=key, size=(1100, 700)).grab().isNull()
