"""Volumes, surfaces and lengths of bodies given as cross-sections."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Body
from ridgeline.engine.kept import kept


@dataclass(frozen=True)
class BodyGeometry:
    """Volume m³, wetted, frontal and planform area m², length m and fineness ratio of one body (both if mirrored)."""

    volume: float
    wetted: float
    frontal: float
    planform: float
    length: float
    fineness: float


@kept()
def measure_body(body: Body) -> BodyGeometry:
    """Integrate a body between its cross-sections.

    ``rounding`` blends a box (area w·h, perimeter 2(w+h)) with an ellipse (π w h/4, Ramanujan's perimeter).

    Parameters
    ----------
    body : Body

    Returns
    -------
    BodyGeometry
        One of a pair.

    Source
    ------
    docs/theory.md §4. Frustum rule for volume; perimeters averaged along the skin for the wetted area.
    """
    rows = np.array([(s.x, s.width, s.height) for s in body.sections], float)
    x, width, height = rows[:, 0], rows[:, 1], rows[:, 2]
    box, ellipse = width * height, math.pi * width * height / 4
    rounding = np.array(body.roundings)
    area = box + rounding * (ellipse - box)
    a, b = width / 2, height / 2
    round_perimeter = math.pi * (3 * (a + b) - np.sqrt((3 * a + b) * (a + 3 * b)))
    perimeter = 2 * (width + height) * (1 - rounding) + rounding * round_perimeter
    dx = np.diff(x)
    volume = float(np.sum(dx * (area[1:] + area[:-1] + np.sqrt(area[1:] * area[:-1])) / 3))
    slant = np.hypot(dx, 0.25 * (np.diff(width) + np.diff(height)))
    wetted = float(np.sum(slant * 0.5 * (perimeter[1:] + perimeter[:-1])))
    length, frontal = float(x[-1] - x[0]), float(area.max())
    copies = 2 if body.mirrored else 1
    diameter = math.sqrt(4 * frontal / math.pi) if frontal > 0 else 1e-6
    seen = float(np.sum(dx * 0.5 * (width[1:] + width[:-1])))
    return BodyGeometry(copies * volume, copies * wetted, copies * frontal, copies * seen, length, length / diameter)


def underside(bodies: Iterable[Body], x: float) -> float:
    """Return how high the lowest body's underside lies over the datum at a place along the aircraft, m.

    Parameters
    ----------
    bodies : iterable of Body
    x : float
        Aft of the datum, m.

    Returns
    -------
    float
        0 where no body is.
    """
    found = 0.0
    for body in bodies:
        xs = [s.x for s in body.sections]
        if xs[0] <= x <= xs[-1]:
            found = min(found, float(np.interp(x, xs, [s.z - 0.5 * s.height for s in body.sections])))
    return found
