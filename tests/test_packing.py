"""The packer: sound sheets, no worse than corner by corner, stopped at once, done without where it is not there."""

import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.cutting import Cutting, LaidPiece, SheetStock
from ridgeline.engine.templates import packing
from ridgeline.engine.templates.nesting import Cancelled, faults, nested
from ridgeline.engine.templates.packing import Packing
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.engine.templates.whole import packed
from ridgeline.files.design_file import load

pytest.importorskip("spyrrow")


@pytest.fixture(autouse=True)
def quick(monkeypatch):
    """Two attempts of a second at each sheet are enough to see how it goes."""
    monkeypatch.setattr(packing, "_SECONDS", 1)
    monkeypatch.setattr(packing, "_STEPS", 2)


def shape(rng, key, **fields):
    """A random star-shaped pattern."""
    turn = (np.arange(7) + rng.uniform(-0.3, 0.3, 7)) * 2 * np.pi / 7
    size = rng.uniform(0.03, 0.11, 7)
    usual = {"of": "s1", "hand": 0, "material": "Foam board 5 mm", "sheet": 0.005, "openings": (), "lines": (),
             "labels": (), "mass": 0.01}  # fmt: skip
    outline = np.column_stack([1.6 * size * np.cos(turn), size * np.sin(turn)])
    return Pattern(key=key, name=key, outline=outline, **{**usual, **fields})


def shapes(count, seed):
    rng = np.random.default_rng(seed)
    return [shape(rng, f"p{k}") for k in range(count)]


def cost(found):
    return len(found.sheets), found.sheets[-1].reach


def test_a_fixed_set_is_laid_tighter_than_corner_by_corner():
    patterns = shapes(30, 1)
    work = Packing(patterns, Cutting())
    plain = nested(patterns, Cutting())
    assert cost(work.plain) == cost(plain)
    shares = list(work.steps())
    found = work.result()
    assert cost(found) < cost(plain) and not faults(found, Cutting()) and not found.left
    assert found.share >= plain.share - 1e-9
    assert shares == sorted(shares) and 0.0 <= shares[0] <= shares[-1] < 1.0
    assert sorted(one.pattern.key for sheet in found.sheets for one in sheet.laid) == sorted(p.key for p in patterns)
    for sheet in found.sheets:
        for one in sheet.laid:
            assert abs(np.cos(one.turn)) < 1e-9, "the long way goes along the sheet"


@settings(max_examples=3, deadline=None)
@given(st.integers(4, 12), st.integers(0, 1000), st.booleans(), st.sampled_from([0.0, 0.004, 0.012]))
def test_random_sets_keep_the_gap_and_the_edge(count, seed, grain, gap):
    cutting = Cutting(sheets=(SheetStock(width=0.4, length=0.5, count=9),), grain=grain, gap=gap, edge=0.006,
                      kerf=0.0008)  # fmt: skip
    work = Packing(shapes(count, seed), cutting)
    for _ in work.steps():
        pass
    found = work.result()
    assert not faults(found, cutting) and cost(found) <= cost(work.plain)
    for sheet in found.sheets:
        for one in sheet.laid:
            low_x, low_y, high_x, high_y = one.shape(cutting.kerf).bounds
            assert min(low_x, low_y, 0.4 - high_x, 0.5 - high_y) >= 0.006 - 5e-5


def test_it_is_stopped_within_three_tenths_of_a_second(monkeypatch):
    started = []
    begin = subprocess.Popen
    monkeypatch.setattr(packing.subprocess, "Popen", lambda *a, **k: started.append(begin(*a, **k)) or started[-1])
    work = Packing(shapes(30, 2), Cutting())
    steps = work.steps()
    for _ in range(3):
        next(steps)
    assert started[0].poll() is None, "it is at work"
    steps.close()
    assert started[0].poll() is not None, "what was stopped is gone"
    # A step waits for no longer than this for the packer: that is what a cancel waits for.
    assert packing._HEARD <= 0.1
    assert cost(work.result()) == cost(work.plain), "what is stopped leaves what was there"
    design = load("demo:whimbrel")
    with pytest.raises(Cancelled):
        packed(design, design.cutting, None, lambda _share: False)


def test_boards_stay_apart_and_what_is_laid_by_hand_stays():
    rng = np.random.default_rng(3)
    patterns = [shape(rng, f"p{k}", material="Balsa" if k % 2 else "Foam board 5 mm") for k in range(8)]
    work = Packing(patterns, Cutting())
    list(work.steps())
    assert all(len({one.pattern.material for one in sheet.laid}) == 1 for sheet in work.result().sheets)
    by_hand = Cutting(laid=(LaidPiece(piece="p0", x=0.25, y=0.4, turn=np.pi / 2),))
    work = Packing(patterns, by_hand)
    assert list(work.steps()) == [] and cost(work.result()) == cost(work.plain)


def test_without_the_library_it_is_laid_corner_by_corner(monkeypatch):
    monkeypatch.setitem(sys.modules, "spyrrow", None)
    assert not packing.packer()
    patterns = shapes(8, 4)
    work = Packing(patterns, Cutting())
    assert list(work.steps()) == [] and cost(work.result()) == cost(nested(patterns, Cutting()))


def test_a_packer_that_breaks_or_cannot_be_started_changes_nothing(monkeypatch):
    patterns = shapes(8, 4)
    for child in ((sys.executable, "-c", "raise SystemExit(3)"), ("/nowhere/python",)):
        monkeypatch.setattr(packing, "_CHILD", child)
        work = Packing(patterns, Cutting())
        list(work.steps())
        assert cost(work.result()) == cost(work.plain)
