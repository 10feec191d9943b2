"""Edits of whole surfaces: duplicate, remove, one side or both. Offered in the Edit menu for the selected surface."""

from __future__ import annotations

from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.store import Store


def chosen_surface(store: Store) -> int | None:
    """Return the index of the selected surface; the first when none is; None without surfaces."""
    count = len(store.design.surfaces)
    text = store.selection
    if text.startswith("surfaces["):
        index = int(text[len("surfaces[") :].partition("]")[0])
        if index < count:
            return index
    return 0 if count else None


def duplicate_surface(store: Store) -> None:
    """Add a copy of the selected surface, half a chord above it, and select that."""
    index = chosen_surface(store)
    if index is None:
        return
    surface = store.design.surfaces[index]
    copy = surface.model_copy(
        update={"name": f"{surface.name}, second", "z": round(surface.z + 0.5 * surface.stations[0].chord, 4)}
    )
    if store.edit([Change("surfaces[-]", copy)], f"Duplicate {surface.name}"):
        store.select(f"surfaces[{len(store.design.surfaces) - 1}].stations[{len(copy.stations) - 1}]")


def remove_surface(store: Store) -> None:
    """Remove the selected surface; its masses stay in the table of items."""
    index = chosen_surface(store)
    if index is None:
        return
    name = store.design.surfaces[index].name
    store.select("")
    store.edit([Change(f"surfaces[{index}]", REMOVE)], f"Remove {name}")
    store.noted.emit(f"{name} is gone from the shape; what it weighed still stands under Weights.")


def turn_sides(store: Store) -> None:
    """Make the selected surface stand on both sides, or on one."""
    index = chosen_surface(store)
    if index is None:
        return
    surface = store.design.surfaces[index]
    words = "one side" if surface.mirrored else "both sides"
    store.put(f"surfaces[{index}].mirrored", not surface.mirrored, f"{surface.name} on {words}")


SURFACE_EDITS = (
    ("Duplicate the surface", duplicate_surface),
    ("Remove the surface", remove_surface),
    ("Surface on one side or both", turn_sides),
)
