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
#: A stalled wing drives its own roll up to this p b/2V (chosen: wings of this aspect ratio spin at 0.3 to 0.5).
AUTOROTATES = 0.4
#: Of the lift limit upright, what is left upside down (chosen: cambered and flat sections).
UPSIDE_DOWN = 0.7


class Flow(NamedTuple):
    """How the air meets the aircraft: speed m/s, angles rad, how far the flow has separated, 0 to 1, and α's own.

    ``cos`` and ``sin`` are of the angle of attack.
    """

    speed: Array
    alpha: Array
    beta: Array
    separated: Array
    cos: Array
    sin: Array


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
    past = np.minimum(np.maximum(np.maximum(alpha - most, least - alpha) / STALLS_OVER, 0.0), 1.0)
    blend: Array = past * past * (3 - 2 * past)
    return blend


def _plate(craft: Aircraft, sine: Array) -> Array:
    """Return the normal force coefficient of a stalled plate (second part of the handbook §18)."""
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
    fixed = np.interp(speed, craft.drag.speed, craft.drag.area) / craft.area
    return _carrying(craft, fixed, lift, np.sin(alpha))


def _carrying(craft: Aircraft, fixed: Array, lift: Array, sine: Array) -> Array:
    """Return the whole from that of what carries nothing."""
    polar, size = craft.drag, np.abs(sine)
    off = lift - polar.best
    whole = polar.factor * fixed + polar.off_best * off * off + polar.induced * lift * lift
    found: Array = whole + polar.across * size * size * size
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
    k, a = _between(pull.throttle, runs)
    j, b = _between(pull.speed, speed)
    columns = len(pull.speed)
    at, far = k * columns + j, a * pull.factor
    near = pull.factor - far
    shares = near - near * b, near * b, far - far * b, far * b
    corners = at, at + 1, at + columns, at + columns + 1
    made = []
    for table in (pull.thrust.ravel(), pull.torque.ravel()):
        one, two, three, four = (share * table[corner] for share, corner in zip(shares, corners, strict=True))
        made.append(one + two + three + four)
    return made[0], made[1]


def _between(marks: Array, value: Array) -> tuple[NDArray[np.int64], Array]:
    """Return which of even marks lies under a value, the last but one at most, and the share on to the next."""
    steps = (value - marks[0]) * ((len(marks) - 1) / (marks[-1] - marks[0]))
    place = np.minimum(np.maximum(steps, 0.0), len(marks) - 1)
    under = np.minimum(place.astype(np.int64), len(marks) - 2)
    return under, place - under


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
    speed, alpha, beta, gone, cos, sin = flow
    slow, kept = 0.5 / speed, 1 - gone
    half = craft.chord * slow, craft.span * slow
    washed = held.pitch * (1.0 + (0.0 if pull is None else pull.tail * thrust / np.maximum(load, 1e-6)))
    attached = craft.lift_zero + craft.lift_alpha * alpha + craft.lift_rate * pitching * half[0]
    attached = attached + craft.lift_control * washed
    plate = _plate(craft, sin)
    fixed = np.interp(speed, craft.drag.speed, craft.drag.area) / craft.area
    lift = kept * attached + gone * plate * cos
    drag = kept * _carrying(craft, fixed, attached, sin) + gone * (fixed + plate * sin)
    side = craft.side_beta * beta + craft.side_rate * r * half[1]
    force = np.empty((3, *np.shape(speed)))
    force[0], force[1], force[2] = load * (lift * sin - drag * cos), load * side, -load * (lift * cos + drag * sin)
    pitch = craft.pitch_zero + craft.pitch_alpha * alpha + craft.pitch_control * washed
    # Separated, what is left of the lift acts behind the quarter chord that moments are told about.
    pitch = kept * pitch - gone * plate * (PLATE_CENTRE - 0.25) + craft.pitch_rate * pitching * half[0]
    x, z = craft.centre
    # Sideways in stability axes: about the direction the air comes from.
    rolled, yawed = (p * cos + r * sin) * half[1], (r * cos - p * sin) * half[1]
    roll = craft.roll_zero + (craft.roll_beta + craft.roll_beta_lift * lift) * beta
    # A stalled wing that rolls is driven on, until the rate itself has brought the sides out of it.
    driven = np.minimum(kept - gone * (1 - (rolled / AUTOROTATES) ** 2), 1.0)
    roll = roll + craft.roll_roll * driven * rolled + (craft.roll_yaw + craft.roll_yaw_lift * lift) * yawed
    roll = roll + craft.roll_aileron * kept * held.aileron + craft.roll_rudder * held.rudder
    yaw = craft.yaw_zero + craft.yaw_beta * beta + (craft.yaw_roll + craft.yaw_roll_lift * lift) * rolled
    yaw = yaw + craft.yaw_yaw * yawed + craft.yaw_rudder * held.rudder + craft.yaw_aileron_lift * lift * held.aileron
    moment, across = np.empty_like(force), load * craft.span
    moment[0] = across * (roll * cos - yaw * sin)
    moment[1] = load * craft.chord * pitch + z * force[0] - x * force[2]
    moment[2] = across * (yaw * cos + roll * sin)
    return force, moment, load * craft.chord * craft.pitch_lag * half[0]
