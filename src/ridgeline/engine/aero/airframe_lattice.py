"""The lattice of a whole airframe of the document, solved once per shape: the basis of stability, trim and stall."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.flap import flap_effectiveness, flap_lift_arm
from ridgeline.engine.aero.lattice import Sheet, Solver, build
from ridgeline.engine.aero.neutral_point import TAIL_PRESSURE_RATIO
from ridgeline.engine.aero.sections import SLOPE_FACTOR, mean_line
from ridgeline.engine.geometry.reference import TAILS, Reference
from ridgeline.engine.geometry.surfaces import placed_leading_edge, station_arrays

Array = NDArray[np.float64]
ALONG, ACROSS, LEAST_ACROSS = 4, 14, 6
PITCH_CONTROLS = ("elevator", "ruddervator", "elevon")


@dataclass(frozen=True)
class AirframeLattice:
    """A solved airframe about the quarter chord of its reference wing.

    ``pitch_control`` is one radian of every elevator, ruddervator and elevon, trailing edges down (None without
    one). ``roles`` names the role of each sheet. ``induced_k`` is C_Di/C_L² of the angle-of-attack loading.
    """

    solver: Solver
    scale: lifting.Scale
    found: lifting.Derivatives
    pitch_control: lifting.Longitudinal | None
    roles: tuple[str, ...]
    induced_k: float

    @property
    def neutral_fraction(self) -> float:
        """Neutral point of the surfaces, without bodies, as a fraction of the mean chord."""
        return 0.25 - self.found.alpha.pitch / self.found.alpha.lift

    def loading(self, alpha: float) -> lifting.SpanLoading:
        """Return the span loading at a body angle of attack, rad."""
        circulation = self.found.zero_circulation + alpha * self.found.alpha_circulation
        return lifting.span_loading(self.solver.lattice, circulation)


def _sheet(surface: Surface) -> Sheet:
    _y, chord, _x, _z, twist = station_arrays(surface)
    line = mean_line(surface.section)
    angle = surface.incidence + twist - line.alpha_0
    upright = abs(math.cos(surface.cant)) < 0.2
    return Sheet(
        placed_leading_edge(surface),
        chord,
        # An upright fin is set straight: its incidence would be a rudder trim.
        np.zeros_like(angle) if upright else angle,
        surface.mirrored,
        line.cm_quarter * SLOPE_FACTOR,
        TAIL_PRESSURE_RATIO if surface.role in (*TAILS, "fin") else 1.0,
    )


def solve_airframe(surfaces: tuple[Surface, ...], reference: Reference) -> AirframeLattice:
    """Panel and solve an airframe.

    Parameters
    ----------
    surfaces : tuple of Surface
        At least one wing among them.
    reference : Reference
        What the coefficients refer to.

    Raises
    ------
    numpy.linalg.LinAlgError
        When surfaces coincide, so that no lattice solution exists.
    """
    # Surfaces are panelled one by one, so that each gets strips by its own size.
    half = max(s.stations[-1].y for s in surfaces)
    sheets = [_sheet(s) for s in surfaces]
    counts = [max(LEAST_ACROSS, round(ACROSS * s.stations[-1].y / half)) for s in surfaces]
    solver = Solver(build(sheets, ALONG, counts))
    centre = np.array([reference.mac_x_le + 0.25 * reference.mac, 0.0, reference.z])
    scale = lifting.Scale(reference.area, reference.span, reference.mac, centre)
    found = lifting.derivatives(solver, scale)
    lift = found.alpha.lift
    drag = lifting.induced_drag(solver.lattice, found.alpha_circulation, reference.area)
    return AirframeLattice(
        solver,
        scale,
        found,
        _pitch_control(surfaces, solver, scale),
        tuple(s.role for s in surfaces),
        drag / lift**2 if lift > 0 else math.nan,
    )


def _pitch_control(surfaces: tuple[Surface, ...], solver: Solver, scale: lifting.Scale) -> lifting.Longitudinal | None:
    lattice = solver.lattice
    wash, couple = np.zeros(len(lattice.area)), np.zeros(len(lattice.area))
    for index, surface in enumerate(surfaces):
        for control in surface.controls:
            if control.kind not in PITCH_CONTROLS or surface.role == "fin":
                continue
            effect = flap_effectiveness(control.chord_fraction)
            here = lifting.wash_of_control(lattice, index, control.start, control.end, effect)
            wash += here
            # The lift of a flap acts behind the quarter chord by its thin-airfoil arm.
            couple -= 2 * math.pi * here * flap_lift_arm(control.chord_fraction)
    if not wash.any():
        return None
    circulation = solver.circulation(wash, symmetric=True)
    return lifting.longitudinal(lattice, circulation, scale, couples=couple)


@dataclass(frozen=True)
class Trim:
    """Body angle of attack and pitch control (trailing edge down positive), rad."""

    alpha: float
    control: float


def trim(model: AirframeLattice, c_l: float, cg_fraction: float, body_shift: float = 0.0) -> Trim | None:
    """Solve lift and moment about the balance point for the angle and the control, or None when they do not fix it.

    Parameters
    ----------
    c_l : float
        Lift coefficient wanted.
    cg_fraction : float
        Balance point as a fraction of the mean chord.
    body_shift : float
        Forward shift of the neutral point by the bodies, fractions of the mean chord.

    Source
    ------
    Two linear equations: docs/theory.md §7.
    """
    if model.pitch_control is None:
        return None
    arm = cg_fraction - 0.25

    def about_cg(case: lifting.Longitudinal) -> float:
        return case.pitch + arm * case.lift

    alpha, zero, control = model.found.alpha, model.found.zero, model.pitch_control
    matrix = np.array([[alpha.lift, control.lift], [about_cg(alpha) + body_shift * alpha.lift, about_cg(control)]])
    if abs(np.linalg.det(matrix)) < 1e-4:
        return None
    solved = np.linalg.solve(matrix, [c_l - zero.lift, -about_cg(zero)])
    return Trim(float(solved[0]), float(solved[1]))


@dataclass(frozen=True)
class Stall:
    """Where a section first meets its limit: strip, airframe's lift and angle there, and share of the half span."""

    strip: int
    cl_max: float
    alpha: float
    where: float
    role: str
    sheet: int
    limits: Array
    loading: lifting.SpanLoading


