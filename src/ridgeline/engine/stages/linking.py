"""The stage of linkages: how far each control goes, what the air asks of its servo, and what its linkage leaves."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.hinges import hinge_share, mean_share
from ridgeline.design.linkage import Linkage
from ridgeline.design.parts import Item
from ridgeline.design.radio import Channel, Radio, StickName
from ridgeline.engine.aero.throws import travel as wished_travel
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.four_bar import rod_length
from ridgeline.engine.controls.hinge_moment import KEPT, KEPT_SIGMA, hinge_coefficients
from ridgeline.engine.controls.inverse import turn_for
from ridgeline.engine.controls.linkage import (
    HINGE_FRICTION,
    Side,
    Throw,
    Travel,
    bars,
    play_of,
    throw_between,
    travel_of,
)
from ridgeline.engine.controls.sense import channel_of, pulse, signal
from ridgeline.engine.controls.servo import stall_torque
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.register import (
    CONTROL_DOWN,
    CONTROL_PLAY,
    CONTROL_UP,
    DIFFERENTIAL,
    HINGE_MOMENT,
    ROD_LENGTH,
    SERVO_SHARE,
)
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.masses import Masses

Array = NDArray[np.float64]
#: What of a servo's torque reaches the control: the rest is friction in holes (second part of the handbook §17).
EFFICIENCY = 0.9
#: One sigma of a servo's stall torque, as a share: as its class says, or by its mass.
_TORQUE_TOLD, _TORQUE_BY_MASS = 0.10 / BAND, 0.35 / BAND
_OF_MOVING = (CONTROL_UP, CONTROL_DOWN, CONTROL_PLAY, ROD_LENGTH, DIFFERENTIAL)
_OF_LOADS = (HINGE_MOMENT, SERVO_SHARE)
NOT_LINKED = "nothing is said of what moves it"
_SOURCE = "docs/theory.md §14"


class Moved(NamedTuple):
    """One side of a linkage: its channel (None where none is said) and its turns, rad, at full signal either way.

    ``throw`` is what that gives; ``corner`` what both sticks of a mixed one ask together, None where they ask no more.
    """

    side: Side
    channel: Channel | None
    travel: Travel
    low: float
    high: float
    throw: Throw
    corner: Throw | None

    def angle(self, one: Linkage, radio: Radio, sticks: Mapping[StickName, float], *, high_rate: bool = True) -> float:
        """Return how the control stands for sticks, rad, trailing edge down positive.

        Nothing where no channel moves it; where its linkage binds it stays where it got to.
        """
        if self.channel is None:
            return 0.0
        asked = signal(self.channel, radio, sticks, high=high_rate)
        turn = (pulse(self.channel, asked) - self.channel.sub_trim) * one.travel
        there = np.isfinite(self.travel.motion.surface)
        turn = (
            float(np.clip(turn, self.travel.turns[there].min(), self.travel.turns[there].max())) if there.any() else 0.0
        )
        return float(np.nan_to_num(self.travel.at(turn)))


@dataclass(frozen=True, eq=False)
class LinkedControl:
    """A linkage in place: its control, both sides of it, and what its servo has to do.

    ``moment`` N m is the worst about the hinge in a dive, ``torque`` that at the servo, of all it moves; ``stall`` N m
    what the servo can, None where none is named; ``play`` rad; ``rod`` m; ``at`` the servo's turn of the worst, rad;
    ``wish`` the throws that are wished.
    """

    linkage: Linkage
    surface: int
    control: ControlSurface
    sides: tuple[Moved, ...]
    moment: float
    torque: float
    stall: float | None
    play: float
    rod: float
    at: float
    wish: Throw

    @property
    def share(self) -> float | None:
        """What the servo works at, of its stall."""
        return None if not self.stall else self.torque / self.stall


@dataclass(frozen=True, eq=False)
class Linking:
    """All linkages that move something, and the controls that nothing is said of."""

    rows: tuple[LinkedControl, ...]
    bare: tuple[ControlSurface, ...]

    def of(self, control: str) -> LinkedControl | None:
        """Return the linkage of a control by its id, None where nothing is said of it."""
        return next((row for row in self.rows if row.control.id == control), None)


def moving(
    linkages: tuple[Linkage, ...], radio: Radio | None, surfaces: tuple[Surface, ...], brief: Brief
) -> Outcome[Linking]:
    """Follow every linkage over its travel."""
    controls = {control.id: (k, control) for k, surface in enumerate(surfaces) for control in surface.controls}
    rows = tuple(
        _followed(one, radio, *controls[one.control], surfaces, brief.purpose)
        for one in linkages
        if one.control in controls
    )
    linked = {row.control.id for row in rows}
    bare = tuple(control for _k, control in controls.values() if control.id not in linked)
    figures = [figure for row in rows for figure in _moved_figures(row)]
    figures += [absent(family.key(control.id), NOT_LINKED) for control in bare for family in _OF_MOVING]
    return Outcome(Linking(rows, bare), tuple(figures))


def linking(
    moved: Linking,
    surfaces: tuple[Surface, ...],
    parts: tuple[Item, ...],
    mass: Masses,
    found: Bearing | None,
    here: Air,
) -> Outcome[Linking]:
    """Hold the servo of every linkage against the air of a dive."""
    weighed = {item.id: (item, float(m) / item.count) for item, m in zip(parts, mass.expected, strict=True)}
    pressure = 0.0
    if found is not None:
        fast = found.dive if found.dive is not None else 2 * found.cases[0].speed
        pressure = 0.5 * here.density * fast**2
    rows = [_loaded(row, surfaces[row.surface], pressure) for row in moved.rows]
    rows = [_driven(row, rows, weighed, surfaces) for row in rows]
    figures = [figure for row in rows for figure in _load_figures(row, weighed, known=found is not None)]
    figures += [absent(family.key(control.id), NOT_LINKED) for control in moved.bare for family in _OF_LOADS]
    return Outcome(Linking(tuple(rows), moved.bare), tuple(figures))


def _followed(
    one: Linkage,
    radio: Radio | None,
    index: int,
    control: ControlSurface,
    surfaces: tuple[Surface, ...],
    purpose: str,
) -> LinkedControl:
    surface, wish = surfaces[index], Throw(*wished_travel(control, purpose))
    sides: tuple[Side, ...] = ("starboard", "port") if surface.mirrored else ("starboard",)
    moved = tuple(_moved(one, side, None if radio is None else channel_of(radio, one.id, side), wish) for side in sides)
    arm, horn = bars(one)
    rod = one.rod_long if one.rod_long is not None else float(rod_length(arm, horn))
    return LinkedControl(one, index, control, moved, 0.0, 0.0, None, play_of(one, moved[0].travel), rod, 0.0, wish)


def _loaded(row: LinkedControl, surface: Surface, pressure: float) -> LinkedControl:
    moment, torque, at = _worst(row.linkage, surface, row.control, row.sides, pressure)
    return replace(row, moment=moment, torque=torque, at=at)


def _moved(one: Linkage, side: Side, channel: Channel | None, wish: Throw) -> Moved:
    """Return one side of a linkage at full signal of its channel; over its whole travel where there is none."""
    if channel is None:
        travel = travel_of(one, side)
        return Moved(side, None, travel, -one.travel, one.travel, throw_between(travel, -one.travel, one.travel), None)
    trim = channel.sub_trim * one.travel
    channel = set_for(channel, one, travel_of(one, side, trim, 1.0), wish)
    most = max(channel.high or 0.0, channel.low or 0.0, 1.0)
    asked = max(sum(abs(part.amount) for part in channel.mix), 1.0)
    travel = travel_of(one, side, trim, min(most * asked, 1.5))
    low, high = _turns(one, channel, 1.0)
    throw = throw_between(travel, low, high)
    corner = throw_between(travel, *_turns(one, channel, asked)) if asked > 1 + 1e-6 else None
    return Moved(side, channel, travel, low, high, throw, corner)


def set_for(channel: Channel, one: Linkage, travel: Travel, wish: Throw) -> Channel:
    """Return a channel whose travel gives the throws wished, where it was not said; all of it where none does.

    Parameters
    ----------
    channel : Channel
    one : Linkage
    travel : Travel
        Of the linkage on the channel's side.
    wish : Throw

    Returns
    -------
    Channel
        With a travel either way.
    """
    if channel.high is not None and channel.low is not None:
        return channel
    rises_down = float(travel.at(0.05)) > float(travel.at(-0.05))
    wanted = {"high": wish.down if rises_down else -wish.up, "low": -wish.up if rises_down else wish.down}
    update: dict[str, float] = {}
    for end, angle in wanted.items():
        if getattr(channel, end) is None:
            turn = turn_for(travel, angle)
            update[end] = 1.0 if turn is None else abs(turn) / one.travel
    found: Channel = channel.model_copy(update=update)
    return found


def _turns(one: Linkage, channel: Channel, signal: float) -> tuple[float, float]:
    """Return the servo's turns at a signal either way, from its trimmed neutral, the lower first, rad."""
    ends = [(pulse(channel, way * signal) - channel.sub_trim) * one.travel for way in (-1.0, 1.0)]
    return min(ends), max(ends)


