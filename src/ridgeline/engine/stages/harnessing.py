"""The stage of the harness: every lead along its way, what has to be plugged in, and what the receiver supply bears."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.design.radio import Radio
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.harness import APART, PLUGS, SLACK, Y_LEAD, Near, Run, along, laid, nearest, power_ways
from ridgeline.engine.controls.sense import SideName
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.power.supply import RECEIVER, RECEIVER_VOLTS, SWITCHING, Draw, draw_of
from ridgeline.engine.stages.common import Outcome
from ridgeline.engine.stages.linked import Linking
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.standing import Standing

_SOURCE = "docs/theory.md §14"
_SUPPLY = ("radio.supply_typical", "radio.supply_moving", "radio.supply_stalled")
_LEADS = ("harness.shortest_margin", "harness.mass", "harness.apart")
#: One sigma of where a lead runs, of its length, and of what its plugs and wires weigh, shares.
_STRAYS, _WEIGHS = 0.06 / BAND, 0.25 / BAND
#: A servo that moves at all draws this share of its stall, and more by what it bears (chosen: of no load).
_FREE = 0.15


#: A of every servo aboard, with the id of its item.
Draws = tuple[tuple[str, Draw], ...]


@dataclass(frozen=True)
class Wired:
    """What the harness comes to.

    ``receiver`` is the item that is it, None where that is not said; ``near`` the lead that comes nearest to power, by
    its place in ``runs``; ``powers`` ways of what carries power, m.
    """

    receiver: Item | None
    runs: tuple[Run, ...]
    near: tuple[int, Near] | None
    powers: tuple[np.ndarray, ...]

    @property
    def shortest(self) -> Run | None:
        """The lead with the least to spare."""
        return min(self.runs, key=lambda run: run.margin, default=None)

    @property
    def extensions(self) -> tuple[tuple[float, int], ...]:
        """Leads that are plugged in, the shortest first: length, m, and how many of it."""
        return tuple(sorted(Counter(round(piece.length, 4) for run in self.runs for piece in run.pieces).items()))

    @property
    def joins(self) -> int:
        """How many leads join another in a Y: two on one channel are one."""
        return len(self.runs) - len({run.channel for run in self.runs})

    @property
    def mass(self) -> float:
        """What is plugged in weighs, kg."""
        return math.fsum(run.mass for run in self.runs) + Y_LEAD * self.joins

    @property
    def middle(self) -> np.ndarray:
        """The middle of what is plugged in, (3,) m: each extension lies about the middle of its way."""
        weights = np.array([run.mass for run in self.runs])
        middles = np.array([along(run.path).mean(axis=0) for run in self.runs])
        found: np.ndarray = weights @ middles / weights.sum() if weights.sum() > 0 else middles.mean(axis=0)
        return found


def harnessing(
    radio: Radio | None,
    parts: tuple[Item, ...],
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    power: PowerTrain | None,
    mass: Masses,
    found: Linking,
) -> Outcome[Wired]:
    """Lay every lead."""
    each = {item.id: float(m) / item.count for item, m in zip(parts, mass.expected, strict=True)}
    receiver = next((item for item in parts if item.harness == "receiver"), None)
    runs: tuple[Run, ...] = ()
    powers = power_ways(power, parts, () if power is None else all_discs(power))
    begins = _begins(parts, receiver)
    if receiver is not None and radio is not None:
        keeps = _Apart(powers, begins)
        runs = tuple(_runs(radio, parts, surfaces, bodies, receiver, found, each, keeps))
    near = _nearest(runs, powers, begins)
    wired = Wired(receiver, runs, near, powers)
    return Outcome(wired, _leads(wired))


def feeding(
    parts: tuple[Item, ...], mass: Masses, found: Linking, power: PowerTrain | None, standing: Standing | None
) -> Outcome[Draws]:
    """Add up what the receiver supply bears, and what it burns."""
    draws = tuple(
        (item.id, draw_of(item.servo, abs(float(m)) / item.count))
        for item, m in zip(parts, mass.expected, strict=True)
        if item.servo is not None
        for _ in range(item.count)
    )
    figures = _supply(draws, found)
    return Outcome(draws, (*figures, _heat(figures[0], power, standing)))


def _heat(typical: Figure, power: PowerTrain | None, standing: Standing | None) -> Figure:
    """Give what the controller's supply turns into heat with the servos at work."""
    key = "radio.bec_heat"
    if typical.value is None:
        return absent(key, typical.why_not)
    if power is None or standing is None or power.esc.bec_current <= 0:
        return absent(key, "no controller gives the receiver its current")
    load = put(typical, "receiver supply at work")
    if power.esc.bec_linear:
        volts = float(np.max(standing.chain.open_circuit))
        return derive(
            key, "({U} − 5 V)·{i}", lambda U, i: (U - RECEIVER_VOLTS) * i,
            {"U": Put(volts, "volts of the full pack", "voltage", 0.02 * volts), "i": load},
            source="handbook of the trade §14", note="a linear supply burns what it does not need",
        )  # fmt: skip
    return derive(
        key, "5 V·{i}·(1/{e} − 1)", lambda i, e: RECEIVER_VOLTS * i * (1 / e - 1),
        {"i": load, "e": Put(SWITCHING, "what a switching supply gives of what it takes", "fraction", 0.04)},
        source="handbook of the trade §14",
    )  # fmt: skip


