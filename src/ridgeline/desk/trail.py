"""The trail: the stops of the work in order, joined by a ridge line, each with its headline and state."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QButtonGroup, QWidget

from ridgeline.desk.paint import fit, line, pen, state_mark, write
from ridgeline.desk.stops import STOP, STOPS, Stop, headline
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import DrawnButton

WIDTH = 172


def state_of(store: Store, key: str) -> str:
    """Return the state of a stop: the worst level among its findings, or untouched."""
    if not store.design.surfaces:
        return "untouched"
    levels = {finding.level for finding in store.findings if finding.stop == key}
    return next((level for level in ("stop", "look") if level in levels), "settled")


class StopButton(DrawnButton):
    """One stop, pressed to open its sheet."""

    def __init__(self, parent: QWidget, store: Store, stop: Stop, number: int) -> None:
        super().__init__(parent)
        self._store, self._stop, self._number = store, stop, number
        self.setCheckable(stop.alive)
        self.setEnabled(stop.alive)
        self.setText(stop.name)
        self.setAccessibleName(f"{stop.name} sheet" if stop.alive else f"{stop.name}, not yet")
        self.setToolTip(f"{stop.name} (Alt+{number})" if stop.alive else f"{stop.name}: not yet")

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 64)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = self.height() / 2
        alive, here = self._stop.alive, self.isChecked()
        if here:
            line(p, 0, 0.5, WIDTH, 0.5, inks.live)
            line(p, 0, self.height() - 0.5, WIDTH, self.height() - 0.5, inks.live)
            p.fillRect(QRectF(0, 0, 4, self.height()), inks.live)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.drawRect(QRectF(54.5, 4.5, WIDTH - 60, self.height() - 9))
        colour = inks.live if here or self.underMouse() else (inks.ink if alive else inks.soft)
        write(p, 60, middle - 4, self._stop.name, 13, colour, bold=here)
        write(p, 164, middle - 4, str(self._number), LABEL, inks.soft, align="right")
        words = headline(self._store, self._stop) if alive else "not yet"
        write(p, 60, middle + 12, fit(words, WIDTH - 61, LABEL), LABEL, inks.ink if here else inks.soft)
        state_mark(
            p,
            30 + 8 * ((self._number * 7) % 3 - 1),
            middle,
            state_of(self._store, self._stop.key) if alive else "untouched",
        )


class Trail(QWidget):
    """The column of stops on its ridge line."""

    chosen = Signal(str)

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.setFixedWidth(WIDTH)
        self._group = QButtonGroup(self)
        self.buttons: dict[str, StopButton] = {}
        for number, stop in enumerate(STOPS, start=1):
            button = StopButton(self, store, stop, number)
            button.clicked.connect(lambda _=False, key=stop.key: self.chosen.emit(key))
            self._group.addButton(button)
            self.buttons[stop.key] = button
        self._store = store
        self._told: dict[str, tuple[str, str, object]] = {}
        store.changed.connect(self._refresh)
        store.judged.connect(self._refresh)

    def _refresh(self) -> None:
        """Repaint the stops whose headline or state changed."""
        for key, button in self.buttons.items():
            if not button.isEnabled():
                continue
            told = (headline(self._store, STOP[key]), state_of(self._store, key), theme.inks)
            if self._told.get(key) != told:
                self._told[key] = told
                button.update()

    def show_stop(self, key: str) -> None:
        """Mark the stop whose sheet is open."""
        self.buttons[key].setChecked(True)
        self.update()

    def resizeEvent(self, _event: QEvent) -> None:
        pitch = min((self.height() - 8) / len(STOPS), 84)
        for index, button in enumerate(self.buttons.values()):
            button.setGeometry(
                0,
                round(4 + index * pitch + (pitch - 64) / 2 if pitch > 64 else 4 + index * pitch),
                WIDTH,
                int(min(64, pitch)),
            )

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        points: list[QPointF] = []
        for number, button in enumerate(self.buttons.values(), start=1):
            x = 30 + 8 * ((number * 7) % 3 - 1)
            y = button.y() + button.height() / 2
            if points:
                last = points[-1]
                # Six sharp bends between two stops, the same at every run: a skyline, not noise.
                for k in range(1, 6):
                    t = k / 6
                    swing = (7, -9, 5, -6, 8)[k - 1] * (1 if number % 2 else -1)
                    points.append(QPointF(last.x() + t * (x - last.x()) + swing, last.y() + t * (y - last.y())))
            points.append(QPointF(x, y))
        p.setPen(pen(inks.hair, 1.5))
        p.drawPolyline(QPolygonF(points))
        alive = 1 + 6 * (sum(stop.alive for stop in STOPS) - 1)
        p.setPen(pen(inks.ink, 1.5))
        p.drawPolyline(QPolygonF(points[:alive]))
        line(p, self.width() - 0.5, 0, self.width() - 0.5, self.height(), inks.hair)
