"""First throw: the launch flown on paper beside what could be wrong with it, and the odds of builds like this one."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import fit, heading, line, width_of, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.ghost_picks import GhostPicks
from ridgeline.desk.sheets.flights.odds_panel import OddsPanel
from ridgeline.desk.sheets.flights.throw_chart import (
    SideChart,
    Trace,
    draw_above,
    draw_over_time,
    ghost_ink,
    until_landed,
)
from ridgeline.desk.sheets.flights.throw_rows import KIND_WORDS, plan_words, throw_rows
from ridgeline.desk.sheets.flights.throw_work import FlownPlan, ThrowWork
from ridgeline.desk.theme import HEADING, LABEL, VALUE, theme
from ridgeline.engine.flight.scenes import Scene, SceneKey
from ridgeline.engine.flight.throwing import sticks_used

#: Heights of the charts over time and of the foot, px, and where the odds begin, of the width.
_OVER, _FOOT, _ODDS = 74, 224, 0.5
#: An elevator that is held is drawn on a scale of so much either way, rad.
_HELD = 0.035
#: Ghosts that are shown until others are picked.
_FIRST: tuple[SceneKey, ...] = ("aft", "tail_wind", "lowered", "held", "calm", "in_gusts")
#: Moments, and what is to be learnt of each.
SCENES: dict[Scene, tuple[str, str]] = {
    "throw": ("First throw", ""),
    "approach": ("Approach", "power off, trimmed for 1.3 of the stall, from 12 m"),
    "engine_out": ("One motor out", "port side stopped in a full-throttle climb"),
    "downwind": ("Turning downwind", "4 m/s of wind: a steady one costs no airspeed, gusts do"),
}


class FlightsThrowSheet(Sheet):
    """The first throw."""

    key = "flights.throw"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.work = ThrowWork(self.store)
        self.work.changed.connect(self._flown)
        self.shown: tuple[SceneKey, ...] = _FIRST
        self.ghosts = GhostPicks(self, self.turn_ghost, lambda: self.store.units)
        self.panel = OddsPanel(self, self.store, self.work)

    def _flown(self) -> None:
        if self.isVisible():
            self.panel.renew()
            self._renew_ghosts()
            self.update()
            self.store.selected.emit()

    @property
    def plan(self) -> FlownPlan | None:
        """What was flown last; of the design as it stands where `work.current` says so."""
        return self.work.plan

    def turn_ghost(self, key: SceneKey) -> None:
        """Show a ghost, or leave it out."""
        self.shown = tuple(one for one in self.shown if one != key) if key in self.shown else (*self.shown, key)
        self._renew_ghosts()
        self.update()

    def _renew_ghosts(self) -> None:
        self.ghosts.show_plan(self.plan, self.shown)

    def subtitle(self) -> str:
        if self.empty:
            return ""
        plan = self.plan
        if plan is None or not self.work.current:
            return "flying…"
        if plan.thrown is None:
            return "it cannot be trimmed to fly"
        return self.ghosts.told(0)

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        plan = self.plan
        chosen = plan.launch if plan is not None and self.work.current and plan.scene == "throw" else None
        rows = throw_rows(self.store, chosen)
        if plan is None or len(plan.scenes) < 2:
            return rows
        choices = tuple((one, SCENES[one][0]) for one in plan.scenes)
        scene = Dimension("Flown", read=lambda: plan.scene, choices=choices, choose=self.show_scene)
        if plan.scene != "throw":
            return Selection(SCENES[plan.scene][0].lower(), (scene,))
        return Selection(rows.title, (scene, *rows.rows), rows.acts)

    def show_scene(self, scene: str) -> None:
        """Fly another moment: the throw, an approach, a stopped motor, a turn down the wind."""
        if scene in SCENES:
            self.work.show(scene)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key()) if not event.modifiers() else None
        if self.empty or key not in (Qt.Key.Key_O, Qt.Key.Key_P, Qt.Key.Key_Escape):
            super().keyPressEvent(event)
        elif key == Qt.Key.Key_P:
            held, launch = self.store.design.first_throw.pilot, None if self.plan is None else self.plan.launch
            if held is None:
                held = launch is not None and launch.held_by
            self.store.put("first_throw.pilot", not held, "Who holds the sticks")
        elif key == Qt.Key.Key_Escape:
            self.work.stop()
        elif not self.work.odd.busy:
            self.work.draw_odds()

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self.work.begin()
        wide, tall = self.width(), self.height()
        foot = tall - _FOOT
        left = self._panel_left
        self.ghosts.setGeometry(PAD, foot + 26, left - PAD - 24, 116)
        self.panel.setGeometry(left, foot + 24, wide - PAD - left, _FOOT - 30)
        self._renew_ghosts()
        self.panel.renew()

    @property
    def _panel_left(self) -> int:
        return int(self.width() * _ODDS)

    def _traces(self, plan: FlownPlan) -> tuple[Trace, ...]:
        inks = theme.inks
        ghosts = [Trace(k + 1, ghost_ink(key), True) for k, key in enumerate(plan.ghosts) if key in self.shown]
        return (Trace(0, inks.live, False), *ghosts)

    def draw(self, p: QPainter) -> None:
        inks, wide, tall = theme.inks, self.width(), self.height()
        foot, plan = tall - _FOOT, self.plan
        over = foot - _OVER - 44
        if plan is None or plan.thrown is None or plan.launch is None:
            heading(p, PAD, 52, wide - 2 * PAD, "First throw", "")
            words = "It cannot be trimmed: it needs wing, tail and masses, balanced ahead of the neutral point."
            if self.work.plans.busy or plan is None:
                words = "It flies the plan…"
            write(p, PAD, 90, fit(words, wide - 2 * PAD), VALUE, inks.soft)
        else:
            self._draw_plan(p, plan, over, foot)
        heading(p, PAD, foot + 14, self._panel_left - PAD - 24, "Beside it", "press to show", strong=False)
        above = QRectF(PAD, foot + 168, self._panel_left - PAD - 24, 24)
        write(p, PAD, foot + 164, "From above", LABEL, inks.soft)
        if plan is not None and plan.thrown is not None:
            draw_above(p, above.adjusted(70, -14, 0, 6), plan.thrown, self._traces(plan))
        left = self._panel_left
        heading(p, left, foot + 14, wide - PAD - left, "Odds", "builds within the bands", strong=False)

    def _draw_plan(self, p: QPainter, plan: FlownPlan, over: float, foot: float) -> None:
        inks, wide, thrown, launch = theme.inks, self.width(), plan.thrown, plan.launch
        assert thrown is not None and launch is not None
        traces, odds = self._traces(plan), self.work.odds_now
        box = QRectF(PAD + 26, 72, wide - 2 * PAD - 30, over - 72 - 44)
        fan = None if odds is None or plan.scene != "throw" else odds.fan[:2]
        was = self.work.before
        before = None if was is None or was.scene != plan.scene else was.thrown
        chart = SideChart(box, thrown, traces, fan, before)
        drawn = f"aircraft drawn {chart.times(plan.design):.0f}×"
        kind = KIND_WORDS[launch.kind]
        title, words = SCENES[plan.scene]
        words = words or f"{kind}, {plan_words(self.store, launch)}"
        heading(p, PAD, 52, wide - 2 * PAD, title, "from above" if plan.scene == "downwind" else drawn)
        left = PAD + width_of(title, HEADING, True) + 14
        write(p, left, 52, fit(words, wide - PAD - left - 120), VALUE, inks.soft)
        state = self.store.report.results.masses.state
        cg = (0.0, 0.0) if state is None else (float(state.cg[0]), float(state.cg[2]))
        if plan.scene == "downwind":
            # A turn is seen from above.
            draw_above(p, box.adjusted(0, 8, 0, 20), thrown, traces)
        else:
            chart.draw(p, plan.design, cg, launch.falls)
            write(p, box.left() + 6, box.top() + 8, "m high", LABEL, inks.soft)
        if fan is not None and odds is not None:
            who = "with a pilot" if odds.held_by else "hands off"
            words = f"thin: {odds.fan[0].shape[1]} builds, {who}"
            write(p, box.right(), box.top() + 24, words, LABEL, inks.soft, align="right", halo=True)
        if not self.work.current:
            write(p, box.right(), box.top() + 10, "flying the edit…", LABEL, inks.look, align="right")
        self._draw_over_time(p, plan, traces, over)
        line(p, PAD, foot - 6, wide - PAD, foot - 6, inks.hair)

    def _draw_over_time(self, p: QPainter, plan: FlownPlan, traces: tuple[Trace, ...], top: float) -> None:
        thrown, launch, units = plan.thrown, plan.launch, self.store.units
        assert thrown is not None and launch is not None
        room = (self.width() - 2 * PAD) / 4
        time, seconds = thrown.path.time, launch.seconds

        def of(rows: Any) -> list[tuple[Trace, Any]]:
            return [(one, rows[: until_landed(thrown, one.build), one.build]) for one in traces]

        degree, craft = units["angle"].factor, launch.craft
        stalls = float((craft.lift_most - craft.lift_zero) / craft.lift_alpha)
        used = sticks_used(launch, thrown)
        charts: tuple[tuple[str, str, float, Any, tuple[float, str, bool] | None], ...] = (
            ("Height", "m", 1.0, thrown.path.height, None),
            ("Airspeed", units["speed"].symbol, units["speed"].factor, thrown.told.airspeed,
             (launch.stall, "under the stall", False)),
            ("To the air", "°", degree, thrown.told.alpha, (stalls, "stalled", True)),
            ("Elevator up", "°", degree, -used, None),
        )  # fmt: skip
        for k, (title, unit, factor, rows, limit) in enumerate(charts):
            box = QRectF(PAD + 32 + k * room, top + 14, room - 46, _OVER - 10)
            span = None
            if title == "To the air":
                span = (float(np.radians(-6)), float(np.radians(24)))
            if title == "Elevator up":
                middle = float(rows[:, 0].mean())
                span = min(float(rows.min()), middle - _HELD), max(float(rows.max()), middle + _HELD)
            draw_over_time(
                p, box, time, of(rows), title=title, unit=unit, factor=factor, limit=limit, span=span, seconds=seconds
            )
