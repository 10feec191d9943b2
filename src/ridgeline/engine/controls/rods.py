"""Rods and lines between servo and horn: when they buckle, how far apart their guides stand, how they stretch."""

from __future__ import annotations

import math

from ridgeline.design.linkage import Linkage
from ridgeline.engine.structure.bracing import buckles

#: Guides are told in steps of this, m.
_STEP = 0.005


def rod_second(one: Linkage) -> float:
    """Return the second moment of a linkage's rod, m⁴."""
    return math.pi * (one.rod_size**4 - one.rod_inner**4) / 64


def rod_bears(one: Linkage, long: float) -> float:
    """Return the push at which a rod buckles between its guides, N; endless of what only pulls or turns.

    Parameters
    ----------
    one : Linkage
    long : float
        From hole to hole, m.

    Returns
    -------
    float
    """
    if one.kind != "rod":
        return math.inf
    free = min(one.guides, long) if one.guides > 0 else long
    return buckles(one.rod_modulus * rod_second(one), free)


def guides_for(one: Linkage, push: float) -> float:
    """Return how far apart the guides of a rod may stand under a push, m.

    Parameters
    ----------
    one : Linkage
    push : float
        N, more than nothing.

    Returns
    -------
    float
        In whole steps of 5 mm.

    Source
    ------
    Euler: s = π √(E I/P) (second part of the handbook §17).
    """
    apart = math.pi * math.sqrt(one.rod_modulus * rod_second(one) / push)
    return math.floor(apart / _STEP + 1e-9) * _STEP