class _Apart(NamedTuple):
    """What leads keep away from: ways that carry motor current, and places round which leads begin together."""

    powers: tuple[np.ndarray, ...]
    begins: list[np.ndarray]

    def of(self, run: Run) -> float:
        """Return how far a lead stays from all of them, m."""
        near = nearest(run.path, self.powers, self.begins)
        return math.inf if near is None else near.apart


def _runs(
    radio: Radio, parts: tuple[Item, ...], surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], receiver: Item,
    found: Linking, each: dict[str, float], keeps: _Apart,
) -> list[Run]:  # fmt: skip
    told = {lead.of: lead for lead in radio.leads}
    items, by_id = {item.id: item for item in parts}, {surface.id: surface for surface in surfaces}
    place = {channel.id: k for k, channel in enumerate(radio.channels)}
    at = (receiver.x, receiver.y, receiver.z)
    runs: list[Run] = []
    seen: set[tuple[str, str]] = set()

    def add(item: Item, side: SideName, channel: int, name: str) -> None:
        if (item.id, name) in seen:
            return
        seen.add((item.id, name))
        surface = by_id.get(item.on.to) if item.on is not None else None
        lead, mass = told.get(item.id), abs(each[item.id])
        run = laid(item, mass, side, channel, surface, at, lead, bodies)
        own = keeps.of(run)
        if own < APART:
            # Along the wall of its own side, unless only the other one keeps it from what carries motor current.
            far: SideName = "port" if side == "starboard" else "starboard"
            other = laid(item, mass, side, channel, surface, at, lead, bodies, far)
            run = other if keeps.of(other) > own else run
        runs.append(run)

    for row in found.rows:
        item = items.get(row.linkage.servo)
        for side in row.sides:
            own = row.linkage.port in ("mirrored", "alike") or side.side == "starboard"
            if item is not None and side.channel is not None and own:
                add(item, side.side, place[side.channel.id], f"{row.linkage.id} {side.side}")
    controllers = [item for item in parts if item.component == "esc"]
    throttles = [k for k, c in enumerate(radio.channels) if any(part.stick == "throttle" for part in c.mix)]
    for item in controllers if throttles else ():
        sides: tuple[SideName, ...] = ("starboard", "port") if item.mirrored else ("starboard",)
        for hand in sides:
            mine = next((k for k in throttles if radio.channels[k].side in ("both", hand)), throttles[0])
            add(item, hand, mine, f"esc {hand}")
    return runs


def _begins(parts: tuple[Item, ...], receiver: Item | None) -> list[np.ndarray]:
    """Return where leads begin together: all end at the receiver, the controller's begins where its thick ones do."""
    ends = [np.array((item.x, hand * item.y, item.z)) for item in parts if item.component == "esc" for hand in (1, -1)]
    return ends if receiver is None else [*ends, np.array((receiver.x, receiver.y, receiver.z))]


