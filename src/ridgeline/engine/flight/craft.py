"""An aircraft as the simulation takes it: coefficients, drag, what its propellers pull, and what is held.

Axes of the body: x forward, y to starboard, z down, about the balance point. Every number may be one, or an array of
shape (n,) with one for each build.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: One number, or one for each build.
Number = Any


@dataclass(frozen=True)
class Drag:
    """What the polar says: drag area of what carries nothing, m², over airspeed m/s, and what lifting costs.

    C_D = factor·area(V)/S + off_best (C_L − best)² + induced C_L² + across |sin α|³.
    """

    speed: Array
    area: Array
    off_best: Number
    best: Number
    induced: Number
    across: Number = 0.0
    factor: Number = 1.0


@dataclass(frozen=True)
class Aircraft:
    """An aircraft by its coefficients, per radian and per unit rate q c̄/2V, p b/2V, r b/2V.

    Lift and pitch are of the attached flow about the point ``centre``, (x, z) m in body axes from the balance point;
    roll, yaw and side force about the balance point, in stability axes. ``…_lift`` is what one more of lift coefficient
    adds. ``pitch_control`` is by a trailing edge down, ``aileron`` to starboard, ``rudder`` nose to starboard.
    ``sense`` are the propellers that turn clockwise, seen from behind, over those that turn the other way.
    """

    mass: Number
    roll_inertia: Number
    pitch_inertia: Number
    yaw_inertia: Number
    area: Number
    span: Number
    chord: Number
    centre: tuple[Number, Number]
    lift_zero: Number
    lift_alpha: Number
    lift_rate: Number
    lift_control: Number
    pitch_zero: Number
    pitch_alpha: Number
    pitch_rate: Number
    pitch_lag: Number
    pitch_control: Number
    lift_most: Number
    drag: Drag
    normal_plate: Number
    side_beta: Number
    roll_beta: Number
    roll_beta_lift: Number
    yaw_beta: Number
    side_rate: Number
    roll_roll: Number
    roll_yaw: Number
    roll_yaw_lift: Number
    yaw_roll: Number
    yaw_roll_lift: Number
    yaw_yaw: Number
    roll_aileron: Number = 0.0
    yaw_aileron_lift: Number = 0.0
    roll_rudder: Number = 0.0
    yaw_rudder: Number = 0.0
    roll_zero: Number = 0.0
    yaw_zero: Number = 0.0
    product: Number = 0.0


@dataclass(frozen=True)
class Pull:
    """Thrust N and torque N m of all propellers over airspeed and throttle, and the line they pull along.

    ``throttle`` and ``speed`` are evenly spaced; ``thrust`` and ``torque`` of shape (throttles, speeds). ``at`` is the
    place of the line, (x, y, z) m in body axes from the balance point, ``along`` its direction; ``sense`` the share of
    the torque that is not made up for by propellers that turn the other way. ``factor`` scales the thrust. ``tail`` is
    what the wash adds to the pitch control's power, over thrust over dynamic pressure times wing area.
    """

    throttle: Array
    speed: Array
    thrust: Array
    torque: Array
    at: tuple[Number, Number, Number]
    along: tuple[Number, Number, Number]
    sense: Number = 1.0
    factor: Number = 1.0
    tail: Number = 0.0


class Held(NamedTuple):
    """What the controls and the throttle are held at: rad, and 0 to 1."""

    pitch: Number = 0.0
    aileron: Number = 0.0
    rudder: Number = 0.0
    throttle: Number = 0.0
