"""Lightening holes: a row along a panel, where there is land enough to spars, hinges and edges."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import SurfaceBuild
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.build.seats import Seat

Array = NDArray[np.float64]


def holes_in(
    surface: Surface, built: SurfaceBuild, s: Array, lead: Array, chord: Array, seats: tuple[Seat, ...] = ()
) -> tuple[tuple[float, float, float], ...]:
    """Return the holes that fit, each (along, back, diameter), m, in the plane of the unfolded panel.

    Parameters
    ----------
    surface : Surface
        Whose hinges are kept clear.
    built : SurfaceBuild
        Whose holes and spars they are.
    s, lead, chord : ndarray, shape (n,)
        Distance along the panel, leading edge and chord there, m.
    seats : tuple of Seat
        Of the servos that sit in the panel.

    Returns
    -------
    tuple of (float, float, float)
        Fewer than asked for where there is no room: each sits in the middle of the widest strip of sheet that is left
        between the edges, spars, hinge and servos where it lies.
    """
    holes = built.holes
    if holes is None:
        return ()
    first, last = s[0] + holes.land, s[-1] - holes.land
    pitch = (last - first) / holes.count
    if pitch < holes.size + holes.land:
        # Holes closer than their land would leave no sheet: as many as there is room for.
        count = int((last - first) // (holes.size + holes.land))
        pitch = (last - first) / count if count > 0 else 0.0
    else:
        count = holes.count
    found = []
    for k in range(count):
        along = float(first + (k + 0.5) * pitch)
        middle = _middle_of_strip(surface, built, s, lead, chord, along, seats)
        if middle is not None:
            found.append((along, middle, holes.size))
    return tuple(found)


def _middle_of_strip(
    surface: Surface,
    built: SurfaceBuild,
    s: Array,
    lead: Array,
    chord: Array,
    along: float,
    seats: tuple[Seat, ...],
) -> float | None:
    """Return the middle of the widest strip that a hole fits in with its land, m behind the surface's origin."""
    assert built.holes is not None
    reach = 0.5 * built.holes.size
    here = np.linspace(along - reach, along + reach, 5)
    front, width = np.interp(here, s, lead), np.interp(here, s, chord)
    length = float(s[-1] - s[0])
    y = [station.y for station in surface.stations]
    # Bounds across the whole width of the hole: behind the one before, ahead of the one after.
    edges = [(float(front.max()), float(front.max())), (float((front + width).min()),) * 2]
    for spar in built.spars:
        if spar.start * length - reach < along < spar.end * length + reach:
            line = front + spar.place * width
            edges.append((float(line.min()) - 0.5 * spar.width, float(line.max()) + 0.5 * spar.width))
    for control in surface.controls:
        ends = np.interp([control.start, control.end], y, s)
        if ends[0] - reach < along < ends[1] + reach:
            line = front + (1 - hinge_share(surface, control, np.interp(here, s, y))) * width
            edges.append((float(line.min()), float(line.max())))
    for seat in seats:
        out, half = float(np.interp(seat.out, y, s)), 0.5 * seat.size
        if abs(out - along) < reach + half + built.holes.land:
            line = front + seat.share * width
            edges.append((float(line.min()) - half, float(line.max()) + half))
    edges.sort()
    gaps = [(b[0] - a[1], 0.5 * (a[1] + b[0])) for a, b in pairwise(edges)]
    room, middle = max(gaps)
    return middle if room >= built.holes.size + 2 * built.holes.land else None
