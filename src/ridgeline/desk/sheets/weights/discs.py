"""Masses as discs at their places, on the side view and the half plan under it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPixmap

from ridgeline.design.base import changed
from ridgeline.design.parts import Item
from ridgeline.desk.drawing import View
from ridgeline.desk.paint import pen
from ridgeline.desk.theme import theme
from ridgeline.engine.weights.items import ItemArrays

#: Disc area per mass: 178 g draws a disc of 16 px radius.
_DISC = 16 / math.sqrt(0.178)
_LEAST_RADIUS = 2.5
#: Nearer the centre line than this a mass has no disc of its own in the plan, m.
_OFF_CENTRE = 0.005
#: Above this many items the discs at rest are kept as a picture while another is dragged.
_MANY = 150


@dataclass(frozen=True)
class Disc:
    """One disc, px; ``index`` is the item's."""

    x: float
    y: float
    radius: float
    index: int
    weighed: bool
    #: What was cut out: a mass less than nothing.
    cut: bool = False

    def holds(self, x: float, y: float) -> bool:
        """Tell whether a press at a place is meant for this disc."""
        return math.hypot(x - self.x, y - self.y) <= self.radius + 2


def disc_radius(mass: float) -> float:
    """Return the radius of a mass's disc, px."""
    return max(_DISC * math.sqrt(abs(mass)), _LEAST_RADIUS)


@dataclass(frozen=True)
class Ground:
    """Where both views lie: the side view, and the left end and centre line of the half plan below it, px."""

    side: View
    left: float
    axis: float

    def discs_of(self, part: Item, index: int, mass: float, weighed: bool) -> list[Disc]:
        """Return an item's discs: one from the side, and one in the plan when it is off the centre line."""
        if mass == 0:
            return []
        x, y = self.side.at((part.x, 0.0, part.z))
        cut = mass < 0
        found = [Disc(x, y, disc_radius(mass), index, weighed, cut)]
        if abs(part.y) > _OFF_CENTRE:
            scale, share = self.side.scale, 0.5 if part.mirrored else 1.0
            place = (self.left + part.x * scale, self.axis + abs(part.y) * scale)
            found.append(Disc(*place, disc_radius(mass * share), index, weighed, cut))
        return found


class MassDiscs:
    """Draws the discs, heaviest first so that light ones stay on top, and finds them again under the mouse."""

    def __init__(self) -> None:
        self.placed: list[Disc] = []
        self._parts: tuple[Item, ...] = ()
        self._key: tuple[Any, ...] = ()
        self._layer: QPixmap | None = None

    def at(self, x: float, y: float) -> int | None:
        """Return the item whose disc lies at a place, the smallest of several."""
        hits = [disc for disc in self.placed if disc.holds(x, y)]
        return min(hits, key=lambda disc: disc.radius).index if hits else None

    def draw(
        self, p: QPainter, ground: Ground, parts: tuple[Item, ...], items: ItemArrays, chosen: int | None, room: QRectF
    ) -> None:
        """Draw every disc; with many items only the chosen one is painted anew while nothing else changes."""
        mine = (
            []
            if chosen is None
            else ground.discs_of(parts[chosen], chosen, float(items.mass[chosen]), bool(items.weighed[chosen]))
        )
        if len(parts) < _MANY:
            self.placed = self._all(ground, parts, items, None)
            for disc in self.placed:
                _paint(p, disc, disc.index == chosen)
            return
        ratio = p.device().devicePixelRatioF()
        key = (ground, chosen, room.getRect(), theme.inks, ratio)
        if self._layer is None or key != self._key or not self._at_rest(parts, chosen):
            self._key, self._parts = key, parts
            self.placed = self._all(ground, parts, items, chosen)
            self._layer = QPixmap(int(room.right() * ratio) + 1, int(room.bottom() * ratio) + 1)
            self._layer.setDevicePixelRatio(ratio)
            self._layer.fill(QColor(0, 0, 0, 0))
            painter = QPainter(self._layer)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            try:
                for disc in self.placed:
                    _paint(painter, disc, chosen=False)
            finally:
                painter.end()
        p.drawPixmap(0, 0, self._layer)
        self.placed = [disc for disc in self.placed if disc.index != chosen] + mine
        for disc in mine:
            _paint(p, disc, chosen=True)

    def _at_rest(self, parts: tuple[Item, ...], chosen: int | None) -> bool:
        """Tell whether no item but the chosen one differs from what the kept picture shows."""
        if len(parts) != len(self._parts):
            return False
        return all(k == chosen for k in changed(parts, self._parts))

    @staticmethod
    def _all(ground: Ground, parts: tuple[Item, ...], items: ItemArrays, skip: int | None) -> list[Disc]:
        placed: list[Disc] = []
        for index in items.mass.argsort()[::-1].tolist():
            if index != skip:
                placed += ground.discs_of(parts[index], index, float(items.mass[index]), bool(items.weighed[index]))
        return placed


def _paint(p: QPainter, disc: Disc, chosen: bool) -> None:
    inks = theme.inks
    style = Qt.PenStyle.SolidLine if disc.weighed else Qt.PenStyle.DashLine
    p.setPen(pen(inks.live if chosen else inks.ink, 2 if chosen else 1, style))
    fill = QColor(inks.wash if chosen else inks.fill)
    fill.setAlpha(200)
    p.setBrush(fill)
    box = QRectF(disc.x - disc.radius, disc.y - disc.radius, 2 * disc.radius, 2 * disc.radius)
    if disc.cut:
        # A hole in the drawing: paper, crossed out.
        p.setBrush(inks.paper)
        p.drawEllipse(box)
        reach = 0.7 * disc.radius
        p.drawLine(QPointF(disc.x - reach, disc.y - reach), QPointF(disc.x + reach, disc.y + reach))
        p.drawLine(QPointF(disc.x - reach, disc.y + reach), QPointF(disc.x + reach, disc.y - reach))
    else:
        p.drawEllipse(box)
    p.setBrush(Qt.BrushStyle.NoBrush)
