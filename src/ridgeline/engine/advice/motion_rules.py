"""Findings on how the aircraft moves by itself: pitch, Dutch roll, spiral."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.engine.figures import Finding, Report
from ridgeline.engine.phrase import Measured, say

#: A spiral that doubles faster than this leaves no time to look away, s; a damping under this wags on, ratio.
_QUICK_SPIRAL, _WAGGING = 4.0, 0.05


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the motions in cruise in plain words."""
    found = report.results["motions"]
    if found is None:
        return
    yield from _spiral(report)
    dutch = report.value("modes.dutch_roll_damping")
    if dutch is not None and dutch < _WAGGING:
        yield Finding(
            "modes.dutch_roll",
            "look",
            "shape",
            say("The tail wags on: damping {}.", Measured(dutch, "ratio")),
            say("More fin, or less dihedral, calms it; 0.05 and more is comfortable."),
            (),
            ("modes.dutch_roll_damping",),
        )


def _spiral(report: Report) -> Iterator[Finding]:
    spiral = report.value("modes.spiral_double_time")
    if spiral is None:
        return
    quick = spiral < _QUICK_SPIRAL
    yield Finding(
        "modes.spiral",
        "look" if quick else "settled",
        "shape",
        say("Left alone, a bank doubles in {} s.", Measured(spiral, "ratio", 0 if spiral >= 10 else 1)),
        say("More dihedral or less fin slows that." if quick else "Slow enough to be corrected without thinking."),
        (),
        ("modes.spiral_double_time",),
    )
