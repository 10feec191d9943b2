"""The design document itself, and how it is made from plain data."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from operator import attrgetter
from typing import Any, Literal

from pydantic import Field, ValidationError

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.as_built import AsBuilt
from ridgeline.design.base import Node, Whole
from ridgeline.design.brief import Brief
from ridgeline.design.carrying import settled
from ridgeline.design.cutting import Cutting, Printer
from ridgeline.design.drag_items import DragItem
from ridgeline.design.explain import explain
from ridgeline.design.fastening import Fastening
from ridgeline.design.flights import Flight, Learnt, LogBook, Signed
from ridgeline.design.hanging import hung
from ridgeline.design.identity import Ident, Numbers, ident
from ridgeline.design.kinds import KINDS, all_idents, listed, numbered, references
from ridgeline.design.linkage import Linkage
from ridgeline.design.loads import Loads
from ridgeline.design.migrations import SET_PREFIX, from_version_1, from_version_2, from_version_3, with_set_ids
from ridgeline.design.parts import Allowances, Item
from ridgeline.design.plain import with_shown_pictures
from ridgeline.design.power import PowerTrain
from ridgeline.design.radio import Radio
from ridgeline.design.throwing import FirstThrow
from ridgeline.design.underlay import Underlay
from ridgeline.design.versions import KeptPicture, Version
from ridgeline.design.walk import Seen, Tried
from ridgeline.errors import DesignError
from ridgeline.typed import short

FORMAT_VERSION = 4
#: Before this version nothing said what carries what.
HANGING_SINCE = 3

#: ``MIGRATIONS[n]`` turns the plain data of version ``n`` into that of version ``n + 1``.
MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: from_version_1,
    2: from_version_2,
    3: from_version_3,
}


class Configuration(Node):
    """One set of parts that this airframe flies as."""

    id: Ident = ident()
    name: str = Field(min_length=1, max_length=40)


class Aside(Node):
    """Parts that lie on the shelf while another set is fitted."""

    surfaces: tuple[Surface, ...] = Field((), max_length=80)
    bodies: tuple[Body, ...] = Field((), max_length=40)
    wheels: tuple[Wheel, ...] = Field((), max_length=40)
    parts: tuple[Item, ...] = Field((), max_length=5000, fail_fast=True)
    power: tuple[PowerTrain, ...] = Field((), max_length=12)
    fastenings: tuple[Fastening, ...] = Field((), max_length=120)
    linkages: tuple[Linkage, ...] = Field((), max_length=120)
    radio: tuple[Radio, ...] = Field((), max_length=12)


class Choice(Node):
    """Something a layout chose: for what, what it is, and why, one line each."""

    part: str = Field(min_length=1, max_length=40)
    what: str = Field(min_length=1, max_length=200)
    why: str = Field("", max_length=200)


class Design(Node):
    """One aircraft, whole. Immutable: an edit makes another one (`ridgeline.design.paths`)."""

    format: Literal["ridgeline"] = "ridgeline"
    format_version: Literal[4] = 4
    name: str = Field("Untitled", min_length=1)
    note: str = Field("", max_length=4000)
    revision: Whole = Field(1, ge=1, description="of the aircraft as it stands; counts on when a kept one is edited")
    brief: Brief = Brief()
    surfaces: tuple[Surface, ...] = Field((), max_length=40)
    bodies: tuple[Body, ...] = Field((), max_length=20)
    wheels: tuple[Wheel, ...] = Field((), max_length=20)
    parts: tuple[Item, ...] = Field((), max_length=5000, fail_fast=True)
    allowances: Allowances = Allowances()
    drag_items: tuple[DragItem, ...] = Field((), max_length=60, description="what stands in the wind beside the parts")
    power: PowerTrain | None = None
    loads: Loads = Loads()
    fastenings: tuple[Fastening, ...] = Field((), max_length=60, description="what holds parts together")
    linkages: tuple[Linkage, ...] = Field((), max_length=60, description="what moves the controls")
    radio: Radio | None = Field(None, description="channels, mixes, rates; None where nothing is said")
    walk: tuple[Seen, ...] = Field((), max_length=400, description="what was seen of the controls on the bench")
    tried: Tried | None = Field(None, description="changes at the radio that did not put it right yet")
    cutting: Cutting = Cutting()
    printer: Printer = Printer()
    choices: tuple[Choice, ...] = Field((), max_length=20, description="what laying it out chose, and why")
    underlays: tuple[Underlay, ...] = Field((), max_length=6, description="pictures under the views")
    configurations: tuple[Configuration, ...] = Field((), max_length=12, description="sets this airframe flies as")
    fitted: str = Field("", description="id of the set that is fitted now")
    aside: Aside = Aside()
    versions: tuple[Version, ...] = Field((), max_length=2000, description="aircraft as they were kept, oldest first")
    pictures: tuple[KeptPicture, ...] = Field((), max_length=400, description="pictures that versions refer to")
    flights: tuple[Flight, ...] = Field((), max_length=5000, fail_fast=True, description="the log, oldest first")
    log_book: LogBook = LogBook()
    learnt: Learnt = Learnt()
    first_throw: FirstThrow = FirstThrow()
    as_built: AsBuilt = Field(AsBuilt(), description="measured of the finished airframe on the bench")
    signed: tuple[Signed, ...] = Field((), max_length=600, description="lines of the setup list that were looked at")

    def check(self) -> None:
        self._number()
        self._check_sets()
        self._check_versions()
        if not all(flight.id for flight in self.flights):
            self._number_flights()

    def _number(self) -> None:
        """Give every part that has none an id; a copy of a fitted part is another part and gets one of its own."""
        flying, lying = all_idents(self), all_idents(self.aside)
        sets = [one.id for one in self.configurations]
        if all(flying) and all(lying) and all(sets) and len(set(flying)) == len(flying):
            return
        numbers = Numbers([*flying, *lying, *sets, *references(self)])
        self.__dict__.update(_numbered(self, numbers, set()))
        if not all(sets):
            self.__dict__["configurations"] = tuple(
                one if one.id else one.model_copy(update={"id": numbers.fresh(SET_PREFIX)})
                for one in self.configurations
            )
        if not all(lying):
            self.__dict__["aside"] = self.aside.model_copy(update=_numbered(self.aside, numbers, None))

    def _number_flights(self) -> None:
        numbers = Numbers(flight.id for flight in self.flights)
        seen: set[str] = set()
        self.__dict__["flights"] = tuple(
            flight.model_copy(update={"id": fresh}) if (fresh := numbers.needed(flight.id, "t", seen)) else flight
            for flight in self.flights
        )

    def _check_sets(self) -> None:
        names = {one.id: one.name for one in self.configurations}
        if len(names) < len(self.configurations) or len(set(names.values())) < len(names):
            raise ValueError("sets of different names and ids")
        if bool(self.fitted) != bool(names) or (names and self.fitted not in names):
            known = ", ".join(f"{ident} ({name})" for ident, name in names.items()) or "none"
            raise ValueError(f"“{self.fitted}” to be the id of one of the sets: {known}")
        here = names.get(self.fitted, "")
        # Many parts share few combinations of sets: each is looked at once.
        flies_in = attrgetter("sets")
        fitted = {sets for kind in KINDS for sets in set(map(flies_in, listed(self, kind)))}
        aside = {sets for kind in KINDS for sets in set(map(flies_in, listed(self.aside, kind)))}
        for sets in fitted - {()}:
            if self.fitted not in sets or not set(sets) <= names.keys():
                raise ValueError(f"what is fitted to fly in the set “{here}”, and in no unknown one")
        for sets in aside:
            if not sets or self.fitted in sets or not set(sets) <= names.keys():
                raise ValueError(f"what lies aside to fly in another set than “{here}”, and in a known one")

    def _check_versions(self) -> None:
        last = 0
        for version in self.versions:
            if version.number <= last:
                raise ValueError("versions in the order of their numbers, each once")
            last = version.number
        if self.revision < last:
            raise ValueError(f"a revision of at least {last}, the newest version kept")


def _numbered(holder: Any, numbers: Numbers, seen: set[str] | None) -> dict[str, Any]:
    """Return the fields of a document in the making whose parts had no id, with ids; ``seen`` are those given away."""
    update: dict[str, Any] = {}
    for kind in KINDS:
        parts = listed(holder, kind)
        fresh = tuple(numbered(part, kind, numbers, seen) for part in parts)
        if any(a is not b for a, b in zip(parts, fresh, strict=True)):
            update[kind.field] = fresh if isinstance(getattr(holder, kind.field), tuple) else fresh[0]
    return update


def _refuse_twice(data: dict[str, Any], source: str) -> None:
    """Refuse a file in which two fitted parts share an id: what refers to it could mean either."""
    seen: set[str] = set()
    for kind in KINDS:
        parts = data.get(kind.field)
        for k, part in enumerate(parts if isinstance(parts, list) else [parts]):
            for known in _plain_idents(part, kind.within):
                if known in seen:
                    place = f"{kind.field}[{k}]" if kind.many else kind.field
                    raise DesignError(
                        f"{source}: {place}", f"the id “{short(known)}” a second time", "an id of its own"
                    )
                seen.add(known)


def _plain_idents(part: Any, within: str) -> Iterator[str]:
    """Yield the ids of plain data, as far as it is a part and has any."""
    inner = part.get(within) if isinstance(part, dict) else None
    for one in (part, *(inner if isinstance(inner, list) else ())):
        ident = one.get("id") if isinstance(one, dict) else None
        if isinstance(ident, str) and ident:
            yield ident


def from_plain(data: Any, *, source: str = "design") -> Design:
    """Validate plain data (from JSON) into a design, migrating older versions.

    Parameters
    ----------
    data : object
        From JSON.
    source : str
        That refusals name.

    Returns
    -------
    Design
        With what hangs placed by its carriers.

    Raises
    ------
    DesignError
        Naming the first wrong place, what stands there and what is allowed.
    """
    if not isinstance(data, dict) or data.get("format") != "ridgeline":
        found = f"format “{short(str(data.get('format')))}”" if isinstance(data, dict) else f"a {type(data).__name__}"
        raise DesignError(
            source, found, 'a Ridgeline design, a JSON object with "format": "ridgeline"', route=("format",)
        )
    version = data.get("format_version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        allowed = f"a whole number from 1 to {FORMAT_VERSION}"
        raise DesignError(
            f"{source}: format_version", short(json.dumps(version)[:80]), allowed, route=("format_version",)
        )
    if version > FORMAT_VERSION:
        raise DesignError(
            f"{source}: format_version",
            f"{version}, written by a newer Ridgeline",
            f"versions up to {FORMAT_VERSION}; update Ridgeline to open it",
            route=("format_version",),
        )
    written = version
    while version < FORMAT_VERSION:
        try:
            data = MIGRATIONS[version](data)
        except (TypeError, ValueError, AttributeError, KeyError, OverflowError) as error:
            raise DesignError(
                source,
                f"a design of version {version} whose entries do not fit together ({error})",
                "a whole design of that version",
            ) from error
        version += 1
    data = with_shown_pictures(with_set_ids(data))
    _refuse_twice(data, source)
    try:
        design: Design = settled(Design.model_validate(data))
    except ValidationError as error:
        raise explain(error, source) from error
    return _hung(design) if written < HANGING_SINCE else design


def _hung(design: Design) -> Design:
    """Hang what lies free, in the fitted set and, where they lie aside, in the others."""
    fitted: Design = hung(design)
    return fitted
