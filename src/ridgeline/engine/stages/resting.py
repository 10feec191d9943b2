"""The stage of what is set at rest: the speed it trims at by itself, the balance for cruise, and the elevons' arm."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, AirframeLattice
from ridgeline.engine.aero.at_rest import balance_for, lift_at_rest
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.flap import effective_deflection
from ridgeline.engine.aero.throws import Throws
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

_KEYS = ("trim.rest_speed", "trim.rest_balance")
_ARMS = ("control.pitch_arm", "control.pitch_as_tailed")
_SOURCE = "docs/theory.md §14"
#: A usual tailed plane: C_mδ of an elevator on a tail of V_H 0.5, 1/rad, and its throw, rad (handbook of the trade §4,
#: §9); its approach over the stall speed.
_TAILED, _THROW, _APPROACH = 1.0, math.radians(12.0), 1.3
#: One sigma of the angle that a control is set to by hand, and of the built-in ones together, rad.
_SET = math.radians(1.0) / BAND


class Resting(NamedTuple):
    """How pitch controls stand at rest, rad, trailing edge down, as it counts; speed it trims at, m/s, None nowhere."""

    control: float
    speed: float | None


def resting(
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    surfaces: tuple[Surface, ...],
    throws: Throws,
    told: Told,
) -> Outcome[Resting | None]:
    """Let go of the sticks: where it trims, and what balance would trim it in cruise."""
    ready = model is not None and stable is not None and balanced is not None and speed is not None
    if not ready or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first")
                                   for key in (*_KEYS, *_ARMS)))  # fmt: skip
    assert model is not None and stable is not None and balanced is not None and speed is not None
    rest = at_rest(surfaces)
    area, shift, height = model.scale.area, balanced.shift, balanced.height
    load = mass.state.mass * GRAVITY / (0.5 * here.density * area)
    c_l = lift_at_rest(model, speed.cl_max, rest, balanced.cg_fraction, shift, height)
    flown = None if c_l is None else math.sqrt(load / c_l)
    control = Put(rest, "pitch control at rest, trailing edge down, as it counts", "angle", _SET)
    body = Put(shift, "forward shift by body and propeller", "ratio", 0.4 * abs(shift))
    if flown is None:
        first = absent(_KEYS[0], "it trims at no speed between its stall and a dive")
    else:

        def trimmed(cg: float, e: float, m: float, d: float, S: float, body: float) -> float:
            found = lift_at_rest(model, speed.cl_max, e, cg, body, height)
            return math.nan if found is None else math.sqrt(2 * m * GRAVITY / (d * S * found))

        first = derive(
            _KEYS[0], "√(2·{m}·g/({d}·{S}·C_L)), C_L without a moment about {cg} at {e}, body shift {body}", trimmed,
            {"cg": put(told["balance.cg_fraction"], "balance point"), "e": control,
             "m": put(told["mass.auw"], "all-up weight"), "d": Put(here.density, "air density", "density"),
             "S": Put(area, "wing area", "area"), "body": body},
            source=_SOURCE, note="sticks let go, throttle of level flight",
        )  # fmt: skip
    cruise = load / speed.cruise**2
    second = derive(
        _KEYS[1], "the balance without a moment at {C_L}, {e}, body shift {body}",
        lambda C_L, e, body: balance_for(model, C_L, e, body, height),
        {"C_L": Put(cruise, "lift coefficient in cruise", "ratio", 0.05 * cruise), "e": control, "body": body},
        source=_SOURCE, note="with the controls as they are set at rest",
    )  # fmt: skip
    return Outcome(Resting(rest, flown), (first, second, *_arms(model, balanced, throws, speed)))


def at_rest(surfaces: tuple[Surface, ...]) -> float:
    """Return how the pitch controls stand at rest, rad, trailing edge down, as it counts: the mean of them.

    Parameters
    ----------
    surfaces : tuple of Surface

    Returns
    -------
    float
    """
    found = [control.neutral for surface in surfaces for control in surface.controls if control.kind in PITCH_CONTROLS]
    return effective_deflection(math.fsum(found) / len(found)) if found else 0.0


def _arms(
    model: AirframeLattice, balanced: Balance, throws: Throws, speed: Speeds
) -> tuple[Figure, Figure]:  # fmt: skip
    pitch = model.pitch_control
    if pitch is None or abs(pitch.lift) < 1e-6 or throws.pitch_up <= 0:
        return absent(_ARMS[0], "there is no pitch control"), absent(_ARMS[1], "there is no pitch control")
    about = pitch.pitch + (balanced.cg_fraction - 0.25) * pitch.lift
    arm = derive(
        _ARMS[0], "0.25 − {C_m}/{C_L} − {cg}", lambda C_m, C_L, cg: 0.25 - C_m / C_L - cg,
        {"C_m": Put(pitch.pitch, "pitch of the control about the quarter chord", "per_radian", 0.1 * abs(pitch.pitch)),
         "C_L": Put(pitch.lift, "its lift", "per_radian", 0.05 * abs(pitch.lift)),
         "cg": Put(balanced.cg_fraction, "balance point", "fraction")},
        source=_SOURCE, note="how far behind the balance point its lift acts, in mean chords",
    )  # fmt: skip
    full = effective_deflection(throws.pitch_up)
    alike = derive(
        _ARMS[1], "{r}·{V_s}·√({C_t}·{d_t}/({C_m}·{d}))",
        lambda r, V_s, C_t, d_t, C_m, d: r * V_s * math.sqrt(C_t * d_t / (C_m * d)),
        {"r": Put(_APPROACH, "approach over stall", "ratio"), "V_s": Put(speed.stall, "stall speed", "speed"),
         "C_t": Put(_TAILED, "elevator power of a usual tailed plane", "per_radian", 0.25 / BAND * _TAILED),
         "d_t": Put(_THROW, "its throw", "angle"),
         "C_m": Put(abs(about), "pitch of this control about the balance point", "per_radian", 0.15 * abs(about)),
         "d": Put(full, "its full throw, as it counts", "angle")},
        source=_SOURCE, note="the speed at which its full pull turns it as a tailed plane's does on its approach",
    )  # fmt: skip
    return arm, alike
