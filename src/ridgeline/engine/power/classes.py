"""What a part of its class has where nobody has measured or typed it: by mass, speed constant, rating, capacity."""

from __future__ import annotations

import math

from ridgeline.design.power import Motor, Pack, Propeller, SpeedController

#: Winding R = 7/(K_v² m^(5/3)) in SI, within a factor of 2 (handbook of the trade §8).
_WINDING, _WINDING_MASS = 7.0, 5 / 3
#: No-load current at about ten volts, A, over K_v in rpm/V and mass in kg (class values of outrunners, ±25 %).
_IDLE, _IDLE_MASS = 0.01153, 0.9
#: Volts lost over a controller's on-resistance at its rating, leads included (class values, ±25 %).
_CONTROLLER_DROP = 0.24
#: Volts a cell loses at its honest current, 0.6 of the claimed C (handbook of the trade §8: 0.4 V/(real C × Ah)).
_CELL_DROP, _HONEST_SHARE = 0.4, 0.6
#: Grams a watt-hour weighs, and what the leads add (handbook of the trade §5: 6.5–8 g/Wh).
_PACK_PER_WH, _LEADS, _LEADS_SINGLE = 0.007, 0.004, 0.001
_NOMINAL_CELL = 3.7


def winding(kv_rpm_per_v: float, mass: float) -> float:
    """Return a cold winding's resistance, Ω, of a motor of ``mass`` kg; ±35 % (1σ).

    Parameters
    ----------
    kv_rpm_per_v : float
        rpm/V.
    mass : float
        kg.

    Returns
    -------
    float
        Ω, cold.
    """
    result: float = _WINDING / ((kv_rpm_per_v * math.pi / 30) ** 2 * mass**_WINDING_MASS)
    return result


def idle_current(kv_rpm_per_v: float, mass: float) -> float:
    """Return the no-load current, A, of an outrunner of ``mass`` kg; ±25 % (1σ).

    Parameters
    ----------
    kv_rpm_per_v : float
        rpm/V.
    mass : float
        kg.

    Returns
    -------
    float
        A.
    """
    result: float = _IDLE * kv_rpm_per_v * mass**_IDLE_MASS
    return result


def controller_resistance(rating: float) -> float:
    """Return a controller's on-resistance, Ω, by its rating, A; ±25 % (1σ).

    Parameters
    ----------
    rating : float
        A.

    Returns
    -------
    float
        Ω.
    """
    return _CONTROLLER_DROP / rating


def cell_resistance(capacity_ah: float, claimed_rate: float) -> float:
    """Return one cell's resistance, Ω, by capacity, Ah, and claimed C; ±25 % (1σ).

    Parameters
    ----------
    capacity_ah : float
        Ah.
    claimed_rate : float
        Claimed C, 1/h.

    Returns
    -------
    float
        Ω.
    """
    return _CELL_DROP / (_HONEST_SHARE * claimed_rate * capacity_ah)


def pack_mass(cells: int, capacity_ah: float) -> float:
    """Return a lithium polymer pack's mass with its leads, kg; ±10 % (1σ).

    Parameters
    ----------
    cells : int
        In series.
    capacity_ah : float
        Ah.

    Returns
    -------
    float
        kg.
    """
    return _PACK_PER_WH * _NOMINAL_CELL * cells * capacity_ah + (_LEADS_SINGLE if cells == 1 else _LEADS)


def winding_of(motor: Motor) -> float:
    """Return a motor's cold winding, Ω: as typed, or of its class."""
    return motor.resistance if motor.resistance is not None else winding(motor.kv_rpm_per_v, motor.mass)


def settled(motor: Motor) -> Motor:
    """Return a motor whose winding and no-load current are written down, typed or not."""
    return motor.model_copy(update={"resistance": winding_of(motor), "no_load_current": idle_of(motor)})


def idle_of(motor: Motor) -> float:
    """Return a motor's no-load current, A: as typed, or of its class."""
    return motor.no_load_current if motor.no_load_current is not None else idle_current(motor.kv_rpm_per_v, motor.mass)


def on_resistance_of(esc: SpeedController) -> float:
    """Return a controller's on-resistance, Ω: as typed, or by its rating."""
    return esc.resistance if esc.resistance is not None else controller_resistance(esc.max_current)


def cell_resistance_of(pack: Pack) -> float:
    """Return one cell's resistance, Ω: as typed, or by capacity and claimed C."""
    typed = pack.cell_resistance
    return typed if typed is not None else cell_resistance(pack.capacity_ah, pack.c_rating)


def mass_of(part: Motor | SpeedController | Pack | Propeller) -> float:
    """Return the mass of a link of the power train, kg: as typed, or a pack's by its energy."""
    if isinstance(part, Pack) and part.mass is None:
        return pack_mass(part.cells, part.capacity_ah)
    assert part.mass is not None
    return part.mass
