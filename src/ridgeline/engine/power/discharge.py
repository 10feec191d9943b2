"""A flight by the pack's charge: currents step by step down the discharge curve, and the time they leave."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.held_thrust import throttle_for, turning_for
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


@dataclass(frozen=True)
class Climb:
    """The climb after launch, and full throttle at its airspeed down the pack, whatever the drag.

    ``link`` is the chain with a leading axis of rows (as it is, then what each doubt does), its packs at the
    ``charge`` of each step, (rows, steps); each step uses ``used`` (rows, 1) of the charge. ``full`` is the current
    there, A; ``seconds`` and ``charge_used`` of the climb, (rows,), and the pack's voltage when it begins, V.
    """

    link: Chain
    charge: Array
    used: Array
    full: Array
    seconds: Array
    charge_used: Array
    voltage: float

    def between(self, other: Climb, share: float) -> Climb:
        """Return the climb a share of the way to another at a speed near by."""

        def part(one: Any, two: Any) -> Any:
            return (1 - share) * one + share * two

        names = ("charge", "used", "full", "seconds", "charge_used", "voltage")
        volts = part(self.link.open_circuit, other.link.open_circuit)
        found = {name: part(getattr(self, name), getattr(other, name)) for name in names}
        return Climb(replace(self.link, open_circuit=volts), **found)


def climb_away(
    train: PowerTrain,
    speed: float,
    air_density: float,
    temperature_c: float = 20.0,
    *,
    profile: Profile,
    scatter: Scatter | None = None,
) -> Climb:
    """Climb from a full pack, and draw full throttle at that airspeed at every step down to the reserve.

    Parameters
    ----------
    train : PowerTrain
    speed : float
        Airspeed of the climb, m/s.
    air_density : float
        kg/m³.
    temperature_c : float
        Of the air, °C.
    profile : Profile
    scatter : Scatter, optional
        What is not known of the train.

    Returns
    -------
    Climb
    """
    capacity, link = train.capacity_ah * 3600.0, chain(train, 1.0, temperature_c)
    link, rows = (link, 1) if scatter is None else (scatter.moved(link, axes=1), scatter.count)
    away = solve(link, 1.0, speed, air_density)
    first = np.broadcast_to(np.maximum(away.pack_current, 0.0), (rows, 1))[:, 0]
    gone = np.minimum(first * profile.climb / capacity, 1 - packs.RESERVE)
    seconds = np.where(first > 0, np.minimum(profile.climb, gone * capacity / np.maximum(first, 1e-9)), profile.climb)
    used = (1.0 - gone - packs.RESERVE)[:, None] / _STEPS
    charge = 1.0 - gone[:, None] - used * (np.arange(_STEPS) + 0.5)
    sagging = replace(link, open_circuit=train.pack_series * packs.open_circuit_voltage(train.pack, charge))
    full = np.maximum(solve(sagging, 1.0, speed, air_density, away.omega).pack_current, 0.0)
    return Climb(sagging, charge, used, full, seconds, gone, float(np.ravel(away.pack_voltage)[0]))


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
    climb: Climb | None = None,
    turning: tuple[Array, Array] | None = None,
) -> Discharge | None:
    """Fly the pack down to its reserve; None where a full pack does not hold level flight.

    Parameters
    ----------
    train : PowerTrain
    drag_level : float
        Drag in level flight at ``speed_level``, N.
    speed_level, speed_climb : float
        Airspeeds of level flight and of the climb, m/s.
    air_density : float
        kg/m³.
    temperature_c : float
        Of the air, °C.
    profile : Profile, optional
    scatter : Scatter, optional
        What is not known of train and drag: gives the errors of time and mean current.
    climb : Climb, optional
        Of the same train, doubts and profile, where it is known already.
    turning : tuple of ndarray, optional
        What `turning_for` gives at ``drag_level`` for every row, where it is known already.

    Returns
    -------
    Discharge or None

    Source
    ------
    dt = Q ds/I(s) by the midpoint rule over the state of charge s, I = f I_full + (1 − f) I_level: docs/theory.md §9.
    """
    flown = profile or Profile()
    away = climb or climb_away(train, speed_climb, air_density, temperature_c, profile=flown, scatter=scatter)
    # Rows: as it is, then what each doubt does.
    needed = np.array([[drag_level]]) if scatter is None else drag_level * scatter.factor("drag", axes=1)
    omega, each = turning or turning_for(away.link, needed, speed_level, air_density)
    if not np.isfinite(throttle_for(chain(train, 1.0, temperature_c), omega[0], each[0])).all():
        return None
    throttle = throttle_for(away.link, omega, each)
    level = train.motors * np.nan_to_num(throttle, nan=1.0) * each
    current = flown.full_share * away.full + (1 - flown.full_share) * np.maximum(level, 0.0)
    voltage = away.link.open_circuit - level * away.link.pack_resistance
    low = voltage < packs.least_voltage(train.pack) * train.cells
    held = np.logical_and.accumulate(np.isfinite(throttle) & ~low, axis=1)
    capacity = train.capacity_ah * 3600.0
    seconds = np.where(held & (current > 0), away.used * capacity / np.maximum(current, 1e-9), 0.0)
    totals = away.seconds + seconds.sum(axis=1)
    mean = (seconds * current).sum(axis=1) / np.maximum(seconds.sum(axis=1), 1e-9)
    weak = ~np.isfinite(throttle[0])
    ends = "reserve" if held[0].all() else ("thrust" if weak[np.argmin(held[0])] else "voltage")
    return Discharge(
        away.charge[0],
        seconds[0],
        away.full[0],
        level[0],
        current[0],
        throttle[0],
        voltage[0],
        float(away.seconds[0]),
        float(away.charge_used[0]),
        away.voltage,
        capacity,
        ends,
        0.0 if scatter is None else float(scatter.sigma(totals)),
        0.0 if scatter is None else float(scatter.sigma(mean)),
    )
