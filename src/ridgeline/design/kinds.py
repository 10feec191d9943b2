"""The kinds of part a design is made of: one row each, read by checks, sets, scaling, carrying and trial edits."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.base import Node
from ridgeline.design.fastening import Fastening
from ridgeline.design.identity import Numbers
from ridgeline.design.linkage import Linkage
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.design.radio import Radio


@dataclass(frozen=True)
class PartKind:
    """One kind of part.

    ``field`` of the document it stands in, its ``model``, what one of it is called (``word``), whether there may be
    several, the letters its ids begin with, which of its fields holds parts of their own (``within``), the lengths
    that grow when the airframe is scaled (dotted, through tuples), and what of it items can hang on: nothing, the part
    itself, or what it holds.
    """

    field: str
    model: type[Node]
    word: str
    prefix: str
    many: bool = True
    within: str = ""
    inner_prefix: str = ""
    lengths: tuple[str, ...] = ()
    carries: Literal["", "itself", "within"] = ""


KINDS: tuple[PartKind, ...] = (
    PartKind(
        "surfaces",
        Surface,
        "surface",
        "s",
        within="controls",
        inner_prefix="c",
        lengths=(
            *("x", "y", "z", "thickness", "droop"),
            *("stations.y", "stations.chord", "stations.x", "stations.z", "controls.start", "controls.end"),
            *(
                "controls.width",
                "controls.width_out",
                "seat.front",
                "seat.back",
                "seat.step",
                "built.seat_out",
                "built.root.arm",
            ),
        ),
        carries="itself",
    ),
    PartKind(
        "bodies",
        Body,
        "body",
        "b",
        lengths=("x", "y", "z", "stations.x", "stations.width", "stations.height", "stations.z"),
        carries="itself",
    ),
    PartKind("wheels", Wheel, "wheel", "w", lengths=("x", "y", "z", "diameter")),
    PartKind("parts", Item, "item", "i", lengths=("x", "y", "z", "on.back", "on.out", "on.up")),
    PartKind(
        "power",
        PowerTrain,
        "power train",
        "p",
        many=False,
        within="mounts",
        inner_prefix="m",
        lengths=("mounts.x", "mounts.y", "mounts.z"),
        carries="within",
    ),
    PartKind(
        "fastenings",
        Fastening,
        "fastening",
        "j",
        lengths=("length", "width", "out", "foot", "drop"),
    ),
    # Arms and horns are bought, and stay as they are when the airframe grows.
    PartKind("linkages", Linkage, "linkage", "l", lengths=("out", "ahead", "up", "guides")),
    PartKind("radio", Radio, "radio", "a", many=False, within="channels", inner_prefix="n"),
)
KIND_OF = {kind.field: kind for kind in KINDS}
#: The kinds that items can hang on.
CARRYING = tuple(kind for kind in KINDS if kind.carries)


def listed(holder: Any, kind: PartKind) -> tuple[Any, ...]:
    """Return the parts of a kind in a design, or in what lies aside, where every kind is a list.

    Parameters
    ----------
    holder : Design or Aside
    kind : PartKind

    Returns
    -------
    tuple of Node
        None or one where there are not many.
    """
    found = getattr(holder, kind.field)
    if isinstance(found, tuple):
        return found
    return () if found is None else (found,)


def as_field(kind: PartKind, parts: tuple[Any, ...]) -> Any:
    """Return parts of a kind as the design's field holds them: a list, or the one, or None.

    Parameters
    ----------
    kind : PartKind
    parts : tuple of Node

    Returns
    -------
    tuple of Node, Node or None
    """
    return parts if kind.many else next(iter(parts), None)


def everywhere(design: Any) -> Iterator[tuple[PartKind, Any]]:
    """Yield every part, fitted and aside, with its kind."""
    for kind in KINDS:
        for part in (*listed(design, kind), *listed(design.aside, kind)):
            yield kind, part


def references(design: Any) -> Iterator[str]:
    """Yield the ids that parts refer to, whether what they name is there or not."""
    for _kind, part in everywhere(design):
        yield from part.sets
    for item in (*design.parts, *design.aside.parts):
        if item.build is not None and item.build.of:
            yield item.build.of
        if item.on is not None:
            yield item.on.to
        yield from item.drives
    for fastening in (*design.fastenings, *design.aside.fastenings):
        yield from (ident for ident in (fastening.of, fastening.to) if ident)
    for linkage in (*design.linkages, *design.aside.linkages):
        yield from (ident for ident in (linkage.control, linkage.servo) if ident)
    for radio in (*listed(design, KIND_OF["radio"]), *design.aside.radio):
        yield from (ident for channel in radio.channels for ident in channel.moves)
        yield from (lead.of for lead in radio.leads)
    yield from (seen.of for seen in design.walk)


def idents_of(part: Any, kind: PartKind) -> Iterator[str]:
    """Yield the id of a part and those of what it holds."""
    yield part.id
    if kind.within:
        for inner in getattr(part, kind.within):
            yield inner.id


def all_idents(holder: Any) -> list[str]:
    """Return the ids of all parts of a design, or of what lies aside, and of what they hold.

    Parameters
    ----------
    holder : Design or Aside

    Returns
    -------
    list of str
        Empty ones among them where a part has none yet.
    """
    return [ident for kind in KINDS for part in listed(holder, kind) for ident in idents_of(part, kind)]


def numbered(part: Any, kind: PartKind, numbers: Numbers, seen: set[str] | None = None) -> Any:
    """Return a part with ids where it, or what it holds, has none or one in ``seen``; the same object otherwise.

    ``seen`` gains the ids.

    Parameters
    ----------
    part : Node
        Of a kind.
    kind : PartKind
    numbers : Numbers
        That gives fresh ids.
    seen : set of str, optional
        Ids that are given away.

    Returns
    -------
    Node
        Itself when nothing was missing.
    """
    update: dict[str, Any] = {}
    if needed := numbers.needed(part.id, kind.prefix, seen):
        update["id"] = needed
    if kind.within:
        inner = getattr(part, kind.within)
        fresh = [numbers.needed(one.id, kind.inner_prefix, seen) for one in inner]
        if any(fresh):
            update[kind.within] = tuple(
                one.model_copy(update={"id": ident}) if ident else one for one, ident in zip(inner, fresh, strict=True)
            )
    return part.model_copy(update=update) if update else part


def duplicate(part: Any, kind: PartKind, **update: Any) -> Any:
    """Return a copy of a part, changed, for the design to number: it is another part, and so is what it holds.

    Parameters
    ----------
    part : Node
        Of a kind.
    kind : PartKind
    **update
        Fields that differ.

    Returns
    -------
    Node
        Without ids.
    """
    update["id"] = ""
    if kind.within:
        inner = update.get(kind.within, getattr(part, kind.within))
        update[kind.within] = tuple(one.model_copy(update={"id": ""}) for one in inner)
    return part.model_copy(update=update)
