"""What a remedy does to the weight: a weighed part that is exchanged takes its weighing with it."""

from __future__ import annotations

from collections.abc import Iterable

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError


def mass_gained(design: Design, report: Report, changes: Iterable[Change]) -> float:
    """Return the change of the all-up weight that edits make, kg; nothing where the document refuses them.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    changes : iterable of Change

    Returns
    -------
    float
        kg.
    """
    try:
        after = apply(design, changes)
    except DesignError:
        return 0.0
    found = report.trial().result(after, "masses")
    return float(found.expected.sum() - report.results.masses.expected.sum())


def with_gain(words: str, gain: float) -> Phrase:
    """Return words followed by what it adds or saves: "Fit a 40 A ESC, 6 g more"."""
    return say(f"{words}, {{}} {'more' if gain >= 0 else 'less'}", Measured(abs(gain), "mass", 0))
