"""What the flights say, as JSON and as lines: causes with chances and cures, next tests, what does not go together."""

from __future__ import annotations

import json
from typing import Any

from ridgeline.design.document import Design
from ridgeline.engine.advice.flight_causes import contradiction_words, seen_words, test_words, told_causes
from ridgeline.engine.flight.diagnosis import Diagnosis
from ridgeline.engine.report import Report

_DECIMALS = 5


def diagnose_text(design: Design, report: Report, found: Diagnosis | None) -> str:
    """Return what the flights say as JSON text in SI units.

    Parameters
    ----------
    design : Design
        The aircraft that flew.
    report : Report
        Of it.
    found : Diagnosis or None

    Returns
    -------
    str
    """
    return json.dumps(_plain(design, report, found), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def _plain(design: Design, report: Report, found: Diagnosis | None) -> dict[str, Any]:
    if found is None:
        return {"version": None, "flights": 0, "causes": [], "nothing": None, "measured": [], "seen": [], "tests": [],
                "contradictions": [], "learnt": {}}  # fmt: skip
    return {
        "version": found.flights[0].version,
        "flights": len(found.flights),
        "measured": [
            {"of": one.of, "residual": _round(one.residual), "sigma": _round(one.sigma), "flights": one.flights}
            for one in found.measured
        ],
        "seen": list(found.seen),
        "causes": [
            {
                "name": told.cause.name,
                "probability": _round(told.cause.chance),
                "log_evidence": _round(told.cause.evidence),
                "slip": _round(told.cause.slip),
                "sigma": _round(told.cause.slip_sigma),
                "seen_by": list(told.cause.seen_by),
                "words": str(told.words),
                "cure": str(told.cure),
                "changes": [
                    {"what": one.words, "before": _round(one.before), "after": _round(one.after),
                     "quantity": one.quantity}
                    for one in told.effects
                ],
            }
            for told in told_causes(design, report, found)
        ],
        "nothing": _round(found.nothing),
        "tests": [{"key": one.key, "words": test_words(one), "worth": _round(one.worth)} for one in found.tests],
        "contradictions": [
            {"one": one.one, "other": one.other, "words": str(contradiction_words(one))} for one in found.contradictions
        ],
        "learnt": {
            name: {"mean": _round(mean), "sigma": _round(sigma), "before": _round(found.before[name])}
            for name, (mean, sigma) in found.learnt.items()
        },
    }  # fmt: skip


def _round(value: float) -> float:
    return round(float(value), _DECIMALS)


def diagnose_lines(design: Design, report: Report, found: Diagnosis | None) -> list[str]:
    """Return what the flights say as lines to read.

    Parameters
    ----------
    design : Design
        The aircraft that flew.
    report : Report
        Of it.
    found : Diagnosis or None

    Returns
    -------
    list of str
    """
    if found is None:
        return ["no flight is logged yet"]
    lines = [f"version {found.flights[0].version}, {len(found.flights)} flights"]
    for one in found.measured:
        away = one.residual / one.sigma
        lines.append(f"  {seen_words(one.of):32} {away:+6.1f} sigma of its reading off what was reckoned")
    for told in told_causes(design, report, found):
        lines.append(f"{told.cause.chance:5.0%}  {told.words}; {told.cure}")
    lines.append(f"{found.nothing:5.0%}  none of all that")
    lines += [f"next: {test_words(one)}" for one in found.tests]
    lines += [str(contradiction_words(one)) for one in found.contradictions]
    return lines
