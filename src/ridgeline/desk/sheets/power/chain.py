"""Power: the chain from pack to propeller with its values, and thrust against drag under the builder's hand."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from ridgeline.design.power import PowerTrain
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.paint import RIGHT, brush_of, hatch, heading, line, pen, rule, write
from ridgeline.desk.part_edits import add_power
from ridgeline.desk.scales import Plot, Scale, nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.power.gliding import draw_gliding
from ridgeline.desk.sheets.power.links import CHAIN_HEIGHT, CHAIN_TOP, LINKS, NAMES, draw_chain, each_link
from ridgeline.desk.sheets.power.measured import OnTheChain
from ridgeline.desk.sheets.power.target import draw_target
from ridgeline.desk.sheets.power.train_rows import link_selection
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.bands import BAND
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.engine.power.operating_point import OperatingPoint, solve
from ridgeline.errors import DesignError
from ridgeline.files.coefficient_file import read_coefficients
from ridgeline.files.own_bin import parts_on_hand
from ridgeline.units import shown

_TABLES = "Tables (*.csv *.tsv *.txt *.dat);;All files (*)"


class PowerSheet(Sheet):
    """The power train and what it does."""

    key = "power"
    known_by = "flight.cruise_throttle"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.airspeed: float | None = None
        self.throttle: float | None = None
        self.speed_handle = Handle(
            self, "airspeed", self._drag_speed, lambda: None, size=17, cursor=Qt.CursorShape.SizeHorCursor
        )
        self.throttle_handle = Handle(
            self, "throttle", self._drag_throttle, lambda: None, size=17, cursor=Qt.CursorShape.SizeHorCursor
        )
        for handle in (self.speed_handle, self.throttle_handle):
            handle.chosen = True
        self.add = RuledButton(self, "Add a power train")
        self.add.clicked.connect(lambda: add_power(self.store))
        self.typed_current = OnTheChain(self, store, "power.static_current", "current", "current", "current")
        self.typed_thrust = OnTheChain(self, store, "power.static_thrust", "thrust", "force", "thrust")
        self.swaps: dict[str, RuledButton] = {}
        for link in LINKS:
            button = RuledButton(self, f"Change {NAMES[link] if link == 'esc' else NAMES[link].lower()}")
            button.clicked.connect(lambda _=False, k=link: self._choose(k))
            self.swaps[link] = button

    @property
    def train(self) -> PowerTrain | None:
        return self.store.design.power

    @property
    def _flight(self) -> FlightFigures | None:
        found = self.store.report.results.flight
        return found if isinstance(found, FlightFigures) else None

    def subtitle(self) -> str:
        if self.train is None:
            ratio, sink = self.words("glide.ratio"), self.words("glide.sink")
            return "no motor" if ratio == "–" else f"no motor: glides {ratio} to 1, sinks {sink}"
        throttle = self.store.report.value("flight.cruise_throttle")
        standing = f"standing {self.words('power.static_thrust', 1)} for {self.words('power.static_current')}"
        if throttle is None:
            return standing
        return (
            f"level at {self.words('speed.cruise')} on {self.words('flight.cruise_throttle', 0)} throttle; {standing}"
        )

    def selection(self) -> Selection:
        train = self.train
        if train is None:
            return Selection("", ())
        # A mount picked on the Shape is no link of the chain: the motor on it is.
        pick = self.store.pick
        link = pick.ident if pick.kind == "link" and pick.ident in LINKS else "motor"
        return link_selection(self.store, link, train)

    def _choose(self, link: str) -> None:
        self.store.select(f"power.{link}")
        shelf = parts_on_hand()
        kinds: dict[str, tuple[Any, ...]] = {
            "pack": shelf.packs,
            "esc": shelf.escs,
            "motor": shelf.motors,
            "propeller": shelf.propellers,
        }
        menu = QMenu(self)
        for part in kinds[link]:
            action = menu.addAction(str(part.name))
            action.triggered.connect(lambda _=False, p=part: self.fit(link, p))
        if link == "propeller":
            menu.addSeparator()
            menu.addAction("Read a C_T, C_P table…").triggered.connect(self._ask_table)
        menu.popup(self.swaps[link].mapToGlobal(self.swaps[link].rect().bottomLeft()))

    def _ask_table(self) -> None:
        name, _kind = QFileDialog.getOpenFileName(self, "Read a propeller's coefficients", "", _TABLES)
        if name:
            self.read_coefficients(name)

    def read_coefficients(self, place: str) -> None:
        """Let a table of coefficients stand for the propeller's family."""
        try:
            rows, report = read_coefficients(place)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        if self.store.put("power.propeller.table", rows, f"Read {len(rows)} rows of coefficients"):
            left = f", {len(report)} left out" if report else ""
            self.store.noted.emit(f"{len(rows)} rows of coefficients read{left}; they stand for the family.")

    def fit(self, link: Any, part: Any) -> None:
        """Fit a part of the library; its item takes the new mass and forgets the old weighing."""
        self.store.edit(exchange(self.store.design, link, part, part.name), f"Fit {part.name}")

    def _now(self) -> tuple[float, float]:
        """Return the airspeed and throttle under the hand: level cruise until moved."""
        report = self.store.report
        speed = self.airspeed if self.airspeed is not None else (report.value("speed.cruise") or 0.0)
        throttle = self.throttle if self.throttle is not None else (report.value("flight.cruise_throttle") or 1.0)
        return speed, throttle

    def _chart(self) -> QRectF:
        top = CHAIN_TOP + CHAIN_HEIGHT + 44
        right = self.width() - 250
        return QRectF(PAD + 26, top, right - PAD - 40, self.height() - top - 84)

    def _fastest(self) -> float:
        flight = self._flight
        return float(flight.curves.speed[-1]) if flight is not None else 30.0

    def _most(self) -> float:
        static = self.store.report.value("power.static_thrust") or 1.0
        return 1.15 * static

    def _plot(self) -> Plot:
        """Return the chart of force over airspeed."""
        return Plot.of(self._chart(), (0.0, self._fastest()), (0.0, self._most()))

    def _throttles(self) -> Scale:
        area = self._chart()
        return Scale(0.0, 1.0, area.left(), area.right())

    def _drag_speed(self, px: float, _py: float) -> None:
        self.airspeed = self._plot().x.value(px)
        self.refresh()

    def _drag_throttle(self, px: float, _py: float) -> None:
        self.throttle = max(self._throttles().value(px), 0.02)
        self.refresh()

    def arrange(self) -> None:
        off = self.train is None or self._flight is None
        self.add.setGeometry(self.width() - PAD - 150, 40, 150, 24)
        self.add.setVisible(self.train is None)
        for handle in (self.speed_handle, self.throttle_handle):
            handle.setVisible(not off)
        if not off:
            speed, throttle = self._now()
            area = self._chart()
            self.speed_handle.place(self._plot().x.at(speed), area.bottom() + 13)
            self.throttle_handle.place(self._throttles().at(throttle), area.bottom() + 50)
        each = each_link(self)
        here = self.train is not None and self.store.report.results.standing is not None
        for link, field, rise, wide in ((0, self.typed_current, 5, 62), (3, self.typed_thrust, 22, 70)):
            middle = PAD + link * each + 62 + (each - 70) / 2
            left = middle + 7 if link == 0 else middle - 0.5 * wide
            room = PAD + (link + 1) * each - left
            field.setGeometry(int(left), CHAIN_TOP + 74 + rise, int(min(wide, room)), 20)
            field.setVisible(here)
            field.ink()
        for index, button in enumerate(self.swaps.values()):
            button.setGeometry(int(PAD + index * each), CHAIN_TOP + CHAIN_HEIGHT - 26, int(each - 14), 24)
            button.setVisible(self.train is not None)

    def draw(self, p: QPainter) -> None:
        train, standing = self.train, self.store.report.results.standing
        if train is None:
            draw_gliding(p, self, 72)
            return
        if standing is None:
            why = self.store.report.figures["power.static_thrust"].why_not
            write(p, PAD, CHAIN_TOP + 30, f"{why}.".capitalize(), VALUE, theme.inks.soft)
            return
        here = self.store.report.results.air
        speed, throttle = self._now()
        level = solve(self._link(train), throttle, speed, here.density)
        draw_chain(p, self, standing.point, level, speed)
        rule(p, PAD, CHAIN_TOP + CHAIN_HEIGHT + 8, self.width() - 2 * PAD)
        if self._flight is not None:
            self._draw_chart(p, level)
        draw_target(
            p,
            self,
            QRectF(
                self.width() - 230,
                CHAIN_TOP + CHAIN_HEIGHT + 18,
                230 - PAD,
                self.height() - CHAIN_TOP - CHAIN_HEIGHT - 30,
            ),
        )

    def _draw_chart(self, p: QPainter, level: OperatingPoint) -> None:
        inks, plot, flight = theme.inks, self._plot(), self._flight
        area = plot.box
        assert flight is not None and self.train is not None
        heading_width = area.width() + 26
        heading(p, PAD, area.top() - 14, heading_width, "Thrust and drag", "N over airspeed", strong=False)
        here = self.store.report.results.air
        link = self._link(self.train)
        speeds = np.linspace(0, self._fastest(), 90)
        left = self._thrust_left()
        full = left * solve(link, 1.0, speeds, here.density).thrust
        p.save()
        p.setClipRect(area.adjusted(0, -2, 1, 0))
        spare = flight.curves.thrust > flight.curves.drag
        if spare.any():
            curves = (flight.curves.speed[spare], flight.curves.drag[spare], flight.curves.thrust[spare])
            hatch(p, plot.between(*curves), brush_of(inks.live, 110).color(), step=6)
        band = self._band()
        plot.fill(p, speeds, full * (1 - band), full * (1 + band), inks.predicted, 36)
        plot.curve(p, speeds, full, inks.predicted)
        plot.curve(p, flight.curves.speed, flight.curves.drag, inks.ink)
        throttle = self._now()[1]
        if throttle < 0.995:
            plot.curve(p, speeds, left * solve(link, throttle, speeds, here.density).thrust, inks.live, 1.5)
        p.restore()
        plot.side(p, nice_step(self._most(), 7))
        self._label_curves(p, plot, flight, full, speeds)
        factor, unit = self.store.units["speed"].factor, self.store.units["speed"].symbol
        plot.foot(p, nice_step(self._fastest() * factor, 7), factor, 26)
        write(p, area.right() + 3, area.bottom() + 18, unit, 10, inks.soft)
        low = QRectF(area.left(), area.bottom() + 38, area.width(), 26)
        ruler(p, low, 0, 100, 10)
        write(p, low.right() - 4, low.bottom() + 13, "% throttle", LABEL, inks.soft, align=RIGHT)
        self._draw_hands(p, level)

    def _link(self, train: PowerTrain) -> Chain:
        """Return the chain as the flight figures take it: half charged, in the field's air."""
        return chain(train, MEAN_CHARGE, self.store.design.brief.temperature_c)

    def _thrust_left(self) -> float:
        """Return the share of the thrust left once its wash has scrubbed the airframe, as the curves have it."""
        lost = self.store.report.value("power.wash_drag")
        return 1.0 - (lost or 0.0)

    def _band(self) -> float:
        """Return the 90 % band of full throttle's thrust at the climb, as a share: all that is not known."""
        flight = self._flight
        if flight is None or flight.thrust_at_climb <= 0:
            return 0.0
        return BAND * flight.sigmas["thrust_at_climb"] / flight.thrust_at_climb

    def _label_curves(
        self, p: QPainter, plot: Plot, flight: FlightFigures, full: np.ndarray, speeds: np.ndarray
    ) -> None:
        inks, area = theme.inks, plot.box
        start = plot.at(float(speeds[6]), float(full[6]))
        write(
            p,
            start.x() + 4,
            max(start.y() - 12, area.top() + 10),
            f"full throttle less its wash, {100 * MEAN_CHARGE:.0f} % charge, ± {100 * self._band():.0f} %",
            LABEL,
            inks.predicted,
            halo=True,
        )
        stall = float(flight.curves.speed[0])
        at = plot.at(stall, float(flight.curves.drag[0]))
        write(
            p, at.x() - 6, at.y() + 4, f"stall {shown(stall, 'speed', self.store.units)}", LABEL, align=RIGHT, halo=True
        )
        line(p, at.x(), at.y(), at.x(), area.bottom(), inks.ink, 1, dash=True)
        peak = plot.at(flight.climb_speed, 0.5 * (flight.thrust_at_climb + flight.cruise_drag))
        key = "flight.climb_rate"
        words = f"climbs {self.words(key)}"
        self.written(p, peak.x() + 4, peak.y(), words, key, VALUE, inks.live, bold=True, halo=True)
        if flight.top_speed is not None:
            top = plot.at(flight.top_speed, float(np.interp(flight.top_speed, flight.curves.speed, flight.curves.drag)))
            line(p, top.x(), top.y(), top.x(), area.bottom(), inks.ink, 1, dash=True)
            key = "speed.max"
            self.written(p, top.x() + 4, top.y() + 16, f"top {self.words(key)}", key, LABEL, halo=True)
        index = int(0.86 * (flight.curves.speed.size - 1))
        drag = plot.at(float(flight.curves.speed[index]), float(flight.curves.drag[index]))
        if drag.y() > area.top() + 12:
            write(p, drag.x() - 8, drag.y() - 6, "drag", LABEL, bold=True, align=RIGHT, halo=True)

    def _draw_hands(self, p: QPainter, level: OperatingPoint) -> None:
        inks, area = theme.inks, self._chart()
        speed, throttle = self._now()
        at = self._plot().at(speed, self._thrust_left() * float(level.thrust))
        line(p, at.x(), at.y(), at.x(), area.bottom() + 6, inks.live, 1)
        p.setPen(pen(inks.live, 2))
        p.setBrush(inks.paper)
        p.drawEllipse(at, 4, 4)
        p.setBrush(Qt.BrushStyle.NoBrush)
        write(
            p,
            at.x() + 11,
            area.bottom() + 18,
            shown(speed, "speed", self.store.units),
            VALUE,
            inks.live,
            True,
            halo=True,
        )
        write(
            p,
            self._throttles().at(throttle) + 11,
            area.bottom() + 55,
            f"{100 * throttle:.0f}",
            VALUE,
            inks.live,
            True,
            halo=True,
        )
