"""How an aircraft is usually held together: each part's fastening, with the amounts that bear its loads."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Any

from ridgeline.design.airframe import Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.design.fastening import BRACES, Fastening, FasteningKind
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, all_idents, numbered, references
from ridgeline.design.power import Mount
from ridgeline.engine.aero.wing_body import section_at
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.report import Report
from ridgeline.engine.sizing.outfit import STRUT_WIDTH, STRUTS_OUT
from ridgeline.engine.stages.fastening import Held
from ridgeline.engine.structure.fastened import stronger
from ridgeline.engine.weights.items import kinds_of

#: Amounts are solved to this share, so that the next gram aboard does not undo them.
_TO = 0.85
#: Up to this weight, kg, and so many strands a side, a wing is held by bands, else and where it is printed by bolts
#: (usual).
_BANDS_UP_TO, _MOST_STRANDS = 2.0, 18
#: Braces begin this far out, of the half span; wings this far one over another, of the chord, are strutted (usual).
_BRACED_OUT, _STACKED = 0.5, 0.3
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
    prints = {} if report.shelf is None else {one.name: one.softens_c for one in report.shelf.materials}
    return tuple(numbered(_solved(one, held), KIND_OF["fastenings"], numbers) for one in _usual(design, held, prints))


def usual_sizes(design: Design, kind: FasteningKind, of: str) -> dict[str, Any]:
    """Return the sizes that a fastening of a kind is begun with, where those of the document do not suit.

    Parameters
    ----------
    design : Design
    kind : str
    of : str
        Id of what it holds.

    Returns
    -------
    dict
        By field.
    """
    surface = next((s for s in design.surfaces if s.id == of), None)
    if kind in BRACES and surface is not None:
        others = [s for s in design.surfaces if s.role in WINGS and s.id != of]
        under = min(others, key=lambda s: s.z, default=None)
        body = next((b for b in design.bodies if b.kind == "fuselage"), None)
        on = under if under is not None and under.z < surface.z else body
        out = round(_BRACED_OUT * surface.stations[-1].y, 3)
        foot = out if on is under and under is not None else 0.03
        size = 0.0005 if kind == "thread" else 0.003
        return {"out": out, "foot": foot, "to": "" if on is None else on.id, "size": size}
    if kind == "lines" and surface is not None:
        return {"out": round(0.3 * surface.stations[-1].y, 3)}
    if kind == "firewall":
        return {"length": 0.04, "width": 0.005, "sheet": 0.003}
    if kind == "blade_stop":
        return {"length": 0.006, "size": 0.002}
    return {"length": 0.02, "width": 0.012} if kind == "servo_seat" else {}


def _solved(one: Fastening, held: Held) -> Fastening:
    """Return a fastening that bears, as it is where none of its kind does."""
    return stronger(one, held.doing, _TO) or one


def _softens(design: Design, mount: Mount, prints: Mapping[str, float | None]) -> float | None:
    """Return at which temperature what a motor is screwed to gives, °C; None of ply, and of what is not known."""
    near = min(design.bodies, key=lambda body: abs(body.y - mount.y), default=None)
    if near is None or near.built is None or near.built.form != "printed":
        return None
    return prints.get(near.built.printing.material)


def _usual(design: Design, held: Held, prints: Mapping[str, float | None]) -> Iterator[Fastening]:
    mass = held.doing.mass
    for surface in design.surfaces:
        if surface.role in WINGS and surface.mirrored:
            yield _seat(design, surface, held)
    wings = sorted((s for s in design.surfaces if s.role in WINGS and s.mirrored), key=lambda s: -s.z)
    for upper, lower in pairwise(wings):
        if upper.z - lower.z > _STACKED * upper.stations[0].chord:
            # Front and rear.
            name = f"Struts, {upper.name.lower()} to {lower.name.lower()}"
            out = round(STRUTS_OUT * min(upper.stations[-1].y, lower.stations[-1].y), 3)
            yield Fastening(kind="strut", name=name, of=upper.id, to=lower.id, count=2, size=STRUT_WIDTH,
                            out=out, foot=out, length=0.03, width=0.02)  # fmt: skip
    for surface in design.surfaces:
        if surface.role in (*TAILS, "fin"):
            root = surface.stations[0].chord
            yield Fastening(kind="bond", name=f"{surface.name}, glued", of=surface.id, length=round(0.8 * root, 3),
                            width=0.012 if surface.role == "fin" else 0.03)  # fmt: skip
    if design.power is not None:
        for k, mount in enumerate(design.power.mounts):
            name = "Motor mount, screws" if len(design.power.mounts) == 1 else f"Motor mount {k + 1}, screws"
            across = design.power.motor.bolt_circle or 0.7 * design.power.motor.diameter
            yield Fastening(kind="screws", name=name, of=mount.id, count=4, size=0.003,
                            width=round(max(across, 0.004), 4), softens_c=_softens(design, mount, prints))  # fmt: skip
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


def _seat(design: Design, surface: Surface, held: Held) -> Fastening:
    """Return bands, or bolts where it would take more bands than anybody stretches."""
    if held.doing.mass <= _BANDS_UP_TO and design.brief.build_method in ("foam_board", "extruded_foam"):
        bands = Fastening(kind="bands", name=f"{surface.name} seat, bands", of=surface.id, count=4, length=0.02)
        better = stronger(bands, held.doing, _TO)
        if better is not None and better.count <= _MOST_STRANDS:
            return bands
    return Fastening(kind="bolts", name=f"{surface.name} seat, nylon bolts", of=surface.id, count=2, size=0.003)
