import json

import pytest
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QWidget

from conftest import drag, press, type_into
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.desk.paint import width_of
from ridgeline.desk.sheets.base import mostly
from ridgeline.desk.stops import LEAVES, STOP, STOPS, headline
from ridgeline.desk.theme import VALUE, VITAL, dress, theme
from ridgeline.desk.title_block import value_size
from ridgeline.desk.trail import state_of
from ridgeline.desk.widgets.fields import Note, PathField
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import TITLE_BLOCK
from ridgeline.files import choices, desk_memory
from ridgeline.files.design_file import save, to_text
from ridgeline.files.journal import read_journal
from ridgeline.files.sittings import leftovers

ALIVE = [stop.key for stop in STOPS if stop.alive]


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800), (1920, 1080)])
@pytest.mark.parametrize("key", ALIVE)
def test_every_sheet_paints_at_every_size_with_a_design_and_without(open_window, whimbrel, key, size):
    for design in (whimbrel, None):
        window = open_window(design, first=key, size=size)
        image = window.grab().toImage()
        colours = {image.pixelColor(x, y).name() for x in range(180, size[0], 11) for y in range(30, size[1], 11)}
        assert len(colours) > 4
        for child in window.sheet.findChildren(QWidget):
            if child.isVisible() and child.parentWidget() is window.sheet and not isinstance(child, Handle):
                assert window.sheet.rect().intersects(child.geometry()), child.accessibleName()


def test_alt_and_a_number_opens_each_stop(desk):
    for number, key in enumerate((stop.key for stop in STOPS), start=1):
        if key not in ALIVE:
            continue
        QTest.keyClick(desk, Qt.Key(Qt.Key.Key_0 + number), Qt.KeyboardModifier.AltModifier)
        assert desk.open_key == key and desk.trail.buttons[key].isChecked()


def test_stops_to_come_are_drawn_but_cannot_be_opened(desk):
    for stop in STOPS:
        if not stop.alive:
            press(desk.trail.buttons[stop.key])
            assert desk.open_key == "balance"
            assert "not yet" in desk.trail.buttons[stop.key].accessibleName()


def test_the_trail_tells_headline_and_state(desk, whimbrel):
    store = desk.store
    assert headline(store, STOP["weights"]) == "759 of 850 g"
    assert "V-tail" in headline(store, STOP["shape"])
    assert state_of(store, "balance") == "look" and state_of(store, "power") == "settled"
    store.put("brief.ceiling", 0.6, "test")
    assert state_of(store, "weights") == "stop"
    store.start(Design(), None)
    assert state_of(store, "weights") == "untouched"


def test_every_control_has_a_name_a_screen_reader_can_say(desk):
    for key in ALIVE:
        desk.open_sheet(key)
        for kind in (Handle, QLineEdit):
            for widget in desk.findChildren(kind):
                if not widget.objectName().startswith("qt_"):
                    assert widget.accessibleName(), f"{key}: {widget}"


@pytest.mark.parametrize("key", TITLE_BLOCK)
def test_every_cell_of_the_title_block_opens_its_working(desk, key):
    cell = next(c for c in desk.title_block.cells if c.key == key)
    press(cell)
    assert desk.working.isVisible() and desk.working.key == key
    assert cell.isChecked()
    desk.working.wait()
    QApplication.processEvents()
    assert desk.working.influences and desk.working.input.count() > 0
    desk.working.grab()
    press(cell)
    assert not desk.working.isVisible()


def test_escape_closes_the_working(desk):
    desk.show_working("balance.cg_fraction")
    QTest.keyClick(desk.working, Qt.Key.Key_Escape)
    assert not desk.working.isVisible()
    assert not any(cell.isChecked() for cell in desk.title_block.cells)


