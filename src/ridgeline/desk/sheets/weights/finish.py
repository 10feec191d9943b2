"""Finish: the whole model on two or three scales, level or tilted; its balance read off, the guesses corrected."""

from __future__ import annotations

import math
from functools import partial

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change
from ridgeline.design.underlay import ViewName
from ridgeline.desk.absent_rows import absent_rows
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import arrow_head, cg_mark, dimension, heading, line, pen, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import LeafButton, RuledButton
from ridgeline.desk.widgets.fields import Entry
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.bodies import underside
from ridgeline.engine.weights.supports import (
    LEAST_TILT,
    MOST_TILT,
    Supported,
    from_supports,
    height_from_tilt,
    on_supports,
    spread_over,
)
from ridgeline.engine.weights.without import with_the_rest, without
from ridgeline.errors import DesignError
from ridgeline.standins.finished_model import FinishedModel
from ridgeline.standins.scale import SimulatedScale
from ridgeline.typed import parse
from ridgeline.units import shown, with_unit

_WAYS = (("two", "Two scales"), ("three", "Three scales"), ("tilted", "Tilted, for the height"))


class Pan(Entry):
    """What one scale shows, typed."""

    def __init__(self, sheet: WeightsFinishSheet, index: int) -> None:
        super().__init__(sheet, f"reading of scale {index + 1}")
        self._sheet, self._index = sheet, index
        self.refresh()

    def current(self) -> str:
        readings = self._sheet.readings
        return shown(readings[self._index], "mass", self._sheet.store.units) if self._index < len(readings) else ""

    def accept(self, text: str) -> None:
        bare = self._sheet.store.unit_of("mass")
        value = float(parse(text, "mass", path="reading", bare=bare))
        if not 0 <= value < 30:
            raise DesignError("reading", f"{value:g} kg", "0 to 30 kg")
        self._sheet.readings[self._index] = value
        self._sheet.update()


class Tilt(Entry):
    """How far nose down the model stands, typed."""

    def __init__(self, sheet: WeightsFinishSheet) -> None:
        super().__init__(sheet, "nose down by")
        self._sheet = sheet
        self.refresh()

    def current(self) -> str:
        return f"{math.degrees(self._sheet.tilt):.0f}°"

    def accept(self, text: str) -> None:
        value = float(parse(text, "angle", path="nose down by", bare=self._sheet.store.unit_of("angle")))
        if not LEAST_TILT <= value <= MOST_TILT:
            raise DesignError("nose down by", f"{math.degrees(value):.1f}°", "5° to 60°: less tells nothing")
        self._sheet.tilt = value
        self._sheet.refresh()


