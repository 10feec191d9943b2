"""The table of items as CSV: units in the headers, a forgiving reader with a report, and back without a loss."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ridgeline.design.explain import explain
from ridgeline.design.parts import Item
from ridgeline.errors import DesignError
from ridgeline.files.json_text import read_json
from ridgeline.files.tables import Table, header_parts, number, read_table, split_table
from ridgeline.typed import short

#: Columns as written: header, field, factor from the written unit to the stored one.
_MEASURES: tuple[tuple[str, str, float], ...] = (
    ("aft (mm)", "x", 1e-3),
    ("out (mm)", "y", 1e-3),
    ("up (mm)", "z", 1e-3),
    ("estimate (g)", "estimate", 1e-3),
    ("weighed (g)", "weighed", 1e-3),
    ("place sigma (mm)", "place_sigma", 1e-3),
)
_WORDS = ("item", "group", "basis", "pieces", "mirrored", "component")
_FIELDS = {"item": "name", "pieces": "count"}
_FIELDS_SHOWN = {field: word for word, field in _FIELDS.items()}
_EXAMPLE = "item, group, aft (mm), estimate (g) …"
_YES, _NO = ("yes", "true", "1", "x", "both"), ("no", "false", "0", "one")
#: A spreadsheet runs a cell that begins with one of these; a quote before it keeps it words.
_RUNS = ("=", "+", "-", "@", "\t", "\r")
_RAIL = (
    *(("rail front (mm)", "front"), ("rail back (mm)", "back"), ("rail item (mm)", "item_length")),
    *(("rail width (mm)", "width"), ("rail height (mm)", "height")),
)
#: Columns of lists of words, one mark between them, and of what is told as JSON.
_LISTS = {"drives": "drives", "sets": "sets"}
_TOLD = {"recipe": "build", "servo": "servo", "hangs on": "on", "extent": "size"}
#: Other names a column may come under, without its unit.
_ALIASES = {
    "name": "item", "part": "item", "what": "item", "count": "pieces", "number": "pieces", "qty": "pieces",
    "quantity": "pieces", "x": "aft", "y": "out", "z": "up", "mass": "estimate", "weight": "estimate",
    "estimated": "estimate", "measured": "weighed", "actual": "weighed", "sigma": "place sigma", "kind": "basis",
}  # fmt: skip
#: Factors of the units a header may name, to the stored unit.
_UNITS = {
    "mm": 1e-3, "cm": 1e-2, "m": 1.0, "in": 0.0254, "inch": 0.0254, "ft": 0.3048, "g": 1e-3, "kg": 1.0,
    "oz": 0.028349523125, "lb": 0.45359237, "mg": 1e-6,
}  # fmt: skip


@dataclass
class ItemsRead:
    """Items read from a table, and what was left out or understood differently, with line numbers."""

    items: tuple[Item, ...]
    report: list[str] = field(default_factory=list)


def items_text(items: tuple[Item, ...], mark: str = ",") -> str:
    """Write items as CSV with units in the headers; ``mark`` stands between cells."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n", delimiter=mark)
    headers = [*_WORDS, *(header for header, _f, _k in _MEASURES), *(header for header, _f in _RAIL)]
    headers += [*_LISTS, *_TOLD]
    writer.writerow(headers)
    for item in items:
        row: list[str] = [
            harmless(item.name), item.group, item.basis, str(item.count),
            "yes" if item.mirrored else "no", item.component or "",
        ]  # fmt: skip
        for _header, name, factor in _MEASURES:
            value = getattr(item, name)
            row.append("" if value is None else f"{value / factor:.13g}")
        for _header, name in _RAIL:
            row.append("" if item.rail is None else f"{getattr(item.rail, name) * 1e3:.13g}")
        row += ["; ".join(getattr(item, name)) for name in _LISTS.values()]
        for name in _TOLD.values():
            told = getattr(item, name)
            row.append("" if told is None else json.dumps(told.model_dump(mode="json"), ensure_ascii=False))
        writer.writerow(row)
    return out.getvalue()


def read_items(place: str | Path) -> ItemsRead:
    """Read a table of items from a file.

    Raises
    ------
    DesignError
        When the file cannot be read or has no column that names items.
    """
    return _items(read_table(place, _EXAMPLE), Path(place).name)


def items_from_text(text: str, source: str = "table") -> ItemsRead:
    """Read items from CSV text, or from cells pasted from a spreadsheet.

    Raises
    ------
    DesignError
        When there is no header with a column of names.
    """
    return _items(split_table(text, source, _EXAMPLE), source)


