"""Bench: rows of the thrust stand laid over what the model says, and the constants they give."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QTimer
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from ridgeline.design.paths import Change
from ridgeline.design.power import BenchRow, PowerTrain
from ridgeline.desk.paint import heading, line, pen, rule, wrap, write
from ridgeline.desk.scales import Plot, nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.power.measured import TOLD, Reading, measure, row_of
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.bands import BAND
from ridgeline.engine.power import bench
from ridgeline.engine.power.chain import lag_of
from ridgeline.engine.power.classes import settled
from ridgeline.errors import DesignError
from ridgeline.files.bench_file import read_bench
from ridgeline.files.own_bin import load_bin, save_bin
from ridgeline.standins.thrust_stand import SimulatedStand, StandReading, as_built, sweeping
from ridgeline.units import with_unit

_TABLES = "Tables (*.csv *.tsv *.txt);;All files (*)"
THROTTLES = (0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)
_TICK_MS, _SIDE = 40, 286
#: The curves: row of the chart, what stands on its axis, and how it is read of rows and of a state.
#: What the constants are called in a sentence.
_CONSTANT = {
    "kv_rpm_per_v": "speed constant",
    "resistance": "winding",
    "lag": "lag",
    "no_load_current": "no-load current",
    "power_factor": "propeller power",
    "thrust_factor": "propeller thrust",
}
_CHARTS = (("speed", "1000 rpm"), ("current", "A"), ("thrust", "N"))


class PowerBenchSheet(Sheet):
    """Measured against predicted."""

    key = "power.bench"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.report_lines: list[str] = []
        self._running: Iterator[StandReading] | None = None
        self._now: BenchRow | None = None
        self._taken: list[BenchRow] = []
        self._fit_of: tuple[PowerTrain, bench.Fit | None, str] | None = None
        self.read_button = RuledButton(self, "Read a table…")
        self.read_button.clicked.connect(self._ask_read)
        self.run_button = RuledButton(self, "Run the simulated stand")
        self.run_button.clicked.connect(self.run)
        self.use_button = RuledButton(self, "Use what was measured", strong=True)
        self.use_button.clicked.connect(self.use)
        self.forget_button = RuledButton(self, "Forget the rows")
        self.forget_button.clicked.connect(lambda: self.store.put("power.bench", (), "Forget the bench rows"))
        self.readings: dict[str, Reading] = {}
        for told in TOLD:
            self.readings[told[0]] = Reading(self, store, told, lambda _value: self._reading_changed())
        self.add_button = RuledButton(self, "Use this reading")
        self.add_button.clicked.connect(self.add)
        self._timer = QTimer(self, interval=_TICK_MS)
        self._timer.timeout.connect(self._tick)

    @property
    def train(self) -> PowerTrain | None:
        """Return the power train on the bench."""
        return self.store.design.power

    @property
    def rows(self) -> tuple[BenchRow, ...]:
        """Return the rows taken: those in the design, and those of a run under way."""
        kept = self.train.bench if self.train is not None else ()
        return (*kept, *self._taken)

    @property
    def fit(self) -> bench.Fit | None:
        """Return what the rows say, or None with the reason in `why`."""
        train = self.train
        if train is None:
            return None
        if self._fit_of is None or self._fit_of[0] is not train:
            try:
                found, why = bench.fit(train, train.bench, self.store.report.results.air.density), ""
            except ValueError as error:
                found, why = None, str(error)
            self._fit_of = (train, found, why)
        return self._fit_of[1]

    @property
    def why(self) -> str:
        """Return why there is no fit."""
        return "" if self.fit is not None or self._fit_of is None else self._fit_of[2]

    def subtitle(self) -> str:
        if self.train is None:
            return "no power train: lay out the airframe at the Brief"
        count = len(self.rows)
        if self._running is not None and self._now is not None:
            now = self._now
            return f"{100 * (now.throttle or 0):.0f} %, {now.voltage or 0:.1f} V, {now.current or 0:.1f} A"
        many = "1 reading" if count == 1 else f"{count} rows"
        return f"{many} of {self.train.motor.name}" if count else "nothing measured yet"

    # -- taking rows ---------------------------------------------------------------------------------------------

    def _reading_changed(self) -> None:
        self.arrange()
        self.update()

    def add(self) -> None:
        """Keep the typed reading with the rows, and use what they say from now on."""
        told = {field: entry.value for field, entry in self.readings.items() if entry.value is not None}
        try:
            if self.train is None or not measure(self.store, (*self.train.bench, row_of(told)), "Use a reading"):
                return
        except DesignError as error:
            self.store.refused.emit(error)
            return
        for entry in self.readings.values():
            entry.clear_value()
        self.store.noted.emit("The reading is kept, and what it tells is used.")

    def _ask_read(self) -> None:
        name, _kind = QFileDialog.getOpenFileName(self, "Read rows of a thrust stand", "", _TABLES)
        if name:
            self.read(name)

    def read(self, place: str) -> None:
        """Add the rows of a table as one step, and say what was left out."""
        try:
            found = read_bench(place)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        self.report_lines = [f"{k}: {words}" for k, words in found.understood.items()] + found.report
        left = sum(entry.startswith("line") for entry in found.report)
        if found.rows and self.train is not None:
            rows = (*self.train.bench, *found.rows)
            self.store.put("power.bench", rows[-2000:], f"Read {len(found.rows)} bench rows")
        said = f"{len(found.rows)} rows read" + (f", {left} left out" if left else "")
        self.store.noted.emit(f"{said}.")
        self.refresh()

    def run(self) -> None:
        """Start a sweep on the simulated stand, or stop the one under way."""
        train = self.train
        if train is None or self._running is not None:
            self._end()
            return
        density = self.store.report.results.air.density
        stated = bench.as_sold(train)
        # A motor stays the one it is, whatever is found out about it.
        seed = round(1e3 * stated.motor.kv_rpm_per_v)
        stated = stated.model_copy(update={"motor": settled(stated.motor)})
        stand = SimulatedStand(
            bench.response(as_built(stated, seed, lag_of(stated.motor)), density), train.capacity_ah, seed=seed
        )
        self._taken, self._running = [], sweeping(stand, THROTTLES)
        self._timer.start()
        self.refresh()

    def _tick(self) -> None:
        reading = next(self._running, None) if self._running is not None else None
        if reading is None:
            self._end()
            return
        self._now = reading.row
        if reading.settled:
            self._taken.append(reading.row)
        self.update()

    def finish_now(self) -> None:
        """Run the stand to its end without waiting, for pictures and tests."""
        while self._running is not None:
            self._tick()

    def _end(self) -> None:
        self._timer.stop()
        if self._running is not None:
            self._running.close()  # type: ignore[attr-defined]
        taken, self._running, self._now, self._taken = tuple(self._taken), None, None, []
        if taken and self.train is not None:
            self.store.put("power.bench", (*self.train.bench, *taken)[-2000:], f"Take {len(taken)} bench rows")
        self.refresh()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self._end()

    def use(self) -> None:
        """Use the measured constants from now on, and keep them with the parts in the bin."""
        train, found = self.train, self.fit
        if train is None or found is None:
            return
        after = found.fitted(train)
        changes = [Change(f"power.{link}", getattr(after, link)) for link in ("motor", "propeller", "bench_fit")]
        if self.store.edit(changes, "Use what was measured"):
            own, _report = load_bin()
            try:
                save_bin(own.with_part("motors", after.motor).with_part("propellers", after.propeller))
            except DesignError as error:
                self.store.refused.emit(error)
                return
            self.store.noted.emit("The measured constants are used, and kept with the parts in the bin.")

    # -- drawing -------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        y = self.height() - 34
        self.read_button.setGeometry(PAD, y, 130, 24)
        self.run_button.setGeometry(PAD + 140, y, 180, 24)
        self.run_button.setText("Stop the stand" if self._running is not None else "Run the simulated stand")
        self.forget_button.setGeometry(PAD + 330, y, 130, 24)
        self.use_button.setGeometry(self.width() - PAD - _SIDE, y, _SIDE, 24)
        self.use_button.setEnabled(self.fit is not None and self._running is None)
        side, top = self.width() - PAD - _SIDE, self.height() - 150
        each = _SIDE // 3
        for index, entry in enumerate(self.readings.values()):
            column, row = index % 3, index // 3
            entry.setGeometry(side + column * each, top + 34 * row, each - 44, 22)
            entry.setVisible(self.train is not None)
        told = sum(entry.value is not None for entry in self.readings.values())
        self.add_button.setGeometry(side, top + 72, _SIDE, 24)
        self.add_button.setEnabled(told >= 2 and self._running is None)
        self.add_button.setVisible(self.train is not None)
        self.forget_button.setEnabled(bool(self.train is not None and self.train.bench))

    def draw(self, p: QPainter) -> None:
        if self.train is None:
            write(p, PAD, 80, "There is no power train to measure yet.", VALUE, theme.inks.soft)
            return
        side = self.width() - PAD - _SIDE
        left = QRectF(PAD, 40, side - PAD - 24, self.height() - 92)
        aside = "crosses measured, lines predicted at the same volts"
        heading(p, left.left(), 54, left.width(), "Over throttle", aside, strong=False)
        each = (left.height() - 50) / 3
        rows = tuple(sorted(self.rows, key=_throttle)) or self._rows_to_come()
        if rows:
            told, now = (self._curves(rows, train) for train in (bench.as_sold(self.train), self.train))
            for k, (name, unit) in enumerate(_CHARTS):
                box = QRectF(left.left() + 40, left.top() + 32 + k * each, left.width() - 56, each - 20)
                self._draw_chart(p, box, f"{name}, {unit}", rows, _measured(rows)[k], told[0], told[k + 1], now[k + 1])
        ruler(p, QRectF(left.left() + 40, left.bottom() - 22, left.width() - 56, 22), 0, 100, 10)
        write(p, left.right() - 14, left.bottom() - 26, "% throttle", LABEL, theme.inks.soft, align="right", halo=True)
        self._draw_constants(p, QRectF(side, 40, _SIDE, self.height() - 84))

    def _curves(self, rows: tuple[BenchRow, ...], train: PowerTrain) -> np.ndarray:
        """Return throttles, and speed, current and thrust predicted there at the rows' volts, shape (4, n)."""
        throttle, voltage, *_ = bench.columns(rows, bench.as_sold(train))
        if np.unique(throttle).size < len(THROTTLES) // 2:
            # Readings at one throttle make no curve: that of their volts is drawn through all.
            throttle, voltage = np.array(THROTTLES), np.full(len(THROTTLES), float(voltage.mean()))
        point = bench.predicted(train, throttle, voltage, self.store.report.results.air.density)
        return np.stack([throttle, point.rpm / 1e3, point.pack_current, point.thrust])

    def _rows_to_come(self) -> tuple[BenchRow, ...]:
        """Return rows at the stand's throttles on a full pack, to predict before anything is measured."""
        full = self.store.report.results.standing
        if full is None:
            return ()
        volts = full.chain.open_circuit
        return tuple(BenchRow(throttle=d, voltage=volts, current=0, rpm=0, thrust=0) for d in THROTTLES)

    def _draw_chart(
        self,
        p: QPainter,
        box: QRectF,
        words: str,
        rows: tuple[BenchRow, ...],
        measured: list[float],
        along: np.ndarray,
        told: np.ndarray,
        now: np.ndarray,
    ) -> None:
        """Draw one quantity over throttle: measured as crosses, as sold and as used now as lines."""
        inks = theme.inks
        line(p, box.left(), box.bottom(), box.right(), box.bottom(), inks.hair)
        write(p, box.left() + 6, box.top() + 10, words, LABEL, bold=True, halo=True)
        top = 1.12 * max(*(v for v in measured if math.isfinite(v)), float(told.max()), 1e-6)
        plot = Plot.of(box, (0.0, 1.0), (0.0, top), inside=True)
        plot.side(p, nice_step(top, 4))
        throttles = [_throttle(row) for row in rows]
        fitted = self.train is not None and self.train.motor.kv_sigma is not None
        plot.curve(p, along, told, inks.predicted, 1.6, dash=fitted)
        if fitted:
            plot.curve(p, along, now, inks.live, 1.6)
        if self.rows:
            p.setPen(pen(inks.measured, 1.6))
            for place in plot.points(throttles, measured):
                p.drawLine(place + QPointF(-4, 0), place + QPointF(4, 0))
                p.drawLine(place + QPointF(0, -4), place + QPointF(0, 4))

    def _draw_constants(self, p: QPainter, area: QRectF) -> None:
        inks, train, found = theme.inks, self.train, self.fit
        assert train is not None
        heading(p, area.left(), area.top() + 14, area.width(), "What the rows say", "", strong=False)
        names = (
            ("Speed constant, rpm/V", "motor", "kv_rpm_per_v", 1.0, 0),
            ("Winding, mΩ", "motor", "resistance", 1e3, 1),
            ("Lag L/R, ms", "motor", "lag", 1e3, 2),
            ("No-load current, A", "motor", "no_load_current", 1.0, 2),
            ("Propeller power, × law", "propeller", "power_factor", 1.0, 2),
            ("Propeller thrust, × law", "propeller", "thrust_factor", 1.0, 2),
        )
        y = area.top() + 38
        write(p, area.right() - 112, y, "used now", LABEL, inks.soft, align="right")
        write(p, area.right(), y, "measured", LABEL, inks.measured, align="right")
        for label, link, key, factor, digits in names:
            y += 32
            write(p, area.left(), y, label, LABEL)
            used = lag_of(train.motor) if key == "lag" else getattr(getattr(train, link), key)
            write(p, area.right() - 112, y, f"{used * factor:.{digits}f}", VALUE, align="right")
            if found is not None:
                value, sigma = found.of(key)
                ink = inks.measured if key in found.told else inks.soft
                write(p, area.right(), y, f"{value * factor:.{digits}f}", VALUE, ink, True, align="right")
                write(p, area.right(), y + 14, f"± {100 * BAND * sigma:.1f} %", LABEL, inks.soft, align="right")
            rule(p, area.left(), y + 19, area.width())
        self._draw_reading(p, area)
        y += 40
        words = self._verdict(found)
        for sentence in [*words, *self.report_lines]:
            for row in wrap(sentence, area.width(), LABEL):
                if y > self.height() - 190:
                    return
                write(p, area.left(), y, row, LABEL, inks.soft)
                y += 15
            y += 3

    def _draw_reading(self, p: QPainter, area: QRectF) -> None:
        """Write what the fields of a reading are, and in which unit."""
        top = self.height() - 150
        heading(p, area.left(), top - 14, area.width(), "One reading", self._promised(), strong=False)
        for index, (_field, quantity, name) in enumerate(TOLD):
            x, y = area.left() + (index % 3) * (_SIDE // 3), top + 34 * (index // 3)
            unit = self.store.units[quantity].symbol
            write(p, x + _SIDE // 3 - 40, y + 15, unit, LABEL, theme.inks.soft)
            if self.readings[TOLD[index][0]].value is None:
                write(p, x + 2, y + 32, name, 10, theme.inks.soft)

    def _promised(self) -> str:
        """Say what the model gives at the volts and throttle typed: a supply of the builder's choice."""
        volts, throttle = (self.readings[field].value for field in ("voltage", "throttle"))
        if volts is None or self.train is None:
            return "two numbers or more"
        density = self.store.report.results.air.density
        point = bench.predicted(
            self.train, np.array([1.0 if throttle is None else throttle]), np.array([volts]), density
        )
        units = self.store.units
        thrust, current = with_unit(float(point.thrust[0]), "force", units), float(point.pack_current[0])
        return f"{thrust}, {with_unit(current, 'current', units)} predicted"

    def _verdict(self, found: bench.Fit | None) -> list[str]:
        if self.train is None:
            return []
        if found is None:
            rest = "The simulated stand turns a motor not quite as sold: it ramps, the pack sags, readings scatter."
            return [f"{self.why}.", rest] if self.train.bench else [rest]
        left = f", {found.left_out} too slow to tell" if found.left_out else ""
        scatter = (
            "as a stand's own errors make it" if found.chi < 1.4 else f"{found.chi:.1f} times a stand's own errors"
        )
        gap = found.of("kv_rpm_per_v")[0] / bench.as_sold(self.train).motor.kv_rpm_per_v - 1
        apart = f"Kv is {100 * gap:+.1f} % from what was stated.".replace("-", "−")
        said = f"{found.used} rows{left}; they scatter {scatter}." if found.used > 1 else f"One reading{left}."
        known = [_CONSTANT[name] for name in bench.NAMES if name not in found.told]
        rest = f"Still as of the class, in grey: {', '.join(known)}." if known else "Every constant is told by them."
        return [said, apart, rest]


def _throttle(row: BenchRow) -> float:
    """Return a row's throttle; one that is not told is full."""
    return 1.0 if row.throttle is None else row.throttle


def _measured(rows: tuple[BenchRow, ...]) -> tuple[list[float], ...]:
    """Return the speed, current and thrust of rows, in the units of the charts; not a number where not read."""

    def told(value: float | None, factor: float = 1.0) -> float:
        return math.nan if value is None else factor * value

    return (
        [told(row.rpm, 1e-3) for row in rows],
        [told(row.current) for row in rows],
        [told(row.thrust) for row in rows],
    )
