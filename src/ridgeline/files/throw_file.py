"""A throw that was flown on paper, as JSON and as lines: its path, what became of it, ghosts and odds."""

from __future__ import annotations

import json
from typing import Any

import numpy as np

from ridgeline.engine.flight.odds import Became, Odds
from ridgeline.engine.flight.scenes import GHOST_NAMES, SceneKey
from ridgeline.engine.flight.throwing import Launching, Thrown

_DECIMALS = 4


def throw_text(launch: Launching, thrown: Thrown, ghosts: tuple[SceneKey, ...], odds: Odds | None) -> str:
    """Return a throw as JSON text in SI units.

    Parameters
    ----------
    launch : Launching
    thrown : Thrown
        The plan first, then its ghosts.
    ghosts : tuple of str
        What is wrong with each of these.
    odds : Odds or None

    Returns
    -------
    str
        ``path`` of the plan as rows of t s, x along and y to starboard and h over the launch place m, V airspeed m/s,
        alpha and bank rad; its ``outcome``; ``ghosts`` alike; ``odds`` where they were flown.
    """
    told: dict[str, Any] = {
        "launch": {
            "kind": launch.kind,
            "speed": _of(launch.throw.speed),
            "angle": _of(launch.throw.path),
            "height": _of(launch.throw.height),
            "throttle": _of(launch.held.throttle),
            "elevator": _of(launch.held.pitch),
            "wind": _of(launch.wind),
            "stall": _of(launch.stall),
        },
        **_one(thrown, 0),
        "ghosts": {name: _one(thrown, k + 1) for k, name in enumerate(ghosts)},
        "odds": None if odds is None else _odds(odds),
    }
    return json.dumps(told, indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def _of(value: Any) -> float:
    return round(float(np.asarray(value)), _DECIMALS)


def flown_of(thrown: Thrown, build: int) -> int:
    """Return how many moments of a build's path are before it met the ground.

    Parameters
    ----------
    thrown : Thrown
    build : int

    Returns
    -------
    int
        One at least.
    """
    landed = thrown.path.landed[build]
    return max(int(np.searchsorted(thrown.path.time, landed, side="right")), 1)


def _one(thrown: Thrown, build: int) -> dict[str, Any]:
    path, told, many = thrown.path, thrown.told, flown_of(thrown, build)
    columns = {
        "t": path.time, "x": path.state[:, 0, build], "y": path.state[:, 1, build], "h": path.height[:, build],
        "V": told.airspeed[:, build], "alpha": told.alpha[:, build], "bank": told.bank[:, build],
    }  # fmt: skip
    rows = [{name: round(float(column[k]), _DECIMALS) for name, column in columns.items()} for k in range(many)]
    landed = path.landed[build]
    return {
        "outcome": thrown.outcome[build],
        "lowest_height": round(max(float(told.lowest[build]), 0.0), _DECIMALS),
        "landed": round(float(landed), _DECIMALS) if np.isfinite(landed) else None,
        "path": rows,
    }


def _became(one: Became) -> dict[str, Any]:
    shares = {name: round(share, _DECIMALS) for name, share in one.shares.items()}
    return {"well": round(one.well, _DECIMALS), "sigma": round(one.sigma, _DECIMALS), "outcomes": shares}


def _odds(odds: Odds) -> dict[str, Any]:
    return {
        "builds": odds.builds,
        "piloted": _became(odds.piloted),
        "hands_off": _became(odds.alone),
        "judged": "piloted" if odds.held_by else "hands_off",
        "matters": [
            {"name": one.name, "correlation": round(one.correlation, 3), "sigma": round(one.sigma, 5)}
            for one in odds.matters
        ],
        "remedies": [
            {"name": one.name, "by": round(one.by, 5), "mass": one.mass, "odds": round(one.odds, 3)}
            for one in odds.better
        ],
    }


def throw_lines(launch: Launching, thrown: Thrown, ghosts: tuple[SceneKey, ...], odds: Odds | None) -> list[str]:
    """Return a throw as lines to read.

    Parameters
    ----------
    launch : Launching
    thrown : Thrown
    ghosts : tuple of str
    odds : Odds or None

    Returns
    -------
    list of str
    """
    speed, up = float(launch.throw.speed), float(np.degrees(launch.throw.path))
    lines = [f"{launch.kind}: {speed:.1f} m/s, {up:.0f}° up, {100 * float(launch.held.throttle):.0f} % throttle"]
    for k, name in enumerate(("as planned", *(GHOST_NAMES[one] for one in ghosts))):
        low, ends = max(float(thrown.told.lowest[k]), 0.0), float(thrown.path.height[flown_of(thrown, k) - 1, k])
        lines.append(f"{name:24} {thrown.outcome[k]:8} lowest {low:5.1f} m, ends at {max(ends, 0.0):5.1f} m")
    if odds is not None:
        for words, one in (("with a pilot", odds.piloted), ("hands off", odds.alone)):
            shares = ", ".join(f"{share:.0%} {name}" for name, share in one.shares.items() if share)
            lines.append(f"{words:24} {one.well:.0%} come away ({shares})")
        lines += [f"matters: {one.name} {one.correlation:+.2f}" for one in odds.matters[:4]]
        lines += [f"helps: {one.name} {one.by:+.3g} to {one.odds:.0%}" for one in odds.better]
    return lines
