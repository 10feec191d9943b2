"""Where a piece sits: the aircraft in the round, small, and the piece laid over it."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPolygonF

from ridgeline.design.document import Design
from ridgeline.desk.paint import heading, outline, write
from ridgeline.desk.solid_paint import paint_faces
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.geometry.solid import Skin, seen, skins_of, view
from ridgeline.engine.templates.patterns import Pattern

#: Where the eye stands, rad; how much of the paper a piece lets through, of 255.
_EYE, _WASH = (0.7, 0.5), 110


class WhereItSits:
    """The aircraft and one of its pieces, from ahead and above."""

    def __init__(self, store: Store) -> None:
        self._store = store
        self._skins: tuple[Design, list[Skin]] | None = None
        #: The piece as it was last drawn, px; nothing of an aid.
        self.spots: np.ndarray | None = None

    def draw(self, p: QPainter, pattern: Pattern, area: QRectF) -> None:
        """Draw where a piece sits."""
        inks, design = theme.inks, self._store.design
        heading(p, area.left(), area.top(), area.width(), "Where it sits", strong=False)
        self.spots = None
        if self._skins is None or self._skins[0] is not design:
            self._skins = design, skins_of(design)
        skins = self._skins[1]
        room = area.adjusted(4, 14, -4, -18)
        if not skins or room.height() < 20 or room.width() < 20:
            return
        flat = np.concatenate([seen(skin.corners, *_EYE) for skin in skins])
        low, high = flat.min(axis=0), flat.max(axis=0)
        off, size = 0.5 * (low + high), np.maximum(high - low, 1e-9)
        scale = float(min(room.width() / size[0], room.height() / size[1]))
        paint_faces(p, view(skins, *_EYE), room, off, scale)
        places = pattern.placed(pattern.outline)
        if places is None:
            write(p, area.left(), area.bottom() - 4, "an aid: no part of it", LABEL, inks.soft)
            return
        self.spots = (seen(places, *_EYE) - off) * scale + (room.center().x(), room.center().y())
        path = QPainterPath()
        path.addPolygon(QPolygonF([QPointF(x, y) for x, y in self.spots.tolist()]))
        path.closeSubpath()
        wash = QColor(inks.live)
        wash.setAlpha(_WASH)
        outline(p, path, inks.live, 1.6, wash)
