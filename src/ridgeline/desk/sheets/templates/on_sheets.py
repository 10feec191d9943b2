"""Sheets: every piece of board nested on the builder's sheets; one large with its lines; what is written out."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget
from shapely import Point

from ridgeline.design.cutting import Cutting, LaidPiece
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import (
    arrow_head,
    dimension,
    dimension_up,
    fit,
    heading,
    line,
    outline,
    pen,
    write,
)
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.templates.piece_lines import draw_fold, draw_line
from ridgeline.desk.sheets.templates.sheet_list import draw_list, draw_rest, draw_tiles
from ridgeline.desk.sheets.templates.strip import TALL, ExportStrip
from ridgeline.desk.sheets.templates.where import WhereItSits
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.templates.nesting import Laid, Nested, UsedSheet, faults
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.units import with_unit

#: Share of the height the sheets take, room between two, px; how far a hand drags before a piece follows, px.
_TALL, _APART, _SLACK = 0.64, 14, 4
#: How wide the insets of folds are, px.
_INSET = 96


class TemplatesSheet(Sheet):
    """The sheets, a piece, where it sits, and what is written."""

    key = "templates"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.strip = ExportStrip(self)
        self.laying = self.strip.laying
        self.laying.changed.connect(self._anew)
        self.laying.moved.connect(self._tell)
        for cell in self.strip.cells:
            cell.rested.connect(self.preview)
        self.previewed = ""
        self._chosen = ""
        self._frames: list[tuple[QRectF, float, int]] = []
        self._held: tuple[Laid, int, QPointF] | None = None
        self._moved = QPointF()
        self.where = WhereItSits(store)

    def preview(self, kind: str) -> None:
        """Show what comes out of a kind of file: pages of tiles over the sheets."""
        self.previewed = kind
        self.update()

    def _tell(self) -> None:
        """Tell how far it has come."""
        self.update(0, 0, self.width(), 34)

    def _anew(self) -> None:
        """Follow pieces that lie otherwise: what can be done with them is other too."""
        if self.isVisible():
            super().refresh()
            self.store.selected.emit()

    @property
    def found(self) -> Nested | None:
        """The pieces as they lie."""
        return self.laying.found

    def finish_now(self) -> None:
        """Lay all of it without waiting for the event loop, for pictures and tests."""
        self.laying.finish_now()

    # -- what is shown ------------------------------------------------------------------------------------------------

    @property
    def shown(self) -> tuple[Laid, int] | None:
        """The piece that is shown large, and the sheet it lies on: the chosen one, else the largest."""
        if self.found is None or not self.found.sheets:
            return None
        every = [(one, k) for k, sheet in enumerate(self.found.sheets) for one in sheet.laid]
        return next((row for row in every if row[0].pattern.key == self._chosen), every[0])

    def choose(self, key: str) -> None:
        """Show a piece large."""
        self._chosen = key
        self.store.select("")
        self.store.selected.emit()
        self.refresh()

    def subtitle(self) -> str:
        if self.laying.busy:
            doing = "packing tighter" if self.laying.packing else "laying the pieces out"
            return f"{doing}, {100 * self.laying.progress:.0f} %"
        if self.found is None:
            return ""
        if not self.found.sheets and not self.found.left:
            return "no piece is cut from sheet"
        many = len(self.found.sheets)
        used = with_unit(self.found.share, "fraction", self.store.units, 0)
        told = f"{many} sheets, {used} of them" if many != 1 else f"one sheet, {used} of it"
        if self.found.left:
            return f"{told}; {len(self.found.left)} pieces on none of them"
        wrong = faults(self.found, self.store.design.cutting)
        return f"{told}; {wrong[0]}" if wrong else told

    def _stock_shown(self) -> int | None:
        """Return which of the builder's sheets the piece that is shown lies on, by its index."""
        sheets = self.store.design.cutting.sheets
        if self.shown is None or self.found is None:
            return 0 if sheets else None
        stock = self.found.sheets[self.shown[1]].stock
        return next((k for k, one in enumerate(sheets) if one == stock), 0 if sheets else None)

    def refresh(self) -> None:
        if self.isVisible() and not self.empty:
            self.laying.begin()
        super().refresh()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        if not self.empty:
            self.laying.begin()

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        cutting: Cutting = self.store.design.cutting

        def grained(value: str) -> None:
            self.store.put("cutting.grain", value == "along", "The grain")

        rows = [
            Dimension("Kerf", "cutting.kerf"),
            Dimension("Between pieces", "cutting.gap"),
            Dimension("From the edge", "cutting.edge"),
            Dimension("Pieces lie", read=lambda: "along" if cutting.grain else "any", choose=grained,
                      choices=(("along", "along the grain"), ("any", "any of four ways"))),
        ]  # fmt: skip
        k = self._stock_shown()
        if k is not None:
            of = cutting.sheets[k].material or "sheets of any board"
            rows += [Dimension("From", read=lambda: of, words=True),
                     Dimension("Sheet, across", f"cutting.sheets[{k}].width"),
                     Dimension("Sheet, along", f"cutting.sheets[{k}].length"),
                     Dimension("On hand", f"cutting.sheets[{k}].count"),
                     Dimension("Price of one", f"cutting.sheets[{k}].price")]  # fmt: skip
        acts: list[Any] = []
        if self.laying.packing:
            acts.append(("Stop packing", self.laying.stop))
        elif self.laying.can_pack:
            acts.append(("Pack tighter", self.laying.pack))
        if self.shown is not None and not self.laying.packing:
            acts.append(("Turn it (T)", self.turn))
        if cutting.laid:
            acts.append(("Lay all anew", lambda: self.store.put("cutting.laid", (), "Lay all pieces anew")))
        return Selection("cutting", tuple(rows), tuple(acts))

    # -- drawing ------------------------------------------------------------------------------------------------------

    @property
    def _low(self) -> float:
        """Where the sheets end, and what is told of one piece begins, px."""
        most = 40 + _TALL * (self.height() - 40 - TALL)
        sheets = () if self.found is None else self.found.sheets
        if not sheets:
            return most
        widest = math.fsum(sheet.stock.width for sheet in sheets)
        room = self.width() - 2 * PAD - _APART * (len(sheets) - 1)
        longest = max(sheet.stock.length for sheet in sheets)
        self.scale = min((most - 76) / longest, room / widest)
        return 76 + longest * self.scale

    def arrange(self) -> None:
        self.strip.arrange()

    def draw(self, p: QPainter) -> None:
        self._frames = []
        self.strip.draw(p)
        if self.found is None:
            return
        if not self.found.sheets:
            words = "Nothing of it is cut from board: say how it is built at the Shape, or print it."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        low = self._low
        self._draw_sheets(p, self.found.sheets)
        shown = self.shown
        if shown is not None:
            wide = 0.56 * (self.width() - 3 * PAD)
            top, tall = low + 20, self.height() - TALL - low - 30
            self._draw_piece(p, shown[0].pattern, shown[1], QRectF(PAD, top, wide, tall))
            left, room = 2 * PAD + wide, self.width() - 3 * PAD - wide
            self.where.draw(p, shown[0].pattern, QRectF(left, top, 0.40 * room, tall))
            draw_list(self, p, self.found, QRectF(left + 0.40 * room + PAD, top, 0.60 * room - PAD, tall))

    def _draw_sheets(self, p: QPainter, sheets: tuple[UsedSheet, ...]) -> None:
        """Draw the sheets side by side, all to one scale."""
        inks = theme.inks
        x = float(PAD)
        for k, sheet in enumerate(sheets):
            frame = QRectF(x, 58, sheet.stock.width * self.scale, sheet.stock.length * self.scale)
            self._frames.append((frame, self.scale, k))
            write(p, x, 50, f"{k + 1}", LABEL, inks.ink, bold=True)
            share = with_unit(sheet.share, "fraction", self.store.units, 0)
            if frame.width() > 60:
                write(p, frame.right(), 50, share, LABEL, inks.soft, align="right")
            p.setPen(pen(inks.hair, 1))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(frame)
            for one in sheet.laid:
                self._draw_laid(p, one, frame)
            draw_rest(self, p, sheet, frame, self.scale)
            if self.previewed == "tiles" and self.found is not None:
                draw_tiles(p, self.found, sheet, frame, self.scale)
            arrow_head(p, frame.right() - 8, frame.top() + 8, 0.0, -1.0, inks.soft)
            line(p, frame.right() - 8, frame.top() + 10, frame.right() - 8, frame.top() + 26, inks.soft)
            x = frame.right() + _APART
        if x < self.width() - 150:
            write(p, x + 6, 66, "arrows: the grain", LABEL, inks.soft)
            write(p, x + 6, 82, fit("drag a piece, T turns it", self.width() - x - 20, LABEL), LABEL, inks.soft)
        if self._held is not None:
            one, k, _start = self._held
            frame = self._frames[k][0]
            self._draw_laid(p, one._replace(x=one.x + self._moved.x(), y=one.y + self._moved.y()), frame, held=True)

    def _at(self, frame: QRectF, points: Any) -> list[QPointF]:
        return [QPointF(frame.left() + x * self.scale, frame.bottom() - y * self.scale) for x, y in points]

    def _draw_laid(self, p: QPainter, one: Laid, frame: QRectF, *, held: bool = False) -> None:
        inks = theme.inks
        shape = one.shape()
        path = QPainterPath()
        for ring in (shape.exterior, *shape.interiors):
            spots = self._at(frame, np.asarray(ring.coords))
            path.moveTo(spots[0])
            for spot in spots[1:]:
                path.lineTo(spot)
        chosen = self.shown is not None and one.pattern.key == self.shown[0].pattern.key
        outline(p, path, inks.live if chosen or held else inks.ink, 1.6 if chosen else 1.0,
                inks.wash if chosen else inks.fill)  # fmt: skip
        for mark in one.pattern.lines:
            draw_line(p, self._at(frame, one.points(mark.points)), mark.kind)
        box = path.boundingRect()
        name = one.pattern.name.partition(": ")[2] or one.pattern.name
        longest = max(box.width(), box.height())
        if min(box.width(), box.height()) > 16 and longest > 40:
            p.save()
            p.translate(box.center())
            if box.height() > box.width():
                p.rotate(-90)
            ink = inks.live if chosen else inks.ink
            write(p, 0, 4, fit(name, longest - 8, LABEL), LABEL, ink, align="centre", halo=True)
            p.restore()

    def _draw_piece(self, p: QPainter, pattern: Pattern, sheet: int, area: QRectF) -> None:
        """Draw a piece large, with its lines, openings and sizes."""
        inks, units = theme.inks, self.store.units
        aside = f"sheet {sheet + 1}, {with_unit(pattern.mass, 'mass', units, 1)}"
        heading(p, area.left(), area.top(), area.width(), fit(pattern.name, area.width() - 110), aside)
        low_x, low_y, high_x, high_y = pattern.polygon.bounds
        folds = [kind for kind in ("score", "hinge") if any(one.kind == kind for one in pattern.lines)]
        room = area.adjusted(24, 30, -52 - (_INSET if folds else 0), -26)
        if room.width() < 40 or room.height() < 20:
            return
        scale = min(room.width() / (high_x - low_x), room.height() / (high_y - low_y))
        left, bottom = room.left(), room.top() + (high_y - low_y) * scale

        def at(points: Any) -> list[QPointF]:
            return [QPointF(left + (x - low_x) * scale, bottom - (y - low_y) * scale) for x, y in points]

        path = QPainterPath()
        for ring in (pattern.polygon.exterior, *pattern.polygon.interiors):
            spots = at(np.asarray(ring.coords))
            path.moveTo(spots[0])
            for spot in spots[1:]:
                path.lineTo(spot)
        outline(p, path, inks.live, 1.6, inks.wash)
        for mark in pattern.lines:
            draw_line(p, at(mark.points), mark.kind)
        right, top = left + (high_x - low_x) * scale, room.top()
        dimension(p, left, right, bottom + 14, self.length(high_x - low_x))
        dimension_up(p, right + 14, top, bottom, self.length(high_y - low_y))
        for label in pattern.labels[1:]:
            (spot,) = at([(label.x, label.y)])
            write(p, spot.x(), spot.y(), fit(label.text, 130, LABEL), LABEL, inks.ink, align="centre", halo=True)
        for k, kind in enumerate(folds):
            tall = 0.5 * (area.height() - 30)
            inset = QRectF(area.right() - _INSET + 8, area.top() + 26 + k * tall, _INSET - 8, tall - 6)
            square = not any(s.id == pattern.of for s in self.store.design.surfaces)
            draw_fold(p, kind, pattern, inset, self.store.units, square=square)

    # -- by hand ------------------------------------------------------------------------------------------------------

    def laid_at(self, at: QPointF) -> tuple[Laid, int] | None:
        """Return the piece at a place of the drawing, and its sheet."""
        if self.found is None:
            return None
        for frame, scale, k in self._frames:
            if frame.contains(at):
                spot = Point((at.x() - frame.left()) / scale, (frame.bottom() - at.y()) / scale)
                return next(((one, k) for one in self.found.sheets[k].laid if one.shape().contains(spot)), None)
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() == Qt.MouseButton.LeftButton and not self.empty:
            hit = self.laid_at(event.position())
            if hit is not None:
                self._held, self._moved = (*hit, event.position()), QPointF()
                self.choose(hit[0].pattern.key)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        if self._held is not None:
            way = event.position() - self._held[2]
            if abs(way.x()) + abs(way.y()) >= _SLACK:
                self._moved = QPointF(way.x() / self.scale, -way.y() / self.scale)
                self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        held, moved = self._held, self._moved
        self._held, self._moved = None, QPointF()
        if held is not None and (moved.x() or moved.y()):
            one, sheet, _start = held
            number = self.found.sheets[sheet].number if self.found is not None else sheet
            self.lay(one.pattern.key, number, one.x + moved.x(), one.y + moved.y(), one.turn)

    def lay(self, key: str, sheet: int, x: float, y: float, turn: float) -> None:
        """Lay a piece by hand: the others make room."""
        others = tuple(one for one in self.store.design.cutting.laid if one.piece != key)
        mine = LaidPiece(piece=key, sheet=sheet, x=round(x, 5), y=round(y, 5), turn=turn)
        self.store.edit([Change("cutting.laid", (*others, mine))], "Lay a piece by hand")

    def turn(self) -> None:
        """Turn the piece that is shown about its middle: half round, or a quarter where it may lie across the grain."""
        shown = self.shown
        if shown is None or self.found is None:
            return
        one, k = shown
        step = math.pi if self.store.design.cutting.grain else math.pi / 2
        turned = (one.turn + step + math.pi) % (2 * math.pi) - math.pi
        middle = np.array(one.shape().envelope.centroid.coords[0])
        new = np.array(one._replace(x=0.0, y=0.0, turn=turned).shape().envelope.centroid.coords[0])
        x, y = middle - new
        self.lay(one.pattern.key, self.found.sheets[k].number, float(x), float(y), turned)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key == Qt.Key.Key_T:
            self.turn()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.found is not None and self.found.sheets:
            keys = [one.pattern.key for sheet in self.found.sheets for one in sheet.laid]
            here = keys.index(self.shown[0].pattern.key) if self.shown is not None else 0
            self.choose(keys[(here + (1 if key == Qt.Key.Key_Right else -1)) % len(keys)])
        elif key == Qt.Key.Key_Escape and self.laying.packing:
            self.laying.stop()
        else:
            super().keyPressEvent(event)
