"""Sections as this trade builds them: true mean line, lift limit and drag, with honest bands."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Profile, Surface
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.placed import relative_sizes
from ridgeline.engine.geometry.section_outline import camber_of, mean_line_of, outline_of, thickness_of
from ridgeline.engine.kept import kept

#: Two-dimensional lift slope of these sections against thin-airfoil theory (handbook of the trade, §14).
SLOPE_FACTOR = 0.9
CL_MAX_SIGMA = 0.15 / BAND
#: A section from coordinates has no table of its own: its limit is guessed from camber and thickness, ±20 %.
PROFILE_SIGMA = 0.20 / BAND
#: Typical sizes over the chord: of thickness and of sheet, where none are given.
TYPICAL_THICKNESS, TYPICAL_SHEET = 0.09, 0.025
#: Lift limit gained per camber over the form's own, and how far that is trusted.
_LIMIT_PER_CAMBER, _LIMIT_RANGE = 6.0, 0.15
#: Drag of a square trailing edge per thickness over the sheet the table was read for (Hoerner, Fluid-Dynamic Drag).
_EDGE_DRAG, _PLATES = 0.15, ("sharp_plate", "rounded_plate", "stepped_plate", "curved_sheet")


class Form(NamedTuple):
    """One built form at Re 10⁵: ``c_d = cd_0 + k (c_l − cl_0)²``, its lift limit, and the camber these are for."""

    label: str
    cl_max: float
    cd_0: float
    k: float
    cl_0: float
    camber: float


#: Lift limits and drag: handbook of the trade §14; the half-symmetrical one lies between its neighbours there.
FORMS: dict[str, Form] = {
    "sharp_plate": Form("Flat plate", 0.70, 0.018, 0.10, 0.0, 0.0),
    "rounded_plate": Form("Flat plate, rounded nose", 0.80, 0.016, 0.07, 0.0, 0.0),
    "stepped_plate": Form("Stepped plate", 0.95, 0.030, 0.04, 0.15, 0.012),
    "curved_sheet": Form("Curved sheet", 1.15, 0.020, 0.03, 0.35, 0.05),
    "folded": Form("Folded sheet", 1.05, 0.025, 0.02, 0.25, 0.026),
    "flat_bottom": Form("Flat bottom", 1.20, 0.016, 0.011, 0.30, 0.032),
    "semi_symmetrical": Form("Half symmetrical", 1.05, 0.0155, 0.0115, 0.15, 0.02),
    "symmetrical": Form("Symmetrical", 0.90, 0.015, 0.012, 0.0, 0.0),
    "reflexed": Form("Reflexed", 0.95, 0.016, 0.012, 0.10, 0.022),
}
PROFILE_LABEL = "From coordinates"
_PROFILE_LIMIT = (0.70, 1.45)


@dataclass(frozen=True, eq=False)
class Section:
    """One section as built, over a unit chord.

    ``cl_max``, ``cd_0``, ``k``, ``cl_0`` at Re 10⁵ with the limit's one-sigma share ``limit_sigma``; ``outline``
    (n, 2) from the trailing edge over the top; ``line`` (m, 2) the mean line; ``alpha_0`` rad and ``cm_quarter``
    by thin-airfoil theory on it; ``thickness`` and ``camber`` over the chord.
    """

    label: str
    cl_max: float
    limit_sigma: float
    cd_0: float
    k: float
    cl_0: float
    outline: NDArray[np.float64]
    line: NDArray[np.float64]
    alpha_0: float
    cm_quarter: float
    thickness: float
    camber: float


class ThinAirfoil(NamedTuple):
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
    along, height = np.asarray(x, float), np.asarray(z, float)
    keep = np.concatenate([[True], np.diff(along) > 1e-9])
    along, height = along[keep], height[keep]
    theta = np.arccos(np.clip(1 - 2 * along, -1, 1))
    slope = np.diff(height) / np.diff(along)
    alpha_0 = float(np.sum(slope * np.diff(theta - np.sin(theta)))) / math.pi
    # C_m,c/4 = (π/4)(A2 − A1) with A_n = (2/π)∫ z' cos nθ dθ.
    cm = 0.5 * float(np.sum(slope * np.diff(0.5 * np.sin(2 * theta) - np.sin(theta))))
    return ThinAirfoil(alpha_0, cm)


def _line_of(form: str, outline: NDArray[np.float64], sheet: float) -> NDArray[np.float64]:
    if form == "stepped_plate":
        # Half the second sheet's thickness is the step of the mean line, at its front edge and at half chord.
        low, high = 0.5 * sheet, sheet
        return np.array([(0.0, low), (0.05, high), (0.5, high), (0.55, low), (1.0, low)])
    return mean_line_of(outline)


@lru_cache(maxsize=128)
def section(
    form: str, thickness: float = TYPICAL_THICKNESS, sheet: float = TYPICAL_SHEET, profile: Profile | None = None
) -> Section:
    """Return a section of a built form, or one from coordinates.

    Parameters
    ----------
    form : str
        A key of `FORMS`, or ``profile``.
    thickness, sheet : float
        Greatest thickness, and that of the sheet it is built of, over the chord.
    profile : Profile, optional
        The outline for ``profile``.

    Source
    ------
    docs/theory.md §7: table of the handbook §14 at the form's usual camber, moved with the true mean line.
    """
    if form == "profile" and profile is not None:
        return _from_profile(profile)
    base = FORMS[form]
    outline = outline_of(form, thickness, sheet)
    line = _line_of(form, outline, sheet)
    thin, camber = thin_airfoil(line[:, 0], line[:, 1]), camber_of(line)
    gain = 0.0 if base.camber == 0 else _LIMIT_PER_CAMBER * (abs(camber) - base.camber)
    share = min(max(camber / base.camber, 0.0), 2.0) if base.camber else 1.0
    edge = _EDGE_DRAG * (sheet - TYPICAL_SHEET) if form in _PLATES else 0.0
    return Section(
        base.label,
        base.cl_max + min(max(gain, -_LIMIT_RANGE), _LIMIT_RANGE),
        CL_MAX_SIGMA,
        max(base.cd_0 + edge, 0.5 * base.cd_0),
        base.k,
        base.cl_0 * share,
        outline,
        line,
        thin.alpha_0,
        thin.cm_quarter,
        thickness_of(outline),
        camber,
    )


def _from_profile(profile: Profile) -> Section:
    outline = np.array(profile.points)
    line = mean_line_of(outline)
    thin, camber, thickness = thin_airfoil(line[:, 0], line[:, 1]), camber_of(line), thickness_of(outline)
    # A symmetrical one reaches 0.9, a flat-bottomed one 1.2 at 3–4 % camber; thin noses stall early.
    limit = 0.90 + 8.0 * max(camber, 0.0) - 2.5 * max(0.06 - thickness, 0.0)
    return Section(
        profile.name,
        min(max(limit, _PROFILE_LIMIT[0]), _PROFILE_LIMIT[1]),
        PROFILE_SIGMA,
        0.015 + 0.05 * max(thickness - 0.12, 0.0),
        0.012,
        8.0 * camber,
        outline,
        line,
        thin.alpha_0,
        thin.cm_quarter,
        thickness,
        camber,
    )


@kept()
def section_of(surface: Surface) -> Section:
    """Return the section of a surface of the document, its thickness and sheet taken over the mean chord.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    Section
        Over a unit chord.
    """
    return section(surface.section, *relative_sizes(surface), surface.profile)


def lift_limit(shape: Section, reynolds: float) -> float:
    """Return c_lmax at a Reynolds number: +0.1 per doubling from 10⁵, held within ±0.2.

    Parameters
    ----------
    shape : Section
    reynolds : float

    Returns
    -------
    float
        c_lmax.

    Source
    ------
    Handbook of the trade §14, ±15 % (90 %).
    """
    change = 0.1 * math.log2(max(reynolds, 1.0) / 1e5)
    return shape.cl_max + min(max(change, -0.2), 0.2)


def drag_coefficient(shape: Section, c_l: ArrayLike, reynolds: ArrayLike) -> NDArray[np.float64]:
    """Return the section drag coefficient, ±30 % (90 %); c_d0 ∝ Re^−0.4, held to Re 20 000–10⁶.

    Parameters
    ----------
    shape : Section
    c_l : array_like
        Lift coefficient.
    reynolds : array_like

    Returns
    -------
    ndarray
        c_d.

    Source
    ------
    Handbook of the trade §14.
    """
    scale = (np.clip(np.asarray(reynolds, float), 2e4, 1e6) / 1e5) ** -0.4
    result: NDArray[np.float64] = shape.cd_0 * scale + shape.k * (np.asarray(c_l, float) - shape.cl_0) ** 2
    return result
