"""The margin: findings with their remedies, the ghost of one, and the dimensions of what is selected."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from ridgeline.desk.dimensions import Dimensions
from ridgeline.desk.findings_column import Findings, FindingsScroll
from ridgeline.desk.paint import fit, heading, line, state_mark, wrap, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.title_block import MARGIN_WIDTH
from ridgeline.engine.advice.consequences import brings
from ridgeline.units import shown

PAD = 16
#: The dimensions take so much of the column at most: the findings come first.
DIMENSIONS_SHARE = 0.62


class Ghost(QWidget):
    """What the remedy under the hand would change: figure, now, then."""

    KEYS = (
        "mass.auw",
        "balance.cg_fraction",
        "stability.static_margin",
        "structure.wing_share",
        "structure.tip_limit",
        "structure.reversal_speed",
        "trim.elevator",
        "tail.volume_h",
        "tail.volume_v",
        "speed.stall",
        "power.thrust_ratio",
        "power.static_current",
        "flight.cruise_throttle",
        "flight.endurance",
    )
    MOST, MOST_BROUGHT = 4, 2

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.setAccessibleName("what the remedy would change")
        store.ghosted.connect(self._refresh)
        store.changed.connect(self._refresh)
        self._rows: list[tuple[str, str, str, str]] = []
        #: What it would bring to look at besides, a line each.
        self.brought: list[str] = []
        self.hide()

    def _refresh(self) -> None:
        self._rows = self._changed_rows()
        self.brought = self._brought_lines()
        self.setFixedHeight(40 + 20 * len(self._rows) + (16 * len(self.brought) + 6 if self.brought else 0))
        self.setVisible(self._store.ghost is not None)
        self.update()

    def _brought_lines(self) -> list[str]:
        """Return what comes to be looked at with it, so that nothing comes unannounced."""
        if self._store.ghost is None:
            return []
        found = brings(self._store.report, self._store.ghost[1])
        lines = []
        for finding in found[: self.MOST_BROUGHT]:
            lines += wrap(f"brings: {finding.text.render(self._store.units)}", MARGIN_WIDTH - 2 * PAD - 18, LABEL)[:2]
        if len(found) > self.MOST_BROUGHT:
            lines.append(f"and {len(found) - self.MOST_BROUGHT} more to look at")
        return lines

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
        y += 2
        for number, words in enumerate(self.brought):
            if number == 0:
                state_mark(p, PAD + 5, y - 4, "look")
            write(p, PAD + 18, y, words, LABEL, inks.look)
            y += 16


class Drawer(QScrollArea):
    """What the dimensions stand in: as tall as they are, up to a share of the column, and scrolled beyond."""

    def __init__(self, parent: QWidget, dimensions: Dimensions) -> None:
        super().__init__(parent)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self._dimensions = dimensions
        self.setWidget(dimensions)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.viewport().setAutoFillBackground(False)
        dimensions.setAutoFillBackground(False)
        dimensions.installEventFilter(self)

    def fit(self) -> None:
        """Be as tall as the dimensions, and leave the findings their share of the column."""
        self._dimensions.setFixedWidth(MARGIN_WIDTH - 1)
        column = self.parentWidget()
        most = self._dimensions.height() if column is None else int(DIMENSIONS_SHARE * column.height())
        self.setFixedHeight(min(self._dimensions.height(), most))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize:
            self.fit()
        return super().eventFilter(watched, event)


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
        self._drawer = Drawer(self, self.dimensions)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 30, 0, 4)
        column.setSpacing(0)
        column.addWidget(scroll, 1)
        column.addWidget(self.ghost)
        column.addWidget(self._drawer)
        store.judged.connect(self.update)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._drawer.fit()

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
