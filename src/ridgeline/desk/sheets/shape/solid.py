"""Solid: the aircraft in the round, turned with the hand or the arrow keys."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design
from ridgeline.desk.paint import line, rule, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.solid_paint import paint_faces
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.geometry.solid import Picture, seen, skins_of, view

_FIRST_TURN, _FIRST_TILT = math.radians(38), math.radians(24)
_STEP = math.radians(5)
_PER_PIXEL = math.radians(0.4)
_MOST_TILT = math.radians(89)
_VIEWS = (
    ("From ahead", 0.0, math.radians(8)),
    ("Three quarters", _FIRST_TURN, _FIRST_TILT),
    ("From behind", math.radians(215), math.radians(28)),
    ("From above", 0.0, _MOST_TILT),
)


class ShapeSolidSheet(Sheet):
    """The airframe as a shaded solid."""

    key = "shape.solid"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.turn, self.tilt = _FIRST_TURN, _FIRST_TILT
        self._grip: QPointF | None = None
        self._drawn_of: Design | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("the aircraft as a solid; arrow keys turn it")
        self.buttons = []
        for words, turn, tilt in _VIEWS:
            button = RuledButton(self, words)
            button.clicked.connect(lambda _=False, a=turn, b=tilt: self.look(a, b))
            self.buttons.append(button)

    def subtitle(self) -> str:
        round_by = math.degrees(self.turn) % 360
        return f"{round_by:.0f}° round, {math.degrees(self.tilt):.0f}° above; drag to turn it"

    def look(self, turn: float, tilt: float) -> None:
        """Look from another side."""
        self.turn, self.tilt = turn, min(max(tilt, -_MOST_TILT), _MOST_TILT)
        self.update()

    def arrange(self) -> None:
        x = PAD
        for button in self.buttons:
            button.setGeometry(x, self.height() - 40, button.sizeHint().width(), 24)
            x += button.width() + 8

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        self._grip = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is None:
            return
        step = event.position() - self._grip
        self._grip = event.position()
        self.look(self.turn - step.x() * _PER_PIXEL, self.tilt + step.y() * _PER_PIXEL)

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._grip = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: (_STEP, 0.0),
            Qt.Key.Key_Right: (-_STEP, 0.0),
            Qt.Key.Key_Up: (0.0, _STEP),
            Qt.Key.Key_Down: (0.0, -_STEP),
        }
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self.look(self.turn + step[0], self.tilt + step[1])

    def picture(self) -> Picture:
        """Return the faces to paint; the skins are made anew only when the shape changes."""
        design = self.store.ghost[0] if self.store.ghost else self.store.design
        if self._drawn_of is None or not _same_shape(self._drawn_of, design):
            self._skins = skins_of(design)
            self._drawn_of = design
        return view(self._skins, self.turn, self.tilt)

    def draw(self, p: QPainter) -> None:
        picture = self.picture()
        room = QRectF(PAD + 20, 60, self.width() - 2 * PAD - 40, self.height() - 130)
        # One scale for every angle: the aircraft turns inside a ball as wide as it is long.
        points = np.concatenate([skin.corners for skin in self._skins]) if self._skins else np.zeros((1, 3))
        middle = 0.5 * (points.min(axis=0) + points.max(axis=0))
        reach = float(np.linalg.norm(points - middle, axis=1).max()) or 1.0
        scale = min(room.width(), 1.35 * room.height()) / (2 * reach)
        self.scale = scale
        self._paint_foot(p)
        off = self._project(middle)
        paint_faces(p, picture, room, off, scale)
        self._paint_discs(p, room, off, scale)

    def _project(self, place: np.ndarray) -> np.ndarray:
        """Return where a place stands in the view, metres right and down."""
        return seen(np.atleast_2d(place), self.turn, self.tilt)[0]

    def _paint_foot(self, p: QPainter) -> None:
        rule(p, PAD, self.height() - 52, self.width() - 2 * PAD)
        write(
            p,
            self.width() - PAD,
            self.height() - 24,
            "for the eye; measure in the Views",
            LABEL,
            theme.inks.soft,
            align="right",
        )

    def _paint_discs(self, p: QPainter, room: QRectF, off: np.ndarray, scale: float) -> None:
        """Draw the propeller discs as thin rings over the solid."""
        power = self.store.design.power
        if power is None:
            return
        theta = np.linspace(0, 2 * math.pi, 49)
        r = 0.5 * power.propeller.diameter
        for x, y, z in all_discs(power):
            ring = [np.array([x, y + r * math.cos(t), z + r * math.sin(t)]) for t in theta]
            points = [(self._project(place) - off) * scale for place in ring]
            for a, b in pairwise(points):
                line(
                    p,
                    room.center().x() + a[0],
                    room.center().y() + a[1],
                    room.center().x() + b[0],
                    room.center().y() + b[1],
                    theme.inks.soft,
                )


def _same_shape(one: Design, other: Design) -> bool:
    return one.surfaces is other.surfaces and one.bodies is other.bodies and one.wheels is other.wheels
