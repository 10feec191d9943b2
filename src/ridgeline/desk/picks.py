"""What is selected: a part of the design by its id, so that the same one stays selected wherever edits move it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ridgeline.design.document import Design
from ridgeline.design.paths import steps

PickKind = Literal["nothing", "surface", "control", "body", "wheel", "item", "mount", "link", "picture", "drag"]


@dataclass(frozen=True)
class Pick:
    """One selected thing: its kind, its id (the name of a link of the power chain), and which of its stations.

    A picture and a line of the drag list have no id: ``number`` is its place in the list.
    """

    kind: PickKind = "nothing"
    ident: str = ""
    number: int = 0


NOTHING = Pick()


@dataclass(frozen=True)
class Spot:
    """Where a selected thing stands now: its path, its place in its list, and that of its station or of a control."""

    path: str
    index: int = 0
    inner: int = 0


def pick_at(design: Design, path: str) -> Pick:
    """Return what stands at a path of the document as something selected; nothing where nothing of that sort does."""
    match steps(path):
        case ["surfaces", int(i), "stations", int(j)] if i < len(design.surfaces):
            return Pick("surface", design.surfaces[i].id, j)
        case ["surfaces", int(i), "controls", int(j)] if i < len(design.surfaces):
            controls = design.surfaces[i].controls
            return Pick("control", controls[j].id) if j < len(controls) else NOTHING
        case ["bodies", int(i), "stations", int(j)] if i < len(design.bodies):
            return Pick("body", design.bodies[i].id, j)
        case ["wheels", int(i)] if i < len(design.wheels):
            return Pick("wheel", design.wheels[i].id)
        case ["parts", int(i)] if i < len(design.parts):
            return Pick("item", design.parts[i].id)
        case ["power", "mounts", int(i)] if design.power is not None and i < len(design.power.mounts):
            return Pick("mount", design.power.mounts[i].id)
        case ["power", str(link)]:
            return Pick("link", link)
        case ["underlays", int(i)]:
            return Pick("picture", number=i)
        case ["drag_items", int(i)]:
            return Pick("drag", number=i)
    return NOTHING


def spot_of(design: Design, pick: Pick) -> Spot | None:
    """Return where a selected thing stands, or None when it is not there (any more)."""
    match pick.kind:
        case "surface":
            return _station("surfaces", design.surfaces, pick)
        case "body":
            return _station("bodies", design.bodies, pick)
        case "control":
            for i, surface in enumerate(design.surfaces):
                j = _index(surface.controls, pick.ident)
                if j is not None:
                    return Spot(f"surfaces[{i}].controls[{j}]", i, j)
        case "wheel":
            return _plain("wheels", design.wheels, pick)
        case "item":
            return _plain("parts", design.parts, pick)
        case "mount":
            return _plain("power.mounts", () if design.power is None else design.power.mounts, pick)
        case "link":
            return None if design.power is None else Spot(f"power.{pick.ident}")
        case "picture":
            there = pick.number < len(design.underlays)
            return Spot(f"underlays[{pick.number}]", pick.number) if there else None
        case "drag":
            there = pick.number < len(design.drag_items)
            return Spot(f"drag_items[{pick.number}]", pick.number) if there else None
    return None


def _index(parts: Sequence[Any], ident: str) -> int | None:
    return next((i for i, part in enumerate(parts) if part.id == ident), None)


def _plain(field: str, parts: Sequence[Any], pick: Pick) -> Spot | None:
    index = _index(parts, pick.ident)
    return None if index is None else Spot(f"{field}[{index}]", index)


def _station(field: str, parts: Sequence[Any], pick: Pick) -> Spot | None:
    index = _index(parts, pick.ident)
    if index is None or pick.number >= len(parts[index].stations):
        return None
    return Spot(f"{field}[{index}].stations[{pick.number}]", index, pick.number)
