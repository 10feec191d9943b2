"""Load the shipped CSV tables. Units stand in the headers and are turned into stored units here."""

from __future__ import annotations

import csv
from functools import lru_cache
from importlib import resources
from typing import Any, TypeVar

from pydantic import ValidationError

from ridgeline.design.base import Node
from ridgeline.design.document import explain
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.design.shelf import Material, Servo, Shelf
from ridgeline.errors import DesignError

Row = TypeVar("Row", bound=Node)

#: Header suffix → (factor to the stored unit, suffix kept in the field's name).
_SUFFIXES: dict[str, tuple[float, str]] = {
    "_mohm": (1e-3, ""),
    "_mah": (1e-3, "_ah"),
    "_mm": (1e-3, ""),
    "_nm": (1.0, ""),
    "_in": (0.0254, ""),
    "_g": (1e-3, ""),
    "_a": (1.0, ""),
    "_v": (1.0, ""),
}
_WHOLE_NAMES = ("kv_rpm_per_v",)


def _field(header: str) -> tuple[str, float | None]:
    if header in _WHOLE_NAMES:
        return header, 1.0
    for suffix, (factor, kept) in _SUFFIXES.items():
        if header.endswith(suffix):
            return header.removesuffix(suffix) + kept, factor
    return header, None


def read_table(text: str, model: type[Row], name: str) -> tuple[Row, ...]:
    """Read a CSV table with a ``# source:`` line into validated rows.

    Raises
    ------
    DesignError
        Naming the file, the line, and what is allowed there; a table without a source line is refused.
    """
    lines = text.splitlines()
    if not lines or not lines[0].startswith("# source:"):
        raise DesignError(f"{name}: line 1", f"“{lines[0] if lines else ''}”", "a line “# source: …”")
    rows, report = read_rows("\n".join(lines[1:]), model, first_line=2)
    if report:
        raise DesignError(f"{name}: {report[0].partition(':')[0]}", report[0].partition(": ")[2], "a row of the table")
    return rows


def read_rows(text: str, model: type[Row], first_line: int = 1) -> tuple[tuple[Row, ...], list[str]]:
    """Read rows of parts under headers with units; rows that are none are left out with a report by line."""
    rows: list[Row] = []
    report: list[str] = []
    for number, record in enumerate(csv.DictReader(text.splitlines()), start=first_line + 1):
        try:
            rows.append(_part(record, model))
        except DesignError as error:
            report.append(f"line {number}: {error.path}, {error.understood}; allowed: {error.allowed}")
    return tuple(rows), report


def _part(record: dict[str, str], model: type[Row]) -> Row:
    values: dict[str, Any] = {}
    for header, cell in record.items():
        field, factor = _field((header or "").strip())
        if cell is None or not cell.strip():
            continue
        try:
            values[field] = cell.strip() if factor is None else float(cell) * factor
        except (TypeError, ValueError) as error:
            raise DesignError(str(header), f"“{cell}”", "a number") from error
    try:
        return model.model_validate(values)
    except ValidationError as error:
        raise explain(error, "row") from error


def _shipped(file: str) -> str:
    return resources.files(__package__ or "ridgeline.library").joinpath(file).read_text("utf-8")


@lru_cache(maxsize=1)
def shipped_shelf() -> Shelf:
    """Return the shipped library."""
    return Shelf(
        motors=read_table(_shipped("motors.csv"), Motor, "motors.csv"),
        propellers=read_table(_shipped("propellers.csv"), Propeller, "propellers.csv"),
        packs=read_table(_shipped("packs.csv"), Pack, "packs.csv"),
        escs=read_table(_shipped("escs.csv"), SpeedController, "escs.csv"),
        servos=read_table(_shipped("servos.csv"), Servo, "servos.csv"),
        materials=read_table(_shipped("materials.csv"), Material, "materials.csv"),
    )


def demo_names() -> tuple[str, ...]:
    """Return the names of the shipped demo designs."""
    folder = resources.files(__package__ or "ridgeline.library").joinpath("demo")
    return tuple(
        sorted(entry.name.removesuffix(".ridge") for entry in folder.iterdir() if entry.name.endswith(".ridge"))
    )


def demo_text(name: str) -> str:
    """Return the text of a demo design.

    Raises
    ------
    DesignError
        When there is no such demo.
    """
    if name not in demo_names():
        raise DesignError(f"demo:{name}", f"“{name}”", "demo:" + ", demo:".join(demo_names()))
    return _shipped(f"demo/{name}.ridge")
