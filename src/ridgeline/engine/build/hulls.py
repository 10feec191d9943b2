"""The pieces of a body, from how it is built: sides, lids, doublers and formers laid flat; or stick, shell, block."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body
from ridgeline.design.construction import BodyBuild
from ridgeline.engine.build.cut_up import Rooms, spliced
from ridgeline.engine.build.joints import INSTANT_GLUE, bead
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
    spread_over,
)
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Hull:
    """A body's cross-sections, (n,): place behind the datum, width, height and height of the middle, m."""

    body: Body
    built: BodyBuild
    x: Array
    width: Array
    height: Array
    z: Array

    @property
    def copies(self) -> int:
        """How many there are of the body."""
        return 2 if self.body.mirrored else 1

    def lies(self, across: Array, up: Array) -> Lies:
        """Tell how a strip along the body lies between two lines: ``across`` and ``up`` (n, 2), m."""
        net = np.stack([np.broadcast_to(self.x[:, None], across.shape), across + self.body.y, up], axis=-1)
        return lambda: spread_over(net)[1]


@kept()
def pieces_of_body(body: Body, rooms: Rooms = ()) -> tuple[Piece, ...]:
    """Return the pieces of a body; none where nothing says how it is built.

    Parameters
    ----------
    body : Body
    rooms : tuple of Room
        Of the sheets on hand: what none of them takes is cut up and spliced.

    Returns
    -------
    tuple of Piece
        Those of a pair of bodies as mirrored ones.

    Source
    ------
    Forms: second part of the handbook §15.1; docs/theory.md §5.
    """
    if body.built is None:
        return ()
    rows = np.array([(s.x, s.width, s.height, s.z) for s in body.sections], float)
    hull = Hull(body, body.built, *rows.T)
    made = tuple(one for piece in _FORMS[body.built.form](hull) for one in spliced(piece, rooms))
    return made if body.built.form == "bought" else (*made, *_covering(hull), *_joined(hull))


def run_along(x: Array, aside: Array) -> Array:
    """Return the distance along a slanting side from its front.

    Parameters
    ----------
    x, aside : ndarray, shape (n,)
        Its places along the body, and across or up, m.

    Returns
    -------
    ndarray, shape (n,)
        m.
    """
    return np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(x), np.diff(aside)))])


def _strip(run: Array, low: Array, high: Array) -> Array:
    return np.vstack([np.column_stack([run, low]), np.column_stack([run[::-1], high[::-1]])])


def _cut(hull: Hull, name: str, outline: Array, lies: Lies, *, paired: bool, **more: object) -> Piece:
    """Return a piece of board; ``paired`` ones lie on either side of each body."""
    board = hull.built.board
    area = area_of(outline)
    # A side has its fellow across the body's own middle: of a pair of bodies, two on each side of the aircraft.
    count = 2 if paired and hull.body.mirrored else 1
    return Piece(
        name, hull.body.id, "shell", board.material, board_mass(board, area),
        lies, outline, area, count=count, mirrored=hull.body.mirrored or paired, flat=True, **more,  # type: ignore[arg-type]
    )  # fmt: skip


def _sides(hull: Hull, less: float) -> Iterator[Piece]:
    """Yield the sides, lower by what top and bottom take, and their doublers from the nose."""
    run, half = run_along(hull.x, 0.5 * hull.width), 0.5 * np.maximum(hull.height - less, 0.0)
    across = np.repeat(0.5 * hull.width[:, None], 2, axis=1)
    up = np.column_stack([hull.z - half, hull.z + half])
    turned = {"origin": np.array([hull.x[0], hull.body.y + across[0, 0], 0.0]), "axes": np.eye(3)[[0, 2]]}
    lies = _off_middle(hull, hull.lies(across, up))
    yield _cut(hull, "Side", _strip(run, hull.z - half, hull.z + half), lies, paired=True, face="side", **turned)
    yield from _doubled(hull, run, half, across, turned)


def _off_middle(hull: Hull, lies: Lies) -> Lies:
    """Tell how a pair of sides lies: across the body's own middle where there are two bodies."""
    if not hull.body.mirrored:
        return lies

    def middle() -> Spread:
        spread = lies()
        return Spread(np.array([spread.centroid[0], hull.body.y, spread.centroid[2]]), spread.size)

    return middle


