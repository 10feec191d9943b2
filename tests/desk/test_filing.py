"""Files and the window: doubts are asked in the strip, what was left is listed, nothing is covered or lost."""

import os

import pytest
from PySide6.QtCore import QEvent, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMainWindow

from conftest import press, type_into
from ridgeline.design.arms import chord_at
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.design.wording import differing, words_of
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.files.design_file import load, save, to_text
from ridgeline.files.sittings import leftovers


def strip(window):
    """Return what the notice says and its buttons by their words."""
    return window.notice.words, {button.text(): button for button in window.notice.buttons}


@pytest.fixture
def kept(open_window, whimbrel, tmp_path):
    """A window on a saved file."""
    path = save(whimbrel, tmp_path / "plane.ridge")
    window = open_window()
    assert window.open(path)
    return window, path


def elsewhere(path, name="Changed elsewhere"):
    path.write_text(to_text(load(path).model_copy(update={"name": name})))


def test_a_file_changed_on_disk_is_not_overwritten_unasked(kept):
    window, path = kept
    window.store.put("name", "Mine", "rename")
    elsewhere(path)
    window.filing.save()
    words, answers = strip(window)
    assert "changed by something else" in words and load(path).name == "Changed elsewhere"
    assert list(answers) == ["Overwrite", "Reload", "Compare", "Save as…"]
    press(answers["Compare"])
    panel = window.filing.compare
    assert panel.isVisible() and [(d.label, d.before, d.after) for d in panel.differing] == [
        ("Name", "Changed elsewhere", "Mine")
    ]
    QTest.keyClick(panel, Qt.Key.Key_Escape)
    words, answers = strip(window)
    assert not panel.isVisible() and "changed by something else" in words, "looking answers nothing"
    press(answers["Overwrite"])
    assert load(path).name == "Mine" and not window.store.unsaved
    assert load(path.with_name("plane.ridge~")).name == "Changed elsewhere"


def test_reload_takes_the_file_and_undo_brings_the_work_back(kept):
    window, path = kept
    window.store.put("name", "Mine", "rename")
    elsewhere(path)
    window.filing.save()
    press(strip(window)[1]["Reload"])
    assert window.store.design.name == "Changed elsewhere" and not window.store.unsaved
    window.store.undo()
    assert window.store.design.name == "Mine"
    assert window.store.save() and load(path).name == "Mine", "what was reloaded may be overwritten"


def test_a_change_on_disk_is_said_when_the_window_is_looked_at_and_once(kept):
    window, path = kept
    window.filing.look_at_file()
    assert "changed" not in window.notice.words
    elsewhere(path)
    window.filing.look_at_file()
    assert "changed by something else" in window.notice.words
    window.notice.dismiss()
    window.filing.look_at_file()
    assert not window.notice.isVisible()
    elsewhere(path, "And again")
    os.utime(path, ns=(5, 5))
    window.filing.look_at_file()
    assert window.notice.isVisible()


def test_a_read_only_file_is_asked_about_and_stays_read_only(kept):
    window, path = kept
    path.chmod(0o444)
    window.store.put("name", "Mine", "rename")
    window.filing.save()
    words, answers = strip(window)
    assert "read-only" in words and load(path).name == "Saltmarsh Whimbrel"
    press(answers["Overwrite it all the same"])
    assert load(path).name == "Mine" and path.stat().st_mode & 0o777 == 0o444


def test_one_press_answers_one_doubt(kept):
    window, path = kept
    window.store.put("name", "Mine", "rename")
    elsewhere(path)
    path.chmod(0o444)
    # The window has seen that the file changed; it does not say so again on top of what follows.
    window.filing.look_at_file()
    window.filing.save()
    first, answers = strip(window)
    press(next(button for word, button in answers.items() if word.startswith("Overwrite")))
    second, answers = strip(window)
    # Both are asked, each for itself, and nothing is written before both are answered.
    assert {"changed by something else" in first, "changed by something else" in second} == {True, False}
    assert {"read-only" in first, "read-only" in second} == {True, False}
    assert load(path).name == "Changed elsewhere"
    press(next(button for word, button in answers.items() if word.startswith("Overwrite")))
    assert load(path).name == "Mine" and window.filing._agreed == ()


