"""Keep versions of an aircraft, look at one again, and go back to one; nothing that was kept or done is lost by it."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any, Literal

from ridgeline.design.base import Node
from ridgeline.design.document import Design, from_plain
from ridgeline.design.flights import Flight
from ridgeline.design.parts import Item
from ridgeline.design.patches import patched, plain_difference
from ridgeline.design.plain import REFERENCE, as_plain, mark_of
from ridgeline.design.power import PowerTrain
from ridgeline.design.versions import KeptPicture, Version
from ridgeline.errors import DesignError

#: Of a design, not of the aircraft: what was done with it, seen and kept. A version leaves these alone.
RECORDS = (
    *("format", "format_version", "revision", "note", "walk", "tried", "versions", "pictures"),
    *("flights", "log_book", "signed", "as_built", "first_throw"),
)
_AIRCRAFT = tuple(field for field in Design.model_fields if field not in RECORDS)
Why = Literal["asked", "flown", "left"]


def same_aircraft(one: Design, other: Design) -> bool:
    """Tell whether two designs are the same aircraft, whatever was logged, seen and kept of either."""
    return all(getattr(one, field) == getattr(other, field) for field in _AIRCRAFT)


def counted(before: Design, after: Design) -> Design:
    """Return a design with its revision counted: one more once what was kept last is edited.

    Parameters
    ----------
    before, after : Design
        Of an edit.

    Returns
    -------
    Design
        ``after`` itself where nothing is to be counted.
    """
    newest = after.versions[-1].number if after.versions else 0
    if after.revision > newest or same_aircraft(before, after):
        return after
    return after.model_copy(update={"revision": newest + 1})


def is_kept(design: Design) -> bool:
    """Tell whether the aircraft, as it stands, is the newest version."""
    return bool(design.versions) and design.revision == design.versions[-1].number


def keep(design: Design, *, name: str = "", note: str = "", day: str = "", why: Why = "asked") -> Design:
    """Return the design with its aircraft kept as a version; one that is kept already stays as it is.

    Parameters
    ----------
    design : Design
    name, note : str
        What it is called, and what to know of it.
    day : str
        As 2026-11-26.
    why : str

    Returns
    -------
    Design

    Raises
    ------
    DesignError
        When a version before it cannot be read.
    """
    if is_kept(design):
        return design
    pictures = {kept.mark: kept.picture for kept in design.pictures}
    pictures |= {mark_of(shown.picture): shown.picture for shown in design.underlays}
    before = _plain_at(design, len(design.versions)) if design.versions else {}
    changed = plain_difference(before, _bare(design))
    number = max(design.revision, design.versions[-1].number + 1 if design.versions else 1)
    fresh = Version.model_validate(
        {"number": number, "name": name, "note": note, "day": day, "kept": why, "changed": changed}
    )
    return design.model_copy(
        update={
            "revision": number,
            "versions": (*design.versions, fresh),
            "pictures": tuple(KeptPicture(mark=mark, picture=picture) for mark, picture in pictures.items()),
        }
    )


def _bare(design: Design) -> dict[str, Any]:
    """Return the plain data of the aircraft, with marks for its pictures."""
    data = as_plain(design)
    for field in RECORDS:
        if not field.startswith("format"):
            del data[field]
    for shown in data["underlays"]:
        shown["picture"] = REFERENCE + mark_of(shown["picture"])
    return data


def _plain_at(design: Design, many: int) -> dict[str, Any]:
    """Return the plain data after the first ``many`` versions' changes."""
    data: dict[str, Any] = {}
    for version in design.versions[:many]:
        try:
            data = patched(data, json.loads(version.changed))
        except (LookupError, TypeError, ValueError, AttributeError) as error:
            raise DesignError(
                f"version {version.number}", "changes that do not fit the version before it", "a version as it was kept"
            ) from error
    return data


def place_of(design: Design, number: int) -> int:
    """Return the place of a version among those kept.

    Raises
    ------
    DesignError
        When no version has that number; it names those there are.
    """
    for place, version in enumerate(design.versions):
        if version.number == number:
            return place
    known = ", ".join(str(version.number) for version in design.versions) or "none is kept yet"
    raise DesignError("version", str(number), f"one of those kept: {known}")


