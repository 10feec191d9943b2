"""A launch on plain numbers: how it leaves the hand, what the air does, who holds the sticks, and what became of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.engine.flight.air_forces import separated
from ridgeline.engine.flight.craft import Aircraft, Held, Number
from ridgeline.engine.flight.six_degrees import PLACE, TURNED, VELOCITY, Path, angles_of, state_of, to_body

Array = NDArray[np.float64]
#: Height of the hand, m, and of the wind's measure (second part of the handbook §18).
HAND, MEASURED_AT = 1.7, 10.0
#: Power of the wind's profile; gusts along and upward over the wind; how long they are, m; the least length upward, m.
PROFILE, GUST_ALONG, GUST_UP, LONG, LEAST_UP = 0.14, 0.15, 0.10, 30.0, 5.0
#: A pilot's delay, s, and how much stick a degree of bank and of pitch is answered with (chosen: full throw at 45°).
DELAY, PER_BANK, PER_PITCH = 0.25, 4 / np.pi, 4 / np.pi
#: Late as he is, he does not ask for more than this of a bank's error a delay: more would rock it.
CALM = 0.6
#: Past this bank it has rolled off, rad; what of the flow may separate, and how long, s, before it has stalled.
ROLLED, STALLED, STALLED_FOR = np.radians(60.0), 0.5, 0.2
#: It climbs away when it ends this much over the hand, m, and higher than a second before.
CLIMBED = 1.0

Outcome = Literal["climbs", "holds", "stalls", "sinks", "rolls"]
OUTCOMES: tuple[Outcome, ...] = ("climbs", "holds", "stalls", "sinks", "rolls")


class Throw(NamedTuple):
    """How it leaves the hand: speed over the ground m/s, upward, nose over that, bank and yaw rad, height m."""

    speed: Number
    path: Number = 0.0
    nose: Number = 0.0
    bank: Number = 0.0
    yaw: Number = 0.0
    height: Number = HAND
    runs: Number = 0.0
    roll_rate: Number = 0.0
    yaw_rate: Number = 0.0

    def state(self, builds: int = 1) -> Array:
        """Return the state of it."""
        return state_of(
            place=(0.0, 0.0, self.height), speed=self.speed, path=self.path, pitch=np.asarray(self.path) + self.nose,
            bank=self.bank, yaw=self.yaw, rates=(self.roll_rate, 0.0, self.yaw_rate), runs=self.runs, builds=builds,
        )  # fmt: skip


def wind_at(height: Array, wind: Number) -> Array:
    """Return the wind at heights from that at 10 m, m/s.

    Parameters
    ----------
    height : ndarray
        m.
    wind : float or ndarray
        At ten metres.

    Returns
    -------
    ndarray

    Source
    ------
    V(z) = V₁₀ (z/10)^0.14: second part of the handbook §18.
    """
    found: Array = np.asarray(wind, float) * (np.maximum(height, 0.1) / MEASURED_AT) ** PROFILE
    return found


@dataclass
class Weather:
    """The air of a launch: a head wind m/s (a tail wind below nothing), gusts by a seed, and air that rises, m/s.

    Gusts are a Gauss–Markov sequence along and one upward, the same for every build, or one each.
    """

    wind: Number = 0.0
    gusts: Number = 0.0
    rising: Number = 0.0
    across: Number = 0.0
    seed: int = 1
    builds: int = 1
    speed: float = 12.0
    step: float = 0.02
    lasts: float = 60.0
    _along: Array = field(init=False, repr=False)
    _up: Array = field(init=False, repr=False)

    def __post_init__(self) -> None:
        many = round(self.lasts / self.step) + 2
        chance = np.random.default_rng(self.seed).normal(size=(2, many, self.builds))
        # How long a gust lasts to what flies through it.
        keep = [np.exp(-self.speed * self.step / length) for length in (LONG, LEAST_UP)]
        rows = np.zeros((2, many, self.builds))
        rows[:, 0] = chance[:, 0]
        for k in range(1, many):
            for j in (0, 1):
                rows[j, k] = keep[j] * rows[j, k - 1] + np.sqrt(1 - keep[j] ** 2) * chance[j, k]
        self._along, self._up = rows

    def __call__(self, time: float, height: Array) -> tuple[Number, Number, Number]:
        """Return the air's own motion along the launch, to the right and up, m/s."""
        blowing = wind_at(height, self.wind)
        at = min(time / self.step, len(self._along) - 1.001)
        k, share = int(at), at - int(at)
        strength = np.asarray(self.gusts, float)
        along = (1 - share) * self._along[k] + share * self._along[k + 1]
        up = (1 - share) * self._up[k] + share * self._up[k + 1]
        return -blowing - GUST_ALONG * strength * along, self.across, self.rising + GUST_UP * strength * up


