"""The search for a spar's stock as JSON, for what orders or compares it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from ridgeline.engine.structure.choosing import Question, shortest_end
from ridgeline.engine.structure.stepped import Stepped
from ridgeline.engine.structure.stock import Tried

_DECIMALS = 6


def stock_text(asked: Question, tried: Sequence[Tried], factor: float, steps: Stepped | None) -> str:
    """Return what was tried as the spar of a surface, as JSON text in SI units.

    Parameters
    ----------
    asked : Question
    tried : sequence of Tried
        The lightest that holds first.
    factor : float
        Limit load factor.
    steps : Stepped or None
        The lightest spar in two steps.

    Returns
    -------
    str
        The surface, what is asked (room, most bend, greatest moment, where the spar stands and may end), the lightest
        in two steps, and a row a stock: name, how many and whether one of two is at the rear, mass of all, load over
        what is allowed, load factor it bears, bend of the tip, price.
    """
    surface = asked.half.surface
    told = {
        "surface": {"id": surface.id, "name": surface.name},
        "load_factor": factor,
        "room": round(asked.room, _DECIMALS),
        "most_tip": round(asked.most_tip, _DECIMALS),
        "moment": round(float(asked.greatest.max()), _DECIMALS),
        "place": asked.place,
        "end": asked.end,
        "may_end": round(shortest_end(asked), _DECIMALS),
        "stepped": None
        if steps is None
        else {
            "inner": steps.inner.name,
            "outer": steps.outer.name,
            "step": round(steps.step, _DECIMALS),
            "mass": round(steps.mass, 7),
            "share": round(steps.share, _DECIMALS),
            "tip": round(steps.tip, _DECIMALS),
        },
        "stock": [_row(one, factor) for one in tried],
    }
    return json.dumps(told, indent=1, ensure_ascii=False) + "\n"


def _row(one: Tried, factor: float) -> dict[str, Any]:
    return {
        "name": one.material.name,
        "count": one.number,
        "front_and_rear": one.apart,
        "mass": round(one.mass, 7),
        "share": round(one.share, _DECIMALS),
        "bears": round(factor * one.bears, _DECIMALS) if one.share > 0 else None,
        "tip": round(one.tip, _DECIMALS),
        "price": one.material.price,
        "fits": one.fits,
        "holds": one.holds,
    }
