"""What comes of the sticks: how controls stand for each, what the aircraft does, and how tightly it turns at a rate."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from ridgeline.design.radio import Radio, StickName
from ridgeline.engine.aero.control_effects import Angles, Change
from ridgeline.engine.controls.answers import Pull, Sideways, Turned, turn_radius
from ridgeline.engine.controls.rates import Proposed
from ridgeline.engine.controls.sense import shaped


class Standing(NamedTuple):
    """How the controls stand for one stick at full, by their ids, rad, and what they add by themselves."""

    stick: StickName
    angles: dict[str, Angles]
    change: Change


class Answer(NamedTuple):
    """What a stick held at full comes to at one speed, m/s.

    ``roll``, ``yaw`` and ``pitch`` are coefficients about the balance point; ``turned`` what roll and yaw come to, None
    where nothing settles; ``nose`` rad of angle of attack up, None where it would not settle.
    """

    stick: StickName
    speed: float
    roll: float
    yaw: float
    pitch: float
    turned: Turned | None
    nose: float | None


@dataclass(frozen=True, eq=False)
class Sticks:
    """What each stick does, in cruise and near the stall, and what rates would suit.

    ``alike`` is the roll stick near the stall with up and down alike for the same roll, None without a roll stick;
    ``pull`` what a pull takes in cruise, with ``up`` rad of it there; ``flapped`` speeds, m/s, and the elevator, rad,
    that the flaps ask for there.
    """

    cruise: tuple[Answer, ...]
    slow: tuple[Answer, ...]
    alike: Answer | None
    standing: tuple[Standing, ...]
    pull: Pull | None
    up: float
    proposed: Proposed
    sideways: tuple[Sideways, Sideways]
    span: float
    flapped: tuple[tuple[float, float], ...]

    def of(self, stick: str, *, slow: bool = False) -> Answer | None:
        """Return the answer to a stick, None where it moves nothing."""
        rows = self.slow if slow else self.cruise
        return next((row for row in rows if row.stick == stick), None)


def turns(found: Sticks, radio: Radio | None, *, high: bool) -> tuple[float, float] | None:
    """Return the load factor and the radius, m, of a full pull in cruise at a rate.

    Parameters
    ----------
    found : Sticks
    radio : Radio or None
        With its rates; all of the throw where it has none.
    high : bool

    Returns
    -------
    tuple of float or None
        None where no pull is known.
    """
    if found.pull is None:
        return None
    load = found.pull.load(found.up * rate_of(radio, "pitch", high=high))
    return load, turn_radius(found.pull.speed, load)


def rate_of(radio: Radio | None, stick: StickName, *, high: bool) -> float:
    """Return what of its throw a stick at full asks for at a rate.

    Parameters
    ----------
    radio : Radio or None
    stick : str
    high : bool

    Returns
    -------
    float
    """
    rates = () if radio is None else radio.rates
    return shaped(1.0, next((rate for rate in rates if rate.stick == stick), None), high=high)
