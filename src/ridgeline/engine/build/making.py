"""Items of the weight table from a construction: one for each group of pieces of a part, and the glue of the whole."""

from __future__ import annotations

from typing import Any, NamedTuple

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.build import Build, PieceGroup
from ridgeline.design.carrying import hung_at
from ridgeline.design.document import Design
from ridgeline.design.parts import Basis, Item
from ridgeline.design.parts import Group as ItemGroup
from ridgeline.design.paths import REMOVE, Change
from ridgeline.engine.build.pieces import Group
from ridgeline.engine.weights.estimates import WHOLE, body_extent, extents_of, surface_extent

Part = Surface | Body


class _Kind(NamedTuple):
    """What the item of a group of pieces is called, in which group it weighs, and how well it is known."""

    words: str
    group: ItemGroup
    basis: Basis
    place_sigma: float = 0.004


_KINDS: dict[PieceGroup, _Kind] = {
    "shell": _Kind("", "airframe", "sheet"),
    "spars": _Kind("spar", "structure", "stock"),
    "covering": _Kind("covering", "adhesive", "adhesive"),
}
_GLUE = _Kind("Glue and hinges", "adhesive", "adhesive", 0.02)
#: How well the shell of a form is known where it is no sheet.
_BASIS: dict[str, Basis] = {"printed": "print", "bought": "library", "stick": "stock"}


def items_of(part: Part) -> tuple[Item, ...]:
    """Return the items that the pieces of a part come to, but for its glue.

    Parameters
    ----------
    part : Surface or Body

    Returns
    -------
    tuple of Item
        Hung on it, where their pieces lie; none where nothing says how it is built.
    """
    extent = surface_extent(part) if isinstance(part, Surface) else body_extent(part)
    return tuple(_item(part, name, kind, extent.groups[name]) for name, kind in _KINDS.items() if name in extent.groups)


def _item(part: Part, name: PieceGroup, kind: _Kind, group: Group) -> Item:
    assert part.built is not None
    shell = name == "shell"
    mirrored = part.mirrored and abs(group.centroid[1]) > 1e-6
    x, y, z = group.centroid
    if not part.mirrored and isinstance(part, Body):
        # Sides of one body balance each other about its own middle.
        y = part.y
    made = Item(
        name=f"{part.name} {_called(part, kind)}".strip(),
        group=kind.group,
        basis=_BASIS.get(part.built.form, kind.basis) if shell else kind.basis,
        count=2 if mirrored else 1,
        mirrored=mirrored,
        # What stands at the edge of what can be written down has its middle there too.
        x=min(max(x, -2.0), 10.0),
        y=min(max(y, -5.0), 5.0),
        z=min(max(z, -3.0), 3.0),
        estimate=group.mass / (2 if mirrored else 1),
        build=Build(kind="pieces", of=part.id, pieces=name, material=_material(part) if shell else ""),
        place_sigma=kind.place_sigma if isinstance(part, Surface) else 0.01,
    )
    return made.model_copy(update={"on": hung_at(made, part, None, (x, y, z))})


def _called(part: Part, kind: _Kind) -> str:
    return "panels" if not kind.words and isinstance(part, Surface) and part.role == "wing" else kind.words


def _material(part: Part) -> str:
    """Return what the shell of a part is made of, so that the scale can tell of like ones."""
    built = part.built
    assert built is not None
    if built.form == "printed":
        return built.printing.material
    if built.form in ("core", "carved"):
        return built.foam
    return "" if built.form in ("bought", "stick") else built.board.material


def glue_item(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...]) -> Item | None:
    """Return the item of all glue and hinges; None where nothing is glued.

    Parameters
    ----------
    surfaces : tuple of Surface
    bodies : tuple of Body

    Returns
    -------
    Item or None
    """
    group = extents_of(surfaces, bodies)[WHOLE].groups.get("glue")
    if group is None:
        return None
    x, _y, z = group.centroid
    return Item(
        name=_GLUE.words,
        group=_GLUE.group,
        basis=_GLUE.basis,
        x=x,
        z=z,
        estimate=group.mass,
        build=Build(kind="pieces", pieces="glue"),
        place_sigma=_GLUE.place_sigma,
    )


def remade(design: Design, part: Part) -> tuple[Change, ...]:
    """Return the edits that make the items of a part those of its pieces.

    What followed it by a recipe gives way to them; so does, where nothing did, the heaviest board that was entered by
    hand and hangs on it. A name and a weighed value of the same group stay.

    Parameters
    ----------
    design : Design
        With the part as it is going to be built.
    part : Surface or Body
        One of the design's.

    Returns
    -------
    tuple of Change
        Of the design's items, those that go last.
    """
    fresh = {item.build.pieces: item for item in items_of(part) if item.build is not None}
    changes: list[Change] = []
    gone: list[int] = []
    for index, stands_for in _standing(design, part).items():
        item, new = design.parts[index], fresh.pop(stands_for, None)
        if new is None:
            gone.append(index)
        else:
            kept: dict[str, Any] = {"id": item.id, "name": item.name, "sets": item.sets, "weighed": item.weighed}
            if item.weighed is not None and new.count != item.count:
                kept["weighed"] = item.weighed * item.count / new.count
            changes.append(Change(f"parts[{index}]", new.model_copy(update=kept)))
    changes += [Change("parts[-]", item.model_copy(update={"sets": part.sets})) for item in fresh.values()]
    if not any(item.group == "adhesive" for item in design.parts):
        glue = glue_item(design.surfaces, design.bodies)
        changes += [] if glue is None else [Change("parts[-]", glue)]
    return (*changes, *(Change(f"parts[{index}]", REMOVE) for index in reversed(gone)))


#: What a recipe along a part stands for; sheet and print are its shell.
_BY_RECIPE: dict[str, PieceGroup] = {"length": "spars", "covering": "covering"}


def _standing(design: Design, part: Part) -> dict[int, PieceGroup]:
    """Return which items stand for a part's pieces so far, by their index."""
    found: dict[int, PieceGroup] = {}
    by_hand: dict[int, float] = {}
    for index, item in enumerate(design.parts):
        build = item.build
        if build is not None and build.of == part.id:
            found[index] = build.pieces if build.kind == "pieces" else _BY_RECIPE.get(build.kind, "shell")
        elif build is None and item.on is not None and item.on.to == part.id and item.group == "airframe":
            by_hand[index] = item.count * (item.weighed or item.estimate or 0.0)
    if by_hand and "shell" not in found.values():
        found[max(by_hand, key=lambda index: by_hand[index])] = "shell"
    return found
