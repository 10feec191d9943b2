"""Taking the throws of another design from the window: which file, what was taken, and what could not be."""

from __future__ import annotations

from PySide6.QtWidgets import QFileDialog, QWidget

from ridgeline.desk.store import Store
from ridgeline.engine.advice.alike import throws_like
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load


def ask_throws(parent: QWidget, store: Store) -> None:
    """Ask for another design, and take its throws."""
    name, _kind = QFileDialog.getOpenFileName(parent, "Throws of another design", "", "Designs (*.ridge)")
    if name:
        take_throws(store, name)


def take_throws(store: Store, place: str) -> None:
    """Take the throws of the design at a place, as one edit, and say what came of it.

    Parameters
    ----------
    store : Store
    place : str
        A file, or a sample as ``demo:NAME``.
    """
    try:
        other = load(place)
    except DesignError as error:
        store.refused.emit(error)
        return
    found = throws_like(store.design, store.report.results.linking, other, evaluate(other).results.linking)
    if not found.rows:
        store.noted.emit(f"{other.name} has none of these controls")
        return
    store.edit(found.changes, f"The throws of {other.name}")
    short = [row.control.kind for row in found.rows if not row.reached]
    told = f"The throws of {other.name}"
    if short:
        told += f"; no hole here reaches those of its {', '.join(short)}"
    if found.missing:
        told += f"; it has no {', '.join(found.missing)}"
    store.noted.emit(told)
