"""Lay out an airframe from a brief: wing, tail, body, parts and power train, already near its balance."""

from __future__ import annotations

import math
from typing import Any

from scipy.optimize import brentq

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.parts import Item, Rail
from ridgeline.design.paths import apply, put
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Servo, Shelf
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.sizing.airframe import Size, airframe_surfaces, body_around, first_sizes
from ridgeline.engine.sizing.matching import first_power_train

#: Mass per projected wing area, per tail area and per wetted body area, kg/m²; typical of the build method.
_AREAL = {
    "foam_board": (0.62, 0.34, 0.45),
    "extruded_foam": (0.32, 0.24, 0.36),
    "printed_foaming": (0.62, 0.45, 0.50),
    "printed_plain": (0.95, 0.70, 0.75),
}


_BASIS = {"foam_board": "sheet", "extruded_foam": "sheet", "printed_foaming": "print", "printed_plain": "print"}


_GLUE_SHARE, _SPAR_PER_METRE = 0.12, 0.018


_RECEIVER = 0.012
#: Balance this near the aim needs no further lever, share of the mean chord.
_NEAR = 0.002


def lay_out(brief: Brief, shelf: Shelf, name: str = "Untitled") -> Design:
    """Return a whole design for a brief, its wing placed so that it balances with the pack mid-bay.

    Parameters
    ----------
    brief : Brief
    shelf : Shelf
        Parts to choose the power train and servos from.
    name : str
        Name of the design.

    Source
    ------
    Sizes from the design point and tail volumes: docs/theory.md §§3–4; the wing's place is solved with the same
    `evaluate` that judges the result.
    """
    size = first_sizes(brief)
    air_density = density(brief.elevation, brief.temperature_c)
    train = first_power_train(brief, shelf, size.mass, air_density, size.span)
    # The wing is sized for the ceiling; the power for what the estimates, with their growth reserve, come to.
    draft = evaluate(_assemble(brief, shelf, size, train, _nose_limits(size, train)[0], name))
    expected = (draft.value("mass.auw") or size.mass) + (draft.value("mass.reserve") or 0.0)
    train = first_power_train(brief, shelf, min(expected, size.mass), air_density, size.span)

    def miss(nose: float) -> float:
        report = evaluate(_assemble(brief, shelf, size, train, nose, name))
        return float(report.value("balance.cg_fraction") or 0.0) - _aim(report)

    short, long = _nose_limits(size, train)
    low, high = miss(short), miss(long)
    # A longer nose brings the balance forward of the wing.
    nearest = short if abs(low) < abs(high) else long
    nose = float(brentq(miss, short, long, xtol=1e-4)) if low * high < 0 else nearest
    return _settled(_assemble(brief, shelf, size, train, round(nose, 4), name))


def _settled(design: Design) -> Design:
    """Put right what the nose length alone could not: slide the pack, then carry the tail servos in the tail."""
    design = _slid(design)
    report = evaluate(design)
    balanced = report.results["balance"]
    place = next((i for i, part in enumerate(design.parts) if part.name == "Tail servos"), None)
    if balanced is None or balanced.aim is None or place is None or balanced.cg_fraction > balanced.aim - _NEAR:
        return design
    tail = max(surface.x for surface in design.surfaces)
    return _slid(put(design, f"parts[{place}].x", tail))


def _slid(design: Design) -> Design:
    """Slide the pack towards the settled balance, as far as its rail lets it."""
    report = evaluate(design)
    balanced = report.results["balance"]
    if balanced is None or balanced.aim is None or abs(balanced.cg_fraction - balanced.aim) < _NEAR:
        return design
    slides = (r for r in levers_to(design, report, balanced.aim) if r.key == "slide_pack")
    return next((apply(design, remedy.changes) for remedy in slides), design)


def _aim(report: Any) -> float:
    balanced = report.results["balance"]
    return float(balanced.aim) if balanced is not None and balanced.aim is not None else 0.28


def _nose_limits(size: Size, train: PowerTrain | None) -> tuple[float, float]:
    pack = train.pack.length if train else 0.05
    motor = train.motor.length if train else 0.02
    return motor + 0.03, motor + 0.05 + 1.1 * pack + 2.0 * size.mac


def _servo(shelf: Shelf, mass: float) -> Servo:
    """Return a servo of about 1.2 % of the aircraft."""
    return min(shelf.servos, key=lambda servo: abs(servo.mass - 0.012 * mass))


def _assemble(brief: Brief, shelf: Shelf, size: Size, train: PowerTrain | None, nose: float, name: str) -> Design:
    wing, *others = airframe_surfaces(brief, size, nose)
    tail = tuple(others)
    body = body_around(brief, size, wing, tail, train)
    wheels: tuple[Wheel, ...] = ()
    if brief.launch == "wheels":
        ground = -0.5 * size.height - 0.04 if train is None else -0.5 * train.propeller.diameter - 0.03
        diameter = min(max(0.05 * size.span, 0.035), 0.12)
        wheels = (
            Wheel(
                name="Main wheels",
                x=wing.x + 0.05 * size.root,
                y=0.09 * size.span,
                z=ground + diameter / 2,
                diameter=diameter,
            ),
        )
    if train is not None and brief.tail == "none":
        train = train.model_copy(update={"x": body.stations[-1].x + train.motor.length + 0.01})
    parts = _airframe_items(brief, wing, tail, body, wheels)
    parts += _carried_items(brief, shelf, size, train, wing, tail, body)
    return Design(
        name=name, brief=brief, surfaces=(wing, *tail), bodies=(body,), wheels=wheels, parts=parts, power=train
    )


