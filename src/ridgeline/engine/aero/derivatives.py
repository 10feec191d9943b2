"""All derivatives of an airframe at once: one lift and moment for each way the air can meet it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridgeline.engine.aero.lattice import Solver
from ridgeline.engine.aero.lifting import Array, Lateral, Longitudinal, Scale, lateral, longitudinal
from ridgeline.engine.aero.washes import wash_of_angle, wash_of_pitch, wash_of_roll, wash_of_sideslip, wash_of_yaw


@dataclass(frozen=True)
class Derivatives:
    """The stability derivatives of a lattice about a moment centre, per radian or per unit rate.

    ``zero`` is the case of built-in angles at zero body angle, with the sections' own moments.
    """

    zero: Longitudinal
    alpha: Longitudinal
    pitch_rate: Longitudinal
    beta: Lateral
    roll_rate: Lateral
    yaw_rate: Lateral
    zero_circulation: Array
    alpha_circulation: Array
    beta_circulation: Array
    yaw_circulation: Array

    def neutral_point(self, scale: Scale) -> float:
        """Return the place behind the datum where lift from angle of attack acts, m."""
        return float(scale.centre[0] - scale.chord * self.alpha.pitch / self.alpha.lift)


def derivatives(solver: Solver, scale: Scale) -> Derivatives:
    """Solve the basic cases and sum them.

    Parameters
    ----------
    solver : Solver
        The factored lattice.
    scale : Scale

    Returns
    -------
    Derivatives
        Per radian and per unit rate, about the scale's centre.
    """
    lattice = solver.lattice
    even = np.column_stack([lattice.angle, wash_of_angle(lattice), wash_of_pitch(lattice, scale)])
    odd = np.column_stack([wash_of_sideslip(lattice), wash_of_roll(lattice, scale), wash_of_yaw(lattice, scale)])
    zero, alpha, pitch = solver.circulation(even, symmetric=True).T
    beta, roll, yaw = solver.circulation(odd, symmetric=False).T
    return Derivatives(
        longitudinal(lattice, zero, scale, couples=lattice.moment),
        longitudinal(lattice, alpha, scale),
        longitudinal(lattice, pitch, scale),
        lateral(lattice, beta, scale),
        lateral(lattice, roll, scale),
        lateral(lattice, yaw, scale),
        zero,
        alpha,
        beta,
        yaw,
    )
