"""How much height there is in a panel for what lies along it."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.geometry.section_outline import split

Array = NDArray[np.float64]
#: Forms that are a sheet: what lies along them lies in it or on its faces.
SHEETS = ("plate", "stepped", "curved")


def sheet_at(surface: Surface, place: float) -> float | None:
    """Return the thickness of the sheet at a share of the chord, m; None of a form that is hollow or cut from a block.

    Parameters
    ----------
    surface : Surface
    place : float

    Returns
    -------
    float or None
    """
    built = surface.built
    if built is not None and built.form not in SHEETS:
        return None
    doubled = built is not None and built.form == "stepped" and place <= built.doubler
    return surface.sheet * (2 if doubled else 1)


def between_skins(surface: Surface, place: float, chord: ArrayLike) -> Array:
    """Return the height between the skins of a hollow form at a share of the chord, m.

    Parameters
    ----------
    surface : Surface
    place : float
    chord : array_like, shape (n,)
        m.

    Returns
    -------
    ndarray, shape (n,)
        Board is cut away half its depth on either side; a printed wall is not.
    """
    upper, lower = split(outline_over_chord(surface))
    high = np.interp(place, np.maximum.accumulate(upper[:, 0]), upper[:, 1])
    low = np.interp(place, np.maximum.accumulate(lower[:, 0]), lower[:, 1])
    built = surface.built
    printed = 0.0 if built is None else built.printing.line_width * built.printing.perimeters
    wall = {"core": 0.0, "printed": printed}.get("" if built is None else built.form, surface.sheet / 2)
    found: Array = np.maximum(float(high - low) * np.asarray(chord, float) - 2 * wall, 0.0)
    return found
