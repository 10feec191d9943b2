"""A piece of an aircraft: what is cut, laid in or glued on, where it lies and what it weighs; and groups of them."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.build import Build, PieceGroup
from ridgeline.design.construction import Board, Printing

Array = NDArray[np.float64]
LineKind = Literal["score", "hinge", "cut", "mark"]
#: Which side of a surface or a body a piece makes: all of a panel, one side of it; a body's side, top, bottom, or a
#: former across it; a splice over a cut; or none.
Face = Literal["plate", "lower", "upper", "side", "top", "bottom", "former", "splice", "none"]
NOTHING: Array = np.zeros((0, 2))
#: What is left of faced board's mass with one and with both papers peeled (handbook of the trade §5).
PEELED = (1.0, 0.78, 0.55)


class Line(NamedTuple):
    """A line on a piece: where it is scored, hinged, cut through or marked; ``points`` (n, 2) m in its own plane."""

    kind: LineKind
    points: Array


class Spread(NamedTuple):
    """Where mass lies: its centroid (3,), m, and the evenly filled extent (3,), m, with the same second moments."""

    centroid: Array
    size: Array


#: Tells how something lies, when that is asked: what is only weighed need not know.
Lies = Callable[[], Spread]


def known(spread: Spread) -> Lies:
    """Tell what is known already."""
    return lambda: spread


@dataclass(frozen=True)
class Piece:
    """One kind of piece. Its outline lies flat, as it is cut; ``lies`` tells where it is built in, when that is asked.

    ``of`` is the part it belongs to, ``group`` the item of the weight table it counts in. ``outline`` (n, 2) m runs
    round what is cut from sheet, empty for stock, beads and solids; ``area`` m² is net of ``holes`` (x, y, diameter),
    ``length`` m that of stock and beads; ``flat`` tells that it is cut from sheet along its outline, ``face`` which
    side of a surface or body it makes; ``openings`` are outlines cut out of it, (m, 2) m, ``parts`` those it is cut
    up into where no sheet takes it whole. ``mass`` kg is of one. ``count`` like pieces lie on one side; ``mirrored``
    ones on the other side too. ``origin`` (3,) and ``axes`` (2, 3) place the plane of the outline in aircraft axes.
    """

    name: str
    of: str
    group: PieceGroup
    material: str
    mass: float
    lies: Lies
    outline: Array = field(default_factory=NOTHING.copy)
    area: float = 0.0
    length: float = 0.0
    count: int = 1
    mirrored: bool = False
    origin: Array = field(default_factory=lambda: np.zeros(3))
    axes: Array = field(default_factory=lambda: np.eye(3)[:2])
    lines: tuple[Line, ...] = ()
    holes: tuple[tuple[float, float, float], ...] = ()
    flat: bool = False
    face: Face = "none"
    openings: tuple[Array, ...] = ()
    parts: tuple[Array, ...] = ()

    @cached_property
    def spread(self) -> Spread:
        """Where one of it lies, of a pair the starboard one."""
        return self.lies()

    def lies_at(self, at: Array) -> Lies:
        """Tell how something small lies at a place of its plane, (2,) m."""
        place = self.origin + at[0] * self.axes[0] + at[1] * self.axes[1]
        return known(Spread(place, np.zeros(3)))

    @property
    def pieces(self) -> int:
        """How many there are of it, both sides together."""
        return self.count * (2 if self.mirrored else 1)

    @property
    def total(self) -> float:
        """Mass of all of them, kg."""
        return self.mass * self.pieces


class Group(NamedTuple):
    """Pieces that make one item: mass of all, kg; centroid of the starboard ones, and their extent about it, m.

    ``paired`` where there are like ones to port.
    """

    mass: float
    centroid: tuple[float, float, float]
    side: tuple[float, float, float]
    paired: bool

    @property
    def whole(self) -> tuple[float, float, float]:
        """Extent of both sides together, m: what lies on both spreads about the centre line."""
        x, y, z = self.side
        return (x, math.sqrt(y * y + 12 * self.centroid[1] ** 2), z) if self.paired else self.side


def board_mass(board: Board, area: float) -> float:
    """Return the mass of an area, m², of board with its papers as they are, kg."""
    return area * board.areal * PEELED[board.peeled if board.faced else 0]


def shell_mass(printing: Printing | Build, skin: float, inside: float) -> float:
    """Return the mass of a printed shell, kg.

    Parameters
    ----------
    printing : Printing or Build
        Its density, walls, ribs and infill.
    skin : float
        All round, m².
    inside : float
        m³.

    Returns
    -------
    float

    Source
    ------
    Skin × wall × density × (1 + ribs) + infill × inside × density: second part of the handbook §15.4.
    """
    wall = skin * printing.line_width * printing.perimeters * (1 + printing.ribs)
    return printing.density * (wall + printing.infill * max(inside - wall, 0.0))


def area_of(outline: ArrayLike) -> float:
    """Return the area of a closed outline, m².

    Parameters
    ----------
    outline : array_like, shape (n, 2)
        Either way round, m.

    Returns
    -------
    float
        m².

    Source
    ------
    ½ |Σ x_i y_(i+1) − x_(i+1) y_i|.
    """
    points = np.asarray(outline, float)
    if len(points) < 3:
        return 0.0
    x, y = points.T
    return 0.5 * abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1)))


def spread_over(points: Array) -> tuple[float, Spread]:
    """Return the area of a skin given as a net of points, and how it lies.

    Parameters
    ----------
    points : ndarray, shape (n, m, 3)
        In aircraft axes, m; each mesh is taken as two triangles.

    Returns
    -------
    area : float
        m².
    spread : Spread
    """
    a, b, c, d = points[:-1, :-1], points[1:, :-1], points[1:, 1:], points[:-1, 1:]
    triangles = np.concatenate([np.stack([a, b, c], -2), np.stack([a, c, d], -2)]).reshape(-1, 3, 3)
    cross = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    areas = 0.5 * np.linalg.norm(cross, axis=-1)
    area = float(areas.sum())
    return area, spread_of(areas, triangles.mean(axis=1), triangles)


def spread_of(mass: Array, place: Array, triangles: Array | None = None) -> Spread:
    """Return centroid and extent of weighted places.

    Parameters
    ----------
    mass : ndarray, shape (n,)
    place : ndarray, shape (n, 3)
        m.
    triangles : ndarray, shape (n, 3, 3), optional
        Corners, where each stands for a triangle filled evenly; points otherwise.

    Returns
    -------
    Spread

    Source
    ------
    Extent √12 times the standard deviation, as of a filled bar. A triangle adds Σ(corner − middle)²/12 to its own.
    """
    total = max(float(mass.sum()), 1e-30)
    centroid = mass @ place / total
    squares = (place - centroid) ** 2
    if triangles is not None:
        squares = squares + ((triangles - place[:, None]) ** 2).sum(axis=1) / 12
    return Spread(centroid, np.sqrt(12 * (mass @ squares) / total))


def along(points: Array) -> tuple[float, Spread]:
    """Return the length of a line through points, and how it lies.

    Parameters
    ----------
    points : ndarray, shape (n, 3)
        m.

    Returns
    -------
    length : float
        m.
    spread : Spread
    """
    steps = np.diff(points, axis=0)
    lengths = np.linalg.norm(steps, axis=1)
    middle = 0.5 * (points[1:] + points[:-1])
    total = max(float(lengths.sum()), 1e-30)
    centroid = lengths @ middle / total
    squares = (middle - centroid) ** 2 + steps**2 / 12
    return float(lengths.sum()), Spread(centroid, np.sqrt(12 * (lengths @ squares) / total))


def grouped(pieces: Iterable[Piece]) -> dict[str, Group]:
    """Sum pieces into the groups that items of the weight table stand for.

    Parameters
    ----------
    pieces : iterable of Piece

    Returns
    -------
    dict
        By the name of the group: shell, spars, covering, glue; only those with mass.
    """
    by_group: dict[str, list[Piece]] = {}
    for piece in pieces:
        if piece.mass > 0:
            by_group.setdefault(piece.group, []).append(piece)
    return {name: _summed(members) for name, members in by_group.items()}


def _summed(members: list[Piece]) -> Group:
    mass = np.array([piece.total for piece in members])
    place = np.array([piece.spread.centroid for piece in members])
    size = np.array([piece.spread.size for piece in members])
    total = float(mass.sum())
    centroid = mass @ place / total
    side = np.sqrt(12 * (mass @ ((place - centroid) ** 2 + size**2 / 12)) / total)
    return Group(total, _three(centroid), _three(side), any(piece.mirrored for piece in members))


def _three(values: Array) -> tuple[float, float, float]:
    x, y, z = (float(value) for value in values)
    return x, y, z


def moved(group: Group, x: float, y: float, z: float) -> Group:
    """Return a group somewhere else, m.

    Parameters
    ----------
    group : Group
    x, y, z : float

    Returns
    -------
    Group
    """
    here = (group.centroid[0] + x, group.centroid[1] + y, group.centroid[2] + z)
    return group._replace(centroid=here)


def together(groups: Iterable[Group]) -> Group:
    """Sum groups of several parts into one: glue of the whole aircraft.

    Parameters
    ----------
    groups : iterable of Group
        At least one.

    Returns
    -------
    Group
    """
    found = list(groups)
    mass = np.array([group.mass for group in found])
    place, whole = np.array([group.centroid for group in found]), np.array([group.whole for group in found])
    total = float(mass.sum())
    centroid = mass @ place / total
    spread = (place - centroid) ** 2 + whole**2 / 12
    spread[:, 1] = whole[:, 1] ** 2 / 12
    size = _three(np.sqrt(12 * (mass @ spread) / total))
    return Group(total, (float(centroid[0]), 0.0, float(centroid[2])), size, paired=False)
