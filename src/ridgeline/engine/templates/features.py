"""What else is on a piece beside its contour: openings for servos, where the spar lies, balance marks, bevels."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from shapely import Point, Polygon

from ridgeline.design.airframe import Body, ControlSurface, Surface
from ridgeline.design.document import Design
from ridgeline.engine.build.developed import leading_of, skin_net
from ridgeline.engine.build.pieces import Line, Piece
from ridgeline.engine.build.seats import receiver_case, servo_case, servo_mass
from ridgeline.engine.templates.openings import air_in, former_openings, hatch_lines, hatch_over_pack, seats_in

Array = NDArray[np.float64]
#: A servo's opening is larger than its case by this all round, m; arms of a mark, m; letters, m (chosen).
_ROOM, _MARK, _LETTERS = 0.0005, 0.008, 0.005
Words = tuple[str, float, float, float]


class Features(NamedTuple):
    """Openings, lines and words (text, x, y, size) on a piece, in its plane, m; ``seats`` are cut out, edges or not."""

    openings: tuple[Array, ...] = ()
    lines: tuple[Line, ...] = ()
    labels: tuple[Words, ...] = ()
    seats: tuple[Polygon, ...] = ()


def features_of(
    design: Design, piece: Piece, part: Surface | Body, balance: float | None, inlet: float | None = None
) -> Features:
    """Return what is on a piece of a surface that lies along its lower side or is all of it.

    Parameters
    ----------
    design : Design
    piece : Piece
    part : Surface or Body
    balance : float or None
        Balance point behind the datum, m.
    inlet : float, optional
        Air that cools the power train comes in through so much, m².

    Returns
    -------
    Features
    """
    up = _face_up(piece)
    if isinstance(part, Body):
        found = _of_body(design, piece, part, inlet)
        return found._replace(labels=(*found.labels, *up))
    if piece.face not in ("plate", "lower"):
        return Features(labels=up)
    spread = _Spread(part, piece)
    openings, words, seats = [], [], []
    whole = Polygon(piece.outline)
    for case, name in _servos(design, part, spread):
        # What sits half in it is cut in from the edge.
        if whole.contains_properly(Polygon(case)):
            openings.append(case)
        else:
            seats.append(Polygon(case))
            continue
        words.append((name, float(case[:, 0].mean()), float(case[:, 1].max()) + _LETTERS, 0.6 * _LETTERS))
    lines = [*_spars(part, spread)]
    if balance is not None and part.role == "wing":
        marked = _balance(design, part, spread, balance)
        if marked is not None:
            mark, word = marked
            lines += mark
            words.append(word)
    words += _bevels(part, piece)
    return Features(tuple(openings), tuple(lines), (*words, *up), tuple(seats))


#: Which side of a piece is drawn up, by what it makes: as it is laid flat, starboard or from above.
_UP = {"lower": "inside up", "side": "inside up", "bottom": "inside up", "upper": "outside up", "top": "outside up"}


def _face_up(piece: Piece) -> tuple[Words, ...]:
    """Return which side of a piece faces up as it is drawn, under its name; port ones are turned over with it."""
    words = _UP.get(piece.face)
    if words is None:
        return ()
    shape = Polygon(piece.outline)
    spot = shape.centroid if shape.contains(shape.centroid) else shape.representative_point()
    wide, tall = np.ptp(piece.outline, axis=0)
    size = min(0.6 * _LETTERS, 0.15 * float(min(wide, tall)))
    off = 1.8 * _LETTERS
    x, y = (spot.x + off, spot.y) if tall > wide else (spot.x, spot.y - off)
    return ((words, x, y, size),) if shape.contains(Point(x, y)) else ()


def _of_body(design: Design, piece: Piece, body: Body, inlet: float | None) -> Features:
    """Return what is on a piece of a body: openings of formers, hatch in its top, seats in its sides, air below."""
    if piece.face == "bottom" and inlet is not None and hatch_over_pack(design, body) is not None:
        own = 0.0 if design.power is None else design.power.cooling_inlet
        air = tuple(air_in(body, max(inlet, own)))
        words = tuple((name, float(hole[:, 0].mean()), float(hole[:, 1].max()) + _LETTERS, 0.6 * _LETTERS)
                      for name, hole in air)  # fmt: skip
        return Features(tuple(hole for _name, hole in air), (), words)
    if piece.face == "former":
        return Features(tuple(former_openings(design, body, piece)))
    if piece.face == "side":
        return Features(seats=tuple(seats_in(design, body, piece)))
    hatch = hatch_lines(design, body) if piece.face == "top" else None
    if hatch is None:
        return Features()
    (x, y), lines = hatch
    return Features((), lines, (("hatch", float(x), float(y), _LETTERS),))


class _Spread:
    """Where places of a surface lie on a piece of it, m: a share of the chord is measured along the skin."""

    def __init__(self, surface: Surface, piece: Piece) -> None:
        self.y, self.chord = (np.array([getattr(s, name) for s in surface.stations]) for name in ("y", "chord"))
        self.s, self.lead = leading_of(surface).T
        self.surface = surface
        self.net = None if piece.face == "plate" else skin_net(surface, "lower")

    def at(self, out: float, share: float) -> tuple[float, float]:
        """Return a place by its distance out and its share of the chord."""
        s, lead, chord = (float(np.interp(out, self.y, row)) for row in (self.s, self.lead, self.chord))
        if self.net is None:
            return s, lead + share * chord
        x, back = self.net.at([out], [share])[0]
        return float(x), float(back)

    def share_of(self, out: float, x: float) -> float:
        """Return the share of the chord at which a place behind the datum lies there."""
        lead, chord = (float(np.interp(out, self.y, row)) for row in (self.lead, self.chord))
        return (x - self.surface.x - lead) / chord


def _servos(design: Design, surface: Surface, spread: _Spread) -> Iterator[tuple[Array, str]]:
    """Yield the openings of servos and receiver that sit in a surface: servos on their sides, long along the chord."""
    for item in design.parts:
        if item.on is None or item.on.to != surface.id:
            continue
        if item.servo is not None:
            long = wide = servo_case(servo_mass(item))[1]
            words = item.servo.name or item.name
        elif item.harness == "receiver":
            long, wide = receiver_case(servo_mass(item))
            words = item.name
        else:
            continue
        x, y = spread.at(item.on.out, item.on.share)
        a, b = 0.5 * wide + _ROOM, 0.5 * long + _ROOM
        yield np.array([(x + dx, y + dy) for dx, dy in ((-a, -b), (a, -b), (a, b), (-a, b))]), words


def _spars(surface: Surface, spread: _Spread) -> Iterator[Line]:
    """Yield where spars lie, marked."""
    built = surface.built
    for spar in () if built is None else built.spars:
        ends = np.interp([spar.start * spread.s[-1], spar.end * spread.s[-1]], spread.s, spread.y)
        yield Line("mark", np.array([spread.at(float(out), spar.place) for out in ends]))


def _balance(design: Design, surface: Surface, spread: _Spread, balance: float) -> tuple[list[Line], Words] | None:
    out = max(design.brief.mark_out, float(spread.y[0]))
    share = spread.share_of(out, balance)
    if not 0.02 < share < 0.98:
        return None
    x, y = spread.at(out, share)
    cross = [Line("mark", np.array([(x - _MARK, y), (x + _MARK, y)])),
             Line("mark", np.array([(x, y - _MARK), (x, y + _MARK)]))]  # fmt: skip
    return cross, ("balance", x + 2.5 * _MARK, y, _LETTERS)


def bevel_of(control: ControlSurface) -> float:
    """Return the bevel of a control's hinge, rad: its throw and five degrees, in steps of five.

    Parameters
    ----------
    control : ControlSurface

    Returns
    -------
    float

    Source
    ------
    The closing throw is the sum of the bevels and at least the throw and 5°: second part of the handbook §15.3.
    """
    down = control.down if control.down is not None else math.radians(40.0)
    return math.radians(5 * math.ceil((math.degrees(max(down, control.up or 0.0)) + 5) / 5 - 1e-9))


def _bevels(surface: Surface, piece: Piece) -> Iterator[Words]:
    """Yield how hinges are bevelled: by what the control goes down, and five degrees."""
    hinges = [line for line in piece.lines if line.kind == "hinge"]
    for line, control in zip(hinges, surface.controls, strict=False):
        x, y = line.points.mean(axis=0)
        yield f"{control.kind}, bevel {math.degrees(bevel_of(control)):.0f}°", float(x), float(y) + _LETTERS, _LETTERS
