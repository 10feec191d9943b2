"""A design on the bench: signs of what its linkages really do, what was seen of it, and what puts it right."""

import random

import numpy as np
import pytest

from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.bench_repair import edits, mended, told, with_step
from ridgeline.engine.advice.benched import LOST, WALKED, benched, look_of, noted, seen_of, stands
from ridgeline.engine.advice.linkage_rules import wrong_ways
from ridgeline.engine.controls.sense import way_of
from ridgeline.engine.controls.walk import Step, after, faults
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

DAY = "2026-11-26"


def on_bench(design, trial):
    return benched(design, trial.result(design, "linking"))


def seen(design, here):
    """What every output really does for each stick at full, through its linkage; a motor by its channel."""
    rows = []
    for k, one in enumerate(here.outputs):
        if one.row is None:
            rows.append(here.bench.does[k])
            continue
        rows.append([way_of(one.moved.angle(one.row.linkage, design.radio, {stick: 1.0})) for stick in WALKED])
    return np.array(rows, np.int8)


def walked(design, here, does, cells=None):
    """Write down what a true bench does, all of it or only some cells."""
    for k, one in enumerate(here.outputs):
        for s, stick in enumerate(WALKED):
            if cells is None or (k, s) in cells:
                design = apply(design, (noted(design, one, stick, int(does[k, s]), DAY),))
    return design


def finding(design, key):
    return next((f for f in evaluate(design).findings if f.key == f"controls.walk.{key}"), None)


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_signs_are_what_the_linkages_do_and_what_is_wanted(name):
    design, trial = load(f"demo:{name}"), Evaluator()
    here = on_bench(design, trial)
    assert np.array_equal(here.bench.does, seen(design, here)) and np.array_equal(here.bench.does, here.wanted)


@pytest.mark.parametrize("name", ["whimbrel", "turnstone", "dunlin", "heron"])
def test_planted_faults_are_put_right_by_what_is_offered(name):
    """The true aircraft differs from what is written: what is seen is written down, what is offered is done to both."""
    trial, chance, good, tried = Evaluator(), random.Random(name), 0, 0
    start = load(f"demo:{name}")
    motors = {k for k, one in enumerate(on_bench(start, trial).outputs) if one.row is None}
    for _ in range(25):
        design = start
        here = on_bench(design, trial)
        able = [f for f in faults(here.bench) if not (f.kind == "turn" and (f.one in motors or _shares(here, f.one)))]
        able += [Step("reverse", k) for k in set(here.bench.plug.tolist()) - {here.bench.plug[m] for m in motors}]
        true = after(here.bench, [chance.choice(able) for _ in range(chance.randint(1, 2))])
        tried += 1
        for _look in range(4):
            here = on_bench(design, trial)
            design = walked(design, here, true.does)
            found = mended(design, here)
            if found is None or found.steps is None or not (found.steps or found.wrong):
                break
            design = apply(design, edits(design, here, found))
            true = after(true, found.steps)
        here = on_bench(design, trial)
        good += np.array_equal(true.does, here.wanted)
        assert not np.array_equal(true.does, here.wanted) or np.array_equal(here.bench.does, true.does), (
            "the document says what the aircraft does"
        )
        assert not any(wrong_ways(design, row) for row in trial.result(design, "linking").rows)
    assert good >= 0.99 * tried


def _shares(here, k):
    """Whether another output is on the same lead: no radio parts them."""
    return here.bench.plug.tolist().count(int(here.bench.plug[k])) > 1


def test_one_aileron_seen_wrong_is_reversed_and_written_down_as_built_so():
    design, trial = load("demo:whimbrel"), Evaluator()
    here = on_bench(design, trial)
    k = next(k for k, one in enumerate(here.outputs) if one.side == "port" and one.row.control.kind == "aileron")
    bad = apply(design, (noted(design, here.outputs[k], "roll", -int(here.wanted[k, 0]), DAY),))
    wrong = finding(bad, "wrong")
    assert wrong.level == "stop" and "port aileron" in str(wrong.text)
    (way,) = wrong.remedies
    assert "everse channel 2" in str(way.text)
    good = apply(bad, way.changes)
    assert good.radio.channels[1].reversed != design.radio.channels[1].reversed
    assert good.linkages[0].backwards == "port" and not good.walk
    assert finding(good, "wrong") is None
    assert np.array_equal(on_bench(good, trial).bench.does, here.wanted)


