"""A recorded flight from any table: columns known by header and unit, bad rows left out with a report."""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from ridgeline.design.base import Node
from ridgeline.design.flights import Moment
from ridgeline.engine.flight.record import TOLD, moments_of
from ridgeline.errors import DesignError
from ridgeline.files.columns import PULSES, Columns, Understood, told, understand
from ridgeline.files.tables import Table, read_table, split_table
from ridgeline.typed import short

_EXAMPLE = "time (s), voltage (V), current (A), airspeed (m/s), height (m), throttle (%)"
_SPEEDS = {"m/s": 1.0, "km/h": 1 / 3.6, "kmh": 1 / 3.6, "mph": 0.44704, "kt": 0.514444, "kts": 0.514444, "kn": 0.514444}
_COLUMNS: Columns = {
    "at": (("time", "seconds", "elapsed", "t"), {"s": 1.0, "sec": 1.0, "ms": 1e-3, "min": 60.0, "us": 1e-6}),
    "voltage": (("voltage", "volt", "volts", "vbat", "battery", "pack", "v"), {"v": 1.0, "mv": 1e-3}),
    "current": (("current", "amp", "amps", "ampere", "curr", "a"), {"a": 1.0, "ma": 1e-3}),
    "ground_speed": (("groundspeed", "ground", "gps", "gspd"), _SPEEDS),
    "speed": (("airspeed", "pitot", "ias", "speed"), _SPEEDS),
    "height": (("height", "altitude", "alt", "baro"), {"m": 1.0, "ft": 0.3048, "cm": 0.01}),
    "rpm": (("rpm", "revs", "rotation", "speed"), {"rpm": 1.0, "1/min": 1.0, "krpm": 1e3, "hz": 60.0, "1/s": 60.0}),
    "throttle": (("throttle", "thr", "signal"), {"%": 0.01, "1": 1.0, "fraction": 1.0} | dict.fromkeys(PULSES, 0.0)),
}
#: Rows of a record: two hours, twenty-five a second.
_ROWS = 180_000
#: A row further than this from those beside it is a gap: the record is told to have one, s.
_GAP = 10.0


@dataclass
class FlightRead:
    """A record read: its moments, how each column was understood, and what was left out, with line numbers."""

    record: tuple[Moment, ...]
    understood: dict[str, str]
    report: list[str]


def read_flight(place: str | Path) -> FlightRead:
    """Read a recorded flight from a file.

    Raises
    ------
    DesignError
        When the file cannot be read, or tells no time and nothing beside it.
    """
    return _flight(read_table(place, _EXAMPLE, notes=True, rows=_ROWS), Path(place).name)


def flight_from_text(text: str, source: str = "table") -> FlightRead:
    """Read a recorded flight from text.

    Raises
    ------
    DesignError
        When there is no header, or no column of time and one beside it.
    """
    return _flight(split_table(text, source, _EXAMPLE, notes=True, rows=_ROWS), source)


def _flight(table: Table, source: str) -> FlightRead:
    report = list(table.report)
    found = understand(table, _COLUMNS, _target, report, share="throttle")
    _check(found, table, source)
    rows: list[dict[str, float]] = []
    for line, cells in table.rows:
        try:
            values = _row(cells, found, table.mark)
            if rows and values["at"] <= rows[-1]["at"]:
                raise ValueError(f"its time {values['at']:g} s is not after that of the row before")
        except ValueError as error:
            report.append(f"line {line} left out: {error}")
        else:
            if rows and values["at"] - rows[-1]["at"] > _GAP:
                report.append(f"before line {line} nothing was recorded for {values['at'] - rows[-1]['at']:.0f} s")
            rows.append(values)
    if len(rows) < 2:
        raise DesignError(source, f"{len(rows)} readable row{'' if len(rows) == 1 else 's'}", "a record of two or more")
    columns = {
        name: np.array([row.get(name, math.nan) for row in rows]) for name in ("at", *TOLD) if name in found.places
    }
    return FlightRead(moments_of(columns), found.words, report)


def _check(found: Understood, table: Table, source: str) -> None:
    if "at" in found.places and len(found.places) > 1:
        return
    header = short(", ".join(cell.strip() for cell in table.header[:8]), 80)
    beside = " and ".join(what.replace("_", " ") for what in found.places if what != "at") or "nothing"
    missing = "no time" if "at" not in found.places else "the time alone"
    raise DesignError(
        source,
        f"the header “{header}”, in which {missing} is told" + (f", beside {beside}" if missing == "no time" else ""),
        f"a column of time and one beside it, such as {_EXAMPLE}",
    )


def _target(name: str, unit: str) -> str | None:
    """Return what a column holds: by the words of its header, the unit breaking ties."""
    words = name.replace("_", " ").replace("-", " ").split()
    for target, (names, factors) in _COLUMNS.items():
        if not any(word in names for word in words):
            continue
        # "GPS altitude (m)" is no speed, "battery current (A)" no voltage, "motor speed (rpm)" none of either.
        if unit and unit not in factors and any(unit in other for _names, other in _COLUMNS.values()):
            continue
        if target == "ground_speed" and not unit and "speed" not in words and "gspd" not in words:
            continue
        return target
    return None


def _row(cells: list[str], found: Understood, mark: str) -> dict[str, float]:
    values = dict(told(found, cells, mark))
    if "at" not in values:
        raise ValueError("no time")
    for what, value in values.items():
        low, high = _limits(Moment, what)
        if what != "at" and not low <= value <= high:
            raise ValueError(f"{what.replace('_', ' ')} {value:g}; allowed: {low:g} to {high:g}")
    return values


def _limits(model: type[Node], field: str) -> tuple[float, float]:
    """Return the limits of a measure of the document."""
    marks: list[Any] = model.model_fields[field].metadata
    low = next((mark.ge for mark in marks if hasattr(mark, "ge")), -math.inf)
    high = next((mark.le for mark in marks if hasattr(mark, "le")), math.inf)
    return float(low), float(high)
