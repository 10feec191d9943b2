"""The builder's own parts bin: kept in the user's data folder, filled by hand, from the library or from a table."""

from __future__ import annotations

import json
import os
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ridgeline.design.base import Node
from ridgeline.design.explain import explain
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.design.shelf import Shelf
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.choices import data_folder, set_aside
from ridgeline.files.json_text import read_json
from ridgeline.files.reading import read_text
from ridgeline.files.tables import read_table
from ridgeline.typed import short

_PLENTY = 1000
_MOST_BYTES = 8_000_000
KINDS: dict[str, type[Node]] = {"motors": Motor, "propellers": Propeller, "packs": Pack, "escs": SpeedController}
#: The column that only a table of this kind has.
_TELLING = {"kv_rpm_per_v": "motors", "family": "propellers", "capacity_mah": "packs", "max_current_a": "escs"}


@dataclass(frozen=True)
class OwnBin:
    """What the builder has, by kind of link; each part with its price and how many lie there."""

    motors: tuple[Motor, ...] = ()
    propellers: tuple[Propeller, ...] = ()
    packs: tuple[Pack, ...] = ()
    escs: tuple[SpeedController, ...] = ()

    def of(self, kind: str) -> tuple[Any, ...]:
        """Return the parts of a kind."""
        parts: tuple[Any, ...] = getattr(self, kind)
        return parts

    def with_part(self, kind: str, part: Node) -> OwnBin:
        """Return the bin with a part added, or changed where one of that name lies there."""
        return self.with_parts(kind, (part,))

    def with_parts(self, kind: str, parts: Iterable[Node]) -> OwnBin:
        """Return the bin with parts added, or changed where ones of their names lie there."""
        kept = {part.name: part for part in (*self.of(kind), *parts)}
        return OwnBin(**{**self.__dict__, kind: tuple(kept.values())})

    def without(self, kind: str, name: str) -> OwnBin:
        """Return the bin without a part."""
        return OwnBin(**{**self.__dict__, kind: tuple(p for p in self.of(kind) if p.name != name)})

    @property
    def stocked(self) -> dict[str, int]:
        """How many of each part lie there, by name; one whose count is not kept is there as often as it is wanted."""
        counts = {p.name: _PLENTY if p.stock is None else p.stock for kind in KINDS for p in self.of(kind)}
        return {name: count for name, count in counts.items() if count}

    def before(self, shipped: Shelf) -> Shelf:
        """Return a shelf with the builder's own parts first; one of the same name stands for the shipped one."""
        joined: dict[str, tuple[Any, ...]] = {}
        for kind in KINDS:
            own = self.of(kind)
            mine = {part.name for part in own}
            joined[kind] = (*own, *(p for p in getattr(shipped, kind) if p.name not in mine))
        return shipped._replace(**joined)


def _file() -> Path:
    return data_folder() / "bin.json"


def load_bin() -> tuple[OwnBin, list[str]]:
    """Return the builder's bin and what in its file could not be read; an unreadable file is set aside, never lost."""
    try:
        path = _file()
    except DesignError as error:
        return OwnBin(), [f"the bin cannot be kept: {error.understood}"]
    if not os.path.lexists(path):
        return OwnBin(), []
    report: list[str] = []
    try:
        data = read_json(read_text(path, _MOST_BYTES, "bin"), path.name, "bin of parts")
        if not isinstance(data, dict):
            raise DesignError(path.name, "no table of parts", "a bin of parts")
    except DesignError as error:
        aside = set_aside(path)
        kept = f"it is kept as {aside.name}" if aside else "it is left where it is"
        return OwnBin(), [f"the bin could not be read ({error.understood}); {kept}"]
    found: dict[str, tuple[Any, ...]] = {}
    for kind, model in KINDS.items():
        parts = []
        entries = data.get(kind, [])
        for entry in entries if isinstance(entries, list) else [entries]:
            try:
                parts.append(model.model_validate(entry))
            except ValidationError as error:
                report.append(str(explain(error, f"bin: {kind}")))
        found[kind] = tuple(parts)
    if report:
        # What is left out here would be gone with the next change of the bin.
        copy = _copy_aside(path)
        report.append(f"the bin as it was is kept as {copy}")
    return OwnBin(**found), report


def parts_on_hand() -> Shelf:
    """Return the shipped parts with the builder's own first: what ways out may name.

    Returns
    -------
    Shelf
    """
    from ridgeline.library import shipped_shelf

    own, _report = load_bin()
    return own.before(shipped_shelf())


def _copy_aside(path: Path) -> str:
    text = path.read_bytes()
    for number in range(1, 100):
        aside = path.with_name(f"{path.stem}.unread{'' if number == 1 else number}")
        if not aside.exists():
            aside.write_bytes(text)
            return aside.name
        if aside.read_bytes() == text:
            return aside.name
    return path.name


def save_bin(own: OwnBin) -> None:
    """Keep the bin; the former file stays beside it."""
    data = {kind: [part.model_dump(mode="json") for part in own.of(kind)] for kind in KINDS}
    write_atomically(_file(), json.dumps(data, indent=1, ensure_ascii=False))


def read_parts(place: str | Path) -> tuple[str, tuple[Any, ...], list[str]]:
    """Read a table of parts in the headers of the shipped ones: its kind, its parts, and what was left out.

    Raises
    ------
    DesignError
        When the file cannot be read or its headers name no kind of part.
    """
    from ridgeline.library.tables import parts_of

    table = read_table(place, "name, kv_rpm_per_v, resistance_mohm …", notes=True)
    header = [title.strip().lower() for title in table.header]
    # Ratings stand in two kinds: the telling columns are asked in order.
    kind = next((k for column, k in _TELLING.items() if column in header), None)
    if kind is None:
        told = short(", ".join(header), 80)
        raise DesignError(Path(place).name, f"the header “{told}”", f"a column {', '.join(_TELLING)}")
    parts, report = parts_of(header, table.rows, KINDS[kind])
    return kind, parts, [*table.report, *report]
