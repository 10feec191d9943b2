"""The stage of steering by thrust: what the rudder stick does on the throttles, and what a step of throttle climbs."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import discs_of, is_upright
from ridgeline.design.power import PowerTrain
from ridgeline.design.radio import Radio
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.sense import SideName, channel_of
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.full_throttle import THROTTLES, FullThrottle
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds

_STEP = "control.throttle_step"
_BY_THRUST = (
    "control.thrust_yaw", "control.thrust_slip", "control.thrust_slip_bare", "control.thrust_roll",
    "control.thrust_radius",
)  # fmt: skip
_SOURCE = "docs/theory.md §14"
#: One sigma of thrust off level flight, as a share; of what an airframe without fins keeps of its weathercock, 1/rad.
_THRUST_SIGMA, _BARE_SIGMA = 0.15 / BAND, 0.01
#: A weathercock weaker than this holds nothing, 1/rad; a side force weaker than this turns nothing, 1/rad.
_WEAK, _NO_SIDE = 0.004, 1e-3
#: How far apart motors are tried, and how much is mixed into them, of what they are.
APART, MIXES = (0.5, 0.75, 1.0, 1.5, 2.0), (0.5, 0.75, 1.0, 1.25, 1.5)


class ByThrust(NamedTuple):
    """Flat turns by thrust over how far apart the motors stand and over how much is mixed into them.

    ``apart`` m between the outermost two, (n,); ``mixes`` shares of the full throttle at a full stick, (k,); ``radius``
    and ``bare`` m, (n, k), with what stands upright and without, each None where nothing turns it or holds its nose.
    """

    apart: NDArray[np.float64]
    mixes: NDArray[np.float64]
    radius: NDArray[np.float64] | None
    bare: NDArray[np.float64] | None


def moments(
    amounts: Sequence[tuple[float, float]], level: float, each: ArrayLike, apart: ArrayLike, mixes: ArrayLike
) -> NDArray[np.float64]:
    """Return the yawing moment of motors that a full rudder stick drives apart.

    Parameters
    ----------
    amounts : sequence of tuple
        Of each motor: m to starboard, share of the full throttle a full rudder stick adds there.
    level : float
        Throttle of level flight, which they are driven apart from; past nothing and all they do not go.
    each : array_like, (t,)
        Thrust of one motor over `THROTTLES`, N.
    apart, mixes : array_like, (n,) and (k,)
        Factors on places and shares.

    Returns
    -------
    numpy.ndarray, (n, k)
        N m, nose to starboard positive.
    """
    wide, mixed = np.asarray(apart, float), np.asarray(mixes, float)
    places, shares = (np.array([pair[k] for pair in amounts]) for k in (0, 1))
    pulls = np.interp(np.clip(level + mixed[:, None] * shares, 0.0, 1.0), THROTTLES, np.asarray(each, float))
    found: NDArray[np.float64] = -wide[:, None] * (pulls @ places)
    return found


def steering(
    power: PowerTrain | None,
    full: FullThrottle | None,
    flown: FlightFigures | None,
    model: AirframeLattice | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
    radio: Radio | None,
    surfaces: tuple[Surface, ...],
    *,
    told: Told,
) -> Outcome[ByThrust | None]:
    """Give what a step of throttle climbs about level flight, and what the rudder stick does on the throttles."""
    ready = full is not None and flown is not None and model is not None and speed is not None
    if power is None or not ready or mass.state is None:
        why = NO_POWER if power is None else "it needs wing, mass and thrust first"
        return Outcome(None, tuple(absent(key, why) for key in (_STEP, *_BY_THRUST)))
    assert full is not None and flown is not None and model is not None and speed is not None
    level = flown.cruise_throttle
    if level is None:
        why = "it does not fly level at cruise speed"
        return Outcome(None, tuple(absent(key, why) for key in (_STEP, *_BY_THRUST)))
    thrust = full.over_throttle(speed.cruise)[0]
    ends = np.clip([level - 0.05, level + 0.05], 0.0, 1.0)
    slope = float(np.diff(np.interp(ends, THROTTLES, thrust))[0] / np.diff(ends)[0])
    step = derive(
        _STEP, "{T_t}·0.01·{V}/({m}·g)", lambda T_t, V, m: 0.01 * T_t * V / (m * GRAVITY),
        {"T_t": Put(slope, "thrust by throttle, about level flight", "force", _THRUST_SIGMA * abs(slope)),
         "V": put(told["speed.cruise"], "cruise speed"), "m": put(told["mass.auw"], "all-up weight")},
        source=_SOURCE, note=f"level flight takes {100 * level:.0f} % of the stick",
    )  # fmt: skip
    amounts = mixed_into_throttles(power, radio)
    if not amounts:
        why = "no throttle follows the rudder stick"
        return Outcome(None, (step, *(absent(key, why) for key in _BY_THRUST)))
    each = thrust / power.motors
    # Nose to starboard: more from the motors to port.
    moment = float(moments(amounts, level, each, [1.0], [1.0])[0, 0])
    bare = without_fins(model, surfaces)
    load = 0.5 * here.density * speed.cruise**2 * model.scale.area
    held = told["stability.cn_beta"].value or 0.0
    kept = held + bare.yaw - model.found.beta.yaw
    over = moments(amounts, level, each, APART, MIXES)
    turned = [
        flat_turns(over, mass.state.mass, load, speed.cruise, model.scale.span, weathercock, abs(side))
        for weathercock, side in (
            (held, model.found.beta.side),
            (kept, bare.side),
        )
    ]
    places, shares = [y for y, _share in amounts], [abs(share) for _y, share in amounts]
    found = ByThrust(np.array(APART) * (max(places) - min(places)), np.array(MIXES) * max(shares), *turned)
    return Outcome(found, (step, *_turned(moment, model, speed, here, kept, told)))


def flat_turns(
    moment: NDArray[np.float64],
    mass: float,
    load: float,
    speed: float,
    span: float,
    weathercock: float,
    side: float,
) -> NDArray[np.float64] | None:
    """Return the radii of flat turns that yawing moments hold against the weathercock.

    Parameters
    ----------
    moment : numpy.ndarray
        N m, of any shape.
    mass, load, speed, span : float
        kg; dynamic pressure times area, N; m/s; m.
    weathercock, side : float
        Yaw and side force by sideslip, 1/rad, both positive.

    Returns
    -------
    numpy.ndarray or None
        m V²/(q S C_Y β), m, of the moments' shape; None where nothing holds the nose, turns it, or drives it.
    """
    if weathercock < _WEAK or side < _NO_SIDE or not np.abs(moment).min() > 0.0:
        return None
    slip = np.abs(moment) / (load * span * weathercock)
    found: NDArray[np.float64] = mass * speed**2 / (load * side * slip)
    return found


def mixed_into_throttles(power: PowerTrain, radio: Radio | None) -> list[tuple[float, float]]:
    """Return where each motor stands, m to starboard, and how much of the full throttle a full rudder stick adds there.

    Parameters
    ----------
    power : PowerTrain
    radio : Radio or None

    Returns
    -------
    list of tuple
        Nothing where no throttle follows the rudder stick.
    """
    found = []
    for mount in power.mounts:
        for k, (_x, y, _z) in enumerate(discs_of(mount, power)):
            side: SideName = "port" if k or y < 0 else "starboard"
            channel = None if radio is None else channel_of(radio, mount.id, side)
            yaw = 0.0 if channel is None else math.fsum(part.amount for part in channel.mix if part.stick == "yaw")
            found.append((y, yaw))
    return found if any(abs(share) > 1e-6 for _y, share in found) else []


def _turned(
    moment: float, model: AirframeLattice, speed: Speeds, here: Air, kept: float, told: Told
) -> tuple[Figure, ...]:
    scale = model.scale
    load = 0.5 * here.density * speed.cruise**2 * scale.area * scale.span
    yaw = derive(
        _BY_THRUST[0], "{M}", lambda M: M,
        {"M": Put(moment, "thrust of each motor times its arm, full rudder stick", "torque",
                  _THRUST_SIGMA * abs(moment))},
        source=_SOURCE, note="nose to starboard, about level flight in cruise",
    )  # fmt: skip
    weathercock = told["stability.cn_beta"]
    terms = {"M": put(yaw), "q_S_b": Put(load, "dynamic pressure × area × span, cruise", "torque"),
             "C_nb": put(weathercock, "weathercock")}  # fmt: skip
    if (weathercock.value or 0.0) < _WEAK:
        why = "the nose does not follow the wind"
        return (yaw, *(absent(key, why) for key in _BY_THRUST[1:]))
    slip = derive(_BY_THRUST[1], "{M}/({q_S_b}·{C_nb})", lambda M, q_S_b, C_nb: M / (q_S_b * C_nb), terms,
                  source=_SOURCE)  # fmt: skip
    if kept < _WEAK:
        plain = absent(_BY_THRUST[2], "without a fin the nose does not follow the wind: it spins round")
    else:
        plain = derive(
            _BY_THRUST[2], "{M}/({q_S_b}·{C_nb})", lambda M, q_S_b, C_nb: M / (q_S_b * C_nb),
            {**terms, "C_nb": Put(kept, "weathercock without what stands upright", "per_radian", _BARE_SIGMA)},
            source=_SOURCE,
        )  # fmt: skip
    roll = derive(
        _BY_THRUST[3], "{beta}·−{C_lb}/−{C_lp}·2·{V}/{b}",
        lambda beta, C_lb, C_lp, V, b: beta * -C_lb / -C_lp * 2 * V / b,
        {"beta": put(slip), "C_lb": put(told["stability.cl_beta"], "dihedral effect"),
         "C_lp": put(told["stability.cl_p"], "roll damping"), "V": put(told["speed.cruise"], "cruise speed"),
         "b": Put(scale.span, "span", "length")},
        source=_SOURCE,
    )  # fmt: skip
    return yaw, slip, plain, roll, _flat(slip, model, here, told)


def _flat(slip: Figure, model: AirframeLattice, here: Air, told: Told) -> Figure:
    """Give the radius of the turn that side force alone makes, before it banks."""
    side = abs(model.found.beta.side)
    if side < _NO_SIDE or not slip.value:
        return absent(_BY_THRUST[4], "nothing upright turns it before it banks")
    return derive(
        _BY_THRUST[4], "2·{m}/({d}·{S}·{C_Yb}·{beta})",
        lambda m, d, S, C_Yb, beta: 2 * m / (d * S * C_Yb * abs(beta)),
        {"m": put(told["mass.auw"], "all-up weight"), "d": Put(here.density, "air density", "density"),
         "S": Put(model.scale.area, "wing area", "area"),
         "C_Yb": Put(side, "side force by sideslip, of the surfaces", "per_radian", 0.25 / BAND * side),
         "beta": put(slip)},
        source=_SOURCE, note="the body's own side force would turn it a little tighter",
    )  # fmt: skip


def without_fins(model: AirframeLattice, surfaces: tuple[Surface, ...]) -> lifting.Lateral:
    """Return what a sideslip of one radian does to the surfaces but those that stand upright.

    Parameters
    ----------
    model : AirframeLattice
    surfaces : tuple of Surface
        Of the model.

    Returns
    -------
    Lateral
        About the model's centre; what fins do to the flow at the others is kept.
    """
    lattice = model.solver.lattice
    upright = np.array([is_upright(surfaces[k]) for k in model.owner])
    kept = np.where(upright[lattice.sheet], 0.0, model.found.beta_circulation)
    return lifting.lateral(lattice, kept, model.scale)
