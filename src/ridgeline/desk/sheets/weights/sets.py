"""Sets: one airframe with other wings, packs, power or loads, drawn and compared side by side, and what is swapped."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design import configurations
from ridgeline.design.document import Configuration, Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import cg_mark, fit, heading, line, rule, state_mark, wrap, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.set_edits import add_set, change, fit_set
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.weights.set_polars import draw_set_polars
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, WordButton, discard
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.advice.compare import FittedSet, Swapped, compare, swapped
from ridgeline.engine.advice.set_polars import SetPolar, polar_of
from ridgeline.engine.report import LEVELS, within
from ridgeline.errors import DesignError
from ridgeline.typed import parse
from ridgeline.units import shown, with_unit

_LABELS, _ROW, _HEAD = 132, 20, 62
#: Lines there are for what is first to be looked at.
_SAID = 2
#: Width of a column in which a name and its button stand side by side.
_ROOMY = 190
_WAYS = (("figures", "figures and swaps"), ("air", "sink over airspeed"))
#: The most ballast, kg, and wind, m/s, that sets are compared in.
_MOST = {"ballast": 10.0, "wind": 25.0}
#: The figures compared, each with a word of its own.
_FIGURES = (
    ("mass.auw", "All-up weight"),
    ("wing.loading", "Wing loading"),
    ("speed.stall", "Stall speed"),
    ("balance.cg_fraction", "Balance"),
    ("stability.static_margin", "Static margin"),
    ("power.thrust_ratio", "Thrust ratio"),
    ("power.static_current", "Full throttle"),
    ("flight.endurance", "Endurance"),
)


class SetName(Entry):
    """The name of a set, typed where it stands."""

    def __init__(self, sheet: WeightsSetsSheet, one: Configuration) -> None:
        super().__init__(sheet, f"name of the set {one.name}", right=False)
        self._sheet, self._set = sheet, one
        self.refresh()

    def current(self) -> str:
        return self._set.name

    def accept(self, text: str) -> None:
        fresh = configurations.rename(self._sheet.store.design, self._set.id, text)
        if fresh is not self._sheet.store.design:
            self._sheet.store.replace(fresh, f"Rename {self._set.name}")


class Condition(Entry):
    """Ballast or wind the sets are compared in, typed at the foot."""

    def __init__(self, sheet: WeightsSetsSheet, words: str, name: str, quantity: str) -> None:
        super().__init__(sheet, words)
        self._sheet, self._name, self._quantity = sheet, name, quantity

    def current(self) -> str:
        value = getattr(self._sheet, self._name, 0.0)
        return with_unit(value, self._quantity, self._sheet.store.units)

    def accept(self, text: str) -> None:
        bare = self._sheet.store.unit_of(self._quantity)
        value = parse(text, self._quantity, path=self._name, bare=bare)
        if not 0 <= value <= _MOST[self._name]:
            most = with_unit(_MOST[self._name], self._quantity, self._sheet.store.units)
            raise DesignError(self._name, f"“{text.strip()}”", f"nothing to {most}")
        setattr(self._sheet, self._name, value)
        self._sheet.refresh()


class WeightsSetsSheet(Sheet):
    """The sets of one airframe, side by side."""

    key = "weights.sets"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.sets: tuple[FittedSet, ...] = ()
        self.swaps: tuple[Swapped, ...] = ()
        self.names: list[SetName] = []
        self.fits: list[RuledButton] = []
        self._of: Design | None = None
        self.add = RuledButton(self, "Make another set")
        self.add.clicked.connect(lambda: add_set(self.store))
        self.drop = RuledButton(self, "Drop the fitted set")
        self.drop.clicked.connect(self._drop)
        #: What is compared below the pictures, and the ballast kg and wind m/s it is compared in.
        self.by, self.ballast, self.wind = "figures", 0.0, 0.0
        self.compared = WordButton(self, "compared by", _WAYS, lambda: self.by, self._compare_by)
        self.conditions = {
            "ballast": Condition(self, "ballast at the balance point", "ballast", "mass"),
            "wind": Condition(self, "wind against it", "wind", "speed"),
        }

    def subtitle(self) -> str:
        count = len(self.store.design.configurations)
        return f"{count} sets share one airframe" if count else "one airframe, as it is; other sets share what they can"

    def _drop(self) -> None:
        ident = self.store.design.fitted
        name = configurations.name_of(self.store.design, ident)
        change(self.store, lambda design: configurations.drop(design, ident), f"Drop {name}")

    def _compare_by(self, way: str) -> None:
        self.by = way
        self.refresh()

    @property
    def polars(self) -> tuple[SetPolar, ...]:
        """Every set in the air at the ballast and wind chosen; those that do not fly yet left out."""
        found = (polar_of(one, self.ballast, self.wind) for one in self.sets)
        return tuple(one for one in found if one is not None)

    def _fill(self) -> None:
        if self._of is self.store.design:
            return
        design = self._of = self.store.design
        self.sets = compare(design, self.store.report)
        for old in (*self.names, *self.fits):
            discard(old)
        self.names, self.fits = [], []
        for one in design.configurations:
            self.names.append(SetName(self, one))
            button = RuledButton(self, "Fitted" if one.id == design.fitted else "Fit it")
            button.setAccessibleName(f"fit the set {one.name}")
            button.setEnabled(one.id != design.fitted)
            button.clicked.connect(lambda _=False, ident=one.id: fit_set(self.store, ident))
            self.fits.append(button)
        now = next((s for s in self.sets if s.ident == design.fitted), self.sets[0])
        first = next((s for s in self.sets if s.ident != design.fitted), None)
        self.swaps = swapped(first, now) if first is not None else ()

    @property
    def _pitch(self) -> float:
        return min((self.width() - 2 * PAD - _LABELS) / max(len(self.sets), 1), 300)

    @property
    def _tight(self) -> bool:
        """Tell whether name and button do not fit side by side."""
        return self._pitch < _ROOMY

    @property
    def _top(self) -> float:
        """Where the pictures begin, under names and buttons."""
        return _HEAD + (26 if self._tight else 0)

    @property
    def _picture(self) -> float:
        return 0.26 * self.height()

    @property
    def _table_top(self) -> float:
        return self._top + 24 + self._picture

    def arrange(self) -> None:
        self._fill()
        for index, (name, button) in enumerate(zip(self.names, self.fits, strict=True)):
            x = PAD + _LABELS + index * self._pitch
            aside = 32 if self._tight else 92
            name.setGeometry(int(x + 18), _HEAD - 12, int(self._pitch - aside), 20)
            place = (x + 18, _HEAD + 12) if self._tight else (x + self._pitch - 68, _HEAD - 14)
            button.setGeometry(int(place[0]), int(place[1]), 60, 24)
            name.show()
            button.show()
        self.compared.refresh()
        self.compared.move(self.width() - PAD - self.compared.width(), self.height() - 28)
        for number, field in enumerate(self.conditions.values()):
            field.setGeometry(PAD + 366 + 118 * number, self.height() - 28, 56, 20)
            field.setVisible(self.by == "air")
            field.refresh()
        self.add.setGeometry(PAD, self.height() - 30, 140, 24)
        self.drop.setGeometry(PAD + 150, self.height() - 30, 140, 24)
        self.drop.setEnabled(bool(self.store.design.configurations))

    def draw(self, p: QPainter) -> None:
        inks = theme.inks
        boxes = [extent(s.design, "plan") for s in self.sets]
        room = QRectF(0, 0, self._pitch - 24, self._picture)
        wide, high = max(b.width() for b in boxes), max(b.height() for b in boxes)
        # One scale for all, so that a longer wing looks longer.
        scale = self.scale = min(room.width() / wide, room.height() / high)
        for index, (fitted, box) in enumerate(zip(self.sets, boxes, strict=True)):
            x = PAD + _LABELS + index * self._pitch
            state_mark(p, x + 7, _HEAD - 2, fitted.level)
            if not fitted.name:
                write(p, x + 20, _HEAD + 3, "As it is", VALUE, bold=True)
            centre = x + (self._pitch - 12) / 2
            view = View(
                "plan",
                centre - box.center().x() * scale,
                self._top + 18 + (self._picture - box.height() * scale) / 2 - box.top() * scale,
                scale,
            )
            p.save()
            p.setClipRect(QRectF(x, self._top + 12, self._pitch - 8, self._picture + 10))
            draw_aircraft(p, fitted.design, view, fill=inks.paper)
            state = fitted.report.results.masses.state
            if state is not None:
                cg_mark(p, *view.at((float(state.cg[0]), float(state.cg[1]), 0.0)), 5)
            p.restore()
        self._draw_ruler(p, scale)
        words = "compared by"
        write(
            p,
            self.width() - PAD - self.compared.width() - 8,
            self.height() - 14,
            words,
            LABEL,
            inks.soft,
            align="right",
        )
        if self.by == "air":
            for number, words in enumerate(("ballast", "wind")):
                write(p, PAD + 360 + 118 * number, self.height() - 14, words, LABEL, inks.soft, align="right")
            box = QRectF(PAD, self._table_top, self.width() - 2 * PAD, self.height() - self._table_top - 40)
            draw_set_polars(p, self, self.polars, box)
            return
        self._draw_table(p)
        self._draw_swaps(p)

    def _draw_ruler(self, p: QPainter, scale: float) -> None:
        """Draw a short ruler under the labels' column, at the scale of the pictures."""
        factor = self.store.units["length"].factor
        end = nice_step((_LABELS - 24) / scale * factor, 1)
        if end / factor * scale > _LABELS - 20:
            end /= 2
        ruler(p, QRectF(PAD, self._top + self._picture - 8, end / factor * scale, 18), 0, end, end / 2, 5)

    def _draw_table(self, p: QPainter) -> None:
        inks, units, y = theme.inks, self.store.units, self._table_top + 18
        rule(p, PAD, y - 14, self.width() - 2 * PAD, strong=True)
        now = next((s for s in self.sets if s.ident == self.store.design.fitted), self.sets[0])
        for key, words in _FIGURES:
            write(p, PAD, y, words, VALUE, inks.soft)
            for index, fitted in enumerate(self.sets):
                self._draw_cell(p, PAD + _LABELS + index * self._pitch, y, key, fitted, now)
            rule(p, PAD, y + 5, self.width() - 2 * PAD)
            y += _ROW
        write(p, PAD, y, "First of all", VALUE, inks.soft)
        for index, fitted in enumerate(self.sets):
            x = PAD + _LABELS + index * self._pitch
            worst = min(fitted.report.findings, key=lambda f: LEVELS.index(f.level), default=None)
            told = "nothing to look at" if worst is None or worst.level == "settled" else worst.text.render(units)
            lines = wrap(told, self._pitch - 14)
            shown = lines if len(lines) <= _SAID else [*lines[: _SAID - 1], " ".join(lines[_SAID - 1 :])]
            for number, words in enumerate(shown):
                write(p, x, y + 16 * number, fit(words, self._pitch - 14, LABEL), LABEL, inks.ink)

    def _draw_cell(self, p: QPainter, x: float, y: float, key: str, fitted: FittedSet, now: FittedSet) -> None:
        inks, units = theme.inks, self.store.units
        figure = fitted.report.figures[key]
        if figure.value is None:
            write(p, x, y, "–", VALUE, inks.soft)
            return
        out = not within(figure.value, fitted.report.wanted.get(key))
        told = with_unit(figure.value, figure.quantity, units)
        used = write(p, x, y, told, VALUE, inks.look if out else inks.ink, fitted is now)
        if out:
            used += write(p, x + used + 6, y, "▲", LABEL, inks.look) + 6
        base = now.report.value(key)
        if (
            fitted is not now
            and base is not None
            and shown(abs(figure.value - base), figure.quantity, units) != shown(0.0, figure.quantity, units)
        ):
            more = figure.value - base
            sign = "+" if more > 0 else "−"
            write(p, x + used + 8, y, f"{sign}{shown(abs(more), figure.quantity, units)}", LABEL, inks.soft)

    def _draw_swaps(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        y = self._table_top + 18 + _ROW * (len(_FIGURES) + 1) + 22 + 16 * (_SAID - 1)
        if len(self.sets) < 2:
            words = "Make another set to swap a wing, pack, motor, payload or floats and compare the two."
            write(p, PAD, y, fit(words, self.width() - 2 * PAD), VALUE, inks.soft)
            more = "Then select a part on the Shape or the Budget: its dimensions say in which sets it flies."
            write(p, PAD, y + 20, fit(more, self.width() - 2 * PAD), VALUE, inks.soft)
            return
        fitted = self.store.design.fitted
        first = next(s.name for s in self.sets if s.ident != fitted)
        here = configurations.name_of(self.store.design, fitted)
        heading(p, PAD, y, self.width() - 2 * PAD, "Swap sheet", f"from {first} to {here}")
        wide = self.width() - 2 * PAD
        columns = (PAD, PAD + 0.26 * wide, PAD + 0.56 * wide)
        y += 28
        if not self.swaps:
            write(p, PAD, y, "The two are the same so far.", VALUE, inks.soft)
        for swap in self.swaps:
            if y > self.height() - 44:
                write(p, PAD, y, "and more", LABEL, inks.soft)
                break
            old, new = (_name(part) for part in (swap.old, swap.new))
            write(p, columns[0], y, fit(old, columns[1] - columns[0] - 22), VALUE, inks.soft)
            write(p, columns[1] - 16, y, "→", VALUE, inks.live)
            write(p, columns[1], y, fit(new, columns[2] - columns[1] - 70), VALUE)
            if swap.mass is not None:
                sign = "+" if swap.mass >= 0 else "−"
                write(p, columns[2], y, f"{sign}{with_unit(abs(swap.mass), 'mass', units, 1)}", VALUE, align="right")
            told = swap.fit.render(units)
            if swap.current:
                sign = "+" if swap.current > 0 else "−"
                told = f"{sign}{with_unit(abs(swap.current), 'current', units)}; {told}".rstrip("; ")
            if swap.fits is False:
                state_mark(p, columns[2] + 24, y - 4, "look")
            write(p, columns[2] + 38, y, fit(told, self.width() - PAD - columns[2] - 40, LABEL), LABEL, inks.soft)
            y += _ROW
        line(p, PAD, y - 12, self.width() - PAD, y - 12, inks.hair)


def _name(part: object) -> str:
    return "nothing" if part is None else str(getattr(part, "name", "the power train"))
