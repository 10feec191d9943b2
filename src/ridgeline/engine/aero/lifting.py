"""Forces and moments of a solved lattice: coefficients, span loading and induced drag."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.lattice import WAKE_CORE, Lattice, Solver

Array = NDArray[np.float64]
#: Strip-theory share of the lift coefficient in yaw due to roll of a plain wing (Nelson, Flight Stability and
#: Automatic Control, table 3.4).
YAW_FROM_ROLL = -0.125


@dataclass(frozen=True)
class Scale:
    """What coefficients refer to: area m², span m, chord m, and the moment centre (3,), m."""

    area: float
    span: float
    chord: float
    centre: Array


@dataclass(frozen=True)
class Longitudinal:
    """Lift and pitching moment (nose up) coefficients of a symmetric case."""

    lift: float
    pitch: float


@dataclass(frozen=True)
class Lateral:
    """Side force (to starboard), roll (starboard down) and yaw (nose to starboard) coefficients."""

    side: float
    roll: float
    yaw: float


_ALONG = np.array([1.0, 0.0, 0.0])


def _forces(lattice: Lattice, circulation: Array, onset: Array = _ALONG) -> Array:
    """Return the force on each starboard or lone panel over ρ V², shape (n, 3): Γ u × l; ``onset`` u is over V."""
    return (circulation * lattice.pressure)[:, None] * np.cross(onset, lattice.bound)


def longitudinal(lattice: Lattice, circulation: Array, scale: Scale, *, couples: Array | None = None) -> Longitudinal:
    """Sum a symmetric case; ``couples`` (n,) are section moment coefficients to add about the quarter chord.

    Parameters
    ----------
    lattice : Lattice
    circulation : ndarray, shape (n,)
        m²/s per m/s, alike on both sides.
    scale : Scale
    couples : ndarray, shape (n,), optional
        Section moment coefficients.

    Returns
    -------
    Longitudinal
        About the scale's centre.
    """
    force = _forces(lattice, circulation)
    both = 1.0 + lattice.mirrored
    arm = lattice.middle - scale.centre
    lift = float(np.sum(both * force[:, 2]))
    pitch = float(np.sum(both * -arm[:, 0] * force[:, 2]))
    # A canted panel's couple turns about its own span: only its level part pitches the aircraft.
    if couples is not None:
        own = both * lattice.pressure * couples * lattice.area * lattice.chord * lattice.normal[:, 2]
        pitch += 0.5 * float(np.sum(own))
    return Longitudinal(2 * lift / scale.area, 2 * pitch / (scale.area * scale.chord))


def lateral(lattice: Lattice, circulation: Array, scale: Scale) -> Lateral:
    """Sum an antisymmetric case.

    Parameters
    ----------
    lattice : Lattice
    circulation : ndarray, shape (n,)
        m²/s per m/s, opposite on the two sides.
    scale : Scale

    Returns
    -------
    Lateral
        About the scale's centre.
    """
    return _lateral(lattice, _forces(lattice, circulation), scale)


def _lateral(lattice: Lattice, force: Array, scale: Scale) -> Lateral:
    both = 1.0 + lattice.mirrored
    arm = lattice.middle - scale.centre
    side = float(np.sum(both * force[:, 1]))
    roll = -float(np.sum(both * (arm[:, 1] * force[:, 2] - arm[:, 2] * force[:, 1])))
    yaw = -float(np.sum(both * arm[:, 0] * force[:, 1]))
    size = scale.area * scale.span
    return Lateral(2 * side / scale.area, 2 * roll / size, 2 * yaw / size)


def roll_of_lift(solver: Solver, scale: Scale, wash: Array) -> tuple[float, float]:
    """Return the roll that the lift of a symmetric case adds to one radian of sideslip, and to a unit yaw rate r b/2V.

    A swept half that meets the wind more squarely lifts more; the half that a turn in yaw takes forward meets more
    wind, and its lift grows with what it meets.

    Parameters
    ----------
    wash : ndarray, shape (n,)
        Onset flow of the symmetric case through each panel along its normal, over the flight speed.

    Source
    ------
    Forces ρ Γ V × l with the disturbed V; the yaw such lift gives (a few hundredths of C_L times the dihedral) is left
    to the band: docs/theory.md §7.
    """
    lattice = solver.lattice
    base = solver.circulation(wash, symmetric=True)
    grown = solver.circulation(_met(lattice.control, scale) * wash, symmetric=False)
    turned = _forces(lattice, grown) + _forces(lattice, base, _met(lattice.middle, scale)[:, None] * _ALONG)
    return roll_of_slip(scale, lattice, base), _lateral(lattice, turned, scale).roll


def roll_of_slip(scale: Scale, lattice: Lattice, circulation: Array) -> float:
    """Return the roll that a symmetric loading adds to one radian of sideslip.

    Parameters
    ----------
    scale : Scale
    lattice : Lattice
    circulation : ndarray, shape (n,)
        Alike on both sides, m²/s per m/s.

    Returns
    -------
    float
        1/rad.
    """
    return _lateral(lattice, _forces(lattice, circulation, np.array([0.0, -1.0, 0.0])), scale).roll


def _met(places: Array, scale: Scale) -> Array:
    """Return how much more wind places meet in a unit yaw rate r b/2V, nose going to starboard, over V."""
    result: Array = -(places[:, 1] - scale.centre[1]) * 2 / scale.span
    return result


@dataclass(frozen=True)
class SpanLoading:
    """Per strip (s,): sheet, place out along the panel, y, z, width, chord (all m), and local lift coefficient."""

    sheet: NDArray[np.int64]
    out: Array
    y: Array
    z: Array
    width: Array
    chord: Array
    c_l: Array


def span_loading(lattice: Lattice, circulation: Array) -> SpanLoading:
    """Return the local lift coefficients of the strips, c_l = 2 Σ Γ/(V c).

    Parameters
    ----------
    lattice : Lattice
    circulation : ndarray, shape (n,)
        m²/s per m/s.

    Returns
    -------
    SpanLoading
        One row a strip.
    """
    first = np.unique(lattice.strip, return_index=True)[1]
    total = np.bincount(lattice.strip, weights=circulation)
    chord = lattice.chord[first]
    width = np.hypot(lattice.bound[first, 1], lattice.bound[first, 2])
    return SpanLoading(
        lattice.sheet[first],
        lattice.out[first],
        lattice.middle[first, 1],
        lattice.middle[first, 2],
        width,
        chord,
        2 * total / chord,
    )


def induced_drag(lattice: Lattice, circulation: Array, area: float) -> float:
    """Return the induced drag coefficient of a symmetric case from the wake far aft.

    Parameters
    ----------
    lattice : Lattice
    circulation : ndarray, shape (n,)
        m²/s per m/s, alike on both sides.
    area : float
        That the coefficient refers to, m².

    Returns
    -------
    float
        C_Di.

    Source
    ------
    Trefftz plane: D_i = −½ρ Σ Γ w_n Δs over all strips (Katz and Plotkin, ch. 8), wakes of other surfaces smeared as
    on the lattice, so that the work done on the air is that of its forces: docs/theory.md §7.
    """
    strength = _strip_sums(lattice, circulation)
    drag = -0.5 * float(np.sum(strength * (_wake(lattice, even=True) @ strength) * (1.0 + _both(lattice))))
    return 2 * drag / area


def wakes_of(lattice: Lattice) -> tuple[Array, Array]:
    """Return what turns strengths of the strips into the flow through them far aft: alike on both sides, and opposite.

    Parameters
    ----------
    lattice : Lattice

    Returns
    -------
    even, odd : ndarray, shape (s, s)
    """
    return _wake(lattice, even=True), _wake(lattice, even=False)


def induced_yaw(
    lattice: Lattice, even: Array, odd: Array, scale: Scale, wakes: tuple[Array, Array] | None = None
) -> float:
    """Return the yaw that a loading opposite on the two sides makes together with one alike on them, nose to starboard.

    The side that lifts more also drags more: ailerons yaw the nose away from the turn they begin.

    Parameters
    ----------
    lattice : Lattice
    even, odd : ndarray, shape (n,)
        Circulation alike and opposite on the two sides, m²/s per m/s.
    scale : Scale
    wakes : tuple of ndarray, optional
        Of `wakes_of`, where these are known.

    Returns
    -------
    float
        Yaw coefficient.

    Source
    ------
    Trefftz plane, strip by strip: N = −½ρ Σ y (Γ_e w_o + Γ_o w_e) Δs; of an elliptic wing −3 C_L C_l/(π A) (Glauert,
    Elements of Aerofoil and Airscrew Theory, ch. 11): docs/theory.md §14.
    """
    first = np.unique(lattice.strip, return_index=True)[1]
    alike, unlike = _strip_sums(lattice, even), _strip_sums(lattice, odd)
    of_even, of_odd = wakes_of(lattice) if wakes is None else wakes
    work = alike * (of_odd @ unlike) + unlike * (of_even @ alike)
    arm = lattice.middle[first, 1] - scale.centre[1]
    return float(2 * np.sum(-0.5 * arm * work * (1.0 + _both(lattice))) / (scale.area * scale.span))


def _strip_sums(lattice: Lattice, circulation: Array) -> Array:
    return np.asarray(np.bincount(lattice.strip, weights=circulation), float)


def _both(lattice: Lattice) -> NDArray[np.bool_]:
    """Tell of each strip whether it has an image on the port side."""
    return lattice.mirrored[np.unique(lattice.strip, return_index=True)[1]]


def _wake(lattice: Lattice, *, even: bool) -> Array:
    """Return what turns strengths of the strips into the flow through them far aft, times their widths, (s, s)."""
    first = np.unique(lattice.strip, return_index=True)[1]
    a, b = lattice.left[first][:, 1:], lattice.right[first][:, 1:]
    both = lattice.mirrored[first]
    flip = np.array([-1.0, 1.0])
    a_all, b_all = np.vstack([a, (b * flip)[both]]), np.vstack([b, (a * flip)[both]])
    # Cosine-spaced strips are judged at their cosine middles, where the control points are.
    middle = lattice.control[first][:, 1:]
    surface = lattice.surface[first]
    foreign = surface[:, None] != np.concatenate([surface, surface[both]])[None, :]
    core = foreign * (WAKE_CORE * lattice.reach) ** 2

    def flow(points: Array, legs: Array) -> Array:
        r = points[:, None, :] - legs[None]
        square = np.maximum(np.einsum("ijk,ijk->ij", r, r) + core, 1e-12)
        result: Array = np.stack([-r[..., 1], r[..., 0]], axis=-1) / (2 * np.pi * square[..., None])
        return result

    wash = flow(middle, b_all) - flow(middle, a_all)
    span = b - a
    # The strip's normal times its width is (−Δz, Δy).
    through = wash[..., 1] * span[:, :1] - wash[..., 0] * span[:, 1:]
    count = len(a)
    found: Array = through[:, :count].copy()
    # Images carry the same strength, or the opposite one.
    found[:, both] += (1.0 if even else -1.0) * through[:, count:]
    return found


#: Munk and Prandtl's share of mutual induced drag of two equal wings, over their gap in spans.
_GAPS = (0.0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5)
_MUTUAL = (1.0, 0.780, 0.655, 0.561, 0.485, 0.420, 0.370, 0.290, 0.230)


def best_efficiency(lattice: Lattice, span: float) -> float:
    """Return the best span efficiency that one or two level surfaces can have, on a span; infinite for more or canted.

    Parameters
    ----------
    lattice : Lattice
    span : float
        m.

    Returns
    -------
    float
        Span efficiency, infinite where none is known.

    Source
    ------
    Two wings of the whole span at equal lift, e = 2/(1 + σ(gap)) (Munk, NACA Report 121; Prandtl): smaller or
    staggered ones do no better. A lone plane has 1.
    """
    level = np.abs(lattice.normal[:, 2]) > 0.99
    upright = np.abs(lattice.normal[:, 2]) < 0.2
    if not np.all(level | upright) or not 1 <= np.unique(lattice.surface[level]).size <= 2:
        return np.inf
    gap = float(np.ptp(lattice.middle[level, 2])) / span
    return float(2 / (1 + np.interp(gap, _GAPS, _MUTUAL)))
