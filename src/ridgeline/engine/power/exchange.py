"""Exchange one link of a power train: the part, and the item that carries its mass."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.parts import Component
from ridgeline.design.paths import Change
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.engine.weights.items import kinds_of


def scaled(value: float | None, factor: float) -> float | None:
    """Return a constant of a part scaled; what is left to its class stays so."""
    return None if value is None else value * factor


def exchange(
    design: Design, link: Component, part: Motor | SpeedController | Pack | Propeller, name: str | None = None
) -> tuple[Change, ...]:
    """Return the edits that fit a part: its item takes the new mass and name and forgets the old weighing.

    A pack's item also takes the new length on its rail, as far as there is room, and stays on it.

    Parameters
    ----------
    design : Design
    link : str
        Motor, esc, pack or propeller.
    part : Node
        That is fitted.
    name : str, optional
        Of the item that carries its mass.

    Returns
    -------
    tuple of Change
    """
    changes = [Change(f"power.{link}", part)]
    if link in ("motor", "propeller") and design.power is not None and design.power.bench_fit is not None:
        # What a bench told of the two together no longer holds.
        changes.append(Change("power.bench_fit", None))
    for index in kinds_of(design.parts).links.get(link, ()):
        item = design.parts[index]
        base = f"parts[{index}]"
        changes += [Change(f"{base}.weighed", None), Change(f"{base}.estimate", None)]
        if name:
            changes.append(Change(f"{base}.name", name))
        if isinstance(part, Pack) and item.rail is not None:
            length = min(part.length, item.rail.back - item.rail.front)
            place = min(max(item.x, item.rail.front + length / 2), item.rail.back - length / 2)
            changes += [Change(f"{base}.rail.item_length", length), Change(f"{base}.x", place)]
    return tuple(changes)
