"""What the scale says of the estimates so far: which groups run over, and what it all will come to at this rate."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridgeline.engine.weights.items import GROUPS, ItemArrays

#: A growth learnt from little is drawn towards none: as if this share of the group's estimate had come out true.
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


def growth_of(items: ItemArrays) -> Growth:
    """Compare weighed items with their estimates, group by group, and carry the rate to what is still open.

    Source
    ------
    Factor = (weighed + k·whole)/(estimated + k·whole), k = 0.25 of the group's estimate: a first weighing counts
    little, many count fully. docs/theory.md §5.
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
        factor = 1.0 if bought else (weighed + prior) / (estimated + prior)
        share = still / max(still + float(items.mass[known].sum()), 1e-9)
        spread = 0.03 if bought else _LEAST_SPREAD + (_FIRST_SPREAD - _LEAST_SPREAD) * share
        finished += float(items.mass[known].sum()) + factor * still
        variance += (spread * still) ** 2
        found.append(GroupGrowth(name, estimated, weighed, still, factor))
    return Growth(tuple(found), finished, float(np.sqrt(variance)))
