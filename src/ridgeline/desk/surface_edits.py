"""Edits of whole surfaces: duplicate, remove, one side or both. Offered in the Edit menu for the selected surface."""

from __future__ import annotations

import math

from ridgeline.design.airframe import ControlKind, ControlSurface, Role, Seat, Station, Surface
from ridgeline.design.kinds import KIND_OF, duplicate
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.store import Store
from ridgeline.engine.sizing.offers import added


def chosen_surface(store: Store) -> int | None:
    """Return the index of the selected surface; the first wing when none is; None without surfaces."""
    spot = store.spot("surface", "control")
    if spot is not None:
        return spot.index
    surfaces = store.design.surfaces
    return next((i for i, s in enumerate(surfaces) if s.role == "wing"), 0) if surfaces else None


def duplicate_surface(store: Store) -> None:
    """Add a copy of the selected surface, half a chord above it, and select that."""
    index = chosen_surface(store)
    if index is None:
        return
    surface = store.design.surfaces[index]
    up = round(surface.z + 0.5 * surface.stations[0].chord, 4)
    copy = duplicate(surface, KIND_OF["surfaces"], name=f"{surface.name}, second", z=up)
    edits = (Change("surfaces[-]", copy),) if copy.built is None else added(store.design, "surfaces", copy)
    if store.edit(edits, f"Duplicate {surface.name}"):
        store.select(f"surfaces[{len(store.design.surfaces) - 1}].stations[{len(copy.stations) - 1}]")


def remove_surface(store: Store) -> None:
    """Remove the selected surface, and what is built of it; what was bolted to it stays, loose."""
    index = chosen_surface(store)
    if index is None:
        return
    remove_part(store, f"surfaces[{index}]", store.design.surfaces[index].name, ", and what was built of it")


def remove_part(store: Store, path: str, name: str, more: str = "") -> None:
    """Take what stands at a path out, and name what hung on it and lies loose now."""
    store.select("")
    store.edit([Change(path, REMOVE)], f"Remove {name}")
    left = [part.name for part in store.design.parts if part.loose == name]
    words = f" Loose now: {', '.join(left[:3])}{' and more' if len(left) > 3 else ''}." if left else ""
    store.noted.emit(f"{name} is gone{more}.{words}")


def turn_sides(store: Store) -> None:
    """Make the selected surface stand on both sides, or on one."""
    index = chosen_surface(store)
    if index is None:
        return
    surface = store.design.surfaces[index]
    words = "one side" if surface.mirrored else "both sides"
    store.put(f"surfaces[{index}].mirrored", not surface.mirrored, f"{surface.name} on {words}")


#: A first seat: how far it reaches fore and aft over the root chord, its holes m apart, and its settings, rad.
_SEAT_REACH, _SEAT_STEP, _SEAT_ANGLES, _SEAT_ANGLE = 0.3, 0.01, math.radians(5), math.radians(1)


def turn_seat(store: Store, index: int) -> None:
    """Give a surface a seat with a grid of holes and settings about where it is, or take its seat away."""
    surface = store.design.surfaces[index]
    path = f"surfaces[{index}].seat"
    if surface.seat is not None:
        store.put(path, None, f"{surface.name} fixed")
        return
    reach = math.ceil(_SEAT_REACH * surface.stations[0].chord / _SEAT_STEP) * _SEAT_STEP
    made = Seat(
        front=round(surface.x - reach, 4),
        back=round(surface.x + reach, 4),
        step=_SEAT_STEP,
        low=max(surface.incidence - _SEAT_ANGLES, -math.pi / 4),
        high=min(surface.incidence + _SEAT_ANGLES, math.pi / 4),
        angle_step=_SEAT_ANGLE,
    )
    if store.put(path, made, f"{surface.name} on a seat"):
        store.noted.emit("Its places are levers on Balance, its settings ways out on Shape; type its ends here.")


def _new_surface(store: Store, role: Role) -> Surface:
    """Return a plain surface of a role, sized and placed from the wing there is."""
    wings = [s for s in store.design.surfaces if s.role == "wing"]
    wing = max(wings, key=lambda s: s.stations[-1].y, default=None)
    half = wing.stations[-1].y if wing else 0.6
    chord = wing.stations[0].chord if wing else 0.2
    x, z = (wing.x, wing.z) if wing else (0.2, 0.0)
    words = {"wing": "Wing", "stabiliser": "Stabiliser", "v_tail": "V-tail", "fin": "Fin", "foreplane": "Foreplane"}
    number = sum(s.role == role for s in store.design.surfaces)
    name = words[role] if number == 0 else f"{words[role]} {number + 1}"
    if role == "wing":
        stations = (Station(y=0.0, chord=chord), Station(y=half, chord=0.8 * chord, x=0.05 * chord))
        section = wing.section if wing else "flat_bottom"
        if section == "profile":
            section = "flat_bottom"
        up = z + chord if wing else 0.0
        return Surface(name=name, role=role, x=x, z=up, section=section, thickness=0.09 * chord, stations=stations)
    span, root = {"stabiliser": (0.36, 0.62), "v_tail": (0.4, 0.6), "fin": (0.24, 0.65), "foreplane": (0.38, 0.5)}[role]
    tip = 0.7 * root * chord
    reach = span * half
    behind = x + 3.2 * chord if role != "foreplane" else max(x - 1.8 * chord, 0.0)
    kind: ControlKind = {"fin": "rudder", "v_tail": "ruddervator"}.get(role, "elevator")  # type: ignore[assignment]
    return Surface(
        name=name,
        role=role,
        mirrored=role != "fin",
        x=round(behind, 4),
        z=round(z, 4),
        cant={"fin": math.pi / 2, "v_tail": math.radians(38)}.get(role, 0.0),
        section="rounded_plate",
        thickness=0.005,
        stations=(
            Station(y=0.0, chord=round(root * chord, 4)),
            Station(y=round(reach, 4), chord=round(tip, 4), x=round(0.2 * root * chord, 4)),
        ),
        controls=(ControlSurface(kind=kind, start=0.0, end=round(reach, 4), chord_fraction=0.35),),
    )


def add_surface(store: Store, role: Role) -> None:
    """Add a plain surface of a role and select its tip."""
    made = _new_surface(store, role)
    if store.edit(added(store.design, "surfaces", made), f"Add {made.name}"):
        store.select(f"surfaces[{len(store.design.surfaces) - 1}].stations[{len(made.stations) - 1}]")


ADDED_SURFACES: tuple[tuple[str, Role], ...] = (
    ("Wing", "wing"),
    ("Stabiliser", "stabiliser"),
    ("V-tail", "v_tail"),
    ("Fin", "fin"),
    ("Foreplane", "foreplane"),
)


SURFACE_EDITS = (
    ("Duplicate the surface", duplicate_surface),
    ("Remove the surface", remove_surface),
    ("Surface on one side or both", turn_sides),
)
