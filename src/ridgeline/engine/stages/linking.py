"""The stage of linkages: how far each control goes, what the air asks of its servo, and what its linkage leaves."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.hinges import hinge_share, mean_share
from ridgeline.design.linkage import Linkage
from ridgeline.design.parts import Item
from ridgeline.design.radio import Channel, Radio
from ridgeline.engine.aero.throws import travel as wished_travel
from ridgeline.engine.controls.four_bar import rod_length
from ridgeline.engine.controls.hinge_moment import KEPT, hinge_coefficients
from ridgeline.engine.controls.inverse import turn_for
from ridgeline.engine.controls.lines import slack_of, spring_left, spring_moment
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
from ridgeline.engine.controls.sense import channel_of, pulse
from ridgeline.engine.controls.servo import stall_torque
from ridgeline.engine.controls.yielding import given_way
from ridgeline.engine.figures import Figure, absent
from ridgeline.engine.register import (
    CONTROL_CENTRE,
    CONTROL_DOWN,
    CONTROL_GIVE,
    CONTROL_PLAY,
    CONTROL_STEPS,
    CONTROL_TIME,
    CONTROL_UP,
    DIFFERENTIAL,
    HINGE_MOMENT,
    ROD_LENGTH,
    SERVO_SHARE,
)
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.flexing import settled
from ridgeline.engine.stages.linked import LinkedControl, Linking, Moved, OnHinge
from ridgeline.engine.stages.linking_figures import load_figures, moved_figures
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.structure.beam import Force, carried
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.span_load import within_seat

Array = NDArray[np.float64]
#: What of a servo's torque reaches the control: the rest is friction in holes (second part of the handbook §17).
EFFICIENCY = 0.9
_OF_MOVING = (CONTROL_UP, CONTROL_DOWN, CONTROL_PLAY, ROD_LENGTH, DIFFERENTIAL)
_OF_LOADS = (HINGE_MOMENT, SERVO_SHARE, CONTROL_GIVE, CONTROL_TIME, CONTROL_CENTRE, CONTROL_STEPS)
NOT_LINKED = "nothing is said of what moves it"


class Followed:
    """Linkages as they were followed last, by their ids: one whose own inputs are the same is not followed again."""

    def __init__(self) -> None:
        self._rows: dict[str, tuple[tuple[object, ...], LinkedControl]] = {}
        self._shapes: dict[str, Surface] = {}
        self._figures: dict[str, tuple[object, list[Figure]]] = {}

    def row(
        self, one: Linkage, radio: Radio | None, index: int, control: ControlSurface, surfaces: tuple[Surface, ...],
        purpose: str,
    ) -> LinkedControl:  # fmt: skip
        """Return a linkage over its travel."""
        surface = surfaces[index]
        inputs = (one, radio, index, control, surface.mirrored, purpose)
        before = self._rows.get(one.id)
        if before is None or not all(a is b or a == b for a, b in zip(before[0], inputs, strict=True)):
            before = inputs, _followed(one, radio, index, control, surfaces, purpose)
            # A new table each time: a copy of this memory keeps what it knew.
            self._rows = {**self._rows, one.id: before}
            self._shapes = {**self._shapes, one.id: surface}
        elif self._shapes.get(one.id) is not surface:
            # The chord at the control is all that a surface of another shape changes.
            before = before[0], replace(before[1], air=_on_hinge(one, surface, control, 0.0))
            self._rows = {**self._rows, one.id: before}
            self._shapes = {**self._shapes, one.id: surface}
        return before[1]

    def figures(self, row: LinkedControl) -> list[Figure]:
        """Return the figures of a linkage as it moves: none of them hangs on the air."""
        key = self._rows[row.linkage.id][0]
        before = self._figures.get(row.linkage.id)
        if before is None or before[0] is not key:
            before = key, moved_figures(row)
            self._figures = {**self._figures, row.linkage.id: before}
        return before[1]


def moving(
    linkages: tuple[Linkage, ...], radio: Radio | None, surfaces: tuple[Surface, ...], brief: Brief,
    *, memory: Followed | None = None,
) -> Outcome[Linking]:  # fmt: skip
    """Follow every linkage over its travel."""
    controls = {control.id: (k, control) for k, surface in enumerate(surfaces) for control in surface.controls}
    known = memory if memory is not None else Followed()
    rows = tuple(
        known.row(one, radio, *controls[one.control], surfaces, brief.purpose)
        for one in linkages
        if one.control in controls
    )
    linked = {row.control.id for row in rows}
    bare = tuple(control for _k, control in controls.values() if control.id not in linked)
    figures = [figure for row in rows for figure in known.figures(row)]
    figures += [absent(family.key(control.id), NOT_LINKED) for control in bare for family in _OF_MOVING]
    return Outcome(Linking(rows, bare), tuple(figures))


def linking(
    moved: Linking,
    surfaces: tuple[Surface, ...],
    parts: tuple[Item, ...],
    mass: Masses,
    found: Bearing | None,
    beams: tuple[Half | None, ...],
    here: Air,
) -> Outcome[Linking]:
    """Hold servo, rod and horn of every linkage against the air of a dive."""
    weighed = {item.id: (item, float(m) / item.count) for item, m in zip(parts, mass.expected, strict=True)}
    pressure = 0.0
    if found is not None:
        fast = found.dive if found.dive is not None else 2 * found.cases[0].speed
        pressure = 0.5 * here.density * fast**2
    rows = [_loaded(row, pressure, beams[row.surface] if row.surface < len(beams) else None) for row in moved.rows]
    rows = [_driven(row, rows, weighed, surfaces) for row in rows]
    figures = [figure for row in rows for figure in load_figures(row, weighed, known=found is not None)]
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
    return LinkedControl(
        one,
        index,
        control,
        moved,
        0.0,
        0.0,
        None,
        play_of(one, moved[0].travel),
        rod,
        0.0,
        wish,
        _on_hinge(one, surface, control, 0.0),
    )


def _loaded(row: LinkedControl, pressure: float, half: Half | None) -> LinkedControl:
    air, one, first = row.air._replace(pressure=pressure), row.linkage, row.sides[0]
    moment, torque, at = _worst(row, air)
    travel = first.travel.motion
    there = (np.interp(at, first.travel.turns, np.nan_to_num(values)) for values in (travel.ratio, travel.at_arm,
                                                                                  travel.at_horn))  # fmt: skip
    ratio, at_arm, at_horn = (float(value) for value in there)
    given = given_way(one, moment, ratio, row.rod, (at_arm, at_horn))
    found = replace(row, moment=moment, torque=torque, at=at, air=air, given=given)
    if one.kind == "pull_pull":
        return replace(found, slack=slack_of(one, first.low, first.high))
    if one.kind == "spring_line":
        away = first.throw.up if one.horn_below else first.throw.down
        holds = air.halves * (_slope(air) * away + air.rub)
        return replace(found, spring=spring_left(one, away, holds), bent=_bent(row, half))
    return found


def _bent(row: LinkedControl, half: Half | None) -> float | None:
    """Return how far a spring's line moves the edge of the panel it pulls on, m: bent by what of it stands square to
    the panel, and twisted by its moment about the hinge."""
    one = row.linkage
    drawn = one.preload + one.spring * one.horn * math.sin(max(row.sides[0].throw))
    out = one.out if one.out is not None else 0.5 * (row.control.start + row.control.end)
    if half is None or not half.y[0] < out <= half.y[-1]:
        return None
    arm, horn = bars(one)
    along = arm.centre + arm.vector - horn.centre - horn.vector
    square = drawn * abs(float(along[2])) / max(float(np.linalg.norm(along)), 1e-9)
    load = within_seat(carried(half.y, np.zeros_like(half.y), [Force(out, square)]), half.y, half.seat)
    bend = float(np.interp(out, half.y, settled(half, load)))
    inside = (half.y >= half.seat) & (half.y <= out)
    soft = float(np.trapezoid(1 / half.torsion[inside], half.y[inside])) if inside.sum() > 1 else 0.0
    return bend + 0.5 * drawn * one.horn * soft * float(np.interp(out, half.y, half.chord))


def _slope(air: OnHinge) -> float:
    """Return the moment of the air about a hinge for one radian, one side, N m."""
    return KEPT * air.coefficient * air.pressure * air.area * air.chord


def _on_hinge(one: Linkage, surface: Surface, control: ControlSurface, pressure: float) -> OnHinge:
    area, chord = control_size(surface, control)
    halves = 2 if one.port in ("joined", "opposed") and surface.mirrored else 1
    friction = one.hinge.friction
    rub = friction if friction is not None else HINGE_FRICTION[one.hinge.kind] * (control.end - control.start)
    return OnHinge(-hinge_coefficients(mean_share(surface, control)).delta, pressure, area, chord, rub, halves)


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


def _worst(row: LinkedControl, air: OnHinge) -> tuple[float, float, float]:
    """Return the worst hinge moment over the travel, N m, the torque it asks of the servo, N m, and at which turn."""
    slope = _slope(air)
    worst = (0.0, 0.0, 0.0)
    for side in row.sides:
        here = (side.travel.turns >= side.low - 1e-9) & (side.travel.turns <= side.high + 1e-9)
        angle, ratio = side.travel.motion.surface[here], side.travel.motion.ratio[here]
        moments = air.halves * (slope * np.abs(np.nan_to_num(angle)) + air.rub)
        if row.linkage.kind == "spring_line":
            # The servo pulls against air and spring alike.
            moments = moments + spring_moment(row.linkage, np.nan_to_num(angle))
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
