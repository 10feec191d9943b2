"""Levers of a test bed: surfaces on a rail or a bolt grid, and incidences that are set in steps."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

from ridgeline.design.airframe import Seat, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Remedy, Report

#: A turn less than this is none, rad.
_LEAST_TURN = math.radians(0.05)
#: Incidences are tried this far apart to learn what a degree of them does, rad.
_TRIED = math.radians(1.0)


class Place(NamedTuple):
    """One place of a seat: the root's leading edge, m, its number from the front, of how many; 1 of 1 on a rail."""

    x: float
    number: int
    holes: int


def nearest_place(seat: Seat, x: float) -> Place:
    """Return the place of a seat nearest to one wished for.

    Parameters
    ----------
    seat : Seat
    x : float
        Of the root's leading edge, m.

    Returns
    -------
    Place
        On a rail the wished one itself, within its ends.
    """
    held = min(max(x, seat.front), seat.back)
    if seat.step <= 0:
        return Place(held, 1, 1)
    last = int((seat.back - seat.front) / seat.step + 1e-6)
    number = min(max(round((held - seat.front) / seat.step), 0), last)
    return Place(round(seat.front + number * seat.step, 6), number + 1, last + 1)


def nearest_angle(seat: Seat, angle: float) -> float:
    """Return the setting of a seat nearest to an incidence wished for, rad.

    Parameters
    ----------
    seat : Seat
    angle : float
        rad.

    Returns
    -------
    float
    """
    held = min(max(angle, seat.low), seat.high)
    if seat.angle_step <= 0:
        return held
    last = int((seat.high - seat.low) / seat.angle_step + 1e-6)
    number = min(max(round((held - seat.low) / seat.angle_step), 0), last)
    return seat.low + number * seat.angle_step


def seated(design: Design, move: float) -> Iterator[tuple[int, Surface, Place]]:
    """Yield wings that have a seat, at its place nearest to where a move of them would bring them.

    Parameters
    ----------
    design : Design
    move : float
        Aft, m.

    Yields
    ------
    tuple
        Index of the surface, it, and the place.
    """
    for index, surface in enumerate(design.surfaces):
        if surface.role == "wing" and surface.seat is not None:
            yield index, surface, nearest_place(surface.seat, surface.x + move)


def place_words(surface: Surface, place: Place) -> Phrase:
    """Say where a surface goes on its seat.

    Parameters
    ----------
    surface : Surface
    place : Place

    Returns
    -------
    Phrase
    """
    move = Measured(abs(place.x - surface.x), "length")
    way = "forward" if place.x < surface.x else "aft"
    if place.holes == 1:
        return say(f"{{}} {{}} {way} on its rail", surface.name, move)
    return say(f"{{}} to hole {place.number} of {place.holes}, {{}} {way}", surface.name, move)


def moved_to(index: int, place: Place) -> tuple[Change, ...]:
    """Return the edit that bolts a surface on at a place; what hangs on it goes along.

    Parameters
    ----------
    index : int
        Of the surface.
    place : Place

    Returns
    -------
    tuple of Change
    """
    return (Change(f"surfaces[{index}].x", place.x),)


def angle_ways(design: Design, report: Report) -> Iterator[Remedy]:
    """Offer the setting of each seat that leaves the elevator nearest to neutral in cruise, tails first.

    Parameters
    ----------
    design : Design
    report : Report

    Yields
    ------
    Remedy
        Tried on the whole aircraft before it is offered.
    """
    now = report.value("trim.elevator")
    if now is None:
        return
    trial = report.trial()
    order = sorted(range(len(design.surfaces)), key=lambda k: design.surfaces[k].role == "wing")
    for index in order:
        surface = design.surfaces[index]
        seat = surface.seat
        if seat is None or seat.high - seat.low < _LEAST_TURN:
            continue
        path = f"surfaces[{index}].incidence"
        probe = surface.incidence + (_TRIED if surface.incidence + _TRIED <= math.pi / 4 else -_TRIED)
        other = trial.value(apply(design, [Change(path, probe)]), "trim.elevator")
        if other is None or abs(other - now) < 1e-6:
            continue
        wished = surface.incidence - now * (probe - surface.incidence) / (other - now)
        setting = nearest_angle(seat, wished)
        if abs(setting - surface.incidence) < _LEAST_TURN:
            continue
        after = trial.value(apply(design, [Change(path, setting)]), "trim.elevator")
        if after is None or abs(after) >= abs(now):
            continue
        words = say(
            f"{surface.name.replace('{', '(').replace('}', ')')} at {{}}: elevator {{}}",
            Measured(setting, "angle"),
            Measured(after, "angle"),
        )
        yield Remedy("seat_angle", words, (Change(path, setting),))
