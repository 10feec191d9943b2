"""What moves a figure most, and what input brings it to a wish: both by evaluating other documents."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

from pydantic import BaseModel

from ridgeline.design.document import Design
from ridgeline.design.kinds import KINDS
from ridgeline.design.paths import get, put, quantity_at
from ridgeline.design.wording import CALLED
from ridgeline.engine.report import Report
from ridgeline.engine.roots import root_in
from ridgeline.errors import DesignError

#: Steps of the trial edits: what a builder can cut, slide or order.
_STEP = {"length": 0.010, "angle": 0.017453, "temperature": 5.0, "mass": 0.010}
_SHARE_STEP = 0.05
_SKIPPED = (
    *("place_sigma", "revision", "item_length", "front", "back"),
    *("price", "stated_kv", "kv_sigma", "factor_sigma", "thrust_factor", "power_factor"),
    *("stated_resistance", "stated_no_load", "resistance_sigma", "lag_sigma", "no_load_sigma"),
)
#: What a power train knows of the bench: readings, and what they say; no number of it is the builder's to choose.
_APART = ("bench", "bench_fit")


class Influence(NamedTuple):
    """A trial edit and what it did to the figure (stored units)."""

    path: str
    label: str
    quantity: str
    step: float
    change: float


def measures(design: Design) -> Iterator[tuple[str, str]]:
    """Yield the path and plain label of every number with a unit, of the brief and of every part that is fitted."""
    yield from _walk(design.brief, "brief", "brief")
    for kind in KINDS:
        node = getattr(design, kind.field)
        if node is not None:
            yield from _walk(node, kind.field, getattr(node, "name", kind.word))


def _walk(node: Any, path: str, label: str) -> Iterator[tuple[str, str]]:
    if isinstance(node, tuple):
        for index, child in enumerate(node):
            name = getattr(child, "name", None) or f"{label} {index + 1}"
            if isinstance(child, BaseModel):
                yield from _walk(child, f"{path}[{index}]", str(name))
        return
    for field, info in type(node).model_fields.items():
        if field in _APART:
            continue
        child = getattr(node, field)
        here = f"{path}.{field}"
        extra = info.json_schema_extra
        words = field.replace("_", " ")
        if isinstance(extra, dict) and "quantity" in extra and field not in _SKIPPED:
            if child is not None:
                yield here, f"{label}, {CALLED.get(field, words)}"
        elif isinstance(child, BaseModel):
            yield from _walk(child, here, str(getattr(child, "name", None) or words))
        elif isinstance(child, tuple):
            yield from _walk(child, here, f"{label} {words.rstrip('s')}")


def influences(
    design: Design, report: Report, key: str, most: int = 6, *, stop: Callable[[], bool] = lambda: False
) -> list[Influence]:
    """Return the edits that move a figure most, strongest first.

    Each number of the design is changed alone by a step a builder would take: 10 mm, 1°, 10 g, 5 %.
    ``stop`` is asked between trials; a stopped search returns what it has.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    key : str
        Of a figure.
    most : int
        Edits told.
    stop : callable
        Asked between trials.

    Returns
    -------
    list of Influence
    """
    evaluator, base = report.trial(), report.value(key)
    if base is None:
        return []
    found = []
    for path, label in measures(design):
        if stop():
            break
        quantity = quantity_at(design, path) or "ratio"
        value = float(get(design, path))
        step = _STEP.get(quantity, _SHARE_STEP * abs(value))
        if step == 0:
            continue
        try:
            after = evaluator.value(put(design, path, value + step), key)
        except (DesignError, ValueError):
            continue
        if after is not None and abs(after - base) > 1e-9 * max(abs(base), 1e-3):
            found.append(Influence(path, label, quantity, step, after - base))
    found.sort(key=lambda item: -abs(item.change))
    return found[:most]


def solve_for(design: Design, report: Report, path: str, key: str, wish: float) -> float:
    """Return the value at ``path`` that brings figure ``key`` to ``wish``, nearest to the present value.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    path : str
        Of the input.
    key : str
        Of the figure.
    wish : float
        In the figure's stored unit.

    Returns
    -------
    float
        In the input's stored unit.

    Raises
    ------
    DesignError
        When no allowed value near the present one reaches the wish; it says how far one gets.
    """
    evaluator = report.trial()
    value_now = get(design, path)
    if value_now is None:
        raise DesignError(path, "nothing", "an input that has a value")
    now = float(value_now)

    def miss(value: float) -> float | None:
        try:
            result = evaluator.value(put(design, path, value), key)
        except (DesignError, ValueError):
            return None
        return None if result is None else result - wish

    reach = max(abs(now), _STEP.get(quantity_at(design, path) or "", 0.02))
    edges: list[tuple[float, float]] = []
    here = miss(now)
    if here is None:
        raise DesignError(key, "a figure that cannot be had now", "a figure with a value")
    before = {1: (now, here), -1: (now, here)}
    for share in (0.02, 0.05, 0.1, 0.2, 0.35, 0.5, 0.75, 1.0, 1.5, 2.5):
        for side in (1, -1):
            value = now + side * share * reach
            result = miss(value)
            if result is None:
                continue
            edges.append((value, result))
            last_value, last = before[side]
            if last * result <= 0:
                low, high = sorted((last_value, value))
                return root_in(lambda v: miss(v) or 0.0, low, high, 1e-9)
            before[side] = (value, result)
    nearest = min(edges, key=lambda edge: abs(edge[1]), default=(now, here))
    raise DesignError(path, f"{wish:g} for {key}", f"{nearest[1] + wish:.4g} at the most this input reaches")
