"""Evaluate a design: stages, what each depends on, and the reuse of what an edit did not touch."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from copy import copy
from dataclasses import fields
from functools import lru_cache, partial
from types import MappingProxyType
from typing import Any, NamedTuple

from ridgeline.design.document import Design
from ridgeline.design.shelf import Shelf
from ridgeline.engine import stages
from ridgeline.engine.advice import rules
from ridgeline.engine.figures import Figure
from ridgeline.engine.report import Report
from ridgeline.engine.results import Results
from ridgeline.engine.weights.items import ItemRows


class Stage(NamedTuple):
    """One step: a pure function of named inputs (document fields or earlier stages).

    ``takes`` are figures of stages before it, handed over whole as ``told``, so that value, band and working go with
    them. ``memory`` makes what an evaluator keeps for it from one design to the next; the answer does not hang on that.
    """

    name: str
    function: Callable[..., stages.Outcome[Any]]
    needs: tuple[str, ...]
    takes: tuple[str, ...] = ()
    memory: Callable[[], Any] | None = None


STAGES: tuple[Stage, ...] = (
    Stage("air", stages.air, ("brief",)),
    Stage("shape", stages.shape, ("surfaces",)),
    Stage("body_sizes", stages.bodies, ("bodies",)),
    Stage("followed", stages.followed, ("parts",)),
    Stage("rooms", stages.rooms, ("cutting",), memory=stages.Last),
    Stage("seats", stages.seats, ("surfaces", "parts", "rooms"), memory=stages.Last),
    Stage("extents", stages.extents, ("surfaces", "bodies", "followed", "seats", "rooms")),
    Stage("masses", stages.masses, ("parts", "power", "brief", "extents", "learnt"), memory=ItemRows),
    Stage("loading", stages.loading, ("shape", "masses"), ("mass.auw",)),
    Stage("lattice", stages.lattice, ("shape", "surfaces")),
    Stage("stability", stages.stability, ("shape", "body_sizes", "lattice")),
    Stage("balance", stages.balance, ("shape", "masses", "stability", "brief", "surfaces", "lattice", "air", "power")),
    Stage(
        "speeds",
        stages.speeds,
        ("shape", "masses", "air", "brief", "surfaces", "lattice", "stability", "balance"),
        ("mass.auw",),
    ),
    Stage("beams", stages.beams, ("surfaces", "bodies")),
    Stage("spread", stages.spread, ("beams", "lattice")),
    Stage("bracing", stages.bracing, ("fastenings",)),
    Stage(
        "flexed",
        stages.flexed,
        ("beams", "spread", "lattice", "masses", "parts", "surfaces", "bodies", "bracing", "speeds", "air"),
        ("mass.auw",),
    ),
    Stage(
        "trim",
        stages.trimmed,
        ("shape", "lattice", "stability", "balance", "speeds", "masses", "air", "surfaces", "brief"),
        ("balance.cg_fraction", "mass.auw"),
    ),
    Stage(
        "sideslip",
        stages.sideslip,
        ("shape", "surfaces", "bodies", "lattice", "stability", "balance", "masses", "speeds", "air", "flexed"),
    ),
    Stage("moving", stages.moving, ("linkages", "radio", "surfaces", "brief"), memory=stages.Followed),
    Stage("throws", stages.throws, ("moving", "radio", "surfaces", "brief"), memory=stages.Last),
    Stage(
        "handling",
        stages.handling,
        ("shape", "lattice", "stability", "balance", "speeds", "throws", "sideslip", "flexed"),
        (
            "stability.cl_p",
            "stability.cl_beta",
            "stability.cn_beta",
            "speed.cruise",
            "wing.cl_max",
            "wing.span",
            "balance.target_low",
        ),
    ),
    Stage(
        "flaps",
        stages.flaps,
        ("shape", "lattice", "stability", "balance", "speeds", "masses", "air", "handling", "surfaces"),
        ("speed.stall", "mass.auw", "wing.area", "wing.cl_max"),
    ),
    Stage(
        "resting",
        stages.resting,
        ("lattice", "stability", "balance", "speeds", "masses", "air", "surfaces", "throws"),
        ("balance.cg_fraction", "mass.auw"),
    ),
    Stage("effects", stages.effects, ("lattice", "surfaces")),
    Stage(
        "sticking",
        stages.sticking,
        (
            *("lattice", "stability", "balance", "speeds", "sideslip", "masses", "air", "handling", "flaps"),
            *("effects", "moving", "radio", "surfaces", "brief"),
        ),
    ),
    Stage("clearances", stages.clearances, ("power", "surfaces", "bodies", "wheels")),
    Stage("standing", stages.standing, ("power", "air", "brief")),
    Stage("pulling", stages.pulling, ("power", "air", "standing", "brief", "learnt")),
    Stage("thrust_ratio", stages.thrust_ratio, ("standing",), ("mass.auw", "power.static_thrust")),
    Stage(
        "drag_list",
        stages.drag_list,
        ("surfaces", "bodies", "wheels", "parts", "power", "drag_items", "standing", "air"),
        memory=stages.Last,
    ),
    Stage(
        "polar",
        stages.polar,
        ("shape", "body_sizes", "surfaces", "lattice", "bodies", "power", "drag_list", "learnt"),
    ),
    Stage(
        "flight",
        stages.flight,
        ("power", "polar", "masses", "speeds", "air", "standing", "pulling", "brief"),
        ("speed.stall", "speed.cruise", "mass.auw", "drag.standing_out"),
    ),
    Stage("gliding", stages.gliding, ("polar", "masses", "speeds", "air", "brief"), ("speed.stall", "speed.cruise")),
    Stage(
        "bearing",
        stages.bearing,
        (
            *("loads", "beams", "spread", "flexed", "lattice", "shape", "masses", "speeds", "flight", "gliding"),
            *("polar", "handling", "air", "brief", "surfaces", "bodies", "wheels", "bracing"),
        ),
        ("mass.auw", "speed.max"),
    ),
    Stage("twisting", stages.twisting, ("beams", "bearing", "speeds", "air", "surfaces"), ("speed.cruise",)),
    Stage(
        "fastened",
        stages.fastened,
        (
            *("fastenings", "bearing", "flexed", "beams", "masses", "parts", "power", "surfaces", "bodies"),
            *("standing", "air", "brief", "bracing"),
        ),
    ),
    Stage("splices", stages.splices, ("surfaces", "seats", "rooms", "bearing", "beams")),
    Stage("linking", stages.linking, ("moving", "surfaces", "parts", "masses", "bearing", "beams", "air")),
    Stage("clearing", stages.clearing, ("moving", "surfaces", "bodies", "power")),
    Stage("harness", stages.harnessing, ("radio", "parts", "surfaces", "bodies", "power", "masses", "moving")),
    Stage("feeding", stages.feeding, ("parts", "masses", "linking", "power", "standing")),
    Stage(
        "supplying",
        stages.supplying,
        ("power", "parts", "masses", "standing", "flight", "air", "brief", "lattice", "handling"),
    ),
    Stage(
        "washing",
        stages.washing,
        (
            "power",
            "surfaces",
            "lattice",
            "polar",
            "standing",
            "pulling",
            "flight",
            "air",
            "speeds",
            "handling",
            "masses",
            "brief",
        ),
        ("control.cm_elevator", "control.cl_aileron", "control.cn_rudder"),
    ),
    Stage(
        "thrust_turning",
        stages.thrust_turning,
        ("power", "flight", "lattice", "air"),
        ("stability.cn_beta", "stability.cl_beta", "stability.cl_p"),
    ),
    Stage(
        "steering",
        stages.steering,
        ("power", "pulling", "flight", "lattice", "speeds", "masses", "air", "radio", "surfaces"),
        (*("stability.cn_beta", "stability.cl_beta", "stability.cl_p", "speed.cruise", "mass.auw"),),
    ),
    Stage("thrusting", stages.thrusting, ("power", "lattice", "stability", "balance", "masses", "flight", "air")),
    Stage(
        "motions",
        stages.motions,
        (
            *("surfaces", "lattice", "stability", "speeds", "masses", "air", "sideslip", "polar"),
            *("power", "pulling", "flight", "washing"),
        ),
        ("stability.cl_beta", "stability.cl_p", "stability.cn_beta", "stability.cn_r"),
    ),
    Stage(
        "logged",
        stages.logged,
        ("flights", "power"),
        ("power.static_current", "speed.max", "flight.mean_current"),
        memory=stages.LogRows,
    ),
    Stage(
        "running",
        stages.running,
        ("motions", "power", "pulling", "polar", "handling", "wheels", "masses", "air", "brief"),
        ("speed.stall", "mass.auw", "power.static_thrust"),
    ),
    Stage("flown_trim", stages.flown_trim, ("motions", "logged"), ("trim.elevator", "balance.cg_fraction")),
)
_FIELDS = (
    "brief",
    "surfaces",
    "bodies",
    "wheels",
    "cutting",
    "parts",
    "power",
    "drag_items",
    "loads",
    "fastenings",
    "linkages",
    "radio",
    "flights",
    "learnt",
)
_HANDED_ON = tuple(field.name for field in fields(Results))


def _same(first: Any, second: Any) -> bool:
    if first is second:
        return True
    if isinstance(first, tuple) and isinstance(second, tuple) and len(first) == len(second):
        return all(a is b or (isinstance(a, str) and a == b) for a, b in zip(first, second, strict=True))
    return False


class _Known(NamedTuple):
    """What an evaluator knew when it gave a report: the last inputs, outcomes and memory of each stage."""

    inputs: dict[str, tuple[Any, ...]]
    outcomes: dict[str, stages.Outcome[Any]]
    memory: dict[str, Any]


class Evaluator:
    """Evaluate one design after another, redoing only the stages whose inputs changed.

    ``runs`` counts how often each stage was computed. ``stock`` gives the parts that ways out may name.
    """

    def __init__(self, known: _Known | None = None, stock: Callable[[], Shelf] | None = None) -> None:
        self._stock = stock
        self._inputs: dict[str, tuple[Any, ...]] = dict(known.inputs) if known else {}
        self._outcomes: dict[str, stages.Outcome[Any]] = dict(known.outcomes) if known else {}
        fresh = {stage.name: stage.memory() for stage in STAGES if stage.memory is not None}
        self._memory = {name: copy(kept) for name, kept in known.memory.items()} if known else fresh
        self.runs: Counter[str] = Counter()

    def __call__(self, design: Design) -> Report:
        """Return the report of a design; its findings are judged when they are asked for."""
        found = self._run(design, STAGES)
        results = Results(**{name: found[name] for name in _HANDED_ON})
        figures = {figure.key: figure for stage in STAGES for figure in self._outcomes[stage.name].figures}
        wanted = rules.wanted_ranges(design, figures, results)
        judge, trial = partial(rules.judge, design), partial(_resumed, self._known(), self._stock)
        return Report(MappingProxyType(figures), MappingProxyType(wanted), results, judge, trial, self._stock)

    def _known(self) -> _Known:
        memory = {name: copy(kept) for name, kept in self._memory.items()}
        return _Known(dict(self._inputs), dict(self._outcomes), memory)

    def value(self, design: Design, key: str) -> float | None:
        """Return one figure of a design, by the stages it hangs on alone; None when it cannot be had."""
        giver = next((name for name, outcome in self._outcomes.items() if _figure(outcome, key) is not None), None)
        if giver is None:
            return self(design).value(key)
        self._run(design, _leading_to(giver))
        found = _figure(self._outcomes[giver], key)
        return None if found is None else found.value

    def result(self, design: Design, name: str) -> Any:
        """Return the result of one stage of a design, by the stages it hangs on alone."""
        return self._run(design, _leading_to(name))[name]

    def _run(self, design: Design, chosen: tuple[Stage, ...]) -> dict[str, Any]:
        """Bring some stages up to date, in their order, and return their results."""
        values: dict[str, Any] = {name: getattr(design, name) for name in _FIELDS}
        figures: dict[str, Figure] = {}
        for stage in chosen:
            told = {key: figures[key] for key in stage.takes}
            inputs = (*(values[name] for name in stage.needs), *told.values())
            before = self._inputs.get(stage.name)
            if before is None or not all(_same(a, b) for a, b in zip(before, inputs, strict=True)):
                more: dict[str, Any] = {"told": told} if told else {}
                if stage.name in self._memory:
                    more["memory"] = self._memory[stage.name]
                self._outcomes[stage.name] = stage.function(*inputs[: len(stage.needs)], **more)
                self._inputs[stage.name] = inputs
                self.runs[stage.name] += 1
            values[stage.name] = self._outcomes[stage.name].result
            figures.update((figure.key, figure) for figure in self._outcomes[stage.name].figures)
        return {stage.name: values[stage.name] for stage in chosen}


def _resumed(known: _Known, stock: Callable[[], Shelf] | None) -> Evaluator:
    """Return an evaluator that begins with what another knew."""
    return Evaluator(known, stock)


def _figure(outcome: stages.Outcome[Any], key: str) -> Figure | None:
    return next((figure for figure in outcome.figures if figure.key == key), None)


@lru_cache(maxsize=1)
def _givers() -> dict[str, str]:
    """Return which stage gives each figure: an empty design has all of them, without values."""
    evaluator = Evaluator()
    evaluator(Design())
    return {figure.key: name for name, outcome in evaluator._outcomes.items() for figure in outcome.figures}


@lru_cache(maxsize=64)
def _leading_to(name: str) -> tuple[Stage, ...]:
    """Return a stage and every stage it hangs on, in their order."""
    wanted = {name}
    for stage in reversed(STAGES):
        if stage.name in wanted:
            wanted.update(stage.needs)
            wanted.update(_givers()[key] for key in stage.takes)
    return tuple(stage for stage in STAGES if stage.name in wanted)


def evaluate(design: Design, stock: Callable[[], Shelf] | None = None) -> Report:
    """Evaluate one design from scratch.

    Parameters
    ----------
    design : Design
    stock : callable, optional
        Gives the parts that ways out may name; without one any size is taken as sold.

    Returns
    -------
    Report
        Every figure, every finding, worst first, and the results the screens draw.
    """
    return Evaluator(stock=stock)(design)
