"""The underside's scheme as an SVG to cut film by, a path for each shape, in millimetres."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape, quoteattr

from ridgeline.engine.templates.underside import Decal

#: Between two shapes, and round all of them, mm.
_APART = 8.0


def decal_svg(decals: Sequence[Decal], name: str = "") -> str:
    """Return shapes side by side as the text of an SVG, as they are seen from below.

    Parameters
    ----------
    decals : sequence of Decal
        At least one.
    name : str
        Its title.

    Returns
    -------
    str
        In millimetres.
    """
    body: list[str] = [f"<title>{escape(name)}</title>"] if name else []
    x, tall = _APART, 0.0
    for decal in decals:
        points = 1000 * decal.outline
        low, high = points.min(axis=0), points.max(axis=0)
        moved = points * (1, -1) + (x - low[0], _APART + high[1])
        path = "M" + "L".join(f"{a:.3f} {b:.3f}" for a, b in moved) + "Z"
        body.append(f'<path id={quoteattr(decal.name)} d="{path}" fill="none" stroke="#000000" stroke-width="0.2"/>')
        x, tall = x + float(high[0] - low[0]) + _APART, max(tall, float(high[1] - low[1]))
    wide, high_ = x, tall + 2 * _APART
    head = (f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high_:.3f}mm" '
            f'viewBox="0 0 {wide:.3f} {high_:.3f}">')  # fmt: skip
    return "\n".join([head, *body, "</svg>"]) + "\n"
