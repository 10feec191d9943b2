"""Drag: everything that stands in the wind, drawn as a plate of its drag area, and what it costs of the top speed."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.drag_items import DragItem, DragKind
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Dimension, Selection, name_row
from ridgeline.desk.drawing import draw_aircraft, fitted
from ridgeline.desk.paint import brush_of, fit, heading, pen, rule, width_of, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.aero.drag import DragShares, shares
from ridgeline.engine.aero.drag_list import SHAPES, Hindrance
from ridgeline.engine.bands import BAND
from ridgeline.engine.power.flight import gained_without
from ridgeline.units import shown, with_unit

#: Where the drawing begins, the least of it over the sheet, the plates under it, a row, and a button with its gap, px.
_TOP, _DRAWING, _PLATES, _ROW, _BUTTON = 66, 0.34, 72, 21, 28
#: Room of the heading over list and buttons, px.
_HEAD = 36
#: Room of the column with what can be added, px.
_ADDING = 196
#: What is added at a press: how many, length and width, m.
_FRESH: dict[DragKind, tuple[int, float, float]] = {
    "wire": (2, 0.30, 0.0008),
    "strut": (2, 0.15, 0.003),
    "faired_strut": (2, 0.15, 0.008),
    "opening": (1, 0.12, 0.06),
    "box": (1, 0.03, 0.02),
    "plate_edge": (1, 0.05, 0.002),
    "air_inlet": (1, 0.02, 0.02),
}
_KINDS = tuple((kind, shape.words) for kind, shape in SHAPES.items())
_WORDS = dict(
    zip(
        DragShares._fields,
        ("wings, least", "tail", "bodies, skin", "standing out", "lifting"),
        strict=True,
    )
)


class _Row(NamedTuple):
    """One line as shown: what it is, and what it costs of the top speed, m/s (None where it does not fly level)."""

    one: Hindrance
    cost: float | None


class PowerDragSheet(Sheet):
    """The drag list."""

    key = "power.drag"
    known_by = "drag.standing_out"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self._places: list[tuple[QRectF, str]] = []
        self.add_buttons: dict[DragKind, RuledButton] = {}
        for kind, words in _KINDS:
            button = RuledButton(self, words.capitalize())
            button.setAccessibleName(f"add to the drag list: {words}")
            button.clicked.connect(lambda _=False, k=kind: self.add(k))
            self.add_buttons[kind] = button
        self.remove_button = RuledButton(self, "Take it off the list")
        self.remove_button.clicked.connect(self.remove)

    @property
    def rows(self) -> list[_Row]:
        """Return the list as it is shown, the dearest first."""
        results = self.store.report.results
        listed, flown = results.drag_list, results.flight
        if flown is None or flown.top_speed is None:
            return [_Row(one, None) for one in listed]
        areas = np.array([one.drag_area for one in listed])
        costs = gained_without(flown, areas, results.air.density)
        return [_Row(one, float(cost)) for one, cost in zip(listed, costs, strict=True)]

    @property
    def chosen(self) -> int | None:
        """Return the place of the selected line among those added."""
        spot = self.store.spot("drag")
        return None if spot is None else spot.index

    def add(self, kind: DragKind) -> None:
        """Add one kind of thing, and select it so that its sizes can be typed."""
        count, length, width = _FRESH[kind]
        words = SHAPES[kind].words
        fresh = DragItem(name=words, kind=kind, count=count, length=length, width=width)
        if self.store.edit([Change("drag_items[-]", fresh)], f"Add {words}"):
            self.store.select(f"drag_items[{len(self.store.design.drag_items) - 1}]")

    def remove(self) -> None:
        """Take the selected line off the list."""
        index = self.chosen
        if index is not None:
            name = self.store.design.drag_items[index].name
            self.store.select("")
            self.store.edit([Change(f"drag_items[{index}]", REMOVE)], f"Take {name} off the drag list")

    def subtitle(self) -> str:
        bare, top = self.store.report.figures["speed.bare"], self.store.report.value("speed.max")
        if bare.value is None or top is None:
            return bare.why_not
        lost = with_unit(bare.value - top, "speed", self.store.units)
        return f"{self.words('speed.max')} at most; what stands out costs {lost} of it"

    def selection(self) -> Selection:
        index = self.chosen
        if index is None:
            return Selection("", ())
        base, item = f"drag_items[{index}]", self.store.design.drag_items[index]

        def turn_into(kind: str) -> None:
            self.store.put(f"{base}.kind", kind, f"{item.name}: {SHAPES[kind].words}")  # type: ignore[index]

        across = item.kind in ("wire", "strut", "faired_strut")
        rows = (
            name_row(base),
            Dimension("Is a", read=lambda: self.store.design.drag_items[index].kind, choices=_KINDS, choose=turn_into),
            Dimension("How many", f"{base}.count"),
            Dimension("Length of one", f"{base}.length"),
            Dimension("Thickness to the wind" if across else "Width of one", f"{base}.width"),
        )
        return Selection("in the wind", rows)

    def arrange(self) -> None:
        x, y = self.width() - PAD - _ADDING, self._list_top + _HEAD - 6
        pitch = min(_BUTTON, (self.height() - y - 4) / (len(self.add_buttons) + 1.2))
        for button in self.add_buttons.values():
            button.setGeometry(x, int(y), _ADDING, int(pitch) - 3)
            y += pitch
        self.remove_button.setGeometry(x, int(y + 0.2 * pitch), _ADDING, int(pitch) - 3)
        self.remove_button.setVisible(self.chosen is not None and not self.empty)

    @property
    def _list_top(self) -> float:
        """Return where the list begins: it takes what it needs from below, and the drawing the rest."""
        rows = len(self.store.report.results.drag_list)
        needs = max(_HEAD + 10 + _ROW * rows, _HEAD + _BUTTON * (len(self.add_buttons) + 1))
        return max(self.height() - needs, _TOP + _DRAWING * self.height() + _PLATES)

    def draw(self, p: QPainter) -> None:
        self._places, rows = [], self.rows
        plates = self._list_top - _PLATES - 4
        self._draw_front(p, rows, QRectF(PAD, _TOP, self.width() - 2 * PAD, plates - _TOP - 8))
        self._draw_plates(p, QRectF(PAD, plates, self.width() - 2 * PAD, _PLATES - 8))
        rule(p, PAD, self._list_top - 6, self.width() - 2 * PAD)
        wide = self.width() - 3 * PAD - _ADDING - 8
        self._draw_list(p, rows, QRectF(PAD, self._list_top, wide, self.height() - self._list_top - 8))
        heading(p, self.width() - PAD - _ADDING, self._list_top + 12, _ADDING, "Add to it", "", strong=False)

    def _draw_front(self, p: QPainter, rows: list[_Row], room: QRectF) -> None:
        """Draw the aircraft from ahead, with a disc of its drag area on all that stands out."""
        inks, design = theme.inks, self.store.design
        view = fitted(design, "front", room)
        self.scale = view.scale
        draw_aircraft(p, design, view, fill=inks.paper)
        marked = self.store.spot()
        for row in rows:
            if row.one.added:
                continue
            sides = (1, -1) if row.one.pieces == 2 and abs(row.one.place[1]) > 1e-6 else (1,)
            each = row.one.drag_area / len(sides)
            live = marked is not None and marked.path == row.one.path
            for side in sides:
                x, y, z = row.one.place
                self._disc(p, QPointF(*view.at((x, side * y, z))), each * view.scale**2, row.one.path, live)
        write(p, PAD, 62, "from ahead; discs: plates that would drag as much, to scale", LABEL, inks.soft)

    def _disc(self, p: QPainter, at: QPointF, area: float, path: str, live: bool) -> None:
        inks, radius = theme.inks, math.sqrt(area / math.pi)
        p.setPen(pen(inks.live if live else inks.predicted, 1.4))
        p.setBrush(brush_of(inks.live if live else inks.predicted, 70))
        p.drawEllipse(at, radius, radius)
        p.setBrush(Qt.BrushStyle.NoBrush)
        grip = max(radius, 6.0)
        self._places.append((QRectF(at.x() - grip, at.y() - grip, 2 * grip, 2 * grip), path))

    def _draw_plates(self, p: QPainter, area: QRectF) -> None:
        """Draw the whole drag as plates in a row, to the scale of the aircraft over them."""
        inks, report, units = theme.inks, self.store.report, self.store.units
        polar, mass = report.results.polar, report.value("mass.auw")
        speed = report.value("speed.max") or report.value("speed.cruise")
        if polar is None or mass is None or speed is None:
            return
        air = report.results.air
        parts = shares(polar, speed, mass, air.density, air.viscosity)
        whole = sum(parts)
        words = f"{with_unit(whole, 'drag_area', units, 0)} at {with_unit(speed, 'speed', units)}"
        write(p, area.left(), area.bottom() - 16, "all of it as plates:", LABEL, inks.soft)
        write(p, area.left(), area.bottom(), words, LABEL, inks.soft)
        gap, sizes = 110.0, [math.sqrt(max(a, 0.0)) * self.scale for a in parts]
        shrink = min(1.0, (area.height() - 14) / max(*sizes, 1e-6))
        x = area.left() + 130
        step = min(gap, (area.right() - x) / len(sizes))
        for name, part, size in zip(parts._fields, parts, sizes, strict=True):
            side = size * shrink
            box = QRectF(x, area.bottom() - 14 - side, side, side)
            hot = name == "standing_out"
            p.setPen(pen(inks.predicted if hot else inks.ink, 1.2))
            p.setBrush(brush_of(inks.predicted if hot else inks.soft, 60))
            p.drawRect(box)
            p.setBrush(Qt.BrushStyle.NoBrush)
            amount = shown(part, "drag_area", units, 0)
            write(p, x + side + 5, area.bottom() - 30, amount, VALUE, inks.predicted if hot else inks.ink, bold=hot)
            write(p, x, area.bottom(), fit(_WORDS[name], step - 6, LABEL), LABEL, inks.predicted if hot else inks.soft)
            x += step

    def _draw_list(self, p: QPainter, rows: list[_Row], area: QRectF) -> None:
        inks, units = theme.inks, self.store.units
        aside = f"{units['drag_area'].symbol}, and {units['speed'].symbol} of top speed"
        heading(p, area.left(), area.top() + 12, area.width(), "In the wind", aside)
        if not rows:
            write(p, area.left(), area.top() + 40, "Nothing stands out.", VALUE, inks.soft)
            return
        fits = max(int((area.height() - 46) / _ROW), 1)
        shown_rows = rows if len(rows) <= fits else rows[: fits - 1]
        most = max(row.one.drag_area + BAND * row.one.sigma for row in rows)
        named = min(max(width_of(row.one.words, LABEL) for row in shown_rows) + 12, 0.46 * area.width())
        bar, y = area.left() + named, area.top() + 40
        wide = area.right() - 132 - bar
        marked = self.store.spot()
        for row in shown_rows:
            one = row.one
            live = marked is not None and marked.path == one.path
            rect = QRectF(area.left(), y - 15, area.width(), _ROW)
            if live:
                p.fillRect(rect, inks.wash)
            self._places.append((rect, one.path))
            ink = inks.live if live else inks.ink
            write(p, area.left() + 2, y, fit(one.words, named - 10, LABEL), LABEL, ink, bold=one.added)
            long, doubt = wide * one.drag_area / most, wide * BAND * one.sigma / most
            p.fillRect(QRectF(bar, y - 8, long, 6), brush_of(inks.live if live else inks.predicted, 150))
            p.fillRect(QRectF(bar + max(long - doubt, 0), y - 5.5, min(2 * doubt, wide - long + doubt), 1), inks.ink)
            write(p, area.right() - 70, y, shown(one.drag_area, "drag_area", units), VALUE, align="right")
            cost = "–" if row.cost is None else f"−{shown(row.cost, 'speed', units, 2)}"
            write(p, area.right(), y, cost, VALUE, align="right")
            rule(p, area.left(), y + 5, area.width())
            y += _ROW
        rest = rows[len(shown_rows) :]
        if rest:
            total = shown(sum(row.one.drag_area for row in rest), "drag_area", units)
            write(p, area.left() + 2, y, f"{len(rest)} smaller ones", LABEL, inks.soft)
            write(p, area.right() - 70, y, total, VALUE, inks.soft, align="right")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton:
            return
        path = next((path for rect, path in reversed(self._places) if rect.contains(event.position())), "")
        if path:
            self.store.select(path)