def test_a_term_that_is_a_figure_leads_on_to_its_own_working(desk):
    desk.show_working("stability.static_margin")
    desk.working.grab()
    box, key = desk.working._traces[0]
    QTest.mouseClick(desk.working, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
    assert desk.working.key == key == "stability.neutral_in_flight"


def test_solve_for_in_the_working_reaches_the_wish_and_is_one_undo(desk):
    desk.show_working("mass.auw")
    desk.working.wait()
    QApplication.processEvents()
    before = desk.store.design
    type_into(desk.working.wish, "27 oz")
    assert desk.store.report.value("mass.auw") == pytest.approx(27 * 0.028349523, abs=1e-6)
    desk.store.undo()
    assert desk.store.design is before


def test_a_wish_out_of_reach_is_said_and_changes_nothing(desk):
    desk.show_working("stability.static_margin")
    desk.working.wait()
    QApplication.processEvents()
    before = desk.store.design
    type_into(desk.working.wish, "bananas")
    assert "bananas" in desk.working._message and desk.store.design is before


def test_a_remedy_shows_its_ghost_and_is_applied_by_a_press(desk):
    button = desk.margin.findings.views[0].buttons[0]
    button.rested.emit(True)
    assert desk.store.ghost is not None and desk.margin.ghost.isVisible()
    desk.grab()
    button.rested.emit(False)
    assert desk.store.ghost is None and not desk.margin.ghost.isVisible()
    press(button)
    report = desk.store.report
    assert report.value("balance.cg_fraction") == pytest.approx(report.value("balance.first_flight"), abs=1e-6)
    assert desk.store.history.undo_label.startswith("Slide pack")


def test_dragging_the_pack_is_live_clipped_to_its_rail_and_one_undo(desk):
    store, sheet = desk.store, desk.sheet
    before, seen = store.design, []
    store.changed.connect(lambda: seen.append(store.report.value("balance.cg_x")))
    drag(sheet.pack, -20, 0, steps=5)
    assert len(seen) == 5 and seen == sorted(seen, reverse=True)
    moved = store.design.parts[0].x - before.parts[0].x
    assert moved * sheet.scale == pytest.approx(-20, abs=1.5)
    store.undo()
    assert store.design is before
    drag(sheet.pack, 900, 0)
    rail = store.design.parts[0].rail
    assert store.design.parts[0].x == pytest.approx(rail.back - rail.item_length / 2, abs=1e-5)


def test_findings_follow_a_drag_within_a_moment_and_at_once_when_it_ends(desk, qtbot):
    store = desk.store
    before = store.findings
    store.put("parts[0].x", 0.16, "Slide pack", merge="pack")
    assert store.report.value("balance.cg_fraction") != pytest.approx(0.3) and store.findings is before
    qtbot.waitUntil(lambda: store.findings is store.report.findings, timeout=5000)
    shown = [view.finding for view in desk.margin.findings.views]
    assert [f for f in shown if f.key != "balance.moved"] == [f for f in store.findings if f.stop == "balance"]
    store.put("parts[0].x", 0.17, "Slide pack", merge="pack")
    assert store.findings is not store.report.findings
    store.seal()
    assert store.findings is store.report.findings
    store.undo()
    assert store.findings is store.report.findings


def test_arrow_keys_move_the_pack(desk):
    x = desk.store.design.parts[0].x
    desk.sheet.pack.setFocus()
    QTest.keyClick(desk.sheet.pack, Qt.Key.Key_Left)
    assert desk.store.design.parts[0].x < x


def test_undo_and_redo_by_button_and_key(desk):
    desk.store.put("name", "Other", "rename")
    assert desk.bar.undo.text() == "Undo rename"
    press(desk.bar.undo)
    assert desk.store.design.name == "Saltmarsh Whimbrel"
    assert desk.bar.redo.text() == "Redo rename"
    QTest.keyClick(desk, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert desk.store.design.name == "Other"
    QTest.keyClick(desk, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert desk.store.design.name == "Saltmarsh Whimbrel"
    assert not desk.bar.undo.isEnabled()


@pytest.mark.parametrize("text", ["12 bananas", "-5", "nan", "0", "1e9"])
def test_a_wrong_value_is_refused_where_it_was_typed_and_kept_for_correction(desk, text):
    desk.open_sheet("shape")
    field = desk.margin.dimensions.fields["surfaces[0].stations[2].chord"]
    before = desk.store.design
    type_into(field, text)
    note = desk.findChild(Note)
    assert desk.store.design is before
    assert note.isVisible() and "Understood" in note.text() and "Allowed" in note.text()
    assert field.text() == text and field.property("wrong") == "true"
    assert desk.rect().contains(note.geometry())
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "141" and not note.isVisible() and field.property("wrong") == "false"


def test_a_right_value_after_a_wrong_one_is_taken(desk):
    desk.open_sheet("shape")
    field = desk.margin.dimensions.fields["surfaces[0].stations[2].chord"]
    type_into(field, "12 bananas")
    type_into(field, "5.5 in")
    assert desk.store.design.surfaces[0].stations[2].chord == pytest.approx(0.1397)
    assert not desk.findChild(Note).isVisible()


def test_switching_units_changes_what_is_shown_and_what_a_bare_number_means(desk):
    desk.open_sheet("shape")
    QTest.keyClick(desk, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    field = desk.margin.dimensions.fields["surfaces[0].stations[2].chord"]
    assert field.text() == "5.55"
    type_into(field, "6")
    assert desk.store.design.surfaces[0].stations[2].chord == pytest.approx(0.1524)
    assert choices.remembered()["units"] == "imperial"
    desk.grab()


def test_light_and_dark_are_switched_and_remembered(desk, qapp):
    try:
        QTest.keyClick(desk, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
        assert theme.dark and choices.remembered()["theme"] == "dark"
        image = desk.grab().toImage()
        assert image.pixelColor(600, 40).lightness() < 60
    finally:
        dress(qapp, "light")


def test_a_bad_file_is_refused_in_one_line_and_nothing_changes(desk, tmp_path):
    before = desk.store.design
    for name, text in (
        ("empty", ""),
        ("cut", to_text(before)[:500]),
        ("future", '{"format": "ridgeline", "format_version": 9}'),
    ):
        path = tmp_path / f"{name}.ridge"
        path.write_text(text, "utf-8")
        assert not desk.open(path)
        assert desk.store.design is before
        assert desk.notice.isVisible() and "allowed" in desk.notice.words


def test_a_dropped_file_opens(desk, tmp_path, whimbrel):
    path = save(put(whimbrel, "name", "Dropped"), tmp_path / "dropped.ridge")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    event = QDropEvent(
        QPoint(10, 10), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    desk.dropEvent(event)
    assert desk.store.design.name == "Dropped"
    assert desk_memory.recent_files() == [str(path)]


def test_save_asks_once_and_then_saves_to_the_same_file(desk, tmp_path, monkeypatch):
    asked = []

    def answer(*_args):
        asked.append(1)
        return str(tmp_path / "plane"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", answer)
    desk.filing.save()
    desk.store.put("name", "Second", "rename")
    assert desk.store.unsaved and "*" in desk.windowTitle()
    QTest.keyClick(desk, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert asked == [1] and not desk.store.unsaved
    assert json.loads((tmp_path / "plane.ridge").read_text("utf-8"))["name"] == "Second"
    assert (tmp_path / "plane.ridge~").exists()


def test_closing_with_unsaved_work_keeps_it_and_the_next_start_offers_it(open_window, whimbrel):
    first = open_window(whimbrel)
    first.store.put("name", "Half done", "rename")
    first.close()
    second = open_window(first="brief")
    second.filing.start()
    panel = second.filing.leftovers
    assert panel.isVisible() and [(left.name, left.edits) for left in panel.rows] == [("Half done", 1)]
    press(panel.buttons[0][0])
    assert second.store.design.name == "Half done" and second.store.unsaved and not panel.isVisible()
    assert second.store.history.undo_label == "Bring back 1 edit"
    second.store.undo()
    assert second.store.design == whimbrel
    assert leftovers() == ([], [])


def test_saving_forgets_the_recovery_copy(open_window, whimbrel, tmp_path):
    window = open_window(whimbrel)
    window.store.put("name", "Kept", "rename")
    assert window.store.keep_unsaved()
    journal = window.store._sitting.path
    assert len(read_journal(journal).edits) == 1 and leftovers() == ([], [])
    window.store.save(tmp_path / "kept.ridge")
    assert window.store.keep_unsaved() and read_journal(journal).edits == []
    window.close()
    assert not journal.exists()


def test_opening_another_design_keeps_unsaved_work_of_the_first(desk):
    desk.store.put("name", "Not saved", "rename")
    desk.new()
    assert desk.store.design == Design()
    assert [left.name for left in leftovers()[0]] == ["Not saved"]


def test_the_command_line_finds_figures_parts_and_stops(desk):
    desk.bar.command.run("neutral point – figure")
    assert desk.working.key.startswith("stability.neutral_point")
    desk.bar.command.run("camera")
    assert desk.open_key == "weights" and desk.store.spot().path == "parts[3]"
    type_into(desk.bar.command, "shape")
    assert desk.open_key == "shape"
    desk.bar.command.run("zeppelin")
    assert "zeppelin" in desk.notice.words


def test_an_empty_design_points_the_way_to_the_brief(open_window):
    window = open_window(first="balance")
    assert window.sheet.empty
    press(window.sheet._empty_button)
    assert window.open_key == "brief"


def test_a_very_long_name_stays_inside_the_title_block(open_window, whimbrel):
    window = open_window(put(whimbrel, "name", "Saltmarsh Whimbrel of the northern estuary, third winter, long wing"))
    block = window.title_block
    assert block.name.geometry().right() <= block.width()
    window.grab()


def test_fields_follow_the_design_they_show(desk):
    desk.open_sheet("shape")
    fields = [f for f in desk.findChildren(PathField) if f.isVisible() and f.path.startswith("surfaces")]
    assert len(fields) > 8
    desk.store.put("surfaces[0].stations[2].chord", 0.2, "test")
    shown = {f.path: f.text() for f in fields}
    assert shown["surfaces[0].stations[2].chord"] == "200"
    assert evaluate(desk.store.design).value("wing.area") == desk.store.report.value("wing.area")


def test_where_findings_do_not_fit_the_settled_fold_and_a_press_says_why(open_window, whimbrel):
    window = open_window(whimbrel, first="power", size=(1100, 700))
    findings = window.margin.findings
    views = findings.views
    assert findings.height() <= findings.parentWidget().height() or all(v._folded for v in views if v.foldable)
    folded = next(view for view in reversed(views) if view._folded)
    low = folded.height()
    QTest.mouseClick(folded, Qt.MouseButton.LeftButton)
    assert folded.height() > low and not folded._folded
    window.grab()
    window.resize(1280, 1400)
    QApplication.processEvents()
    assert not any(view._folded for view in findings.views)


def test_every_leaf_has_its_row_its_sheet_and_its_way_from_the_command_line(desk):
    """One table says what there is: sheets, the words they are turned by, and --sheet."""
    for stop in STOPS:
        assert not stop.leaves or stop.leaves[0].key == stop.key
        for leaf in stop.leaves:
            desk.open_sheet(leaf.key)
            assert desk.sheet.key == leaf.key and desk.sheet.stop == stop.key
            assert list(desk.sheet.leaf_buttons) == ([one.key for one in stop.leaves] if len(stop.leaves) > 1 else [])
    assert "Match – sheet of Power" in desk.bar.command.entries()
    assert set(desk.sheets) == set(LEAVES)


def test_what_a_sheet_says_beside_its_name_is_whole_mostly_whole_or_not_there(qapp):
    words = "Fuselage, 464 mm, 2.32 litres"
    whole = width_of(words)
    assert mostly(words, whole + 1) == words
    most = mostly(words, 0.75 * whole)
    assert most.endswith("…") and len(most) >= 0.6 * len(words)
    assert mostly(words, 0.5 * whole) == "" and mostly("", 40) == ""


def test_a_value_that_leaves_its_band_no_room_is_written_smaller(qapp):
    wide = width_of("11693", VITAL)
    assert value_size("11693", wide / 0.47) == VITAL and value_size("11693", wide / 0.49) == VALUE
