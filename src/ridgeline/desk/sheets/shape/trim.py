"""Trim: the aircraft as it flies in cruise, the elevator over the speed range, and every way to set it."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.airframe import Surface
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent, panel_point
from ridgeline.desk.paint import (
    arrow_head,
    brush_of,
    cg_mark,
    fit,
    heading,
    line,
    rule,
    width_of,
    write,
)
from ridgeline.desk.scales import Plot, nice_step, ticks
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.advice.trim_rules import setting_changes
from ridgeline.engine.aero.trim import Setting, Trim, shim_height
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Remedy
from ridgeline.engine.stages.trimming import Trimmed
from ridgeline.units import shown, with_unit

_NAMES = {
    "as_built": "As it is built",
    "body": "Body at its chosen angle",
    "wing": "Wing seat kept, tail set",
    "tail": "Tail kept, wing seat set",
}


def _row(way: Setting) -> int:
    """Return the height of a way's row: three lines, or one where nothing is changed."""
    return 46 if way.held == "as_built" else 66


class ShapeTrimSheet(Sheet):
    """Angles in cruise, the sweep, and the settings."""

    key = "shape.trim"
    known_by = "speed.cruise"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.ratio = PathField(self, store, "brief.cruise_ratio", "cruise speed over stall speed", right=False)
        self.body = PathField(self, store, "brief.body_angle", "chosen angle of the body to the air", right=False)
        self.buttons: dict[str, RuledButton] = {}
        self._ways: tuple[Setting, ...] = ()

    def subtitle(self) -> str:
        report = self.store.report
        if report.results.trim is None:
            return report.figures["trim.elevator"].why_not
        return f"level at {self.words('speed.cruise')}, balance at {self.words('balance.cg_fraction', 0)}"

    def selection(self) -> Selection:
        rows, length = [], self.store.units["length"].symbol
        for index, surface in enumerate(self.store.design.surfaces):
            if surface.role != "fin":
                rows.append(Dimension(f"{surface.name}, incidence", f"surfaces[{index}].incidence"))
        rows += [
            Dimension("Wing shim, leading edge", read=lambda: self._figure("trim.wing_shim", 1), unit=length),
            Dimension("Tail shim, leading edge", read=lambda: self._figure("trim.tail_shim", 1), unit=length),
        ]
        if self.store.report.value("trim.reflex") is not None:
            rows += [
                Dimension("Reflex at the elevons", read=lambda: self._figure("trim.reflex", 1), unit=length),
                Dimension("Reflex in sheets", read=lambda: self._figure("trim.reflex_sheets", 2)),
            ]
        rows.append(Dimension("Aileron held", read=lambda: self._figure("trim.aileron", 1), unit="°"))
        return Selection("incidences and shims", tuple(rows))

    def _figure(self, key: str, decimals: int) -> str:
        figure = self.store.report.figures[key]
        if figure.value is None:
            return "–"
        return shown(figure.value, figure.quantity, self.store.units, decimals)

    @property
    def _bottom(self) -> int:
        return int(0.44 * self.height())

    def arrange(self) -> None:
        solved = self.store.report.results.trim
        self._ways = () if solved is None else solved.settings
        x = PAD + width_of("Cruise at ", VALUE)
        for field, after in ((self.ratio, " times the stall speed; the body "), (self.body, "")):
            field.fit_width()
            field.setFixedHeight(20)
            field.move(int(x), 51)
            x += field.width() + width_of(after, VALUE) + 4
        wanted = {way.held: way for way in self._ways if way.held != "as_built"}
        for held in [k for k in self.buttons if k not in wanted]:
            discard(self.buttons.pop(held))
        for held in wanted:
            if held not in self.buttons:
                button = RuledButton(self, "Set it so")
                button.setAccessibleName(f"set: {_NAMES[held]}")
                button.clicked.connect(lambda _=False, h=held: self.apply(h))
                button.rested.connect(lambda on, h=held: self._rest(on, h))
                self.buttons[held] = button
        row = self._bottom + 42
        for way in self._ways:
            if way.held in self.buttons:
                button = self.buttons[way.held]
                button.setGeometry(self.width() - PAD - 84, int(row), 84, 24)
                button.show()
            row += _row(way)

    @property
    def _split(self) -> int:
        return PAD + int(0.47 * (self.width() - 2 * PAD))

    def remedy(self, held: str) -> Remedy | None:
        """Return the edit that sets the incidences a way asks for."""
        way = next((w for w in self._ways if w.held == held), None)
        if way is None:
            return None
        changes = tuple(setting_changes(self.store.design, way.wing_change, way.tail_change))
        return Remedy(f"trim_{held}", say(f"{_NAMES[held]}: {{}} of body angle", Measured(way.alpha, "angle")), changes)

    def _rest(self, on: bool, held: str) -> None:
        self.store.show_ghost(self.remedy(held) if on else None)

    def apply(self, held: str) -> None:
        """Set the incidences a way asks for, as one step."""
        remedy = self.remedy(held)
        if remedy is not None and remedy.changes:
            self.store.apply_remedy(remedy)

    def draw(self, p: QPainter) -> None:
        report = self.store.report
        write(p, PAD, 66, "Cruise at ", VALUE)
        write(p, self.ratio.x() + self.ratio.width() + 2, 66, " times the stall speed; the body ", VALUE)
        symbol = self.store.units["angle"].symbol
        write(p, self.body.x() + self.body.width(), 66, f"{symbol} to the air where that is chosen.", VALUE)
        rule(p, PAD, self._bottom, self.width() - 2 * PAD)
        if report.results.trim is None:
            words = report.figures["trim.elevator"].why_not
            write(p, self.width() / 2, 0.25 * self.height(), words, VALUE, theme.inks.look, align="centre")
            return
        self._draw_attitude(p, report.results.trim.cruise)
        tall = self.height() - self._bottom - 96
        self._draw_sweep(p, report.results.trim, QRectF(PAD + 34, self._bottom + 50, self._split - PAD - 62, tall))
        self._draw_ways(p)

    def _draw_attitude(self, p: QPainter, solved: Trim) -> None:
        """Draw the aircraft from the side, turned as it flies, with the chord lines' angles to the air."""
        inks, report, design = theme.inks, self.store.report, self.store.design
        box = extent(design, "side")
        room = QRectF(PAD + 110, 84, self.width() - 2 * PAD - 220, self._bottom - 100)
        scale = min(room.width() / box.width(), room.height() / (box.height() + 0.06 * box.width()))
        self.scale = scale
        cg_x = report.value("balance.cg_x") or box.center().x()
        cg_z = report.value("balance.cg_z") or 0.0
        centre_x = room.center().x() + (cg_x - box.center().x()) * scale
        centre_y = room.center().y() - (-box.center().y() - cg_z) * -scale
        for k in range(-2, 3):
            y = centre_y + k * 0.19 * room.height()
            line(p, PAD + 8, y, self.width() - PAD - 8, y, inks.hair)
        air = f"air {self.words('speed.cruise')}"
        write(p, PAD + 8, centre_y - 6, air, LABEL, inks.soft, halo=True)
        arrow_head(p, PAD + 100, centre_y, 1, 0, inks.soft, 7)
        p.save()
        p.translate(centre_x, centre_y)
        # The side view has the nose to the left: nose up turns it clockwise on the sheet.
        p.rotate(math.degrees(solved.alpha))
        view = View("side", -cg_x * scale, cg_z * scale, scale)
        ghost = self.store.ghost
        draw_aircraft(p, design, view, fill=inks.paper)
        if ghost is not None:
            draw_aircraft(p, ghost[0], view, ghost=True)
        axis = cg_z * scale
        line(p, (box.left() - cg_x) * scale - 30, axis, (box.right() - cg_x) * scale + 30, axis, inks.soft, dash=True)
        self._draw_chord_lines(p, view)
        p.restore()
        cg_mark(p, centre_x, centre_y, 6)
        self._label_angles(p, solved.alpha)

    def _chosen_surfaces(self) -> list[Surface]:
        surfaces = self.store.design.surfaces
        wing = next((s for s in surfaces if s.role in WINGS), None)
        tails = [s for s in surfaces if s.role in TAILS] or [s for s in surfaces if s.role == "foreplane"]
        tail = tails[0] if tails else None
        return [s for s in (wing, tail) if s is not None]

    def _draw_chord_lines(self, p: QPainter, view: View) -> None:
        for surface in self._chosen_surfaces():
            root = surface.stations[0]
            x, y = view.at(panel_point(surface, root.y, root.x, root.z))
            reach = root.chord * view.scale
            c, s = math.cos(surface.incidence), math.sin(surface.incidence)
            ends = (x - 0.4 * reach * c, y - 0.4 * reach * s, x + 1.5 * reach * c, y + 1.5 * reach * s)
            line(p, *ends, theme.inks.live, 1.2)

    def _label_angles(self, p: QPainter, alpha: float) -> None:
        """Write the angles to the air in a row over the drawing."""
        inks, units = theme.inks, self.store.units
        held = self.store.report.value("trim.elevator") or 0.0
        side = "up" if held < 0 else "down"
        rows = [("Body", with_unit(alpha, "angle", units), inks.ink)]
        for surface in self._chosen_surfaces():
            angle = with_unit(alpha + surface.incidence, "angle", units)
            rows.append((fit(surface.name, 90), angle, inks.live))
        rows.append(("elevator", f"{with_unit(abs(held), 'angle', units)} {side}", inks.predicted))
        right = self.width() - PAD
        write(p, right, 100, "to the air ahead", LABEL, inks.soft, align="right", halo=True)
        for index, (name, angle, colour) in enumerate(rows):
            write(p, right, 118 + 18 * index, f"{name}  {angle}", VALUE, colour, align="right", halo=True)

    def _draw_sweep(self, p: QPainter, solved: Trimmed, box: QRectF) -> None:
        """Chart the elevator and the body's angle that hold level flight over the speed range."""
        inks, report, units = theme.inks, self.store.report, self.store.units
        heading(p, PAD, self._bottom + 22, self._split - PAD - 16, "Through the speed range", "trailing edge up is up")
        handled = report.results.handling
        factor = units["speed"].factor
        top = report.value("speed.max")
        v_high = max(1.15 * (top or 0.0), 1.3 * (report.value("speed.cruise") or 1.0))
        keep = solved.speed <= v_high
        speed = solved.speed[keep] * factor
        up, body = -solved.control[keep], solved.alpha[keep]
        degrees = [math.degrees(v) for v in (*up, *body)]
        throw = math.degrees(handled.throws.pitch_up) if handled else 10.0
        low, high = min(*degrees, -1.0) - 1, max(*degrees, 1.0) + 1
        low, high = max(low, -1.6 * throw - 4), min(high, 1.6 * throw + 6)
        plot = Plot.of(box, (float(speed[0]), float(speed[-1])), (low, high), inside=True)
        for value in ticks(low, high, nice_step(high - low, 5)):
            y = plot.level(p, value, inks.hair if abs(value) > 1e-9 else inks.soft)
            write(p, box.left() - 6, y + 4, f"{value:.0f}°".replace("-", "−"), LABEL, inks.soft, align="right")
        for value in ticks(speed[0], speed[-1], nice_step(float(speed[-1] - speed[0]), 5)):
            x = plot.x.at(value)
            line(p, x, box.bottom(), x, box.bottom() + 4, inks.soft)
            write(p, x, box.bottom() + 16, f"{value:.0f}", LABEL, inks.soft, align="centre")
        write(p, box.right(), box.bottom() + 30, units["speed"].symbol, LABEL, inks.soft, align="right")
        line(p, box.left(), box.bottom(), box.right(), box.bottom(), inks.ink)
        if handled and low < throw < high:
            y = plot.y.at(throw)
            p.fillRect(QRectF(box.left(), box.top(), box.width(), y - box.top()), brush_of(inks.stop, 26))
            write(p, box.right() - 4, y - 4, "past the throw", LABEL, inks.stop, align="right")
        self._mark_speeds(p, plot, factor)
        for values, colour, dash, words in ((body, inks.soft, True, "body"), (up, inks.predicted, False, "elevator")):
            angles = np.degrees(values)
            plot.curve(p, speed, angles, colour, 1.6, dash=dash)
            last = plot.at(float(speed[-1]), float(angles[-1]))
            write(p, last.x(), last.y() - 5, words, LABEL, colour, align="right", halo=True)

    def _mark_speeds(self, p: QPainter, plot: Plot, factor: float) -> None:
        inks, box = theme.inks, plot.box
        for key, words, colour in (
            ("speed.stall", "stall", inks.stop),
            ("speed.cruise", "cruise", inks.live),
            ("speed.max", "top", inks.soft),
        ):
            value = self.store.report.value(key)
            if value is None:
                continue
            if box.left() - 1 <= plot.x.at(value * factor) <= box.right() + 1:
                x = plot.upright(p, value * factor, colour, dash=True)
                write(p, x + 3, box.top() + 10, words, LABEL, colour)

    def _draw_ways(self, p: QPainter) -> None:
        """List the ways to trim: what is held, and what follows."""
        inks, left = theme.inks, self._split + 12
        line(p, self._split - 2.5, self._bottom + 10, self._split - 2.5, self.height() - 10, inks.hair)
        heading(p, left, self._bottom + 22, self.width() - PAD - left, "Ways to set it", "rest on one for its ghost")
        row = self._bottom + 54
        surfaces = self._chosen_surfaces()
        for way in self._ways:
            live = way.held in self.buttons and self.buttons[way.held].underMouse()
            write(p, left, row, _NAMES[way.held], VALUE, inks.live if live else inks.ink, True)
            room = self.width() - PAD - 92 - left if way.held in self.buttons else self.width() - PAD - left
            for index, words in enumerate(self._words_of(way, surfaces)):
                colour: QColor = inks.soft
                write(p, left, row + 16 + 15 * index, fit(words, room, LABEL), LABEL, colour)
            row += _row(way)
            if way is not self._ways[-1]:
                rule(p, left, row - 17, self.width() - PAD - left)
        note = "Two schools: all at zero and trimmed in the air, or angles built in."
        write(p, left, self.height() - 12, fit(note, self.width() - PAD - left, LABEL), LABEL, inks.soft)

    def _words_of(self, way: Setting, surfaces: list[Surface]) -> list[str]:
        units = self.store.units

        def angle(value: float) -> str:
            return with_unit(value, "angle", units)

        side = "up" if way.control < 0 else "down"
        elevator = "elevator neutral" if abs(way.control) < 1e-4 else f"elevator {angle(abs(way.control))} {side}"
        first = f"body {angle(way.alpha)}, {elevator}"
        if way.held == "as_built":
            return [first]
        parts = []
        for surface, change in zip(surfaces, (way.wing_change, way.tail_change), strict=False):
            shim = shim_height(surface.stations[0].chord, change)
            if abs(change) < 1e-5:
                parts.append(f"{surface.name} kept at {angle(surface.incidence)}")
                continue
            end = "front" if shim > 0 else "rear"
            height = with_unit(abs(shim), "length", units, 1 if self.store.system == "metric" else 2)
            parts.append(f"{surface.name} {angle(surface.incidence + change)}, {end} up {height}")
        return [first, *parts]
