"""The forms a panel is built in: what each comes to in bending, torsion and shear, as it grows with its chord."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Printing, SurfaceBuild
from ridgeline.engine.geometry.placed import mean_chord_of, outline_over_chord
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.sections import (
    FACED,
    closed_torsion,
    open_torsion,
    plate_torsion,
    skin_buckling,
    wrinkling,
)

Array = NDArray[np.float64]
#: Paper of a board's facing: thickness m, Young's modulus, compressive strength Pa, and shear modulus Pa (second part
#: of the handbook §16.4, 16.5).
PAPER, PAPER_E, PAPER_BEARS, PAPER_G = 0.09e-3, 3.0e9, 12.0e6, 1.0e9
#: Core of a board: Young's and shear modulus, and what it bears in shear, Pa (§16.4).
CORE_E, CORE_G, CORE_SHEAR = 9.0e6, 3.5e6, 0.12e6
#: Bare foam: modulus and what it bears by its density, as of the board's core at 32 kg/m³ (in proportion, chosen).
_FOAM_AT, _FOAM_BEARS = 32.0, 0.16e6
#: Printed shells across their layers, by density: that of foaming PLA as printed and of PLA; modulus, shear modulus and
#: strength, Pa (§16.4, 16.5).
_PRINT_AT = (575.0, 1240.0)
_PRINT_E, _PRINT_G, _PRINT_BEARS = (1.0e9, 3.0e9), (0.35e9, 1.2e9), (8.0e6, 25.0e6)
#: Places along each side of a section.
_ROUND = 60


#: A quantity as a sum of a coefficient times the chord to a power.
Terms = tuple[tuple[float, int], ...]


@dataclass(frozen=True)
class Unit:
    """A section as it grows with its chord: each quantity ahead of a hinge at a share of the chord, as terms in it.

    ``bending`` and ``torsion`` N m², ``shear`` and ``shear_bears`` N; ``high`` how far the outermost face lies from the
    axis, m; ``modulus`` of what bears and the stress at ``limit`` load, Pa.
    """

    bending: Callable[[float], Terms]
    torsion: Callable[[float], Terms]
    shear: Callable[[float], Terms]
    shear_bears: Callable[[float], Terms]
    high: Terms
    modulus: float
    limit: float
    facing: str


# -- sheets -----------------------------------------------------------------------------------------------------------


def foam(density: float) -> tuple[float, float, float]:
    """Return what bare foam of a density is.

    Parameters
    ----------
    density : float
        kg/m³.

    Returns
    -------
    modulus, shear, bears : float
        Young's and shear modulus, and what it bears, Pa.
    """
    share = max(density, 1.0) / _FOAM_AT
    return share * CORE_E, share * CORE_G, share * _FOAM_BEARS


def _plate(surface: Surface, built: SurfaceBuild) -> Unit:
    return _layers(surface, built, 0.0)


def _stepped(surface: Surface, built: SurfaceBuild) -> Unit:
    return _layers(surface, built, built.doubler)


def _layers(surface: Surface, built: SurfaceBuild, doubled: float) -> Unit:
    """Return a flat sheet, doubled over a share of its chord from the nose."""
    t, faces = surface.sheet, built.board.papers
    bare = not built.board.faced
    core_e, core_g, foam_bears = foam(built.board.areal / t) if bare else (CORE_E, CORE_G, _FOAM_BEARS)
    # What is left of a board's two papers, by how many are on; the core's own bending is small beside that.
    paper = 0.0 if bare else PAPER_E * PAPER * (FACED[faces] if faces < 2 else 1.0)
    heights, high = ([-t / 2, t / 2], t / 2) if doubled <= 0 else ([-t / 2, t / 2, t / 2, 3 * t / 2], t)

    def bending(k: float) -> Terms:
        both = min(doubled, k)
        widths = np.array([k, k] if doubled <= 0 else [k, k, both, both])
        z, stiff = np.array(heights), paper * widths
        own = core_e * ((k - both) * t**3 + both * (2 * t) ** 3) / 12
        if stiff.sum() <= 0:
            return ((own, 1),)
        middle = float(np.sum(stiff * z) / np.sum(stiff))
        return ((float(np.sum(stiff * (z - middle) ** 2)) + own, 1),)

    def torsion(k: float) -> Terms:
        front = min(doubled, k)
        wall = 0.0 if bare else PAPER_G * PAPER * (FACED[faces] if faces < 2 else 1.0)
        faced = plate_torsion(wall, 2 * t, front) + plate_torsion(wall, t, k - front)
        return ((faced + open_torsion(core_g, k - front, t) + open_torsion(core_g, front, 2 * t), 1),)

    if faces and not bare:
        limit = min(PAPER_BEARS, wrinkling(PAPER_E, CORE_E, CORE_G)) / ULTIMATE
        modulus, facing = PAPER_E, "paper"
    else:
        limit, modulus, facing = foam_bears / ULTIMATE, core_e, "foam"
    tall = t if doubled <= 0 else 2 * t
    return Unit(
        bending,
        torsion,
        lambda k: ((core_g * tall * k, 1),),
        lambda k: ((CORE_SHEAR / ULTIMATE * tall * k, 1),),
        ((high, 0),),
        modulus,
        limit,
        facing,
    )


# -- closed sections --------------------------------------------------------------------------------------------------


def cell(surface: Surface, share: float) -> Array:
    """Return the closed outline ahead of a share of the chord over a unit chord; a web closes it there.

    Parameters
    ----------
    surface : Surface
    share : float
        Of the chord.

    Returns
    -------
    ndarray, shape (n, 2)
    """
    upper, lower = split(outline_over_chord(surface))
    x = 0.5 * (1 - np.cos(np.linspace(0, math.pi, _ROUND))) * share
    top = np.interp(x, np.maximum.accumulate(upper[:, 0]), upper[:, 1])
    low = np.interp(x, np.maximum.accumulate(lower[:, 0]), lower[:, 1])
    return np.vstack([np.column_stack([x, top])[::-1], np.column_stack([x, low])[1:]])


@dataclass(frozen=True)
class _Ring:
    """Second moment of a section's skin over a unit chord for a unit thickness, how high it stands, and its length."""

    second: float
    high: float
    girth: float


