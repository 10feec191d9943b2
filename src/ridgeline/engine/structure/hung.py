"""What hangs on a half of a surface: its own panel, and what is bolted to it or stands on a like place each side."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.design.parts import Item
from ridgeline.engine.geometry.reference import main_wing


class Hanging(NamedTuple):
    """Mass of the panel of one side, kg, and what else hangs there: places out, m, and masses, kg."""

    panel: float
    items: tuple[tuple[float, float], ...]

    @property
    def total(self) -> float:
        """All that hangs on the side, kg."""
        return self.panel + sum(mass for _out, mass in self.items)

    @property
    def moment(self) -> float:
        """Of the items about the root, kg m."""
        return sum(out * mass for out, mass in self.items)


def hanging_on(
    surfaces: Sequence[Surface], parts: Sequence[Item], masses: Sequence[float], outside: float
) -> tuple[Hanging, ...]:
    """Return what hangs on a half of each surface.

    Parameters
    ----------
    surfaces : sequence of Surface
    parts : sequence of Item
    masses : sequence of float
        Of all pieces of each item, kg.
    outside : float
        Pairs that hang on something else farther out than this, m, pull on the main wing: motors, floats, pods.

    Returns
    -------
    tuple of Hanging
        One a surface. What hangs on one side only relieves nothing, since the other side bears as much.
    """
    panel = dict.fromkeys((surface.id for surface in surfaces), 0.0)
    items: dict[str, list[tuple[float, float]]] = {surface.id: [] for surface in surfaces}
    wings = [surface for surface in surfaces if surface.role == "wing"]
    main = main_wing(wings) if wings else None
    sides = {surface.id: 2 if surface.mirrored else 1 for surface in surfaces}
    for item, mass in zip(parts, masses, strict=True):
        for ident, out, of_panel in _where(item, panel, main, outside):
            if of_panel:
                panel[ident] += mass / sides[ident]
            else:
                items[ident].append((out, mass / 2))
    return tuple(Hanging(panel[surface.id], tuple(items[surface.id])) for surface in surfaces)


def _where(
    item: Item, known: dict[str, float], main: Surface | None, outside: float
) -> Iterator[tuple[str, float, bool]]:
    """Yield the surface an item pulls on, where, and whether it is part of the panel."""
    if item.build is not None and item.build.of in known:
        yield item.build.of, 0.0, True
    elif item.mirrored and item.on is not None and item.on.to in known:
        yield item.on.to, item.on.out, False
    elif item.mirrored and main is not None and item.on is not None and abs(item.y) > outside:
        reach = main.stations[-1].y + main.y
        if abs(item.y) < reach:
            yield main.id, abs(item.y) - main.y, False
