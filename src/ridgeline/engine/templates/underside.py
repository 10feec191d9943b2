"""A scheme for the underside: two bars to starboard, one to port, so that a pilot below knows which side is which."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon, box
from shapely.geometry.base import BaseGeometry

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.build.developed import leading_of

Array = NDArray[np.float64]
#: Where bars lie and how wide they are, of the panel's length; what stays free at edges and hinges, m; a bar smaller
#: than this is none, m² (chosen: they read apart from below at any height a model is flown at).
BARS, WIDE, EDGE, _LEAST = {1: (0.52, 0.70), -1: (0.61,)}, 0.11, 0.006, 1e-5
_SIDES = {1: "starboard", -1: "port"}


class Decal(NamedTuple):
    """A shape to stick on: its name, and its outline as it is seen from below, along the panel and back, m."""

    name: str
    outline: Array


def decals_of(design: Design) -> tuple[Decal, ...]:
    """Return the bars of a design's underside, clear of its edges and hinges.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Decal
        On every wing that has a like panel on the other side.
    """
    return tuple(decal for surface in design.surfaces for decal in _on(surface))


def _on(surface: Surface) -> list[Decal]:
    if surface.role != "wing" or not surface.mirrored or is_upright(surface):
        return []
    y, chord = (np.array([getattr(one, name) for one in surface.stations]) for name in ("y", "chord"))
    s, lead = leading_of(surface).T
    panel = Polygon([*zip(s, lead, strict=True), *zip(s[::-1], (lead + chord)[::-1], strict=True)])
    free: BaseGeometry = panel.buffer(-EDGE, join_style="mitre")
    for control in surface.controls:
        ends = np.interp([control.start, control.end], y, s)
        share = 1 - hinge_share(surface, control, [control.start, control.end])
        hinge = np.interp(ends, s, lead) + share * np.interp(ends, s, chord)
        free = free.difference(Polygon([(ends[0], hinge[0] - EDGE), (ends[1], hinge[1] - EDGE),
                                        (ends[1], hinge[1] + EDGE), (ends[0], hinge[0] + EDGE)]))  # fmt: skip
    found = []
    for side, bars in BARS.items():
        for number, at in enumerate(bars):
            half = 0.5 * WIDE * s[-1]
            shape = free.intersection(box(at * s[-1] - half, -9.0, at * s[-1] + half, 9.0))
            for part in getattr(shape, "geoms", [shape]):
                if isinstance(part, Polygon) and part.area > _LEAST:
                    ring = np.asarray(part.exterior.coords)[:-1]
                    # From below, starboard lies to the left.
                    turned = ring * (-float(side), -1.0)
                    found.append(Decal(f"{surface.name}: bar {number + 1}, {_SIDES[side]}", turned))
    return found
