"""A power train at full throttle over airspeed: what it pulls and draws whatever it is bolted to."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import PowerTrain
from ridgeline.engine.power.chain import Chain, chain
from ridgeline.engine.power.discharge import Climb, Profile, climb_away
from ridgeline.engine.power.operating_point import OperatingPoint, solve
from ridgeline.engine.power.scatter import Scatter, scatter_of, widened_past_mach

Array = NDArray[np.float64]
#: State of charge the speeds are taken at: the middle of the usable range.
MEAN_CHARGE = 0.6
#: Airspeeds looked at up to a little past where thrust ends, how often as far they go on, and every how many of them
#: for what only errors ask.
_SPEEDS, _FURTHER, _EVERY = 160, 2.2, 5
_PAST = 1.05
#: Throttles that the wash is told over.
THROTTLES = np.linspace(0.0, 1.0, 13)
#: Climbs kept: a hand that drags moves the best speed between few.
_KEPT = 16


@dataclass(frozen=True)
class FullThrottle:
    """Full throttle over airspeed on a half-used pack; made once for a train, its air and what is not known of it.

    ``link`` is the chain that ``point`` settles at the airspeeds ``speed``, shape (n,), m/s, from standing.
    """

    train: PowerTrain
    link: Chain
    scatter: Scatter
    speed: Array
    point: OperatingPoint
    air_density: float
    temperature_c: float
    _climbs: dict[tuple[int, Profile], Climb] = field(default_factory=dict, repr=False, compare=False)

    @property
    def ends(self) -> float:
        """The airspeed a little past where thrust ends, m/s."""
        return float(self.speed[_SPEEDS])

    @cached_property
    def coarse(self) -> Array:
        """Every few of the airspeeds: enough for errors, shape (m,), m/s."""
        return self.speed[::_EVERY]

    @cached_property
    def doubted(self) -> Array:
        """Thrust at the coarse airspeeds, as it is and for every doubt each way, shape (rows, m), N."""
        moved = self.scatter.moved(self.link, axes=1)
        thrust: Array = solve(moved, 1.0, self.coarse, self.air_density, self.point.omega[::_EVERY]).thrust
        return thrust

    @cached_property
    def _fresh(self) -> tuple[Array, Array, Array]:
        """Thrust, shaft power and speed of rotation over `THROTTLES` and the coarse airspeeds, on a full pack."""
        link = chain(self.train, 1.0, self.temperature_c)
        point = solve(link, THROTTLES[:, None], self.coarse, self.air_density)
        return point.thrust, point.shaft_power, point.omega

    def over_throttle(self, speed: float) -> tuple[Array, Array, Array]:
        """Return thrust, N, shaft power, W, and speed of rotation, rad/s, over `THROTTLES` on a full pack.

        Read off the parabola through the three nearest airspeeds looked at.
        """
        at = min(speed, float(self.coarse[-1])) / self.coarse[1]
        k = int(np.clip(round(at), 1, len(self.coarse) - 2))
        t = at - k
        shares = np.array([0.5 * t * (t - 1), 1 - t * t, 0.5 * t * (t + 1)])
        thrust, power, omega = (rows[:, k - 1 : k + 2] @ shares for rows in self._fresh)
        return thrust, power, omega

    @cached_property
    def _past_mach(self) -> FullThrottle:
        return _of(self.train, widened_past_mach(self.link, np.inf), self)

    def held_at(self, cruise: float) -> FullThrottle:
        """Return the same, less sure of its propeller where the tips turn too fast at a cruising speed, m/s."""
        omega = float(np.interp(cruise, self.speed, self.point.omega))
        return self if widened_past_mach(self.link, omega) is self.link else self._past_mach

    def climb_away(self, speed: float, profile: Profile) -> Climb:
        """Return the climb after launch at an airspeed, m/s, and full throttle down the pack at it.

        Between the two nearest coarse airspeeds, whose climbs are kept: what a climb draws hardly goes with the speed.
        """
        at = min(speed, float(self.coarse[-1])) / self.coarse[1]
        k = min(int(at), len(self.coarse) - 2)
        return self._climb(k, profile).between(self._climb(k + 1, profile), at - k)

    def _climb(self, k: int, profile: Profile) -> Climb:
        key = (k, profile)
        found = self._climbs.get(key)
        if found is None:
            speed = float(self.coarse[k])
            found = climb_away(
                self.train, speed, self.air_density, self.temperature_c, profile=profile, scatter=self.scatter
            )
            while len(self._climbs) >= _KEPT:
                self._climbs.pop(next(iter(self._climbs)), None)
            self._climbs[key] = found
        return found


def full_throttle(train: PowerTrain, air_density: float, temperature_c: float, drag_sigma: float) -> FullThrottle:
    """Settle a train at full throttle over the airspeeds where it pulls, and as far again.

    Parameters
    ----------
    train : PowerTrain
    air_density : float
        kg/m³.
    temperature_c : float
        Of the air, °C.
    drag_sigma : float
        One-sigma share of the drag it will pull against.

    Returns
    -------
    FullThrottle
    """
    link = chain(train, MEAN_CHARGE, temperature_c)
    ends = float(link.law.j_zero * link.diameter * link.k_v * link.open_circuit / (2 * np.pi))
    speed: Array = np.linspace(0.0, _FURTHER * _PAST * ends, round(_SPEEDS * _FURTHER) + 1)
    point = solve(link, 1.0, speed, air_density)
    scatter = scatter_of(train, link, drag_sigma)
    return FullThrottle(train, link, scatter, speed, point, air_density, temperature_c)


def _of(train: PowerTrain, link: Chain, like: FullThrottle) -> FullThrottle:
    """Return the same state with other doubts: only the bands of the propeller's law differ."""
    drag_sigma = float(np.log(like.scatter.factor("drag")).max())
    scatter = scatter_of(train, link, drag_sigma)
    return FullThrottle(train, link, scatter, like.speed, like.point, like.air_density, like.temperature_c)
