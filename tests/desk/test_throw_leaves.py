"""The leaves First throw and Causes: throws flown aside, moments, odds pressed, causes taken in and out."""

import threading

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from thrown_journey import go, live, season

from ridgeline.design.document import Design
from ridgeline.design.keeping import same_aircraft
from ridgeline.design.paths import put
from ridgeline.desk.sheets.flights.throw import SCENES
from ridgeline.desk.working_aside import Aside
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names


def quick(name="whimbrel", seconds=1.0):
    """A sample that is thrown for a second."""
    return put(load(f"demo:{name}"), "first_throw.seconds", seconds)


@pytest.fixture
def leaf(open_window):
    """Return a function that opens a leaf on a design, flown."""

    def at_leaf(key="flights.throw", design=None, **more):
        window = open_window(design or quick(), first=key, **more)
        QApplication.processEvents()
        if key == "flights.throw" and not window.sheet.empty:
            window.sheet.work.settle()
            live()
        return window, window.sheet

    return at_leaf


def test_a_flight_is_thrown_diagnosed_cured_and_thrown_better(open_window):
    go(open_window(season(), first="flights"))


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_is_thrown_and_drawn(leaf, caplog, name):
    window, sheet = leaf(design=quick(name), size=(1100, 700))
    sheet.grab()
    assert sheet.work.current and sheet.plan.launch is not None and sheet.subtitle()
    window.open_sheet("flights.causes")
    live()
    window.sheet.grab()
    assert window.sheet.subtitle() and not caplog.records


def test_an_empty_design_says_so_and_one_that_cannot_fly_why(leaf, whimbrel, caplog):
    for key in ("flights.throw", "flights.causes"):
        _window, sheet = leaf(key, Design())
        sheet.grab()
        assert sheet.empty
    parts = put(whimbrel, "parts", ())
    _window, sheet = leaf(design=put(parts, "power", None))
    sheet.grab()
    assert sheet.plan is not None and sheet.plan.thrown is None and "cannot be trimmed" in sheet.subtitle()
    assert not caplog.records


def test_every_edit_is_flown_again_beside_the_one_before(leaf):
    window, sheet = leaf()
    first = sheet.plan
    window.store.put("first_throw.speed", 10.0, "Speed")
    live()
    assert not sheet.work.current and "flying" in sheet.subtitle()
    sheet.work.settle()
    live()
    assert sheet.work.current and sheet.work.before is first
    assert float(sheet.plan.launch.throw.speed) == 10.0
    sheet.grab()
    rows = {row.label: row for row in sheet.selection().rows}
    assert rows["Throttle"].empty() == pytest.approx(0.65)
    rows["Launched"].choose("tow")
    live()
    sheet.work.settle()
    live()
    assert sheet.plan.launch.kind == "tow" and "Line pulls" in {row.label for row in sheet.selection().rows}
    rows = {row.label: row for row in sheet.selection().rows}
    rows["Sticks"].choose("off")
    rows["Wind"].choose("on")
    assert window.store.design.first_throw.pilot is False and window.store.design.first_throw.gusty


def test_a_run_is_read_beside_its_plan(leaf):
    _window, sheet = leaf(design=quick("turnstone"))
    rows = {row.label: row for row in sheet.selection().rows}
    assert rows["Take-off run"].read() == "3 m" and rows["Tips onto its nose at"].read() == "12°"


def test_other_moments_are_flown_and_told(leaf):
    _window, sheet = leaf()
    assert sheet.plan.scenes == ("throw", "approach", "downwind")
    for scene in ("approach", "downwind", "throw"):
        row = next(row for row in sheet.selection().rows if row.label == "Flown")
        row.choose(scene)
        sheet.work.settle()
        live()
        sheet.grab()
        assert sheet.plan.scene == scene and row.choices[0] == ("throw", SCENES["throw"][0])
        if scene == "downwind":
            assert sheet.ghosts.told(0) == sheet.ghosts.told(1) != sheet.ghosts.told(2)


def test_remedies_of_the_odds_are_pressed_and_undone(leaf):
    window, sheet = leaf(design=quick("whimbrel", 2.0))
    sheet.work.draw_odds()
    sheet.work.settle()
    live()
    odds = sheet.work.odds_now
    assert odds is not None and len(sheet.panel.way_buttons) == len(odds.better)
    sheet.grab()
    before = window.store.design
    button = next((one for one in sheet.panel.way_buttons if one.isEnabled()), None)
    if button is not None:
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        live()
        assert window.store.design != before and sheet.work.odds_now is None
        window.store.undo()
        assert window.store.design == before


def test_causes_are_chosen_by_keys_and_taken_in_and_out(leaf):
    window, sheet = leaf("flights.causes", load("demo:season"))
    before = window.store.design
    assert sheet.list.named().startswith("cause: Balance")
    acts = dict(sheet.selection().acts)
    assert set(acts) == {"Cure it", "Take it in"}
    acts["Take it in"]()
    live()
    assert window.store.design.learnt.taken[0].key == "balance"
    assert "Take back: balance" in dict(sheet.selection().acts)
    dict(sheet.selection().acts)["Take it back"]()
    live()
    # An edit of a kept aircraft counts its revision on; all else is as it was.
    assert same_aircraft(window.store.design, before) and window.store.design.learnt == before.learnt
    before = window.store.design
    said = []
    window.store.noted.connect(said.append)
    sheet.list.setFocus()
    QTest.keyClick(sheet.list, Qt.Key.Key_Down)
    other = sheet.cause
    assert other.cause.name != "balance"
    QTest.keyClick(sheet.list, Qt.Key.Key_Return)
    assert said and "On the bench" in said[0] and window.store.design == before


def test_the_newest_wish_alone_is_heard_and_work_that_fails_is_logged(qapp, caplog):
    aside, heard, gate = Aside(qapp), [], threading.Event()
    aside.done.connect(heard.append)

    def slow(ask):
        gate.wait(5)
        return None if ask(0.5) else "first"

    aside.begin(slow)
    aside.begin(lambda _ask: "second")
    gate.set()
    aside.settle()
    assert heard == ["second"] and not aside.busy
    aside.begin(lambda _ask: 1 / 0)
    aside.settle()
    assert heard == ["second", None] and "not done" in caplog.text
    shares = []
    aside.moved.connect(shares.append)

    def counting(ask):
        return [ask(k / 4) for k in range(5)]

    aside.begin(counting)
    aside.settle()
    assert heard[-1] == [False] * 5 and shares == [0.0, 0.25, 0.5, 0.75, 1.0] and aside.share == 1.0
    aside.begin(lambda ask: gate.wait(0) and ask(0.1))
    aside.stop()
    aside.settle()
    assert heard[-1] in (None, True, False)
