"""What is told of the sheets: a list of them, what is left of each, and the pages they are tiled on."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import fit, hatch, heading, pen, rule, write
from ridgeline.desk.sheets.base import Sheet, mostly
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.templates.nesting import Nested, UsedSheet
from ridgeline.files.sheet_pdf import MARGIN, PAPERS, tiles_of
from ridgeline.units import with_unit

#: What is left of a sheet is hatched where it is taller than this, and named where it is wider than that, px.
_OFFCUT, _NAMED = 26, 60


def draw_list(leaf: Sheet, p: QPainter, found: Nested, area: QRectF) -> None:
    """List the sheets: what lies on each, what of it is used, the offcut that is left; and what it all costs."""
    inks = theme.inks
    unit = leaf.store.units["length"].symbol
    aside = f"used, offcut {unit}" if area.width() > 170 else f"offcut {unit}"
    heading(p, area.left(), area.top(), area.width(), "Sheets", aside, strong=False)
    y = area.top() + 24
    for k, sheet in enumerate(found.sheets):
        if y > area.bottom() - 40:
            write(p, area.left(), y, f"and {len(found.sheets) - k} more", LABEL, inks.soft)
            y += 18
            break
        write(p, area.left(), y, f"{k + 1}", LABEL, inks.soft)
        size = f"{leaf.length(sheet.stock.width)} × {leaf.length(sheet.stock.length)}"
        # A narrow list leaves the size to the margin.
        write(p, area.left() + 16, y, mostly(size, area.width() - 110), VALUE)
        share = with_unit(sheet.share, "fraction", leaf.store.units, 0)
        write(p, area.right() - 48, y, share, VALUE, inks.ink, align="right")
        left = max(sheet.stock.length - sheet.reach, 0.0)
        write(p, area.right(), y, leaf.length(left), VALUE, inks.soft, align="right")
        rule(p, area.left(), y + 5, area.width())
        y += 19
    if found.left and y < area.bottom():
        names = ", ".join(one.name for one in found.left)
        write(p, area.left(), y, fit(f"on no sheet: {names}", area.width(), LABEL), LABEL, inks.stop)
        y += 18
    for words in (cost_of(found), "solid: cut; long dashes: hinge", "dashes: score, fold; dots: mark"):
        if words and y < area.bottom() + 6:
            write(p, area.left(), y + 2, fit(words, area.width(), LABEL), LABEL, inks.soft)
            y += 15


def cost_of(found: Nested) -> str:
    """Return what the sheets cost, where their prices are known."""
    prices = [sheet.stock.price for sheet in found.sheets]
    known = [price for price in prices if price is not None]
    if not known:
        return ""
    more = f", {len(prices) - len(known)} without a price" if len(known) < len(prices) else ""
    return f"costs {math.fsum(known):.2f}{more}"


def draw_rest(leaf: Sheet, p: QPainter, sheet: UsedSheet, frame: QRectF, scale: float) -> None:
    """Hatch what is left of a sheet beyond its pieces."""
    inks = theme.inks
    rest = sheet.stock.length - sheet.reach
    left = rest * scale
    if left <= _OFFCUT or frame.width() <= _NAMED:
        return
    hatch(p, QRectF(frame.left() + 1, frame.top() + 1, frame.width() - 2, left - 3), inks.hair)
    words = fit(f"offcut {leaf.length(sheet.stock.width)} × {leaf.length(rest)}", frame.width() - 30, LABEL)
    write(p, frame.center().x(), frame.top() + 0.5 * left + 4, words, LABEL, inks.soft, align="centre", halo=True)


def draw_tiles(p: QPainter, found: Nested, sheet: UsedSheet, frame: QRectF, scale: float) -> None:
    """Draw the pages a sheet is tiled on, as far as they lie on it."""
    p.save()
    p.setClipRect(frame)
    p.setPen(pen(theme.inks.live, 1.0, Qt.PenStyle.DashLine))
    p.setBrush(Qt.BrushStyle.NoBrush)
    wide, tall = ((size - 2 * MARGIN) / 1000 * scale for size in PAPERS["a4"])
    for tile in tiles_of(found, "a4"):
        if found.sheets[tile.sheet] is sheet:
            x, y = frame.left() + tile.x / 1000 * scale, frame.bottom() - tile.y / 1000 * scale
            p.drawRect(QRectF(x, y - tall, wide, tall))
    p.restore()
