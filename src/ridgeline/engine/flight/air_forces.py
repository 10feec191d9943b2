"""What the air and the propellers do to an aircraft of coefficients: attached flow, the stall, thrust and torque."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.flight.craft import Aircraft, Held, Pull

Array = NDArray[np.float64]
#: Angle over which attached flow gives way to separated once the stall is passed, rad (chosen: a thick home-made
#: section loses its lift over some eight degrees), and where a plate's pressure acts, shares of the mean chord.
STALLS_OVER, PLATE_CENTRE = math.radians(8.0), 0.45
#: Of the lift limit upright, what is left upside down (chosen: cambered and flat sections).
UPSIDE_DOWN = 0.7


class Flow(NamedTuple):
    """How the air meets the aircraft: speed m/s, angles rad, and how far the flow has separated, 0 to 1."""

    speed: Array
    alpha: Array
    beta: Array
    separated: Array


def separated(craft: Aircraft, alpha: Array) -> Array:
    """Return how far the flow has separated at an angle: nothing up to the stall, all of it some degrees past it.

    Parameters
    ----------
    craft : Aircraft
    alpha : ndarray
        rad.

    Returns
    -------
    ndarray
        0 to 1, smooth at both ends.
    """
    most = (craft.lift_most - craft.lift_zero) / craft.lift_alpha
    least = (-UPSIDE_DOWN * craft.lift_most - craft.lift_zero) / craft.lift_alpha
    past = np.clip(np.maximum(alpha - most, least - alpha) / STALLS_OVER, 0.0, 1.0)
    blend: Array = past * past * (3 - 2 * past)
    return blend


def _plate(craft: Aircraft, alpha: Array) -> Array:
    """Return the normal force coefficient of a stalled plate (second part of the handbook §18)."""
    sine = np.sin(alpha)
    force: Array = craft.normal_plate * sine / (0.56 + 0.44 * np.abs(sine))
    return force


def drag_coefficient(craft: Aircraft, speed: Array, lift: Array, alpha: Array) -> Array:
    """Return the drag coefficient of attached flow, as the polar has it.

    Parameters
    ----------
    craft : Aircraft
    speed : ndarray
        Airspeed, m/s.
    lift : ndarray
        Lift coefficient.
    alpha : ndarray
        rad.

    Returns
    -------
    ndarray
    """
    polar = craft.drag
    sine = np.abs(np.sin(alpha))
    fixed = polar.factor * np.interp(speed, polar.speed, polar.area) / craft.area
    off = lift - polar.best
    found: Array = fixed + polar.off_best * off * off + polar.induced * lift * lift + polar.across * sine * sine * sine
    return found


def pulled(pull: Pull | None, runs: Array, speed: Array) -> tuple[Array, Array]:
    """Return thrust, N, and torque, N m, of what a motor runs at and an airspeed along its line.

    Parameters
    ----------
    pull : Pull or None
    runs : ndarray
        0 to 1.
    speed : ndarray
        m/s.

    Returns
    -------
    thrust, torque : ndarray
    """
    if pull is None:
        return np.zeros_like(runs), np.zeros_like(runs)
    throttle = np.clip(runs, pull.throttle[0], pull.throttle[-1])
    along = np.clip(speed, pull.speed[0], pull.speed[-1])
    k = np.clip(np.searchsorted(pull.throttle, throttle, side="right") - 1, 0, len(pull.throttle) - 2)
    j = np.clip(np.searchsorted(pull.speed, along, side="right") - 1, 0, len(pull.speed) - 2)
    a = (throttle - pull.throttle[k]) / (pull.throttle[k + 1] - pull.throttle[k])
    b = (along - pull.speed[j]) / (pull.speed[j + 1] - pull.speed[j])

    def at(table: Array) -> Array:
        near = table[k, j] * (1 - b) + table[k, j + 1] * b
        far = table[k + 1, j] * (1 - b) + table[k + 1, j + 1] * b
        found: Array = near * (1 - a) + far * a
        return found

    return pull.factor * at(pull.thrust), pull.factor * at(pull.torque)


def air_forces(
    craft: Aircraft, flow: Flow, load: Array, rates: tuple[Array, Array, Array], held: Held, thrust: Array,
    pull: Pull | None,
) -> tuple[Array, Array, Array]:  # fmt: skip
    """Return what the air does.

    Parameters
    ----------
    craft : Aircraft
    flow : Flow
    load : ndarray
        Dynamic pressure times wing area, N.
    rates : tuple of ndarray
        Roll, pitch and yaw, rad/s.
    held : Held
    thrust : ndarray
        N: what the wash adds to the pitch control goes by it.
    pull : Pull or None

    Returns
    -------
    force, moment, lag : ndarray
        In body axes about the balance point, (3, n), N and N m; and the moment of a turning angle, N m s.
    """
    p, pitching, r = rates
    speed, alpha, beta, gone = flow
    half = craft.chord / (2 * speed), craft.span / (2 * speed)
    cos, sin = np.cos(alpha), np.sin(alpha)
    washed = held.pitch * (1.0 + (0.0 if pull is None else pull.tail * thrust / np.maximum(load, 1e-6)))
    attached = craft.lift_zero + craft.lift_alpha * alpha + craft.lift_rate * pitching * half[0]
    attached = attached + craft.lift_control * washed
    plate = _plate(craft, alpha)
    lift = (1 - gone) * attached + gone * plate * cos
    drag = (1 - gone) * drag_coefficient(craft, speed, attached, alpha)
    drag = drag + gone * (np.interp(speed, craft.drag.speed, craft.drag.area) / craft.area + plate * sin)
    side = craft.side_beta * beta + craft.side_rate * r * half[1]
    force = load * np.stack([lift * sin - drag * cos, side, -lift * cos - drag * sin])
    pitch = craft.pitch_zero + craft.pitch_alpha * alpha + craft.pitch_control * washed
    # Separated, what is left of the lift acts behind the quarter chord that moments are told about.
    pitch = (1 - gone) * pitch - gone * plate * (PLATE_CENTRE - 0.25) + craft.pitch_rate * pitching * half[0]
    x, z = craft.centre
    pitching_moment = load * craft.chord * pitch + z * force[0] - x * force[2]
    # Sideways in stability axes: about the direction the air comes from.
    rolled, yawed = (p * cos + r * sin) * half[1], (r * cos - p * sin) * half[1]
    damps = 1 - 2 * gone
    roll = craft.roll_zero + (craft.roll_beta + craft.roll_beta_lift * lift) * beta
    roll = roll + craft.roll_roll * damps * rolled + (craft.roll_yaw + craft.roll_yaw_lift * lift) * yawed
    roll = roll + craft.roll_aileron * (1 - gone) * held.aileron + craft.roll_rudder * held.rudder
    yaw = craft.yaw_zero + craft.yaw_beta * beta + (craft.yaw_roll + craft.yaw_roll_lift * lift) * rolled
    yaw = yaw + craft.yaw_yaw * yawed + craft.yaw_rudder * held.rudder + craft.yaw_aileron_lift * lift * held.aileron
    moment = np.stack([load * craft.span * (roll * cos - yaw * sin), pitching_moment,
                       load * craft.span * (yaw * cos + roll * sin)])  # fmt: skip
    return force, moment, load * craft.chord * craft.pitch_lag * half[0]
