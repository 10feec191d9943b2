"""Edits of bodies, wheels and power train as wholes: add, duplicate, remove. Offered in the Edit menu and by Ctrl+K."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from ridgeline.design.carrying import hung_at
from ridgeline.design.hinges import free_stretch
from ridgeline.design.kinds import KIND_OF, duplicate
from ridgeline.design.parts import Item
from ridgeline.design.paths import REMOVE, Change, get
from ridgeline.design.power import Mount, PowerTrain
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import duplicate_surface, remove_part, remove_surface
from ridgeline.engine.sizing.additions import (
    BodyKind,
    called,
    first_train,
    fresh_body,
    fresh_hook,
    fresh_skid,
    fresh_wheels,
    replaced_by_train,
)
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.mounting import one_in_the_middle, turned_round, two_more, with_mounts
from ridgeline.engine.sizing.offers import added
from ridgeline.errors import DesignError
from ridgeline.files.own_bin import load_bin
from ridgeline.library import shipped_shelf

#: A duplicate stands aside by so many widths of a body, or behind by so many diameters of a wheel.
_ASIDE, _BEHIND = 1.5, 2.0
#: A control is doubled into a gap of the span no shorter than this, m.
_LEAST_ROOM = 0.02


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


def add_item(store: Store, made: Item) -> None:
    """Add an item that hangs in the body it lies under, and select it."""
    body = next((b for b in store.design.bodies if b.sections[0].x <= made.x <= b.sections[-1].x), None)
    if body is not None:
        made = made.model_copy(update={"on": hung_at(made, body, store.design.power, (made.x, made.y, made.z))})
    if store.edit((Change("parts[-]", made),), f"Add {made.name.lower()}"):
        store.select(f"parts[{len(store.design.parts) - 1}]")
        store.noted.emit(f"{made.name} is under the belly: its place is on Weights.")


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
    gone = replaced_by_train(store.design, train)
    names = [store.design.parts[k].name for k in gone]
    changes = [Change(f"parts[{k}]", REMOVE) for k in sorted(gone, reverse=True)]
    if store.design.brief.propulsion == "none":
        # The wish for thrust was for none: what its purpose usually asks for takes its place.
        wished = start_brief(
            store.design.brief.model_copy(update={"propulsion": "electric"}), store.design.brief.purpose
        )
        changes += [Change("brief.propulsion", "electric"), Change("brief.thrust_ratio", wished.thrust_ratio)]
    changes += [Change("power", train), *(Change("parts[-]", item) for item in items)]
    if store.edit(changes, "Add a power train"):
        words = f"{train.motor.name}, {train.propeller.name}, {train.pack.name}: change them on Power."
        left = f" Taken out for it: {', '.join(names)}." if names else ""
        store.noted.emit(words + left)


def remove_power(store: Store) -> None:
    """Take the power train out, and the parts aboard that are of it."""
    if store.design.power is None:
        store.noted.emit("There is no power train to take out.")
        return
    of_it = [k for k, part in enumerate(store.design.parts) if part.component is not None]
    changes = [Change(f"parts[{k}]", REMOVE) for k in reversed(of_it)]
    store.select("")
    store.edit([*changes, Change("power", None)], "Take the power train out")


def _train(store: Store) -> PowerTrain | None:
    """Return the power train there is; without one that is said."""
    if store.design.power is None:
        store.noted.emit("There is no power train yet: Edit, Add a part, Power train.")
    return store.design.power


def put_mounts(store: Store, mounts: Sequence[Mount], label: str) -> bool:
    """Put the motors on some mounts, with what stands at each; more than the train allows is refused in words."""
    try:
        changes = with_mounts(store.design, mounts)
    except DesignError as error:
        store.refused.emit(error)
        return False
    return store.edit(changes, label)


def add_motors(store: Store) -> None:
    """Add a pair of motors like the first; a single one on the centre line becomes a pair."""
    if _train(store) is not None and put_mounts(store, two_more(store.design), "Add two motors"):
        _select_mount(store)


def add_middle_motor(store: Store) -> None:
    """Add one motor on the centre line, as between two bodies."""
    if _train(store) is not None and put_mounts(store, one_in_the_middle(store.design), "Add a motor in the middle"):
        _select_mount(store)


def _select_mount(store: Store) -> None:
    """Select the last motor mount, and say how many motors there are."""
    power = store.design.power
    assert power is not None
    store.select(f"power.mounts[{len(power.mounts) - 1}]")
    store.noted.emit(f"{power.motors} motor{'s' if power.motors > 1 else ''}, all on the pack.")


def chosen_mount(store: Store) -> int:
    """Return the place of the selected motor mount; the first when none is."""
    spot = store.spot("mount")
    return 0 if spot is None else spot.index


def remove_mount(store: Store) -> None:
    """Take the selected motor mount out with what stands at it; the last one is the train's."""
    power = _train(store)
    if power is None:
        return
    if len(power.mounts) == 1:
        store.noted.emit("It is the only one. Edit, Take the power train out leaves a glider.")
        return
    index = chosen_mount(store)
    store.select("")
    put_mounts(store, [*power.mounts[:index], *power.mounts[index + 1 :]], "Take a motor out")


