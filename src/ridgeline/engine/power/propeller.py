"""What a propeller does: its law of thrust and power over the advance ratio, from blade elements, a table or a fan.

A law is a chain of quadratics in the advance ratio ``J = V/(n D)``, and moves with the logarithm of the tip speed, by
which the blades' Reynolds number goes. Past its last knot the blades are held at constant force over V², as a
windmilling or standing propeller's are.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.power import Propeller
from ridgeline.engine.bands import BAND
from ridgeline.engine.power.blade_element import TIP_SPEED, coefficients_over
from ridgeline.engine.power.prop_families import FAMILIES, TIP_SPEED_LIMIT
from ridgeline.engine.roots import parabola_root

Array = NDArray[np.float64]
#: Pitch ratios the families were set by; propellers outside them are held at the nearer end.
PITCH_RATIOS = (0.3, 1.2)
#: Outside them, and past the tip speed the blade elements hold for, the bands are this much wider.
OUT_OF_RANGE = 2.0
#: One-sigma share of a family law in thrust and power, of a tabulated one, and of a fan; 8, 10, 4 and 15 % bands.
THRUST_SIGMA, POWER_SIGMA = 0.08 / BAND, 0.10 / BAND
_TABLE_SIGMA, _FAN_SIGMA = 0.04 / BAND, 0.15 / BAND
#: The families were set by propellers of this size and more, m; smaller ones err more in proportion, at most so much.
_KNOWN_SIZE, _SMALL_MOST = 0.178, 2.0
#: Where the blade elements are evaluated, in advance over pitch ratio: from standing to braking hard.
_REACH, _PIECES = 1.8, 12
#: Tip speeds the blade elements are evaluated at, m/s, and those past which coefficients are held.
_TIPS, TIP_RANGE = (40.0, 140.0), (15.0, 250.0)
#: What the tip speed does is found at every so many of the advance ratios: it changes slowly.
_TIP_EVERY = 6
#: A fan in its duct: share of shaft power left in the jet, and the blades' friction as a share of static power.
_FAN_EFFICIENCY, _FAN_FRICTION = 0.62, 0.12


@dataclass(frozen=True)
class Law:
    """Coefficients over the advance ratio.

    ``knots`` (k+1,) from 0; on piece i ``C_T = t0 + t1 J + t2 J²`` with ``thrust[i]`` = (t0, t1, t2) at a tip speed of
    70 m/s, and C_P so with ``power``; both have one more row for beyond the last knot. ``thrust_tip`` and
    ``power_tip``, of the same shape, are what e-fold of tip speed adds to them. ``sigma_thrust`` and ``sigma_power``
    are one-sigma shares; ``valid_to`` the advance the source reaches; ``j_zero`` where thrust ends at 70 m/s.
    """

    knots: Array
    thrust: Array
    power: Array
    thrust_tip: Array
    power_tip: Array
    sigma_thrust: float
    sigma_power: float
    valid_to: float
    j_zero: float

    @property
    def static_thrust(self) -> float:
        """C_T standing, at a tip speed of 70 m/s."""
        return float(self.thrust[0, 0])

    @property
    def static_power(self) -> float:
        """C_P standing, at a tip speed of 70 m/s."""
        return float(self.power[0, 0])

    def piece(self, advance: ArrayLike) -> NDArray[np.int64]:
        """Return the piece each advance ratio lies on."""
        if self._step is None:
            return np.searchsorted(self.knots[1:], np.asarray(advance, float), side="left")
        last = len(self.knots) - 1
        return np.minimum(np.asarray(advance, float) * (1 / self._step), float(last)).astype(np.int64)

    @cached_property
    def _step(self) -> float | None:
        """The distance of knots that stand evenly."""
        steps = np.diff(self.knots)
        return float(steps.mean()) if np.ptp(steps) <= 1e-9 * steps.mean() else None

    @cached_property
    def _thrust_rows(self) -> Array:
        return np.hstack([self.thrust, self.thrust_tip])

    @cached_property
    def _power_rows(self) -> Array:
        return np.hstack([self.power, self.power_tip])

    def at(self, advance: ArrayLike, tip_speed: ArrayLike = TIP_SPEED) -> tuple[Array, Array]:
        """Return C_T and C_P at advance ratios and tip speeds π n D, m/s, of shapes that broadcast."""
        j, s = np.asarray(advance, float), tip_scale(tip_speed)
        piece = self.piece(j)
        found = []
        for base, slope in ((self.thrust, self.thrust_tip), (self.power, self.power_tip)):
            a, b = base[piece], slope[piece]
            c = [a[..., k] + s * b[..., k] for k in range(3)]
            found.append(c[0] + j * (c[1] + j * c[2]))
        return found[0], found[1]

    def scaled(self, thrust: float, power: float) -> Law:
        """Return the law with thrust and power multiplied."""
        return replace(
            self,
            thrust=self.thrust * thrust,
            thrust_tip=self.thrust_tip * thrust,
            power=self.power * power,
            power_tip=self.power_tip * power,
        )

    def widened(self, factor: float) -> Law:
        """Return the law with bands that many times as wide."""
        return replace(self, sigma_thrust=factor * self.sigma_thrust, sigma_power=factor * self.sigma_power)


def tip_scale(tip_speed: ArrayLike) -> Array:
    """Return ln(v/70 m/s), by which coefficients move, held outside 15–250 m/s.

    Parameters
    ----------
    tip_speed : array_like
        m/s.

    Returns
    -------
    ndarray
        Of the same shape.
    """
    result: Array = np.log(np.clip(np.asarray(tip_speed, float), *TIP_RANGE) / TIP_SPEED)
    return result


def in_range(propeller: Propeller) -> bool:
    """Tell whether the family's law was set for this pitch ratio."""
    if propeller.table or propeller.family == "ducted_fan":
        return True
    return PITCH_RATIOS[0] <= propeller.pitch / propeller.diameter <= PITCH_RATIOS[1]


