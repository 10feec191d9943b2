"""The first throw as it is planned: how it leaves the hand, into what air, and who holds the sticks."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, measure

ThrowKind = Literal["hand", "swing", "tow", "wheels"]


class FirstThrow(Node):
    """A launch to be flown on paper. What is left out follows the aircraft."""

    kind: ThrowKind | None = Field(None, description="as the brief launches it when left out")
    speed: float | None = measure("speed", "over the ground, as it is let go", None, low=0.5, high=60.0)
    angle: float = measure("angle", "of its path, upward", 0.105, low=-0.7, high=1.4)
    height: float = measure("distance", "of the hand over the ground", 1.7, low=0.0, high=300.0)
    bank: float = measure("angle", "as it is let go, starboard down", 0.0, low=-0.8, high=0.8)
    yaw: float = measure("angle", "as it is let go, nose to starboard", 0.0, low=-0.8, high=0.8)
    throttle: float | None = measure("fraction", "held; what climbs well when left out", None, low=0.0, high=1.0)
    trim: float | None = measure(
        "angle",
        "of elevator, trailing edge up: a pull; that of 1.3 stall speeds when left out",
        None,
        low=-0.7,
        high=0.7,
    )
    pilot: Flag | None = Field(
        None,
        description="somebody holds wings and nose, a quarter of a second late; off wheels and a line when left out",
    )
    flaps: Flag = Field(False, description="down as for landing")
    seconds: float = measure("seconds", "flown on paper", 6.0, low=1.0, high=60.0)
    wind: float = measure("speed", "from ahead, at ten metres; from behind below nothing", 0.0, low=-15.0, high=25.0)
    gusty: Flag = Field(False, description="the wind comes in gusts")
    rising: float = measure("speed", "of the air, upward", 0.0, low=-3.0, high=6.0)
    falls: float = measure("angle", "of the ground ahead, downward", 0.0, low=-0.5, high=0.8)
    hook: float | None = measure(
        "length",
        "of a tow line's hook ahead of the balance point; by its angle when left out",
        None,
        low=-0.5,
        high=2.0,
    )
    hook_below: float = measure("length", "of the hook under the balance point", 0.03, low=-0.5, high=1.0)
    pull: float = measure("factor", "of the line at first, over the weight", 4.0, low=0.2, high=12.0)
    line: float | None = measure(
        "distance", "it pulls over, falling to nothing; the run of the brief when left out", None, low=1.0, high=400.0
    )
