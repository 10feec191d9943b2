"""Rates and expo that suit an aircraft, its purpose and the space it is flown in."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.radio import Rate
from ridgeline.engine.controls.answers import Pull, load_for

#: Roll p b/2V that is wanted at the high rate, by purpose; of the others that of sport (handbook of the trade §7:
#: trainer 0.05 to 0.07, sport 0.07 to 0.09, aerobatic 0.1 and more).
_HELIX = {"trainer": 0.07, "slow": 0.07, "camera": 0.07, "glider": 0.07, "aerobatic": 0.13, "speed": 0.10}
_HELIX_OTHER = 0.09
#: At the low rate a circle fits so many times across the field, is banked into within so many seconds, and is held with
#: so much of the stick to spare (chosen).
ACROSS, BANKED_IN, SPARE = 3.0, 1.0, 1.25
#: A tenth of the stick about its middle changes the load factor and the roll rate, rad/s, by no more than this before
#: expo softens it; rates and expo are set in steps of this, within these bounds (chosen).
PITCH_STEP, ROLL_STEP = 0.10, math.radians(8.0)
_STEP, LEAST, MOST_EXPO = 0.05, 0.30, 0.60
#: At the high rate the stick pulls past the stall by this much, so that flare and recovery are never short (chosen).
_PAST = 1.15


class Answering(NamedTuple):
    """What full sticks do in cruise.

    ``pull`` what a pull takes, ``up`` rad of control at full throw from level flight, ``flare`` and ``approach`` rad
    that the stall and the approach ask; ``roll`` rad/s at full throw, None without; ``span`` m, ``speed`` m/s.
    """

    pull: Pull | None
    up: float
    flare: float
    approach: float
    roll: float | None
    span: float
    speed: float


class Proposed(NamedTuple):
    """Rates for the sticks, and what asked for them: radius m, load factor and roll rate rad/s at the low rate."""

    rates: tuple[Rate, ...]
    radius: float
    load: float
    roll: float


def proposed(full: Answering, purpose: str, field: float, sticks: tuple[str, ...]) -> Proposed:
    """Return rates and expo for the sticks that move something.

    Parameters
    ----------
    full : Answering
    purpose : str
    field : float
        Across the space it is flown in, m.
    sticks : tuple of str
        That move something.

    Returns
    -------
    Proposed
        In steps of 5 %: high rates reach the roll of the purpose and just past the stall, low rates hold a circle that
        fits three times across the field, or the approach, and bank into it within a second.
    """
    radius = field / (2 * ACROSS)
    load = load_for(full.speed, radius)
    rates: list[Rate] = []
    if "pitch" in sticks and full.pull is not None and full.up > 0:
        load = min(load, 0.95 * full.pull.most)
        past = max(_PAST * full.pull.control(full.pull.most), full.flare)
        high = _held(past / full.up)
        low = min(_held(SPARE * max(full.pull.control(load), full.approach) / full.up), high)
        slope = (full.pull.load(0.1 * full.up * high) - 1.0) / PITCH_STEP
        rates.append(Rate(stick="pitch", high=high, low=low, expo=_expo(slope)))
    bank = math.acos(1 / max(load, 1.0))
    roll = bank / BANKED_IN
    if "roll" in sticks and full.roll:
        helix = _HELIX.get(purpose, _HELIX_OTHER)
        high = _held(helix * 2 * full.speed / full.span / full.roll)
        low = min(_held(SPARE * roll / full.roll), high)
        rates.append(Rate(stick="roll", high=high, low=low, expo=_expo(0.1 * high * full.roll / ROLL_STEP)))
    if "yaw" in sticks:
        rates.append(Rate(stick="yaw", high=1.0, low=0.6, expo=0.2))
    return Proposed(tuple(rates), radius, load, roll)


def _held(share: float) -> float:
    """Return a rate in whole steps, no less than what it takes, within its bounds."""
    steps = math.ceil(share / _STEP - 1e-6) if math.isfinite(share) else 1 / _STEP
    return round(min(max(steps * _STEP, LEAST), 1.0), 2)


def _expo(times: float) -> float:
    """Return the expo that brings the slope about the middle down to what it may be, in whole steps."""
    if times <= 1.0:
        return 0.0
    return round(min(math.ceil((1 - 1 / times) / _STEP - 1e-6) * _STEP, MOST_EXPO), 2)
