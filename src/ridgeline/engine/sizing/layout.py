"""Lay out an airframe from a brief: wing, tail, body, parts and power train, already near its balance."""

from __future__ import annotations

import math
from functools import partial
from itertools import pairwise
from typing import Any

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.axes import along_shaft, disc_of
from ridgeline.design.brief import Brief
from ridgeline.design.build import Build
from ridgeline.design.document import Design
from ridgeline.design.hanging import hung
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, numbered
from ridgeline.design.parts import Item, Rail, Servo
from ridgeline.design.paths import apply, put
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, ROLL_CONTROLS, YAW_CONTROLS
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.roots import root_in
from ridgeline.engine.sizing.airframe import Size, airframe_surfaces, sized, within_the_document
from ridgeline.engine.sizing.arrangements import arrangement_of, controls_for
from ridgeline.engine.sizing.fuselages import Frame, frame_of
from ridgeline.engine.sizing.matching import MEAN_POWER, PROP_OVER_SPAN, first_power_train, usable_energy
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.weights.estimates import Extent, body_extent, mass_of, surface_extent

#: Mass per projected wing area, per tail area and per wetted body area, kg/m²; typical of the build method.
_AREAL = {
    "foam_board": (0.62, 0.34, 0.45),
    "extruded_foam": (0.32, 0.24, 0.36),
    "printed_foaming": (0.62, 0.45, 0.50),
    "printed_plain": (0.95, 0.70, 0.75),
}


_BASIS = {"foam_board": "sheet", "extruded_foam": "sheet", "printed_foaming": "print", "printed_plain": "print"}


#: Board by its mass per area, kg/m²; plastics by their printed density, kg/m³ (the shipped materials).
_BOARD = {"foam_board": ("Foam board 5 mm", 0.300), "extruded_foam": ("Extruded sheet 6 mm", 0.210)}
_PLASTIC = {"printed_foaming": ("Foaming PLA, as printed", 575.0), "printed_plain": ("PLA", 1240.0)}
_GLUE_SHARE, _SPAR_PER_METRE = 0.12, 0.018


_RECEIVER = 0.012
#: A controller lies this far inside the firewall, m.
_ESC_BACK = 0.03
#: Balance this near the aim needs no further lever, share of the mean chord.
_NEAR = 0.002
#: Findings that say there is more throw than the purpose wants.
_TAMED = ("control.roll_high", "control.elevator_touchy")
#: Room over what a draft draws, for the mass of the pack it asks for.
_OVER = 1.10


def lay_out(brief: Brief, shelf: Shelf, name: str = "Untitled") -> Design:
    """Return a whole design for a brief, its wing placed so that it balances with the pack mid-bay.

    Parameters
    ----------
    brief : Brief
    shelf : Shelf
        Parts to choose the power train and servos from.
    name : str
        Name of the design.

    Raises
    ------
    DesignError
        When the wishes leave no wing that is wider than deep, a tail of no size, or sizes no document holds.

    Source
    ------
    Sizes from the design point and tail volumes: docs/theory.md §§3–4; the wing's place is solved with the same
    `evaluate` that judges the result.
    """
    with within_the_document():
        return _laid_out(brief, shelf, name)


def _laid_out(brief: Brief, shelf: Shelf, name: str) -> Design:
    size = sized(brief)
    # A sketch of one: every third propeller is enough to know the room it takes and about what it weighs.
    sketch = shelf._replace(propellers=shelf.propellers[::3])
    train = _train(brief, sketch, size, size.mass)
    # The wing is sized for the ceiling; the power for what the estimates, grown, come to.
    trial = Evaluator()
    draft = _assemble(brief, shelf, size, train, _nose_limits(brief, size, train)[0], name)
    expected, load = trial.value(draft, "mass.auw") or size.mass, trial.value(draft, "power.receiver_load") or 0.0
    train = _train(brief, shelf, size, min(expected, size.mass), _mean_power(draft, trial), load)

    def balance_at(nose: float) -> float:
        # The masses alone: a longer nose moves all surfaces together, so that their lattice is the same.
        drawn = _assemble(brief, shelf, size, train, nose, name)
        state, ref = trial.result(drawn, "masses").state, trial.result(drawn, "shape").reference
        return 0.0 if state is None or ref is None else float(ref.fraction(float(state.cg[0])))

    def off(aim: float, nose: float) -> float:
        return balance_at(nose) - aim

    short, long = _nose_limits(brief, size, train)
    low, high = balance_at(short), balance_at(long)
    nose = 0.5 * (short + long)
    # The body's share of the neutral point goes with the nose: the aim is taken anew where the first answer lies.
    for close in (1e-3, 1e-4):
        aim = _aim(trial.result(_assemble(brief, shelf, size, train, nose, name), "balance"))
        # A longer nose brings the balance forward of the wing.
        nearest = short if abs(low - aim) < abs(high - aim) else long
        between = (low - aim) * (high - aim) < 0
        nose = nearest
        if between:
            nose = root_in(partial(off, aim), short, long, close, low - aim, high - aim)
    return _tamed(_settled(_assemble(brief, shelf, size, train, round(nose, 4), name)))


