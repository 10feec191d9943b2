"""Lithium polymer packs: open-circuit voltage, resistance, and what current they really give."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from ridgeline.design.power import Pack, PowerTrain
from ridgeline.engine.power.classes import cell_resistance_of

#: Open-circuit volts per cell over state of charge (handbook of the trade §8).
_CHARGE = (0.0, 0.05, 0.10, 0.20, 0.30, 0.40, 0.50, 0.60, 0.70, 0.80, 0.90, 1.00)
_VOLTS = (3.30, 3.55, 3.66, 3.72, 3.76, 3.79, 3.82, 3.86, 3.92, 3.99, 4.08, 4.18)
#: What is left in the pack at the end of a flight.
RESERVE = 0.20
#: A cell pulled below this under load is being damaged, V.
LEAST_CELL_VOLTAGE = 3.4
#: Resistance rises in the cold: linear from 20 °C, at most double (handbook of the trade §8: 1.5 to 2 times).
_WARM_C, _COLD_RISE = 20.0, 0.04


def open_circuit_voltage(pack: Pack, charge: ArrayLike) -> Any:
    """Return the voltage at no load, V, at a state of charge from 0 to 1 (any shape): by its own curve if it has one.

    Parameters
    ----------
    pack : Pack
    charge : array_like
        State of charge, 0 to 1.

    Returns
    -------
    float or ndarray
        Of all its cells, V.

    Source
    ------
    Handbook of the trade §8, typical lithium polymer cell at 20 °C, ±0.03 V a cell.
    """
    at, volts = [row.charge for row in pack.curve] or _CHARGE, [row.volts for row in pack.curve] or _VOLTS
    return pack.cells * np.interp(np.asarray(charge, float), at, volts)


def least_voltage(pack: Pack) -> float:
    """Return what one cell may be pulled to under load, V: its own cut-off, or a lithium polymer cell's."""
    return LEAST_CELL_VOLTAGE if pack.cut_off is None else pack.cut_off


def cold_factor(temperature_c: float) -> float:
    """Return how much more a cold cell resists: 1 at 20 °C, 2 at −5 °C and below.

    Parameters
    ----------
    temperature_c : float
        Of the pack, °C.

    Returns
    -------
    float
        Times its resistance at 20 °C.
    """
    return float(np.clip(1.0 + _COLD_RISE * (_WARM_C - temperature_c), 1.0, 2.0))


def resistance(pack: Pack) -> float:
    """Return the internal resistance of the whole pack at 20 °C, Ω."""
    return pack.cells * cell_resistance_of(pack)


def honest_rate(pack: Pack) -> float:
    """Return the discharge over capacity to count on, 1/h.

    Parameters
    ----------
    pack : Pack
        With its claimed C.

    Returns
    -------
    float
        1/h.

    Source
    ------
    min(0.6 C, 30 C); at most 18 C below 0.5 Ah (handbook of the trade §8).
    """
    rate = min(0.6 * pack.c_rating, 30.0)
    return min(rate, 18.0) if pack.capacity_ah < 0.5 else rate


def continuous_current(pack: Pack) -> float:
    """Return the current to count on, A: the claimed C derated."""
    return honest_rate(pack) * pack.capacity_ah


def battery_current(train: PowerTrain) -> float:
    """Return the current all packs side by side give, A."""
    return continuous_current(train.pack) * train.pack_parallel
