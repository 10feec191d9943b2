"""Planform: one surface's outline by what is known of it, its tip, kinks, and strips added behind the trailing edge."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal

import numpy as np
from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.airframe import Surface
from ridgeline.design.hinges import free_stretch, hinge_share
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.paint import dimension, fit, heading, line, outline, path_of, rule, width_of, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.shape.dimensions import station_selection
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import chosen_surface
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import DrawnButton, RuledButton, WordButton
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.geometry.planform import mean_aerodynamic_chord
from ridgeline.engine.sizing.additions import usual_kind
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.engine.sizing.planforms import (
    KNOWN,
    Known,
    TipForm,
    halfway,
    planform_of,
    with_known,
    with_strip,
    with_sweep,
    with_taper,
    with_tip,
)
from ridgeline.errors import DesignError
from ridgeline.typed import parse, told
from ridgeline.units import shown

Point = tuple[float, float]
Typed = Literal["span", "area", "aspect_ratio", "mean_chord", "taper", "sweep"]
_CELLS: tuple[tuple[Typed, str, str], ...] = (
    ("span", "Span", "length"),
    ("area", "Area", "area"),
    ("aspect_ratio", "Aspect ratio", "ratio"),
    ("mean_chord", "Mean chord", "length"),
    ("taper", "Tip over root", "ratio"),
    ("sweep", "Swept by", "angle"),
)
_TIPS: tuple[tuple[TipForm, str], ...] = (
    ("square", "square"),
    ("rounded", "rounded"),
    ("raked", "raked back"),
    ("elliptical", "elliptical"),
)
_BAND, _FOOT = 62, 118
#: A strip is first added so wide over the mean chord, along this share of the panel.
_STRIP, _STRIP_FROM, _STRIP_TO = 0.12, 0.15, 0.95
#: No strip is put where less than this share of the panel is free.
_LEAST_STRIP = 0.05


class KnownField(Entry):
    """One value of the outline, typed in its cell."""

    def __init__(self, sheet: ShapePlanformSheet, name: Typed, words: str, quantity: str) -> None:
        super().__init__(sheet, words, right=False)
        self._sheet, self.known, self._quantity = sheet, name, quantity
        self.refresh()

    def current(self) -> str:
        surface = self._sheet.surface
        if surface is None:
            return ""
        decimals = 2 if self._quantity == "ratio" else None
        return shown(getattr(planform_of(surface), self.known), self._quantity, self._sheet.store.units, decimals)

    def accept(self, text: str) -> None:
        bare = self._sheet.store.unit_of(self._quantity)
        self._sheet.take(self.known, parse(text, self._quantity, path=self.known, bare=bare))

    def refusal(self, error: DesignError) -> DesignError:
        return told(error, self._sheet.store.units)


class TipButton(DrawnButton):
    """A form of tip drawn as the outline it would give, pressed to choose it."""

    def __init__(self, sheet: ShapePlanformSheet, form: TipForm, words: str) -> None:
        super().__init__(sheet)
        self.form, self._sheet, self._words = form, sheet, words
        self.setAccessibleName(f"tip {words}")
        self.setToolTip(f"make the tip {words}")
        self.clicked.connect(lambda: sheet.choose_tip(form))

    def sizeHint(self) -> QSize:
        return QSize(92, 56)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, surface = theme.inks, self._sheet.surface
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        colour = inks.live if self.live else inks.ink
        if surface is not None:
            stations = with_tip(surface, self.form).stations
            wide, low = self.width() - 8, stations[-1].y - 0.5 * (stations[-1].y - stations[0].y)
            scale = min(wide / (stations[-1].y - low), 34 / max(s.chord for s in stations))
            cut = [s for s in stations if s.y >= low]
            top = min(s.x for s in cut)
            points = [(4 + (s.y - low) * scale, 3 + (s.x - top) * scale) for s in cut]
            points += [(4 + (s.y - low) * scale, 3 + (s.x + s.chord - top) * scale) for s in reversed(cut)]
            outline(p, path_of(points), colour, 1.4, inks.wash if self.live else None)
        write(p, self.width() / 2, self.height() - 5, self._words, LABEL, colour, align="centre")


class ShapePlanformSheet(Sheet):
    """The outline of one surface."""

    key = "shape.planform"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        #: The two values typed last of each surface, by its id: they hold, and the others follow.
        self._held: dict[str, tuple[Known, Known]] = {}
        self.which = WordButton(self, "surface whose outline is shown", (), self._name, self._select)
        self.fields = {name: KnownField(self, name, words, quantity) for name, words, quantity in _CELLS}
        self.tips = {form: TipButton(self, form, words) for form, words in _TIPS}
        self.kink = RuledButton(self, "Add a kink")
        self.kink.clicked.connect(self.add_kink)
        self.strip = RuledButton(self, "Add a strip behind")
        self.strip.clicked.connect(self.add_strip)

    @property
    def index(self) -> int:
        """Return the surface shown: the selected one, or the first wing."""
        return chosen_surface(self.store) or 0

    @property
    def surface(self) -> Surface | None:
        surfaces = self.store.design.surfaces
        return surfaces[self.index] if surfaces else None

    def held(self) -> tuple[Known, Known]:
        """Return the two of the four that hold."""
        surface = self.surface
        return ("span", "area") if surface is None else self._held.get(surface.id, ("span", "area"))

    def subtitle(self) -> str:
        surface = self.surface
        return "" if surface is None else f"outline of {surface.name}"

    def selection(self) -> Selection:
        if self.surface is None:
            return Selection("", ())
        spot = self.store.spot("surface")
        number = spot.inner if spot is not None else len(self.surface.stations) - 1
        return station_selection(self.store, self.index, number)

    def _name(self) -> str:
        return "" if self.surface is None else self.surface.name

    def _select(self, ident: str) -> None:
        for index, surface in enumerate(self.store.design.surfaces):
            if surface.id == ident:
                self.store.select(f"surfaces[{index}].stations[{len(surface.stations) - 1}]")

    # -- edits ---------------------------------------------------------------------------------------------------

    def take(self, name: Typed, value: float) -> None:
        """Take a typed value; of span, area, aspect ratio and mean chord it holds with the one typed before.

        Raises
        ------
        DesignError
            When it comes to no surface.
        """
        surface = self.surface
        if surface is None:
            return
        if name == "taper":
            fresh = with_taper(surface, value)
        elif name == "sweep":
            fresh = with_sweep(surface, value)
        else:
            other = next(one for one in reversed(self.held()) if one != name)
            fresh = with_known(surface, {other: getattr(planform_of(surface), other), name: value})
            self._held[surface.id] = (other, name)
        words = next(label for key, label, _quantity in _CELLS if key == name).lower()
        self._put(fresh, f"{words} of {surface.name}")

    def _put(self, fresh: Surface, label: str) -> None:
        """Put a surface's new outline in place, with its pieces.

        Raises
        ------
        DesignError
            When the document does not allow it.
        """
        fields = {"stations": fresh.stations, "controls": fresh.controls, "x": fresh.x}
        self.store.edit(changed_part(self.store.design, f"surfaces[{self.index}]", fields), label)

    def _try(self, fresh: Surface, label: str) -> bool:
        """Put an outline in place; one that is refused is said."""
        try:
            self._put(fresh, label)
        except DesignError as error:
            self.store.refused.emit(error)
            return False
        return True

    def choose_tip(self, form: TipForm) -> None:
        """Give the surface another tip."""
        if self.surface is not None:
            self._try(with_tip(self.surface, form), f"{dict(_TIPS)[form].capitalize()} tip of {self.surface.name}")

    def add_kink(self) -> None:
        """Add a station in the middle of the widest panel, to be drawn in or out, and select it."""
        surface = self.surface
        if surface is None:
            return
        stations = surface.stations
        wide = max(range(1, len(stations)), key=lambda k: stations[k].y - stations[k - 1].y)
        middle = halfway(stations[wide - 1], stations[wide])
        fresh = surface.model_copy(update={"stations": (*stations[:wide], middle, *stations[wide:])})
        if self._try(fresh, f"Add a kink to {surface.name}"):
            self.store.select(f"surfaces[{self.index}].stations[{wide}]")

    def add_strip(self) -> None:
        """Add a hinged strip behind the trailing edge, in the widest place free of controls, and select it."""
        surface = self.surface
        if surface is None:
            return
        first, last = surface.stations[0].y, surface.stations[-1].y
        low, high = first + _STRIP_FROM * (last - first), first + _STRIP_TO * (last - first)
        start, end = free_stretch(surface, low, high)
        if end - start < _LEAST_STRIP * (last - first):
            self.store.noted.emit(f"The trailing edge of {surface.name} is taken by its controls.")
            return
        wide = round(_STRIP * planform_of(surface).mean_chord, 3)
        try:
            fresh = with_strip(surface, start, end, wide, usual_kind(surface))
        except DesignError as error:
            self.store.refused.emit(error)
            return
        if self._try(fresh, f"Add a strip behind {surface.name}"):
            self.store.select(f"surfaces[{self.index}].controls[{len(fresh.controls) - 1}]")
            self.store.noted.emit("Its width is typed in millimetres on the leaf Control.")

    # -- drawing -------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        surface = self.surface
        self.which.offer(tuple((s.id, s.name) for s in self.store.design.surfaces))
        self.which.move(PAD + 62, 38)
        top, each = self._band_top(), self._each()
        for number, field in enumerate(self.fields.values()):
            field.setGeometry(int(PAD + number * each + 10), int(top + 28), int(each - 54), 22)
            field.refresh()
            field.setVisible(surface is not None)
        foot = self.height() - _FOOT + 34
        for number, button in enumerate(self.tips.values()):
            button.setGeometry(PAD + 100 * number, foot, 92, 60)
            button.setVisible(surface is not None)
            button.update()
        left = PAD + 100 * len(self.tips) + 24
        self.kink.setGeometry(left, foot, 150, 24)
        self.strip.setGeometry(left, foot + 30, 150, 24)

    def _each(self) -> float:
        return (self.width() - 2 * PAD) / len(_CELLS)

    def _band_top(self) -> float:
        return self.height() - _FOOT - _BAND - 10

    def draw(self, p: QPainter) -> None:
        surface = self.surface
        if surface is None:
            return
        write(p, PAD, 52, "Outline of", VALUE, theme.inks.soft)
        words = "type what you know: the two typed last hold, the others follow"
        write(p, self.width() - PAD, self._band_top() - 8, words, LABEL, theme.inks.soft, align="right")
        ghost = self.store.ghost
        other = ghost[0].surfaces[self.index] if ghost and self.index < len(ghost[0].surfaces) else None
        self._draw_outline(p, QRectF(PAD, 70, self.width() - 2 * PAD, self._band_top() - 92), surface, other)
        self._draw_band(p)
        self._draw_foot(p)

    def _draw_outline(self, p: QPainter, room: QRectF, surface: Surface, ghost: Surface | None) -> None:
        """Draw the unfolded panels at one scale with quarter line, mean chord, controls and the span."""
        inks = theme.inks
        rows = np.array([(s.y, s.chord, s.x) for s in surface.stations])
        y, chord, x = rows.T
        sides = (1, -1) if surface.mirrored else (1,)
        gap = surface.y if surface.mirrored else -float(y[0])
        wide = len(sides) * (y[-1] + gap)
        deep = float((x + chord).max() - x.min())
        scale = self.scale = min((room.width() - 120) / wide, (room.height() - 70) / deep)
        centre = room.center().x() if surface.mirrored else room.center().x() - 0.5 * wide * scale
        top = room.top() + 44 + 0.5 * (room.height() - 70 - deep * scale) - float(x.min()) * scale

        def at(side: int, out: float, back: float) -> tuple[float, float]:
            return centre + side * (gap + out) * scale, top + back * scale

        for side in sides:
            if ghost is not None:
                outline(p, path_of(list(_edge(ghost, side, at))), inks.live, 1, dash=True)
            outline(p, path_of(list(_edge(surface, side, at))), inks.ink, 1.5, inks.paper)
            quarter = [at(side, a, c + 0.25 * b) for a, b, c in rows]
            outline(p, path_of(quarter, closed=False), inks.predicted, 1.1, dash=True)
            for a, b, c in rows[1:-1]:
                line(p, *at(side, a, c), *at(side, a, c + b), inks.hair)
            for control in surface.controls:
                ends = np.array([control.start, control.end])
                share = hinge_share(surface, control, ends)
                here, lead = np.interp(ends, y, chord), np.interp(ends, y, x)
                hinge = [at(side, e, le + (1 - s) * c) for e, le, s, c in zip(ends, lead, share, here, strict=True)]
                tail = [at(side, e, le + c) for e, le, c in zip(ends, lead, here, strict=True)]
                outline(p, path_of([*hinge, *tail[::-1]]), inks.ink, 1)
        mean = mean_aerodynamic_chord(y, chord, x)
        front = at(1, mean.y, mean.x_leading_edge)
        line(p, *front, *at(1, mean.y, mean.x_leading_edge + mean.length), inks.live, 2.5)
        word = f"{self.length(mean.length)} mean aerodynamic chord"
        # Under the wing, where it hides no line of it; clear of the root's chord.
        foot = max(at(1, 0.0, float((x + chord).max()))[1] + 18, front[1])
        root_words = width_of(f"{self.length(float(chord[0]))} root", LABEL)
        left = max(front[0] - 0.5 * width_of(word, LABEL), at(1, float(y[0]), 0.0)[0] + 0.5 * root_words + 14)
        write(p, left, foot, word, LABEL, inks.live, halo=True)
        tips = at(sides[-1], float(y[-1]), 0)[0] if surface.mirrored else at(1, float(y[0]), 0)[0]
        over = top + float(x.min()) * scale - 22
        dimension(p, tips, at(1, float(y[-1]), 0)[0], over, self.length(planform_of(surface).span))
        for end, k in (("root", 0), ("tip", -1)):
            px, py = at(1, float(y[k]), float(x[k] + chord[k]))
            words = f"{self.length(float(chord[k]))} {end}"
            write(p, px, py + 18, words, LABEL, inks.soft, align="centre", halo=True)
        write(p, room.left(), self._band_top() - 8, "quarter line dashed", LABEL, inks.predicted)

    def _draw_band(self, p: QPainter) -> None:
        """Draw the cells of what is known; a filled square holds."""
        inks, units, top, each = theme.inks, self.store.units, self._band_top(), self._each()
        rule(p, PAD, top, self.width() - 2 * PAD, strong=True)
        rule(p, PAD, top + _BAND, self.width() - 2 * PAD)
        held = self.held()
        for number, (name, words, quantity) in enumerate(_CELLS):
            left = PAD + number * each
            if number:
                line(p, left + 0.5, top, left + 0.5, top + _BAND, inks.hair)
            mark = 0.0
            if name in KNOWN:
                box, mark = QRectF(left + 10, top + 10, 8, 8), 14.0
                if name in held:
                    p.fillRect(box, inks.live)
                p.setPen(inks.live if name in held else inks.soft)
                p.drawRect(box)
            write(p, left + 10 + mark, top + 18, fit(words, each - 14 - mark, LABEL), LABEL, inks.soft)
            write(p, left + each - 38, top + 43, units[quantity].symbol, LABEL, inks.soft)

    def _draw_foot(self, p: QPainter) -> None:
        """Head the tips, and say what the outline comes to in the air."""
        inks = theme.inks
        top = self.height() - _FOOT + 20
        heading(p, PAD, top, 100 * len(self.tips) - 8, "Tip", "the span stays")
        left = PAD + 100 * len(self.tips) + 24
        heading(p, left, top, 150, "Change it")
        left += 174
        if left + 120 > self.width():
            return
        heading(p, left, top, self.width() - PAD - left, "Comes to")
        for row, (key, words) in enumerate(_COMES_TO):
            y = top + 25 + 18 * row
            write(p, left, y, words, LABEL, inks.soft)
            self.written(p, self.width() - PAD, y, self.words(key), key, LABEL, align="right")


#: What an outline comes to: key of the figure and its words.
_COMES_TO = (
    ("wing.loading", "Loading"),
    ("speed.stall", "Stall"),
    ("tail.volume_h", "Tail volume"),
)


def _edge(surface: Surface, side: int, at: Callable[[int, float, float], Point]) -> Iterator[Point]:
    """Yield the outline of one unfolded panel."""
    for s in surface.stations:
        yield at(side, s.y, s.x)
    for s in reversed(surface.stations):
        yield at(side, s.y, s.x + s.chord)
