"""Cross-sections: how stiff and how strong rods, tubes, strips, sandwiches and closed shells are.

Stresses and moduli are in Pa; a section's height is up and down, square to the wing.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.structure.cases import ULTIMATE

Array = NDArray[np.float64]
#: What of two facings' stiffness is left with one and with none (second part of the handbook §16.4).
FACED = (0.03, 0.10, 1.0)
#: Wrinkling of a thin facing on its core, of the cube root of the three moduli (Hoff and Mautner's form; §16.4).
_WRINKLES = 0.5
#: Buckling of a skin held along its edges, of E (t/b)² (§16.4).
_BUCKLES = 3.6


class Section(NamedTuple):
    """One cross-section: ``area`` m², ``second`` moment m⁴ and ``modulus`` m³ in bending up and down."""

    area: float
    second: float
    modulus: float


class Caps(NamedTuple):
    """Two caps at places along a beam: ``area`` m² of both, ``second`` m⁴ and ``modulus`` m³, (n,) each."""

    area: float
    second: Array
    modulus: Array


def tube(outer: float, inner: float = 0.0) -> Section:
    """Return the section of a round rod, or of a tube.

    Parameters
    ----------
    outer, inner : float
        Diameters, m; a rod has no inner.

    Returns
    -------
    Section

    Source
    ------
    I = π (D⁴ − d⁴)/64, W = 2 I/D.
    """
    second = math.pi * (outer**4 - inner**4) / 64
    return Section(math.pi * (outer**2 - inner**2) / 4, second, 2 * second / outer)


def strip(width: float, height: float) -> Section:
    """Return the section of a strip.

    Parameters
    ----------
    width, height : float
        Along the chord, and up and down, m.

    Returns
    -------
    Section

    Source
    ------
    I = b h³/12, W = b h²/6.
    """
    return Section(width * height, width * height**3 / 12, width * height**2 / 6)


def channel(width: float, height: float, sides: float) -> Section:
    """Return the section of a channel with its web upright.

    Parameters
    ----------
    width, height : float
        Of a flange along the chord, and up and down, m.
    sides : float
        Thickness of web and flanges, m.

    Returns
    -------
    Section

    Source
    ------
    I = (b h³ − (b − t)(h − 2t)³)/12, W = 2 I/h.
    """
    second = (width * height**3 - (width - sides) * (height - 2 * sides) ** 3) / 12
    return Section(2 * width * sides + (height - 2 * sides) * sides, second, 2 * second / height)


def caps(area: float, apart: ArrayLike, thick: float = 0.0) -> Caps:
    """Return the section of two like caps, one above and one below.

    Parameters
    ----------
    area : float
        Of one, m².
    apart : array_like
        Between their middles, m.
    thick : float
        Of one, up and down, m: the stress is that of its outer face.

    Returns
    -------
    Caps

    Source
    ------
    I = A h²/2.
    """
    high = np.asarray(apart, float)
    second = area * high**2 / 2
    return Caps(2 * area, second, second / (0.5 * (high + thick)))


def allowed(strength: float, *, brittle: bool) -> float:
    """Return the stress a stock may have at limit load, Pa.

    Parameters
    ----------
    strength : float
        At which it breaks where it is brittle, at which it yields where it is not, Pa; that of a tube as it is held,
        where it splits earlier (the shipped table has it so).
    brittle : bool

    Returns
    -------
    float

    Source
    ------
    Brittle: ultimate within the strength; metal: limit within the yield (second part of the handbook §16.1, 16.2).
    """
    return strength / (ULTIMATE if brittle else 1.0)


def wrinkling(facing: float, core: float, core_shear: float) -> float:
    """Return the stress at which a facing wrinkles on its core, Pa.

    Parameters
    ----------
    facing, core : float
        Young's moduli, Pa.
    core_shear : float
        Shear modulus of the core, Pa.

    Returns
    -------
    float

    Source
    ------
    0.5 (E_f E_c G_c)^⅓ (second part of the handbook §16.4).
    """
    return float(_WRINKLES * (facing * core * core_shear) ** (1 / 3))


def skin_buckling(modulus: float, thick: float, width: float) -> float:
    """Return the stress at which a skin between two edges buckles, Pa.

    Parameters
    ----------
    modulus : float
        Pa.
    thick, width : float
        Of the skin, and between what holds it, m.

    Returns
    -------
    float

    Source
    ------
    3.6 E (t/b)² (second part of the handbook §16.4).
    """
    return _BUCKLES * modulus * (thick / width) ** 2


def closed_torsion(points: ArrayLike, wall: ArrayLike) -> float:
    """Return the torsional stiffness G J of a closed shell, N m².

    Parameters
    ----------
    points : array_like, shape (n, 2)
        Its middle line, m; closed by itself.
    wall : array_like, shape (n,) or scalar
        Stiffness G t of the wall from each point to the next, N/m.

    Returns
    -------
    float

    Source
    ------
    Bredt: 4 A²/∮ ds/(G t).
    """
    here = np.asarray(points, float)
    there = np.roll(here, -1, axis=0)
    area = 0.5 * abs(float(np.sum(here[:, 0] * there[:, 1] - there[:, 0] * here[:, 1])))
    along = np.hypot(*(there - here).T)
    return 4 * area**2 / float(np.sum(along / np.asarray(wall, float)))


def plate_torsion(wall: float, apart: float, width: float) -> float:
    """Return the torsional stiffness G J of a flat sandwich plate, N m².

    Parameters
    ----------
    wall : float
        Stiffness G t of one facing, N/m.
    apart : float
        Between the facings' middles, m.
    width : float
        Of the plate, m.

    Returns
    -------
    float

    Source
    ------
    2 G t d² b (second part of the handbook §16.5): Bredt's of a long flat box.
    """
    return 2 * wall * apart**2 * width


def open_torsion(shear: float, width: float, thick: float) -> float:
    """Return the torsional stiffness G J of an open flat section, N m².

    Parameters
    ----------
    shear : float
        Shear modulus, Pa.
    width, thick : float
        m.

    Returns
    -------
    float

    Source
    ------
    G b t³/3 (Saint-Venant, thin).
    """
    return shear * width * thick**3 / 3