def _worst(
    one: Linkage, surface: Surface, control: ControlSurface, moved: tuple[Moved, ...], pressure: float
) -> tuple[float, float, float]:
    """Return the worst hinge moment over the travel, N m, the torque it asks of the servo, N m, and at which turn."""
    area, chord = control_size(surface, control)
    halves = 2 if one.port in ("joined", "opposed") and surface.mirrored else 1
    friction = one.hinge.friction
    rub = friction if friction is not None else HINGE_FRICTION[one.hinge.kind] * (control.end - control.start)
    slope = KEPT * hinge_coefficients(mean_share(surface, control)).delta * pressure * area * chord
    worst = (0.0, 0.0, 0.0)
    for side in moved:
        here = (side.travel.turns >= side.low - 1e-9) & (side.travel.turns <= side.high + 1e-9)
        angle, ratio = side.travel.motion.surface[here], side.travel.motion.ratio[here]
        moments = halves * (np.abs(slope * np.nan_to_num(angle)) + rub)
        torques = moments * np.abs(np.nan_to_num(ratio)) / EFFICIENCY
        if len(torques) and float(torques.max()) > worst[1]:
            k = int(np.argmax(torques))
            worst = (float(moments.max()), float(torques[k]), float(side.travel.turns[here][k]))
    return worst


