"""The dimensions of what is selected: values typed in place, choices, its name, and what can be done with it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change, quantity_at
from ridgeline.desk.paint import fit, heading, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.desk.widgets.buttons import RuledButton, WordButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.report import Remedy

PAD = 16
ROW = 22
HINTED_ROW = 37
#: Where values end, and where those of words begin; the height of a row of acts, and how many stand in one.
_VALUE_END, _WORDS_FROM, _ACTS, _ACTS_ABREAST = 268, 66, 30, 3


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
    #: What may be typed besides a value with its unit: its value in the stored unit, None of any other text.
    reads: Callable[[str], float | None] | None = None
    #: Words, such as a name: the field takes what the label leaves of the row.
    words: bool = False
    #: Whether several parts that share the row differ in it: then it says so instead of a value.
    varied: Callable[[], bool] | None = None


#: What can be done with what is selected: its words, and what does it.
Act = tuple[str, Callable[[], object]]


@dataclass(frozen=True)
class Selection:
    """What the dimensions are of, and what can be done with it."""

    title: str
    rows: tuple[Dimension, ...]
    acts: tuple[Act, ...] = ()
    #: What an act would do, by its words, where that can be shown before it is pressed.
    previews: Mapping[str, Callable[[], Remedy | None]] = field(default_factory=dict)


def name_row(path: str) -> Dimension:
    """Return the row a part is renamed in."""
    return Dimension("Name", f"{path}.name", words=True)


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
        self.acts: dict[str, RuledButton] = {}
        store.changed.connect(self.update)

    def show_selection(self, selection: Selection) -> None:
        """Show the rows of a selection; its fields are kept when only values changed."""
        same = [_kept(row) for row in selection.rows] == [_kept(row) for row in self._selection.rows]
        self._show_acts(selection.acts)
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
                    field = PathField(
                        self,
                        self._store,
                        row.path,
                        row.label,
                        right=not row.words,
                        changes=row.changes,
                        empty=row.empty,
                        varied=row.varied,
                        reads=row.reads,
                    )
                    left = _WORDS_FROM if row.words else 196
                    field.setGeometry(left, 32 + index * self._pitch, _VALUE_END - left, 20)
                    field.show()
                    self.fields[row.path] = field
        for index, row in enumerate(selection.rows):
            if row.path in self.fields:
                # Of rows that look the same the parts behind them may be others.
                self.fields[row.path].rebind(row.changes, row.empty, row.varied, row.reads)
            if row.label in self.words and row.choose is not None and row.read is not None:
                word = self.words[row.label]
                word.rebind(row.read, row.choose)
                word.move(272 - word.width(), 33 + index * self._pitch)
        foot = 34 + self._pitch * len(selection.rows) + 8
        self._place_acts(foot)
        lines = -(-len(self.acts) // _ACTS_ABREAST)
        self.setFixedHeight(foot + _ACTS * lines if selection.rows else 0)
        self.setVisible(bool(selection.rows))
        self.update()

    def _show_acts(self, acts: tuple[Act, ...]) -> None:
        """Put a button for each act; they stay where their words do."""
        if [words for words, _do in acts] != list(self.acts):
            for button in self.acts.values():
                discard(button)
            self.acts = {}
            for number, (words, _do) in enumerate(acts):
                button = RuledButton(self, words)
                button.clicked.connect(lambda _=False, n=number: self._selection.acts[n][1]())
                button.rested.connect(lambda on, w=words: self._preview(w, on))
                button.show()
                self.acts[words] = button

    def _preview(self, words: str, on: bool) -> None:
        """Show what an act would give while a hand or a key rests on it."""
        look = self._selection.previews.get(words)
        if look is not None:
            self._store.show_ghost(look() if on else None)

    def _place_acts(self, top: int) -> None:
        """Lay the acts out in rows under the values."""
        buttons = list(self.acts.values())
        for first in range(0, len(buttons), _ACTS_ABREAST):
            abreast = buttons[first : first + _ACTS_ABREAST]
            wide = (MARGIN_WIDTH - 2 * PAD - 6 * (len(abreast) - 1)) // len(abreast)
            for k, button in enumerate(abreast):
                button.setGeometry(PAD + k * (wide + 6), top + _ACTS * (first // _ACTS_ABREAST), wide, 24)

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
