"""What hangs on a half of a surface: its own panel, and what is bolted to it or stands on a like place each side."""

from __future__ import annotations

from collections.abc import Sequence
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
        What hangs on no surface and lies farther out than this, m, pulls on the main wing: motors, floats, pods.

    Returns
    -------
    tuple of Hanging
        One a surface: of the side that is relieved less, for the other one bears as much.
    """
    panel = dict.fromkeys((surface.id for surface in surfaces), 0.0)
    sides = {surface.id: 2 if surface.mirrored else 1 for surface in surfaces}
    wings = [surface for surface in surfaces if surface.role == "wing"]
    main = main_wing(wings) if wings else None
    # Starboard and port of each surface.
    items: dict[str, tuple[list[tuple[float, float]], ...]] = {surface.id: ([], []) for surface in surfaces}
    for item, mass in zip(parts, masses, strict=True):
        if item.build is not None and item.build.of in panel:
            panel[item.build.of] += mass / sides[item.build.of]
            continue
        where = _where(item, panel, main, outside)
        if where is None:
            continue
        ident, out, port = where
        if item.mirrored:
            for side in items[ident]:
                side.append((out, mass / 2))
        else:
            items[ident][int(port)].append((out, mass))
    return tuple(Hanging(panel[s.id], _lesser(*items[s.id], lone=not s.mirrored)) for s in surfaces)


def _lesser(
    starboard: list[tuple[float, float]], port: list[tuple[float, float]], *, lone: bool
) -> tuple[tuple[float, float], ...]:
    """Return what hangs on the side that is relieved less; on a lone surface all of it."""
    if lone:
        return (*starboard, *port)
    return tuple(min(starboard, port, key=lambda side: sum(out * mass for out, mass in side)))


def _where(item: Item, known: dict[str, float], main: Surface | None, outside: float) -> tuple[str, float, bool] | None:
    """Return the surface an item pulls on, how far out, and whether to port; None where it pulls on none."""
    if item.on is not None and item.on.to in known:
        return item.on.to, item.on.out, item.on.port
    if main is None or not outside < abs(item.y) < main.stations[-1].y + main.y:
        return None
    return main.id, abs(item.y) - main.y, item.y < 0
