"""How an aircraft is usually held together: each part's fastening, with the amounts that bear its loads."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.airframe import Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.design.fastening import Fastening
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, all_idents, numbered, references
from ridgeline.engine.aero.wing_body import section_at
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.report import Report
from ridgeline.engine.stages.fastening import Held
from ridgeline.engine.structure.fastened import stronger
from ridgeline.engine.weights.items import kinds_of

#: Amounts are solved to this share, so that the next gram aboard does not undo them.
_TO = 0.85
#: Up to this weight, kg, and so many strands a side, a wing is held by bands, else and where it is printed by bolts
#: (usual).
_BANDS_UP_TO, _MOST_STRANDS = 2.0, 18
#: Wires that legs begin with, by the weight they carry, kg and m (usual).
_LEGS = ((0.3, 0.0015), (1.0, 0.0025), (3.0, 0.003), (1e9, 0.005))


def usual_fastenings(design: Design, report: Report) -> tuple[Fastening, ...]:
    """Return how a design is usually held together, each fastening with the least that bears.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    tuple of Fastening
        With ids; none where its loads are not known.
    """
    held = report.results.fastened
    if held is None:
        return ()
    numbers = Numbers([*all_idents(design), *all_idents(design.aside), *references(design)])
    return tuple(numbered(_solved(one, held), KIND_OF["fastenings"], numbers) for one in _usual(design, held))


def _solved(one: Fastening, held: Held) -> Fastening:
    """Return a fastening that bears; bolts where it would take more bands than anybody stretches."""
    better = stronger(one, held.doing, _TO)
    if one.kind == "bands" and (better is None or better.count > _MOST_STRANDS):
        name = one.name.replace("bands", "nylon bolts")
        one = Fastening(kind="bolts", name=name, of=one.of, count=2, size=0.003)
        better = stronger(one, held.doing, _TO)
    return better or one


def _usual(design: Design, held: Held) -> Iterator[Fastening]:
    mass = held.doing.mass
    for surface in design.surfaces:
        if surface.role in WINGS and surface.mirrored:
            yield _seat(design, surface, mass)
    for surface in design.surfaces:
        if surface.role in (*TAILS, "fin"):
            root = surface.stations[0].chord
            yield Fastening(kind="bond", name=f"{surface.name}, glued", of=surface.id, length=round(0.8 * root, 3),
                            width=0.012 if surface.role == "fin" else 0.03)  # fmt: skip
    if design.power is not None:
        for k, mount in enumerate(design.power.mounts):
            name = "Motor mount, screws" if len(design.power.mounts) == 1 else f"Motor mount {k + 1}, screws"
            across = design.power.motor.bolt_circle or 0.7 * design.power.motor.diameter
            yield Fastening(
                kind="screws", name=name, of=mount.id, count=4, size=0.003, width=round(max(across, 0.004), 4)
            )
    for k in kinds_of(design.parts).links.get("pack", ()):
        yield Fastening(kind="strap", name="Pack strap", of=design.parts[k].id)
    for wheel in design.wheels:
        if wheel.mirrored and abs(wheel.y) > 0.01:
            size = next(size for most, size in _LEGS if mass <= most)
            yield Fastening(kind="legs", name="Legs, wire", of=wheel.id, count=2, size=size,
                            length=round(max(abs(wheel.y) - _half_width(design, wheel), 0.02), 3))  # fmt: skip
    for body in design.bodies:
        if body.kind == "boom":
            # Of the section it has in its middle; a stick says its own bore.
            middle = body.stations[len(body.stations) // 2]
            outer = max(min(middle.width, middle.height), 0.002)
            built = body.built
            inner = built.inner if built is not None and built.form == "stick" else max(outer - 0.002, 0.0)
            long = body.stations[-1].x - body.stations[0].x
            pair = 2 if body.mirrored else 1
            yield Fastening(kind="boom", name=body.name, of=body.id, count=pair, size=outer, length=round(long, 3),
                            inner=round(min(inner, 0.9 * outer), 4))  # fmt: skip
            yield Fastening(kind="socket", name=f"{body.name}, its socket", of=body.id, count=pair, size=outer,
                            length=0.06)  # fmt: skip


def _half_width(design: Design, wheel: Wheel) -> float:
    """Return half the width of the body over a wheel, m: legs are held at its sides."""
    found = (section_at(body, wheel.x) for body in design.bodies if abs(body.y) < 0.01)
    return max((0.5 * here.width for here in found if here is not None), default=0.0)


def _seat(design: Design, surface: Surface, mass: float) -> Fastening:
    if mass <= _BANDS_UP_TO and design.brief.build_method in ("foam_board", "extruded_foam"):
        return Fastening(kind="bands", name=f"{surface.name} seat, bands", of=surface.id, count=4, length=0.02)
    return Fastening(kind="bolts", name=f"{surface.name} seat, nylon bolts", of=surface.id, count=2, size=0.003)
