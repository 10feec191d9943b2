"""The order in which a design is built: what closes over what, what must set, what is tried before it is shut in."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from graphlib import TopologicalSorter
from typing import Literal

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.engine.build.pieces import Piece
from ridgeline.engine.build.whole import pieces_of_design

#: When it is painted: each part before it is joined, or all of it once it stands.
School = Literal["parts", "whole"]
#: Minutes that glue is left to set, by what it holds (chosen: hot glue takes two, polyurethane thirty, paint an hour).
SPAR_SETS, CLOSED_SETS, JOIN_SETS, PAINT_DRIES = 30.0, 30.0, 30.0, 60.0

_CUT, _SPAR, _FIT, _CLOSE, _JOIN, _COAT = "cut:", "spar:", "fit:", "close:", "join:", "coat:"
_TRY, _LINK, _LOAD, _BALANCE, _BLADES = "try", "link", "load", "balance", "blades"


@dataclass(frozen=True)
class Step:
    """One step: its key, what is done, of which part, with which pieces and items, and after which other steps.

    ``pieces`` are places among the design's pieces, ``items`` ids. ``cures`` minutes pass before what comes after it;
    ``closes`` tells that what lies inside is out of reach then, ``fragile`` what breaks easily from then on.
    """

    key: str
    words: str
    of: str = ""
    pieces: tuple[int, ...] = ()
    items: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    cures: float = 0.0
    closes: bool = False
    fragile: str = ""


def build_order(design: Design, school: School = "parts") -> tuple[Step, ...]:
    """Return the steps in which a design is built, each after all that it waits for.

    Parameters
    ----------
    design : Design
    school : {"parts", "whole"}
        Whether parts are painted before they are joined, or the aircraft once it stands.

    Returns
    -------
    tuple of Step
        Every piece, surface, body and item that is not built of pieces stands in one of them, once.
    """
    pieces = pieces_of_design(design)
    parts: list[Surface | Body] = [*design.surfaces, *design.bodies]
    carried = _carried(design, {part.id for part in parts})
    steps = [step for part in parts for step in _made(pieces, part, carried.get(part.id, ()))]
    fitted = tuple(step.key for step in steps if step.items)
    steps.append(Step(_TRY, "Try every servo, centre it, and run the motor: propeller off", after=fitted))
    ready = _COAT if school == "parts" else _CLOSE
    joined: list[Step] = []
    winged = {surface.id for surface in design.surfaces}
    for part in _in_order(design):
        # Each is squared to the one before it, the wing to the body.
        words = _joins(part, first=not joined)
        before = tuple(step.key for step in joined[-1:])
        tail = isinstance(part, Surface) and any(step.of in winged for step in joined)
        fragile = "carry it by the wing: tails break off easily" if tail else ""
        joined.append(Step(f"{_JOIN}{part.id}", words, part.id, after=(f"{ready}{part.id}", *before),
                           cures=JOIN_SETS if joined else 0.0, fragile=fragile))  # fmt: skip
    stands = tuple(step.key for step in joined)
    coats = _painted(pieces, parts, school, stands)
    steps += [*joined, *coats]
    done = (_TRY, *stands, *(step.key for step in coats))
    steps.append(Step(_LINK, "Bend rods and hang them in: servos at rest, controls at neutral", after=done))
    late = tuple(
        item.id for item in design.parts if item.build is None and _late(item) and item.component != "propeller"
    )
    loads = (*carried.get("", ()), *late)
    steps.append(Step(_LOAD, "Fit what comes off again: pack, load, wheels", items=loads, after=(_LINK,)))
    steps.append(Step(_BALANCE, "Balance it on its marks, across too", after=(_LOAD,)))
    blades = tuple(item.id for item in design.parts if item.component == "propeller")
    steps.append(Step(_BLADES, "Propeller on, last of all, and only outdoors", items=blades, after=(_BALANCE,)))
    known = {step.key: step for step in steps}
    return tuple(known[key] for key in TopologicalSorter({s.key: s.after for s in steps}).static_order())


def _late(item: Item) -> bool:
    """Tell whether an item goes in when all else is done."""
    return item.component in ("pack", "propeller") or item.group in ("battery", "payload", "ballast")


def _carried(design: Design, parts: Iterable[str]) -> dict[str, tuple[str, ...]]:
    """Return ids of items by the part they are built into, those that hang on none of them under nothing."""
    known, mounts = set(parts), {} if design.power is None else {mount.id for mount in design.power.mounts}
    body = design.bodies[0].id if design.bodies else ""
    found: dict[str, list[str]] = {}
    for item in design.parts:
        if item.build is not None or _late(item):
            continue
        on = "" if item.on is None else item.on.to
        if on in mounts or item.component is not None or item.harness is not None:
            on = body
        found.setdefault(on if on in known else "", []).append(item.id)
    return {part: tuple(items) for part, items in found.items()}


def _made(pieces: Sequence[Piece], part: Surface | Body, items: tuple[str, ...]) -> list[Step]:
    """Return the steps that make a part: cut, spar, fitted out, closed."""
    mine = [k for k, piece in enumerate(pieces) if piece.of == part.id]
    spars, glue = (tuple(k for k in mine if pieces[k].group == group) for group in ("spars", "glue"))
    cut = tuple(k for k in mine if pieces[k].group not in ("spars", "glue", "covering"))
    moves = isinstance(part, Surface) and bool(part.controls)
    steps = [Step(f"{_CUT}{part.id}", f"{part.name}: cut or print its pieces, mark them", part.id, cut,
                  fragile="thin edges: keep them flat" if isinstance(part, Surface) else "")]  # fmt: skip
    if spars:
        steps.append(Step(f"{_SPAR}{part.id}", f"{part.name}: glue the spar in, straight on a flat table", part.id,
                          spars, after=(steps[-1].key,), cures=SPAR_SETS))  # fmt: skip
    if items:
        steps.append(Step(f"{_FIT}{part.id}", f"{part.name}: lay in what goes inside, and leads", part.id, (), items,
                          (steps[-1].key,)))  # fmt: skip
    tried = (_TRY,) if items else ()
    words = f"{part.name}: glue it shut" + (", hang its controls" if moves else "")
    steps.append(Step(f"{_CLOSE}{part.id}", words, part.id, glue, after=(steps[-1].key, *tried),
                      cures=CLOSED_SETS, closes=bool(items)))  # fmt: skip
    return steps


def _in_order(design: Design) -> list[Surface | Body]:
    """Return the parts in the order they are joined: bodies, the wing, what lies flat, what stands upright."""
    lying = [surface for surface in design.surfaces if not is_upright(surface)]
    return [*design.bodies, *lying, *(surface for surface in design.surfaces if is_upright(surface))]


def _joins(part: Surface | Body, first: bool) -> str:
    if first:
        return f"{part.name}: lay it down, its middle line marked"
    return f"{part.name}: set it on square, both diagonals alike, and fix it"


def _painted(
    pieces: Sequence[Piece], parts: Sequence[Surface | Body], school: School, stands: tuple[str, ...]
) -> list[Step]:
    """Return the steps of covering and paint: part by part before they are joined, or all of it at once."""
    skins = [tuple(k for k, piece in enumerate(pieces) if piece.of == part.id and piece.group == "covering")
             for part in parts]  # fmt: skip
    if school == "whole":
        every = tuple(k for skin in skins for k in skin)
        return [Step(f"{_COAT}all", "Cover and paint it whole: hinges, motor and vents masked", "", every, after=stands,
                     cures=PAINT_DRIES)]  # fmt: skip
    return [
        Step(f"{_COAT}{part.id}", f"{part.name}: cover and paint it, glue faces masked", part.id, skin,
             after=(f"{_CLOSE}{part.id}",), cures=PAINT_DRIES)
        for part, skin in zip(parts, skins, strict=True)
    ]  # fmt: skip
