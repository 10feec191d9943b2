"""A linkage in place: both its sides at full signal, what acts on its hinge, what its servo has to do."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.linkage import Linkage
from ridgeline.design.radio import Channel, Radio, StickName
from ridgeline.engine.controls.lines import Slack
from ridgeline.engine.controls.linkage import (
    Side,
    Throw,
    Travel,
)
from ridgeline.engine.controls.sense import pulse, pulse_over, shaped_over, signal
from ridgeline.engine.controls.yielding import Given

#: What gives and hangs slack in a linkage that bears nothing.
NOTHING_GIVEN, NO_SLACK = Given(0.0, 0.0, 0.0, 0.0), Slack(0.0, 0.0)


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

    def over(
        self, one: Linkage, radio: Radio, stick: StickName, values: ArrayLike, *, high_rate: bool = True
    ) -> NDArray[np.float64]:
        """Return how the control stands over the way of one stick, rad: `angle` for many places of it, (n,)."""
        places = np.asarray(values, float)
        if self.channel is None:
            return np.zeros_like(places)
        rate = next((rate for rate in radio.rates if rate.stick == stick), None)
        asked = np.zeros_like(places)
        for part in self.channel.mix:
            if part.stick == stick:
                back = part.amount if part.back is None else part.back
                moved = shaped_over(places, rate, high=high_rate)
                asked = asked + moved * np.where(moved < 0, back, part.amount)
        turns = (pulse_over(self.channel, asked) - self.channel.sub_trim) * one.travel
        there = np.isfinite(self.travel.motion.surface)
        if not there.any():
            return np.zeros_like(places)
        turns = np.clip(turns, self.travel.turns[there].min(), self.travel.turns[there].max())
        found: NDArray[np.float64] = np.nan_to_num(self.travel.at(turns))
        return found


class OnHinge(NamedTuple):
    """What acts on a hinge: coefficient per rad, positive; q Pa; area m² and chord m of a side; N m that rub; sides."""

    coefficient: float
    pressure: float
    area: float
    chord: float
    rub: float
    halves: int


@dataclass(frozen=True, eq=False)
class LinkedControl:
    """A linkage in place: its control, both sides of it, and what its servo has to do.

    ``moment`` N m is the worst about the hinge in a dive, ``torque`` that at the servo, of all it moves; ``stall`` N m
    what the servo can, None where none is named; ``play`` rad; ``rod`` m; ``at`` the servo's turn of the worst, rad;
    ``wish`` the throws that are wished; ``air`` what acts on its hinge; ``given`` how far the dive pushes it back, rad;
    ``slack`` of a second line; ``spring`` N m that a returning spring holds more than the air, None without one;
    ``bent`` m by which the pull of lines bends the panel's edge there, None where that is not known.
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
    air: OnHinge
    given: Given = NOTHING_GIVEN
    slack: Slack = NO_SLACK
    spring: float | None = None
    bent: float | None = None

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
