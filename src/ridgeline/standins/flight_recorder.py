"""A flight recorder: what one must offer, and a simulated one that flies the pack down and writes what it sees."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from typing import NamedTuple, Protocol


class FlightRecorder(Protocol):
    """What a recorder offers, simulated or real."""

    def download(self) -> str:
        """Return the last flight as a table of text: a header with units, a row every half second."""
        ...


class Flying(NamedTuple):
    """What the true aircraft does at a throttle and a state of charge.

    Volts of its pack, amperes drawn, airspeed m/s, rate of climb m/s and speed of its propeller, rpm.
    """

    voltage: float
    current: float
    speed: float
    climb: float
    rpm: float


class SimulatedRecorder:
    """A recorder on an aircraft that climbs away, cruises with gusts, makes two fast passes and lands.

    Parameters
    ----------
    response : callable
        (throttle, charge) → what the true aircraft does then.
    capacity_ah : float
        Of its packs.
    seconds : float
        Aloft.
    cruise : float
        Throttle of level flight, 0 to 1.
    wind : float
        m/s: what the speed over the ground differs by.
    noise : float
        Scales the scatter of every sensor; 1 is a hobby recorder's.
    seed : int
        Of the noise, so that a run can be repeated.
    """

    _STEP = 0.5
    #: Seconds of the climb away, when the two passes begin and how long each takes, and of the landing.
    _CLIMB, _PASSES, _PASS, _LAND = 20.0, 60.0, 12.0, 15.0

    def __init__(
        self,
        response: Callable[[float, float], Flying],
        capacity_ah: float,
        *,
        seconds: float = 240.0,
        cruise: float = 0.5,
        wind: float = 2.0,
        noise: float = 1.0,
        seed: int = 1,
    ) -> None:
        self._response, self._capacity = response, capacity_ah * 3600
        self._seconds, self._cruise, self._wind, self._noise = seconds, cruise, wind, noise
        self._random = random.Random(seed)

    def _throttle(self, at: float) -> float:
        if at < self._CLIMB:
            return 1.0
        if at > self._seconds - self._LAND:
            return 0.0
        since = at - self._PASSES
        if 0 <= since < self._PASS or 2 * self._PASS <= since < 3 * self._PASS:
            return 1.0
        return min(max(self._cruise + 0.06 * math.sin(0.21 * at), 0.0), 1.0)

    def download(self) -> str:
        """Return the last flight as a table of text."""
        lines = ["time (s),voltage (V),current (A),airspeed (m/s),ground speed (m/s),height (m),rpm,throttle (%)"]
        charge, height, speed = 1.0, 0.0, 0.0
        for k in range(int(self._seconds / self._STEP)):
            at = k * self._STEP
            throttle = self._throttle(at)
            now = self._response(throttle, charge)
            charge = max(charge - now.current * self._STEP / self._capacity, 0.0)
            # An aircraft takes a few seconds to a new speed.
            speed += (now.speed - speed) * (1.0 if k == 0 else 0.18)
            height += now.climb * self._STEP if at < self._CLIMB else 0.0
            if at > self._seconds - self._LAND:
                height *= max(1 - self._STEP / (self._seconds - at), 0.0)
            over_ground = max(speed - self._wind * math.cos(0.26 * at), 0.0)
            cells = (
                f"{at:.1f}",
                f"{self._read(now.voltage, 0.002, 0.02):.2f}",
                f"{max(self._read(now.current, 0.01, 0.1), 0.0):.2f}",
                f"{max(self._read(speed, 0.01, 0.3), 0.0):.1f}",
                f"{max(self._read(over_ground, 0.005, 0.1), 0.0):.1f}",
                f"{self._read(height, 0.0, 0.4):.1f}",
                f"{max(self._read(now.rpm, 0.003, 20.0), 0.0):.0f}",
                f"{100 * throttle:.0f}",
            )
            lines.append(",".join(cells))
        return "\n".join(lines) + "\n"

    def _read(self, value: float, share: float, floor: float) -> float:
        return value + self._noise * self._random.gauss(0.0, math.hypot(share * value, floor))
