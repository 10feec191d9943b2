"""A wing panel that twists under air: what is left of its ailerons, where they reverse, where it diverges.

The strip equation, (G J θ′)′ + q c e c_lα θ = −q (c e c_lδ + c² c_mδ) δ − q (c e c_lα α + c² c_m0), with the tip free
and the root held fast or on a spring, by linear elements over the stations. Its modes are found once: answers at any
number of dynamic pressures are sums over them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.roots import root_in

Array = NDArray[np.float64]
#: Reversal is bracketed by so many steps up to divergence, or to the end of the range asked for, and found this close.
_STEPS, _CLOSE = 200, 1e-12


@dataclass(frozen=True, eq=False)
class Panel:
    """One half of a wing, at its stations from the root to the tip; (n,) each, n at least 2.

    Parameters
    ----------
    y : ndarray
        Out from the centre line, m, rising.
    chord : ndarray
        m.
    torsion : ndarray
        Stiffness G J, N m².
    behind : ndarray
        Axis it twists about, behind the quarter chord, m; negative ahead of it.
    slope : ndarray
        Of the section's lift, 1/rad, lowered for the aspect ratio.
    lift, moment : ndarray
        c_lδ and c_mδ of the control, 1/rad; nothing where there is none.
    root : float
        Spring that holds the root, N m/rad; infinite where it is held fast.
    """

    y: Array
    chord: Array
    torsion: Array
    behind: Array
    slope: Array
    lift: Array = field(default_factory=lambda: np.zeros(0))
    moment: Array = field(default_factory=lambda: np.zeros(0))
    root: float = math.inf

    @cached_property
    def _modes(self) -> tuple[Array, Array]:
        """Return μ and the modes of A φ = μ K φ with φᵀ K φ = 1: those with μ > 0 diverge at q = 1/μ."""
        stiff, air = self._stiffness(), _consistent(self.y, self.chord * self.behind * self.slope)
        if math.isinf(self.root):
            stiff, air = stiff[1:, 1:], air[1:, 1:]
        lower = np.linalg.cholesky(stiff)
        inside = np.linalg.solve(lower, np.linalg.solve(lower, air).T)
        values, vectors = np.linalg.eigh(0.5 * (inside + inside.T))
        modes = np.linalg.solve(lower.T, vectors)
        if math.isinf(self.root):
            modes = np.vstack([np.zeros((1, modes.shape[1])), modes])
        return values, modes

    def _stiffness(self) -> Array:
        h, n = np.diff(self.y), len(self.y)
        spring = 0.5 * (self.torsion[:-1] + self.torsion[1:]) / h
        found = np.zeros((n, n))
        at = np.arange(n - 1)
        found[at, at] += spring
        found[at + 1, at + 1] += spring
        found[at, at + 1] -= spring
        found[at + 1, at] -= spring
        if not math.isinf(self.root):
            found[0, 0] += self.root
        return found

    def twist(self, pressure: ArrayLike, couple: Array) -> Array:
        """Return the twist under a couple that grows with the dynamic pressure.

        Parameters
        ----------
        pressure : array_like, shape (m,)
            q, Pa; under that of divergence.
        couple : ndarray, shape (n,)
            Along the span over the dynamic pressure, m; nose up.

        Returns
        -------
        ndarray, shape (m, n)
            rad, nose up.
        """
        values, modes = self._modes
        q = np.atleast_1d(np.asarray(pressure, float))[:, None]
        shares = modes.T @ _spread(self.y, couple)
        result: Array = (q * shares / (1 - q * values)) @ modes.T
        return result

    def control_twist(self, pressure: ArrayLike) -> Array:
        """Return the twist per radian of the control, (m, n); parameters as of `twist`."""
        return self.twist(pressure, self._control_couple)

    def effectiveness(self, pressure: ArrayLike) -> Array:
        """Return what is left of the control's rolling moment, 1 where the wing does not twist.

        Parameters
        ----------
        pressure : array_like, shape (m,)
            q, Pa; under that of divergence.

        Returns
        -------
        ndarray, shape (m,)
            Negative where it is reversed.
        """
        values, _modes = self._modes
        q = np.atleast_1d(np.asarray(pressure, float))[:, None]
        rolled, shares = self._rolling
        result: Array = 1 + (q * shares / (1 - q * values)) @ rolled
        return result

    @cached_property
    def _rolling(self) -> tuple[Array, Array]:
        """Return the roll of each mode over that of the rigid wing, and how much of each the control makes."""
        _values, modes = self._modes
        rigid = _spread(self.y, self.chord * self.lift * self.y).sum()
        rolled = modes.T @ _spread(self.y, self.chord * self.slope * self.y) / (rigid if rigid else math.inf)
        return rolled, modes.T @ _spread(self.y, self._control_couple)

    @property
    def _control_couple(self) -> Array:
        found: Array = self.chord * self.behind * self.lift + self.chord**2 * self.moment
        return found

    @cached_property
    def _reversals(self) -> dict[float, float]:
        """Reversal as it was found, by where looking stopped."""
        return {}

    @property
    def divergence(self) -> float:
        """Return the dynamic pressure at which the twist grows without end, Pa; infinite where there is none."""
        most = float(self._modes[0].max())
        return 1 / most if most > 1e-12 else math.inf

    def reversal(self, most: float) -> float:
        """Return the dynamic pressure at which the control turns the other way, Pa.

        Parameters
        ----------
        most : float
            Where to stop looking, Pa.

        Returns
        -------
        float
            Infinite where it does not happen under ``most`` and divergence.
        """
        if most not in self._reversals:
            self._reversals[most] = self._reversal(most)
        return self._reversals[most]

    def _reversal(self, most: float) -> float:
        end = min(most, (1 - 1e-6) * self.divergence)
        q = np.linspace(0.0, end, _STEPS + 1)
        past = np.flatnonzero(self.effectiveness(q) <= 0)
        if not len(past):
            return math.inf
        low, high = float(q[past[0] - 1]), float(q[past[0]])
        return root_in(lambda one: float(self.effectiveness(one)[0]), low, high, _CLOSE * high)


def _consistent(y: Array, along: Array) -> Array:
    """Return the matrix of ∫ a θ φ dy for θ and φ linear between stations, a the mean of each interval's ends."""
    h, n = np.diff(y), len(y)
    a = 0.5 * (along[:-1] + along[1:]) * h / 6
    found, at = np.zeros((n, n)), np.arange(n - 1)
    found[at, at] += 2 * a
    found[at + 1, at + 1] += 2 * a
    found[at, at + 1] += a
    found[at + 1, at] += a
    return found


