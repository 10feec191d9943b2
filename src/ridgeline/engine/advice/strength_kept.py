"""What an edit of how surfaces are built does to what they bear, by the loads there are: quick, without the air."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Report
from ridgeline.engine.structure.half import half_of, seat_of
from ridgeline.errors import DesignError


def weakened(design: Design, report: Report, changes: Iterable[Change]) -> Phrase | None:
    """Tell which surface bears less than is asked once edits are made, and did bear it before; None where none does.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    changes : iterable of Change

    Returns
    -------
    Phrase or None
    """
    found = report.results.bearing
    if found is None:
        return None
    try:
        after = apply(design, changes)
    except DesignError:
        return None
    known = {surface.id: (own, half) for surface, own, half in zip(design.surfaces, found.borne, report.results.beams,
                                                                   strict=True)}  # fmt: skip
    for surface in after.surfaces:
        own, before = known.get(surface.id, (None, None))
        if own is None or before is None or own.greatest > 1 or surface is before.surface:
            continue
        half = half_of(surface, seat_of(surface, after.bodies))
        if half is None:
            continue
        moment = np.abs(own.moment).max(axis=0)
        share = float((np.interp(half.y, before.y, moment) / half.bears).max())
        if share > 1:
            bears, asked = Measured(found.factor / share, "factor"), Measured(found.factor, "factor")
            return say("{} then bears {} of {}", surface.name, bears, asked)
    return None
