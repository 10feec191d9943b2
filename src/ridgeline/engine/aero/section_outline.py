"""Outlines of the built section forms, for drawing: mean line with the form's own thickness."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.sections import SECTIONS

Array = NDArray[np.float64]
_PLATES = ("sharp_plate", "rounded_plate", "curved_sheet")
_SHEET_SHARE = 0.025


def outline_of(form: str, thickness: float) -> list[tuple[float, float]]:
    """Return the closed outline of a section over a unit chord, from the trailing edge over the top and back.

    Parameters
    ----------
    form : str
        A key of `SECTIONS`.
    thickness : float
        Greatest thickness over chord.

    Source
    ------
    Shapes as built: plates of one thickness, a second sheet to half chord, or the four-digit thickness form
    (NACA Report 460) on the form's mean line.
    """
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 41)))
    if form == "stepped_plate":
        low = 0.5 * thickness
        return [
            (1.0, low),
            (0.5, low),
            (0.5, thickness),
            (0.02, thickness),
            (0.0, 0.7 * thickness),
            (0.0, 0.2 * low),
            (0.02, 0.0),
            (1.0, 0.0),
        ]
    camber = np.array(SECTIONS[form].camber)
    line = np.interp(x, camber[:, 0], camber[:, 1])
    half = _half_thickness(form, x, thickness)
    upper, lower = line + half, line - half
    if form == "flat_bottom":
        lower = np.minimum(lower, 0.0) * 0.1
    if form == "folded":
        upper, lower = line + _SHEET_SHARE, np.zeros_like(x)
    top = list(zip(x[::-1].tolist(), upper[::-1].tolist(), strict=True))
    return top + list(zip(x.tolist(), lower.tolist(), strict=True))


def _half_thickness(form: str, x: Array, thickness: float) -> Array:
    if form in _PLATES:
        half = np.full_like(x, 0.5 * min(thickness, 0.06))
        if form != "sharp_plate":
            half *= np.sqrt(np.clip(1 - (1 - np.minimum(x / 0.04, 1)) ** 2, 0, 1))
        return half
    t = thickness
    return 5 * t * (0.2969 * np.sqrt(x) - 0.1260 * x - 0.3516 * x**2 + 0.2843 * x**3 - 0.1036 * x**4)
