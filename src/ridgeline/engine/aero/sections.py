"""Sections as this trade builds them: mean line, lift limit and drag, with honest bands."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike

#: Two-dimensional lift slope of these sections against thin-airfoil theory (handbook of the trade, §14).
SLOPE_FACTOR = 0.9
CL_MAX_SIGMA = 0.15 / 1.645


@dataclass(frozen=True)
class SectionModel:
    """One built form at Re 10⁵: ``c_d = cd_0 + k (c_l − cl_0)²`` and the lift limit.

    ``camber`` is the mean line as (x, z) points over a unit chord; it gives the zero-lift angle and the moment.
    """

    label: str
    cl_max: float
    cd_0: float
    k: float
    cl_0: float
    camber: tuple[tuple[float, float], ...]


def _arc(height: float, count: int = 33) -> tuple[tuple[float, float], ...]:
    x = 0.5 * (1 - np.cos(np.linspace(0, math.pi, count)))
    return tuple((float(a), float(4 * height * a * (1 - a))) for a in x)


_FLAT = ((0.0, 0.0), (1.0, 0.0))

#: Lift limits and drag: handbook of the trade §14. Camber heights: the built forms of §7.
SECTIONS: dict[str, SectionModel] = {
    "sharp_plate": SectionModel("Flat plate", 0.70, 0.018, 0.10, 0.0, _FLAT),
    "rounded_plate": SectionModel("Flat plate, rounded nose", 0.80, 0.016, 0.07, 0.0, _FLAT),
    "stepped_plate": SectionModel(
        "Stepped plate",
        0.95,
        0.030,
        0.04,
        0.15,
        ((0.0, 0.0), (0.05, 0.012), (0.5, 0.012), (0.55, 0.0), (1.0, 0.0)),
    ),
    "curved_sheet": SectionModel("Curved sheet", 1.15, 0.020, 0.03, 0.35, _arc(0.05)),
    "folded": SectionModel("Folded sheet", 1.05, 0.025, 0.02, 0.25, ((0.0, 0.0), (0.3, 0.04), (1.0, 0.0))),
    "flat_bottom": SectionModel("Flat bottom", 1.20, 0.016, 0.011, 0.30, _arc(0.035)),
    "symmetrical": SectionModel("Symmetrical", 0.90, 0.015, 0.012, 0.0, _FLAT),
    "reflexed": SectionModel(
        "Reflexed",
        0.95,
        0.016,
        0.012,
        0.10,
        ((0.0, 0.0), (0.2, 0.022), (0.45, 0.018), (0.75, -0.003), (1.0, 0.0)),
    ),
}


@dataclass(frozen=True)
class ThinAirfoil:
    """Zero-lift angle, rad, and moment coefficient about the quarter chord."""

    alpha_0: float
    cm_quarter: float


def thin_airfoil(x: ArrayLike, z: ArrayLike) -> ThinAirfoil:
    """Integrate a piecewise-linear mean line by thin-airfoil theory, exactly segment by segment.

    Parameters
    ----------
    x, z : array_like, shape (n,)
        Mean line over a unit chord, nose to tail.

    Source
    ------
    Glauert, The Elements of Aerofoil and Airscrew Theory, ch. VII; segment integrals in docs/theory.md §7.
    """
    x, z = np.asarray(x, float), np.asarray(z, float)
    theta = np.arccos(np.clip(1 - 2 * x, -1, 1))
    slope = np.diff(z) / np.diff(x)
    alpha_0 = float(np.sum(slope * np.diff(theta - np.sin(theta)))) / math.pi
    # C_m,c/4 = (π/4)(A2 − A1) with A_n = (2/π)∫ z' cos nθ dθ.
    cm = 0.5 * float(np.sum(slope * np.diff(0.5 * np.sin(2 * theta) - np.sin(theta))))
    return ThinAirfoil(alpha_0, cm)


@lru_cache(maxsize=32)
def mean_line(form: str) -> ThinAirfoil:
    """Return the thin-airfoil values of a built form."""
    points = np.array(SECTIONS[form].camber)
    return thin_airfoil(points[:, 0], points[:, 1])


def lift_limit(form: str, reynolds: float) -> float:
    """Return c_lmax at a Reynolds number: +0.1 per doubling from 10⁵, held within ±0.2.

    Source
    ------
    Handbook of the trade §14, ±15 % (90 %).
    """
    change = 0.1 * math.log2(max(reynolds, 1.0) / 1e5)
    return SECTIONS[form].cl_max + min(max(change, -0.2), 0.2)


def drag_coefficient(form: str, c_l: ArrayLike, reynolds: ArrayLike) -> np.ndarray:
    """Return the section drag coefficient, ±30 % (90 %); c_d0 ∝ Re^−0.4, held to Re 20 000–10⁶.

    Source
    ------
    Handbook of the trade §14.
    """
    section = SECTIONS[form]
    scale = (np.clip(np.asarray(reynolds, float), 2e4, 1e6) / 1e5) ** -0.4
    return section.cd_0 * scale + section.k * (np.asarray(c_l, float) - section.cl_0) ** 2
