"""Small motions about straight flight in closed form: the matrices of an aircraft of coefficients, written out.

The simulation flies the same coefficients by its own equations; that both give the same motions is held by tests.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.flight.craft import Aircraft

Array = NDArray[np.float64]
#: Rounds until lift, drag and moment agree, and the share of a speed that a slope of the drag is taken over.
_ROUNDS, _NEAR = 12, 1e-3
#: A control whose moment at the same lift is less than this, 1/rad, fixes no trim; angles looked for, rad.
_TELLS, _MOST = 0.01, 0.6


class Drawn(NamedTuple):
    """What propellers pull near a steady flight: thrust N, its slope over airspeed N s/m, and its line.

    ``at`` is (x, z) m in body axes from the balance point, ``along`` its direction there; ``tail`` is what the wash
    adds to the pitch control's power over thrust over load.
    """

    thrust: float = 0.0
    slope: float = 0.0
    at: tuple[float, float] = (0.0, 0.0)
    along: tuple[float, float] = (1.0, 0.0)
    tail: float = 0.0

    @property
    def arm(self) -> float:
        """Moment of one newton, nose up, m."""
        return self.at[1] * self.along[0] - self.at[0] * self.along[1]


class Straight(NamedTuple):
    """Steady straight flight: airspeed m/s, path upward, angle of attack and pitch control rad, and what is pulled.

    ``pitch`` is what the control amounts to, its wash counted in; ``lift`` and ``resistance`` are coefficients, the
    latter's ``slope`` over airspeed s/m.
    """

    speed: float
    path: float
    alpha: float
    pitch: float
    lift: float
    resistance: float
    slope: float
    drawn: Drawn


def _resistance(craft: Aircraft, speed: float, lift: float, alpha: float) -> float:
    polar = craft.drag
    fixed = polar.factor * float(np.interp(speed, polar.speed, polar.area)) / craft.area
    across: float = polar.across * abs(math.sin(alpha)) ** 3
    found: float = fixed + polar.off_best * (lift - polar.best) ** 2 + polar.induced * lift**2 + across
    return found


def straight(craft: Aircraft, speed: float, density: float, drawn: Drawn | None = None) -> Straight:
    """Return steady flight at an airspeed: level with propellers that pull, a glide without.

    Parameters
    ----------
    craft : Aircraft
        One build.
    speed : float
        m/s.
    density : float
        kg/m³.
    drawn : Drawn, optional
        What the propellers pull; its thrust is found, the rest kept. None glides.

    Returns
    -------
    Straight
    """
    load, weight = 0.5 * density * speed * speed * craft.area, craft.mass * GRAVITY
    x, z = craft.centre
    pulls = drawn is not None
    line = drawn if drawn is not None else Drawn()
    alpha = pitch = path = thrust = lift = resistance = 0.0
    for _ in range(_ROUNDS):
        cos, sin = math.cos(alpha), math.sin(alpha)
        lift = craft.lift_zero + craft.lift_alpha * alpha + craft.lift_control * pitch
        resistance = _resistance(craft, speed, lift, alpha)
        forward = line.along[0] * cos + line.along[1] * sin
        upward = line.along[0] * sin - line.along[1] * cos
        thrust = load * resistance / forward if pulls else 0.0
        path = 0.0 if pulls else math.atan2(-resistance, lift)
        wished = (weight * math.cos(path) - thrust * upward) / load
        # Lift and moment fix angle and control; what goes with the angle otherwise is that of the round before.
        force_x, force_z = lift * sin - resistance * cos, -lift * cos - resistance * sin
        arms = (z * force_x - x * force_z) / craft.chord + thrust * line.arm / (load * craft.chord)
        sides = np.array([wished - craft.lift_zero, -craft.pitch_zero - arms])
        matrix = np.array([[craft.lift_alpha, craft.lift_control], [craft.pitch_alpha, craft.pitch_control]])
        # Without a control, or with one that only lifts, the angle carries the weight and the moment is what it is.
        alpha, pitch = float(sides[0]) / craft.lift_alpha, 0.0
        if abs(float(np.linalg.det(matrix))) > _TELLS * craft.lift_alpha:
            alpha, pitch = (float(one) for one in np.linalg.solve(matrix, sides))
        alpha, pitch = (min(max(one, -_MOST), _MOST) for one in (alpha, pitch))
    near = speed * _NEAR
    slope = (_resistance(craft, speed + near, lift, alpha) - _resistance(craft, speed - near, lift, alpha)) / (2 * near)
    return Straight(speed, path, alpha, pitch, lift, resistance, slope, line._replace(thrust=thrust))


def lengthwise_matrix(craft: Aircraft, flight: Straight, density: float) -> Array:
    """Return the matrix of (u, w, q, θ) in stability axes, the throttle held.

    Parameters
    ----------
    craft : Aircraft
        One build.
    flight : Straight
    density : float
        kg/m³.

    Returns
    -------
    ndarray, shape (4, 4)

    Source
    ------
    Nelson, Flight Stability and Automatic Control, ch. 3 and 4, with thrust along its own line, the wash's lag and the
    height of the balance point: docs/theory.md §10.
    """
    v, drawn = flight.speed, flight.drawn
    load = 0.5 * density * v * v * craft.area
    cos, sin = math.cos(flight.alpha), math.sin(flight.alpha)
    (x, z), half = craft.centre, craft.chord / (2 * v)
    polar, c_l, c_d = craft.drag, flight.lift, flight.resistance
    by_lift = 2 * polar.off_best * (c_l - polar.best) + 2 * polar.induced * c_l
    by_alpha = by_lift * craft.lift_alpha + 3 * polar.across * abs(sin) * sin * cos
    by_rate = by_lift * craft.lift_rate * half
    # Thrust in stability axes, and how it goes with speed along the body.
    forward, down = drawn.along[0] * cos + drawn.along[1] * sin, drawn.along[1] * cos - drawn.along[0] * sin
    blown = drawn.tail * drawn.thrust / load
    # What the wash adds to the control goes by thrust over load.
    washed = 0.0 if blown == 0 else flight.pitch * blown / (1 + blown)
    stale = washed * (drawn.slope * cos / drawn.thrust - 2 / v) if washed else 0.0
    stale_w = -washed * drawn.slope * sin / drawn.thrust if washed else 0.0

    def turned(lift: float, drag: float) -> float:
        """Moment about the balance point of a lift and a drag coefficient at the moment centre, over the chord."""
        return float((z * (lift * sin - drag * cos) + x * (lift * cos + drag * sin)) / craft.chord)

    steady = craft.pitch_zero + craft.pitch_alpha * flight.alpha + craft.pitch_control * flight.pitch
    moment = steady + turned(c_l, c_d)
    tilt = (z * (c_l * cos + c_d * sin) + x * (-c_l * sin + c_d * cos)) / craft.chord
    by_washed = craft.pitch_control + turned(craft.lift_control, by_lift * craft.lift_control)
    m_alpha = craft.pitch_alpha + turned(craft.lift_alpha, by_alpha) + tilt
    pitching, mass = load * craft.chord, craft.mass
    x_u = -load * (2 * c_d / v + flight.slope + by_lift * craft.lift_control * stale) + drawn.slope * cos * forward
    z_u = -load * (2 * c_l / v + craft.lift_control * stale) + drawn.slope * cos * down
    x_w = load * ((c_l - by_alpha) / v - by_lift * craft.lift_control * stale_w) - drawn.slope * sin * forward
    z_w = -load * ((craft.lift_alpha + c_d) / v + craft.lift_control * stale_w) - drawn.slope * sin * down
    m_u = pitching * (2 * moment / v + turned(0.0, flight.slope) + by_washed * stale) + drawn.slope * cos * drawn.arm
    m_w = pitching * (m_alpha / v + by_washed * stale_w) - drawn.slope * sin * drawn.arm
    m_q = pitching * (craft.pitch_rate * half + turned(craft.lift_rate * half, by_rate))
    lag = pitching * craft.pitch_lag * half / v
    rows = np.array([
        [x_u / mass, x_w / mass, -load * by_rate / mass, -GRAVITY * math.cos(flight.path)],
        [z_u / mass, z_w / mass, v - load * craft.lift_rate * half / mass, -GRAVITY * math.sin(flight.path)],
        [m_u / craft.pitch_inertia, m_w / craft.pitch_inertia, m_q / craft.pitch_inertia, 0.0],
        [0.0, 0.0, 1.0, 0.0],
    ])  # fmt: skip
    # The wash that the tail meets lags: by how fast the angle changes.
    rows[2] += lag / craft.pitch_inertia * rows[1]
    return rows


@dataclass(frozen=True)
class Across:
    """What makes the sideways motions about a straight flight: coefficients in stability axes at its lift.

    ``side`` is by sideslip and yaw rate, ``roll`` and ``yaw`` by sideslip, roll and yaw rate; ``force`` is load over
    momentum 1/s, ``half`` the half span over the speed s, ``moment`` load times span N m, and ``spun`` the inverse of
    the inertias about the axes of roll and yaw, 1/(kg m²).
    """

    side: tuple[float, float]
    roll: tuple[float, float, float]
    yaw: tuple[float, float, float]
    force: float
    half: float
    moment: float
    spun: tuple[tuple[float, float], tuple[float, float]]
    speed: float
    path: float

    def changed(self, *, side: float = 0.0, roll: float = 0.0, yaw: float = 0.0, turn: float = 0.0) -> Across:
        """Return it with more side force, roll and yaw from sideslip, and yaw from a yaw rate, 1/rad."""
        return Across(
            (self.side[0] + side, self.side[1]),
            (self.roll[0] + roll, *self.roll[1:]),
            (self.yaw[0] + yaw, self.yaw[1], self.yaw[2] + turn),
            *(self.force, self.half, self.moment, self.spun, self.speed, self.path),
        )

    @property
    def matrix(self) -> Array:
        """The matrix of (β, p, r, φ), shape (4, 4)."""
        by = np.array([self.roll, self.yaw]) * (1.0, self.half, self.half)
        turned = np.array(self.spun) @ by * self.moment
        return np.array([
            [self.side[0] * self.force, 0.0, self.side[1] * self.half * self.force - 1.0,
             GRAVITY * math.cos(self.path) / self.speed],
            [*turned[0], 0.0],
            [*turned[1], 0.0],
            [0.0, 1.0, math.tan(self.path), 0.0],
        ])  # fmt: skip


def across_of(craft: Aircraft, flight: Straight, density: float) -> Across:
    """Return what makes the sideways motions about a straight flight.

    Parameters
    ----------
    craft : Aircraft
        One build.
    flight : Straight
    density : float
        kg/m³.

    Returns
    -------
    Across

    Source
    ------
    Nelson, Flight Stability and Automatic Control, ch. 5, inertias turned into stability axes.
    """
    load, lift = 0.5 * density * flight.speed**2 * craft.area, flight.lift
    cos, sin = math.cos(flight.alpha), math.sin(flight.alpha)
    turn = np.array([[cos, sin], [-sin, cos]])
    body = np.array([[craft.roll_inertia, -craft.product], [-craft.product, craft.yaw_inertia]])
    (a, b), (c, d) = np.linalg.inv(turn @ body @ turn.T).tolist()
    return Across(
        (craft.side_beta, craft.side_rate),
        (craft.roll_beta + craft.roll_beta_lift * lift, craft.roll_roll, craft.roll_yaw + craft.roll_yaw_lift * lift),
        (craft.yaw_beta, craft.yaw_roll + craft.yaw_roll_lift * lift, craft.yaw_yaw),
        load / (craft.mass * flight.speed),
        craft.span / (2 * flight.speed),
        load * craft.span,
        ((a, b), (c, d)),
        flight.speed,
        flight.path,
    )
