"""The working of a figure: formula, numbers put in, band and what moves it, and "solve for" a wish."""

from __future__ import annotations

from concurrent.futures import Future, ThreadPoolExecutor
from functools import lru_cache
from threading import Event

from PySide6.QtCore import QObject, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QComboBox, QLineEdit, QWidget

from ridgeline.design.document import Design
from ridgeline.design.paths import get, quantity_at
from ridgeline.desk.gate import let_window_go_first, window_at_work
from ridgeline.desk.paint import fit, heading, line, pen, wrap, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, TITLE, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, TextButton
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Term
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.typed import parse
from ridgeline.units import band_shown, shown, with_unit

HEIGHT = 366


class _Signals(QObject):
    done = Signal(str, object, object)


@lru_cache(maxsize=1)
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(max_workers=1, thread_name_prefix="influences")


def _try_edits(design: Design, report: Report, key: str, signals: _Signals, stop: Event) -> None:
    """Evaluate the trial edits away from the interface, and tell it when done unless it asked for others since."""
    if stop.is_set():
        return
    from ridgeline.engine.advice.sensitivity import influences

    def stopped() -> bool:
        let_window_go_first()
        return stop.is_set()

    found = influences(design, report, key, stop=stopped)
    if not stop.is_set():
        signals.done.emit(key, design, found)


