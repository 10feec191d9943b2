"""Shared painting of the drafting sheet: words, hatches, dimension lines, marks."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFontMetricsF, QPainter, QPainterPath, QPen, QPixmap, QPolygonF

from ridgeline.desk.theme import LABEL, SCALE_END, VALUE, font, theme

LEFT, RIGHT, CENTRE = "left", "right", "centre"
#: The mean chord is written c with a bar over it; the bar is painted, since few fonts carry the combined glyph.
BAR = "\u0304"
_MOST_LETTERS = 600


def pen(colour: QColor, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine) -> QPen:
    """Return a pen with square ends; dashes are drawn short, as on a drawing."""
    return _pen(colour.rgba(), width, style)


@lru_cache(maxsize=512)
def _pen(rgba: int, width: float, style: Qt.PenStyle) -> QPen:
    made = QPen(QColor.fromRgba(rgba), width, style)
    made.setCapStyle(Qt.PenCapStyle.FlatCap)
    if style == Qt.PenStyle.DashLine:
        made.setDashPattern([4 / width, 3 / width])
    return made


@lru_cache(maxsize=64)
def _metrics(size: int, bold: bool) -> QFontMetricsF:
    return QFontMetricsF(font(size, bold))


@lru_cache(maxsize=8192)
def width_of(words: str, size: int = VALUE, bold: bool = False) -> float:
    """Return how wide words are, px."""
    return _metrics(size, bold).horizontalAdvance(words.replace(BAR, ""))


def write(
    p: QPainter,
    x: float,
    y: float,
    words: str,
    size: int = VALUE,
    colour: QColor | None = None,
    bold: bool = False,
    align: str = LEFT,
    halo: bool = False,
) -> float:
    """Write words with their baseline at ``y``; returns their width. ``halo`` clears the paper behind them."""
    plain = words.replace(BAR, "")
    chosen, metrics = font(size, bold), _metrics(size, bold)
    width = width_of(plain, size, bold)
    x0 = x - (width if align == RIGHT else width / 2 if align == CENTRE else 0)
    if halo:
        p.fillRect(QRectF(x0 - 2, y - metrics.ascent(), width + 4, metrics.height() - 1), theme.inks.paper)
    p.setFont(chosen)
    p.setPen(colour or theme.inks.ink)
    p.drawText(QPointF(x0, y), plain)
    for index in (i for i, letter in enumerate(words) if letter == BAR):
        before = words[: index - 1].replace(BAR, "")
        start = x0 + metrics.horizontalAdvance(before)
        end = x0 + metrics.horizontalAdvance(before + words[index - 1])
        top = y - metrics.xHeight() - 2.0
        p.setPen(pen(colour or theme.inks.ink, 1))
        p.drawLine(QPointF(start + 0.5, top), QPointF(end - 0.5, top))
    return width


def fit(words: str, width: float, size: int = VALUE, bold: bool = False) -> str:
    """Shorten words with an ellipsis to a width in px."""
    # No line of the sheet holds as many letters: the rest is not even measured.
    whole, words = words, words[:_MOST_LETTERS]
    if len(whole) == len(words) and width_of(words, size, bold) <= width:
        return words
    # Not kept: the trial widths are of no use again.
    metrics = _metrics(size, bold)
    fits, too_many = 0, len(words) + 1
    while too_many - fits > 1:
        middle = (fits + too_many) // 2
        if metrics.horizontalAdvance(words[:middle].replace(BAR, "") + "…") <= width:
            fits = middle
        else:
            too_many = middle
    return words[:fits].rstrip() + "…"


def wrap(words: str, width: float, size: int = LABEL, bold: bool = False) -> list[str]:
    """Break words into lines no wider than a width in px."""
    lines, line = [], ""
    for word in words[: 10 * _MOST_LETTERS].split():
        # A word longer than a line is broken where the line ends.
        while width_of(word, size, bold) > width > 0 and len(word) > 1:
            fits = max(len(fit(word, width, size, bold)) - 1, 1)
            if line:
                lines.append(line)
                line = ""
            lines.append(word[:fits])
            word = word[fits:]
        trial = f"{line} {word}".strip()
        if line and width_of(trial, size, bold) > width:
            lines.append(line)
            line = word
        else:
            line = trial
    return [*lines, line] if line else lines


def line(
    p: QPainter,
    x1: float,
    y1: float,
    x2: float,
    y2: float,
    colour: QColor | None = None,
    width: float = 1.0,
    dash: bool = False,
) -> None:
    """Draw a line."""
    p.setPen(pen(colour or theme.inks.ink, width, Qt.PenStyle.DashLine if dash else Qt.PenStyle.SolidLine))
    p.drawLine(QLineF(x1, y1, x2, y2))


def rule(p: QPainter, x: float, y: float, width: float, strong: bool = False) -> None:
    """Draw a horizontal rule of the sheet."""
    line(p, x, y + 0.5, x + width, y + 0.5, theme.inks.ink if strong else theme.inks.hair)


def heading(p: QPainter, x: float, y: float, width: float, words: str, aside: str = "", strong: bool = True) -> None:
    """Write a heading with a quiet aside at the right end, and rule it off 8 px below."""
    used = write(p, x, y, words, 13, bold=True)
    if aside:
        write(p, x + width, y, fit(aside, width - used - 12, LABEL), LABEL, theme.inks.soft, align=RIGHT)
    rule(p, x, y + 8, width, strong)


def path_of(points: Iterable[tuple[float, float]], closed: bool = True) -> QPainterPath:
    """Return a path through points in px."""
    path = QPainterPath()
    for index, (x, y) in enumerate(points):
        if index == 0:
            path.moveTo(x, y)
        else:
            path.lineTo(x, y)
    if closed:
        path.closeSubpath()
    return path


def outline(
    p: QPainter,
    path: QPainterPath,
    colour: QColor | None = None,
    width: float = 1.5,
    fill: QColor | None = None,
    dash: bool = False,
) -> None:
    """Draw the outline of a part, filled or not; dashed for hidden and proposed ones."""
    p.setPen(pen(colour or theme.inks.ink, width, Qt.PenStyle.DashLine if dash else Qt.PenStyle.SolidLine))
    p.setBrush(fill if fill is not None else Qt.BrushStyle.NoBrush)
    p.drawPath(path)
    p.setBrush(Qt.BrushStyle.NoBrush)


def hatch(p: QPainter, area: QPainterPath | QRectF, colour: QColor, rising: bool = True, step: float = 4.5) -> None:
    """Hatch an area at ±45°: rising for the neutral-point window, falling for the rule of thumb."""
    path = area if isinstance(area, QPainterPath) else _rect_path(area)
    box = path.boundingRect()
    p.save()
    p.setClipPath(path, Qt.ClipOperation.IntersectClip)
    p.setPen(pen(colour, 1))
    start, reach = box.left() - box.height(), box.height()
    lines = []
    for index in range(math.ceil((box.width() + 2 * reach) / step)):
        x = start + index * step
        lines.append(
            QLineF(x, box.bottom(), x + reach, box.top()) if rising else QLineF(x, box.top(), x + reach, box.bottom())
        )
    p.drawLines(lines)
    p.restore()


def _rect_path(rect: QRectF) -> QPainterPath:
    path = QPainterPath()
    path.addRect(rect)
    return path


def state_mark(p: QPainter, x: float, y: float, state: str) -> None:
    """Draw a state by shape and ink: ring untouched, disc settled, triangle look here, bar stop."""
    inks = theme.inks
    p.setPen(Qt.PenStyle.NoPen)
    if state == "look":
        p.setBrush(inks.look)
        p.drawPolygon(QPolygonF([QPointF(x, y - 5.5), QPointF(x + 6, y + 5), QPointF(x - 6, y + 5)]))
    elif state == "stop":
        p.setBrush(inks.stop)
        p.drawRect(QRectF(x - 6, y - 2.5, 12, 5))
    elif state == "settled":
        p.setBrush(inks.ink)
        p.drawEllipse(QPointF(x, y), 4.8, 4.8)
    else:
        p.setPen(pen(inks.ink, 1.5))
        p.setBrush(inks.paper)
        p.drawEllipse(QPointF(x, y), 4.2, 4.2)
    p.setBrush(Qt.BrushStyle.NoBrush)


def cg_mark(p: QPainter, x: float, y: float, radius: float = 6.0, colour: QColor | None = None) -> None:
    """Draw the balance-point mark: a circle with opposite quarters filled."""
    colour = colour or theme.inks.live
    box = QRectF(x - radius, y - radius, 2 * radius, 2 * radius)
    p.setPen(pen(colour, 1.5))
    p.setBrush(theme.inks.paper)
    p.drawEllipse(box)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour)
    p.drawPie(box, 90 * 16, 90 * 16)
    p.drawPie(box, 270 * 16, 90 * 16)
    p.setBrush(Qt.BrushStyle.NoBrush)


_STILL: OrderedDict[tuple[object, ...], QPixmap] = OrderedDict()
_MOST_STILL = 24


class Same:
    """A part of a key that counts as equal only to the very same object; it keeps the object, so that none other is."""

    __slots__ = ("of",)

    def __init__(self, of: object) -> None:
        self.of = of

    def __hash__(self) -> int:
        return id(self.of)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and other.of is self.of


def still(p: QPainter, rect: QRectF, key: tuple[object, ...], draw: Callable[[QPainter], None]) -> None:
    """Paint what seldom changes from a kept picture: drawn once for each key, theme and screen density."""
    dense = p.device().devicePixelRatio() if p.device() else 1.0
    whole = (*key, id(theme.inks), dense, round(rect.width()), round(rect.height()))
    kept = _STILL.get(whole)
    if kept is None:
        kept = QPixmap(math.ceil(rect.width() * dense), math.ceil(rect.height() * dense))
        kept.setDevicePixelRatio(dense)
        kept.fill(Qt.GlobalColor.transparent)
        painter = QPainter(kept)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.translate(-rect.left(), -rect.top())
        try:
            draw(painter)
        finally:
            painter.end()
        _STILL[whole] = kept
        while len(_STILL) > _MOST_STILL:
            _STILL.popitem(last=False)
    p.drawPixmap(rect.topLeft(), kept)


def arrow_head(p: QPainter, x: float, y: float, dx: float, dy: float, colour: QColor, size: float = 5.0) -> None:
    """Draw a filled arrow head with its tip at (x, y) pointing along (dx, dy)."""
    length = math.hypot(dx, dy) or 1.0
    ux, uy = dx / length, dy / length
    tip, back = QPointF(x, y), QPointF(x - ux * size, y - uy * size)
    side = QPointF(-uy * size * 0.35, ux * size * 0.35)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour)
    p.drawPolygon(QPolygonF([tip, back + side, back - side]))
    p.setBrush(Qt.BrushStyle.NoBrush)


def dimension(
    p: QPainter,
    x1: float,
    x2: float,
    y: float,
    words: str,
    *,
    colour: QColor | None = None,
    size: int = VALUE,
    bold: bool = False,
    witness: Sequence[float] = (),
) -> None:
    """Draw a horizontal dimension line from ``x1`` to ``x2`` with its words on it; ``witness`` y values tie it down."""
    colour = colour or theme.inks.soft
    for x, foot in zip((x1, x2), witness, strict=False):
        line(p, x, y - 4, x, foot, theme.inks.hair)
    line(p, x1, y, x2, y, colour)
    room = abs(x2 - x1) > width_of(words, size, bold) + 22
    inward = 1 if room else -1
    sign = 1 if x2 > x1 else -1
    arrow_head(p, x1, y, -sign * inward, 0, colour)
    arrow_head(p, x2, y, sign * inward, 0, colour)
    if room:
        write(p, (x1 + x2) / 2, y + 4, words, size, colour, bold, CENTRE, halo=True)
    else:
        write(p, max(x1, x2) + 8, y + 4, words, size, colour, bold, LEFT, halo=True)


def dimension_up(
    p: QPainter,
    x: float,
    y1: float,
    y2: float,
    words: str,
    *,
    colour: QColor | None = None,
    size: int = VALUE,
    bold: bool = False,
) -> None:
    """Draw a vertical dimension line with its words beside or on it."""
    colour = colour or theme.inks.soft
    line(p, x, y1, x, y2, colour)
    sign = 1 if y2 > y1 else -1
    arrow_head(p, x, y1, 0, -sign, colour)
    arrow_head(p, x, y2, 0, sign, colour)
    if abs(y2 - y1) > 34:
        write(p, x, (y1 + y2) / 2 + 4, words, size, colour, bold, CENTRE, halo=True)
    else:
        write(p, x + 6, (y1 + y2) / 2 + 4, words, size, colour, bold, LEFT)


def brush_of(colour: QColor, alpha: int) -> QBrush:
    """Return a see-through brush of an ink."""
    thin = QColor(colour)
    thin.setAlpha(alpha)
    return QBrush(thin)


def small_label(p: QPainter, x: float, y: float, words: str, align: str = LEFT) -> None:
    """Write the end of a scale."""
    write(p, x, y, words, SCALE_END, theme.inks.soft, align=align)
