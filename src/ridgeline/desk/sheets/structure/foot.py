"""The lower half of the wing's leaf: spar, shares, ruler, load cases, and the root section with the spars in it."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.construction import Spar
from ridgeline.desk.paint import brush_of, fit, heading, line, outline, path_of, pen, rule, width_of, write
from ridgeline.desk.scales import Scale, nice_step, ruler
from ridgeline.desk.sheets.structure.shown import HalfSheet, Shown
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.structure.choosing import main_spar
from ridgeline.units import Units, shown, with_unit

#: Shares of the half at which what it carries is written.
_TOLD = (0.02, 0.22, 0.42, 0.62, 0.82)


def draw_strips(sheet: HalfSheet, p: QPainter, there: Shown, across: Scale, room: tuple[float, float]) -> None:
    """Draw the spar along the half, the share of what is allowed under it, and a ruler."""
    inks, units, half, (top, right) = theme.inks, sheet.store.units, there.half, room
    which = main_spar(half.surface)
    write(p, across.start - 8, top + 13, "spar", LABEL, inks.soft, align="right")
    if which is None:
        write(p, across.start + 4, top + 13, f"none: the {half.skins.facing} bears it alone", LABEL, inks.soft)
    else:
        spar = half.spars[which]
        first = float(half.y[0]) + spar.start * half.half_span
        box = QRectF(across.at(first), top + 5, across.at(half.spar_end) - across.at(first), 8)
        p.setPen(pen(inks.ink, 1))
        p.setBrush(brush_of(inks.soft, 120))
        p.drawRect(box)
        p.setBrush(Qt.BrushStyle.NoBrush)
        words = f"{ {'paper': 'papers', 'foam': 'foam', 'plastic': 'the print'}[half.skins.facing] } alone beyond "
        words += sheet.length(half.spar_end, 0)
        if across.end - box.right() > width_of(words, LABEL) + 16:
            write(p, box.right() + 14, top + 13, words, LABEL, inks.soft)
        write(p, across.end + 8, top + 13, fit(size_of(spar, units), right, LABEL), LABEL)
    share = there.own.share.max(axis=0)
    strip = QRectF(across.start, top + 24, across.end - across.start, 18)
    write(p, across.start - 8, top + 37, "share", LABEL, inks.soft, align="right")
    edges = np.linspace(across.start, across.end, 61)
    for a, b in pairwise(edges):
        here = float(np.interp(across.value(0.5 * (a + b)), half.y, share))
        ink = inks.stop if here > 1 else inks.predicted
        p.fillRect(QRectF(a, strip.top(), b - a + 0.5, strip.height()), brush_of(ink, int(20 + 110 * min(here, 1))))
    p.setPen(pen(inks.ink, 1))
    p.drawRect(strip)
    for place in _TOLD:
        x = across.start + place * (across.end - across.start)
        here = float(np.interp(across.value(x), half.y, share))
        line(p, x - 3, strip.top(), x - 3, strip.bottom(), inks.hair)
        write(p, x + 2, strip.bottom() - 5, shown(here, "fraction", units, 0) + " %", LABEL,
              inks.stop if here > 1 else inks.ink, bold=here > 1)  # fmt: skip
    write(p, across.end + 8, top + 37, "of what it may carry", LABEL, inks.soft)
    unit = units["length"]
    last = float(half.y[-1]) * unit.factor
    ruler(p, QRectF(across.start, top + 46, across.end - across.start, 20), 0.0, last, nice_step(last, 6),
          unit=f"{unit.symbol} out")  # fmt: skip


def size_of(spar: Spar, units: Units) -> str:
    """Return the size of a spar in short: "3 × ⌀ 20/18 mm"."""
    unit = units["length"]
    sizes = [spar.height, spar.inner] if spar.round and spar.inner else [spar.height]
    if not spar.round:
        sizes = [spar.height, spar.width]
    told = ("/" if spar.round else "×").join(f"{unit.factor * size:.3g}" for size in sizes)
    many = "" if spar.count == 1 else f"{spar.count} × "
    return f"{many}{'⌀ ' if spar.round else ''}{told} {unit.symbol}"


def draw_cases(sheet: HalfSheet, p: QPainter, there: Shown, area: QRectF) -> None:
    """List the load cases, the worst first, with the share of what may be carried."""
    inks, units = theme.inks, sheet.store.units
    heading(p, area.left(), area.top(), area.width(), "Load cases", "share of what it may carry", strong=False)
    rows = sorted(zip(there.own.words, there.own.share.max(axis=1), strict=True), key=lambda row: -row[1])
    fits = max(int((area.height() - 26) / 19), 1)
    most = max(1.25, max(float(share) for _w, share in rows))
    bar = area.right() - 130
    y = area.top() + 26
    for words, share in rows[:fits]:
        ink = inks.stop if share > 1 else inks.ink
        worst = words == there.own.words[there.own.worst]
        write(p, area.left(), y, fit(words, bar - area.left() - 8, LABEL), LABEL, ink, bold=worst)
        long = 86 * float(share) / most
        p.fillRect(QRectF(bar, y - 8, long, 7), brush_of(inks.stop if share > 1 else inks.predicted, 150))
        line(p, bar + 86 / most, y - 11, bar + 86 / most, y + 2, inks.ink, dash=True)
        told = shown(float(share), "fraction", units, 0) + " %"
        if worst and there.place == sheet.main:
            sheet.written(p, area.right(), y, told, "structure.wing_share", VALUE, ink, bold=True, align="right")
        else:
            write(p, area.right(), y, told, VALUE, ink, align="right")
        rule(p, area.left(), y + 5, area.width())
        y += 19


def draw_section(p: QPainter, there: Shown, box: QRectF, units: Units) -> None:
    """Draw the root section with its spars, the quarter chord and the axis it bends about."""
    inks, half = theme.inks, there.half
    write(p, box.left(), box.top() - 26, "Root section", LABEL, inks.soft)
    points = outline_over_chord(half.surface)
    # The middle of the section lies on the middle of its box, and the spars on that.
    deep = 0.5 * (float(points[:, 1].max()) + float(points[:, 1].min()))
    middle = box.center().y()
    drawn = [(box.left() + float(x) * box.width(), middle - (float(z) - deep) * box.width()) for x, z in points]
    outline(p, path_of(drawn), inks.ink, 1.3, inks.fill)
    chord = float(half.chord[0])
    for spar in half.spars:
        wide, high = (max(s / chord * box.width(), 3.0) for s in (spar.width, spar.height))
        x = box.left() + spar.place * box.width()
        spot = QRectF(x - wide / 2, middle - high / 2, wide, high)
        p.setPen(pen(inks.live, 1.4))
        p.setBrush(inks.wash)
        (p.drawEllipse if spar.round else p.drawRect)(spot)
        p.setBrush(Qt.BrushStyle.NoBrush)
    x = box.left() + float(half.axis[0]) * box.width()
    line(p, x, middle - 24, x, middle + 24, inks.predicted, dash=True)
    words = f"bends about {with_unit(float(half.axis[0]), 'fraction', units, 0)}"
    write(p, min(x, box.right() - 60), middle + 38, words, LABEL, inks.predicted, align="centre")
