"""A thrust stand: what one must offer, and a simulated one that ramps, sags and scatters as a real one does."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Protocol

from ridgeline.design.power import BenchRow, PowerTrain


@dataclass(frozen=True)
class StandReading:
    """What the stand shows: the row, and whether the motor has settled at the throttle asked for."""

    row: BenchRow
    settled: bool


class ThrustStand(Protocol):
    """What a stand offers, simulated or real."""

    def ask(self, throttle: float) -> None:
        """Ask for a throttle, 0 to 1; the motor ramps there."""
        ...

    def read(self) -> StandReading:
        """Return what the stand shows now."""
        ...

    def stop(self) -> None:
        """Stop the motor at once."""
        ...


class SimulatedStand:
    """A stand whose motor is not quite as stated; it ramps to each throttle while the pack runs down.

    Parameters
    ----------
    response : callable
        (throttle, charge) → volts, amperes, rpm, newtons of the true motor.
    capacity_ah : float
        Of the pack on the stand.
    noise : float
        Scales the scatter of every reading; 1 is a hobby stand's.
    seed : int
        Of the noise, so that a run can be repeated.
    """

    _STEP, _RAMP = 0.25, 0.45

    def __init__(
        self,
        response: Callable[[float, float], tuple[float, float, float, float]],
        capacity_ah: float,
        noise: float = 1.0,
        seed: int = 1,
    ) -> None:
        self._response, self._capacity, self._noise = response, capacity_ah * 3600, noise
        self._random = random.Random(seed)
        self._asked = self._now = 0.0
        self._charge = 1.0

    @property
    def charge(self) -> float:
        """State of charge of the pack on the stand."""
        return self._charge

    def ask(self, throttle: float) -> None:
        """Ask for a throttle; readings ramp there."""
        self._asked = min(max(throttle, 0.0), 1.0)

    def stop(self) -> None:
        """Stop the motor at once."""
        self._asked = self._now = 0.0

    def read(self) -> StandReading:
        """Return the next reading, a quarter of a second later."""
        gap = self._asked - self._now
        settled = abs(gap) < 0.005
        self._now = self._asked if settled else self._now + self._RAMP * gap
        volts, amps, rpm, newtons = self._response(self._now, self._charge)
        self._charge = max(self._charge - max(amps, 0.0) * self._STEP / self._capacity, 0.0)
        return StandReading(
            BenchRow(
                throttle=self._now,
                voltage=max(volts + self._off(0.0, 0.02, volts), 0.0),
                current=max(amps + self._off(0.01, 0.05, amps), 0.0),
                rpm=max(rpm + self._off(0.003, 10.0, rpm), 0.0),
                thrust=newtons + self._off(0.01, 0.01, newtons),
            ),
            settled,
        )

    def _off(self, share: float, floor: float, value: float) -> float:
        return self._noise * self._random.gauss(0.0, math.hypot(share * value, floor))


def _off(value: float | None, by: float) -> float | None:
    return None if value is None else value * math.exp(by)


def as_built(train: PowerTrain, seed: int = 1, lag: float = 0.0) -> PowerTrain:
    """Return a train whose constants differ from the stated ones as bought motors do: Kv by some 5 %, R by 20 %.

    ``lag`` is the winding's L/R of its class, s, which scatters by 20 %.
    """
    chance = random.Random(seed)
    motor, prop = train.motor, train.propeller
    return train.model_copy(
        update={
            "motor": motor.model_copy(
                update={
                    "kv_rpm_per_v": motor.kv_rpm_per_v * math.exp(chance.gauss(-0.02, 0.045)),
                    "resistance": _off(motor.resistance, chance.gauss(0.05, 0.2)),
                    "no_load_current": _off(motor.no_load_current, chance.gauss(0.0, 0.2)),
                    "lag": lag * math.exp(chance.gauss(0.0, 0.2)) if lag else None,
                }
            ),
            "propeller": prop.model_copy(
                update={
                    "power_factor": prop.power_factor * math.exp(chance.gauss(0.0, 0.05)),
                    "thrust_factor": prop.thrust_factor * math.exp(chance.gauss(0.0, 0.04)),
                }
            ),
        }
    )


def sweeping(stand: ThrustStand, throttles: tuple[float, ...], readings: int = 2) -> Iterator[StandReading]:
    """Step through throttles, yielding every reading until enough have settled; the motor is stopped at the end."""
    try:
        for throttle in throttles:
            stand.ask(throttle)
            kept = 0
            for _ in range(60):
                reading = stand.read()
                kept += reading.settled
                yield reading
                if kept >= readings:
                    break
    finally:
        stand.stop()


def sweep(stand: ThrustStand, throttles: tuple[float, ...], readings: int = 2) -> tuple[BenchRow, ...]:
    """Step through throttles and keep the settled readings of each."""
    return tuple(reading.row for reading in sweeping(stand, throttles, readings) if reading.settled)
