"""What one entry of the log comes to, what of it cannot be, and which slip of the hand it is most likely."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

from ridgeline.design.flights import Flight
from ridgeline.design.power import PowerTrain
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.airspeed import airspeed_of, full_throttle_passes
from ridgeline.engine.flight.battery import Told, charge_by_count, charge_by_rest, mean_current
from ridgeline.engine.flight.record import Recorded, read_record

#: An airspeed is not believed above this many times the top speed: no level pass is a dive.
_FASTEST = 1.5
#: More than this put back, over what is written on the pack, is not believed (90 % of packs hold within 5 %).
_FULLEST = 1.08
#: By how much what is left by count and by rest may differ before one of them is doubted, in their common sigma.
_APART = 3.0


class LogRow(NamedTuple):
    """What one flight comes to, each None where it does not tell: mean current A, charge left 0–1, airspeed m/s."""

    flight: Flight
    mean: Told | None
    by_count: Told | None
    by_rest: Told | None
    airspeed: Told | None
    recorded: Recorded

    @property
    def left(self) -> Told | None:
        """Charge left in the pack, by the better of its two measures."""
        known = [told for told in (self.by_count, self.by_rest) if told is not None]
        return min(known, key=lambda told: told.sigma) if known else None


def row_of(flight: Flight, power: PowerTrain | None) -> LogRow:
    """Return what a flight comes to.

    Parameters
    ----------
    flight : Flight
    power : PowerTrain or None
        Whose pack's voltage curve a rested cell is read by.

    Returns
    -------
    LogRow
    """
    mean = count = rest = None
    if flight.put_back_ah is not None:
        if flight.aloft:
            current, sigma = mean_current(flight.put_back_ah, flight.aloft)
            mean = Told(float(current), float(sigma))
        if flight.capacity_ah > 0:
            count = charge_by_count(flight.put_back_ah, flight.capacity_ah)
    if flight.rested is not None and power is not None:
        rest = charge_by_rest(flight.rested, power.pack)
    fast = full_throttle_passes(flight.passes)
    return LogRow(flight, mean, count, rest, airspeed_of(fast, flight.wind), read_record(flight.record))


@dataclass(frozen=True)
class Able:
    """What the model says an aircraft can do at most: current A, airspeed m/s; and what it draws as it is flown, A.

    Each None where it is not known.
    """

    current: Told | None
    top_speed: Told | None
    usual_current: float | None


class Doubt(NamedTuple):
    """What of a flight cannot be: which, what it comes to, and the most that can be, in stored units."""

    kind: Literal["current", "capacity", "left", "speed"]
    told: float
    most: float
    sigma: float


def doubts_of(row: LogRow, able: Able) -> tuple[Doubt, ...]:
    """Return what of a flight cannot be.

    Parameters
    ----------
    row : LogRow
    able : Able

    Returns
    -------
    tuple of Doubt

    Source
    ------
    A mean can be no more than full throttle takes, standing, both with their bands: docs/theory.md §16.
    """
    found = []
    if row.mean is not None and able.current is not None:
        error = math.hypot(row.mean.sigma, able.current.sigma)
        if row.mean.value > able.current.value + BAND * error:
            found.append(Doubt("current", row.mean.value, able.current.value, able.current.sigma))
    flight = row.flight
    if flight.put_back_ah is not None and 0 < flight.capacity_ah * _FULLEST < flight.put_back_ah:
        found.append(Doubt("capacity", flight.put_back_ah, flight.capacity_ah, 0.0))
    elif row.by_count is not None and row.by_rest is not None:
        error = math.hypot(row.by_count.sigma, row.by_rest.sigma)
        if abs(row.by_count.value - row.by_rest.value) > _APART * error:
            found.append(Doubt("left", row.by_count.value, row.by_rest.value, row.by_rest.sigma))
    if row.airspeed is not None and able.top_speed is not None:
        most = _FASTEST * able.top_speed.value
        if row.airspeed.value - BAND * row.airspeed.sigma > most:
            found.append(Doubt("speed", row.airspeed.value, most, able.top_speed.sigma))
    return tuple(found)


class Slip(NamedTuple):
    """What was more likely meant: which field, its value in stored units, and the mean current it makes, A."""

    field: Literal["put_back_ah", "aloft"]
    value: float
    current: float


def slips_of(row: LogRow, able: Able) -> tuple[Slip, ...]:
    """Return what was more likely meant by a mean current that cannot be, the likeliest first.

    Parameters
    ----------
    row : LogRow
    able : Able

    Returns
    -------
    tuple of Slip
        Of those that bring it to what the aircraft can draw.
    """
    flight = row.flight
    if flight.put_back_ah is None or not flight.aloft or able.current is None:
        return ()
    usual = able.usual_current or 0.4 * able.current.value
    found = []
    for charge in _misread(round(1000 * flight.put_back_ah)):
        if 0 < charge <= 1000 * flight.capacity_ah * _FULLEST or not flight.capacity_ah:
            found.append(Slip("put_back_ah", charge / 1000, 3.6 * charge / flight.aloft))
    for tenths in _misread(round(flight.aloft / 6)):
        found.append(Slip("aloft", 6.0 * tenths, 3600 * flight.put_back_ah / (6.0 * tenths)))
    able_to = [slip for slip in found if 0.3 * usual < slip.current < able.current.value]
    return tuple(sorted(able_to, key=lambda slip: abs(math.log(slip.current / usual))))


def _misread(number: int) -> Iterator[int]:
    """Yield the whole numbers that a number was meant to be if one digit too many or too few was typed."""
    digits = str(number)
    # A digit more in front, a digit less in front, a nought more or less behind.
    for more in "123":
        yield int(more + digits)
    if len(digits) > 1 and int(digits[1:]) > 0:
        yield int(digits[1:])
    yield 10 * number
    if number >= 10:
        yield number // 10


def usual(rows: Sequence[LogRow], able: Able) -> float | None:
    """Return the middle of the mean currents that can be, A; None where no flight tells one.

    Parameters
    ----------
    rows : sequence of LogRow
    able : Able

    Returns
    -------
    float or None
    """
    told = [row for row in rows if not any(doubt.kind == "current" for doubt in doubts_of(row, able))]
    known = sorted(row.mean.value for row in told if row.mean is not None)
    return known[len(known) // 2] if known else None