def _ring(points: Array) -> _Ring:
    there = np.roll(points, -1, axis=0)
    long, z = np.hypot(*(there - points).T), 0.5 * (points[:, 1] + there[:, 1])
    middle = float(np.sum(long * z) / np.sum(long))
    second = float(np.sum(long * (z - middle) ** 2))
    return _Ring(second, float(np.abs(points[:, 1] - middle).max()), float(long.sum()))


def _shell(
    surface: Surface, wall_e: float, wall_g: float, modulus: float, limit: float, shear_bears: float, facing: str
) -> Unit:
    """Return a closed shell with a wall of E t and G t, N/m."""
    high = _ring(cell(surface, 1.0)).high
    return Unit(
        lambda k: ((wall_e * _ring(cell(surface, k)).second, 3),),
        lambda k: ((closed_torsion(cell(surface, k), wall_g), 3),),
        # Skins of a closed section hardly give in shear.
        lambda k: (),
        # Upright skins and webs: two of the section's height.
        lambda k: ((4 * shear_bears * high, 1),),
        ((high, 1),),
        modulus,
        limit,
        facing,
    )


def _of_board(surface: Surface, built: SurfaceBuild) -> Unit:
    """Return a section folded or built of skins of board: their papers all round, and flat strips of board inside."""
    t, faces = surface.sheet, built.board.papers
    if built.board.faced and faces:
        limit = min(PAPER_BEARS, wrinkling(PAPER_E, CORE_E, CORE_G)) / ULTIMATE
        wall_g = faces * PAPER_G * PAPER + CORE_G * t
        return _shell(surface, faces * PAPER_E * PAPER, wall_g, PAPER_E, limit, 2 * CORE_SHEAR * t, "paper")
    core_e, core_g, bears = foam(built.board.areal / t)
    return _shell(surface, core_e * t, core_g * t, core_e, bears / ULTIMATE, 2 * CORE_SHEAR * t, "foam")


