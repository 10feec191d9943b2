"""Load the shipped CSV tables. Units stand in the headers and are turned into stored units here."""

from __future__ import annotations

import csv
from collections.abc import Iterable
from functools import lru_cache
from importlib import resources
from typing import Any, TypeVar

from pydantic import ValidationError

from ridgeline.design.base import Node, scalar_kind
from ridgeline.design.explain import explain
from ridgeline.design.parts import Servo
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.design.shelf import Fitting, Material, Shelf
from ridgeline.errors import DesignError
from ridgeline.typed import plain_number, short

Row = TypeVar("Row", bound=Node)

#: Header suffix → (factor to the stored unit, suffix kept in the field's name).
_SUFFIXES: dict[str, tuple[float, str]] = {
    "_mohm": (1e-3, ""),
    "_mah": (1e-3, "_ah"),
    "_mm": (1e-3, ""),
    "_mpa": (1e6, ""),
    "_gpa": (1e9, ""),
    "_nm": (1.0, ""),
    "_kn_m": (1e3, ""),
    "_in": (0.0254, ""),
    "_g": (1e-3, ""),
    "_a": (1.0, ""),
    "_v": (1.0, ""),
    "_c": (1.0, "_c"),
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
    header, *rows = csv.reader(text.split("\n"))
    return parts_of(header, [(line, cells) for line, cells in enumerate(rows, start=first_line + 1) if cells], model)


def parts_of(
    header: list[str], rows: Iterable[tuple[int, list[str]]], model: type[Row]
) -> tuple[tuple[Row, ...], list[str]]:
    """Make parts of the rows of a table, each with its line; rows that are none are left out with a report."""
    titles = [title.strip() for title in header]
    parts: list[Row] = []
    report: list[str] = [
        f"column “{short(title)}” left out: a second one"
        for place, title in enumerate(titles)
        if title and title in titles[:place]
    ]
    first = {title: place for place, title in reversed(list(enumerate(titles))) if title}
    for line, cells in rows:
        try:
            parts.append(_part({title: cells[k] for title, k in first.items() if k < len(cells)}, model))
        except DesignError as error:
            report.append(f"line {line}: {error.path}, {error.understood}; allowed: {error.allowed}")
    return tuple(parts), report


def _part(record: dict[str, str], model: type[Row]) -> Row:
    values: dict[str, Any] = {}
    for header, cell in record.items():
        field, factor = _field(header)
        if not cell.strip():
            continue
        if field == "curve":
            values[field] = _curve(header, cell)
            continue
        try:
            values[field] = _plain(cell.strip(), model, field) if factor is None else plain_number(cell) * factor
        except ValueError as error:
            raise DesignError(header, str(error), "a number") from error
    try:
        return model.model_validate(values)
    except ValidationError as error:
        raise explain(error, "row") from error


def _curve(header: str, cell: str) -> tuple[dict[str, float], ...]:
    """Return a voltage curve written as “0 2.95; 0.5 3.68; 1 4.17”: charge and volts of a cell, row by row."""
    try:
        rows = [[plain_number(number) for number in row.split()] for row in cell.split(";")]
    except ValueError as error:
        raise DesignError(header, str(error), "charge and volts, such as “0 3.0; 0.5 3.7; 1 4.2”") from error
    if any(len(row) != 2 for row in rows):
        raise DesignError(header, f"“{short(cell)}”", "charge and volts, such as “0 3.0; 0.5 3.7; 1 4.2”")
    return tuple({"charge": charge, "volts": volts} for charge, volts in rows)


def _plain(cell: str, model: type[Node], field: str) -> Any:
    """Return a cell without a unit as its field wants it: words, a whole number, a number, yes or no."""
    kind = scalar_kind(model, field)
    if kind is bool:
        if cell.lower() not in ("true", "false", "yes", "no", "1", "0"):
            raise ValueError(f"“{short(cell)}” is neither yes nor no")
        return cell.lower() in ("true", "yes", "1")
    if kind is int:
        value = plain_number(cell)
        if not value.is_integer():
            raise ValueError(f"“{short(cell)}” is no whole number")
        return int(value)
    return plain_number(cell) if kind is float else cell


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
        fittings=read_table(_shipped("fittings.csv"), Fitting, "fittings.csv"),
    )


def demo_names() -> tuple[str, ...]:
    """Return the names of the shipped demo designs."""
    return _names_in("demo")


@lru_cache(maxsize=4)
def _names_in(folder: str) -> tuple[str, ...]:
    files = resources.files(__package__ or "ridgeline.library").joinpath(folder)
    return tuple(
        sorted(entry.name.removesuffix(".ridge") for entry in files.iterdir() if entry.name.endswith(".ridge"))
    )


def gallery_names() -> tuple[str, ...]:
    """Return the names of all shipped aircraft: the demo designs, and those built through the window besides."""
    return (*demo_names(), *_names_in("samples"))


def flown_names() -> tuple[str, ...]:
    """Return the names of shipped samples that are one of the aircraft again, with its versions and its log."""
    return _names_in("flown")


def demo_text(name: str) -> str:
    """Return the text of a shipped sample.

    Raises
    ------
    DesignError
        When there is no such sample.
    """
    folders = {"demo": demo_names(), "samples": _names_in("samples"), "flown": flown_names()}
    folder = next((folder for folder, names in folders.items() if name in names), None)
    if folder is None:
        known = [one for names in folders.values() for one in names]
        raise DesignError(f"demo:{name}", f"“{name}”", "demo:" + ", demo:".join(known))
    return _shipped(f"{folder}/{name}.ridge")
