"""Weigh: the items one after another on the scale, what each was guessed at, and what it all will come to."""

from __future__ import annotations

import math
import random

from PySide6.QtCore import QRectF, QTimer
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import fit, heading, line, pen, rule, state_mark, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.bands import BAND
from ridgeline.engine.weights.growth import growth_of
from ridgeline.standins.scale import Reading, Scale, SimulatedScale
from ridgeline.units import number, with_unit

_STEPS = (0.0001, 0.001, 0.005)
_TICK_MS = 250
#: Disc area per mass: 178 g draws a disc of 12 px radius.
_DISC = 12 / math.sqrt(0.178)
#: How far a simulated part's true mass strays from its estimate: builders run over.
_OVER, _STRAY = 1.08, 0.07


class WeightsWeighSheet(Sheet):
    """The weigh session, on the simulated scale or by typed values."""

    key = "weights.weigh"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.scale_device: Scale = SimulatedScale()
        self.index = 0
        self.reading = Reading(0.0, True)
        self.take_button = RuledButton(self, "Take the reading", strong=True)
        self.take_button.clicked.connect(self.take)
        self.skip_button = RuledButton(self, "Skip it")
        self.skip_button.clicked.connect(lambda: self.go(self._next(1)))
        self.back_button = RuledButton(self, "Back")
        self.back_button.clicked.connect(lambda: self.go(self._next(-1, all_of_them=True)))
        self.tare_button = RuledButton(self, "Tare")
        self.tare_button.clicked.connect(self.tare)
        self.step_button = RuledButton(self, "Step 1 g")
        self.step_button.clicked.connect(self.turn_step)
        self._typed: PathField | None = None
        self._timer = QTimer(self, interval=_TICK_MS)
        self._timer.timeout.connect(self.tick)
        self._step = 1
        self._begun = False

    @property
    def part_index(self) -> int | None:
        """Return the item on the pan now, None without items."""
        count = len(self.store.design.parts)
        return min(self.index, count - 1) if count else None

    def subtitle(self) -> str:
        parts = self.store.design.parts
        done = sum(part.weighed is not None for part in parts)
        return f"{done} of {len(parts)} items weighed, on the simulated scale"

    def _next(self, step: int, *, all_of_them: bool = False) -> int:
        """Return the next item, by default the next that is not weighed yet."""
        parts = self.store.design.parts
        if not parts:
            return 0
        for k in range(1, len(parts) + 1):
            at = (self.index + step * k) % len(parts)
            if all_of_them or parts[at].weighed is None:
                return at
        return (self.index + step) % len(parts)

    def go(self, index: int) -> None:
        """Take an item to the scale: off with the last one, on with this."""
        self.index = index
        if isinstance(self.scale_device, SimulatedScale):
            self.scale_device.clear()
            self.scale_device.put_on(self._true_mass(index))
        self.tick()
        self.refresh()

    def _true_mass(self, index: int) -> float:
        """Return what the simulated part weighs: its estimate, a little over, always the same for one name."""
        part = self.store.design.parts[index]
        estimate = max(float(self.store.report.results.masses.items.estimate[index]), 0.0)
        stray = random.Random(part.id).gauss(0.0, _STRAY) if part.basis != "library" else 0.0
        return estimate * ((_OVER if part.basis != "library" else 1.0) + stray)

    def tick(self) -> None:
        """Read the scale."""
        self.reading = self.scale_device.read()
        self.update()

    def settle(self) -> None:
        """Read until the display stands still."""
        for _ in range(20):
            self.tick()
            if self.reading.steady:
                return

    def take(self) -> None:
        """Note the reading as the item's weighed mass, shared among its pieces, and go on to the next."""
        index = self.part_index
        if index is None:
            return
        self.settle()
        part = self.store.design.parts[index]
        if self.reading.mass <= 0:
            self.store.noted.emit("The scale shows nothing: put the part on it, or tare it anew.")
            return
        each = round(self.reading.mass / part.count, 6)
        if self.store.edit([Change(f"parts[{index}].weighed", each)], f"Weigh {part.name}"):
            self.go(self._next(1))

    def tare(self) -> None:
        """Zero the scale with what lies on it, and put the part on again."""
        index = self.part_index
        self.scale_device.tare()
        if isinstance(self.scale_device, SimulatedScale) and index is not None:
            self.scale_device.put_on(self._true_mass(index))
        self.tick()

    def turn_step(self) -> None:
        """Change to a scale of another step."""
        self._step = (self._step + 1) % len(_STEPS)
        step = _STEPS[self._step]
        self.scale_device = SimulatedScale(step=step, noise=0.2 * step)
        self.step_button.setText(f"Step {1e3 * step:g} g")
        self.go(self.index)

    def showEvent(self, event: object) -> None:
        if not self._begun and self.store.design.parts:
            self._begun = True
            self.index = len(self.store.design.parts) - 1
            self.go(self._next(1))
        super().showEvent(event)
        self._timer.start()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self._timer.stop()

    @property
    def _split(self) -> int:
        return PAD + int(0.44 * (self.width() - 2 * PAD))

    def arrange(self) -> None:
        index = self.part_index
        y = 268
        self.take_button.setGeometry(PAD, y, 150, 28)
        self.skip_button.setGeometry(PAD + 160, y, 80, 28)
        self.back_button.setGeometry(PAD + 250, y, 62, 28)
        self.tare_button.setGeometry(PAD, y + 38, 70, 24)
        self.step_button.setGeometry(PAD + 80, y + 38, 100, 24)
        path = "" if index is None else f"parts[{index}].weighed"
        if self._typed is None or self._typed.path != path:
            if self._typed is not None:
                self.store.changed.disconnect(self._typed.refresh)
                discard(self._typed)
            self._typed = None if index is None else PathField(self, self.store, path, "weighed mass of one piece")
        if self._typed is not None:
            self._typed.setGeometry(PAD + 226, y + 70, 70, 20)
            self._typed.show()

    def draw(self, p: QPainter) -> None:
        inks, index = theme.inks, self.part_index
        if index is None:
            write(p, self.width() / 2, 120, "There is nothing to weigh yet.", VALUE, inks.soft, align="centre")
            return
        self._draw_scale(p, index)
        line(p, self._split + 0.5, 36, self._split + 0.5, self.height() - 10, inks.hair)
        self._draw_growth(p)
        self._draw_list(p, index)

    def _draw_scale(self, p: QPainter, index: int) -> None:
        """Draw the scale with its display, what lies on it, and what it was guessed at."""
        inks, units, part = theme.inks, self.store.units, self.store.design.parts[index]
        room = self._split - PAD - 14
        heading(p, PAD, 52, room, "On the scale", "steady" if self.reading.steady else "settling")
        pieces = f"{part.count} pieces together" if part.count > 1 else "one piece"
        write(p, PAD, 88, fit(part.name, room, 16, True), 16, bold=True)
        estimate = float(self.store.report.results.masses.items.estimate[index])
        write(p, PAD, 108, f"{pieces}; guessed at {with_unit(estimate, 'mass', units)}", LABEL, inks.soft)
        pan = QRectF(PAD + 8, 128, room - 16, 8)
        p.setPen(inks.ink)
        p.setBrush(inks.fill)
        p.drawRect(pan)
        body = QRectF(PAD + 30, 140, room - 60, 110)
        p.setBrush(inks.ruler)
        p.drawRect(body)
        colour = inks.measured if self.reading.steady else inks.soft
        decimals = 1 if self.scale_device.step < 0.001 else 0
        if self.store.system == "metric":
            words = f"{number(1e3 * self.reading.mass, decimals)} g"
        else:
            words = with_unit(self.reading.mass, "mass", units, 2)
        write(p, body.center().x(), body.center().y() + 4, words, 18, colour, True, "centre")
        off = self.reading.mass - estimate
        side = "over" if off > 0 else "under"
        told = f"{with_unit(abs(off), 'mass', units, 1)} {side} the guess" if estimate > 0 else "no guess to compare"
        write(p, body.center().x(), body.center().y() + 30, told, LABEL, inks.soft, align="centre")
        write(p, PAD, 353, "or typed from your own scale, one piece", LABEL, inks.soft)
        write(p, PAD + 302, 353, units["mass"].symbol, LABEL, inks.soft)

    def _draw_growth(self, p: QPainter) -> None:
        """List the groups that are partly weighed, and the finished weight at this rate."""
        inks, units = theme.inks, self.store.units
        left, right = self._split + 16, self.width() - PAD
        heading(p, left, 52, right - left, "How the guesses hold", "weighed against guessed")
        found = growth_of(self.store.report.results.masses.items, self.store.design.brief.growth)
        y = 80
        for row in found.groups:
            write(p, left, y, row.group.capitalize(), VALUE)
            if row.estimated > 0:
                percent = 100 * (row.weighed / row.estimated - 1)
                colour = inks.look if percent > 5 else inks.ink
                write(p, left + 170, y, f"{percent:+.0f} %".replace("-", "−"), VALUE, colour, True, "right")
            else:
                write(p, left + 170, y, "–", VALUE, inks.soft, align="right")
            still = f"{with_unit(row.open, 'mass', units)} still guessed" if row.open > 0 else "all weighed"
            write(p, right, y, still, LABEL, inks.soft, align="right")
            rule(p, left, y + 6, right - left)
            y += 22
        y += 14
        finished = f"{with_unit(found.finished, 'mass', units)} ± {with_unit(BAND * found.sigma, 'mass', units)}"
        write(p, left, y, "Finished, at this rate", VALUE, inks.soft)
        over = found.finished > self.store.design.brief.ceiling
        write(p, right, y, finished, 16, inks.stop if over else inks.live, True, "right")
        ceiling = with_unit(self.store.design.brief.ceiling, "mass", units)
        write(p, right, y + 18, f"ceiling {ceiling}", LABEL, inks.soft, align="right")
        self._draw_aircraft(p, QRectF(left, y + 40, right - left, self.height() - y - 62))

    def _draw_list(self, p: QPainter, index: int) -> None:
        """List what is still to be weighed, heaviest first."""
        inks, units = theme.inks, self.store.units
        items, parts = self.store.report.results.masses.items, self.store.design.parts
        top = 388
        room = self._split - PAD - 14
        heading(p, PAD, top, room, "Still to weigh", "heaviest first")
        open_ones = [i for i, part in enumerate(parts) if part.weighed is None]
        open_ones.sort(key=lambda i: -float(items.mass[i]))
        y = top + 26
        for i in open_ones:
            if y > self.height() - 12:
                break
            state_mark(p, PAD + 5, y - 4, "look" if i == index else "untouched")
            write(p, PAD + 18, y, fit(parts[i].name, room - 90), VALUE, inks.live if i == index else inks.ink)
            write(p, PAD + room, y, with_unit(float(items.mass[i]), "mass", units), VALUE, align="right")
            y += 19
        if not open_ones:
            write(p, PAD, y, "Everything aboard has been on the scale.", VALUE, inks.soft)

    def _draw_aircraft(self, p: QPainter, room: QRectF) -> None:
        """Draw where the item belongs: discs by mass, filled once weighed, the present one in live ink."""
        design, inks = self.store.design, theme.inks
        if room.height() < 90 or not design.surfaces:
            return
        box = extent(design, "plan")
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0, y0 = room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale
        view = View("plan", x0, y0, scale)
        draw_aircraft(p, design, view, fill=inks.paper)
        items = self.store.report.results.masses.items
        for i, part in enumerate(design.parts):
            radius = max(_DISC * math.sqrt(abs(float(items.mass[i])) / (2 if part.mirrored and part.y else 1)), 2.5)
            for side in (1, -1) if part.mirrored and part.y else (1,):
                x, y = view.at((part.x, side * part.y, part.z))
                here = i == self.part_index
                p.setPen(pen(inks.live if here else inks.ink, 2 if here else 1))
                p.setBrush(inks.wash if here else (inks.fill if part.weighed is not None else inks.paper))
                p.drawEllipse(QRectF(x - radius, y - radius, 2 * radius, 2 * radius))