def at(design: Design, number: int) -> Design:
    """Return the aircraft of a version, with what is the same today as the same objects.

    Parameters
    ----------
    design : Design
    number : int

    Returns
    -------
    Design
        Without records, but with the versions up to that one.

    Raises
    ------
    DesignError
        When there is no such version, or it cannot be read.
    """
    place = place_of(design, number)
    data = _plain_at(design, place + 1)
    pictures = {kept.mark: kept.picture for kept in design.pictures}
    for shown in data.get("underlays", ()):
        mark = str(shown.get("picture", "")).removeprefix(REFERENCE)
        if mark not in pictures:
            told = "a picture that is not in the file any more"
            raise DesignError(f"version {number}", told, "a version as it was kept")
        shown["picture"] = pictures[mark]
    made = from_plain(data, source=f"version {number}")
    found: Design = shared(made, design)
    return found.model_copy(
        update={"revision": number, "versions": design.versions[: place + 1], "pictures": design.pictures}
    )


def shared(fresh: Any, like: Any) -> Any:
    """Return what is equal to ``fresh``, made of the objects of ``like`` wherever those are the same.

    Parameters
    ----------
    fresh, like : object
        Nodes, lists of nodes, values.

    Returns
    -------
    object
        ``like`` itself where all of it is the same.
    """
    if isinstance(fresh, Node) and type(fresh) is type(like):
        found = {field: shared(getattr(fresh, field), getattr(like, field)) for field in type(fresh).model_fields}
        if all(found[field] is getattr(like, field) for field in found):
            return like
        return fresh.model_copy(update=found)
    if isinstance(fresh, tuple) and isinstance(like, tuple):
        others = {one.id: one for one in like if hasattr(one, "id")}
        paired = [
            shared(one, others.get(getattr(one, "id", None), like[k] if k < len(like) else None))
            for k, one in enumerate(fresh)
        ]
        if len(fresh) == len(like) and all(a is b for a, b in zip(paired, like, strict=True)):
            return like
        return tuple(paired)
    return like if type(fresh) is type(like) and fresh == like else fresh


def flown(design: Design, flight: Flight, *, day: str = "") -> Design:
    """Return the design with a flight logged, and its aircraft kept as the version that flew.

    Parameters
    ----------
    design : Design
    flight : Flight
    day : str
        Today, as 2026-11-26.

    Returns
    -------
    Design
    """
    held = keep(design, name="as flown", day=day, why="flown")
    fresh = flight.model_copy(update={"version": held.revision, "fitted": held.fitted, "day": flight.day or day})
    logged: Design = Design.model_validate(held.model_copy(update={"flights": (*held.flights, fresh)}).__dict__)
    return held.model_copy(update={"flights": logged.flights})


def next_flight(design: Design) -> Flight:
    """Return what the next flight most likely is: as the last one in all that seldom changes from one to the next.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Flight
        With nothing that was measured.
    """
    power, last = design.power, design.flights[-1] if design.flights else None
    told: dict[str, Any] = {"launch": design.brief.launch}
    if power is not None:
        told |= {"cells": power.cells, "capacity_ah": power.capacity_ah}
    if last is not None:
        told |= {"launch": last.launch, "pack": last.pack, "wind": last.wind, "temperature_c": last.temperature_c}
    return Flight.model_validate(told)


# -- going back -------------------------------------------------------------------------------------------------------


def back_to(design: Design, number: int, *, day: str = "") -> Design:
    """Return the design with the aircraft of a version, what was measured since carried forward.

    The aircraft it leaves is kept first where it was not.

    Parameters
    ----------
    design : Design
    number : int
    day : str
        Today, as 2026-11-26.

    Returns
    -------
    Design

    Raises
    ------
    DesignError
        When there is no such version, or it cannot be read.
    """
    left = keep(design, name=f"left for {number}", day=day, why="left")
    then = at(left, number)
    update = {field: getattr(then, field) for field in _AIRCRAFT}
    update["revision"] = left.versions[-1].number + 1
    made: Design = carried_forward(left.model_copy(update=update), design)
    return made


