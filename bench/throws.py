"""Throws: what a throw with its ghosts and the odds of 200 builds cost, and whether outcomes hang on the step.

Run: ./.venv/bin/python bench/throws.py

Times are told beside that of one evaluation on this machine; the exit is 1 where a wish is not met.
"""

from __future__ import annotations

import sys
import time

import numpy as np

from ridgeline.engine.flight.builds import drawn, sigmas_of
from ridgeline.engine.flight.ghosts import ghosts_of, with_ghosts
from ridgeline.engine.flight.launch import hands_off
from ridgeline.engine.flight.observed import modelled
from ridgeline.engine.flight.odds import BUILDS, odds_of
from ridgeline.engine.flight.six_degrees import fly
from ridgeline.engine.flight.slips import Slips, slipped
from ridgeline.engine.flight.throwing import launch_of
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.files.design_file import load

#: Wishes: odds with their remedies, s; ends of builds by half the step, a share of the way.
ODDS, STEP = 5.0, 0.01


def timed(do):
    """Return the shortest of two runs, s, and what the last gave."""
    found, took = None, []
    for _ in range(2):
        begun = time.perf_counter()
        found = do()
        took.append(time.perf_counter() - begun)
    return min(took), found


def main() -> int:
    """Print what is measured; 1 where a wish is not met."""
    design = load("demo:whimbrel")
    whole, _report = timed(lambda: Evaluator()(design))
    report = evaluate(design)
    launch = launch_of(design, report)
    assert launch is not None
    keys = ghosts_of(design, launch)
    thrown, _found = timed(lambda: with_ghosts(launch, keys))
    odds, _found = timed(lambda: odds_of(design, report, launch))
    model, _found = timed(lambda: modelled(design, report))
    for name, took in (("throw and ghosts", thrown), (f"odds of {BUILDS}", odds), ("what flights tell", model)):
        print(f"{name:20} {took:6.2f} s, {took / whole:6.1f} evaluations")
    draws = drawn(sigmas_of(design, report, launch), 50, 1)
    slips = Slips(**{name: draws.values[name] for name in Slips._fields if name in draws.values})
    craft, pull = slipped(launch.craft, launch.pull, launch.columns, slips)
    ends = [
        fly(craft, pull, launch.throw.state(50), hands_off(launch.held), seconds=3.0, density=launch.density, rate=rate)
        .state[-1, :3]
        for rate in (200.0, 400.0)
    ]  # fmt: skip
    apart = float(np.max(np.abs(ends[0] - ends[1]).max(axis=0) / np.abs(ends[1]).max(axis=0)))
    print(f"half the step moves the end of 50 builds by {apart:.2%} at most")
    return int(odds > ODDS or apart > STEP)


if __name__ == "__main__":
    sys.exit(main())