def _items(table: Table, source: str) -> ItemsRead:
    report = list(table.report)
    columns = _columns(table.header, source, report)
    found = []
    for line, cells in table.rows:
        try:
            found.append(_item(cells, columns, table.mark, source))
        except DesignError as error:
            report.append(
                f"line {line} left out: {error.path.rpartition(': ')[2]}, {error.understood}; {error.allowed}"
            )
    return ItemsRead(tuple(found), report)


def _columns(header: list[str], source: str, report: list[str]) -> dict[int, tuple[str, float]]:
    """Return which field each column fills, and the factor of its unit."""
    known = {header.partition(" (")[0]: (name, factor) for header, name, factor in _MEASURES}
    known |= {word: (_FIELDS.get(word, word), 0.0) for word in _WORDS}
    known |= {word: (name, 0.0) for word, name in (_LISTS | _TOLD).items()}
    known |= {header.partition(" (")[0]: (f"rail.{name}", 1e-3) for header, name in _RAIL}
    columns: dict[int, tuple[str, float]] = {}
    for index, title in enumerate(header):
        name, unit = header_parts(title)
        entry = known.get(_ALIASES.get(name, name))
        if entry is None:
            if title.strip():
                report.append(f"column “{short(title)}” left out: not known")
            continue
        target, factor = entry
        if any(target == other for other, _factor in columns.values()):
            report.append(f"column “{short(title)}” left out: a second one for {_FIELDS_SHOWN.get(target, target)}")
            continue
        if factor and unit:
            if unit not in _UNITS:
                report.append(f"column “{short(title)}” read in its usual unit: “{short(unit)}” is not known")
            factor = _UNITS.get(unit, factor)
        columns[index] = (target, factor)
    if not any(target == "name" for target, _factor in columns.values()):
        told = short(", ".join(cell.strip() for cell in header[:6]), 80)
        raise DesignError(source, f"the header “{told}”", "a column called item, name or part")
    return columns


def harmless(text: str) -> str:
    """Return words as a cell that no spreadsheet runs; `as_typed` reads them back."""
    return f"'{text}" if text.startswith((*_RUNS, "'")) else text


def as_typed(text: str) -> str:
    """Return the words of a cell as they were before `harmless`."""
    return text[1:] if text.startswith("'") and text[1:].startswith((*_RUNS, "'")) else text


def _pieces(text: str, mark: str, source: str) -> int:
    count = number(text, mark)
    if not count.is_integer():
        raise DesignError(f"{source}: pieces", f"“{short(text)}”", "whole pieces")
    return int(count)


def _yes_or_no(text: str, source: str) -> bool:
    word = text.lower()
    if word not in (*_YES, *_NO):
        raise DesignError(f"{source}: mirrored", f"“{short(text)}”", "yes or no")
    return word in _YES


def _item(cells: list[str], columns: dict[int, tuple[str, float]], mark: str, source: str) -> Item:
    values: dict[str, Any] = {}
    rail: dict[str, float] = {}
    for index, (target, factor) in columns.items():
        text = cells[index].strip() if index < len(cells) else ""
        if text == "" or (text in ("–", "-") and target != "name"):
            continue
        try:
            if target in _TOLD.values():
                word = next(word for word, name in _TOLD.items() if name == target)
                values[target] = read_json(text, f"{source}: {word}", word)
            elif target in _LISTS.values():
                values[target] = tuple(word.strip() for word in text.split(";") if word.strip())
            elif target == "count":
                values[target] = _pieces(text, mark, source)
            elif target == "mirrored":
                values[target] = _yes_or_no(text, source)
            elif factor and target.startswith("rail."):
                rail[target.removeprefix("rail.")] = number(text, mark) * factor
            elif factor:
                values[target] = number(text, mark) * factor
            else:
                values[target] = as_typed(text)
        except DesignError:
            raise
        except ValueError as error:
            raise DesignError(f"{source}: {_FIELDS_SHOWN.get(target, target)}", str(error), "a number") from error
    if {"front", "back", "item_length"} <= set(rail):
        values["rail"] = rail
    values.setdefault("group", "airframe")
    values.setdefault("x", 0.0)
    if isinstance(values.get("group"), str):
        values["group"] = values["group"].lower()
    if not {"estimate", "weighed", "component", "build", "servo"} & set(values):
        values["estimate"] = 0.0
    try:
        return Item.model_validate(values)
    except ValidationError as error:
        raise explain(error, source) from error
