"""Flight: the pack stepped down over the minutes, climb and sink over airspeed, and how far it goes."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import arrow_head, brush_of, hatch, heading, line, pen, rule, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.bands import BAND
from ridgeline.engine.power.discharge import Discharge
from ridgeline.engine.power.pack import RESERVE, least_voltage
from ridgeline.engine.results import given
from ridgeline.units import shown, with_unit

_ENDS = {
    "reserve": "lands on the reserve",
    "voltage": "lands early: a cell is down to its least",
    "thrust": "lands early: too little thrust for level flight",
}


_WIND_ROWS = (
    "flight.ground_out",
    "flight.ground_home",
    "flight.wind_limit",
    "glide.slope_wind",
    "launch.speed_ratio",
    "power.pitch_ratio",
)


class PowerFlightSheet(Sheet):
    """What the power train does over a flight."""

    key = "power.flight"
    known_by = "flight.endurance"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self._top = 48

    @property
    def flown(self) -> Discharge | None:
        """Return the flight down the pack, if it flies."""
        found = self.store.report.results.flight
        return None if found is None else found.discharge

    def subtitle(self) -> str:
        flown = self.flown
        if flown is None:
            return self.store.report.figures["flight.endurance"].why_not
        return f"{flown.total / 60:.0f} min from launch: {_ENDS[flown.ends]}"

    def selection(self) -> Selection:
        return Selection(
            "how it is flown",
            (
                Dimension("Full throttle after launch", "brief.climb_seconds"),
                Dimension("Full throttle after that", "brief.full_share"),
                Dimension("Cruise over stall", "brief.cruise_ratio"),
                Dimension("Wind", "brief.head_wind"),
                Dimension("Air temperature", "brief.temperature_c"),
                Dimension("Time wished", "brief.endurance"),
            ),
        )

    def draw(self, p: QPainter) -> None:
        if self.store.report.results.polar is None:
            write(
                p, PAD, 80, f"{self.store.report.figures['glide.ratio'].why_not}.".capitalize(), VALUE, theme.inks.soft
            )
            return
        third = (self.height() - 60) * 0.40
        self._draw_discharge(p, QRectF(PAD, self._top, self.width() - 2 * PAD, third))
        below = self._top + third + 18
        split = PAD + 0.62 * (self.width() - 2 * PAD)
        rule(p, PAD, below - 8, self.width() - 2 * PAD)
        self._draw_polar(p, QRectF(PAD, below, split - PAD - 18, self.height() - below - 12))
        self._draw_reach(p, QRectF(split, below, self.width() - PAD - split, self.height() - below - 12))

    def _draw_discharge(self, p: QPainter, area: QRectF) -> None:
        inks, flown = theme.inks, self.flown
        heading(
            p, area.left(), area.top() + 12, area.width(), "Down the pack", "volts a cell under load, by the minute"
        )
        train = self.store.design.power
        if flown is None or train is None:
            why = self.store.report.figures["flight.endurance"].why_not
            write(p, area.left(), area.top() + 40, f"{why}.".capitalize(), VALUE, inks.soft)
            return
        wish = self.store.design.brief.endurance / 60
        minutes = np.concatenate([[0.0], (flown.climb + np.cumsum(flown.seconds)) / 60])
        end = 1.12 * max(float(minutes[-1]), wish)
        box = QRectF(area.left() + 40, area.top() + 34, area.width() - 60, area.height() - 78)
        least = least_voltage(train.pack)
        low, high = min(3.2, least - 0.2), 4.25
        plot = Plot.of(box, (0.0, end), (low, high), inside=True)
        plot.side(p, 0.2 if low > 3.0 else 0.4, digits=1)
        floor = plot.y.held(least)
        hatch(p, QRectF(box.left(), floor, box.width(), box.bottom() - floor), inks.stop)
        plot.level(p, least, inks.stop, dash=True)
        held = flown.seconds > 0
        cell = flown.voltage[held] / train.cells
        middle = (flown.climb + np.cumsum(flown.seconds) - 0.5 * flown.seconds)[held] / 60
        climbing = flown.climb / 60
        full = flown.climb_voltage / train.cells
        first = float(cell[0]) if cell.size else full
        climbed = plot.x.at(climbing)
        p.fillRect(QRectF(box.left(), box.top(), climbed - box.left(), box.height()), brush_of(inks.live, 36))
        plot.curve(p, (0.0, climbing, climbing), (full, full, first), inks.predicted)
        last = float(minutes[-1])
        if cell.size:
            # The charge goes in steps: the curve runs on from their middles to both ends.
            times = np.concatenate([[climbing], middle, [last]])
            run = np.concatenate([cell[:1], cell, cell[-1:]])
            plot.curve(p, times, run, inks.predicted)
        x = plot.x.at(last)
        hatch(p, QRectF(x, box.top(), box.right() - x, floor - box.top()), inks.soft)
        line(p, x, box.top() - 6, x, box.bottom(), inks.live, 2)
        sigma = BAND * self.store.report.figures["flight.endurance"].sigma / 60
        words, key = f"{last:.0f} ± {sigma:.0f} min", "flight.endurance"
        self.written(p, x - 6, box.top() + 6, words, key, VALUE, inks.live, bold=True, align="right", halo=True)
        write(
            p,
            min(x + 8, box.right() - 90),
            box.top() + 22,
            f"{100 * RESERVE:.0f} % stays in",
            LABEL,
            inks.soft,
            halo=True,
        )
        wished = plot.upright(p, wish, inks.ink, dash=True)
        write(p, wished + 5, box.bottom() - 6, "wished", LABEL, halo=True)
        write(p, climbed + 6, box.top() + 6, f"climb {flown.climb:.0f} s", LABEL, inks.live, halo=True)
        throttle = flown.throttle[held]
        for share in (0.2, 0.55, 0.9) if cell.size else ():
            k = int(share * (cell.size - 1))
            place = plot.at(float(middle[k]), float(cell[k]))
            words = f"{100 * float(throttle[k]):.0f} %, {float(flown.level[held][k]):.1f} A"
            write(p, place.x(), place.y() - 8, words, LABEL, inks.predicted, align="centre", halo=True)
        plot.foot(p, nice_step(end, 10))
        write(p, box.right() + 4, box.bottom() + 15, "min", LABEL, inks.soft)

    def _draw_polar(self, p: QPainter, area: QRectF) -> None:
        """Draw climb at full throttle and sink with the motor off over airspeed, one above and one below level."""
        inks, report, units = theme.inks, self.store.report, self.store.units
        heading(
            p,
            area.left(),
            area.top() + 12,
            area.width(),
            "Up and down",
            f"{units['speed'].symbol} over airspeed",
            strong=False,
        )
        stall, flight, glide = report.value("speed.stall"), report.results.flight, report.results.gliding
        if glide is None or stall is None:
            return
        speeds, sink = glide.speeds, -glide.sinks
        climb = None if flight is None else np.interp(speeds, flight.curves.speed, flight.curves.climb)
        top = 1.1 * max(float(climb.max()) if climb is not None else 1.0, 1.0)
        bottom = max(1.6 * float(sink.max()), -0.8 * top, float(sink.min()))
        bottom = min(bottom, -0.55 * top)
        factor = units["speed"].factor
        box = QRectF(area.left() + 40, area.top() + 28, area.width() - 50, area.height() - 56)
        end = float(speeds[-1])
        plot = Plot.of(box, (0.0, end), (bottom, top), inside=True)
        plot.side(p, nice_step((top - bottom) * factor, 7), factor)
        plot.level(p, 0.0, inks.ink)
        p.save()
        p.setClipRect(box)
        band = BAND * given(self.store.report.results.polar).sigma
        plot.fill(p, speeds, sink * (1 + band), sink * (1 - band), inks.ink, 24)
        for curve, ink in ((climb, inks.predicted), (sink, inks.ink)):
            if curve is not None:
                plot.curve(p, speeds, curve, ink)
        p.restore()
        if flight is not None:
            best = plot.at(flight.climb_speed, flight.climb_rate)
            words = f"climbs {self.words('flight.climb_rate')}, {self.words('flight.climb_angle', 0)} at most"
            left = min(best.x(), box.right() - 190)
            height = best.y() + 22 if best.y() < box.top() + 26 else best.y() - 8
            self.written(p, left, height, words, "flight.climb_rate", LABEL, inks.predicted, bold=True, halo=True)
            p.setBrush(inks.paper)
            p.setPen(pen(inks.predicted, 2))
            p.drawEllipse(best, 4, 4)
            p.setBrush(Qt.BrushStyle.NoBrush)
        for v, w, words, key, drop in (
            (glide.sink_speed, -glide.sink, f"least sink {self.words('glide.sink')}", "glide.sink", 18),
            (
                glide.ratio_speed,
                -glide.ratio_speed / glide.ratio,
                f"best glide {glide.ratio:.1f} : 1",
                "glide.ratio",
                34,
            ),
        ):
            place = plot.at(v, w)
            p.setPen(pen(inks.ink, 2))
            p.setBrush(inks.paper)
            p.drawEllipse(place, 3.5, 3.5)
            p.setBrush(Qt.BrushStyle.NoBrush)
            self.written(p, place.x() + 6, min(place.y() + drop, box.bottom() - 4), words, key, LABEL, halo=True)
        plot.foot(p, nice_step(end * factor, 7), factor)
        x = plot.upright(p, stall, inks.stop, dash=True)
        write(
            p,
            x - 5,
            box.top() + 10,
            f"stall {shown(stall, 'speed', units)}",
            LABEL,
            inks.stop,
            align="right",
            halo=True,
        )

    def _draw_reach(self, p: QPainter, area: QRectF) -> None:
        """Draw how far out and home it goes in the wind, and the throw."""
        inks, report, units = theme.inks, self.store.report, self.store.units
        heading(p, area.left(), area.top() + 12, area.width(), "In the wind", "", strong=False)
        wind = self.store.design.brief.head_wind
        radius, far = report.value("flight.radius"), report.value("flight.range")
        y = area.top() + 40
        if radius is not None and far is not None:
            scale = (area.width() - 24) / max(far / 2, 1.0)
            left = area.left() + 10
            still = f"there and back, still air {with_unit(far / 2, 'distance', units, 0)}"
            windy = f"in {with_unit(wind, 'speed', units)} of wind {with_unit(radius, 'distance', units, 0)}"
            for reach, words, key, ink, row in (
                (far / 2, still, "flight.range", inks.soft, 0),
                (radius, windy, "flight.radius", inks.live, 1),
            ):
                at = y + 40 * row
                line(p, left, at, left + reach * scale, at, ink, 2)
                arrow_head(p, left + reach * scale, at, 1, 0, ink)
                self.written(p, left, at + 16, words, key, LABEL, ink)
            p.setBrush(inks.ink)
            p.setPen(Qt.PenStyle.NoPen)
            p.drawEllipse(QPointF(left, y), 3, 3)
            p.drawEllipse(QPointF(left, y + 40), 3, 3)
            p.setBrush(Qt.BrushStyle.NoBrush)
            y += 84
            write(p, area.left(), y, "Keep it in sight: a few hundred metres.", LABEL, inks.soft)
            y += 26
        for key in _WIND_ROWS:
            if y > area.bottom() - 4:
                break
            write(p, area.left(), y, report.figures[key].label, LABEL, inks.soft)
            self.written(p, area.right(), y, self.words(key), key, align="right")
            rule(p, area.left(), y + 6, area.width())
            y += 21
        if y < area.bottom() - 4:
            write(p, area.left(), y + 4, "Airspeed keeps it up, not ground speed.", LABEL, inks.soft)