def _doubled(hull: Hull, run: Array, half: Array, across: Array, turned: dict[str, Array]) -> Iterator[Piece]:
    if hull.built.doubler <= 0:
        return
    end = hull.x[0] + hull.built.doubler * (hull.x[-1] - hull.x[0])
    x = np.append(hull.x[hull.x < end - 1e-9], end)
    low, high, flat, aside = (
        np.interp(x, hull.x, row) for row in (hull.z - half, hull.z + half, run, across[:, 0] + hull.body.y)
    )
    net = np.stack([np.column_stack([row, row]) for row in (x, aside)] + [np.column_stack([low, high])], axis=-1)
    lies = _off_middle(hull, lambda: spread_over(net)[1])
    yield _cut(hull, "Doubler", _strip(flat, low, high), lies, paired=True, **turned)


def _lid(hull: Hull, name: str, sign: float) -> Piece:
    """Return top or bottom, laid flat along its slope."""
    edge = hull.z + sign * 0.5 * hull.height
    half = 0.5 * hull.width
    lies = hull.lies(np.column_stack([-half, half]), np.repeat(edge[:, None], 2, axis=1))
    origin = np.array([hull.x[0], hull.body.y, float(edge[0])])
    face = "top" if sign > 0 else "bottom"
    return _cut(hull, name, _strip(run_along(hull.x, edge), -half, half), lies, paired=False, origin=origin, face=face)


def _box(hull: Hull) -> Iterator[Piece]:
    left_out = hull.built.open
    yield from _sides(hull, hull.built.sheet * (2 if left_out == "none" else 1))
    if left_out != "top":
        yield _lid(hull, "Top", 1.0)
    if left_out != "bottom":
        yield _lid(hull, "Bottom", -1.0)
    yield from _formers(hull)


def _formers(hull: Hull) -> Iterator[Piece]:
    """Yield the bulkheads, evenly along the body, each as large as the inside there."""
    count, sheet = hull.built.formers, hull.built.sheet
    for k in range(count):
        x = float(hull.x[0] + (k + 0.5) / count * (hull.x[-1] - hull.x[0]))
        width, height, z = (float(np.interp(x, hull.x, row)) for row in (hull.width, hull.height, hull.z))
        w, h = width - 2 * sheet, height - 2 * sheet
        if w <= 0 or h <= 0:
            continue
        outline = np.array([(-w / 2, z - h / 2), (w / 2, z - h / 2), (w / 2, z + h / 2), (-w / 2, z + h / 2)])
        spread = Spread(np.array([x, hull.body.y, z]), np.array([sheet, w, h]))
        yield _cut(
            hull, f"Former {k + 1}", outline, known(spread), paired=False,
            origin=np.array([x, hull.body.y, 0.0]), axes=np.eye(3)[[1, 2]], face="former",
        )  # fmt: skip


def _folded_box(hull: Hull) -> Iterator[Piece]:
    """Yield one sheet folded along the body: bottom in the middle, a side either way, the top on one of them."""
    lid, side = run_along(hull.x, hull.z - 0.5 * hull.height), 0.5 * hull.width
    edges = [-side - hull.height, -side, side, side + hull.height]
    if hull.built.open == "none":
        edges.append(side + hull.height + hull.width)
    outline = _strip(lid, edges[0], edges[-1])
    scores = tuple(Line("score", np.column_stack([lid, edge])) for edge in edges[1:-1])
    lies = partial(_round, hull)
    yield _cut(hull, "Folded box", outline, lies, paired=False, lines=scores)
    yield from _formers(hull)


def _profile(hull: Hull) -> Iterator[Piece]:
    """Yield an upright sheet along the middle, and its doublers."""
    half = 0.5 * hull.height
    middle = np.zeros((len(hull.x), 2))
    up = np.column_stack([hull.z - half, hull.z + half])
    turned = {"origin": np.array([hull.x[0], hull.body.y, 0.0]), "axes": np.eye(3)[[0, 2]]}
    run = hull.x - hull.x[0]
    outline = _strip(run, hull.z - half, hull.z + half)
    yield _cut(hull, "Profile", outline, hull.lies(middle, up), paired=False, face="side", **turned)
    yield from _doubled(hull, run, half, middle + hull.built.sheet, turned)


