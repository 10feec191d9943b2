"""Trim of an airframe: one of its angles chosen, the others solved from lift and moment."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.attitude import LEVEL, Height, drag_couple

Array = NDArray[np.float64]
#: What is held: everything as built, the body's angle, the wing's incidence, or the tail's.
Held = Literal["as_built", "body", "wing", "tail"]
_SINGULAR = 1e-4
#: Newton steps of the body's angle, from where it would be were the balance point level; held to this angle, rad.
_ROUNDS, _STEEPEST = 4, 1.2


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


def _tan(angle: Any) -> Any:
    """Return the tangent of an angle or of many, held to the steepest; one by itself is quicker without arrays."""
    if isinstance(angle, float):
        return math.tan(min(max(angle, -_STEEPEST), _STEEPEST))
    return np.tan(np.clip(angle, -_STEEPEST, _STEEPEST))


class _Balance:
    """Lift and moment about a balance point that turns with the body, for one unknown angle beside the body's.

    Since the lift is given, only the tangent in the arm of the balance point is not linear in the body's angle.
    """

    def __init__(self, model: AirframeLattice, cg_fraction: float, body_shift: float, height: Height) -> None:
        found = model.found
        self._cg, self._height = cg_fraction, height
        self._zero = found.zero
        self._lift = found.alpha.lift
        # The body's own moment goes with its angle to the air, not with the wing's incidence on it.
        self._pitch = found.alpha.pitch + body_shift * found.alpha.lift

    def slope(self, other: lifting.Longitudinal) -> float:
        """Return what fixes the pair: the moment that angle and control make together at the same lift, times lift."""
        return float(other.lift * self._pitch - other.pitch * self._lift)

    def _rest(self, c_l: Any) -> Any:
        """Return the moment that is there whatever the angles: built in, of the lift asked for, and of the drag."""
        return self._zero.pitch + (self._cg - 0.25) * c_l + drag_couple(self._height, c_l)

    def flown(self, c_l: Any, other: lifting.Longitudinal | None) -> tuple[Any, Any] | None:
        """Return the body's angle and the other unknown, rad, or None where they are not fixed."""
        if other is None:
            return None
        slope = self.slope(other)
        if abs(slope) < _SINGULAR:
            return None
        level = other.lift * self._rest(c_l) + other.pitch * (c_l - self._zero.lift)
        bend = other.lift * self._height.value * c_l
        alpha = -level / slope
        for _ in range(_ROUNDS):
            turn = _tan(alpha)
            alpha = alpha - (level + slope * alpha + bend * turn) / (slope + bend * (1 + turn * turn))
        if abs(other.lift) > abs(other.pitch):
            return alpha, (c_l - self._zero.lift - self._lift * alpha) / other.lift
        turned = self._height.value * _tan(alpha) * c_l
        return alpha, -(self._rest(c_l) + self._pitch * alpha + turned) / other.pitch

    def held(self, c_l: float, alpha: float, first: lifting.Longitudinal, second: lifting.Longitudinal | None) -> Any:
        """Return two angles that balance it with the body at a given one, or None where they are not fixed."""
        if second is None:
            return None
        det = first.lift * second.pitch - first.pitch * second.lift
        if abs(det) < _SINGULAR:
            return None
        lift = c_l - self._zero.lift - self._lift * alpha
        moment = -(self._rest(c_l) + self._pitch * alpha + self._height.value * np.tan(alpha) * c_l)
        return (
            (lift * second.pitch - moment * second.lift) / det,
            (first.lift * moment - first.pitch * lift) / det,
        )


def shim_height(chord: float, change: float) -> float:
    """Return the shim under a leading edge that changes an incidence, m; below nothing it goes under the trailing edge.

    Parameters
    ----------
    chord : float
        Root chord, m.
    change : float
        Of the incidence, rad.

    Returns
    -------
    float
    """
    return chord * math.tan(change)


def trim(
    model: AirframeLattice, c_l: float, cg_fraction: float, body_shift: float = 0.0, height: Height = LEVEL
) -> Trim | None:
    """Solve lift and moment about the balance point for the angle and the control, or None when they do not fix it.

    Parameters
    ----------
    c_l : float
        Lift coefficient wanted.
    cg_fraction : float
        Balance point as a fraction of the mean chord.
    body_shift : float
        Forward shift of the neutral point by the bodies, fractions of the mean chord.
    height : Height
        How the balance point hangs under the wing.

    Source
    ------
    Two linear equations about a balance point that turns with the body: docs/theory.md §7.
    """
    solved = _Balance(model, cg_fraction, body_shift, height).flown(c_l, model.pitch_control)
    return None if solved is None else Trim(float(solved[0]), float(solved[1]))


def control_per_moment(model: AirframeLattice, body_shift: float = 0.0) -> float | None:
    """Return the control, rad, that holds a moment coefficient of one nose up at the same lift; about any point.

    Parameters
    ----------
    model : AirframeLattice
    body_shift : float
        Forward shift of the neutral point by the bodies, fractions of the mean chord.

    Returns
    -------
    float or None
        None without a pitch control, or where lift and moment do not fix it.
    """
    control = model.pitch_control
    if control is None:
        return None
    slope = _Balance(model, 0.25, body_shift, LEVEL).slope(control)
    return None if abs(slope) < _SINGULAR else model.found.alpha.lift / slope


def sweep(
    model: AirframeLattice, c_l: ArrayLike, cg_fraction: float, body_shift: float = 0.0, height: Height = LEVEL
) -> tuple[Array, Array] | None:
    """Return body angle and pitch control, rad, that hold each of many lift coefficients, shapes (n,).

    Parameters
    ----------
    model : AirframeLattice
    c_l : array_like
        Lift coefficients.
    cg_fraction : float
        Fraction of the mean chord.
    body_shift : float
        Of the neutral point, in mean chords.
    height : Height
        Of the balance point.

    Returns
    -------
    tuple of ndarray, or None
        rad.
    """
    balance = _Balance(model, cg_fraction, body_shift, height)
    solved = balance.flown(np.asarray(c_l, float), model.pitch_control)
    return None if solved is None else (solved[0], solved[1])


def settings(
    model: AirframeLattice,
    c_l: float,
    cg_fraction: float,
    body_shift: float,
    body_angle: float,
    height: Height = LEVEL,
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
    b, tail_angle = _Balance(model, cg_fraction, body_shift, height), model.tail_angle
    found = []
    built = b.flown(c_l, model.pitch_control)
    if built is not None:
        found.append(Setting("as_built", float(built[0]), float(built[1]), 0.0, 0.0))
    if tail_angle is None:
        body = b.held(c_l, body_angle, model.wing_angle, model.pitch_control)
        if body is not None:
            found.append(Setting("body", body_angle, float(body[1]), float(body[0]), 0.0))
        return tuple(found)
    body = b.held(c_l, body_angle, model.wing_angle, tail_angle)
    if body is not None:
        found.append(Setting("body", body_angle, 0.0, float(body[0]), float(body[1])))
    wing = b.flown(c_l, tail_angle)
    if wing is not None:
        found.append(Setting("wing", float(wing[0]), 0.0, 0.0, float(wing[1])))
    tail = b.flown(c_l, model.wing_angle)
    if tail is not None:
        found.append(Setting("tail", float(tail[0]), 0.0, float(tail[1]), 0.0))
    return tuple(found)
