"""One cross-section of a body drawn with its width and height, and what the body comes to."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPainterPath

from ridgeline.design.airframe import Body
from ridgeline.desk.paint import fit, heading, outline, path_of, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.units import with_unit


def draw_section(p: QPainter, sheet: Sheet, body: Body, number: int, area: QRectF) -> None:
    """Draw the chosen cross-section with its width and height."""
    inks, left, top = theme.inks, area.left(), area.top()
    heading(p, left, top, area.width(), f"Section {number + 1}", f"of {len(body.stations)}")
    s = body.sections[number]
    scale = min(104 / max(s.width, 1e-4), 84 / max(s.height, 1e-4))
    box = QRectF(0, 0, max(s.width * scale, 1.5), max(s.height * scale, 1.5))
    box.moveCenter(QPointF(left + 58, top + 68))
    outline(p, rounded_box(box, body.roundings[number]), inks.live, 1.6, inks.wash)
    write(p, box.center().x(), box.bottom() + 15, sheet.length(s.width), LABEL, align="centre")
    write(p, box.right() + 6, box.center().y() + 4, sheet.length(s.height), LABEL)
    y = top + 254
    found = measure_body(body)
    units = sheet.store.units
    for words, value in (
        ("Skin", with_unit(found.wetted, "area", units)),
        ("Front", with_unit(found.frontal, "area", units)),
        ("Fineness", f"{found.fineness:.1f}"),
    ):
        if y > area.bottom():
            break
        write(p, left, y, fit(words, 96, LABEL), LABEL, inks.soft)
        write(p, area.right(), y, value, LABEL, align="right")
        y += 18


def rounded_box(box: QRectF, rounding: float) -> QPainterPath:
    """Return a cross-section as it is drawn: a box, an ellipse, or a blend of both as the geometry blends them."""
    power = 0.02 + 0.98 * rounding
    points = []
    for k in range(72):
        c, s = math.cos(2 * math.pi * k / 72), math.sin(2 * math.pi * k / 72)
        x = math.copysign(abs(c) ** power, c)
        y = math.copysign(abs(s) ** power, s)
        points.append((box.center().x() + 0.5 * box.width() * x, box.center().y() + 0.5 * box.height() * y))
    return path_of(points)
