"""The setup list as rows: a box ticked by a press or by Space, and what is wished or was read beside it."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, hatch, line, pen, state_mark, width_of, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.version_edits import today
from ridgeline.desk.widgets.row_list import RowList
from ridgeline.engine.advice.setup_list import Line, State, setup_list
from ridgeline.engine.advice.signing import sign, signed_of, state_of, unsigned
from ridgeline.errors import DesignError
from ridgeline.units import with_unit

#: Rows are as tall as this at most and at least, px; the box, and the line the propeller waits for.
_MOST_ROW, _LEAST_ROW, _BOX, _BANNER = 26, 15, 12, 26
_WORSE: tuple[State, ...] = ("wrong", "again", "open", "done")


class SetupRow(NamedTuple):
    """One row: its words, what is wished, how it stands, and the lines it stands for."""

    words: str
    told: str
    state: State
    lines: tuple[Line, ...]


def rows_of(store: Store, *, together: bool) -> tuple[SetupRow, ...]:
    """Return the rows of a design's list; ``together`` puts all throws into one."""
    lines, day = setup_list(store.design, store.report), today()
    rows: list[SetupRow] = []
    throws = [one for one in lines if one.quantity == "angle"]
    for one in lines:
        state = state_of(store.design, one, day)
        if together and one in throws:
            if one is throws[0]:
                states = [state_of(store.design, other, day) for other in throws]
                worst = min(states, key=_WORSE.index)
                rows.append(SetupRow("Throws", f"{states.count('done')} of {len(throws)}", worst, tuple(throws)))
            continue
        rows.append(SetupRow(one.words, read_or_told(store, one), state, (one,)))
    return tuple(rows)


def read_or_told(store: Store, one: Line) -> str:
    """Return what was read of a line, or what is wished where nothing was."""
    last = signed_of(store.design, one)
    if last is not None and last.read is not None and one.quantity:
        return with_unit(last.read, one.quantity, store.units)
    return one.told.render(store.units)


def turn_line(store: Store, one: Line) -> bool:
    """Sign a line, or take its signature back; False where something has to be read, or seen elsewhere, first."""
    if one.walked is not None or (one.quantity and state_of(store.design, one, today()) != "done"):
        return False
    if state_of(store.design, one, today()) == "done":
        return store.edit([unsigned(store.design, one)], f"Take back: {one.words}")
    return put_line(store, one)


def put_line(store: Store, one: Line, read: float | None = None, *, good: bool = True) -> bool:
    """Sign a line with what was read of it; a refusal is said."""
    lines = setup_list(store.design, store.report)
    here = next((other for other in lines if other.place == one.place), one)
    try:
        change = sign(store.design, lines, here, day=today(), by=store.design.log_book.pilot, read=read, good=good)
    except DesignError as error:
        store.refused.emit(error)
        return False
    return store.edit([change], f"Sign: {one.words}")


