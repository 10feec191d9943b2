"""Errors planted in a design, flown by the simulation and logged: are they named first, and do the bands cover?

Run: .venv/bin/python bench/planted.py [SEEDS]
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tests")]

from planted import PLANTED, built, levelled, logged  # noqa: E402
from ridgeline.engine.bands import BAND  # noqa: E402
from ridgeline.engine.flight.diagnosis import diagnosed, told_apart  # noqa: E402
from ridgeline.engine.flight.observed import UNKNOWNS, modelled  # noqa: E402
from ridgeline.engine.pipeline import Evaluator  # noqa: E402
from ridgeline.files.design_file import load  # noqa: E402

#: Causes are told apart under this, and observed over this ln B (second part of the handbook §19).
ALIKE, OBSERVED = 0.9, 1.5


def case(design, evaluator, model, report, name, seed, bench):
    """Fly one build; return the rank of what was planted (0 first), whether it could be seen, and what was covered."""
    rng = np.random.default_rng(seed)
    off = built(model, name, rng)
    told = {"flights": (logged(design, report, model, off, rng),), "versions": ()}
    if bench:
        told["as_built"] = levelled(design, off, rng)
    flown = design.model_copy(update=told)
    found = diagnosed(flown, evaluator(flown), model)
    covered = [
        abs(found.learnt[one][0] - float(off[one][0])) <= BAND * found.learnt[one][1]
        for one in UNKNOWNS
        if found.learnt[one][1] < 0.98 * found.before[one]
    ]
    if name is None:
        return 0, False, covered
    names = [one.name for one in found.causes]
    evidence = next((one.evidence for one in found.causes if one.name == name), -1.0)
    cosines, _shows = told_apart(model, found.measured)
    k = UNKNOWNS.index(name)
    alone = bool(np.delete(np.abs(cosines[k]), k).max() < ALIKE)
    return (names.index(name) if name in names else 99), alone and evidence > OBSERVED, covered


def main() -> None:
    """Print how often each planted error is named first."""
    seeds = int(sys.argv[1]) if sys.argv[1:] else 200
    evaluator = Evaluator()
    for demo, bench in (("whimbrel", False), ("dunlin", False), ("lapwing", False), ("whimbrel", True)):
        design = load(f"demo:{demo}")
        report = evaluator(design)
        model = modelled(design, report)
        assert model is not None
        firsts = seen = 0
        for name in PLANTED:
            rows = [
                case(design, evaluator, model, report, name, seed, bench) for seed in range(seeds // len(PLANTED) + 1)
            ]
            could = [rank for rank, able, _covered in rows if able]
            firsts, seen = firsts + could.count(0), seen + len(could)
            share = f"{could.count(0) / len(could):.0%}" if could else "–"
            seen_of = f"observable {len(could):3} of {len(rows)}, first {share}"
            print(f"{demo:10} {'bench' if bench else '':6} {name:10} {seen_of}")
        covered = [
            one for seed in range(seeds) for one in case(design, evaluator, model, report, None, 1000 + seed, bench)[2]
        ]
        print(
            f"{demo:10} first in {firsts} of {seen} ({firsts / max(seen, 1):.0%}); bands cover {np.mean(covered):.1%}"
        )


if __name__ == "__main__":
    main()
