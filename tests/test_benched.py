"""A design on the bench as signs: as its linkages really move, and put right by edits of its radio."""

import random

import numpy as np
import pytest

from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.benched import WALKED, benched, edits, told
from ridgeline.engine.advice.linkage_rules import wrong_ways
from ridgeline.engine.controls.sense import way_of
from ridgeline.engine.controls.walk import Look, faults, repair
from ridgeline.engine.pipeline import Evaluator
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names


def on_bench(design, trial):
    return benched(design, trial.result(design, "linking"))


def seen(design, here):
    """What every output really does for each stick at full, through its linkage."""
    return np.array([[way_of(side.angle(row.linkage, design.radio, {stick: 1.0})) for stick in WALKED]
                     for row, side in here.outputs], np.int8)  # fmt: skip


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_signs_are_what_the_linkages_do_and_what_is_wanted(name):
    design, trial = load(f"demo:{name}"), Evaluator()
    here = on_bench(design, trial)
    assert np.array_equal(here.bench.does, seen(design, here)) and np.array_equal(here.bench.does, here.wanted)


@pytest.mark.parametrize("name", ["whimbrel", "turnstone", "dunlin"])
def test_a_radio_set_wrongly_is_put_right_by_the_edits_that_are_offered(name):
    design, trial, chance = load(f"demo:{name}"), Evaluator(), random.Random(3)
    here = on_bench(design, trial)
    for _ in range(12):
        wrong = [
            chance.choice([f for f in faults(here.bench) if f.kind != "turn"]) for _ in range(chance.randint(1, 2))
        ]
        true, looks = design, []
        for fault in wrong:
            true = apply(true, edits(true.radio, [fault]))
        steps = ()
        for _look in range(4):
            there = {(row.control.id, side.side): side.angle for row, side in here.outputs}
            now = on_bench(true, trial)
            order = {(row.control.id, side.side): k for k, (row, side) in enumerate(now.outputs)}
            does = seen(true, now)[[order[key] for key in there]]
            if np.array_equal(does, here.wanted):
                break
            looks.append(Look(steps, does))
            steps = repair(here.bench, here.wanted, looks)
            assert steps, f"{wrong} has no way out"
            assert str(told(true.radio, steps))[0].isupper()
            true = apply(true, edits(true.radio, steps))
        rows = trial.result(true, "linking").rows
        assert not any(wrong_ways(true, row) for row in rows), wrong


def test_without_a_radio_there_is_no_bench():
    design, trial = put(load("demo:whimbrel"), "radio", None), Evaluator()
    assert on_bench(design, trial) is None
