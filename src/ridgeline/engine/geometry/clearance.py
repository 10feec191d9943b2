"""How far propeller discs stand from the ground, from one another, and from the airframe."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.axes import discs_of
from ridgeline.design.power import Mount, PowerTrain
from ridgeline.engine.geometry.placed import mirrored, placed_at
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]
_RING = 72
#: Within this share of the radius the hub, its motor and its own body stand: nothing turns into them.
_HUB = 0.35


#: Room wanted under a propeller and round it, m (handbook of the trade §8).
LEAST_GROUND, LEAST_APART = 0.025, 0.008


@dataclass(frozen=True)
class Clearance:
    """Least distances of the discs, m: to the ground (None without wheels), and to the nearest part with its name."""

    ground: float | None
    nearest: float | None
    part: str


def disc_ring(mount: Mount, place: tuple[float, float, float], side: int, radius: float) -> Array:
    """Return points round a propeller's tip circle, tilted with its shaft, shape (n, 3), m.

    Parameters
    ----------
    mount : Mount
    place : tuple of float
        Of the disc, m.
    side : int
        1 starboard, −1 port.
    radius : float
        m.

    Returns
    -------
    ndarray, shape (n, 3)
        m.
    """
    theta = 2 * math.pi * np.arange(_RING) / _RING
    down, right = mount.down, side * mount.right
    axis = np.array([-math.cos(down) * math.cos(right), math.sin(right), -math.sin(down)])
    axis /= np.linalg.norm(axis)
    across = np.cross(axis, np.array([0.0, 0.0, 1.0]))
    across /= np.linalg.norm(across)
    up = np.cross(across, axis)
    result: Array = np.array(place) + radius * (np.cos(theta)[:, None] * across + np.sin(theta)[:, None] * up)
    return result


@kept(64)
def _surface_points(surface: Surface) -> Array:
    """Return points over a surface's chord plane, both sides."""
    stations = [s.y for s in surface.stations]
    fine = np.linspace(0, len(stations) - 1, 6 * (len(stations) - 1) + 1)
    here = placed_at(surface, np.interp(fine, range(len(stations)), stations))
    points = here.points(np.linspace(0, 1, 9)).reshape(-1, 3)
    return np.vstack([points, mirrored(points)]) if surface.mirrored else points


@kept(64)
def _body_points(body: Body) -> Array:
    """Return points round a body's skin, both sides."""
    rows = np.array([(s.x, s.width, s.height, s.z) for s in body.sections])
    x = np.linspace(rows[0, 0], rows[-1, 0], 30)
    w, h, z = (np.interp(x, rows[:, 0], rows[:, k]) for k in (1, 2, 3))
    theta = 2 * math.pi * np.arange(8) / 8
    y = body.y + 0.5 * w[:, None] * np.cos(theta)
    up = z[:, None] + 0.5 * h[:, None] * np.sin(theta)
    points = np.column_stack([np.repeat(x, 8), y.ravel(), up.ravel()])
    return np.vstack([points, mirrored(points)]) if body.mirrored else points


def clearance_of(
    train: PowerTrain,
    radius: float,
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    wheels: tuple[Wheel, ...],
) -> Clearance:
    """Return the least distances of all discs.

    Parameters
    ----------
    train : PowerTrain
        Whose mounts and motor say where the discs turn.
    radius : float
        Of the propeller, m.

    Source
    ------
    Tip circle against points of the other parts; what lies within the hub's share of the radius is left out.
    """
    discs = [
        (place, disc_ring(m, place, side, radius))
        for m in train.mounts
        for side, place in zip((1, -1), discs_of(m, train), strict=False)
    ]
    ground = None
    if wheels:
        level = min(w.z - 0.5 * w.diameter for w in wheels)
        ground = min(float(ring[:, 2].min()) for _place, ring in discs) - level
    nearest, part = math.inf, ""
    for index, (place, ring) in enumerate(discs):
        tilted = float(np.abs(ring[:, 0] - place[0]).max())
        others: list[Surface | Body] = [*surfaces, *bodies]
        for other in others:
            found = _gap(other, place, tilted, radius)
            if found < nearest:
                nearest, part = found, other.name
        for second, _ring in discs[index + 1 :]:
            apart = math.dist(place[1:], second[1:]) - 2 * radius
            if abs(place[0] - second[0]) < 0.5 * radius and apart < nearest:
                nearest, part = apart, "the other disc"
    return Clearance(ground, nearest if math.isfinite(nearest) else None, part)


@kept()
def _gap(part: Surface | Body, place: tuple[float, float, float], tilted: float, radius: float) -> float:
    """Return how far a part stays from a swept disc; what reaches into the hub's own room does not count.

    ``tilted`` is how far the rim comes out of the disc's middle, m.
    """
    points, centre = _surface_points(part) if isinstance(part, Surface) else _body_points(part), np.array(place)
    off = points - centre
    out = np.hypot(off[:, 1], off[:, 2])
    outside = points[out > _HUB * radius]
    if not len(outside):
        return math.inf
    off = outside - centre
    out = np.hypot(off[:, 1], off[:, 2])
    # Over the disc's face it is the distance fore and aft; past its rim, that to the rim.
    distance = np.hypot(off[:, 0], np.maximum(out - radius, 0.0))
    return float(max(distance.min() - tilted, 0.0))
