"""The aircraft that is thrown on paper: a design's own figures put into the coefficients of the simulation."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.axes import all_discs, shaft
from ridgeline.design.document import Design
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, Cases
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, fixed_area, polar_terms, thrust_left
from ridgeline.engine.flight.craft import Aircraft, Drag, Pull
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.kept import kept
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import open_circuit_voltage
from ridgeline.engine.report import Report
from ridgeline.engine.stages.motions import YAW_FROM_ROLL

Array = NDArray[np.float64]
#: Airspeeds that drag and thrust are told at, over the stall, and throttles.
_SPEEDS, _SLOWEST, _FASTEST, _THROTTLES = 40, 0.3, 4.0, 17
#: A plate's normal force across the wind by its aspect ratio (second part of the handbook §18).
_PLATE, _PLATE_BY_ASPECT = 1.11, 0.018


class _Parts:
    """The results a simulation needs; all of them are there."""

    def __init__(self, report: Report) -> None:
        found = report.results
        lattice, stable, slip, speeds = found.lattice, found.stability, found.sideslip, found.speeds
        polar, motions, state, balance = found.polar, found.motions, found.masses.state, found.balance
        if (
            lattice is None or stable is None or slip is None or speeds is None or polar is None or motions is None
            or state is None or balance is None
        ):  # fmt: skip
            raise LookupError("wing, mass, balance and motions")
        self.lattice, self.stable, self.slip, self.speeds = lattice, stable, slip, speeds
        self.polar, self.motions, self.state, self.balance, self.air = polar, motions, state, balance, found.air


def can_be_flown(report: Report) -> bool:
    """Tell whether a design has all that a simulation needs.

    Parameters
    ----------
    report : Report

    Returns
    -------
    bool
    """
    try:
        _Parts(report)
    except LookupError:
        return False
    return True


@kept()
def wash_lag(model: AirframeLattice, surfaces: tuple[Any, ...]) -> float:
    """Return C_mα̇: the pitch of a turning angle, since the tail meets the wash of a moment ago.

    Parameters
    ----------
    model : AirframeLattice
    surfaces : tuple of Surface

    Returns
    -------
    float
        Per unit α̇ c̄/2V; nothing without a tail behind the wing.

    Source
    ------
    C_mα̇ = ε′ C_mq of the tail (second part of the handbook §18); ε′ by the lattice: what the tail lifts with the whole
    aircraft's angle, over what it lifts by its own.
    """
    tail = model.tail_angle
    if tail is None or not any(role in TAILS for role in model.roles):
        return 0.0
    lattice, scale = model.solver.lattice, model.scale
    wash = Cases(surfaces, lattice, list(model.owner), list(model.side), scale).incidence(TAILS)
    mine = wash != 0
    if not mine.any():
        return 0.0
    own = model.solver.circulation(wash, symmetric=True)
    alone = lifting.longitudinal(lattice, np.where(mine, own, 0.0), scale)
    whole = lifting.longitudinal(lattice, np.where(mine, model.found.alpha_circulation, 0.0), scale)
    behind = -alone.pitch / alone.lift
    if behind <= 0:
        # A foreplane stands ahead of the wash.
        return 0.0
    downwash = 1 - whole.lift / alone.lift
    return float(downwash * alone.pitch * 2 * behind)


def aircraft_of(design: Design, report: Report) -> Aircraft:
    """Return the aircraft of a design, as it balances.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    Aircraft
        Coefficients of its lattice, polar, stall and inertias.

    Raises
    ------
    LookupError
        Where wing, mass or balance are missing: see `can_be_flown`.

    Source
    ------
    docs/theory.md §17.
    """
    parts = _Parts(report)
    model, slip, stable = parts.lattice, parts.slip, parts.stable
    scale, found, cg = model.scale, model.found, parts.state.cg
    inertia, control = parts.motions.inertia, model.pitch_control
    roll, yaw = model.roll_control, model.yaw_control
    warp = model.warp
    return Aircraft(
        mass=parts.state.mass,
        roll_inertia=inertia.roll,
        pitch_inertia=inertia.pitch,
        yaw_inertia=inertia.yaw,
        area=scale.area,
        span=scale.span,
        chord=scale.chord,
        centre=(float(cg[0] - scale.centre[0]), float(cg[2] - scale.centre[2])),
        lift_zero=found.zero.lift,
        lift_alpha=found.alpha.lift,
        lift_rate=found.pitch_rate.lift,
        lift_control=0.0 if control is None else control.lift,
        pitch_zero=found.zero.pitch,
        # The bodies' own moment goes with their angle to the air.
        pitch_alpha=found.alpha.pitch + stable.body_shift * found.alpha.lift,
        pitch_rate=found.pitch_rate.pitch,
        pitch_lag=wash_lag(model, design.surfaces),
        pitch_control=0.0 if control is None else control.pitch,
        lift_most=parts.speeds.cl_max,
        drag=drag_of(parts.polar, parts.speeds.stall, parts.air.density, parts.air.viscosity),
        normal_plate=_PLATE + _PLATE_BY_ASPECT * scale.span**2 / scale.area,
        side_beta=slip.side,
        roll_beta=slip.roll - slip.roll_by_lift * _cruise_lift(parts),
        roll_beta_lift=slip.roll_by_lift,
        yaw_beta=slip.yaw,
        side_rate=found.yaw_rate.side,
        roll_roll=found.roll_rate.roll,
        roll_yaw=found.yaw_rate.roll - found.yaw_rate.side * slip.rise,
        roll_yaw_lift=slip.roll_by_turn / _cruise_lift(parts),
        yaw_roll=found.roll_rate.yaw,
        yaw_roll_lift=YAW_FROM_ROLL,
        yaw_yaw=found.yaw_rate.yaw,
        roll_aileron=0.0 if roll is None else roll.roll,
        roll_rudder=0.0 if yaw is None else yaw.roll,
        yaw_rudder=0.0 if yaw is None else yaw.yaw,
        roll_zero=0.0 if warp is None else warp.roll,
        yaw_zero=0.0 if warp is None else warp.yaw,
    )


def _cruise_lift(parts: _Parts) -> float:
    load = 0.5 * parts.air.density * parts.speeds.cruise**2 * parts.lattice.scale.area
    return float(parts.state.mass * GRAVITY / load)


def drag_of(polar: DragModel, stall: float, density: float, viscosity: float) -> Drag:
    """Return the polar as the simulation takes it.

    Parameters
    ----------
    polar : DragModel
    stall : float
        m/s.
    density, viscosity : float
        Of the air, kg/m³ and Pa s.

    Returns
    -------
    Drag
    """
    speed = stall * np.geomspace(_SLOWEST, _FASTEST, _SPEEDS)
    terms = polar_terms(polar)
    return Drag(speed, fixed_area(polar, speed, density, viscosity), *terms)


def pull_of(design: Design, report: Report, charge: float = 1.0) -> Pull | None:
    """Return what a design's propellers pull, by throttle and airspeed; None without a motor.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    charge : float
        State of charge of its packs; full as it is thrown.

    Returns
    -------
    Pull or None
    """
    train, parts = design.power, _Parts(report)
    if train is None or report.results.standing is None:
        return None
    link = chain(train, 1.0, design.brief.temperature_c)
    volts = train.pack_series * open_circuit_voltage(train.pack, charge)
    throttle = np.linspace(0.0, 1.0, _THROTTLES)
    ends = max(_FASTEST * parts.speeds.stall, 1.0)
    speed = np.linspace(0.0, ends, _SPEEDS)
    point = solve(replace(link, open_circuit=volts), throttle[1:, None], speed[None, :], parts.air.density)
    left = thrust_left(parts.polar, train.propeller.diameter)
    # A windmilling or folded propeller at no throttle: nothing, as the glide of the Flight leaf has it.
    nothing = np.zeros((1, _SPEEDS))
    thrust = np.concatenate([nothing, np.maximum(point.thrust, 0.0) * left])
    turns = np.maximum(np.asarray(point.omega, float), 1.0)
    torque = np.concatenate([nothing, np.maximum(point.shaft_power, 0.0) / turns * train.motors])
    at, along = _line(train, parts.state.cg)
    washing = report.results.washing
    blown = 0.0 if washing is None or washing.elevator is None else washing.elevator.share
    disc = math.pi * train.propeller.diameter**2 / 4 * train.motors
    tail = blown * parts.lattice.scale.area / disc
    return Pull(throttle, speed, thrust, torque, at, along, train.turning / train.motors, 1.0, tail)


def _line(train: PowerTrain, cg: Array) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """Return where all propellers together pull, and which way, in body axes from the balance point."""
    discs = np.array(all_discs(train))
    ways = []
    for mount in train.mounts:
        f = np.array(shaft(mount))
        ways += [f, f * (1, -1, 1)] if mount.mirrored else [f]
    along = np.mean(ways, axis=0)
    x, y, z = discs.mean(axis=0)
    # The document's axes run aft, to starboard and up.
    return (float(cg[0] - x), float(y - cg[1]), float(cg[2] - z)), (float(-along[0]), float(along[1]), float(-along[2]))