def test_the_suffix_comes_before_the_question_and_another_file_is_not_overwritten_unasked(kept, tmp_path, monkeypatch):
    window, _path = kept
    save(Design(name="Precious"), tmp_path / "other.ridge")
    asked = []

    def dialog(*arguments):
        asked.append(arguments[2])
        return str(tmp_path / "other"), ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", dialog)
    window.filing.choose_save()
    words, answers = strip(window)
    assert words == "other.ridge is there already." and load(tmp_path / "other.ridge").name == "Precious"
    press(answers["Another name…"])
    assert len(asked) == 2
    press(strip(window)[1]["Overwrite"])
    assert load(tmp_path / "other.ridge").name == "Saltmarsh Whimbrel" and window.store.path.name == "other.ridge"


def test_a_design_name_makes_a_safe_file_name(kept, monkeypatch):
    window, _path = kept
    window.store.path = None
    window.store.put("name", "../Plover/2: “fast”", "rename")
    asked = []
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (asked.append(a[2]), ("", ""))[1])
    window.filing.choose_save()
    assert asked == ["Plover 2 “fast”.ridge"]


def test_an_export_over_another_file_is_asked_about(kept, tmp_path, monkeypatch):
    window, _path = kept
    window.open_sheet("weights")
    (tmp_path / "items.csv").write_text("precious")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "items"), ""))
    press(window.sheet.write_button)
    words, answers = strip(window)
    assert words == "items.csv is there already." and (tmp_path / "items.csv").read_text() == "precious"
    press(answers["Overwrite"])
    assert (tmp_path / "items.csv").read_text().startswith("item,")


def test_earlier_saves_are_listed_and_gone_back_to_as_one_step(kept):
    window, _path = kept
    window.filing.fill_earlier(window.earlier)
    assert [a.text() for a in window.earlier.actions()] == ["none kept"]
    for name in ("One", "Two"):
        window.store.put("name", name, "rename")
        window.store.save()
    window.filing.fill_earlier(window.earlier)
    assert [a.text() for a in window.earlier.actions()] == ["Before the last save", "2 saves ago"]
    window.earlier.actions()[1].trigger()
    assert window.store.design.name == "Saltmarsh Whimbrel"
    window.store.undo()
    assert window.store.design.name == "Two"


def leave(open_window, whimbrel, path=None, name="Left"):
    window = open_window(whimbrel)
    if path:
        window.open(path)
    window.store.put("name", name, "rename")
    window.store.put("brief.ceiling", 0.9, "ceiling")
    window.store.close()
    return window


def test_all_leftovers_are_listed_with_name_time_edits_and_file(open_window, whimbrel, tmp_path):
    path = save(whimbrel, tmp_path / "plane.ridge")
    leave(open_window, whimbrel, path, "First")
    leave(open_window, whimbrel, None, "Second")
    running = open_window(whimbrel)
    running.store.put("name", "Running", "rename")
    window = open_window(whimbrel)
    window.filing.start()
    panel = window.filing.leftovers
    assert [(left.name, left.edits) for left in panel.rows] == [("Second", 2), ("First", 2)]
    told = [panel._told(left) for left in panel.rows]
    assert "2 edits · never saved to a file" in told[0] and "plane.ridge in" in told[1]
    # Later: nothing is changed, and the menu lists them again.
    press(panel.later)
    assert not panel.isVisible() and len(leftovers()[0]) == 2
    window.filing.offer(asked=True)
    assert panel.isVisible()