class SetupList(RowList):
    """The list. ``turned`` asks to sign a row or take that back, ``fitted`` to open what is read of it."""

    turned = Signal(int)
    head = 0

    def __init__(self, parent: QWidget, store: Store, *, together: bool) -> None:
        self._together = together
        super().__init__(parent, store)

    def named(self) -> str:
        if not 0 <= self.chosen < len(self.rows):
            return "setup list"
        row = self.rows[self.chosen]
        return f"setup: {row.words}, {row.told}, {_SAID[row.state]}"

    def renew(self) -> None:
        """Read the list of the design as it is now; the chosen row stays the same line."""
        before = self.rows[self.chosen].lines[0].place if 0 <= self.chosen < len(self.rows) else None
        self.rows = rows_of(self._store, together=self._together)
        places = [row.lines[0].place for row in self.rows]
        self.chosen = places.index(before) if before in places else min(self.chosen, len(self.rows) - 1)
        many = max(len(self.rows), 1)
        room = (self.height() - (_BANNER if self._banner >= 0 else 0)) // many
        self.row_height = max(_LEAST_ROW, min(_MOST_ROW, room))
        self._first = min(self._first, max(len(self.rows) - self.shown_rows(), 0))
        self.setAccessibleName(self.named())
        self.update()

    @property
    def _banner(self) -> int:
        """Place of the first row that is done with the propeller on; −1 without one."""
        return next((k for k, row in enumerate(self.rows) if row.lines[0].key == "propeller"), -1)

    def _top(self, index: int) -> float:
        under = _BANNER if 0 <= self._banner <= index and self._banner >= self._first else 0
        return (index - self._first) * self.row_height + under

    def shown_rows(self) -> int:
        """Return how many rows there is room for."""
        return max(int((self.height() - (_BANNER if self._banner >= 0 else 0)) // self.row_height), 1)

    def row_at(self, y: float) -> int:
        """Return the row at a height, −1 for none."""
        for k in range(self._first, len(self.rows)):
            if self._top(k) <= y < self._top(k) + self.row_height:
                return k
        return -1

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        index = self.row_at(event.position().y())
        if index >= 0 and event.position().x() < _BOX + 12:
            self.turned.emit(index)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and self.chosen >= 0:
            self.turned.emit(self.chosen)
            return
        super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for k in range(self._first, len(self.rows)):
            top = self._top(k)
            if top + self.row_height > self.height() + 1:
                break
            if k == self._banner:
                self._draw_banner(p, top - _BANNER)
            self._draw_row(p, k, top)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))

    def _draw_banner(self, p: QPainter, top: float) -> None:
        inks = theme.inks
        box = QRectF(0.5, top + 2.5, self.width() - 1, _BANNER - 6)
        hatch(p, box, inks.stop)
        p.setPen(pen(inks.stop, 1.5))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(box)
        write(p, self.width() / 2, top + 17, "Propeller off until here", LABEL, inks.stop, True, "centre", halo=True)

    def _draw_row(self, p: QPainter, k: int, top: float) -> None:
        inks, row = theme.inks, self.rows[k]
        if k == self.chosen:
            p.fillRect(QRectF(0, top, self.width(), self.row_height - 1), inks.wash)
        middle = top + self.row_height / 2
        draw_box(p, 6, middle, row.state)
        ink = inks.stop if row.state == "wrong" else inks.look if row.state == "again" else inks.ink
        used = _BOX + 14 + width_of(row.words, VALUE)
        told = "changed since" if row.state == "again" else row.told
        room = float(self.width() - _BOX - 16)
        # What is wished is told whole or not at all: half of it could be read as another.
        if used + 10 + width_of(told, LABEL) <= self.width():
            write(p, self.width() - 2, middle + 4, told, LABEL, inks.soft, align="right")
            room -= width_of(told, LABEL) + 8
        write(p, _BOX + 14, middle + 4, fit(row.words, room), VALUE, ink)
        line(p, _BOX + 14, top + self.row_height - 0.5, self.width(), top + self.row_height - 0.5, inks.hair)


#: How a row stands, in words.
_SAID: dict[State, str] = {"open": "open", "done": "done", "again": "to be done again", "wrong": "not right"}


def draw_box(p: QPainter, x: float, y: float, state: State) -> None:
    """Draw the box of a line by how it stands: empty, ticked, a triangle where it is to be done again, a bar wrong."""
    inks = theme.inks
    if state == "again":
        state_mark(p, x, y, "look")
        return
    if state == "wrong":
        state_mark(p, x, y, "stop")
        return
    half = _BOX / 2 - 0.5
    p.setPen(pen(inks.ink, 1.2))
    p.setBrush(inks.wash if state == "done" else inks.paper)
    p.drawRect(QRectF(x - half, y - half, 2 * half, 2 * half))
    p.setBrush(Qt.BrushStyle.NoBrush)
    if state == "done":
        p.setPen(pen(inks.live, 2))
        p.drawPolyline([QPointF(x - 3.5, y), QPointF(x - 1, y + 3), QPointF(x + 4, y - 4)])
