"""Stall by the critical section: where along the span the local lift first meets what its section can give."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.flap import LIMIT_SHARE
from ridgeline.engine.aero.sections import SLOPE_FACTOR
from ridgeline.engine.bands import BAND

Array = NDArray[np.float64]
#: A strip that gains less lift per radian than this never decides the stall.
_LEAST_SLOPE = 0.2


@dataclass(frozen=True)
class Stall:
    """Where a section first meets its limit: strip, airframe's lift and angle there, and share of the half span.

    ``surface`` is the index of the surface in the document, ``own`` (s,) its strips to starboard; ``control`` the pitch
    control held there, rad.
    """

    strip: int
    cl_max: float
    alpha: float
    control: float
    where: float
    role: str
    surface: int
    limits: Array
    loading: lifting.SpanLoading
    own: NDArray[np.bool_]


@dataclass(frozen=True)
class Line:
    """A straight line of cases over the angle of attack: circulation, lift and control at zero, and per radian.

    ``relief`` and ``relief_slope`` (s,) are what deflected controls add to the section limits of their strips.
    """

    zero: Array
    slope: Array
    lift_zero: float
    lift_slope: float
    control_zero: float = 0.0
    control_slope: float = 0.0
    relief: Array | float = 0.0
    relief_slope: Array | float = 0.0


def untrimmed(model: AirframeLattice) -> Line:
    """Return the line of cases with the controls neutral."""
    found = model.found
    return Line(found.zero_circulation, found.alpha_circulation, found.zero.lift, found.alpha.lift)


def _relief(model: AirframeLattice, wash: Array) -> Array:
    """Return what one radian of a control adds to each strip's limit: a share of the lift it adds at a fixed angle."""
    first = np.unique(model.solver.lattice.strip, return_index=True)[1]
    return LIMIT_SHARE * 2 * math.pi * SLOPE_FACTOR * wash[first]


def trimmed(model: AirframeLattice, cg_fraction: float, body_shift: float, couple: float = 0.0) -> Line | None:
    """Return the line of cases with the pitch control holding the moment at nothing, None without such a control.

    ``couple`` is a moment coefficient, nose up, to be held besides.

    Parameters
    ----------
    model : AirframeLattice
    cg_fraction : float
        Fraction of the mean chord.
    body_shift : float
        Of the neutral point, in mean chords.
    couple : float
        Moment coefficient besides.

    Returns
    -------
    Line or None

    Source
    ------
    The control is linear in the angle: δ = −(C_m0 + C_mα α)/C_mδ about the balance point. docs/theory.md §7.
    """
    if model.pitch_control is None or model.pitch_circulation is None:
        return None
    arm = cg_fraction - 0.25
    found, control = model.found, model.pitch_control
    moment = control.pitch + arm * control.lift
    if abs(moment) < 1e-3:
        return None
    zero = -(found.zero.pitch + arm * found.zero.lift + couple) / moment
    slope = -(found.alpha.pitch + (arm + body_shift) * found.alpha.lift) / moment
    return Line(
        found.zero_circulation + zero * model.pitch_circulation,
        found.alpha_circulation + slope * model.pitch_circulation,
        found.zero.lift + zero * control.lift,
        found.alpha.lift + slope * control.lift,
        zero,
        slope,
        zero * _relief(model, model.pitch_wash),
        slope * _relief(model, model.pitch_wash),
    )


def flap_gain(model: AirframeLattice, deflection: float, area: float) -> float:
    """Return what flaps at an effective deflection, rad, add to the airframe's lift limit.

    Parameters
    ----------
    model : AirframeLattice
    deflection : float
        Effective, rad.
    area : float
        Reference area, m².

    Returns
    -------
    float
        Of C_Lmax.

    Source
    ------
    ΔC_Lmax = Σ Δc_lmax S_strip/S over the flapped strips (DATCOM 6.1.4.3); the strips beside them may stall first, but
    their wing does not with them.
    """
    lattice = model.solver.lattice
    first = np.unique(lattice.strip, return_index=True)[1]
    strips = lifting.span_loading(lattice, np.zeros(len(lattice.area)))
    both = 1.0 + lattice.mirrored[first]
    return deflection * float(np.sum(_relief(model, model.flap_wash) * strips.width * strips.chord * both)) / area


