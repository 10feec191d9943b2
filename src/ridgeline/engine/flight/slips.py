"""What a build can be off by, and what that does to the coefficients of the simulation: first-order columns."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, Cases
from ridgeline.engine.flight.craft import Aircraft, Number, Pull
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.kept import kept


class Slips(NamedTuple):
    """What a build is off by: nothing of each by default, a number or one for each build.

    ``balance`` m aft; ``mass``, ``lift_most`` and ``neutral`` shares (of the mass, of the lift limit, and of the mean
    chord aft); ``wing`` and ``tail`` incidence rad nose up; ``washout`` rad of the tips nose down; ``warp`` rad of the
    starboard tip nose up and the port one down; ``down`` and ``side`` of the thrust line, rad downward and to
    starboard; and the logarithms of what thrust, drag, resistance and capacity of the pack and the throws are times
    the reckoned.
    """

    balance: Number = 0.0
    mass: Number = 0.0
    wing: Number = 0.0
    tail: Number = 0.0
    washout: Number = 0.0
    warp: Number = 0.0
    thrust: Number = 0.0
    down: Number = 0.0
    side: Number = 0.0
    drag: Number = 0.0
    resistance: Number = 0.0
    capacity: Number = 0.0
    throws: Number = 0.0
    neutral: Number = 0.0
    lift_most: Number = 0.0


@dataclass(frozen=True)
class Columns:
    """Lift and pitch of a radian of each, and the roll of a radian of warp; the tail's nothing without one."""

    wing: lifting.Longitudinal
    tail: lifting.Longitudinal
    washout: lifting.Longitudinal
    warp: float
    flap: lifting.Longitudinal


_NOTHING = lifting.Longitudinal(0.0, 0.0)


@kept()
def columns_of(model: AirframeLattice, surfaces: tuple[Surface, ...]) -> Columns:
    """Return what incidences and twists of an airframe are worth.

    Parameters
    ----------
    model : AirframeLattice
    surfaces : tuple of Surface

    Returns
    -------
    Columns
        Coefficients about the moment centre, 1/rad; washout growing in proportion to the distance out.
    """
    lattice, scale = model.solver.lattice, model.scale
    cases = Cases(surfaces, lattice, list(model.owner), list(model.side), scale)
    level, handed = cases.incidence(WINGS), cases.handed(WINGS)
    out = lattice.out / max(float(lattice.out[level != 0].max()), 1e-9) if level.any() else lattice.out
    even = model.solver.circulation(-level * out, symmetric=True)
    odd = model.solver.circulation(handed * out, symmetric=False)
    return Columns(
        wing=model.wing_angle,
        tail=model.tail_angle or _NOTHING,
        washout=lifting.longitudinal(lattice, even, scale),
        # Starboard nose up rolls it to port, which is told negative.
        warp=lifting.lateral(lattice, odd, scale).roll,
        flap=model.flap or _NOTHING,
    )


def slipped(craft: Aircraft, pull: Pull | None, columns: Columns, slips: Slips) -> tuple[Aircraft, Pull | None]:
    """Return an aircraft and its pull as built with slips.

    Parameters
    ----------
    craft : Aircraft
    pull : Pull or None
    columns : Columns
        Of the same airframe.
    slips : Slips

    Returns
    -------
    Aircraft, Pull or None
    """
    chord, span, moved, more = craft.chord, craft.span, slips.balance, 1 + np.asarray(slips.mass)
    x, z = craft.centre
    ahead = 2 * moved / chord
    away = slips.neutral * craft.lift_alpha
    built = replace(
        craft,
        mass=craft.mass * more,
        roll_inertia=craft.roll_inertia * more,
        pitch_inertia=craft.pitch_inertia * more,
        yaw_inertia=craft.yaw_inertia * more,
        product=craft.product * more,
        centre=(x + moved, z),
        lift_zero=craft.lift_zero + slips.wing * columns.wing.lift + slips.tail * columns.tail.lift
        + slips.washout * columns.washout.lift,
        pitch_zero=craft.pitch_zero + slips.wing * columns.wing.pitch + slips.tail * columns.tail.pitch
        + slips.washout * columns.washout.pitch,
        pitch_alpha=craft.pitch_alpha - away,
        lift_rate=craft.lift_rate - craft.lift_alpha * ahead,
        pitch_rate=craft.pitch_rate - craft.pitch_alpha * ahead,
        lift_most=craft.lift_most * (1 + np.asarray(slips.lift_most)),
        yaw_beta=craft.yaw_beta + craft.side_beta * moved / span,
        roll_zero=craft.roll_zero + slips.warp * columns.warp,
        roll_aileron=craft.roll_aileron * np.exp(slips.throws),
        roll_rudder=craft.roll_rudder * np.exp(slips.throws),
        yaw_rudder=craft.yaw_rudder * np.exp(slips.throws),
        drag=replace(craft.drag, factor=craft.drag.factor * np.exp(slips.drag)),
    )  # fmt: skip
    if pull is None:
        return built, None
    (px, py, pz), (ax, ay, az) = pull.at, pull.along
    turned = replace(
        pull,
        at=(px + moved, py, pz),
        along=(ax, ay + slips.side * ax, az + slips.down * ax),
        factor=pull.factor * np.exp(slips.thrust),
    )
    return built, turned
