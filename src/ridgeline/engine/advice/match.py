"""Match motor, propeller, pack and controller to an airframe: every combination judged, ranked, and explained."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Motor, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import pack_on_rail
from ridgeline.engine.figures import Report
from ridgeline.engine.geometry.clearance import clearance_of
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.limits import CRUISE_THROTTLE, MOTOR_HEAT_LIMIT
from ridgeline.engine.power.pack import LEAST_CELL_VOLTAGE
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.power.propeller import tip_speed_limit
from ridgeline.engine.power.survey import Airframe, Row, Survey
from ridgeline.engine.sizing.purposes import PURPOSES

Array = NDArray[np.float64]
Intent = Literal["lightest", "longest", "strongest", "cheapest"]
#: What can rule a combination out, in the order of `Limits`, as a builder says it.
LIMITS = (
    *("too many cells", "no controller fits", "pack current too high", "motor current too high", "motor too hot"),
    *(
        "propeller too fast",
        "propeller too large",
        "cells under 3.4 V",
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
GROUND_CLEARANCE, _PART_CLEARANCE = 0.025, 0.004
PITCH_OVER_STALL = 2.2
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
    """Return by how much each combination passes each limit, as a share; shape (limits, m, k), positive is too much."""
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
            over(row.heat / survey.motor_mass, MOTOR_HEAT_LIMIT),
            over(tip, tip_speed_limit(propeller)),
            over(propeller.diameter, wishes.largest_propeller),
            over(LEAST_CELL_VOLTAGE, row.cell),
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
    """A search in steps, one propeller a step, so that it can show its progress and be stopped."""

    def __init__(self, survey: Survey, wishes: Wishes, own: frozenset[str] = frozenset(), keep: int = 40) -> None:
        self.survey, self.wishes, self._own, self._keep = survey, wishes, own, keep
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
        buy, price = self._wanting(), self._prices()
        for chunk, (index, row, good) in enumerate(self._good):
            esc = row.esc.ravel()[good]
            m, k = np.divmod(good, row.mass.shape[1])
            to_buy = buy[0][m] + buy[1][index] + buy[2][k] + buy[3][esc]
            cost = self.survey.airframe.motors * (price[0][m] + price[1][index] + price[3][esc]) + price[2][k]
            columns = (np.full(good.size, chunk), good, to_buy, row.mass.ravel()[good])
            parts.append(np.stack([*columns, row.seconds.ravel()[good], row.ratio.ravel()[good], cost], axis=1))
        return np.concatenate(parts) if parts else np.zeros((0, 7))

    def _wanting(self) -> tuple[Array, ...]:
        kinds = (self.survey.motors, self.survey.propellers, self.survey.packs, self.survey.escs)
        return tuple(np.array([0.0 if part.name in self._own else 1.0 for part in kind]) for kind in kinds)

    def _prices(self) -> tuple[Array, ...]:
        """Return prices; what lies in the bin costs nothing more, what has no price is unknown (infinite)."""
        kinds = (self.survey.motors, self.survey.propellers, self.survey.packs, self.survey.escs)
        return tuple(
            np.array([0.0 if p.name in self._own else math.inf if p.price is None else p.price for p in kind])
            for kind in kinds
        )

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
        prices = [0.0 if p.name in self._own else p.price for p in parts if p is not None]
        tightest, spare = (0, 0.0) if binding else self._tightest(index, row, flat)
        known = [price for price in prices if price is not None]
        return Match(
            *parts,
            mass=float(row.mass[m, k]),
            thrust=float(row.thrust[m, k]),
            ratio=float(row.ratio[m, k]),
            current=float(row.current[m, k]),
            seconds=float(row.seconds[m, k]),
            throttle=float(row.throttle[m, k]),
            balance=(float(row.foremost[m, k]), float(row.rearmost[m, k])),
            price=sum(known) if len(known) == len(prices) else None,
            to_buy=sum(p.name not in self._own for p in parts if p is not None),
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


def airframe_of(design: Design, report: Report) -> Airframe | None:
    """Return what carries the power train of a design; None before it has one, with wing and mass."""
    train, mass, speeds = design.power, report.results["masses"], report.results["speeds"]
    ref, model, here = report.results["shape"].reference, report.results["polar"], report.results["air"]
    if train is None or mass.state is None or speeds is None or ref is None:
        return None
    links = ("motor", "esc", "propeller", "pack")
    own = np.array([part.component in links for part in design.parts])
    rest, x = mass.items.mass[~own], mass.items.place[~own, 0]
    place = {link: _place_of(design, link) for link in links}
    index = pack_on_rail(design)
    rail = design.parts[index].rail if index is not None and design.parts[index].component == "pack" else None
    front, back = (rail.front, rail.back) if rail is not None else (place["pack"], place["pack"])
    brief = design.brief
    return Airframe(
        rest=float(rest.sum()),
        rest_moment=float(rest @ x),
        motor_x=place["motor"],
        esc_x=place["esc"],
        propeller_x=place["propeller"],
        pack_front=front,
        pack_back=back,
        stall=speeds.stall,
        stall_mass=mass.state.mass,
        cruise_ratio=brief.cruise_ratio,
        air_density=here.density,
        viscosity=here.viscosity,
        temperature_c=brief.temperature_c,
        drag=model,
        profile=Profile(brief.climb_seconds, brief.full_share),
        motors=train.motors,
        pack_series=train.pack_series,
        pack_parallel=train.pack_parallel,
        lead_resistance=train.lead_resistance,
        receiver=report.value("power.receiver_load") or 0.0,
    )


def _place_of(design: Design, link: str) -> float:
    assert design.power is not None
    found = [part.x for part in design.parts if part.component == link]
    return found[0] if found else design.power.x


def wishes_of(design: Design, report: Report) -> Wishes:
    """Return what the brief, the geometry and the balance ask of a power train."""
    train, brief = design.power, design.brief
    assert train is not None
    low = min(brief.thrust_ratio, PURPOSES[brief.purpose].thrust_ratio[1])
    index = pack_on_rail(design)
    rail = design.parts[index].rail if index is not None else None
    balanced, ref = report.results["balance"], report.results["shape"].reference
    window = None
    if balanced is not None and balanced.target is not None and ref is not None:
        ends = (balanced.first_throw[0], balanced.target[1])
        window = (ref.mac_x_le + min(ends) * ref.mac, ref.mac_x_le + max(ends) * ref.mac)
    return Wishes(
        thrust_ratio=low,
        seconds=brief.endurance,
        ceiling=brief.ceiling,
        largest_propeller=largest_propeller(design),
        bay=rail.back - rail.front if rail is not None else 1.0,
        balance=window,
    )


def largest_propeller(design: Design) -> float:
    """Return the largest propeller, m, that keeps 25 mm off the ground and clear of the airframe."""
    train = design.power
    assert train is not None

    def fits(radius: float) -> bool:
        found = clearance_of(train.mounts, radius, design.surfaces, design.bodies, design.wheels)
        ground = found.ground is None or found.ground >= GROUND_CLEARANCE
        return ground and (found.nearest is None or found.nearest >= _PART_CLEARANCE)

    low, high = 0.01, 0.5
    if fits(high):
        return 2 * high
    # Where not even a small disc clears, the present one is the builder's own decision.
    if not fits(low):
        return train.propeller.diameter
    for _ in range(12):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if fits(middle) else (low, middle)
    return max(2 * low, 0.0)


def candidates(design: Design, shelf: Shelf, report: Report) -> Survey | None:
    """Return the survey of a shelf on a design: fans only where there is one, and the packs the brief names."""
    frame = airframe_of(design, report)
    if frame is None or design.power is None:
        return None
    fan = design.power.propeller.family == "ducted_fan"
    blades = tuple(p for p in shelf.propellers if (p.family == "ducted_fan") == fan)
    named = tuple(pack for pack in shelf.packs if pack.name in design.brief.packs)
    return Survey(shelf.motors, blades, named or shelf.packs, shelf.escs, frame)


def fit(design: Design, match: Match, aim: float | None = None) -> tuple[Change, ...]:
    """Return the edits that fit a match as one step, the pack slid to where it balances best.

    Parameters
    ----------
    aim : float, optional
        Balance point wanted, m; the pack goes as near as its bay lets it.
    """
    train = design.power
    assert train is not None and match.esc is not None
    changes = [
        *exchange(design, "motor", match.motor, match.motor.name.replace("Outrunner", "Motor").partition(",")[0]),
        *exchange(design, "esc", match.esc, match.esc.name),
        *exchange(design, "propeller", match.propeller, f"Propeller {size_words(match.propeller)}"),
        *exchange(design, "pack", match.pack, f"Pack {match.pack.name}"),
    ]
    index = pack_on_rail(design)
    if aim is not None and index is not None and design.parts[index].component == "pack":
        rail = design.parts[index].rail
        assert rail is not None
        length = min(match.pack.length, rail.back - rail.front)
        ends = rail.front + length / 2, rail.back - length / 2
        low, high = match.balance
        share = 0.5 if high - low < 1e-9 else (aim - low) / (high - low)
        changes.append(Change(f"parts[{index}].x", ends[0] + min(max(share, 0.0), 1.0) * (ends[1] - ends[0])))
    return tuple(changes)


def neighbours(train: PowerTrain, shelf: Shelf) -> dict[str, tuple[PowerTrain, ...]]:
    """Return one-link variations: same motor, other propeller; same propeller, one cell more or less."""
    ratio = train.propeller.diameter
    props = [p for p in shelf.propellers if abs(p.diameter - ratio) < 0.045 and p.family != "ducted_fan"]
    by_cells: dict[int, Pack] = {}
    energy = train.pack.cells * train.pack.capacity_ah
    for pack in sorted(shelf.packs, key=lambda p: abs(p.cells * p.capacity_ah - energy)):
        by_cells.setdefault(pack.cells, pack)
    near = [by_cells[c] for c in sorted(by_cells) if abs(c - train.pack.cells) == 1]
    return {
        "propeller": tuple(train.model_copy(update={"propeller": p}) for p in props),
        "pack": tuple(train.model_copy(update={"pack": p}) for p in near),
    }
