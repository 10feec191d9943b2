"""Match motor, propeller, pack and controller to an airframe: every combination judged, ranked, and explained."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.engine.power.limits import CRUISE_THROTTLE, MOTOR_HEAT_MINUTE, PITCH_OVER_STALL
from ridgeline.engine.power.propeller import tip_speed_limit
from ridgeline.engine.power.survey import Row, Survey

Array = NDArray[np.float64]
Intent = Literal["lightest", "longest", "strongest", "cheapest"]
#: What can rule a combination out, in the order of `Limits`, as a builder says it.
LIMITS = (
    *("too many cells", "no controller fits", "pack current too high", "motor current too high", "motor too hot"),
    *(
        "propeller too fast",
        "propeller too large",
        "cells pulled too low",
        "pack longer than its bay",
        "thrust ratio short",
    ),
    *("cruise throttle too high", "time short", "over the ceiling", "pitch speed too low", "cannot be balanced"),
)
#: The same limits as what is left of them, for what fits.
LEFT = (
    *(
        "cells",
        "controller",
        "pack current",
        "motor current",
        "motor heat",
        "propeller speed",
        "room for the propeller",
    ),
    *("cell voltage", "bay", "thrust ratio", "throttle in cruise", "time", "ceiling", "pitch speed", "balance"),
)
_NEVER = 9.0
#: Near misses are kept up to this excess over the one limit.
_NEAR = 0.35


@dataclass(frozen=True)
class Wishes:
    """What a match is asked for: thrust over weight, seconds aloft, most kg, largest propeller and bay, m, and balance.

    ``balance`` are the balance points allowed, m from the datum; None when nothing is known of balance yet.
    """

    thrust_ratio: float
    seconds: float
    ceiling: float
    largest_propeller: float
    bay: float
    balance: tuple[float, float] | None


@dataclass(frozen=True)
class Match:
    """One combination with its figures (SI) and the limit it is nearest to.

    ``binding`` names a limit of `LEFT` with a negative ``excess`` where it fits, and for a near miss the one of
    `LIMITS` that rules it out, with by how much.
    """

    motor: Motor
    propeller: Propeller
    pack: Pack
    esc: SpeedController | None
    mass: float
    thrust: float
    ratio: float
    current: float
    seconds: float
    throttle: float
    balance: tuple[float, float]
    price: float | None
    to_buy: int
    binding: str
    excess: float
    place: tuple[int, int, int]


@dataclass(frozen=True)
class Matches:
    """What a search found: how many were looked at and fit, the best by intent, near misses, and the front.

    ``front`` are the matches no other beats in weight, time and thrust together.
    """

    looked_at: int
    fitting: int
    ranked: dict[str, tuple[Match, ...]]
    near: tuple[Match, ...]
    front: tuple[Match, ...]
    ruled_out: dict[str, int]


def excesses(survey: Survey, wishes: Wishes, propeller: Propeller, row: Row) -> Array:
    """Return by how much each combination passes each limit, as a share; shape (limits, m, k), positive is too much.

    Parameters
    ----------
    survey : Survey
    wishes : Wishes
    propeller : Propeller
    row : Row
        Of that propeller.

    Returns
    -------
    ndarray, shape (limits, m, k)
        Shares.
    """
    shape = row.mass.shape

    def over(value: Array | float, limit: Array | float) -> Array:
        return np.broadcast_to(np.asarray(value, float) / np.maximum(limit, 1e-9) - 1.0, shape)

    lengths = np.array([pack.length for pack in survey.packs])[None]
    tip = math.pi * propeller.diameter * row.rpm / 60
    pitch_speed = propeller.pitch * row.rpm / 60
    held = np.isfinite(row.throttle)
    balance = np.zeros(shape)
    if wishes.balance is not None:
        low, high = wishes.balance
        off = np.maximum(np.maximum(row.foremost - high, low - row.rearmost), 0.0)
        balance = off / max(high - low, 0.005)
    return np.stack(
        [
            over(survey.cells, survey.motor_cells),
            np.where(row.esc < 0, _NEVER, -1.0),
            over(row.current, survey.pack_limit),
            over(row.motor_current, survey.motor_limit),
            over(row.heat / survey.motor_mass, MOTOR_HEAT_MINUTE),
            over(tip, tip_speed_limit(propeller)),
            over(propeller.diameter, wishes.largest_propeller),
            over(survey.least_cell, row.cell),
            over(lengths, wishes.bay),
            over(wishes.thrust_ratio, row.ratio),
            np.where(held, over(np.where(held, row.throttle, 1.0), CRUISE_THROTTLE), _NEVER),
            over(wishes.seconds, np.maximum(row.seconds, 1e-6)),
            over(row.mass, wishes.ceiling),
            over(PITCH_OVER_STALL * row.stall, np.maximum(pitch_speed, 1e-6)),
            balance,
        ]
    )


class Search:
    """A search in steps, one propeller a step, so that it can show its progress and be stopped.

    ``own`` says by name how many of a part lie in the builder's bin: those need not be bought.
    """

    def __init__(
        self, survey: Survey, wishes: Wishes, own: Mapping[str, int] = MappingProxyType({}), keep: int = 40
    ) -> None:
        self.survey, self.wishes, self._own, self._keep = survey, wishes, own, keep
        frame = survey.airframe
        packs = frame.pack_series * frame.pack_parallel
        shelves = (survey.motors, survey.propellers, survey.packs, survey.escs)
        counts = (frame.motors, frame.motors, packs, frame.motors)
        #: Pieces to buy of each part and what they cost, in the order motor, propeller, pack, controller.
        self._bills = tuple(_bill_of(shelf, n, own) for shelf, n in zip(shelves, counts, strict=True))
        self.ruled_out = np.zeros(len(LIMITS), np.int64)
        self.looked_at = self.fitting = 0
        self._good: list[tuple[int, Row, NDArray[np.int64]]] = []
        self._near: list[Match] = []
        self._over: dict[int, Array] = {}

    def steps(self, stop: Callable[[], bool] = lambda: False) -> Iterator[float]:
        """Look at one propeller after another and yield the share done."""
        for index, row in self.survey.rows(stop):
            self._judge(index, row)
            yield (index + 1) / len(self.survey.propellers)

    def _judge(self, index: int, row: Row) -> None:
        propeller = self.survey.propellers[index]
        over = excesses(self.survey, self.wishes, propeller, row)
        broken = over > 1e-9
        count = broken.sum(axis=0)
        self.looked_at += count.size
        self.ruled_out += broken.sum(axis=(1, 2))
        good = np.flatnonzero(count == 0)
        self.fitting += good.size
        if good.size:
            self._good.append((index, row, good))
        worst = over.max(axis=0)
        near = np.flatnonzero(((count == 1) & (worst < _NEAR)).ravel())
        order = near[np.argsort(worst.ravel()[near], kind="stable")][: self._keep]
        for flat in order:
            place = int(np.argmax(over.reshape(len(LIMITS), -1)[:, flat]))
            self._near.append(self._match(index, row, int(flat), LIMITS[place], float(worst.ravel()[flat])))

    def result(self, rank: int = 60) -> Matches:
        """Return what was found so far."""
        table = self._table()
        ranked: dict[str, tuple[Match, ...]] = {}
        for intent in ("lightest", "longest", "strongest", "cheapest"):
            order = self._order(table, intent)[:rank]
            ranked[intent] = tuple(self._at(table, int(k)) for k in order)
        front = tuple(self._at(table, int(k)) for k in _front(table))
        near = tuple(sorted(self._near, key=lambda m: (m.to_buy, m.excess, m.mass))[: self._keep])
        counts = {LIMITS[i]: int(n) for i, n in enumerate(self.ruled_out) if n}
        self._over.clear()
        return Matches(self.looked_at, self.fitting, ranked, near, front, counts)

    def _table(self) -> Array:
        """Return the fitting combinations: chunk, flat index, to buy, mass, seconds, ratio, price."""
        parts = []
        for chunk, (index, row, good) in enumerate(self._good):
            esc = row.esc.ravel()[good]
            m, k = np.divmod(good, row.mass.shape[1])
            to_buy, cost = self._bill(m, index, k, esc)
            columns = (np.full(good.size, chunk), good, to_buy, row.mass.ravel()[good])
            parts.append(np.stack([*columns, row.seconds.ravel()[good], row.ratio.ravel()[good], cost], axis=1))
        return np.concatenate(parts) if parts else np.zeros((0, 7))

    def _bill(self, *places: Any) -> tuple[Any, Any]:
        """Return pieces to buy and their cost of combinations, by the places of their parts on the shelves."""
        chosen = [bill[:, place] for bill, place in zip(self._bills, places, strict=False)]
        return sum(bill[0] for bill in chosen), sum(bill[1] for bill in chosen)

    def _order(self, table: Array, intent: str) -> NDArray[np.int64]:
        """Return the rows best first: what is in the bin before what must be bought, then by the intent."""
        mass, seconds, ratio, price = table[:, 3], table[:, 4], table[:, 5], table[:, 6]
        first = {"lightest": mass, "longest": -seconds, "strongest": -ratio, "cheapest": price}[intent]
        bought = table[:, 2] if self._own else np.zeros(len(table))
        return np.lexsort((table[:, 1], table[:, 0], mass, first, bought))

    def _at(self, table: Array, k: int) -> Match:
        index, row, _good = self._good[int(table[k, 0])]
        return self._match(index, row, int(table[k, 1]), "", 0.0)

    def _match(self, index: int, row: Row, flat: int, binding: str, excess: float) -> Match:
        m, k = divmod(flat, row.mass.shape[1])
        survey, esc = self.survey, int(row.esc[m, k])
        parts = (survey.motors[m], survey.propellers[index], survey.packs[k], survey.escs[esc] if esc >= 0 else None)
        to_buy, cost = self._bill(m, index, k, *((esc,) if esc >= 0 else ()))
        tightest, spare = (0, 0.0) if binding else self._tightest(index, row, flat)
        return Match(
            *parts,
            mass=float(row.mass[m, k]),
            thrust=float(row.thrust[m, k]),
            ratio=float(row.ratio[m, k]),
            current=float(row.current[m, k]),
            seconds=float(row.seconds[m, k]),
            throttle=float(row.throttle[m, k]),
            balance=(float(row.foremost[m, k]), float(row.rearmost[m, k])),
            price=float(cost) if math.isfinite(cost) else None,
            to_buy=int(to_buy),
            binding=binding or LEFT[tightest],
            excess=excess if binding else spare,
            place=(m, index, k),
        )

    def _tightest(self, index: int, row: Row, flat: int) -> tuple[int, float]:
        """Return the limit a fitting combination comes nearest to, and its (negative) excess."""
        if index not in self._over:
            self._over[index] = excesses(self.survey, self.wishes, self.survey.propellers[index], row)
        over = self._over[index]
        # Balance is a window; cells and controllers are yes or no: none of these comes near by degrees.
        shares = over.reshape(len(LIMITS), -1)[2:-1, flat]
        return 2 + int(np.argmax(shares)), float(shares.max())


def _bill_of(shelf: Sequence[Any], count: int, own: Mapping[str, int]) -> Array:
    """Return pieces to buy (row 0) and what they cost (row 1) of each part; without a price that is infinite."""
    buy = np.array([max(count - own.get(part.name, 0), 0) for part in shelf], float)
    each = np.array([math.inf if part.price is None else part.price for part in shelf], float)
    # What need not be bought costs nothing, price or none.
    return np.stack([buy, buy * np.where(buy > 0, each, 0.0)])


def _front(table: Array, most: int = 60) -> list[int]:
    """Return the rows no other beats in mass, time and thrust together, lightest first."""
    if not len(table):
        return []
    order = np.lexsort((-table[:, 5], -table[:, 4], table[:, 3]))
    kept: list[int] = []
    best = np.zeros((0, 2))
    for k in order:
        mine = table[k, 4:6]
        if best.size and ((best >= mine).all(axis=1)).any():
            continue
        kept.append(int(k))
        best = np.vstack([best[~(best <= mine).all(axis=1)], mine])
    return kept if len(kept) <= most else [kept[int(i)] for i in np.linspace(0, len(kept) - 1, most)]
