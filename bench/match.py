"""Cost of matching the whole library, as a ratio to one vectorised pass over the same arrays; and of operating points.

Run: ./.venv/bin/python bench/match.py
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import numpy as np

from ridgeline.engine.advice.match import Search
from ridgeline.engine.advice.match_design import candidates, wishes_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf


def seconds(action: Callable[[], object], rounds: int = 5) -> float:
    """Return the median time of an action, s."""
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        action()
        times.append(time.perf_counter() - begun)
    return statistics.median(times)


def main() -> None:
    """Print the costs."""
    design = load("demo:whimbrel")
    design = design.model_copy(update={"brief": design.brief.model_copy(update={"packs": ()})})
    report = evaluate(design)
    survey = candidates(design, shipped_shelf(), report)
    assert survey is not None
    wishes = wishes_of(design, report)

    def search() -> Search:
        found = Search(survey, wishes)
        for _share in found.steps():
            pass
        found.result()
        return found

    laws = seconds(lambda: (propellers._family_law.cache_clear(), [propellers.law_of(p) for p in survey.propellers]), 3)
    whole = seconds(search)
    count = search().looked_at
    # One pass: the work of a single quadratic over the same arrays, propeller by propeller.
    one = np.random.default_rng(1).uniform(0.5, 1.5, (3, len(survey.motors), len(survey.packs)))

    def one_pass() -> None:
        for _ in survey.propellers:
            a, b, c = one
            -2 * c / (b + np.sqrt(np.maximum(b * b + 4 * a * c, 0.0)))

    plain = seconds(one_pass)
    print(f"{count} combinations in {whole:.2f} s: {count / whole / 1e3:.0f} thousand a second (150 wanted),", end=" ")
    print(f"{whole / plain:.0f} passes over the same arrays")
    print(f"the laws of {len(survey.propellers)} propellers, once: {laws:.2f} s")
    link, throttle = chain(design.power), np.linspace(0.05, 1.0, 100)[:, None]
    speed = np.linspace(0.0, 30.0, 100)
    each = seconds(lambda: solve(link, throttle, speed, 1.225)) / 1e4
    print(f"an operating point among 10 000: {1e6 * each:.2f} µs (50 wanted)")


if __name__ == "__main__":
    main()