def _stick(hull: Hull) -> Iterator[Piece]:
    line = np.column_stack([hull.x, np.full_like(hull.x, hull.body.y), hull.z])
    length, spread = along(line)
    yield Piece(
        "Stick", hull.body.id, "shell", hull.built.stock, length * hull.built.linear, known(spread), NOTHING,
        length=length, mirrored=hull.body.mirrored, origin=line[0],
    )  # fmt: skip


def _round(hull: Hull) -> Spread:
    """Return how the skin of a body lies, all round."""
    weight = hull.width + hull.height
    middle = np.column_stack([hull.x, np.full_like(hull.x, hull.body.y), hull.z])
    steps = np.diff(hull.x) * 0.5 * (weight[1:] + weight[:-1])
    total = max(float(steps.sum()), 1e-30)
    # A frustum's middle by its two ends, and what it spreads over.
    near = (weight[:-1] + 2 * weight[1:]) / np.maximum(3 * (weight[:-1] + weight[1:]), 1e-30)
    place = middle[:-1] + near[:, None] * np.diff(middle, axis=0)
    centroid = steps @ place / total
    squares = (place - centroid) ** 2 + np.diff(middle, axis=0) ** 2 / 12
    size = np.sqrt(12 * (steps @ squares) / total)
    size[1] = max(size[1], float(hull.width.max()))
    size[2] = max(size[2], float(hull.height.max()))
    return Spread(centroid, size)


def _solid(hull: Hull, name: str, material: str, mass: float) -> Piece:
    lies = partial(_round, hull)
    half = 0.5 * hull.height
    outline = _strip(hull.x - hull.x[0], hull.z - half, hull.z + half)
    return Piece(
        name, hull.body.id, "shell", material, mass / hull.copies, lies, outline, area_of(outline),
        mirrored=hull.body.mirrored, origin=np.array([hull.x[0], hull.body.y, 0.0]), axes=np.eye(3)[[0, 2]],
    )  # fmt: skip


def _printed(hull: Hull) -> Iterator[Piece]:
    found = measure_body(hull.body)
    printing = hull.built.printing
    yield _solid(hull, "Printed shell", printing.material, shell_mass(printing, found.wetted, found.volume))


def _carved(hull: Hull) -> Iterator[Piece]:
    mass = measure_body(hull.body).volume * (1 - hull.built.hollow) * hull.built.foam_density
    yield _solid(hull, "Carved block", hull.built.foam, mass)


def _bought(hull: Hull) -> Iterator[Piece]:
    yield _solid(hull, "As bought", "", hull.built.mass)


_FORMS: dict[str, Callable[[Hull], Iterator[Piece]]] = {
    "profile": _profile,
    "box": _box,
    "stick": _stick,
    "folded_box": _folded_box,
    "printed": _printed,
    "carved": _carved,
    "bought": _bought,
}


def _covering(hull: Hull) -> Iterator[Piece]:
    covering = hull.built.covering
    if covering is not None and covering.layers > 0:
        skin = measure_body(hull.body).wetted / hull.copies
        yield Piece(
            "Covering", hull.body.id, "covering", covering.material, skin * covering.areal * covering.layers,
            partial(_round, hull), area=skin, mirrored=hull.body.mirrored,
        )  # fmt: skip


def _joined(hull: Hull) -> Iterator[Piece]:
    """Yield the glue: along the corners that are glued, and round each former."""
    built = hull.built
    length = float(hull.x[-1] - hull.x[0])
    round_former = 2 * float(np.mean(hull.width + hull.height))
    corners = {"box": 4 if built.open == "none" else 2, "folded_box": 1, "profile": 0, "carved": 2, "printed": 0}
    formers = built.formers if built.form in ("box", "folded_box") else 0
    doubled = 2 * built.doubler * length if built.form in ("box", "profile") else 0.0
    joint = math.ceil(length / 0.2) * round_former if built.form == "printed" else 0.0
    beads = corners.get(built.form, 0) * length + formers * round_former + doubled + joint
    linear = min(built.bead, INSTANT_GLUE) if built.form == "printed" else built.bead
    yield from bead(hull.body.id, beads, linear, partial(_round, hull), mirrored=hull.body.mirrored)
