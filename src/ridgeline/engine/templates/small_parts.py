"""Small printed parts: motor mounts with their angles, horns, servo frames, wheels, gauge feet, tip jigs; all in mm."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from manifold3d import Manifold
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.fittings import FramePlan, HornPlan, MountPlan, frames_of, horns_of, mounts_of
from ridgeline.engine.templates.solids import NoSolid, box, disc, loft, on_bed, plate

Array = NDArray[np.float64]
#: A mount's plate, and the least of its pad over that; screws at its corners and how far from them; a horn's cheek, its
#: foot and that foot's thickness; mm (chosen).
PLATE, PAD, SCREW, CORNER, CHEEK, FLANGE, SOLE = 3.0, 2.0, 2.6, 5.0, 2.0, 8.0, 1.2
#: A servo's frame is so wide and thick, and so much larger than the servo; a tyre is this share of a wheel's height
#: wide, with an axle of so much, mm; feet of gauges; a tip jig stands on a foot, and is no higher than this, mm.
RIM, THICK, LOOSE, TYRE, AXLE = 4.0, 2.0, 0.4, 0.25, 2.2
FOOT, JIG, JIG_MOST = (30.0, 24.0, 14.0), (40.0, 30.0), 180.0
#: Pin of a linkage in its horn, mm.
PIN = 1.6


class SmallPart(NamedTuple):
    """A small part: its name, what it is of, its body on the bed, how many, and what is to be known of it."""

    name: str
    of: str
    body: Manifold
    pieces: int
    notes: tuple[str, ...] = ()
    warm: bool = False


def small_parts_of(design: Design, report: Report) -> tuple[SmallPart, ...]:
    """Return the small parts of a design that are printed.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design: its linkages at their sizes.

    Returns
    -------
    tuple of SmallPart
    """
    return (
        *(_mount(plan) for plan in mounts_of(design)),
        *(_horn(plan) for plan in horns_of(design, report)),
        *(_frame(plan) for plan in frames_of(design)),
        *(_wheel(wheel) for wheel in design.wheels),
        *_gauge_feet(design),
        *_jigs(design),
    )


def mount_body(plan: MountPlan) -> Manifold:
    """Return a motor mount: a plate, and on it a pad whose face is square to the shaft.

    Parameters
    ----------
    plan : MountPlan

    Returns
    -------
    Manifold
        The firewall's side on the bed, up away from the lower edge of the drawing; the shaft leaves upwards, tilted
        towards the lower edge by ``down`` and to the left, seen from ahead, by ``right``.
    """
    w, h = 500 * plan.width, 500 * plan.height
    outline = disc(0.0, 0.0, 2 * w) if plan.round else np.array([(-w, -h), (w, -h), (w, h), (-w, h)])
    radius = min(500 * plan.motor + 2.0, w, h)
    # Seen from ahead, starboard is on the left: a shaft that points right leans to the left of the drawing.
    normal = np.array([-math.sin(plan.right), -math.sin(plan.down), 1.0])
    normal[2] = math.sqrt(max(1.0 - normal[0] ** 2 - normal[1] ** 2, 1e-6))
    lean = math.hypot(normal[0], normal[1]) / normal[2]
    middle = PLATE + PAD + radius * lean
    pad = Manifold.cylinder(middle + radius * lean + 1.0, radius, circular_segments=96)
    pad = pad.trim_by_plane((-normal).tolist(), -float(normal[2] * middle))
    body = plate(outline, PLATE) + pad
    holes = [(1000 * x, 1000 * y, 1000 * plan.bolt) for x, y in plan.bolts] + [(0.0, 0.0, 1000 * plan.shaft)]
    for x, y, wide in holes:
        body = body - _drill(np.array([x, y]), wide, normal, middle)
    if not plan.round:
        for sx in (-1, 1):
            for sy in (-1, 1):
                at = np.array([sx * (w - CORNER), sy * (h - CORNER)])
                if math.hypot(*at) > radius + SCREW:
                    body = body - _drill(at, SCREW, np.array([0.0, 0.0, 1.0]), 0.0)
    return body


def _drill(at: Array, wide: float, normal: Array, middle: float) -> Manifold:
    """Return a hole along a direction, through a place on the face that stands square to it."""
    across = np.cross([0.0, 1.0, 0.0], normal)
    across /= np.linalg.norm(across)
    up = np.cross(normal, across)
    centre = np.array([0.0, 0.0, middle]) + at[0] * across + at[1] * up
    rings = [centre + far * normal + disc(0.0, 0.0, wide)[:, :1] * across + disc(0.0, 0.0, wide)[:, 1:] * up
             for far in (-60.0, 60.0)]  # fmt: skip
    return loft(rings)


def _mount(plan: MountPlan) -> SmallPart:
    down, right = math.degrees(plan.down), math.degrees(plan.right)
    told = [f"{down:.1f}° down, {right:.1f}° right"]
    if not plan.measured:
        told.append(f"bolt circle of its class, {1000 * plan.circle:.1f} mm: measure the motor first")
    return SmallPart(plan.name, "", on_bed(mount_body(plan)), plan.pieces, tuple(told), warm=True)


def _horn(plan: HornPlan) -> SmallPart:
    """Return a horn lying on its cheek, its foot standing."""
    cheek = plate(1000 * np.asarray(plan.outline.exterior.coords)[:-1], CHEEK,
                  [disc(-1000 * plan.ahead, 1000 * y, PIN) for y in plan.holes])  # fmt: skip
    foot = box((0.0, 0.0, 0.0), (1000 * plan.base, SOLE, FLANGE))
    return SmallPart(plan.name, "", on_bed(cheek + foot), plan.pieces)


def _frame(plan: FramePlan) -> SmallPart:
    inside = 1000 * plan.wide + LOOSE
    out = 0.5 * inside + RIM
    square = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)], float)
    holes = [square * 0.5 * inside, *(disc(sx * (out - 0.5 * RIM), sy * (out - 0.5 * RIM), PIN)
                                      for sx in (-1, 1) for sy in (-1, 1))]  # fmt: skip
    return SmallPart(plan.name, "", on_bed(plate(square * out, THICK, holes)), plan.pieces)


def _wheel(wheel: Wheel) -> SmallPart:
    diameter, wide = 1000 * wheel.diameter, 1000 * TYRE * wheel.diameter
    holes = [disc(0.0, 0.0, AXLE)]
    # Round holes between hub and tyre, where there is room for them.
    room = 0.5 * diameter - 6.0 - 5.0
    if room > 6.0:
        middle = 5.0 + 0.5 * room
        holes += [disc(middle * math.cos(a), middle * math.sin(a), min(0.8 * room, 0.9 * middle))
                  for a in 2 * math.pi * np.arange(5) / 5]  # fmt: skip
    body = on_bed(plate(disc(0.0, 0.0, diameter), wide, holes))
    return SmallPart(wheel.name, wheel.id, body, 2 if wheel.mirrored else 1)


def _gauge_feet(design: Design) -> Iterator[SmallPart]:
    """Yield the feet that gauges cut from board stand in: a pair for each thickness of board."""
    sheets = {round(1000 * s.sheet, 2) for s in design.surfaces
              if s.built is not None and s.built.form not in ("printed", "bought", "core")}  # fmt: skip
    for sheet in sorted(sheets):
        long, wide, tall = FOOT
        slot = box((-1.0, 0.5 * (wide - sheet), 4.0), (long + 1.0, 0.5 * (wide + sheet), tall + 1.0))
        yield SmallPart(f"Gauge foot, {sheet:g} mm board", "", box((0.0, 0.0, 0.0), FOOT) - slot, 2)


def _jigs(design: Design) -> Iterator[SmallPart]:
    """Yield a block under each wing tip that stands higher than its root, its top along the panel."""
    for surface in design.surfaces:
        if surface.role != "wing" or not surface.mirrored:
            continue
        rise, slope = _rise(surface)
        if 1.0 < rise <= JIG_MOST:
            wide, long = JIG
            tops = rise + 0.5 * wide * slope * np.array([-1.0, 1.0])
            if tops.min() < 1.0:
                continue
            low, high = tops
            rings = [[(0.0, y, 0.0), (wide, y, 0.0), (wide, y, high), (0.0, y, low)] for y in (0.0, long)]
            try:
                body = loft(np.array(rings)[::-1])
            except NoSolid:
                body = loft(np.array(rings))
            yield SmallPart(f"{surface.name}: tip jig", surface.id, body, 2, (f"{rise:.0f} mm under the tip",))


def _rise(surface: Surface) -> tuple[float, float]:
    """Return how high the tip stands over the root, mm, and the slope of the panel there."""
    inner, outer = surface.stations[-2:]
    angle = math.atan2(outer.z - inner.z, outer.y - inner.y) + surface.cant
    root = surface.stations[0]
    c, s = math.cos(surface.cant), math.sin(surface.cant)
    rise = (outer.y - root.y) * s + (outer.z - root.z) * c
    return 1000 * rise, math.tan(angle)
