"""The figures of a throw, put beside those of the design when it has been flown on paper."""

from __future__ import annotations

from dataclasses import replace
from types import MappingProxyType

from ridgeline.design.document import Design
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.flight.odds import Odds, odds_of
from ridgeline.engine.flight.throwing import launch_of
from ridgeline.engine.report import Report

#: So many builds tell the figures where nothing else was asked for.
_FEW = 100


def thrown_figures(odds: Odds) -> tuple[Figure, Figure]:
    """Return the figures of throws that were flown.

    Parameters
    ----------
    odds : Odds

    Returns
    -------
    tuple of Figure
        Least height of the throw as reckoned, and the share that comes away.
    """
    low, spread = odds.lowest
    lowest = derive(
        "throw.lowest_height",
        "{h}",
        lambda h: h,
        {"h": Put(low, "least height flown on paper, as planned", "distance", spread)},
        source="docs/theory.md §17",
        note="over the ground ahead; nothing where it comes down",
    )
    share = derive(
        "throw.odds_climb",
        "{k}/{n}",
        lambda k, n: k / n,
        {
            "k": Put(odds.piloted.well * odds.builds, "builds that climb away or stay level", "count",
                     odds.piloted.sigma * odds.builds),
            "n": Put(odds.builds, "builds flown, with somebody at the sticks", "count"),
        },
        source="docs/theory.md §17",
        note="drawn from the bands of mass, balance, incidences, warp, thrust, drag, throw and wind",
    )  # fmt: skip
    return lowest, share


def with_throws(design: Design, report: Report) -> Report:
    """Return the report of a design with the figures of its throw, flown here and now.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    Report
        The same one where it cannot be thrown, with the reason in those figures.
    """
    launch = launch_of(design, report)
    if launch is None:
        figures = tuple(
            absent(key, "it cannot be trimmed to fly") for key in ("throw.lowest_height", "throw.odds_climb")
        )
    else:
        odds = odds_of(design, report, launch, builds=_FEW, remedies=False)
        figures = () if odds is None else thrown_figures(odds)
    known = {**report.figures, **{figure.key: figure for figure in figures}}
    return replace(report, figures=MappingProxyType(known))
