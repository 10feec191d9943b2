"""Stages of the masses: roll-up, groups, loading."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.cutting import Cutting
from ridgeline.design.flights import Learnt
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.bands import BAND
from ridgeline.engine.build.cut_up import Rooms, longest_of, rooms_of
from ridgeline.engine.build.seats import Seats, seats_of
from ridgeline.engine.figures import Figure, Put, Sides, absent, derive, put
from ridgeline.engine.register import GROUP_MASS
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Last, Outcome, Told
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.weights.estimates import WHOLE, Extent, extents_of
from ridgeline.engine.weights.growth import gain_sides, roll_up_grown
from ridgeline.engine.weights.items import GROUPS, ItemArrays, ItemRows, item_arrays, kinds_of
from ridgeline.engine.weights.rollup import MassState, roll_up

#: Less than this aboard is nothing aboard, kg: a gram is what a kitchen scale tells apart.
LEAST_MASS = 0.001
#: Items of a sum that are named.
_NAMED = 6
_KEYS = (
    "mass.auw",
    "mass.listed",
    "mass.reserve",
    "mass.weighed",
    "balance.cg_x",
    "balance.cg_y",
    "balance.cg_z",
)


@dataclass(frozen=True)
class Masses:
    """The roll-up of what is to be expected (None when nothing aboard), the item arrays, and group sums as listed, kg.

    ``expected`` (n,) are the masses of the items with what they still gain, kg: they sum to the roll-up's.
    """

    state: MassState | None
    items: ItemArrays
    expected: np.ndarray
    groups: dict[str, float]


#: One and the same for every design whose items follow nothing, so that a change of shape leaves their masses alone.
_NO_EXTENTS: dict[str, Extent] = {}
_NOT_LEARNT = Learnt()


def followed(parts: tuple[Item, ...]) -> Outcome[tuple[str, ...]]:
    """Name the surfaces and bodies that items are built along."""
    built = (parts[k].build for k in kinds_of(parts).built)
    # What is of no part follows none, but for glue and the like of the whole aircraft.
    return Outcome(tuple(sorted({b.of for b in built if b is not None and (b.of or b.kind == "pieces")})))


def rooms(cutting: Cutting, memory: Last | None = None) -> Outcome[Rooms]:
    """Tell what the sheets on hand take: larger pieces are cut up and spliced."""
    found = rooms_of(cutting)
    return Outcome(found if memory is None else memory.same(found))


def seats(
    surfaces: tuple[Surface, ...], parts: tuple[Item, ...], rooms: Rooms, memory: Last | None = None
) -> Outcome[Seats]:
    """Find where servos sit in surfaces that have lightening holes, or are cut up."""
    found = seats_of(surfaces, parts, longest_of(rooms))
    return Outcome(found if memory is None else memory.same(found))


def extents(
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    followed: tuple[str, ...],
    seated: Seats = (),
    rooms: Rooms = (),
) -> Outcome[dict[str, Extent]]:
    """Measure the surfaces and bodies that items are built along."""
    if not followed:
        return Outcome(_NO_EXTENTS)
    if WHOLE not in followed:
        surfaces = tuple(s for s in surfaces if s.id in followed)
        bodies = tuple(b for b in bodies if b.id in followed)
    return Outcome(extents_of(surfaces, bodies, seated, rooms))


def masses(
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    brief: Brief,
    measured: dict[str, Extent] | None = None,
    learnt: Learnt | None = None,
    memory: ItemRows | None = None,
) -> Outcome[Masses]:
    """Roll up the items; ``memory`` are the rows read last, ``learnt`` what flights said of weight and balance."""
    items = item_arrays(parts, power, measured, memory)
    ceiling = derive(
        "mass.ceiling", "{m}", lambda m: m, {"m": Put(brief.ceiling, "ceiling", "mass")}, source="the brief"
    )
    if items.mass.sum() <= LEAST_MASS:
        return Outcome(Masses(None, items, items.mass, {}), (ceiling, *(absent(key, NO_MASS) for key in _KEYS)))
    state, sides = roll_up_grown(items, brief.growth)
    listed_mass = state.mass
    state, sides = _as_flown(state, sides, learnt or _NOT_LEARNT)
    sums = np.bincount(items.group, weights=items.mass, minlength=len(GROUPS))
    present = np.bincount(items.group, minlength=len(GROUPS)) > 0
    # In the order in which the items first name them.
    order = sorted(np.flatnonzero(present), key=lambda k: int(np.argmax(items.group == k)))
    groups = {GROUPS[k]: float(sums[k]) for k in order}
    result = Masses(state, items, items.grown(brief.growth) * (state.mass / listed_mass), groups)
    more = state.mass - listed_mass if learnt is not None and learnt.mass is not None else None
    weights = _weight_figures(items, parts, state, sides, brief.growth, more)
    return Outcome(result, (ceiling, *weights, *_balance_figures(weights[0], result, parts, state, learnt)))


def _as_flown(state: MassState, sides: Sides, learnt: Learnt) -> tuple[MassState, Sides]:
    """Return weight and balance with what flights said of them: that replaces what was reckoned."""
    if learnt.mass is not None:
        more = max(learnt.mass, 0.1 * state.mass - state.mass)
        state = replace(state, mass=state.mass + more, sigma_mass=learnt.mass_sigma)
        sides = Sides(learnt.mass_sigma, learnt.mass_sigma)
    if learnt.balance is not None:
        cg, sigma = state.cg.copy(), np.array(state.sigma_cg, float)
        cg[0] += learnt.balance
        sigma[0] = learnt.balance_sigma
        state = replace(state, cg=cg, sigma_cg=sigma)
    return state, sides


def _weight_figures(
    items: ItemArrays, parts: tuple[Item, ...], state: MassState, sides: Sides, share: float, more: float | None = None
) -> tuple[Figure, ...]:
    """Give the weight to expect, as listed, and what is kept for growth."""
    listed = _listed(items, parts)
    gain = gain_sides(share)
    kept = Put(share, "kept on what is not weighed yet", "fraction", float(np.hypot(*gain)) / math.sqrt(2), sides=gain)
    reserve = derive(
        "mass.reserve",
        "{share}·{m_open}",
        lambda share, m_open: share * m_open,
        {
            "share": kept,
            "m_open": Put(float(items.mass[items.open].sum()), "board, glue and leads not yet weighed", "mass"),
        },
        source=f"{HANDBOOK} §5: 15 to 25 %",
        note="nine builds in ten gain between a quarter of it and twice it",
    )
    row = {"m_listed": put(listed, "everything aboard, as listed"), "m_growth": put(reserve, "kept for growth")}
    if more is not None:
        row["m_flown"] = Put(more, "more by the flights", "mass", state.sigma_mass)
    auw = derive(
        "mass.auw",
        " + ".join(f"{{{name}}}" for name in row),
        lambda **m: sum(m.values()),
        row,
        source="docs/theory.md §5",
        note="builds gain until they fly: this is what it will weigh" if more is None else "as it was flown",
    )
    # An item whose estimate errs gains by as much more: the band comes from the roll-up, not from the two one by one.
    return auw.with_error(lambda: (state.sigma_mass, sides)), listed, reserve


def _listed(items: ItemArrays, parts: tuple[Item, ...]) -> Figure:
    """Give the sum of the items, the heaviest by name."""
    biggest = items.mass.argsort()[::-1][:_NAMED]
    rest = float(items.mass.sum() - items.mass[biggest].sum())
    rows = {
        f"m{i + 1}": Put(float(items.mass[k]), parts[k].name, "mass", float(items.sigma[k]))
        for i, k in enumerate(biggest)
    }
    if len(parts) > _NAMED:
        rows["rest"] = Put(rest, f"{len(parts) - _NAMED} smaller items", "mass")
    summed = derive(
        "mass.listed",
        " + ".join(f"{{{name}}}" for name in rows),
        lambda **m: sum(m.values()),
        rows,
        source="docs/theory.md §5",
    )

    # Batches err together, so the band comes from the roll-up and not from the rows one by one.
    def error() -> tuple[float, None]:
        return roll_up(items.mass, items.place, items.sigma, items.sigma_place, items.batch).sigma_mass, None

    return summed.with_error(error)


def _balance_figures(
    auw: Figure, result: Masses, parts: tuple[Item, ...], state: MassState, learnt: Learnt | None = None
) -> tuple[Figure, ...]:
    """Give the balance point to expect, what is weighed, and the groups as listed."""
    items = result.items
    total = put(auw, "all-up weight")
    figures = []
    for axis, name in enumerate("xyz"):
        moved = learnt.balance if learnt is not None and learnt.balance is not None and axis == 0 else None
        place = float(state.cg[axis]) - (moved or 0.0)
        row = {"moment": Put(place * state.mass, f"sum of m·{name}, kg m", "ratio"), "M": total}
        if moved is not None:
            row["flown"] = Put(moved, "further aft, as it was flown", "length", float(state.sigma_cg[axis]))
        figure = derive(
            f"balance.cg_{name}",
            "{moment}/{M}" + (" + {flown}" if moved is not None else ""),
            lambda moment, M, flown=0.0: moment / M + flown,
            row,
            source="docs/theory.md §6",
            note=_largest_moments(parts, result, state) if axis == 0 else "",
        )
        # Moment and mass err together: the band comes from the roll-up.
        figures.append(figure.with_error(partial(_of_axis, state, axis)))
    figures.append(_sum("mass.weighed", items.weighed, items, parts, "the scale"))
    for group in result.groups:
        mine = items.group == GROUPS.index(group)
        figures.append(_sum(GROUP_MASS.key(group), mine, items, parts, "sum of its items"))
    return tuple(figures)


def _of_axis(state: MassState, axis: int) -> tuple[float, None]:
    return float(state.sigma_cg[axis]), None


def _sum(key: str, mine: np.ndarray, items: ItemArrays, parts: tuple[Item, ...], source: str) -> Figure:
    """Give the sum of some items, the largest by name and the rest together."""
    chosen = np.flatnonzero(mine)
    chosen = chosen[np.argsort(items.mass[chosen])[::-1]]
    rows = {
        f"m{i + 1}": Put(float(items.mass[k]), parts[k].name, "mass") for i, k in enumerate(chosen[:_NAMED].tolist())
    }
    rest = chosen[_NAMED:]
    if rest.size:
        rows["rest"] = Put(float(items.mass[rest].sum()), f"{rest.size} smaller items", "mass")
    if not rows:
        rows["none"] = Put(0.0, "no item", "mass")
    return derive(key, " + ".join(f"{{{name}}}" for name in rows), lambda **m: sum(m.values()), rows, source=source)


def _largest_moments(parts: tuple[Item, ...], result: Masses, state: MassState) -> str:
    arms = (result.items.place[:, 0] - state.cg[0]) * result.expected
    order = abs(arms).argsort()[::-1][:3]
    words = (f"{parts[k].name} {arms[k] * 1e3:+.1f} g m".replace("-", "−") for k in order)
    return "greatest moments about the balance point: " + ", ".join(words)


def loading(form: Shape, mass: Masses, told: Told) -> Outcome[None]:
    """Give wing loading and cubic loading."""
    keys = ("wing.loading", "wing.cubic_loading")
    if form.reference is None or mass.state is None:
        why = NO_WING if form.reference is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    row = {
        "m": put(told["mass.auw"], "all-up weight"),
        "S": Put(form.reference.area, "wing area", "area", 0.01 * form.reference.area / BAND),
    }
    return Outcome(
        None,
        (
            derive("wing.loading", "{m}/{S}", lambda m, S: m / S, row, source="docs/theory.md §3"),
            derive("wing.cubic_loading", "{m}/{S}^1.5", lambda m, S: m / S**1.5, row, source="docs/theory.md §3"),
        ),
    )
