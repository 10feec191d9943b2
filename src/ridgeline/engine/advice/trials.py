"""Ways out whose first guess could miss: applied to the design, evaluated whole, and corrected until they do it."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.report import Remedy, Report
from ridgeline.errors import DesignError

#: Corrections tried, and how far inside its limit a corrected guess steps.
_MOST_TRIALS, _INSIDE = 4, 1.005


def settled_by(
    design: Design,
    report: Report,
    edits: Callable[[float], Iterable[Change] | None],
    excess: Callable[[Report], float | None],
    amount: float,
    power: float = 1.0,
) -> tuple[float, tuple[Change, ...]] | None:
    """Return the amount, and its edits, that bring an excess down to one; None where no amount is found.

    Parameters
    ----------
    edits : callable
        Edits of an amount; None where there are none so large.
    excess : callable
        Figure over its limit, of a report; None where it cannot be had.
    amount : float
        First guess.
    power : float
        The excess falls about with this power of the amount.
    """
    trial = report.trial()
    for _ in range(_MOST_TRIALS):
        found = edits(amount)
        if found is None:
            return None
        changes = tuple(found)
        try:
            over = excess(trial(apply(design, changes)))
        except DesignError:
            return None
        if over is None:
            return None
        if over <= 1.0 + 1e-9:
            return amount, changes
        amount *= (over * _INSIDE) ** (1 / power)
    return None


def proved(
    design: Design,
    report: Report,
    remedies: Iterable[Remedy],
    measure: Callable[[Report], float],
    least: float,
    most: int = 9,
) -> tuple[Remedy, ...]:
    """Keep the first ``most`` remedies that, evaluated whole, bring a measure to at least a value.

    The amounts are found with everything but one coefficient held; a remedy that moves the others too may fall short.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    remedies : iterable of Remedy
    measure : callable
        Of a report.
    least : float
        That the measure must reach.
    most : int
        Remedies kept.

    Returns
    -------
    tuple of Remedy
    """
    trial = report.trial()
    kept = []
    for remedy in remedies:
        try:
            reached = measure(trial(apply(design, remedy.changes)))
        except DesignError:
            continue
        if reached >= least:
            kept.append(remedy)
        if len(kept) == most:
            break
    return tuple(kept)