def test_work_brought_back_knows_its_file_and_what_changed_there_since(open_window, whimbrel, tmp_path):
    path = save(whimbrel, tmp_path / "plane.ridge")
    leave(open_window, whimbrel, path)
    elsewhere(path)
    window = open_window(first="brief")
    window.filing.start()
    press(window.filing.leftovers.buttons[0][0])
    store = window.store
    assert store.design.name == "Left" and store.unsaved and store.path == path
    assert not store.save() and "changed by something else" in window.notice.words
    store.undo()
    assert store.design == whimbrel and store.history.redo_label == "Bring back 2 edits"
    store.redo()
    # It is kept by this sitting from now on: closed unsaved, it is offered again.
    store.close()
    assert [(left.name, left.file) for left in leftovers()[0]] == [("Left", str(path))]


def test_leftovers_are_compared_with_the_file_as_it_is_or_as_they_began(open_window, whimbrel, tmp_path):
    path = save(whimbrel, tmp_path / "plane.ridge")
    leave(open_window, whimbrel, path)
    window = open_window()
    window.filing.start()
    for gone in (False, True):
        if gone:
            path.unlink()
        press(window.filing.leftovers.buttons[0][1])
        found = window.filing.compare.differing
        assert [(d.label, d.before, d.after) for d in found] == [
            ("Name", "Saltmarsh Whimbrel", "Left"),
            ("Ceiling", 0.85, 0.9),
        ]
        assert window.filing.compare._names[0] == ("as it began" if gone else "plane.ridge")
        window.filing.compare.dismiss()
    assert len(leftovers()[0]) == 1


def test_dropped_work_can_be_taken_back_from_the_strip(open_window, whimbrel):
    leave(open_window, whimbrel)
    window = open_window()
    window.filing.start()
    press(window.filing.leftovers.buttons[0][2])
    words, answers = strip(window)
    assert words == "Dropped Left." and not window.filing.leftovers.isVisible() and leftovers()[0] == []
    press(answers["Take it back"])
    assert window.filing.leftovers.isVisible() and len(leftovers()[0]) == 1


def test_a_second_window_on_the_file_is_told_of_the_first(open_window, whimbrel, kept):
    window, path = kept
    window.store.put("name", "Unsaved", "rename")
    assert window.store.keep_unsaved()
    second = open_window()
    second.open(path)
    assert "open in another window too, with 1 edit not saved" in second.notice.words
    assert "another window" not in window.notice.words
    for _ in range(2):
        window.notice.dismiss()
        window.filing.look_around()
        told = window.notice.isVisible() and "open in another window too." in window.notice.words
        assert told == (_ == 0), "the first is told of the second when it comes to the front, once"


def test_a_data_folder_that_fails_is_said_and_the_window_works(open_window, whimbrel, tmp_path, monkeypatch):
    (tmp_path / "file").write_text("")
    monkeypatch.setenv("RIDGELINE_DATA", str(tmp_path / "file"))
    window = open_window(whimbrel)
    window.filing.start()
    assert "Nothing can be kept in the data folder" in window.notice.words and window.notice.standing
    for sheet in ("brief", "shape", "weights", "balance", "power", "power.bin", "power.bench"):
        window.open_sheet(sheet)
    window.turn_units()
    window.turn_units()
    window.store.put("name", "Works", "rename")
    path = tmp_path / "plane.ridge"
    assert window.store.save(path) and load(path).name == "Works"
    window.store.close()


def test_news_lies_over_a_question_and_the_question_comes_back(desk):
    answered = []
    desk.notice.say("A question.", answers=(("Yes", lambda: answered.append(1)), ("No", lambda: None)))
    desk.notice.say("Some news.")
    assert desk.notice.words == "Some news." and desk.notice.waiting == 1 and not desk.notice.buttons
    desk.notice._timer.timeout.emit()
    assert desk.notice.words == "A question." and len(desk.notice.buttons) == 2
    desk.notice.say("Another question.", answers=(("Yes", lambda: answered.append(2)),))
    press(desk.notice.buttons[0])
    assert answered == [2] and desk.notice.words == "A question."
    press(desk.notice.buttons[0])
    assert answered == [2, 1] and not desk.notice.isVisible()


