"""Rows of the margin that say which parts are on while the model is balanced or weighed, and which are not yet."""

from __future__ import annotations

from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store
from ridgeline.engine.advice.setup_list import absent_now

#: Items of at least this share of the weight can be said to be off.
_HEAVY = 0.03


def absent_rows(store: Store) -> tuple[Dimension, ...]:
    """Return a row for each part that may not be on yet: the heavy ones, the propellers, and those said to be off."""
    design, masses = store.design, store.report.results.masses
    off, total = absent_now(design), float(masses.items.mass.sum())
    found = []
    for item, mass in zip(design.parts, masses.items.mass, strict=True):
        if mass < _HEAVY * total and item.component != "propeller" and item.id not in off:
            continue

        def choose(value: str, ident: str = item.id) -> None:
            rest = tuple(one for one in absent_now(store.design) if one != ident)
            store.put("log_book.absent", (*rest, ident) if value == "off" else rest, "What is on while it is balanced")

        def read(ident: str = item.id) -> str:
            return "off" if ident in absent_now(store.design) else "on"

        found.append(Dimension(item.name, read=read, choose=choose, choices=(("on", "on"), ("off", "not yet"))))
    return tuple(found)
