"""Lithium polymer packs: open-circuit voltage, resistance, and what current they really give."""

from __future__ import annotations

import numpy as np

from ridgeline.design.power import Pack

#: Open-circuit volts per cell over state of charge (handbook of the trade §8).
_CHARGE = (0.0, 0.05, 0.10, 0.20, 0.30, 0.40, 0.50, 0.60, 0.70, 0.80, 0.90, 1.00)
_VOLTS = (3.30, 3.55, 3.66, 3.72, 3.76, 3.79, 3.82, 3.86, 3.92, 3.99, 4.08, 4.18)
#: What is left in the pack at the end of a flight.
RESERVE = 0.20


def open_circuit_voltage(pack: Pack, charge: float) -> float:
    """Return the voltage at no load, V, at a state of charge from 0 to 1.

    Source
    ------
    Handbook of the trade §8, typical lithium polymer cell at 20 °C, ±0.03 V a cell.
    """
    return pack.cells * float(np.interp(charge, _CHARGE, _VOLTS))


def resistance(pack: Pack) -> float:
    """Return the internal resistance of the whole pack, Ω."""
    return pack.cells * pack.cell_resistance


def continuous_current(pack: Pack) -> float:
    """Return the current to count on, A: the claimed C derated.

    Source
    ------
    min(0.6 C, 30 C) × capacity; at most 18 C below 0.5 Ah (handbook of the trade §8).
    """
    honest = min(0.6 * pack.c_rating, 30.0)
    if pack.capacity_ah < 0.5:
        honest = min(honest, 18.0)
    return honest * pack.capacity_ah
