"""Trials in other threads wait while the window works for a hand."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from ridgeline.desk.gate import let_window_go_first, window_at_work
from ridgeline.engine.advice.sensitivity import solve_for
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError


def test_a_trial_waits_for_the_window_and_goes_on_after_it():
    with ThreadPoolExecutor(1) as pool:
        with window_at_work(), window_at_work():
            waiting = pool.submit(let_window_go_first)
            assert not waiting.done()
        waiting.result(5)
        pool.submit(let_window_go_first).result(5)


def test_the_gate_opens_again_when_the_work_fails():
    with pytest.raises(ZeroDivisionError), window_at_work():
        raise ZeroDivisionError
    with ThreadPoolExecutor(1) as pool:
        pool.submit(let_window_go_first).result(5)


def test_an_input_without_a_value_solves_nothing(whimbrel):
    assert whimbrel.parts[0].estimate is None
    with pytest.raises(DesignError, match="an input that has a value"):
        solve_for(whimbrel, evaluate(whimbrel), "parts[0].estimate", "stability.static_margin", 0.1)
