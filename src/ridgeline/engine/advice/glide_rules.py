"""Findings on an aircraft without a motor: how far and how long it glides, and the wind that holds it up."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Report


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Say what it does without a motor; nothing of one that has one."""
    if design.power is not None:
        return
    ratio, sink = report.value("glide.ratio"), report.value("glide.sink")
    if ratio is None or sink is None:
        return
    height, time = report.value("glide.release_height"), report.value("glide.still_time")
    words = say("It glides {} to 1 and sinks {}.", Measured(ratio, "glide"), Measured(sink, "speed"))
    if height is None or time is None:
        reason = say("From a tow or a slope: a height over the sink is the time it has.")
    else:
        reason = say(
            "From {} of release height that is {} in still air, and {} far.",
            Measured(height, "distance", 1),
            Measured(time, "seconds", 0),
            Measured(ratio * height, "distance", 0),
        )
    yield Finding("glide.ratio", "settled", "power", words, reason, (), ("glide.ratio", "glide.sink"))
    wind, stall = report.value("glide.slope_wind"), report.value("speed.stall")
    if wind is not None and stall is not None:
        yield Finding(
            "glide.slope",
            "settled",
            "power",
            say("{} of wind up a slope holds it.", Measured(wind, "speed")),
            say(
                "Up to about {} it still goes forward; keep clear of the lee side, where the air comes down.",
                Measured(report.value("glide.ratio_speed") or stall, "speed"),
            ),
            (),
            ("glide.slope_wind",),
        )