def laid_anew(design: Design, made: Design, *, day: str = "") -> Design:
    """Return an aircraft laid out anew in the place of a design's, with what was logged, kept and seen of that.

    Parameters
    ----------
    design, made : Design
        As it was, and as it was laid out.
    day : str
        Today, as 2026-11-26.

    Returns
    -------
    Design
        Where versions or flights are kept of it, the aircraft it leaves is one of them.
    """
    left = design
    if design.surfaces and (design.versions or design.flights):
        left = keep(design, name="before a new layout", day=day, why="left")
    newest = left.versions[-1].number if left.versions else 0
    kept = {field: getattr(left, field) for field in RECORDS if not field.startswith("format")}
    # What was seen of the controls on the bench is of controls that are gone.
    kept |= {"walk": (), "tried": None, "underlays": left.underlays}
    kept["revision"] = max(left.revision, newest + 1) if newest else left.revision
    return made.model_copy(update=kept)


def carried_forward(design: Design, measured: Design) -> Design:
    """Return a design with what was measured of the same parts of another, by their ids.

    A part that is built otherwise is not the same to a scale: what was read of that one says nothing of this one.

    Parameters
    ----------
    design, measured : Design

    Returns
    -------
    Design
    """
    update = _measured_lists(design, design, measured)
    aside = _measured_lists(design.aside, design, measured)
    if aside:
        update["aside"] = design.aside.model_copy(update=aside)
    power = _train_measured(design.power, measured.power)
    if power is not design.power:
        update["power"] = power
    return design.model_copy(update=update) if update else design


def _measured_lists(holder: Any, design: Design, measured: Design) -> dict[str, Any]:
    """Return the lists of a design, or of what lies aside of it, in which something measured is carried forward."""
    update: dict[str, Any] = {}
    for field, like, fields in _MEASURED:
        known = {(one.id, one.sets): one for one in (*getattr(measured.aside, field), *getattr(measured, field))}
        kept = getattr(holder, field)
        fresh = tuple(_with_measures(one, known.get((one.id, one.sets)), like, fields) for one in kept)
        if any(a is not b for a, b in zip(fresh, kept, strict=True)):
            update[field] = fresh
    return update


def _with_measures(one: Any, other: Any, like: Callable[[Any], object], fields: tuple[str, ...]) -> Any:
    if other is None or one is other or like(one) != like(other):
        return one
    update = {field: getattr(other, field) for field in fields if getattr(other, field) not in (None, 0.0)}
    return one.model_copy(update=update)


def _item_like(item: Item) -> object:
    """What makes an item the same to a scale: what it is and is made to, not where it lies."""
    return item.group, item.component, item.servo, item.build, item.count, None if item.build else item.estimate


def _surface_like(surface: Any) -> object:
    return surface.built, surface.stations, surface.thickness, surface.section, surface.mirrored


_MEASURED: tuple[tuple[str, Callable[[Any], object], tuple[str, ...]], ...] = (
    ("parts", _item_like, ("weighed",)),
    ("surfaces", _surface_like, ("droop", "warp_starboard", "warp_port")),
)


def _train_measured(one: PowerTrain | None, other: PowerTrain | None) -> PowerTrain | None:
    """Return a train with what the bench said of the same motor and propeller."""
    if one is None or other is None or one.id != other.id or not other.bench:
        return one
    if _as_sold(one) != _as_sold(other):
        return one
    told = {field: getattr(other, field) for field in ("motor", "propeller", "bench", "bench_fit")}
    return one.model_copy(update=told)


def _as_sold(train: PowerTrain) -> object:
    motor, prop = train.motor, train.propeller
    kv = motor.kv_rpm_per_v if motor.stated_kv is None else motor.stated_kv
    return (
        *(motor.kind, kv, motor.mass, motor.diameter, motor.length, motor.poles),
        *(prop.family, prop.diameter, prop.pitch, prop.blades),
    )
