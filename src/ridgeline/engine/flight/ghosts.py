"""Ghosts of a throw: the same one with one thing wrong, flown beside it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.engine.flight.slips import Slips
from ridgeline.engine.flight.throwing import Launching, Thrown, throw_all

Array = NDArray[np.float64]
#: What a ghost is off by: balance m, and wind m/s where the brief has less.
GHOST_BALANCE, GHOST_WIND = 0.010, 2.0

GhostKey = Literal["aft", "fore", "tail_wind", "half", "torque", "flaps"]
GHOSTS: tuple[GhostKey, ...] = ("aft", "fore", "tail_wind", "half", "torque", "flaps")


def ghosts_of(design: Design, launch: Launching) -> tuple[GhostKey, ...]:
    """Return which ghosts can be thrown beside a launch.

    Parameters
    ----------
    design : Design
    launch : Launching

    Returns
    -------
    tuple of str
    """
    powered = launch.pull is not None and float(np.max(launch.held.throttle)) > 0
    missing = set() if powered else {"half", "torque"}
    if launch.flaps.angle == 0:
        missing.add("flaps")
    return tuple(key for key in GHOSTS if key not in missing)


def behind_of(launch: Launching, wind: float | None = None) -> float:
    """Return the wind from behind that a ghost is thrown in, m/s.

    Parameters
    ----------
    launch : Launching
    wind : float, optional
        From ahead; as planned without.

    Returns
    -------
    float
    """
    return max(abs(launch.wind if wind is None else wind), GHOST_WIND)


def with_ghosts(
    launch: Launching, keys: tuple[GhostKey, ...], *, aft: float = 0.0, wind: float | None = None, seed: int = 1,
    stop: Callable[[float], bool] | None = None,
) -> Thrown:  # fmt: skip
    """Throw as planned, and beside it with each thing wrong; the plan comes first.

    Parameters
    ----------
    launch : Launching
    keys : tuple of str
    aft : float
        How much further aft it balances than reckoned, m.
    wind : float, optional
        From ahead, m/s; as planned without.
    seed : int
        Of the gusts.
    stop : callable, optional

    Returns
    -------
    Thrown
    """
    n = 1 + len(keys)

    def where(key: GhostKey, other: float, usual: float = 0.0) -> Array:
        return np.array([usual, *(other if one == key else usual for one in keys)])

    blowing = launch.wind if wind is None else wind
    behind = -behind_of(launch, blowing)
    moved = aft + where("aft", GHOST_BALANCE) + where("fore", -GHOST_BALANCE)
    down = np.maximum(where("flaps", 0.0 if launch.lowered else 1.0, float(launch.lowered)), 0.0)
    return throw_all(
        launch, Slips(balance=moved), builds=n, wind=where("tail_wind", behind, blowing),
        throttle=where("half", 0.5, 1.0), untorqued=where("torque", 1.0), flaps=down, seed=seed, stop=stop,
    )  # fmt: skip