def critical_section(model: AirframeLattice, limits: Array, line: Line | None = None) -> Stall | None:
    """Return the stall by the critical section, or None where no strip ever meets a limit.

    Parameters
    ----------
    limits : ndarray, shape (s,)
        Lift limit of each strip's section at its own Reynolds number; infinite where it is not judged.
    line : Line, optional
        The cases to follow; by default those with neutral controls.

    Source
    ------
    Critical-section method (Anderson, NACA Report 572 and 586): docs/theory.md §7.
    """
    line = line or untrimmed(model)
    lattice = model.solver.lattice
    zero = lifting.span_loading(lattice, line.zero)
    slope = lifting.span_loading(lattice, line.slope).c_l - line.relief_slope
    with np.errstate(divide="ignore", invalid="ignore"):
        angle = np.where(slope > _LEAST_SLOPE, (limits + line.relief - zero.c_l) / slope, np.inf)
    first = int(np.argmin(angle))
    alpha = float(angle[first])
    if not math.isfinite(alpha):
        return None
    sheet = int(zero.sheet[first])
    return Stall(
        first,
        line.lift_zero + alpha * line.lift_slope,
        alpha,
        line.control_zero + alpha * line.control_slope,
        float(zero.out[first]) / _reach(model, sheet),
        model.roles[sheet],
        model.owner[sheet],
        limits + line.relief + alpha * line.relief_slope,
        lifting.span_loading(lattice, line.zero + alpha * line.slope),
        (model.strip_owner == model.owner[sheet]) & (zero.y >= -1e-9),
    )


def _reach(model: AirframeLattice, sheet: int) -> float:
    lattice = model.solver.lattice
    return float(lattice.outer[lattice.sheet == sheet].max())


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
    sheets = [k for k, owner in enumerate(model.owner) if owner == stall.surface]
    mine = np.isin(lattice.sheet, sheets)
    reach = _reach(model, sheets[0])
    wash = np.where(mine, -lattice.out / reach, 0.0)
    change = lifting.span_loading(lattice, model.solver.circulation(wash, symmetric=True)).c_l
    zero = lifting.span_loading(lattice, model.found.zero_circulation)
    slope = lifting.span_loading(lattice, model.found.alpha_circulation).c_l
    for washout in np.arange(0.25, math.degrees(most) + 1e-9, 0.25):
        twist = math.radians(float(washout))
        with np.errstate(divide="ignore", invalid="ignore"):
            angle = np.where(slope > _LEAST_SLOPE, (stall.limits - zero.c_l - twist * change) / slope, np.inf)
        first = int(np.argmin(angle))
        if int(zero.sheet[first]) in sheets and zero.out[first] <= inboard * reach:
            return twist
    return None


#: Where leading-edge vortices carry the lift: low aspect ratio or strong sweep of the leading edge.
VORTEX_ASPECT, VORTEX_SWEEP = 2.5, math.radians(45)
#: Steepest angle counted on for such a wing: a landing attitude, well before its vortices burst.
VORTEX_ANGLE = math.radians(22.0)
VORTEX_SIGMA = 0.12 / BAND


def vortex_lift(slope: float, alpha: float) -> float:
    """Return C_L of a slender or strongly swept wing with leading-edge vortices.

    Parameters
    ----------
    slope : float
        Lift slope by the lattice, 1/rad: the potential-flow constant K_p.
    alpha : float
        Angle of attack from zero lift, rad.

    Source
    ------
    Polhamus, NASA TN D-3767: C_L = K_p sin α cos²α + K_v cos α sin²α with K_v = π.
    """
    s, c = math.sin(alpha), math.cos(alpha)
    return slope * s * c * c + math.pi * c * s * s
