"""Sets in the window: where a part flies, as a row of its dimensions; making, fitting, renaming and dropping sets."""

from __future__ import annotations

from collections.abc import Callable

from ridgeline.design import configurations
from ridgeline.design.document import Design
from ridgeline.design.paths import get
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store
from ridgeline.errors import DesignError

_WAYS: dict[str, tuple[str, Callable[[Design, str], Design]]] = {
    "own": ("its own version here", configurations.own_version),
    "only": ("this set alone", configurations.only_here),
    "not": ("not in this set", configurations.not_here),
    "all": ("every set", configurations.everywhere),
}


def flies_row(store: Store, path: str) -> tuple[Dimension, ...]:
    """Return the row that says in which sets a part flies, and lets that be chosen; none without sets."""
    if not store.design.configurations:
        return ()

    def read() -> str:
        try:
            part = get(store.design, path)
        except DesignError:
            return ""
        return configurations.flies_in(store.design, part)

    def choose(way: str) -> None:
        words, do = _WAYS[way]
        change(store, lambda design: do(design, path), f"Flies in {words}")

    choices = tuple((key, words[0].upper() + words[1:]) for key, (words, _do) in _WAYS.items())
    return (Dimension("Flies in", read=read, choices=choices, choose=choose),)


def change(store: Store, do: Callable[[Design], Design], label: str) -> bool:
    """Put another arrangement of sets in place as one undoable step; a refused one is said."""
    try:
        fresh = do(store.design)
    except DesignError as error:
        store.refused.emit(error)
        return False
    if fresh is not store.design:
        store.replace(fresh, label)
    return True


def fit_set(store: Store, ident: str) -> bool:
    """Fit a set."""
    name = configurations.name_of(store.design, ident)
    return change(store, lambda design: configurations.fit(design, ident), f"Fit {name}")


def add_set(store: Store) -> bool:
    """Make a set like the fitted one, under a name to be changed where it stands, and fit it."""
    taken = (*(one.name for one in store.design.configurations), configurations.FIRST)
    number = next(n for n in range(2, len(taken) + 3) if f"Set {n}" not in taken)
    return change(store, lambda design: configurations.add(design, f"Set {number}"), "Make another set")
