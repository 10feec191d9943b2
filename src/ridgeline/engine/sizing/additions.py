"""Parts added to a design by hand: plain bodies, wheels and a first power train, sized by what is there already."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal, NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, BodyStation, ControlKind, Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.design.parts import Item, Size
from ridgeline.design.power import Mount, PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.geometry.reference import WINGS, main_wing
from ridgeline.engine.sizing.first_mass import LEGS_SHARE
from ridgeline.engine.sizing.fuselages import BOOM, Frame
from ridgeline.engine.sizing.matching import first_power_train
from ridgeline.engine.sizing.outfit import BELLY_CLEAR, power_items, wheels_for
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING

BodyKind = Literal["fuselage", "pod", "boom"]
#: A new fuselage over the root chord: ahead of the wing, behind its leading edge where there is no tail and at least,
#: width and height, and its nose and end over these (usual outlines).
_AHEAD, _ASTERN, _LEAST_ASTERN, _BROAD, _TALL, _NOSE_END, _TAIL_END = 0.9, 3.6, 1.5, 0.32, 0.40, 0.75, 0.3
#: Where the full section begins, over the way to the wing or a pod's length, and ends, over the root chord.
_FULL_FROM, _FULL_TO = 0.35, 0.8
#: A pod's length over the root chord, how far of it lies ahead of the wing, and its end over its section.
_POD, _POD_AHEAD, _POD_END = 1.5, 0.7, 0.5
#: A tail wheel over a main wheel; without a body it stands so many chords behind the wing.
_TAIL_WHEEL, _TAIL_AT = 0.4, 3.0
#: What a power train is chosen to drive, over what flies without it and over the ceiling, at least; its thrust ratio
#: where none is wished for.
_WITH_TRAIN, _OF_CEILING, _THRUST = 1.33, 0.3, 0.5


#: A skid below the wing and a tow hook: place along the root chord, how far under the belly m, length m, mass kg (of
#: the shipped fittings; a hook 10 to 15 % ahead of where gliders balance).
_SKID_AT, _SKID_LOW, _SKID_LONG, _SKID_MASS = 0.3, 0.015, 0.12, 0.003
_HOOK_AT, _HOOK_LOW, _HOOK_MASS = 0.2, 0.004, 0.003
#: Dead weight ahead of this share of the root chord stands for what a motor will weigh there.
_AHEAD_OF = 0.25


class _Place(NamedTuple):
    """The main wing, or where one would be: root leading edge, height, root chord and half span, m."""

    x: float = 0.25
    z: float = 0.0
    root: float = 0.2
    half: float = 0.6


def _place(surfaces: Iterable[Surface]) -> _Place:
    wings = [s for s in surfaces if s.role in WINGS]
    if not wings:
        return _Place()
    wing = main_wing(wings)
    return _Place(wing.x, wing.z, wing.stations[0].chord, wing.stations[-1].y)


def called(words: str, names: Iterable[str]) -> str:
    """Return a name that no part has yet.

    Parameters
    ----------
    words : str
    names : iterable of str
        Taken already.

    Returns
    -------
    str
        The words, with the next free number where they are taken.
    """
    taken, number, name = set(names), 1, words
    while name in taken:
        number += 1
        name = f"{words} {number}"
    return name


def usual_kind(surface: Surface) -> ControlKind:
    """Return what a control added to a surface most likely is: on a wing with ailerons a flap.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    str
    """
    match surface.role:
        case "fin":
            return "rudder"
        case "v_tail":
            return "ruddervator"
        case "wing":
            return "flap" if surface.controls else "aileron"
    return "elevator"


def fresh_body(design: Design, kind: BodyKind) -> Body:
    """Return a plain body of a kind, sized and placed by the wing and tail there are.

    Parameters
    ----------
    design : Design
    kind : str

    Returns
    -------
    Body
        Without an id; its top meets the underside of a wing over it.
    """
    x, z, root, _half = _place(design.surfaces)
    ends = (s.x + s.stations[0].chord for s in design.surfaces if s.role not in WINGS)
    end = max(ends, default=x + _ASTERN * root)
    w, h = _BROAD * root, _TALL * root
    if kind == "boom":
        front = x + root
        rows = [(front, BOOM, BOOM), (max(end, front + root), BOOM, BOOM)]
    elif kind == "pod":
        front, long = max(x - _POD_AHEAD * root, 0.0), _POD * root
        rows = [
            (front, _NOSE_END * w, _NOSE_END * h),
            (front + _FULL_FROM * long, w, h),
            (front + long, _POD_END * w, _POD_END * h),
        ]
    else:
        front = max(x - _AHEAD * root, 0.0)
        rows = [
            (front, _NOSE_END * w, _NOSE_END * h),
            (front + _FULL_FROM * (x - front), w, h),
            (x + _FULL_TO * root, w, h),
            (max(end, x + _LEAST_ASTERN * root), _TAIL_END * w, _TAIL_END * h),
        ]
    first = round(rows[0][0], 4)
    return Body(
        name=called(kind.capitalize(), (b.name for b in design.bodies)),
        kind=kind,
        x=first,
        z=round(z - 0.5 * h if z > 0 else z, 4),
        rounding=1.0 if kind == "boom" else 0.0,
        stations=tuple(BodyStation(x=round(a - first, 4), width=round(b, 4), height=round(c, 4)) for a, b, c in rows),
    )


def fresh_wheels(design: Design, mass: float | None, *, tail: bool = False) -> tuple[Wheel, Item]:
    """Return main wheels, or one under the tail, and what their legs weigh.

    Parameters
    ----------
    design : Design
    mass : float or None
        All-up, kg; by the ceiling where there is none yet.
    tail : bool

    Returns
    -------
    wheel : Wheel
        Without an id.
    legs : Item
        Not hung on anything yet.
    """
    place = _place(design.surfaces)
    mounts = () if design.power is None else design.power.mounts
    frame = Frame(design.bodies, mounts)
    (made,) = wheels_for(
        2 * place.half, place.root, place.x, design.surfaces, design.power, frame, propeller_clear=BELLY_CLEAR
    )
    if tail:
        last = max((s for b in design.bodies for s in b.sections), key=lambda s: s.x, default=None)
        x, under = (place.x + _TAIL_AT * place.root, 0.0) if last is None else (last.x, last.z - 0.5 * last.height)
        size = _TAIL_WHEEL * made.diameter
        made = Wheel(name="Tail wheel", mirrored=False, x=x, z=under - size, diameter=size)
    rounded = {name: round(getattr(made, name), 4) for name in ("x", "y", "z", "diameter")}
    name = called(made.name, (w.name for w in design.wheels))
    made = made.model_copy(update={**rounded, "name": name})
    share = LEGS_SHARE * (_TAIL_WHEEL**2 if tail else 1.0)
    weighs = round(share * (mass or AIM_UNDER_CEILING * design.brief.ceiling), 4)
    return made, Item(name=f"{name}, legs", group="gear", basis="stock", x=made.x, z=made.z, estimate=weighs)


def fresh_skid(design: Design) -> Item:
    """Return a bent-wire skid under the belly, below the wing.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Item
        Not hung on anything yet.
    """
    size = Size(length=_SKID_LONG, width=0.002, height=2 * _SKID_LOW)
    return _under_the_belly(design, "Skid", _SKID_AT, _SKID_LOW, _SKID_MASS).model_copy(update={"size": size})


def fresh_hook(design: Design) -> Item:
    """Return a tow hook under the belly, ahead of the balance point so that the line pulls the nose straight.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Item
        Not hung on anything yet.
    """
    return _under_the_belly(design, "Tow hook", _HOOK_AT, _HOOK_LOW, _HOOK_MASS)


def _under_the_belly(design: Design, words: str, at: float, low: float, mass: float) -> Item:
    """Return a small part under the belly: its place along the root chord, how far under, m, and its mass, kg."""
    place = _place(design.surfaces)
    x = place.x + at * place.root
    name, z = called(words, (p.name for p in design.parts)), round(_belly(design, x) - low, 4)
    return Item(name=name, group="gear", basis="stock", x=round(x, 4), z=z, estimate=mass)


def _belly(design: Design, x: float) -> float:
    """Return how low the lowest body reaches at a place along the aircraft, m; the wing's height where none is."""
    found = [
        float(np.interp(x, [s.x for s in body.sections], [s.z - 0.5 * s.height for s in body.sections]))
        for body in design.bodies
        if body.sections[0].x <= x <= body.sections[-1].x
    ]
    return min(found, default=_place(design.surfaces).z)