def turn_mount(store: Store) -> None:
    """Make the selected motor a pusher, or a tractor again."""
    if _train(store) is not None:
        mounts = turned_round(store.design, chosen_mount(store))
        put_mounts(store, mounts, "Propeller behind" if mounts[chosen_mount(store)].pusher else "Propeller ahead")


def duplicate_item(store: Store, index: int) -> None:
    """Add a copy of an item where it lies, and select that."""
    part = store.design.parts[index]
    name = called(part.name, [p.name for p in store.design.parts])
    copy = duplicate(part, KIND_OF["parts"], name=name, weighed=None)
    if copy.estimate is None and copy.component is None and copy.build is None and copy.servo is None:
        copy = copy.model_copy(update={"estimate": part.weighed})
    if store.edit((Change("parts[-]", copy),), f"Duplicate {part.name}"):
        store.select(f"parts[{len(store.design.parts) - 1}]")


def duplicate_control(store: Store, index: int, inner: int) -> None:
    """Add a copy of a control farther in or out, where its surface has most room left, and select that."""
    surface = store.design.surfaces[index]
    control = surface.controls[inner]
    low, high = free_stretch(surface, surface.stations[0].y, surface.stations[-1].y)
    room = high - low
    if room < _LEAST_ROOM:
        store.noted.emit(f"{surface.name} has no room beside it: drag its ends in first.")
        return
    long = min(control.end - control.start, 0.94 * room)
    start = low + 0.03 * room if low >= control.end else high - 0.03 * room - long
    copy = control.model_copy(update={"id": "", "start": round(start, 4), "end": round(start + long, 4)})
    if store.edit((Change(f"surfaces[{index}].controls[-]", copy),), f"Duplicate {control.kind}"):
        store.select(f"surfaces[{index}].controls[{len(surface.controls)}]")


def duplicate_selected(store: Store) -> None:
    """Add a copy of the selected surface, body, wheel, control or item beside it, and select that."""
    body, wheel, item = store.spot("body"), store.spot("wheel"), store.spot("item")
    control = store.spot("control")
    if store.spot("surface") is not None:
        duplicate_surface(store)
        return
    if item is not None:
        duplicate_item(store, item.index)
        return
    if control is not None:
        duplicate_control(store, control.index, control.inner)
        return
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
        store.noted.emit("Select a surface, body, wheel, control or item first: press it in a view.")


def remove_selected(store: Store) -> None:
    """Take the selected surface, body, wheel, control, motor or item out; what was bolted to it stays, loose."""
    if store.spot("surface") is not None:
        remove_surface(store)
        return
    if store.spot("mount") is not None:
        remove_mount(store)
        return
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
        store.noted.emit("Select a surface, body, wheel, control, motor or item first.")
        return
    remove_part(store, path, name)


#: What can be added beside surfaces: words, and what does it.
ADDED_PARTS: tuple[tuple[str, Callable[[Store], None]], ...] = (
    ("Fuselage", lambda store: add_body(store, "fuselage")),
    ("Pod", lambda store: add_body(store, "pod")),
    ("Boom", lambda store: add_body(store, "boom")),
    ("Main wheels", lambda store: add_wheels(store)),
    ("Tail wheel", lambda store: add_wheels(store, tail=True)),
    ("Skid", lambda store: add_item(store, fresh_skid(store.design))),
    ("Tow hook", lambda store: add_item(store, fresh_hook(store.design))),
    ("Power train", add_power),
    ("Two motors more", add_motors),
    ("One motor in the middle", add_middle_motor),
)
PART_EDITS: tuple[tuple[str, Callable[[Store], None]], ...] = (
    ("Duplicate what is selected", duplicate_selected),
    ("Remove what is selected", remove_selected),
    ("Propeller ahead or behind", turn_mount),
    ("Take the power train out", remove_power),
)
