"""Time of an edit of the load factor on the sample, and of its search for stock, over that of one lattice.

Run: ./.venv/bin/python bench/structure.py.
"""

from __future__ import annotations

import time
from collections.abc import Callable

from ridgeline.design.paths import put
from ridgeline.engine.advice.spar_ways import question
from ridgeline.engine.aero.airframe_lattice import solve_airframe
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.structure.choosing import answers
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

_ROUNDS = 60


def _median(once: Callable[[int], object]) -> float:
    times = []
    for k in range(_ROUNDS):
        begun = time.perf_counter()
        once(k)
        times.append(time.perf_counter() - begun)
    return sorted(times)[_ROUNDS // 2]


def main() -> None:
    """Print the medians and their ratios."""
    design, trial = load("demo:whimbrel"), Evaluator()
    report = trial(design)
    edits = [put(design, "loads.factor", 3.0 + 0.01 * k) for k in range(_ROUNDS)]
    edited = _median(lambda k: trial(edits[k]))
    asked = question(design, report, 0)
    assert asked is not None and report.results.shape.reference is not None
    stock = shipped_shelf().materials
    searched = _median(lambda _k: answers(asked, stock))
    reference = report.results.shape.reference
    solved = _median(lambda _k: solve_airframe(design.surfaces, reference))
    print(f"load factor: {1e3 * edited:.1f} ms, {edited / solved:.2f} of one lattice")
    print(f"stock search: {1e3 * searched:.1f} ms, {searched / solved:.2f} of one lattice")


if __name__ == "__main__":
    main()
