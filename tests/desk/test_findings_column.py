"""The findings column: what needs looking at alone, what is settled in one line, as it was left."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from conftest import press
from ridgeline.files.choices import remembered


@pytest.fixture
def column(open_window, whimbrel):
    """The balance of the demo: one thing to look at, the rest settled."""
    return open_window(whimbrel, first="balance", size=(1100, 700)).margin.findings


def shown(column):
    return [view.finding.level for view in column.views if view.isVisible()]


def test_what_is_settled_stands_in_one_line_while_something_needs_looking_at(column):
    settled = sum(view.finding.level == "settled" for view in column.views)
    assert settled >= 2 and shown(column) == ["look"]
    assert column.settled_line.isVisible() and f"{settled} settled" in column.settled_line.accessibleName()
    assert column.height() <= column.parentWidget().height()


def test_a_press_shows_it_another_folds_it_and_the_next_window_has_it_as_it_was_left(column, open_window, whimbrel):
    press(column.settled_line)
    assert len(shown(column)) == len(column.views) and remembered()["settled"] == "shown"
    below = [view.y() for view in column.views if view.finding.level == "settled"]
    assert min(below) > column.settled_line.y()
    again = open_window(whimbrel, first="balance").margin.findings
    assert len(shown(again)) == len(again.views)
    press(again.settled_line)
    assert shown(again) == ["look"] and remembered()["settled"] == "folded"


def test_it_is_turned_by_keys_too(column):
    column.settled_line.setFocus()
    QTest.keyClick(column.settled_line, Qt.Key.Key_Space)
    assert len(shown(column)) == len(column.views)


def test_where_nothing_needs_looking_at_it_is_shown_of_itself(open_window, whimbrel):
    column = open_window(whimbrel, first="power").margin.findings
    assert set(shown(column)) == {"settled"} and len(shown(column)) == len(column.views)
    assert not column.settled_line.isVisible()


def test_a_way_out_folded_away_is_never_one(column):
    """What has something to press is not settled enough to be put away."""
    assert all(not view.buttons for view in column.views if not view.isVisible())
