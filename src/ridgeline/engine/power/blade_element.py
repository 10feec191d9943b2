"""Blade elements with tip loss: thrust and power coefficients of a propeller family over the advance ratio.

Each element's circulation is matched to the momentum its annulus takes up. The unknown is the angle ψ that turns the
undisturbed velocity into twice the velocity at the blade, so that one formula serves from standing to windmilling.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: Elements along the blade, cosine-spaced toward the tip, and the hub's share of the radius.
_ELEMENTS, HUB = 20, 0.15
#: The tip speed coefficients are told at where none is given, m/s: the middle of 4–7 krpm at 8–11 in.
TIP_SPEED = 70.0
_VISCOSITY = 1.46e-5
#: Halvings of the bracket first, for the kinks of stall and tip loss; then secant steps.
_HALVINGS, _STEPS = 6, 16
#: Low-Re lift slope: 0.9 of thin-airfoil theory (handbook of the trade §14).
_LIFT_SLOPE = 0.9 * 2 * math.pi
_RE_REFERENCE, _RE_EXPONENT = 1e5, 0.4
#: Turning blades stall late: this times (c/r)² of what the section's lift falls short of the attached flow's comes
#: back (form after Snel, Houwink and Bosschers 1993, whose 3.1 holds for long blades; set here by square pitches).
_STALL_DELAY = 0.7
#: Drag by the lift that is lost in the stall; the angle off zero lift where the section turns into a flat plate, and
#: over how much, rad. Set by standing 8×8 in propellers.
_STALLED_DRAG, _PLATE_FROM, _PLATE_OVER = 0.16, 0.34, 0.40
#: Stations of the chord laws over the radius.
LAW_STATIONS = (0.15, 0.3, 0.5, 0.7, 0.85, 0.95, 1.0)


@dataclass(frozen=True)
class Family:
    """What the blades of a family share.

    ``chord`` over radius at `LAW_STATIONS`; ``zero_lift`` and ``stall_lift`` of the section at Re 10⁵, rad and 1;
    ``drag`` its least drag there; ``growth`` the rise of drag with the square of lift away from its best; ``twist`` the
    pitch at the root and at the tip over the stated pitch.
    """

    chord: tuple[float, ...]
    zero_lift: float
    stall_lift: float
    drag: float
    growth: float = 0.03
    best_lift: float = 0.45
    twist: tuple[float, float] = (1.0, 1.0)


def _section(alpha: Array, reynolds: Array, family: Family, chord_over_r: Array) -> tuple[Array, Array]:
    """Return lift and drag coefficients of the section from −90° to 90°, stalled softly into a flat plate."""
    doublings = np.log2(reynolds / _RE_REFERENCE)
    top = family.stall_lift + np.clip(0.1 * doublings, -0.25, 0.15)
    attached = _LIFT_SLOPE * (alpha - family.zero_lift)
    bottom = -0.6 * top
    # A blade's lift does not break off sharply: pumped outward, its layer hangs on (soft clip).
    limit = np.where(attached > 0.0, top, bottom)
    lift = attached / (1 + (attached / limit) ** 4) ** 0.25
    regained = np.minimum(_STALL_DELAY * chord_over_r**2, 1.0) * np.clip(attached - lift, 0.0, 1.0)
    lift = lift + np.where(attached > 0.0, regained, 0.0)
    plate = 2 * np.sin(alpha) * np.cos(alpha)
    beyond = np.clip((np.abs(alpha - family.zero_lift) - _PLATE_FROM) / _PLATE_OVER, 0.0, 1.0)
    lift = (1 - beyond) * lift + beyond * plate
    roughness = (reynolds / _RE_REFERENCE) ** -_RE_EXPONENT
    drag = family.drag * roughness + family.growth * (lift - family.best_lift) ** 2
    # Drag rises with what the lift falls short of the attached flow's.
    lost = np.clip(np.abs(attached) - np.abs(lift), 0.0, None)
    drag = drag + _STALLED_DRAG * lost * np.minimum(np.abs(alpha) / 0.2, 1.0)
    drag = (1 - beyond) * drag + beyond * np.maximum(drag, 2 * np.sin(alpha) ** 2)
    return lift, drag


def stations() -> tuple[Array, Array]:
    """Return the elements' middles over the radius, shape (n,), and their widths."""
    edges = HUB + (1 - HUB) * np.sin(np.linspace(0.0, math.pi / 2, _ELEMENTS + 1))
    return 0.5 * (edges[1:] + edges[:-1]), np.diff(edges)


