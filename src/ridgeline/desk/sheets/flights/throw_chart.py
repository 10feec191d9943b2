"""A throw drawn: from the side with the aircraft at every second, from above, and what it does over time."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPolygonF

from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import brush_of, hatch, line, pen, width_of, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.flight.scenes import SceneKey
from ridgeline.engine.flight.six_degrees import TURNED, angles_of
from ridgeline.engine.flight.throwing import Thrown

Array = NDArray[np.float64]
#: A thrower is so tall beside the chart, m, and the aircraft is drawn about so long, px.
_TALL, _LONG = 1.75, 46.0


class Trace(NamedTuple):
    """One throw of a picture: which build it is, and how it is drawn."""

    build: int
    ink: QColor
    dash: bool


def ghost_ink(key: SceneKey) -> QColor:
    """Return the ink a ghost is drawn in."""
    inks = theme.inks
    return {"aft": inks.stop, "fore": inks.look, "tail_wind": inks.predicted, "half": inks.measured,
            "torque": inks.soft, "flaps": inks.ink, "lowered": inks.predicted, "held": inks.predicted,
            "calm": inks.soft, "in_gusts": inks.stop}[key]  # fmt: skip


def until_landed(thrown: Thrown, build: int) -> int:
    """Return how many moments of a build are before it met the ground."""
    return max(int(np.searchsorted(thrown.path.time, thrown.path.landed[build], side="right")), 2)


class SideChart:
    """The throw from the side, along over height, on one scale."""

    def __init__(
        self,
        box: QRectF,
        thrown: Thrown,
        traces: Iterable[Trace],
        fan: tuple[Array, Array] | None,
        before: Thrown | None = None,
    ) -> None:
        self.thrown, self.traces, self.fan, self.before = thrown, tuple(traces), fan, before
        ends = [until_landed(thrown, one.build) for one in self.traces]
        far = max(float(thrown.path.state[n - 1, 0, one.build]) for n, one in zip(ends, self.traces, strict=True))
        high = max(float(thrown.path.height[:n, one.build].max()) for n, one in zip(ends, self.traces, strict=True))
        low = min(float(thrown.path.height[:n, one.build].min()) for n, one in zip(ends, self.traces, strict=True))
        low = min(low, 0.0)
        # The same metres along and up.
        wide, tall = max(far + 4.0, 12.0), max(high * 1.12 + 0.6, 3.4) - low
        scale = min(box.width() / wide, box.height() / tall)
        self.plot = Plot.of(box, (-2.0, box.width() / scale - 2.0), (low, low + box.height() / scale))
        self.scale = scale

    def times(self, design: Design) -> float:
        """Return how many times larger than the chart the aircraft is drawn: a whole number."""
        long = max(extent(design, "side").width(), 1e-3)
        return max(float(round(_LONG / (long * self.scale))), 1.0)

    def draw(self, p: QPainter, design: Design, cg: tuple[float, float], falls: float) -> None:
        """Draw ground, fan, paths and aircraft."""
        inks, plot = theme.inks, self.plot
        box = plot.box
        step = nice_step(plot.y.high - plot.y.low, 4)
        plot.side(p, step)
        for value in np.arange(step, plot.y.high, step):
            line(p, box.left(), plot.y.at(float(value)), box.right(), plot.y.at(float(value)), inks.hair, 0.6)
        self._ground(p, falls)
        p.save()
        p.setClipRect(box.adjusted(0, -14, 2, 1))
        if self.fan is not None:
            p.setPen(pen(inks.hair, 0.8))
            for along, up in zip(self.fan[0].T, self.fan[1].T, strict=True):
                p.drawPolyline(
                    QPolygonF([plot.at(float(x), float(h)) for x, h in zip(along[::3], up[::3], strict=True)])
                )
        p.setClipRect(box.adjusted(-30, -14, 2, 2))
        if self.before is not None:
            n = until_landed(self.before, 0)
            along, up = self.before.path.state[:n:4, 0, 0], self.before.path.height[:n:4, 0]
            plot.curve(p, along, up, inks.soft, 1.0, dash=True)
            end = plot.at(float(along[-1]), float(up[-1]))
            write(p, end.x() + 4, end.y() - 4, "before the edit", LABEL, inks.soft, halo=True)
        for trace in reversed(self.traces):
            n = until_landed(self.thrown, trace.build)
            xs, hs = self.thrown.path.state[:n, 0, trace.build], self.thrown.path.height[:n, trace.build]
            plot.curve(p, xs[::4], hs[::4], trace.ink, 1.3 if trace.dash else 2.0, trace.dash)
            self._aircraft(p, design, cg, trace, n)
        p.restore()
        self._thrower(p)

    def _ground(self, p: QPainter, falls: float) -> None:
        inks, plot = theme.inks, self.plot
        x = [plot.x.low, 0.0, plot.x.high]
        h = [0.0, 0.0, -math.tan(falls) * plot.x.high]
        points = [plot.at(a, b) for a, b in zip(x, h, strict=True)]
        p.setPen(pen(inks.ink, 1))
        p.drawPolyline(QPolygonF(points))
        plot.foot(p, nice_step(plot.x.high - plot.x.low, 8))

    def _aircraft(self, p: QPainter, design: Design, cg: tuple[float, float], trace: Trace, n: int) -> None:
        """Draw it at every second, as it is pitched."""
        state, time = self.thrown.path.state, self.thrown.path.time
        size = self.scale * self.times(design)
        for second in range(math.floor(float(time[n - 1])) + 1):
            k = int(np.searchsorted(time, float(second)))
            if k >= n:
                break
            at = self.plot.at(float(state[k, 0, trace.build]), float(self.thrown.path.height[k, trace.build]))
            _bank, pitch, _yaw = angles_of(state[k, TURNED, trace.build][:, None])
            p.save()
            p.translate(at)
            p.rotate(-math.degrees(float(pitch[0])))
            p.scale(-1.0, 1.0)
            view = View("side", -cg[0] * size, cg[1] * size, size)
            if trace.dash:
                draw_aircraft(p, design, view, ink=trace.ink, width=0.7)
            else:
                draw_aircraft(p, design, view, fill=theme.inks.paper, ink=trace.ink, width=1.1)
            p.restore()
            if not trace.dash and second:
                near = at.y() + 24 > self.plot.box.bottom() - 4
                write(
                    p,
                    at.x(),
                    at.y() + (-14 if near else 24),
                    f"{second} s",
                    LABEL,
                    trace.ink,
                    align="centre",
                    halo=True,
                )

    def _thrower(self, p: QPainter) -> None:
        """Draw who throws it, as tall as he is."""
        inks, plot = theme.inks, self.plot
        foot, top = plot.at(-0.5, 0.0), plot.at(-0.5, _TALL)
        tall = foot.y() - top.y()
        p.setPen(pen(inks.ink, 1.2))
        p.drawEllipse(QPointF(top.x(), top.y() + 0.09 * tall), 0.07 * tall, 0.08 * tall)
        hip, neck = foot.y() - 0.48 * tall, top.y() + 0.18 * tall
        p.drawLine(QPointF(top.x(), neck), QPointF(top.x(), hip))
        p.drawLine(QPointF(top.x(), hip), QPointF(top.x() - 0.13 * tall, foot.y()))
        p.drawLine(QPointF(top.x(), hip), QPointF(top.x() + 0.13 * tall, foot.y()))
        p.drawLine(QPointF(top.x(), neck + 0.06 * tall), QPointF(top.x() + 0.28 * tall, neck - 0.12 * tall))


def draw_above(p: QPainter, box: QRectF, thrown: Thrown, traces: tuple[Trace, ...]) -> None:
    """Draw the throws from above: along to the right, starboard down, on one scale."""
    inks = theme.inks
    ends = [until_landed(thrown, one.build) for one in traces]
    rows = [thrown.path.state[:n, :2, one.build] for n, one in zip(ends, traces, strict=True)]
    low = np.minimum(np.min([row.min(axis=0) for row in rows], axis=0), (0.0, -2.0))
    high = np.maximum(np.max([row.max(axis=0) for row in rows], axis=0), (8.0, 2.0))
    scale = min((box.width() - 8) / (high[0] - low[0]), (box.height() - 4) / (high[1] - low[1]))
    start = box.left() - low[0] * scale
    middle = box.center().y() - 0.5 * (low[1] + high[1]) * scale
    line(p, box.left(), middle, box.right(), middle, inks.hair, 0.8)
    for trace, n in zip(reversed(traces), reversed(ends), strict=True):
        xs, ys = thrown.path.state[:n:4, 0, trace.build], thrown.path.state[:n:4, 1, trace.build]
        points = [QPointF(start + float(x) * scale, middle + float(y) * scale) for x, y in zip(xs, ys, strict=True)]
        p.setPen(pen(trace.ink, 1.2 if trace.dash else 2.0))
        p.drawPolyline(QPolygonF(points))
        if points:
            p.setBrush(trace.ink)
            p.drawEllipse(points[-1], 2.0, 2.0)
            p.setBrush(brush_of(inks.paper, 0))
    unit = nice_step(float(high[0] - low[0]), 4)
    x = box.left()
    line(p, x, box.bottom() + 4, x + unit * scale, box.bottom() + 4, inks.ink)
    for place in (x, x + unit * scale):
        line(p, place, box.bottom() + 1, place, box.bottom() + 7, inks.ink)
    write(p, x + unit * scale + 5, box.bottom() + 8, f"{unit:g} m", LABEL, inks.soft)


def draw_over_time(
    p: QPainter, box: QRectF, time: Array, rows: list[tuple[Trace, Array]], *, title: str, unit: str, factor: float,
    limit: tuple[float, str, bool] | None = None, span: tuple[float, float] | None = None, seconds: float = 6.0,
) -> None:  # fmt: skip
    """Draw something over the seconds; past a limit, over it or under it, the chart is hatched and says why."""
    inks = theme.inks
    used = [float(value) for _trace, row in rows for value in row] or [0.0]
    low, high = (min(used), max(used)) if span is None else span
    if limit is not None:
        low, high = min(low, limit[0] * 0.92), max(high, limit[0] * 1.08)
    room = max(high - low, 1e-3) * 0.08
    plot = Plot.of(box, (0.0, seconds), (low - room, high + room), inside=True)
    written = write(p, box.left() - 30, box.top() - 10, title, VALUE)
    write(p, box.left() - 30 + written + 6, box.top() - 10, unit, LABEL, inks.soft)
    if limit is not None:
        place = plot.y.held(limit[0])
        area = QRectF(box.left(), box.top(), box.width(), place - box.top()) if limit[2] else QRectF(
            box.left(), place, box.width(), box.bottom() - place)  # fmt: skip
        hatch(p, area, inks.hair)
        line(p, box.left(), place, box.right(), place, inks.soft)
    step = nice_step((plot.y.high - plot.y.low) * factor, 3)
    plot.side(p, step, factor)
    for value in np.arange(0, seconds + 0.01, nice_step(seconds, 4)):
        x = plot.x.at(float(value))
        line(p, x, box.bottom(), x, box.bottom() + 3, inks.ink)
        write(p, x, box.bottom() + 14, f"{value:g}", LABEL, inks.soft, align="centre")
    line(p, box.left(), box.bottom(), box.right(), box.bottom(), inks.ink)
    write(p, box.right() + 3, box.bottom() + 14, "s", LABEL, inks.soft)
    p.save()
    p.setClipRect(box.adjusted(0, -1, 1, 1))
    for trace, row in reversed(rows):
        plot.curve(p, time[: len(row)], row, trace.ink, 1.1 if trace.dash else 1.8, trace.dash)
    p.restore()
    if limit is not None:
        words = limit[1]
        wide = width_of(words, LABEL)
        y = box.top() + 12 if limit[2] else box.bottom() - 5
        p.fillRect(QRectF(box.left() + 6, y - 10, wide + 4, 13), inks.paper)
        write(p, box.left() + 8, y, words, LABEL, inks.soft)
