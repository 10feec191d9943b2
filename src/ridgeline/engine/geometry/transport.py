"""What an airframe comes apart into for transport, and whether each piece goes into a box."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Joint, Station, Surface
from ridgeline.engine.geometry.placed import placed_at

Array = NDArray[np.float64]
Part = Surface | Body


class Load(NamedTuple):
    """One piece as it is carried: what it is, the part it is of (by path; "" for the rest), and its sides, m, (3,)."""

    name: str
    path: str
    sides: tuple[float, float, float]
    pieces: int = 1

    def fits(self, box: tuple[float, float, float]) -> bool:
        """Tell whether it goes into a box square to its sides."""
        return all(a <= b + 1e-9 for a, b in zip(sorted(self.sides), sorted(box), strict=True))


def _reach(points: Array) -> tuple[float, float, float]:
    low, high = points.min(axis=0), points.max(axis=0)
    length, width, height = (float(v) for v in high - low)
    return length, width, height


def _of_surface(surface: Surface) -> Array:
    """Return the corners of a surface's starboard side, (n, 3) m, half its thickness over and under."""
    here = placed_at(surface, [s.y for s in surface.stations])
    edges = np.vstack([here.leading, here.trailing])
    thick = np.array([0.0, 0.0, 0.5 * surface.thickness])
    return np.vstack([edges + thick, edges - thick])


def _panels(surface: Surface) -> Iterator[tuple[str, tuple[float, float, float], int]]:
    """Yield the panels a surface comes apart into: name, sides laid flat, and how many there are alike."""
    count = 2 if surface.mirrored else 1
    stations: tuple[Station, ...] = surface.stations
    for number, (inner, outer) in enumerate(pairwise(stations), start=1):
        long = float(np.hypot(outer.y - inner.y, outer.z - inner.z))
        deep = max(inner.x + inner.chord, outer.x + outer.chord) - min(inner.x, outer.x)
        yield f"{surface.name}, panel {number}", (long, deep, surface.thickness), count


def _of_body(body: Body) -> Array:
    rows = [(s.x, y, s.z + z) for s in body.sections for y, z in _corners(s.width, s.height)]
    points: Array = np.array(rows) + np.array([0.0, body.y, 0.0])
    return points


def _corners(width: float, height: float) -> list[tuple[float, float]]:
    return [(a * width / 2, b * height / 2) for a in (-1, 1) for b in (-1, 1)]


def loads_of(parts: Mapping[str, Part]) -> tuple[Load, ...]:
    """Return what an airframe is carried as: the rest that stays together first, then what comes off.

    Parameters
    ----------
    parts : mapping of str to Surface or Body
        By path.

    Returns
    -------
    tuple of Load
        Without propellers, which come off anyway.
    """
    rest: dict[str, Array] = {}
    loads: list[Load] = []
    for path, part in parts.items():
        points = _of_surface(part) if isinstance(part, Surface) else _of_body(part)
        both = np.vstack([points, points * np.array([1.0, -1.0, 1.0])]) if part.mirrored else points
        if part.joint == "fixed":
            rest[path] = both
        else:
            loads += _apart(part, path, points, both)
    if rest:
        only = next(iter(rest)) if len(rest) == 1 else ""
        name = parts[only].name if only else "what stays together"
        loads.insert(0, Load(name, only, _reach(np.vstack(list(rest.values())))))
    return tuple(loads)


def _apart(part: Part, path: str, points: Array, both: Array) -> list[Load]:
    """Return the pieces a part that comes off is carried as."""
    sides = 2 if part.mirrored else 1
    if part.joint == "panels" and isinstance(part, Surface):
        return [Load(name, path, size, count) for name, size, count in _panels(part)]
    if part.joint == "off":
        return [Load(part.name, path, _reach(both))]
    if isinstance(part, Surface):
        return [Load(f"{part.name}, a half" if sides == 2 else part.name, path, _reach(points), sides)]
    x = points[:, 0]
    middle = 0.5 * (x.min() + x.max())
    _long, wide, high = _reach(points)
    return [Load(f"{part.name}, a half", path, (float(max(middle - x.min(), x.max() - middle)), wide, high), 2 * sides)]


def joints_for(part: Part) -> tuple[Joint, ...]:
    """Return the joints that a part can have, from the plainest on.

    Parameters
    ----------
    part : Surface or Body

    Returns
    -------
    tuple of str
    """
    if isinstance(part, Body):
        return "fixed", "off", "halves"
    found: list[Joint] = ["fixed", "off"]
    if part.mirrored:
        found.append("halves")
    if len(part.stations) > 2:
        found.append("panels")
    return tuple(found)
