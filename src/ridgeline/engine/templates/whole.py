"""All that is cut from sheet for a design, and all of it laid on the builder's sheets."""

from __future__ import annotations

from ridgeline.design.cutting import Cutting
from ridgeline.design.document import Design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.gauges import aids_of
from ridgeline.engine.templates.hot_wire import core_templates_of
from ridgeline.engine.templates.more_cuts import cowl_rings_of, trays_of
from ridgeline.engine.templates.nesting import Cancelled, Nested, Progress, nested
from ridgeline.engine.templates.packing import Packing
from ridgeline.engine.templates.patterns import Pattern, patterns_of
from ridgeline.engine.templates.small_cuts import small_cuts_of


def templates_of(design: Design, report: Report | None = None) -> tuple[Pattern, ...]:
    """Return all that is cut from sheet for a design: its pieces, the gauges they are built with, and small parts.

    Parameters
    ----------
    design : Design
    report : Report, optional
        Of the design, for its balance marks, horns, mounts and cards.

    Returns
    -------
    tuple of Pattern
    """
    if report is None:
        return (*patterns_of(design), *aids_of(design))
    balance, inlet, fit = report.value("balance.cg_x"), report.value("power.cooling_inlet"), design.cutting.slot_fit
    return (
        *patterns_of(design, balance, inlet),
        *aids_of(design),
        *small_cuts_of(design, report, fit),
        *trays_of(design, fit),
        *cowl_rings_of(design),
        *core_templates_of(design),
    )


def cut_from(design: Design, cutting: Cutting, report: Report | None = None) -> tuple[Pattern, ...]:
    """Return all that is cut for a design from sheets that may be others than its own."""
    return templates_of(design.model_copy(update={"cutting": cutting}), report)


def laid_out(
    design: Design, cutting: Cutting, report: Report | None = None, progress: Progress | None = None
) -> Nested:
    """Return the patterns of a design on sheets, those too large for any of them split.

    Parameters
    ----------
    design : Design
    cutting : Cutting
    report : Report, optional
        Of the design.
    progress : callable, optional

    Returns
    -------
    Nested
    """
    return nested(cut_from(design, cutting, report), cutting, progress)


def packed(design: Design, cutting: Cutting, report: Report | None = None, progress: Progress | None = None) -> Nested:
    """Return the patterns of a design on sheets, packed tighter than corner by corner where that can be.

    Parameters
    ----------
    design : Design
    cutting : Cutting
    report : Report, optional
        Of the design.
    progress : callable, optional

    Returns
    -------
    Nested

    Raises
    ------
    Cancelled
        When ``progress`` answers that it is not to go on.
    """
    packing = Packing(cut_from(design, cutting, report), cutting)
    for share in packing.steps():
        if progress is not None and not progress(share):
            raise Cancelled
    return packing.result()
