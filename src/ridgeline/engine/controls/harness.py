"""Leads from the receiver to servos and controllers: the way they run, what has to be plugged in, what they come near.

A lead runs inboard along the panel that carries its servo, then along the body to the receiver. What comes off for
transport parts at its root: the lead has a plug there.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import from_surface, is_upright, on_surface
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.design.radio import Lead
from ridgeline.engine.controls.sense import SideName

Array = NDArray[np.float64]
#: Extensions that are sold, m, what a lead needs over the straight of its way, and what a plug takes at a root (second
#: part of the handbook §17; chosen).
STOCK, SLACK, AT_PLUG = (0.10, 0.15, 0.20, 0.30, 0.50, 1.00), 0.05, 0.03
#: Leads that servos come with, by their mass up to, kg and m; that of a controller, m (usual).
_OWN: tuple[tuple[float, float], ...] = ((0.006, 0.15), (0.020, 0.20), (9.0, 0.30))
CONTROLLER_LEAD = 0.20
#: Three thin wires by servo mass up to, kg and kg/m, a pair of plugs
#: with their pins and a Y, kg (shipped table; typical).
_LINEAR: tuple[tuple[float, float], ...] = ((0.006, 0.005), (9.0, 0.009))
PLUGS, Y_LEAD = 0.0012, 0.004
#: No signal lead runs nearer to a motor's or a pack's leads than this, m, but where it begins (handbook of the
#: trade §9).
APART, _BEGINS = 0.020, 0.06
#: In a body leads run so far inside its wall, and no farther from the middle than this, m (chosen).
_INSIDE, FARTHEST = 0.006, 0.05
#: Leads are looked along in steps of this, m, and no more of them than this.
_STEP, _MOST_STEPS = 0.005, 400


class Piece(NamedTuple):
    """A length of lead to plug in, m, and where: ``wing`` or ``body``."""

    length: float
    where: str


class Run(NamedTuple):
    """A lead: whose, on which side, its channel's place, the way (n, 3) m, its own length, what is plugged in.

    ``margin`` m is what is left over way and slack; ``parted`` tells of a plug at a root that comes off; ``kept`` says
    that its lengths were told, so that nothing is plugged in beyond them.
    """

    of: str
    side: SideName
    channel: int
    path: Array
    long: float
    own: float
    pieces: tuple[Piece, ...]
    margin: float
    parted: bool
    mass: float
    kept: bool

    @property
    def extension(self) -> float:
        """What is plugged in, m."""
        return math.fsum(piece.length for piece in self.pieces)


def own_lead(mass: float) -> float:
    """Return the lead that a servo of a mass, kg, comes with, m."""
    return next((long for most, long in _OWN if mass <= most), _OWN[-1][1])


def length_of(path: ArrayLike) -> float:
    """Return how long a way is, m, (n, 3)."""
    return float(np.linalg.norm(np.diff(np.asarray(path, float), axis=0), axis=1).sum())


def pieces_for(missing: float, stock: Sequence[float] = STOCK) -> tuple[float, ...]:
    """Return the fewest, and of those the shortest, extensions that make up for what is missing.

    Parameters
    ----------
    missing : float
        m; nothing is plugged in for nothing.
    stock : sequence of float
        Lengths that are sold, m.

    Returns
    -------
    tuple of float
    """
    if missing <= 1e-9:
        return ()
    longest = max(stock)
    whole = (longest,) * max(math.ceil((missing - 1e-9) / longest) - 1, 0)
    rest = missing - math.fsum(whole)
    one = min((length for length in stock if length >= rest - 1e-9), default=longest)
    return (*whole, one)


def wall_of(bodies: Sequence[Body], x: float, y: float) -> float:
    """Return how far from the middle of an aircraft a lead runs inside the body at a place, m; 0 where none is there.

    Parameters
    ----------
    bodies : sequence of Body
    x, y : float
        m.

    Returns
    -------
    float
    """
    best = 0.0
    for body in bodies:
        stations = [s.x + body.x for s in body.stations]
        half = 0.5 * float(np.interp(x, stations, [s.width for s in body.stations]))
        if stations[0] <= x <= stations[-1] and abs(y - body.y) <= half:
            best = max(best, half)
    return min(max(best - _INSIDE, 0.0), FARTHEST)


def way_of_lead(
    item: Item,
    side: SideName,
    surface: Surface | None,
    receiver: tuple[float, float, float],
    lead: Lead | None,
    bodies: Sequence[Body] = (),
    wall: SideName | None = None,
) -> tuple[Array, int]:
    """Return the way of a lead from its servo to the receiver, and at which point it leaves the panel.

    Parameters
    ----------
    item : Item
    side : {"starboard", "port"}
    surface : Surface or None
        That carries it, where it sits in one.
    receiver : tuple of float
        m.
    lead : Lead or None
        What was told of it.
    bodies : sequence of Body
        Along whose walls it runs.
    wall : {"starboard", "port"}, optional
        Along which; that of its own side when left out.

    Returns
    -------
    path : ndarray, shape (n, 3)
        m, in aircraft axes.
    root : int
        Index of the point at the root; 0 where it sits in no panel.
    """
    hand = -1.0 if side == "port" and item.mirrored else 1.0
    start = (item.x, hand * item.y, item.z)
    if lead is not None and lead.via:
        ways = [(via.x, hand * via.y, via.z) for via in lead.via]
        return np.array([start, *ways, receiver]), 0
    points, root = [start], 0
    if surface is not None and not is_upright(surface):
        out, share, over = from_surface(surface, item.x, item.y, item.z)
        if out > surface.stations[0].y + 1e-6:
            # Inboard along the panel, round its kinks, at the same share of the chord.
            for station in reversed([s for s in surface.stations if s.y < out - 1e-6]):
                x, y, z = on_surface(surface, station.y, share, over)
                points.append((x, hand * y, z))
            root = len(points) - 1
    x, y, z = points[-1]
    along_wall = (-1.0 if (wall or side) == "port" else 1.0) * wall_of(bodies, 0.5 * (x + receiver[0]), receiver[1])
    run = along_wall if lead is None or lead.aside is None else lead.aside
    if root and run * hand > 0 and abs(y) < abs(run) < abs(points[-2][1]):
        # Where panel and wall meet it turns along the wall: it does not go to the middle first.
        share = (abs(points[-2][1]) - abs(run)) / (abs(points[-2][1]) - abs(y))
        x, _y, z = (a + share * (b - a) for a, b in zip(points[-2], points[-1], strict=True))
        points[-1] = (x, run, z)
    points += [(x, run, z), (receiver[0], run, z), receiver]
    kept, at_root = [points[0]], 0
    for k, point in enumerate(points[1:], 1):
        if math.dist(point, kept[-1]) > 1e-6:
            kept.append(point)
        if k == root:
            at_root = len(kept) - 1
    return np.array(kept), at_root


def laid(
    item: Item, mass: float, side: SideName, channel: int, surface: Surface | None,
    receiver: tuple[float, float, float], lead: Lead | None, bodies: Sequence[Body] = (),
    wall: SideName | None = None,
) -> Run:  # fmt: skip
    """Lay a lead: its way, what has to be plugged in, what is left.

    Parameters
    ----------
    item : Item
    mass : float
        Of one, kg.
    side : {"starboard", "port"}
    channel : int
        Place of its channel.
    surface : Surface or None
        That carries it.
    receiver : tuple of float
        m.
    lead : Lead or None
    bodies : sequence of Body
    wall : {"starboard", "port"}, optional
        Of the body, along which it runs; that of its own side when left out.

    Returns
    -------
    Run
    """
    path, root = way_of_lead(item, side, surface, receiver, lead, bodies, wall)
    long = length_of(path)
    usual = own_lead(mass) if item.servo is not None else CONTROLLER_LEAD
    own = usual if lead is None or lead.own is None else lead.own
    parted = root > 0 and surface is not None and surface.joint != "fixed"
    told = None if lead is None else lead.extension
    if told is not None:
        pieces: tuple[Piece, ...] = (Piece(told, "body"),) if told > 0 else ()
        margin = own + told - long - SLACK - (AT_PLUG if parted else 0.0)
    elif parted:
        # It parts at the root: what stays in the wing reaches out of it, what stays in the body up to there.
        wing = length_of(path[: root + 1])
        inner = long - wing
        mine = tuple(Piece(one, "wing") for one in pieces_for(wing + AT_PLUG - own))
        theirs = tuple(Piece(one, "body") for one in pieces_for(inner + SLACK))
        pieces = (*mine, *theirs)
        margin = min(own + math.fsum(p.length for p in mine) - wing - AT_PLUG,
                     math.fsum(p.length for p in theirs) - inner - SLACK)  # fmt: skip
    else:
        pieces = tuple(Piece(one, "body") for one in pieces_for(long + SLACK - own))
        margin = own + math.fsum(p.length for p in pieces) - long - SLACK
    linear = next(rate for most, rate in _LINEAR if mass <= most)
    weighs = linear * math.fsum(piece.length for piece in pieces) + PLUGS * len(pieces)
    return Run(item.id, side, channel, path, long, own, pieces, margin, parted, weighs, told is not None)


# -- what carries power -----------------------------------------------------------------------------------------------


def power_ways(
    power: PowerTrain | None, parts: Sequence[Item], mounts: Sequence[tuple[float, float, float]]
) -> tuple[Array, ...]:
    """Return the ways of what carries motor current: pack to controllers, controllers to motors, (2, 3) m each.

    Parameters
    ----------
    power : PowerTrain or None
    parts : sequence of Item
    mounts : sequence of tuple
        Places of the motors, m.

    Returns
    -------
    tuple of ndarray
    """
    if power is None:
        return ()

    def places(component: str) -> list[tuple[float, float, float]]:
        found: list[tuple[float, float, float]] = []
        for item in parts:
            if item.component == component:
                found.append((item.x, item.y, item.z))
                if item.mirrored:
                    found.append((item.x, -item.y, item.z))
        return found

    packs, escs = places("pack"), places("esc")
    ways = [np.array([pack, esc]) for esc in escs for pack in packs[:1]]
    ways += [np.array([min(escs, key=lambda e: math.dist(e, mount)), mount]) for mount in mounts if escs]
    return tuple(way for way in ways if length_of(way) > 1e-6)


def along(path: Array) -> Array:
    """Return points along a way, close together, (k, 3) m."""
    reach = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(path, axis=0), axis=1))])
    count = min(max(int(reach[-1] / _STEP) + 2, 2), _MOST_STEPS)
    at = np.linspace(0.0, reach[-1], count)
    return np.column_stack([np.interp(at, reach, path[:, k]) for k in range(3)])


class Near(NamedTuple):
    """How near a lead comes to what carries power, m, where, and where that is, (3,) each."""

    apart: float
    at: Array
    other: Array


def nearest(path: Array, powers: Sequence[Array], begins: Sequence[Array] = ()) -> Near | None:
    """Return where a signal lead comes nearest to what carries power; None where nothing does.

    Parameters
    ----------
    path : ndarray, shape (n, 3)
        m.
    powers : sequence of ndarray
        Ways of what carries power, m.
    begins : sequence of ndarray
        Places, (3,), round which leads leave their plugs together: they are left out.

    Returns
    -------
    Near or None
    """
    points = along(path)
    for place in begins:
        points = points[np.linalg.norm(points - place, axis=1) > _BEGINS]
    if not len(points) or not powers:
        return None
    best: Near | None = None
    for power in powers:
        a, b = power[0], power[-1]
        axis = b - a
        share = np.clip((points - a) @ axis / max(float(axis @ axis), 1e-12), 0.0, 1.0)
        foot = a + share[:, None] * axis
        apart = np.linalg.norm(points - foot, axis=1)
        k = int(np.argmin(apart))
        if best is None or apart[k] < best.apart:
            best = Near(float(apart[k]), points[k], foot[k])
    return best
