"""Parts of a power train as small drawings at one scale."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import line, pen
from ridgeline.desk.theme import theme


def extent_of(kind: str, part: Any) -> tuple[float, float]:
    """Return how wide and high a part is drawn, m."""
    if kind == "motors":
        return part.length * 1.35, part.diameter
    if kind == "propellers":
        return 0.1 * part.diameter, part.diameter
    if kind == "packs":
        return part.length, part.height or 0.25 * part.length
    # A controller has no sides in the library: board and fins at about 1.6 g/cm³ and twice as long as wide.
    side = (part.mass / 1600 / 0.5) ** (1 / 3)
    return 1.6 * side, 0.5 * side


def draw_part(p: QPainter, kind: str, box: QRectF, ink: Any, chosen: bool) -> None:
    inks = theme.inks
    p.setPen(pen(ink, 2 if chosen else 1.2))
    p.setBrush(inks.wash if chosen else inks.fill)
    if kind == "motors":
        can = QRectF(box.left(), box.top(), box.width() / 1.35, box.height())
        p.drawRect(can)
        middle = box.center().y()
        p.drawRect(QRectF(can.right(), middle - 0.06 * box.height(), box.right() - can.right(), 0.12 * box.height()))
        for share in (0.3, 0.5, 0.7):
            x = can.left() + share * can.width()
            line(p, x, can.top() + 3, x, can.bottom() - 3, ink)
    elif kind == "propellers":
        hub, half = box.center(), box.height() / 2
        for top in (box.top(), hub.y()):
            p.drawEllipse(QRectF(box.left() + 0.2 * box.width(), top, 0.6 * box.width(), half))
        p.setBrush(inks.paper)
        p.drawEllipse(hub, 0.5 * box.width(), 0.5 * box.width())
    else:
        p.drawRect(box)
        if kind == "packs":
            line(p, box.right(), box.top() + 0.4 * box.height(), box.right() + 5, box.top() + 0.4 * box.height(), ink)
            line(p, box.right(), box.top() + 0.6 * box.height(), box.right() + 5, box.top() + 0.6 * box.height(), ink)
    p.setBrush(Qt.BrushStyle.NoBrush)
