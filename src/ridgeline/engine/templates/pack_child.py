"""One attempt at packing, in a process of its own so that it can be stopped: shapes in, places out, as JSON lines.

Run as ``python -m ridgeline.engine.templates.pack_child``; it reads one object from its input and writes one.
"""

from __future__ import annotations

import json
import sys
from typing import Any


def attempt(wanted: dict[str, Any]) -> dict[str, Any]:
    """Pack shapes on a strip.

    Parameters
    ----------
    wanted : dict
        ``items``: key and corners of each, mm; ``turns``, degrees; ``room``, the strip's breadth, and ``apart``, mm;
        ``seconds`` and ``seed``.

    Returns
    -------
    dict
        ``width``: how much of the strip is taken, mm; ``placed``: key, turn in degrees and shift of each.

    Raises
    ------
    ValueError
        From the library, of shapes that do not go on the strip.
    """
    import spyrrow

    items = [spyrrow.Item(key, [tuple(p) for p in corners], 1, wanted["turns"]) for key, corners in wanted["items"]]
    config = spyrrow.StripPackingConfig(
        total_computation_time=wanted["seconds"], min_items_separation=wanted["apart"], num_workers=2,
        seed=wanted["seed"],
    )  # fmt: skip
    solved = spyrrow.StripPackingInstance("", wanted["room"], items).solve(config)
    placed = [(one.id, one.rotation, *one.translation) for one in solved.placed_items]
    return {"width": solved.width, "placed": placed}


if __name__ == "__main__":
    print(json.dumps(attempt(json.load(sys.stdin))))
