"""Rows of a thrust stand from any table: columns known by header and unit, bad rows left out with a report."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from pydantic import ValidationError

from ridgeline.design.explain import explain
from ridgeline.design.power import BenchRow
from ridgeline.errors import DesignError
from ridgeline.files.columns import Columns, Understood, told, understand
from ridgeline.files.tables import Table, read_table, split_table
from ridgeline.typed import short

_EXAMPLE = "throttle (%), voltage (V), current (A), rpm, thrust (g)"
#: Words that name a column, each with the factors of its units to the stored unit; the first unit is the usual one.
_COLUMNS: Columns = {
    "throttle": (
        ("throttle", "signal", "esc", "command", "pwm"),
        {"%": 0.01, "1": 1.0, "fraction": 1.0, "us": 0.0, "µs": 0.0},
    ),
    "voltage": (("voltage", "volt", "volts", "battery", "pack", "v"), {"v": 1.0, "mv": 1e-3}),
    "current": (("current", "amp", "amps", "ampere", "a"), {"a": 1.0, "ma": 1e-3}),
    "rpm": (
        ("rpm", "speed", "rotation", "revs"),
        {"rpm": 1.0, "1/min": 1.0, "krpm": 1e3, "hz": 60.0, "1/s": 60.0, "rps": 60.0},
    ),
    "power": (("power", "watt", "watts", "w"), {"w": 1.0, "kw": 1e3}),
    "thrust": (
        ("thrust", "pull", "force", "load"),
        {
            "g": 9.80665e-3,
            "gf": 9.80665e-3,
            "n": 1.0,
            "kg": 9.80665,
            "kgf": 9.80665,
            "oz": 0.27801385,
            "ozf": 0.27801385,
        }
        | {"lb": 4.4482216, "lbf": 4.4482216},
    ),
}
#: What a column about a controller may be besides its throttle.
_MEASURED = ("voltage", "current", "power")


@dataclass
class BenchRead:
    """Rows read, how each column was understood, and what was left out, with line numbers."""

    rows: tuple[BenchRow, ...]
    understood: dict[str, str]
    report: list[str]


def read_bench(place: str | Path) -> BenchRead:
    """Read rows of a thrust stand from a file.

    Raises
    ------
    DesignError
        When the file cannot be read or tells fewer than two of the readings.
    """
    return _bench(read_table(place, _EXAMPLE, notes=True), Path(place).name)


def bench_from_text(text: str, source: str = "table") -> BenchRead:
    """Read rows of a thrust stand from text.

    Raises
    ------
    DesignError
        When there is no header, or fewer than two of throttle, voltage, current, speed, thrust and power are in it.
    """
    return _bench(split_table(text, source, _EXAMPLE, notes=True), source)


def _bench(table: Table, source: str) -> BenchRead:
    report = list(table.report)
    found = _understood(table, source, report)
    rows = []
    for line, cells in table.rows:
        try:
            rows.append(_row(cells, found, table.mark))
        except (ValueError, IndexError) as error:
            report.append(f"line {line} left out: {error}")
    return BenchRead(tuple(rows), found.words, report)


def _understood(table: Table, source: str, report: list[str]) -> Understood:
    found = understand(table, _COLUMNS, _target, report, share="throttle")
    places = found.places
    if len(places) < 2 or not any(target in places for target in ("current", "rpm", "thrust", "power")):
        told_by = short(", ".join(cell.strip() for cell in table.header[:8]), 80)
        raise DesignError(
            source,
            f"the header “{told_by}”, in which {' and '.join(places) or 'nothing'} is told",
            f"two or more columns, one of them measured, such as {_EXAMPLE}",
        )
    return found


def _target(name: str, unit: str) -> str | None:
    """Return what a column holds: by the words of its header, the unit breaking ties."""
    words = name.replace("_", " ").replace("-", " ").split()
    for target, (names, _factors) in _COLUMNS.items():
        if any(word in names for word in words):
            # "Motor speed (km/h)" is no speed of rotation, "ESC current" no throttle.
            if target == "throttle" and any(w in _COLUMNS[t][0] for t in _MEASURED for w in words):
                continue
            # Watts are those drawn, not those at the shaft.
            if target == "power" and any(word in ("shaft", "mechanical", "mech", "output", "out") for word in words):
                continue
            if target == "rpm" and "rpm" not in words and unit not in _COLUMNS["rpm"][1]:
                continue
            return target
    return None


def _row(cells: list[str], found: Understood, mark: str) -> BenchRow:
    values = dict(told(found, cells, mark))
    try:
        return BenchRow(**values)
    except ValidationError as error:
        refused = explain(error)
        raise ValueError(f"{refused.path} {refused.understood}; allowed: {refused.allowed}") from error
