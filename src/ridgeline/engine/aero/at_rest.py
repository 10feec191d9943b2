"""Where an aircraft trims with its pitch controls as they are set at rest, and the balance that trims it at a lift."""

from __future__ import annotations

import numpy as np

from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.attitude import LEVEL, Height, drag_couple
from ridgeline.engine.roots import root_in

#: Lift coefficients between which a trim is looked for, the upper one over the lift limit (chosen).
_LEAST, _OVER, _LOOKED = 0.02, 1.2, 25
_STEEPEST = 1.2


def moment_at(
    model: AirframeLattice, c_l: float, control: float, cg_fraction: float, body_shift: float, height: Height
) -> float:
    """Return the moment coefficient about the balance point at a lift with the pitch control at an angle, nose up.

    Parameters
    ----------
    model : AirframeLattice
    c_l : float
    control : float
        rad, trailing edge down; counts for nothing without a pitch control.
    cg_fraction : float
    body_shift : float
        Forward shift of the neutral point by the bodies, fractions of the mean chord.
    height : Height

    Returns
    -------
    float
    """
    found, pitch = model.found, model.pitch_control
    lift, turn = (0.0, 0.0) if pitch is None else (pitch.lift * control, pitch.pitch * control)
    alpha = (c_l - found.zero.lift - lift) / found.alpha.lift
    # Every lift is about the quarter chord; the body's own moment goes with its angle.
    arm = cg_fraction - 0.25 + height.value * np.tan(np.clip(alpha, -_STEEPEST, _STEEPEST))
    slope = found.alpha.pitch + body_shift * found.alpha.lift
    return float(found.zero.pitch + turn + slope * alpha + arm * c_l + drag_couple(height, c_l))


def lift_at_rest(
    model: AirframeLattice,
    most: float,
    control: float,
    cg_fraction: float,
    body_shift: float = 0.0,
    height: Height = LEVEL,
) -> float | None:
    """Return the lift coefficient at which it trims with its pitch control at an angle.

    Parameters
    ----------
    model : AirframeLattice
    most : float
        The lift limit.
    control : float
        rad, trailing edge down.
    cg_fraction : float
    body_shift : float
    height : Height

    Returns
    -------
    float or None
        None where it trims nowhere between hardly any lift and somewhat past the stall.
    """  # fmt: skip
    looked = np.linspace(_LEAST, _OVER * most, _LOOKED)
    moments = [moment_at(model, float(c_l), control, cg_fraction, body_shift, height) for c_l in looked]
    for k in range(_LOOKED - 1):
        # Stable only where more lift brings the nose down.
        if moments[k] >= 0 > moments[k + 1]:
            return root_in(lambda c_l: moment_at(model, c_l, control, cg_fraction, body_shift, height),
                           float(looked[k]), float(looked[k + 1]), 1e-6)  # fmt: skip
    return None


def balance_for(
    model: AirframeLattice, c_l: float, control: float, body_shift: float = 0.0, height: Height = LEVEL
) -> float:
    """Return the balance point, as a fraction of the mean chord, at which it trims at a lift; see `lift_at_rest`.

    Parameters
    ----------
    model : AirframeLattice
    c_l : float
    control : float
        rad, trailing edge down.
    body_shift : float
    height : Height

    Returns
    -------
    float
    """
    return -moment_at(model, c_l, control, 0.0, body_shift, height) / c_l
