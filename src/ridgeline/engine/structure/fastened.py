"""What each fastening bears, against what the aircraft does to it: one law a kind."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ridgeline.design.fastening import Fastening
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.joints import (
    band_hold,
    boom_keeps,
    edge_crush,
    hold_down_needed,
    magnet_hold,
    sink_that_bends,
    socket_bearing,
    wire_stress,
)
from ridgeline.engine.structure.sections import tube

#: Working tension of nylon bolts by diameter, m and N (second part of the handbook §16.3).
_BOLTS = ((0.003, 0.004, 0.005, 0.006), (110.0, 220.0, 360.0, 520.0))
#: Pull of one strand, N: 3 × 1 mm at double length; of a steel screw out of 3 mm ply; of a strap as it is sold (§16.3;
#: the strap chosen).
_STRAND, _SCREW, _STRAP = 3.5, 150.0, 60.0
#: A bolt's head or washer is so many of its diameters across (usual).
_HEAD = 2.5
#: What bears, Pa: craft-foam edges, ply under a head, a bond in shear on foam, a boom's socket of balsa along the
#: grain, music wire at its yield, pultruded tube where it is held (§16.3, 16.6).
EDGE, PLY, FOAM_SHEAR, SOCKET, WIRE, TUBE = 0.16e6, 20e6, 0.12e6, 5e6, 1200e6, 400e6
_STEEL_E, _CARBON_E = 200e9, 120e9
#: Tape across a folded joint, N/m of its width, and how far apart tape and fold pull and push, shares of the depth
#: (chosen: reinforced tape on paper, whose paper tears first).
_TAPE, _COUPLE = 4000.0, 0.8
#: Steps tried of what makes a fastening hold more.
_TRIES = 80
#: Load factor of a nose-over on what is held in front, and how far a motor's middle stands before its mount over its
#: own length (§16.1; chosen).
NOSE_OVER, _OVERHANG = 10.0, 0.5


class Tail(NamedTuple):
    """The greatest load of tail or fin, N, area m² and lift slope 1/rad of the tail, and the pressure it meets, Pa."""

    load: float
    area: float
    slope: float
    pressure: float


@dataclass(frozen=True)
class Doing:
    """What the aircraft does to its fastenings.

    ``factor`` limit load factor, ``mass`` kg, ``landing`` load factor of a touch-down, ``thrust`` N of one motor;
    ``tail`` what tail and fin do. By ids: ``masses`` kg of what is held; ``lengths`` of a motor before its mount, or of
    a boom, m, nothing of others; ``elbows`` the moment of a wing at a place out, N m, ``depths`` its depth there, m.
    """

    factor: float
    mass: float
    landing: float
    thrust: float
    tail: Tail
    masses: Callable[[str], float]
    lengths: Callable[[str], float]
    elbows: Callable[[str, float], float]
    depths: Callable[[str, float], float]


class Share(NamedTuple):
    """A fastening under load: ``load`` over ``bears`` in their quantity, and the words of what acts."""

    load: float
    bears: float
    quantity: str
    words: str

    @property
    def share(self) -> float:
        """Load over what it may bear."""
        return self.load / self.bears if self.bears > 0 else math.inf


def shares_of(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return every way a fastening may give, the nearest first.

    Parameters
    ----------
    one : Fastening
    doing : Doing

    Returns
    -------
    tuple of Share

    Source
    ------
    Second part of the handbook §16.3, 16.6; docs/theory.md §13.
    """
    return tuple(sorted(_LAWS[one.kind](one, doing), key=lambda share: -share.share))


def _down(one: Fastening, doing: Doing) -> float:
    """Return what a wing seat has to hold down, N."""
    return hold_down_needed(doing.factor, doing.mass, doing.masses(one.of))


