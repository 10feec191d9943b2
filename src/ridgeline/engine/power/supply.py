"""What hangs on the power train besides the motor: servos on the receiver supply, and the wire that carries it all."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from ridgeline.design.parts import Item, Servo
from ridgeline.design.power import SpeedController
from ridgeline.engine.weights.items import ItemArrays, kinds_of

#: Stall current at 5 V over servo mass, kg and A (handbook of the trade §14).
_SERVO_MASS = (0.002, 0.005, 0.009, 0.017, 0.045, 0.060)
_SERVO_STALL = (0.3, 0.5, 0.8, 1.1, 1.4, 3.0)
#: One-sigma shares of a servo's currents by its mass and by its class.
BY_MASS, BY_CLASS = 0.15, 0.08
#: Working servos draw this share of their stall current; the receiver its own.
WORKING_SHARE, RECEIVER = 0.3, 0.1
#: What a linear receiver supply may burn off, W (handbook of the trade §8: 2–3 W).
LINEAR_HEAT = 2.5
#: What a receiver supply holds, V.
RECEIVER_VOLTS = 5.0
#: Supplies that are sold, A; a better one adds about this much, kg (class figures).
SUPPLIES = (2.0, 3.0, 5.0, 8.0, 15.0)
_SUPPLY_MASS = 0.006
#: Continuous current in free air of silicone wire by gauge, A (typical), and its resistance per metre, Ω.
WIRE_CURRENT = {
    8: 100.0,
    10: 75.0,
    12: 55.0,
    14: 40.0,
    16: 28.0,
    18: 20.0,
    20: 14.0,
    22: 9.0,
    24: 6.0,
    26: 4.0,
    28: 2.5,
}


def servo_stall(mass: float) -> float:
    """Return the stall current of a servo of a mass, kg, at 5 V, A; ±30 %.

    Parameters
    ----------
    mass : float
        kg.

    Returns
    -------
    float
        A.
    """
    return float(np.interp(mass, _SERVO_MASS, _SERVO_STALL))


class Draw(NamedTuple):
    """What one servo draws at 5 V, A: stalled and at work; ``sigma`` is the one-sigma share of both."""

    stalled: float
    working: float
    sigma: float


NO_DRAW = Draw(0.0, 0.0, 0.0)


def draw_of(servo: Servo, mass: float) -> Draw:
    """Return what a servo draws: as its class says, or by its mass, kg.

    Parameters
    ----------
    servo : Servo
        Currents left out follow from the mass.
    mass : float
        Of one piece, kg.

    Returns
    -------
    Draw
        A at 5 V.
    """
    told = servo.stall_current
    stalled = servo_stall(mass) if told is None else told
    working = WORKING_SHARE * stalled if servo.working_current is None else servo.working_current
    return Draw(stalled, working, BY_MASS if told is None else BY_CLASS)


def servos_aboard(parts: tuple[Item, ...], items: ItemArrays) -> list[Draw]:
    """Return what every servo aboard draws.

    Parameters
    ----------
    parts : tuple of Item
    items : ItemArrays
        Of the same items.

    Returns
    -------
    list of Draw
        One a servo.
    """
    found: list[Draw] = []
    for index in kinds_of(parts).servos:
        part = parts[index]
        assert part.servo is not None
        found += [draw_of(part.servo, float(items.mass[index]) / part.count)] * part.count
    return found


def receiver_load(servos: list[Draw]) -> float:
    """Return the current to plan the receiver supply for, A: all at work, the largest of them stalled.

    Parameters
    ----------
    servos : list of Draw
        One a servo.

    Returns
    -------
    float
        A.

    Source
    ------
    Σ 0.3 I_stall plus one stalled (handbook of the trade §14), and 0.1 A for the receiver.
    """
    if not servos:
        return RECEIVER
    largest = max(servos)
    return RECEIVER + math.fsum(one.working for one in servos) - largest.working + largest.stalled


def wire_current(gauge: int) -> float:
    """Return what silicone wire of a gauge carries continuously, A; ±20 %.

    Parameters
    ----------
    gauge : int
        AWG.

    Returns
    -------
    float
        A.
    """
    gauges = sorted(WIRE_CURRENT)
    return float(np.exp(np.interp(gauge, gauges, np.log([WIRE_CURRENT[g] for g in gauges]))))


def gauge_for(current: float) -> int:
    """Return the thinnest gauge that carries a current, A; the thickest of the table when none does.

    Parameters
    ----------
    current : float
        A.

    Returns
    -------
    int
        AWG.
    """
    return max((g for g, most in WIRE_CURRENT.items() if most >= current), default=min(WIRE_CURRENT))


#: What a switching supply gives of what it takes (typical, ± 6 %).
SWITCHING = 0.85


def linear_heat(volts: Any, load: float) -> Any:
    """Return what a linear supply burns at work, W.

    Parameters
    ----------
    volts : float or ndarray
        Of the pack, at no load.
    load : float
        What receiver and servos may draw at once, A.

    Returns
    -------
    float or ndarray

    Source
    ------
    (U − 5 V) × 0.3 of the load, for servos are seldom stalled: handbook of the trade §8.
    """
    return (volts - RECEIVER_VOLTS) * WORKING_SHARE * load


def with_supply(esc: SpeedController, load: float) -> SpeedController | None:
    """Return a controller of the same rating with a switching supply that is sold for a load, A; None past the largest.

    Parameters
    ----------
    esc : SpeedController
    load : float

    Returns
    -------
    SpeedController or None
    """
    amps = next((one for one in SUPPLIES if one >= load), None)
    if amps is None:
        return None
    name = f"ESC {esc.max_current:.0f} A, {amps:.0f} A supply"
    better = {"name": name, "bec_current": amps, "bec_linear": False, "mass": esc.mass + _SUPPLY_MASS}
    return esc.model_copy(update=better)
