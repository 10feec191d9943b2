"""Lists: the order of building as a graph of what waits for what, rods cut from stock, and what is to be bought."""

from __future__ import annotations

import math
from collections import Counter
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import brush_of, fit, heading, outline, pen, rule, width_of, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.templates.strip import TALL, ExportStrip
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.templates.build_order import School, Step, build_order
from ridgeline.engine.templates.nesting import Nested
from ridgeline.engine.templates.shopping import Need, needs_of
from ridgeline.engine.templates.stock_cut import Length, cut_from, rods_of
from ridgeline.files.own_bin import load_bin

#: A list narrower than this tells what is to be bought and its cost alone, px.
_NARROW = 330
#: How wide arcs between steps are; how tall a row is, and at most, a bar of stock, and what is told of a step, px.
_ARCS, _ROW, _MOST_ROW, _BAR, _TOLD = 64, 19, 24, 12, 66


class TemplatesListsSheet(Sheet):
    """What is built in which order, cut from stock, and bought."""

    key = "templates.lists"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.strip = ExportStrip(self)
        self.laying = self.strip.laying
        self.laying.changed.connect(self.anew)
        self.school: School = "parts"
        self._chosen = ""
        self._rows: list[tuple[QRectF, Step]] = []
        self._known: tuple[tuple[Any, ...], tuple[Step, ...], tuple[Need, ...], list[tuple[str, Length]]] | None = None

    def anew(self) -> None:
        """Show what is known by now."""
        self.update()

    # -- what is shown ------------------------------------------------------------------------------------------------

    def _made(self) -> tuple[tuple[Step, ...], tuple[Need, ...], list[tuple[str, Length]]]:
        """Return steps, needs and stock of the design as it is laid now."""
        design, report, found = self.store.design, self.store.report, self.laying.found
        of = (design, found, self.school)
        if self._known is None or any(a is not b for a, b in zip(self._known[0], of, strict=True)):
            needs = needs_of(design, report, found or Nested((), ()), load_bin()[0].stocked)
            lengths = [(material, length) for material, rods in rods_of(design, report).items()
                       for length in cut_from(rods)]  # fmt: skip
            self._known = of, build_order(design, self.school), needs, lengths
        return self._known[1:]

    @property
    def steps(self) -> tuple[Step, ...]:
        """The order of building."""
        return () if self.empty else self._made()[0]

    @property
    def shown(self) -> Step | None:
        """The step that is told of: the chosen one, else the first."""
        steps = self.steps
        return next((step for step in steps if step.key == self._chosen), steps[0] if steps else None)

    def choose(self, key: str) -> None:
        """Tell of a step."""
        self._chosen = key
        self.refresh()

    def refresh(self) -> None:
        if self.isVisible() and not self.empty:
            self.laying.begin()
        super().refresh()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        if not self.empty:
            self.laying.begin()

    def subtitle(self) -> str:
        if self.empty:
            return ""
        steps, needs, _lengths = self._made()
        sets = math.fsum(step.cures for step in steps) / 60
        buy = sum(one.buy > 0 for one in needs)
        costs = [one.cost for one in needs if one.cost is not None]
        money = f" for {math.fsum(costs):.0f} as far as prices are known" if math.fsum(costs) > 0 else ""
        return f"{len(steps)} steps, {sets:.0f} h of setting; {buy} things to buy{money}"

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())

        def taught(value: str) -> None:
            self.school = "whole" if value == "whole" else "parts"
            self.refresh()
            self.store.selected.emit()

        rows = (
            Dimension("Painted", read=lambda: self.school, choose=taught,
                      choices=(("parts", "part by part, before they are joined"), ("whole", "whole, once it stands"))),
        )  # fmt: skip
        return Selection("order", rows)

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self.strip.arrange()

    def draw(self, p: QPainter) -> None:
        self.strip.draw(p)
        steps, needs, lengths = self._made()
        tall = self.height() - TALL - 62
        wide = 0.53 * (self.width() - 3 * PAD)
        self._draw_order(p, steps, QRectF(PAD, 52, wide, tall))
        left, room = 2 * PAD + wide, self.width() - 3 * PAD - wide
        y = self._draw_stock(p, lengths, QRectF(left, 52, room, 0.42 * tall))
        self._draw_needs(p, needs, QRectF(left, y + 22, room, self.height() - TALL - y - 32))

    def _draw_order(self, p: QPainter, steps: tuple[Step, ...], area: QRectF) -> None:
        """Draw the steps one under another, arcs from each to what waits for it."""
        inks = theme.inks
        heading(p, area.left(), area.top(), area.width(), "Order of building", "arcs: waits for; min to set")
        self._rows = []
        shown = self.shown
        room = area.height() - _TOLD - 14
        row = min(_MOST_ROW, max(room / max(len(steps), 1), 12.0))
        fits = max(int(room / row + 1e-6), 1)
        start = 0
        if shown is not None and len(steps) > fits:
            start = min(max(steps.index(shown) - fits // 2, 0), len(steps) - fits)
        place = {step.key: k for k, step in enumerate(steps)}
        middle = {k: area.top() + 24 + (k - start) * row for k in range(start, min(start + fits, len(steps)))}
        after = set() if shown is None else {place[key] for key in shown.after}
        x = area.left() + _ARCS
        for k in middle:
            for key in steps[k].after:
                other = place[key]
                if other not in middle:
                    continue
                # An arc bends the farther out the more steps it passes.
                out = 6 + min(5.5 * (k - other), _ARCS - 12)
                live = shown is not None and steps[k] is shown
                path = QPainterPath(QPointF(x - 5, middle[other] - 4))
                path.cubicTo(x - out, middle[other] - 2, x - out, middle[k] - 6, x - 5, middle[k] - 4)
                outline(p, path, inks.live if live else inks.hair, 1.6 if live else 1.0)
        for k, y in middle.items():
            step = steps[k]
            chosen = step is shown
            self._rows.append((QRectF(area.left(), y - 0.7 * row, area.width(), row), step))
            ink = inks.live if chosen or k in after else inks.ink
            p.setPen(pen(ink, 1.2))
            p.setBrush(ink if step.closes else inks.paper)
            p.drawEllipse(QPointF(x, y - 4), 3.5, 3.5)
            p.setBrush(Qt.BrushStyle.NoBrush)
            sets = f"{step.cures:.0f}" if step.cures else ""
            told = fit(step.words, area.right() - x - 44, LABEL)
            used = write(p, x + 10, y, told, LABEL, ink, bold=chosen)
            if step.fragile:
                _triangle(p, x + 18 + used, y - 4)
            write(p, area.right(), y, sets, LABEL, inks.soft, align="right")
        if shown is not None:
            self._draw_told(p, shown, QRectF(area.left(), area.bottom() - _TOLD, area.width(), _TOLD))

    def _draw_told(self, p: QPainter, step: Step, area: QRectF) -> None:
        """Tell what goes into a step, and what to take care of."""
        inks, design = theme.inks, self.store.design
        pieces, items = pieces_of_design(design), {item.id: item for item in design.parts}
        rule(p, area.left(), area.top(), area.width())
        laid = Counter(pieces[k].name for k in step.pieces for _ in range(pieces[k].pieces))
        told = [f"{count} × {name.lower()}" if count > 1 else name.lower() for name, count in laid.items()]
        told += [items[ident].name for ident in step.items if ident in items]
        lines = [*wrap(step.words, area.width(), LABEL)[:1],
                 *wrap(", ".join(told) if told else "nothing goes in but work", area.width(), LABEL)[:2]]  # fmt: skip
        if step.closes:
            lines.append("what lies inside is out of reach from here: it has been tried")
        if step.fragile:
            lines.append(step.fragile)
        for k, words in enumerate(lines[:4]):
            ink = inks.look if words == step.fragile else inks.soft if k else inks.ink
            write(p, area.left(), area.top() + 16 + 15 * k, fit(words, area.width(), LABEL), LABEL, ink)

    def _draw_stock(self, p: QPainter, lengths: list[tuple[str, Length]], area: QRectF) -> float:
        """Draw the lengths of stock with what is cut from each; return where it ends."""
        inks = theme.inks
        unit = self.store.units["length"].symbol
        heading(p, area.left(), area.top(), area.width(), "From stock", f"pieces and what is left, {unit}")
        y = area.top() + 26
        if not lengths:
            write(p, area.left(), y, "No rod, tube or strip is cut.", LABEL, inks.soft)
            return y
        longest = max(length.stock for _material, length in lengths)
        named = min(max(width_of(material, LABEL) for material, _length in lengths) + 10, 0.34 * area.width())
        for k, (material, length) in enumerate(lengths):
            if y > area.bottom():
                write(p, area.left(), y, f"and {len(lengths) - k} lengths more", LABEL, inks.soft)
                return y
            write(p, area.left(), y, fit(material, named - 8, LABEL), LABEL)
            room = area.width() - named - 44
            scale, x = room / longest, area.left() + named
            p.setPen(pen(inks.soft, 1))
            p.drawRect(QRectF(x, y - 10, length.stock * scale, _BAR))
            for piece in length.pieces:
                part = QRectF(x, y - 10, piece.length * scale, _BAR)
                p.fillRect(part, brush_of(inks.predicted, 70))
                p.setPen(pen(inks.ink, 1))
                p.drawRect(part)
                words = self.length(piece.length)
                if part.width() > width_of(words, LABEL) + 6:
                    write(p, part.center().x(), y, words, LABEL, inks.ink, align="centre")
                x = part.right()
            write(p, area.right(), y, self.length(length.left), LABEL, inks.soft, align="right")
            y += _ROW
        return y

    def _draw_needs(self, p: QPainter, needs: tuple[Need, ...], area: QRectF) -> None:
        """List what is needed: what lies in the bin, what is to be bought, and its price."""
        inks = theme.inks
        narrow = area.width() < _NARROW
        told = "to buy, cost" if narrow else "needed, in the bin, to buy, cost"
        heading(p, area.left(), area.top(), area.width(), "To buy", told)
        y = area.top() + 22
        columns = (area.right() - 152, area.right() - 104, area.right() - 52, area.right())
        fits = max(int((area.bottom() - y) // _ROW), 1)
        # What is to be bought comes first; where not all has room, the rest is counted.
        rows = sorted(needs, key=lambda one: one.buy <= 0)
        for one in rows[: fits if len(rows) <= fits else fits - 1]:
            ink = inks.ink if one.buy > 0 else inks.soft
            room = (columns[2] if narrow else columns[0]) - area.left() - (50 if narrow else 58)
            used = write(p, area.left(), y, fit(one.name, room, LABEL), LABEL, ink)
            if used < room - 60:
                write(p, area.left() + used + 8, y, fit(one.kind, room - used - 8, LABEL), LABEL, inks.soft)
            amount = f"{one.amount:g}" if one.unit == "pieces" else f"{one.amount:g} {one.unit}"
            there = "–" if one.there is None else f"{one.there:g}"
            cost = "" if one.cost is None else f"{one.cost:.2f}"
            bold = one.buy > 0
            cells = tuple(zip((amount, there, f"{one.buy:g}", cost), columns, (False, False, bold, False), strict=True))
            for words, at, strong in cells[2:] if narrow else cells:
                write(p, at, y, words, LABEL, ink, bold=strong, align="right")
            rule(p, area.left(), y + 4, area.width())
            y += _ROW
        if len(rows) > fits:
            write(p, area.left(), y, f"and {len(rows) - fits + 1} more: write the lists", VALUE, inks.soft)

    # -- by hand ------------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() == Qt.MouseButton.LeftButton:
            hit = next((step for row, step in self._rows if row.contains(event.position())), None)
            if hit is not None:
                self.choose(hit.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        shown = self.shown
        if step is None or shown is None:
            super().keyPressEvent(event)
        else:
            steps = self.steps
            self.choose(steps[(steps.index(shown) + step) % len(steps)].key)


def _triangle(p: QPainter, x: float, y: float) -> None:
    """Mark what breaks easily."""
    path = QPainterPath(QPointF(x, y - 4))
    path.lineTo(x + 4.5, y + 4)
    path.lineTo(x - 4.5, y + 4)
    path.closeSubpath()
    outline(p, path, theme.inks.look, 1.0, theme.inks.look)
