"""What measurements and sightings say of unknowns, on plain numbers: slopes, errors and residuals in, posterior out."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

Array = NDArray[np.float64]
#: A cause has slipped when its error is three of its one-sigma errors: k = 8 σ² more (second part of the handbook §19).
SLIPPED = 8.0
#: Somebody who looks says what is not so one time in twenty, and misses as often.
LEAST, RANGE = 0.05, 0.90
#: Noise over the variance before of what shifts a figure without telling it any closer.
_VAGUE = 1e3


class Posterior(NamedTuple):
    """Unknowns after measurements: their change ``mean`` (n,) and covariance (n, n), and of each cause, (n,):

    ``evidence`` ln B for its having slipped, ``slip`` by how much it would have, and one sigma of that.
    """

    mean: Array
    covariance: Array
    evidence: Array
    slip: Array
    slip_sigma: Array


def infer(slopes: Array, errors: Array, prior: Array, residual: Array) -> Posterior:
    """Return what measurements say of unknowns, and how likely each is to have slipped.

    Parameters
    ----------
    slopes : ndarray, shape (m, n)
        H: of each measurement by each unknown.
    errors : ndarray, shape (m, m)
        R: covariance of the measurements' noise.
    prior : ndarray, shape (n, n)
        P: covariance of the unknowns before.
    residual : ndarray, shape (m,)
        Measured less predicted.

    Returns
    -------
    Posterior

    Raises
    ------
    ValueError
        Where shapes do not go together, or S = H P Hᵀ + R cannot be inverted.

    Source
    ------
    Second part of the handbook §19: K = P Hᵀ S⁻¹, z = hᵀ S⁻¹ r, w = hᵀ S⁻¹ h,
    ln B = ½ z² k/(1 + k w) − ½ ln(1 + k w) with k = 8 σ².
    """
    h, r_n = np.atleast_2d(np.asarray(slopes, float)), np.atleast_2d(np.asarray(errors, float))
    p, r = np.asarray(prior, float), np.asarray(residual, float)
    m, n = h.shape
    if p.shape != (n, n) or r_n.shape != (m, m) or r.shape != (m,):
        raise ValueError(f"slopes {h.shape} want errors {(m, m)}, prior {(n, n)} and residuals {(m,)}")
    whole = h @ p @ h.T + r_n
    try:
        solved = np.linalg.solve(whole, np.column_stack([r, h]))
    except np.linalg.LinAlgError as error:
        raise ValueError("H P Hᵀ + R cannot be inverted") from error
    gain = p @ solved[:, 1:].T
    variance = np.diag(p)
    z, w, k = h.T @ solved[:, 0], np.einsum("mi,mi->i", h, solved[:, 1:]), SLIPPED * variance
    spread = 1 + k * w
    wide = (1 + SLIPPED) * variance
    left = np.maximum(wide - wide * wide * w / spread, 0.0)
    return Posterior(
        mean=gain @ r,
        covariance=_even(p - gain @ h @ p),
        evidence=0.5 * z * z * k / spread - 0.5 * np.log(spread),
        slip=wide * z / spread,
        slip_sigma=np.sqrt(left),
    )


def _even(matrix: Array) -> Array:
    even: Array = 0.5 * (matrix + matrix.T)
    return even


class Sighted(NamedTuple):
    """A sighting: how the figure it is about goes with the unknowns, (n,), its value as reckoned, and where it is seen.

    ``over`` are thresholds past which it is seen above, ``under`` those below; ``sigma`` how surely anybody tells.
    """

    slopes: Array
    value: float
    sigma: float
    over: float | None = None
    under: float | None = None


class Told(NamedTuple):
    """What a sighting comes to: its chance ln Z, the residual and noise it stands for; None where it says nothing."""

    chance: float
    residual: float
    noise: float | None


def told_by(sighting: Sighted, value: float, variance: float) -> Told:
    """Return what a sighting says of a figure known to a variance.

    Parameters
    ----------
    sighting : Sighted
    value, variance : float
        Of the figure before.

    Returns
    -------
    Told

    Source
    ------
    Likelihood 0.05 + 0.90 Φ((g − t)/σ), moments matched to those of a normal measurement: docs/theory.md §18.
    """
    spread = math.sqrt(variance + sighting.sigma**2)
    z, first, second = LEAST, 0.0, 0.0
    for sense, threshold in ((1.0, sighting.over), (-1.0, sighting.under)):
        if threshold is None:
            continue
        u = sense * (value - threshold) / spread
        density = math.exp(-0.5 * u * u) / math.sqrt(2 * math.pi)
        z += RANGE * float(ndtr(u))
        first += sense * RANGE * density / spread
        second -= RANGE * u * density / spread**2
    slope, bend = first / z, second / z - (first / z) ** 2
    if variance <= 0:
        return Told(math.log(z), 0.0, None)
    # Far from where it is seen a sighting shifts the mean, but does not narrow it: a measurement of very much noise.
    noise = -1 / bend - variance if bend < 0 else math.inf
    noise = min(max(noise, 1e-9 * variance), _VAGUE * variance)
    return Told(math.log(z), slope * (variance + noise), noise)


class Ranked(NamedTuple):
    """All that is known after measurements and sightings.

    Chances of the causes, and of none of them, sum to one; a cause without evidence for it has none.
    """

    posterior: Posterior
    evidence: Array
    chances: Array
    nothing: float


def ranked(slopes: Array, errors: Array, prior: Array, residual: Array, sightings: Sequence[Sighted] = ()) -> Ranked:
    """Return causes by the evidence of measurements and sightings together.

    Parameters
    ----------
    slopes, errors, prior, residual : ndarray
        As `infer` takes them; no row at all where nothing was measured.
    sightings : sequence of Sighted

    Returns
    -------
    Ranked
        Without sightings the evidence is that of `infer`.

    Source
    ------
    ln B of each cause is the chance of all that was seen with its variance grown to nine times, over that without;
    sightings one after the other by moments (assumed density): docs/theory.md §18.
    """
    n = prior.shape[0]
    base, mean, covariance = _chance(slopes, errors, prior, residual, sightings)
    evidence, slip, slip_sigma = np.empty(n), np.empty(n), np.empty(n)
    for k in range(n):
        wide = prior.copy()
        wide[k, k] += SLIPPED * prior[k, k]
        chance, there, spread = _chance(slopes, errors, wide, residual, sightings)
        evidence[k], slip[k], slip_sigma[k] = chance - base, there[k], math.sqrt(max(spread[k, k], 0.0))
    posterior = Posterior(mean, covariance, evidence, slip, slip_sigma)
    # A cause that explains nothing better than chance does is none; the others and none of them begin alike.
    helps = np.append(np.where(evidence > 0, evidence, -np.inf), 0.0)
    weights = np.exp(helps - helps.max())
    chances = weights / weights.sum()
    return Ranked(posterior, evidence, chances[:-1], float(chances[-1]))


def _chance(
    slopes: Array, errors: Array, prior: Array, residual: Array, sightings: Sequence[Sighted]
) -> tuple[float, Array, Array]:
    """Return ln of the chance of all that was seen, and mean and covariance of the unknowns after it."""
    n, total = prior.shape[0], 0.0
    mean, cov = np.zeros(n), prior
    h = slopes.reshape(-1, n)
    if len(h):
        whole = h @ prior @ h.T + errors
        solved = np.linalg.solve(whole, residual)
        total -= 0.5 * (float(residual @ solved) + float(np.linalg.slogdet(whole)[1]))
        gain = np.linalg.solve(whole, h @ prior).T
        mean, cov = gain @ residual, _even(prior - gain @ h @ prior)
    for one in sightings:
        g = one.slopes
        variance = max(float(g @ cov @ g), 0.0)
        told = told_by(one, one.value + float(g @ mean), variance)
        total += told.chance
        if told.noise is None or variance == 0:
            continue
        gain = cov @ g / (variance + told.noise)
        mean = mean + gain * told.residual
        cov = _even(cov - np.outer(gain, g @ cov))
    return total, mean, cov


def worth(test: Array, noise: float, covariance: Array) -> float:
    """Return what a test would tell, in nats.

    Parameters
    ----------
    test : ndarray, shape (n,)
        h: how what it measures goes with the unknowns.
    noise : float
        Variance of its noise.
    covariance : ndarray, shape (n, n)
        Of the unknowns now.

    Returns
    -------
    float

    Source
    ------
    ½ ln(1 + hᵀ P⁺ h/r): second part of the handbook §19.
    """
    return 0.5 * math.log1p(max(float(test @ covariance @ test), 0.0) / noise)


def odd(slopes: Array, errors: Array, prior: Array, residual: Array) -> Array:
    """Return how many sigmas each measurement is off what all the others say, causes allowed to have slipped, (m,).

    Parameters
    ----------
    slopes, errors, prior, residual : ndarray
        As `infer` takes them.

    Returns
    -------
    ndarray, shape (m,)

    Source
    ------
    Leave one out: e = (S⁻¹ r)ⱼ/(S⁻¹)ⱼⱼ, its variance 1/(S⁻¹)ⱼⱼ.
    """
    wide = prior + SLIPPED * np.diag(np.diag(prior))
    inverse = np.linalg.inv(slopes @ wide @ slopes.T + errors)
    found: Array = (inverse @ residual) / np.sqrt(np.diag(inverse))
    return found


def alike(slopes: Array, errors: Array, prior: Array) -> Array:
    """Return how alike causes look, (n, n): cosines of what each does to whitened measurements.

    Parameters
    ----------
    slopes, errors, prior : ndarray
        As `infer` takes them.

    Returns
    -------
    ndarray, shape (n, n)
        1 where two cannot be told apart; nothing where a cause is not seen at all.
    """
    whole = slopes @ prior @ slopes.T + errors
    white = np.linalg.solve(np.linalg.cholesky(whole), slopes)
    size = np.linalg.norm(white, axis=0)
    found: Array = white.T @ white / np.maximum(np.outer(size, size), 1e-300)
    return found
