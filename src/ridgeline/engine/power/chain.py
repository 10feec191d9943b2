"""The chain of pack, controller, motor and propeller as plain numbers, ready to be solved."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import Motor, PowerTrain
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power import thermal
from ridgeline.engine.power.classes import idle_of, on_resistance_of, winding_of
from ridgeline.engine.power.leads import motor_lead_resistance

RPM_PER_RAD = 30 / math.pi
#: No-load current grows mildly with speed: I0 (0.6 + 0.4 ω/ω_ref) (handbook of the trade §8).
I0_STILL, I0_TURNING = 0.6, 0.4
#: While the current changes over from winding to winding the controller's volts are short: (3/π) ω_e L of resistance,
#: with L = τ R_20; τ of an outrunner of 60 g, s, and its growth with the mass, fitted together on the class points
#: (docs/theory.md §9; the handbook of the trade starts from 0.35 ms and 1/3).
COMMUTATION, LAG, LAG_MASS, LAG_GROWTH = 3 / math.pi, 0.40e-3, 0.060, 0.40


@dataclass(frozen=True)
class Chain:
    """The constants of a power train in the form the balance is solved in (SI, rad/s per volt).

    All but ``motors``, ``diameter`` and ``law`` may be arrays that broadcast with throttle and speed.
    ``motor_resistance`` is the winding's, cold; ``lag`` its L/R, s; ``pole_pairs`` electrical turns per turn;
    ``warming`` K per W of a motor's heat after half a minute, in air of ``air_c`` °C. ``thrust_factor`` and
    ``power_factor`` multiply the law.
    """

    k_v: Any
    motor_resistance: Any
    lag: Any
    pole_pairs: Any
    warming: Any
    esc_resistance: Any
    pack_resistance: Any
    lead_resistance: Any
    open_circuit: Any
    brush_drop: Any
    i0_still: Any
    i0_slope: Any
    motors: int
    diameter: float
    law: propellers.Law
    air_c: float = thermal.REFERENCE_C
    thrust_factor: Any = 1.0
    power_factor: Any = 1.0

    @property
    def reactance(self) -> Any:
        """What the winding resists more by each rad/s of the shaft, Ω s."""
        return COMMUTATION * self.pole_pairs * self.lag * self.motor_resistance

    @property
    def source_resistance(self) -> Any:
        """Pack and leads in series, Ω."""
        return self.pack_resistance + self.lead_resistance

    def of(self, chosen: NDArray[np.bool_], shape: tuple[int, ...]) -> Chain:
        """Return the constants of some states among all of a shape, flat."""
        told: dict[str, Any] = {f.name: getattr(self, f.name) for f in fields(self)}
        for name, value in told.items():
            if isinstance(value, np.ndarray):
                told[name] = np.broadcast_to(value, shape)[chosen]
        return Chain(**told)


def lag_of(motor: Motor) -> float:
    """Return a winding's L/R, s: measured, or by the mass for outrunners, ±30 % (1σ); none behind brushes.

    Parameters
    ----------
    motor : Motor

    Returns
    -------
    float
        s.
    """
    if motor.lag is not None:
        return motor.lag
    return 0.0 if motor.kind == "brushed" else LAG * (motor.mass / LAG_MASS) ** LAG_GROWTH


def chain(train: PowerTrain, charge: float = 1.0, temperature_c: float = 20.0) -> Chain:
    """Collect the constants of a power train at a state of charge and air temperature.

    Parameters
    ----------
    train : PowerTrain
    charge : float
        State of charge, 0 to 1.
    temperature_c : float
        Of air and pack, °C.

    Returns
    -------
    Chain
        SI.
    """
    motor = train.motor
    k_v = motor.kv_rpm_per_v / RPM_PER_RAD
    reference = k_v * motor.no_load_voltage
    cold = packs.cold_factor(temperature_c)
    return Chain(
        k_v=k_v,
        motor_resistance=winding_of(motor),
        lag=lag_of(motor),
        pole_pairs=motor.poles / 2,
        warming=thermal.warming(motor.mass),
        esc_resistance=on_resistance_of(train.esc) + motor_lead_resistance(train),
        pack_resistance=packs.resistance(train.pack) * cold * train.pack_series / train.pack_parallel,
        lead_resistance=train.lead_resistance,
        open_circuit=train.pack_series * float(packs.open_circuit_voltage(train.pack, charge)),
        brush_drop=motor.brush_drop,
        i0_still=I0_STILL * idle_of(motor),
        i0_slope=I0_TURNING * idle_of(motor) / reference,
        motors=train.motors,
        diameter=train.propeller.diameter,
        law=propellers.law_of(train.propeller),
        air_c=temperature_c,
    )
