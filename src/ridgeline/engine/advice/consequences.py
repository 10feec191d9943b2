"""What a way out brings besides: findings that were not there before, so that none comes unannounced."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import apply
from ridgeline.engine.report import LEVELS, Finding, Remedy, Report
from ridgeline.errors import DesignError


def brings(before: Report, after: Report) -> tuple[Finding, ...]:
    """Return what is to be looked at, or stopped for, after an edit and was not before, worst first.

    Parameters
    ----------
    before, after : Report

    Returns
    -------
    tuple of Finding
        New ones, and ones that are worse than they were; settled ones are none.
    """
    level = {finding.key: LEVELS.index(finding.level) for finding in before.findings}
    settled = LEVELS.index("settled")
    return tuple(
        finding
        for finding in after.findings
        if LEVELS.index(finding.level) < min(level.get(finding.key, settled), settled)
    )


def harmless(design: Design, report: Report, ways: Iterable[Remedy]) -> Iterator[Remedy]:
    """Yield the ways out that bring nothing to stop for which was not there before.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    ways : iterable of Remedy

    Yields
    ------
    Remedy
    """
    trial = report.trial()
    for way in ways:
        try:
            after = trial(apply(design, way.changes))
        except DesignError:
            continue
        if not any(finding.level == "stop" for finding in brings(report, after)):
            yield way