def _centre(surface: Surface) -> tuple[float, float, float]:
    measured = measure_surface(surface)
    mean = measured.mean_chord
    return (
        surface.x + mean.x_leading_edge + 0.42 * mean.length,
        surface.y + mean.y * math.cos(surface.cant),
        measured.z_mean,
    )


def _airframe_items(
    brief: Brief, wing: Surface, tail: tuple[Surface, ...], body: Body, wheels: tuple[Wheel, ...]
) -> tuple[Item, ...]:
    per_wing, per_tail, per_body = _AREAL[brief.build_method]
    basis: Any = _BASIS[brief.build_method]
    x, y, z = _centre(wing)
    measured = measure_surface(wing)
    wing_mass = per_wing * measured.true_area
    items = [
        Item(
            name="Wing panels",
            group="airframe",
            basis=basis,
            count=2,
            mirrored=True,
            x=x,
            y=y,
            z=z,
            estimate=wing_mass / 2,
        )
    ]
    total = wing_mass
    for surface in tail:
        tx, ty, tz = _centre(surface)
        count = 2 if surface.mirrored else 1
        mass = per_tail * measure_surface(surface).true_area
        total += mass
        items.append(
            Item(
                name=surface.name,
                group="airframe",
                basis=basis,
                count=count,
                mirrored=surface.mirrored,
                x=tx,
                y=ty if surface.mirrored else 0.0,
                z=tz,
                estimate=mass / count,
            )
        )
    skin = measure_body(body)
    bx = sum(
        0.5 * (a.x + b.x) * (b.x - a.x) * (a.width + b.width)
        for a, b in zip(body.stations, body.stations[1:], strict=False)
    )
    bw = sum((b.x - a.x) * (a.width + b.width) for a, b in zip(body.stations, body.stations[1:], strict=False))
    mass = per_body * skin.wetted
    total += mass
    items.append(Item(name="Fuselage", group="airframe", basis=basis, x=bx / bw, estimate=mass, place_sigma=0.01))
    spar = _SPAR_PER_METRE * measured.span
    items.append(
        Item(
            name="Spar",
            group="structure",
            basis="stock",
            x=wing.x + 0.3 * wing.stations[0].chord,
            z=wing.z,
            estimate=spar,
        )
    )
    items.append(
        Item(
            name="Glue and tape",
            group="adhesive",
            basis="adhesive",
            x=x,
            estimate=_GLUE_SHARE * total,
            place_sigma=0.02,
        )
    )
    for wheel in wheels:
        items.append(
            Item(
                name="Legs and wheels",
                group="gear",
                basis="stock",
                x=wheel.x,
                z=wheel.z,
                estimate=0.045 * brief.ceiling,
            )
        )
    return tuple(items)


def _carried_items(
    brief: Brief,
    shelf: Shelf,
    size: Size,
    train: PowerTrain | None,
    wing: Surface,
    tail: tuple[Surface, ...],
    body: Body,
) -> tuple[Item, ...]:
    servo = _servo(shelf, size.mass)
    half, root = wing.stations[-1].y, wing.stations[0].chord
    items = [
        Item(name="Receiver", group="radio", x=wing.x + 0.55 * root, estimate=_RECEIVER),
        Item(
            name="Leads",
            group="radio",
            basis="adhesive",
            x=wing.x + 0.2 * root,
            estimate=0.006 + 0.008 * size.span,
            place_sigma=0.02,
        ),
    ]
    if brief.controls != "rudder_elevator":
        kind = "Elevon servos" if brief.controls == "elevons" else "Aileron servos"
        items.append(
            Item(
                name=kind,
                group="radio",
                count=2,
                mirrored=True,
                x=wing.x + 0.5 * root,
                y=0.6 * half,
                z=wing.z,
                estimate=servo.mass,
            )
        )
    if tail and brief.tail != "none":
        # Servos stay at the wing's trailing edge and push rods go aft: every gram at the tail costs nearly three.
        items.append(
            Item(name="Tail servos", group="radio", count=2, x=wing.x + 0.9 * root, z=0.0, estimate=servo.mass)
        )
    if brief.payload > 0:
        items.append(
            Item(name="Payload", group="payload", x=wing.x + 0.3 * root, z=-0.3 * size.height, estimate=brief.payload)
        )
    if train is not None:
        items += _power_items(train, wing, body, root, pusher=brief.tail == "none")
    return tuple(items)


def _power_items(train: PowerTrain, wing: Surface, body: Body, root: float, *, pusher: bool) -> list[Item]:
    front = body.stations[0].x
    bay = (front + 0.01, max(wing.x + 0.6 * root, front + 0.02 + 1.3 * train.pack.length))
    middle = 0.5 * (bay[0] + bay[1])
    return [
        Item(
            name=f"Propeller {size_words(train.propeller)}",
            group="power",
            component="propeller",
            x=train.x,
        ),
        Item(
            name=f"Motor {train.motor.name.partition(',')[0].removeprefix('Outrunner ')}",
            group="power",
            component="motor",
            x=train.x + (-0.6 if pusher else 0.6) * train.motor.length,
        ),
        Item(
            name=train.esc.name,
            group="power",
            component="esc",
            x=train.x + (-0.07 if pusher else 0.03 + train.motor.length),
        ),
        Item(
            name=f"Pack {train.pack.name}",
            group="battery",
            component="pack",
            x=middle,
            rail=Rail(front=bay[0], back=bay[1], item_length=train.pack.length),
        ),
    ]
