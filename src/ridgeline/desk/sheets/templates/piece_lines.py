"""Lines of a piece as their kinds are drawn, and how its folds and hinges are cut, seen from their ends."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from ridgeline.desk.paint import fit, outline, path_of, pen, write
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.build.joints import fold_width
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.units import DisplayUnit, with_unit

KINDS = {"score": (5.0, 3.0), "hinge": (8.0, 2.0, 2.0, 2.0), "mark": (1.5, 2.0)}


def draw_fold(
    p: QPainter, kind: str, pattern: Pattern, area: QRectF, units: Mapping[str, DisplayUnit], *, square: bool
) -> None:
    """Draw the end of a board where it is hinged or folded, with its bevel; ``square`` where it is folded to 90°."""
    inks = theme.inks
    if area.height() < 44:
        return
    write(p, area.left(), area.top() + 10, "hinge" if kind == "hinge" else "fold", LABEL, inks.ink)
    top, tall, wide = area.top() + 22, 14.0, area.width() - 6
    left, middle = area.left(), area.left() + 0.5 * wide
    if kind == "hinge":
        bevel = next((label.text for label in pattern.labels if "bevel" in label.text), "")
        angle = bevel.rpartition("bevel ")[2]
        cut = 12.0
        for points in (
            ((left, top), (middle, top), (middle, top + tall), (left, top + tall)),
            ((middle, top), (middle + wide / 2, top), (middle + wide / 2, top + tall), (middle + cut, top + tall)),
        ):
            outline(p, path_of(points), inks.ink, 1.0, inks.fill)
        p.fillRect(QRectF(left, top - 2, wide, 2), inks.live)
        words: tuple[str, ...] = (f"bevel {angle} below", "tape over it") if angle else ("tape over it",)
    else:
        cut = tall
        outline(p, path_of(((left, top), (left + wide, top), (left + wide, top + tall), (left, top + tall))), inks.ink,
                1.0, inks.fill)  # fmt: skip
        outline(p, path_of(((middle - cut, top + tall), (middle, top + 2), (middle + cut, top + tall))), inks.ink, 1.0,
                inks.paper)  # fmt: skip
        p.fillRect(QRectF(left, top - 2, wide, 2), inks.live)
        deep = with_unit(pattern.sheet, "length", units, 0)
        wide_v = with_unit(fold_width(pattern.sheet, 0.5 * math.pi), "length", units, 0)
        # A nose turns too far for one V: the foam is cleared off the paper instead.
        words = (f"V {wide_v} wide,", "to the outer paper") if square else ("clear the foam,", f"{deep} deep, to",
                                                                            "the outer paper")  # fmt: skip
    y = top + tall + 14
    for line in words:
        if y > area.bottom() + 4:
            break
        write(p, left, y, fit(line, area.width(), LABEL), LABEL, inks.soft)
        y += 13


def draw_line(p: QPainter, spots: list[QPointF], kind: str) -> None:
    """Draw a line of a piece as its kind is drawn."""
    inks = theme.inks
    # A pen of its own: those that are handed out are shared.
    ink = QPen(pen(inks.ink if kind == "cut" else inks.soft if kind == "mark" else inks.live, 1.0))
    if kind in KINDS:
        ink.setDashPattern(list(KINDS[kind]))
    p.setPen(ink)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPolyline(spots)
