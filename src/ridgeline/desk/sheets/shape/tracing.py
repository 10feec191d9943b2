"""Edges of a picture under a view, found near a hand that draws over it."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from PySide6.QtGui import QImage

from ridgeline.design.document import Design
from ridgeline.design.underlay import Underlay, ViewName
from ridgeline.desk.sheets.shape.underlay import image_of

#: An edge is a step of at least this share of the whole way from black to white, within so many pixels.
_STEP, _WIDE = 0.12, 2


@lru_cache(maxsize=4)
def _greys(picture: str) -> NDArray[np.float64]:
    """Return the brightness of a picture, (rows, columns), 0 to 1; none of a picture that is none."""
    image = image_of(picture)
    if image.isNull():
        return np.zeros((0, 0))
    grey = image.convertToFormat(QImage.Format.Format_Grayscale8)
    rows = np.frombuffer(grey.constBits(), np.uint8).reshape(grey.height(), grey.bytesPerLine())
    return rows[:, : grey.width()] / 255.0


def edge_near(
    design: Design, view: ViewName, across: float, along: float, way: Literal["across", "along"], reach: float
) -> float | None:
    """Return where an edge of a picture under a view crosses a line through a place, nearest to it.

    Parameters
    ----------
    design : Design
    view : str
    across, along : float
        The place in the picture's axes, m.
    way : {"across", "along"}
        Which way the line runs.
    reach : float
        How far from the place an edge is looked for, m.

    Returns
    -------
    float or None
        Its coordinate along the line, m; None where there is no picture or no edge.
    """
    for under in design.underlays:
        if under.view == view and under.shown:
            found = _in_picture(under, across, along, way, reach)
            if found is not None:
                return found
    return None


def _in_picture(under: Underlay, across: float, along: float, way: str, reach: float) -> float | None:
    greys, size = _greys(under.picture), under.metres_per_pixel
    column, row = (across - under.across) / size, (along - under.along) / size
    line = greys[:, int(column)] if way == "along" and 0 <= column < greys.shape[1] else None
    if way == "across" and 0 <= row < greys.shape[0]:
        line = greys[int(row)]
    if line is None or len(line) < 2 * _WIDE + 1:
        return None
    here = row if way == "along" else column
    step = np.abs(line[_WIDE:] - line[:-_WIDE])
    places = np.arange(len(step)) + 0.5 * _WIDE + 0.5
    near = np.abs(places - here) <= reach / size
    if not near.any() or step[near].max() < _STEP:
        return None
    # The strongest edge there is; of a broad one its middle.
    strong = near & (step >= 0.9 * step[near].max())
    first = int(np.argmin(np.where(strong, np.abs(places - here), np.inf)))
    run = [k for k in range(first - _WIDE, first + _WIDE + 1) if 0 <= k < len(step) and strong[k]]
    start = under.along if way == "along" else under.across
    return float(start + size * np.mean(places[run]))
