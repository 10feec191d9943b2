"""Two states of a design side by side: the vital figures, and every place where they differ."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.design.wording import Differing, differing
from ridgeline.desk.paint import fit, heading, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, TITLE, VALUE, theme
from ridgeline.desk.widgets.buttons import TextButton
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import vital
from ridgeline.units import shown, with_unit

_ROW = 19
_TOP = 74


class ComparePanel(QWidget):
    """A slip over the sheet that sets two states against one another. It changes nothing."""

    closed = Signal()

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self._names = ("", "")
        self._figures: list[tuple[str, str, str]] = []
        self.differing: list[Differing] = []
        self._first = 0
        self._close = TextButton(self, "Close  Esc", "close the comparison")
        self._close.clicked.connect(self.dismiss)
        self.setAccessibleName("two states compared")
        self.hide()

    def compare(self, left: Design, right: Design, names: tuple[str, str]) -> None:
        """Show what two states have and where they differ; ``names`` head their columns."""
        self._names, self._first = names, 0
        self.differing = differing(left, right)
        reports, units = (evaluate(left), evaluate(right)), self._store.units
        self._figures = []
        keys = (*vital(left.power), *(key for key in vital(right.power) if key not in vital(left.power)))
        for key in keys:
            figures = [report.figures[key] for report in reports]
            words = ["–" if f.value is None else with_unit(f.value, f.quantity, units) for f in figures]
            self._figures.append((figures[0].label, words[0], words[1]))
        self.place()
        self.show()
        self.raise_()
        self.setFocus()
        self.update()

    def place(self) -> None:
        """Lie over the whole sheet."""
        sheet = self.parentWidget()
        assert sheet is not None
        self.setGeometry(sheet.rect())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._close.setGeometry(self.width() - 96, 8, 84, 22)

    def dismiss(self) -> None:
        """Close the slip."""
        self.hide()
        self.closed.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
            return
        super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        rows = max(len(self.differing) - self._rows_shown(), 0)
        self._first = min(max(self._first - event.angleDelta().y() // 40, 0), rows)
        self.update()

    def _list_top(self) -> float:
        return _TOP + _ROW * len(self._figures) + 34

    def _rows_shown(self) -> int:
        return max(int((self.height() - self._list_top() - 28) // _ROW), 1)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        p.fillRect(QRectF(0, 0, self.width(), 2), inks.live)
        count = len(self.differing)
        told = "no difference" if not count else f"{count} difference{'' if count == 1 else 's'}"
        used = write(p, 16, 26, "Compare", TITLE, bold=True)
        write(p, 16 + used + 14, 26, told, VALUE, inks.soft)
        label, right = 16.0, self.width() - 16.0
        columns = (label, label + 0.52 * (right - label), right)
        heading(p, 16, _TOP - 22, self.width() - 32, "")
        for x, name in zip(columns[1:], self._names, strict=True):
            write(p, x, _TOP - 22, fit(name, 0.4 * self.width(), LABEL, True), LABEL, inks.soft, True, "right")
        y = float(_TOP)
        for words, before, after in self._figures:
            self._row(p, y, columns, (words, before, after))
            y += _ROW
        heading(p, 16, y + 12, self.width() - 32, "Where they differ", strong=False)
        y = self._list_top() + 8
        shown_rows = self.differing[self._first : self._first + self._rows_shown()]
        for place in shown_rows:
            self._row(p, y, columns, (place.label, self._words(place, place.before), self._words(place, place.after)))
            y += _ROW
        left_out = count - self._first - len(shown_rows)
        if left_out > 0 or self._first:
            write(p, 16, self.height() - 10, f"{left_out} more below: turn the wheel", LABEL, inks.soft)

    def _row(self, p: QPainter, y: float, columns: tuple[float, ...], words: tuple[str, str, str]) -> None:
        inks = theme.inks
        room = columns[2] - columns[1] - 12
        differs = words[1] != words[2]
        write(p, columns[0], y, fit(words[0], 0.36 * self.width(), VALUE), VALUE, inks.ink if differs else inks.soft)
        write(p, columns[1], y, fit(words[1], 0.18 * self.width(), VALUE), VALUE, inks.soft, align="right")
        colour = inks.live if differs else inks.soft
        write(p, columns[2], y, fit(words[2], room, VALUE), VALUE, colour, differs, "right")

    def _words(self, place: Differing, value: Any) -> str:
        if value is None:
            return "–"
        if isinstance(value, bool):
            return "yes" if value else "no"
        if place.quantity is None or isinstance(value, str):
            return f"{value:g}" if isinstance(value, float) else str(value)
        units = self._store.units
        digits = units[place.quantity].decimals
        pair = (place.before, place.after)
        if all(isinstance(v, int | float) for v in pair):
            # As many digits as tell the two apart.
            while digits < 6 and shown(pair[0], place.quantity, units, digits) == shown(
                pair[1], place.quantity, units, digits
            ):
                digits += 1
        return with_unit(float(value), place.quantity, units, digits)
