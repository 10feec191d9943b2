"""The table of items as CSV: units in the headers, a forgiving reader with a report, and back without a loss."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ridgeline.design.document import explain
from ridgeline.design.parts import Item
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.tables import HEADER, number, split_table, table_text

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
_RAIL = (("rail front (mm)", "front"), ("rail back (mm)", "back"), ("rail item (mm)", "item_length"))
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
    headers = [*_WORDS, *(header for header, _f, _k in _MEASURES), *(header for header, _f in _RAIL), "recipe"]
    writer.writerow(headers)
    for item in items:
        row: list[str] = [
            item.name, item.group, item.basis, str(item.count), "yes" if item.mirrored else "no", item.component or "",
        ]  # fmt: skip
        for _header, name, factor in _MEASURES:
            value = getattr(item, name)
            row.append("" if value is None else f"{value / factor:.13g}")
        for _header, name in _RAIL:
            row.append("" if item.rail is None else f"{getattr(item.rail, name) * 1e3:.13g}")
        row.append("" if item.build is None else json.dumps(item.build.model_dump(mode="json"), ensure_ascii=False))
        writer.writerow(row)
    return out.getvalue()


def write_items(place: str | Path, items: tuple[Item, ...]) -> Path:
    """Write items to a file; a name without a suffix gets ``.csv``. Returns the path written."""
    path = Path(place)
    if path.suffix == "":
        path = path.with_suffix(".csv")
    write_atomically(path, items_text(items))
    return path


def read_items(place: str | Path) -> ItemsRead:
    """Read a table of items from a file.

    Raises
    ------
    DesignError
        When the file cannot be read or has no column that names items.
    """
    return items_from_text(table_text(place), Path(place).name)


def items_from_text(text: str, source: str = "table") -> ItemsRead:
    """Read items from CSV text, or from cells pasted from a spreadsheet.

    Raises
    ------
    DesignError
        When there is no header with a column of names.
    """
    mark, header, lines = split_table(text, source, "item, group, aft (mm), estimate (g) …")
    report: list[str] = []
    columns = _columns(header, source, report)
    found = []
    for line, cells in lines:
        try:
            found.append(_item(cells, columns, mark, source))
        except DesignError as error:
            report.append(
                f"line {line} left out: {error.path.rpartition(': ')[2]}, {error.understood}; {error.allowed}"
            )
    return ItemsRead(tuple(found), report)


def _columns(header: list[str], source: str, report: list[str]) -> dict[int, tuple[str, float]]:
    """Return which field each column fills, and the factor of its unit."""
    known = {header.partition(" (")[0]: (name, factor) for header, name, factor in _MEASURES}
    known |= {word: (_FIELDS.get(word, word), 0.0) for word in _WORDS} | {"recipe": ("recipe", 0.0)}
    known |= {header.partition(" (")[0]: (f"rail.{name}", 1e-3) for header, name in _RAIL}
    columns: dict[int, tuple[str, float]] = {}
    for index, title in enumerate(header):
        match = HEADER.match(title)
        name = (match["name"] if match else title).strip().lower()
        unit = (match["unit"] or "").strip().lower() if match else ""
        entry = known.get(_ALIASES.get(name, name))
        if entry is None:
            if title.strip():
                report.append(f"column “{title.strip()}” left out: not known")
            continue
        target, factor = entry
        if factor and unit:
            if unit not in _UNITS:
                report.append(f"column “{title.strip()}” read in its usual unit: “{unit}” is not known")
            factor = _UNITS.get(unit, factor)
        columns[index] = (target, factor)
    if not any(target == "name" for target, _factor in columns.values()):
        told = ", ".join(cell.strip() for cell in header[:6])
        raise DesignError(source, f"the header “{told}”", "a column called item, name or part")
    return columns


def _item(cells: list[str], columns: dict[int, tuple[str, float]], mark: str, source: str) -> Item:
    values: dict[str, Any] = {}
    rail: dict[str, float] = {}
    for index, (target, factor) in columns.items():
        text = cells[index].strip() if index < len(cells) else ""
        if text in ("", "–", "-"):
            continue
        try:
            if target == "recipe":
                values["build"] = json.loads(text)
            elif target == "count":
                values[target] = round(number(text, mark))
            elif target == "mirrored":
                values[target] = text.lower() in ("yes", "true", "1", "x", "both")
            elif factor and target.startswith("rail."):
                rail[target.removeprefix("rail.")] = number(text, mark) * factor
            elif factor:
                values[target] = number(text, mark) * factor
            else:
                values[target] = text
        except ValueError as error:
            raise DesignError(f"{source}: {target}", f"“{text}”", "a number") from error
    if len(rail) == 3:
        values["rail"] = rail
    values.setdefault("group", "airframe")
    values.setdefault("x", 0.0)
    if isinstance(values.get("group"), str):
        values["group"] = values["group"].lower()
    if not {"estimate", "weighed", "component", "build"} & set(values):
        values["estimate"] = 0.0
    try:
        return Item.model_validate(values)
    except ValidationError as error:
        raise explain(error, source) from error
