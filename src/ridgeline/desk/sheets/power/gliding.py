"""Without a motor: sink over airspeed with its best glide, where it comes from and how far it goes."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import hatch, heading, line, rule, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.aero.glide import Glide

_SIDE = 236
#: The polar is drawn down to so many times its least sink.
_DEEP = 4.0
#: What a glider is known by, with words of its own.
_ROWS = (
    ("glide.ratio", "Best glide"),
    ("glide.ratio_speed", "at"),
    ("glide.sink", "Least sink"),
    ("glide.sink_speed", "at"),
    ("glide.slope_wind", "Wind up a slope"),
    ("glide.release_height", "Release height"),
    ("glide.still_time", "Still-air time"),
    ("launch.speed_ratio", "Throw over stall"),
)


def draw_gliding(p: QPainter, sheet: Sheet, top: float) -> None:
    """Draw the sink of a glider over its airspeed, and list what it is known by."""
    inks, store = theme.inks, sheet.store
    found = store.report.results.gliding
    left = sheet.width() - PAD - _SIDE
    line(p, left - 14.5, top, left - 14.5, sheet.height() - 14, inks.hair)
    _draw_figures(p, sheet, left, top + 16)
    heading(p, PAD, top + 16, left - 32 - PAD, "Down", f"sink, {store.units['speed'].symbol}, over airspeed")
    if found is None:
        why = store.report.figures["glide.ratio"].why_not
        write(p, PAD, top + 46, f"{why}.".capitalize(), VALUE, inks.soft)
        return
    _draw_sink(p, sheet, QRectF(PAD + 40, top + 44, left - 76 - PAD, sheet.height() - top - 96), found)


def _draw_figures(p: QPainter, sheet: Sheet, left: float, top: float) -> None:
    inks = theme.inks
    heading(p, left, top, _SIDE, "What it does", "no motor")
    y = top + 30
    for key, words in _ROWS:
        write(p, left + (14 if words == "at" else 0), y, words, VALUE, inks.soft)
        sheet.written(p, left + _SIDE, y, sheet.words(key), key, align="right", bold=words != "at")
        rule(p, left, y + 8, _SIDE)
        y += 27


def _draw_sink(p: QPainter, sheet: Sheet, box: QRectF, found: Glide) -> None:
    """Draw the polar downward from level flight, the stall hatched off, and the best glide as its tangent."""
    inks, units = theme.inks, sheet.store.units["speed"]
    deepest = min(float(found.sinks.max()), _DEEP * found.sink)
    drawn = found.sinks <= deepest
    speeds, sinks = found.speeds[drawn], found.sinks[drawn]
    deepest *= 1.05
    plot = Plot.of(box, (0.0, float(speeds[-1])), (-deepest, 0.12 * deepest), inside=True)
    stall = plot.x.at(float(speeds[0]))
    hatch(p, QRectF(box.left(), box.top(), stall - box.left(), box.height()), inks.hair)
    write(p, stall - 6, box.bottom() - 8, "stalled", LABEL, inks.soft, align="right", halo=True)
    step = nice_step(deepest * units.factor, 6)
    for level in np.arange(0.0, deepest * units.factor, step):
        y = plot.at(0.0, -level / units.factor).y()
        line(p, box.left() - 4, y, box.right() if level == 0 else box.left(), y, inks.ink if level == 0 else inks.soft)
        write(p, box.left() - 8, y + 4, f"{level:g}" if level == 0 else f"−{level:g}", LABEL, inks.soft, align="right")
    plot.foot(p, nice_step(float(speeds[-1]) * units.factor, 7), units.factor, 26)
    write(p, box.right() + 3, box.bottom() + 18, units.symbol, 10, inks.soft)
    origin = plot.at(0.0, 0.0)
    best = plot.at(found.ratio_speed, -found.ratio_speed / found.ratio)
    away = min(1.6, (box.right() - origin.x()) / max(best.x() - origin.x(), 1.0))
    far = QPointF(origin.x() + away * (best.x() - origin.x()), origin.y() + away * (best.y() - origin.y()))
    line(p, origin.x(), origin.y(), far.x(), far.y(), inks.live, 1.2, dash=True)
    plot.curve(p, speeds, -sinks, inks.ink)
    slow = plot.at(found.sink_speed, -found.sink)
    for place, words, under in ((best, f"best glide {sheet.words('glide.ratio')}", 20), (slow, "least sink", -10)):
        line(p, place.x(), place.y() - 6, place.x(), place.y() + 6, inks.live, 2.5)
        write(p, place.x() + 6, place.y() + under, words, LABEL, inks.live, bold=True, halo=True)
    lift = plot.at(float(speeds[-1]), 0.0)
    write(p, lift.x(), lift.y() - 6, "level", LABEL, inks.soft, align="right")
