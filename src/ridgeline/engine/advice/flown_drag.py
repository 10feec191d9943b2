"""A measured top speed taken into the drag, by one press, and taken back by another."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.flights import LEAST_DRAG, MOST_DRAG, Learnt
from ridgeline.design.paths import Change
from ridgeline.engine.aero.drag import DRAG_SIGMA, shares
from ridgeline.engine.flight.battery import Told
from ridgeline.engine.flight.learning import drag_from_speed
from ridgeline.engine.report import Report

#: Half the step over which the slope of thrust over drag is taken, a share of the speed.
_STEP = 0.03


def learnt_from(report: Report, speed: Told) -> Learnt | None:
    """Return what a measured top speed says of the drag; None where the model does not reach that speed.

    Parameters
    ----------
    report : Report
        Of the design; what it learnt before is left out.
    speed : Told
        Airspeed at full throttle, m/s.

    Returns
    -------
    Learnt or None
    """
    flight, polar, masses = report.results.flight, report.results.polar, report.results.masses
    if flight is None or polar is None or masses.state is None:
        return None
    mass = masses.state.mass
    curves, air = flight.curves, report.results.air
    ends = speed.value * (1 - _STEP), speed.value * (1 + _STEP)
    if ends[0] < curves.speed[0] or ends[1] > curves.speed[-1]:
        return None
    bare = replace(polar, factor=1.0)

    def made_of(airspeed: float) -> tuple[float, float]:
        """Drag areas of what carries nothing, and of lifting, m²."""
        found = shares(bare, airspeed, mass, air.density, air.viscosity)
        return found.wing + found.tail + found.bodies + found.standing_out, found.lifting

    def ratio(airspeed: float) -> float:
        thrust = float(np.interp(airspeed, curves.speed, curves.thrust))
        return thrust / (0.5 * air.density * airspeed**2 * sum(made_of(airspeed)))

    here = ratio(speed.value)
    if here <= 0 or min(ratio(end) for end in ends) <= 0:
        return None
    slope = -(math.log(ratio(ends[1])) - math.log(ratio(ends[0]))) / (math.log(ends[1]) - math.log(ends[0]))
    told = drag_from_speed(
        here,
        slope,
        speed_share=speed.sigma / speed.value,
        thrust_share=flight.sigmas["thrust_at_climb"] / max(flight.thrust_at_climb, 1e-9),
        drag_share=DRAG_SIGMA,
    )
    carrying_nothing, lifting = made_of(speed.value)
    factor = (told.value * (carrying_nothing + lifting) - lifting) / carrying_nothing
    return Learnt(
        drag_factor=round(min(max(factor, LEAST_DRAG), MOST_DRAG), 4),
        drag_sigma=round(told.sigma, 4),
        drag_from="passes at full throttle",
    )


def taken_in(design: Design, learnt: Learnt) -> Change:
    """Return the edit that takes in what flights said of the drag.

    Parameters
    ----------
    design : Design
    learnt : Learnt

    Returns
    -------
    Change
    """
    update = {name: getattr(learnt, name) for name in ("drag_factor", "drag_sigma", "drag_from")}
    return Change("learnt", design.learnt.model_copy(update=update))


def taken_back(design: Design) -> Change:
    """Return the edit that goes by the reckoned drag again.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Change
    """
    return Change("learnt", design.learnt.model_copy(update={"drag_factor": None, "drag_sigma": 0.0, "drag_from": ""}))
