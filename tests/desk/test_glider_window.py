"""A glider in the window: its own vital figures, its polar on Power, a motor added later in one step."""

from itertools import pairwise

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, put
from ridgeline.engine.advice.consequences import brings
from ridgeline.engine.phrase import say
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import GLIDER_BLOCK, TITLE_BLOCK
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.library import shipped_shelf


@pytest.fixture(scope="module")
def tossed():
    wishes = {"purpose": "glider", "propulsion": "none", "controls": "none", "ceiling": 0.06, "span_limit": 2.0}
    return lay_out(brief_of(wishes), shipped_shelf(), "Estuary Plover")


def cells(window):
    return tuple(cell.key for cell in window.title_block.cells)


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_a_glider_shows_glide_sink_height_and_slope_wind(open_window, tossed, size):
    window = open_window(tossed, first="power", size=size)
    assert cells(window) == GLIDER_BLOCK
    cell = window.title_block.cells[GLIDER_BLOCK.index("glide.ratio")]
    QTest.mouseClick(cell, Qt.MouseButton.LeftButton)
    assert window.working.key == "glide.ratio"
    window.grab()
    # Nothing lies over its neighbour.
    edges = [(c.geometry().left(), c.geometry().right()) for c in window.title_block.cells]
    assert all(a[1] < b[0] + 1 for a, b in pairwise(edges))


def test_a_motor_is_added_later_as_one_step_and_the_coins_go(open_window, tossed):
    window = open_window(tossed, first="power")
    store, said = window.store, []
    store.noted.connect(said.append)
    assert window.sheet.add.isVisible()
    QTest.mouseClick(window.sheet.add, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert store.design.power is not None and store.design.brief.propulsion == "electric"
    assert not [p for p in store.design.parts if p.group == "ballast"] and "Coins" in said[-1]
    assert cells(window) == TITLE_BLOCK and not window.sheet.add.isVisible()
    store.undo()
    assert store.design == tossed and cells(window) == GLIDER_BLOCK


def test_the_brief_is_told_that_nothing_drives_it(open_window):
    window = open_window(Design(), first="brief")
    window.sheet.words["brief.propulsion"].choose("none")
    brief = window.store.design.brief
    assert brief.propulsion == "none" and brief.thrust_ratio == 0.0
    window.grab()


def test_findings_that_come_with_a_remedy_are_told_before_it_is_pressed(desk, whimbrel):
    store = desk.store
    before = store.report
    changed = put(whimbrel, "brief.ceiling", 0.6)
    new = brings(before, evaluate(changed))
    assert new[0].key.startswith("mass.")
    remedy = Remedy("x", say("Shrink the ceiling"), (Change("brief.ceiling", 0.6),))
    store.show_ghost(remedy)
    ghost = desk.margin.ghost
    assert ghost.brought and ghost.brought[0].startswith("brings: ")
    assert ghost.height() > 40 + 16 * len(ghost.brought)
    desk.grab()
    store.show_ghost(None)
    assert not ghost.brought
    store.show_ghost(Remedy("y", say("Nothing new"), (Change("parts[0].x", whimbrel.parts[0].x - 0.005),)))
    assert not ghost.brought


def test_what_was_there_before_or_is_settled_is_not_announced(whimbrel):
    report = evaluate(whimbrel)
    assert brings(report, report) == ()
    found = next(f for f in report.findings if f.level == "look")
    worse = Finding(found.key, "stop", found.stop, found.text, found.reason)
    settled = Finding("new.one", "settled", "shape", found.text, found.reason)
    after = Report(report.figures, report.wanted, report.results, lambda _r: [worse, settled], report.trial)
    assert [f.level for f in brings(report, after)] == ["stop"]
