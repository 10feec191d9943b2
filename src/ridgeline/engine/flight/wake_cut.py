"""Whose wake a propeller's blades cut: what stands close ahead of its disc, and how often a turn."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.power import PowerTrain
from ridgeline.engine.geometry.placed import mirrored, placed_at

#: A wake is sharp, and heard when it is cut, within so many chords behind the trailing edge (chosen).
_SHARP = 1.0
#: Places along a surface that are looked at.
_PLACES = 41


class WakeCut(NamedTuple):
    """A surface whose wake a disc cuts: its place in the design, and how far ahead of the disc its edge is, m."""

    surface: int
    ahead: float


def wakes_cut(surfaces: tuple[Surface, ...], train: PowerTrain) -> tuple[WakeCut, ...]:
    """Return the surfaces whose wakes propellers cut, the nearest first.

    Parameters
    ----------
    surfaces : tuple of Surface
    train : PowerTrain

    Returns
    -------
    tuple of WakeCut

    Source
    ------
    The wake of a surface stays sharp for about its own chord: docs/theory.md §16 (chosen).
    """
    radius = train.propeller.diameter / 2
    found = []
    for index, surface in enumerate(surfaces):
        y = [station.y for station in surface.stations]
        here = placed_at(surface, np.linspace(y[0], y[-1], _PLACES))
        edge, chord = here.trailing, here.chord
        sides = (edge, mirrored(edge)) if surface.mirrored else (edge,)
        nearest = None
        for disc in all_discs(train):
            for points in sides:
                gap = disc[0] - points[:, 0]
                through = np.hypot(points[:, 1] - disc[1], points[:, 2] - disc[2]) < radius
                cut = through & (gap > 0) & (gap < _SHARP * chord)
                if cut.any() and (nearest is None or float(gap[cut].min()) < nearest):
                    nearest = float(gap[cut].min())
        if nearest is not None:
            found.append(WakeCut(index, nearest))
    return tuple(sorted(found, key=lambda one: one.ahead))
