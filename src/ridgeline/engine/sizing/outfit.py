"""What a laid-out airframe is fitted out with: radio, servos, payload, legs and power train, each at its place."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from ridgeline.design.airframe import Surface, Wheel
from ridgeline.design.axes import along_shaft, disc_of
from ridgeline.design.brief import Brief
from ridgeline.design.drag_items import DragItem
from ridgeline.design.parts import Item, Rail, Servo
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, ROLL_CONTROLS, YAW_CONTROLS
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.power.aboard import called_aboard
from ridgeline.engine.sizing.arrangements import arrangement_of, controls_for
from ridgeline.engine.sizing.building import Plan
from ridgeline.engine.sizing.first_mass import LEGS_SHARE, leads_mass, radio_pack_mass, receiver_mass
from ridgeline.engine.sizing.fuselages import Frame
from ridgeline.engine.sizing.sizes import Size

#: A controller lies this far inside the firewall, m.
_ESC_BACK = 0.03
#: Room round a pack in its bay: ahead of it m, its length over itself, how far under the wing it slides (root chords).
_BAY_AHEAD, _BAY_ROOM, _BAY_END = 0.01, 1.3, 0.6
_BAY_LEAST = 0.02
#: Length of a pack that feeds a radio alone, m (two or four small cells).
_RADIO_PACK = 0.045
#: Places along the root chord of what is carried: receiver, leads, payload, tail and aileron servos (usual).
_RECEIVER_AT, _LEADS_AT, _PAYLOAD_AT, _TAIL_SERVOS_AT, _WING_SERVOS_AT = 0.55, 0.2, 0.3, 0.9, 0.5
_WING_SERVOS_OUT, _PAYLOAD_LOW = 0.6, -0.3
#: Wheels: least clearance of belly and propeller m, diameter over span and its limits m, track and place (usual).
BELLY_CLEAR, _PROP_CLEAR = 0.04, 0.03
_WHEEL_SHARE, _WHEEL_LEAST, _WHEEL_MOST = 0.05, 0.035, 0.12
_WHEEL_OUT, _WHEEL_BACK = 0.09, 0.05

#: Struts between two wings: how many, their place along the chord and out along the half span, and carbon rod of 3 mm
#: for them, m and kg/m.
_STRUTS, _STRUTS_AT, STRUTS_OUT, STRUT_WIDTH, _STRUT_LINEAR = 4, 0.4, 0.65, 0.003, 0.011


def servo_for(shelf: Shelf, mass: float, share: float) -> Servo:
    """Return the servo of a shelf that weighs nearest to a share of the aircraft.

    Parameters
    ----------
    shelf : Shelf
    mass : float
        All-up, kg.
    share : float

    Returns
    -------
    Servo
    """
    return min(shelf.servos, key=lambda servo: abs((servo.mass or 0.0) - share * mass))


def wheels_for(
    span: float,
    root: float,
    lead: float,
    surfaces: tuple[Surface, ...],
    train: PowerTrain | None,
    frame: Frame,
    *,
    propeller_clear: float = _PROP_CLEAR,
) -> tuple[Wheel, ...]:
    """Return main wheels that keep belly, surfaces and propeller off the ground.

    Parameters
    ----------
    span, root, lead : float
        Of the wing: its span, root chord and root leading edge behind the datum, m.
    surfaces : tuple of Surface
    train : PowerTrain or None
    frame : Frame
    propeller_clear : float
        Left between propeller and ground, m.

    Returns
    -------
    tuple of Wheel
    """
    radius = 0.5 * train.propeller.diameter if train else 0.0
    bellies = (s.z - 0.5 * s.height for body in frame.bodies for s in body.sections)
    low = min((*bellies, *(s.z for s in surfaces)), default=0.0)
    ground = min([low - BELLY_CLEAR, *(m.z - radius - propeller_clear for m in frame.mounts)])
    diameter = min(max(_WHEEL_SHARE * span, _WHEEL_LEAST), _WHEEL_MOST)
    x = lead + _WHEEL_BACK * root
    return (Wheel(name="Main wheels", x=x, y=_WHEEL_OUT * span, z=ground + diameter / 2, diameter=diameter),)


def carried_items(
    brief: Brief,
    shelf: Shelf,
    size: Size,
    train: PowerTrain | None,
    surfaces: tuple[Surface, ...],
    frame: Frame,
    wheels: tuple[Wheel, ...],
    plan: Plan,
) -> tuple[Item, ...]:
    """Return what is aboard beside what is built.

    Parameters
    ----------
    brief : Brief
        With the scheme of controls it is built with.
    shelf : Shelf
        To choose servos from.
    size : Size
    train : PowerTrain or None
    surfaces : tuple of Surface
        Wings first.
    frame : Frame
    wheels : tuple of Wheel
    plan : Plan

    Returns
    -------
    tuple of Item
        Not hung on anything yet.
    """
    servo, facts = servo_for(shelf, size.mass, plan.servo_share), arrangement_of(brief.layout)
    wing = surfaces[0]
    half, root = wing.stations[-1].y, wing.stations[0].chord
    leads = {"x": wing.x + _LEADS_AT * root, "estimate": leads_mass(size.span), "place_sigma": 0.02}
    receiver = {"x": wing.x + _RECEIVER_AT * root, "estimate": receiver_mass(size.mass)}
    scheme = controls_for(brief.layout, brief.controls)
    items = []
    if scheme != "none" or train is not None:
        items += [
            Item(name="Receiver", group="radio", harness="receiver", **receiver),
            Item(name="Leads", group="radio", basis="adhesive", harness="leads", **leads),
        ]
    for wheel in wheels:
        legs = LEGS_SHARE * size.mass
        items.append(Item(name="Legs and wheels", group="gear", basis="stock", x=wheel.x, z=wheel.z, estimate=legs))
    if scheme not in ("rudder_elevator", "none"):
        kind = "Elevon servos" if scheme == "elevons" else "Aileron servos"
        for each in surfaces[: facts.wings]:
            name = kind if facts.wings == 1 else f"{kind}, {each.name.lower()}"
            out = _WING_SERVOS_OUT * half
            # Where the wing is out there: a swept one has left its root's chord behind.
            y = [s.y for s in each.stations]
            lead, chord = (float(np.interp(out, y, [getattr(s, name) for s in each.stations]))
                           for name in ("x", "chord"))  # fmt: skip
            place = {"x": each.x + lead + _WING_SERVOS_AT * chord, "y": out, "z": each.z}
            moved = _controls((each,), ROLL_CONTROLS)
            items.append(Item(name=name, group="radio", count=2, mirrored=True, servo=servo, drives=moved, **place))
    if scheme == "none":
        pass
    elif facts.family == "tail":
        # Servos stay at the wing's trailing edge and push rods go aft: every gram at the tail costs nearly three.
        moved = _controls(tuple(s for s in surfaces if s.role in (*TAILS, "fin")), (*PITCH_CONTROLS, *YAW_CONTROLS))
        x = wing.x + _TAIL_SERVOS_AT * root
        items.append(Item(name="Tail servos", group="radio", count=2, x=x, servo=servo, drives=moved))
    elif facts.family == "canard":
        plane = next(s for s in surfaces if s.role == "foreplane")
        x = plane.x + plane.stations[0].chord
        moved = _controls((plane,), PITCH_CONTROLS)
        items.append(Item(name="Foreplane servo", group="radio", x=x, servo=servo, drives=moved))
    if brief.payload > 0:
        place = {"x": wing.x + _PAYLOAD_AT * root, "z": _PAYLOAD_LOW * size.height}
        items.append(Item(name="Payload", group="payload", estimate=brief.payload, **place))
    if train is not None:
        items += power_items(train, frame, wing.x, root)
    elif scheme != "none":
        items.append(_receiver_pack(brief, frame, wing.x, root, size.mass))
    return tuple(items)


def _receiver_pack(brief: Brief, frame: Frame, wing: float, root: float, mass: float) -> Item:
    """Return the pack of a radio without a motor, on a rail from the nose to under the wing."""
    front = frame.bodies[0].sections[0].x
    long = _RADIO_PACK
    bay = (front + _BAY_AHEAD, max(wing + _BAY_END * root, front + _BAY_LEAST + _BAY_ROOM * long))
    return Item(
        name="Receiver pack",
        group="battery",
        x=0.5 * (bay[0] + bay[1]),
        estimate=round(radio_pack_mass(mass), 4),
        rail=Rail(front=bay[0], back=bay[1], item_length=long),
    )


def struts_between(wings: tuple[Surface, ...]) -> tuple[tuple[Item, ...], tuple[DragItem, ...]]:
    """Return the struts that hold one wing over another, front and rear on both sides, and what they are in the wind.

    Parameters
    ----------
    wings : tuple of Surface
        The uppermost first.

    Returns
    -------
    items : tuple of Item
        Not hung on anything yet.
    in_the_wind : tuple of DragItem
    """
    items, winds = [], []
    for upper, lower in pairwise(wings):
        gap, root = upper.z - lower.z, upper.stations[0].chord
        name = f"Struts, {upper.name.lower()} to {lower.name.lower()}"
        middle = 0.5 * (upper.x + lower.x) + _STRUTS_AT * root
        items.append(
            Item(
                name=name,
                group="structure",
                basis="stock",
                count=_STRUTS,
                mirrored=True,
                x=middle,
                y=STRUTS_OUT * upper.stations[-1].y,
                z=0.5 * (upper.z + lower.z),
                estimate=_STRUT_LINEAR * gap,
            )
        )
        winds.append(DragItem(name=name, kind="wire", count=_STRUTS, length=gap, width=STRUT_WIDTH))
    return tuple(items), tuple(winds)


def _controls(surfaces: tuple[Surface, ...], kinds: tuple[str, ...]) -> tuple[str, ...]:
    """Return the ids of the controls of some kinds on some surfaces."""
    return tuple(dict.fromkeys(c.id for s in surfaces for c in s.controls if c.kind in kinds))


def power_items(train: PowerTrain, frame: Frame, wing: float, root: float) -> list[Item]:
    """Return the parts aboard of a power train, the pack on a rail from the nose to under the wing.

    Parameters
    ----------
    train : PowerTrain
        With its mounts.
    frame : Frame
        The body that carries the pack first.
    wing, root : float
        The wing's root leading edge behind the datum, and its root chord, m.

    Returns
    -------
    list of Item
        Not hung on anything yet.
    """
    front, mount = frame.bodies[0].sections[0].x, train.mounts[0]
    length = train.pack.length
    bay = (front + _BAY_AHEAD, max(wing + _BAY_END * root, front + _BAY_LEAST + _BAY_ROOM * length))
    each = {"group": "power", "count": train.motors, "mirrored": mount.mirrored, "y": mount.y, "z": mount.z}
    disc, can = disc_of(mount, train), along_shaft(mount, 0.5 * train.motor.length)
    return [
        Item(name=called_aboard(train.propeller), component="propeller", x=disc[0], **each),
        Item(name=called_aboard(train.motor), component="motor", x=can[0], **each),
        Item(
            name=called_aboard(train.esc),
            component="esc",
            x=mount.x + (_ESC_BACK if not mount.pusher else -_ESC_BACK),
            **each,
        ),
        Item(
            name=called_aboard(train.pack),
            group="battery",
            component="pack",
            x=0.5 * (bay[0] + bay[1]),
            rail=Rail(front=bay[0], back=bay[1], item_length=length),
        ),
    ]