def tip_speed_limit(propeller: Propeller) -> float:
    """Return the tip speed the family's blades are made for, m/s."""
    return TIP_SPEED_LIMIT[propeller.family]


def law_of(propeller: Propeller) -> Law:
    """Return a propeller's law: its table where it has one, else its family's, with its measured factors.

    Parameters
    ----------
    propeller : Propeller
        With its table, family and measured factors.

    Returns
    -------
    Law
        Kept for propellers alike.

    Source
    ------
    docs/theory.md §9. Bands (90 %): family ±8 % thrust and ±10 % power from 7 in up, more below in
    proportion, twice that outside its pitch ratios, table
    ±4 %, fan ±15 %; a fitted factor brings its own.
    """
    ratio = propeller.pitch / propeller.diameter
    if propeller.table:
        base = _tabulated(tuple((row.advance, row.thrust, row.power) for row in propeller.table))
    elif propeller.family == "ducted_fan":
        base = _fan(round(ratio, 9))
    else:
        # Outside its range the law is held at its end; a finding says so (`in_range`).
        held = min(max(ratio, PITCH_RATIOS[0]), PITCH_RATIOS[1])
        base = _family_law(propeller.family, round(propeller.diameter, 6), round(held, 6), propeller.blades)
        if held != ratio:
            base = base.widened(OUT_OF_RANGE)
    f_t, f_p = propeller.thrust_factor, propeller.power_factor
    if f_t == 1.0 and f_p == 1.0 and propeller.factor_sigma is None:
        return base
    known = propeller.factor_sigma
    scaled = base.scaled(f_t, f_p)
    return scaled if known is None else replace(scaled, sigma_thrust=known, sigma_power=known)


@lru_cache(maxsize=1024)
def _family_law(family: str, diameter: float, pitch_ratio: float, blades: int) -> Law:
    # Each piece is a parabola through its ends and its middle; knots stand closer where the blades unstall.
    halves = _REACH * pitch_ratio * np.linspace(0.0, 1.0, 2 * _PIECES + 1)
    some = halves[::_TIP_EVERY]
    slow, fast = _TIPS
    found = coefficients_over(
        np.concatenate([halves, some, some]),
        family=FAMILIES[family],
        diameter=diameter,
        pitch_ratio=pitch_ratio,
        blades=blades,
        tip_speed=np.repeat([TIP_SPEED, slow, fast], [halves.size, some.size, some.size]),
    )
    rows = []
    for told in found:
        base, at_slow, at_fast = np.split(told, [halves.size, halves.size + some.size])
        rows.append(_parabolas(halves, base))
        rows.append(_parabolas(halves, np.interp(halves, some, (at_fast - at_slow) / math.log(fast / slow))))
    thrust, thrust_tip, power, power_tip = rows
    law = _law(halves[::2], thrust, power, THRUST_SIGMA, POWER_SIGMA, slopes=(thrust_tip, power_tip))
    return law.widened(min(max(_KNOWN_SIZE / diameter, 1.0), _SMALL_MOST))


