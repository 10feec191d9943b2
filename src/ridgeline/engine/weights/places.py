"""Where an item may lie: it snaps to its neighbours and the centre line, and keeps out of another's bay."""

from __future__ import annotations

from collections.abc import Iterable
from operator import attrgetter
from typing import NamedTuple

import numpy as np

from ridgeline.design.parts import Item
from ridgeline.engine.weights.items import kinds_of

#: Height of a bay that was not measured, and how close to the centre line an item counts as in the body, m.
_BAY_HEIGHT, _BAY_WIDTH = 0.03, 0.05
#: A lone item this near the centre line snaps to it, m.
CENTRE_SNAP = 0.006


class Place(NamedTuple):
    """A settled place, m, and what settled it ('' for nothing)."""

    x: float
    y: float
    z: float
    why: str = ""


def settle(
    parts: tuple[Item, ...], index: int, x: float, y: float, z: float, reach: float, axes: Iterable[str] = "xyz"
) -> Place:
    """Return where an item comes to lie when it is put at a place.

    Parameters
    ----------
    parts : tuple of Item
    index : int
        The item that is moved.
    x, y, z : float
        Where it is put, m.
    reach : float
        How near it must come to snap, m.
    axes : iterable of str
        Axes along which it is being moved; the others are left as they are.
    """
    part, why, moving = parts[index], "", set(axes)
    if part.rail is not None:
        half = 0.5 * part.rail.item_length
        low, high = part.rail.front + half, part.rail.back - half
        if not low <= x <= high:
            x, why = min(max(x, low), high), "the end of its bay"
    elif "x" in moving:
        x, why = _snap(x, parts, index, "x", reach, "in line with ")
    if "z" in moving and part.rail is None:
        z, lined = _snap(z, parts, index, "z", reach, "level with ")
        why = why or lined
    if "y" in moving and abs(y) < CENTRE_SNAP and not part.mirrored:
        y, why = 0.0, why or "on the centre line"
    if part.rail is None:
        clear = _out_of_bays(parts, index, x, y, z)
        if clear is not None:
            return clear
    return Place(x, y, z, why)


def _snap(value: float, parts: tuple[Item, ...], index: int, axis: str, reach: float, words: str) -> tuple[float, str]:
    """Return the nearest place of another item along an axis, when it is within reach, and whose it is."""
    places = np.fromiter(map(attrgetter(axis), parts), float, len(parts))
    away = np.abs(places - value)
    away[index] = np.inf
    nearest = int(np.argmin(away))
    if away[nearest] > reach:
        return value, ""
    return float(places[nearest]), words + parts[nearest].name


def _out_of_bays(parts: tuple[Item, ...], index: int, x: float, y: float, z: float) -> Place | None:
    """Push an item out of another's bay, to the nearer end; None when it is in none."""
    for other_index in kinds_of(parts).railed:
        other = parts[other_index]
        rail = other.rail
        if rail is None or other_index == index:
            continue
        high, wide = rail.height or _BAY_HEIGHT, rail.width or _BAY_WIDTH
        inside = rail.front < x < rail.back and abs(z - other.z) < high / 2 and abs(abs(y) - abs(other.y)) < wide / 2
        if inside:
            end = rail.front if x - rail.front < rail.back - x else rail.back
            return Place(end, y, z, f"the bay of {other.name} is kept clear")
    return None
