"""The bench: what readings of a thrust stand say of a motor and its propeller, on top of what their class does.

Any two or more of volts, amperes, turns, thrust, watts and throttle make a reading, and one reading is enough: what is
known of the class stands beside it, so that each constant moves as far as the readings can tell it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import READINGS, BenchRow, Fitted, PowerTrain
from ridgeline.engine.power.chain import I0_STILL, I0_TURNING, Chain, chain, lag_of
from ridgeline.engine.power.classes import idle_of, winding_of
from ridgeline.engine.power.operating_point import OperatingPoint, solve
from ridgeline.engine.power.scatter import LAW_SHAPE, constants, motor_shares

Array = NDArray[np.float64]
#: One-sigma errors of a hobby stand: share and floor of current A, speed rpm, thrust N, power W; of voltage,
#: V. Volts that nobody read are a full pack's, to 1.5 %.
SIGMA_CURRENT, SIGMA_RPM, SIGMA_THRUST, SIGMA_VOLTAGE = (0.01, 0.05), (0.003, 10.0), (0.01, 0.01), 0.02
SIGMA_POWER, _UNREAD_VOLTS = (0.015, 0.5), 0.015
#: Rows below these say nothing of a motor under load.
_LEAST_THROTTLE, _LEAST_RPM = 0.15, 300.0
NAMES = ("kv_rpm_per_v", "resistance", "lag", "no_load_current", "power_factor", "thrust_factor")
#: Air that volts nobody read are found in, kg/m³: it hardly moves them.
_USUAL_AIR = 1.2
#: A prior narrower than this says nothing may move: brushes have no lag.
_LEAST_PRIOR = 1e-6


@dataclass(frozen=True)
class Fit:
    """Constants found, each with its one-sigma share; ``used`` rows, ``chi`` the scatter over a stand's own errors.

    ``values``, ``sigmas`` and ``priors`` (the shares before) follow `NAMES`: rpm/V, Ω, s, A at the stated voltage, and
    the two propeller factors. ``steps`` (6, 6) are independent one-sigma steps of their logarithms.
    """

    values: tuple[float, ...]
    sigmas: tuple[float, ...]
    priors: tuple[float, ...]
    steps: Array
    used: int
    left_out: int
    chi: float

    def of(self, name: str) -> tuple[float, float]:
        """Return a constant and its one-sigma share."""
        place = NAMES.index(name)
        return self.values[place], self.sigmas[place]

    @property
    def told(self) -> tuple[str, ...]:
        """Names of the constants that the readings tell: their band is at most two thirds of what it was."""
        return tuple(n for n, s, p in zip(NAMES, self.sigmas, self.priors, strict=True) if s < 0.67 * p)

    def fitted(self, train: PowerTrain) -> PowerTrain:
        """Return the train with the constants found, marked as measured, what was stated kept beside."""
        sold = as_sold(train)
        values = dict(zip(NAMES, self.values, strict=True))
        motor = sold.motor.model_copy(
            update={
                "kv_rpm_per_v": values["kv_rpm_per_v"],
                "resistance": values["resistance"],
                "no_load_current": values["no_load_current"],
                "lag": values["lag"] if values["lag"] > 0 else None,
                "kv_sigma": self.of("kv_rpm_per_v")[1],
                "resistance_sigma": self.of("resistance")[1],
                "lag_sigma": self.of("lag")[1],
                "no_load_sigma": self.of("no_load_current")[1],
                "stated_kv": sold.motor.kv_rpm_per_v,
                "stated_resistance": winding_of(sold.motor),
                "stated_no_load": idle_of(sold.motor),
            }
        )
        factors = {
            "power_factor": values["power_factor"],
            "thrust_factor": values["thrust_factor"],
            # What one stand says of a propeller holds there; in flight the law's shape still errs by some per cent.
            "factor_sigma": max(self.of("power_factor")[1], self.of("thrust_factor")[1], LAW_SHAPE),
        }
        after = train.model_copy(update={"motor": motor, "propeller": sold.propeller.model_copy(update=factors)})
        steps = tuple(float(x) for x in np.clip(self.steps, -5.0, 5.0).ravel())
        return after.model_copy(update={"bench_fit": Fitted(values=constants(after), steps=steps)})


def as_sold(train: PowerTrain) -> PowerTrain:
    """Return the train with the constants as stated and without measured factors."""
    motor = train.motor
    stated = {
        "kv_rpm_per_v": motor.stated_kv,
        "resistance": motor.stated_resistance,
        "no_load_current": motor.stated_no_load,
    }
    forgotten = dict.fromkeys(
        ("lag", "stated_kv", "stated_resistance", "stated_no_load", "kv_sigma", "resistance_sigma", "lag_sigma")
    )
    back = {name: value for name, value in stated.items() if value is not None}
    motor = motor.model_copy(update={**forgotten, "no_load_sigma": None, **back})
    prop = train.propeller.model_copy(update={"thrust_factor": 1.0, "power_factor": 1.0, "factor_sigma": None})
    return train.model_copy(update={"motor": motor, "propeller": prop, "bench_fit": None})


def columns(rows: Sequence[BenchRow], train: PowerTrain) -> tuple[Array, ...]:
    """Return throttle, voltage, current, rpm, thrust and power of rows as arrays, NaN where not read.

    A throttle that is not told is full; volts are then watts over amperes, or those of the train's own full pack behind
    its leads, under the current read or, without one, the current the train draws.
    """
    told = [np.array([_number(getattr(row, field)) for row in rows], float) for field in READINGS]
    throttle, voltage, current, *_rest, power = told
    told[0] = np.where(np.isnan(throttle), 1.0, throttle)
    with np.errstate(divide="ignore", invalid="ignore"):
        by_power = np.where(current > 0, power / current, np.nan)
    if np.isnan(voltage).any():
        link = chain(train)
        drawn = np.where(np.isnan(current), solve(link, told[0], 0.0, _USUAL_AIR).motor_current * told[0], current)
        full = link.open_circuit - train.motors * drawn * link.source_resistance
        told[1] = np.where(np.isnan(voltage), np.where(np.isnan(by_power), full, by_power), voltage)
    return tuple(told)


def _number(value: float | None) -> float:
    return math.nan if value is None else value


def predicted(train: PowerTrain, throttle: Array, voltage: Array, air_density: float) -> OperatingPoint:
    """Return what the model says at throttles and at the voltages measured before the controller.

    Parameters
    ----------
    train : PowerTrain
    throttle : ndarray
        0 to 1.
    voltage : ndarray
        Before the controller, V.
    air_density : float
        kg/m³.

    Returns
    -------
    OperatingPoint
    """
    return solve(_at_voltage(chain(train), voltage), throttle, 0.0, air_density)


def _at_voltage(link: Chain, voltage: Array) -> Chain:
    # The stand measures behind pack and leads: neither counts.
    return replace(link, open_circuit=voltage, pack_resistance=0.0, lead_resistance=0.0, motors=1)


def fit(train: PowerTrain, rows: Sequence[BenchRow], air_density: float) -> Fit:
    """Fit K_v, R, L/R, I0 and the propeller's power and thrust factors to readings of one motor on the stand.

    Parameters
    ----------
    train : PowerTrain
    rows : sequence of BenchRow
    air_density : float
        kg/m³.

    Returns
    -------
    Fit

    Raises
    ------
    ValueError
        When no reading under load is left.

    Source
    ------
    Least squares by Gauss and Newton, on what each reading holds and on what is known of the class (`scatter.py`) about
    what was stated; a reading's error in voltage moves all it holds together. Bands from (JᵀJ)⁻¹, widened by the
    scatter found: docs/theory.md §9.
    """
    from scipy.optimize import least_squares

    sold = as_sold(train)
    throttle, voltage, current, rpm, pull, power = columns(rows, sold)
    good = (throttle >= _LEAST_THROTTLE) & ~(rpm < _LEAST_RPM) & (voltage > 1) & ~(current <= 0)
    if not good.any():
        raise ValueError(f"readings above {100 * _LEAST_THROTTLE:.0f} % throttle, with the propeller turning")
    throttle, voltage = throttle[good], voltage[good]
    measured = np.stack([current, rpm, pull, power], axis=1)[good]
    unread = np.array([row.voltage is None and row.power is None for row in rows])[good]
    held = np.isfinite(measured)
    base = _at_voltage(chain(sold), voltage)
    priors = np.array([*motor_shares(sold.motor), base.law.sigma_power, base.law.sigma_thrust])
    free = priors > _LEAST_PRIOR
    start = np.log([max(value, 1e-9) for value in _start(sold)])
    whiten = _whitening(voltage, measured, np.where(unread, _UNREAD_VOLTS * voltage, SIGMA_VOLTAGE))

    def residuals(moved: Array) -> Array:
        theta = start.copy()
        theta[free] += moved * priors[free]
        point = solve(_with(base, sold, np.exp(theta)), throttle, 0.0, air_density)
        told = np.stack([point.pack_current, point.rpm, point.thrust, voltage * point.pack_current], axis=1)
        off = np.where(held, told - np.nan_to_num(measured), 0.0)
        return np.concatenate([np.einsum("nij,nj->ni", whiten, off)[held], moved])

    found = least_squares(residuals, np.zeros(int(free.sum())), method="trf")
    count = int(held.sum())
    chi = float(np.sum(found.fun[:count] ** 2)) / max(count - int(free.sum()), 1)
    covariance = np.zeros((len(NAMES), len(NAMES)))
    scale = np.diag(priors[free])
    # Readings that scatter more than a stand's own errors count for less; the class stands as it is.
    jac = found.jac.copy()
    jac[:count] /= math.sqrt(max(chi, 1.0))
    covariance[np.ix_(free, free)] = scale @ np.linalg.inv(jac.T @ jac) @ scale
    theta = start.copy()
    theta[free] += found.x * priors[free]
    values = np.exp(theta)
    values[~free] = np.array(_start(sold))[~free]
    spread, ways = np.linalg.eigh(covariance)
    steps = np.sqrt(np.maximum(spread, 0.0))[:, None] * ways.T
    return Fit(
        tuple(float(v) for v in values),
        tuple(float(s) for s in np.sqrt(np.diag(covariance))),
        tuple(float(p) for p in priors),
        steps,
        int(good.sum()),
        int((~good).sum()),
        math.sqrt(chi),
    )


def _start(sold: PowerTrain) -> tuple[float, ...]:
    """Return the constants as stated, in the order of `NAMES`."""
    motor = sold.motor
    return motor.kv_rpm_per_v, winding_of(motor), lag_of(motor), max(idle_of(motor), 0.02), 1.0, 1.0


def _with(base: Chain, train: PowerTrain, values: Array) -> Chain:
    """Return the chain with the six constants in place."""
    kv, resistance, lag, idle, power, pull = values
    k_v = kv * math.pi / 30
    reference = k_v * train.motor.no_load_voltage
    return replace(
        base,
        k_v=k_v,
        motor_resistance=resistance,
        lag=lag if base.lag > 0 else 0.0,
        i0_still=I0_STILL * idle,
        i0_slope=I0_TURNING * idle / reference,
        thrust_factor=pull,
        power_factor=power,
    )


def _whitening(voltage: Array, measured: Array, volt_sigma: Array | float) -> Array:
    """Return what turns each row's errors into independent ones of unit size, shape (n, 4, 4).

    What a row does not hold stands apart with unit error, so that it takes no part.
    """
    held = np.isfinite(measured)
    values = np.nan_to_num(measured)
    own = (SIGMA_CURRENT, SIGMA_RPM, SIGMA_THRUST, SIGMA_POWER)
    sigma = np.stack([np.hypot(share * np.abs(values[:, k]), floor) for k, (share, floor) in enumerate(own)], axis=1)
    # With a propeller the speed follows the voltage, current and thrust its square, power its cube.
    slope = values * np.array([2.0, 1.0, 2.0, 3.0]) / voltage[:, None] * np.asarray(volt_sigma)[..., None]
    slope = np.where(held, slope, 0.0)
    covariance = slope[:, :, None] * slope[:, None, :]
    covariance[:, range(4), range(4)] += np.where(held, sigma, 1.0) ** 2
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