def _mean_power(draft: Design, trial: Evaluator) -> float:
    """Return what a draft draws on average over its flight, W per kg, and a little for the mass of its pack."""
    seconds, mass, train = trial.value(draft, "flight.endurance"), trial.value(draft, "mass.auw"), draft.power
    if not seconds or not mass or train is None:
        return MEAN_POWER
    return _OVER * usable_energy(train.pack) / (mass * seconds)


def _tamed(design: Design) -> Design:
    """Give the controls no more throw than the purpose wants: what the advice would offer first is done at once."""
    for _ in _TAMED:
        found = (f for f in evaluate(design).findings if f.key in _TAMED)
        ways = (way for finding in found for way in finding.remedies if way.key == "less_throw")
        way = next(ways, None)
        if way is None:
            break
        design = apply(design, way.changes)
    return design


def _settled(design: Design) -> Design:
    """Put right what the nose length alone could not: slide the pack, then carry the tail servos in the tail."""
    design = _slid(design)
    balanced = Evaluator().result(design, "balance")
    place = _tail_servos(design)
    if balanced is None or place is None or balanced.cg_fraction > _aim(balanced) - _NEAR:
        return design
    tail = max(surface.x for surface in design.surfaces)
    return _slid(put(design, f"parts[{place}].x", tail))


def _tail_servos(design: Design) -> int | None:
    """Return the item of the servos that move the tail's controls."""
    moved = {c.id for s in design.surfaces if s.role in (*TAILS, "fin") for c in s.controls}
    return next((i for i, part in enumerate(design.parts) if part.servo and moved.intersection(part.drives)), None)


def _slid(design: Design) -> Design:
    """Slide the pack towards the balance of a first throw, as far as its rail lets it."""
    report = evaluate(design)
    balanced = report.results.balance
    aim = _aim(balanced)
    if balanced is None or abs(balanced.cg_fraction - aim) < _NEAR:
        return design
    slides = (r for r in levers_to(design, report, aim) if r.key == "slide_pack")
    return next((apply(design, remedy.changes) for remedy in slides), design)


def _aim(balanced: Balance | None) -> float:
    return 0.28 if balanced is None or balanced.targets is None else balanced.targets.first_aim


def _train(
    brief: Brief, shelf: Shelf, size: Size, mass: float, mean_power: float = MEAN_POWER, receiver: float = 0.0
) -> PowerTrain | None:
    """Return a power train that fits the layout: a disc between booms stays between them, two motors share the work."""
    span = size.span
    if brief.layout == "twin_boom":
        span = min(span, 2 * (_boom_out(brief, size) - 0.012) / PROP_OVER_SPAN)
    motors = 2 if arrangement_of(brief.layout).motor == "each_body" else 1
    air_density = density(brief.elevation, brief.temperature_c)
    return first_power_train(
        brief, shelf, mass, air_density, span, motors=motors, mean_power=mean_power, receiver=receiver
    )


def _boom_out(brief: Brief, size: Size) -> float:
    return next(s.y for s in airframe_surfaces(brief, size, size.mac) if s.role == "fin")


def _nose_limits(brief: Brief, size: Size, train: PowerTrain | None) -> tuple[float, float]:
    pack = train.pack.length if train else 0.05
    motor = train.motor.length if train else 0.02
    if arrangement_of(brief.layout).family == "canard":
        return 1.1 * size.mac, 1.1 * size.mac + 1.1 * pack + 3.0 * size.mac
    return motor + 0.03, motor + 0.05 + 1.1 * pack + 2.0 * size.mac


def _servo(shelf: Shelf, mass: float) -> Servo:
    """Return a servo of about 1.2 % of the aircraft."""
    return min(shelf.servos, key=lambda servo: abs((servo.mass or 0.0) - 0.012 * mass))


def _assemble(brief: Brief, shelf: Shelf, size: Size, train: PowerTrain | None, nose: float, name: str) -> Design:
    numbers = Numbers(())
    surfaces = tuple(numbered(s, KIND_OF["surfaces"], numbers) for s in airframe_surfaces(brief, size, nose))
    frame = frame_of(brief, size, surfaces, train)
    frame = frame._replace(bodies=tuple(numbered(b, KIND_OF["bodies"], numbers) for b in frame.bodies))
    if train is not None:
        train = train.model_copy(update={"mounts": frame.mounts})
    wheels = _wheels(brief, size, surfaces[0], train, frame) if brief.launch == "wheels" else ()
    parts = _airframe_items(brief, surfaces, frame, wheels)
    parts += _carried_items(brief, shelf, size, train, surfaces, frame)
    made = Design(
        name=name, brief=brief, surfaces=surfaces, bodies=frame.bodies, wheels=wheels, parts=parts, power=train
    )
    result: Design = hung(made)
    return result


