"""Which way every control has to go for every stick, and which way it goes by how it is built in and set."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlKind, Surface
from ridgeline.design.radio import Channel, Radio, Rate, StickName

Array = NDArray[np.float64]
SideName = Literal["starboard", "port"]
STICKS: tuple[StickName, ...] = ("roll", "pitch", "yaw", "throttle", "flap")
#: Sticks that a control of each kind follows.
FOLLOWS: dict[ControlKind, tuple[StickName, ...]] = {
    "aileron": ("roll",),
    "elevator": ("pitch",),
    "rudder": ("yaw",),
    "ruddervator": ("pitch", "yaw"),
    "elevon": ("pitch", "roll"),
    "flap": ("flap",),
    "flaperon": ("roll", "flap"),
}


class Output(NamedTuple):
    """One thing that moves: the id of its control or motor mount, on which side."""

    of: str
    side: SideName


def wanted(surface: Surface, kind: ControlKind, side: SideName, stick: StickName) -> int:
    """Return which way a control has to go for a stick to the right, back, or up: 1 down, -1 up, 0 not at all.

    Down is towards the underside of its panel: of a fin that stands up, to starboard.

    Parameters
    ----------
    surface : Surface
        That carries it.
    kind : str
    side : {"starboard", "port"}
    stick : str

    Returns
    -------
    int

    Source
    ------
    Second part of the handbook §17: elevon δ = P ∓ R, upright V-tail P ± Y, inverted the opposite.
    """
    if stick not in FOLLOWS[kind]:
        return 0
    starboard = 1 if side == "starboard" else -1
    if stick == "roll":
        return -starboard
    if stick == "pitch":
        # Ahead of the wing it lifts the nose by going down.
        return 1 if surface.role == "foreplane" else -1
    if stick == "flap":
        return 1
    # The underside of a panel turned up looks outboard, of one that hangs down inboard; a lone fin is a starboard one.
    return (1 if surface.cant >= 0 else -1) * (starboard if surface.mirrored else 1)


def shaped(value: float, rate: Rate | None, *, high: bool = True) -> float:
    """Return a stick after rate and expo.

    Parameters
    ----------
    value : float
        -1 to 1.
    rate : Rate or None
    high : bool
        The rate switched up.

    Returns
    -------
    float

    Source
    ------
    y = (1 − e) x + e x³ (handbook of the trade §9).
    """
    if rate is None:
        return value
    soft = (1 - rate.expo) * value + rate.expo * value**3
    return soft * (rate.high if high else rate.low)


def shaped_over(values: Array, rate: Rate | None, *, high: bool = True) -> Array:
    """Return many places of a stick after rate and expo: `shaped`, (n,)."""
    if rate is None:
        return values
    soft: Array = (1 - rate.expo) * values + rate.expo * values**3
    return soft * (rate.high if high else rate.low)


def signal(channel: Channel, radio: Radio, sticks: Mapping[StickName, float], *, high: bool = True) -> float:
    """Return what the sticks ask of a channel, before its own travel: 1 is all of it.

    Parameters
    ----------
    channel : Channel
    radio : Radio
    sticks : mapping
        -1 to 1 by stick; those left out stand still.
    high : bool

    Returns
    -------
    float
    """
    rates = {rate.stick: rate for rate in radio.rates}
    total = 0.0
    for part in channel.mix:
        value = shaped(sticks.get(part.stick, 0.0), rates.get(part.stick), high=high)
        total += value * (part.back if part.back is not None and value < 0 else part.amount)
    return total


def pulse(channel: Channel, asked: float) -> float:
    """Return the pulse of a channel, of the full one, rising positive: turned over, cut to its travel, trimmed.

    Parameters
    ----------
    channel : Channel
    asked : float
        Of `signal`; a receiver sends no more than one and a half.

    Returns
    -------
    float
    """
    way = -asked if channel.reversed else asked
    travel = channel.high if way > 0 else channel.low
    turned = way * (1.0 if travel is None else travel) + channel.sub_trim
    return min(max(turned, -1.5), 1.5)


def pulse_over(channel: Channel, asked: Array) -> Array:
    """Return many pulses of a channel: `pulse`, (n,)."""
    way = -asked if channel.reversed else asked
    high, low = (1.0 if travel is None else travel for travel in (channel.high, channel.low))
    found: Array = np.clip(way * np.where(way > 0, high, low) + channel.sub_trim, -1.5, 1.5)
    return found


def moves_side(channel: Channel, side: SideName) -> bool:
    """Tell whether a channel moves what is on a side."""
    return channel.side in ("both", side)


def channel_of(radio: Radio, moved: str, side: SideName) -> Channel | None:
    """Return the channel that moves a linkage or motor on a side, None where none does.

    Parameters
    ----------
    radio : Radio
    moved : str
        Id of a linkage or motor mount.
    side : {"starboard", "port"}

    Returns
    -------
    Channel or None
    """
    return next((one for one in radio.channels if moved in one.moves and moves_side(one, side)), None)


def way_of(angle: float, least: float = math.radians(0.5)) -> int:
    """Return which way an angle went as an eye sees it: 1, -1, or 0 of what is too little to be seen."""
    return 0 if abs(angle) < least else int(math.copysign(1, angle))
