"""Record: what a recorder wrote in the air, over what the model says: current over airspeed, and the pack over time."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import heading, line, wrap, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.log_list import LogList
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.flight.entries import LogRow
from ridgeline.engine.flight.level import LevelCurrents, level_currents, settles_at
from ridgeline.engine.flight.record import column
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.files.flight_file import FlightRead, flight_from_text, read_flight
from ridgeline.standins.flight_recorder import Flying, SimulatedRecorder
from ridgeline.units import with_unit

_FILES = "Flight records (*.csv *.txt *.tsv);;All files (*)"
_LIST = 150
#: What a record tells, in words.
_WORDS = {"at": "time", "ground_speed": "speed over the ground", "speed": "airspeed"}
#: The simulated aircraft drags and draws more than the model says by these shares: no model is right.
_DRAGS, _DRAWS = 0.08, 0.05


class FlightsRecordSheet(Sheet):
    """The record of a flight."""

    key = "flights.record"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.log = LogList(self, self.store)
        self.log.picked.connect(self._picked)
        self.read_button = RuledButton(self, "Read a file…")
        self.read_button.clicked.connect(self.ask)
        self.simulate_button = RuledButton(self, "Read the simulated recorder")
        self.simulate_button.clicked.connect(self.simulate)

    @property
    def place(self) -> int | None:
        """Return the place of the flight that is chosen; None where none is."""
        return self.log.chosen if 0 <= self.log.chosen < len(self.store.design.flights) else None

    @property
    def row(self) -> LogRow | None:
        """What the chosen flight comes to."""
        return None if self.place is None else self.store.report.results.logged.rows[self.place]

    def _picked(self, _row: int) -> None:
        self.refresh()
        self.store.selected.emit()

    def subtitle(self) -> str:
        row = None if self.empty else self.row
        if row is None:
            return "log a flight first" if not self.empty else ""
        many = len(row.flight.record)
        return (
            f"flight {(self.place or 0) + 1}: {many} moments" if many else f"flight {(self.place or 0) + 1}: no record"
        )

    # -- reading ------------------------------------------------------------------------------------------------------

    def ask(self) -> None:
        """Ask for a file and read it."""
        name, _kind = QFileDialog.getOpenFileName(self, "Record of a flight", "", _FILES)
        if name:
            self.read(name)

    def read(self, name: str) -> None:
        """Read the record of the chosen flight from a file."""
        try:
            found = read_flight(name)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        self.take(found)

    def simulate(self) -> None:
        """Read the recorder that ships with the app: it flies the design, a little worse than predicted."""
        recorder = simulated(self.store.design, self.store.report)
        if recorder is None:
            self.store.noted.emit("It needs a power train that holds level flight to fly.")
            return
        self.take(flight_from_text(recorder.download(), "simulated recorder"))

    def take(self, found: FlightRead) -> None:
        """Take a record into the chosen flight; what was left out of it is said."""
        if self.place is None:
            self.store.noted.emit("Log a flight first: N on the leaf Log.")
            return
        self.store.edit([Change(f"flights[{self.place}].record", found.record)], "Record of the flight")
        told = ", ".join(_WORDS.get(name, name) for name in found.understood)
        left = f" Left out: {found.report[0]}" if found.report else ""
        more = f", and {len(found.report) - 1} more" if len(found.report) > 1 else ""
        self.store.noted.emit(f"Read {len(found.record)} moments: {told}.{left}{more}")

    def selection(self) -> Selection:
        row = None if self.empty else self.row
        if row is None or self.place is None:
            return Selection("", ())
        told, units = row.recorded, self.store.units

        def words(value: float | None, quantity: str) -> str:
            return "–" if value is None else with_unit(value, quantity, units)

        full, speed = told.full_current, told.top_speed
        rows: list[Dimension] = [
            Dimension("Recorded", read=lambda: words(told.aloft, "flight_time")),
            Dimension("Taken from the pack", read=lambda: words(told.used_ah, "capacity")),
            Dimension("Full throttle", read=lambda: words(None if full is None else full.value, "current")),
            Dimension("Fastest held", read=lambda: words(None if speed is None else speed.value, "speed")),
            Dimension("Best climb", read=lambda: words(told.climb, "speed")),
            Dimension("Pack resistance", read=lambda: words(
                None if told.resistance is None else told.resistance.value, "resistance")),
        ]  # fmt: skip
        acts: tuple[tuple[str, Any], ...] = ()
        if row.flight.record and told.used_ah is not None:
            used, at = round(told.used_ah, 4), self.place
            taken = [
                Change(f"flights[{at}].put_back_ah", used),
                Change(f"flights[{at}].aloft", round(told.aloft or 1.0, 1)),
            ]
            acts = (("Take charge and time", lambda: self.store.edit(taken, "Charge and time by the recorder")),)
        return Selection(f"flight {self.place + 1}", tuple(rows), acts)

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self.log.setGeometry(PAD, self.height() - _LIST, self.width() - 2 * PAD, _LIST - 8)
        self.log.renew()
        y = self.height() - _LIST - 32
        self.read_button.setGeometry(PAD, y, 110, 24)
        self.simulate_button.setGeometry(PAD + 118, y, 190, 24)
        for button in (self.read_button, self.simulate_button):
            button.setVisible(self.place is not None)
        self.follow(self.place)

    def draw(self, p: QPainter) -> None:
        wide, foot = self.width() - 2 * PAD, self.height() - _LIST - 44
        row = self.row
        half = 0.52 * wide
        heading(p, PAD, 52, half, "Current over airspeed", "line predicted, dots recorded")
        heading(p, PAD + half + 20, 52, wide - half - 20, "Over the minutes", "pack, height")
        area = QRectF(PAD, 62, half, foot - 62)
        self._draw_currents(p, area, row)
        right = QRectF(PAD + half + 20, 62, wide - half - 20, (foot - 70) / 2)
        if row is None or not row.flight.record:
            words = "Read a recorder’s table: time, and any of volts, amperes, speed, height, rpm and throttle."
            for k, part in enumerate(wrap(words, right.width(), VALUE)):
                write(p, right.left(), 92 + 18 * k, part, VALUE, theme.inks.soft)
            return
        self._draw_time(p, right, row, "voltage", "voltage")
        self._draw_time(p, right.translated(0, right.height() + 8), row, "height", "distance")

    def _draw_currents(self, p: QPainter, area: QRectF, row: LogRow | None) -> None:
        inks, units = theme.inks, self.store.units
        curves = currents_of(self.store.report)
        if curves is None:
            write(p, area.left(), area.top() + 30, "No power train, or none that holds level flight.", VALUE, inks.soft)
            return
        speed, current, low, high = curves
        record = () if row is None else row.flight.record
        seen = column(record, "speed"), column(record, "current")
        known = np.isfinite(seen[0]) & np.isfinite(seen[1])
        top = float(max(np.nanmax(high), np.max(seen[1][known], initial=0.0))) * 1.05
        fastest = float(max(speed[-1], np.max(seen[0][known], initial=0.0))) * 1.03
        box = QRectF(area.left() + 34, area.top() + 12, area.width() - 44, area.height() - 44)
        plot = Plot.of(box, (0.0, fastest), (0.0, top), inside=True)
        plot.side(p, nice_step(top, 6))
        factor = units["speed"].factor
        plot.foot(p, nice_step(fastest * factor, 6), factor)
        plot.fill(p, speed, low, high, inks.predicted, 36)
        plot.curve(p, speed, current, inks.predicted)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(inks.measured)
        for x, y in zip(seen[0][known], seen[1][known], strict=True):
            at = plot.at(float(x), float(y))
            if box.contains(at):
                p.drawEllipse(at, 2.5, 2.5)
        p.setBrush(Qt.BrushStyle.NoBrush)
        write(p, box.left() + 4, box.top() + 2, "A", LABEL, inks.soft)
        write(p, box.right(), area.bottom(), units["speed"].symbol, LABEL, inks.soft, align="right")
        half = len(speed) // 2
        at = plot.at(float(speed[half]), float(current[half]))
        words = "level flight, predicted"
        write(p, at.x(), at.y() - 8, words, LABEL, inks.predicted, align="right", halo=True)

    def _draw_time(self, p: QPainter, area: QRectF, row: LogRow, name: str, quantity: str) -> None:
        inks, unit = theme.inks, self.store.units[quantity]
        at, values = column(row.flight.record, "at"), column(row.flight.record, name)
        known = np.isfinite(values)
        box = QRectF(area.left() + 40, area.top() + 12, area.width() - 50, area.height() - 40)
        if not known.any():
            write(p, area.left(), area.top() + 30, f"No {name} in this record.", VALUE, inks.soft)
            return
        low, high = float(values[known].min()), float(values[known].max())
        room = max(high - low, 1e-3) * 0.1
        end = max(float(at[-1]), 1.0)
        plot = Plot.of(box, (0.0, end), (low - room, high + room), inside=True)
        plot.side(p, nice_step((high - low + 2 * room) * unit.factor, 4), unit.factor)
        plot.foot(p, nice_step(end / 60, 5), 1 / 60, 18)
        plot.curve(p, at[known], values[known], inks.measured, 1.5)
        write(p, box.left() + 6, box.top() + 4, f"{unit.symbol}", LABEL, inks.soft)
        write(p, box.right(), area.bottom(), "min", LABEL, inks.soft, align="right")
        full = np.flatnonzero(column(row.flight.record, "throttle") >= 0.97)
        for k in full:
            x = plot.x.at(float(at[k]))
            line(p, x, box.bottom() - 3, x, box.bottom(), inks.stop, 2)
        if len(full):
            write(p, box.right(), box.top() + 4, "red: full throttle", LABEL, inks.stop, align="right")


def currents_of(report: Report) -> LevelCurrents | None:
    """Return what level flight of a design draws over airspeed; None where it does not fly by motor."""
    found, mass, speeds = report.results, report.results.masses.state, report.results.speeds
    if found.pulling is None or found.polar is None or mass is None or speeds is None:
        return None
    return level_currents(found.pulling, found.polar, mass.mass, speeds.stall, found.air.viscosity)


def simulated(design: Design, report: Report) -> SimulatedRecorder | None:
    """Return the recorder of an aircraft like the design, but a little worse; None where it does not fly by motor."""
    found, mass, speeds = report.results, report.results.masses.state, report.results.speeds
    cruise, endurance = report.value("flight.cruise_throttle"), report.value("flight.endurance")
    if found.pulling is None or found.polar is None or mass is None or speeds is None or design.power is None:
        return None
    if cruise is None or endurance is None:
        return None
    worse = replace(found.polar, factor=found.polar.factor * (1 + _DRAGS))
    climb = report.value("flight.climb_rate") or 0.0
    settled = settles_at(found.pulling, worse, mass.mass, speeds.stall, found.air.viscosity, climb)

    def response(throttle: float, charge: float) -> Flying:
        volts, amps, speed, rate, rpm = settled(throttle, charge)
        return Flying(volts, amps * (1 + _DRAWS), speed, rate, rpm)

    seconds = min(0.5 * endurance, 600.0)
    return SimulatedRecorder(
        response, design.power.capacity_ah, seconds=seconds, cruise=cruise, seed=len(design.flights)
    )
