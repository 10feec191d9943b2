"""The budget: one bar for each group against its allowance."""

from __future__ import annotations

import math
from typing import Protocol

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.paths import Change
from ridgeline.desk.paint import fit, hatch, heading, line, outline, path_of, pen, state_mark, width_of, write
from ridgeline.desk.scales import Scale, nice_step, ruler
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.fields import PathField
from ridgeline.engine.bands import BAND
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Remedy
from ridgeline.units import shown, with_unit

GROUP_NAMES = {"adhesive": "Glue and tape", "radio": "Radio, servos", "gear": "Landing gear"}
_TOTAL = 84
#: Room of the share kept for growth and of the button that shows the design as listed, px.
_BUTTON, _FIELD = 78, 34
GROWTH_ROOM = _BUTTON + _FIELD + 26


#: The design as it is listed: nothing kept for growth.
AS_LISTED = Remedy("as_listed", say("As listed"), (Change("brief.growth", 0.0),))


class Budgeted(Protocol):
    """A sheet that knows its groups."""

    store: Store

    def groups(self) -> dict[str, tuple[float, float]]:
        """Return weighed and estimated mass of each group, kg."""
        ...


class GrowthRow:
    """The share kept for growth, typed in the line of the total, and the press that shows every figure without it."""

    def __init__(self, sheet: Sheet) -> None:
        self._store = store = sheet.store
        self.share = PathField(sheet, store, "brief.growth", "kept for growth, of what is not weighed")
        self.as_listed = RuledButton(sheet, "As listed")
        self.as_listed.setCheckable(True)
        self.as_listed.setToolTip("show every figure without what the unweighed still gains; press again to go back")
        self.as_listed.clicked.connect(lambda on: store.show_ghost(AS_LISTED if on else None))
        for told in (store.ghosted, store.changed):
            told.connect(self._sync)

    def _sync(self) -> None:
        self.as_listed.setChecked(self._store.ghost_remedy is AS_LISTED)

    def arrange(self, area: QRectF) -> None:
        """Put both at the right end of the total's line."""
        right, y = int(area.right()), int(area.top())
        self.share.setGeometry(right - _BUTTON - _FIELD - 20, y - 4, _FIELD, 18)
        self.as_listed.setGeometry(right - _BUTTON, y - 7, _BUTTON, 24)
        for widget in (self.share, self.as_listed):
            widget.setVisible(self._store.report.value("mass.auw") is not None)


def budget_row(area: QRectF, index: int, count: int) -> float:
    """Return the top of a group's bar, px."""
    pitch = min(20.0, (area.height() - 118) / max(count, 1))
    return area.top() + 32 + index * pitch


def budget_total(area: QRectF) -> QRectF:
    """Return the room of the total under the groups."""
    return QRectF(area.left(), area.bottom() - _TOTAL, area.width(), _TOTAL)


def draw_budget(p: QPainter, sheet: Budgeted, area: QRectF) -> None:
    """Draw the groups' bars: solid weighed, hatched estimated, a mark at the allowance."""
    inks, units, design = theme.inks, sheet.store.units, sheet.store.design
    aside = f"solid weighed, dashed estimate; allowance, {units['mass'].symbol}"
    heading(p, area.left(), area.top() + 12, area.width(), "Budget", aside)
    groups = sheet.groups()
    allowed = {name: getattr(design.allowances, name) for name in groups}
    marks = [mass for mass in allowed.values() if mass is not None]
    most = max([a + b for a, b in groups.values()] + marks, default=1.0) or 1.0
    bar_left, bar_room = area.left() + 100, area.width() - 206
    pitch = min(20.0, (area.height() - 118) / max(len(groups), 1))
    height = min(12.0, pitch - 5)
    for index, (name, (weighed, estimated)) in enumerate(groups.items()):
        y = budget_row(area, index, len(groups))
        write(p, area.left(), y + 8, GROUP_NAMES.get(name, name.capitalize()), VALUE)
        w, e = bar_room * max(weighed, 0.0) / most, bar_room * max(estimated, 0.0) / most
        p.setPen(pen(inks.ink, 1))
        p.setBrush(inks.hair)
        if w > 0.5:
            p.drawRect(QRectF(bar_left, y - 2, w, height))
        p.setBrush(Qt.BrushStyle.NoBrush)
        if e > 0.5:
            box = QRectF(bar_left + w, y - 2, e, height)
            hatch(p, box, inks.soft)
            p.setPen(pen(inks.ink, 1, Qt.PenStyle.DashLine))
            p.drawRect(box)
        limit = allowed[name]
        over = limit is not None and weighed + estimated > limit + 1e-9
        if limit is not None:
            x = bar_left + bar_room * limit / most
            line(p, x, y - 4, x, y + height, inks.stop if over else inks.live, 2)
        colour = inks.stop if over else inks.ink
        total = shown(weighed + estimated, "mass", units)
        write(p, area.right() - 62, y + 8, total, VALUE, colour, bold=True, align="right")
        write(p, area.right() - 58, y + 8, "of", LABEL, inks.soft)


