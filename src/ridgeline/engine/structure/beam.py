"""A cantilever from its root to its tip: shear and moment of any load, bend under it, and a spring that props it.

Stations ``y`` run out from the root, rising. Loads, shear and moments are positive for lift: up, tip up. What lies
between stations is taken as linear, and every integral is exact for that.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


class Force(NamedTuple):
    """A load at one place: ``y`` m out, ``force`` N up."""

    y: float
    force: float


class Carried(NamedTuple):
    """What a beam carries at its stations: shear N of all that lies farther out, and moment N m; (n,) each."""

    shear: Array
    moment: Array


class Bend(NamedTuple):
    """How a beam lies at its stations: slope rad and deflection m, up; (n,) each."""

    slope: Array
    deflection: Array


def carried(y: ArrayLike, load: ArrayLike, forces: Iterable[Force] = ()) -> Carried:
    """Return shear and moment of a spread load and of loads at places.

    Parameters
    ----------
    y : array_like, shape (n,)
        m.
    load : array_like, shape (n,)
        N/m, up.
    forces : iterable of Force
        At a station a force counts to what lies outside it; one beyond the tip acts at its own arm.

    Returns
    -------
    Carried

    Source
    ------
    V = ∫ w ds and M = ∫ w (s − y) ds from the tip inwards (statics; docs/theory.md §13).
    """
    y, w = np.asarray(y, float), np.asarray(load, float)
    h = np.diff(y)
    shear, moment = np.zeros_like(y), np.zeros_like(y)
    shear[:-1] = _from_the_tip(0.5 * h * (w[:-1] + w[1:]))
    own = h**2 * (w[:-1] + 2 * w[1:]) / 6
    moment[:-1] = _from_the_tip(own + shear[1:] * h)
    for force in forces:
        arm = force.y - y
        shear += np.where(arm > 0, force.force, 0.0)
        moment += force.force * np.clip(arm, 0.0, None)
    return Carried(shear, moment)


def _from_the_tip(steps: Array) -> Array:
    """Return the sums of what each interval adds, from the last one inwards."""
    return np.cumsum(steps[::-1])[::-1]


def _from_the_root(steps: Array) -> Array:
    """Return the sums of what each interval adds, from nothing at the root outwards."""
    found = np.zeros((*steps.shape[:-1], steps.shape[-1] + 1))
    np.cumsum(steps, axis=-1, out=found[..., 1:])
    return found


def bent(
    y: ArrayLike, load: Carried, stiffness: ArrayLike, shear_stiffness: ArrayLike | None = None, *, root: float = 0.0
) -> Bend:
    """Return the bend of a beam held at its root.

    Parameters
    ----------
    y : array_like, shape (n,)
        m.
    load : Carried
    stiffness : array_like, shape (..., n)
        In bending E I, N m²; more than nothing. Many beams at once by leading axes.
    shear_stiffness : array_like, shape (n,), optional
        In shear G A, N; no bend by shear where left out.
    root : float
        Slope at the root, rad, where it is not held level.

    Returns
    -------
    Bend
        The slope is that of bending alone.

    Source
    ------
    w″ = M/(E I) + (V/(G A))′, twice integrated with the curvature linear between stations (docs/theory.md §13).
    """
    y = np.asarray(y, float)
    h, curvature = np.diff(y), load.moment / np.asarray(stiffness, float)
    slope = root + _from_the_root(0.5 * h * (curvature[..., :-1] + curvature[..., 1:]))
    deflection = _from_the_root(slope[..., :-1] * h + h**2 * (2 * curvature[..., :-1] + curvature[..., 1:]) / 6)
    if shear_stiffness is not None:
        slid = load.shear / np.asarray(shear_stiffness, float)
        deflection = deflection + _from_the_root(0.5 * h * (slid[..., :-1] + slid[..., 1:]))
    return Bend(slope, deflection)


def prop(y: ArrayLike, load: Carried, stiffness: ArrayLike, at: float, spring: float) -> float:
    """Return the force, N down, by which a strut, thread or wire holds a bending beam back.

    Parameters
    ----------
    y : array_like, shape (n,)
        m.
    load : Carried
        Of the beam without it.
    stiffness : array_like, shape (n,)
        In bending, N m².
    at : float
        Its place, m out; more than the root.
    spring : float
        Its stiffness square to the beam, N/m; infinite for one that does not give.

    Returns
    -------
    float
        Positive where it pulls the beam down.

    Raises
    ------
    ValueError
        Where it does not stand on the beam.

    Source
    ------
    Force method: the bend at the place by the load, less that by the force, is what the spring gives.
    """
    y = np.asarray(y, float)
    if not y[0] < at <= y[-1]:
        raise ValueError(f"{at:g} m is not between root and tip, {y[0]:g} to {y[-1]:g} m")
    free = np.interp(at, y, bent(y, load, stiffness).deflection)
    unit = carried(y, np.zeros_like(y), [Force(at, 1.0)])
    gives = np.interp(at, y, bent(y, unit, stiffness).deflection)
    return float(free / (gives + 1.0 / spring))


def strain_energy(y: ArrayLike, load: Carried, stiffness: ArrayLike) -> float:
    """Return the energy of bending, J.

    Parameters
    ----------
    y : array_like, shape (n,)
        m.
    load : Carried
    stiffness : array_like, shape (n,)
        N m².

    Returns
    -------
    float

    Source
    ------
    ½ ∫ M²/(E I) dy, with moment and curvature linear between stations.
    """
    h, moment = np.diff(np.asarray(y, float)), load.moment
    curvature = moment / np.asarray(stiffness, float)
    ends = moment[:-1] * curvature[:-1] + moment[1:] * curvature[1:]
    crossed = moment[:-1] * curvature[1:] + moment[1:] * curvature[:-1]
    return float(0.5 * np.sum(h * (2 * ends + crossed) / 6))
