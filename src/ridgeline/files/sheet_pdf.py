"""Nested sheets on paper at their true size: a page for each sheet, or tiles with an overview and a bar to measure."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from typing import Literal, NamedTuple

import numpy as np
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ridgeline.engine.build.pieces import LineKind
from ridgeline.engine.templates.nesting import Nested, UsedSheet

PaperName = Literal["a4", "letter", "a3"]
#: Papers, mm; margins that printers leave, overlap of tiles, and the bar that is measured, mm (second part of the
#: handbook §15.3).
PAPERS: dict[PaperName, tuple[float, float]] = {"a4": (210.0, 297.0), "letter": (215.9, 279.4), "a3": (297.0, 420.0)}
MARGIN, OVERLAP, BAR = 10.0, 10.0, 100.0
_BAR_IN = 101.6
#: Lines by their kind: grey, dashes and width, mm; the arms of a cross where tiles meet, mm.
_DRAWN: dict[LineKind, tuple[float, tuple[float, ...], float]] = {
    "cut": (0.0, (), 0.25), "score": (0.2, (4, 2), 0.2), "hinge": (0.2, (8, 2, 1, 2), 0.2),
    "mark": (0.5, (1, 1.5), 0.15),
}  # fmt: skip
_CROSS = 4.0
#: Room round a sheet on a page of its own, mm.
_ROUND = 15.0


class Tile(NamedTuple):
    """A part of a sheet on one page: which sheet, its row and column, and its lower left corner on the sheet, mm."""

    sheet: int
    row: int
    column: int
    x: float
    y: float


def full_pdf(found: Nested, kerf: float = 0.0, name: str = "") -> bytes:
    """Return a document of a page for each sheet, each as large as the sheet and room for its bar.

    Parameters
    ----------
    found : Nested
    kerf : float
        The tool's, m.
    name : str
        Of the design.

    Returns
    -------
    bytes
    """
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(name)
    for k, sheet in enumerate(found.sheets):
        wide, long = 1000 * sheet.stock.width, 1000 * sheet.stock.length
        canvas.setPageSize(((wide + 2 * _ROUND) * mm, (long + 2 * _ROUND) * mm))
        _sheet(canvas, sheet, kerf, _ROUND, _ROUND)
        _bar(canvas, _ROUND, 5.0)
        board = sheet.laid[0].pattern.material
        title = f"{name}, sheet {k + 1} of {len(found.sheets)}: {board}, {wide:.0f} × {long:.0f} mm, grain upwards"
        _words(canvas, _ROUND, long + _ROUND + 4, title, 4.0)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def roll_pdf(found: Nested, kerf: float = 0.0, name: str = "") -> bytes:
    """Return a document of one page for a plotter's roll: every sheet at its size, one behind the other.

    Parameters
    ----------
    found : Nested
    kerf : float
        The tool's, m.
    name : str
        Of the design.

    Returns
    -------
    bytes
    """
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(name)
    wide = max(1000 * sheet.stock.width for sheet in found.sheets) + 2 * _ROUND
    tall = math.fsum(1000 * sheet.stock.length + 2 * _ROUND for sheet in found.sheets)
    canvas.setPageSize((wide * mm, tall * mm))
    low = 0.0
    for k, sheet in enumerate(found.sheets):
        long = 1000 * sheet.stock.length
        _sheet(canvas, sheet, kerf, _ROUND, low + _ROUND)
        _words(canvas, _ROUND, low + long + _ROUND + 4, f"{name}, sheet {k + 1} of {len(found.sheets)}", 4.0)
        if k == 0:
            _bar(canvas, _ROUND, 5.0)
        low += long + 2 * _ROUND
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def tiles_of(found: Nested, paper: PaperName) -> Iterator[Tile]:
    """Yield the tiles that anything lies on, sheet by sheet, row by row from below.

    Parameters
    ----------
    found : Nested
    paper : {"a4", "letter", "a3"}

    Yields
    ------
    Tile
    """
    wide, tall = (size - 2 * MARGIN for size in PAPERS[paper])
    for k, sheet in enumerate(found.sheets):
        shapes = [one.shape().bounds for one in sheet.laid]
        columns = _steps(1000 * max((b[2] for b in shapes), default=0.0), wide)
        rows = _steps(1000 * max((b[3] for b in shapes), default=0.0), tall)
        for row in range(rows):
            for column in range(columns):
                x, y = column * (wide - OVERLAP), row * (tall - OVERLAP)
                if any(1000 * b[0] < x + wide and 1000 * b[2] > x and 1000 * b[1] < y + tall and 1000 * b[3] > y
                       for b in shapes):  # fmt: skip
                    yield Tile(k, row, column, x, y)


def _steps(size: float, room: float) -> int:
    return max(math.ceil((size - OVERLAP) / (room - OVERLAP) - 1e-9), 1)


def tiled_pdf(found: Nested, paper: PaperName = "a4", kerf: float = 0.0, name: str = "") -> bytes:
    """Return a document of tiles on a paper, an overview of all of them first.

    Parameters
    ----------
    found : Nested
    paper : {"a4", "letter", "a3"}
    kerf : float
        m.
    name : str

    Returns
    -------
    bytes
    """
    size = PAPERS[paper]
    wide, tall = (one - 2 * MARGIN for one in size)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(size[0] * mm, size[1] * mm), pageCompression=1, invariant=1)
    canvas.setTitle(name)
    tiles = list(tiles_of(found, paper))
    _overview(canvas, found, tiles, size, name)
    for tile in tiles:
        canvas.saveState()
        frame = canvas.beginPath()
        frame.rect(MARGIN * mm, MARGIN * mm, wide * mm, tall * mm)
        canvas.clipPath(frame, stroke=0)
        _sheet(canvas, found.sheets[tile.sheet], kerf, MARGIN - tile.x, MARGIN - tile.y)
        canvas.restoreState()
        _crosses(canvas, wide, tall)
        _words(canvas, MARGIN, 4.0, f"{name}: sheet {tile.sheet + 1}, {_called(tile)}", 3.2)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _called(tile: Tile) -> str:
    return f"{chr(ord('A') + tile.row % 26)}{tile.column + 1}"


def _sheet(canvas: Canvas, sheet: UsedSheet, kerf: float, left: float, low: float) -> None:
    """Draw a sheet with its lower left corner at a place of the page, mm."""
    canvas.setLineWidth(0.1 * mm)
    canvas.setStrokeGray(0.75)
    canvas.setDash()
    canvas.rect(left * mm, low * mm, 1000 * sheet.stock.width * mm, 1000 * sheet.stock.length * mm)
    for one in sheet.laid:
        shape = one.shape(kerf)
        _styled(canvas, "cut")
        for ring in (shape.exterior, *shape.interiors):
            _way(canvas, 1000 * np.asarray(ring.coords)[:-1] + (left, low), close=True)
        for line in one.pattern.lines:
            _styled(canvas, line.kind)
            _way(canvas, 1000 * one.points(line.points) + (left, low), close=False)
        canvas.setDash()
        for label in one.pattern.labels:
            x, y = 1000 * one.points(np.array([[label.x, label.y]]))[0] + (left, low)
            turn = (math.degrees(label.turn + one.turn) + 180) % 360 - 180
            turn = turn - 180 if turn > 90.5 else turn + 180 if turn < -90.5 else turn
            canvas.saveState()
            canvas.translate(x * mm, y * mm)
            canvas.rotate(turn)
            canvas.setFillGray(0.2)
            canvas.setFont("Helvetica", 1000 * label.size * mm)
            canvas.drawCentredString(0, -0.35 * 1000 * label.size * mm, label.text)
            canvas.restoreState()


def _styled(canvas: Canvas, kind: LineKind) -> None:
    grey, dashes, thick = _DRAWN[kind]
    canvas.setStrokeGray(grey)
    canvas.setLineWidth(thick * mm)
    canvas.setDash([one * mm for one in dashes])


def _way(canvas: Canvas, points: np.ndarray, *, close: bool) -> None:
    path = canvas.beginPath()
    path.moveTo(points[0, 0] * mm, points[0, 1] * mm)
    for x, y in points[1:]:
        path.lineTo(x * mm, y * mm)
    if close:
        path.close()
    canvas.drawPath(path)


def _words(canvas: Canvas, x: float, y: float, words: str, size: float) -> None:
    canvas.setFillGray(0.0)
    canvas.setFont("Helvetica", size * mm)
    canvas.drawString(x * mm, y * mm, words)


def _bar(canvas: Canvas, x: float, y: float) -> None:
    """Draw the bar of 100 mm, filled, and a mark at four inches."""
    canvas.setFillGray(0.0)
    canvas.setDash()
    canvas.rect(x * mm, y * mm, BAR * mm, 2.0 * mm, stroke=0, fill=1)
    canvas.setLineWidth(0.1 * mm)
    canvas.setStrokeGray(0.0)
    canvas.line((x + _BAR_IN) * mm, (y - 1) * mm, (x + _BAR_IN) * mm, (y + 3) * mm)
    _words(canvas, x + _BAR_IN + 3, y, "measure it first: 100 mm, and 4 in to the mark", 3.0)


def _crosses(canvas: Canvas, wide: float, tall: float) -> None:
    """Draw the crosses at which neighbours are laid over one another."""
    canvas.setLineWidth(0.1 * mm)
    canvas.setStrokeGray(0.4)
    canvas.setDash()
    half = 0.5 * OVERLAP
    for x in (MARGIN + half, MARGIN + wide - half):
        for y in (MARGIN + half, MARGIN + tall - half):
            canvas.line((x - _CROSS) * mm, y * mm, (x + _CROSS) * mm, y * mm)
            canvas.line(x * mm, (y - _CROSS) * mm, x * mm, (y + _CROSS) * mm)


def _overview(canvas: Canvas, found: Nested, tiles: list[Tile], size: tuple[float, float], name: str) -> None:
    """Draw every sheet small with its tiles, and the bar that is measured first."""
    _words(canvas, MARGIN, size[1] - MARGIN - 5, f"{name}: {len(tiles)} pages", 5.0)
    _bar(canvas, MARGIN, MARGIN + 4)
    wide, tall = (one - 2 * MARGIN for one in size)
    across = max(math.ceil(math.sqrt(len(found.sheets))), 1)
    down = max(math.ceil(len(found.sheets) / across), 1)
    room = (wide / across, (tall - 30) / down)
    # All to one scale, with room for tiles that reach over their sheet.
    page = tuple(one - 2 * MARGIN for one in size)
    widest = max([1000 * one.stock.width for one in found.sheets] + [tile.x + page[0] for tile in tiles])
    longest = max([1000 * one.stock.length for one in found.sheets] + [tile.y + page[1] for tile in tiles])
    large = max(widest / (room[0] - 6), longest / (room[1] - 10))
    for k, sheet in enumerate(found.sheets):
        left = MARGIN + (k % across) * room[0]
        low = MARGIN + 18 + (down - 1 - k // across) * room[1]
        canvas.saveState()
        canvas.translate(left * mm, low * mm)
        canvas.scale(1 / large, 1 / large)
        _sheet(canvas, sheet, 0.0, 0.0, 0.0)
        canvas.setStrokeGray(0.5)
        canvas.setLineWidth(0.2 * large * mm)
        for tile in tiles:
            if tile.sheet == k:
                canvas.rect(tile.x * mm, tile.y * mm, page[0] * mm, page[1] * mm)
                _words(canvas, tile.x + 4, tile.y + 4, _called(tile), 4.0 * large)
        canvas.restoreState()
        _words(canvas, left, low - 5, f"sheet {k + 1}", 3.5)
    canvas.showPage()
