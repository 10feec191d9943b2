"""Propeller coefficients from a table: advance ratio, C_T and C_P, in any order, bad rows left out with a report."""

from __future__ import annotations

import math
from pathlib import Path

from pydantic import ValidationError

from ridgeline.design.power import Advance
from ridgeline.errors import DesignError
from ridgeline.files.tables import HEADER, number, split_table, table_text

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
    return coefficients_from_text(table_text(place), Path(place).name)


def coefficients_from_text(text: str, source: str = "table") -> tuple[tuple[Advance, ...], list[str]]:
    """Read a propeller's table from text.

    Raises
    ------
    DesignError
        When it lacks a column, or fewer than three rows remain.
    """
    mark, header, lines = split_table(text, source, _EXAMPLE, notes=True)
    if len(header) == 1:
        # Columns set with spaces only.
        header = header[0].split()
        lines = [(line, cells[0].split()) for line, cells in lines]
    places: dict[str, int] = {}
    for index, title in enumerate(header):
        match = HEADER.match(title)
        plain = (match["name"] if match else title).lower().replace(" ", "").replace("_", "")
        target = next((t for t, names in _NAMES.items() if plain in names), None)
        if target is not None:
            places.setdefault(target, index)
    if len(places) < len(_NAMES):
        raise DesignError(source, f"the header “{', '.join(header[:6])}”", f"columns {_EXAMPLE}")
    report: list[str] = []
    found: dict[float, Advance] = {}
    for line, cells in lines:
        try:
            values = {target: number(cells[index], mark) for target, index in places.items()}
            if not all(map(math.isfinite, values.values())):
                raise ValueError
            row = Advance(**values)
        except (ValueError, IndexError, ValidationError):
            report.append(f"line {line} left out: {', '.join(cell.strip() for cell in cells[:6])}")
            continue
        if row.advance in found:
            report.append(f"line {line} left out: J = {row.advance:g} a second time")
            continue
        found[row.advance] = row
    if len(found) < 3:
        raise DesignError(source, f"{len(found)} rows", "three rows or more")
    return tuple(found[j] for j in sorted(found)), report
