"""The title block: the vital figures, always on, and the name, version, scale, units and saved state."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.keeping import is_kept
from ridgeline.desk.paint import fit, line, pen, small_label, width_of, write
from ridgeline.desk.scales import Scale, nice_step, short_scale
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, SCALE_END, VALUE, VITAL, theme
from ridgeline.desk.widgets.buttons import DrawnButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.figures import Figure
from ridgeline.engine.register import TITLE_BLOCK, vital
from ridgeline.engine.report import Wanted, within
from ridgeline.units import band_shown, shown

HEIGHT = 92
MARGIN_WIDTH = 320
#: A value wider than this share of its cell leaves its band no room, and is written smaller.
_VALUE_MOST = 0.48


def scale_ends(figure: Figure, wanted: Wanted | None) -> tuple[float, float]:
    """Return the ends of a cell's scale: round numbers around the wanted range and the value (stored unit)."""
    ends = [v for v in (wanted or (None, None)) if v is not None]
    value = figure.value
    marks = [*ends, *([value] if value is not None else [])] or [0.0, 1.0]
    low, high = min(marks), max(marks)
    reach = max(high - low, 0.35 * abs(high), 1e-6)
    low, high = low - 0.45 * reach, high + 0.45 * reach
    if figure.quantity != "fraction":
        low = max(low, 0.0)
    return low, high


def value_size(words: str, cell: float) -> int:
    """Return the size a value is written at in a cell of a width, px, so that its band has room beside it."""
    return VITAL if width_of(words, VITAL) <= _VALUE_MOST * cell else VALUE


class VitalCell(DrawnButton):
    """One figure: label, value and band, and a short scale with the wanted range. Pressed, it shows its working."""

    def __init__(self, parent: QWidget, store: Store, key: str) -> None:
        super().__init__(parent)
        self._store, self.key = store, key
        self._shows: tuple[object, ...] = ()
        figure = store.report.figures[key]
        self.setCheckable(True)
        self.setAccessibleName(figure.label)
        self.setToolTip(f"{figure.label}: press for the working")

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, units = theme.inks, self._store.units
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        figure = self._store.report.figures[self.key]
        quantity = figure.quantity
        if self.isChecked() or self.underMouse() or self.hasFocus():
            p.fillRect(QRectF(0, 0, self.width(), 3), inks.live)
        line(p, self.width() - 0.5, 0, self.width() - 0.5, self.height(), inks.hair)
        write(p, 12, 19, fit(figure.label, self.width() - 16, LABEL), LABEL, inks.soft)
        wanted = self._store.report.wanted.get(self.key)
        if figure.value is None:
            write(p, 12, 42, "–", VITAL, inks.soft)
            write(p, 32, 41, "not yet", LABEL, inks.soft)
            self.setToolTip(f"{figure.label}: {figure.why_not}")
            return
        colour = self._colour(figure.value, wanted)
        told = shown(figure.value, quantity, units)
        used = write(p, 12, 42, told, value_size(told, self.width()), inks.ink)
        self._write_aside(p, 12 + used + 5, figure)
        low, high = scale_ends(figure, wanted)
        self._ghost_tick(p, low, high)
        rect = QRectF(12, self.height() - 32, self.width() - 24, 8)
        short_scale(p, rect, low, high, figure.value, (figure.below, figure.above), wanted, colour)
        step_decimals = max(0, units[quantity].decimals - 1)
        step = nice_step((high - low) * units[quantity].factor, 8)
        step_decimals = 0 if step >= 1 else min(step_decimals + 1, 2)
        ends = [shown(end, quantity, units, step_decimals) for end in (low, high)]
        left, right = 12 + width_of(ends[0], SCALE_END), self.width() - 12 - width_of(ends[1], SCALE_END)
        foot, unit = self.height() - 9, _symbol(self.key, units[quantity].symbol)
        # The unit keeps to the middle of the cell while it stands clear of both ends, else between them.
        half = 0.5 * width_of(unit, SCALE_END) + 3
        middle = 0.5 * self.width()
        small_label(p, 12, foot, ends[0])
        small_label(p, middle if left + half <= middle <= right - half else 0.5 * (left + right), foot, unit, "centre")
        small_label(p, self.width() - 12, foot, ends[1], "right")

    def _ghost_value(self) -> str:
        """Write what the figure would come to with the way out that is rested on; nothing where it stays."""
        figure, ghost = self._store.report.figures[self.key], self._store.ghost
        value = None if ghost is None else ghost[1].value(self.key)
        if value is None or figure.value is None:
            return ""
        now, then = (shown(v, figure.quantity, self._store.units) for v in (figure.value, value))
        return "" if now == then else then

    def _write_aside(self, p: QPainter, x: float, figure: Figure) -> None:
        """Write beside the value its band, or what it would become."""
        inks, units = theme.inks, self._store.units
        then = self._ghost_value()
        if then:
            write(p, x, 42, f"→ {then}", LABEL, inks.live, bold=True)
        elif not units[figure.quantity].offset:
            words = band_shown(figure.below, figure.above, figure.quantity, units)
            if words.startswith("±"):
                # A band is never cut: where it has no room beside the value it stands smaller.
                room = self.width() - x - 2
                size = LABEL if width_of(words, LABEL) <= room else SCALE_END
                if width_of(words, size) > room:
                    words = words.replace("± ", "±")
                write(p, x, 42, fit(words, room, size), size, inks.soft)
                return
            # Unlike limits stand over one another, as a drawing has them.
            down, up = words.split(" ")
            write(p, x, 34, up, SCALE_END, inks.soft)
            write(p, x, 46, down, SCALE_END, inks.soft)

    def refresh(self) -> None:
        """Repaint when what is shown changed by as much as can be seen."""
        report, units = self._store.report, self._store.units
        figure, wanted = report.figures[self.key], report.wanted.get(self.key)
        shows: tuple[object, ...] = (figure.why_not, wanted, theme.inks, id(units), self._store.ghost is None)
        if figure.value is not None:
            low, high = scale_ends(figure, wanted)
            shows += (
                shown(figure.value, figure.quantity, units),
                band_shown(figure.below, figure.above, figure.quantity, units),
                self._ghost_value(),
                round(300 * (figure.value - low) / (high - low)),
                shown(low, figure.quantity, units),
                shown(high, figure.quantity, units),
            )
        if shows != self._shows:
            self._shows = shows
            self.update()

    def _ghost_tick(self, p: QPainter, low: float, high: float) -> None:
        if self._store.ghost is None:
            return
        value = self._store.ghost[1].value(self.key)
        if value is not None and low <= value <= high:
            x = Scale(low, high, 12, self.width() - 12).at(value)
            p.setPen(pen(theme.inks.live, 1.5, Qt.PenStyle.DotLine))
            p.drawLine(int(x), self.height() - 36, int(x), self.height() - 20)

    def _colour(self, value: float, wanted: Wanted | None) -> QColor:
        return theme.inks.live if within(value, wanted) else theme.inks.look


