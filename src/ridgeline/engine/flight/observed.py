"""What flights can tell of a design: unknowns with their errors, and all that is measured or seen as the model has it.

The model is that of the simulation: its aircraft as built with slips, trimmed and pulled.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.air_forces import drag_coefficient, pulled
from ridgeline.engine.flight.builds import sigmas_of
from ridgeline.engine.flight.craft import Aircraft, Pull
from ridgeline.engine.flight.slips import Slips, slipped
from ridgeline.engine.flight.throwing import Launching, launch_of, with_flaps
from ridgeline.engine.flight.trimmed import steady
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import open_circuit_voltage
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
Unknown = Literal[
    "balance", "mass", "wing", "tail", "washout", "warp", "thrust", "turns", "down", "side", "drag", "resistance",
    "capacity", "throws", "play", "lift_most", "neutral", "supply", "cooling", "imbalance",
]  # fmt: skip
UNKNOWNS: tuple[Unknown, ...] = (
    "balance", "mass", "wing", "tail", "washout", "warp", "thrust", "turns", "down", "side", "drag", "resistance",
    "capacity", "throws", "play", "lift_most", "neutral", "supply", "cooling", "imbalance",
)  # fmt: skip
#: One sigma of what nobody writes down (90 % bands: a tip's washout a degree, a shaft's angle three quarters, what a
#: pack holds 8 %, its resistance 25 %, throws 12 %, a motor's turns 4 %, a degree of play; the last three unitless).
_TYPICAL: dict[Unknown, float] = {
    "washout": math.radians(1.0) / BAND,
    "down": math.radians(0.75) / BAND,
    "side": math.radians(0.75) / BAND,
    "capacity": 0.08 / BAND,
    "resistance": 0.25 / BAND,
    "throws": 0.12 / BAND,
    "turns": 0.04 / BAND,
    "play": math.radians(1.0) / BAND,
    "supply": 1.0,
    "cooling": 1.0,
    "imbalance": 1.0,
}
#: Halves of a one-sigma error either way make a slope.
_HALF = 0.5
#: Full rolls and slow flight are told at cruise, and at this over the stall.
_SLOW = 1.15


@dataclass(frozen=True)
class Modelled:
    """What the model says of a design: values of each observable as reckoned, and its slopes by the unknowns."""

    names: tuple[Unknown, ...]
    sigmas: Array
    values: Mapping[str, float]
    slopes: Mapping[str, Array]
    launch: Launching

    @property
    def prior(self) -> Array:
        """Covariance of the unknowns before any flight."""
        return np.diag(self.sigmas**2)


class _Electric(NamedTuple):
    """How full thrust and turns go with the pack's resistance, and a rested cell with the pack's capacity."""

    thrust: float
    turns: float
    rested: float


def unknown_sigmas(design: Design, report: Report, launch: Launching) -> Array:
    """Return one sigma of every unknown.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching

    Returns
    -------
    ndarray, shape (20,)
        In the order and units of `UNKNOWNS` and `Slips`; no unit for the last three.
    """
    drawn = sigmas_of(design, report, launch)
    return np.array([_TYPICAL[name] if name in _TYPICAL else drawn[name] for name in UNKNOWNS])


def modelled(design: Design, report: Report) -> Modelled | None:
    """Return what the model says flights should show; None where the design cannot be flown.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    Modelled or None
    """
    launch = launch_of(design, report)
    if launch is None or report.results.speeds is None:
        return None
    sigmas = unknown_sigmas(design, report, launch)
    n = len(UNKNOWNS)
    steps = _HALF * sigmas
    # As reckoned, then each unknown up and down by half of its error.
    table = np.concatenate([np.zeros((1, n)), np.diag(steps), np.diag(-steps)])
    found = observables(design, report, launch, dict(zip(UNKNOWNS, table.T, strict=True)))
    values = {name: float(row[0]) for name, row in found.items()}
    slopes = {
        name: np.where(steps > 0, (row[1 : n + 1] - row[n + 1 :]) / (2 * np.maximum(steps, 1e-300)), 0.0)
        for name, row in found.items()
    }
    return Modelled(UNKNOWNS, sigmas, values, slopes, launch)


def observables(design: Design, report: Report, launch: Launching, off: Mapping[Unknown, Array]) -> dict[str, Array]:
    """Return every observable of builds that are off by something.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching
    off : mapping
        Unknowns by name, each (n,); what is left out is nothing.

    Returns
    -------
    dict
        By name, each (n,): angles rad, trailing edge up positive for pitch, to starboard for roll and yaw; ratios and
        times as logarithms; speeds m/s; what a design does not have is left out.

    Source
    ------
    docs/theory.md §18.
    """
    n = len(next(iter(off.values())))
    zero = np.zeros(n)

    def by(name: Unknown) -> Array:
        return np.asarray(off.get(name, zero), float)

    electric = _electric(design, report)
    # A motor that turns less pulls by the square of that, and a worn pack lets it turn less.
    turned = by("turns") + electric.turns * by("resistance")
    thrust = by("thrust") + 2 * by("turns") + electric.thrust * by("resistance")
    known = {name: by(name) for name in Slips._fields if name in UNKNOWNS}
    craft, pull = slipped(launch.craft, launch.pull, launch.columns, Slips(**{**known, "thrust": thrust}))
    craft = _sized(craft, n)
    found = {
        "mass": np.asarray(craft.mass, float) + zero,
        "balance": by("balance"),
        "resistance": by("resistance"),
        "throws": by("throws"),
        "thrust": by("thrust"),
        "play": by("play"),
        "supply": by("supply") + by("resistance") / max(_TYPICAL["resistance"], 1e-9),
        "cooling": by("cooling") + 3 * by("turns") / max(_TYPICAL["turns"], 1e-9) * _HALF,
        "imbalance": by("imbalance"),
        "rested": electric.rested * by("capacity"),
        "warp": by("warp"),
        "washout": by("washout"),
        # On the bench the tail is told against the wing.
        "tail_level": by("tail") - by("wing"),
        **_trims(launch, craft, pull, report),
        **_sideways(launch, craft, pull, report, by("throws")),
    }
    margin = _margin(craft)
    found["margin"] = margin
    found["settles"] = margin * np.exp(-by("throws")) - 0.02 * by("play") / math.radians(1.0)
    found["weathercock"] = craft.yaw_beta / launch.craft.yaw_beta - 0.3 * by("play") / math.radians(1.0)
    handled = report.results.handling
    if handled is not None and "slow_trim" in found:
        found["flare"] = handled.throws.pitch_up * np.exp(by("throws")) - found["slow_trim"]
    if pull is not None:
        found |= _powered(launch, craft, pull, report, turned)
        if "throttle" in found:
            level = np.log(np.maximum(_current(launch, pull, found["throttle"], report), 1e-6))
            # More turns of the same blades take more by the cube.
            found["mean_current"] = level + 3 * by("turns") - 2 * by("turns")
            found["endurance"] = by("capacity") - found["mean_current"]
    return found


def _sized(craft: Aircraft, n: int) -> Aircraft:
    """Make sure that the aircraft stands for so many builds."""
    return replace(craft, mass=np.broadcast_to(np.asarray(craft.mass, float), (n,)).copy())


def _margin(craft: Aircraft) -> Array:
    """Static margin about the balance point, of the mean chord."""
    margin: Array = np.asarray(-craft.pitch_alpha / craft.lift_alpha - craft.centre[0] / craft.chord, float)
    return margin


def _trims(launch: Launching, craft: Aircraft, pull: Pull | None, report: Report) -> dict[str, Array]:
    """Elevator trims, trailing edge up: cruise, slow, with full throttle and with flaps; and the glide."""
    speeds = report.results.speeds
    assert speeds is not None
    found: dict[str, Array] = {}
    density, cruise = launch.density, speeds.cruise
    level = steady(craft, pull, speed=cruise, density=density, path=None if pull is None else 0.0)
    if level is None:
        return found
    found["trim_pitch"] = -level.pitch
    if pull is not None:
        found["throttle"] = level.throttle
        full = steady(craft, pull, speed=cruise, density=density, throttle=1.0)
        if full is not None:
            found["trim_power"] = level.pitch - full.pitch
    slow = steady(craft, None, speed=_SLOW * speeds.stall, density=density)
    if slow is not None:
        found["slow_trim"] = -slow.pitch
    glide = report.value("glide.ratio_speed")
    if glide is not None:
        gliding = steady(craft, None, speed=glide, density=density)
        if gliding is not None:
            found["glide_ratio"] = -np.log(np.tan(np.maximum(-gliding.path, 1e-4)))
    if launch.flaps.angle:
        plain = steady(craft, None, speed=1.3 * speeds.stall, density=density)
        down = launch.flaps._replace(angle=launch.flaps.angle)
        low = steady(
            with_flaps(craft, launch.columns, down, 1.0, cruise), None, speed=1.3 * speeds.stall, density=density
        )
        if plain is not None and low is not None:
            found["trim_flap"] = plain.pitch - low.pitch
    return found


def _sideways(launch: Launching, craft: Aircraft, pull: Pull | None, report: Report, throws: Array) -> dict[str, Array]:
    """Aileron and rudder that hold wings and nose in cruise, what power changes, and the time of a roll."""
    speeds, handled = report.results.speeds, report.results.handling
    assert speeds is not None
    found: dict[str, Array] = {}
    v = speeds.cruise
    load = 0.5 * launch.density * v * v * craft.area
    lift = np.asarray(craft.mass, float) * GRAVITY / load

    def pushed(throttle: float) -> tuple[Array, Array]:
        """Roll and yaw coefficients of torque and side thrust."""
        if pull is None:
            return np.zeros_like(lift), np.zeros_like(lift)
        thrust, torque = pulled(pull, np.full_like(lift, throttle), np.full_like(lift, v))
        x, y, _z = pull.at
        ax, ay, _az = pull.along
        return -pull.sense * torque / (load * craft.span), thrust * (x * ay - y * ax) / (load * craft.span)

    def held(throttle: float) -> tuple[Array, Array]:
        """Aileron and slip with no rudder, where there are ailerons; else rudder and slip."""
        roll, yaw = pushed(throttle)
        roll, yaw = craft.roll_zero + roll, craft.yaw_zero + yaw
        by_roll, by_yaw = craft.roll_beta + craft.roll_beta_lift * lift, craft.yaw_beta
        a, b = craft.roll_aileron, craft.yaw_aileron_lift * lift
        if not np.any(a):
            a, b = craft.roll_rudder, craft.yaw_rudder
        det = a * by_yaw - b * by_roll
        det = np.where(np.abs(det) < 1e-9, 1e-9, det)
        return -(roll * by_yaw - yaw * by_roll) / det, -(a * yaw - b * roll) / det

    cruise = 0.0 if pull is None else 0.5
    hands = held(cruise)[0]
    found["trim_roll"] = hands
    if pull is not None:
        found["roll_power"] = held(1.0)[0] - hands
    if craft.yaw_rudder is not None and np.any(craft.yaw_rudder):
        _roll, yaw = pushed(cruise)
        found["trim_yaw"] = -(craft.yaw_zero + yaw) / craft.yaw_rudder
    rate = report.value("control.roll_rate")
    if handled is not None and rate is not None and rate > 0:
        # Turning full circle takes as much longer as the throws are short.
        found["roll_seconds"] = math.log(2 * math.pi / rate) - throws
    return found


def _powered(launch: Launching, craft: Aircraft, pull: Pull, report: Report, turned: Array) -> dict[str, Array]:
    """Top speed, and turns at full throttle."""
    found: dict[str, Array] = {}
    rpm, top = report.value("power.static_rpm"), report.value("speed.max")
    if rpm is not None:
        found["rpm"] = math.log(rpm) + turned
        found["hot"] = 3 * turned
    if top is not None:
        grid = np.linspace(0.6 * top, min(1.5 * top, float(pull.speed[-1])), 90)[:, None]
        weight = np.asarray(craft.mass, float) * GRAVITY
        load = 0.5 * launch.density * grid**2 * craft.area
        lift = weight / load
        alpha = (lift - craft.lift_zero) / craft.lift_alpha
        drag = load * drag_coefficient(craft, np.broadcast_to(grid, lift.shape), lift, alpha)
        whole = replace(pull, factor=1.0)
        thrust, _torque = pulled(whole, np.ones(len(grid)), grid[:, 0])
        spare = thrust[:, None] * np.broadcast_to(pull.factor, weight.shape) - drag
        found["top_speed"] = np.log([_crossing(grid[:, 0], row) for row in spare.T])
    return found


def _crossing(speed: Array, spare: Array) -> float:
    """Return where a falling row passes nothing, the last place of it; the nearer end where it never does."""
    under = np.flatnonzero((spare[:-1] > 0) & (spare[1:] <= 0))
    if not len(under):
        return float(speed[-1] if spare[-1] > 0 else speed[0])
    k = int(under[-1])
    return float(speed[k] + (speed[k + 1] - speed[k]) * spare[k] / (spare[k] - spare[k + 1]))


def _current(launch: Launching, pull: Pull, throttle: Array, report: Report) -> Array:
    """Pack current of level cruise at a throttle, A: by the chain, along the throttle."""
    full, speeds = report.results.pulling, report.results.speeds
    assert full is not None and speeds is not None
    grid = np.linspace(0.1, 1.0, 40)
    drawn = np.asarray(solve(full.link, grid, speeds.cruise, launch.density).pack_current)
    found: Array = np.interp(throttle, grid, drawn)
    return found


def _electric(design: Design, report: Report) -> _Electric:
    train, speeds = design.power, report.results.speeds
    if train is None or report.results.pulling is None or speeds is None:
        return _Electric(0.0, 0.0, 0.0)
    link = chain(train, 1.0, design.brief.temperature_c)
    ends = [replace(link, pack_resistance=link.pack_resistance * by) for by in (0.9, 1.1)]
    low, high = (solve(one, 1.0, 0.5 * speeds.stall, report.results.air.density) for one in ends)
    wide = math.log(1.1 / 0.9)
    thrust = math.log(max(float(high.thrust), 1e-9) / max(float(low.thrust), 1e-9)) / wide
    turns = math.log(max(float(high.omega), 1e-9) / max(float(low.omega), 1e-9)) / wide
    used = next((f.put_back_ah for f in reversed(design.flights) if f.put_back_ah and f.rested), None)
    share = 0.6 if used is None else min(used / train.capacity_ah, 0.95)
    # A pack that holds more has more left after the same use.
    slope = (
        open_circuit_voltage(train.pack, 1 - share + 0.02) - open_circuit_voltage(train.pack, 1 - share - 0.02)
    ) / 0.04
    return _Electric(thrust, turns, slope * share)
