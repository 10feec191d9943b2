"""The propeller families: chords, sections and twist that blade elements turn into coefficients.

Chord laws and sections are generic. They were set so that C_T, figure of merit, zero-thrust advance and best efficiency
fall inside the ranges published for two-blade propellers of 8 to 11 in (handbook of the trade §8); the wide ones by
C_T 0.20 and C_P 0.105 of a standing 5×4.5 in three-blade, whose blades wash out below the stated pitch.
"""

from __future__ import annotations

import math

import numpy as np

from ridgeline.engine.power.blade_element import LAW_STATIONS, Family


def _family(
    chord: tuple[float, ...], zero_lift_deg: float, stall_lift: float, drag: float, twist: tuple[float, float] = (1, 1)
) -> Family:
    return Family(chord=chord, zero_lift=math.radians(zero_lift_deg), stall_lift=stall_lift, drag=drag, twist=twist)


#: Chord over radius at 0.15, 0.3, 0.5, 0.7, 0.85, 0.95 and 1 of the radius; then the section.
FAMILIES: dict[str, Family] = {
    "thin_electric": _family((0.155, 0.207, 0.223, 0.187, 0.140, 0.093, 0.05), -3.2, 1.20, 0.0235),
    "slow_fly": _family((0.180, 0.288, 0.310, 0.270, 0.208, 0.137, 0.06), -3.4, 1.10, 0.0275),
    "wood": _family((0.165, 0.203, 0.208, 0.180, 0.142, 0.104, 0.06), -3.0, 1.18, 0.0215),
    "folding": _family((0.130, 0.205, 0.230, 0.195, 0.140, 0.086, 0.04), -3.2, 1.20, 0.0235),
    "wide": _family((0.126, 0.189, 0.217, 0.217, 0.196, 0.154, 0.08), -3.2, 1.22, 0.0190, (0.82, 0.82)),
    "tiny": _family((0.170, 0.238, 0.264, 0.238, 0.196, 0.136, 0.08), -3.2, 1.15, 0.0250),
}


#: What a builder calls each family.
FAMILY_WORDS: dict[str, str] = {
    "thin_electric": "thin electric",
    "slow_fly": "slow fly",
    "wood": "wood",
    "folding": "folding",
    "wide": "wide blades",
    "tiny": "tiny",
    "ducted_fan": "ducted fan",
}


def chord_over_diameter(family: str) -> float:
    """Return the blade chord of a family at three quarters of the radius, over the diameter."""
    return 0.5 * float(np.interp(0.75, LAW_STATIONS, FAMILIES[family].chord))


#: Speed each family's blades are made for: tip speed in m/s, as makers' rpm limits over diameter imply (typical).
TIP_SPEED_LIMIT: dict[str, float] = {
    "thin_electric": 190.0,
    "slow_fly": 85.0,
    "wood": 200.0,
    "folding": 180.0,
    "wide": 190.0,
    "tiny": 200.0,
    "ducted_fan": 210.0,
}