def test_a_walk_of_what_is_right_is_done_and_is_armed_again_by_what_it_hangs_on():
    design, trial = load("demo:whimbrel"), Evaluator()
    here = on_bench(design, trial)
    assert str(finding(design, "seen").text) == f"0 of {len(here.asks())} movements were seen on the bench."
    done = design
    for k, stick, way in here.asks():
        done = apply(done, (noted(done, here.outputs[k], stick, way, DAY),))
    assert DAY in str(finding(done, "seen").text) and str(finding(done, "seen").text).startswith("All ")
    aileron = next(one for one in here.outputs if one.row is not None and one.row.control.kind == "aileron")
    changes = {
        "radio.channels[0].reversed": not done.radio.channels[0].reversed,
        "radio.channels[0].mix[0].amount": 0.7,
        "linkages[0].facing": "in",
        "linkages[0].servo": "",
        "power.motor.poles": done.power.motor.poles + 2,
    }
    for path, value in changes.items():
        altered = put(done, path, value)
        one = finding(altered, "seen")
        assert "All" not in str(one.text), path
        assert "seen before" in str(one.reason), path
    for path, value in {"radio.rates[0].low": 0.5, "linkages[0].arm": 0.01, "surfaces[0].name": "W"}.items():
        assert str(finding(put(done, path, value), "seen").text).startswith("All "), path
    assert seen_of(done, aileron, "roll").day == DAY
    again = put(done, "linkages[0].facing", "in")
    there = next(one for one in on_bench(again, trial).outputs if (one.of, one.side) == (aileron.of, aileron.side))
    assert stands(again, there, "roll") is None and seen_of(again, there, "roll") is not None


def test_a_motor_that_runs_backwards_and_a_failsafe_that_does_not_hold_are_stops_of_their_own():
    design, trial = load("demo:whimbrel"), Evaluator()
    here = on_bench(design, trial)
    motor = next(one for one in here.outputs if one.row is None)
    back = apply(design, (noted(design, motor, "throttle", -1, DAY),))
    assert finding(back, "motor").level == "stop" and "three leads" in str(finding(back, "motor").reason)
    assert finding(back, "wrong") is None
    assert finding(apply(back, finding(back, "motor").remedies[0].changes), "motor") is None
    lost = apply(design, (noted(design, motor, LOST, 1, DAY),))
    assert "motor" in str(finding(lost, "failsafe").text)
    assert finding(apply(lost, finding(lost, "failsafe").remedies[0].changes), "failsafe") is None


def test_a_servo_the_same_way_round_on_a_shared_lead_is_turned_by_hand():
    design, trial = load("demo:whimbrel"), Evaluator()
    radio = design.radio
    first = radio.channels[0].model_copy(update={"side": "both"})
    design = put(design, "radio", radio.model_copy(update={"channels": (first, *radio.channels[2:])}))
    here = on_bench(design, trial)
    assert not any(wrong_ways(design, row) for row in trial.result(design, "linking").rows)
    k = next(k for k, one in enumerate(here.outputs) if one.side == "port" and one.row.control.kind == "aileron")
    bad = apply(design, (noted(design, here.outputs[k], "roll", -int(here.wanted[k, 0]), DAY),))
    other = next(one for one in here.outputs if one.of == here.outputs[k].of and one.side == "starboard")
    bad = apply(bad, (noted(bad, other, "roll", -1, DAY),))
    (way,) = finding(bad, "wrong").remedies
    assert way.key == "turn" and "port aileron" in str(way.text)
    assert finding(apply(bad, way.changes), "wrong") is None


def test_only_what_was_looked_at_counts():
    design, trial = load("demo:whimbrel"), Evaluator()
    here = on_bench(design, trial)
    assert not look_of(design, here).known.any()
    some = walked(design, here, here.bench.does, cells={(0, 0)})
    assert look_of(some, here).known.sum() == 1
    forgotten = apply(some, (noted(some, here.outputs[0], "roll", None, ""),))
    assert not forgotten.walk


def test_steps_are_said_in_the_builders_words():
    design, trial = load("demo:whimbrel"), Evaluator()
    here = on_bench(design, trial)
    said = {f.kind: str(told(design.radio, [f])) for f in faults(here.bench) if f.kind not in ("turn", "around")}
    assert str(told(design.radio, [Step("reverse", 1)])) == "Reverse channel 2, port aileron"
    assert said["swap"].startswith("Swap the leads of channels")
    assert said["mix"].startswith("Turn over ")
    for fault in faults(here.bench):
        changed = with_step(design.radio, fault)
        assert (changed == design.radio) == (fault.kind in ("turn", "around"))
        assert with_step(changed, fault) == design.radio


def test_without_a_radio_there_is_no_bench():
    design, trial = put(load("demo:whimbrel"), "radio", None), Evaluator()
    assert on_bench(design, trial) is None
    assert finding(design, "seen") is None