def test_a_second_notice_is_painted(desk):
    desk.notice.say("The first of two notices.")
    QApplication.processEvents()
    first = desk.notice.grab().toImage()
    desk.notice.say("The second.")
    QApplication.processEvents()
    assert desk.notice.grab().toImage() != first
    desk.notice.say("The second.", grave=True)
    assert desk.notice.standing


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_no_notice_covers_the_leaf_tabs_and_one_that_stands_covers_nothing(open_window, whimbrel, size):
    window = open_window(whimbrel, size=size)
    for standing in (False, True):
        window.notice.say("Something " * 20, answers=(("Yes", lambda: None),) if standing else ())
        QApplication.processEvents()
        notice, sheet = window.notice.geometry(), window.sheet
        assert notice.bottom() < window._stage.height() + 1
        for button in sheet.leaf_buttons.values():
            assert not button.geometry().translated(sheet.pos()).intersects(notice)
        assert sheet.geometry().intersects(notice) != standing
        window.notice.dismiss()
    assert window.sheet.height() == window._stage.height()


@pytest.mark.parametrize(
    ("path", "typed", "said"),
    [
        ("surfaces[0].stations[2].chord", "5 m", ["“5 m”", "3 m or less"]),
        ("surfaces[0].stations[2].chord", "200 in", ["118.1 in or less"]),
        ("surfaces[0].stations[2].chord", "9000", ["“9000”", "3000 mm or less"]),
        ("surfaces[0].stations[2].twist", "200°", ["34.38° or less"]),
        ("surfaces[0].stations[2].twist", "12 bananas", ["an angle such as 12°"]),
        ("surfaces[0].stations[2].twist", "900 mm", ["heights of up to 141 mm"]),
    ],
)
def test_a_refusal_speaks_in_the_unit_typed(open_window, whimbrel, path, typed, said):
    window = open_window(whimbrel, "shape")
    window.store.select("surfaces[0].stations[2]")
    QApplication.processEvents()
    field = window.margin.dimensions.fields[path]
    type_into(field, typed)
    from ridgeline.desk.widgets.fields import Note

    words = window.findChild(Note).text()
    assert all(part in words for part in said) and "a angle" not in words and " rad" not in words.replace("0.2 rad", "")
    assert window.store.design is whimbrel


def test_heights_are_taken_for_angles_and_angles_for_heights(open_window, whimbrel):
    import math

    window = open_window(whimbrel, "shape.control")
    window.store.select("surfaces[0].controls[0]")
    QApplication.processEvents()
    type_into(window.margin.dimensions.fields["surfaces[0].controls[0].up"], "12 mm")
    control, wing = window.store.design.surfaces[0].controls[0], whimbrel.surfaces[0]
    # The travel is largest where the aileron begins, at the inner end of the tapered panel.
    assert 2 * 0.22 * chord_at(wing, control.start) * math.sin(control.up / 2) == pytest.approx(0.012)
    window.open_sheet("shape.section")
    type_into(window.margin.dimensions.fields["surfaces[0].incidence"], "3.8 mm")
    assert wing.stations[0].chord * math.sin(window.store.design.surfaces[0].incidence) == pytest.approx(0.0038)
    type_into(window.margin.dimensions.fields["surfaces[0].warp_port"], "2°")
    tip = wing.stations[-1].chord
    assert window.store.design.surfaces[0].warp_port == pytest.approx(tip * math.sin(math.radians(2)))


def test_a_field_grows_with_what_is_typed_and_shows_all_of_it(open_window, whimbrel):
    window = open_window(whimbrel, "shape")
    window.store.select("surfaces[0].stations[2]")
    QApplication.processEvents()
    field = window.margin.dimensions.fields["surfaces[0].stations[2].chord"]
    home = field.geometry()
    type_into(field, "1 ft 3 7/16 in and more than fits", enter=False)
    assert (
        field.width() >= field.fontMetrics().horizontalAdvance(field.text())
        and field.geometry().right() == home.right()
    )
    QTest.keyClick(field, Qt.Key.Key_Escape)
    window.sheet.setFocus()
    QApplication.processEvents()
    assert field.geometry() == home


