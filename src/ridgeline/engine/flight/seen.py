"""What a pilot sees, as the model has it: which observable each sighting is about, and past what it is seen."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.flights import SightingKey


class About(NamedTuple):
    """A sighting's observable; seen over or under a value, or so far from what was reckoned; how surely it is told.

    With ``apart`` the thresholds are told from the reckoned value.
    """

    of: str
    sigma: float
    over: float | None = None
    under: float | None = None
    apart: bool = False


def _deg(angle: float) -> float:
    return math.radians(angle)


#: Thresholds are chosen: what a pilot notices. Margins by handbook §7: under 3 to 5 % it tucks and hunts, over 20 % it
#: balloons.
ABOUT: dict[SightingKey, About] = {
    "up_trim": About("trim_pitch", _deg(0.4), over=_deg(0.5), apart=True),
    "down_trim": About("trim_pitch", _deg(0.4), under=_deg(-0.5), apart=True),
    "power_up": About("trim_power", _deg(0.5), under=_deg(-1.0)),
    "power_down": About("trim_power", _deg(0.5), over=_deg(1.0)),
    "tucks": About("margin", 0.02, under=0.03),
    "balloons": About("margin", 0.03, over=0.20),
    "touchy": About("settles", 0.02, under=0.05),
    "hunts": About("settles", 0.02, under=0.03),
    "mushy": About("flare", _deg(1.5), under=_deg(2.0)),
    "tip_stalls": About("washout", _deg(0.7), under=_deg(-1.0)),
    "drops_wing": About("warp", _deg(0.6), over=_deg(0.9), under=_deg(-0.9)),
    "rolls_with_power": About("roll_power", _deg(1.0), over=_deg(2.0), under=_deg(-2.0)),
    "no_turn": About("roll_seconds", 0.15, over=0.4, apart=True),
    "rolls_fast": About("roll_seconds", 0.15, under=-0.3, apart=True),
    "undamped": About("play", _deg(0.7), over=_deg(1.0)),
    "tail_wag": About("weathercock", 0.15, under=0.75),
    "flap_trim": About("trim_flap", _deg(1.0), over=_deg(1.5), under=_deg(-1.5), apart=True),
    "flap_nothing": About("throws", 0.15, under=-0.5),
    "needs_throttle": About("throttle", 0.06, over=0.10, apart=True),
    "slower": About("top_speed", 0.04, under=-0.06, apart=True),
    "faster": About("top_speed", 0.04, over=0.06, apart=True),
    "hot_motor": About("cooling", 0.8, over=1.5),
    "hot_controller": About("cooling", 0.8, over=1.5),
    "hot_pack": About("resistance", 0.15, over=0.2),
    "brown_out": About("supply", 0.8, over=1.5),
    "short_flight": About("endurance", 0.08, under=-0.12, apart=True),
    "noisy": About("imbalance", 1.0, over=1.5),
    "vibrates": About("imbalance", 0.6, over=1.5),
    "flutters": About("play", _deg(0.5), over=_deg(1.0)),
    "throw_drops": About("glide_ratio", 0.15, under=-0.2, apart=True),
    "throttle_steps": About("thrust", 0.15, over=0.2),
}
#: Sightings that cannot both be of one aircraft as it flew.
OPPOSED: tuple[tuple[SightingKey, SightingKey], ...] = (
    ("up_trim", "down_trim"), ("power_up", "power_down"), ("tucks", "balloons"), ("no_turn", "rolls_fast"),
    ("flap_trim", "flap_nothing"), ("slower", "faster"), ("steady", "hunts"), ("steady", "touchy"),
    ("mushy", "touchy"), ("steady", "undamped"),
)  # fmt: skip
