"""Edits of bodies, wheels and power train as wholes: add, duplicate, remove. Offered in the Edit menu and by Ctrl+K."""

from __future__ import annotations

from collections.abc import Callable

from ridgeline.design.kinds import KIND_OF, duplicate
from ridgeline.design.paths import REMOVE, Change, get
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import remove_part
from ridgeline.engine.sizing.additions import BodyKind, called, first_train, fresh_body, fresh_wheels
from ridgeline.engine.sizing.offers import added
from ridgeline.files.own_bin import load_bin
from ridgeline.library import shipped_shelf

#: A duplicate stands aside by so many widths of a body, or behind by so many diameters of a wheel.
_ASIDE, _BEHIND = 1.5, 2.0


def add_body(store: Store, kind: BodyKind) -> None:
    """Add a plain body of a kind with its pieces, and select its nose."""
    made = fresh_body(store.design, kind)
    if store.edit(added(store.design, "bodies", made), f"Add {made.name}"):
        store.select(f"bodies[{len(store.design.bodies) - 1}].stations[0]")


def add_wheels(store: Store, *, tail: bool = False) -> None:
    """Add main wheels, or a wheel under the tail, with what their legs weigh, and select them."""
    made, legs = fresh_wheels(store.design, store.report.value("mass.auw"), tail=tail)
    if store.edit((Change("wheels[-]", made), Change("parts[-]", legs)), f"Add {made.name.lower()}"):
        store.select(f"wheels[{len(store.design.wheels) - 1}]")


def add_power(store: Store) -> None:
    """Give a design without a motor its first power train, from library and bin, with all its parts aboard."""
    if store.design.power is not None:
        store.noted.emit("There is a power train already: change it on Power.")
        return
    if not store.design.bodies:
        store.noted.emit("A motor needs a body to stand on: Edit, Add a part, Fuselage.")
        return
    own, _report = load_bin()
    found = first_train(store.design, own.before(shipped_shelf()), store.report.value("mass.auw"))
    if found is None:
        store.noted.emit("There is nothing on the shelf to drive it.")
        return
    train, items = found
    changes = (Change("power", train), *(Change("parts[-]", item) for item in items))
    if store.edit(changes, "Add a power train"):
        store.noted.emit(f"{train.motor.name}, {train.propeller.name}, {train.pack.name}: change them on Power.")


def remove_power(store: Store) -> None:
    """Take the power train out, and the parts aboard that are of it."""
    if store.design.power is None:
        store.noted.emit("There is no power train to take out.")
        return
    of_it = [k for k, part in enumerate(store.design.parts) if part.component is not None]
    changes = [Change(f"parts[{k}]", REMOVE) for k in reversed(of_it)]
    store.select("")
    store.edit([*changes, Change("power", None)], "Take the power train out")


def duplicate_selected(store: Store) -> None:
    """Add a copy of the selected body or wheel beside it, and select that."""
    body, wheel = store.spot("body"), store.spot("wheel")
    if body is not None:
        part = store.design.bodies[body.index]
        aside = round(part.y + _ASIDE * max(s.width for s in part.stations), 4)
        name = called(part.name, [b.name for b in store.design.bodies])
        copy = duplicate(part, KIND_OF["bodies"], name=name, y=aside)
        edits = (Change("bodies[-]", copy),) if copy.built is None else added(store.design, "bodies", copy)
        if store.edit(edits, f"Duplicate {part.name}"):
            store.select(f"bodies[{len(store.design.bodies) - 1}].stations[0]")
    elif wheel is not None:
        one = store.design.wheels[wheel.index]
        name = called(one.name, [w.name for w in store.design.wheels])
        made = duplicate(one, KIND_OF["wheels"], name=name, x=round(one.x + _BEHIND * one.diameter, 4))
        if store.edit((Change("wheels[-]", made),), f"Duplicate {one.name}"):
            store.select(f"wheels[{len(store.design.wheels) - 1}]")
    else:
        store.noted.emit("Select a body or a wheel first: press it in a view of the Shape.")


def remove_selected(store: Store) -> None:
    """Take the selected body, wheel, control or item out; what was bolted to it stays, loose."""
    body, control, other = store.spot("body"), store.spot("control"), store.spot("wheel", "item")
    if body is not None:
        path = f"bodies[{body.index}]"
        name = store.design.bodies[body.index].name
    elif control is not None:
        surface = store.design.surfaces[control.index]
        path, name = control.path, f"{surface.controls[control.inner].kind} of {surface.name}"
    elif other is not None:
        path, name = other.path, get(store.design, other.path).name
    else:
        store.noted.emit("Select a body, wheel, control or item first.")
        return
    remove_part(store, path, name)


#: What can be added beside surfaces: words, and what does it.
ADDED_PARTS: tuple[tuple[str, Callable[[Store], None]], ...] = (
    ("Fuselage", lambda store: add_body(store, "fuselage")),
    ("Pod", lambda store: add_body(store, "pod")),
    ("Boom", lambda store: add_body(store, "boom")),
    ("Main wheels", lambda store: add_wheels(store)),
    ("Tail wheel", lambda store: add_wheels(store, tail=True)),
    ("Power train", add_power),
)
PART_EDITS: tuple[tuple[str, Callable[[Store], None]], ...] = (
    ("Duplicate the body or wheel", duplicate_selected),
    ("Remove what is selected", remove_selected),
    ("Take the power train out", remove_power),
)
