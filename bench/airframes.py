"""Thousands of random airframes: none may raise, and every figure is finite or says why not.

Run: ./.venv/bin/python bench/airframes.py [COUNT]
"""

from __future__ import annotations

import math
import sys
import time
from pathlib import Path

from hypothesis import HealthCheck, given, settings

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from strategies import designs

_COUNT = int(sys.argv[1]) if len(sys.argv) > 1 else 3000


def main() -> None:
    """Evaluate random airframes."""
    seen = {"designs": 0, "with a neutral point": 0, "figures": 0, "absent, with the reason": 0}

    @settings(max_examples=_COUNT, deadline=None, database=None, suppress_health_check=list(HealthCheck))
    @given(designs())
    def judge(design: Design) -> None:
        report = evaluate(design)
        seen["designs"] += 1
        seen["with a neutral point"] += report.value("stability.neutral_point_x") is not None
        for figure in report.figures.values():
            seen["figures"] += 1
            if figure.value is None:
                assert figure.why_not, figure.key
                seen["absent, with the reason"] += 1
            else:
                assert math.isfinite(figure.value) and math.isfinite(figure.sigma), figure.key

    begun = time.perf_counter()
    judge()
    took = time.perf_counter() - begun
    print(", ".join(f"{count} {words}" for words, count in seen.items()))
    print(f"{1e3 * took / seen['designs']:.1f} ms each with drawing them at random")


if __name__ == "__main__":
    main()
