"""Where the hinge of a control runs: at a share of the chord, or at a width of its own before the trailing edge."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import ControlSurface, Surface

#: A hinge lies no farther forward and no farther back than these shares of the chord behind it.
_LEAST, _MOST = 0.01, 1.0


def hinge_share(surface: Surface, control: ControlSurface, out: ArrayLike) -> NDArray[np.float64]:
    """Return the share of the local chord behind a control's hinge.

    Parameters
    ----------
    surface : Surface
    control : ControlSurface
        Of the surface.
    out : array_like
        Places along the panel from the surface's root, m.

    Returns
    -------
    ndarray
        At the places; a width before the trailing edge over the chord there, where a width was given.
    """
    y = np.asarray(out, float)
    if control.width is None:
        return np.full(y.shape, control.chord_fraction)
    end = control.width if control.width_out is None else control.width_out
    wide = np.interp(y, [control.start, control.end], [control.width, end])
    result: NDArray[np.float64] = np.clip(wide / _chord(surface, y), _LEAST, _MOST)
    return result


def mean_share(surface: Surface, control: ControlSurface) -> float:
    """Return the share of the wing over a control's span that lies behind its hinge, by area.

    Parameters
    ----------
    surface : Surface
    control : ControlSurface
        Of the surface.

    Returns
    -------
    float
    """
    if control.width is None:
        return control.chord_fraction
    inner = [s.y for s in surface.stations if control.start < s.y < control.end]
    y = np.unique([*np.linspace(control.start, control.end, 9), *inner])
    chord = _chord(surface, y)
    return float(np.trapezoid(hinge_share(surface, control, y) * chord, y) / np.trapezoid(chord, y))


def free_stretch(surface: Surface, low: float, high: float) -> tuple[float, float]:
    """Return the longest stretch of a trailing edge that no control has taken.

    Parameters
    ----------
    surface : Surface
    low, high : float
        Where to look, m along the panel.

    Returns
    -------
    start, end : float
        m; of no length, or less, where there is none. Of two alike the outer one.
    """
    taken = sorted((c.start, c.end) for c in surface.controls)
    edges = [low, *(min(max(y, low), high) for pair in taken for y in pair), high]
    return max(zip(edges[::2], edges[1::2], strict=True), key=lambda pair: (pair[1] - pair[0], pair[0]))


def _chord(surface: Surface, y: NDArray[np.float64]) -> NDArray[np.float64]:
    stations = surface.stations
    return np.interp(y, [s.y for s in stations], [s.chord for s in stations])
