"""Versions as a strip of silhouettes, each over the one before, dashed; a press chooses, two of them are compared."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.design.versions import Version
from ridgeline.desk.album import Album
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import Same, fit, line, pen, still, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme

#: A cell is at least so wide, px; room under the silhouette for its two lines.
_LEAST, _WORDS = 96, 34


class VersionStrip(QWidget):
    """The versions, newest last. ``picked`` tells which one is chosen, ``paired`` which two."""

    picked = Signal(int)
    paired = Signal(int, int)

    def __init__(self, parent: QWidget, store: Store, album: Album) -> None:
        super().__init__(parent)
        self._store, self._album = store, album
        self.chosen, self._first = 0, 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("versions")

    @property
    def versions(self) -> tuple[Version, ...]:
        """Those kept, oldest first."""
        return self._store.design.versions

    def shown(self) -> int:
        """Return how many stand side by side."""
        return max(min(int(self.width() // _LEAST), max(len(self.versions), 1)), 1)

    def renew(self) -> None:
        """Show the versions of the design as it is now, the newest in view."""
        if not any(one.number == self.chosen for one in self.versions):
            self.chosen = self.versions[-1].number if self.versions else 0
        place = next((k for k, one in enumerate(self.versions) if one.number == self.chosen), 0)
        many = self.shown()
        self._first = min(max(self._first, place - many + 1), place, max(len(self.versions) - many, 0))
        chosen = self.versions[place] if self.versions else None
        told = "none kept yet" if chosen is None else f"version {chosen.number}, {chosen.name}, chosen"
        self.setAccessibleName(f"versions: {told}")
        self.update()

    def choose(self, number: int) -> None:
        """Choose a version."""
        self.chosen = number
        self.renew()
        self.picked.emit(number)

    def _at(self, x: float) -> int | None:
        place = self._first + int(x // (self.width() / self.shown()))
        return self.versions[place].number if 0 <= place < len(self.versions) else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        number = self._at(event.position().x())
        if number is None:
            return
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and self.chosen and number != self.chosen:
            self.paired.emit(min(self.chosen, number), max(self.chosen, number))
            return
        self.choose(number)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._compare()

    def _compare(self) -> None:
        """Compare the chosen version with the one before it."""
        numbers = [one.number for one in self.versions]
        if self.chosen in numbers:
            place = numbers.index(self.chosen)
            self.paired.emit(numbers[max(place - 1, 0)], self.chosen)

    def wheelEvent(self, event: QWheelEvent) -> None:
        step = -1 if event.angleDelta().y() > 0 else 1
        self._first = min(max(self._first + step, 0), max(len(self.versions) - self.shown(), 0))
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        numbers = [one.number for one in self.versions]
        place = numbers.index(self.chosen) if self.chosen in numbers else 0
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and numbers:
            step = -1 if event.key() == Qt.Key.Key_Left else 1
            self.choose(numbers[min(max(place + step, 0), len(numbers) - 1)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._compare()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self.versions:
            words = "None kept yet. Ctrl+K “Keep this version”, or log a flight: what flew is kept by itself."
            write(p, 0, 22, fit(words, self.width()), VALUE, inks.soft)
            return
        wide = self.width() / self.shown()
        for k, version in enumerate(self.versions[self._first : self._first + self.shown()]):
            self._draw(p, QRectF(k * wide, 0, wide, self.height()), self._first + k, version)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))

    def _draw(self, p: QPainter, cell: QRectF, place: int, version: Version) -> None:
        inks, live = theme.inks, version.number == self.chosen
        if live:
            p.fillRect(cell.adjusted(1, 0, 0, 0), inks.wash)
        if place > self._first:
            line(p, cell.left() + 0.5, 0, cell.left() + 0.5, cell.height(), inks.hair)
        ink = inks.live if live else inks.ink
        write(p, cell.left() + 8, 15, f"{version.number}", VALUE, ink, True)
        flown = self._flown(version.number)
        write(p, cell.right() - 6, 15, flown, LABEL, inks.measured, align="right")
        foot = cell.bottom() - _WORDS
        write(p, cell.left() + 8, foot + 13, fit(version.name or "no name", cell.width() - 14, LABEL), LABEL, ink)
        told = version.note or version.day
        write(p, cell.left() + 8, foot + 27, fit(told, cell.width() - 14, LABEL), LABEL, inks.soft)
        design = self._album.design(version.number)
        before = self._album.design(self.versions[place - 1].number) if place else None
        if design is None:
            write(p, cell.left() + 8, foot - 8, "cannot be read", LABEL, inks.stop)
            return
        room = QRectF(cell.left() + 18, 6, cell.width() - 26, foot - 6)
        key = ("version", Same(design), Same(before), live)
        still(p, room, key, lambda painter: draw_silhouette(painter, room, design, before, live=live))

    def _flown(self, number: int) -> str:
        """Return which flights a version flew, such as 1–3."""
        places = [k for k, flight in enumerate(self._store.design.flights, 1) if flight.version == number]
        if not places:
            return ""
        return f"{places[0]}" if len(places) == 1 else f"{places[0]}–{places[-1]}"


def draw_silhouette(p: QPainter, room: QRectF, design: Design, before: Design | None, *, live: bool) -> None:
    """Draw an aircraft from above, over the one before it, dashed, both to one scale and by one datum."""
    inks = theme.inks
    boxes = [extent(one, "plan") for one in (design, before) if one is not None and one.surfaces]
    if not boxes:
        return
    whole = boxes[0]
    for box in boxes[1:]:
        whole = whole.united(box)
    scale = min(room.width() / max(whole.width(), 1e-3), room.height() / max(whole.height(), 1e-3))
    across = room.center().x() - whole.center().x() * scale
    view = View("plan", across, room.center().y() - whole.center().y() * scale, scale)
    if before is not None and before.surfaces:
        draw_aircraft(p, before, view, ghost=True, ink=inks.soft)
    if design.surfaces:
        draw_aircraft(p, design, view, ink=inks.live if live else inks.ink, width=1.0)
