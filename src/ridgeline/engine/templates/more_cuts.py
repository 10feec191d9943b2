"""Trays for servos and pack, and rings of cowls: small parts that follow the room inside a body."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.engine.build.seats import servo_case, servo_mass
from ridgeline.engine.templates.fittings import HORN_PLY, PLY_DENSITY, MountPlan, mounts_of
from ridgeline.engine.templates.openings import pack_of
from ridgeline.engine.templates.patterns import Label, Pattern, circle

Array = NDArray[np.float64]
#: A tray reaches so far beyond what sits on it, and leaves so much between two servos; a strap's slot; letters; m.
REACH, BETWEEN, STRAP, _LETTERS = 0.010, 0.004, (0.003, 0.022), 0.004
#: A tray less inclined than this is level, rad.
LEVEL = math.radians(1.0)
#: A ring is so wide, stands so far off the motor, m (chosen).
RING, AIR = 0.006, 0.005


def trays_of(design: Design, slot_fit: float) -> tuple[Pattern, ...]:
    """Return the trays of a design: for the servos that stand in a body of board, and for its pack.

    Parameters
    ----------
    design : Design
    slot_fit : float
        A tray is narrower than the room it slides into by this, m.

    Returns
    -------
    tuple of Pattern
        Of the body's own board; the pack's level, or at the angle the body's middle has there.
    """
    return (*_servo_trays(design, slot_fit), *_pack_trays(design, slot_fit))


def _boxes(design: Design) -> Iterator[Body]:
    for body in design.bodies:
        if body.built is not None and body.built.form in ("box", "folded_box"):
            yield body


def _room(body: Body, x: float) -> float:
    """Return how wide a box is inside at a place, m."""
    assert body.built is not None
    width = float(np.interp(x, [one.x for one in body.sections], [one.width for one in body.sections]))
    return width - 2 * body.built.sheet


def _tray(
    body: Body, key: str, name: str, long: float, wide: float, openings: tuple[Array, ...], *, between: bool = False
) -> Pattern:
    assert body.built is not None
    outline = np.array([(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)])
    size = min(_LETTERS, 0.9 * long / (0.6 * len(name)), 0.2 * wide)
    # Along its edge, or between the straps.
    label = Label(name, 0.5 * long, 0.5 * wide if between else 0.6 * size, size, 0.0)
    mass = body.built.board.areal * (long * wide)
    return Pattern(f"{body.id}.{key}", name, body.id, 0, body.built.board.material, body.built.sheet, outline, openings,
                   (), (label,), mass)  # fmt: skip


def _servo_trays(design: Design, slot_fit: float) -> Iterator[Pattern]:
    for body in _boxes(design):
        items = [item for item in design.parts if item.servo is not None and item.on is not None
                 and item.on.to == body.id and servo_mass(item) > 0]  # fmt: skip
        for k, item in enumerate(items):
            found = _servo_tray(body, item, k, slot_fit)
            if found is not None:
                yield found


def _servo_tray(body: Body, item: Item, number: int, slot_fit: float) -> Pattern | None:
    """Return a tray for servos that stand side by side, as many abreast as the body takes."""
    thick, wide = servo_case(servo_mass(item))
    room = _room(body, item.x if item.x is not None else body.sections[0].x) - slot_fit
    abreast = min(int((room - BETWEEN) // (thick + BETWEEN)), item.count)
    if abreast < 1:
        return None
    rows = math.ceil(item.count / abreast)
    long = rows * (wide + BETWEEN) - BETWEEN + 2 * REACH
    openings = []
    for n in range(item.count):
        row, column = divmod(n, abreast)
        x = REACH + row * (wide + BETWEEN)
        middle = 0.5 * room + (column - 0.5 * (min(abreast, item.count - row * abreast) - 1)) * (thick + BETWEEN)
        low, high = middle - 0.5 * thick, middle + 0.5 * thick
        openings.append(np.array([(x, low), (x, high), (x + wide, high), (x + wide, low)]))
    return _tray(body, f"tray{number}", f"{body.name}: tray, {item.name.lower()}", long, room, tuple(openings))


def _pack_trays(design: Design, slot_fit: float) -> Iterator[Pattern]:
    """Yield a level tray under the pack, with slots for two straps."""
    pack = pack_of(design)
    for body in _boxes(design) if pack is not None else ():
        assert pack is not None
        x = [one.x for one in body.sections]
        if not x[0] < pack.x < x[-1]:
            continue
        room = min(_room(body, max(pack.x - 0.5 * pack.long, x[0])), _room(body, min(pack.x + 0.5 * pack.long, x[-1])))
        room -= slot_fit
        if room < pack.wide + 2 * STRAP[0]:
            continue
        # It lies along the middle of the body, level or at that angle.
        z = np.interp([pack.x - 0.5 * pack.long, pack.x + 0.5 * pack.long], x, [one.z for one in body.sections])
        angle = math.atan2(float(z[1] - z[0]), pack.long)
        level = abs(angle) < LEVEL
        long = pack.long / (1.0 if level else math.cos(angle)) + 2 * REACH
        way = "level" if level else f"{math.degrees(abs(angle)):.0f}° nose {'down' if angle > 0 else 'up'}"
        openings = []
        for at in (0.3, 0.7):
            for side in (-1.0, 1.0):
                middle = 0.5 * room + side * (0.5 * pack.wide + 0.5 * STRAP[0])
                a, b = at * long - 0.5 * STRAP[1], at * long + 0.5 * STRAP[1]
                low, high = middle - 0.5 * STRAP[0], middle + 0.5 * STRAP[0]
                openings.append(np.array([(a, low), (a, high), (b, high), (b, low)]))
        yield _tray(body, "tray.pack", f"{body.name}: tray, pack, {way}", long, room,
                    tuple(openings), between=True)  # fmt: skip
        return


def cowl_rings_of(design: Design) -> tuple[Pattern, ...]:
    """Return a ring for each motor in a round nose: what its cowl is drawn over, with a way for the air inside.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Pattern
        Nothing of square noses, nor of those no larger than motor and air.
    """
    return tuple(_ring(plan, k) for k, plan in enumerate(mounts_of(design))
                 if plan.round and plan.width > plan.motor + 2 * (AIR + RING))  # fmt: skip


def _ring(plan: MountPlan, number: int) -> Pattern:
    outside, inside = 0.5 * plan.width, max(0.5 * plan.width - RING, 0.5 * plan.motor + AIR)
    outline, hole = circle(0.0, 0.0, outside), circle(0.0, 0.0, inside)
    mass = math.pi * (outside**2 - inside**2) * HORN_PLY[1] * PLY_DENSITY
    label = Label("cowl ring", 0.0, -0.5 * (outside + inside), 0.4 * (outside - inside), 0.0)
    return Pattern(f"cowl{number}", f"{plan.name}: cowl ring", "", 0, *HORN_PLY, outline, (hole,), (),
                   (label,), mass)  # fmt: skip
