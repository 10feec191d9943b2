"""Aids cut from the same board: gauges of dihedral, incidence and twist, and a strip that proves a plane is square."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.engine.build.pieces import Line
from ridgeline.engine.templates.patterns import Label, Pattern, thickness

Array = NDArray[np.float64]
#: A gauge of dihedral is so long and stands on a foot so tall, m; angles less than this need none, rad; letters, m
#: (chosen).
LONG, FOOT, LEAST, _LETTERS = 0.150, 0.015, math.radians(0.2), 0.006


def aids_of(design: Design) -> tuple[Pattern, ...]:
    """Return the gauges of a design: one for each angle that is built in.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Pattern
        Of the board of the part they set; nothing of what is not built of board.
    """
    found: list[Pattern] = []
    for surface in design.surfaces:
        built = surface.built
        if built is None or is_upright(surface) or built.form in ("printed", "bought", "core"):
            continue
        found += _dihedrals(surface, built.board.material)
        found += _incidences(surface, built.board.material)
    return tuple(found)


def _wedge(long: float, angle: float) -> Array:
    """Return a wedge that rises at an angle on a foot, (4, 2) m."""
    rise = long * math.tan(abs(angle))
    return np.array([(0.0, 0.0), (long, 0.0), (long, FOOT + rise), (0.0, FOOT)])


def _gauge(surface: Surface, key: str, words: str, outline: Array, material: str, lines: tuple[Line, ...]) -> Pattern:
    middle = outline.mean(axis=0)
    size = min(_LETTERS, 0.8 * float(np.ptp(outline[:, 0])) / (0.6 * len(words)), 0.5 * FOOT)
    label = Label(words, float(middle[0]), 0.5 * FOOT, size, 0.0)
    return Pattern(f"{surface.id}.{key}", words, surface.id, 0, material, thickness(surface), outline, (), lines,
                   (label,), 0.0)  # fmt: skip


def _dihedrals(surface: Surface, material: str) -> Iterator[Pattern]:
    """Yield a gauge for every panel that stands at another angle than the one inside it; the root's to the level."""
    before = 0.0
    for k, (inner, outer) in enumerate(zip(surface.stations, surface.stations[1:], strict=False)):
        angle = math.atan2(outer.z - inner.z, outer.y - inner.y) + (surface.cant if k == 0 else 0.0)
        turn = angle - before
        if abs(turn) >= LEAST:
            way = "dihedral" if turn > 0 else "anhedral"
            words = f"{surface.name}: {way} {math.degrees(abs(turn)):.1f}°"
            yield _gauge(surface, f"dihedral{k}", words, _wedge(LONG, turn), material, ())
        before = angle if k else angle - surface.cant


def _incidences(surface: Surface, material: str) -> Iterator[Pattern]:
    """Yield a gauge of the angle to the body's axis at root and tip, as long as the chord there, where it is one."""
    ends = (("incidence", surface.stations[0]), ("tip", surface.stations[-1]))
    for key, station in ends:
        angle = surface.incidence + station.twist
        if abs(angle) < LEAST or (key == "tip" and abs(station.twist - surface.stations[0].twist) < LEAST):
            continue
        where = "incidence" if key == "incidence" else "at its tip"
        nose = "nose up" if angle > 0 else "nose down"
        words = f"{surface.name}: {where} {math.degrees(abs(angle)):.1f}°, {nose}"
        outline = _wedge(station.chord, angle)
        spar = Line("mark", np.array([(0.25 * station.chord, 0.0), (0.25 * station.chord, FOOT)]))
        yield _gauge(surface, key, words, outline, material, (spar,))