def control_size(surface: Surface, control: ControlSurface) -> tuple[float, float]:
    """Return area m² and mean chord m of one side of a control behind its hinge.

    Parameters
    ----------
    surface : Surface
    control : ControlSurface

    Returns
    -------
    area, chord : float
    """
    y = np.linspace(control.start, control.end, 9)
    stations = surface.stations
    chord = np.interp(y, [s.y for s in stations], [s.chord for s in stations]) * hinge_share(surface, control, y)
    area = float(np.trapezoid(chord, y))
    return area, area / max(control.end - control.start, 1e-9)


def _driven(
    row: LinkedControl,
    rows: list[LinkedControl],
    weighed: dict[str, tuple[Item, float]],
    surfaces: tuple[Surface, ...],
) -> LinkedControl:
    """Return a linkage with its servo, which may move others too."""
    item, mass = weighed.get(row.linkage.servo, (None, 0.0))
    if item is None or item.servo is None:
        return row
    outputs: Counter[str] = Counter()
    for other in rows:
        own = other.linkage.port in ("mirrored", "alike") and surfaces[other.surface].mirrored
        outputs[other.linkage.servo] += 2 if own else 1
    torque = row.torque
    if outputs[item.id] > item.count:
        # One servo moves several: it bears all of them at once.
        torque = sum(other.torque for other in rows if other.linkage.servo == item.id)
    return replace(row, torque=torque, stall=stall_torque(item.servo, mass))


def _moved_figures(row: LinkedControl) -> list[Figure]:
    ident, first = row.control.id, row.sides[0]
    half = 0.5 * row.play
    found = [
        derive(family.key(ident), "{d}", lambda d: d, {"d": Put(value, words, "angle", half)}, source=_SOURCE)
        for family, value, words in (
            (CONTROL_UP, first.throw.up, "the linkage at full signal, give or take half its play"),
            (CONTROL_DOWN, first.throw.down, "the linkage at full signal, give or take half its play"),
        )
    ]
    found.append(derive(CONTROL_PLAY.key(ident), "{p}", lambda p: p, {
        "p": Put(row.play, "holes, gears and hinge", "angle", 0.3 * row.play)}, source=_SOURCE))  # fmt: skip
    found.append(derive(ROD_LENGTH.key(ident), "{L}", lambda L: L, {
        "L": Put(row.rod, "from hole to hole at neutral", "length", 0.0005 / BAND)}, source=_SOURCE))  # fmt: skip
    differential = first.throw.differential
    if math.isfinite(differential):
        found.append(derive(DIFFERENTIAL.key(ident), "{u}/{d}", lambda u, d: u / d, {
            "u": Put(first.throw.up, "up", "angle", half), "d": Put(first.throw.down, "down", "angle", half),
        }, source=_SOURCE))  # fmt: skip
    else:
        found.append(absent(DIFFERENTIAL.key(ident), "it does not go down"))
    return found


def _load_figures(row: LinkedControl, weighed: dict[str, tuple[Item, float]], *, known: bool) -> list[Figure]:
    ident = row.control.id
    if not known:
        why = "its dive speed is not known"
        return [absent(HINGE_MOMENT.key(ident), why), absent(SERVO_SHARE.key(ident), why)]
    moment = Put(row.moment, "the worst over its travel in a dive", "torque", KEPT_SIGMA / KEPT * row.moment)
    found = [derive(HINGE_MOMENT.key(ident), "{H}", lambda H: H, {"H": moment}, source=_SOURCE)]
    item = weighed.get(row.linkage.servo)
    if row.stall is None or item is None or item[0].servo is None:
        return [*found, absent(SERVO_SHARE.key(ident), "no servo is named for it")]
    told = item[0].servo.stall_torque is not None
    found.append(
        derive(
            SERVO_SHARE.key(ident),
            "{Q}/{Q_s}",
            lambda Q, Q_s: Q / Q_s,
            {
                "Q": Put(row.torque, "asked of the servo, through its linkage and friction", "torque",
                         KEPT_SIGMA / KEPT * row.torque),
                "Q_s": Put(row.stall, "it stalls at", "torque",
                           (_TORQUE_TOLD if told else _TORQUE_BY_MASS) * row.stall),
            },
            source=_SOURCE,
            note="planned on half of it",
        )
    )  # fmt: skip
    return found