def _wheels(brief: Brief, size: Size, wing: Surface, train: PowerTrain | None, frame: Frame) -> tuple[Wheel, ...]:
    radius = 0.5 * train.propeller.diameter if train else 0.0
    belly = min(s.z - 0.5 * s.height for body in frame.bodies for s in body.sections)
    low = min([belly, *(s.z for s in airframe_surfaces(brief, size, 0.2))])
    ground = min(low - 0.04, min(m.z for m in frame.mounts) - radius - 0.03)
    diameter = min(max(0.05 * size.span, 0.035), 0.12)
    x = wing.x + 0.05 * size.root
    return (Wheel(name="Main wheels", x=x, y=0.09 * size.span, z=ground + diameter / 2, diameter=diameter),)


def _centre(surface: Surface) -> tuple[float, float, float]:
    measured = measure_surface(surface)
    mean = measured.mean_chord
    return (
        surface.x + mean.x_leading_edge + 0.42 * mean.length,
        surface.y + mean.y * math.cos(surface.cant),
        measured.z_mean,
    )


def _recipe(brief: Brief, ident: str, mass: float, extent: Extent) -> Build:
    """Return a recipe in the brief's material whose share brings it to a mass: what joints and doublers add."""
    if _BASIS[brief.build_method] == "sheet":
        material, areal = _BOARD[brief.build_method]
        faced = brief.build_method == "foam_board"
        plain = Build(kind="sheet", material=material, of=ident, areal=areal, faced=faced)
        layers = 2.0 if mass > 1.4 * areal * extent.area else 1.0
        plain = plain.model_copy(update={"layers": layers})
    else:
        material, density = _PLASTIC[brief.build_method]
        plain = Build(kind="print", material=material, of=ident, density=density)
    whole = mass_of(plain, {ident: extent}) or mass
    return plain.model_copy(update={"share": round(mass / whole, 3)})


def _built(surface: Surface, mass: float, basis: Any, build: Build) -> Item:
    """Return the item of one surface's panels at its area's centre."""
    x, y, z = _centre(surface)
    count = 2 if surface.mirrored else 1
    return Item(
        name=f"{surface.name} panels" if surface.role == "wing" else surface.name,
        group="airframe",
        basis=basis,
        count=count,
        mirrored=surface.mirrored,
        x=x,
        y=y if surface.mirrored else 0.0,
        z=z,
        estimate=mass / count,
        build=build,
    )


def _body_item(body: Body, mass: float, basis: Any, build: Build | None) -> Item:
    pairs = list(pairwise(body.sections))
    moment = sum(0.5 * (a.x + b.x) * (b.x - a.x) * (a.width + b.width) for a, b in pairs)
    weight = sum((b.x - a.x) * (a.width + b.width) for a, b in pairs)
    count = 2 if body.mirrored else 1
    return Item(
        name=body.name,
        group="airframe",
        basis=basis,
        count=count,
        mirrored=body.mirrored,
        x=moment / weight,
        y=body.y if body.mirrored else 0.0,
        estimate=mass / count,
        build=build,
        place_sigma=0.01,
    )


def _airframe_items(
    brief: Brief, surfaces: tuple[Surface, ...], frame: Frame, wheels: tuple[Wheel, ...]
) -> tuple[Item, ...]:
    per_wing, per_tail, per_body = _AREAL[brief.build_method]
    basis: Any = _BASIS[brief.build_method]
    items, total = [], 0.0
    wings = arrangement_of(brief.layout).wings
    for index, surface in enumerate(surfaces):
        mass = (per_wing if index < wings else per_tail) * measure_surface(surface).true_area
        total += mass
        items.append(_built(surface, mass, basis, _recipe(brief, surface.id, mass, surface_extent(surface))))
    for body in frame.bodies:
        skin = measure_body(body)
        # Booms are bought tube; a metre of it weighs about what a metre of spar does.
        tube = 2 * _SPAR_PER_METRE * (body.stations[-1].x - body.stations[0].x)
        mass = tube if body.kind == "boom" else per_body * skin.wetted
        total += mass
        build = None if body.kind == "boom" else _recipe(brief, body.id, mass, body_extent(body))
        items.append(_body_item(body, mass, "stock" if body.kind == "boom" else basis, build))
    for wing in surfaces[:wings]:
        spar = _SPAR_PER_METRE * measure_surface(wing).span
        x = wing.x + 0.3 * wing.stations[0].chord
        name = "Spar" if wings == 1 else f"Spar, {wing.name.lower()}"
        build = Build(kind="length", material="Spar stock", of=wing.id, linear=_SPAR_PER_METRE)
        items.append(Item(name=name, group="structure", basis="stock", x=x, z=wing.z, estimate=spar, build=build))
    glue = _GLUE_SHARE * total
    x = _centre(surfaces[0])[0]
    items.append(Item(name="Glue and tape", group="adhesive", basis="adhesive", x=x, estimate=glue, place_sigma=0.02))
    for wheel in wheels:
        legs = 0.045 * brief.ceiling
        items.append(Item(name="Legs and wheels", group="gear", basis="stock", x=wheel.x, z=wheel.z, estimate=legs))
    return tuple(items)


