"""Whether controls, horns and propellers come into each other's way at full throw."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations, product
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Body, ControlSurface, Surface
from ridgeline.design.axes import on_surface
from ridgeline.design.hinges import hinge_share
from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.controls.sense import SideName
from ridgeline.engine.geometry.placed import placed_at

Array = NDArray[np.float64]
#: Controls nearer than this, m, rub where boards are cut and glued by hand; a blade keeps this from a control, m
#: (handbook of the trade §8; chosen).
ROOM, DISC_ROOM = 0.002, 0.008
#: Places along either edge of a control that are looked at.
_ACROSS, _ALONG = 9, 5
#: Controls are cut back in steps of this, m, and no more than so much of their length.
_CUT, _CUT_AT_MOST = 0.001, 1 / 3
#: An edge that only touches a plate does not pass through it.
_EDGE = 1e-9
_RIM_U, _RIM_V = np.array([-1.0, 1.0]), np.array([1.0, -1.0])


class Moving(NamedTuple):
    """A control on one side with the surface it hangs on and its throws."""

    surface: Surface
    control: ControlSurface
    side: SideName
    throw: Throw

    @property
    def angles(self) -> tuple[float, float, float]:
        """Both ends of its travel and neutral, rad, trailing edge down positive."""
        return -self.throw.up, 0.0, self.throw.down


class Meeting(NamedTuple):
    """Two controls that meet: which they are, how they stand, rad, and the least room, m; nothing where they cross."""

    one: Moving
    other: Moving
    at: tuple[float, float]
    room: float


class Struck(NamedTuple):
    """A control that comes into a propeller's disc: how it stands, rad, and how far inside the tip's circle, m."""

    one: Moving
    at: float
    inside: float


class Blocked(NamedTuple):
    """A horn or servo arm that stands inside a body, or under a wing that comes off: the linkage, and which of both."""

    linkage: Linkage
    surface: Surface
    comes_off: bool


def plates(one: Moving, angles: ArrayLike) -> Array:
    """Return a control as plates at angles: rows from its hinge to its trailing edge, out along it, (n, 5, 9, 3) m.

    Parameters
    ----------
    one : Moving
    angles : array_like, shape (n,)
        rad, trailing edge to the underside positive.

    Returns
    -------
    ndarray
    """
    surface, control = one.surface, one.control
    out = np.linspace(control.start, control.end, _ACROSS)
    shares = 1 - hinge_share(surface, control, out)
    here = placed_at(surface, out)
    hinge, edge = here.along(shares), here.trailing
    axis = hinge[-1] - hinge[0]
    axis = axis / np.linalg.norm(axis)
    back = edge - hinge
    along = axis * (back @ axis)[:, None]
    turn = np.asarray(angles, float)[:, None, None]
    turned = along + np.cos(turn) * (back - along) + np.sin(turn) * np.cross(axis, back)
    rows: Array = hinge + np.linspace(0.0, 1.0, _ALONG)[None, :, None, None] * turned[:, None]
    return rows * np.array([1.0, -1.0, 1.0]) if one.side == "port" else rows


def crossing(ones: Array, others: Array) -> NDArray[np.bool_]:
    """Tell which of some plates cut through which of others: an edge of one passes through the other.

    Parameters
    ----------
    ones : ndarray, shape (n, 5, 9, 3)
        m, of `plates`.
    others : ndarray, shape (k, 5, 9, 3)

    Returns
    -------
    ndarray of bool, shape (n, k)
    """
    return _edges_through(ones, others) | _edges_through(others, ones).T


def _corners(rows: Array) -> Array:
    return np.stack([rows[:, 0, 0], rows[:, 0, -1], rows[:, -1, -1], rows[:, -1, 0]], axis=1)


def _edges_through(ones: Array, others: Array) -> NDArray[np.bool_]:
    """Tell where an edge of the first plates passes through the second, as two triangles, not only touching it.

    Source
    ------
    Möller and Trumbore, Fast, minimum storage ray/triangle intersection, 1997.
    """
    begin = _corners(ones)[:, None, :, None]
    way = np.roll(_corners(ones), -1, axis=1)[:, None, :, None] - begin
    target = _corners(others)
    triangles = np.stack([target[:, [0, 1, 2]], target[:, [0, 2, 3]]], axis=1)[None, :, None]
    corner = triangles[..., 0, :]
    first, second = triangles[..., 1, :] - corner, triangles[..., 2, :] - corner
    across = np.cross(way, second)
    det = np.sum(first * across, axis=-1)
    start = begin - corner
    around = np.cross(start, first)
    level = np.abs(det) <= 1e-15
    det = np.where(level, 1.0, det)
    u = np.sum(start * across, axis=-1) / det
    v = np.sum(way * around, axis=-1) / det
    t = np.sum(second * around, axis=-1) / det
    # The diagonal that both triangles share belongs to the plate, its rim does not.
    inside = (u > _EDGE * _RIM_U) & (v > _EDGE * _RIM_V) & (u + v < 1 - _EDGE) & (t > _EDGE) & (t < 1 - _EDGE)
    found: NDArray[np.bool_] = (inside & ~level).any(axis=(2, 3))
    return found


def rooms(ones: Array, others: Array) -> Array:
    """Return the least distance between places of plates, m; none where they cross.

    Parameters
    ----------
    ones : ndarray, shape (n, 5, 9, 3)
    others : ndarray, shape (k, 5, 9, 3)

    Returns
    -------
    ndarray, shape (n, k)
    """
    a, b = ones.reshape(len(ones), -1, 3), others.reshape(len(others), -1, 3)
    square = np.sum(a**2, axis=2)[:, None, :, None] + np.sum(b**2, axis=2)[None, :, None, :]
    square = square - 2 * np.einsum("nik,mjk->nmij", a, b)
    apart = np.sqrt(np.maximum(square.min(axis=(2, 3)), 0.0))
    return np.where(crossing(ones, others), 0.0, apart)


def meetings(moving: Sequence[Moving], swung: Sequence[Array] | None = None) -> tuple[Meeting, ...]:
    """Return the controls of different surfaces that rub at some ends of their travels and not at rest.

    Parameters
    ----------
    moving : sequence of Moving
        Of all surfaces, both sides.
    swung : sequence of ndarray, optional
        Their plates at both ends and neutral, where these are known.

    Returns
    -------
    tuple of Meeting
        The worst of each pair.
    """
    swung = [plates(one, one.angles) for one in moving] if swung is None else swung
    boxes = [_box(rows) for rows in swung]
    found = []
    for i, j in combinations(range(len(moving)), 2):
        if moving[i].surface.id == moving[j].surface.id or not _near(boxes[i], boxes[j]):
            continue
        room = rooms(swung[i], swung[j])
        a, b = np.unravel_index(int(np.argmin(room)), room.shape)
        if room[a, b] < ROOM:
            at = moving[i].angles[int(a)], moving[j].angles[int(b)]
            found.append(Meeting(moving[i], moving[j], at, float(room[a, b])))
    return tuple(found)


def start_for(one: Moving, other: Moving) -> float | None:
    """Return how far out a control must begin so that it passes another at all ends of their travels, m.

    Parameters
    ----------
    one, other : Moving

    Returns
    -------
    float or None
        In whole millimetres more than now; None where cutting no more than a third of it away does.
    """
    control = one.control
    fixed = plates(other, other.angles)
    most = control.start + _CUT_AT_MOST * (control.end - control.start)
    for steps in range(1, int((most - control.start) / _CUT) + 1):
        start = round(control.start + steps * _CUT, 5)
        cut = one._replace(control=control.model_copy(update={"start": start}))
        if rooms(plates(cut, cut.angles), fixed).min() >= ROOM:
            return start
    return None


def _box(rows: Array) -> tuple[Array, Array]:
    every = rows.reshape(-1, 3)
    return every.min(axis=0) - ROOM, every.max(axis=0) + ROOM


def _near(one: tuple[Array, Array], other: tuple[Array, Array]) -> bool:
    return bool(np.all(one[0] <= other[1]) and np.all(other[0] <= one[1]))


def struck(
    moving: Sequence[Moving], discs: Sequence[tuple[float, float, float]], radius: float,
    swung: Sequence[Array] | None = None,
) -> tuple[Struck, ...]:  # fmt: skip
    """Return the controls that come within reach of a turning propeller.

    Parameters
    ----------
    moving : sequence of Moving
    discs : sequence of tuple
        Middles of the propellers, m.
    radius : float
        m.
    swung : sequence of ndarray, optional
        As of `meetings`.

    Returns
    -------
    tuple of Struck
    """
    found = []
    if not discs:
        return ()
    for one, rows_of in zip(moving, [None] * len(moving) if swung is None else swung, strict=True):
        worst: Struck | None = None
        swings = plates(one, one.angles) if rows_of is None else rows_of
        for (angle, swing), (x, y, z) in product(zip(one.angles, swings, strict=True), discs):
            rows = swing.reshape(-1, 3)
            # Crossing the disc's plane counts wherever a row goes from before it to behind it.
            reach = np.hypot(rows[:, 1] - y, rows[:, 2] - z)
            close = np.abs(rows[:, 0] - x) < DISC_ROOM
            both = rows.reshape(_ALONG, _ACROSS, 3)[:, :, 0] - x
            passes = (both.min(axis=0) < 0) & (both.max(axis=0) > 0)
            hit = close | np.tile(passes, _ALONG)
            inside = float(np.max(radius + DISC_ROOM - reach, where=hit, initial=0.0))
            if inside > 0 and (worst is None or inside > worst.inside):
                worst = Struck(one, angle, inside)
        if worst is not None:
            found.append(worst)
    return tuple(found)


def blocked(linkages: Sequence[tuple[Linkage, Surface, ControlSurface]], bodies: Sequence[Body]) -> tuple[Blocked, ...]:
    """Return the horns that stand inside a body, or in the way of a wing that comes off it.

    Parameters
    ----------
    linkages : sequence of tuple
        Linkages with their surfaces and controls.
    bodies : sequence of Body

    Returns
    -------
    tuple of Blocked
    """
    found = []
    for one, surface, control in linkages:
        out = one.out if one.out is not None else 0.5 * (control.start + control.end)
        share = 1 - float(hinge_share(surface, control, out))
        over = -one.horn if one.horn_below else one.horn
        places = [on_surface(surface, out, share, height) for height in (0.0, over)]
        if any(_inside(body, places[1]) for body in bodies):
            found.append(Blocked(one, surface, surface.joint != "fixed" and not any(_inside(body, places[0])
                                                                                   for body in bodies)))  # fmt: skip
    return tuple(found)


def _inside(body: Body, place: tuple[float, float, float]) -> bool:
    x, y, z = place
    at = [station.x + body.x for station in body.stations]
    if not at[0] <= x <= at[-1]:
        return False
    wide, tall = (0.5 * float(np.interp(x, at, [getattr(s, name) for s in body.stations]))
                  for name in ("width", "height"))  # fmt: skip
    middle = body.z + float(np.interp(x, at, [s.z for s in body.stations]))
    hands = (body.y, -body.y) if body.mirrored else (body.y,)
    return any(abs(y - hand) < wide and abs(z - middle) < tall for hand in hands)
