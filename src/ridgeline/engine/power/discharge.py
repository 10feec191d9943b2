"""A flight by the pack's charge: currents step by step down the discharge curve, and the time they leave."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.held_thrust import held_thrust, throttle_for_thrust
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.scatter import Scatter

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
    #: One-sigma errors of the total time and of the mean current after the climb, from what is not known of the train.
    total_sigma: float = 0.0
    mean_sigma: float = 0.0

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
    scatter: Scatter | None = None,
) -> Discharge | None:
    """Fly the pack down to its reserve; None where a full pack does not hold level flight.

    Parameters
    ----------
    drag_level : float
        Drag in level flight at ``speed_level``, N.
    speed_climb : float
        Airspeed of the climb, m/s.
    scatter : Scatter, optional
        What is not known of train and drag: gives the errors of time and mean current.

    Source
    ------
    dt = Q ds/I(s) by the midpoint rule over the state of charge s, I = f I_full + (1 − f) I_level: docs/theory.md §9.
    """
    flown = profile or Profile()
    link = chain(train, 1.0, temperature_c)
    capacity = train.capacity_ah * 3600.0
    if not np.isfinite(throttle_for_thrust(link, drag_level, speed_level, air_density)):
        return None
    # Rows: as it is, then what each doubt does.
    needed = np.array([drag_level])
    if scatter is not None:
        link, needed = scatter.moved(link, axes=1), drag_level * scatter.factor("drag")
    flight = _flown(train, link, needed, speed_level, speed_climb, air_density, flown)
    totals = flight.climb + flight.seconds.sum(axis=1)
    held, weak = flight.held[0], ~np.isfinite(flight.throttle[0])
    ends = "reserve" if held.all() else ("thrust" if weak[np.argmin(held)] else "voltage")
    return Discharge(
        flight.charge[0],
        flight.seconds[0],
        flight.full[0],
        flight.level[0],
        flight.current[0],
        flight.throttle[0],
        flight.voltage[0],
        float(flight.climb[0]),
        float(flight.climb_charge[0]),
        flight.climb_voltage,
        capacity,
        ends,
        0.0 if scatter is None else float(scatter.sigma(totals)),
        0.0 if scatter is None else float(scatter.sigma(flight.mean)),
    )


@dataclass(frozen=True)
class _Flown:
    """Discharges side by side, shape (rows, steps), and (rows,) for the climb and the mean current after it."""

    charge: Array
    seconds: Array
    full: Array
    level: Array
    current: Array
    throttle: Array
    voltage: Array
    held: NDArray[np.bool_]
    climb: Array
    climb_charge: Array
    mean: Array
    climb_voltage: float


def _flown(
    train: PowerTrain,
    link: Chain,
    needed: Array,
    speed_level: float,
    speed_climb: float,
    air_density: float,
    flown: Profile,
) -> _Flown:
    """Fly a chain with a leading axis of rows, or none, down from full, each against its own drag (rows,)."""
    capacity, column = train.capacity_ah * 3600.0, needed[:, None]
    away = solve(link, 1.0, speed_climb, air_density)
    first = np.broadcast_to(np.maximum(away.pack_current, 0.0), column.shape)[:, 0]
    climb_charge = np.minimum(first * flown.climb / capacity, 1 - packs.RESERVE)
    climb = np.where(first > 0, np.minimum(flown.climb, climb_charge * capacity / np.maximum(first, 1e-9)), flown.climb)
    used = (1.0 - climb_charge - packs.RESERVE)[:, None] / _STEPS
    charge = 1.0 - climb_charge[:, None] - used * (np.arange(_STEPS) + 0.5)
    sagging = replace(link, open_circuit=train.pack_series * packs.open_circuit_voltage(train.pack, charge))
    throttle, each = held_thrust(sagging, column, speed_level, air_density)
    level = train.motors * np.nan_to_num(throttle, nan=1.0) * each
    full = np.maximum(solve(sagging, 1.0, speed_climb, air_density, away.omega).pack_current, 0.0)
    current = flown.full_share * full + (1 - flown.full_share) * np.maximum(level, 0.0)
    voltage = sagging.open_circuit - level * link.pack_resistance
    low = voltage < packs.least_voltage(train.pack) * train.cells
    held = np.logical_and.accumulate(np.isfinite(throttle) & ~low, axis=1)
    with np.errstate(divide="ignore"):
        seconds = np.where(held & (current > 0), used * capacity / np.maximum(current, 1e-9), 0.0)
    mean = (seconds * current).sum(axis=1) / np.maximum(seconds.sum(axis=1), 1e-9)
    begins = float(np.ravel(away.pack_voltage)[0])
    return _Flown(charge, seconds, full, level, current, throttle, voltage, held, climb, climb_charge, mean, begins)
