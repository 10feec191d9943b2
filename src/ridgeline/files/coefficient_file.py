"""Propeller coefficients from a table: advance ratio, C_T and C_P, in any order, bad rows left out with a report."""

from __future__ import annotations

from pathlib import Path

from pydantic import ValidationError

from ridgeline.design.power import Advance
from ridgeline.errors import DesignError
from ridgeline.files.tables import Table, header_parts, number, read_table, split_table
from ridgeline.typed import short

#: Names of the columns, spaces and underscores taken away.
_NAMES = {
    "advance": ("j", "advance", "advanceratio"),
    "thrust": ("ct", "thrustcoefficient", "cthrust"),
    "power": ("cp", "powercoefficient", "cpower"),
}
_EXAMPLE = "J, CT, CP"


def read_coefficients(place: str | Path) -> tuple[tuple[Advance, ...], list[str]]:
    """Read a propeller's table from a file; rows come back in order of J.

    Raises
    ------
    DesignError
        When it cannot be read, lacks a column, or fewer than three rows remain.
    """
    return _coefficients(read_table(place, _EXAMPLE, notes=True), Path(place).name)


def coefficients_from_text(text: str, source: str = "table") -> tuple[tuple[Advance, ...], list[str]]:
    """Read a propeller's table from text.

    Raises
    ------
    DesignError
        When it lacks a column, or fewer than three rows remain.
    """
    return _coefficients(split_table(text, source, _EXAMPLE, notes=True), source)


def _coefficients(table: Table, source: str) -> tuple[tuple[Advance, ...], list[str]]:
    mark, header, lines, left_out = table
    if len(header) == 1:
        # Columns set with spaces only.
        header = header[0].split()
        lines = [(line, cells[0].split()) for line, cells in lines]
    places: dict[str, int] = {}
    for index, title in enumerate(header):
        plain = header_parts(title)[0].replace(" ", "").replace("_", "")
        target = next((t for t, names in _NAMES.items() if plain in names), None)
        if target is not None:
            places.setdefault(target, index)
    if len(places) < len(_NAMES):
        raise DesignError(source, f"the header “{short(', '.join(header[:6]), 80)}”", f"columns {_EXAMPLE}")
    report = list(left_out)
    found: dict[float, Advance] = {}
    for line, cells in lines:
        try:
            row = Advance(**{target: number(cells[index], mark) for target, index in places.items()})
        except (ValueError, IndexError, ValidationError):
            report.append(f"line {line} left out: {short(', '.join(cell.strip() for cell in cells[:6]), 80)}")
            continue
        if row.advance in found:
            report.append(f"line {line} left out: J = {row.advance:g} a second time")
            continue
        found[row.advance] = row
    if len(found) < 3:
        raise DesignError(source, f"{len(found)} rows", "three rows or more")
    return tuple(found[j] for j in sorted(found)), report
