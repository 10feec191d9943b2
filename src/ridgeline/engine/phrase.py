"""Sentences with measured values in them, written out only when the builder's units are known."""

from __future__ import annotations

from dataclasses import dataclass

from ridgeline.units import METRIC, Units, shown, with_unit


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
        written = [_write(value, units) for value in self.values]
        written += ["{}"] * (len(parts) - 1 - len(written))
        return "".join(part + word for part, word in zip(parts, [*written[: len(parts) - 1], ""], strict=True))

    def __str__(self) -> str:
        return self.render()


def _write(value: Measured | str, units: Units) -> str:
    if isinstance(value, str):
        return value
    write = shown if value.bare else with_unit
    return write(value.value, value.quantity, units, value.decimals)


def say(template: str, *values: Measured | str) -> Phrase:
    """Make a phrase: ``say("Slide pack {} forward", Measured(0.018, "length"))``."""
    return Phrase(template, values)