def _spread(y: Array, along: Array) -> Array:
    """Return what a load linear between stations puts on each station."""
    h = np.diff(y)
    found = np.zeros_like(y)
    found[:-1] += h * (2 * along[:-1] + along[1:]) / 6
    found[1:] += h * (along[:-1] + 2 * along[1:]) / 6
    return found


def swept_divergence(
    straight: float, sweep: float, long: float, behind: float, torsion: float, bending: float
) -> float:
    """Return the dynamic pressure at which a swept wing diverges, Pa; infinite where it cannot.

    Parameters
    ----------
    straight : float
        That of the same wing unswept, along and square to its axis, Pa.
    sweep : float
        rad, aft positive.
    long : float
        Of the axis from root to tip, m.
    behind : float
        Axis behind the quarter chord, square to it, m.
    torsion, bending : float
        G J and E I, N m².

    Returns
    -------
    float

    Source
    ------
    q_D = q_D0/(cos²Λ [1 − 0.39 (L/e)(G J/E I) tan Λ]) (second part of the handbook §16.5). Within 2 % of strips that
    bend and twist while the bracket is over 0.75; lower beyond, so on the safe side.
    """
    relief = 1 - 0.39 * (long / behind) * (torsion / bending) * math.tan(sweep)
    return straight / (math.cos(sweep) ** 2 * relief) if relief > 0 else math.inf
