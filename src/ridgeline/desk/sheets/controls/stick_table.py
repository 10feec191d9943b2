"""The table of sticks and what they move: arrows to size, and boxes ticked by what was seen on the bench."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPainterPath

from ridgeline.design.document import Design
from ridgeline.design.radio import Radio, StickName
from ridgeline.design.walk import Asked, Seen
from ridgeline.desk.paint import arrow_head, fit, line, outline, path_of, pen, rule, state_mark, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.benched import LOST, WALKED, Benched, Movable, seen_of, stands
from ridgeline.engine.controls.sense import way_of
from ridgeline.units import with_unit

ROWS: tuple[tuple[Asked, str], ...] = (
    ("roll", "stick right"), ("pitch", "stick back"), ("yaw", "rudder right"), ("flap", "flaps"),
    ("throttle", "throttle up"), (LOST, "link lost"),
)  # fmt: skip
#: The longest arrow stands for this angle, rad, and is so long, px; a box to tick is so wide.
_LARGEST, _LONG, _BOX = math.radians(20), 20, 11
#: Columns narrower than this have no room for more than the arrow and the angle, px.
_CRAMPED = 62
#: A stick this far from its middle is moved.
_MOVED = 0.02


class Cell(NamedTuple):
    """A place of the table: output and stick."""

    output: int
    stick: Asked


def rows_of(here: Benched) -> list[tuple[Asked, str]]:
    """Return the rows that something moves for; what a lost link does comes last."""
    asked = {stick for _k, stick, _way in here.asks()}
    return [(stick, words) for stick, words in ROWS if stick in asked]


def angle_of(one: Movable, radio: Radio, sticks: Mapping[StickName, float]) -> float:
    """Return how far a control goes for sticks, rad; nothing of a motor."""
    return 0.0 if one.row is None or one.moved is None else one.moved.angle(one.row.linkage, radio, sticks)


def at_rate(radio: Radio, *, high: bool) -> Radio:
    """Return a radio whose rates stand as they are switched."""
    if high:
        return radio
    rates = tuple(rate.model_copy(update={"high": rate.low}) for rate in radio.rates)
    found: Radio = radio.model_copy(update={"rates": rates})
    return found


def draw_table(
    sheet: Sheet, p: QPainter, area: QRectF, here: Benched, live: Mapping[StickName, float], asked: Cell | None,
    radio: Radio,
) -> list[tuple[QRectF, Cell]]:  # fmt: skip
    """Draw what each stick at full does to everything; return where each is pressed."""
    inks = theme.inks
    rows = rows_of(here)
    first = area.left() + (104 if area.width() > 420 else 82)
    each = (area.right() - first) / max(len(here.outputs), 1)
    y = area.top() + 12
    for k, one in enumerate(here.outputs):
        x = first + (k + 0.5) * each
        side, _, kind = one.name.rpartition(" ")
        ink = inks.live if asked is not None and asked.output == k else inks.ink
        write(p, x, y, fit(side, each - 4, LABEL), LABEL, inks.soft, align="centre")
        write(p, x, y + 14, fit(kind, each - 4, LABEL), LABEL, ink, align="centre")
    y += 22
    rule(p, area.left(), y, area.width(), strong=True)
    tall = min(46.0, (area.bottom() - y - 4) / max(len(rows), 1))
    places: list[tuple[QRectF, Cell]] = []
    for stick, words in rows:
        here_now = (
            asked.stick == stick if asked is not None else abs(live.get(stick, 0.0) if stick != LOST else 0.0) > 0.02
        )
        if here_now:
            p.fillRect(QRectF(area.left(), y + 1, area.width(), tall - 1), inks.wash)
        middle = y + 0.5 * tall
        label = fit(words, first - area.left() - 8, VALUE)
        write(p, area.left() + 4, middle + 4, label, VALUE, inks.live if here_now else inks.ink, bold=here_now)
        for k in range(len(here.outputs)):
            rect = QRectF(first + k * each, y + 1, each, tall - 1)
            places.append((rect, Cell(k, stick)))
            _draw_cell(sheet, p, rect, here, Cell(k, stick), radio)
            if asked == Cell(k, stick):
                outline(p, _box_path(rect.adjusted(1, 1, -1, -1)), inks.live, 1.6)
        y += tall
        rule(p, area.left(), y - 1, area.width())
    return places


def _box_path(rect: QRectF) -> QPainterPath:
    return path_of([(rect.left(), rect.top()), (rect.right(), rect.top()), (rect.right(), rect.bottom()),
                    (rect.left(), rect.bottom())])  # fmt: skip


def _draw_cell(sheet: Sheet, p: QPainter, rect: QRectF, here: Benched, cell: Cell, radio: Radio) -> None:
    """Draw what a stick does to one output, and its box where that is to be seen."""
    inks, design, units = theme.inks, sheet.store.design, sheet.store.units
    one = here.outputs[cell.output]
    middle, centre = rect.center().y(), rect.center().x()
    lost = cell.stick == LOST
    right = 0 if lost else int(here.wanted[cell.output, WALKED.index(cell.stick)])
    angle = angle_of(one, radio, {} if cell.stick == LOST else {cell.stick: 1.0})
    way = way_of(angle) if one.row is not None else _motor_way(here, cell)
    seen = seen_of(design, one, cell.stick)
    asked = lost or bool(right)
    if not way and not asked and seen is None:
        write(p, centre, middle + 4, "–", LABEL, inks.soft, align="centre")
        return
    box = (asked or seen is not None) and rect.width() > 30
    cramped = rect.width() < _CRAMPED
    at = centre - (0 if cramped else 9 if box else 0)
    wrong = not lost and way != right
    ink = inks.stop if wrong else inks.ink
    high = middle - (5 if cramped and box else 0)
    if lost:
        write(p, at, high + 4, "off" if one.row is None else "rest", LABEL, inks.soft, align="centre")
    elif not way and not right:
        write(p, at, high + 4, "–", LABEL, inks.soft, align="centre")
    elif one.row is None:
        told = (
            {1: "full", -1: "less", 0: "–"}[way] if cell.stick == "throttle" else {1: "more", -1: "less", 0: "–"}[way]
        )
        write(p, at, high + 4, told, VALUE, ink, align="centre")
    else:
        # An arrow ends beside the middle of its figure, whichever way it goes.
        rise = 0.0 if one.level else 0.5 * way * _LONG * min(abs(angle) / _LARGEST, 1.0)
        draw_arrow(p, QPointF(at - (22 if one.level else 13), high - rise), angle, ink, level=one.level)
        write(p, at - 2, high + 4, with_unit(abs(angle), "angle", units, 0), VALUE, ink, bold=wrong)
    if wrong:
        state_mark(p, rect.right() - 8, rect.top() + 9, "stop")
    if box:
        spot = QRectF(centre - _BOX / 2, rect.bottom() - _BOX - 2, _BOX, _BOX) if cramped else QRectF(
            centre + 19, middle - _BOX / 2, _BOX, _BOX
        )  # fmt: skip
        _draw_box(p, spot, right, seen, stands(design, one, cell.stick))


def _motor_way(here: Benched, cell: Cell) -> int:
    return 0 if cell.stick == LOST else int(here.bench.does[cell.output, WALKED.index(cell.stick)])


def _draw_box(p: QPainter, spot: QRectF, right: int, seen: Seen | None, now: Seen | None) -> None:
    """Draw a box: empty, ticked, crossed, or dashed where what was seen no longer stands."""
    inks = theme.inks
    stale = seen is not None and now is None
    outline(p, _box_path(spot), inks.soft if now is None else inks.measured, 1.0, inks.paper, dash=stale)
    if now is None:
        return
    good = now.way == right
    p.setPen(pen(inks.measured if good else inks.stop, 1.8))
    if good:
        p.drawPolyline([QPointF(spot.left() + 2, spot.center().y()), QPointF(spot.left() + 4.5, spot.bottom() - 2.5),
                        QPointF(spot.right() - 1.5, spot.top() + 2)])  # fmt: skip
    else:
        line(p, spot.left() + 2, spot.top() + 2, spot.right() - 2, spot.bottom() - 2, inks.stop, 1.8)
        line(p, spot.left() + 2, spot.bottom() - 2, spot.right() - 2, spot.top() + 2, inks.stop, 1.8)


def draw_arrow(p: QPainter, at: QPointF, angle: float, ink: QColor, *, level: bool) -> None:
    """Draw which way and how far a trailing edge goes: up or down, of what stands to port or starboard."""
    way = way_of(angle)
    long = way * max(_LONG * min(abs(angle) / _LARGEST, 1.0), 8.0)
    if not way:
        return
    if level:
        line(p, at.x() - 0.5 * long, at.y(), at.x() + 0.5 * long, at.y(), ink, 2)
        arrow_head(p, at.x() + 0.5 * long + 2 * way, at.y(), way, 0, ink)
        return
    line(p, at.x() - 6, at.y(), at.x() + 6, at.y(), theme.inks.hair)
    line(p, at.x(), at.y(), at.x(), at.y() + long, ink, 2)
    arrow_head(p, at.x(), at.y() + long + 2 * way, 0, way, ink)


def counted(design: Design, here: Benched) -> tuple[int, int, str]:
    """Return how many movements were seen and still stand, how many there are, and the day of the last."""
    found = [stands(design, here.outputs[k], stick) for k, stick, _way in here.asks()]
    known = [one for one in found if one is not None]
    return len(known), len(found), max((one.day for one in known), default="")
