"""One side of a lifting surface laid flat: where it lies, what its skins come to as they are cut, its hinge lines."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Board, SurfaceBuild
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.build.developed import Net, skin_net
from ridgeline.engine.build.pieces import Face, Lies, Line, Piece, Spread, area_of, board_mass, spread_over
from ridgeline.engine.build.seats import Seat
from ridgeline.engine.geometry.placed import Placed, outline_over_chord, placed, placed_at
from ridgeline.engine.geometry.section_outline import split

Array = NDArray[np.float64]
#: Places along a bay between stations at which a skin is followed.
_FOLLOWED = 5
#: Places along a section at which a skin is followed.
_ROUND = 12


@dataclass(frozen=True)
class Half:
    """One side of a surface laid flat: ``s`` (n,) m out along the unfolded panel, leading edge and chord there, m."""

    surface: Surface
    built: SurfaceBuild
    s: Array
    lead: Array
    chord: Array
    seats: tuple[Seat, ...] = ()

    @property
    def length(self) -> float:
        """Root to tip along the panel, m."""
        return float(self.s[-1] - self.s[0])

    @property
    def root(self) -> float:
        """Chord at the root, m."""
        return float(self.chord[0])

    def at(self, s: float) -> float:
        """Return the chord at a distance along the unfolded panel, m."""
        return float(np.interp(s, self.s, self.chord))

    @cached_property
    def fine(self) -> Placed:
        """The surface at its stations and between."""
        y = [station.y for station in self.surface.stations]
        bays = [np.linspace(a, b, _FOLLOWED)[:-1] for a, b in pairwise(y)]
        return placed_at(self.surface, np.concatenate([*bays, [y[-1]]]))

    @cached_property
    def sides(self) -> tuple[Array, Array]:
        """Upper and lower surface of the section over a unit chord, nose to tail, (m, 2)."""
        return split(outline_over_chord(self.surface))

    @cached_property
    def plane(self) -> tuple[Array, Array]:
        """Where the plane of the panel lies: a corner (3,), the way out and the way back (2, 3)."""
        return _plane_of(self)

    def blocks(self, piece: Piece) -> list[Array]:
        """Return the outlines of what sits in a piece, m: cuts stay clear of it."""
        if piece.face not in ("plate", "lower"):
            return []
        found = []
        for seat in self.seats:
            y = [station.y for station in self.surface.stations]
            s, lead, chord = (float(np.interp(seat.out, y, row)) for row in (self.s, self.lead, self.chord))
            half = 0.5 * seat.size
            x, back = s, lead + seat.share * chord
            if piece.face == "lower":
                x, back = (float(value) for value in skin_net(self.surface, "lower").at([seat.out], [seat.share])[0])
            found.append(np.array([(x - half, back - half), (x + half, back - half), (x + half, back + half),
                                   (x - half, back + half)]))  # fmt: skip
        return found

    def out(self, s: float) -> float:
        """Return the place in the surface's own ``y`` of a distance along the unfolded panel, m."""
        return float(np.interp(s, self.s, [station.y for station in self.surface.stations]))


def girth(side: Array, reach: float = 1.0) -> float:
    """Return the length along one side of a section from the nose to a share of the chord, over the chord.

    Parameters
    ----------
    side : ndarray, shape (n, 2)
        Nose to tail, over a unit chord.
    reach : float
        Share of the chord.

    Returns
    -------
    float
    """
    x = np.maximum.accumulate(side[:, 0])
    steps = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(side, axis=0).T))])
    return float(np.interp(reach, x, steps)) if reach < 1 else float(steps[-1])


def strip_between(half: Half, front: Array, back: Array) -> Array:
    """Return the outline between two edges along the unfolded panel.

    Parameters
    ----------
    front, back : ndarray, shape (n,)
        Behind the surface's origin at its stations, m.

    Returns
    -------
    ndarray, shape (2n, 2)
        Out along the panel and back, m.
    """
    return np.vstack([np.column_stack([half.s, front]), np.column_stack([half.s[::-1], back[::-1]])])


