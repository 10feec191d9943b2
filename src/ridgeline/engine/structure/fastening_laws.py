"""How each kind of fastening gives: one law a kind, of what the aircraft does to it against what it bears."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ridgeline.design.fastening import Fastening, FasteningKind
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.structure.bracing import buckles, constants
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
from ridgeline.engine.structure.sections import allowed, tube

#: Working tension of nylon bolts by diameter, m and N (second part of the handbook §16.3).
_BOLTS = ((0.003, 0.004, 0.005, 0.006), (110.0, 220.0, 360.0, 520.0))
#: Pull of one strand, N: 3 × 1 mm at double length; of a steel screw out of 3 mm ply; of a strap as it is sold (§16.3;
#: the strap chosen); of a spring or pulled line on a tail (chosen).
_STRAND, _SCREW, _STRAP, _LINE = 3.5, 150.0, 60.0, 3.0
#: A bolt's head or washer is so many of its diameters across (usual).
_HEAD = 2.5
#: What bears, Pa: craft-foam edges, ply under a head, a bond in shear on foam, a boom's socket of balsa along the
#: grain, music wire at its yield, pultruded tube where it is held (§16.3, 16.6).
EDGE, PLY, FOAM_SHEAR, SOCKET, WIRE, TUBE = 0.16e6, 20e6, 0.12e6, 5e6, 1200e6, 400e6
#: A plate of ply in bending, and a pin of steel across itself, Pa (usual of birch ply and of silver steel).
_PLATE, _PIN = 40e6, 300e6
_STEEL_E, _CARBON_E = 200e9, 120e9
#: Tape across a folded joint, N/m of its width, and how far apart tape and fold pull and push, shares of the depth
#: (chosen: reinforced tape on paper, whose paper tears first).
_TAPE, _COUPLE = 4000.0, 0.8
#: Load factor of a nose-over on what is held in front, and how far a motor's middle stands before its mount over its
#: own length (§16.1; chosen).
NOSE_OVER, _OVERHANG = 10.0, 0.5
#: A square plate held along its edges, loaded in its middle: stress over W/t² (Roark's formulas, table 11.4, case 8).
_CLAMPED = 0.7542
#: What of a bolt's tension it bears across itself (§16.3's tension by von Mises), and friction of what is pressed on
#: its seat (chosen).
_ACROSS, _FRICTION = 0.58, 0.5
#: Hole of a servo's arm that pulls hardest, m, and where a blade's thrust acts, of its radius (usual).
_ARM, _BLADE = 0.008, 0.7
#: A mount is so warm over the air as this of the motor's windings (chosen), and hot glue gives at so much, °C.
MOUNT_WARM, HOT_GLUE = 0.6, 60.0


class Tail(NamedTuple):
    """The greatest load of tail or fin, N, area m² and lift slope 1/rad of the tail, and the pressure it meets, Pa."""

    load: float
    area: float
    slope: float
    pressure: float


class Motor(NamedTuple):
    """One motor at full throttle: thrust N, torque N m, its windings over the air K; blades and disc radius m."""

    thrust: float = 0.0
    torque: float = 0.0
    warm: float = 0.0
    blades: int = 2
    radius: float = 0.1


class Pull(NamedTuple):
    """What a strut or thread does in all cases: the most it is pulled and pushed, N, and its length, m."""

    pull: float
    push: float
    long: float


class Plate(NamedTuple):
    """What a pull at a place of a tail comes to: moment over what it bears there, N m, and bend at that place, m."""

    moment: float
    bears: float
    bend: float


@dataclass(frozen=True)
class Doing:
    """What the aircraft does to its fastenings.

    ``factor`` limit load factor, ``mass`` kg, ``landing`` load factor of a touch-down; ``swing`` that along the span of
    a launch by the wing tip, 0 without; ``air`` °C; ``motor`` what one does, ``tail`` what tail and fin do. By ids:
    ``masses`` kg of what is held; ``lengths`` of a motor before its mount, or of a boom, m, nothing of others;
    ``elbows`` the moment of a wing at a place out, N m, ``depths`` how deep it is there, m; ``servos`` stall torque
    N m; ``plates`` what a force, N, at a place out does to a tail; ``pulls`` what a strut or thread does, None where
    it holds nothing.
    """

    factor: float
    mass: float
    landing: float
    motor: Motor
    tail: Tail
    masses: Callable[[str], float]
    lengths: Callable[[str], float]
    elbows: Callable[[str, float], float]
    depths: Callable[[str, float], float]
    servos: Callable[[str], float]
    plates: Callable[[str, float, float], Plate | None]
    pulls: Callable[[Fastening], Pull | None]
    swing: float = 0.0
    air: float = 20.0


class Share(NamedTuple):
    """A fastening under load: ``load`` over ``bears`` in their quantity, what acts, and what is to be said besides.

    ``by`` are the fields that make it hold more, in the order they are tried.
    """

    load: float
    bears: float
    quantity: str
    acts: str
    by: tuple[str, ...]
    besides: Phrase | None = None

    @property
    def words(self) -> Phrase:
        """What acts, and what is to be said besides."""
        if self.besides is None:
            return say(self.acts)
        return say(f"{self.acts}; {self.besides.template}", *self.besides.values)

    @property
    def share(self) -> float:
        """Load over what it may bear."""
        return self.load / self.bears if self.bears > 0 else math.inf


def _down(one: Fastening, doing: Doing) -> float:
    """Return what a wing seat has to hold down, N."""
    return hold_down_needed(doing.factor, doing.mass, doing.masses(one.of))


_LIFT = "wing lift, half as much again"


def _swung(one: Fastening, doing: Doing, bears: float, by: tuple[str, ...]) -> tuple[Share, ...]:
    """Return what a launch by the wing tip asks of a seat along the span, N; nothing without one."""
    if not doing.swing:
        return ()
    side = ULTIMATE * doing.swing * max(doing.mass - doing.masses(one.of), 0.0) * GRAVITY
    return (Share(side, bears, "force", "a launch by the wing tip, sideways", by),)


def _bands(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    pull = one.hold if one.hold is not None else _STRAND
    hold = band_hold(one.count, pull, one.angle)
    # Each dowel carries half of what the bands pull it down by, through both sides.
    crush = edge_crush(hold / 2, max(one.length, one.size), one.sheet)
    bears = one.bears if one.bears is not None else EDGE
    return (
        Share(_down(one, doing), hold, "force", _LIFT, ("count",)),
        Share(crush, bears, "stress", "edge under the dowels", ("length",)),
        *_swung(one, doing, _FRICTION * hold, ("count",)),
    )


def _bolts(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else float(np.interp(one.size, *_BOLTS)) * min(one.size / _BOLTS[0][0], 1.0)
    down = _down(one, doing)
    under = math.pi / 4 * ((_HEAD * one.size) ** 2 - one.size**2)
    bears, by = one.bears if one.bears is not None else PLY, ("size", "count")
    return (
        Share(down, each * one.count, "force", _LIFT, by),
        Share(down / one.count / under, bears, "stress", "under the heads", by),
        *_swung(one, doing, _ACROSS * each * one.count, by),
    )


def _magnets(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    rated = one.hold if one.hold is not None else _STRAP
    hold = one.count * magnet_hold(rated, one.gap)
    return (
        Share(_down(one, doing), hold, "force", _LIFT, ("count",)),
        *_swung(one, doing, _FRICTION * hold, ("count",)),
    )


def _tongue(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    # The other end of the seat holds the other half.
    pressure = 0.5 * _down(one, doing) / (one.width * one.length)
    bears = one.bears if one.bears is not None else PLY
    return (Share(pressure, bears, "stress", "half the wing's lift on the tongue", ("width",)),)


def _elbow(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    moment = ULTIMATE * doing.elbows(one.of, one.out)
    tape = _TAPE * one.width
    bears = tape * _COUPLE * max(doing.depths(one.of, one.out), 1e-3)
    return (
        Share(moment, bears, "torque", "bending there, half as much again", ("width",)),
        *_swung(one, doing, tape, ("width",)),
    )


def _over(one: Fastening, doing: Doing) -> tuple[float, float]:
    """Return the force of a nose-over on a motor, N, and its moment at the mount, N m."""
    over = NOSE_OVER * doing.masses(one.of) * GRAVITY
    return over, over * _OVERHANG * doing.lengths(one.of)


_AHEAD = "thrust, or 10 g in a nose-over"


def _screws(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else _SCREW
    over, moment = _over(one, doing)
    # Sideways at the motor's middle: a couple over the width of the screws.
    pull = max(doing.motor.thrust, moment / max(one.width, 1e-3) + over)
    return (
        Share(ULTIMATE * pull, each * one.count, "force", _AHEAD, ("count",)),
        *_warm(one, doing, one.softens_c),
    )


def _warm(one: Fastening, doing: Doing, softens: float | None) -> tuple[Share, ...]:
    """Return how warm a motor's mount gets against where it softens, K over the air; none where that is not known."""
    if softens is None or not doing.lengths(one.of):
        return ()
    warm, most = MOUNT_WARM * doing.motor.warm, max(softens - doing.air, 1.0)
    return (Share(warm, most, "temperature_rise", "the motor's heat after half a minute of full throttle", ()),)


