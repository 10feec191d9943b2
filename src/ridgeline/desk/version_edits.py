"""Keeping versions and logging flights, from the menu, by words and from the sheets alike."""

from __future__ import annotations

from datetime import date

from ridgeline.design.keeping import flown, keep, next_flight
from ridgeline.desk.store import Store
from ridgeline.errors import DesignError


def today() -> str:
    """Return the day, as 2026-11-26, as it is written into a log."""
    return date.today().isoformat()


def keep_version(store: Store) -> bool:
    """Keep the aircraft as it stands as a version; False where it is kept already, which is said, or cannot be."""
    if not store.design.surfaces:
        store.noted.emit("There is no aircraft to keep yet.")
        return False
    try:
        design = keep(store.design, day=today())
    except DesignError as error:
        store.refused.emit(error)
        return False
    if design is store.design:
        store.noted.emit(f"Version {design.revision} is kept already: nothing of the aircraft changed since.")
        return False
    store.replace(design, f"Keep version {design.revision}")
    store.noted.emit(f"Kept as version {design.revision}. Its name is typed on the leaf Versions of the Flights.")
    return True


def log_flight(store: Store) -> bool:
    """Log a flight; the aircraft that flies it is kept as a version. False where that cannot be done."""
    if not store.design.surfaces:
        store.noted.emit("There is no aircraft to fly yet.")
        return False
    try:
        design = flown(store.design, next_flight(store.design), day=today())
    except DesignError as error:
        store.refused.emit(error)
        return False
    store.replace(design, f"Flight {len(design.flights)}")
    return True
