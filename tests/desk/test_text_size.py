"""The size of the text: chosen, remembered, put in force before Qt starts, and never past what the screen holds."""

import pytest
from PySide6.QtWidgets import QApplication

from ridgeline.desk import text_choice
from ridgeline.desk.text_choice import choose_text_size, fill_text_sizes
from ridgeline.desk.text_size import SIZES, chosen_size, fits, put_in_force
from ridgeline.files.choices import remember


def test_the_usual_size_leaves_the_desktops_alone(own_data):
    environment = {"QT_SCALE_FACTOR": "2"}
    put_in_force(environment)
    assert environment == {"QT_SCALE_FACTOR": "2"} and chosen_size() == 100


@pytest.mark.parametrize(("before", "size", "after"), [(None, 125, 1.25), ("2", 150, 3.0), ("odd", 90, 0.9)])
def test_a_chosen_size_goes_on_top_of_it(own_data, before, size, after):
    remember(text=size)
    environment = {} if before is None else {"QT_SCALE_FACTOR": before}
    put_in_force(environment)
    assert float(environment["QT_SCALE_FACTOR"]) == pytest.approx(after)


@pytest.mark.parametrize("kept", [99, "large", None, 10_000])
def test_a_size_that_is_none_counts_as_the_usual(own_data, kept):
    remember(text=kept)
    assert chosen_size() == 100


def test_a_size_is_offered_only_where_the_sheets_have_room():
    assert fits(150, 100, 1920, 1080) and fits(125, 100, 1280, 800)
    assert not fits(150, 100, 1280, 800) and not fits(150, 100, 1920, 900)
    # Of a screen that is counted in larger px already.
    assert fits(150, 150, 1280, 720) and fits(90, 150, 1280, 720)


def test_the_menu_marks_the_size_and_a_choice_is_remembered_and_offers_to_start_anew(desk, monkeypatch):
    fill_text_sizes(desk.text_sizes, desk)
    actions = {action.text(): action for action in desk.text_sizes.actions()}
    assert list(actions) == [f"{size} %" for size in SIZES]
    assert [text for text, action in actions.items() if action.isChecked()] == ["100 %"]
    begun = []
    monkeypatch.setattr(text_choice.QProcess, "startDetached", lambda *command: begun.append(command) or False)
    actions["90 %"].trigger()
    QApplication.processEvents()
    assert chosen_size() == 90 and "90 %" in desk.notice.words
    text_choice.start_anew(desk)
    (command,) = begun
    assert command[1][:3] == ["-m", "ridgeline", "open"]
    choose_text_size(desk, 90)
    assert "already" in desk.notice.words


def test_it_is_found_by_words(desk):
    assert {f"Text size {size} %" for size in SIZES} <= {words for words, _do in desk.commands()}
