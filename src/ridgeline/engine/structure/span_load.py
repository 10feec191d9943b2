"""What pulls on a half wing along its span: the lattice's lift of a case, less the weight that hangs there.

All of it is linear: shear and moment are found once for a unit of each thing that pulls, and a case
is a sum of those.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.structure.beam import Carried, Force, carried

Array = NDArray[np.float64]
#: What pulls: the built-in angles, one radian of angle of attack, of flaps down, of the pitch control down, and of the
#: roll control that lifts this side; each over the dynamic pressure.
PULLS = ("zero", "alpha", "flap", "pitch", "roll")


class Strips(NamedTuple):
    """Strips of one side of a surface: ends ``inner`` and ``outer`` (s,) m out, lift over q (5, s) m by `PULLS`."""

    inner: Array
    outer: Array
    lift: Array

    @property
    def total(self) -> Array:
        """Lift of the side over the dynamic pressure, m², (5,)."""
        found: Array = self.lift @ (self.outer - self.inner)
        return found


def strips_of(model: AirframeLattice, surface: int) -> Strips:
    """Return how the starboard side of a surface, or a lone one, lifts.

    Parameters
    ----------
    model : AirframeLattice
    surface : int
        Its index.

    Returns
    -------
    Strips
        The lift is that square to the panel.
    """
    lattice = model.solver.lattice
    first = np.unique(lattice.strip, return_index=True)[1]
    mine = np.array(model.owner)[lattice.sheet[first]] == surface
    sides = np.array(model.side)[lattice.sheet[first]]
    # Of a pair that is panelled on both sides the starboard one; a lone one is on whichever side it is.
    mine &= (sides >= 0) | ~np.any(mine & (sides >= 0))
    rows = np.zeros((len(PULLS), len(first)))
    found = model.found
    nothing = np.zeros(len(lattice.strip))
    # Starboard up is what turns it: what lifts this side is the other way.
    roll = nothing if model.roll_circulation is None else -model.roll_circulation
    flap = nothing if model.flap_circulation is None else model.flap_circulation
    pitch = nothing if model.pitch_circulation is None else model.pitch_circulation
    for k, flow in enumerate((found.zero_circulation, found.alpha_circulation, flap, pitch, roll)):
        rows[k] = 2 * np.bincount(lattice.strip, weights=flow) * lattice.pressure[first]
    order = np.argsort(lattice.out[first][mine])
    inner, outer = lattice.inner[first][mine][order], lattice.outer[first][mine][order]
    return Strips(inner, outer, rows[:, mine][:, order])


class SpanLoad(NamedTuple):
    """Shear and moment at stations (n,) by a unit of each thing that pulls, (5, n), over the dynamic pressure.

    ``shear`` m², ``moment`` m³. Inside a seat the moment is that at its edge, since both halves bend it alike, and
    there is no shear.
    """

    shear: Array
    moment: Array


def span_load(strips: Strips, y: Array, seat: float) -> SpanLoad:
    """Return what a side carries by each thing that pulls.

    Parameters
    ----------
    strips : Strips
    y : ndarray, shape (n,)
        Stations, m out.
    seat : float
        Edge of the seat, m out; a station among them.

    Returns
    -------
    SpanLoad

    Source
    ------
    V = ∫ l ds and M = ∫ l (s − y) ds, with the lift even over each strip: exact for the lattice's strips.
    """
    out = np.clip(strips.inner[None, :], y[:, None], None), np.clip(strips.outer[None, :], y[:, None], None)
    width = out[1] - out[0]
    arm = 0.5 * (out[1] + out[0]) - y[:, None]
    shear, moment = strips.lift @ width.T, strips.lift @ (width * arm).T
    return SpanLoad(_seated(shear, y, seat, 0.0), _seated(moment, y, seat))


def _at(rows: Array, y: Array, seat: float) -> Array:
    """Return rows at the seat's edge, (…, 1)."""
    at = int(np.searchsorted(y, seat - 1e-9))
    return rows[..., at : at + 1]


def _seated(rows: Array, y: Array, seat: float, inside: float | None = None) -> Array:
    """Return rows with what they are at the seat's edge, or a value, inside it."""
    held = y < seat - 1e-9
    found: Array = np.where(held, _at(rows, y, seat) if inside is None else inside, rows)
    return found


def within_seat(load: Carried, y: Array, seat: float) -> Carried:
    """Return a load as a seated half carries it: inside the seat the moment of its edge, and no shear.

    Parameters
    ----------
    load : Carried
    y : ndarray, shape (n,)
        Stations, m out.
    seat : float
        Edge of the seat, m out; a station among them.

    Returns
    -------
    Carried
    """
    return Carried(_seated(load.shear, y, seat, 0.0), _seated(load.moment, y, seat))


def hanging_load(
    y: ArrayLike, chord: ArrayLike, mass: float, items: Iterable[tuple[float, float]], seat: float = 0.0
) -> Carried:
    """Return shear and moment of what hangs on a half, for one times gravity: down, so negative.

    Parameters
    ----------
    y, chord : array_like, shape (n,)
        Stations from root to tip and their chords, m.
    mass : float
        Of the panel itself, kg: it lies in proportion to the chord.
    items : iterable of tuple
        Place out, m, and mass, kg, of what else hangs on the side.
    seat : float
        Edge of the seat, m out; a station among them.

    Returns
    -------
    Carried
        N and N m.
    """
    y, chord = np.asarray(y, float), np.asarray(chord, float)
    own = mass * chord / float(np.trapezoid(chord, y))
    found = carried(y, -GRAVITY * own, [Force(place, -GRAVITY * each) for place, each in items])
    return within_seat(found, y, seat)
