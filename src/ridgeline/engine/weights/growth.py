"""What builds gain before they fly: kept for it from the start, and what the scale says of it so far."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Sides
from ridgeline.engine.weights.items import GROUPS, ItemArrays
from ridgeline.engine.weights.rollup import MassState, roll_up

#: Nine builds in ten gain between these multiples of what is kept: of 20 %, that is 5 to 40 % (a finished weight
#: "20 to 40 % over the guess" is the usual complaint, handbook of the trade §0).
LEAST_GAIN, MOST_GAIN = 0.25, 2.0
#: A growth learnt from little is drawn towards what is kept: as if this share of the group's estimate had come out so.
_PRIOR = 0.25
#: What is left unsure of a group's growth once all of it is weighed, and before anything is (one sigma, as a share).
_LEAST_SPREAD, _FIRST_SPREAD = 0.03, 0.15
#: Bought parts do not grow with the builder's hand.
_BOUGHT = ("radio", "power", "battery", "payload", "ballast")


@dataclass(frozen=True)
class GroupGrowth:
    """One group: kg estimated of what is weighed, its weighed kg, kg still open, and the growth expected there."""

    group: str
    estimated: float
    weighed: float
    open: float
    factor: float


@dataclass(frozen=True)
class Growth:
    """Every group, and the finished weight at this rate with its one-sigma error, kg."""

    groups: tuple[GroupGrowth, ...]
    finished: float
    sigma: float


def gain_sides(share: float) -> Sides:
    """Return the one-sigma errors below and above of a growth kept as a share of what is open.

    Parameters
    ----------
    share : float
        Kept, of what is open.

    Returns
    -------
    Sides
        One-sigma shares.
    """
    return Sides((1 - LEAST_GAIN) * share / BAND, (MOST_GAIN - 1) * share / BAND)


def roll_up_grown(items: ItemArrays, share: float) -> tuple[MassState, Sides]:
    """Sum items into the weight to expect: each unweighed piece of board, glue and leads gains where it is.

    Parameters
    ----------
    items : ItemArrays
        As listed.
    share : float
        Kept for growth, of what is open.

    Returns
    -------
    state : MassState
        Mass and balance to expect; what is gained stands at the centroid of what gains, and is doubted as a whole.
    sides : Sides
        Errors of the mass below and above, kg: builds gain more often than they lose.

    Source
    ------
    Predicted weight = items + allowance, the practice of mass control: docs/theory.md §5.
    """
    open_ = np.flatnonzero(items.open)
    n, down_up = len(items.mass), gain_sides(share)
    sigma = float(np.hypot(*down_up)) / np.sqrt(2)
    grown = np.where(items.open, 1 + share, 1.0)
    # The doubt of the growth is one and the same for all that grows: rows without mass, of one batch.
    nothing = np.zeros(len(open_))
    batch = np.full(len(open_), 1 + max(items.batch.max(initial=-1), 0))
    state = roll_up(
        np.concatenate([grown * items.mass, nothing]),
        np.concatenate([items.place, items.place[open_]]),
        np.concatenate([grown * items.sigma, sigma * np.abs(items.mass[open_])]),
        np.concatenate([items.sigma_place, nothing]),
        np.concatenate([items.batch, batch]),
    )
    shares = state.x_shares[:n].copy()
    shares[open_] += state.x_shares[n:]
    gained = float(np.abs(items.mass[open_]).sum())
    rest = state.sigma_mass**2 - (sigma * gained) ** 2
    sides = Sides(*(float(np.sqrt(max(rest + (one * gained) ** 2, 0.0))) for one in down_up))
    return replace(state, x_shares=shares), sides


def growth_of(items: ItemArrays, share: float) -> Growth:
    """Compare weighed items with their estimates, group by group, and carry the rate to what is still open.

    Source
    ------
    Factor = (weighed + k·whole·(1 + kept))/(estimated + k·whole), k = 0.25 of the group's estimate: a first weighing
    counts little, many count fully. docs/theory.md §5.
    """
    found, finished, variance = [], 0.0, 0.0
    present, first = np.unique(items.group, return_index=True)
    for group in present[np.argsort(first)]:
        name, mine = GROUPS[group], items.group == group
        known = mine & items.weighed
        # A weighed item without an estimate of its own says nothing of growth.
        told = known & items.estimated
        estimated, weighed = float(items.estimate[told].sum()), float(items.mass[told].sum())
        still = float(items.estimate[mine & ~items.weighed].sum())
        prior = _PRIOR * max(estimated + still, 1e-9)
        bought = name in _BOUGHT
        kept = 1 + share * float(items.estimate[mine & items.open].sum()) / max(still, 1e-9)
        factor = kept if bought else (weighed + prior * kept) / (estimated + prior)
        left = still / max(still + float(items.mass[known].sum()), 1e-9)
        spread = 0.03 if bought else _LEAST_SPREAD + (_FIRST_SPREAD - _LEAST_SPREAD) * left
        finished += float(items.mass[known].sum()) + factor * still
        variance += (spread * still) ** 2
        found.append(GroupGrowth(name, estimated, weighed, still, factor))
    return Growth(tuple(found), finished, float(np.sqrt(variance)))
