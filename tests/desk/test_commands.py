"""The command line of the window, the sentences of the brief, and the small parts of the title block."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.design.paths import put
from ridgeline.desk.store import Store
from ridgeline.desk.title_block import scale_ends
from ridgeline.desk.widgets.sentences import Sentence, Sentences
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import TITLE_BLOCK
from ridgeline.files.design_file import load
from ridgeline.library import demo_names


def test_scaling_is_typed_confirmed_and_undone(desk):
    before = desk.store.design
    desk.ask_scale()
    assert desk.bar.command.text().startswith("scale")
    type_into(desk.bar.command, "scale 1.5, tail 1.2")
    assert desk.store.report.value("wing.span") == pytest.approx(1.92)
    assert desk.store.history.undo_label == "Scale 1.5, tail 1.2"
    desk.store.undo()
    assert desk.store.design is before


@pytest.mark.parametrize("words", ["scale 99", "scale 1.2, tail 9"])
def test_a_scale_out_of_range_is_refused_and_changes_nothing(desk, words):
    before = desk.store.design
    desk.bar.command.run(words)
    assert desk.store.design is before and "a factor from" in desk.notice.words


def test_control_k_reaches_the_command_line_and_escape_leaves_it(desk):
    desk.activateWindow()
    QTest.keyClick(desk, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    assert QApplication.focusWidget() is desk.bar.command
    QTest.keyClicks(desk.bar.command, "stall")
    QTest.keyClick(desk.bar.command, Qt.Key.Key_Escape)
    assert desk.bar.command.text() == "" and desk.sheet.hasFocus()


@pytest.mark.parametrize("words", ["All-up weight – figure", "Undo – command", "Power – sheet", "Camera – part"])
def test_every_kind_of_thing_can_be_found(desk, words):
    assert words in desk.bar.command.entries()
    desk.bar.command.run(words)


def test_what_is_called_so_comes_before_what_only_contains_the_words(desk):
    wings = len(desk.store.design.surfaces)
    entries = list(desk.bar.command.entries())
    assert next(e for e in entries if "fin" in e.lower()) != "Add: Fin – command"
    desk.bar.command.run("fin")
    assert len(desk.store.design.surfaces) == wings + 1 and desk.store.design.surfaces[-1].role == "fin"


def test_every_figure_of_the_register_can_be_found_by_its_label(desk):
    entries = desk.bar.command.entries()
    for figure in desk.store.report.figures.values():
        assert f"{figure.label} – figure" in entries


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("key", TITLE_BLOCK)
def test_every_cell_scale_holds_its_value_and_its_wanted_range(name, key):
    report = evaluate(load(f"demo:{name}"))
    figure, wanted = report.figures[key], report.wanted.get(key)
    low, high = scale_ends(figure, wanted)
    assert low < high and low <= figure.value <= high
    for end in wanted or ():
        assert end is None or low <= end <= high


def test_sentences_flow_to_their_width_and_keep_values_in_line(qapp, qtbot):
    from PySide6.QtWidgets import QLabel

    box = Sentences(None)
    qtbot.addWidget(box)
    box.resize(200, 300)
    value = QLabel("800 g", box)
    value.resize(40, 20)
    box.tell((Sentence(("No more than", value, "and so on until the line is full and another one begins", ".")),))
    wide = box.flow()
    assert value.x() >= 0 and value.geometry().right() <= 200
    box.resize(110, 300)
    assert box.flow() > wide
    assert value.geometry().right() <= 110
    box.tight = True
    assert box.flow() < 300


def test_the_saved_cell_tells_sample_edited_and_saved(desk, tmp_path, whimbrel):
    store = desk.store
    assert not store.unsaved
    store.put("name", "Edited", "rename")
    assert store.unsaved
    store.save(tmp_path / "plane.ridge")
    assert not store.unsaved and store.path == tmp_path / "plane.ridge"
    desk.grab()


def test_the_name_is_typed_in_the_title_block_and_an_empty_one_refused(desk):
    type_into(desk.title_block.name, "Reed Bunting")
    assert desk.store.design.name == "Reed Bunting"
    before = desk.store.design
    type_into(desk.title_block.name, " " * 300)
    assert desk.store.design is before


def test_a_store_refuses_without_changing_and_says_why(qapp, whimbrel):
    store, said = Store(whimbrel, keep=False), []
    store.refused.connect(said.append)
    assert not store.put("surfaces[0].stations[0].chord", -1.0, "bad")
    assert store.design is whimbrel and "0.001 m or more" in str(said[0])
    assert not store.open("nowhere.ridge") and len(said) == 2
    assert not store.save("/nowhere/at/all.ridge") and len(said) == 3


def test_an_edit_that_changes_nothing_is_no_step(qapp, whimbrel):
    store = Store(whimbrel, keep=False)
    assert store.put("name", whimbrel.name, "same")
    assert store.history.undo_label is None


def test_the_ghost_of_a_remedy_that_no_longer_fits_is_none(qapp, whimbrel):
    store = Store(put(whimbrel, "brief.ceiling", 0.7), keep=False)
    remedy = next(f for f in store.report.findings if f.key == "mass.over_ceiling").remedies[0]
    store.replace(store.design.model_copy(update={"power": None, "parts": store.design.parts[1:2]}), "strip")
    store.show_ghost(remedy)
    assert store.ghost is None


def test_focus_shows_which_stop_and_which_cell_a_key_would_press(desk):
    for widget in (desk.trail.buttons["power"], desk.title_block.cells[2]):
        plain = widget.grab().toImage()
        widget.setFocus(Qt.FocusReason.TabFocusReason)
        QApplication.processEvents()
        assert widget.grab().toImage() != plain
    QTest.keyClick(desk.title_block.cells[2], Qt.Key.Key_Space)
    assert desk.working.key == "speed.stall"


def test_the_notice_answers_are_pressed_and_go_away(desk):
    done = []
    desk.notice.say("Something happened.", answers=(("Do it", lambda: done.append(1)), ("Leave it", lambda: None)))
    press(desk.notice._buttons[0])
    assert done == [1] and not desk.notice.isVisible()
    desk.notice.say("Small news")
    assert desk.notice._timer.isActive()
    desk.notice.say("Grave news", grave=True)
    assert not desk.notice._timer.isActive()
    press(desk.notice._close)
    assert not desk.notice.isVisible()
