"""Finish: the whole model on two scales, its balance read off, and the difference spread over what was guessed."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import cg_mark, dimension, heading, line, pen, write
from ridgeline.desk.sheets.base import PAD, WEIGHTS_LEAVES, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.fields import Entry
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.geometry.reference import Reference
from ridgeline.engine.weights.supports import Supported, from_supports, spread_over
from ridgeline.errors import DesignError
from ridgeline.standins.scale import SimulatedScale
from ridgeline.units import parse, shown, with_unit

#: The simulated finished model: heavier than its estimates by this, and this much further aft, m.
_HEAVIER, _FURTHER_AFT = 1.04, 0.004
_SIDES = ("further aft", "further ahead")


class Pan(Entry):
    """What one scale shows, typed."""

    def __init__(self, sheet: WeightsFinishSheet, index: int) -> None:
        super().__init__(sheet, f"reading of scale {index + 1}")
        self._sheet, self._index = sheet, index
        self.refresh()

    def current(self) -> str:
        return shown(self._sheet.readings[self._index], "mass", self._sheet.store.units)

    def accept(self, text: str) -> None:
        bare = self._sheet.store.unit_of("mass")
        value = float(parse(text, "mass", path="reading", bare=bare))
        if not 0 <= value < 30:
            raise DesignError("reading", f"{value:g} kg", "0 to 30 kg")
        self._sheet.readings[self._index] = value
        self._sheet.update()


class WeightsFinishSheet(Sheet):
    """The finished model on its supports."""

    key, title, leaves = "weights.finish", "Weights", WEIGHTS_LEAVES

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.readings = [0.0, 0.0]
        self.places: list[float] = []
        self._view = View("side", 0, 0, 1)
        self.handles = [
            Handle(self, f"support {k + 1}", partial(self._drag, k), self.update, cursor=Qt.CursorShape.SizeHorCursor)
            for k in range(2)
        ]
        self.pans = [Pan(self, 0), Pan(self, 1)]
        self.read_button = RuledButton(self, "Read the simulated scales")
        self.read_button.clicked.connect(self.read)
        self.take_button = RuledButton(self, "Spread the difference over the guesses", strong=True)
        self.take_button.clicked.connect(self.take)

    def subtitle(self) -> str:
        return "drag the supports to where yours stand; read or type what they show"

    def _default_places(self) -> list[float]:
        box = extent(self.store.design, "side")
        state = self.store.report.results["masses"].state
        middle = float(state.cg[0]) if state is not None else box.center().x()
        reach = 0.18 * box.width()
        return [max(middle - reach, box.left()), min(middle + 1.6 * reach, box.right())]

    def _drag(self, index: int, px: float, _py: float) -> None:
        box = extent(self.store.design, "side")
        x = min(max(self._view.back(px, 0)[0], box.left()), box.right())
        other = self.places[1 - index]
        self.places[index] = min(x, other - 0.02) if index == 0 else max(x, other + 0.02)
        self.refresh()

    def read(self) -> None:
        """Put the simulated finished model on two scales and read them once they stand still."""
        state = self.store.report.results["masses"].state
        if state is None:
            return
        mass, x = state.mass * _HEAVIER, float(state.cg[0]) + _FURTHER_AFT
        front, back = self.places
        loads = (mass * (back - x) / (back - front), mass * (x - front) / (back - front))
        for k, load in enumerate(loads):
            scale = SimulatedScale(seed=k + 1)
            scale.put_on(max(load, 0.0))
            while not (reading := scale.read()).steady:
                pass
            self.readings[k] = max(reading.mass, 0.0)
            self.pans[k].refresh()
        self.update()

    @property
    def found(self) -> Supported | None:
        """Return what the readings say, None while they say nothing."""
        try:
            return from_supports(self.readings, [(x, 0.0) for x in self.places])
        except ValueError:
            return None

    def take(self) -> None:
        """Make the items sum to what was weighed: only what is guessed moves, the least sure the most."""
        found, items = self.found, self.store.report.results["masses"].items
        if found is None:
            self.store.noted.emit("The scales show nothing yet: read them, or type what yours show.")
            return
        fresh = spread_over(items, found.mass, float(found.cg[0]))
        changes = []
        for index, (part, old, new) in enumerate(zip(self.store.design.parts, items.mass, fresh, strict=True)):
            if abs(new - old) > 1e-9:
                base = f"parts[{index}]"
                changes += [Change(f"{base}.build", None)] if part.build is not None else []
                changes.append(Change(f"{base}.estimate", float(new) / part.count))
        if not changes:
            self.store.noted.emit("Every item is weighed: nothing is left to spread a difference over.")
            return
        self.store.edit(changes, "Spread the weighed difference")

    def arrange(self) -> None:
        if not self.places:
            self.places = self._default_places()
        box = extent(self.store.design, "side")
        room = QRectF(PAD + 30, 80, self.width() - 2 * PAD - 60, 0.46 * self.height())
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0 = room.center().x() - box.center().x() * scale
        self._view = View("side", x0, room.center().y() - box.center().y() * scale, scale)
        floor = self._floor
        for k, handle in enumerate(self.handles):
            x = self._view.at((self.places[k], 0, 0))[0]
            handle.place(x, floor - 6)
            self.pans[k].setGeometry(int(x - 36), int(floor + 20), 60, 20)
            self.pans[k].show()
        self.read_button.setGeometry(PAD, self.height() - 40, 190, 26)
        self.take_button.setGeometry(PAD + 200, self.height() - 40, 270, 26)

    @property
    def _floor(self) -> float:
        return 80 + 0.46 * self.height() + 30

    def _underside(self, px: float) -> float:
        """Return how high the model's underside stands over a support, px."""
        x = self._view.back(px, 0)[0]
        found = 0.0
        for body in self.store.design.bodies:
            xs = [s.x for s in body.stations]
            if xs[0] <= x <= xs[-1]:
                found = min(found, float(np.interp(x, xs, [s.z - 0.5 * s.height for s in body.stations])))
        return self._view.at((0.0, 0.0, found))[1]

    def draw(self, p: QPainter) -> None:
        inks, units, report = theme.inks, self.store.units, self.store.report
        heading(p, PAD, 52, self.width() - 2 * PAD, "The finished model on its scales", "propeller off, pack in, level")
        draw_aircraft(p, self.store.design, self._view, fill=inks.paper)
        floor = self._floor
        line(p, PAD, floor + 48, self.width() - PAD, floor + 48, inks.ink)
        xs = [self._view.at((x, 0, 0))[0] for x in self.places]
        for x in xs:
            line(p, x, floor - 6, x, self._underside(x), inks.ink, 1.5)
            p.setPen(pen(inks.ink, 1))
            p.drawRect(QRectF(x - 44, floor + 14, 88, 34))
            write(p, x + 28, floor + 35, units["mass"].symbol, LABEL, inks.soft)
        dimension(p, xs[0], xs[1], floor + 4, self.length(self.places[1] - self.places[0]))
        state, ref = report.results["masses"].state, report.results["shape"].reference
        if state is not None:
            cg_mark(p, *self._view.at((float(state.cg[0]), 0.0, float(state.cg[2]))), 6)
        self._draw_found(p, floor + 76, ref)

    def _draw_found(self, p: QPainter, y: float, ref: Reference | None) -> None:
        """Compare what the scales say with what the items sum to."""
        inks, units, report, found = theme.inks, self.store.units, self.store.report, self.found
        left = PAD
        if found is None:
            write(p, left, y, "The scales show nothing yet.", VALUE, inks.soft)
            return
        auw, cg = report.figures["mass.auw"], report.figures["balance.cg_x"]
        assert auw.value is not None and cg.value is not None
        rows = (
            ("All-up weight", found.mass, found.sigma_mass, auw.value, "mass", ("more", "less")),
            ("Behind datum", float(found.cg[0]), float(found.sigma_cg[0]), cg.value, "length", _SIDES),
        )
        for words, value, sigma, was, quantity, sides in rows:
            write(p, left, y, words, VALUE, inks.soft)
            told = f"{shown(value, quantity, units, 1)} ± {with_unit(1.645 * sigma, quantity, units, 1)}"
            write(p, left + 310, y, told, VALUE, inks.measured, True, "right")
            more = value - was
            side = sides[0] if more > 0 else sides[1]
            gap = f"{with_unit(abs(more), quantity, units, 1)} {side} than the items sum to"
            write(p, left + 330, y, gap, VALUE)
            y += 22
        if ref is not None:
            fraction = (float(found.cg[0]) - ref.mac_x_le) / ref.mac
            write(p, left, y, f"That is {100 * fraction:.1f} % of the mean chord.".replace("-", "−"), VALUE, inks.soft)
        x = self._view.at((float(found.cg[0]), 0, 0))[0]
        line(p, x, self._view.y0 - 40, x, self._floor - 10, inks.measured, 1.5, dash=True)
        write(p, x + 5, self._floor - 14, "weighed", LABEL, inks.measured, halo=True)
