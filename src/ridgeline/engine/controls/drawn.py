"""A linkage as it is drawn from the side at true size, in the hinge's axes: section, control, servo, arm, rod, horn."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.hinges import hinge_share
from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.four_bar import turned
from ridgeline.engine.controls.linkage import Side, Travel, bars
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.geometry.section_outline import split

Array = NDArray[np.float64]
#: A servo's shaft stands this far from the end of its case, of its length (usual).
_SHAFT = 0.27
#: Points along either side of a section.
_FINE = 40


class DrawnLinkage(NamedTuple):
    """A linkage in the hinge's axes, x aft and z up, m: closed outlines (n, 2) and points (2,).

    ``panel`` ahead of the hinge, ``control`` behind it at neutral; ``servo`` its case; ``arm_centre``; ``arm_holes``
    and ``horn_holes`` (k, 2) at neutral.
    """

    panel: Array
    control: Array
    servo: Array
    arm_centre: Array
    arm_holes: Array
    horn_holes: Array


class Stand(NamedTuple):
    """Where a linkage stands at a turn of its servo: ends of arm and horn (2,), and the control's angle, rad, down."""

    arm: Array
    horn: Array
    angle: float


def drawn(
    one: Linkage, surface: Surface, control: ControlSurface, out: float, case: tuple[float, float]
) -> DrawnLinkage:
    """Return a linkage as it is drawn from the side.

    Parameters
    ----------
    one : Linkage
    surface : Surface
    control : ControlSurface
        Of the surface.
    out : float
        The horn's place along the panel, m.
    case : tuple of float
        Length and height of the servo's case as it lies, m.

    Returns
    -------
    DrawnLinkage
    """
    stations = surface.stations
    chord = float(np.interp(out, [s.y for s in stations], [s.chord for s in stations]))
    hinge = 1 - float(hinge_share(surface, control, [out])[0])
    upper, lower = (np.maximum.accumulate(side[:, 0])[:, None] * [1, 0] + side * [0, 1]
                    for side in split(outline_over_chord(surface)))  # fmt: skip

    def side(rows: Array, share: Array) -> Array:
        return np.interp(share, rows[:, 0], rows[:, 1])

    # A tape hinge lies on the skin away from the horn; what turns in the middle does so in the middle.
    skins = float(side(upper, np.array([hinge]))[0]), float(side(lower, np.array([hinge]))[0])
    level = {"tape": skins[0] if one.horn_below else skins[1]}.get(one.hinge.kind, 0.5 * (skins[0] + skins[1]))

    def placed(first: float, last: float) -> Array:
        share = np.linspace(first, last, _FINE)
        rows = np.vstack([np.column_stack([share, side(upper, share)]),
                          np.column_stack([share, side(lower, share)])[::-1]])  # fmt: skip
        return (rows - [hinge, level]) * chord

    arm, _horn = bars(one)
    long, high = case
    nose = arm.centre[0] - (1 - _SHAFT) * long
    servo = np.array([(nose, arm.centre[2] - high / 2), (nose + long, arm.centre[2] - high / 2),
                      (nose + long, arm.centre[2] + high / 2), (nose, arm.centre[2] + high / 2)])  # fmt: skip
    along = arm.vector / np.linalg.norm(arm.vector)
    radii = np.array(sorted({*one.arm_holes, one.arm})) + one.extension
    holes = arm.centre[[0, 2]] + radii[:, None] * along[[0, 2]]
    below = -1.0 if one.horn_below else 1.0
    horns = np.array([(-one.horn_ahead, below * r) for r in sorted({*one.horn_holes, one.horn})])
    return DrawnLinkage(placed(0.0, hinge), placed(hinge, 1.0), servo, arm.centre[[0, 2]], holes, horns)


def stand_at(one: Linkage, travel: Travel, turn: float, side: Side = "starboard", trim: float = 0.0) -> Stand:
    """Return where a linkage stands at a turn of its servo from neutral.

    Parameters
    ----------
    one : Linkage
    travel : Travel
    turn : float
        rad.
    side : {"starboard", "port"}
    trim : float
        Sub-trim, rad.

    Returns
    -------
    Stand
        As far as it gets where it binds.
    """
    arm, horn = bars(one, side, trim)
    there = np.isfinite(travel.motion.surface)
    held = float(np.clip(turn, travel.turns[there].min(), travel.turns[there].max())) if there.any() else 0.0
    angle = float(travel.at(held)) if there.any() else 0.0
    return Stand(turned(arm, held)[0][[0, 2]], turned(horn, angle)[0][[0, 2]], angle)


def swung(outline: Array, angle: float) -> Array:
    """Return an outline turned about the hinge, trailing edge down positive, rad."""
    c, s = math.cos(angle), math.sin(angle)
    found: Array = outline @ np.array([[c, -s], [s, c]])
    return found
