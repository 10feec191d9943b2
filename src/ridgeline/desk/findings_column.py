"""The findings of the open stop: worst first, each with its remedies; what is settled folds to one line."""

from __future__ import annotations

import contextlib

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QScrollArea, QWidget

from ridgeline.desk.paint import line, state_mark, wrap, write
from ridgeline.desk.stops import STOP
from ridgeline.desk.store import Store
from ridgeline.desk.theme import HEADING, LABEL, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.desk.widgets.buttons import DrawnButton, RuledButton, discard
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding
from ridgeline.errors import DesignError
from ridgeline.files.choices import remember, remembered_word

PAD = 16
TEXT_LEFT = 36
#: What is remembered of the settled: nothing, until it is turned by hand.
_SETTLED = ("by itself", "shown", "folded")


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


class SettledLine(DrawnButton):
    """What is settled, in one line: a press shows it, another folds it away."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._count, self._shown = 0, True
        self.setFixedSize(MARGIN_WIDTH, 22)

    def tell(self, count: int, shown: bool) -> None:
        """Say how many are settled, and whether they are shown."""
        self._count, self._shown = count, shown
        self.setAccessibleName(f"{count} settled: {'fold away' if shown else 'show'}")
        self.setToolTip("fold away what is settled" if shown else "show what is settled, and why")
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, p = theme.inks, QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        state_mark(p, PAD + 6, 10, "settled")
        ink = inks.live if self.live else inks.soft
        write(p, TEXT_LEFT, 15, f"{self._count} settled", HEADING, ink, bold=True)
        write(p, MARGIN_WIDTH - PAD, 15, "fold away" if self._shown else "show", LABEL, ink, align="right")


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
        self.settled_line = SettledLine(self)
        self.settled_line.clicked.connect(self._turn_settled)
        self._settled: bool | None = {"shown": True, "folded": False}.get(remembered_word("settled", _SETTLED))
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
        # Taking away what has the focus may come back here to lay out: what is gone is not shown again.
        gone, self.views = self.views, []
        for view in gone:
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

    @property
    def settled_shown(self) -> bool:
        """Tell whether what is settled is shown: as chosen last, else where nothing needs looking at."""
        return all(view.foldable for view in self.views) if self._settled is None else self._settled

    def _turn_settled(self) -> None:
        self._settled = not self.settled_shown
        with contextlib.suppress(DesignError):
            remember(settled="shown" if self._settled else "folded")
        self.lay_out()

    def lay_out(self) -> None:
        """Place the findings: what needs looking at, and below it what is settled, or one line in its place.

        Where they do not fit, what is settled folds its reason, so that the caution shows.
        """
        viewport = self.parentWidget()
        room = viewport.height() if viewport is not None else 0
        shown, settled = self.settled_shown, [view for view in self.views if view.foldable]
        # Alone and shown of itself it needs no line to fold it.
        lined = bool(settled) and (self._settled is not None or len(settled) < len(self.views))
        rest = 12 + (30 + 15 * len(self._caution) if self._caution else 0) + (26 if lined else 0)
        for view in self.views:
            view.fold(False)
        self.settled_line.tell(len(settled), shown)
        self.settled_line.setVisible(lined)
        hidden = [] if shown else settled
        # The last are the least: they fold first, and no more of them than must.
        for view in reversed(self.views):
            if room <= 0 or sum(each.height() + 4 for each in self.views if each not in hidden) + rest <= room:
                break
            view.fold(view is not self._open)
        y = 4
        for view in [view for view in self.views if view not in settled]:
            view.move(0, y)
            view.show()
            y += view.height() + 4
        if lined:
            self.settled_line.move(0, y)
            y += self.settled_line.height() + 4
        for view in settled:
            view.setVisible(shown)
            if shown:
                view.move(0, y)
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


class FindingsScroll(QScrollArea):
    """Scrolls the findings, and has them laid out anew when its room changes."""

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        findings = self.widget()
        if isinstance(findings, Findings):
            findings.lay_out()
