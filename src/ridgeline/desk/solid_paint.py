"""Painting solids: shaded faces of a view, and small pictures of bodies."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPolygonF

from ridgeline.desk.paint import pen
from ridgeline.desk.theme import theme
from ridgeline.engine.geometry.solid import Picture, Skin, view


def paint_faces(p: QPainter, picture: Picture, room: QRectF, off: np.ndarray, scale: float, edges: bool = True) -> None:
    """Paint the faces of a view about the middle of a room: ``off`` stands there, ``scale`` px for a unit."""
    middle = room.center()
    for face, light in zip(picture.faces, picture.light, strict=True):
        corners = (face - off) * scale
        tone = tone_of(light)
        p.setBrush(tone)
        edge = tone if not edges else tone.lighter(112) if theme.dark else tone.darker(108)
        p.setPen(pen(edge, 0.7))
        p.drawPolygon(QPolygonF([QPointF(middle.x() + x, middle.y() + y) for x, y in corners.tolist()]))
    p.setBrush(Qt.BrushStyle.NoBrush)


def paint_mesh(p: QPainter, room: QRectF, points: np.ndarray, faces: np.ndarray, turn: float, tilt: float) -> float:
    """Paint a mesh of triangles as large as a room takes; returns px for a unit."""
    picture = view([Skin("", points, faces[:, [0, 1, 2, 2]])], turn, tilt)
    if not len(picture.faces):
        return 0.0
    flat = picture.faces.reshape(-1, 2)
    low, high = flat.min(axis=0), flat.max(axis=0)
    size = np.maximum(high - low, 1e-9)
    scale = float(min(room.width() / size[0], room.height() / size[1]))
    paint_faces(p, picture, room, 0.5 * (low + high), scale, edges=False)
    return scale


def tone_of(light: float) -> QColor:
    """Return a paper tone by the light that falls on a face: shade towards ink."""
    paper, ink = theme.inks.paper, theme.inks.ink
    share = 0.12 + 0.50 * (1 - float(light)) if not theme.dark else 0.18 + 0.42 * float(light)
    mixed = [
        round(a + (b - a) * share)
        for a, b in zip((paper.red(), paper.green(), paper.blue()), (ink.red(), ink.green(), ink.blue()), strict=True)
    ]
    return QColor(*mixed)
