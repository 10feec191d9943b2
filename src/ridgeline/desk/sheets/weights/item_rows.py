"""The dimensions of one item of the budget, and of several at once."""

from __future__ import annotations

from functools import partial

from ridgeline.design.carrying import carriers
from ridgeline.design.paths import REMOVE, Change, get
from ridgeline.desk.choice_rows import GROUPS, choice_row
from ridgeline.desk.dimensions import Dimension, Selection, name_row
from ridgeline.desk.hanging_rows import FREE, called, hang, hanging_rows, sides_row
from ridgeline.desk.part_edits import duplicate_item
from ridgeline.desk.recipe_rows import choose_material, followed_name, materials, recipe_rows
from ridgeline.desk.set_edits import flies_row
from ridgeline.desk.store import Store
from ridgeline.units import shown

SEVERAL = "several"
#: What is typed for several items at once: words and field.
_TOGETHER = (
    ("Weighed, each", "weighed"),
    ("Estimate, each", "estimate"),
    ("Pieces", "count"),
    ("Centre behind the datum", "x"),
    ("Centre out", "y"),
    ("Centre over the datum", "z"),
    ("Place known to, 1 sigma", "place_sigma"),
)


def item_selection(store: Store, index: int) -> Selection:
    """Return the dimensions of one item, and what can be done with it."""
    part, base = store.design.parts[index], f"parts[{index}]"
    rows = [name_row(base), Dimension("Weighed, each", f"{base}.weighed"), _estimate_row(store, index)]
    rows += recipe_rows(store, index)
    rows += [
        choice_row(store, "Counts to", f"{base}.group", GROUPS),
        Dimension("Pieces", f"{base}.count"),
        sides_row(store, index),
        *hanging_rows(store, index),
        Dimension("Centre behind the datum", f"{base}.x"),
        Dimension("Centre out" + (", each side" if part.mirrored else ""), f"{base}.y"),
        Dimension("Centre over the datum", f"{base}.z"),
        Dimension("Place known to, 1 sigma", f"{base}.place_sigma"),
        *flies_row(store, base),
    ]
    acts = (("Duplicate", partial(duplicate_item, store, index)), ("Remove", partial(remove_items, store, [index])))
    return Selection("item", tuple(rows), acts)


def _estimate_row(store: Store, index: int) -> Dimension:
    """Return the row of an item's estimate: typed, or what it comes to by the train or the geometry."""
    part = store.design.parts[index]
    if part.build is not None:
        words = f"Estimate, from {followed_name(store, index) or 'its extent'}"
    elif part.component is not None and part.estimate is None:
        words = "Estimate, from Power"
    else:
        return Dimension("Estimate, each", f"parts[{index}].estimate")

    def read() -> str:
        estimates = store.report.results.masses.items.estimate
        return shown(float(estimates[index]) / store.design.parts[index].count, "mass", store.units)

    return Dimension(words, read=read, unit=store.units["mass"].symbol)


def many_selection(store: Store, rows: list[int]) -> Selection:
    """Return what several items can be given at once; where they differ now, that is said."""
    found = carriers(store.design)
    hangs_on = (("", FREE), *((ident, called(carrier)) for ident, carrier in found.items()))
    shelf = materials()

    def carried() -> str:
        idents = {"" if (on := store.design.parts[k].on) is None else on.to for k in rows}
        return idents.pop() if len(idents) == 1 else SEVERAL

    def made() -> str:
        names = {"" if (build := store.design.parts[k].build) is None else build.material for k in rows}
        return (names.pop() or "as typed") if len(names) == 1 else SEVERAL

    def make_of(name: str) -> None:
        edits = [change for k in rows for change in choose_material(store, k, shelf.get(name))]
        store.edit(edits, f"{len(rows)} items of {name}")

    def hang_on(ident: str) -> None:
        words = f"{len(rows)} items on {dict(hangs_on)[ident]}"
        store.edit([change for k in rows for change in hang(store.design, k, ident)], words)

    dimensions = (
        Dimension(
            "Counts to",
            read=lambda: _common(store, rows, "group"),
            choices=GROUPS,
            choose=lambda group: _put_all(store, rows, "group", group, dict(GROUPS)[group]),
        ),
        Dimension("Made of", read=made, choices=tuple((name, name) for name in shelf), choose=make_of),
        Dimension("Hangs on", read=carried, choices=hangs_on, choose=hang_on),
        *(_together(store, rows, words, field) for words, field in _TOGETHER),
    )
    return Selection(f"{len(rows)} items", dimensions, (("Remove them", partial(remove_items, store, rows)),))


def _together(store: Store, rows: list[int], words: str, field: str) -> Dimension:
    """Return the row of one value typed for several items."""

    def changes(value: float) -> list[Change]:
        return [Change(f"parts[{k}].{field}", value) for k in rows]

    def varied() -> bool:
        return _common(store, rows, field) == SEVERAL

    return Dimension(words, f"parts[{rows[0]}].{field}", changes=changes, varied=varied)


def _common(store: Store, rows: list[int], field: str) -> str:
    """Return what a field is in all of some items, in words; that it differs where it does."""
    values = {str(get(store.design, f"parts[{k}].{field}")) for k in rows if k < len(store.design.parts)}
    return values.pop() if len(values) == 1 else SEVERAL


def _put_all(store: Store, rows: list[int], field: str, value: object, words: str) -> None:
    store.edit([Change(f"parts[{k}].{field}", value) for k in rows], f"{len(rows)} items: {words}")


def remove_items(store: Store, rows: list[int]) -> None:
    """Take items out as one step."""
    name = store.design.parts[rows[0]].name if len(rows) == 1 else f"{len(rows)} items"
    store.select("")
    store.edit([Change(f"parts[{k}]", REMOVE) for k in sorted(rows, reverse=True)], f"Remove {name}")
