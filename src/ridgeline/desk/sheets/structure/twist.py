"""Twist: what is left of the ailerons over airspeed, the stiffness that holds them, and what would hold them better."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter

from ridgeline.desk.paint import fit, hatch, heading, line, rule, wrap, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD
from ridgeline.desk.sheets.structure.shown import HalfSheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.engine.advice.twist_cures import Cure, cures
from ridgeline.engine.advice.twist_rules import LEAST_LEFT
from ridgeline.engine.report import Report
from ridgeline.engine.stages.twisting import OVER_DIVE, Twisting
from ridgeline.units import with_unit

Array = NDArray[np.float64]
#: Where the chart begins, share of the sheet it takes, and how far below nothing it shows reversed ailerons.
_TOP, _CHART, _BELOW = 84, 0.46, -0.25
_POINTS = 160
#: The figures, each with its own working: key, and its words here.
_ROWS = (
    ("structure.effectiveness_cruise", "Left of the ailerons in cruise"),
    ("structure.reversal_speed", "Ailerons reverse at"),
    ("structure.divergence_speed", "The wing twists off at"),
    ("structure.dive_speed", "Dive speed it is judged at"),
)


class StructureTwistSheet(HalfSheet):
    """The main wing in torsion."""

    key = "structure.twist"
    known_by = "structure.reversal_speed"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.cures: tuple[Cure, ...] = ()
        self.buttons: list[RuledButton] = []
        self._notes_from = 0.0
        self._of: tuple[object, int] | None = None

    @property
    def found(self) -> Twisting | None:
        """How the main wing twists, None where that is not known."""
        result: Twisting | None = self.store.report.results.twisting
        return result

    def subtitle(self) -> str:
        if self.found is None:
            return self.store.report.figures["structure.divergence_speed"].why_not
        left = self.store.report.figures["structure.effectiveness_cruise"]
        if left.value is None:
            return left.why_not
        return f"{self.words('structure.effectiveness_cruise', 0)} of the ailerons is left in cruise"

    def _fill(self) -> None:
        """Solve the cures anew when the design changed."""
        now = (self.store.design, int(self._cures_area().width()))
        if self._of is not None and self._of[0] is now[0] and self._of[1] == now[1]:
            return
        self._of = now
        for old in self.buttons:
            discard(old)
        self.cures, self.buttons = cures(self.store.design, self.store.report), []
        for cure in self.cures:
            words = cure.remedy.text.render(self.store.units)
            button = RuledButton(self, words, room=now[1])
            button.setAccessibleName(f"stiffen the wing: {words}")
            button.clicked.connect(lambda _=False, r=cure.remedy: self.store.apply_remedy(r))
            button.rested.connect(lambda on, r=cure.remedy: self.store.show_ghost(r if on else None))
            self.buttons.append(button)

    def arrange(self) -> None:
        self._fill()
        area = self._cures_area()
        y = area.top() + 26
        for button in self.buttons:
            button.setGeometry(int(area.left()), int(y), int(area.width()), button.height())
            button.setVisible(not self.empty and y + button.height() < area.bottom())
            y += button.height() + 8
        self._notes_from = y + 14

    def _chart_box(self) -> QRectF:
        return QRectF(PAD + 44, _TOP, self.width() - 2 * PAD - 60, _CHART * (self.height() - 60) - 30)

    def _cures_area(self) -> QRectF:
        top = self._chart_box().bottom() + 58
        split = PAD + 0.5 * (self.width() - 2 * PAD)
        return QRectF(split, top, self.width() - PAD - split, self.height() - top - 8)

    def draw(self, p: QPainter) -> None:
        found = self.found
        if found is None:
            self.say_why(p)
            return
        box = self._chart_box()
        heading(p, PAD, 52, self.width() - 2 * PAD, "What twist leaves of the ailerons", "% over airspeed")
        self._draw_chart(p, box, found)
        below = box.bottom() + 46
        rule(p, PAD, below - 8, self.width() - 2 * PAD)
        left = QRectF(PAD, below + 12, 0.46 * (self.width() - 2 * PAD), self.height() - below - 20)
        self._draw_figures(p, QRectF(left.left(), left.top(), left.width(), 118))
        self._draw_stiffness(
            p, QRectF(left.left() + 52, left.top() + 146, left.width() - 60, left.height() - 180), found
        )
        area = self._cures_area()
        heading(p, area.left(), area.top() + 4, area.width(), "Stiffer", "resting on one shows it", strong=False)
        if not self.cures:
            words = "Nothing that is usual would change much: it is stiff enough, or there is nothing to turn."
            write(p, area.left(), area.top() + 40, fit(words, area.width(), LABEL), LABEL, theme.inks.soft)
        y = self._notes_from + (24 if not self.cures else 0)
        for words in self._notes(found):
            for told in wrap(words, area.width(), LABEL):
                if y < area.bottom():
                    write(p, area.left(), y, told, LABEL, theme.inks.soft)
                y += 16
            y += 4

    def _notes(self, found: Twisting) -> list[str]:
        """Return what else there is to say of the twist: how the root is held, the tips in a dive, tape."""
        units, panel = self.store.units, found.half.panel
        told = []
        if found.pin is not None:
            told.append(
                f"The root turns on its spar; what holds it bears {with_unit(found.pin, 'force', units, 0)} in a dive."
            )
        elif panel is not None and math.isinf(panel.root):
            told.append("The root is taken as held whole, by its seat or glue.")
        if found.tip_dive is not None:
            way = "down" if found.tip_dive < 0 else "up"
            told.append(f"In a dive the tips twist {with_unit(abs(found.tip_dive), 'angle', units)} nose {way}.")
        built = found.half.surface.built
        if built is not None and built.board.papers:
            told.append("Tape over paper adds nothing: the paper is stiffer by far.")
        return told

    def _end(self, found: Twisting) -> float:
        """The airspeed the chart ends at, m/s: past the dive, and past reversal where that is near."""
        bearing = self.store.report.results.bearing
        dive = bearing.dive if bearing is not None and bearing.dive is not None else 0.0
        cruise = self.store.report.value("speed.cruise") or 10.0
        near = found.reversal if found.reversal < 2 * max(dive, cruise) else 0.0
        return 1.12 * max(1.25 * dive, near, 1.5 * cruise)

    def _left(self, found: Twisting, report: Report, speeds: Array) -> Array:
        if not found.half.rolls:
            return np.full(len(speeds), np.nan)
        result: Array = found.left(speeds, report.results.air.density)
        return result

    def _draw_chart(self, p: QPainter, box: QRectF, found: Twisting) -> None:
        inks, units, report = theme.inks, self.store.units, self.store.report
        end = self._end(found)
        plot = Plot.of(box, (0.0, end), (_BELOW, 1.08), inside=True)
        zero = plot.at(0, 0.0).y()
        hatch(p, QRectF(box.left(), zero, box.width(), box.bottom() - zero), inks.hair)
        write(p, box.left() + 8, zero + 16, "reversed below", LABEL, inks.soft, halo=True)
        for level in (0.25, 0.5, 0.75, 1.0):
            line(p, box.left(), plot.at(0, level).y(), box.right(), plot.at(0, level).y(), inks.hair)
        plot.level(p, LEAST_LEFT, inks.look, dash=True)
        write(p, box.right(), plot.at(0, LEAST_LEFT).y() - 4, "least in cruise", LABEL, inks.look, align="right")
        speeds = np.linspace(0.0, end, _POINTS)
        ghost = self.store.ghost
        if ghost is not None and ghost[1].results.twisting is not None:
            self._curve(p, plot, speeds, self._left(ghost[1].results.twisting, ghost[1], speeds), inks.live, dash=True)
        self._curve(p, plot, speeds, self._left(found, report, speeds), inks.ink)
        line(p, box.left(), zero, box.right(), zero, inks.ink)
        plot.side(p, 25, 100.0)
        unit = units["speed"]
        plot.foot(p, nice_step(end * unit.factor, 6), unit.factor)
        write(p, box.right() + 4, box.bottom() + 15, unit.symbol, LABEL, inks.soft)
        self._draw_speeds(p, plot, found)

    def _curve(self, p: QPainter, plot: Plot, xs: Array, ys: Array, ink: QColor, *, dash: bool = False) -> None:
        inside = np.isfinite(ys) & (ys > _BELOW)
        plot.curve(p, xs[inside], ys[inside], ink, 2 if not dash else 1.4, dash=dash)

    def _draw_speeds(self, p: QPainter, plot: Plot, found: Twisting) -> None:
        """Mark cruise, top and dive with what is left there, and reversal and divergence on their axis."""
        inks, report = theme.inks, self.store.report
        bearing = report.results.bearing
        rows = [("cruise", report.value("speed.cruise")), ("top", report.value("speed.max"))]
        rows.append(("dive", None if bearing is None else bearing.dive))
        for words, speed in rows:
            if speed is None or speed > plot.x.high:
                continue
            x = plot.upright(p, speed, inks.ink, dash=True)
            write(p, x + 4, plot.box.top() + 2, words, LABEL, inks.ink, halo=True)
            left = float(self._left(found, report, np.array([speed]))[0])
            if math.isfinite(left) and left > _BELOW:
                spot = plot.at(speed, left)
                told = f"{100 * left:.0f} %".replace("-", "−")
                key = "structure.effectiveness_cruise" if words == "cruise" else ""
                if key:
                    self.written(p, spot.x() - 6, spot.y() + 18, told, key, VALUE, bold=True, align="right", halo=True)
                else:
                    write(p, spot.x() - 6, spot.y() + 18, told, VALUE, bold=True, align="right", halo=True)
        least = OVER_DIVE * bearing.dive if bearing is not None and bearing.dive is not None else 0.0
        marks = (
            ("reverses", found.reversal, "structure.reversal_speed"),
            ("twists off", found.divergence, "structure.divergence_speed"),
        )
        for words, speed, key in marks:
            if not math.isfinite(speed) or speed > plot.x.high:
                continue
            ink = inks.look if speed < least else inks.ink
            spot = plot.at(speed, 0.0)
            line(p, spot.x(), spot.y() - 10, spot.x(), spot.y() + 10, ink, 2.5)
            told = f"{words} at {with_unit(speed, 'speed', self.store.units, 0)}"
            high = spot.y() - 16 if words == "reverses" else spot.y() + 30
            self.written(
                p, min(spot.x() + 6, plot.box.right() - 100), high, told, key, VALUE, ink, bold=True, halo=True
            )

    def _draw_figures(self, p: QPainter, area: QRectF) -> None:
        inks, report = theme.inks, self.store.report
        heading(p, area.left(), area.top(), area.width(), "Figures", "press one for its working", strong=False)
        y = area.top() + 28
        for key, words in _ROWS:
            figure = report.figures[key]
            told = self.words(key, 0) if figure.value is not None else "none"
            room = area.width() - 96
            write(p, area.left(), y, fit(words, room, LABEL), LABEL, inks.soft)
            if figure.value is None:
                write(
                    p, area.right(), y, fit(figure.why_not, area.width() - 170, LABEL), LABEL, inks.soft, align="right"
                )
            else:
                self.written(p, area.right(), y, told, key, align="right")
            rule(p, area.left(), y + 6, area.width())
            y += 23

    def _draw_stiffness(self, p: QPainter, box: QRectF, found: Twisting) -> None:
        """Draw the stiffness in torsion along the half, and that of a ghost."""
        if box.height() < 50:
            return
        inks, half, unit = theme.inks, found.half, self.store.units["length"]
        most = 1.12 * float(half.torsion.max())
        ghost = self.store.ghost
        other = None if ghost is None else ghost[1].results.twisting
        if other is not None:
            most = max(most, 1.12 * float(other.half.torsion.max()))
        plot = Plot.of(box, (0.0, float(half.y[-1])), (0.0, most), inside=True)
        write(p, box.left() - 44, box.top() - 12, "Stiffness in torsion G J along the half, N m²", LABEL, inks.soft)
        if other is not None:
            plot.curve(p, other.half.y, other.half.torsion, inks.live, 1.4, dash=True)
        plot.curve(p, half.y, half.torsion, inks.ink)
        plot.side(p, nice_step(most, 3))
        last = float(half.y[-1]) * unit.factor
        plot.foot(p, nice_step(last, 5), unit.factor)
        write(p, box.right() + 4, box.bottom() + 15, unit.symbol, LABEL, inks.soft)
