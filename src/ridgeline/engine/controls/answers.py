"""What an aircraft does when a stick is held: the roll, the swing of the nose and the angle it settles to.

Everything here is plain numbers: coefficients in, rates and angles out.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.engine.aero.atmosphere import GRAVITY

#: Weaker than this a weathercock or a pitch stiffness settles nothing, 1/rad (chosen).
WEAK = 0.004


class Sideways(NamedTuple):
    """Derivatives by sideslip and by a roll rate p b/2V, about the balance point; 1/rad."""

    roll_by_slip: float
    yaw_by_slip: float
    roll_by_roll: float
    yaw_by_roll: float


class Turned(NamedTuple):
    """What a roll and a yaw that are held come to.

    ``first`` and ``held`` are p b/2V before the nose has swung and after; ``swing`` rad how far the nose has swung off
    its way, to starboard positive, once it has.
    """

    first: float
    held: float
    swing: float


def turned(roll: float, yaw: float, by: Sideways) -> Turned | None:
    """Return the steady answer to a roll and a yaw that are held with the wings' heading kept.

    Parameters
    ----------
    roll, yaw : float
        Coefficients, starboard down and nose to starboard.
    by : Sideways

    Returns
    -------
    Turned or None
        None where the nose does not follow the wind, so that nothing settles.

    Source
    ------
    C_lβ β + C_lp p̂ = −C_l and C_nβ β + C_np p̂ = −C_n: docs/theory.md §14. That the held roll turns its sign where the
    yaw against it outweighs the weathercock is the departure by aileron (Nelson, Flight Stability and Automatic
    Control).
    """
    det = by.roll_by_slip * by.yaw_by_roll - by.roll_by_roll * by.yaw_by_slip
    if by.yaw_by_slip < WEAK or by.roll_by_roll > -1e-6 or det < 1e-6:
        return None
    slip = -(roll * by.yaw_by_roll - by.roll_by_roll * yaw) / det
    held = -(by.roll_by_slip * yaw - by.yaw_by_slip * roll) / det
    return Turned(-roll / by.roll_by_roll, held, -slip)


def nosed(pitch: float, stiffness: float) -> float | None:
    """Return the angle of attack that a pitch that is held settles to, rad.

    Parameters
    ----------
    pitch : float
        Coefficient about the balance point, nose up.
    stiffness : float
        Of pitch by angle of attack, 1/rad; a stable one pitches down.

    Returns
    -------
    float or None
        None where nothing settles.
    """
    return None if stiffness > -WEAK else -pitch / stiffness


def turn_radius(speed: float, load: float) -> float:
    """Return the radius of a level turn at a load factor, m; endless at one g.

    Parameters
    ----------
    speed : float
        m/s.
    load : float

    Returns
    -------
    float

    Source
    ------
    R = V²/(g √(n² − 1)).
    """
    return math.inf if load <= 1.0 else speed**2 / (GRAVITY * math.sqrt(load**2 - 1))


def load_for(speed: float, radius: float) -> float:
    """Return the load factor of a level turn of a radius: the inverse of `turn_radius`.

    Parameters
    ----------
    speed : float
        m/s.
    radius : float
        m.

    Returns
    -------
    float
    """
    return math.hypot(1.0, speed**2 / (GRAVITY * radius))


class Pull(NamedTuple):
    """What a pull comes to in a level turn at one speed: the control it takes, and what limits it.

    ``per_lift`` rad of control for a lift coefficient of one more, ``per_rate`` rad for a pitch rate q c̄/2V of one,
    both nose up; ``most`` the load factor at which it stalls.
    """

    per_lift: float
    per_rate: float
    lift: float
    speed: float
    chord: float
    most: float

    def control(self, load: float) -> float:
        """Return the control that holds a load factor in a level turn, rad from that of level flight, nose up.

        The nose comes round at q = g/V (n − 1/n).
        """
        rate = GRAVITY / self.speed * (load - 1 / load) * self.chord / (2 * self.speed)
        return self.per_lift * self.lift * (load - 1.0) + self.per_rate * rate

    def load(self, control: float) -> float:
        """Return the load factor that a control holds, as far as it does not stall."""
        if self.control(self.most) <= control or self.most <= 1.0:
            return max(self.most, 1.0)
        if control <= 0:
            return 1.0
        # a (n − 1) + b (n − 1/n) = δ is (a + b) n² − (a + δ) n − b = 0.
        a = self.per_lift * self.lift
        b = self.per_rate * GRAVITY * self.chord / (2 * self.speed**2)
        half = 0.5 * (a + control)
        found = (half + math.sqrt(max(half * half + (a + b) * b, 0.0))) / (a + b)
        return min(max(found, 1.0), self.most)
