"""The stage of torsion: what is left of the ailerons, where they reverse, where the wing twists off."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.common import NO_MASS, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.structure.half import Half, why_not
from ridgeline.engine.structure.twist import swept_divergence

Array = NDArray[np.float64]
_TWIST = ("structure.effectiveness_cruise", "structure.reversal_speed", "structure.divergence_speed")
#: One sigma of a panel's stiffness in torsion, as a share.
TORSION_SIGMA = 0.30 / BAND
#: Reversal and divergence are looked for up to this over the dive speed; and swept wings from this sweep on, rad
#: (second part of the handbook §16.5).
FAR, SWEPT = 3.0, math.radians(10)
#: Least of reversal and divergence over the dive speed (second part of the handbook §16.5).
OVER_DIVE = 1.2


@dataclass(frozen=True, eq=False)
class Twisting:
    """How the main wing twists: speeds m/s at which ailerons reverse and it twists off, infinite where they do not.

    ``tip_dive`` rad, nose up, is the twist of the tips in a dive at no lift; ``pin`` N what its pin bears there, None
    where the root is held whole. ``others`` are the speeds at which each surface twists off, as the surfaces are:
    infinite where it does not, where it stands upright and where it is not known.
    """

    half: Half
    reversal: float
    divergence: float
    tip_dive: float | None
    pin: float | None
    others: tuple[float, ...]

    def left(self, speed: ArrayLike, density: float) -> Array:
        """Return what is left of the ailerons at airspeeds, m/s; NaN from divergence on."""
        panel = self.half.panel
        assert panel is not None
        pressure = 0.5 * density * np.asarray(speed, float) ** 2
        inside = pressure < 0.999 * panel.divergence
        found = np.full(pressure.shape, np.nan)
        found[inside] = panel.effectiveness(pressure[inside])
        return found


def twisting(
    halves: tuple[Half | None, ...],
    found: Bearing | None,
    speed: Speeds | None,
    here: Air,
    surfaces: tuple[Surface, ...],
    told: Told,
) -> Outcome[Twisting | None]:
    """Give what the air leaves of the ailerons, and the speeds at which they reverse and the wing twists off."""
    if found is None or speed is None:
        why = NO_WING if speed is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in _TWIST))
    half = halves[found.main]
    if half is None or half.panel is None:
        why = f"{surfaces[found.main].name}: {why_not(surfaces[found.main]) or 'it stands upright'}"
        return Outcome(None, tuple(absent(key, why) for key in _TWIST))
    panel, density = half.panel, here.density
    diverges = divergence_of(half)
    fast = FAR * (found.dive if found.dive is not None else 2 * speed.cruise)
    most = 0.5 * density * fast**2
    reverses = panel.reversal(most) if half.rolls else math.inf
    tip = pin = None
    if found.dive is not None:
        q = 0.5 * density * found.dive**2
        tip = tip_in_dive(half, q)
        held = surfaces[found.main].built
        if tip is not None and held is not None and held.root is not None:
            pin = abs(float(panel.twist(q, half.camber_couple)[0][0])) * panel.root / held.root.arm
    result = Twisting(half, _speed(reverses, density), _speed(diverges if diverges <= most else math.inf, density),
                      tip, pin, tuple(_twists_off(other, most, density) for other in halves))  # fmt: skip
    return Outcome(result, _twist_figures(result, speed, here, told, FAR))


def _twists_off(half: Half | None, most: float, density: float) -> float:
    """Return the speed at which a half twists off, m/s; infinite beyond a pressure, Pa."""
    if half is None or half.panel is None:
        return math.inf
    diverges = divergence_of(half)
    return _speed(diverges, density) if diverges <= most else math.inf


def tip_in_dive(half: Half, pressure: float) -> float | None:
    """Return the twist of the tips at no lift, rad, nose up: by the couple of their sections.

    Parameters
    ----------
    half : Half
        That does not stand upright.
    pressure : float
        Dynamic, Pa.

    Returns
    -------
    float or None
        None where it twists off before.
    """
    panel = half.panel
    assert panel is not None
    if pressure >= 0.999 * panel.divergence:
        return None
    return float(panel.twist(pressure, half.camber_couple)[0][-1])


def divergence_of(half: Half) -> float:
    """Return the dynamic pressure at which a half twists off, its sweep seen to, Pa; infinite where it does not.

    Parameters
    ----------
    half : Half
        That does not stand upright.

    Returns
    -------
    float
    """
    panel = half.panel
    assert panel is not None
    straight = panel.divergence
    if half.sweep <= SWEPT or not math.isfinite(straight):
        return straight
    long = half.half_span / math.cos(half.sweep)
    behind = max(float(np.mean(panel.behind)) * math.cos(half.sweep), 1e-6)
    return swept_divergence(
        straight, half.sweep, long, behind, float(half.torsion[half.at_seat]), float(half.bending[half.at_seat])
    )


def _speed(pressure: float, density: float) -> float:
    return math.sqrt(2 * pressure / density)


def _twist_figures(found: Twisting, speed: Speeds, here: Air, told: Told, far: float) -> tuple[Figure, ...]:
    half = found.half
    panel = half.panel
    assert panel is not None
    stiff = float(half.torsion[half.at_seat])
    GJ = Put(stiff, "stiffness in torsion at the seat", "bending_stiffness", TORSION_SIGMA * stiff)
    d = Put(here.density, "air density", "density")
    source, rolls = "docs/theory.md §13", half.rolls
    note = "the root held whole" if math.isinf(panel.root) else "the root turns on its spar, held by its pin"

    def left(V: float, d: float, GJ: float) -> float:
        q = 0.5 * d * V**2 * stiff / GJ
        return float(panel.effectiveness(q)[0]) if q < panel.divergence else math.nan

    no_roll = "no ailerons, elevons or flaperons on it"
    effect = (
        derive(
            _TWIST[0],
            "rolling moment with twist over rigid, at ½·{d}·{V}² and {GJ}",
            left,
            {"V": put(told["speed.cruise"], "cruise speed"), "d": d, "GJ": GJ},
            source=source,
            note=note,
        )
        if rolls
        else absent(_TWIST[0], no_roll)
    )

    def at_which(key: str, value: float, words: str) -> Figure:
        if not math.isfinite(value):
            return absent(key, f"not below {far:g} times the dive speed")
        q = 0.5 * here.density * value**2
        return derive(
            key,
            "√(2·{q}/{d}), {q} in proportion to {GJ}",
            lambda q, d, GJ: math.sqrt(2 * q * GJ / stiff / d),
            {"q": Put(q, words, "pressure"), "d": d, "GJ": GJ},
            source=source,
            note=note,
        )

    reverses = (
        at_which(_TWIST[1], found.reversal, "dynamic pressure at which nothing is left")
        if rolls
        else absent(_TWIST[1], no_roll)
    )
    return effect, reverses, at_which(_TWIST[2], found.divergence, "dynamic pressure of divergence")
