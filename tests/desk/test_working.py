"""The working slip: what it says, where it leads, what it solves, and what it does when there is nothing to say."""

import pytest
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.design.document import Design
from ridgeline.desk import working as slip
from ridgeline.engine.figures import label_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
from ridgeline.library import demo_names


def words_of(window, monkeypatch):
    """Return every piece of text the slip paints."""
    seen = []
    original = slip.write

    def spy(p, x, y, words, *args, **more):
        seen.append(words)
        return original(p, x, y, words, *args, **more)

    monkeypatch.setattr(slip, "write", spy)
    window.working.grab()
    monkeypatch.setattr(slip, "write", original)
    return seen


def settle(window):
    window.working.wait()
    for _ in range(3):
        QApplication.processEvents()


def test_it_shows_formula_numbers_result_terms_and_source(desk, monkeypatch):
    desk.show_working("speed.stall")
    settle(desk)
    words = words_of(desk, monkeypatch)
    figure = desk.store.report.figures["speed.stall"]
    assert figure.label in words
    assert any(figure.working.formula in w for w in words)
    assert any(figure.working.substituted in w for w in words)
    assert {term.label for term in figure.working.terms} <= set(words)
    assert any("docs/theory.md" in w for w in words)
    assert any("nine times in ten" in w for w in words)


@pytest.mark.parametrize("name", demo_names())
def test_every_figure_of_every_demo_has_a_slip_that_paints(open_window, name):
    window = open_window(load(f"demo:{name}"))
    for key in window.store.report.figures:
        window.show_working(key)
        assert not window.working.grab().isNull()
    window.working.dismiss()


def test_a_figure_that_cannot_be_had_says_why(open_window, monkeypatch):
    window = open_window(Design())
    window.show_working("speed.stall")
    words = words_of(window, monkeypatch)
    assert any("Not known yet" in w and "no wing yet" in w for w in words)
    window.working.solve()
    assert window.store.design == Design()


def test_what_moves_it_most_is_found_away_from_the_interface_and_listed(desk, monkeypatch):
    desk.show_working("mass.auw")
    assert desk.working.influences == []
    settle(desk)
    words = words_of(desk, monkeypatch)
    assert all(
        item.label in words or any(w.startswith(item.label[:10]) for w in words) for item in desk.working.influences
    )
    assert desk.working.input.count() == len(desk.working.influences)


def test_the_list_follows_an_edit(desk):
    desk.show_working("power.thrust_ratio")
    settle(desk)
    first = [item.change for item in desk.working.influences]
    desk.store.put("power.propeller.diameter", 0.254, "larger")
    settle(desk)
    assert [item.change for item in desk.working.influences] != first


def test_solving_reaches_the_wish_by_the_chosen_input(desk):
    desk.show_working("stability.static_margin")
    settle(desk)
    index = desk.working.input.findText("Wing, aft")
    assert index >= 0
    desk.working.input.setCurrentIndex(index)
    type_into(desk.working.wish, "14 %")
    assert desk.store.report.value("stability.static_margin") == pytest.approx(0.14, abs=1e-6)
    assert desk.store.history.undo_label == "Solve Wing, aft"
    assert "Ctrl+Z" in desk.working._message


def test_the_close_button_and_asking_twice_both_close_it(desk):
    desk.show_working("mass.auw")
    press(desk.working._close)
    assert not desk.working.isVisible()
    desk._ask("mass.auw")
    desk._ask("mass.auw")
    assert not desk.working.isVisible()


def test_it_stays_inside_the_sheet_at_every_size(open_window, whimbrel):
    for size in ((1100, 700), (1280, 800), (1920, 1080)):
        window = open_window(whimbrel, size=size)
        window.show_working("balance.cg_fraction")
        stage = window.working.parentWidget()
        assert stage.rect().contains(window.working.geometry())
        window.resize(size[0] + 60, size[1] + 40)
        QApplication.processEvents()
        assert stage.rect().contains(window.working.geometry())


@pytest.mark.parametrize("key", ["balance", "shape", "weights", "power", "brief"])
@pytest.mark.parametrize("name", demo_names())
def test_every_demo_paints_on_every_sheet_in_inches(open_window, name, key):
    window = open_window(load(f"demo:{name}"), first=key)
    window.store.choose_units("imperial")
    assert not window.grab().isNull()
    assert evaluate(window.store.design).figures


TRACED = (
    ("weights", {"mass.auw", "balance.cg_fraction"}),
    ("shape", {"wing.span", "wing.area", "tail.volume_v", "balance.cg_fraction"}),
    ("shape.control", {"control.roll_rate", "stability.dihedral"}),
    ("balance", {"balance.cg_from_root", "balance.cg_fraction", "stability.neutral_in_flight"}),
    ("power", {"flight.cruise_throttle", "flight.climb_rate", "speed.max"}),
    ("power.flight", {"flight.endurance", "flight.ground_out", "flight.wind_limit", "power.pitch_ratio", "glide.sink"}),
)


@pytest.mark.parametrize(("sheet", "keys"), TRACED)
def test_a_figure_written_on_a_sheet_opens_its_working_where_it_is_pressed(desk, sheet, keys):
    desk.open_sheet(sheet)
    desk.sheet.grab()
    places = {key: rect for rect, key in desk.sheet._traced}
    assert keys <= set(places)
    for key in sorted(keys):
        at = places[key].center().toPoint()
        assert desk.sheet.figure_at(QPointF(at)) == key
        QTest.mouseMove(desk.sheet, at)
        QTest.mouseClick(desk.sheet, Qt.MouseButton.LeftButton, pos=at)
        assert desk.working.key == key and desk.working.isVisible()
        QTest.keyClick(desk.working, Qt.Key.Key_Escape)
        assert not desk.working.isVisible()


def test_resting_on_a_figure_underlines_it_and_says_what_a_press_does(desk):
    sheet = desk.sheet
    before = sheet.grab().toImage()
    rect, key = sheet._traced[-1]
    sheet.mouseMoveEvent(moved(sheet, rect.center()))
    assert sheet.cursor().shape() == Qt.CursorShape.PointingHandCursor and label_of(key) in sheet.toolTip()
    assert sheet.grab().toImage() != before
    sheet.mouseMoveEvent(moved(sheet, QPointF(2, 2)))
    assert sheet.toolTip() == "" and sheet.grab().toImage() == before


def moved(widget, at):
    button = Qt.MouseButton.NoButton
    return QMouseEvent(
        QEvent.Type.MouseMove, at, widget.mapToGlobal(at), button, button, Qt.KeyboardModifier.NoModifier
    )
