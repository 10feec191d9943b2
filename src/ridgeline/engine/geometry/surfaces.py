"""One lifting surface of the document as placed geometry: areas, spans, chords, arms."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import raised
from ridgeline.engine.geometry import planform
from ridgeline.engine.kept import kept

Array = NDArray[np.float64]


@dataclass(frozen=True)
class SurfaceGeometry:
    """What the engine needs of one surface. Lengths in m, areas in m² of both sides when mirrored.

    ``area`` is unfolded along ``y`` (a wing's stations already lie in the projection); ``area_h`` and ``area_v``
    are what it counts for horizontally and vertically: S cos²Γ and S sin²Γ (handbook of the trade; NACA Report 823).
    """

    name: str
    role: str
    sides: int
    area: float
    true_area: float
    half_span: float
    span: float
    aspect_ratio: float
    taper: float
    mean_chord: planform.MeanChord
    x_quarter: float
    z_mean: float
    cos2: float
    sin2: float
    #: Its tangent, aft positive.
    half_chord_sweep: float
    dihedral: float

    @property
    def area_h(self) -> float:
        return self.area * self.cos2

    @property
    def area_v(self) -> float:
        return self.area * self.sin2


def station_arrays(surface: Surface) -> tuple[Array, Array, Array, Array, Array]:
    """Return ``y, chord, x, z, twist`` of the stations in the surface's own axes, each of shape (n,).

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    y, chord, x, z, twist: ndarray, shape (n,)
        m, and rad.
    """
    rows = np.array([(s.y, s.chord, s.x, s.z, s.twist) for s in surface.stations], float)
    return rows[:, 0], rows[:, 1], rows[:, 2], rows[:, 3], rows[:, 4]


@kept()
def measure_surface(surface: Surface) -> SurfaceGeometry:
    """Integrate a surface of the document.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    SurfaceGeometry
        m and m².

    Source
    ------
    docs/theory.md §2 (integrals) and §4 (what a canted panel counts for).
    """
    y, chord, x, z, _twist = station_arrays(surface)
    mean = planform.mean_aerodynamic_chord(y, chord, x)
    areas = planform.panel_areas(y, chord)
    sides = 2 if surface.mirrored else 1
    area = sides * float(areas.sum())
    true = sides * float(np.sum(areas * np.hypot(np.diff(y), np.diff(z)) / np.diff(y)))
    # A lone panel counts from root to tip: a fin's span is its own height.
    span = sides * float(y[-1] - y[0]) + (2 * float(y[0]) if surface.mirrored else 0.0)
    z_here = float(np.interp(mean.y, y, z))
    # Equivalent dihedral: panel angles weighted by area times distance out, both as the rolling moment is.
    mid = 0.5 * (y[1:] + y[:-1])
    drooped = z + (surface.droop or 0.0) * ((y - y[0]) / (y[-1] - y[0])) ** 2
    slope = np.arctan2(np.diff(drooped), np.diff(y))
    cos2 = math.cos(surface.cant) ** 2
    return SurfaceGeometry(
        name=surface.name,
        role=surface.role,
        sides=sides,
        area=area,
        true_area=true,
        half_span=float(y[-1]),
        span=span,
        aspect_ratio=span**2 / area,
        taper=float(chord[-1] / chord[0]),
        mean_chord=mean,
        x_quarter=surface.x + mean.x_leading_edge + 0.25 * mean.length,
        z_mean=raised(surface, mean.y, z_here)[1],
        cos2=cos2,
        sin2=1.0 - cos2,
        half_chord_sweep=planform.sweep_tangent(y, chord, x, 0.5),
        dihedral=surface.cant + float(np.sum(areas * mid * slope) / np.sum(areas * mid)),
    )
