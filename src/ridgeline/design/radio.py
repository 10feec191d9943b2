"""The radio: what each stick asks of each channel, which way and how far a channel turns, rates, gyro, leads."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Sets, measure, sets
from ridgeline.design.identity import Ident, ident

#: What hands move: sticks from −1 to 1 (right, back, right), throttle and flap switch from 0 to 1.
StickName = Literal["roll", "pitch", "yaw", "throttle", "flap"]
#: What is mounted to turn against.
GyroAxis = Literal["roll", "pitch", "yaw"]


class Amount(Node):
    """How much of a stick a channel takes, and how much the other way where that differs; negative turns it over."""

    stick: StickName
    amount: float = measure("ratio", "of the stick", 1.0, low=-2.0, high=2.0)
    back: float | None = measure("ratio", "left, forward or below the middle; the same when left out", None, low=-2.0,
                                 high=2.0)  # fmt: skip


class Channel(Node):
    """One channel of the receiver: a servo lead, with what is on it.

    ``moves`` are ids of linkages or motor mounts; ``side`` says which of a pair, both where they share a lead.
    """

    id: Ident = ident()
    name: str = Field("", max_length=60)
    moves: tuple[Ident, ...] = Field((), max_length=6, description="ids of linkages or motor mounts on it")
    side: Literal["both", "starboard", "port"] = "both"
    mix: tuple[Amount, ...] = Field((), max_length=6, description="what each stick asks of it")
    reversed: Flag = Field(False, description="a rising signal makes a falling pulse")
    high: float | None = measure(
        "fraction", "travel of a rising pulse, of the full one; what gives the throws wished when left out", None,
        low=0.0, high=1.5,
    )  # fmt: skip
    low: float | None = measure(
        "fraction", "travel of a falling pulse; what gives the throws wished when left out", None, low=0.0, high=1.5
    )
    sub_trim: float = measure("fraction", "of the full pulse, at neutral", 0.0, low=-0.5, high=0.5)


class Rate(Node):
    """Rates and expo of a stick."""

    stick: StickName
    high: float = measure("fraction", "of its throw", 1.0, low=0.05, high=1.5)
    low: float = measure("fraction", "of its throw, switched down", 0.6, low=0.05, high=1.5)
    expo: float = measure("fraction", "softened about the middle; negative sharpens", 0.3, low=-1.0, high=1.0)


class Gyro(Node):
    """A board that turns controls against what it feels."""

    axes: tuple[GyroAxis, ...] = Field(("roll", "pitch", "yaw"), max_length=3)
    upside_down: Flag = False
    reversed: tuple[GyroAxis, ...] = Field((), max_length=3, description="axes whose sense is turned over in it")
    gain: float = measure("fraction", "of full control at a turn of 180°/s", 0.3, low=0.0, high=3.0)


class Via(Node):
    """A place a lead goes by, in aircraft axes, of the starboard one of a pair."""

    x: float = measure("length", "behind the datum", low=-2.0, high=10.0)
    y: float = measure("length", "to starboard", 0.0, low=-5.0, high=5.0)
    z: float = measure("length", "above the datum", 0.0, low=-3.0, high=3.0)


class Lead(Node):
    """The lead of a servo or a speed controller to the receiver, as far as it is not the usual one."""

    of: Ident = Field(min_length=1, description="id of the item whose lead it is")
    own: float | None = measure(
        "length", "what it comes with; by the size of the servo when left out", None, low=0.0, high=3.0
    )
    extension: float | None = measure(
        "length", "that is plugged in; the shortest that reaches when left out", None, low=0.0, high=5.0
    )
    aside: float | None = measure(
        "length", "its run in the body, to starboard of the middle; along the wall when left out", None, low=-0.5,
        high=0.5,
    )  # fmt: skip
    via: tuple[Via, ...] = Field((), max_length=12, description="places it goes by; along wing and body when left out")


class Radio(Node):
    """What the radio is set to. Nothing is said where there are no channels."""

    id: Ident = ident()
    channels: tuple[Channel, ...] = Field((), max_length=24)
    rates: tuple[Rate, ...] = Field((), max_length=5)
    gyro: Gyro | None = None
    leads: tuple[Lead, ...] = Field((), max_length=60, description="leads to the receiver that were told")
    sets: Sets = sets()

    def check(self) -> None:
        sticks = [rate.stick for rate in self.rates]
        if len(set(sticks)) < len(sticks):
            raise ValueError("one rate a stick")
        named = [lead.of for lead in self.leads]
        if len(set(named)) < len(named):
            raise ValueError("one lead for each item")