def draw_total(p: QPainter, sheet: Budgeted, area: QRectF) -> None:
    inks, report, units = theme.inks, sheet.store.report, sheet.store.units
    auw, weighed = report.value("mass.auw"), report.value("mass.weighed") or 0.0
    listed, ceiling = report.value("mass.listed"), sheet.store.design.brief.ceiling
    if auw is None or listed is None:
        return
    write(p, area.left(), area.top() + 10, "Total", 13, bold=True)
    mark = "stop" if listed > ceiling else ("look" if auw > ceiling else "settled")
    state_mark(p, area.left() + 52, area.top() + 6, mark)
    words = f"{with_unit(auw, 'mass', units)} = {shown(listed, 'mass', units)} listed + growth"
    room = area.width() - 66 - GROWTH_ROOM
    if width_of(words, LABEL) > room:
        words = f"{shown(listed, 'mass', units)} + growth"
    write(p, area.left() + 66, area.top() + 10, fit(words, room, LABEL), LABEL, inks.soft)
    write(p, area.right() - _BUTTON - 8, area.top() + 10, "%", LABEL, inks.soft, align="right")
    end = 1.06 * max(ceiling, auw)
    scale = Scale(0.0, end, area.left(), area.right())

    def bar(start: float, stop: float) -> QRectF:
        return QRectF(scale.at(start), y, scale.at(stop) - scale.at(start), 18)

    y = area.top() + 34
    p.setPen(pen(inks.ink, 1))
    p.setBrush(inks.hair)
    p.drawRect(bar(0.0, weighed))
    p.setBrush(Qt.BrushStyle.NoBrush)
    estimate = bar(weighed, listed)
    hatch(p, estimate, inks.soft)
    p.setPen(pen(inks.ink, 1, Qt.PenStyle.DashLine))
    p.drawRect(estimate)
    grow = bar(listed, auw)
    hatch(p, grow, inks.live, rising=False)
    p.setPen(pen(inks.live, 1, Qt.PenStyle.DashLine))
    p.drawRect(grow)
    for start, stop, label in ((0.0, weighed, "weighed"), (weighed, listed, "estimate")):
        text, part = f"{label} {shown(stop - start, 'mass', units)}", bar(start, stop)
        if part.width() > width_of(text, LABEL) + 10:
            write(p, part.left() + 5, y + 13, fit(text, part.width(), LABEL), LABEL, halo=label == "estimate")
    _draw_chance(p, sheet, area, scale, y)
    x = scale.at(ceiling)
    line(p, x, y - 10, x, y + 22, inks.stop, 2)
    write(
        p,
        min(x + 3, area.right() - 40),
        y - 4,
        with_unit(ceiling, "mass", units),
        LABEL,
        inks.stop,
        True,
        halo=True,
    )
    factor = units["mass"].factor
    ruler(p, QRectF(area.left(), y + 20, area.width(), 20), 0.0, end * factor, nice_step(end * factor, 8), box=False)


def _draw_chance(p: QPainter, sheet: Budgeted, area: QRectF, scale: Scale, y: float) -> None:
    """Draw where the finished weight may lie as a bell over the bar: its part under the ceiling is the chance."""
    report, inks = sheet.store.report, theme.inks
    auw = report.figures["mass.auw"]
    if auw.value is None or scale.at(auw.above / BAND) - scale.at(0.0) < 1.5:
        return
    high, below, above = 20.0, auw.below / BAND, auw.above / BAND
    points = [
        (
            scale.at(auw.value + (above if k > 0 else below) * k / 8),
            y - 1 - high * math.exp(-((k / 8) ** 2) / 2),
        )
        for k in range(-24, 25)
    ]
    points = [(x, top) for x, top in points if area.left() <= x <= area.right()]
    if len(points) < 3:
        return
    bell = path_of([(points[0][0], y - 1), *points, (points[-1][0], y - 1)])
    p.save()
    ceiling = scale.at(sheet.store.design.brief.ceiling)
    p.setClipRect(QRectF(area.left(), y - high - 4, ceiling - area.left(), high + 4))
    p.fillPath(bell, inks.wash)
    p.restore()
    outline(p, path_of(points, closed=False), inks.live, 1)
