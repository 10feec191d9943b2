"""Items picked from the library and the bin wherever one is added: servos, radio, packs, spars, wheels, fittings."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from PySide6.QtWidgets import QMenu, QWidget

from ridgeline.design.build import Build
from ridgeline.design.parts import Group, Item, Servo, Size
from ridgeline.design.paths import Change
from ridgeline.design.shelf import Fitting, Material
from ridgeline.desk.store import Store
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.sizing.additions import called
from ridgeline.files.own_bin import load_bin, parts_on_hand
from ridgeline.units import with_unit

#: The kinds of fittings in the menu, with their words.
_FITTINGS = (
    ("receiver", "Receiver"),
    ("wheel", "Wheel"),
    ("horn", "Control horn"),
    ("linkage", "Linkage"),
    ("hinge", "Hinge"),
    ("gear", "Skid, hook"),
    ("fastener", "Fastener"),
    ("payload", "Payload"),
)
#: A spar is first taken so long, m, where nothing says how long it is.
_SPAR = 0.5


class Picked(NamedTuple):
    """One thing to pick: its words in the menu, and the item it makes, without a place."""

    words: str
    item: Item


class Shelf(NamedTuple):
    """One kind of thing to pick from."""

    words: str
    picks: tuple[Picked, ...]


def shelves(store: Store) -> Iterator[Shelf]:
    """Yield what items can be picked from, kind by kind; the bin's own first."""
    shelf = parts_on_hand()
    own, _report = load_bin()
    units = store.units

    def pick(name: str, mass: float, group: Group, *, own: bool = False, **more: object) -> Picked:
        where = " (bin)" if own else ""
        item = Item(name=name, group=group, estimate=mass, **more)
        return Picked(f"{name}, {with_unit(mass, 'mass', units)}{where}", item)

    yield Shelf("Servo", tuple(_servo(servo) for servo in shelf.servos))
    for kind, words in _FITTINGS:
        yield Shelf(words, tuple(_fitting(one, pick) for one in shelf.fittings if one.kind == kind))
    packs = tuple(pick(f"Pack {pack.name}", mass_of(pack), "battery", own=pack in own.packs) for pack in shelf.packs)
    yield Shelf("Pack, beside the power train's", packs)
    yield Shelf("ESC or supply", tuple(pick(esc.name, esc.mass, "power", own=esc in own.escs) for esc in shelf.escs))
    stock = (m for m in shelf.materials if m.kind == "length" and m.thickness > 0)
    yield Shelf("Spar, rod or tube", tuple(_spar(material) for material in stock))


def _servo(servo: Servo) -> Picked:
    return Picked(servo.name, Item(name=servo.name, group="radio", servo=servo))


def _fitting(one: Fitting, pick: Callable[..., Picked]) -> Picked:
    size = Size(length=one.length, width=one.width, height=one.height)
    return pick(one.name, one.mass, one.group, size=size)


def _spar(material: Material) -> Picked:
    build = Build(kind="length", material=material.name, linear=material.constant, extent=_SPAR)
    return Picked(material.name, Item(name=material.name, group="structure", basis="stock", build=build))


def add_picked(store: Store, item: Item) -> bool:
    """Add a picked item at the balance point, hung on nothing yet, and select it."""
    state = store.report.results.masses.state
    x, z = (float(state.cg[0]), float(state.cg[2])) if state is not None else (0.2, 0.0)
    name = called(item.name, [p.name for p in store.design.parts])
    made = item.model_copy(update={"name": name, "x": round(x, 3), "z": round(z, 3)})
    if not store.edit([Change("parts[-]", made)], f"Add {name}"):
        return False
    store.select(f"parts[{len(store.design.parts) - 1}]")
    return True


def picking_menu(parent: QWidget, store: Store, plain: Callable[[], object], done: Callable[[], object]) -> QMenu:
    """Return the menu of what can be added: a plain item, or one of the library or the bin."""
    menu = QMenu(parent)
    menu.addAction("A plain item, named and weighed by hand").triggered.connect(lambda _=False: plain())
    menu.addSeparator()
    for shelf in shelves(store):
        inner = menu.addMenu(shelf.words)
        for picked in shelf.picks:
            inner.addAction(picked.words).triggered.connect(
                lambda _=False, item=picked.item: add_picked(store, item) and done()
            )
    return menu