@lru_cache(maxsize=256)
def _tabulated(rows: tuple[tuple[float, float, float], ...]) -> Law:
    j, c_t, c_p = (np.array(column) for column in zip(*rows, strict=True))
    if j[0] > 0:
        j, c_t, c_p = np.insert(j, 0, 0.0), np.insert(c_t, 0, c_t[0]), np.insert(c_p, 0, c_p[0])
    reach = float(j[-1])
    if c_t[-1] > 0:
        # On to zero thrust by the last slope, or by the mean one where the table does not fall yet.
        slope = min((c_t[-1] - c_t[-2]) / (j[-1] - j[-2]), -c_t[0] / (3 * reach))
        fall = -c_t[-1] / slope
        power_slope = min((c_p[-1] - c_p[-2]) / (j[-1] - j[-2]), 0.0)
        j = np.append(j, (j[-1] + fall, j[-1] + 1.3 * fall))
        c_t = np.append(c_t, (0.0, 0.3 * fall * slope))
        c_p = np.append(c_p, (c_p[-1] + fall * power_slope, c_p[-1] + 1.3 * fall * power_slope))
    return _law(j, _chords(j, c_t), _chords(j, c_p), _TABLE_SIGMA, _TABLE_SIGMA, reach)


@lru_cache(maxsize=64)
def _fan(jet_ratio: float) -> Law:
    """Give a fan in a duct that neither opens nor narrows: T = ρ A V_j (V_j − V), P = T (V_j + V)/(2 η).

    Here the "pitch" is how far the jet goes in one turn.
    """
    area, top = math.pi / 4, jet_ratio
    thrust = np.array([area * top**2, -area * top, 0.0])
    static = 0.5 * area * top**3 / _FAN_EFFICIENCY
    power = np.array([static * (1 + _FAN_FRICTION), 0.0, -static / top**2])
    knots = np.array([0.0, 1.2 * top])
    return _law(knots, thrust[None], power[None], _FAN_SIGMA, _FAN_SIGMA)


def _law(
    knots: Array,
    thrust: Array,
    power: Array,
    sigma_thrust: float,
    sigma_power: float,
    valid_to: float | None = None,
    slopes: tuple[Array, Array] | None = None,
) -> Law:
    end = float(knots[-1])
    tips = slopes or (np.zeros_like(thrust), np.zeros_like(power))
    # The force of the last knot over V², for ever after.
    beyond, last = np.array([0.0, 0.0, 1.0 / end**2]), np.array([1.0, end, end**2])
    whole = [np.vstack([rows, (rows[-1] @ last) * beyond]) for rows in (thrust, power, *tips)]
    reach = end if valid_to is None else valid_to
    law = Law(knots, whole[0], whole[1], whole[2], whole[3], sigma_thrust, sigma_power, reach, 0.0)
    return replace(law, j_zero=_zero_thrust(law))


def _zero_thrust(law: Law) -> float:
    """Return the advance ratio where thrust ends: in the first piece that does not end with some."""
    knots = law.knots
    ended = np.nonzero(law.at(knots[1:])[0] <= 0)[0]
    if ended.size == 0:
        return float(knots[-1])
    first = int(ended[0])
    c, b, a = law.thrust[first]
    return float(parabola_root(a, b, c, knots[first], knots[first + 1]))


def _parabolas(x: Array, y: Array) -> Array:
    """Return (a, b, c) of y = a + b x + c x² through each end, middle and end of 2k+1 samples."""
    x0, x1, x2, y0, y1, y2 = x[:-2:2], x[1::2], x[2::2], y[:-2:2], y[1::2], y[2::2]
    d01, d12 = (y1 - y0) / (x1 - x0), (y2 - y1) / (x2 - x1)
    c = (d12 - d01) / (x2 - x0)
    b = d01 - c * (x0 + x1)
    return np.stack([y0 - b * x0 - c * x0**2, b, c], axis=1)


def _chords(x: Array, y: Array) -> Array:
    """Return (a, b, 0) of the straight lines between samples."""
    b = np.diff(y) / np.diff(x)
    return np.stack([y[:-1] - b * x[:-1], b, np.zeros_like(b)], axis=1)