def coefficients_over(
    advance: Array,
    *,
    family: Family,
    diameter: float,
    pitch_ratio: float,
    blades: int,
    tip_speed: Array | float = TIP_SPEED,
    chord_factor: float = 1.0,
    inviscid: bool = False,
) -> tuple[Array, Array]:
    """Return C_T and C_P of a propeller at advance ratios.

    Parameters
    ----------
    advance : ndarray, shape (j,)
        Advance ratios J = V/(n D), 0 and up.
    diameter : float
        Of the disc, m; with ``tip_speed`` it sets the Reynolds number.
    pitch_ratio : float
        Stated pitch over diameter.
    tip_speed : float or ndarray, shape (j,)
        ΩR, m/s.
    chord_factor : float
        Scales the chords; towards 0 the momentum limit is approached.
    inviscid : bool
        Leave the section's drag out.

    Returns
    -------
    (C_T, C_P) : ndarray, shape (j,)
        T/(ρ n² D⁴) and P/(ρ n³ D⁵).

    Source
    ------
    Blade elements with momentum in each annulus and Prandtl's tip and hub loss; derived in docs/theory.md §9.
    """
    x, width = stations()
    chord = chord_factor * np.interp(x, LAW_STATIONS, family.chord)
    pitch = pitch_ratio * np.interp(x, (HUB, 1.0), family.twist)
    beta = np.arctan(pitch / (math.pi * x))
    # Lengths over R, velocities over ΩR.
    axial = (np.asarray(advance, float) / math.pi)[:, None]
    swirl = np.broadcast_to(x, (axial.shape[0], x.size))
    reach = np.hypot(axial, swirl)
    tips = np.broadcast_to(np.asarray(tip_speed, float), axial.shape[:1])[:, None]
    reynolds = np.maximum(reach * tips * chord * 0.5 * diameter / _VISCOSITY, 4e3)

    def state(psi: Array) -> tuple[Array, ...]:
        w_a = 0.5 * (axial + reach * np.sin(psi))
        w_t = 0.5 * (swirl + reach * np.cos(psi))
        phi = np.arctan2(w_a, w_t)
        lift, drag = _section(beta - phi, reynolds, family, chord / x)
        w = np.hypot(w_a, w_t)
        steep = np.maximum(np.abs(np.sin(phi)), 1e-4)
        tip = np.exp(-0.5 * blades * (1 - x) / (x * steep))
        hub = np.exp(-0.5 * blades * (x - 0.8 * HUB) / (0.8 * HUB * steep))
        loss = (2 / math.pi) ** 2 * np.arccos(np.minimum(tip, 1.0)) * np.arccos(np.minimum(hub, 1.0))
        wanted = 4 * math.pi * x * np.maximum(loss, 1e-4) * (swirl - w_t) / blades
        return wanted - 0.5 * chord * w * lift, w, phi, lift, drag

    # Braking, the annulus can take no more than half the speed out of the air: ψ = 0.
    low, high = np.zeros_like(reach), np.full_like(reach, math.pi / 2)
    still = np.arctan2(axial, swirl)
    # Without induction the blade either lifts (ψ lies above) or brakes (below): the side that holds the root.
    lifts = state(still)[0] < 0
    low, high = np.where(lifts, still, low), np.where(lifts, high, still)
    at_low, at_high = state(low)[0], state(high)[0]
    for count in range(_STEPS):
        slope = np.where(at_high == at_low, 1.0, at_high - at_low)
        chord_cut = np.clip(high - at_high * (high - low) / slope, low, high)
        middle = 0.5 * (low + high) if count < _HALVINGS else chord_cut
        rest = state(middle)[0]
        short = rest < 0
        # Illinois: the end that stays put counts half, so that both ends close in.
        at_low, at_high = np.where(short, rest, 0.5 * at_low), np.where(short, 0.5 * at_high, rest)
        low, high = np.where(short, middle, low), np.where(short, high, middle)
    _rest, w, phi, lift, drag = state(middle)
    drag = 0.0 * drag if inviscid else drag
    pull = 0.5 * blades * chord * w**2 * (lift * np.cos(phi) - drag * np.sin(phi)) * width
    turn = 0.5 * blades * chord * w**2 * (lift * np.sin(phi) + drag * np.cos(phi)) * x * width
    # T = ρ (ΩR)² R² t with ΩR = π n D: C_T = π² t/4; P = ρ (ΩR)³ R² q: C_P = π³ q/4.
    return math.pi**2 / 4 * pull.sum(axis=1), math.pi**3 / 4 * turn.sum(axis=1)
