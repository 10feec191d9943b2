"""What each link of a power train may carry, all in one place."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power.limits import ESC_SHARE, MOTOR_HEAT_MINUTE, tip_speed_limit_rpm
from ridgeline.engine.power.pack import battery_current
from ridgeline.engine.power.propeller import tip_speed_limit


class Ratings(NamedTuple):
    """Limits of the links: current of all packs together and of one controller, A; heat of one motor, W; rpm."""

    pack_current: float
    esc_current: float
    motor_heat: float
    rpm: float


def ratings(train: PowerTrain) -> Ratings:
    """Return what the links of a train may carry at full throttle.

    Parameters
    ----------
    train : PowerTrain

    Returns
    -------
    Ratings
        The controller's less what is kept in hand, the motor's for a minute, and the speed the propeller's family is
        made for, never past the tip speed where its law ends.

    Source
    ------
    Handbook of the trade §8.
    """
    diameter = train.propeller.diameter
    return Ratings(
        battery_current(train),
        ESC_SHARE * train.esc.max_current,
        MOTOR_HEAT_MINUTE * train.motor.mass,
        min(tip_speed_limit(train.propeller) * 60 / (math.pi * diameter), tip_speed_limit_rpm(diameter)),
    )
