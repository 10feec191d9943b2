"""Versions: two of them one over the other, what differs between them, and what moved the balance."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog

from ridgeline.design.document import Design
from ridgeline.design.keeping import back_to, is_kept, place_of
from ridgeline.desk.album import Album
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import brush_of, fit, heading, line, rule, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.version_strip import VersionStrip
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.version_edits import today
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.advice.two_versions import Differences, FigurePair, differences
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.units import shown, with_unit

#: Height of the strip; width of the column of figures, and where its two values end, px.
_STRIP, _COLUMN, _ONE, _OTHER = 118, 300, 176, 250
#: Figures a builder knows an aircraft by come first, whatever differs most.
_KNOWN_BY = (
    "mass.auw", "wing.loading", "balance.cg_fraction", "stability.static_margin", "speed.stall", "power.thrust_ratio",
    "power.static_current", "flight.endurance", "wing.area", "wing.span", "speed.max", "flight.climb_rate",
)  # fmt: skip
_ROW = 19
#: A move of the balance, m, and a mass, kg, that are not worth a row.
_TOLD_MOVE, _TOLD_MASS = 5e-5, 5e-5
#: Now, as the design stands, and the aircraft of another file, beside the versions.
NOW, FILE = 0, -1
_FILES = "Ridgeline designs (*.ridge);;All files (*)"


class FlightsVersionsSheet(Sheet):
    """Two versions compared."""

    key = "flights.versions"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.album = Album(self.store)
        #: Numbers of the two that are compared; `NOW` is the design as it stands.
        self.pair = (NOW, NOW)
        self.strip = VersionStrip(self, self.store, self.album)
        self.strip.picked.connect(self._picked)
        self.strip.paired.connect(self.show_pair)
        self.back_button = RuledButton(self, "Go back to it")
        self.back_button.clicked.connect(self.go_back)
        self.now_button = RuledButton(self, "Against now")
        self.now_button.clicked.connect(lambda: self.show_pair(self.pair[0], NOW))
        self.file_button = RuledButton(self, "Against a file…")
        self.file_button.clicked.connect(self.ask)
        self._file: tuple[Design, Report] | None = None
        self._found: tuple[tuple[object, ...], Differences] | None = None

    # -- what is compared ---------------------------------------------------------------------------------------------

    def show_pair(self, one: int, other: int) -> None:
        """Compare two versions by their numbers; `NOW` is the design as it stands."""
        self.pair = (one, other)
        if one:
            self.strip.choose(one)
        self.refresh()
        self.store.selected.emit()

    def ask(self) -> None:
        """Ask for another design and compare with it."""
        name, _kind = QFileDialog.getOpenFileName(self, "Compare with", "", _FILES)
        if name:
            self.against(name)

    def against(self, name: str) -> None:
        """Compare with the design of another file."""
        try:
            design = load(name)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        self._file = design, self.store.report.trial()(design)
        self.show_pair(self.pair[0], FILE)

    def _picked(self, number: int) -> None:
        if number != self.pair[0]:
            other = self.pair[1] if self.pair[1] != number else NOW
            self.pair = (number, other)
            self.refresh()
            self.store.selected.emit()

    def _settle(self) -> None:
        """Compare versions that are there: the newest against now, or the two newest where that is the same."""
        numbers = [version.number for version in self.store.design.versions]
        if self.pair[0] in (*numbers, NOW) and self.pair[1] == FILE and self._file is not None:
            return
        if self.pair[0] in numbers and self.pair[1] in (*numbers, NOW):
            return
        if not numbers:
            self.pair = (NOW, NOW)
        elif is_kept(self.store.design) and len(numbers) > 1:
            self.pair = (numbers[-2], numbers[-1])
        else:
            self.pair = (numbers[-1], NOW)

    def _aircraft(self, number: int) -> tuple[Design, Report] | None:
        if number == NOW:
            return self.store.design, self.store.report
        if number == FILE:
            return self._file
        design, report = self.album.design(number), self.album.report(number)
        return None if design is None or report is None else (design, report)

    @property
    def found(self) -> Differences | None:
        """What differs between the two; None where there are no two."""
        one, other = (self._aircraft(number) for number in self.pair)
        if one is None or other is None or self.pair[0] == self.pair[1]:
            return None
        key = (one[0], other[0])
        if self._found is None or any(a is not b for a, b in zip(self._found[0], key, strict=True)):
            self._found = key, differences(*one, *other)
        return self._found[1]

    def _word(self, number: int) -> str:
        if number == FILE and self._file is not None:
            return self._file[0].name
        return "now" if number == NOW else f"version {number}"

    def subtitle(self) -> str:
        if self.empty:
            return ""
        many = len(self.store.design.versions)
        if not many and self.pair[1] != FILE:
            return "none kept yet"
        return f"{many} kept; {self._word(self.pair[0])} → {self._word(self.pair[1])}"

    def selection(self) -> Selection:
        if self.empty or not self.pair[0]:
            return Selection("", ())
        try:
            place = place_of(self.store.design, self.pair[0])
        except DesignError:
            return Selection("", ())
        version, base = self.store.design.versions[place], f"versions[{place}]"
        why = {"asked": "asked for", "flown": "it flew", "left": "left for another"}[version.kept]
        rows = (
            Dimension("Name", f"{base}.name", words=True),
            Dimension("Note", f"{base}.note", words=True),
            Dimension("Kept", read=lambda: f"{version.day or 'some day'}, {why}"),
        )
        acts = [("Go back to it", self.go_back)]
        for number in [one.number for one in self.store.design.versions if one.number != version.number][-2:]:
            acts.append((f"Against {number}", partial(self.show_pair, version.number, number)))
        return Selection(f"version {version.number}", rows, tuple(acts))

    def go_back(self) -> None:
        """Go back to the version at the left; what it leaves is kept first."""
        if not self.pair[0]:
            return
        try:
            design = back_to(self.store.design, self.pair[0], day=today())
        except DesignError as error:
            self.store.refused.emit(error)
            return
        number = self.pair[0]
        self.store.replace(design, f"Back to version {number}")
        self.store.noted.emit(f"Back to version {number}, as revision {design.revision}. What was left is kept.")

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self._settle()
        self.strip.setGeometry(PAD, self.height() - _STRIP, self.width() - 2 * PAD, _STRIP - 6)
        if self.pair[0] and self.strip.chosen != self.pair[0]:
            self.strip.chosen = self.pair[0]
        self.strip.renew()
        top = self.height() - _STRIP - 32
        self.back_button.setGeometry(PAD, top, 120, 24)
        self.now_button.setGeometry(PAD + 128, top, 110, 24)
        self.back_button.setVisible(bool(self.pair[0]))
        self.now_button.setVisible(bool(self.pair[0]) and self.pair[1] != NOW)
        x = PAD + (128 if self.pair[0] else 0) + (118 if bool(self.pair[0]) and self.pair[1] != NOW else 0)
        self.file_button.setGeometry(x, top, 120, 24)
        self.follow(self.pair)

    def draw(self, p: QPainter) -> None:
        inks = theme.inks
        found = self.found
        left = self.width() - PAD - _COLUMN
        foot = self.height() - _STRIP - 40
        room = left - PAD - 18
        heading(p, PAD, 52, room, "One over the other", f"{self._word(self.pair[0])} dashed")
        if found is None:
            words = "Two versions are compared here. Keep one, change the aircraft, and keep it again."
            write(p, PAD, 84, fit(words, room), VALUE, inks.soft)
            return
        moved = min(len(found.shifts), 5)
        bars = 34 + _ROW * max(moved, 1)
        self._draw_overlay(p, QRectF(PAD, 62, room, foot - bars - 70))
        self._draw_shifts(p, QRectF(PAD, foot - bars, room, bars), found)
        line(p, left - 9.5, 40, left - 9.5, foot + 32, inks.hair)
        y = self._draw_figures(p, QRectF(left, 40, _COLUMN, 0.62 * (foot - 40)), found)
        self._draw_parts(p, QRectF(left, y + 18, _COLUMN, foot + 30 - y - 18), found)

    def _draw_overlay(self, p: QPainter, area: QRectF) -> None:
        """Draw both from above and from the side, to one scale and by one datum."""
        inks = theme.inks
        aircraft = [found[0] for number in self.pair if (found := self._aircraft(number)) is not None]
        plan, side = (self._union(aircraft, kind) for kind in ("plan", "side"))
        tall = plan.height() + 1.25 * side.height()
        self.scale = min(area.width() / max(plan.width(), 1e-3), area.height() / max(tall, 1e-3),
                         area.width() / max(side.width(), 1e-3))  # fmt: skip
        middle = area.center().x()
        views = (
            View("plan", middle - plan.center().x() * self.scale, area.top() - plan.top() * self.scale, self.scale),
            View("side", middle - side.center().x() * self.scale,
                 area.top() + (plan.height() + 0.25 * side.height() - side.top()) * self.scale, self.scale),
        )  # fmt: skip
        for view in views:
            draw_aircraft(p, aircraft[-1], view)
            draw_aircraft(p, aircraft[0], view, ghost=True, ink=inks.live)

    @staticmethod
    def _union(aircraft: list[Design], kind: str) -> QRectF:
        box = extent(aircraft[0], kind)
        for one in aircraft[1:]:
            box = box.united(extent(one, kind))
        return box

    def _draw_shifts(self, p: QPainter, area: QRectF, found: Differences) -> None:
        """Draw what each item did to the balance: aft to the right, ahead to the left, mass beside."""
        inks, units = theme.inks, self.store.units
        way = "aft" if found.moved > 0 else "ahead"
        whole = f"{with_unit(abs(found.moved), 'length', units, 1)} {way}"
        gained = f"{'+' if found.gained >= 0 else '−'}{with_unit(abs(found.gained), 'mass', units, 1)}"
        heading(
            p, area.left(), area.top() + 12, area.width(), "What moved the balance", f"{whole}, {gained}", strong=False
        )
        told = [one for one in found.shifts if abs(one.moved) > _TOLD_MOVE or abs(one.after - one.before) > _TOLD_MASS]
        rows = sorted(told, key=lambda one: -abs(one.moved))[: int((area.height() - 30) // _ROW)]
        if not rows:
            write(p, area.left(), area.top() + 38, "No item changed its mass or its place.", VALUE, inks.soft)
            return
        reach = max(abs(row.moved) for row in rows) or 1.0
        names, masses = 0.40 * area.width(), 76
        bar = Scale(-reach, reach, area.left() + names, area.right() - masses - 44)
        line(p, bar.at(0), area.top() + 24, bar.at(0), area.top() + 26 + _ROW * len(rows), inks.hair)
        for k, row in enumerate(rows):
            y = area.top() + 38 + k * _ROW
            write(p, area.left(), y, fit(row.name, names - 8), VALUE)
            ends = sorted((bar.at(0), bar.at(row.moved)))
            p.fillRect(QRectF(ends[0], y - 9, max(ends[1] - ends[0], 1.0), 9), brush_of(inks.live, 150))
            write(p, area.right() - masses, y, shown(row.moved, "length", units, 1), VALUE, align="right")
            more = row.after - row.before
            words = "new" if not row.before else "gone" if not row.after else ("+" if more >= 0 else "") + shown(
                more, "mass", units, 1)  # fmt: skip
            if row.before and row.after:
                words = f"{words} {units['mass'].symbol}"
            write(p, area.right(), y, words, VALUE, inks.soft, align="right")

    def _draw_figures(self, p: QPainter, area: QRectF, found: Differences) -> float:
        """List the figures that differ: those an aircraft is known by first, then by how far they are apart."""
        heading(p, area.left(), area.top() + 12, area.width(), "Figures", f"{len(found.figures)} differ")
        first = {key: k for k, key in enumerate(_KNOWN_BY)}
        pairs = sorted(found.figures, key=lambda pair: (first.get(pair.key, len(first)), -pair.apart))
        many = max(int((area.height() - 40) // _ROW), 3)
        y = area.top() + 36
        for pair in pairs[:many]:
            self._draw_figure(p, area, y, pair)
            y += _ROW
        if len(pairs) > many:
            write(p, area.left(), y, f"and {len(pairs) - many} more", LABEL, theme.inks.soft)
            y += _ROW
        return y

    def _draw_figure(self, p: QPainter, area: QRectF, y: float, pair: FigurePair) -> None:
        inks, units, quantity = theme.inks, self.store.units, pair.one.quantity
        left = area.left()
        write(p, left, y, fit(pair.one.label, 124), VALUE)
        values = [
            None if figure.value is None else shown(figure.value, quantity, units) for figure in (pair.one, pair.other)
        ]
        if values[0] == values[1] and pair.one.value is not None and pair.other.value is not None:
            finer = units[quantity].decimals + 1
            values = [shown(value, quantity, units, finer) for value in (pair.one.value, pair.other.value)]
        write(p, left + _ONE, y, values[0] or "–", VALUE, inks.soft, align="right")
        write(p, left + _ONE + 14, y, "→", LABEL, inks.live, align="centre")
        write(p, left + _OTHER, y, values[1] or "–", VALUE, inks.live, True, "right")
        write(p, left + _OTHER + 6, y, units[quantity].symbol, LABEL, inks.soft)
        rule(p, left, y + 4, area.width())

    def _draw_parts(self, p: QPainter, area: QRectF, found: Differences) -> None:
        """List parts exchanged and what is built otherwise."""
        inks = theme.inks
        lines = []
        for swap in found.parts:
            old, new = (getattr(part, "name", "") for part in (swap.old, swap.new))
            words = f"{old} → {new}" if old and new and old != new else (new or f"{old} off")
            detail = swap.fit.render(self.store.units)
            if old != new or detail:
                lines.append(f"{words}: {detail}" if detail else words)
        for one in found.built:
            was, now = (self._told(value, one.quantity) for value in (one.before, one.after))
            lines.append(f"{one.name}: {one.field.replace('_', ' ')} {was} → {now}")
        heading(p, area.left(), area.top() + 12, area.width(), "Parts and builds", f"{len(lines)}", strong=False)
        y, many = area.top() + 36, max(int((area.height() - 34) // 17), 0)
        for words in lines[:many]:
            write(p, area.left(), y, fit(words, area.width(), LABEL), LABEL, inks.ink)
            y += 17
        if not lines:
            write(p, area.left(), y, "the same", LABEL, inks.soft)

    def _told(self, value: object, quantity: str) -> str:
        """Return a value of the document in a word or two."""
        if value is None:
            return "none"
        if isinstance(value, float):
            return with_unit(value, quantity or "ratio", self.store.units)
        return str(value).replace("_", " ") if isinstance(value, str | int) else "other"
