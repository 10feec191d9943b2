"""Hang what lies free on the part it lies on: for designs laid out or opened that do not say what carries what."""

from __future__ import annotations

import math
from typing import Any

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import cut_at, from_surface
from ridgeline.design.carrying import Carrier, carriers, hung_at, settled
from ridgeline.design.parts import Item
from ridgeline.design.power import Mount, PowerTrain

#: What lies this far past the outline of a surface or a body is still on it, m, and as a share of the chord.
_NEAR, _PAST = 0.03, 0.15
#: What is built into a wing's root lies within this share of its chord over or under it.
_ROOT = 0.2
#: A surface this steep stands up (sine of its cant); its foot is the share of its panel that a body may reach.
_UPRIGHT, _FOOT = 0.85, 0.2


def hung(design: Any) -> Any:
    """Return a design whose free items hang on what they lie on, where that is plain; no place changes.

    Motors and propellers hang on their mount; what is built of a part on that; servos on the surface they move when
    they lie on it; pieces out on a wing, and spars at its root, on it; the rest in the body it lies in.
    """
    found = carriers(design)
    items = tuple(_hung(item, found, design.power) for item in design.parts)
    aside = tuple(_hung(item, _flying_with(item, design), design.power) for item in design.aside.parts)
    update: dict[str, Any] = {} if items == design.parts else {"parts": items}
    if aside != design.aside.parts:
        update["aside"] = design.aside.model_copy(update={"parts": aside})
    return settled(design.model_copy(update=update)) if update else design


def carrier_of(item: Item, found: dict[str, Carrier]) -> Carrier | None:
    """Return what carries an item: what it hangs on, or else what it lies on, where that is plain.

    Parameters
    ----------
    item : Item
    found : dict of str to Surface, Body or Mount
        What can carry it, by id.

    Returns
    -------
    Surface, Body or Mount, or None
    """
    if item.on is not None:
        return found.get(item.on.to)
    moved_by = {control.id: s for s in found.values() if isinstance(s, Surface) for control in s.controls}
    return _carrier(item, found, moved_by)


def _hung(item: Item, found: dict[str, Carrier], train: PowerTrain | None) -> Item:
    carrier = None if item.on is not None or item.loose else carrier_of(item, found)
    if carrier is None:
        return item
    return item.model_copy(update={"on": hung_at(item, carrier, train, (item.x, item.y, item.z))})


def _flying_with(item: Item, design: Any) -> dict[str, Carrier]:
    """Return what can carry an item that lies aside, by id: what flies in a set of its own, fitted or aside."""
    sets = set(item.sets)
    fitted = {ident: part for ident, part in carriers(design).items() if _shares(part, sets)}
    lying = (*design.aside.surfaces, *design.aside.bodies)
    return fitted | {part.id: part for part in lying if _shares(part, sets)}


def _shares(part: Carrier, sets: set[str]) -> bool:
    flies_in = getattr(part, "sets", ())
    return not flies_in or not sets.isdisjoint(flies_in)


def _carrier(item: Item, found: dict[str, Carrier], moved_by: dict[str, Surface]) -> Carrier | None:
    parts = list(found.values())
    surfaces = [p for p in parts if isinstance(p, Surface)]
    bodies = [p for p in parts if isinstance(p, Body)]
    mounts = [p for p in parts if isinstance(p, Mount)]
    if item.component in ("motor", "propeller") and mounts:
        return min(mounts, key=lambda m: abs(abs(item.y) - abs(m.y)) + abs(item.z - m.z))
    if item.build is not None and item.build.of in found:
        return found[item.build.of]
    for surface in (moved_by[ident] for ident in item.drives if ident in moved_by):
        if _lies_on(item, surface):
            return surface
    for surface in surfaces:
        # What is built of a fin stands up into it; what lies at its foot is in the body.
        stands = item.group == "airframe" and abs(math.sin(surface.cant)) > _UPRIGHT and _lies_on(item, surface)
        if stands and _on(item, surface)[0] > _FOOT * surface.stations[-1].y:
            return surface
    inside = _body(item, bodies)
    if item.mirrored or inside is None or item.group == "structure":
        flat = [s for s in surfaces if _lies_on(item, s) and (abs(item.y) > _NEAR or item.group == "structure")]
        near = min(flat, key=lambda s: abs(_on(item, s)[2]), default=None)
        if near is not None:
            return near
    return inside


def _on(item: Item, surface: Surface) -> tuple[float, float, float]:
    """Return how far out along a surface, at what share of its chord and how high over it an item lies, m."""
    return from_surface(surface, item.x, abs(item.y) if surface.mirrored else item.y, item.z)


def _lies_on(item: Item, surface: Surface) -> bool:
    """Tell whether an item lies within a surface's outline, and near its chord."""
    out, share, over = _on(item, surface)
    first, last = surface.stations[0].y, surface.stations[-1].y
    along = first - _NEAR <= out <= last + _NEAR and -_PAST <= share <= 1 + _PAST
    return along and abs(over) <= max(_ROOT * cut_at(surface, out).chord, _NEAR)


def _body(item: Item, bodies: list[Body]) -> Body | None:
    """Return the body an item lies in, or nearest beside it."""

    def beside(body: Body) -> float:
        wide = max(s.width for s in body.stations) / 2
        return max(abs(abs(item.y) - abs(body.y)) - wide, 0.0)

    long = [b for b in bodies if b.sections[0].x - _NEAR <= item.x <= b.sections[-1].x + _NEAR]
    near = min(long, key=lambda b: (beside(b), abs(b.y)), default=None)
    return near if near is not None and beside(near) <= _NEAR and math.isfinite(item.x) else None
