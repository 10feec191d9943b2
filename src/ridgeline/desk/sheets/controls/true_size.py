"""A linkage drawn true to scale: section, control at neutral and both ends, servo, arm, rod and horn."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPolygonF

from ridgeline.desk.paint import fit, line, outline, path_of, pen, width_of, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.controls.drawn import DrawnLinkage, Stand, swung
from ridgeline.engine.register import CONTROL_DOWN, CONTROL_UP, ROD_LENGTH
from ridgeline.engine.stages.linked import LinkedControl
from ridgeline.units import with_unit

Array = NDArray[np.float64]
#: px beside what is drawn.
_MARGIN = 26
#: A rod longer than this, m, is drawn with a piece left out of it, of which so much is shown.
_LONGEST, _SHOWN_GAP = 0.13, 0.016
#: Kept of the rod at the servo and at the horn when a piece is left out, m.
_NEAR_SERVO, _NEAR_HORN = 0.030, 0.052
_WORDS = {"out": "shaft outboard", "in": "shaft inboard", "up": "shaft up", "down": "shaft down"}


class Frame(NamedTuple):
    """From the hinge's axes, m, to the sheet, px: the scale, where the hinge stands, and a piece of rod left out."""

    scale: float
    x: float
    y: float
    first: float
    last: float

    def at(self, point: Any) -> QPointF:
        """Return where a point stands, px."""
        across, up = float(point[0]), float(point[1])
        if self.last > self.first and across < self.last:
            # What lies beyond the piece left out is drawn nearer by it.
            across = min(across, self.first) + self.last - self.first - _SHOWN_GAP
        return QPointF(self.x + self.scale * across, self.y - self.scale * up)

    def back(self, x: float, y: float) -> tuple[float, float]:
        """Return the point at a place of the sheet, m."""
        across = (x - self.x) / self.scale
        if self.last > self.first and across < self.last - 0.5 * _SHOWN_GAP:
            across -= self.last - self.first - _SHOWN_GAP
        return across, (self.y - y) / self.scale

    def path(self, points: Array) -> list[tuple[float, float]]:
        """Return where points stand, px."""
        return [(spot.x(), spot.y()) for spot in map(self.at, points)]


def framed(row: LinkedControl, shape: DrawnLinkage, room: QRectF) -> Frame:
    """Return the frame in which a linkage fills a room."""
    behind = float(shape.control[:, 0].max())
    ahead = -float(min(shape.servo[:, 0].min(), shape.arm_holes[:, 0].min()))
    first = last = 0.0
    if row.linkage.ahead > _LONGEST:
        first, last = float(shape.arm_centre[0]) + _NEAR_SERVO, -_NEAR_HORN
        ahead -= last - first - _SHOWN_GAP
    swing = behind * math.sin(max(*row.sides[0].throw, 0.3))
    low = min(float(shape.servo[:, 1].min()), float(shape.horn_holes[:, 1].min()), -swing)
    high = max(float(shape.servo[:, 1].max()), float(shape.horn_holes[:, 1].max()), swing)
    scale = min((room.width() - 2 * _MARGIN) / (ahead + behind), (room.height() - 110) / (high - low))
    spare = room.height() - 110 - scale * (high - low)
    return Frame(
        scale, room.left() + _MARGIN + scale * ahead, room.top() + 40 + 0.5 * spare + scale * high, first, last
    )


def draw_shape(
    p: QPainter, frame: Frame, shape: DrawnLinkage, stands: tuple[Stand, Stand, Stand], room: QRectF
) -> None:
    """Draw a linkage at neutral, with both ends dashed."""
    inks = theme.inks
    low, stand, high = stands
    panel = shape.panel
    if frame.last > frame.first:
        panel = panel[(panel[:, 0] <= frame.first) | (panel[:, 0] >= frame.last)]
    outline(p, path_of(frame.path(panel)), inks.ink, 1.2, inks.fill)
    for end in (low, high):
        draw_control(p, frame, shape, end.angle, inks.soft)
        draw_rod(p, frame, end, inks.soft, dash=True)
    outline(p, path_of(frame.path(shape.control)), inks.ink, 1.2, inks.wash)
    outline(p, path_of(frame.path(shape.servo)), inks.ink, 1.2, inks.paper)
    _lever(p, frame, shape.arm_centre, shape.arm_holes)
    _lever(p, frame, np.zeros(2), shape.horn_holes)
    draw_rod(p, frame, stand, inks.live)
    p.setBrush(inks.paper)
    p.setPen(pen(inks.ink, 1.4))
    p.drawEllipse(frame.at((0.0, 0.0)), 4, 4)
    if frame.last > frame.first:
        _break(p, frame, stand, room)


def draw_control(p: QPainter, frame: Frame, shape: DrawnLinkage, angle: float, ink: QColor) -> None:
    """Draw a control turned, dashed."""
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(pen(ink, 1, Qt.PenStyle.DashLine))
    p.drawPath(path_of(frame.path(swung(shape.control, angle))))


def draw_rod(p: QPainter, frame: Frame, stand: Stand, ink: QColor, *, dash: bool = False) -> None:
    """Draw a rod with its ends."""
    p.setPen(pen(ink, 1 if dash else 2, Qt.PenStyle.DashLine if dash else Qt.PenStyle.SolidLine))
    a, b = frame.at(stand.arm), frame.at(stand.horn)
    p.drawLine(a, b)
    p.setBrush(theme.inks.paper)
    p.setPen(pen(ink, 1.4))
    for point in (a, b):
        p.drawEllipse(point, 3, 3)
    p.setBrush(Qt.BrushStyle.NoBrush)


