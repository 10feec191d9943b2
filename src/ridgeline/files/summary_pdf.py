"""One page that tells an aircraft: three views to one scale, figures with bands, balance, throws, findings."""

from __future__ import annotations

import io
import textwrap
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from ridgeline.design.document import Design
from ridgeline.engine.geometry.placed import mirrored, placed
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.register import vital
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
#: The page, its margins and letters, mm; where the views end and the words begin, mm from below.
_PAGE, _EDGE, _SIZE, _WORDS = (210.0, 297.0), 14.0, 3.2, 108.0
#: A letter is about so wide for its size.
_LETTER = 0.52
#: Further figures that a builder asks for.
_MORE = ("wing.area", "wing.span", "wing.mac", "tail.volume_h", "tail.volume_v", "balance.cg_from_root", "speed.cruise",
         "speed.approach")  # fmt: skip


class View(NamedTuple):
    """Closed outlines of one view, (n, 2) m each."""

    outlines: tuple[Array, ...]

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Least and most of both axes, m."""
        every = np.vstack(self.outlines)
        (low_x, low_y), (high_x, high_y) = every.min(axis=0), every.max(axis=0)
        return float(low_x), float(low_y), float(high_x), float(high_y)


def three_views(design: Design) -> tuple[View, View, View]:
    """Return an aircraft from above (nose up), from the side (nose left) and from the front.

    Parameters
    ----------
    design : Design
        With at least one surface or body.

    Returns
    -------
    above, side, front : View
    """
    above, side, front = [], [], []
    for points, ahead in _rims(design):
        above.append(np.column_stack([points[:, 1], -points[:, 0]]))
        side.append(np.column_stack([points[:, 0], points[:, 2]]))
        front.append(ahead)
    return View(tuple(above)), View(tuple(side)), View(tuple(front))


def _rims(design: Design) -> Iterator[tuple[Array, Array]]:
    """Yield the rims of all surfaces and bodies, both sides, (n, 3) m, and what is seen of each from ahead, (k, 2)."""
    for surface in design.surfaces:
        here = placed(surface)
        rim = np.vstack([here.leading, here.trailing[::-1]])
        for one in (rim, mirrored(rim)) if surface.mirrored else (rim,):
            yield one, one[:, 1:]
    for body in design.bodies:
        rows = np.array([(s.x + body.x, 0.5 * s.width, s.z + body.z, 0.5 * s.height) for s in body.stations])
        for hand in (1.0, -1.0) if body.mirrored else (1.0,):
            x, w, z, h = rows.T
            y = np.full_like(x, hand * body.y)
            k = int(np.argmax(w * h))
            corners = ((-1, -1), (1, -1), (1, 1), (-1, 1))
            ahead = np.array([(y[k] + a * w[k], z[k] + b * h[k]) for a, b in corners])
            yield np.vstack([np.column_stack([x, y + w, z]), np.column_stack([x, y - w, z])[::-1]]), ahead
            yield np.vstack([np.column_stack([x, y, z + h]), np.column_stack([x, y, z - h])[::-1]]), ahead


def summary_pdf(design: Design, report: Report) -> bytes:
    """Return a page that tells an aircraft.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    bytes
    """
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(_PAGE[0] * mm, _PAGE[1] * mm), pageCompression=1, invariant=1)
    canvas.setTitle(design.name)
    _write(canvas, _EDGE, _PAGE[1] - _EDGE - 4, design.name, 6.0, bold=True)
    if design.note:
        _write(canvas, _EDGE, _PAGE[1] - _EDGE - 10, design.note.splitlines()[0][:90], _SIZE)
    if design.surfaces or design.bodies:
        _views(canvas, design)
    column = 0.5 * (_PAGE[0] - 2 * _EDGE)
    _column(canvas, _EDGE, _figures(design, report))
    _column(canvas, _EDGE + column + 4, [*_balance(report), *_throws(report), *_findings(report)])
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _views(canvas: Canvas, design: Design) -> None:
    """Draw the three views to one scale: above on the left, side and front on the right of it."""
    above, side, front = three_views(design)
    room = (_PAGE[0] - 2 * _EDGE - 10, _PAGE[1] - _WORDS - 2 * _EDGE - 18)
    sizes = [(view.box[2] - view.box[0], view.box[3] - view.box[1]) for view in (above, side, front)]
    wide = max(sizes[0][0], 1e-6) + max(sizes[1][0], sizes[2][0])
    tall = max(sizes[0][1], sizes[1][1] + sizes[2][1])
    scale = min(room[0] / wide, room[1] / max(tall, 1e-6))
    left, top = _EDGE, _PAGE[1] - _EDGE - 18
    _draw(canvas, above, left, top - sizes[0][1] * scale, scale)
    right = left + sizes[0][0] * scale + 10
    _draw(canvas, side, right, top - sizes[1][1] * scale, scale)
    _draw(canvas, front, right, top - sizes[1][1] * scale - 10 - sizes[2][1] * scale, scale)
    _write(canvas, left, _WORDS + 6, f"1 : {1000 / scale:.1f}", _SIZE)


def _draw(canvas: Canvas, view: View, left: float, low: float, scale: float) -> None:
    low_x, low_y, _high_x, _high_y = view.box
    canvas.setLineWidth(0.25 * mm)
    canvas.setFillGray(0.94)
    for rim in view.outlines:
        points = (rim - (low_x, low_y)) * scale + (left, low)
        path = canvas.beginPath()
        path.moveTo(points[0, 0] * mm, points[0, 1] * mm)
        for x, y in points[1:]:
            path.lineTo(x * mm, y * mm)
        path.close()
        canvas.drawPath(path, fill=1)


def _write(canvas: Canvas, x: float, y: float, words: str, size: float, *, bold: bool = False) -> None:
    canvas.setFillGray(0.0)
    canvas.setFont("Helvetica-Bold" if bold else "Helvetica", size * mm)
    canvas.drawString(x * mm, y * mm, words)


Row = tuple[str, str]


def _column(canvas: Canvas, left: float, rows: list[Row]) -> None:
    """Write rows of a label and a value; one without a value heads others; what is too long goes on below."""
    y, wide = _WORDS - 4, 0.5 * (_PAGE[0] - 2 * _EDGE) - 4
    for label, value in rows:
        if y < _EDGE:
            return
        if not value:
            y -= 1.5
            _write(canvas, left, y, label, _SIZE, bold=True)
            canvas.setLineWidth(0.15 * mm)
            canvas.line(left * mm, (y - 1.2) * mm, (left + wide) * mm, (y - 1.2) * mm)
        elif not label:
            for part in textwrap.wrap(value, int(wide / (_LETTER * _SIZE))):
                if y < _EDGE:
                    return
                _write(canvas, left, y, part, _SIZE)
                y -= 4.2
            continue
        else:
            _write(canvas, left, y, label, _SIZE)
            canvas.drawRightString((left + wide) * mm, y * mm, value)
        y -= 4.8


def _told(value: float, quantity: str) -> str:
    return str(say("{}", Measured(value, quantity)))


def _figures(design: Design, report: Report) -> list[Row]:
    rows: list[Row] = [("Figures, 90 % between", "")]
    for key in dict.fromkeys((*vital(design.power), *_MORE)):
        figure = report.figures.get(key)
        if figure is None or figure.value is None or figure.low is None or figure.high is None:
            continue
        low, high = _told(figure.low, figure.quantity), _told(figure.high, figure.quantity)
        band = "" if low == high else f"  ({low} to {high})"
        rows.append((figure.label, _told(figure.value, figure.quantity) + band))
    return rows


def _balance(report: Report) -> list[Row]:
    targets = (("Balance, behind the root's leading edge", "balance.cg_from_root"),
               ("As a share of the mean chord", "balance.cg_fraction"),
               ("First throw", "balance.first_flight"))  # fmt: skip
    rows: list[Row] = [("Balance", "")]
    for label, key in targets:
        figure = report.figures[key]
        if figure.value is not None:
            rows.append((label, _told(figure.value, figure.quantity)))
    return rows if len(rows) > 1 else []


def _throws(report: Report) -> list[Row]:
    rows: list[Row] = [("Throws, as linked", "")]
    for row in report.results.linking.rows:
        throw = row.sides[0].throw
        told = f"{_told(throw.up, 'angle')} up, {_told(throw.down, 'angle')} down"
        rows.append((row.control.kind.capitalize(), told))
    return rows if len(rows) > 1 else []


def _findings(report: Report) -> list[Row]:
    worse = [finding for finding in report.findings if finding.level in ("stop", "look")]
    rows: list[Row] = [("To look at", "")]
    rows += [("", f"{finding.level}: {finding.text}") for finding in worse]
    return rows if worse else [("Nothing to look at", "")]
