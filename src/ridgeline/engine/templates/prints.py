"""The print list: every body to print, of what, how many, what it weighs, how long it takes, what is amiss."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from manifold3d import Manifold

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.construction import Printing
from ridgeline.design.document import Design
from ridgeline.design.shelf import Material, Shelf
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.openings import hatch_over_pack
from ridgeline.engine.templates.printed_hulls import hulls_of
from ridgeline.engine.templates.printed_panels import TOO_LARGE, Panel, on_its_rib, panels_of
from ridgeline.engine.templates.small_parts import small_parts_of

#: Plastic laid down, mm³/s, slowest and fastest: foaming plastics and plain ones; what is lighter than this foams,
#: kg/m³ (second part of the handbook §15.4).
FLOW_FOAMING, FLOW_PLAIN, FOAMING = (2.0, 4.0), (5.0, 12.0), 900.0
#: Walls and infill of small parts, and the width of a line, m (chosen: what bolts and horns bear on is mostly wall).
SMALL_WALLS, SMALL_INFILL, LINE = 4, 0.4, 0.00045
#: A part at a motor, or left in a parked car, gets so warm, °C; what softens at less is told (handbook, second part
#: §15.4: no PLA at a motor or in a parked car).
AT_MOTOR, PARKED = 70.0, 60.0


class Hours(NamedTuple):
    """How long it takes, fastest and slowest, h."""

    fast: float
    slow: float


@dataclass(frozen=True)
class Print:
    """A body to print. ``mass`` kg and ``hours`` are of one; ``hand`` is 1 starboard, -1 port, 0 neither.

    ``walls`` lines, ``infill`` a share of the inside, ``softens`` °C; ``body`` mm, as it stands. ``warnings`` are those
    of the ``notes`` that heat can cost the part for.
    """

    key: str
    name: str
    of: str
    hand: int
    material: str
    count: int
    body: Manifold
    walls: float
    infill: float
    mass: float
    hours: Hours
    fits: bool
    notes: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    softens: float | None = None


def prints_of(design: Design, report: Report, stock: Shelf) -> tuple[Print, ...]:
    """Return the print list of a design: its printed surfaces and bodies cut to the bed, then its small parts.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    stock : Shelf
        Its plastics: what small parts are printed of, and when each one softens.

    Returns
    -------
    tuple of Print
        Parts to port are mirror images and stand for themselves. Parts of a shell weigh together what the shell
        weighs in the weight table.
    """
    shelf = {one.name: one for one in stock.materials if one.kind == "print"}
    return (*_shells(design, shelf), *_small(design, report, shelf))


def together(parts: Iterable[Print]) -> tuple[float, Hours]:
    """Return the mass of all parts, kg, and how long all of them take.

    Parameters
    ----------
    parts : iterable of Print

    Returns
    -------
    mass : float
    hours : Hours
    """
    every = tuple(parts)
    fast, slow = (math.fsum(one.hours[k] * one.count for one in every) for k in (0, 1))
    return math.fsum(one.mass * one.count for one in every), Hours(fast, slow)


def deposit_hours(mass: float, density: float) -> Hours:
    """Return how long a mass of a plastic takes to be laid down.

    Parameters
    ----------
    mass : float
        kg.
    density : float
        As printed, kg/m³.

    Returns
    -------
    Hours
    """
    slow, fast = FLOW_FOAMING if density < FOAMING else FLOW_PLAIN
    volume = 1e9 * mass / density
    return Hours(volume / fast / 3600, volume / slow / 3600)


def _shells(design: Design, shelf: dict[str, Material]) -> Iterator[Print]:
    shells = {piece.of: piece for piece in pieces_of_design(design) if piece.group == "shell"}
    parts: list[Surface | Body] = [*design.surfaces, *design.bodies]
    for part in parts:
        if part.built is None or part.built.form != "printed" or part.id not in shells:
            continue
        panels = _panels(design, part)
        skins = [panel.body.surface_area() for panel in panels if panel.shell]
        whole = shells[part.id].mass
        printing = part.built.printing
        material = shelf.get(printing.material)
        for k, panel in enumerate(panels):
            # What is glued in besides is no part of what the shell weighs.
            mass = (whole * panel.body.surface_area() / sum(skins) if panel.shell
                    else printing.density * panel.body.volume() * 1e-9)  # fmt: skip
            one = Print(
                f"{part.id}.{k + 1}", f"{part.name}: {panel.name} {panel.number}", part.id, 0, printing.material, 1,
                panel.body, printing.perimeters, printing.infill, mass, deposit_hours(mass, printing.density),
                panel.fits, panel.notes, (), None if material is None else material.softens_c,
            )  # fmt: skip
            hot = _warm(one.softens, PARKED)
            yield from _both(replace(one, notes=(*one.notes, *hot), warnings=hot), part)


def _both(one: Print, part: Surface | Body) -> Iterator[Print]:
    """Yield a part, and its mirror image where there is a like one to port."""
    if not part.mirrored:
        yield one
        return
    yield replace(one, key=one.key + "s", name=f"{one.name}, starboard", hand=1)
    body = one.body.mirror((1.0, 0.0, 0.0))
    low = body.bounding_box()[:3]
    yield replace(one, key=one.key + "p", name=f"{one.name}, port", hand=-1,
                  body=body.translate([-value for value in low]))  # fmt: skip


def _panels(design: Design, part: Surface | Body) -> Sequence[Panel]:
    if isinstance(part, Surface):
        servos = [item for item in design.parts
                  if item.servo is not None and item.on is not None and item.on.to == part.id]  # fmt: skip
        return panels_of(part, servos, design.printer)
    return hulls_of(part, design.surfaces, hatch_over_pack(design, part), design.printer)


def _warm(softens: float | None, least: float) -> tuple[str, ...]:
    if softens is None or softens >= least:
        return ()
    where = "at the motor" if least == AT_MOTOR else "in a parked car"
    return (f"softens at {softens:.0f} °C: not {where}",)


def _small(design: Design, report: Report, shelf: dict[str, Material]) -> Iterator[Print]:
    """Yield the small parts, of the first plastic of the shelf that a motor does not soften."""
    able = [one for one in shelf.values() if one.softens_c is not None and one.softens_c >= AT_MOTOR]
    material = able[0] if able else None
    printing = Printing(material="PETG", density=1270.0) if material is None else Printing(
        material=material.name, density=material.amount)  # fmt: skip
    softens = None if material is None else material.softens_c
    for k, part in enumerate(small_parts_of(design, report)):
        volume = part.body.volume() * 1e-9
        wall = min(part.body.surface_area() * 1e-6 * LINE * SMALL_WALLS, volume)
        mass = printing.density * (wall + SMALL_INFILL * (volume - wall))
        body, fits = on_its_rib(part.body, design.printer)
        hot = _warm(softens, AT_MOTOR) if part.warm else ()
        notes = (*part.notes, *(() if fits else (TOO_LARGE,)), *hot)
        yield Print(f"small.{k + 1}", part.name, part.of, 0, printing.material, part.pieces, body, SMALL_WALLS,
                    SMALL_INFILL, mass, deposit_hours(mass, printing.density), fits, notes, hot, softens)  # fmt: skip