class WorkingPanel(QWidget):
    """A slip over the lower sheet with one figure's hand calculation."""

    closed = Signal()
    asked = Signal(str)

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.key = ""
        self.influences: list = []
        self._asked: tuple[str, Design] | None = None
        self._signals = _Signals()
        self._signals.done.connect(self._told)
        self._stop = Event()
        self._future: Future[None] | None = None
        self._message = ""
        self._traces: list[tuple[QRectF, str]] = []
        self._close = TextButton(self, "Close  Esc", "close the working")
        self._close.clicked.connect(self.dismiss)
        self.input = QComboBox(self)
        self.input.setAccessibleName("input to solve for")
        self.wish = QLineEdit(self)
        self.wish.setAccessibleName("wished value of the figure")
        self.wish.returnPressed.connect(self.solve)
        self.solve_button = RuledButton(self, "Solve")
        self.solve_button.clicked.connect(self.solve)
        self.setAccessibleName("working of a figure")
        store.changed.connect(self._refresh)
        self.hide()

    def ask(self, key: str) -> None:
        """Show the working of a figure; asking again for the same one closes it."""
        if key == self.key and self.isVisible():
            self.dismiss()
            return
        self.key = key
        self._message = ""
        self.influences = []
        self.show()
        self.raise_()
        self.place()
        self._refresh()
        self.wish.setFocus()

    def dismiss(self) -> None:
        """Close the slip."""
        self.hide()
        self.key = ""
        self._asked = None
        self._stop.set()
        self.closed.emit()

    def place(self) -> None:
        """Sit on the lower edge of the sheet."""
        sheet = self.parentWidget()
        assert sheet is not None
        height = min(HEIGHT, sheet.height() - 40)
        self.setGeometry(0, sheet.height() - height, sheet.width(), height)
        self._close.setGeometry(self.width() - 96, 8, 84, 22)
        left, room = self._split(), self.width() - self._split() - 16
        bottom = height - 34
        self.input.setGeometry(left, bottom - 30, room, 22)
        self.wish.setGeometry(left + 96, bottom, 70, 22)
        self.solve_button.setGeometry(left + room - 90, bottom - 1, 90, 24)

    def _split(self) -> int:
        return int(self.width() * 0.60)

    @property
    def figure(self) -> Figure:
        return self._store.report.figures[self.key]

    def _refresh(self) -> None:
        if not self.key or not self.isVisible():
            return
        figure = self.figure
        if not self.wish.isModified() or not self.wish.hasFocus():
            self.wish.setText("" if figure.value is None else shown(figure.value, figure.quantity, self._store.units))
        wanted = (self.key, self._store.design)
        if figure.value is not None and self._asked != wanted:
            self._asked = wanted
            self._ask_influences()
        self.update()

    def _ask_influences(self) -> None:
        self._stop.set()
        self._stop = Event()
        self._future = _pool().submit(
            _try_edits, self._store.design, self._store.report, self.key, self._signals, self._stop
        )

    def wait(self) -> None:
        """Wait until the trial edits of the open figure are done."""
        if self._future is not None:
            self._future.result(timeout=60)

    def _told(self, key: str, design: Design, found: list) -> None:
        if key != self.key or design is not self._store.design:
            return
        self.influences = found
        chosen = self.input.currentData()
        self.input.clear()
        for item in found:
            self.input.addItem(item.label, item.path)
        index = self.input.findData(chosen)
        self.input.setCurrentIndex(max(index, 0))
        self.update()

    def solve(self) -> None:
        """Find the input that brings the figure to the wish, and apply it as one step."""
        from ridgeline.engine.advice.sensitivity import solve_for

        path, figure = self.input.currentData(), self.figure
        if not path or figure.value is None:
            return
        try:
            wish = parse(
                self.wish.text(), figure.quantity, path=figure.label, bare=self._store.unit_of(figure.quantity)
            )
        except DesignError as error:
            self._refuse(f"Understood {error.understood}. Allowed: {error.allowed}.")
            return
        try:
            with window_at_work():
                value = solve_for(self._store.design, self._store.report, path, self.key, wish)
        except DesignError as error:
            self._refuse(f"Understood {error.understood}; reaches {error.allowed}.")
            return
        quantity = quantity_at(self._store.design, path) or "ratio"
        before = float(get(self._store.design, path))
        units = self._store.units
        label = self.input.currentText()
        self._message = (
            f"{label}: {shown(before, quantity, units)} → {with_unit(value, quantity, units)}. Ctrl+Z takes it back."
        )
        self.wish.setModified(False)
        self._store.put(path, value, f"Solve {label}")
        self.update()

    def _refuse(self, words: str) -> None:
        self._message = words
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dismiss()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Open the working of the figure a pressed term is."""
        for box, key in self._traces:
            if box.contains(event.position()):
                self.ask(key)
                self.asked.emit(key)
                return

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        self._traces = []
        p.fillRect(QRectF(0, 0, self.width(), 2), inks.live)
        if not self.key:
            return
        figure, units = self.figure, self._store.units
        used = write(p, 16, 26, figure.label, TITLE, bold=True)
        if figure.value is None:
            write(p, 16, 56, f"Not known yet: {figure.why_not}.", VALUE, inks.soft)
            return
        quantity = figure.quantity
        value = with_unit(figure.value, quantity, units)
        low = shown(figure.low or 0.0, quantity, units)
        ends = f"{low} to {with_unit(figure.high or 0.0, quantity, units)}, nine times in ten"
        used += write(p, 16 + used + 12, 26, value, TITLE, inks.live, bold=True)
        write(p, 16 + used + 26, 26, ends, LABEL, inks.soft)
        self._paint_calculation(p, figure)
        self._paint_influences(p)

    def _own(self, figure: Figure) -> str:
        """Write a figure in its own unit, and in the formula's where that is another."""
        assert figure.value is not None
        shown_value = with_unit(figure.value, figure.quantity, self._store.units)
        stored = f"{figure.value:.5g} {figure.unit if figure.unit != '1' else ''}".strip()
        return shown_value if self._store.units[figure.quantity].factor == 1 else f"{shown_value} ({stored})"

    def _paint_calculation(self, p: QPainter, figure: Figure) -> None:
        inks, working = theme.inks, figure.working
        if working is None:
            return
        room = self._split() - 40
        y = 52
        for words in wrap(f"=  {working.formula}", room, VALUE)[:2]:
            write(p, 16, y, words, VALUE)
            y += 17
        if working.substituted != working.formula:
            for words in wrap(f"=  {working.substituted}", room, VALUE)[:3]:
                write(p, 16, y, words, VALUE, inks.predicted)
                y += 17
        result = f"=  {self._own(figure)}".replace("-", "−")
        write(p, 16, y, result, VALUE, inks.live, bold=True)
        y += 20
        heading(p, 16, y + 4, room, "Put in", "underlined: has its own working; share of the band", strong=False)
        y += 28
        for term in working.terms:
            if y > self.height() - 56:
                break
            self._paint_term(p, term, y, room)
            y += 18
        if working.model_share > 0.005 and y < self.height() - 56:
            write(p, 16, y, "the formula itself", LABEL, inks.soft)
            self._paint_share(p, working.model_share, y, room)
        foot = f"Source: {working.source}." + (f" {working.note[0].upper()}{working.note[1:]}." if working.note else "")
        lines = wrap(foot, room, LABEL)[:2]
        for index, words in enumerate(lines):
            write(p, 16, self.height() - 14 - 15 * (len(lines) - 1 - index), words, LABEL, inks.soft)

    def _paint_term(self, p: QPainter, term: Term, y: float, room: float) -> None:
        inks, units = theme.inks, self._store.units
        traced = term.figure in self._store.report.figures and term.figure != self.key
        colour = inks.live if traced else inks.ink
        wide = write(p, 16, y, fit(term.symbol, 50, LABEL), LABEL, colour, bold=True)
        if traced:
            line(p, 16, y + 2.5, 16 + wide, y + 2.5, colour)
            self._traces.append((QRectF(10, y - 12, room - 80, 17), term.figure))
        write(p, 70, y, fit(term.label, room - 250, LABEL), LABEL, inks.soft)
        words = with_unit(term.value, term.quantity, units, _digits(term, units[term.quantity].factor))
        if term.sigma:
            down, up = (BAND * one for one in term.sides or (term.sigma, term.sigma))
            words += f" {band_shown(down, up, term.quantity, units, _digits(term, units[term.quantity].factor))}"
        write(p, room - 60, y, words, LABEL, align="right")
        self._paint_share(p, term.share, y, room)

    def _paint_share(self, p: QPainter, share: float, y: float, room: float) -> None:
        inks = theme.inks
        if share > 0.005:
            p.fillRect(QRectF(room - 48, y - 8, 30 * share, 7), inks.soft)
            write(p, room + 16, y, f"{100 * share:.0f} %", LABEL, inks.soft, align="right")

    def _paint_influences(self, p: QPainter) -> None:
        inks, units = theme.inks, self._store.units
        left, figure = self._split(), self.figure
        room = self.width() - left - 16
        line(p, left - 16, 44, left - 16, self.height() - 12, inks.hair)
        heading(p, left, 56, room, "What moves it most", strong=False)
        y = 82
        if not self.influences:
            write(p, left, y, "trying every dimension…", LABEL, inks.soft)
        for item in self.influences:
            step = with_unit(item.step, item.quantity, units)
            factor = units[figure.quantity].factor
            change = f"{item.change * factor:+.2g}".replace("-", "−")
            write(p, left, y, fit(item.label, room - 126, LABEL), LABEL)
            write(p, left + room - 62, y, f"+{step}", LABEL, inks.soft, align="right")
            write(p, left + room, y, change, LABEL, inks.live, align="right")
            y += 18
        heading(p, left, self.height() - 88, room, "Solve for", strong=False)
        bottom = self.height() - 34
        write(p, left, bottom + 16, "brings it to", LABEL, inks.soft)
        write(p, left + 172, bottom + 16, units[figure.quantity].symbol, LABEL, inks.soft)
        if self._message:
            p.setPen(pen(inks.live))
            write(p, left, self.height() - 6 + 2, fit(self._message, room, 10), 10, inks.live)


def _digits(term: Term, factor: float) -> int:
    """Return decimals that show a term to about four figures."""
    size = abs(term.value * factor)
    return 0 if size >= 1000 else (1 if size >= 100 else (2 if size >= 10 else 3))
