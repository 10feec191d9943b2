"""Trim of an airframe: one of its angles chosen, the others solved from lift and moment."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.attitude import LEVEL, Height, arm, drag_couple

Array = NDArray[np.float64]
#: What is held: everything as built, the body's angle, the wing's incidence, or the tail's.
Held = Literal["as_built", "body", "wing", "tail"]
_SINGULAR = 1e-4
#: Rounds of angle and turned balance point, each nearer by their coupling, a tenth or so; held to this angle, rad.
_ROUNDS, _STEEPEST = 8, 1.2


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
    """The two trim equations of an airframe: lift, and moment about the balance point turned to an angle to the air."""

    def __init__(self, model: AirframeLattice, cg_fraction: float, body_shift: float, height: Height) -> None:
        self._model, self._cg, self._shift, self._height = model, cg_fraction, body_shift, height

    def at(self, c_l: ArrayLike, alpha: ArrayLike = 0.0) -> _Columns:
        """Return the equations about the balance point as it stands at a body angle."""
        reach = arm(self._cg, self._height, alpha)

        def column(case: lifting.Longitudinal, more: float = 0.0) -> Array:
            moment = case.pitch + (reach + more) * case.lift
            return np.stack([np.broadcast_to(case.lift, moment.shape), moment])

        model, found = self._model, self._model.found
        lift = np.broadcast_to(np.asarray(c_l, float), np.broadcast(c_l, reach).shape)
        wanted = np.stack([lift, np.broadcast_to(-drag_couple(self._height, c_l), lift.shape)])
        return _Columns(
            # The body's own moment goes with its angle to the air, not with the wing's incidence on it.
            column(found.alpha, self._shift),
            None if model.pitch_control is None else column(model.pitch_control),
            column(model.wing_angle),
            None if model.tail_angle is None else column(model.tail_angle),
            wanted - column(found.zero),
        )

    def flown(self, c_l: ArrayLike, other: Callable[[_Columns], Array | None]) -> Array | None:
        """Solve for the body's angle and one other unknown, turning the balance point to that angle."""
        found, alpha = None, np.zeros(np.shape(c_l))
        for _ in range(_ROUNDS):
            columns = self.at(c_l, alpha)
            found = _solve(columns.alpha, other(columns), columns.need)
            if found is None:
                return None
            alpha = np.clip(found[0], -_STEEPEST, _STEEPEST)
        return found


class _Columns(NamedTuple):
    """Lift and moment of one radian of each angle, (2,) or (2, n) each, and what is left for them to give."""

    alpha: Array
    control: Array | None
    wing: Array
    tail: Array | None
    need: Array


def _solve(first: Array, second: Array | None, rest: Array) -> Array | None:
    """Solve two columns against what is left."""
    if second is None:
        return None
    det = first[0] * second[1] - first[1] * second[0]
    if np.min(np.abs(det)) < _SINGULAR:
        return None
    return np.stack(
        [(rest[0] * second[1] - rest[1] * second[0]) / det, (first[0] * rest[1] - first[1] * rest[0]) / det]
    )


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
    solved = _Balance(model, cg_fraction, body_shift, height).flown(c_l, lambda columns: columns.control)
    return None if solved is None else Trim(float(solved[0]), float(solved[1]))


def sweep(
    model: AirframeLattice, c_l: ArrayLike, cg_fraction: float, body_shift: float = 0.0, height: Height = LEVEL
) -> tuple[Array, Array] | None:
    """Return body angle and pitch control, rad, that hold each of many lift coefficients, shapes (n,)."""
    balance = _Balance(model, cg_fraction, body_shift, height)
    solved = balance.flown(np.asarray(c_l, float), lambda columns: columns.control)
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
    b = _Balance(model, cg_fraction, body_shift, height)
    level = b.at(c_l, body_angle)
    held = level.need - level.alpha * body_angle
    found = []
    built = b.flown(c_l, lambda columns: columns.control)
    if built is not None:
        found.append(Setting("as_built", float(built[0]), float(built[1]), 0.0, 0.0))
    if level.tail is None:
        body = _solve(level.wing, level.control, held)
        if body is not None:
            found.append(Setting("body", body_angle, float(body[1]), float(body[0]), 0.0))
        return tuple(found)
    body = _solve(level.wing, level.tail, held)
    if body is not None:
        found.append(Setting("body", body_angle, 0.0, float(body[0]), float(body[1])))
    wing = b.flown(c_l, lambda columns: columns.tail)
    if wing is not None:
        found.append(Setting("wing", float(wing[0]), 0.0, 0.0, float(wing[1])))
    tail = b.flown(c_l, lambda columns: columns.wing)
    if tail is not None:
        found.append(Setting("tail", float(tail[0]), 0.0, float(tail[1]), 0.0))
    return tuple(found)
