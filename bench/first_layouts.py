"""First layouts over purposes, ceilings and build methods: how many come with a stop, something to look at, or neither.

python bench/first_layouts.py [EVERY]    every EVERYth of the grid (odd, to meet all); the findings met most are named

Then the fifteen layouts as trainers (those without a tail for that purpose) of four sizes.
"""

from __future__ import annotations

import collections
import sys
from itertools import product
from multiprocessing import Pool
from typing import Any, get_args

from ridgeline.design.brief import BuildMethod, Purpose
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.errors import DesignError
from ridgeline.library import shipped_shelf

CEILINGS = (0.12, 0.25, 0.5, 0.8, 1.5, 3.0, 7.0)
#: Spans that can be carried: wider for what is heavier.
SPAN, WIDE, WIDE_ABOVE = 2.0, 6.0, 2.0
#: Ceilings of the layouts' trainers, kg.
TRAINERS = (0.105, 0.5, 2.0, 12.0)
LAYOUTS = tuple(product(ARRANGEMENTS, TRAINERS))
GRID = tuple(product(get_args(Purpose), CEILINGS, get_args(BuildMethod)))


def one(wish: tuple[str, float, str]) -> tuple[str, tuple[str, ...]]:
    """Return what comes of a first layout, and the keys of what it is told."""
    purpose, ceiling, method = wish
    return _outcome({"purpose": purpose, "ceiling": ceiling, "build_method": method})


def one_layout(wish: tuple[str, float]) -> tuple[str, tuple[str, ...]]:
    """Return what comes of a trainer of a layout, and the keys of what it is told."""
    layout, ceiling = wish
    purpose = "tailless" if ARRANGEMENTS[layout].family == "tailless" else "trainer"
    return _outcome({"purpose": purpose, "ceiling": ceiling, "layout": layout})


def _outcome(typed: dict[str, Any]) -> tuple[str, tuple[str, ...]]:
    typed["span_limit"] = WIDE if typed["ceiling"] > WIDE_ABOVE else SPAN
    try:
        design = lay_out(brief_of(typed), shipped_shelf())
    except DesignError as error:
        return "refused", (error.allowed[:60],)
    findings = evaluate(design).findings
    for level in ("stop", "look"):
        keys = tuple(f.key for f in findings if f.level == level)
        if keys:
            return level, keys
    return "settled", ()


def _tell(found: list[tuple[str, tuple[str, ...]]]) -> None:
    """Print the counts, and which findings stand behind them."""
    for level in ("stop", "look", "settled", "refused"):
        mine = [keys for came, keys in found if came == level]
        share = 100 * len(mine) / len(found)
        most = collections.Counter(key for keys in mine for key in keys).most_common(8)
        print(f"{level:8} {len(mine):4} ({share:.0f} %)  {', '.join(f'{key} {n}' for key, n in most)}")


def main() -> None:
    """Sweep the grid and the layouts."""
    every = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    wishes = GRID[::every]
    with Pool(2) as pool:
        print(f"{len(wishes)} of {len(GRID)} first layouts")
        _tell(pool.map(one, wishes, chunksize=4))
        print(f"{len(LAYOUTS)} trainers of {len(ARRANGEMENTS)} layouts")
        _tell(pool.map(one_layout, LAYOUTS, chunksize=4))


if __name__ == "__main__":
    main()