def _curved(surface: Surface, built: SurfaceBuild) -> Unit:
    """Return a single curved sheet on ribs: its arch stiffens it in bending, and it twists as an open plate does."""
    flat = _layers(surface, built, 0.0)
    upper, _lower = split(outline_over_chord(surface))
    steps = np.diff(upper, axis=0)
    long, z = np.hypot(*steps.T), 0.5 * (upper[1:, 1] + upper[:-1, 1])
    middle = float(np.sum(long * z) / long.sum())
    second, high = float(np.sum(long * (z - middle) ** 2)), float(np.abs(upper[:, 1] - middle).max())
    faces, t = built.board.papers, surface.sheet
    wall = faces * PAPER_E * PAPER if built.board.faced and faces else flat.modulus * t
    return Unit(
        lambda k: (*flat.bending(k), (wall * second, 3)),
        flat.torsion,
        flat.shear,
        flat.shear_bears,
        ((high, 1), (t / 2, 0)),
        flat.modulus,
        flat.limit,
        flat.facing,
    )


def _printed(surface: Surface, built: SurfaceBuild) -> Unit:
    wall = built.printing.line_width * max(built.printing.perimeters, 1e-3)
    modulus, shear, bears = plastic(built.printing)
    held = _between_ribs(surface, built.printing)
    limit = min(bears, skin_buckling(modulus, wall, held)) / ULTIMATE
    return _shell(surface, modulus * wall, shear * wall, modulus, limit, 0.5 * bears / ULTIMATE * wall, "plastic")


def _between_ribs(surface: Surface, printing: Printing) -> float:
    """Return how far apart what holds a printed skin stands, m: at most half the chord.

    Source
    ------
    Ribs of the section's height h every s have h/(2 s) of the area of both skins: s = h/(2 r) at a share r of ribs.
    """
    half = 0.5 * mean_chord_of(surface)
    return half if printing.ribs <= 0 else min(surface.thickness / (2 * printing.ribs), half)


def plastic(printing: Printing) -> tuple[float, float, float]:
    """Return Young's modulus, shear modulus and strength of a print across its layers, by its density.

    Parameters
    ----------
    printing : Printing

    Returns
    -------
    modulus, shear, bears : float
        Pa.

    Source
    ------
    PLA and foaming PLA of the second part of the handbook §16.4–16.5, and a power law through both in between and
    beyond (chosen: cellular plastics go with their density to the power 1.4–1.6).
    """
    share = math.log(max(printing.density, 50.0) / _PRINT_AT[0]) / math.log(_PRINT_AT[1] / _PRINT_AT[0])
    e, g, s = (low * (high / low) ** share for low, high in (_PRINT_E, _PRINT_G, _PRINT_BEARS))
    return e, g, s


def _core(surface: Surface, built: SurfaceBuild) -> Unit:
    """Return a solid foam core: its whole section bends and twists."""
    core_e, core_g, bears = foam(built.foam_density)
    upper, lower = split(outline_over_chord(surface))

    def heights(k: float) -> tuple[Array, Array, Array]:
        x = np.linspace(0, k, 2 * _ROUND)
        top = np.interp(x, np.maximum.accumulate(upper[:, 0]), upper[:, 1])
        low = np.interp(x, np.maximum.accumulate(lower[:, 0]), lower[:, 1])
        return x, top, np.minimum(low, top)

    x, top, low = heights(1.0)
    middle = float(np.trapezoid(0.5 * (top**2 - low**2), x) / max(np.trapezoid(top - low, x), 1e-12))
    high = float(max(np.abs(top - middle).max(), np.abs(low - middle).max()))

    def second(k: float) -> Terms:
        x, top, low = heights(k)
        return ((core_e * float(np.trapezoid(((top - middle) ** 3 - (low - middle) ** 3) / 3, x)), 4),)

    def twisted(k: float) -> Terms:
        x, top, low = heights(k)
        return ((core_g * float(np.trapezoid((top - low) ** 3 / 3, x)), 4),)

    def area(k: float) -> float:
        x, top, low = heights(k)
        return float(np.trapezoid(top - low, x))

    return Unit(
        second,
        twisted,
        lambda k: ((core_g * area(k), 2),),
        # The greatest shear of a full section is half as large again as its mean.
        lambda k: ((CORE_SHEAR / ULTIMATE * area(k) / 1.5, 2),),
        ((high, 1),),
        core_e,
        bears / ULTIMATE,
        "foam",
    )


#: What each form comes to; what was bought is none of them.
FORMS: dict[str, Callable[[Surface, SurfaceBuild], Unit]] = {
    "plate": _plate,
    "stepped": _stepped,
    "curved": _curved,
    "folded": _of_board,
    "folded_under": _of_board,
    "ribbed": _of_board,
    "printed": _printed,
    "core": _core,
}
