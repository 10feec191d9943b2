"""Columns of a table known by their headers and units, whatever order they stand in; what is not known is reported."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import NamedTuple

from ridgeline.files.tables import Table, header_parts, number
from ridgeline.typed import short

#: Words that name a column, and the factors of its units to the stored unit; the first unit is the usual one.
Columns = Mapping[str, tuple[tuple[str, ...], Mapping[str, float]]]
#: Servo pulses a controller takes as no throttle and full, µs.
_PULSE = (1000.0, 2000.0)
#: Units of a share by its servo pulse: read by their own rule, not by a factor.
PULSES = ("us", "µs")


class Understood(NamedTuple):
    """Where each quantity stands, how its cells are read, and how its header was understood."""

    places: dict[str, tuple[int, Callable[[float], float]]]
    words: dict[str, str]


def understand(
    table: Table, known: Columns, target: Callable[[str, str], str | None], report: list[str], share: str = ""
) -> Understood:
    """Map the columns of a table.

    Parameters
    ----------
    table : Table
    known : mapping
        Of what there may be.
    target : callable
        (name, unit) of a header → what it holds.
    report : list of str
        That gains what was left out, and why.
    share : str
        A quantity in per cent whose values up to 1 are shares, where no unit is told.

    Returns
    -------
    Understood
    """
    found = Understood({}, {})
    for index, title in enumerate(table.header):
        name, unit = header_parts(title)
        what = target(name, unit)
        if what is None or what in found.places:
            if title.strip():
                report.append(f"column “{short(title)}” left out: {'a second one' if what else 'not needed'}")
            continue
        factors = known[what][1]
        if unit and unit not in factors:
            report.append(f"column “{short(title)}” read in {next(iter(factors))}: “{short(unit)}” is not known")
            unit = ""
        if what == share and not unit and _are_shares(table, index):
            unit = "1"
            report.append(f"column “{short(title)}” has no unit: its values up to 1 are read as shares, 0.5 as 50 %")
        unit = unit or next(iter(factors))
        found.places[what] = (index, _pulse if unit in PULSES else _scaled(factors[unit]))
        found.words[what] = f"{short(title)} in {unit}"
    return found


def told(found: Understood, cells: list[str], mark: str) -> Iterator[tuple[str, float]]:
    """Yield what a row tells, in stored units; an empty cell tells nothing.

    Raises
    ------
    ValueError
        Naming the quantity whose cell is no number.
    """
    for what, (index, read) in found.places.items():
        cell = cells[index] if index < len(cells) else ""
        if not cell.strip():
            continue
        try:
            yield what, read(number(cell, mark))
        except ValueError as error:
            raise ValueError(f"{what} {error}") from error


def _are_shares(table: Table, index: int) -> bool:
    """Tell whether a column's values run from 0 to 1: no throttle in per cent ends at 1."""
    values = []
    for _line, cells in table.rows:
        try:
            values.append(number(cells[index], table.mark))
        except (ValueError, IndexError):
            continue
    return bool(values) and max(values) <= 1.0


def _scaled(factor: float) -> Callable[[float], float]:
    return lambda value: value * factor


def _pulse(value: float) -> float:
    low, high = _PULSE
    return min(max((value - low) / (high - low), 0.0), 1.0)
