"""The bench: what rows of a thrust stand say of a motor and its propeller, by least squares with bands."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import BenchRow, PowerTrain
from ridgeline.engine.power.operating_point import I0_STILL, I0_TURNING, Chain, OperatingPoint, chain, solve

Array = NDArray[np.float64]
#: One-sigma errors of a hobby stand: share and floor of current A, speed rpm, thrust N; of voltage, V.
SIGMA_CURRENT, SIGMA_RPM, SIGMA_THRUST, SIGMA_VOLTAGE = (0.01, 0.05), (0.003, 10.0), (0.01, 0.01), 0.02
#: What is known before: the natural logarithm of winding and no-load current scatter by this much about the stated.
_PRIOR_SIGMA = 0.7
#: Rows below these say nothing of a motor under load.
_LEAST_THROTTLE, _LEAST_RPM, LEAST_ROWS = 0.15, 300.0, 5
NAMES = ("kv_rpm_per_v", "resistance", "no_load_current", "power_factor", "thrust_factor")


@dataclass(frozen=True)
class Fit:
    """Constants found, each with its one-sigma share; ``used`` rows, ``chi`` the scatter over a stand's own errors.

    ``values`` and ``sigmas`` follow `NAMES`: rpm/V, Ω, A at the stated voltage, and the two propeller factors.
    """

    values: tuple[float, ...]
    sigmas: tuple[float, ...]
    used: int
    left_out: int
    chi: float

    def of(self, name: str) -> tuple[float, float]:
        """Return a constant and its one-sigma share."""
        place = NAMES.index(name)
        return self.values[place], self.sigmas[place]

    def fitted(self, train: PowerTrain) -> PowerTrain:
        """Return the train with the constants found, marked as measured, what was stated kept beside."""
        values = dict(zip(NAMES, self.values, strict=True))
        motor = train.motor.model_copy(
            update={
                "kv_rpm_per_v": values["kv_rpm_per_v"],
                "resistance": values["resistance"],
                "no_load_current": values["no_load_current"],
                "kv_sigma": self.of("kv_rpm_per_v")[1],
                "stated_kv": train.motor.stated_kv or train.motor.kv_rpm_per_v,
            }
        )
        prop = train.propeller
        factors = {
            "power_factor": prop.power_factor * values["power_factor"],
            "thrust_factor": prop.thrust_factor * values["thrust_factor"],
            # What one stand says of a propeller holds there; in flight the law's shape still errs by some per cent.
            "factor_sigma": max(self.of("power_factor")[1], self.of("thrust_factor")[1], 0.015),
        }
        return train.model_copy(update={"motor": motor, "propeller": prop.model_copy(update=factors)})


def as_sold(train: PowerTrain) -> PowerTrain:
    """Return the train with the stated speed constant and without measured factors."""
    motor = train.motor
    if motor.stated_kv is not None:
        motor = motor.model_copy(update={"kv_rpm_per_v": motor.stated_kv})
    prop = train.propeller.model_copy(update={"thrust_factor": 1.0, "power_factor": 1.0, "factor_sigma": None})
    return train.model_copy(update={"motor": motor, "propeller": prop})


def columns(rows: Sequence[BenchRow]) -> tuple[Array, ...]:
    """Return throttle, voltage, current, rpm and thrust of rows as arrays."""
    fields = ("throttle", "voltage", "current", "rpm", "thrust")
    return tuple(np.array([getattr(row, field) for row in rows], float) for field in fields)


def predicted(train: PowerTrain, throttle: Array, voltage: Array, air_density: float) -> OperatingPoint:
    """Return what the model says at throttles and at the voltages measured before the controller."""
    return solve(_at_voltage(chain(train), voltage), throttle, 0.0, air_density)


def _at_voltage(link: Chain, voltage: Array) -> Chain:
    # The stand measures behind pack and leads: neither counts.
    return replace(link, open_circuit=voltage, pack_resistance=0.0, lead_resistance=0.0, motors=1)


def fit(train: PowerTrain, rows: Sequence[BenchRow], air_density: float) -> Fit:
    """Fit K_v, R, I0 and the propeller's power and thrust factors to rows of one motor on the stand.

    Raises
    ------
    ValueError
        When too few rows under load are left, or they do not tell the constants apart.

    Source
    ------
    Weighted least squares on current, speed and thrust; each row's error in voltage moves all three together and stands
    in its covariance. Bands from (JᵀJ)⁻¹, widened by the scatter found: docs/theory.md §9.
    """
    from scipy.optimize import least_squares

    throttle, voltage, current, rpm, pull = columns(rows)
    good = (throttle >= _LEAST_THROTTLE) & (rpm >= _LEAST_RPM) & (voltage > 1) & (current > 0)
    if int(good.sum()) < LEAST_ROWS:
        raise ValueError(
            f"{LEAST_ROWS} rows or more above {100 * _LEAST_THROTTLE:.0f} % throttle; there are {good.sum()}"
        )
    throttle, voltage, current, rpm, pull = (column[good] for column in (throttle, voltage, current, rpm, pull))
    base = _at_voltage(chain(train), voltage)
    start = np.log([train.motor.kv_rpm_per_v, train.motor.resistance, max(train.motor.no_load_current, 0.02), 1.0, 1.0])
    whiten = _whitening(voltage, current, rpm, pull)
    measured = np.stack([current, rpm, pull], axis=1)

    def residuals(theta: Array) -> Array:
        point = solve(_with(base, train, np.exp(theta)), throttle, 0.0, air_density)
        told = np.stack([point.pack_current, point.rpm, point.thrust], axis=1)
        off = np.einsum("nij,nj->ni", whiten, told - measured)
        prior = (theta[1:3] - start[1:3]) / _PRIOR_SIGMA
        return np.concatenate([off.ravel(), prior])

    found = least_squares(residuals, start, x_scale=0.1, method="trf")
    freedom = max(found.fun.size - start.size, 1)
    chi = float(np.sum(found.fun**2)) / freedom
    try:
        covariance = np.linalg.inv(found.jac.T @ found.jac)
    except np.linalg.LinAlgError as error:
        raise ValueError("rows at different throttles: these do not tell the constants apart") from error
    sigma = np.sqrt(np.diag(covariance) * max(chi, 1.0))
    values = tuple(float(value) for value in np.exp(found.x))
    return Fit(values, tuple(float(s) for s in sigma), int(good.sum()), int((~good).sum()), math.sqrt(chi))


def _with(base: Chain, train: PowerTrain, values: Array) -> Chain:
    """Return the chain with the five constants in place."""
    kv, resistance, idle, power, pull = values
    k_v = kv * math.pi / 30
    reference = k_v * train.motor.no_load_voltage
    return replace(
        base,
        k_v=k_v,
        motor_resistance=resistance,
        i0_still=I0_STILL * idle,
        i0_slope=I0_TURNING * idle / reference,
        thrust_factor=pull,
        power_factor=power,
    )


def _whitening(voltage: Array, current: Array, rpm: Array, pull: Array) -> Array:
    """Return what turns each row's three errors into independent ones of unit size, shape (n, 3, 3)."""
    own = [(SIGMA_CURRENT, current), (SIGMA_RPM, rpm), (SIGMA_THRUST, pull)]
    sigma = np.stack([np.hypot(share * np.abs(value), floor) for (share, floor), value in own], axis=1)
    # With a propeller the speed follows the voltage, current and thrust its square.
    slope = np.stack([2 * current / voltage, rpm / voltage, 2 * pull / voltage], axis=1) * SIGMA_VOLTAGE
    covariance = slope[:, :, None] * slope[:, None, :]
    covariance[:, range(3), range(3)] += sigma**2
    return np.linalg.inv(np.linalg.cholesky(covariance))


def response(train: PowerTrain, air_density: float) -> Callable[[float, float], tuple[float, float, float, float]]:
    """Return what a stand measures of one motor: (throttle, charge) → volts before the controller, A, rpm, N."""
    alone = train.model_copy(update={"mounts": train.mounts[:1]})

    def at(throttle: float, charge: float) -> tuple[float, float, float, float]:
        link = replace(chain(alone, charge), motors=1)
        point = solve(link, throttle, 0.0, air_density)
        volts = float(point.pack_voltage) - float(point.pack_current) * link.lead_resistance
        return volts, float(point.pack_current), float(point.rpm), float(point.thrust)

    return at