class WeightsFinishSheet(Sheet):
    """The finished model on its supports. Readings are kept for each way of weighing."""

    key = "weights.finish"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.way = "two"
        self.tilt = math.radians(20)
        self._readings: dict[str, list[float]] = {"two": [0.0, 0.0], "three": [0.0, 0.0, 0.0], "tilted": [0.0, 0.0]}
        self._places: dict[str, list[tuple[float, float]]] = {}
        self._view = View("side", 0, 0, 1)
        self.ways = [LeafButton(self, words, chosen=key == self.way) for key, words in _WAYS]
        for button, (key, _words) in zip(self.ways, _WAYS, strict=True):
            button.clicked.connect(lambda _=False, k=key: self.turn(k))
        self.handles = [
            Handle(self, f"support {k + 1}", partial(self._drag, k), self.update, step=self.document_step)
            for k in range(3)
        ]
        self.pans = [Pan(self, k) for k in range(3)]
        self.angle = Tilt(self)
        self.read_button = RuledButton(self, "Read the simulated scales")
        self.read_button.clicked.connect(self.read)
        self.take_button = RuledButton(self, "Spread the difference over the guesses", strong=True)
        self.take_button.clicked.connect(self.take)

    @property
    def readings(self) -> list[float]:
        """Return what the scales show in the present way of weighing, kg."""
        return self._readings[self.way]

    @property
    def places(self) -> list[tuple[float, float]]:
        """Return where the supports stand, (x, y) m; the tilted model stands where the level one stood."""
        return self._places.get("two" if self.way == "tilted" else self.way, [])

    def turn(self, way: str) -> None:
        """Weigh on two scales, on three, or tilted."""
        self.way = way
        for button, (key, _words) in zip(self.ways, _WAYS, strict=True):
            button.choose(key == way)
        for pan in self.pans[: len(self.readings)]:
            pan.refresh()
        self.refresh()

    def subtitle(self) -> str:
        return "drag the supports to where yours stand; read or type what they show"

    def _default_places(self) -> None:
        box = extent(self.store.design, "side")
        state = self.store.report.results.masses.state
        middle = float(state.cg[0]) if state is not None else box.center().x()
        reach = 0.18 * box.width()
        front, back = max(middle - reach, box.left()), min(middle + 1.6 * reach, box.right())
        out = 0.2 * extent(self.store.design, "plan").width()
        self._places = {"two": [(front, 0.0), (back, 0.0)], "three": [(front, -out), (front, out), (back, 0.0)]}

    def _drag(self, index: int, px: float, py: float) -> None:
        box = extent(self.store.design, "side")
        places = self.places
        if self.way == "three":
            y, x = self._view.back(px, py)
            half = 0.5 * extent(self.store.design, "plan").width()
            places[index] = (min(max(x, box.left()), box.right()), min(max(y, -half), half))
        else:
            x = min(max(self._view.back(px, 0)[0], box.left()), box.right())
            other = places[1 - index][0]
            places[index] = (min(x, other - 0.02) if index == 0 else max(x, other + 0.02), 0.0)
        self.refresh()

    def _true_loads(self) -> list[float] | None:
        """Return what the simulated finished model puts on each support, kg; None where it would topple."""
        masses, off = self.store.report.results.masses, self._off
        state = masses.state if not off.any() else without(masses.items, self.store.design.brief.growth, off)
        if state is None:
            return None
        x, y, z = (float(v) for v in state.cg)
        model = FinishedModel.of(state.mass, (x, y, z))
        tilt = self.tilt if self.way == "tilted" else 0.0
        try:
            return on_supports(model.mass, model.seen_from_supports(tilt, self._line_height), self.places).tolist()
        except ValueError:
            return None

    def _line_height(self, x: float) -> float:
        """Return how high the line of the two supports lies at a place along the model, m."""
        (x1, _y1), (x2, _y2) = self._places["two"]
        return Scale(x1, x2, self._under(x1), self._under(x2)).at(x)

    def read(self) -> None:
        """Put the simulated finished model on the scales and read them once they stand still."""
        loads = self._true_loads()
        if loads is None:
            self.store.noted.emit("It would topple: the balance point lies outside the supports. Move them apart.")
            return
        for k, load in enumerate(loads):
            scale = SimulatedScale(seed=k + 1)
            scale.put_on(load)
            while not (reading := scale.read()).steady:
                pass
            self.readings[k] = max(reading.mass, 0.0)
            self.pans[k].refresh()
        self.update()

    @property
    def found(self) -> Supported | None:
        """Return what the readings say, None while they say nothing."""
        try:
            found = from_supports(self.readings, self.places)
        except ValueError:
            return None
        off = self._off
        if not off.any():
            return found
        masses = self.store.report.results.masses
        mass, cg = with_the_rest(found.mass, found.cg, masses.expected[off], masses.items.place[off, :2])
        sigma = float(np.hypot(found.sigma_mass, np.sqrt((masses.items.sigma[off] ** 2).sum())))
        return Supported(mass, cg, sigma, found.sigma_cg)

    @property
    def _off(self) -> NDArray[np.bool_]:
        """Which items are said not to be on the scales yet."""
        said = self.store.design.log_book.absent or ()
        return np.array([item.id in said for item in self.store.design.parts], np.bool_)

    def selection(self) -> Selection:
        return Selection("", ()) if self.empty else Selection("on the scales", absent_rows(self.store))

    @property
    def weighed_height(self) -> tuple[float, float] | None:
        """Return the balance point's height over the datum and its error, m, once weighed level and tilted."""
        try:
            level = from_supports(self._readings["two"], self._places["two"])
            tilted = from_supports(self._readings["tilted"], self._places["two"])
            over, error = height_from_tilt(level, tilted, self.tilt)
        except (ValueError, KeyError):
            return None
        return self._line_height(float(level.cg[0])) + over, error

    def take(self) -> None:
        """Make the items sum to what was weighed: only what is guessed moves, the least sure the most."""
        found, masses = self.found, self.store.report.results.masses
        if self.way == "tilted":
            self.store.noted.emit("The height is for comparison: correct the items' places by hand, or weigh more.")
            return
        if found is None:
            self.store.noted.emit("The scales show nothing yet: read them, or type what yours show.")
            return
        side = float(found.cg[1]) if self.way == "three" else None
        fresh = spread_over(masses.items, masses.expected, found.mass, float(found.cg[0]), side)
        changes = []
        for index, (part, old, new) in enumerate(zip(self.store.design.parts, masses.items.mass, fresh, strict=True)):
            if abs(new - old) > 1e-9:
                base = f"parts[{index}]"
                changes += [Change(f"{base}.build", None)] if part.build is not None else []
                changes.append(Change(f"{base}.estimate", float(new) / part.count))
        if not changes:
            self.store.noted.emit("Every item is weighed: nothing is left to spread a difference over.")
            return
        # A finished model gains no more.
        changes.append(Change("brief.growth", 0.0))
        self.store.edit(changes, "Spread the weighed difference")

    def arrange(self) -> None:
        if not self._places:
            self._default_places()
        kind: ViewName = "plan" if self.way == "three" else "side"
        box = extent(self.store.design, kind)
        room = QRectF(PAD + 60, 84, self.width() - 2 * PAD - 120, 0.46 * self.height())
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0, y0 = room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale
        self._view = View(kind, x0, y0, scale)
        for k, handle in enumerate(self.handles):
            there = k < len(self.places)
            handle.setVisible(there)
            self.pans[k].setVisible(there)
            if there:
                x, y = self._support(k)
                handle.place(x, y)
                px, py = self._pan_at(k)
                self.pans[k].setGeometry(int(px - 36), int(py + 6), 60, 20)
        x = PAD
        for way in self.ways:
            way.move(int(x), 34)
            x += way.width() + 6
        self.angle.setVisible(self.way == "tilted")
        self.angle.setGeometry(int(x + 100), 36, 48, 20)
        self.read_button.setGeometry(PAD, self.height() - 40, 190, 26)
        self.take_button.setGeometry(PAD + 200, self.height() - 40, 270, 26)

    def _support(self, k: int) -> tuple[float, float]:
        x, y = self.places[k]
        if self.way == "three":
            return self._view.at((x, y, 0.0))
        return self._view.at((x, 0.0, 0.0))[0], self._floor - 6

    def _pan_at(self, k: int) -> tuple[float, float]:
        """Return the upper middle of a scale's box."""
        x, y = self._support(k)
        return (x, y + 12) if self.way == "three" else (x, self._floor + 14)

    @property
    def _floor(self) -> float:
        return 84 + 0.46 * self.height() + 30

    def _under(self, x: float) -> float:
        return underside(self.store.design.bodies, x)

    def draw(self, p: QPainter) -> None:
        inks, units, report = theme.inks, self.store.units, self.store.report
        if self.way == "tilted":
            write(p, self.angle.x() - 90, 50, "nose down by", VALUE, inks.soft)
        draw_aircraft(p, self.store.design, self._view, fill=inks.paper)
        floor = self._floor
        for k in range(len(self.places)):
            x, y = self._support(k)
            if self.way != "three":
                line(p, x, y, x, self._view.at((0.0, 0.0, self._under(self.places[k][0])))[1], inks.ink, 1.5)
            px, py = self._pan_at(k)
            p.fillRect(QRectF(px - 44, py, 88, 34), inks.paper)
            p.setPen(pen(inks.ink, 1))
            p.drawRect(QRectF(px - 44, py, 88, 34))
            write(p, px + 28, py + 21, units["mass"].symbol, LABEL, inks.soft)
        if self.way != "three":
            line(p, PAD, floor + 48, self.width() - PAD, floor + 48, inks.ink)
            (x1, _a), (x2, _b) = self._support(0), self._support(1)
            dimension(p, x1, x2, floor + 4, self.length(self.places[1][0] - self.places[0][0]))
        if self.way == "tilted":
            self._draw_tilt(p)
        state = report.results.masses.state
        if state is not None:
            cg_mark(p, *self._view.at((float(state.cg[0]), float(state.cg[1]), float(state.cg[2]))), 6)
        self._draw_found(p, floor + 74)

    def _draw_tilt(self, p: QPainter) -> None:
        """Draw how the model stands: the level line and the floor it stands nose down on."""
        inks = theme.inks
        x, y, long = self.width() - PAD - 190, 60.0, 70.0
        line(p, x, y, x + long, y, inks.hair)
        ex, ey = x + long * math.cos(self.tilt), y - long * math.sin(self.tilt)
        line(p, x, y, ex, ey, inks.live, 1.5)
        arrow_head(p, ex, ey, ex - x, ey - y, inks.live)
        write(p, x + long + 10, y, "tail up, on the", LABEL, inks.soft)
        write(p, x + long + 10, y + 14, "same two supports", LABEL, inks.soft)

    def _draw_found(self, p: QPainter, y: float) -> None:
        """Compare what the scales say with what was to be expected."""
        inks, units, report, found = theme.inks, self.store.units, self.store.report, self.found
        aside = "propeller off, pack in, nothing touching"
        heading(p, PAD, y, self.width() - 2 * PAD, "Weighed against expected", aside)
        y += 28
        auw = report.figures["mass.auw"]
        if found is None or auw.value is None:
            write(p, PAD, y, "The scales show nothing yet.", VALUE, inks.soft)
            return
        rows: list[tuple[str, float, float, float | None, str, tuple[str, str]]] = []
        if self.way == "tilted":
            if self.weighed_height is None:
                words = "Weigh it level on two scales first, then tilted on the same two."
                write(p, PAD, y, words, VALUE, inks.soft)
                return
            height, error = self.weighed_height
            rows.append(("Over the datum", height, error, report.value("balance.cg_z"), "length", ("higher", "lower")))
        else:
            behind = report.value("balance.cg_x")
            rows.append(("All-up weight", found.mass, found.sigma_mass, auw.value, "mass", ("more", "less")))
            aft = ("further aft", "further ahead")
            rows.append(("Behind datum", float(found.cg[0]), float(found.sigma_cg[0]), behind, "length", aft))
        if self.way == "three":
            side = report.value("balance.cg_y")
            ends = ("further to starboard", "further to port")
            rows.append(("To starboard", float(found.cg[1]), float(found.sigma_cg[1]), side, "length", ends))
        for words, value, sigma, was, quantity, sides in rows:
            write(p, PAD, y, words, VALUE, inks.soft)
            told = f"{shown(value, quantity, units, 1)} ± {with_unit(BAND * sigma, quantity, units, 1)}"
            write(p, PAD + 280, y, told, VALUE, inks.measured, True, "right")
            if was is not None:
                gap = value - was
                way = sides[0] if gap > 0 else sides[1]
                told = f"{with_unit(abs(gap), quantity, units, 1)} {way} than expected"
                write(p, PAD + 300, y, told, VALUE)
            y += 21
        self._draw_weighed_balance(p, found)

    def _draw_weighed_balance(self, p: QPainter, found: Supported) -> None:
        inks, ref = theme.inks, self.store.report.results.shape.reference
        if self.way == "tilted":
            return
        if self.way == "three":
            cg_mark(p, *self._view.at((float(found.cg[0]), float(found.cg[1]), 0.0)), 6, inks.measured)
            return
        x = self._view.at((float(found.cg[0]), 0, 0))[0]
        line(p, x, self._view.y0 - 40, x, self._floor - 10, inks.measured, 1.5, dash=True)
        words = "weighed"
        if ref is not None:
            words += f", {100 * ref.fraction(float(found.cg[0])):.1f} % of the mean chord"
        write(p, x + 5, self._floor - 14, words.replace("-", "−"), LABEL, inks.measured, halo=True)