def _symbol(key: str, symbol: str) -> str:
    return "% c\u0304" if key in ("balance.cg_fraction",) else symbol


class TitleBlock(QWidget):
    """Eight vital cells and the drawing's own particulars."""

    asked = Signal(str)

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.setFixedHeight(HEIGHT)
        self._store = store
        self.scale_of: Callable[[], float] = lambda: 0.0
        self.cells: list[VitalCell] = []
        self._fill()
        self.name = PathField(self, store, "name", "name of the design", size=15, right=False)
        self.name.setStyleSheet("font-weight: bold; font-size: 15px; border-bottom: none;")
        store.changed.connect(self._place_name)
        store.changed.connect(self._refresh)
        store.restyled.connect(self.update)
        store.ghosted.connect(self.update)

    def _keys(self) -> tuple[str, ...]:
        """Return the vital figures: of a powered aircraft, and of nothing yet, or of a glider."""
        design = self._store.design
        return TITLE_BLOCK if not design.surfaces else vital(design.power)

    def _fill(self) -> None:
        """Put a cell for each vital figure; they stay while the figures do."""
        if [cell.key for cell in self.cells] == list(self._keys()):
            return
        for old in self.cells:
            discard(old)
        self.cells = [VitalCell(self, self._store, key) for key in self._keys()]
        for cell in self.cells:
            cell.clicked.connect(lambda _=False, key=cell.key: self.asked.emit(key))
            cell.show()
        self._lay_cells()

    def _refresh(self) -> None:
        self._fill()
        for cell in self.cells:
            cell.refresh()
        # Only the particulars at the right end: the cells look after themselves.
        self.update(self.width() - MARGIN_WIDTH, 0, MARGIN_WIDTH, self.height())

    def mark(self, key: str | None) -> None:
        """Mark the cell whose working is open."""
        for cell in self.cells:
            cell.setChecked(cell.key == key)

    def resizeEvent(self, _event: QEvent) -> None:
        self._lay_cells()
        self._place_name()

    def _lay_cells(self) -> None:
        room = max(self.width() - MARGIN_WIDTH, 0)
        each = room / len(self.cells)
        for index, cell in enumerate(self.cells):
            cell.setGeometry(round(index * each), 2, round((index + 1) * each) - round(index * each), HEIGHT - 2)

    def _place_name(self) -> None:
        wide = min(width_of(self.name.text(), 15, bold=True) + 12, MARGIN_WIDTH - 60)
        if not self.name.hasFocus():
            self.name.setCursorPosition(0)
        self.name.setGeometry(self.width() - MARGIN_WIDTH + 12, 8, int(max(wide, 90)), 24)

    def _scale_words(self) -> str:
        scale = self.scale_of()
        # A screen pixel is taken as 0.2646 mm (96 to the inch).
        return f"1 : {1000 / (scale * 0.26458):.0f}" if scale > 0 else "–"

    def _version_words(self) -> str:
        design = self._store.design
        return f"{design.revision} open" if design.versions and not is_kept(design) else str(design.revision)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, store = theme.inks, self._store
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(QRectF(0, 0, self.width(), 2), inks.ink)
        left = self.width() - MARGIN_WIDTH
        line(p, left + 0.5, 2, left + 0.5, self.height(), inks.ink)
        line(p, left, 43.5, self.width(), 43.5, inks.hair)
        note = store.design.note
        room = MARGIN_WIDTH - 34 - self.name.width()
        if room > 60:
            write(p, self.width() - 14, 25, fit(note, room, LABEL), LABEL, inks.soft, align="right")
        saved = "never" if store.path is None else ("no, edited" if store.unsaved else "yes")
        if store.path is None and not store.unsaved:
            saved = "sample" if store.design.surfaces else "new"
        units = "mm  g" if store.system == "metric" else "in  oz"
        rows = (
            ("Version", self._version_words()),
            ("Scale", self._scale_words()),
            ("Units", units),
            ("Saved", saved),
        )
        each = MARGIN_WIDTH / len(rows)
        for index, (label, value) in enumerate(rows):
            x = left + index * each
            if index:
                line(p, x + 0.5, 44, x + 0.5, self.height(), inks.hair)
            write(p, x + 14, 62, label, LABEL, inks.soft)
            write(p, x + 14, 81, fit(value, each - 16, 12), 12)
