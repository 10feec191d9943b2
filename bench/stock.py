"""Time of a search of 300 stocks on a half wing, over that of one bend of the same wing.

Run: ./.venv/bin/python bench/stock.py.
"""

from __future__ import annotations

import time

import numpy as np

from ridgeline.engine.structure.beam import bent, carried
from ridgeline.engine.structure.stock import bears_in_bending, search
from ridgeline.library import shipped_shelf

_ROUNDS = 50


def main() -> None:
    """Print the median of both and their ratio."""
    known = [m for m in shipped_shelf().materials if bears_in_bending(m)]
    stock = [m.model_copy(update={"thickness": m.thickness * (1 + 0.001 * k)}) for k in range(9) for m in known][:300]
    y = 0.6 * np.sin(np.linspace(0, np.pi / 2, 41))
    load, skin = carried(y, 20.0 * np.sqrt(1 - (y / 0.6) ** 2)), np.full_like(y, 0.4)
    searches, bends = [], []
    for _ in range(_ROUNDS):
        begun = time.perf_counter()
        search(stock, y, load, 0.45, room=0.012, most_tip=0.06, skin=skin)
        between = time.perf_counter()
        bent(y, load, skin)
        bends.append(time.perf_counter() - between)
        searches.append(between - begun)
    slow, quick = sorted(searches)[_ROUNDS // 2], sorted(bends)[_ROUNDS // 2]
    print(f"{len(stock)} stocks of 1 to 4: {1000 * slow:.1f} ms, {slow / quick:.0f} times one bend")


if __name__ == "__main__":
    main()
