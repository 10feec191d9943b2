"""What every sheet has: a title line, a place for the drawing, and a layout that follows design and size."""

from __future__ import annotations

import logging

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QRegion, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.dimensions import Selection
from ridgeline.desk.paint import fit, line, write
from ridgeline.desk.stops import stop_of
from ridgeline.desk.store import Store
from ridgeline.desk.theme import HEADING, LABEL, TITLE, VALUE, theme
from ridgeline.desk.widgets.buttons import LeafButton, RuledButton
from ridgeline.engine.figures import label_of
from ridgeline.errors import DesignError
from ridgeline.units import with_unit

PAD = 16
#: What a sheet says beside its name is left out where less than this share of it has room.
_TOLD = 0.6
#: Where faults of ours are written that a sheet catches.
FAULTS = logging.getLogger("ridgeline.faults")


def mostly(words: str, room: float) -> str:
    """Return words as far as they fit into a room, px; nothing where too little of them would be left."""
    shown = fit(words, room)
    return shown if len(shown) >= _TOLD * len(words) else ""


class Sheet(QWidget):
    """Base of the sheets. Subclasses draw in ``draw`` and place their children in ``arrange``."""

    wants = Signal(str)
    #: The key of a figure whose working is wanted.
    asks = Signal(str)
    key = ""
    needs_airframe = True
    #: The figure the sentence beside the title is about: a press on it opens its working.
    known_by = ""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.store = store
        self.scale = 0.0
        self._traced: list[tuple[QRectF, str]] = []
        self._rested = ""
        self._followed: object = None
        self.setMouseTracking(True)
        self._empty_button = RuledButton(self, "Go to the Brief", bold=True)
        self._empty_button.setFixedHeight(32)
        self._empty_button.clicked.connect(lambda: self.wants.emit("brief"))
        self.leaf_buttons: dict[str, LeafButton] = {}
        self._stop = stop_of(self.key)
        for leaf in self._stop.leaves if len(self._stop.leaves) > 1 else ():
            button = LeafButton(self, leaf.word, chosen=leaf.key == self.key)
            button.clicked.connect(lambda _=False, k=leaf.key: self.wants.emit(k))
            self.leaf_buttons[leaf.key] = button
        store.changed.connect(self.refresh)
        store.ghosted.connect(self.update)
        store.selected.connect(self.refresh)

    @property
    def stop(self) -> str:
        """Return the stop of the trail this sheet belongs to."""
        return self._stop.key

    @property
    def empty(self) -> bool:
        """Tell whether there is nothing to draw yet."""
        return self.needs_airframe and not self.store.design.surfaces

    def subtitle(self) -> str:
        """Return the sentence beside the title."""
        return ""

    def selection(self) -> Selection:
        """Return what the margin's dimensions are of."""
        return Selection("", ())

    def arrange(self) -> None:
        """Place children for the present size and design."""

    def draw(self, p: QPainter) -> None:
        """Draw the sheet."""

    def follow(self, shown: object) -> None:
        """Have the margin show what the sheet is of now, where that is another than it was."""
        if shown != self._followed:
            self._followed = shown
            QTimer.singleShot(0, self, self.store.selected.emit)

    def refresh(self) -> None:
        """Follow a change of the design, if the sheet is in view."""
        if self.isVisible():
            self._arrange()
            self.update(self.drawn_region())

    def drawn_region(self) -> QRegion:
        """Return what a change of the design can alter of the drawing; the children repaint by themselves."""
        return QRegion(self.rect())

    def _arrange(self) -> None:
        for child in self.findChildren(QWidget):
            if child is not self._empty_button and child.parentWidget() is self:
                child.setVisible(not self.empty and not child.property("off"))
        self._place_leaves()
        self._empty_button.setVisible(self.empty)
        if self.empty:
            self._empty_button.setGeometry(self.width() // 2 - 110, self.height() // 2 + 6, 220, 32)
        else:
            self.arrange()

    def _place_leaves(self) -> None:
        x = self.width() - PAD
        for button in reversed(self.leaf_buttons.values()):
            x -= button.width()
            button.move(x, 6)
            button.show()
            button.raise_()
            x -= 4

    @property
    def _title_room(self) -> float:
        leaves = sum(button.width() + 4 for button in self.leaf_buttons.values())
        return self.width() - leaves - 24

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._arrange()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._arrange()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        super().mousePressEvent(event)
        key = self.figure_at(event.position())
        if key and event.button() == Qt.MouseButton.LeftButton:
            self.asks.emit(key)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self._rest_on(self.figure_at(event.position()))

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self._rest_on("")

    def _rest_on(self, key: str) -> None:
        """Underline the figure under the hand: a press opens its working."""
        if key == self._rested:
            return
        self._rested = key
        self.setCursor(Qt.CursorShape.PointingHandCursor if key else Qt.CursorShape.ArrowCursor)
        self.setToolTip(f"{label_of(key)}: press for its working" if key else "")
        self.update()

    def figure_at(self, at: QPointF) -> str:
        """Return the key of the figure written at a place, or nothing."""
        return next((key for rect, key in reversed(self._traced) if rect.contains(at)), "")

    def written(
        self,
        p: QPainter,
        x: float,
        y: float,
        words: str,
        key: str,
        size: int = VALUE,
        colour: QColor | None = None,
        *,
        bold: bool = False,
        align: str = "left",
        halo: bool = False,
    ) -> float:
        """Write words that give a figure; a press on them opens its working. Returns their width."""
        width = write(p, x, y, words, size, colour, bold, align, halo)
        left = x - {"left": 0.0, "centre": width / 2, "right": width}[align]
        self._traced.append((QRectF(left - 3, y - size, width + 6, size + 5), key))
        if key == self._rested:
            line(p, left, y + 2.5, left + width, y + 2.5, theme.inks.live)
        return width

    def document_step(self) -> float:
        """Return how many px a millimetre, or a hundredth of an inch, is on the drawing now."""
        unit = self.store.units["length"]
        return self.scale / unit.factor * 10.0**-unit.decimals

    def words(self, key: str, decimals: int | None = None) -> str:
        """Write a figure with its unit, or a dash."""
        figure = self.store.report.figures[key]
        if figure.value is None:
            return "–"
        return with_unit(figure.value, figure.quantity, self.store.units, decimals)

    def length(self, metres: float, decimals: int | None = None) -> str:
        """Write a length without its unit, as on a drawing."""
        unit = self.store.units["length"]
        return f"{metres * unit.factor:.{unit.decimals if decimals is None else decimals}f}".replace("-", "−")

    def paintEvent(self, _event: QPaintEvent) -> None:
        p = QPainter(self)
        try:
            self._paint(p)
        finally:
            # The trace of a fault keeps this frame, and with it a painter on a picture that is gone by then.
            p.end()

    def _paint(self, p: QPainter) -> None:
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), theme.inks.paper)
        self._traced.clear()
        used = write(p, PAD, 22, self._stop.name, TITLE, bold=True)
        words = mostly(self.subtitle(), self._title_room - used - 36)
        if self.known_by and not self.empty:
            self.written(p, PAD + used + 16, 22, words, self.known_by, 12, theme.inks.soft)
        else:
            write(p, PAD + used + 16, 22, words, 12, theme.inks.soft)
        if self.empty:
            self._say_empty(p)
            return
        try:
            self.draw(p)
        except Exception as error:
            # A fault of ours in a drawing costs that drawing, never the window.
            FAULTS.exception("the sheet %s was not drawn", self.key)
            self._say_why_not(p, error)

    def _say_empty(self, p: QPainter) -> None:
        middle = self.height() / 2
        write(p, self.width() / 2, middle - 34, "Nothing is laid out yet.", HEADING, bold=True, align="centre")
        words = "Set the wishes at the Brief, then lay out the airframe: it comes already near its balance."
        told = fit(words, self.width() - 40, LABEL)
        write(p, self.width() / 2, middle - 14, told, LABEL, theme.inks.soft, align="centre")

    def _say_why_not(self, p: QPainter, error: Exception) -> None:
        middle = self.height() / 2
        p.fillRect(self.rect().adjusted(0, 32, 0, 0), theme.inks.paper)
        words = "This sheet cannot be drawn for this design."
        write(p, self.width() / 2, middle - 20, words, HEADING, bold=True, align="centre")
        why = error.understood if isinstance(error, DesignError) else f"{type(error).__name__}: {error}"
        told = f"{why} Your work is safe: undo takes the last step back."
        write(p, self.width() / 2, middle, fit(told, self.width() - 40), VALUE, theme.inks.stop, align="centre")
