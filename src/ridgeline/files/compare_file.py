"""Two aircraft compared, as lines for a terminal and as JSON for scripts."""

from __future__ import annotations

import json
from typing import Any

from pydantic_core import to_jsonable_python

from ridgeline.engine.advice.compare import Swapped
from ridgeline.engine.advice.two_versions import Differences
from ridgeline.engine.figures import Figure
from ridgeline.engine.phrase import Measured, say
from ridgeline.typed import short


def compare_text(names: tuple[str, str], found: Differences) -> str:
    """Return JSON of what differs, in stored (SI) units.

    Parameters
    ----------
    names : tuple of str
        Of the two.
    found : Differences

    Returns
    -------
    str
    """
    data = {
        "one": names[0],
        "other": names[1],
        "figures": {
            pair.key: {
                "one": _figure(pair.one), "other": _figure(pair.other), "unit": pair.one.unit, "label": pair.one.label,
                "apart": pair.apart,
            }
            for pair in found.figures
        },
        "gained": found.gained,
        "moved": found.moved,
        "items": [
            {"id": one.ident, "name": one.name, "before": one.before, "after": one.after, "moved": one.moved}
            for one in found.shifts
        ],
        "parts": [_part(swap) for swap in found.parts],
        "built": [
            {"id": one.ident, "name": one.name, "field": one.field, "before": _plain(one.before),
             "after": _plain(one.after)}
            for one in found.built
        ],
    }  # fmt: skip
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"


def compare_lines(names: tuple[str, str], found: Differences) -> list[str]:
    """Return what differs as lines, in metric units.

    Parameters
    ----------
    names : tuple of str
        Of the two.
    found : Differences

    Returns
    -------
    list of str
    """
    lines = [f"{names[0]} → {names[1]}"]
    for pair in sorted(found.figures, key=lambda pair: -pair.apart):
        lines.append(f"{pair.key:32} {pair.one.label:28} {_shown(pair.one)} → {_shown(pair.other)}")
    for shift in found.shifts:
        words = say("{} → {}, balance {}", Measured(shift.before, "mass", 1), Measured(shift.after, "mass", 1),
                    Measured(shift.moved, "length", 1))  # fmt: skip
        lines.append(f"item {shift.ident}: {shift.name}: {words}")
    for swap in found.parts:
        old, new = (getattr(part, "name", "nothing") for part in (swap.old, swap.new))
        lines.append(f"part: {old} → {new} {swap.fit}".rstrip())
    for one in found.built:
        was, now = (_value(value, one.quantity) for value in (one.before, one.after))
        lines.append(f"{one.name}: {one.field.replace('_', ' ')} {was} → {now}")
    return lines if len(lines) > 1 else [*lines, "nothing differs"]


def _value(value: Any, quantity: str) -> str:
    if value is None:
        return "nothing"
    if isinstance(value, float) and quantity:
        return str(say("{}", Measured(value, quantity)))
    return short(str(_plain(value)), 60)


def _shown(figure: Figure) -> str:
    return "–" if figure.value is None else str(say("{}", Measured(figure.value, figure.quantity)))


def _figure(figure: Figure) -> dict[str, Any]:
    return {"value": figure.value, "low": figure.low, "high": figure.high}


def _part(swap: Swapped) -> dict[str, Any]:
    return {
        "before": getattr(swap.old, "name", None),
        "after": getattr(swap.new, "name", None),
        "mass": swap.mass,
        "fit": str(swap.fit),
        "fits": swap.fits,
    }


def _plain(value: Any) -> Any:
    return to_jsonable_python(value)