def _lever(p: QPainter, frame: Frame, centre: Array, holes: Array) -> None:
    """Draw an arm or a horn with its holes."""
    start, end = frame.at(centre), frame.at(holes[-1])
    along = end - start
    across = QPointF(-along.y(), along.x()) / max(math.hypot(along.x(), along.y()), 1.0)
    beyond = end + along * 0.08
    p.setBrush(theme.inks.paper)
    p.setPen(pen(theme.inks.ink, 1.2))
    p.drawPolygon(QPolygonF([start + across * 7, beyond + across * 4, beyond - across * 4, start - across * 7]))
    for hole in holes:
        p.drawEllipse(frame.at(hole), 1.8, 1.8)
    p.setBrush(Qt.BrushStyle.NoBrush)


def _break(p: QPainter, frame: Frame, stand: Stand, room: QRectF) -> None:
    """Draw a break across the rod where a piece of it is left out."""
    middle = frame.x + frame.scale * (frame.last - 0.5 * _SHOWN_GAP)
    level = 0.5 * (frame.at(stand.arm).y() + frame.at(stand.horn).y())
    top, tall = max(level - 46, room.top() + 24), 92
    p.fillRect(QRectF(middle - 5, top, 10, tall), theme.inks.paper)
    p.setPen(pen(theme.inks.ink, 1))
    for off in (-5, 5):
        spots = [QPointF(middle + off + (3 if k % 2 else -3), top + tall * k / 8) for k in range(9)]
        p.drawPolyline(QPolygonF(spots))


class Told(NamedTuple):
    """Words beside a linkage: its servo, and which ways its control goes, up or to port first."""

    servo: str
    ways: tuple[str, str]


def draw_words(
    sheet: Sheet, p: QPainter, row: LinkedControl, shape: DrawnLinkage, stands: tuple[Stand, Stand, Stand],
    frame: Frame, room: QRectF, told: Told,
) -> None:  # fmt: skip
    """Write throws, holes, rod and chord beside a linkage."""
    inks, units, one = theme.inks, sheet.store.units, row.linkage
    symbol, ident, throw = units["length"].symbol, row.control.id, row.sides[0].throw
    chord = float(shape.control[:, 0].max())
    rows = ((throw.up, told.ways[0], room.top() + 14, CONTROL_UP.key(ident)),
            (throw.down, told.ways[1], room.bottom() - 34, CONTROL_DOWN.key(ident)))  # fmt: skip
    for angle, way, y, key in rows:
        edge = f"{sheet.length(2 * chord * math.sin(angle / 2))} {symbol}"
        wide = write(p, room.right(), y, edge, LABEL, inks.soft, align="right")
        sheet.written(p, room.right() - wide - 10, y, f"{with_unit(angle, 'angle', units, 0)} {way}", key, VALUE,
                      inks.live, bold=True, align="right")  # fmt: skip
    servo = frame.at(shape.servo[3])
    name = fit(f"{told.servo}, {_WORDS[one.facing]}", room.width() * 0.5, LABEL)
    write(p, max(servo.x(), room.left()), servo.y() - 12, name, LABEL, inks.soft)
    hinge, arm = frame.at((0.0, 0.0)), frame.at(stands[1].arm)
    high = min(hinge.y() - 14, servo.y() - 26)
    write(
        p,
        hinge.x(),
        max(high, room.top() + 14),
        f"hinge: {one.hinge.kind}",
        LABEL,
        inks.soft,
        align="centre",
        halo=True,
    )
    low = max(frame.at(point).y() for point in (shape.horn_holes[-1], shape.arm_holes[-1], shape.servo[0]))
    y = min(low + 30, room.bottom() - 34)
    many = "tooth" if abs(one.clocked) == 1 else "teeth"
    way = "ahead" if one.clocked > 0 else "behind"
    clocked = "square to the rod" if not one.clocked else f"{abs(one.clocked)} {many} of {one.teeth} {way}"
    first = f"arm hole {sheet.length(one.arm)}, {clocked}"
    left = max(arm.x() - 30, room.left())
    write(p, left, y, first, LABEL, inks.ink, halo=True)
    horn = max(frame.at(stands[1].horn).x() + 8, left + width_of(first, LABEL) + 14)
    write(p, horn, y, f"horn hole {sheet.length(one.horn)}", LABEL, inks.ink, halo=True)
    foot, edge_x = room.bottom() - 8, frame.at((chord, 0.0)).x()
    for x in (arm.x(), hinge.x(), edge_x):
        line(p, x, foot - 6, x, foot + 2, inks.soft)
    line(p, arm.x(), foot - 2, edge_x, foot - 2, inks.hair)
    sheet.written(p, 0.5 * (arm.x() + hinge.x()), foot + 2, f"rod {sheet.length(row.rod, 1)}", ROD_LENGTH.key(ident),
                  LABEL, inks.live, bold=True, align="centre", halo=True)  # fmt: skip
    write(p, 0.5 * (hinge.x() + edge_x), foot + 2, f"control {sheet.length(chord)}", LABEL, inks.ink, align="centre",
          halo=True)  # fmt: skip
