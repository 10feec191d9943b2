"""Items in and out of the window: tables from files, cells to and from a spreadsheet."""

from __future__ import annotations

from PySide6.QtGui import QGuiApplication

from ridgeline.design.parts import Item
from ridgeline.design.paths import Change
from ridgeline.desk.store import Store
from ridgeline.errors import DesignError
from ridgeline.files.item_file import ItemsRead, items_from_text, items_text, read_items


def read_table(store: Store, place: str) -> None:
    """Add the items of a table as one step, and say what was left out."""
    try:
        found = read_items(place)
    except DesignError as error:
        store.refused.emit(error)
        return
    _take_in(store, found)


def _take_in(store: Store, found: ItemsRead) -> None:
    changes = [Change("parts[-]", _in_sets(store, item)) for item in found.items]
    if changes and not store.edit(changes, f"Add {len(changes)} items"):
        return
    told = f"{len(changes)} items added" if changes else "No item was added"
    store.noted.emit(f"{told}{': ' if found.report else '.'}{'; '.join(found.report)}")


def _in_sets(store: Store, item: Item) -> Item:
    """Return an item of a table with the ids of its sets, where it says their names."""
    known = {one.name: one.id for one in store.design.configurations}
    sets = tuple(known.get(said, said) for said in item.sets)
    return item if sets == item.sets else item.model_copy(update={"sets": sets})


def copy_items(store: Store, rows: list[int]) -> None:
    """Copy some items, or all when none is given, as cells a spreadsheet takes."""
    parts = store.design.parts
    chosen = tuple(parts[row] for row in rows if row < len(parts)) or parts
    QGuiApplication.clipboard().setText(items_text(chosen, mark="\t"))
    store.noted.emit(f"{len(chosen)} item{'s' if len(chosen) != 1 else ''} copied.")


def paste_items(store: Store) -> None:
    """Add items from cells copied in a spreadsheet, header and all."""
    try:
        found = items_from_text(QGuiApplication.clipboard().text(), "clipboard")
    except DesignError as error:
        store.refused.emit(error)
        return
    _take_in(store, found)
