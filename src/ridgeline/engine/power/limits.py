"""What a power train is held to: shares of ratings, heat, tip speed (handbook of the trade §8)."""

from __future__ import annotations

import math

#: Share of an ESC's rating to use at most: 20–30 % headroom.
ESC_SHARE = 0.8
#: Level flight above this leaves too little for climbing and for a tired pack; about half is the wish.
CRUISE_THROTTLE = 0.60
#: Motor heat per mass, W/kg, in the propeller's wind: for a minute of full throttle, and for good. Counted with what
#: the winding resists under load: rated 3–4 W/g at about 0.65 efficiency leaves the first.
MOTOR_HEAT_MINUTE, MOTOR_HEAT_CONTINUOUS = 1100.0, 600.0
#: Pitch speed over stall speed: 2.5 to 3 or more is usual.
PITCH_OVER_STALL = 2.5
TIP_MACH, SPEED_OF_SOUND = 0.65, 340.0


def tip_speed_limit_rpm(diameter: float) -> float:
    """Return the speed, rpm, at which a propeller's tips reach Mach 0.65."""
    return TIP_MACH * SPEED_OF_SOUND * 60 / (math.pi * diameter)
