"""Stages of the masses: roll-up, groups, loading."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Outcome
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.weights.estimates import Extent, extents_of
from ridgeline.engine.weights.items import GROUPS, ItemArrays, item_arrays, kinds_of
from ridgeline.engine.weights.rollup import MassState, roll_up

#: Less than this aboard is nothing aboard, kg: a gram is what a kitchen scale tells apart.
LEAST_MASS = 0.001
#: Items of a sum that are named.
_NAMED = 6
#: Growth reserve kept on unweighed board, glue and leads (15–25 %, handbook §5).
RESERVE_SHARE = 0.20


@dataclass(frozen=True)
class Masses:
    """The roll-up (None when nothing aboard), the item arrays, group sums kg, and the growth reserve kg."""

    state: MassState | None
    items: ItemArrays
    groups: dict[str, float]
    reserve: float
    weighed: float


#: One and the same for every design whose items follow nothing, so that a change of shape leaves their masses alone.
_NO_EXTENTS: dict[str, Extent] = {}


def followed(parts: tuple[Item, ...]) -> Outcome:
    """Name the surfaces and bodies that items are built along."""
    built = (parts[k].build for k in kinds_of(parts).built)
    return Outcome(tuple(sorted({build.of for build in built if build is not None and build.of})))


def extents(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], followed: tuple[str, ...]) -> Outcome:
    """Measure the surfaces and bodies that items are built along."""
    if not followed:
        return Outcome(_NO_EXTENTS)
    return Outcome(
        extents_of(tuple(s for s in surfaces if s.name in followed), tuple(b for b in bodies if b.name in followed))
    )


def masses(
    parts: tuple[Item, ...], power: PowerTrain | None, brief: Brief, measured: dict[str, Extent] | None = None
) -> Outcome:
    """Roll up the items."""
    items = item_arrays(parts, power, measured)
    ceiling = derive(
        "mass.ceiling", "{m}", lambda m: m, {"m": Put(brief.ceiling, "ceiling", "mass")}, source="the brief"
    )
    keys = ("mass.auw", "mass.weighed", "mass.reserve", "balance.cg_x", "balance.cg_y", "balance.cg_z")
    if items.mass.sum() <= LEAST_MASS:
        return Outcome(Masses(None, items, {}, 0.0, 0.0), (ceiling, *(absent(key, NO_MASS) for key in keys)))
    state = roll_up(items.mass, items.place, items.sigma, items.sigma_place, items.batch)
    sums = np.bincount(items.group, weights=items.mass, minlength=len(GROUPS))
    present = np.bincount(items.group, minlength=len(GROUPS)) > 0
    # In the order in which the items first name them.
    order = sorted(np.flatnonzero(present), key=lambda k: int(np.argmax(items.group == k)))
    groups = {GROUPS[k]: float(sums[k]) for k in order}
    open_mass = float(items.mass[items.growing & ~items.weighed].sum())
    weighed = float(items.mass[items.weighed].sum())
    result = Masses(state, items, groups, RESERVE_SHARE * open_mass, weighed)
    return Outcome(result, (ceiling, *_mass_figures(result, parts, state, open_mass)))


def _mass_figures(result: Masses, parts: tuple[Item, ...], state: MassState, open_mass: float) -> tuple[Figure, ...]:
    items = result.items
    biggest = items.mass.argsort()[::-1][:6]
    rest = state.mass - float(items.mass[biggest].sum())
    rows = {
        f"m{i + 1}": Put(float(items.mass[k]), parts[k].name, "mass", float(items.sigma[k]))
        for i, k in enumerate(biggest)
    }
    if len(parts) > 6:
        rows["rest"] = Put(rest, f"{len(parts) - 6} smaller items", "mass")
    auw = derive(
        "mass.auw",
        " + ".join(f"{{{name}}}" for name in rows),
        lambda **_: state.mass,
        rows,
        source="docs/theory.md §5",
    )
    # Batches err together, so the band comes from the roll-up and not from the rows one by one.
    auw = Figure(auw.key, auw.value, state.sigma_mass, auw.working)
    total = Put(state.mass, "all-up weight", "mass")
    figures = [auw]
    for axis, name in enumerate("xyz"):
        moment = Put(float(state.cg[axis] * state.mass), f"sum of m·{name}, kg m", "ratio")
        figure = derive(
            f"balance.cg_{name}",
            "{moment}/{M}",
            lambda moment, M: moment / M,
            {"moment": moment, "M": total},
            source="docs/theory.md §6",
            note=_largest_moments(parts, items, state) if axis == 0 else "",
        )
        figures.append(Figure(figure.key, figure.value, float(state.sigma_cg[axis]), figure.working))
    figures.append(_sum("mass.weighed", items.weighed, items, parts, "the scale"))
    figures.append(
        derive(
            "mass.reserve",
            "{share}·{m_open}",
            lambda share, m_open: share * m_open,
            {
                "share": Put(RESERVE_SHARE, "kept on what is not weighed yet", "ratio"),
                "m_open": Put(open_mass, "board, glue and leads not yet weighed", "mass"),
            },
            source=f"{HANDBOOK} §5: 15 to 25 %",
        )
    )
    for group in result.groups:
        mine = items.group == GROUPS.index(group)
        figures.append(_sum(f"mass.group.{group}", mine, items, parts, "sum of its items"))
    return tuple(figures)


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


def _largest_moments(parts: tuple[Item, ...], items: ItemArrays, state: MassState) -> str:
    arms = (items.place[:, 0] - state.cg[0]) * items.mass
    order = abs(arms).argsort()[::-1][:3]
    words = (f"{parts[k].name} {arms[k] * 1e3:+.1f} g m".replace("-", "−") for k in order)
    return "greatest moments about the balance point: " + ", ".join(words)


def loading(form: Shape, mass: Masses) -> Outcome:
    """Give wing loading and cubic loading."""
    keys = ("wing.loading", "wing.cubic_loading")
    if form.reference is None or mass.state is None:
        why = NO_WING if form.reference is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    row = {
        "m": Put(mass.state.mass, "all-up weight", "mass", mass.state.sigma_mass, "mass.auw"),
        "S": Put(form.reference.area, "wing area", "area", 0.01 * form.reference.area / BAND),
    }
    return Outcome(
        None,
        (
            derive("wing.loading", "{m}/{S}", lambda m, S: m / S, row, source="docs/theory.md §3"),
            derive("wing.cubic_loading", "{m}/{S}^1.5", lambda m, S: m / S**1.5, row, source="docs/theory.md §3"),
        ),
    )
