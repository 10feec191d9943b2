"""Writing a design out from the window: one way for every row of the exports, from the menu and from the sheets."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QWidget

from ridgeline.desk.filing import ask_place, sure_of
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import chosen_surface
from ridgeline.errors import DesignError
from ridgeline.files.exports import EXPORT, Source, write_export
from ridgeline.files.names import named


def source_of(store: Store) -> Source:
    """Return what is exported now: the design on the desk, and the surface selected on it."""
    index = chosen_surface(store)
    surface = None if index is None else store.design.surfaces[index]
    return Source(store.design, lambda: store.report, surface)


def ask_export(parent: QWidget, store: Store, key: str) -> None:
    """Ask where to write an export, and write it; over a file that is there only once that is said."""
    export = EXPORT[key]
    name = ask_place(parent, f"Write: {export.words.lower()}", export.start(source_of(store)), export.kinds)
    if name:
        place = named(name, *export.suffixes)
        sure_of(place, store, lambda: write(store, key, place), lambda: ask_export(parent, store, key))


def write(store: Store, key: str, place: str | Path) -> None:
    """Write an export, and say so or why not."""
    try:
        path = write_export(EXPORT[key], place, source_of(store))
    except DesignError as error:
        store.refused.emit(error)
        return
    store.noted.emit(f"Wrote {path.name}")
