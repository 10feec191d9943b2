"""Findings with their reasons and remedies, and the report of a design, which a screen draws."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Literal, Protocol

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.shelf import Shelf
from ridgeline.engine.figures import Figure
from ridgeline.engine.phrase import Phrase
from ridgeline.engine.results import Results

Level = Literal["stop", "look", "settled"]
LEVELS: tuple[Level, ...] = ("stop", "look", "settled")


#: A wanted range in stored units; None is an open end.
Wanted = tuple[float | None, float | None]
#: What was solved onto the end of a range lies in it, whatever the last digit says.
_HAIR = 1e-9


def within(value: float, wanted: Wanted | None) -> bool:
    """Tell whether a value lies in a wanted range, its ends among it; in none everything does.

    Parameters
    ----------
    value : float
    wanted : tuple of float or None

    Returns
    -------
    bool
    """
    low, high = wanted or (None, None)
    return (low is None or value >= low - _HAIR) and (high is None or value <= high + _HAIR)


@dataclass(frozen=True)
class Remedy:
    """A way out of a finding: what the button says, the edits it makes, as data, and what it costs besides."""

    key: str
    text: Phrase
    changes: tuple[Change, ...]
    price: Phrase | None = None


def _any(_remedy: Remedy) -> bool:
    return True


@dataclass(frozen=True)
class Finding:
    """A judgement in plain words, with its reason, and the stop of the trail it belongs to.

    ``ways`` out that cost something to solve are given as what solves them, when they are first asked for.
    """

    key: str
    level: Level
    stop: str
    text: Phrase
    reason: Phrase
    ways: tuple[Remedy, ...] | Callable[[], Iterable[Remedy]] = ()
    figures: tuple[str, ...] = ()
    accepted: Callable[[Remedy], bool] = field(default=_any, repr=False, compare=False)

    @cached_property
    def remedies(self) -> tuple[Remedy, ...]:
        """The ways out that the document accepts: one past a limit is none. Tried when they are first asked for."""
        ways = self.ways() if callable(self.ways) else self.ways
        return tuple(way for way in ways if self.accepted(way))


class Trial(Protocol):
    """What advice tries edits by: it evaluates designs, and redoes only what an edit touched."""

    def __call__(self, design: Design) -> Report:
        """Return the report of a design."""

    def value(self, design: Design, key: str) -> float | None:
        """Return one figure of a design, by what it hangs on alone; None when it cannot be had."""

    def result(self, design: Design, name: str) -> Any:
        """Return the result of one stage of a design, by what it hangs on alone."""


@dataclass(frozen=True)
class Report:
    """Everything a screen shows of one design. ``judge`` gives the findings when they are first asked for.

    ``trial`` makes an evaluator of other designs that begins with what is known of this one.
    """

    figures: Mapping[str, Figure]
    wanted: Mapping[str, Wanted]
    results: Results
    judge: Callable[[Report], Iterable[Finding]] = field(repr=False, compare=False)
    trial: Callable[[], Trial] = field(repr=False, compare=False)
    #: What parts ways out may name; None where any size is taken as sold.
    stock: Callable[[], Shelf] | None = field(default=None, repr=False, compare=False)

    @cached_property
    def shelf(self) -> Shelf | None:
        """The parts that ways out may name, read when first asked for; None where any size is taken as sold."""
        return None if self.stock is None else self.stock()

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """Every finding, worst first, in the order of the stops."""
        return tuple(sorted(self.judge(self), key=lambda finding: LEVELS.index(finding.level)))

    def value(self, key: str) -> float | None:
        """Return a figure's value, or None when it cannot be had."""
        figure = self.figures.get(key)
        return None if figure is None else figure.value
