"""Evaluate a design: stages, what each depends on, and the reuse of what an edit did not touch."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from functools import partial
from types import MappingProxyType
from typing import Any, NamedTuple

from ridgeline.design.document import Design
from ridgeline.engine import stages
from ridgeline.engine.advice import rules
from ridgeline.engine.figures import Figure, Report


class Stage(NamedTuple):
    """One step: a pure function of named inputs (document fields or earlier stages)."""

    name: str
    function: Callable[..., stages.Outcome]
    needs: tuple[str, ...]


STAGES: tuple[Stage, ...] = (
    Stage("air", stages.air, ("brief",)),
    Stage("shape", stages.shape, ("surfaces",)),
    Stage("body_sizes", stages.bodies, ("bodies", "wheels")),
    Stage("followed", stages.followed, ("parts",)),
    Stage("extents", stages.extents, ("surfaces", "bodies", "followed")),
    Stage("masses", stages.masses, ("parts", "power", "brief", "extents")),
    Stage("loading", stages.loading, ("shape", "masses")),
    Stage("lattice", stages.lattice, ("shape", "surfaces")),
    Stage("stability", stages.stability, ("shape", "body_sizes", "lattice")),
    Stage("balance", stages.balance, ("shape", "masses", "stability", "brief", "surfaces")),
    Stage(
        "speeds",
        stages.speeds,
        ("shape", "masses", "air", "brief", "surfaces", "lattice", "stability", "balance"),
    ),
    Stage(
        "trim",
        stages.trimmed,
        ("shape", "lattice", "stability", "balance", "speeds", "masses", "air", "surfaces", "brief"),
    ),
    Stage("handling", stages.handling, ("shape", "lattice", "stability", "balance", "speeds", "surfaces", "brief")),
    Stage(
        "flaps",
        stages.flaps,
        ("shape", "lattice", "stability", "balance", "speeds", "masses", "air", "handling", "surfaces"),
    ),
    Stage("motions", stages.motions, ("lattice", "stability", "balance", "speeds", "masses", "air")),
    Stage("clearances", stages.clearances, ("power", "surfaces", "bodies", "wheels")),
    Stage("standing", stages.standing, ("power", "masses", "air", "brief")),
    Stage("polar", stages.polar, ("shape", "body_sizes", "surfaces", "lattice")),
    Stage("flight", stages.flight, ("power", "polar", "masses", "speeds", "air", "standing", "brief")),
    Stage("gliding", stages.gliding, ("polar", "masses", "speeds", "air", "brief")),
    Stage(
        "supplying",
        stages.supplying,
        ("power", "parts", "masses", "standing", "flight", "air", "brief", "lattice", "handling"),
    ),
    Stage("thrusting", stages.thrusting, ("power", "lattice", "stability", "balance", "masses", "flight", "air")),
)
_FIELDS = ("brief", "surfaces", "bodies", "wheels", "parts", "power")


def _same(first: Any, second: Any) -> bool:
    if first is second:
        return True
    if isinstance(first, tuple) and isinstance(second, tuple) and len(first) == len(second):
        return all(a is b or (isinstance(a, str) and a == b) for a, b in zip(first, second, strict=True))
    return False


class Evaluator:
    """Evaluate one design after another, redoing only the stages whose inputs changed.

    ``runs`` counts how often each stage was computed.
    """

    def __init__(self) -> None:
        self._inputs: dict[str, tuple[Any, ...]] = {}
        self._outcomes: dict[str, stages.Outcome] = {}
        self.runs: Counter[str] = Counter()

    def __call__(self, design: Design) -> Report:
        """Return the report of a design; its findings are judged when they are asked for."""
        values: dict[str, Any] = {name: getattr(design, name) for name in _FIELDS}
        figures: dict[str, Figure] = {}
        for stage in STAGES:
            inputs = tuple(values[name] for name in stage.needs)
            before = self._inputs.get(stage.name)
            if before is None or not all(_same(a, b) for a, b in zip(before, inputs, strict=True)):
                self._outcomes[stage.name] = stage.function(*inputs)
                self._inputs[stage.name] = inputs
                self.runs[stage.name] += 1
            outcome = self._outcomes[stage.name]
            values[stage.name] = outcome.result
            figures.update((figure.key, figure) for figure in outcome.figures)
        results = {stage.name: values[stage.name] for stage in STAGES}
        wanted = rules.wanted_ranges(design, figures, results)
        judge = partial(rules.judge, design)
        return Report(MappingProxyType(figures), MappingProxyType(wanted), MappingProxyType(results), judge)


def evaluate(design: Design) -> Report:
    """Evaluate one design from scratch.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Report
        Every figure, every finding, worst first, and the results the screens draw.
    """
    return Evaluator()(design)
