"""A kitchen scale: what one must offer, and a simulated one with its step, its noise and its tare."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True)
class Reading:
    """What the display shows: mass kg to the scale's step, and whether it stands still."""

    mass: float
    steady: bool


class Scale(Protocol):
    """What a scale offers, simulated or real."""

    @property
    def step(self) -> float:
        """Smallest step of the display, kg."""
        ...

    def read(self) -> Reading:
        """Return what the display shows now."""
        ...

    def tare(self) -> None:
        """Take what lies on the pan as nothing from here on."""
        ...


class SimulatedScale:
    """A scale with a pan that things are put on; it settles over a few readings and rounds to its step.

    Parameters
    ----------
    step : float
        Step of the display, kg.
    noise : float
        One-sigma noise of a single reading before rounding, kg.
    capacity : float
        Most it can carry, kg; more reads as the capacity.
    seed : int
        Of the noise, so that a run can be repeated.
    """

    _SETTLES_IN = 3

    def __init__(self, step: float = 0.001, noise: float = 0.0002, capacity: float = 5.0, seed: int = 1) -> None:
        self._step, self._noise, self._capacity = step, noise, capacity
        self._random = random.Random(seed)
        self._load = self._zero = 0.0
        self._since = self._SETTLES_IN

    @property
    def step(self) -> float:
        """Smallest step of the display, kg."""
        return self._step

    def put_on(self, mass: float) -> None:
        """Put something more on the pan, kg; a negative mass takes it off."""
        self._load = max(self._load + mass, 0.0)
        self._since = 0

    def clear(self) -> None:
        """Take everything off the pan."""
        self._load, self._since = 0.0, 0

    def tare(self) -> None:
        """Take what lies on the pan as nothing from here on."""
        self._zero = self._load
        self._since = 0

    def read(self) -> Reading:
        """Return what the display shows now: swinging at first, then still."""
        unsettled = max(self._SETTLES_IN - self._since, 0)
        self._since += 1
        swing = 0.02 * self._load * unsettled * math.cos(2.1 * unsettled)
        load = min(self._load + swing + self._random.gauss(0.0, self._noise), self._capacity)
        return Reading(round((load - self._zero) / self._step) * self._step, unsettled == 0)
