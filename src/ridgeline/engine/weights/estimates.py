"""Masses from the geometry: true areas, shells, edges and lengths times what the material weighs."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType
from typing import Any, NamedTuple, TypeVar

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.build import Build
from ridgeline.engine.build.cut_up import Rooms
from ridgeline.engine.build.hulls import pieces_of_body
from ridgeline.engine.build.panels import pieces_of_surface
from ridgeline.engine.build.pieces import PEELED, Group, grouped, moved, shell_mass, together
from ridgeline.engine.build.seats import Seat, Seats
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.kept import kept

Part = TypeVar("Part", Surface, Body)
_NONE: Mapping[str, Group] = MappingProxyType({})
#: The extent that stands for every part together: only the groups of its pieces are read.
WHOLE = ""


class Extent(NamedTuple):
    """What a surface or body offers to build on, all sides together.

    ``area`` m² of one face (true, unfolded), ``skin`` m² all round, ``volume`` m³, ``length`` m tip to tip or nose to
    tail, ``edges`` m round the outline of one face; ``size`` m along x, y and z, for the inertia; ``groups`` of its
    pieces by name, where it says how it is built.
    """

    area: float
    skin: float
    volume: float
    length: float
    edges: float
    size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    groups: Mapping[str, Group] = _NONE


#: What places a part, and nothing of what it is made of.
_PLACES: dict[str, Any] = {"x": 0.0, "y": 0.0, "z": 0.0, "name": "-", "sets": ()}


def _bare(part: Part) -> Part:
    """Return a part at the origin: pieces are the same wherever it stands."""
    return part.model_copy(update=_PLACES)


@lru_cache(maxsize=256)
def _surface_groups(bare: Surface, seats: tuple[Seat, ...], rooms: Rooms) -> dict[str, Group]:
    return grouped(pieces_of_surface(bare, seats, rooms))


@lru_cache(maxsize=128)
def _body_groups(bare: Body, rooms: Rooms) -> dict[str, Group]:
    return grouped(pieces_of_body(bare, rooms))


def _moved(groups: dict[str, Group], part: Surface | Body) -> dict[str, Group]:
    return {name: moved(group, part.x, part.y, part.z) for name, group in groups.items()}


@kept()
def surface_extent(surface: Surface, seats: tuple[Seat, ...] = (), rooms: Rooms = ()) -> Extent:
    """Measure a surface for its build: its outline's true length round the section gives the skin.

    Parameters
    ----------
    surface : Surface
    seats : tuple of Seat
        Of the servos that sit in it.
    rooms : tuple of Room
        Of the sheets on hand: splices of what none of them takes weigh in.

    Returns
    -------
    Extent
        All sides together.

    Source
    ------
    docs/theory.md §5: skin = true area × girth of the section over its chord; volume by the section's area.
    """
    measured = measure_surface(surface)
    x, z = outline_over_chord(surface).T
    girth = float(np.sum(np.hypot(np.diff(x), np.diff(z)))) + float(np.hypot(x[0] - x[-1], z[0] - z[-1]))
    inside = 0.5 * abs(float(np.dot(x, np.roll(z, 1)) - np.dot(z, np.roll(x, 1))))
    y = np.array([s.y for s in surface.stations])
    lift = np.array([s.z for s in surface.stations])
    chord = np.array([s.chord for s in surface.stations])
    lead = np.array([s.x for s in surface.stations])
    steps = np.hypot(np.diff(y), np.diff(lift))
    front = float(np.sum(np.hypot(steps, np.diff(lead))))
    back = float(np.sum(np.hypot(steps, np.diff(lead + chord))))
    squares = float(np.sum(steps * (chord[1:] ** 2 + chord[1:] * chord[:-1] + chord[:-1] ** 2) / 3))
    sides = measured.sides
    out = sides * float(np.sum(steps))
    size = (
        measured.true_area / max(out, 1e-9),
        out * float(np.cos(surface.cant)),
        out / sides * abs(float(np.sin(surface.cant))),
    )
    return Extent(
        measured.true_area,
        measured.true_area * girth,
        sides * squares * inside,
        out,
        sides * (front + back + float(chord[0] + chord[-1])),
        size,
        _moved(_surface_groups(_bare(surface), seats, rooms), surface),
    )


@kept()
def body_extent(body: Body, rooms: Rooms = ()) -> Extent:
    """Measure a body for its build; its area is half its skin, its edges four long corners.

    Parameters
    ----------
    body : Body
    rooms : tuple of Room
        Of the sheets on hand.

    Returns
    -------
    Extent
        All of a pair together.
    """
    found = measure_body(body)
    copies = 2 if body.mirrored else 1
    size = (found.length, max(s.width for s in body.stations), max(s.height for s in body.stations))
    return Extent(
        0.5 * found.wetted,
        found.wetted,
        found.volume,
        copies * found.length,
        4 * copies * found.length,
        size,
        _moved(_body_groups(_bare(body), rooms), body),
    )


def extents_of(
    surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], seats: Seats = (), rooms: Rooms = ()
) -> dict[str, Extent]:
    """Return the extent of every surface and body by its id, and under `WHOLE` the groups of all their pieces."""
    sitting = dict(seats)
    found = {s.id: surface_extent(s, sitting.get(s.id, ()), rooms) for s in surfaces}
    found |= {b.id: body_extent(b, rooms) for b in bodies}
    names = dict.fromkeys(name for extent in found.values() for name in extent.groups)
    groups = {name: together(e.groups[name] for e in found.values() if name in e.groups) for name in names}
    return found | {WHOLE: Extent(0.0, 0.0, 0.0, 0.0, 0.0, groups=groups)}


def group_of(build: Build, extents: Mapping[str, Extent]) -> Group | None:
    """Return the pieces an item stands for; None for other recipes, and where there are none.

    Parameters
    ----------
    build : Build
        A recipe.
    extents : mapping
        Of surfaces and bodies by id.

    Returns
    -------
    Group or None
    """
    extent = extents.get(build.of) if build.kind == "pieces" else None
    return None if extent is None else extent.groups.get(build.pieces)


def mass_of(build: Build, extents: dict[str, Extent]) -> float | None:
    """Return the mass a recipe comes to, all pieces together, kg; None when what it follows is not there.

    Parameters
    ----------
    build : Build
        A recipe.
    extents : dict
        Of surfaces and bodies by id.

    Returns
    -------
    float or None
        Of all pieces, kg.

    Source
    ------
    Sheet and covering: area × layers × mass per area. Print: skin × wall × density × (1 + ribs) + infill × inside ×
    density. Stock, glue and tape: length × mass per length. Pieces: their sum. docs/theory.md §5.
    """
    if build.kind == "pieces":
        group = group_of(build, extents)
        return None if group is None else group.mass * build.share
    extent = extents.get(build.of) if build.of else None
    if build.of and extent is None:
        return None
    own = build.extent
    if build.kind == "sheet":
        area = extent.area if extent else own
        return area * build.layers * build.areal * PEELED[build.peeled] * build.share
    if build.kind == "covering":
        area = extent.skin if extent else own
        return area * build.layers * build.areal * build.share
    if build.kind == "length":
        length = extent.length if extent else own
        return length * build.layers * build.linear * build.share
    skin, inside = (extent.skin, extent.volume) if extent else (own, 0.0)
    return build.share * shell_mass(build, skin, inside)
