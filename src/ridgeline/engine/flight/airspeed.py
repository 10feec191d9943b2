"""Airspeed from passes over the ground: up the wind and down it, timed by hand or measured."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridgeline.design.flights import SpeedPass
from ridgeline.engine.flight.battery import Told

#: One sigma of a pass timed by hand, s (chosen: a thumb at either mark, 0.15 s each); of a paced length, a share; of a
#: speed over the ground that something measured, a share.
HAND, PACED, MEASURED = 0.21, 0.02, 0.02
#: The wind a pass meets against the mean one that day, a share of it, one sigma (handbook's second part §18).
WIND_SHARE = 0.15
#: The wind itself where nobody measured it, m/s one sigma.
WIND_UNKNOWN = 1.5
#: At this throttle and over a pass is at full throttle.
FULL = 0.97


def ground_error(one: SpeedPass) -> float:
    """Return the one-sigma error of the speed over the ground of a pass, m/s.

    Parameters
    ----------
    one : SpeedPass

    Returns
    -------
    float
    """
    if one.speed is not None:
        return MEASURED * one.speed
    assert one.seconds is not None
    return one.over_ground * float(np.hypot(HAND / one.seconds, PACED))


def airspeed_of(passes: Sequence[SpeedPass], wind: float | None) -> Told | None:
    """Return the airspeed of passes at one throttle; None without any.

    Passes up the wind and down it take the wind out of one another; those of one way only need it to be known.

    Parameters
    ----------
    passes : sequence of SpeedPass
    wind : float or None
        Mean wind, m/s, where it was measured.

    Returns
    -------
    Told
        m/s.

    Source
    ------
    V = (V_g,up + V_g,down)/2 of the means; one way V = V_g ± w, across √(V_g² + w²): docs/theory.md §16.
    """
    ways: dict[str, list[SpeedPass]] = {"up": [], "down": [], "across": []}
    for one in passes:
        ways[one.way].append(one)
    blown = wind if wind is not None else 0.0
    if ways["up"] and ways["down"]:
        # The gusts of each pass stay.
        ends = [_mean(ways[way], WIND_SHARE * blown) for way in ("up", "down")]
        up, down = ends
        return Told((up.value + down.value) / 2, float(np.hypot(up.sigma, down.sigma)) / 2)
    unsure = WIND_UNKNOWN if wind is None else float(np.hypot(WIND_SHARE * wind, 0.5))
    found = []
    for way, sign in (("up", 1.0), ("down", -1.0)):
        if ways[way]:
            mean = _mean(ways[way], 0.0)
            found.append(Told(mean.value + sign * blown, float(np.hypot(mean.sigma, unsure))))
    if ways["across"]:
        mean = _mean(ways["across"], 0.0)
        speed = float(np.hypot(mean.value, blown))
        found.append(Told(speed, float(np.hypot(mean.sigma, blown / max(speed, 1e-6) * unsure))))
    return min(found, key=lambda told: told.sigma) if found else None


def _mean(passes: Sequence[SpeedPass], gust: float) -> Told:
    """Return the mean speed over the ground of like passes; each meets a gust of its own."""
    speeds = np.array([one.over_ground for one in passes])
    errors = np.array([float(np.hypot(ground_error(one), gust)) for one in passes])
    # What a length is paced wrong by is the same each time: only the rest falls with their number.
    shared = PACED * speeds.mean() if any(one.speed is None for one in passes) else 0.0
    alone = np.sqrt(np.maximum(errors**2 - shared**2, 0.0))
    return Told(float(speeds.mean()), float(np.hypot(shared, np.sqrt((alone**2).sum()) / len(speeds))))


def full_throttle_passes(passes: Sequence[SpeedPass]) -> list[SpeedPass]:
    """Return the passes at full throttle.

    Parameters
    ----------
    passes : sequence of SpeedPass

    Returns
    -------
    list of SpeedPass
    """
    return [one for one in passes if one.throttle >= FULL]
