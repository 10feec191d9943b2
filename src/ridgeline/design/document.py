"""The design document itself, and how it is made from plain data."""

from __future__ import annotations

import json
from collections.abc import Callable
from operator import attrgetter
from typing import Any, Literal

from pydantic import Field, ValidationError

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.base import Node, Sets, Whole
from ridgeline.design.brief import Brief
from ridgeline.design.explain import explain
from ridgeline.design.migrations import from_version_1
from ridgeline.design.parts import Allowances, Item
from ridgeline.design.power import PowerTrain
from ridgeline.design.underlay import Underlay
from ridgeline.errors import DesignError
from ridgeline.typed import short

FORMAT_VERSION = 2

#: ``MIGRATIONS[n]`` turns the plain data of version ``n`` into that of version ``n + 1``.
MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: from_version_1}


class Aside(Node):
    """Parts that lie on the shelf while another set is fitted."""

    surfaces: tuple[Surface, ...] = Field((), max_length=80)
    bodies: tuple[Body, ...] = Field((), max_length=40)
    wheels: tuple[Wheel, ...] = Field((), max_length=40)
    parts: tuple[Item, ...] = Field((), max_length=5000, fail_fast=True)
    power: tuple[PowerTrain, ...] = Field((), max_length=12)


class Design(Node):
    """One aircraft, whole. Immutable: an edit makes another one (`ridgeline.design.paths`)."""

    format: Literal["ridgeline"] = "ridgeline"
    format_version: Literal[2] = 2
    name: str = Field("Untitled", min_length=1)
    note: str = Field("", max_length=4000)
    revision: Whole = Field(1, ge=1)
    brief: Brief = Brief()
    surfaces: tuple[Surface, ...] = Field((), max_length=40)
    bodies: tuple[Body, ...] = Field((), max_length=20)
    wheels: tuple[Wheel, ...] = Field((), max_length=20)
    parts: tuple[Item, ...] = Field((), max_length=5000, fail_fast=True)
    allowances: Allowances = Allowances()
    power: PowerTrain | None = None
    underlays: tuple[Underlay, ...] = Field((), max_length=6, description="pictures under the views")
    configurations: Sets = Field((), max_length=12, description="sets this airframe flies in, by name")
    fitted: str = Field("", description="the set that is fitted now")
    aside: Aside = Aside()

    def check(self) -> None:
        names = set(self.configurations)
        if len(names) < len(self.configurations):
            raise ValueError("sets of different names")
        if bool(self.fitted) != bool(names) or (names and self.fitted not in names):
            raise ValueError(f"“{self.fitted}” to be one of the sets: {', '.join(self.configurations) or 'none'}")
        # Many parts share few combinations of sets: each is looked at once.
        kinds, flies_in = ("surfaces", "bodies", "wheels", "parts"), attrgetter("sets")
        fitted = {sets for kind in kinds for sets in set(map(flies_in, getattr(self, kind)))}
        aside = {sets for kind in (*kinds, "power") for sets in set(map(flies_in, getattr(self.aside, kind)))}
        if self.power is not None:
            fitted.add(self.power.sets)
        for sets in fitted - {()}:
            if not (self.fitted in sets and names.issuperset(sets)):
                raise ValueError(f"what is fitted to fly in the set “{self.fitted}”, and in no unknown one")
        for sets in aside:
            if not sets or self.fitted in sets or not names.issuperset(sets):
                raise ValueError(f"what lies aside to fly in another set than “{self.fitted}”, and in a known one")


def from_plain(data: Any, *, source: str = "design") -> Design:
    """Validate plain data (from JSON) into a design, migrating older versions.

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
    try:
        return Design.model_validate(data)
    except ValidationError as error:
        raise explain(error, source) from error
