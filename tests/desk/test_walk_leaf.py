"""The walk round the aircraft: asked stick by stick, answered by buttons and keys, ticked, repaired."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from conftest import press
from ridgeline.desk.sheets.controls.stick_table import Cell, counted
from ridgeline.engine.advice.benched import LOST, WALKED
from ridgeline.files.design_file import load


@pytest.fixture
def leaf(open_window):
    """Return a function that opens the radio of a sample."""

    def at(name="whimbrel", design=None, **more):
        window = open_window(design or load(f"demo:{name}"), first="controls.radio", **more)
        window.sheet.grab()
        return window, window.sheet

    return at


def right(sheet):
    """What the output that is asked about ought to do."""
    asked, here = sheet.asking[0].cell, sheet.here
    return 0 if asked.stick == LOST or asked.output < 0 else int(here.wanted[asked.output, WALKED.index(asked.stick)])


def answer_by_button(sheet, way):
    """Press the button that says a way."""
    k = next(k for k, (_words, told) in enumerate(sheet.asking[0].answers) if told == way)
    assert sheet.answer_buttons[k].isVisible() and sheet.answer_buttons[k].text() == sheet.asking[0].answers[k][0]
    press(sheet.answer_buttons[k])


@pytest.mark.parametrize("name", ["whimbrel", "heron", "dunlin"])
def test_a_walk_to_the_end_by_buttons_ticks_everything(leaf, name):
    window, sheet = leaf(name)
    store = window.store
    press(sheet.walk_button)
    asked = set()
    while sheet.asking:
        asked.add(sheet.asking[0].cell.stick)
        answer_by_button(sheet, right(sheet))
    known, every, day = counted(store.design, sheet.here)
    assert known == every and len(day) == 10 and asked >= {"roll", "pitch", "throttle", LOST}
    assert not sheet.walk_button.isVisible(), "nothing is left to be seen"
    told = {f.key: str(f.text) for f in store.report.findings}
    assert told["controls.walk.seen"].startswith(f"All {every} ")
    sheet.grab()


def test_the_stick_in_the_hand_stands_as_it_is_asked_and_the_picture_does_not_tell(leaf):
    _window, sheet = leaf()
    press(sheet.walk_button)
    assert sheet.asking[0].cell.stick == "roll" and sheet.sticks["roll"] == 1.0
    moved = sheet.grab().toImage()
    sheet.move(roll=0.0)
    picture = sheet.grab().toImage()
    x, y, w, h = 20, 70, 420, int(sheet._picture) - 10
    assert moved.copy(x, y, w, h) == picture.copy(x, y, w, h)
    while sheet.asking[0].cell.stick == "roll":
        sheet.answer(right(sheet))
    assert sheet.sticks["pitch"] == 1.0 and sheet.sticks["roll"] == 0.0


def test_answers_by_keys_and_escape_ends_it(leaf):
    window, sheet = leaf()
    press(sheet.walk_button)
    first = sheet.asking[0].cell
    QTest.keyClick(sheet, Qt.Key.Key_Up)
    assert window.store.design.walk[-1].way == -1 and sheet.asking[0].cell != first
    QTest.keyClick(sheet, Qt.Key.Key_Down)
    assert window.store.design.walk[-1].way == 1
    before = sheet.asking[0].cell
    QTest.keyClick(sheet, Qt.Key.Key_0)
    assert sheet.asking[0].cell != before
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert sheet.asking is None and not any(button.isVisible() for button in sheet.answer_buttons)
    window.store.undo()
    assert not window.store.design.walk, "a walk is one step"


def test_a_key_that_is_no_answer_does_nothing(leaf):
    window, sheet = leaf()
    press(sheet.walk_button)
    while sheet.asking[0].cell.output >= 0:
        sheet.answer(right(sheet))
    before = window.store.design.walk
    QTest.keyClick(sheet, Qt.Key.Key_Up)
    assert window.store.design.walk == before, "up is no answer to whether anything else moved"


def test_what_moved_beside_it_is_asked_for_one_by_one(leaf):
    window, sheet = leaf()
    press(sheet.walk_button)
    while sheet.asking[0].cell.output >= 0:
        sheet.answer(right(sheet))
    stick, left = sheet.asking[0].cell.stick, len(sheet.asking)
    answer_by_button(sheet, 1)
    others = int((sheet.here.wanted[:, WALKED.index(stick)] == 0).sum())
    assert len(sheet.asking) == left - 1 + others
    answer_by_button(sheet, 1)
    assert any(f.key == "controls.walk.wrong" and f.level == "stop" for f in window.store.report.findings)


def test_a_tick_is_set_and_taken_away_by_the_mouse(leaf):
    window, sheet = leaf()
    rect = next(rect for rect, cell in sheet._cells if cell == Cell(0, "roll"))
    spot = QPoint(int(rect.center().x()), int(rect.center().y()))
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=spot)
    (seen,) = window.store.design.walk
    assert seen.stick == "roll" and seen.way == sheet.here.wanted[0, 0] and seen.day
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=spot)
    assert not window.store.design.walk
    idle = next(rect for rect, cell in sheet._cells if cell == Cell(0, "pitch"))
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=idle.center().toPoint())
    assert not window.store.design.walk, "what ought not to move has no box"


def test_throttle_under_the_hand_opens_the_disc(leaf):
    _window, sheet = leaf()
    closed = sheet.grab().toImage()
    sheet.move(throttle=0.6)
    assert sheet.grab().toImage() != closed
