"""Wire between controller and motor: what it resists, what it weighs, and what it costs in volts."""

from __future__ import annotations

import math

from ridgeline.design.power import PowerTrain

#: Copper at 20 °C, Ω m and kg/m³; wire with its silicone over the copper alone (shipped gauges: 1.6 to 1.75).
_RESISTIVITY, _DENSITY, _INSULATED = 1.724e-8, 8960.0, 1.65
#: Of three conductors two carry the current at any time.
_CONDUCTORS, _CARRYING = 3, 2


def section_of(gauge: int) -> float:
    """Return the copper section of a wire gauge, m².

    Parameters
    ----------
    gauge : int
        AWG.

    Returns
    -------
    float

    Source
    ------
    ASTM B258: d = 0.127 mm · 92^((36 − n)/39).
    """
    diameter: float = 0.127e-3 * 92.0 ** ((36 - gauge) / 39)
    return math.pi / 4 * diameter**2


def motor_lead_resistance(train: PowerTrain) -> float:
    """Return what the longer leads of one motor add to its circuit, Ω.

    Parameters
    ----------
    train : PowerTrain

    Returns
    -------
    float
    """
    return _CARRYING * train.motor_lead * _RESISTIVITY / section_of(train.motor_lead_awg)


def motor_lead_mass(train: PowerTrain) -> float:
    """Return what the longer leads of one motor weigh, kg.

    Parameters
    ----------
    train : PowerTrain

    Returns
    -------
    float
    """
    return _CONDUCTORS * train.motor_lead * _DENSITY * section_of(train.motor_lead_awg) * _INSULATED