def _bond(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    motor = doing.lengths(one.of) > 0
    force = max(doing.motor.thrust, NOSE_OVER * doing.masses(one.of) * GRAVITY) if motor else doing.tail.load
    bears = one.bears if one.bears is not None else FOAM_SHEAR
    words, by = _AHEAD if motor else "the load of the tail", ("length", "width")
    return (
        Share(ULTIMATE * force / (one.length * one.width), bears, "stress", words, by),
        *_warm(one, doing, one.softens_c or HOT_GLUE),
    )


def _firewall(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return how a square plate with a motor on it gives: its glued edge, the plate in its middle, heat."""
    over, moment = _over(one, doing)
    force, side = max(doing.motor.thrust, over), one.length
    edge = side * one.width
    shear = force / (4 * edge) + moment / (edge * side) + doing.motor.torque / (4 * edge * side / 2)
    bears = one.bears if one.bears is not None else FOAM_SHEAR
    return (
        Share(ULTIMATE * shear, bears, "stress", f"its glued edge: {_AHEAD}, and torque", ("width",)),
        Share(ULTIMATE * _CLAMPED * force / one.sheet**2, _PLATE, "stress", f"the plate itself: {_AHEAD}", ("sheet",)),
        *_warm(one, doing, one.softens_c or HOT_GLUE),
    )


def _prop_bands(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    pull = one.hold if one.hold is not None else _STRAND
    bears = 2 * one.count * pull
    return (Share(doing.motor.thrust, bears, "force", "thrust on the propeller's bands", ("count",)),)


def _blade_stop(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return how the pin gives that stops a folding blade: pushed forward before it is flung out."""
    motor = doing.motor
    force = motor.thrust / motor.blades * _BLADE * motor.radius / one.length
    stress = ULTIMATE * force / (math.pi / 4 * one.size**2)
    bears = one.bears if one.bears is not None else _PIN
    return (Share(stress, bears, "stress", "a blade pushed on its stop by full thrust", ("size",)),)


def _strap(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    each = one.hold if one.hold is not None else _STRAP
    over = NOSE_OVER * doing.masses(one.of) * GRAVITY
    return (Share(over, each * one.count, "force", "10 g in a nose-over", ("count",)),)


def _legs(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    force = doing.landing * doing.mass * GRAVITY / one.count
    stress = wire_stress(force, one.length, one.size)
    bears = one.bears if one.bears is not None else WIRE
    volume = one.count * math.pi / 4 * one.size**2 * one.length
    sink = sink_that_bends(bears, volume, one.modulus or _STEEL_E, doing.mass)
    besides = say("they bend for good at {} of sink", Measured(sink, "speed", 1))
    return (Share(stress, bears, "stress", "a hard touch-down", ("size",), besides),)


def _skid(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    pressure = doing.landing * doing.mass * GRAVITY / (one.length * one.width)
    bears = one.bears if one.bears is not None else EDGE
    return (Share(pressure, bears, "stress", "a hard touch-down on what is under it", ("length", "width")),)


def _boom(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    section = tube(one.size, min(one.inner, 0.999 * one.size))
    bears = (one.bears if one.bears is not None else TUBE) / ULTIMATE
    stress = doing.tail.load * one.length / section.modulus / one.count
    stiff = one.count * section.second * (one.modulus or _CARBON_E)
    kept = boom_keeps(doing.tail.pressure, doing.tail.area, doing.tail.slope, one.length, stiff)
    besides = say("{} of the elevator is lost to its bend", Measured(1 - kept, "fraction", 0))
    return (Share(stress, bears, "stress", "the tail's greatest load", ("size",), besides),)


def _socket(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    moment = doing.tail.load * max(doing.lengths(one.of), 0.0)
    pressure = ULTIMATE * socket_bearing(moment, doing.tail.load, one.length, one.size)
    bears = one.bears if one.bears is not None else SOCKET
    return (Share(pressure, bears, "stress", "the tail's greatest load at its mouth", ("length",)),)


def _brace(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return how a strut or thread gives: pulled, pushed, and at the pads that hold its ends."""
    found = doing.pulls(one)
    modulus, strength = constants(one)
    section = tube(one.size, min(one.inner, 0.999 * one.size))
    bears = one.count * section.area * allowed(strength, brittle=True)
    if found is None:
        return (Share(0.0, bears, "force", "it holds nothing where it stands", ("size",)),)
    most = max(found.pull, found.push)
    pad = ULTIMATE * most / (one.count * one.length * one.width)
    shares = [
        Share(found.pull, bears, "force", "pulled, the worst of all cases", ("size",)),
        Share(pad, FOAM_SHEAR, "stress", "the pads at its ends", ("length", "width")),
    ]
    if one.kind == "strut":
        # Slender ones buckle long before they crush.
        push = min(bears, one.count * buckles(modulus * section.second, found.long) / ULTIMATE)
        shares.append(Share(found.push, push, "force", "pushed, the worst of all cases", ("size",)))
    return tuple(shares)


def _servo_seat(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    force = doing.servos(one.of) / _ARM
    bears = one.bears if one.bears is not None else FOAM_SHEAR
    by = ("length", "width")
    return (Share(ULTIMATE * force / (one.length * one.width), bears, "stress", "a stalled servo's pull", by),)


def _lines(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return what the pull of a spring or of lines does to the plate of a tail."""
    found = doing.plates(one.of, one.out, one.hold if one.hold is not None else _LINE)
    if found is None:
        return (Share(0.0, 1.0, "torque", "what it pulls on is not known", ()),)
    besides = say("it bends it by {} there", Measured(found.bend, "length", 1))
    return (Share(found.moment, found.bears, "torque", "the pull of its lines", (), besides),)


LAWS: dict[FasteningKind, Callable[[Fastening, Doing], tuple[Share, ...]]] = {
    "bands": _bands,
    "bolts": _bolts,
    "magnets": _magnets,
    "tongue": _tongue,
    "elbow": _elbow,
    "screws": _screws,
    "bond": _bond,
    "firewall": _firewall,
    "prop_bands": _prop_bands,
    "blade_stop": _blade_stop,
    "strap": _strap,
    "legs": _legs,
    "skid": _skid,
    "boom": _boom,
    "socket": _socket,
    "strut": _brace,
    "thread": _brace,
    "servo_seat": _servo_seat,
    "lines": _lines,
}
