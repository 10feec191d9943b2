"""What flights say of balance, weight, thrust, drag and trim, beside what was reckoned."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.engine.flight.diagnosis import Diagnosis
from ridgeline.engine.flight.observed import UNKNOWNS, Unknown
from ridgeline.engine.report import Report


class LearntPair(NamedTuple):
    """A figure as reckoned and as the flights have it, with one sigma of each, in a quantity."""

    name: str
    label: str
    quantity: str
    reckoned: float
    sigma_before: float
    told: float
    sigma: float


def learnt_pairs(design: Design, report: Report, found: Diagnosis) -> tuple[LearntPair, ...]:
    """Return what flights say beside what was reckoned.

    Parameters
    ----------
    design : Design
        The aircraft that flew.
    report : Report
        Of it.
    found : Diagnosis

    Returns
    -------
    tuple of LearntPair
        Balance as a share of the mean chord, weight, thrust standing, drag over the reckoned, and elevator trim.
    """
    pairs: list[LearntPair] = []
    state, chord = report.results.masses.state, found.model.launch.craft.chord

    def add(name: Unknown, label: str, quantity: str, value: float, by: float) -> None:
        """Tell one unknown: its value, and what one of it is worth in the quantity."""
        mean, sigma = found.learnt[name]
        pairs.append(
            LearntPair(name, label, quantity, value, found.before[name] * abs(by), value + mean * by, sigma * abs(by))
        )

    fraction = report.value("balance.cg_fraction")
    if fraction is not None:
        add("balance", "Balance", "fraction", fraction, 1 / chord)
    if state is not None:
        add("mass", "Weight", "mass", state.mass, state.mass)
    thrust = report.value("power.static_thrust")
    if thrust is not None:
        add("thrust", "Thrust", "force", thrust, thrust)
    add("drag", "Drag, over reckoned", "ratio", 1.0, 1.0)
    if "trim_pitch" in found.model.slopes:
        slope = found.model.slopes["trim_pitch"]
        level = report.value("trim.elevator")
        base = -level if level is not None else found.model.values["trim_pitch"]
        means = [found.learnt[name][0] for name in UNKNOWNS]
        before = math.sqrt(sum((float(s) * found.before[n]) ** 2 for s, n in zip(slope, UNKNOWNS, strict=True)))
        after = math.sqrt(max(float(slope @ found.covariance @ slope), 0.0))
        told = base + sum(float(s) * m for s, m in zip(slope, means, strict=True))
        pairs.append(LearntPair("trim", "Up trim, cruising", "angle", base, before, told, after))
    return tuple(pairs)
