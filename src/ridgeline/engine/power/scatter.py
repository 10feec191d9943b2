"""What is not known of a power train, carried into whatever it does: each constant moved by one sigma, up and down.

The moved chains stand in a leading axis of the same arrays, so that one solution answers for all of them.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import Motor, PowerTrain
from ridgeline.engine.power.chain import Chain, lag_of
from ridgeline.engine.power.classes import idle_of, winding_of
from ridgeline.engine.power.limits import SPEED_OF_SOUND, TIP_MACH
from ridgeline.engine.power.propeller import OUT_OF_RANGE

Array = NDArray[np.float64]
#: One-sigma shares (of the logarithm) of what no bench has told: sold speed constants scatter by 5 %, a winding taken
#: from mass and speed constant by 35 %, the lag of its current by 30 %, its idle current by 25 %; a pack's and a
#: controller's resistance taken from their ratings by 25 %.
SPEED_CONSTANT, WINDING, LAG, IDLE, SUPPLY = 0.05, 0.35, 0.30, 0.25, 0.25
#: What a propeller's law may err in flight, by its shape alone, after one stand has told how it stands.
LAW_SHAPE = 0.015
#: Order of the constants in `Scatter.steps`.
CONSTANTS = ("k_v", "winding", "lag", "idle", "power", "thrust", "supply", "drag")


@dataclass(frozen=True)
class Scatter:
    """Independent directions in which the logarithms of `CONSTANTS` may err by one sigma; ``steps`` (directions, 8)."""

    steps: Array

    @property
    def count(self) -> int:
        """Rows of whatever a moved chain gives: the train as it is, then each direction up, then each down."""
        return 2 * len(self.steps) + 1

    def factor(self, constant: str, axes: int = 0) -> Array:
        """Return what multiplies a constant in each row, shape (count, 1, …) with ``axes`` ones."""
        step = self.steps[:, CONSTANTS.index(constant)]
        result: Array = np.exp(np.concatenate([[0.0], step, -step]))[(slice(None), *(None,) * axes)]
        return result

    def moved(self, link: Chain, axes: int = 0) -> Chain:
        """Return the chain with a leading axis of `count`, before ``axes`` more."""
        k_v, idle, supply = (self.factor(name, axes) for name in ("k_v", "idle", "supply"))
        return replace(
            link,
            k_v=link.k_v * k_v,
            motor_resistance=link.motor_resistance * self.factor("winding", axes),
            lag=link.lag * self.factor("lag", axes),
            i0_still=link.i0_still * idle,
            i0_slope=link.i0_slope * idle / k_v,
            power_factor=link.power_factor * self.factor("power", axes),
            thrust_factor=link.thrust_factor * self.factor("thrust", axes),
            pack_resistance=link.pack_resistance * supply,
            esc_resistance=link.esc_resistance * supply,
        )

    def sigma(self, values: Any) -> Any:
        """Return one sigma of values whose first axis is of `count`: half of what each direction moves them, summed."""
        found = np.asarray(values, float)
        half = 0.5 * (found[1 : 1 + len(self.steps)] - found[1 + len(self.steps) :])
        return np.sqrt(np.sum(half**2, axis=0))


def scatter_of(train: PowerTrain, link: Chain, drag_sigma: float = 0.0) -> Scatter:
    """Return what is not known of a train: by class where nothing is measured, by the bench where it is.

    ``drag_sigma`` is the one-sigma share of the drag it pulls against.
    """
    shares = np.array([*motor_shares(train.motor), link.law.sigma_power, link.law.sigma_thrust, SUPPLY, drag_sigma])
    found = train.bench_fit
    if found is None or found.values != constants(train):
        return Scatter(np.diag(shares)[shares > 0])
    # What one bench told of motor and propeller errs together; the law's shape in flight still on its own.
    together = np.zeros((6, len(CONSTANTS)))
    together[:, :6] = np.array(found.steps).reshape(6, 6)
    flown = np.diag([0.0, 0.0, 0.0, 0.0, LAW_SHAPE, LAW_SHAPE, SUPPLY, drag_sigma])
    return Scatter(np.vstack([together, flown[np.diag(flown) > 0]]))


def motor_shares(motor: Motor) -> tuple[float, float, float, float]:
    """Return the one-sigma shares of K_v, winding, lag and no-load current: measured, or of the class.

    Parameters
    ----------
    motor : Motor

    Returns
    -------
    tuple of float
        One-sigma shares.
    """

    def share(measured: float | None, of_class: float) -> float:
        return of_class if measured is None else measured

    return (
        share(motor.kv_sigma, SPEED_CONSTANT),
        share(motor.resistance_sigma, WINDING),
        0.0 if motor.kind == "brushed" else share(motor.lag_sigma, LAG),
        share(motor.no_load_sigma, IDLE),
    )


def constants(train: PowerTrain) -> tuple[float, ...]:
    """Return the six constants a bench tells of: K_v rpm/V, R Ω, L/R s, I0 A, power and thrust factors."""
    motor, prop = train.motor, train.propeller
    return (
        motor.kv_rpm_per_v,
        winding_of(motor),
        lag_of(motor),
        idle_of(motor),
        prop.power_factor,
        prop.thrust_factor,
    )


def widened_past_mach(link: Chain, omega: float) -> Chain:
    """Return the chain, its propeller's bands doubled where the tips turn faster than blade elements hold for.

    Parameters
    ----------
    link : Chain
    omega : ndarray
        rad/s.

    Returns
    -------
    Chain
    """
    if 0.5 * link.diameter * omega <= TIP_MACH * SPEED_OF_SOUND:
        return link
    return replace(link, law=link.law.widened(OUT_OF_RANGE))
