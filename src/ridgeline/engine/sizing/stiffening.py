"""Wings that twist too much for what they are flown at are stiffened: the lightest cure, then what is still missing."""

from __future__ import annotations

import math

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.twist_cures import TUCK, Cure, cures, least_speed, stiffer
from ridgeline.engine.advice.weight_rules import RULE_THRESHOLD
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.report import Report
from ridgeline.engine.results import given
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING
from ridgeline.engine.stages.twisting import OVER_DIVE
from ridgeline.errors import DesignError

#: So many cures may follow one another, and a cure weighs no more than this share of the aircraft (chosen: beyond that
#: another wing is the better way).
_TURNS, _MOST = 3, 0.15


def stiffened(design: Design, trial: Evaluator) -> Design:
    """Return a design whose main wing does not reverse, twist off or tuck up to its top speed, where cures do that.

    Parameters
    ----------
    design : Design
    trial : Evaluator

    Returns
    -------
    Design
        As it was where no cure under the ceiling helps.
    """
    for _ in range(_TURNS):
        report = trial(design)
        short = _lacks(report)
        if short <= 0:
            break
        able = [one for cure in cures(design, report) if (one := _able(design, report, cure, trial)) is not None]
        if not able:
            break
        enough = [one for one in able if one[1] <= 0]
        best = min(enough, key=lambda one: one[2]) if enough else min(able, key=lambda one: one[1])
        if best[1] >= short:
            break
        design = best[0]
    return tails_stiffened(design, trial)


def tails_stiffened(design: Design, trial: Evaluator) -> Design:
    """Return a design whose other surfaces do not twist off in a dive: it is slower, or what adds least stops them.

    Parameters
    ----------
    design : Design
    trial : Evaluator

    Returns
    -------
    Design
    """
    report = trial(design)
    found, twist = report.results.bearing, report.results.twisting
    if found is None or twist is None:
        return design
    for index, speed in enumerate(twist.others):
        if index == found.main or speed >= least_speed(found):
            continue
        slow = math.floor(10 * speed / OVER_DIVE) / 10
        if found.top is not None and slow >= found.top:
            # Told never to dive so fast, it weighs nothing more.
            design = apply(design, (Change("loads.dive_speed", slow),))
            report = trial(design)
            found = given(report.results.bearing)
            continue
        ways = [
            (trial.value(apply(design, way.changes), "mass.auw") or math.inf, way)
            for way in stiffer(design, report, index)
        ]
        if ways:
            design = apply(design, min(ways, key=lambda way: way[0])[1].changes)
            report = trial(design)
    return design


def _able(design: Design, report: Report, cure: Cure, trial: Evaluator) -> tuple[Design, float, float] | None:
    """Return a design with a cure, what it still lacks and what it has gained, kg; None where it is too heavy."""
    try:
        after = apply(design, cure.remedy.changes)
    except DesignError:
        return None
    told = trial(after)
    mass, before = told.value("mass.auw"), report.value("mass.auw")
    if mass is None or before is None or mass - before > _MOST * before:
        return None
    ceiling = design.brief.ceiling
    # Who names the threshold of the rules is to be under it with the error of the estimate.
    limit = AIM_UNDER_CEILING * ceiling if ceiling <= RULE_THRESHOLD else ceiling
    if mass > max(limit, before):
        return None
    return after, _lacks(told), mass - before


def _lacks(report: Report) -> float:
    """Return by how much a wing twists too early or too far, as a share; nothing of one that does not.

    Ailerons and divergence at its level top speed: what is safe there may be told never to dive. The tuck in the dive.
    """
    found, twist = report.results.bearing, report.results.twisting
    if found is None or twist is None or found.dive is None:
        return 0.0
    flown = found.dive if found.top is None else min(found.top, found.dive)
    short: float = 1 - min(twist.reversal, twist.divergence) / (OVER_DIVE * flown)
    tuck = 0.0 if twist.tip_dive is None else -twist.tip_dive / TUCK - 1
    return max(short, tuck, 0.0)
