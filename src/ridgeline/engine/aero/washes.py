"""What each motion and each control lets through the panels: the washes that the lattice is solved for."""

from __future__ import annotations

import numpy as np

from ridgeline.engine.aero.lattice import Lattice
from ridgeline.engine.aero.lifting import Array, Scale


def wash_of_angle(lattice: Lattice) -> Array:
    """Return the wash of one radian of angle of attack, shape (n,).

    Parameters
    ----------
    lattice : Lattice

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    return lattice.normal[:, 2].copy()


def wash_of_sideslip(lattice: Lattice) -> Array:
    """Return the wash of one radian of sideslip, wind from starboard, shape (n,).

    Parameters
    ----------
    lattice : Lattice

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    return -lattice.normal[:, 1]


def wash_of_roll(lattice: Lattice, scale: Scale) -> Array:
    """Return the wash of a unit helix angle p b/2V, starboard wing going down, shape (n,).

    Parameters
    ----------
    lattice : Lattice
    scale : Scale
        Its span and moment centre.

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    r = lattice.control - scale.centre
    flow = np.column_stack([np.zeros(len(r)), -r[:, 2], r[:, 1]])
    result: Array = np.einsum("ij,ij->i", flow, lattice.normal) * 2 / scale.span
    return result


def wash_of_pitch(lattice: Lattice, scale: Scale) -> Array:
    """Return the wash of a unit pitch rate q c/2V, nose going up, shape (n,).

    Parameters
    ----------
    lattice : Lattice
    scale : Scale
        Its chord and moment centre.

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    r = lattice.control - scale.centre
    return r[:, 0] * lattice.normal[:, 2] * 2 / scale.chord


def wash_of_yaw(lattice: Lattice, scale: Scale) -> Array:
    """Return the wash of a unit yaw rate r b/2V, nose going to starboard, shape (n,).

    Parameters
    ----------
    lattice : Lattice
    scale : Scale
        Its span and moment centre.

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    r = lattice.control - scale.centre
    return r[:, 0] * lattice.normal[:, 1] * 2 / scale.span


def wash_of_control(lattice: Lattice, sheet: int, start: float, end: float, effect: Array | float) -> Array:
    """Return the wash of one radian of a control between two places along a sheet, shape (n,).

    ``effect`` is the flap effectiveness; a strip partly covered counts by its covered share.

    Parameters
    ----------
    lattice : Lattice
    sheet : int
        Which sheet it is hinged to.
    start, end : float
        Along the sheet, m.
    effect : float or ndarray, shape (n,)
        Flap effectiveness, of each panel where it differs.

    Returns
    -------
    ndarray, shape (n,)
        Onset flow through each panel along its normal, over V.
    """
    covered = np.minimum(lattice.outer, end) - np.maximum(lattice.inner, start)
    share = np.clip(covered / (lattice.outer - lattice.inner), 0.0, 1.0)
    return np.where(lattice.sheet == sheet, effect * share, 0.0)
