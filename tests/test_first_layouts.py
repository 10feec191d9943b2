"""First layouts over purposes, ceilings and methods: a sample of the grid that the bench sweeps whole."""

import sys
from pathlib import Path

import pytest

from ridgeline.design.brief import Brief
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.library import shipped_shelf

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "bench"))

from first_layouts import GRID, one, one_layout

#: Every so many of the grid, prime to its methods and ceilings: 25 in all.
SAMPLE = tuple(GRID[(11 * k + 5) % len(GRID)] for k in range(25))


@pytest.fixture(scope="module")
def outcomes():
    return [one(wish) for wish in SAMPLE]


def test_the_sample_meets_every_purpose_ceiling_and_method():
    for column, whole in zip(zip(*SAMPLE, strict=True), zip(*GRID, strict=True), strict=True):
        assert set(column) == set(whole)


def test_first_layouts_come_without_a_stop(outcomes):
    assert sum(came != "stop" for came, _keys in outcomes) >= 0.95 * len(outcomes)


def test_most_first_layouts_leave_nothing_to_look_at_and_few_are_refused(outcomes):
    # What is left are light printed ones over their habits, and large ones of thin foam that twist or turn tail heavy.
    assert sum(came == "settled" for came, _keys in outcomes) >= 0.65 * len(outcomes)
    assert sum(came == "refused" for came, _keys in outcomes) <= 0.1 * len(outcomes)


@pytest.mark.parametrize("layout", sorted(ARRANGEMENTS)[::3])
@pytest.mark.parametrize("ceiling", [0.5, 12.0])
def test_layouts_of_other_sizes_come_without_a_stop(layout, ceiling):
    assert one_layout((layout, ceiling))[0] in ("look", "settled")


def test_the_default_brief_lays_out():
    assert evaluate(lay_out(Brief(), shipped_shelf())).value("mass.auw") < Brief().ceiling
