"""What a body does to the roll from sideslip of a wing on it: the flow round it lifts one side and sinks the other."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, Surface

#: Roll from sideslip per √A (z_w/b)((h + w)/b), 1/rad (Raymer, Aircraft Design, eq. 16.43, after DATCOM).
_CROSSFLOW = -1.2


class Section(NamedTuple):
    """A body's cross-section: full width and height, and the height of its middle over the datum, m."""

    width: float
    height: float
    middle: float


def section_at(body: Body, x: float) -> Section | None:
    """Return a body's cross-section at a place behind the datum, m; None before its nose or behind its tail.

    Parameters
    ----------
    body : Body
    x : float
        Behind the datum, m.

    Returns
    -------
    Section or None
        m.
    """
    sections = body.sections
    along = [station.x for station in sections]
    if not along[0] <= x <= along[-1]:
        return None
    rows = ([getattr(s, name) for s in sections] for name in ("width", "height", "z"))
    return Section(*(float(np.interp(x, along, row)) for row in rows))


def body_under(surface: Surface, bodies: tuple[Body, ...]) -> Section | None:
    """Return the section, at the root's quarter chord, of the body nearest sideways to a surface's root.

    Parameters
    ----------
    surface : Surface
    bodies : tuple of Body

    Returns
    -------
    Section or None
        m.
    """
    place = surface.x + 0.25 * surface.stations[0].chord
    found = [(abs(body.y - surface.y), body) for body in bodies]
    for _apart, body in sorted(found, key=lambda pair: pair[0]):
        here = section_at(body, place)
        if here is not None and here.width + here.height > 0:
            return here
    return None


def roll_from_sideslip(aspect_ratio: float, span: float, wing_height: float, here: Section) -> float:
    """Return a wing's C_lβ by its height on a body, 1/rad; negative above the middle. ±30 % (90 %).

    Parameters
    ----------
    wing_height : float
        Root of the wing over the datum, m.

    Source
    ------
    C_lβ = −1.2 √A (z_w/b)((h + w)/b), z_w over the body's middle: docs/theory.md §7.
    """
    over = wing_height - here.middle
    return _CROSSFLOW * math.sqrt(aspect_ratio) * over / span * (here.height + here.width) / span