def _nearest(runs: tuple[Run, ...], powers: tuple[np.ndarray, ...], ends: list[np.ndarray]) -> tuple[int, Near] | None:
    best: tuple[int, Near] | None = None
    for k, run in enumerate(runs):
        near = nearest(run.path, powers, ends)
        if near is not None and (best is None or near.apart < best[1].apart):
            best = (k, near)
    return best


def _supply(draws: Draws, found: Linking) -> tuple[Figure, ...]:
    if not draws:
        return tuple(absent(key, "there is no servo aboard") for key in _SUPPLY)
    all_draws = [draw for _item, draw in draws]
    largest = max(all_draws)
    works = math.fsum(draw.working for draw in all_draws)
    sigma = largest.sigma
    receiver = Put(RECEIVER, "the receiver", "current")
    typical = derive(
        _SUPPLY[0], "{r} + {w}", lambda r, w: r + w,
        {"r": receiver, "w": Put(works, f"{len(draws)} servos at work", "current", sigma * works)},
        source="handbook of the trade §14", note="0.3 of the stall current each, or as its class says",
    )  # fmt: skip
    shares = {row.linkage.servo: row.share for row in found.rows if row.share is not None}
    moving = math.fsum(
        max(draw.working, draw.stalled * min(_FREE + (1 - _FREE) * (shares.get(item) or 0.0), 1.0))
        for item, draw in draws
    )
    all_moving = derive(
        _SUPPLY[1], "{r} + {m}", lambda r, m: r + m,
        {"r": receiver, "m": Put(moving, "all moving at once, by what each bears in a dive", "current",
                                 math.hypot(sigma, _STRAYS) * moving)},
        source=_SOURCE,
    )  # fmt: skip
    others = works - largest.working
    stalled = derive(
        _SUPPLY[2], "{r} + {o} + {s}", lambda r, o, s: r + o + s,
        {"r": receiver, "o": Put(others, "the others at work", "current", sigma * others),
         "s": Put(largest.stalled, "the largest, stalled", "current", sigma * largest.stalled)},
        source="handbook of the trade §14",
    )  # fmt: skip
    return typical, all_moving, stalled


def _leads(wired: Wired) -> tuple[Figure, ...]:
    run = wired.shortest
    if wired.receiver is None or run is None:
        why = "which item is the receiver is not said" if wired.receiver is None else "no channel has a lead"
        return tuple(absent(key, why) for key in _LEADS)
    need = run.own + run.extension - run.margin
    margin = derive(
        _LEADS[0], "{o} + {e} − {n}", lambda o, e, n: o + e - n,
        {"o": Put(run.own, "what it comes with", "length"), "e": Put(run.extension, "plugged in", "length"),
         "n": Put(need, "its way and slack", "length", _STRAYS * run.long)},
        source=_SOURCE, note=f"{1000 * SLACK:.0f} mm of slack for each",
    )  # fmt: skip
    plugs = sum(len(one.pieces) for one in wired.runs)
    wire = math.fsum(one.mass for one in wired.runs) - plugs * PLUGS
    weight = derive(
        _LEADS[1], "{w} + {n}·{p} + {j}·{y}", lambda w, n, p, j, y: w + n * p + j * y,
        {"w": Put(wire, "three wires of what is plugged in", "mass", _WEIGHS * wire),
         "n": Put(float(plugs), "extensions", "count"), "p": Put(PLUGS, "their plugs", "mass", _WEIGHS * PLUGS),
         "j": Put(float(wired.joins), "leads that join another", "count"),
         "y": Put(Y_LEAD, "a Y", "mass", _WEIGHS * Y_LEAD)},
        source=_SOURCE,
    )  # fmt: skip
    if wired.near is None:
        return margin, weight, absent(_LEADS[2], "nothing carries motor current")
    k, near = wired.near
    x, y, z = np.abs(near.at - near.other)
    stray = _STRAYS * wired.runs[k].long / 4
    apart = derive(
        _LEADS[2], "√({x}² + {y}² + {z}²)", lambda x, y, z: math.sqrt(x * x + y * y + z * z),
        {"x": Put(float(x), "fore and aft between the two ways", "length", stray),
         "y": Put(float(y), "sideways", "length", stray), "z": Put(float(z), "up and down", "length", stray)},
        source=_SOURCE, note="20 mm and more keeps the motor out of the signal",
    )  # fmt: skip
    return margin, weight, apart
