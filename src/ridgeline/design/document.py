"""The design document itself, and how it is made from plain data."""

from __future__ import annotations

from collections.abc import Callable
from operator import attrgetter
from typing import Any, Literal

from pydantic import Field, ValidationError

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.base import Node, Sets
from ridgeline.design.brief import Brief
from ridgeline.design.migrations import from_version_1
from ridgeline.design.parts import Allowances, Item
from ridgeline.design.power import PowerTrain
from ridgeline.design.underlay import Underlay
from ridgeline.errors import DesignError

FORMAT_VERSION = 2

#: ``MIGRATIONS[n]`` turns the plain data of version ``n`` into that of version ``n + 1``.
MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: from_version_1}


class Aside(Node):
    """Parts that lie on the shelf while another set is fitted."""

    surfaces: tuple[Surface, ...] = Field((), max_length=80)
    bodies: tuple[Body, ...] = Field((), max_length=40)
    wheels: tuple[Wheel, ...] = Field((), max_length=40)
    parts: tuple[Item, ...] = Field((), max_length=5000)
    power: tuple[PowerTrain, ...] = Field((), max_length=12)


class Design(Node):
    """One aircraft, whole. Immutable: an edit makes another one (`ridgeline.design.paths`)."""

    format: Literal["ridgeline"] = "ridgeline"
    format_version: Literal[2] = 2
    name: str = Field("Untitled", min_length=1)
    note: str = Field("", max_length=4000)
    revision: int = Field(1, ge=1)
    brief: Brief = Brief()
    surfaces: tuple[Surface, ...] = Field((), max_length=40)
    bodies: tuple[Body, ...] = Field((), max_length=20)
    wheels: tuple[Wheel, ...] = Field((), max_length=20)
    parts: tuple[Item, ...] = Field((), max_length=5000)
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
        found = f"format {data.get('format')!r}" if isinstance(data, dict) else type(data).__name__
        raise DesignError(source, found, 'a Ridgeline design, a JSON object with "format": "ridgeline"')
    version = data.get("format_version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DesignError(f"{source}: format_version", repr(version), f"a whole number from 1 to {FORMAT_VERSION}")
    if version > FORMAT_VERSION:
        raise DesignError(
            f"{source}: format_version",
            f"{version}, written by a newer Ridgeline",
            f"versions up to {FORMAT_VERSION}; update Ridgeline to open it",
        )
    while version < FORMAT_VERSION:
        data = MIGRATIONS[version](data)
        version += 1
    try:
        return Design.model_validate(data)
    except ValidationError as error:
        raise explain(error, source) from error


def explain(error: ValidationError, source: str = "", prefix: str = "") -> DesignError:
    """Turn the validator's first complaint into a `DesignError` in the builder's words."""
    first = error.errors()[0]
    path = prefix
    for step in first["loc"]:
        path += f"[{step}]" if isinstance(step, int) else (f".{step}" if path else str(step))
    message = first["msg"].removeprefix("Value error, ")
    kind, context = first["type"], first.get("ctx", {})
    allowed = {
        "greater_than": lambda: f"more than {context['gt']:g}",
        "greater_than_equal": lambda: f"{context['ge']:g} or more",
        "less_than_equal": lambda: f"{context['le']:g} or less",
        "too_long": lambda: f"{context['max_length']} entries at most",
        "too_short": lambda: f"{context['min_length']} entries at least",
        "finite_number": lambda: "a finite number",
        "literal_error": lambda: f"one of {context['expected']}",
        "extra_forbidden": lambda: "no field of this name",
        "missing": lambda: "this field to be present",
        "value_error": lambda: message,
    }.get(kind, lambda: message[0].lower() + message[1:])()
    understood = "nothing" if kind == "missing" else _brief_repr(first["input"])
    where = f"{source}: {path}" if source and path else source or path or "design"
    return DesignError(where, understood, allowed)


def _brief_repr(value: Any) -> str:
    if isinstance(value, dict | list | tuple) or hasattr(value, "model_dump"):
        return (
            f"this {value.get('name', 'entry')}" if isinstance(value, dict) else f"this {type(value).__name__.lower()}"
        )
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "…"
