"""The margin: findings with their remedies, the ghost of one, and the dimensions of what is selected."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from ridgeline.design.paths import Change, quantity_at
from ridgeline.desk.findings_column import Findings, FindingsScroll
from ridgeline.desk.paint import fit, heading, line, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.desk.widgets.buttons import WordButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.units import shown

PAD = 16
TEXT_LEFT = 36
ROW = 22
HINTED_ROW = 37


@dataclass(frozen=True)
class Dimension:
    """One row of the dimensions: a document path to type into, or words to read."""

    label: str
    path: str = ""
    read: Callable[[], str] | None = None
    unit: str = ""
    hint: str = ""
    changes: Callable[[float], list[Change]] | None = None
    #: For a row chosen from a list: (value, words) each, with ``read`` giving the present value.
    choices: tuple[tuple[str, str], ...] = ()
    choose: Callable[[str], None] | None = None
    #: What an empty field stands for, in the stored unit.
    empty: Callable[[], float | None] | None = None


@dataclass(frozen=True)
class Selection:
    """What the dimensions are of."""

    title: str
    rows: tuple[Dimension, ...]


class Ghost(QWidget):
    """What the remedy under the hand would change: figure, now, then."""

    KEYS = (
        "mass.auw",
        "balance.cg_fraction",
        "stability.static_margin",
        "trim.elevator",
        "tail.volume_h",
        "tail.volume_v",
        "speed.stall",
        "power.thrust_ratio",
        "power.static_current",
        "flight.cruise_throttle",
        "flight.endurance",
    )
    MOST = 4

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.setAccessibleName("what the remedy would change")
        store.ghosted.connect(self._refresh)
        store.changed.connect(self._refresh)
        self._rows: list[tuple[str, str, str, str]] = []
        self.hide()

    def _refresh(self) -> None:
        self._rows = self._changed_rows()
        self.setFixedHeight(40 + 20 * len(self._rows))
        self.setVisible(self._store.ghost is not None)
        self.update()

    def _changed_rows(self) -> list[tuple[str, str, str, str]]:
        if self._store.ghost is None:
            return []
        rows, units = [], self._store.units
        for key in self.KEYS:
            figure = self._store.report.figures.get(key)
            after = self._store.ghost[1].value(key)
            if figure is None or figure.value is None or after is None:
                continue
            now, then = shown(figure.value, figure.quantity, units), shown(after, figure.quantity, units)
            if now != then:
                rows.append((figure.label, now, then, units[figure.quantity].symbol))
        return rows[: self.MOST]

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        heading(p, PAD, 16, MARGIN_WIDTH - 2 * PAD, "Ghost", "not applied; press to apply", strong=False)
        y = 42
        for label, now, then, unit in self._rows:
            write(p, PAD, y, fit(label, 130), VALUE, inks.soft)
            write(p, 188, y, now, VALUE, align="right")
            write(p, 205, y, "→", VALUE, inks.live, align="centre")
            write(p, 254, y, then, VALUE, inks.live, True, "right")
            write(p, 262, y, unit, LABEL, inks.soft)
            y += 20


def _kept(row: Dimension) -> tuple[object, ...]:
    """Return what makes a row the same row: its widget can stay."""
    return row.label, row.path, row.choices, row.hint


class Dimensions(QWidget):
    """The dimensions of what is selected, typed in place."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self._selection = Selection("", ())
        self._pitch = ROW
        self.fields: dict[str, PathField] = {}
        self.words: dict[str, WordButton] = {}
        store.changed.connect(self.update)

    def show_selection(self, selection: Selection) -> None:
        """Show the rows of a selection; its fields are kept when only values changed."""
        same = [_kept(row) for row in selection.rows] == [_kept(row) for row in self._selection.rows]
        self._selection = selection
        self._pitch = HINTED_ROW if any(row.hint for row in selection.rows) else ROW
        if not same:
            for field in self.fields.values():
                self._store.changed.disconnect(field.refresh)
                discard(field)
            for word in self.words.values():
                discard(word)
            self.fields, self.words = {}, {}
            for index, row in enumerate(selection.rows):
                if row.choose is not None and row.read is not None:
                    word = WordButton(self, row.label, row.choices, row.read, row.choose, widest=176)
                    word.show()
                    self.words[row.label] = word
                if row.path:
                    field = PathField(self, self._store, row.path, row.label, changes=row.changes, empty=row.empty)
                    field.setGeometry(196, 32 + index * self._pitch, 72, 20)
                    field.show()
                    self.fields[row.path] = field
        for index, row in enumerate(selection.rows):
            if row.label in self.words:
                word = self.words[row.label]
                word.refresh()
                word.move(272 - word.width(), 33 + index * self._pitch)
        self.setFixedHeight(34 + self._pitch * len(selection.rows) + 8 if selection.rows else 0)
        self.setVisible(bool(selection.rows))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, units = theme.inks, self._store.units
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        heading(p, PAD, 16, MARGIN_WIDTH - 2 * PAD, "Dimensions", self._selection.title)
        for index, row in enumerate(self._selection.rows):
            y = 47 + index * self._pitch
            if row.hint:
                write(p, PAD, y + 14, row.hint, LABEL, inks.soft)
            write(p, PAD, y, fit(row.label, 176), VALUE, inks.ink if row.hint else inks.soft)
            unit = row.unit
            if row.path and not unit:
                try:
                    quantity = quantity_at(self._store.design, row.path)
                except ValueError:
                    quantity = None
                unit = units[quantity].symbol if quantity else ""
            if row.read is not None and row.choose is None:
                write(p, 267, y, row.read(), VALUE, align="right")
            write(p, 276, y, unit, LABEL, inks.soft)


class Margin(QWidget):
    """The right-hand column."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.setFixedWidth(MARGIN_WIDTH)
        self._store = store
        self.findings = Findings(self, store)
        scroll = FindingsScroll(self)
        scroll.setWidget(self.findings)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.viewport().setAutoFillBackground(False)
        self.findings.setAutoFillBackground(False)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.ghost = Ghost(self, store)
        self.dimensions = Dimensions(self, store)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 30, 0, 4)
        column.setSpacing(0)
        column.addWidget(scroll, 1)
        column.addWidget(self.ghost)
        column.addWidget(self.dimensions)
        store.judged.connect(self.update)

    def show_stop(self, stop: str) -> None:
        """Show the findings of a stop."""
        self.findings.show_stop(stop)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        line(p, 0.5, 0, 0.5, self.height(), theme.inks.hair)
        found = self.findings.of_stop()
        count = {level: sum(f.level == level for f in found) for level in ("stop", "look", "settled")}
        words = {"stop": "to stop at", "look": "to look at", "settled": "settled"}
        aside = ", ".join(f"{n} {words[level]}" for level, n in count.items() if n)
        heading(p, PAD, 21, MARGIN_WIDTH - 2 * PAD, "Findings", aside or "none yet")
