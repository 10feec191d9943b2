"""A nested sheet as an SVG of its true size, one group for each kind of line."""

from __future__ import annotations

import math
from xml.sax.saxutils import escape, quoteattr

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.build.pieces import LineKind
from ridgeline.engine.templates.nesting import UsedSheet

#: How each kind of line is drawn: colour, dashes in mm, and width in mm.
_DRAWN: dict[LineKind, tuple[str, str, float]] = {
    "cut": ("#000000", "", 0.25), "score": ("#1c6b6b", "4 2", 0.25), "hinge": ("#294a8a", "8 2 1 2", 0.25),
    "mark": ("#888888", "1 1.5", 0.2),
}  # fmt: skip


def sheet_svg(sheet: UsedSheet, kerf: float = 0.0, name: str = "") -> str:
    """Return a sheet as the text of an SVG.

    Parameters
    ----------
    sheet : UsedSheet
    kerf : float
        The tool's, m: contours are the way of its middle.
    name : str
        Its title.

    Returns
    -------
    str
        In millimetres, the sheet's lower edge below.
    """
    wide, long = 1000 * sheet.stock.width, 1000 * sheet.stock.length
    groups: dict[str, list[str]] = {kind: [] for kind in _DRAWN}
    texts: list[str] = []

    def down(points: NDArray[np.float64]) -> NDArray[np.float64]:
        found: NDArray[np.float64] = 1000 * np.asarray(points, float) * (1, -1) + (0, long)
        return found

    for one in sheet.laid:
        shape = one.shape(kerf)
        rings = [_path(down(np.asarray(ring.coords)[:-1])) + "Z" for ring in (shape.exterior, *shape.interiors)]
        groups["cut"].append(f'<path id={quoteattr(one.pattern.key)} d="{" ".join(rings)}"/>')
        for line in one.pattern.lines:
            groups[line.kind].append(f'<path d="{_path(down(one.points(line.points)))}"/>')
        for label in one.pattern.labels:
            x, y = down(one.points(np.array([[label.x, label.y]])))[0]
            turn = (math.degrees(label.turn + one.turn) + 180) % 360 - 180
            turn = turn - 180 if turn > 90.5 else turn + 180 if turn < -90.5 else turn
            texts.append(
                f'<text x="{x:.3f}" y="{y:.3f}" font-size="{1000 * label.size:.2f}" text-anchor="middle" '
                f'transform="rotate({-turn:.2f} {x:.3f} {y:.3f})">{escape(label.text)}</text>'
            )
    body = [f"<title>{escape(name)}</title>"] if name else []
    body.append(f'<rect width="{wide:.3f}" height="{long:.3f}" fill="none" stroke="#bbbbbb" stroke-width="0.2"/>')
    for kind, (colour, dashes, thick) in _DRAWN.items():
        dash = f' stroke-dasharray="{dashes}"' if dashes else ""
        body.append(f'<g id="{kind.upper()}" fill="none" stroke="{colour}" stroke-width="{thick}"{dash}>')
        body += [*groups[kind], "</g>"]
    body += ['<g id="TEXT" fill="#333333" font-family="sans-serif">', *texts, "</g>"]
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{long:.3f}mm" '
        f'viewBox="0 0 {wide:.3f} {long:.3f}">'
    )
    return "\n".join([head, *body, "</svg>"]) + "\n"


def _path(points: NDArray[np.float64]) -> str:
    return "M" + "L".join(f"{x:.4f} {y:.4f}" for x, y in points)