def test_a_sheet_that_cannot_be_drawn_says_why(desk, monkeypatch, caplog):
    painters = []

    def broken(p):
        painters.append(p)
        raise KeyError("lost")

    monkeypatch.setattr(desk.sheet, "draw", broken)
    desk.sheet.update()
    picture = desk.sheet.grab().toImage()
    monkeypatch.undo()
    # The log holds the trace, and the trace the painter: it must not go on holding the picture.
    assert not any(p.isActive() for p in painters)
    assert desk.sheet.grab().toImage() != picture and "was not drawn" in caplog.text


@pytest.mark.parametrize(
    "changes", [{"ceiling": 5.0}, {"tail_volume_h": 0.0}, {"tail_volume_v": 0.0}, {"wing_loading": 20.0}]
)
def test_a_brief_without_an_airframe_says_why_in_every_place(open_window, caplog, changes):
    design = Design()
    for name, value in changes.items():
        design = put(design, f"brief.{name}", value)
    window = open_window(design, "brief")
    window.grab()
    window.open_sheet("shape.start")
    window.grab()
    reasons = [window.sheet.why_not(key) for key in window.sheet.layouts]
    assert not caplog.records
    if "tail_volume_h" in changes:
        assert any("a tail of no size" in why for why in reasons) and not all(reasons)
    window.open_sheet("brief")
    press(window.sheet.lay_out_button)
    assert window.store.design.surfaces or "understood" in window.notice.words


def test_places_are_told_in_words_and_differences_by_place(whimbrel):
    assert words_of(whimbrel, "surfaces[0].stations[1].chord") == "Wing, station 2, chord"
    assert words_of(whimbrel, "power.motor.kv_rpm_per_v").endswith("speed constant")
    for name in ("plane.ridge: line 3", "plane.ridge", "name.ridge", "surfaces[9].x", ""):
        assert words_of(whimbrel, name) == name
    fewer = whimbrel.model_copy(update={"parts": whimbrel.parts[:2] + whimbrel.parts[3:]})
    (only,) = differing(whimbrel, fewer)
    assert (only.before, only.after) == (whimbrel.parts[2].name, None)
    (only,) = differing(fewer, whimbrel)
    assert (only.before, only.after) == (None, whimbrel.parts[2].name)
    assert differing(whimbrel, whimbrel) == []


def test_the_window_remembers_its_size_and_fits_a_smaller_screen(qapp, qtbot, own_data):
    from PySide6.QtCore import QRect

    from ridgeline.desk import app
    from ridgeline.desk.shell import Shell

    class Screen:
        def __init__(self, width, height):
            self.room = QRect(0, 0, width, height)

        def availableGeometry(self):
            return self.room

    shell = Shell("x")
    qtbot.addWidget(shell)
    shell.screen = lambda: Screen(1366, 738)
    app.fit_screen(shell, (1280, 800))
    assert shell.width() == 1280 and shell.height() == 708
    shell.screen = lambda: Screen(1024, 600)
    app.fit_screen(shell, (1280, 800))
    assert (shell.width(), shell.height()) == (1024, 570)
    shell.screen = lambda: Screen(2560, 1440)
    app.fit_screen(shell, (1500, 900))
    shell.adopt(QMainWindow())
    shell.close()
    assert app._remembered_size() == (1500, 900)


def test_a_widget_on_its_way_out_lives_until_the_event_loop_gets_to_it(desk):
    """Without a parent a widget is Python's: the last reference would take it away from under its own press."""
    gone = []
    button = RuledButton(desk, "Yes")
    button.destroyed.connect(lambda: gone.append(1))
    discard(button)
    del button
    assert not gone and not [b for b in desk.findChildren(RuledButton) if b.text() == "Yes"]
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert gone
