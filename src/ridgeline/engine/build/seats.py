"""Where servos sit in a surface: sheet that no lightening hole may take away, nor any cut."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.design.parts import Item

#: Case of a 9 g servo, thick and across either way, m; others by the cube root of the mass.
_CASE, _CASE_MASS = (0.012, 0.023), 0.009
#: Case of an 8 g receiver, long and wide, m.
_RECEIVER, _RECEIVER_MASS = (0.042, 0.024), 0.008


class Seat(NamedTuple):
    """A servo lying on its side, ``size`` m across: ``out`` m along the panel, at a ``share`` of the chord."""

    out: float
    share: float
    size: float


#: Seats by the id of the surface; a tuple, so that it can be told whether they changed.
Seats = tuple[tuple[str, tuple[Seat, ...]], ...]


def servo_case(mass: float) -> tuple[float, float]:
    """Return how thick and how wide a servo's case is, m: the width is the same both ways.

    Parameters
    ----------
    mass : float
        Of one servo, kg.

    Returns
    -------
    thick, wide : float
        m.

    Source
    ------
    Nine-gram class 23 × 12 × 23 mm; volume in proportion to mass (typical).
    """
    by = (max(mass, 0.0) / _CASE_MASS) ** (1 / 3)
    return by * _CASE[0], by * _CASE[1]


def receiver_case(mass: float) -> tuple[float, float]:
    """Return how long and wide a receiver is, m, lying flat.

    Parameters
    ----------
    mass : float
        kg.

    Returns
    -------
    long, wide : float
        m.

    Source
    ------
    Eight-gram class 42 × 24 mm; volume in proportion to mass (typical).
    """
    by = (max(mass, 0.0) / _RECEIVER_MASS) ** (1 / 3)
    return by * _RECEIVER[0], by * _RECEIVER[1]


def servo_mass(item: Item) -> float:
    """Return the mass of one servo, or another single part, of an item, kg; 0 where nothing tells it.

    Parameters
    ----------
    item : Item

    Returns
    -------
    float
    """
    told = (item.weighed, item.estimate, item.servo.mass if item.servo else None)
    return next((mass for mass in told if mass is not None and mass > 0), 0.0)


def seats_of(surfaces: tuple[Surface, ...], parts: tuple[Item, ...], longest: float = math.inf) -> Seats:
    """Return the servo seats of the surfaces that have lightening holes, or are cut up.

    Parameters
    ----------
    surfaces : tuple of Surface
    parts : tuple of Item
    longest : float
        A panel longer than this, m, is cut up.

    Returns
    -------
    tuple of (str, tuple of Seat)
        By the id of the surface; nothing of surfaces without servos.
    """
    holed = {s.id for s in surfaces
             if s.built is not None and (s.built.holes is not None or s.stations[-1].y > longest)}  # fmt: skip
    if not holed:
        return ()
    found: dict[str, list[Seat]] = {}
    for item in parts:
        if item.servo is not None and item.on is not None and item.on.to in holed:
            seat = Seat(item.on.out, item.on.share, servo_case(servo_mass(item))[1])
            found.setdefault(item.on.to, []).append(seat)
    return tuple((ident, tuple(seats)) for ident, seats in found.items())
