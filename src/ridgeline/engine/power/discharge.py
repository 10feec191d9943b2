"""A flight by the pack's charge: currents step by step down the discharge curve, and the time they leave."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power.operating_point import chain, solve, throttle_for_thrust

Array = NDArray[np.float64]
#: Steps of charge between full and the reserve.
_STEPS = 32


@dataclass(frozen=True)
class Profile:
    """How it is flown: seconds of climb after launch, then this share of the time at full throttle, the rest level."""

    climb: float = 20.0
    full_share: float = 0.10


@dataclass(frozen=True)
class Discharge:
    """A flight down to the reserve, in steps of charge (arrays of shape (n,), at the middle of each step).

    ``charge`` 0–1, ``seconds`` spent in each step, ``full``, ``level`` and mean ``current``, A, ``throttle`` level,
    ``voltage`` of the pack in level flight, V. ``climb`` s and its ``climb_charge`` come first, the pack at
    ``climb_voltage`` V when it begins. ``ends`` says why it lands: the reserve, the cells' least voltage, or too little
    thrust.
    """

    charge: Array
    seconds: Array
    full: Array
    level: Array
    current: Array
    throttle: Array
    voltage: Array
    climb: float
    climb_charge: float
    climb_voltage: float
    capacity: float
    ends: str

    @property
    def total(self) -> float:
        """Time from launch to the reserve, s."""
        return self.climb + float(self.seconds.sum())

    @property
    def used(self) -> float:
        """Charge taken from the pack, A s."""
        return self.climb_charge * self.capacity + float((self.seconds * self.current).sum())


def discharge(
    train: PowerTrain,
    *,
    drag_level: float,
    speed_level: float,
    speed_climb: float,
    air_density: float,
    temperature_c: float = 20.0,
    profile: Profile | None = None,
) -> Discharge | None:
    """Fly the pack down to its reserve; None where a full pack does not hold level flight.

    Parameters
    ----------
    drag_level : float
        Drag in level flight at ``speed_level``, N.
    speed_climb : float
        Airspeed of the climb, m/s.

    Source
    ------
    dt = Q ds/I(s) by the midpoint rule over the state of charge s, I = f I_full + (1 − f) I_level: docs/theory.md §9.
    """
    flown = profile or Profile()
    link = chain(train, 1.0, temperature_c)
    capacity = train.capacity_ah * 3600.0
    away = solve(link, 1.0, speed_climb, air_density)
    first = float(away.pack_current)
    if not np.isfinite(throttle_for_thrust(link, drag_level, speed_level, air_density)):
        return None
    climb_charge = min(max(first, 0.0) * flown.climb / capacity, 1 - packs.RESERVE)
    climb = flown.climb if first <= 0 else min(flown.climb, climb_charge * capacity / first)
    edges = np.linspace(1.0 - climb_charge, packs.RESERVE, _STEPS + 1)
    charge = 0.5 * (edges[1:] + edges[:-1])
    sagging = replace(link, open_circuit=train.pack_series * packs.open_circuit_voltage(train.pack, charge))
    throttle = throttle_for_thrust(sagging, drag_level, speed_level, air_density)
    level = solve(sagging, np.nan_to_num(throttle, nan=1.0), speed_level, air_density)
    full = np.maximum(solve(sagging, 1.0, speed_climb, air_density).pack_current, 0.0)
    current = flown.full_share * full + (1 - flown.full_share) * np.maximum(level.pack_current, 0.0)
    weak = ~np.isfinite(throttle)
    low = level.pack_voltage < packs.LEAST_CELL_VOLTAGE * train.cells
    held = np.logical_and.accumulate(~(weak | low))
    ends = "reserve" if held.all() else ("thrust" if weak[np.argmin(held)] else "voltage")
    step = (edges[0] - edges[-1]) / _STEPS * capacity
    with np.errstate(divide="ignore"):
        seconds = np.where(held & (current > 0), step / np.maximum(current, 1e-9), 0.0)
    return Discharge(
        charge,
        seconds,
        full,
        level.pack_current,
        current,
        throttle,
        level.pack_voltage,
        climb,
        climb_charge,
        float(away.pack_voltage),
        capacity,
        ends,
    )
