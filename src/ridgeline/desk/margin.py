"""The margin: findings with their remedies, the ghost of one, and the dimensions of what is selected."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from ridgeline.design.paths import Change, quantity_at
from ridgeline.desk.paint import fit, heading, line, state_mark, wrap, write
from ridgeline.desk.stops import STOP
from ridgeline.desk.store import Store
from ridgeline.desk.theme import HEADING, LABEL, VALUE, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.desk.widgets.buttons import RuledButton, WordButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding
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


class FindingView(QWidget):
    """One finding: its mark, sentence, reason and remedies. Folded, a press shows why."""

    unfolded = Signal()

    def __init__(self, parent: QWidget, store: Store, finding: Finding, width: int) -> None:
        super().__init__(parent)
        self._store = store
        self.setFixedWidth(width)
        self.finding = finding
        room = width - TEXT_LEFT - PAD
        self._title = wrap(finding.text.render(store.units), room, HEADING, bold=True)
        self._reason = wrap(finding.reason.render(store.units), room, LABEL)
        self.setAccessibleName(
            f"{finding.level}: {finding.text.render(store.units)} {finding.reason.render(store.units)}"
        )
        y = 16 * len(self._title) + 15 * len(self._reason) + 8
        self.buttons: list[RuledButton] = []
        for index, remedy in enumerate(finding.remedies):
            price = remedy.price.render(store.units) if remedy.price else ""
            button = RuledButton(self, remedy.text.render(store.units), under=price, room=room)
            button.setGeometry(TEXT_LEFT, y, room, button.height())
            # The remedy is looked up when pressed: the same words may stand for a fresher amount by then.
            button.clicked.connect(lambda _=False, k=index: store.apply_remedy(self.finding.remedies[k]))
            button.rested.connect(lambda on, k=index: store.show_ghost(self.finding.remedies[k] if on else None))
            self.buttons.append(button)
            y += button.height() + 5
        self._full = y + (4 if finding.remedies else 0)
        self._folded = False
        self.setFixedHeight(self._full)

    @property
    def foldable(self) -> bool:
        """Tell whether the reason may be folded away: nothing is to be done about it."""
        return self.finding.level == "settled" and not self.buttons

    def fold(self, folded: bool) -> None:
        """Show only the sentence, or the reason too."""
        self._folded = folded and self.foldable
        self.setFixedHeight(16 * len(self._title) + 6 if self._folded else self._full)
        self.setCursor(Qt.CursorShape.PointingHandCursor if self._folded else Qt.CursorShape.ArrowCursor)
        self.setToolTip(self.finding.reason.render(self._store.units) if self._folded else "")
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if self._folded:
            self.unfolded.emit()

    def paintEvent(self, _event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        state_mark(p, PAD + 6, 9, self.finding.level)
        y = 14
        for words in self._title:
            write(p, TEXT_LEFT, y, words, HEADING, bold=True)
            y += 16
        for words in () if self._folded else self._reason:
            write(p, TEXT_LEFT, y, words, LABEL, theme.inks.soft)
            y += 15


def _said(finding: Finding, store: Store) -> tuple[object, ...]:
    """Return what a finding shows: the same words need no new layout."""
    units = store.units
    remedies = tuple((way.text.render(units), way.price.render(units) if way.price else "") for way in finding.remedies)
    return finding.level, finding.text.render(units), finding.reason.render(units), remedies


def _moved(store: Store) -> list[Finding]:
    """Return what the last step did to the balance, as a finding, when it is worth a word."""
    if store.moved is None:
        return []
    label, before, after = store.moved
    side = "aft" if after > before else "forward"
    words = say(f"The balance moved {{}} {side}.", Measured(abs(after - before), "fraction", 1))
    ends = (Measured(before, "fraction", 1, bare=True), Measured(after, "fraction", 1))
    plain = label.replace("{", "(").replace("}", ")")
    return [Finding("balance.moved", "look", "balance", words, say(f"By “{plain}”: {{}} → {{}}.", *ends))]


class Findings(QWidget):
    """The findings of the open stop, worst first."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store, self._stop = store, "brief"
        self.views: list[FindingView] = []
        self._shown: tuple[object, ...] = ()
        self._caution: list[str] = []
        self._caution_top = 0
        self._open: FindingView | None = None
        store.judged.connect(self.refresh)
        store.restyled.connect(self._restyle)

    def show_stop(self, stop: str) -> None:
        """Show the findings of one stop."""
        self._stop = stop
        self.refresh()

    def _restyle(self) -> None:
        self._shown = ()

    def of_stop(self) -> list[Finding]:
        """Return the findings of the open stop."""
        found = [finding for finding in self._store.findings if finding.stop == self._stop]
        return [*_moved(self._store), *found] if self._stop == "balance" else found

    def refresh(self) -> None:
        """Lay the findings out anew when they changed."""
        found = self.of_stop()
        key = (self._stop, *(_said(finding, self._store) for finding in found))
        if key == self._shown:
            for view, finding in zip(self.views, found, strict=True):
                view.finding = finding
            return
        self._shown = key
        for view in self.views:
            discard(view)
        self.views = [FindingView(self, self._store, finding, MARGIN_WIDTH) for finding in found]
        for view in self.views:
            view.unfolded.connect(lambda v=view: self._unfold(v))
        caution = STOP[self._stop].caution if self._stop else None
        self._caution = wrap(caution, MARGIN_WIDTH - TEXT_LEFT - PAD, LABEL) if caution else []
        self._open = None
        self.lay_out()

    def _unfold(self, view: FindingView) -> None:
        self._open = view
        self.lay_out()

    def lay_out(self) -> None:
        """Place the findings; where they do not fit, what is settled folds its reason, so that the caution shows."""
        viewport = self.parentWidget()
        room = viewport.height() if viewport is not None else 0
        rest = 12 + (30 + 15 * len(self._caution) if self._caution else 0)
        for view in self.views:
            view.fold(False)
        # The last are the least: they fold first, and no more of them than must.
        for view in reversed(self.views):
            if room <= 0 or sum(each.height() + 4 for each in self.views) + rest <= room:
                break
            view.fold(view is not self._open)
        y = 4
        for view in self.views:
            view.move(0, y)
            view.show()
            y += view.height() + 4
        self._caution_top = y + 6
        if self._caution:
            y += 30 + 15 * len(self._caution)
        self.setFixedSize(MARGIN_WIDTH, y + 4)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        if not self._shown or not self._caution:
            return
        p = QPainter(self)
        inks = theme.inks
        line(p, TEXT_LEFT, self._caution_top, MARGIN_WIDTH - PAD, self._caution_top, inks.hair)
        write(p, TEXT_LEFT, self._caution_top + 16, "Take care", LABEL, inks.stop, bold=True)
        for index, words in enumerate(self._caution):
            write(p, TEXT_LEFT, self._caution_top + 31 + 15 * index, words, LABEL, inks.soft)


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


class _FindingsScroll(QScrollArea):
    """Scrolls the findings, and has them laid out anew when its room changes."""

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        findings = self.widget()
        if isinstance(findings, Findings):
            findings.lay_out()


class Margin(QWidget):
    """The right-hand column."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.setFixedWidth(MARGIN_WIDTH)
        self._store = store
        self.findings = Findings(self, store)
        scroll = _FindingsScroll(self)
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
