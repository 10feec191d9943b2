"""Figures with their bands and working."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, NamedTuple

from ridgeline.engine.bands import BAND
from ridgeline.engine.register import entry_of
from ridgeline.units import STORED_UNIT, number

_PLACE = re.compile(r"\{(\w+)\}")


class Sides(NamedTuple):
    """One-sigma errors below and above a value that is more likely to end up on one side of its estimate."""

    below: float
    above: float


class Term(NamedTuple):
    """One number put into a formula: its symbol there, its name, value, one-sigma error and quantity.

    ``figure`` is the key of the figure it is, when it is one, so that its own working can be opened.
    """

    symbol: str
    label: str
    value: float
    quantity: str
    sigma: float = 0.0
    share: float = 0.0
    figure: str = ""
    sides: Sides | None = None


class Working(NamedTuple):
    """A hand calculation: the template of the formula, the terms put into it (SI), the source, a remark."""

    template: str
    terms: tuple[Term, ...]
    source: str
    note: str = ""
    model_share: float = 0.0

    @property
    def formula(self) -> str:
        """The formula with its symbols."""
        return _PLACE.sub(lambda m: m.group(1), self.template)

    @property
    def substituted(self) -> str:
        """The formula with the numbers put in."""
        values = {term.symbol: term.value for term in self.terms}
        return _PLACE.sub(lambda m: _in_formula(values[m.group(1)]), self.template)


class Error(NamedTuple):
    """What a figure errs by, one sigma, below and above where those differ, and the hand calculation that tells why."""

    sigma: float = 0.0
    sides: Sides | None = None
    working: Working | None = None


@dataclass(frozen=True)
class Figure:
    """One computed figure in its stored unit with a 90 % band; ``value`` is None when it cannot be had.

    ``made`` tells its error and its working when they are first asked for: most are not, between one edit and the
    next; ``worked`` is the same figure with the working that stays when its error was found otherwise. ``sides`` are
    the one-sigma errors below and above the value where they differ; ``sigma`` is then their root mean square.
    """

    key: str
    value: float | None
    why_not: str = ""
    made: Callable[[], Error] = field(default=Error, repr=False, compare=False)
    worked: Figure | None = field(default=None, repr=False, compare=False)

    @cached_property
    def error(self) -> Error:
        """Error and working in one."""
        return self.made()

    @property
    def sigma(self) -> float:
        """The one-sigma error, in the stored unit."""
        return self.error.sigma

    @property
    def sides(self) -> Sides | None:
        """The errors below and above, where they differ."""
        return self.error.sides

    @property
    def working(self) -> Working | None:
        """The hand calculation; None where there is none."""
        return self.error.working if self.worked is None else self.worked.working

    def with_error(self, found: Callable[[], tuple[float | None, Sides | None]]) -> Figure:
        """Return the figure with an error found otherwise than through its formula; its working stays.

        ``found`` gives sigma, None for the formula's own, and the errors below and above where they differ.
        """

        def made() -> Error:
            sigma, sides = found()
            return Error(self.sigma if sigma is None else sigma, sides)

        return Figure(self.key, self.value, made=made, worked=self)

    @property
    def label(self) -> str:
        return label_of(self.key)

    @property
    def quantity(self) -> str:
        return quantity_of(self.key)

    @property
    def unit(self) -> str:
        return STORED_UNIT[self.quantity]

    @property
    def low(self) -> float | None:
        return None if self.value is None else self.value - self.below

    @property
    def high(self) -> float | None:
        return None if self.value is None else self.value + self.above

    @property
    def below(self) -> float:
        """How far the band reaches below the value."""
        return BAND * (self.sigma if self.sides is None else self.sides.below)

    @property
    def above(self) -> float:
        """How far the band reaches above the value."""
        return BAND * (self.sigma if self.sides is None else self.sides.above)


def label_of(key: str) -> str:
    """Return the registered label of a figure."""
    return entry_of(key).label


def quantity_of(key: str) -> str:
    """Return the registered quantity of a figure."""
    return entry_of(key).quantity


def absent(key: str, why: str) -> Figure:
    """Return a figure that cannot be had, with the reason."""
    return Figure(key, None, why_not=why)


class Put(NamedTuple):
    """A value to put into a formula, with its one-sigma error."""

    value: float
    label: str
    quantity: str
    sigma: float = 0.0
    figure: str = ""
    sides: Sides | None = None


class _PutFigure(Put):
    """A figure put into a formula: its error is asked for when that of the formula is."""

    source: Figure

    @property
    def sigma(self) -> float:
        return self.source.sigma

    @property
    def sides(self) -> Sides | None:
        return self.source.sides

    def _replace(self, **changed: Any) -> Put:  # type: ignore[override]
        return Put(self.value, self.label, self.quantity, self.sigma, self.figure, self.sides)._replace(**changed)


class _PutLater(Put):
    """A value put into a formula whose error costs something: it is found when that of the formula is asked for."""

    found: Callable[[], float]

    @property
    def sigma(self) -> float:
        return self.found()


def later(value: float, label: str, quantity: str, sigma: Callable[[], float]) -> Put:
    """Put a value into a formula, with its one-sigma error to be found when it is asked for."""
    made = _PutLater(value, label, quantity)
    made.found = sigma
    return made


def put(figure: Figure, label: str = "") -> Put:
    """Put one figure into the formula of the next. It must have a value."""
    if figure.value is None:
        raise ValueError(f"{figure.key} has no value: {figure.why_not}")
    found = _PutFigure(figure.value, label or figure.label, figure.quantity, 0.0, figure.key)
    found.source = figure
    return found


def derive(
    key: str,
    formula: str,
    function: Callable[..., float],
    inputs: Mapping[str, Put],
    *,
    source: str,
    note: str = "",
    model_sigma: float = 0.0,
) -> Figure:
    """Compute a figure from its inputs, carry their errors through, and write its working.

    Parameters
    ----------
    formula : str
        With each input in braces: ``"√(2·{m}·g/({d}·{S}·{C_Lmax}))"``. Shown once with the symbols and once
        with the numbers.
    function : callable
        Takes the inputs as keywords, in stored units.
    model_sigma : float
        One-sigma error of the formula itself, in the figure's stored unit.

    Source
    ------
    First-order propagation by central differences over ±1σ, independent inputs: docs/theory.md §1.
    """
    values = {name: item.value for name, item in inputs.items()}
    try:
        value = float(function(**values))
    except (ValueError, ZeroDivisionError, OverflowError):
        value = math.nan
    if not math.isfinite(value):
        return absent(key, "the formula has no finite result for these numbers")
    items = dict(inputs)
    return Figure(key, value, made=lambda: _error(formula, function, items, values, value, source, note, model_sigma))


def _error(
    formula: str,
    function: Callable[..., float],
    inputs: Mapping[str, Put],
    values: dict[str, float],
    value: float,
    source: str,
    note: str,
    model_sigma: float,
) -> Error:
    """Carry the errors of inputs through a formula, and write its working."""
    # Of its own: two threads may ask for it at once.
    values = dict(values)
    moved = {
        name: _spread(function, values, name, item.sigma, value) for name, item in inputs.items() if item.sigma > 0
    }
    variance = math.fsum([change * change for change in moved.values()]) + model_sigma**2
    share = 1.0 / variance if variance else 0.0
    terms = tuple(
        [
            Term(name, i.label, i.value, i.quantity, i.sigma, moved.get(name, 0.0) ** 2 * share, i.figure, i.sides)
            for name, i in inputs.items()
        ]
    )
    working = Working(formula, terms, source, note, model_sigma**2 * share)
    sigma = math.sqrt(variance) if math.isfinite(variance) else 0.0
    return Error(sigma, _sides(inputs, moved, variance), working)


def _sides(inputs: Mapping[str, Put], moved: Mapping[str, float], variance: float) -> Sides | None:
    """Return the errors below and above of what is derived from a skewed input, by which way that moves it."""
    skewed = {name: inputs[name] for name in moved if inputs[name].sides is not None}
    if not skewed or not math.isfinite(variance):
        return None
    below = above = variance - math.fsum(moved[name] ** 2 for name in skewed)
    for name, item in skewed.items():
        assert item.sides is not None
        slope = moved[name] / item.sigma
        down, up = item.sides if slope > 0 else (item.sides.above, item.sides.below)
        below, above = below + (slope * down) ** 2, above + (slope * up) ** 2
    return Sides(math.sqrt(max(below, 0.0)), math.sqrt(max(above, 0.0)))


def _spread(function: Callable[..., float], values: dict[str, float], name: str, sigma: float, value: float) -> float:
    """Return what one sigma of an input does: half the difference over ±1σ, or the one side where the formula holds."""
    here = values[name]
    up, down = _moved(function, values, name, here + sigma), _moved(function, values, name, here - sigma)
    values[name] = here
    if math.isfinite(up):
        return 0.5 * (up - down) if math.isfinite(down) else up - value
    return value - down if math.isfinite(down) else 0.0


def _moved(function: Callable[..., float], values: dict[str, float], name: str, to: float) -> float:
    """Return the formula with one input elsewhere, not a number where it does not hold; the input stays there."""
    values[name] = to
    try:
        return float(function(**values))
    except (ValueError, ZeroDivisionError, OverflowError):
        return math.nan


def _in_formula(value: float) -> str:
    """Write a number to four significant figures, bracketed when negative."""
    if value == 0:
        return "0"
    decimals = max(0, min(7, 3 - math.floor(math.log10(abs(value)))))
    text = number(value, decimals)
    return f"({text})" if value < 0 else text
