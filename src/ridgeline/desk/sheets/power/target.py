"""Thrust against target: standing, climbing, and the most any propeller of the size could give."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import CENTRE, RIGHT, brush_of, hatch, heading, line, pen, wrap, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.units import with_unit

_BARS = ("standing", "climbing", "disc limit")


def draw_target(p: QPainter, sheet: Sheet, area: QRectF) -> None:
    """Draw thrust against the wish as upright scales: standing, at climb speed, and the disc's own limit."""
    inks, report = theme.inks, sheet.store.report
    line(p, area.left() - 14, area.top() - 8, area.left() - 14, area.bottom(), inks.hair)
    wanted = report.wanted.get("power.thrust_ratio", (None, None))
    usual = "" if None in wanted else f"usual {wanted[0]:g}–{wanted[1]:g}"
    heading(p, area.left(), area.top() + 14, area.width(), "Thrust over weight", usual, strong=False)
    auw = report.value("mass.auw")
    if auw is None or report.value("power.thrust_ratio") is None:
        return
    keys = ("power.thrust_ratio", "flight.climb_thrust_ratio", "power.disc_ratio")
    bars = [(name, report.value(key) or 0.0) for name, key in zip(_BARS, keys, strict=True)]
    top, bottom = area.top() + 46, area.bottom() - 46
    end = 1.12 * max([1.1, *(value for _n, value in bars), wanted[1] or 0.0])

    left, right = area.left() + 34, area.right()
    plot = Plot.of(QRectF(left, top, right - left, bottom - top), (0.0, 1.0), (0.0, end))
    y = plot.y.at
    if wanted[0] is not None and wanted[1] is not None:
        box = QRectF(left, y(wanted[1]), right - left, y(wanted[0]) - y(wanted[1]))
        hatch(p, box, brush_of(inks.soft, 120).color(), step=6)
        p.setPen(pen(inks.soft, 1, Qt.PenStyle.DashLine))
        p.drawRect(box)
    aim = sheet.store.design.brief.thrust_ratio
    plot.level(p, aim, inks.live, 1.2, dash=True)
    plot.level(p, 1.0, inks.ink)
    plot.level(p, 0.0, inks.ink)
    plot.side(p, nice_step(end, 6), digits=1)
    each = (right - left) / len(bars)
    for index, (name, value) in enumerate(bars):
        x = left + (index + 0.5) * each
        limit = name == "disc limit"
        p.setPen(
            pen(
                inks.soft if limit else inks.predicted,
                1.5,
                Qt.PenStyle.DashLine if limit else Qt.PenStyle.SolidLine,
            )
        )
        p.setBrush(Qt.BrushStyle.NoBrush if limit else brush_of(inks.predicted, 60))
        p.drawRect(QRectF(x - 11, y(value), 22, bottom - y(value)))
        p.setBrush(Qt.BrushStyle.NoBrush)
        write(p, x, y(value) - 5, f"{value:.2f}", VALUE, inks.ink, not limit, CENTRE, halo=True)
        write(p, x, bottom + 15, name, LABEL, inks.soft, align=CENTRE)
    write(
        p,
        right - 4,
        y(aim) + (12 if aim < 1.0 else -4),
        f"brief {aim:.2f}",
        LABEL,
        inks.live,
        align=RIGHT,
        halo=True,
    )
    write(p, right - 4, y(1.0) + (-4 if aim < 1.0 else 12), "weight", LABEL, align=RIGHT, halo=True)
    words = f"weight {with_unit(auw, 'mass', sheet.store.units)}; no propeller of this size beats the disc limit"
    for row, text in enumerate(wrap(words, area.width(), 10)[:2]):
        write(p, area.left(), bottom + 32 + 13 * row, text, 10, inks.soft)
