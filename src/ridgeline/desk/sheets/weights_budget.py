"""The budget: one bar for each group against its allowance."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import hatch, heading, line, pen, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.units import shown

GROUP_NAMES = {"adhesive": "Glue and tape", "radio": "Radio, servos", "gear": "Landing gear"}
_TOTAL = 84


class Budgeted(Protocol):
    """A sheet that knows its groups."""

    store: Store

    def groups(self) -> dict[str, tuple[float, float]]:
        """Return weighed and estimated mass of each group, kg."""
        ...


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