def _carried_items(
    brief: Brief, shelf: Shelf, size: Size, train: PowerTrain | None, surfaces: tuple[Surface, ...], frame: Frame
) -> tuple[Item, ...]:
    servo, facts = _servo(shelf, size.mass), arrangement_of(brief.layout)
    wing = surfaces[0]
    half, root = wing.stations[-1].y, wing.stations[0].chord
    leads = 0.006 + 0.008 * size.span
    items = [
        Item(name="Receiver", group="radio", x=wing.x + 0.55 * root, estimate=_RECEIVER),
        Item(name="Leads", group="radio", basis="adhesive", x=wing.x + 0.2 * root, estimate=leads, place_sigma=0.02),
    ]
    scheme = controls_for(brief.layout, brief.controls)
    if scheme != "rudder_elevator":
        kind = "Elevon servos" if scheme == "elevons" else "Aileron servos"
        for each in surfaces[: facts.wings]:
            name = kind if facts.wings == 1 else f"{kind}, {each.name.lower()}"
            place = {"x": each.x + 0.5 * root, "y": 0.6 * half, "z": each.z}
            moved = _controls((each,), ROLL_CONTROLS)
            items.append(Item(name=name, group="radio", count=2, mirrored=True, servo=servo, drives=moved, **place))
    if facts.family == "tail":
        # Servos stay at the wing's trailing edge and push rods go aft: every gram at the tail costs nearly three.
        moved = _controls(tuple(s for s in surfaces if s.role in (*TAILS, "fin")), (*PITCH_CONTROLS, *YAW_CONTROLS))
        x = wing.x + 0.9 * root
        items.append(Item(name="Tail servos", group="radio", count=2, x=x, servo=servo, drives=moved))
    elif facts.family == "canard":
        plane = next(s for s in surfaces if s.role == "foreplane")
        x = plane.x + plane.stations[0].chord
        moved = _controls((plane,), PITCH_CONTROLS)
        items.append(Item(name="Foreplane servo", group="radio", x=x, servo=servo, drives=moved))
    if brief.payload > 0:
        low = -0.3 * size.height
        items.append(Item(name="Payload", group="payload", x=wing.x + 0.3 * root, z=low, estimate=brief.payload))
    if train is not None:
        items += _power_items(train, wing, frame.bodies[0], root)
    return tuple(items)


def _controls(surfaces: tuple[Surface, ...], kinds: tuple[str, ...]) -> tuple[str, ...]:
    """Return the ids of the controls of some kinds on some surfaces."""
    return tuple(dict.fromkeys(c.id for s in surfaces for c in s.controls if c.kind in kinds))


def _power_items(train: PowerTrain, wing: Surface, body: Body, root: float) -> list[Item]:
    front, mount = body.sections[0].x, train.mounts[0]
    bay = (front + 0.01, max(wing.x + 0.6 * root, front + 0.02 + 1.3 * train.pack.length))
    each = {"group": "power", "count": train.motors, "mirrored": mount.mirrored, "y": mount.y, "z": mount.z}
    motor = train.motor.name.partition(",")[0].removeprefix("Outrunner ")
    disc, can = disc_of(mount, train), along_shaft(mount, 0.5 * train.motor.length)
    return [
        Item(name=f"Propeller {size_words(train.propeller)}", component="propeller", x=disc[0], **each),
        Item(name=f"Motor {motor}", component="motor", x=can[0], **each),
        Item(name=train.esc.name, component="esc", x=mount.x + (_ESC_BACK if not mount.pusher else -_ESC_BACK), **each),
        Item(
            name=f"Pack {train.pack.name}",
            group="battery",
            component="pack",
            x=0.5 * (bay[0] + bay[1]),
            rail=Rail(front=bay[0], back=bay[1], item_length=train.pack.length),
        ),
    ]
