"""What a wing panel is without its spars: how its skins and core bend, bear and twist, by the form it is built in.

Stiffnesses are found over a unit chord once and grown with the chord: a section's shape is the same all along.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import SurfaceBuild
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.geometry.placed import mean_chord_of
from ridgeline.engine.structure.sections import (
    closed_torsion,
    plate_torsion,
)
from ridgeline.engine.structure.skin_forms import FORMS, PAPER, PAPER_E, Terms, cell, foam

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Skins:
    """A panel without spars at its stations, (n,) each.

    ``bending`` E I and ``torsion`` G J, N m²; ``bears`` the moment at limit load, N m, and ``limit`` the stress it is
    judged by, Pa; ``shear`` G A, N (0 where it does not give to speak of), and ``shear_bears`` N at limit load;
    ``axis`` share of the chord at which it bends and twists. ``facing`` tells what bears: paper, foam or plastic.
    """

    bending: Array
    torsion: Array
    bears: Array
    shear: Array
    shear_bears: Array
    axis: float
    limit: float
    facing: str


def _grown(terms: Callable[[float], Terms], chord: Array, share: Array) -> Array:
    """Return a quantity at chords, each with its own share ahead of the hinge."""
    found = np.zeros(len(chord))
    for one in np.unique(share):
        here = share == one
        found[here] = _at(terms(float(one)), chord[here])
    return found


def _at(terms: Terms, chord: Array) -> Array:
    found = np.zeros(len(chord))
    for coefficient, power in terms:
        found = found + coefficient * chord**power
    return found


def skins_of(surface: Surface, y: Array, chord: Array) -> Skins | None:
    """Return a surface's panel without its spars; None where nothing says how it is built, or it was bought.

    Parameters
    ----------
    surface : Surface
    y, chord : ndarray, shape (n,)
        Places out along the panel, and the chords there, m.

    Returns
    -------
    Skins or None

    Source
    ------
    Faced sheets, wrinkling, printed panels: second part of the handbook §16.4; torsion: §16.5; docs/theory.md §13.
    """
    built = surface.built
    if built is None or built.form == "bought":
        return None
    unit = FORMS[built.form](surface, built)
    share = np.round(_ahead_of_hinges(surface, y), 4)
    left = 1.0 if built.holes is None else _holed(surface, built)
    bending = left * _grown(unit.bending, chord, share) + _strips(surface, built)
    torsion = _grown(unit.torsion, chord, share) + _covered(surface, built, chord, share)
    return Skins(
        np.maximum(bending, 1e-9),
        np.maximum(torsion, 1e-9),
        unit.limit * bending / (unit.modulus * _at(unit.high, chord)),
        left * _grown(unit.shear, chord, share),
        left * _grown(unit.shear_bears, chord, share),
        _axis(built, float(np.mean(share))),
        unit.limit,
        unit.facing,
    )


def _axis(built: SurfaceBuild, share: float) -> float:
    """Return the share of the chord a panel bends about: the middle of a plate, before that of a closed section."""
    return (0.5 if built.form in ("plate", "curved") else 0.42) * share


def _ahead_of_hinges(surface: Surface, y: Array) -> Array:
    """Return the share of the chord that goes on from root to tip: ahead of the controls' hinges."""
    share = np.ones(len(y))
    for control in surface.controls:
        here = (y >= control.start - 1e-9) & (y <= control.end + 1e-9)
        share[here] = np.minimum(share[here], 1 - hinge_share(surface, control, y[here]))
    return np.maximum(share, 0.05)


def _holed(surface: Surface, built: SurfaceBuild) -> float:
    """Return what a row of holes leaves of a plate's width: the strips before and behind them."""
    assert built.holes is not None
    return max(1 - built.holes.size / mean_chord_of(surface), 0.1)


def _covered(surface: Surface, built: SurfaceBuild, chord: Array, share: Array) -> Array:
    """Return the torsional stiffness that what is laid on all round adds; tape over paper adds nothing."""
    covering = built.covering
    if covering is None or covering.wall * covering.layers <= 0:
        return np.zeros(len(chord))
    wall = covering.wall * covering.layers
    if built.form in ("plate", "stepped", "curved"):
        found: Array = plate_torsion(wall, surface.sheet, 1.0) * chord * share
        return found
    one = closed_torsion(cell(surface, float(np.mean(share))), wall)
    return one * chord**3


def _strips(surface: Surface, built: SurfaceBuild) -> float:
    """Return the bending stiffness of the strips of board inside a folded or ribbed panel, one over the other, N m²."""
    if built.form not in ("folded", "folded_under", "ribbed") or not built.strips:
        return 0.0
    n, t, faces = built.strips, surface.sheet, built.board.papers
    if not faces:
        core_e, _g, _bears = foam(built.board.areal / t)
        return core_e * built.strip_width * (n * t) ** 3 / 12
    middles = (np.arange(n) - 0.5 * (n - 1)) * t
    heights = np.concatenate([middles - t / 2, middles + t / 2]) if faces == 2 else middles + t / 2
    return float(PAPER_E * PAPER * built.strip_width * np.sum((heights - heights.mean()) ** 2))