@dataclass
class Pilot:
    """A simple human: sees bank and pitch a quarter of a second late, and answers in proportion.

    ``trim`` is held besides; ``aileron``, ``pitch`` and ``rudder`` are full throws, rad, nothing for builds that nobody
    holds; without ailerons the rudder banks it. ``per_bank`` is how much stick a radian of bank is worth to him;
    ``wished`` and ``banks`` are the nose up and the bank he wants, rad.
    """

    trim: Held
    aileron: Number
    pitch: Number
    wished: Number = 0.10
    rudder: Number = 0.0
    banks: Number = 0.0
    per_bank: float = PER_BANK
    _seen: list[tuple[float, Array, Array]] = field(default_factory=list, repr=False)

    def __call__(self, time: float, state: Array) -> Held:
        """Return what is held now."""
        bank, nose, _yaw = angles_of(state[TURNED])
        if not self._seen or time > self._seen[-1][0]:
            self._seen.append((time, bank, nose))
        while len(self._seen) > 1 and self._seen[1][0] <= time - DELAY:
            self._seen.pop(0)
        _when, then_bank, then_nose = self._seen[0]
        roll = np.clip(self.per_bank * (np.asarray(self.banks) - then_bank), -1.0, 1.0)
        # A pull is a trailing edge up, which is told negative.
        pull = np.clip(PER_PITCH * (np.asarray(self.wished) - then_nose), -1.0, 1.0)
        held = self.trim
        return Held(
            held.pitch - pull * self.pitch, held.aileron + roll * self.aileron, held.rudder + roll * self.rudder,
            held.throttle,
        )  # fmt: skip


def hands_off(trim: Held) -> Callable[[float, Array], Held]:
    """Return a pilot who holds what was trimmed, and nothing else.

    Parameters
    ----------
    trim : Held

    Returns
    -------
    callable
    """
    return lambda _time, _state: trim


class Flown(NamedTuple):
    """What a path tells of each build: airspeed m/s, angles rad over time, (k, n), and what became of it, (n,)."""

    airspeed: Array
    alpha: Array
    bank: Array
    separated: Array
    lowest: Array
    ends: Array
    outcome: NDArray[np.int64]


def flown(craft: Aircraft, path: Path, air: Callable[[float, Array], tuple[Number, Number, Number]]) -> Flown:
    """Return what a path tells, and what became of each build.

    Parameters
    ----------
    craft : Aircraft
    path : Path
    air : callable
        That it was flown in.

    Returns
    -------
    Flown
        ``lowest`` and ``ends`` heights, m; ``outcome`` indexes `OUTCOMES`.
    """
    met = np.empty((len(path.time), 3, path.state.shape[2]))
    for k, time in enumerate(path.time):
        here = path.state[k]
        wind = np.zeros_like(here[PLACE])
        along, right, up = air(float(time), -here[2])
        wind[0], wind[1], wind[2] = along, right, -np.asarray(up, float)
        met[k] = here[VELOCITY] - to_body(here[TURNED], wind)
    speed = np.sqrt((met**2).sum(axis=1))
    alpha = np.arctan2(met[:, 2], met[:, 0])
    bank = np.stack([angles_of(one[TURNED])[0] for one in path.state])
    gone = np.stack([separated(craft, one) for one in alpha])
    height = path.height
    flying = path.time[:, None] < path.landed[None, :]
    lowest = np.where(flying, height, np.inf).min(axis=0)
    step = float(path.time[1] - path.time[0]) if len(path.time) > 1 else 1.0
    stalled = _longest((gone > STALLED) & flying) * step > STALLED_FOR
    rolled = (np.abs(bank) > ROLLED).any(axis=0, where=flying)
    down = np.isfinite(path.landed)
    second = max(round(1.0 / step), 1)
    before = height[-min(second, len(height) - 1) - 1]
    climbing = (height[-1] > height[0] + CLIMBED) & (height[-1] > before)
    # A wing that stalls rolls off and sinks: what came first is what became of it.
    outcome = np.where(climbing, 0, 1)
    outcome = np.where(down, OUTCOMES.index("sinks"), outcome)
    outcome = np.where(rolled, OUTCOMES.index("rolls"), outcome)
    outcome = np.where(stalled & ~climbing, OUTCOMES.index("stalls"), outcome)
    return Flown(speed, alpha, bank, gone, lowest, height[-1], outcome)


def _longest(row: NDArray[np.bool_]) -> Array:
    """Return the longest run of what is so, in steps, (n,)."""
    best = run = np.zeros(row.shape[1])
    for one in row:
        run = np.where(one, run + 1, 0)
        best = np.maximum(best, run)
    return best
