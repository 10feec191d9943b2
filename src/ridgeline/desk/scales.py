"""From values to places on the sheet and back: scales, rulers, and plots of one quantity over another."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPolygonF

from ridgeline.desk.paint import CENTRE, RIGHT, brush_of, hatch, line, pen, width_of, write
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.report import Wanted


@dataclass(frozen=True)
class Scale:
    """One axis: the values ``low`` and ``high`` stand at the places ``start`` and ``end``, px."""

    low: float
    high: float
    start: float
    end: float

    def at(self, value: float) -> float:
        """Return where a value stands, px."""
        return self.start + (value - self.low) / (self.high - self.low) * (self.end - self.start)

    def held(self, value: float) -> float:
        """Return where a value stands, px; past an end, that end."""
        return self.at(min(max(value, self.low), self.high))

    def value(self, place: float) -> float:
        """Return the value at a place, px; past an end, that end's."""
        share = (place - self.start) / (self.end - self.start)
        return self.low + min(max(share, 0.0), 1.0) * (self.high - self.low)


@dataclass(frozen=True)
class Plot:
    """A chart in a box: values to the right along ``x``, and up along ``y``, held inside if so wished."""

    box: QRectF
    x: Scale
    y: Scale
    inside: bool = False

    @classmethod
    def of(cls, box: QRectF, across: tuple[float, float], up: tuple[float, float], inside: bool = False) -> Plot:
        """Return the plot of a box from the values at its left and right, and at its foot and head."""
        return cls(box, Scale(*across, box.left(), box.right()), Scale(*up, box.bottom(), box.top()), inside)

    def at(self, x: float, y: float) -> QPointF:
        """Return where a pair of values stands, px."""
        return QPointF(self.x.at(x), self.y.held(y) if self.inside else self.y.at(y))

    def points(self, xs: Iterable[float], ys: Iterable[float]) -> list[QPointF]:
        """Return where pairs of values stand, px; those without a value are left out."""
        return [self.at(float(a), float(b)) for a, b in zip(xs, ys, strict=True) if math.isfinite(b)]

    def curve(
        self,
        p: QPainter,
        xs: Iterable[float],
        ys: Iterable[float],
        colour: QColor,
        width: float = 2,
        dash: bool = False,
    ) -> None:
        """Draw a line through pairs of values."""
        p.setPen(pen(colour, width, Qt.PenStyle.DashLine if dash else Qt.PenStyle.SolidLine))
        p.drawPolyline(QPolygonF(self.points(xs, ys)))

    def between(self, xs: Iterable[float], lower: Iterable[float], upper: Iterable[float]) -> QPainterPath:
        """Return the area between two curves over the same values."""
        xs = list(xs)
        path = QPainterPath()
        path.addPolygon(QPolygonF(self.points(xs, upper) + self.points(xs, lower)[::-1]))
        path.closeSubpath()
        return path

    def fill(
        self, p: QPainter, xs: Iterable[float], lower: Iterable[float], upper: Iterable[float], ink: QColor, alpha: int
    ) -> None:
        """Fill the area between two curves with a thin wash of an ink."""
        p.fillPath(self.between(xs, lower, upper), brush_of(ink, alpha))

    def upright(self, p: QPainter, x: float, colour: QColor, width: float = 1, dash: bool = False) -> float:
        """Draw a line up the box at a value, and return where it stands, px."""
        place = self.x.at(x)
        line(p, place, self.box.top(), place, self.box.bottom(), colour, width, dash)
        return place

    def level(self, p: QPainter, y: float, colour: QColor, width: float = 1, dash: bool = False) -> float:
        """Draw a line across the box at a value, and return where it stands, px."""
        place = self.at(self.x.low, y).y()
        line(p, self.box.left(), place, self.box.right(), place, colour, width, dash)
        return place

    def side(self, p: QPainter, step: float, factor: float = 1.0, digits: int | None = None) -> None:
        """Draw the axis at the left with ticks at the multiples of a step, in shown units, ``factor`` times values."""
        inks, box = theme.inks, self.box
        line(p, box.left(), box.top(), box.left(), box.bottom(), inks.ink)
        for shown in ticks(self.y.low * factor, self.y.high * factor, step):
            place = self.y.at(shown / factor)
            line(p, box.left() - 4, place, box.left(), place, inks.ink)
            words = f"{shown:g}" if digits is None else f"{shown:.{digits}f}"
            write(p, box.left() - 7, place + 4, words.replace("-", "−"), LABEL, inks.soft, align=RIGHT)

    def foot(self, p: QPainter, step: float, factor: float = 1.0, high: float = 22) -> None:
        """Draw a ruler under the box, in shown units."""
        rect = QRectF(self.box.left(), self.box.bottom(), self.box.width(), high)
        ruler(p, rect, self.x.low * factor, self.x.high * factor, step)


