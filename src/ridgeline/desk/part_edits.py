"""Edits of bodies, wheels and power train as wholes: add, duplicate, remove. Offered in the Edit menu and by Ctrl+K."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from ridgeline.design.airframe import Body, BodyStation, Surface, Wheel
from ridgeline.design.kinds import KIND_OF, duplicate
from ridgeline.design.parts import Item
from ridgeline.design.paths import REMOVE, Change
from ridgeline.design.power import Mount
from ridgeline.desk.store import Store
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.sizing.first_mass import LEGS_SHARE
from ridgeline.engine.sizing.fuselages import Frame
from ridgeline.engine.sizing.matching import first_power_train
from ridgeline.engine.sizing.offers import added
from ridgeline.engine.sizing.outfit import power_items
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING
from ridgeline.files.own_bin import load_bin
from ridgeline.library import shipped_shelf

BodyKind = Literal["fuselage", "pod", "boom"]
#: Where there is no wing to go by: its root leading edge, m, its root chord and half span.
_NO_WING = (0.25, 0.2, 0.6)
#: A new fuselage over the root chord: ahead of the wing, behind its leading edge without a tail, width and height, and
#: its ends over these; where the full section begins and ends.
_AHEAD, _ASTERN, _BROAD, _TALL, _NOSE_END, _TAIL_END = 0.9, 3.6, 0.32, 0.40, 0.75, 0.3
_FULL_FROM, _FULL_TO = 0.35, 0.8
#: A pod's length over the root chord, and how far of it lies ahead of the wing; a boom's thickness, m.
_POD, _POD_AHEAD, _BOOM = 1.5, 0.7, 0.012
#: Wheels: diameter over the span and its limits m, track over the span, belly's clearance m; a tail wheel over a main.
_WHEEL, _WHEEL_LIMITS, _TRACK, _CLEAR, _TAIL_WHEEL = 0.05, (0.03, 0.12), 0.09, 0.04, 0.4
#: A duplicate stands aside by so many widths.
_ASIDE = 1.5


def _wing(store: Store) -> tuple[Surface | None, float, float, float]:
    """Return the widest wing, and its root leading edge, root chord and half span, m."""
    wings = [s for s in store.design.surfaces if s.role in WINGS]
    wing = max(wings, key=lambda s: s.stations[-1].y, default=None)
    if wing is None:
        return None, *_NO_WING
    return wing, wing.x, wing.stations[0].chord, wing.stations[-1].y


def _called(words: str, names: list[str]) -> str:
    """Return a name that no part has yet."""
    number, name = 1, words
    while name in names:
        number += 1
        name = f"{words} {number}"
    return name


def _new_body(store: Store, kind: BodyKind) -> Body:
    """Return a plain body of a kind, sized and placed by the wing and tail there are."""
    wing, lead, chord, _half = _wing(store)
    tails = [s for s in store.design.surfaces if s.role not in WINGS]
    end = max((s.x + s.stations[0].chord for s in tails), default=lead + _ASTERN * chord)
    height = wing.z if wing is not None else 0.0
    w, h = _BROAD * chord, _TALL * chord
    # Its top meets the underside of a wing over it.
    z = height - 0.5 * h if height > 0 else height
    if kind == "boom":
        front = lead + chord
        rows = [(front, _BOOM, _BOOM), (max(end, front + chord), _BOOM, _BOOM)]
    elif kind == "pod":
        front, long = max(lead - _POD_AHEAD * chord, 0.0), _POD * chord
        rows = [
            (front, _NOSE_END * w, _NOSE_END * h),
            (front + _FULL_FROM * long, w, h),
            (front + long, 0.5 * w, 0.5 * h),
        ]
    else:
        front = max(lead - _AHEAD * chord, 0.0)
        rows = [
            (front, _NOSE_END * w, _NOSE_END * h),
            (front + _FULL_FROM * (lead - front), w, h),
            (lead + _FULL_TO * chord, w, h),
            (max(end, lead + 1.5 * chord), _TAIL_END * w, _TAIL_END * h),
        ]
    words = {"fuselage": "Fuselage", "pod": "Pod", "boom": "Boom"}[kind]
    first = round(rows[0][0], 4)
    stations = tuple(BodyStation(x=round(x - first, 4), width=round(a, 4), height=round(b, 4)) for x, a, b in rows)
    name = _called(words, [b.name for b in store.design.bodies])
    rounding = 1.0 if kind == "boom" else 0.0
    return Body(name=name, kind=kind, x=first, z=round(z, 4), rounding=rounding, stations=stations)


def add_body(store: Store, kind: BodyKind) -> None:
    """Add a plain body of a kind with its pieces, and select its nose."""
    made = _new_body(store, kind)
    if store.edit(added(store.design, "bodies", made), f"Add {made.name}"):
        store.select(f"bodies[{len(store.design.bodies) - 1}].stations[0]")


def add_wheels(store: Store, *, tail: bool = False) -> None:
    """Add main wheels, or a wheel under the tail, with what their legs weigh, and select them."""
    design = store.design
    _w, lead, chord, half = _wing(store)
    main = min(max(_WHEEL * 2 * half, _WHEEL_LIMITS[0]), _WHEEL_LIMITS[1])
    rows = [s for b in design.bodies for s in b.sections]
    belly = min((s.z - 0.5 * s.height for s in rows), default=0.0)
    blades = 0.0
    if design.power is not None:
        blades = min(m.z for m in design.power.mounts) - 0.5 * design.power.propeller.diameter
    ground = min(belly - _CLEAR, blades - _CLEAR)
    if tail:
        diameter = round(_TAIL_WHEEL * main, 4)
        last = max(rows, key=lambda s: s.x, default=None)
        x, under = (lead + 3 * chord, belly) if last is None else (last.x, last.z - 0.5 * last.height)
        made = Wheel(name="Tail wheel", mirrored=False, x=round(x, 4), z=round(under - diameter, 4), diameter=diameter)
    else:
        out = round(_TRACK * 2 * half, 4)
        z = round(ground + 0.5 * main, 4)
        made = Wheel(name="Main wheels", x=round(lead + 0.05 * chord, 4), y=out, z=z, diameter=round(main, 4))
    made = made.model_copy(update={"name": _called(made.name, [w.name for w in design.wheels])})
    mass = store.report.value("mass.auw") or AIM_UNDER_CEILING * design.brief.ceiling
    share = LEGS_SHARE * (_TAIL_WHEEL**2 if tail else 1.0)
    legs = Item(
        name=f"{made.name}, legs", group="gear", basis="stock", x=made.x, z=made.z, estimate=round(share * mass, 4)
    )
    if store.edit((Change("wheels[-]", made), Change("parts[-]", legs)), f"Add {made.name.lower()}"):
        store.select(f"wheels[{len(store.design.wheels) - 1}]")


def add_power(store: Store) -> None:
    """Give a design without a motor its first power train, from library and bin, with all its parts aboard."""
    design = store.design
    if design.power is not None:
        store.noted.emit("There is a power train already: see Power, and Add a pair of motors.")
        return
    if not design.bodies:
        store.noted.emit("A motor needs a body to stand on: Edit, Add a part, Fuselage.")
        return
    _wing_there, lead, chord, half = _wing(store)
    own, _report = load_bin()
    brief, shelf = design.brief, own.before(shipped_shelf())
    mass = store.report.value("mass.auw") or 0.0
    air = density(brief.elevation, brief.temperature_c)
    # It grows by the train itself: what the ceiling leaves room for, and a third more than what flies without.
    aimed = min(max(1.33 * mass, 0.3 * brief.ceiling), AIM_UNDER_CEILING * brief.ceiling)
    wished = brief if brief.thrust_ratio > 0 else brief.model_copy(update={"thrust_ratio": 0.5})
    train = first_power_train(wished, shelf, aimed, air, 2 * half)
    if train is None:
        store.noted.emit("There is nothing on the shelf to drive it.")
        return
    nose = min(design.bodies, key=lambda b: (abs(b.y), b.sections[0].x)).sections[0]
    train = train.model_copy(update={"mounts": (Mount(x=round(nose.x, 4), z=round(nose.z, 4)),)})
    items = power_items(train, Frame(design.bodies, train.mounts), lead, chord)
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
        name = _called(part.name, [b.name for b in store.design.bodies])
        copy = duplicate(part, KIND_OF["bodies"], name=name, y=aside)
        edits = (Change("bodies[-]", copy),) if copy.built is None else added(store.design, "bodies", copy)
        if store.edit(edits, f"Duplicate {part.name}"):
            store.select(f"bodies[{len(store.design.bodies) - 1}].stations[0]")
    elif wheel is not None:
        one = store.design.wheels[wheel.index]
        name = _called(one.name, [w.name for w in store.design.wheels])
        made = duplicate(one, KIND_OF["wheels"], name=name, x=round(one.x + 2 * one.diameter, 4))
        if store.edit((Change("wheels[-]", made),), f"Duplicate {one.name}"):
            store.select(f"wheels[{len(store.design.wheels) - 1}]")
    else:
        store.noted.emit("Select a body or a wheel first: press it in a view of the Shape.")


def remove_selected(store: Store) -> None:
    """Take the selected body, wheel, control or item out; what was bolted to it stays, loose."""
    spot = store.spot("body", "wheel", "control", "item")
    if spot is None:
        store.noted.emit("Select a body, wheel, control or item first.")
        return
    if spot.path.startswith("bodies"):
        path, name = f"bodies[{spot.index}]", store.design.bodies[spot.index].name
    elif spot.path.startswith("wheels"):
        path, name = spot.path, store.design.wheels[spot.index].name
    elif spot.path.startswith("parts"):
        path, name = spot.path, store.design.parts[spot.index].name
    else:
        surface = store.design.surfaces[spot.index]
        path, name = spot.path, f"{surface.controls[spot.inner].kind} of {surface.name}"
    store.select("")
    store.edit([Change(path, REMOVE)], f"Remove {name}")
    left = [part.name for part in store.design.parts if part.loose == name]
    words = f" Loose now: {', '.join(left[:3])}{' and more' if len(left) > 3 else ''}." if left else ""
    store.noted.emit(f"{name} is gone.{words}")


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
