"""What a way out brings besides: findings that were not there before, so that none comes unannounced."""

from __future__ import annotations

from ridgeline.engine.report import LEVELS, Finding, Report


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