def critical_section(model: AirframeLattice, limits: Array) -> Stall:
    """Return the stall by the critical section: the first strip whose local lift meets its limit.

    Parameters
    ----------
    limits : ndarray, shape (s,)
        Lift limit of each strip's section at its own Reynolds number; infinite where it is not judged.

    Source
    ------
    Critical-section method (Anderson, NACA Report 572 and 586): docs/theory.md §7.
    """
    zero = lifting.span_loading(model.solver.lattice, model.found.zero_circulation)
    slope = lifting.span_loading(model.solver.lattice, model.found.alpha_circulation).c_l
    with np.errstate(divide="ignore", invalid="ignore"):
        angle = np.where(slope > 0.2, (limits - zero.c_l) / slope, np.inf)
    first = int(np.argmin(angle))
    alpha = float(angle[first])
    sheet = int(zero.sheet[first])
    reach = float(zero.out[zero.sheet == sheet].max() + 0.5 * zero.width[zero.sheet == sheet][-1])
    lift = model.found.zero.lift + alpha * model.found.alpha.lift
    return Stall(
        first, lift, alpha, float(zero.out[first]) / reach, model.roles[sheet], sheet, limits, model.loading(alpha)
    )


def washout_for(model: AirframeLattice, stall: Stall, inboard: float, most: float = 0.105) -> float | None:
    """Return the least washout of the stalling wing's tip, rad, that brings the stall inboard, or None within ``most``.

    Parameters
    ----------
    inboard : float
        Share of the half span the stall must start within.

    Source
    ------
    Twist growing in proportion to the distance out; the loading is linear in it, so one solve serves every amount.
    """
    lattice = model.solver.lattice
    mine = lattice.sheet == stall.sheet
    reach = float(lattice.out[mine].max())
    wash = np.where(mine, -lattice.out / reach, 0.0)
    change = lifting.span_loading(lattice, model.solver.circulation(wash, symmetric=True)).c_l
    zero = lifting.span_loading(lattice, model.found.zero_circulation)
    slope = lifting.span_loading(lattice, model.found.alpha_circulation).c_l
    for washout in np.arange(0.25, math.degrees(most) + 1e-9, 0.25):
        twist = math.radians(float(washout))
        with np.errstate(divide="ignore", invalid="ignore"):
            angle = np.where(slope > 0.2, (stall.limits - zero.c_l - twist * change) / slope, np.inf)
        first = int(np.argmin(angle))
        if int(zero.sheet[first]) == stall.sheet and zero.out[first] <= inboard * reach:
            return twist
    return None