def first_train(design: Design, shelf: Shelf, mass: float | None) -> tuple[PowerTrain, list[Item]] | None:
    """Return a first power train on the foremost body of the middle, and its parts aboard.

    Parameters
    ----------
    design : Design
        With a body.
    shelf : Shelf
    mass : float or None
        All-up without it, kg.

    Returns
    -------
    train : PowerTrain
    items : list of Item
        Not hung on anything yet. None of both where nothing on the shelf drives it.
    """
    place, brief = _place(design.surfaces), design.brief
    aimed = max(_WITH_TRAIN * (mass or 0.0), _OF_CEILING * brief.ceiling)
    wished = brief if brief.thrust_ratio > 0 else brief.model_copy(update={"thrust_ratio": _THRUST})
    air = density(brief.elevation, brief.temperature_c)
    train = first_power_train(wished, shelf, min(aimed, AIM_UNDER_CEILING * brief.ceiling), air, 2 * place.half)
    if train is None:
        return None
    bodies = sorted(design.bodies, key=lambda b: (abs(b.y), b.sections[0].x))
    nose = bodies[0].sections[0]
    train = train.model_copy(update={"mounts": (Mount(x=round(nose.x, 4), z=round(nose.z, 4)),)})
    return train, power_items(train, Frame(tuple(bodies), train.mounts), place.x, place.root)


def replaced_by_train(design: Design, train: PowerTrain) -> list[int]:
    """Return the items a power train takes the place of: coins and weights ahead of the wing, and the radio's pack.

    Parameters
    ----------
    design : Design
        Without a train.
    train : PowerTrain
        With its mounts.

    Returns
    -------
    list of int
        Dead weight that stood for motor and pack while there were none; where the train brings a receiver supply, the
        pack that fed the receiver.
    """
    place = _place(design.surfaces)
    ahead = place.x + _AHEAD_OF * place.root
    feeds = train.esc.bec_current > 0
    return [
        k
        for k, part in enumerate(design.parts)
        if (part.group == "ballast" and part.x < ahead)
        or (feeds and part.group == "battery" and part.component is None)
    ]