def nice_step(span: float, wish: int) -> float:
    """Return a step of 1, 2 or 5 times a power of ten that divides a span into about ``wish`` parts."""
    raw = max(span, 1e-12) / max(wish, 1)
    power = 10 ** math.floor(math.log10(raw))
    return next((m * power for m in (1, 2, 5) if m * power >= raw * 0.999), 10 * power)


def ticks(low: float, high: float, step: float) -> list[float]:
    """Return the multiples of a step inside a range."""
    first = math.ceil(low / step - 1e-9)
    last = math.floor(high / step + 1e-9)
    return [index * step for index in range(first, last + 1)]


def ruler(
    p: QPainter,
    rect: QRectF,
    low: float,
    high: float,
    step: float,
    parts: int = 10,
    *,
    unit: str = "",
    top: bool = True,
    box: bool = True,
    mirrored: bool = False,
) -> None:
    """Draw a horizontal ruler from ``low`` to ``high`` (in shown units), ticks on its upper or lower edge."""
    inks = theme.inks
    if box:
        p.setPen(pen(inks.hair, 1))
        p.setBrush(inks.ruler)
        p.drawRect(rect)
        p.setBrush(Qt.BrushStyle.NoBrush)
    scale = Scale(low, high, rect.left(), rect.right())
    fine = step / parts
    edge = rect.top() if top else rect.bottom()
    sign = 1 if top else -1
    written = -1e9
    for value in ticks(low, high, fine):
        x = scale.at(value)
        ratio = value / step
        major = abs(ratio - round(ratio)) < 1e-6
        half = abs(ratio * 2 - round(ratio * 2)) < 1e-6
        length = 8 if major else (5.5 if half else 3.5)
        line(p, x, edge, x, edge + sign * length, inks.ink)
        if major:
            label = f"{abs(value) if mirrored else value:g}".replace("-", "−")
            half_width = width_of(label, LABEL) / 2
            place = min(max(x, rect.left() + half_width + 2), rect.right() - half_width - 2)
            base = rect.bottom() - 3 if top else rect.top() + 11
            if place - half_width > written + 3:
                write(p, place, base, label, LABEL, inks.soft, align=CENTRE)
                written = place + half_width
    if unit:
        write(p, rect.right() + 4, rect.center().y() + 4, unit, LABEL, inks.soft)


def short_scale(
    p: QPainter,
    rect: QRectF,
    low: float,
    high: float,
    value: float | None,
    band: tuple[float, float],
    wanted: Wanted | None,
    colour: QColor,
) -> None:
    """Draw a short linear scale: wanted range hatched, the value as a tick, its band below and above as a bar."""
    inks = theme.inks
    base = rect.bottom()
    place = Scale(low, high, rect.left(), rect.right()).held
    if wanted is not None:
        left = place(wanted[0]) if wanted[0] is not None else rect.left()
        right = place(wanted[1]) if wanted[1] is not None else rect.right()
        if right > left:
            hatch(p, QRectF(left, rect.top(), right - left, rect.height()), inks.soft, step=4)
            p.setPen(pen(inks.hair, 1))
            p.drawRect(QRectF(left, rect.top(), right - left, rect.height()))
    line(p, rect.left(), base, rect.right(), base, inks.ink)
    line(p, rect.left(), base - 3, rect.left(), base + 3, inks.ink)
    line(p, rect.right(), base - 3, rect.right(), base + 3, inks.ink)
    if value is None:
        return
    x = place(value)
    line(p, place(value - band[0]), base, place(value + band[1]), base, colour, 3)
    line(p, x, rect.top() - 1, x, base + 3, colour, 2)
