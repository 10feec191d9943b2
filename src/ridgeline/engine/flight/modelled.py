"""The aircraft that is thrown on paper: a design's own figures put into the coefficients of the simulation."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ridgeline.design.document import Design
from ridgeline.engine.aero.drag import thrust_left
from ridgeline.engine.flight.craft import Aircraft, Pull
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import open_circuit_voltage
from ridgeline.engine.report import Report
from ridgeline.engine.stages.coefficients import FASTEST, SPEEDS, line_of, tail_blown

#: Throttles that thrust is told at.
_THROTTLES = 17


def can_be_flown(report: Report) -> bool:
    """Tell whether a design has all that a simulation needs.

    Parameters
    ----------
    report : Report

    Returns
    -------
    bool
    """
    return report.results.motions is not None


def aircraft_of(report: Report) -> Aircraft:
    """Return the aircraft of a design, as it balances.

    Parameters
    ----------
    report : Report

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
    motions = report.results.motions
    if motions is None:
        raise LookupError("wing, mass, balance and motions")
    return motions.craft


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
    train, found = design.power, report.results
    state, speeds = found.masses.state, found.speeds
    if train is None or found.standing is None or state is None or speeds is None:
        return None
    link = chain(train, 1.0, design.brief.temperature_c)
    volts = train.pack_series * open_circuit_voltage(train.pack, charge)
    throttle = np.linspace(0.0, 1.0, _THROTTLES)
    speed = np.linspace(0.0, max(FASTEST * speeds.stall, 1.0), SPEEDS)
    point = solve(replace(link, open_circuit=volts), throttle[1:, None], speed[None, :], found.air.density)
    left = thrust_left(found.polar, train.propeller.diameter)
    # A windmilling or folded propeller at no throttle: nothing, as the glide of the Flight leaf has it.
    nothing = np.zeros((1, SPEEDS))
    thrust = np.concatenate([nothing, np.maximum(point.thrust, 0.0) * left])
    turns = np.maximum(np.asarray(point.omega, float), 1.0)
    torque = np.concatenate([nothing, np.maximum(point.shaft_power, 0.0) / turns * train.motors])
    at, along = line_of(train, state.cg)
    tail = tail_blown(train, found.washing, aircraft_of(report).area)
    return Pull(throttle, speed, thrust, torque, at, along, train.turning / train.motors, 1.0, tail)
