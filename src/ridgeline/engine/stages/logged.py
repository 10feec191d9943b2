"""The stage of the log: what every flight comes to, what the packs say, and the figures measured in the air."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

from ridgeline.design.flights import Flight
from ridgeline.design.power import PowerTrain
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.flight.battery import CHARGER_SIGMA, TIMED_SIGMA, Told, Trend, resistance_trend
from ridgeline.engine.flight.entries import Able, Doubt, LogRow, Slip, doubts_of, row_of, slips_of, usual
from ridgeline.engine.power.pack import cold_factor
from ridgeline.engine.stages.common import Outcome
from ridgeline.engine.stages.common import Told as Figures

_NOTHING = "no flight is logged yet"
_KEYS = ("log.flights", "log.minutes", "log.mean_current", "log.top_speed")


class LogRows:
    """Rows of the log by their flights: a flight that was not edited is not worked out again."""

    def __init__(self) -> None:
        self._rows: dict[int, tuple[Flight, object, LogRow]] = {}

    def of(self, flights: tuple[Flight, ...], power: PowerTrain | None) -> tuple[LogRow, ...]:
        """Return the rows of flights, in their order.

        Parameters
        ----------
        flights : tuple of Flight
        power : PowerTrain or None

        Returns
        -------
        tuple of LogRow
        """
        pack = None if power is None else power.pack
        known, self._rows = self._rows, {}
        for flight in flights:
            kept = known.get(id(flight))
            if kept is None or kept[0] is not flight or kept[1] is not pack:
                kept = (flight, pack, row_of(flight, power))
            self._rows[id(flight)] = kept
        return tuple(self._rows[id(flight)][2] for flight in flights)


@dataclass(frozen=True)
class Logged:
    """The log: its ``rows``, and what the aircraft is able to by the model, against which they are judged."""

    rows: tuple[LogRow, ...]
    model: Able

    @cached_property
    def able(self) -> Able:
        """What the aircraft is able to, with the mean current of its own flights where any can be believed."""
        own = usual(self.rows, self.model)
        return self.model if own is None else Able(self.model.current, self.model.top_speed, own)

    @cached_property
    def doubts(self) -> Mapping[int, tuple[Doubt, ...]]:
        """What cannot be, by the place of the flight; only of those of which something cannot."""
        found = ((k, doubts_of(row, self.model)) for k, row in enumerate(self.rows))
        return {k: doubts for k, doubts in found if doubts}

    def slips(self, place: int) -> tuple[Slip, ...]:
        """Return what was more likely meant by a flight whose mean current cannot be."""
        return slips_of(self.rows[place], self.able)

    @cached_property
    def trends(self) -> Mapping[str, Trend]:
        """How the resistance of each pack goes, by what is written on it."""
        read: dict[str, list[tuple[float, float]]] = {}
        for row in self.rows:
            told = row.flight.resistance
            if told is None and row.recorded.resistance is not None:
                told = row.recorded.resistance.value
            if told is not None and row.flight.pack:
                warm = 20.0 if row.flight.temperature_c is None else row.flight.temperature_c
                read.setdefault(row.flight.pack, []).append((told, cold_factor(warm)))
        trends = {pack: resistance_trend(*zip(*rows, strict=True)) for pack, rows in read.items()}
        return {pack: trend for pack, trend in trends.items() if trend is not None}

    def believed(self, *kinds: str) -> list[LogRow]:
        """Return the rows of the newest version that flew of which nothing of some kinds is doubted.

        Parameters
        ----------
        *kinds : str
            Of doubts.

        Returns
        -------
        list of LogRow
        """
        newest = max((row.flight.version for row in self.rows), default=0)
        return [
            row
            for k, row in enumerate(self.rows)
            if row.flight.version == newest and not any(doubt.kind in kinds for doubt in self.doubts.get(k, ()))
        ]


def logged(
    flights: tuple[Flight, ...], power: PowerTrain | None, told: Figures, memory: LogRows | None = None
) -> Outcome[Logged]:
    """Put the log into figures."""
    rows = (memory or LogRows()).of(flights, power)
    found = Logged(rows, _able(told))
    if not rows:
        return Outcome(found, tuple(absent(key, _NOTHING) for key in _KEYS))
    many = derive(
        "log.flights", "{n}", lambda n: n, {"n": Put(len(rows), "entries of the log", "count")}, source="the log"
    )
    return Outcome(found, (many, _minutes(rows), _mean_current(found), _top_speed(found)))


def _able(told: Figures) -> Able:
    def known(key: str) -> Told | None:
        figure = told[key]
        return None if figure.value is None else Told(figure.value, figure.sigma)

    mean = known("flight.mean_current")
    return Able(known("power.static_current"), known("speed.max"), None if mean is None else mean.value)


def _minutes(rows: tuple[LogRow, ...]) -> Figure:
    timed = [row.flight.aloft for row in rows if row.flight.aloft]
    if not timed:
        return absent("log.minutes", "no flight of the log was timed")
    error = TIMED_SIGMA * math.sqrt(len(timed))
    row = {"t": Put(math.fsum(timed), f"aloft in {len(timed)} timed flights", "flight_time", error)}
    return derive("log.minutes", "{t}", lambda t: t, row, source="the log")


def _mean_current(found: Logged) -> Figure:
    rows = [row for row in found.believed("current", "capacity", "left") if row.mean is not None]
    if not rows:
        return absent("log.mean_current", "no believable flight tells both its time and what was put back")
    charge = math.fsum(row.flight.put_back_ah or 0.0 for row in rows)
    time = math.fsum(row.flight.aloft or 0.0 for row in rows)
    return derive(
        "log.mean_current",
        "3600·{Q}/{t}",
        lambda Q, t: 3600 * Q / t,
        {
            # The same charger counted all of it: its error does not average out.
            "Q": Put(charge, f"put back after {_flights(rows)}", "capacity", CHARGER_SIGMA * charge),
            "t": Put(time, "aloft", "flight_time", TIMED_SIGMA * math.sqrt(len(rows))),
        },
        source="docs/theory.md §16",
        note=_which(rows),
    )


def _top_speed(found: Logged) -> Figure:
    rows = [row for row in found.believed("speed") if row.airspeed is not None]
    if not rows:
        return absent("log.top_speed", "no passes at full throttle are logged")
    speeds = [row.airspeed for row in rows if row.airspeed is not None]
    weight = [1 / max(speed.sigma, 1e-3) ** 2 for speed in speeds]
    mean = math.fsum(w * speed.value for w, speed in zip(weight, speeds, strict=True)) / math.fsum(weight)
    scatter = math.fsum(w * (speed.value - mean) ** 2 for w, speed in zip(weight, speeds, strict=True))
    # Flights that differ by more than they should err by more than each says.
    stretch = math.sqrt(max(scatter / (len(speeds) - 1), 1.0)) if len(speeds) > 1 else 1.0
    error = stretch / math.sqrt(math.fsum(weight))
    return derive(
        "log.top_speed",
        "{V}",
        lambda V: V,
        {"V": Put(mean, f"airspeed at full throttle, {_flights(rows)}", "speed", error)},
        source="docs/theory.md §16",
        note=_which(rows),
    )


def _flights(rows: Iterable[LogRow]) -> str:
    many = len(list(rows))
    return "one flight" if many == 1 else f"{many} flights"


def _which(rows: list[LogRow]) -> str:
    return f"as version {rows[0].flight.version} flew"
