"""The ghosts beside a throw: what is wrong with each, how it is drawn, and what became of it; press to show."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, line, pen, write
from ridgeline.desk.sheets.flights.throw_chart import ghost_ink, until_landed
from ridgeline.desk.sheets.flights.throw_work import FlownPlan
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.flight.ghosts import GHOSTS, behind_of
from ridgeline.engine.flight.launch import STALLED
from ridgeline.engine.flight.scenes import GHOST_NAMES, SceneKey
from ridgeline.engine.flight.throwing import Thrown
from ridgeline.units import Units, shown, with_unit

_ROW = 19


class GhostPicks(QWidget):
    """The list of ghosts; those that are shown are ticked."""

    def __init__(self, parent: QWidget, turn: Callable[[SceneKey], None], units: Callable[[], Units]) -> None:
        super().__init__(parent)
        self._turn, self._units = turn, units
        self._plan: FlownPlan | None = None
        self.shown: tuple[SceneKey, ...] = ()
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._rename()

    @property
    def keys(self) -> tuple[SceneKey, ...]:
        """Those that this design can be thrown with."""
        return GHOSTS if self._plan is None else self._plan.ghosts

    def show_plan(self, plan: FlownPlan | None, shown: tuple[SceneKey, ...]) -> None:
        """Show what was flown, with some of the ghosts ticked."""
        self._plan, self.shown = plan, shown
        self.at = min(self.at, max(len(self.keys) - 1, 0))
        self._rename()
        self.update()

    def name_of(self, key: SceneKey) -> str:
        """Return what is wrong with a ghost, in words."""
        plan = self._plan
        if key == "tail_wind" and plan is not None and plan.launch is not None:
            return f"tail wind {with_unit(behind_of(plan.launch), 'speed', self._units(), 0)}"
        return GHOST_NAMES[key]

    def _rename(self) -> None:
        if not self.keys:
            self.setAccessibleName("no ghosts")
            return
        key = self.keys[self.at]
        told = "shown" if key in self.shown else "not shown"
        self.setAccessibleName(f"ghost: {self.name_of(key)}, {told}, {self._became(self.at)}")
        self.setToolTip("Arrows and Space show a ghost, or leave it out")

    @staticmethod
    def outcome_words(thrown: Thrown, build: int) -> str:
        """Return what became of a throw, in a few words."""
        outcome, time = thrown.outcome[build], thrown.path.time
        landed = float(thrown.path.landed[build])
        far = float(thrown.path.state[until_landed(thrown, build) - 1, 0, build])
        if outcome == "climbs":
            low = float(thrown.told.lowest[build])
            return "climbs away" if low > 0.85 * float(thrown.path.height[0, build]) else f"climbs, down to {low:.1f} m"
        if outcome == "holds":
            return "flies on, hardly climbing"
        if outcome == "stalls":
            gone = thrown.told.separated[:, build] > STALLED
            return f"stalls at {float(time[int(gone.argmax())]):.1f} s"
        if outcome == "rolls":
            over = abs(thrown.told.bank[:, build]) > 1.047
            return f"rolls off at {float(time[int(over.argmax())]):.1f} s"
        return f"down after {landed:.1f} s, {far:.0f} m out"

    def told(self, build: int) -> str:
        """Return what became of the plan, or of a ghost, in the words of its moment."""
        plan = self._plan
        if plan is None or plan.thrown is None:
            return ""
        if plan.scene == "downwind":
            speeds, units = plan.thrown.told.airspeed[:, build], self._units()
            low, high = (shown(float(one), "speed", units) for one in (speeds.min(), speeds.max()))
            return f"airspeed {low} to {high}"
        words = self.outcome_words(plan.thrown, build)
        if plan.launch is not None and plan.launch.kind == "tow" and plan.scene == "throw":
            top = float(plan.thrown.path.height[: until_landed(plan.thrown, build), build].max())
            return f"up to {with_unit(top, 'distance', self._units(), 0)}, {words}"
        return words

    def _became(self, place: int) -> str:
        plan = self._plan
        if plan is None or place >= len(plan.ghosts):
            return ""
        return self.told(place + 1)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        place = int(event.position().y() // _ROW)
        if 0 <= place < len(self.keys):
            self.at = place
            self._turn(self.keys[place])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if key in moves and self.keys:
            self.at = min(max(self.at + moves[key], 0), len(self.keys) - 1)
            self._rename()
            self.update()
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.keys:
            self._turn(self.keys[self.at])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for k, key in enumerate(self.keys):
            y, on = k * _ROW + 13, key in self.shown
            p.setPen(pen(ghost_ink(key) if on else inks.hair, 1))
            p.setBrush(ghost_ink(key) if on else inks.paper)
            p.drawRect(QRectF(1.5, y - 9, 8, 8))
            p.setBrush(Qt.BrushStyle.NoBrush)
            if on:
                line(p, 14, y - 4, 30, y - 4, ghost_ink(key), 1.4, dash=True)
            name = write(p, 35, y, self.name_of(key), LABEL, inks.ink if on else inks.soft)
            room = self.width() - 35 - name - 8
            write(p, self.width() - 1, y, fit(self._became(k), room, LABEL), LABEL, inks.soft, align="right")
            if self.hasFocus() and k == self.at:
                p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
                p.drawRect(QRectF(0.5, k * _ROW + 0.5, self.width() - 1, _ROW - 1))
        if not self.keys:
            write(p, 2, 14, "no ghosts", VALUE, inks.soft)
