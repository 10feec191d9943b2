"""The pieces of a lifting surface, from how it is built: skins as cut flat, strips, ribs, spars, glue, covering."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Spar
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.build.cut_up import Rooms, spliced
from ridgeline.engine.build.developed import developed, leading_of, opened, skin_net
from ridgeline.engine.build.flat import (
    Half,
    cut_of_board,
    flat_outline,
    girth,
    hinge_lines,
    lies_between,
    skin_lies,
)
from ridgeline.engine.build.holes import holes_in
from ridgeline.engine.build.joints import HINGE_LINEAR, HINGE_MATERIAL, INSTANT_GLUE, bead
from ridgeline.engine.build.pieces import (
    NOTHING,
    Lies,
    Line,
    Piece,
    Spread,
    along,
    area_of,
    board_mass,
    known,
    shell_mass,
)
from ridgeline.engine.build.rib_slots import slotted
from ridgeline.engine.build.seats import Seat
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]
#: A leading edge straighter than this takes one fold, m.
_STRAIGHT = 5e-4
#: Which side of a surface: the lower, or the upper.
_SIDES: tuple[Literal["lower"], Literal["upper"]] = ("lower", "upper")
#: Ribs end where skins meet: this share of the chord is left to them.
_RIB_FROM, _RIB_TO = 0.04, 0.96
#: A hollow lower than this, of the chord, takes no rib.
_HOLLOW = 1e-3


@kept()
def pieces_of_surface(surface: Surface, seats: tuple[Seat, ...] = (), rooms: Rooms = ()) -> tuple[Piece, ...]:
    """Return the pieces of a surface; none where nothing says how it is built.

    Parameters
    ----------
    surface : Surface
    seats : tuple of Seat
        Of the servos that sit in it: no hole goes there, nor any cut.
    rooms : tuple of Room
        Of the sheets on hand: what none of them takes is cut up and spliced.

    Returns
    -------
    tuple of Piece

    Source
    ------
    Forms, amounts of adhesive and hinges: second part of the handbook §§15.1–15.2; docs/theory.md §5.
    """
    built = surface.built
    if built is None:
        return ()
    stations = surface.stations
    y, z = np.array([s.y for s in stations]), np.array([s.z for s in stations])
    s = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(y), np.diff(z)))])
    half = Half(
        surface, built, s, np.array([one.x for one in stations]), np.array([one.chord for one in stations]), seats
    )
    made = tuple(one for piece in _FORMS[built.form](half) for one in spliced(piece, rooms, half.blocks(piece)))
    # What is bought comes with its spars, hinges and covering.
    return made if built.form == "bought" else (*made, *_spars(half), *_covering(half), *_joined(half))


# -- forms ------------------------------------------------------------------------------------------------------------


def _plate(half: Half) -> Iterator[Piece]:
    yield _whole_plate(half, holes_in(half.surface, half.built, half.s, half.lead, half.chord, half.seats))


def _whole_plate(half: Half, holes: tuple[tuple[float, float, float], ...] = ()) -> Piece:
    """Return one sheet of the panel's outline."""
    lies, board = lies_between(half, 0.0, 1.0), half.built.board
    return cut_of_board(half, "Plate", flat_outline(half), lies, board, hinge_lines(half), holes, "plate")


def _stepped(half: Half) -> Iterator[Piece]:
    yield _whole_plate(half)
    share = half.built.doubler
    lies = lies_between(half, 0.0, share, half.surface.sheet / half.root)
    yield cut_of_board(half, "Doubler", flat_outline(half, 0.0, share), lies, half.built.board)


def _curved(half: Half) -> Iterator[Piece]:
    upper, lower = half.sides
    net = skin_net(half.surface, "upper")
    yield cut_of_board(half, "Curved sheet", net.outline(), skin_lies(half, upper, 1.0), half.built.board,
                       hinge_lines(half, net), face="upper")  # fmt: skip
    # Ribs fill the hollow under the sheet.
    hollow = lower[(lower[:, 0] > _RIB_FROM) & (lower[:, 0] < _RIB_TO) & (lower[:, 1] > _HOLLOW)]
    if len(hollow) > 1:
        ends = hollow[[-1, 0]] * (1.0, 0.0)
        yield from _ribs(half, np.vstack([hollow, ends]))


