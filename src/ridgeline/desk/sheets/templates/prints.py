"""Prints: every part to print as it stands on the bed, one large with its sizes, and the list of all of them."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPixmap

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import fit, heading, outline, path_of, pen, rule, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.templates.strip import TALL, ExportStrip
from ridgeline.desk.solid_paint import paint_mesh
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.geometry.solid import seen
from ridgeline.engine.templates.prints import Print, together
from ridgeline.engine.templates.solids import bounds_of, mesh_of
from ridgeline.units import with_unit

#: How many parts stand abreast, and how tall their row is, px; where the eye stands, rad; a row of the list, px;
#: a long triangle is cut to this share of a part for its picture, so that what lies behind is drawn behind.
_ABREAST, _CELL, _EYE, _ROW, _FINE = 8, 96, (0.62, 0.5), 18, 0.12
#: A list narrower than this names no material, px; rows of parts take this share of the sheet, none taller, px.
_NARROW, _CELLS, _MOST_CELL = 430, 0.40, 150
#: A part that takes less of its bed than this is drawn large, its bed small beside it; how large that is, px.
_SMALL, _BED = 0.4, 84


class TemplatesPrintsSheet(Sheet):
    """What is printed."""

    key = "templates.prints"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.strip = ExportStrip(self)
        self.laying = self.strip.laying
        self.laying.changed.connect(self.anew)
        self._chosen = ""
        self._from = 0
        self._cells: list[tuple[QRectF, Print]] = []
        self._pictures: dict[tuple[Any, ...], QPixmap] = {}

    def anew(self) -> None:
        """Show what is known by now."""
        self.update()

    # -- what is shown ------------------------------------------------------------------------------------------------

    @property
    def parts(self) -> tuple[Print, ...]:
        """The print list."""
        return () if self.empty else self.laying.prints

    @property
    def shown(self) -> Print | None:
        """The part that is shown large: the chosen one, else the first."""
        parts = self.parts
        return next((one for one in parts if one.key == self._chosen), parts[0] if parts else None)

    def choose(self, key: str) -> None:
        """Show a part large."""
        self._chosen = key
        self.store.selected.emit()
        self.refresh()

    def subtitle(self) -> str:
        parts = self.parts
        if not parts:
            return "nothing of it is printed"
        mass, (fast, slow) = together(parts)
        large = sum(not one.fits for one in parts)
        told = f"{sum(one.count for one in parts)} parts, {with_unit(mass, 'mass', self.store.units, 0)}"
        told += f", {_hours(fast)} to {_hours(slow)} h"
        return told + (f"; {large} larger than the bed" if large else "")

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        rows = (
            Dimension("Bed, across", "printer.width"),
            Dimension("Bed, deep", "printer.depth"),
            Dimension("Over the bed", "printer.height"),
            Dimension("Left over a part", "printer.clear"),
            Dimension("Rods in their channels", "printer.clearance"),
        )
        return Selection("printer", rows)

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self.strip.arrange()

    @property
    def _rows(self) -> int:
        room = self.height() - TALL - 260
        return max(min(math.ceil(len(self.parts) / _ABREAST), int(room // _CELL)), 1)

    @property
    def _cell(self) -> float:
        """How tall a row of parts is, px: taller where there are few."""
        return max(min(_MOST_CELL, _CELLS * (self.height() - TALL) / self._rows), _CELL)

    def draw(self, p: QPainter) -> None:
        self.strip.draw(p)
        self._cells = []
        parts, shown = self.parts, self.shown
        if shown is None:
            words = "A printed surface or body, a motor or a control makes parts to print."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        wide, tall = (self.width() - 2 * PAD) / _ABREAST, self._cell
        fits = _ABREAST * self._rows
        # A page of parts that holds the chosen one.
        self._from = parts.index(shown) // fits * fits
        for k, part in enumerate(parts[self._from : self._from + fits]):
            cell = QRectF(PAD + (k % _ABREAST) * wide, 38 + (k // _ABREAST) * tall, wide - 4, tall - 4)
            self._cells.append((cell, part))
            self._draw_cell(p, part, cell, chosen=part is shown)
        top = 38 + self._rows * tall + 18
        tall = self.height() - TALL - top - 6
        left = 0.32 * (self.width() - 3 * PAD)
        self._draw_part(p, shown, QRectF(PAD, top, left, tall))
        self._draw_list(p, QRectF(2 * PAD + left, top, self.width() - 3 * PAD - left, tall))

    def _draw_cell(self, p: QPainter, part: Print, cell: QRectF, *, chosen: bool) -> None:
        inks = theme.inks
        if chosen:
            p.fillRect(cell, inks.wash)
            p.fillRect(QRectF(cell.left(), cell.top(), 3, cell.height()), inks.live)
        room = cell.adjusted(10, 4, -8, -30)
        p.drawPixmap(room.topLeft(), self._picture(part, room.width(), room.height()))
        name = _short(part.name.partition(": ")[2] or part.name, sided=False)
        ink = inks.live if chosen else inks.ink if part.fits else inks.stop
        write(p, cell.center().x(), cell.bottom() - 17, fit(name, cell.width() - 8, LABEL), LABEL, ink, align="centre")
        told = with_unit(part.mass, "mass", self.store.units, 1) + (f", {part.count} of it" if part.count > 1 else "")
        told += {1: ", stbd.", -1: ", port", 0: ""}[part.hand]
        told = fit(told, cell.width() - 4, LABEL)
        write(p, cell.center().x(), cell.bottom() - 4, told, LABEL, inks.soft, align="centre")

    def _picture(self, part: Print, wide: float, tall: float) -> QPixmap:
        """Return a part's picture, painted once for each size and paper."""
        ratio = self.devicePixelRatioF()
        key = (part.key, id(part.body), round(wide), round(tall), theme.dark, ratio)
        found = self._pictures.get(key)
        if found is None:
            if len(self._pictures) > 200:
                self._pictures.clear()
            found = QPixmap(max(round(wide * ratio), 1), max(round(tall * ratio), 1))
            found.setDevicePixelRatio(ratio)
            found.fill(Qt.GlobalColor.transparent)
            painter = QPainter(found)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            low, high = bounds_of(part.body)
            fine = part.body.refine_to_length(float(np.max(high - low)) * _FINE)
            paint_mesh(painter, QRectF(1, 1, wide - 2, tall - 2), *mesh_of(fine), *_EYE)
            painter.end()
            self._pictures[key] = found
        return found

    def _draw_part(self, p: QPainter, part: Print, area: QRectF) -> None:
        """Draw a part large on its bed, with its sizes and what is to be known of it."""
        inks = theme.inks
        heading(p, area.left(), area.top(), area.width(), fit(part.name, area.width() - 90), part.material)
        notes = [(row, note in part.warnings) for note in part.notes for row in wrap(note, area.width(), LABEL)][:4]
        low, high = bounds_of(part.body)
        size = high - low
        told = " × ".join(self.length(value / 1000) for value in size)
        y = area.bottom() - 4
        for words, warned in reversed(notes):
            write(p, area.left(), y, words, LABEL, inks.look if warned or not part.fits else inks.soft)
            y -= 14
        write(p, area.left(), y, f"{told} {self.store.units['length'].symbol}", LABEL, inks.ink)
        room = QRectF(area.left() + 6, area.top() + 18, area.width() - 12, y - area.top() - 36)
        if room.height() < 30:
            return
        small = float(size[:2].max()) < _SMALL * 1000 * min(self.store.design.printer.width,
                                                            self.store.design.printer.depth)  # fmt: skip
        if small:
            inset = QRectF(room.right() - _BED, room.top(), _BED, 0.6 * _BED)
            self._draw_on_bed(p, part, inset)
            # Under its bed, as large as the room takes.
            self._put(p, part, room.adjusted(6, 0.6 * _BED + 8, -6, 0))
        else:
            self._draw_on_bed(p, part, room)

    def _put(self, p: QPainter, part: Print, room: QRectF) -> None:
        """Draw a part as large as a room takes, in its middle."""
        if room.height() > 4 and room.width() > 4:
            p.drawPixmap(room.topLeft(), self._picture(part, room.width(), room.height()))

    def _draw_on_bed(self, p: QPainter, part: Print, room: QRectF) -> None:
        """Draw the bed, and a part in the middle of it, to one scale."""
        inks, printer = theme.inks, self.store.design.printer
        low, high = bounds_of(part.body)
        bed = 1000 * np.array([(0, 0, 0), (printer.width, 0, 0), (printer.width, printer.depth, 0),
                               (0, printer.depth, 0)])  # fmt: skip
        bed = bed + np.append(0.5 * (low + high)[:2] - 0.5 * bed[2, :2], 0.0)
        corners = np.array([(x, y, z) for x in (low[0], high[0]) for y in (low[1], high[1]) for z in (0, high[2])])
        flat = np.concatenate([seen(bed, *_EYE), seen(corners, *_EYE)])
        least, most = flat.min(axis=0), flat.max(axis=0)
        scale = float(min(room.width() / (most - least)[0], room.height() / (most - least)[1]))
        middle = np.array([room.center().x(), room.center().y()])
        spots = (seen(bed, *_EYE) - 0.5 * (least + most)) * scale + middle
        outline(p, path_of([(float(a), float(b)) for a, b in spots]), inks.hair, 1.0, inks.ruler)
        mine = (seen(corners, *_EYE) - 0.5 * (least + most)) * scale + middle
        a, b = mine.min(axis=0), mine.max(axis=0)
        self._put(p, part, QRectF(float(a[0]) - 1, float(a[1]) - 1, float(b[0] - a[0]) + 2, float(b[1] - a[1]) + 2))

    def _draw_list(self, p: QPainter, area: QRectF) -> None:
        """List the parts: of what, how many, walls, infill, mass and hours."""
        inks, units = theme.inks, self.store.units
        symbol = units["mass"].symbol
        heading(p, area.left(), area.top(), area.width(), "Print list", f"of one: {symbol}, h:min", strong=False)
        parts, shown = self.parts, self.shown
        assert shown is not None
        right = area.right()
        columns = {"time": right, "mass": right - 84, "infill": right - 126, "walls": right - 168, "n": right - 208}
        # On a narrow sheet the material is told of the part that is shown alone.
        material = columns["n"] - (0.46 * (area.width() - 208) if area.width() > _NARROW else 14)
        y = area.top() + 22
        for words, at in (("walls", columns["walls"]), ("infill", columns["infill"]), ("n", columns["n"])):
            write(p, at, y, words, LABEL, inks.soft, align="right")
        fits = max(int((area.height() - 50) // _ROW), 1)
        start = min(max(parts.index(shown) - fits // 2, 0), max(len(parts) - fits, 0))
        for part in parts[start : start + fits]:
            y += _ROW
            ink = inks.live if part is shown else inks.ink if part.fits else inks.stop
            self._cells.append((QRectF(area.left(), y - 13, area.width(), _ROW), part))
            write(p, area.left(), y, fit(_short(part.name), material - area.left() - 8, LABEL), LABEL, ink)
            if area.width() > _NARROW:
                write(p, material, y, fit(part.material, columns["n"] - material - 14, LABEL), LABEL, inks.soft)
            write(p, columns["n"], y, f"{part.count}", LABEL, ink, align="right")
            write(p, columns["walls"], y, f"{part.walls:g}", LABEL, inks.soft, align="right")
            write(p, columns["infill"], y, f"{100 * part.infill:.0f} %", LABEL, inks.soft, align="right")
            grams = f"{part.mass * units['mass'].factor:.1f}"
            write(p, columns["mass"], y, grams, LABEL, ink, align="right")
            span = f"{_hours(part.hours.fast)}–{_hours(part.hours.slow)}"
            write(p, columns["time"], y, span, LABEL, ink, align="right")
            rule(p, area.left(), y + 4, area.width())
        y += _ROW
        mass, (fast, slow) = together(parts)
        rest = f"together, {len(parts) - fits} more than shown" if len(parts) > fits else "together"
        write(p, area.left(), y, rest, LABEL, inks.soft)
        write(p, columns["mass"], y, f"{mass * units['mass'].factor:.1f}", LABEL, bold=True, align="right")
        write(p, columns["time"], y, f"{_hours(fast)}–{_hours(slow)}", LABEL, bold=True, align="right")
        p.setPen(pen(inks.hair, 1))

    # -- by hand ------------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() == Qt.MouseButton.LeftButton:
            hit = next((part for cell, part in self._cells if cell.contains(event.position())), None)
            if hit is not None:
                self.choose(hit.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}.get(
            Qt.Key(event.key()))  # fmt: skip
        shown = self.shown
        if step is None or shown is None:
            super().keyPressEvent(event)
        else:
            parts = self.parts
            self.choose(parts[(parts.index(shown) + step) % len(parts)].key)


def _short(name: str, *, sided: bool = True) -> str:
    """Return the name of a part as a narrow column takes it."""
    for side, short in ((", starboard", ", stbd."), (", port", ", port")):
        name = name.replace(side, short if sided else "")
    return name.replace("panel front", "front").replace("panel rear", "rear").replace("panel middle", "middle")


def _hours(hours: float) -> str:
    """Return hours as they are read on a clock, a minute at least."""
    minutes = max(round(60 * hours), 1)
    return f"{minutes // 60}:{minutes % 60:02d}"
