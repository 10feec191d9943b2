"""A walk round the aircraft: what was seen is explained, and the fewest changes put it right."""

import random

import numpy as np
import pytest

from ridgeline.engine.controls.walk import Bench, Look, Step, after, explanations, faults, repair, stepped

#: Sticks: roll, pitch, yaw, throttle. Channels: two ailerons, elevator, rudder, throttle.
PLAIN = Bench(
    np.array([[-1, 0, 0, 0], [1, 0, 0, 0], [0, -1, 0, 0], [0, 0, 1, 0], [0, 0, 0, 1]], np.int8),
    np.arange(5), np.ones(5, np.int8),
)  # fmt: skip
#: Two elevons and a throttle: pitch and roll on both.
ELEVONS = Bench(np.array([[-1, -1, 0], [1, -1, 0], [0, 0, 1]], np.int8), np.arange(3), np.array([1, 1, 1], np.int8))
#: A V-tail and ailerons on one lead: two outputs on a channel, one the other way round.
TAIL = Bench(
    np.array([[-1, 0, 0, 0], [0, -1, 1, 0], [0, -1, -1, 0], [0, 0, 0, 1]], np.int8),
    np.array([0, 0, 1, 2, 3]), np.array([1, -1, 1, 1, 1], np.int8),
)  # fmt: skip
BENCHES = (PLAIN, ELEVONS, TAIL)


@pytest.mark.parametrize("bench", BENCHES)
def test_what_is_right_needs_nothing(bench):
    assert repair(bench, bench.does, (Look((), bench.does),)) == ()


@pytest.mark.parametrize("bench", BENCHES)
def test_one_fault_of_any_kind_is_put_right(bench):
    for fault in faults(bench):
        true = stepped(bench, fault)
        if not repair_is_impossible(bench, true):
            assert mended(bench, true, bench.does), fault


def test_a_reversed_channel_is_reversed_and_swapped_leads_are_swapped():
    wanted = PLAIN.does
    for k in range(5):
        assert repair(PLAIN, wanted, (Look((), stepped(PLAIN, Step("reverse", k)).does),)) == (Step("reverse", k),)
    crossed = stepped(PLAIN, Step("swap", 2, 3))
    assert repair(PLAIN, wanted, (Look((), crossed.does),)) == (Step("swap", 2, 3),)


def test_elevons_that_roll_for_a_pull_have_a_share_turned_over():
    wrong = stepped(ELEVONS, Step("mix", 0, 1))
    steps = repair(ELEVONS, ELEVONS.does, (Look((), wrong.does),))
    assert len(steps) == 1 and steps[0].kind in ("mix", "swap")
    assert np.array_equal(after(wrong, steps).does, ELEVONS.does)


def test_a_servo_the_same_way_round_on_a_shared_lead_cannot_be_put_right_at_the_radio():
    wrong = stepped(TAIL, Step("turn", 1))
    assert repair(TAIL, TAIL.does, (Look((), wrong.does),)) is None


def test_what_three_faults_do_not_explain_is_not_guessed_at():
    nonsense = np.array([[1, 1, 1, 1]] * 5, np.int8)
    assert repair(PLAIN, PLAIN.does, (Look((), nonsense),)) is None
    assert not list(explanations(PLAIN, (Look((), nonsense),)))


def test_steps_undo_themselves():
    for bench in BENCHES:
        for fault in faults(bench):
            twice = after(bench, (fault, fault))
            assert np.array_equal(twice.does, bench.does)


def mended(bench, true, wanted, most=4):
    """Look, change what is offered, look again; whether it came right within some looks."""
    looks = [Look((), true.does)]
    for _ in range(most):
        steps = repair(bench, wanted, looks)
        if steps is None:
            return None
        if not steps:
            return True
        true = after(true, steps)
        looks.append(Look(steps, true.does))
        if np.array_equal(true.does, wanted):
            return True
    return False


@pytest.mark.parametrize("bench", BENCHES)
def test_random_faults_are_put_right_in_ninety_nine_of_a_hundred(bench):
    chance, tried, good = random.Random(7), 0, 0
    for _ in range(60):
        wrong = [chance.choice(faults(bench)) for _ in range(chance.randint(1, 3))]
        true = after(bench, wrong)
        if repair_is_impossible(bench, true):
            continue
        tried += 1
        good += mended(bench, true, bench.does) is True
    assert tried >= 30 and good >= 0.99 * tried


def repair_is_impossible(bench, true):
    """Two outputs on one lead that ask for different things want a hand at the servo, not at the radio."""
    for channel in range(len(bench.sends)):
        on_it = np.flatnonzero(true.plug == channel)
        asked = true.built[on_it, None] * bench.does[on_it]
        if len(on_it) > 1 and not np.array_equal(asked, np.broadcast_to(asked[0], asked.shape)):
            return True
    return False