def _folded(half: Half) -> Iterator[Piece]:
    """Whole skin below and the other folded over it at the nose; or the other way round."""
    built = half.built
    upper, lower = half.sides
    whole, over = (upper, lower) if built.form == "folded_under" else (lower, upper)
    names = ("Top", "Bottom") if built.form == "folded_under" else ("Bottom", "Top")
    slope = (half.lead[-1] - half.lead[0]) / half.length
    straight = bool(np.all(np.abs(half.lead - half.lead[0] - slope * (half.s - half.s[0])) < _STRAIGHT))
    face = _SIDES[whole is upper]
    net = skin_net(half.surface, face)
    skins = (skin_lies(half, whole, 1.0), skin_lies(half, over, built.reach))
    if straight:
        # The second skin opens about the fold, which lies along the leading edge.
        leading = leading_of(half.surface)
        ahead = developed(half.surface, over, leading, built.reach, ahead=True)
        outline = opened(net, ahead)
        parts = np.array([area_of(net.outline()), area_of(ahead.outline())])
        lies = partial(_both, skins, parts / parts.sum())
        lines = (Line("score", net.points[[0, -1], 0]), *hinge_lines(half, net))
        yield cut_of_board(half, "Folded skin", outline, lies, built.board, lines, face=face)
    else:
        # No sheet folds about an edge that is not straight: two skins, taped at the nose.
        lines = hinge_lines(half, net)
        yield cut_of_board(half, f"{names[0]} skin", net.outline(), skins[0], built.board, lines=lines, face=face)
        second = developed(half.surface, over, leading_of(half.surface), built.reach)
        yield cut_of_board(half, f"{names[1]} skin", second.outline(), skins[1], built.board,
                           face=_SIDES[whole is lower])  # fmt: skip
    yield from _strips(half)


def _both(each: tuple[Lies, Lies], share: Array) -> Spread:
    """Return how two parts of one piece lie together, by their shares of it."""
    spreads = [lies() for lies in each]
    place = np.array([one.centroid for one in spreads])
    size = np.array([one.size for one in spreads])
    centroid = share @ place
    return Spread(centroid, np.sqrt(12 * (share @ ((place - centroid) ** 2 + size**2 / 12))))


def _ribbed(half: Half) -> Iterator[Piece]:
    upper, lower = half.sides
    for name, side in (("Top skin", upper), ("Bottom skin", lower)):
        face = _SIDES[side is upper]
        net = skin_net(half.surface, face)
        lines = hinge_lines(half, net)
        yield cut_of_board(half, name, net.outline(), skin_lies(half, side, 1.0), half.built.board, lines, face=face)
    sheet = half.surface.sheet / half.root
    x = np.linspace(_RIB_FROM, _RIB_TO, 24)
    top = np.interp(x, np.maximum.accumulate(upper[:, 0]), upper[:, 1]) - sheet
    low = np.interp(x, np.maximum.accumulate(lower[:, 0]), lower[:, 1]) + sheet
    inside = top > low
    if inside.any():
        rib = np.vstack([np.column_stack([x, top])[inside], np.column_stack([x, low])[inside][::-1]])
        yield from _ribs(half, rib)
    yield from _strips(half)


def _ribs(half: Half, shape: Array) -> Iterator[Piece]:
    """Yield ribs at their spacing from root to tip, of a shape over a unit chord; alike ones counted together."""
    count = max(math.ceil(half.length / half.built.rib_spacing - 1e-9), 1) + 1
    places = np.linspace(0.0, half.length, count)
    alike: dict[float, list[float]] = {}
    for s in places:
        alike.setdefault(round(half.at(float(s)), 4), []).append(float(s))
    middle = 0.5 * (shape.min(axis=0) + shape.max(axis=0))
    for chord, where in alike.items():
        here = placed_at(half.surface, [half.out(s) for s in where])
        centres = here.points([middle[0]], [middle[1]])[:, 0]
        size = np.array([float(np.ptp(shape[:, 0])) * chord, 0.0, float(np.ptp(shape[:, 1])) * chord])
        size[1] = float(np.ptp(centres[:, 1]))
        outline, openings, lines = slotted(shape * chord, half.built, half.surface.sheet, chord)
        lies = known(Spread(centres.mean(axis=0), size))
        piece = cut_of_board(half, "Rib", outline, lies, half.built.board, lines)
        gone = math.fsum(area_of(hole) for hole in openings)
        net = piece.area - gone
        piece = replace(piece, openings=openings, area=net, mass=board_mass(half.built.board, net))
        axes = np.array([[1.0, 0.0, 0.0], [0.0, -here.s, here.c]])
        yield _counted(piece, len(where), here.leading[0], axes)


def _counted(piece: Piece, count: int, origin: Array, axes: Array) -> Piece:
    return replace(piece, count=count, origin=origin, axes=axes)


def _strips(half: Half) -> Iterator[Piece]:
    """Yield the strips of board that make the spar inside a folded or ribbed panel."""
    built = half.built
    if not built.strips:
        return
    outline = np.array([(0.0, 0.0), (half.length, 0.0), (half.length, built.strip_width), (0.0, built.strip_width)])
    line = half.fine.points([built.strip_place], [0.0])[:, 0]
    yield _counted(
        cut_of_board(half, "Spar strip", outline, known(along(line)[1]), built.board), built.strips, *half.plane
    )


def _core(half: Half) -> Iterator[Piece]:
    built = half.built
    mass = built.foam_density * _volume(half)
    yield _solid(half, "Core", built.foam, mass, lies_between(half, 0.0, 0.9))


