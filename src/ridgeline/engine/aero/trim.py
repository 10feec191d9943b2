"""Trim of an airframe: one of its angles chosen, the others solved from lift and moment."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice

Array = NDArray[np.float64]
#: What is held: everything as built, the body's angle, the wing's incidence, or the tail's.
Held = Literal["as_built", "body", "wing", "tail"]
_SINGULAR = 1e-4


@dataclass(frozen=True)
class Trim:
    """Body angle of attack and pitch control (trailing edge down positive), rad."""

    alpha: float
    control: float


@dataclass(frozen=True)
class Setting:
    """A way to trim: body angle, pitch control, and the changes of wing and tail incidence from as built, rad."""

    held: Held
    alpha: float
    control: float
    wing_change: float
    tail_change: float


class _Balance:
    """The two trim equations of an airframe: columns of lift and of moment about the balance point."""

    def __init__(self, model: AirframeLattice, cg_fraction: float, body_shift: float) -> None:
        self._arm = cg_fraction - 0.25
        found = model.found
        self.zero = self._column(found.zero)
        # The body's own moment goes with its angle to the air, not with the wing's incidence on it.
        self.alpha = self._column(found.alpha) + np.array([0.0, body_shift * found.alpha.lift])
        self.control = None if model.pitch_control is None else self._column(model.pitch_control)
        self.wing = self._column(model.wing_angle)
        self.tail = None if model.tail_angle is None else self._column(model.tail_angle)

    def _column(self, case: lifting.Longitudinal) -> Array:
        return np.array([case.lift, case.pitch + self._arm * case.lift])

    def solve(self, first: Array, second: Array | None, rest: Array) -> Array | None:
        """Solve two columns against what is left; ``rest`` is (2,) or (2, n)."""
        if second is None:
            return None
        det = first[0] * second[1] - first[1] * second[0]
        if abs(det) < _SINGULAR:
            return None
        return np.stack(
            [(rest[0] * second[1] - rest[1] * second[0]) / det, (first[0] * rest[1] - first[1] * rest[0]) / det]
        )


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
    balance = _Balance(model, cg_fraction, body_shift)
    solved = balance.solve(balance.alpha, balance.control, np.array([c_l, 0.0]) - balance.zero)
    return None if solved is None else Trim(float(solved[0]), float(solved[1]))


def sweep(
    model: AirframeLattice, c_l: ArrayLike, cg_fraction: float, body_shift: float = 0.0
) -> tuple[Array, Array] | None:
    """Return body angle and pitch control, rad, that hold each of many lift coefficients, shapes (n,)."""
    balance = _Balance(model, cg_fraction, body_shift)
    wanted = np.vstack([np.asarray(c_l, float), np.zeros(np.size(c_l))]) - balance.zero[:, None]
    solved = balance.solve(balance.alpha, balance.control, wanted)
    return None if solved is None else (solved[0], solved[1])


def settings(
    model: AirframeLattice, c_l: float, cg_fraction: float, body_shift: float, body_angle: float
) -> tuple[Setting, ...]:
    """Return every way to trim that this airframe has: what is held, and what the rest then must be.

    With a tail (or foreplane) three of them leave the control neutral: the body at a chosen angle, the wing's
    incidence as built, or the tail's. Without one, the body's angle is had by wing incidence and elevons.

    Parameters
    ----------
    body_angle : float
        Chosen angle of the body to the air for the one that holds it, rad.

    Source
    ------
    The two equations of `trim` with other unknowns: docs/theory.md §7.
    """
    b = _Balance(model, cg_fraction, body_shift)
    need = np.array([c_l, 0.0]) - b.zero
    found = []
    built = b.solve(b.alpha, b.control, need)
    if built is not None:
        found.append(Setting("as_built", float(built[0]), float(built[1]), 0.0, 0.0))
    held = need - b.alpha * body_angle
    if b.tail is None:
        body = b.solve(b.wing, b.control, held)
        if body is not None:
            found.append(Setting("body", body_angle, float(body[1]), float(body[0]), 0.0))
        return tuple(found)
    body = b.solve(b.wing, b.tail, held)
    if body is not None:
        found.append(Setting("body", body_angle, 0.0, float(body[0]), float(body[1])))
    wing = b.solve(b.alpha, b.tail, need)
    if wing is not None:
        found.append(Setting("wing", float(wing[0]), 0.0, 0.0, float(wing[1])))
    tail = b.solve(b.alpha, b.wing, need)
    if tail is not None:
        found.append(Setting("tail", float(tail[0]), 0.0, float(tail[1]), 0.0))
    return tuple(found)