def _bands(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    pull = one.hold if one.hold is not None else _STRAND
    hold = band_hold(one.count, pull, one.angle)
    # Each dowel carries half of what the bands pull it down by, through both sides.
    crush = edge_crush(hold / 2, max(one.length, one.size), one.sheet)
    bears = one.bears if one.bears is not None else EDGE
    return (
        Share(_down(one, doing), hold, "force", "wing lift, half as much again"),
        Share(crush, bears, "stress", "edge under the dowels"),
    )


def _bolts(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else float(np.interp(one.size, *_BOLTS)) * min(one.size / _BOLTS[0][0], 1.0)
    down = _down(one, doing)
    under = math.pi / 4 * ((_HEAD * one.size) ** 2 - one.size**2)
    return (
        Share(down, each * one.count, "force", "wing lift, half as much again"),
        Share(down / one.count / under, one.bears if one.bears is not None else PLY, "stress", "under the heads"),
    )


def _magnets(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    rated = one.hold if one.hold is not None else _STRAP
    hold = one.count * magnet_hold(rated, one.gap)
    return (Share(_down(one, doing), hold, "force", "wing lift, half as much again"),)


def _tongue(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    # The other end of the seat holds the other half.
    pressure = 0.5 * _down(one, doing) / (one.width * one.length)
    bears = one.bears if one.bears is not None else PLY
    return (Share(pressure, bears, "stress", "half the wing's lift on the tongue"),)


def _elbow(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    moment = ULTIMATE * doing.elbows(one.of, one.out)
    bears = _TAPE * one.width * _COUPLE * max(doing.depths(one.of, one.out), 1e-3)
    return (Share(moment, bears, "torque", "bending there, half as much again"),)


def _screws(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else _SCREW
    mass, long = doing.masses(one.of), doing.lengths(one.of)
    over = NOSE_OVER * mass * GRAVITY
    # Sideways at the motor's middle: a couple over the width of the screws.
    pull = max(doing.thrust, over * _OVERHANG * long / max(one.width, 1e-3) + over)
    return (Share(ULTIMATE * pull, each * one.count, "force", "thrust, or 10 g in a nose-over"),)


def _bond(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    motor = doing.lengths(one.of) > 0
    force = max(doing.thrust, NOSE_OVER * doing.masses(one.of) * GRAVITY) if motor else doing.tail.load
    bears = one.bears if one.bears is not None else FOAM_SHEAR
    words = "thrust, or 10 g in a nose-over" if motor else "the load of the tail"
    return (Share(ULTIMATE * force / (one.length * one.width), bears, "stress", words),)


def _prop_bands(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    pull = one.hold if one.hold is not None else _STRAND
    return (Share(doing.thrust, 2 * one.count * pull, "force", "thrust on the propeller's bands"),)


def _strap(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else _STRAP
    return (Share(NOSE_OVER * doing.masses(one.of) * GRAVITY, each * one.count, "force", "10 g in a nose-over"),)


def _legs(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    force = doing.landing * doing.mass * GRAVITY / one.count
    stress = wire_stress(force, one.length, one.size)
    bears = one.bears if one.bears is not None else WIRE
    volume = one.count * math.pi / 4 * one.size**2 * one.length
    sink = sink_that_bends(bears, volume, one.modulus or _STEEL_E, doing.mass)
    words = f"a hard touch-down; they bend for good at {sink:.1f} m/s of sink"
    return (Share(stress, bears, "stress", words),)


def _boom(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    section = tube(one.size, min(one.inner, 0.999 * one.size))
    bears = (one.bears if one.bears is not None else TUBE) / ULTIMATE
    stress = doing.tail.load * one.length / section.modulus / one.count
    stiff = one.count * section.second * (one.modulus or _CARBON_E)
    kept = boom_keeps(doing.tail.pressure, doing.tail.area, doing.tail.slope, one.length, stiff)
    words = f"the tail's greatest load; {100 * (1 - kept):.0f} % of the elevator is lost to its bend"
    return (Share(stress, bears, "stress", words),)


def _socket(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    moment = doing.tail.load * max(doing.lengths(one.of), 0.0)
    pressure = ULTIMATE * socket_bearing(moment, doing.tail.load, one.length, one.size)
    bears = one.bears if one.bears is not None else SOCKET
    return (Share(pressure, bears, "stress", "the tail's greatest load at its mouth"),)


_LAWS: dict[str, Callable[[Fastening, Doing], tuple[Share, ...]]] = {
    "bands": _bands,
    "bolts": _bolts,
    "magnets": _magnets,
    "tongue": _tongue,
    "elbow": _elbow,
    "screws": _screws,
    "bond": _bond,
    "prop_bands": _prop_bands,
    "strap": _strap,
    "legs": _legs,
    "boom": _boom,
    "socket": _socket,
}


#: What makes each kind hold more, in the order it is tried: field, step, and the most.
_MORE: dict[str, tuple[tuple[str, float, float], ...]] = {
    "bands": (("length", 0.01, 0.3), ("count", 2, 40)),
    "bolts": (("size", 0.001, 0.006), ("count", 1, 12)),
    "magnets": (("count", 1, 24),),
    "tongue": (("width", 0.005, 0.2),),
    "elbow": (("width", 0.01, 0.4),),
    "screws": (("count", 2, 12),),
    "bond": (("length", 0.005, 0.4), ("width", 0.004, 0.2)),
    "prop_bands": (("count", 1, 12),),
    "strap": (("count", 1, 6),),
    "legs": (("size", 0.0005, 0.014),),
    "boom": (("size", 0.001, 0.06),),
    "socket": (("length", 0.01, 0.4),),
}


def stronger(one: Fastening, doing: Doing, most: float = 1.0) -> Fastening | None:
    """Return a fastening of the same kind that bears, with the least more of what makes it hold; None without one.

    Parameters
    ----------
    one : Fastening
    doing : Doing
    most : float
        Share it may come to.

    Returns
    -------
    Fastening or None
    """
    trial = one
    for _ in range(_TRIES):
        worst = shares_of(trial, doing)[0]
        if worst.share <= most:
            return trial
        steps = _MORE[one.kind]
        # More bands crush the edge harder, so that a stick is lengthened for that and strands are added for the lift.
        if one.kind == "bands":
            steps = steps[:1] if worst.quantity == "stress" else steps[1:]
        able = (step for step in steps if getattr(trial, step[0]) + step[1] <= step[2] + 1e-9)
        grown = next((_grown(trial, field, by) for field, by, _most in able), None)
        if grown is None:
            return None
        trial = grown
    return None


def _grown(one: Fastening, field: str, step: float) -> Fastening:
    value = getattr(one, field) + step
    update: dict[str, float | int] = {field: int(value) if field == "count" else round(value, 6)}
    if one.kind == "boom" and one.inner:
        # The wall stays.
        update["inner"] = round(one.inner + step, 6)
    grown: Fastening = one.model_copy(update=update)
    return grown
