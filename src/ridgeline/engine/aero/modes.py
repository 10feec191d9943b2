"""The five classic motions of a trimmed aircraft, and how fast each dies away or grows."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY

Array = NDArray[np.float64]
#: Newton's steps at most, how close the last must be, and what counts as slow beside that, 1/s.
_STEPS, _CLOSE, _SLOW = 40, 1e-10, 1e-3


@dataclass(frozen=True)
class Motion:
    """One motion: the real part of its root 1/s (negative dies away) and its circular frequency rad/s (0 without)."""

    rate: float
    frequency: float

    @property
    def half_time(self) -> float:
        """Seconds to halve, or to double when it grows; infinite when it does neither."""
        return math.log(2) / abs(self.rate) if self.rate != 0 else math.inf

    @property
    def period(self) -> float:
        """Seconds of one swing; infinite for a motion that does not swing."""
        return 2 * math.pi / self.frequency if self.frequency > 0 else math.inf

    @property
    def damping(self) -> float:
        """Damping ratio; one for a motion that does not swing."""
        size = math.hypot(self.rate, self.frequency)
        return -self.rate / size if size > 0 else 1.0


def longitudinal_matrix(x_u: float, x_w: float, z_u: float, z_w: float, m_w: float, m_q: float, speed: float) -> Array:
    """Return the matrix of (u, w, q, θ) from dimensional derivatives, SI.

    Parameters
    ----------
    x_u, x_w, z_u, z_w : float
        Forces by speed and by plunge, over the mass, 1/s.
    m_w : float
        Pitching acceleration by plunge, 1/(m s).
    m_q : float
        By pitch rate, 1/s.
    speed : float
        m/s.

    Returns
    -------
    ndarray, shape (4, 4)
        Of (u, w, q, θ).

    Source
    ------
    Nelson, Flight Stability and Automatic Control, ch. 4, without the lag of downwash.
    """
    return np.array([[x_u, x_w, 0.0, -GRAVITY], [z_u, z_w, speed, 0.0], [0.0, m_w, m_q, 0.0], [0.0, 0.0, 1.0, 0.0]])


def lateral_matrix(
    y_beta: float,
    roll: tuple[float, float, float],
    yaw: tuple[float, float, float],
    speed: float,
    gravity: float = GRAVITY,
) -> Array:
    """Return the matrix of (β, p, r, φ); ``roll`` and ``yaw`` are the dimensional derivatives to β, p, r.

    Parameters
    ----------
    y_beta : float
        Side acceleration by sideslip over the speed, 1/s.
    roll, yaw : tuple of float
        Angular acceleration by β, 1/s², by p and by r, 1/s.
    speed : float
        m/s.
    gravity : float
        m/s².

    Returns
    -------
    ndarray, shape (4, 4)
        Of (β, p, r, φ).

    Source
    ------
    Nelson, Flight Stability and Automatic Control, ch. 5, product of inertia left out.
    """
    return np.array(
        [
            [y_beta, 0.0, -1.0, gravity / speed],
            [*roll, 0.0],
            [*yaw, 0.0],
            [0.0, 1.0, 0.0, 0.0],
        ]
    )


def _motions(matrix: Array) -> tuple[list[Motion], list[Motion]]:
    """Return the swinging motions, fastest first, and the others, fastest first."""
    roots = np.linalg.eigvals(matrix)
    size = float(np.abs(roots).max()) or 1.0
    swinging = [Motion(float(r.real), float(r.imag)) for r in roots if r.imag > 1e-6 * size]
    others = [Motion(float(r.real), 0.0) for r in roots if abs(r.imag) <= 1e-6 * size]
    swinging.sort(key=lambda motion: -motion.frequency)
    others.sort(key=lambda motion: -abs(motion.rate))
    return swinging, others


@dataclass(frozen=True)
class Lengthwise:
    """Short period and phugoid; None where the aircraft has no such swing (an unstable one has none)."""

    short_period: Motion | None
    phugoid: Motion | None
    growth: float


@dataclass(frozen=True)
class Sideways:
    """Roll subsidence, spiral and Dutch roll; None where there is no such motion."""

    roll: Motion | None
    spiral: Motion | None
    dutch_roll: Motion | None


def lengthwise(matrix: Array) -> Lengthwise:
    """Name the lengthwise motions: the faster swing is the short period; ``growth`` is the fastest growth, 1/s.

    Parameters
    ----------
    matrix : ndarray, shape (4, 4)
        Of (u, w, q, θ).

    Returns
    -------
    Lengthwise
        Rates, 1/s.
    """
    swinging, others = _motions(matrix)
    growth = max([motion.rate for motion in (*swinging, *others)], default=0.0)
    if len(swinging) == 2:
        return Lengthwise(swinging[0], swinging[1], growth)
    # A heavily damped short period does not swing: its slower root rules how fast it settles.
    dying = [motion for motion in others if motion.rate < 0]
    fast = dying[min(1, len(dying) - 1)] if dying else None
    return Lengthwise(fast, swinging[0] if swinging else None, growth)


def spiral_near(matrix: Array, near: float) -> float | None:
    """Return the slow real root of the sideways motion that lies near a value, 1/s: where a change has moved it to.

    Parameters
    ----------
    matrix : ndarray, shape (4, 4)
        Of (β, p, r, φ).
    near : float
        1/s.

    Returns
    -------
    float or None
        None where it met another root and is real no longer.

    Source
    ------
    Newton's steps on the quartic of the determinant, whose last term is (g/V)(L_β N_r − L_r N_β): docs/theory.md §10.
    """
    coefficients = np.poly(matrix).tolist()
    root = near
    for _ in range(_STEPS):
        value = slope = 0.0
        for coefficient in coefficients:
            slope, value = slope * root + value, value * root + coefficient
        if slope == 0:
            return None
        step = value / slope
        root -= step
        if abs(step) <= _CLOSE * max(abs(root), _SLOW):
            return root
    return None


def sideways(matrix: Array) -> Sideways:
    """Name the sideways motions: the fast root is the roll, the slow one the spiral, the swing the Dutch roll.

    Parameters
    ----------
    matrix : ndarray, shape (4, 4)
        Of (β, p, r, φ).

    Returns
    -------
    Sideways
        Rates, 1/s.
    """
    swinging, others = _motions(matrix)
    dutch = swinging[0] if swinging else None
    return Sideways(others[0] if others else None, others[-1] if len(others) > 1 else None, dutch)
