"""The aircraft of a design as numbers that can be flown: lattice, polar, stall and inertias put together."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import all_discs, shaft
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, fixed_area, polar_terms
from ridgeline.engine.aero.lifting import YAW_FROM_ROLL
from ridgeline.engine.aero.wash_lag import wash_lag
from ridgeline.engine.flight.craft import Aircraft, Drag
from ridgeline.engine.stages.common import Air
from ridgeline.engine.stages.sideslip import Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability
from ridgeline.engine.stages.washing import Washing
from ridgeline.engine.weights.inertia import Inertia
from ridgeline.engine.weights.rollup import MassState

Array = NDArray[np.float64]
#: Airspeeds that drag and thrust are told at, over the stall.
SPEEDS, SLOWEST, FASTEST = 40, 0.3, 4.0
#: A plate's normal force across the wind by its aspect ratio (second part of the handbook §18).
_PLATE, _PLATE_BY_ASPECT = 1.11, 0.018


def aircraft(
    surfaces: tuple[Surface, ...], model: AirframeLattice, stable: Stability, slip: Sideslip, speeds: Speeds,
    polar: DragModel, state: MassState, inertia: Inertia, air: Air,
) -> Aircraft:  # fmt: skip
    """Return the aircraft as it balances.

    Parameters
    ----------
    surfaces : tuple of Surface
    model : AirframeLattice
    stable : Stability
    slip : Sideslip
    speeds : Speeds
    polar : DragModel
    state : MassState
    inertia : Inertia
    air : Air

    Returns
    -------
    Aircraft
        Coefficients of its lattice, polar, stall and inertias.

    Source
    ------
    docs/theory.md §17.
    """
    scale, found, cg = model.scale, model.found, state.cg
    control, roll, yaw, warp = model.pitch_control, model.roll_control, model.yaw_control, model.warp
    load = 0.5 * air.density * speeds.cruise**2 * scale.area
    cruise = state.mass * GRAVITY / load
    centre = (float(cg[0] - scale.centre[0]), float(cg[2] - scale.centre[2]))
    # The bodies' own moment goes with their angle to the air.
    pitch_alpha = found.alpha.pitch + stable.body_shift * found.alpha.lift
    # Turning about the balance point moves the moment centre up or down.
    ahead = 2 * centre[0] / scale.chord
    return Aircraft(
        mass=state.mass,
        roll_inertia=inertia.roll,
        pitch_inertia=inertia.pitch,
        yaw_inertia=inertia.yaw,
        product=inertia.product,
        area=scale.area,
        span=scale.span,
        chord=scale.chord,
        centre=centre,
        lift_zero=found.zero.lift,
        lift_alpha=found.alpha.lift,
        lift_rate=found.pitch_rate.lift - found.alpha.lift * ahead,
        lift_control=0.0 if control is None else control.lift,
        pitch_zero=found.zero.pitch,
        pitch_alpha=pitch_alpha,
        pitch_rate=found.pitch_rate.pitch - pitch_alpha * ahead,
        pitch_lag=wash_lag(model, surfaces),
        pitch_control=0.0 if control is None else control.pitch,
        lift_most=speeds.cl_max,
        drag=_drag(polar, speeds.stall, air),
        normal_plate=_PLATE + _PLATE_BY_ASPECT * scale.span**2 / scale.area,
        side_beta=slip.side,
        roll_beta=slip.roll - slip.roll_by_lift * cruise,
        roll_beta_lift=slip.roll_by_lift,
        yaw_beta=slip.yaw,
        side_rate=found.yaw_rate.side,
        roll_roll=found.roll_rate.roll,
        roll_yaw=found.yaw_rate.roll - found.yaw_rate.side * slip.rise,
        roll_yaw_lift=slip.roll_by_turn / cruise,
        yaw_roll=found.roll_rate.yaw,
        yaw_roll_lift=YAW_FROM_ROLL,
        yaw_yaw=found.yaw_rate.yaw,
        roll_aileron=0.0 if roll is None else roll.roll,
        roll_rudder=0.0 if yaw is None else yaw.roll,
        yaw_rudder=0.0 if yaw is None else yaw.yaw,
        roll_zero=0.0 if warp is None else warp.roll,
        yaw_zero=0.0 if warp is None else warp.yaw,
    )


def _drag(polar: DragModel, stall: float, air: Air) -> Drag:
    """Return the polar as the simulation takes it."""
    speed = stall * np.geomspace(SLOWEST, FASTEST, SPEEDS)
    return Drag(speed, fixed_area(polar, speed, air.density, air.viscosity), *polar_terms(polar))


def line_of(train: PowerTrain, cg: Array) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """Return where all propellers together pull, m, and which way, in body axes from the balance point.

    Parameters
    ----------
    train : PowerTrain
    cg : ndarray, shape (3,)
        m, in the document's axes.

    Returns
    -------
    at, along : tuple of float
    """
    discs = np.array(all_discs(train))
    ways = []
    for mount in train.mounts:
        f = np.array(shaft(mount))
        ways += [f, f * (1, -1, 1)] if mount.mirrored else [f]
    along = np.mean(ways, axis=0)
    x, y, z = discs.mean(axis=0)
    # The document's axes run aft, to starboard and up.
    return (float(cg[0] - x), float(y - cg[1]), float(cg[2] - z)), (float(-along[0]), float(along[1]), float(-along[2]))


def tail_blown(train: PowerTrain, washing: Washing | None, area: float) -> float:
    """Return what the wash adds to the pitch control's power, over thrust over load.

    Parameters
    ----------
    train : PowerTrain
    washing : Washing or None
    area : float
        Of the wing, m².

    Returns
    -------
    float
    """
    blown = 0.0 if washing is None or washing.elevator is None else washing.elevator.share
    return blown * area / (math.pi * train.propeller.diameter**2 / 4 * train.motors)
