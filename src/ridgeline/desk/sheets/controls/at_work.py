"""What controls do and what their servos bear: the angle over the stick, the list of servos at work."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import brush_of, fit, heading, line, state_mark, write
from ridgeline.desk.scales import Plot, nice_step, ruler
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.linkage_edits import called
from ridgeline.engine.controls.sense import FOLLOWS
from ridgeline.engine.controls.servo import PLANNED
from ridgeline.engine.register import CONTROL_PLAY, SERVO_SHARE
from ridgeline.engine.stages.linked import LinkedControl, Linking
from ridgeline.units import with_unit

_ROW = 22
#: The bar of a servo ends at this share of its stall.
_MOST = 1.2
_ENDS = {"roll": ("left", "right"), "yaw": ("left", "right"), "pitch": ("forward", "back"), "flap": ("up", "down")}


def draw_curve(sheet: Sheet, p: QPainter, row: LinkedControl, area: QRectF) -> None:
    """Draw a control's angle over its stick: high rate, dashed without expo, low rate."""
    inks, radio, units = theme.inks, sheet.store.design.radio, sheet.store.units
    stick, side = FOLLOWS[row.control.kind][0], row.sides[0]
    if radio is None or side.channel is None:
        write(p, area.left(), area.top() + 20, "no channel moves it", LABEL, inks.soft)
        return
    sticks = np.linspace(0.0 if stick == "flap" else -1.0, 1.0, 41)
    plain = radio.model_copy(update={"rates": tuple(r.model_copy(update={"expo": 0.0}) for r in radio.rates)})
    factor = units["angle"].factor
    drawn = [
        ((-factor * side.over(row.linkage, rates, stick, sticks, high_rate=high)).tolist(), ink, wide, dash)
        for rates, high, ink, wide, dash in (
            (plain, True, inks.soft, 1, True),
            (radio, False, inks.predicted, 1.5, False),
            (radio, True, inks.live, 2, False),
        )
    ]
    most = max(max(map(abs, values)) for values, *_rest in drawn) * 1.15 or 1.0
    box = QRectF(area.left() + 26, area.top() + 26, area.width() - 34, area.height() - 58)
    plot = Plot.of(box, (float(sticks[0]), 1.0), (-most, most))
    plot.level(p, 0.0, inks.hair)
    plot.upright(p, 0.0, inks.hair)
    plot.side(p, nice_step(2 * most, 5))
    for values, ink, wide, dash in drawn:
        plot.curve(p, sticks, values, ink, wide, dash)
    write(p, box.left() - 22, area.top() + 16, units["angle"].symbol, LABEL, inks.soft)
    rate = next((r for r in radio.rates if r.stick == stick), None)
    if rate is not None:
        low, expo = (with_unit(value, "fraction", units, 0) for value in (rate.low, rate.expo))
        words = fit(f"low rate {low}, expo {expo}", area.width() - 40, LABEL)
        write(p, area.right(), area.top() + 16, words, LABEL, inks.predicted, align="right")
    ends = _ENDS[stick]
    write(p, box.left(), box.bottom() + 18, ends[0] if stick == "flap" else f"stick {ends[0]}", LABEL, inks.soft)
    write(p, box.right(), box.bottom() + 18, ends[1], LABEL, inks.soft, align="right")


def loads_tall(rows: int) -> int:
    """Return how tall a list of so many controls is, px."""
    return rows * _ROW


def draw_loads(
    sheet: Sheet, p: QPainter, linking: Linking, shown: LinkedControl | None, area: QRectF
) -> list[tuple[Any, str]]:
    """List the controls with what their servos work at in a dive; return where each is pressed."""
    inks, units = theme.inks, sheet.store.units
    dive = sheet.store.report.value("structure.dive_speed")
    aside = "" if dive is None else f"share of stall at {with_unit(dive, 'speed', units, 0)}"
    heading(p, area.left(), area.top(), area.width(), "Servos at work", aside, strong=False)
    left, wide = area.left() + 0.36 * area.width(), 0.30 * area.width()
    places: list[tuple[Any, str]] = []
    y = area.top() + 26
    for row in linking.rows:
        if y + 10 > area.bottom():
            break
        rect = QRectF(area.left(), y - 15, area.width(), _ROW)
        live = shown is not None and row.control.id == shown.control.id
        if live:
            p.fillRect(rect, inks.wash)
        places.append((rect, row.control.id))
        share = row.share
        level = "untouched" if share is None else "stop" if share > 1 else "look" if share > PLANNED else "settled"
        state_mark(p, area.left() + 8, y - 4, level)
        name = called(sheet.store.design.surfaces[row.surface], row.control)
        write(p, area.left() + 22, y, fit(name, left - area.left() - 30, VALUE), VALUE,
              inks.live if live else inks.ink, bold=live)  # fmt: skip
        play = f"play {with_unit(row.play, 'angle', units, 1)}"
        sheet.written(p, area.right(), y, play, CONTROL_PLAY.key(row.control.id), LABEL, inks.soft, align="right")
        if share is None:
            write(p, left, y, "no servo named, or no dive known", LABEL, inks.soft)
        else:
            ink = inks.predicted if share <= PLANNED else inks.stop
            p.fillRect(QRectF(left, y - 9, wide * min(share, _MOST) / _MOST, 9), brush_of(ink, 140))
            told = with_unit(share, "fraction", units, 0)
            key = SERVO_SHARE.key(row.control.id)
            sheet.written(p, left + wide + 46, y, told, key, VALUE, align="right")
        y += _ROW
    mark = left + wide * PLANNED / _MOST
    line(p, mark, area.top() + 14, mark, y - _ROW + 6, inks.ink, dash=True)
    if y + 26 < area.bottom():
        ruler(p, QRectF(left, y - 8, wide, 20), 0.0, 100.0 * _MOST, 20, unit="%")
        write(p, area.left() + 22, y + 6, fit("dashed: planned on", left - area.left() - 30, LABEL), LABEL, inks.soft)
    return places
