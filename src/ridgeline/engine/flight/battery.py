"""What a pack says after a flight: mean current, the charge that is left, and how its resistance goes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.power import Pack
from ridgeline.engine.power.pack import open_circuit_voltage

Array = NDArray[np.float64]
#: One sigma of what a charger puts back, a share (chosen: hobby chargers agree to some 5 %, and what the cells keep
#: of it), and of a flight timed by hand, s (chosen: thumb at the throw, thumb at the landing).
CHARGER_SIGMA, TIMED_SIGMA = 0.03, 5.0
#: One sigma of a rested cell, V: the meter, and how long it rested; and of the curve of one make against another's, V.
METER_SIGMA, CURVE_SIGMA = 0.01, 0.015
#: Rows of the voltage curve that is read backwards.
_FINE = 401
#: One sigma of a resistance that a charger shows, a share (chosen: leads, balance plug, what was left in it).
OHM_SIGMA = 0.10


class Told(NamedTuple):
    """A number with its one-sigma error, in its stored unit."""

    value: float
    sigma: float


def mean_current(put_back_ah: ArrayLike, seconds: ArrayLike) -> tuple[Array, Array]:
    """Return the mean current of a flight and its one-sigma error, A.

    Parameters
    ----------
    put_back_ah : array_like
        Charge put back, Ah.
    seconds : array_like
        Aloft, s; more than nothing.

    Returns
    -------
    current, sigma : ndarray

    Source
    ------
    I = 3600 Q/t; errors of Q and t are independent: docs/theory.md §16.
    """
    charge, time = np.asarray(put_back_ah, float), np.asarray(seconds, float)
    current = 3600.0 * charge / time
    return current, current * np.hypot(CHARGER_SIGMA, TIMED_SIGMA / time)


def charge_by_count(put_back_ah: float, capacity_ah: float) -> Told:
    """Return the state of charge a flight ended at, by what was put back.

    Parameters
    ----------
    put_back_ah, capacity_ah : float
        Ah.

    Returns
    -------
    Told
        0 to 1; below nothing where more was put back than the pack holds.
    """
    used = put_back_ah / capacity_ah
    # A pack holds what is written on it to some 5 % (90 %).
    return Told(1.0 - used, used * float(np.hypot(CHARGER_SIGMA, 0.03)))


def charge_by_rest(cell_voltage: float, pack: Pack) -> Told:
    """Return the state of charge of a pack that rested, by the voltage of one cell.

    Parameters
    ----------
    cell_voltage : float
        V.
    pack : Pack
        Whose voltage curve is read backwards.

    Returns
    -------
    Told
        0 to 1. Where the curve is flat its error is large.

    Source
    ------
    The curve of the handbook §8 read backwards; error σ_V over its slope: docs/theory.md §16.
    """
    charge = np.linspace(0.0, 1.0, _FINE)
    volts = open_circuit_voltage(pack, charge) / pack.cells
    # A cell at rest may read off either end of the curve.
    error = float(np.hypot(METER_SIGMA, CURVE_SIGMA))
    found = float(np.interp(cell_voltage, volts, charge))
    span = np.interp([cell_voltage - error, cell_voltage + error], volts, charge)
    return Told(found, max(float(span[1] - span[0]) / 2, 0.01))


class Trend(NamedTuple):
    """How a pack's resistance goes with its flights: of the first and of the last, Ω at 20 °C, and what a flight adds.

    ``sigma`` is of what a flight adds; 0 with fewer than three readings, which tell no scatter.
    """

    first: float
    last: float
    each: float
    sigma: float
    readings: int


def resistance_trend(resistance: Sequence[float], cold: Sequence[float]) -> Trend | None:
    """Return how the resistance of one pack goes, flight by flight; None without two readings.

    Parameters
    ----------
    resistance : sequence of float
        As read, Ω, in the order of its flights.
    cold : sequence of float
        How much more it resisted for its temperature then, times that at 20 °C.

    Returns
    -------
    Trend or None

    Source
    ------
    Least squares of a straight line: docs/theory.md §16.
    """
    if len(resistance) < 2:
        return None
    warm = np.asarray(resistance, float) / np.asarray(cold, float)
    step = np.arange(len(warm), dtype=float)
    away = step - step.mean()
    each = float(away @ warm / (away @ away))
    fitted = warm.mean() + each * away
    sigma = 0.0
    if len(warm) > 2:
        rest = float(((warm - fitted) ** 2).sum()) / (len(warm) - 2)
        sigma = float(np.sqrt(rest / (away @ away)))
    return Trend(float(fitted[0]), float(fitted[-1]), each, sigma, len(warm))