def flat_outline(half: Half, start: float = 0.0, reach: float = 1.0) -> Array:
    """Return the outline of a sheet between two shares of the chord, (2n, 2) m."""
    return strip_between(half, half.lead + start * half.chord, half.lead + reach * half.chord)


def lies_between(half: Half, start: float, reach: float, over: float = 0.0) -> Lies:
    """Tell how a sheet between two shares of the chord lies in the aircraft."""
    return lambda: spread_over(half.fine.points(np.linspace(start, reach, 3), over))[1]


def skin_lies(half: Half, side: Array, reach: float) -> Lies:
    """Tell how a skin over one side of the section lies in the aircraft, from the nose to a share of the chord."""

    def lies() -> Spread:
        shares = np.linspace(0.0, reach, _ROUND)
        heights = np.interp(shares, np.maximum.accumulate(side[:, 0]), side[:, 1])
        return spread_over(half.fine.points(shares, heights))[1]

    return lies


def cut_of_board(
    half: Half,
    name: str,
    outline: Array,
    lies: Lies,
    board: Board,
    lines: tuple[Line, ...] = (),
    holes: tuple[tuple[float, float, float], ...] = (),
    face: Face = "none",
) -> Piece:
    """Return a piece of board of one side.

    Parameters
    ----------
    outline : ndarray, shape (n, 2)
        As it is cut, m.
    lies : callable
        As it is built in.
    board : Board
        That it is cut from: net area × mass per area, and what is left of that with papers peeled.
    lines : tuple of Line
        Scored, hinged or cut through.
    holes : tuple of (x, y, diameter)
        m.
    face : {"plate", "lower", "upper", "none"}
        Which side of the surface it makes.

    Returns
    -------
    Piece
    """
    area = area_of(outline) - sum(0.25 * math.pi * d * d for _x, _y, d in holes)
    origin, axes = half.plane
    return Piece(
        name=name,
        of=half.surface.id,
        group="shell",
        material=board.material,
        mass=board_mass(board, area),
        lies=lies,
        outline=outline,
        area=area,
        mirrored=half.surface.mirrored,
        origin=origin,
        axes=axes,
        lines=lines,
        holes=holes,
        flat=True,
        face=face,
    )


def _plane_of(half: Half) -> tuple[Array, Array]:
    """Return where the plane of the panel lies: its root's leading edge, the way out and the way back."""
    ends = placed(half.surface)
    out = ends.leading[-1] - ends.leading[0]
    back = ends.trailing[0] - ends.leading[0]
    back = back / np.linalg.norm(back)
    out = out - (out @ back) * back
    return ends.leading[0] - half.lead[0] * back, np.array([out / max(float(np.linalg.norm(out)), 1e-12), back])


def hinge_lines(half: Half, net: Net | None = None) -> tuple[Line, ...]:
    """Return hinge lines, and the cuts at the ends of controls, on a sheet that reaches the trailing edge.

    Parameters
    ----------
    half : Half
    net : Net, optional
        The skin laid flat; the panel's own plane where left out.

    Returns
    -------
    tuple of Line
    """
    lines = []
    y = [station.y for station in half.surface.stations]
    for control in half.surface.controls:
        ends = np.interp([control.start, control.end], y, half.s)
        chord, lead = np.interp(ends, half.s, half.chord), np.interp(ends, half.s, half.lead)
        hinge = np.column_stack(
            [ends, lead + (1 - hinge_share(half.surface, control, [control.start, control.end])) * chord]
        )
        tail = np.column_stack([ends, lead + chord])
        if net is not None:
            share = 1 - hinge_share(half.surface, control, [control.start, control.end])
            hinge, tail = (net.at([control.start, control.end], one) for one in (share, 1.0))
        lines.append(Line("hinge", hinge))
        lines += [Line("cut", np.array([hinge[k], tail[k]])) for k in (0, 1) if ends[k] > 1e-6]
    return tuple(lines)