def _printed(half: Half) -> Iterator[Piece]:
    mass = shell_mass(half.built.printing, _skin(half), _volume(half))
    yield _solid(half, "Printed shell", half.built.printing.material, mass, lies_between(half, 0.0, 0.92))


def _bought(half: Half) -> Iterator[Piece]:
    sides = 2 if half.surface.mirrored else 1
    yield _solid(half, "As bought", "", half.built.mass / sides, lies_between(half, 0.0, 0.9))


def _solid(half: Half, name: str, material: str, mass: float, lies: Lies) -> Piece:
    origin, axes = half.plane
    outline = flat_outline(half)
    return Piece(
        name, half.surface.id, "shell", material, mass, lies, outline, area_of(outline),
        mirrored=half.surface.mirrored, origin=origin, axes=axes,
    )  # fmt: skip


def _skin(half: Half) -> float:
    """Return the area of one side's skin all round, m²."""
    upper, lower = half.sides
    return area_of(flat_outline(half)) * (girth(upper) + girth(lower))


def _volume(half: Half) -> float:
    """Return what one side encloses, m³."""
    inside = area_of(outline_over_chord(half.surface))
    c = half.chord
    squares = float(np.sum(np.diff(half.s) * (c[1:] ** 2 + c[1:] * c[:-1] + c[:-1] ** 2) / 3))
    return squares * inside


_FORMS: dict[str, Callable[[Half], Iterator[Piece]]] = {
    "plate": _plate,
    "stepped": _stepped,
    "curved": _curved,
    "folded": _folded,
    "folded_under": _folded,
    "ribbed": _ribbed,
    "core": _core,
    "printed": _printed,
    "bought": _bought,
}

# -- what goes in and on ----------------------------------------------------------------------------------------------


def _spars(half: Half) -> Iterator[Piece]:
    for spar in half.built.spars:
        yield _spar(half, spar)


def _spar(half: Half, spar: Spar) -> Piece:
    surface = half.surface
    ends = np.linspace(half.out(spar.start * half.length), half.out(spar.end * half.length), 9)
    line = placed_at(surface, ends).points([spar.place], [0.0])[:, 0]
    length, spread = along(line)
    # One piece from side to side only where it begins at the middle and there is another side.
    whole = spar.through and surface.mirrored and spar.start == 0.0
    if whole:
        length, spread = along(np.vstack([line[::-1] * (1, -1, 1), line]))
    return Piece(
        "Joiner" if spar.sliding else "Spar", surface.id, "spars", spar.material, length * spar.linear, known(spread),
        NOTHING, length=length, count=spar.count, mirrored=surface.mirrored and not whole, origin=line[0],
    )  # fmt: skip


def _covering(half: Half) -> Iterator[Piece]:
    covering = half.built.covering
    if covering is not None and covering.layers > 0:
        skin = _skin(half)
        yield Piece(
            "Covering", half.surface.id, "covering", covering.material, skin * covering.areal * covering.layers,
            lies_between(half, 0.0, 1.0), area=skin, mirrored=half.surface.mirrored,
        )  # fmt: skip


def _joined(half: Half) -> Iterator[Piece]:
    """Yield glue and hinges of one side."""
    surface, built = half.surface, half.built
    linear = min(built.bead, INSTANT_GLUE) if built.form == "printed" else built.bead
    yield from bead(surface.id, _beads(half), linear, lies_between(half, 0.0, 1.0), mirrored=surface.mirrored)
    if HINGE_LINEAR[built.hinge] <= 0:
        return
    for control in surface.controls:
        here = placed_at(surface, [control.start, control.end])
        length, spread = along(here.along(1 - hinge_share(surface, control, here.out)))
        yield Piece(
            "Hinge", surface.id, "glue", HINGE_MATERIAL[built.hinge], length * HINGE_LINEAR[built.hinge], known(spread),
            length=length, mirrored=surface.mirrored,
        )  # fmt: skip


def _beads(half: Half) -> float:
    """Return the length of the glue joints of one side, m: where pieces of its form meet, and once round the root.

    Source
    ------
    Counted along the joints of each form: a doubler along both edges, a folded skin along its trailing edge and above
    and below each strip, ribs along the skin they stand on (second part of the handbook §15.2).
    """
    built, length = half.built, half.length
    ribs = max(math.ceil(length / built.rib_spacing - 1e-9), 1) + 1
    chords = ribs * float(np.mean(half.chord))
    root = half.root
    by_form = {
        "plate": root,
        "stepped": root + 2 * length,
        "curved": root + chords,
        "folded": 2 * root + length * (1 + (built.strips + 1 if built.strips else 0)),
        "folded_under": 2 * root + length * (1 + (built.strips + 1 if built.strips else 0)),
        "ribbed": 2 * root + length + chords + length * (built.strips + 1 if built.strips else 0),
        "core": root + length,
        "printed": 2 * root * ribs,
        "bought": 0.0,
    }
    return by_form[built.form]
