"""Sentences with measured values in them, written out only when the builder's units are known."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations

from ridgeline.units import METRIC, Units, shown, with_unit

#: At most so many decimals more than usual are written so that two values can be told apart.
_MORE_DECIMALS = 2


@dataclass(frozen=True)
class Measured:
    """A value in a sentence. ``bare`` leaves the unit symbol away, as in "from 31 to 27 %"."""

    value: float
    quantity: str
    decimals: int | None = None
    bare: bool = False


@dataclass(frozen=True)
class Phrase:
    """A template with ``{}`` places and what goes into them."""

    template: str
    values: tuple[Measured | str, ...] = ()

    def render(self, units: Units = METRIC) -> str:
        """Write the sentence in the given units. Only ``{}`` is a place: a name may hold any other brace."""
        parts = self.template.split("{}")
        written = [_write(value, units) for value in _told_apart(self.values, units)]
        written += ["{}"] * (len(parts) - 1 - len(written))
        return "".join(part + word for part, word in zip(parts, [*written[: len(parts) - 1], ""], strict=True))

    def __str__(self) -> str:
        return self.render()


def _told_apart(values: tuple[Measured | str, ...], units: Units) -> list[Measured | str]:
    """Give values of one quantity the decimals it takes to see which is the larger: what is claimed can be read off."""
    told = list(values)
    for first, second in combinations(range(len(told)), 2):
        a, b = told[first], told[second]
        if not (isinstance(a, Measured) and isinstance(b, Measured) and a.quantity == b.quantity) or a.value == b.value:
            continue
        unit = units[a.quantity]
        fewest = max(unit.decimals if one.decimals is None else one.decimals for one in (a, b))
        if _in_order(a, b, units):
            continue
        for decimals in range(fewest, fewest + _MORE_DECIMALS + 1):
            finer = replace(a, decimals=decimals), replace(b, decimals=decimals)
            if _in_order(*finer, units):
                told[first], told[second] = finer
                break
    return told


def _in_order(a: Measured, b: Measured, units: Units) -> bool:
    """Tell whether two values as they are written stand to one another as they do."""
    unit = units[a.quantity]
    shown_a, shown_b = (
        round(one.value * unit.factor, unit.decimals if one.decimals is None else one.decimals) for one in (a, b)
    )
    return shown_a != shown_b and (shown_a < shown_b) == (a.value * unit.factor < b.value * unit.factor)


def _write(value: Measured | str, units: Units) -> str:
    if isinstance(value, str):
        return value
    write = shown if value.bare else with_unit
    return write(value.value, value.quantity, units, value.decimals)


def say(template: str, *values: Measured | str) -> Phrase:
    """Make a phrase: ``say("Slide pack {} forward", Measured(0.018, "length"))``."""
    return Phrase(template, values)
