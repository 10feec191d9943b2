"""Sheets: every piece of board nested on the builder's sheets; one large with its lines; what is written out."""

from __future__ import annotations

import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QMouseEvent, QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QFileDialog, QWidget
from shapely import Point

from ridgeline.design.cutting import Cutting, LaidPiece
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import dimension, dimension_up, fit, heading, outline, pen, rule, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.templates.nesting import Laid, Nested, Nesting, UsedSheet, faults
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.engine.templates.whole import templates_of
from ridgeline.errors import DesignError
from ridgeline.files.template_files import write_templates
from ridgeline.units import with_unit

#: What can be written, by the words of its button.
WRITTEN = (("pdf", "PDF, whole"), ("tiles", "PDF, A4"), ("dxf", "DXF"), ("svg", "SVG"), ("lists", "Lists"),
           ("summary", "One page"))  # fmt: skip
#: Share of the height the sheets take, room between two, px; how far a hand drags before a piece follows, px.
_TALL, _APART, _SLACK = 0.56, 14, 4
_KINDS = {"score": (5.0, 3.0), "hinge": (8.0, 2.0, 2.0, 2.0), "mark": (1.5, 2.0)}


class TemplatesSheet(Sheet):
    """The sheets, a piece, and what is written."""

    key = "templates"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.found: Nested | None = None
        self.progress = 0.0
        self._of: tuple[Any, ...] | None = None
        self._laying: Nesting | None = None
        self._steps: Iterator[float] | None = None
        self._chosen = ""
        self._frames: list[tuple[QRectF, float, int]] = []
        self._held: tuple[Laid, int, QPointF] | None = None
        self._moved = QPointF()
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._step)
        self.write_buttons = []
        for kind, words in WRITTEN:
            button = RuledButton(self, words)
            button.setAccessibleName(f"write {words}")
            button.clicked.connect(lambda _=False, k=kind: self.ask_folder(k))
            self.write_buttons.append(button)

    # -- laying out, a piece at a time, so that the window stays live -------------------------------------------------

    @property
    def laying(self) -> bool:
        """Tell whether pieces are being laid."""
        return self._steps is not None

    def _wanted(self) -> tuple[Any, ...]:
        design = self.store.design
        return design.surfaces, design.bodies, design.parts, design.cutting

    def begin(self) -> None:
        """Lay the pieces anew where what they hang on has changed."""
        wanted = self._wanted()
        if self._of is not None and all(a is b for a, b in zip(self._of, wanted, strict=True)):
            return
        self._of = wanted
        design: Design = self.store.design
        patterns = templates_of(design, self.store.report)
        self._laying = Nesting(patterns, design.cutting)
        self._steps = self._laying.steps()
        self.progress = 0.0
        self._timer.start()

    def _step(self) -> None:
        share = None if self._steps is None else next(self._steps, None)
        if share is None:
            self._finish()
        else:
            self.progress = share
            self.update(0, 0, self.width(), 34)

    def finish_now(self) -> None:
        """Lay all of it without waiting for the event loop, for pictures and tests."""
        self.begin()
        if self._steps is not None:
            for share in self._steps:
                self.progress = share
            self._finish()

    def _finish(self) -> None:
        self._timer.stop()
        if self._laying is not None:
            self.found = self._laying.result()
        self._laying, self._steps = None, None
        self.refresh()

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
        if self.laying:
            return f"laying the pieces out, {100 * self.progress:.0f} %"
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

    def refresh(self) -> None:
        if self.isVisible() and not self.empty:
            self.begin()
        super().refresh()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        if not self.empty:
            self.begin()

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
        for k in range(len(cutting.sheets)):
            rows += [Dimension(f"Sheet {k + 1}: across", f"cutting.sheets[{k}].width"),
                     Dimension(f"Sheet {k + 1}: along", f"cutting.sheets[{k}].length"),
                     Dimension(f"Sheet {k + 1}: on hand", f"cutting.sheets[{k}].count")]  # fmt: skip
        acts: tuple[Any, ...] = ()
        if cutting.laid:
            acts = (("Lay all anew", lambda: self.store.put("cutting.laid", (), "Lay all pieces anew")),)
        return Selection("cutting", tuple(rows), acts)

    # -- drawing ------------------------------------------------------------------------------------------------------

    @property
    def _low(self) -> float:
        return 40 + _TALL * (self.height() - 40)

    def arrange(self) -> None:
        room = self.width() - 2 * PAD
        each = min((room - 8 * (len(self.write_buttons) - 1)) / len(self.write_buttons), 130)
        for k, button in enumerate(self.write_buttons):
            button.setVisible(self.found is not None and bool(self.found.sheets))
            button.setGeometry(int(PAD + k * (each + 8)), self.height() - 36, int(each), 26)

    def draw(self, p: QPainter) -> None:
        self._frames = []
        if self.found is None:
            return
        if not self.found.sheets:
            words = "Nothing of it is cut from board: say how it is built at the Shape, or print it."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        self._draw_sheets(p, self.found.sheets)
        shown = self.shown
        if shown is not None:
            wide = 0.56 * (self.width() - 3 * PAD)
            area = QRectF(PAD, self._low + 20, wide, self.height() - self._low - 66)
            self._draw_piece(p, shown[0].pattern, shown[1], area)
            self._draw_list(p, QRectF(2 * PAD + wide, self._low + 20, self.width() - 3 * PAD - wide, area.height()))

    def _draw_sheets(self, p: QPainter, sheets: tuple[UsedSheet, ...]) -> None:
        """Draw the sheets side by side, all to one scale."""
        inks = theme.inks
        tall = self._low - 76
        widest = math.fsum(sheet.stock.width for sheet in sheets)
        room = self.width() - 2 * PAD - _APART * (len(sheets) - 1)
        self.scale = min(tall / max(sheet.stock.length for sheet in sheets), room / widest)
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
            x = frame.right() + _APART
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
        for line in one.pattern.lines:
            _dashed(p, self._at(frame, one.points(line.points)), line.kind)
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
        room = area.adjusted(24, 30, -52, -26)
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
        for line in pattern.lines:
            _dashed(p, at(line.points), line.kind)
        right, top = left + (high_x - low_x) * scale, room.top()
        dimension(p, left, right, bottom + 14, self.length(high_x - low_x))
        dimension_up(p, right + 14, top, bottom, self.length(high_y - low_y))
        for label in pattern.labels[1:]:
            (spot,) = at([(label.x, label.y)])
            write(p, spot.x(), spot.y(), fit(label.text, 130, LABEL), LABEL, inks.ink, align="centre", halo=True)

    def _draw_list(self, p: QPainter, area: QRectF) -> None:
        """List the sheets: what lies on each, what of it is used, and the offcut that is left."""
        inks, found = theme.inks, self.found
        assert found is not None
        unit = self.store.units["length"].symbol
        heading(p, area.left(), area.top(), area.width(), "Sheets", f"pieces, used, offcut {unit}", strong=False)
        y = area.top() + 24
        for k, sheet in enumerate(found.sheets):
            if y > area.bottom():
                break
            write(p, area.left(), y, f"{k + 1}", LABEL, inks.soft)
            size = f"{self.length(sheet.stock.width)} × {self.length(sheet.stock.length)}"
            write(p, area.left() + 16, y, fit(size, area.width() - 170, VALUE), VALUE)
            write(p, area.right() - 128, y, f"{len(sheet.laid)}", VALUE, inks.ink, align="right")
            share = with_unit(sheet.share, "fraction", self.store.units, 0)
            write(p, area.right() - 78, y, share, VALUE, inks.ink, align="right")
            left = max(sheet.stock.length - sheet.reach, 0.0)
            write(p, area.right(), y, self.length(left), VALUE, inks.soft, align="right")
            rule(p, area.left(), y + 5, area.width())
            y += 20
        if found.left and y < area.bottom():
            names = ", ".join(one.name for one in found.left)
            write(p, area.left(), y, fit(f"on no sheet: {names}", area.width(), LABEL), LABEL, inks.stop)
            y += 18
        for words in ("solid: cut through; long dashes: hinge", "dashes: score and fold; dots: marks"):
            if y < area.bottom():
                write(p, area.left(), y + 2, fit(words, area.width(), LABEL), LABEL, inks.soft)
                y += 15

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
            self.lay(one.pattern.key, sheet, one.x + moved.x(), one.y + moved.y(), one.turn)

    def lay(self, key: str, sheet: int, x: float, y: float, turn: float) -> None:
        """Lay a piece by hand: the others make room."""
        others = tuple(one for one in self.store.design.cutting.laid if one.piece != key)
        mine = LaidPiece(piece=key, sheet=sheet, x=round(x, 5), y=round(y, 5), turn=turn)
        self.store.edit([Change("cutting.laid", (*others, mine))], "Lay a piece by hand")

    def ask_folder(self, kind: str) -> None:
        """Ask for a folder, and write into it."""
        name = QFileDialog.getExistingDirectory(self, "Folder for the templates")
        if name:
            self.write_into(kind, Path(name))

    def write_into(self, kind: str, folder: Path) -> None:
        """Write one kind of file into a folder, and say so or why not."""
        try:
            places = write_templates(self.store.design, self.store.report, kind, folder)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        more = f" and {len(places) - 1} more" if len(places) > 1 else ""
        self.store.noted.emit(f"Wrote {places[0].name}{more}")


def _dashed(p: QPainter, spots: list[QPointF], kind: str) -> None:
    """Draw a line of a piece as its kind is drawn."""
    inks = theme.inks
    # A pen of its own: those that are handed out are shared.
    ink = QPen(pen(inks.ink if kind == "cut" else inks.soft if kind == "mark" else inks.live, 1.0))
    if kind in _KINDS:
        ink.setDashPattern(list(_KINDS[kind]))
    p.setPen(ink)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPolyline(spots)
