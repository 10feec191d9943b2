"""A design's first throw: how it is let go, trimmed for what, and flown beside what could be wrong with it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.design.throwing import ThrowKind
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.flap import effective_deflection
from ridgeline.engine.flight.air_forces import pulled
from ridgeline.engine.flight.craft import Aircraft, Held, Number, Pull
from ridgeline.engine.flight.launch import (
    CALM,
    DELAY,
    OUTCOMES,
    PER_BANK,
    Flown,
    Outcome,
    Throw,
    Weather,
    flown,
    hands_off,
)
from ridgeline.engine.flight.launch import Pilot as Human
from ridgeline.engine.flight.modelled import aircraft_of, pull_of
from ridgeline.engine.flight.six_degrees import RATES, RUNS, VELOCITY, Path, Pilot, Tow, fly, rates_of
from ridgeline.engine.flight.slips import Columns, Slips, columns_of, slipped
from ridgeline.engine.flight.towing import bungee
from ridgeline.engine.flight.trimmed import Steady, steady
from ridgeline.engine.report import Report
from ridgeline.engine.sizing.constraints import throw_speed
from ridgeline.engine.structure.cases import swing_speed

Array = NDArray[np.float64]
#: Elevator is set for this over the stall speed (second part of the handbook §18).
TRIM_SPEED = 1.3
#: Throttle of a first throw, where it climbs at least so steeply at that speed, rad; full otherwise (chosen).
PART, CLIMBS = 0.65, math.radians(4.0)
#: Off its wheels at this over the stall, the balance point so high, m (chosen).
ROTATES, _WHEELS_HIGH = 1.2, 0.15
#: A pilot climbs away no steeper than this, rad (chosen).
_STEEPEST, _TOWED_UP = math.radians(15.0), math.radians(25.0)
#: A swing lets go this steeply, rad; its hand is so far outside the tip, m (chosen).
_SWUNG_UP, _ARM = math.radians(30.0), 0.6


class Lowered(NamedTuple):
    """What flaps do when they are down: effective angle rad, lift limit over that without, drag coefficient."""

    angle: float = 0.0
    limit: float = 0.0
    drag: float = 0.0


@dataclass(frozen=True)
class Launching:
    """All that a throw is flown with: the aircraft as reckoned, how it is let go, and what is held."""

    kind: ThrowKind
    craft: Aircraft
    pull: Pull | None
    columns: Columns
    throw: Throw
    held: Held
    stall: float
    density: float
    seconds: float
    wind: float
    gusts: float
    rising: float
    falls: float
    trim: Steady
    flaps: Lowered
    lowered: bool
    human: Human
    held_by: bool
    tow: Tow | None

    def ground(self, along: Array) -> Array:
        """Height of the ground under places along the launch, m."""
        return -math.tan(self.falls) * np.maximum(along, 0.0)


class Thrown(NamedTuple):
    """What became of throws: the path, what it tells, what was held, and the outcome of each, (n,)."""

    path: Path
    told: Flown
    outcome: tuple[Outcome, ...]


def launch_of(design: Design, report: Report) -> Launching | None:
    """Return how a design is thrown, as it is planned; None where it cannot be flown, or not trimmed.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    Launching or None
    """
    found = report.results
    if found.motions is None or found.speeds is None or found.lattice is None:
        return None
    plan, craft, pull = design.first_throw, aircraft_of(report), pull_of(design, report)
    stall, density = found.speeds.stall, found.air.density
    trim = _trim(craft, pull, TRIM_SPEED * stall, density)
    if trim is None:
        return None
    kind: ThrowKind = plan.kind or _usual(design)
    throttle = 0.0
    if pull is not None and kind != "tow":
        usual = 1.0 if kind == "wheels" else _throttle(craft, pull, trim)
        throttle = usual if plan.throttle is None else plan.throttle
    pitch = float(trim.pitch[0]) if plan.trim is None else -plan.trim
    held = _level(craft, pull, trim, throttle, density, pitch)
    swung = design.loads.swing_speed or swing_speed(craft.span)
    speed = plan.speed or {
        "hand": throw_speed(craft.mass), "swing": swung, "tow": 0.8 * stall, "wheels": ROTATES * stall,
    }[kind]  # fmt: skip
    up = max(plan.angle, _SWUNG_UP) if kind == "swing" else plan.angle
    turning = speed / (craft.span / 2 + _ARM) if kind == "swing" else 0.0
    height = plan.height if kind != "wheels" else _WHEELS_HIGH
    throw = Throw(speed, up, float(trim.alpha[0]), plan.bank, plan.yaw, height, throttle, 0.0, turning)
    tow = None
    if kind == "tow":
        # A hook fifteen degrees ahead of the balance point, as seen from there.
        ahead = plan.hook if plan.hook is not None else plan.hook_below * math.tan(math.radians(15.0))
        tow = bungee(
            craft.mass * GRAVITY * plan.pull, plan.line or design.brief.ground_roll, (ahead, 0.0, plan.hook_below)
        )
    nose = _TOWED_UP if kind == "tow" else _nose(craft, pull, trim, throttle, density)
    human = _human(report, craft, held, nose, TRIM_SPEED * stall)
    return Launching(
        kind, craft, pull, columns_of(found.lattice, design.surfaces), throw, held, stall, density, plan.seconds,
        plan.wind, plan.wind if plan.gusty else 0.0, plan.rising, plan.falls, trim, _flaps(report), plan.flaps, human,
        kind in ("wheels", "tow") if plan.pilot is None else plan.pilot, tow,
    )  # fmt: skip


def _nose(craft: Aircraft, pull: Pull | None, trim: Steady, throttle: float, density: float) -> float:
    """Return the nose up of the steady climb, or glide, that a pilot goes for, rad: no steeper than is wise."""
    flight = steady(craft, pull, speed=trim.speed, density=density, throttle=throttle)
    if flight is None:
        return float(trim.alpha[0] + trim.path[0])
    return float(flight.alpha[0] + min(float(flight.path[0]), _STEEPEST))


def _human(report: Report, craft: Aircraft, held: Held, nose: float, speed: float) -> Human:
    """Return who would hold it, with the throws it has."""
    handled = report.results.handling
    if handled is None:
        return Human(held, 0.0, 0.0, wished=nose)
    throws = handled.throws
    rudder = 0.0 if craft.roll_aileron else effective_deflection(throws.yaw)
    aileron = effective_deflection(throws.roll)
    # Who flies a lively one gives less stick for the same bank.
    quick = craft.roll_aileron * aileron / max(-craft.roll_roll, 1e-6) * 2 * speed / craft.span
    gain = min(PER_BANK, CALM / (DELAY * max(quick, 1e-6)))
    return Human(held, aileron, effective_deflection(throws.pitch_up), wished=nose, rudder=rudder, per_bank=gain)


def _usual(design: Design) -> ThrowKind:
    if design.loads.swung:
        return "swing"
    return {"hand": "hand", "wheels": "wheels", "bungee": "tow"}[design.brief.launch]  # type: ignore[return-value]


def _trim(craft: Aircraft, pull: Pull | None, speed: float, density: float) -> Steady | None:
    """Level flight where the motor holds it, else the glide."""
    level = None if pull is None else steady(craft, pull, speed=speed, density=density, path=0.0)
    if level is not None and float(level.throttle[0]) <= 1.0:
        return level
    return steady(craft, pull, speed=speed, density=density, throttle=0.0)


def _throttle(craft: Aircraft, pull: Pull, trim: Steady) -> float:
    thrust, _torque = pulled(pull, np.array([PART]), trim.speed)
    level, _torque = pulled(pull, trim.throttle, trim.speed)
    drag = float(level[0]) if float(trim.throttle[0]) > 0 else -craft.mass * GRAVITY * math.sin(float(trim.path[0]))
    climbs = (float(thrust[0]) - drag) / (craft.mass * GRAVITY)
    return PART if climbs >= math.sin(CLIMBS) else 1.0


def _level(craft: Aircraft, pull: Pull | None, trim: Steady, throttle: float, density: float, pitch: float) -> Held:
    """Return what holds wings and nose against torque and warp at a throttle: ailerons, or the rudder without them."""
    state = trim.state()
    state[RUNS] = throttle
    by = "aileron" if craft.roll_aileron else "rudder"
    base = Held(pitch=pitch, throttle=throttle)
    if not craft.roll_aileron and not craft.yaw_rudder:
        return base

    def turns(held: Held, slip: float) -> Array:
        here = state.copy()
        here[VELOCITY][1] += slip
        change = rates_of(craft, pull, here, held, (0.0, 0.0, 0.0), density)
        found: Array = change[RATES][[0, 2], 0]
        return found

    start, small = turns(base, 0.0), 1e-4
    columns = np.column_stack([
        (turns(base._replace(**{by: small}), 0.0) - start) / small, (turns(base, small) - start) / small
    ])  # fmt: skip
    if abs(float(np.linalg.det(columns))) < 1e-6:
        return base
    amount = float(np.linalg.solve(columns, -start)[0])
    return base._replace(**{by: float(np.clip(amount, -0.35, 0.35))})


def _flaps(report: Report) -> Lowered:
    flaps, speeds, handled = report.results.flaps, report.results.speeds, report.results.handling
    if flaps is None or speeds is None or handled is None:
        return Lowered()
    chord = report.figures["flap.drag"].value
    return Lowered(effective_deflection(flaps.setting), flaps.cl_max / speeds.cl_max - 1, chord or 0.0)


def with_flaps(craft: Aircraft, columns: Columns, flaps: Lowered, down: Number, speed: float) -> Aircraft:
    """Return an aircraft with its flaps down where they are.

    Parameters
    ----------
    craft : Aircraft
    columns : Columns
    flaps : Lowered
    down : float or ndarray
        1 where they are down.
    speed : float
        Airspeed at which their drag is told as a share of what carries nothing, m/s.

    Returns
    -------
    Aircraft
    """
    fixed = float(np.interp(speed, craft.drag.speed, craft.drag.area)) / craft.area
    return replace(
        craft,
        lift_zero=craft.lift_zero + down * flaps.angle * columns.flap.lift,
        pitch_zero=craft.pitch_zero + down * flaps.angle * columns.flap.pitch,
        lift_most=craft.lift_most * (1 + down * flaps.limit),
        drag=replace(craft.drag, factor=craft.drag.factor + down * flaps.drag / fixed),
    )


def throw_all(
    launch: Launching, slips: Slips | None = None, *, builds: int = 1, wind: Number | None = None, throttle: Any = 1.0,
    faster: Number = 0.0, steeper: Number = 0.0, banked: Number = 0.0, trim: Number = 0.0, untorqued: Any = 0.0,
    flaps: Any = None, piloted: Any = None, seed: int = 1, every: int = 4, stop: Callable[[float], bool] | None = None,
) -> Thrown:  # fmt: skip
    """Throw many builds at once.

    Parameters
    ----------
    launch : Launching
    slips : Slips, optional
        What each is off by.
    builds : int
    wind : float or ndarray, optional
        From ahead, m/s; as planned without.
    throttle : float or ndarray
        Times what is planned.
    faster, steeper, banked, trim : float or ndarray
        Added to speed m/s, path, bank and pitch control rad.
    untorqued : float or ndarray
        Share of the trim against torque that is left out.
    flaps : ndarray, optional
        1 where flaps are down; as planned without.
    piloted : ndarray, optional
        1 where somebody holds the sticks; as planned without.
    seed : int
        Of the gusts.
    every : int
        Of so many steps one is kept.
    stop : callable, optional
        Asked with the share flown; True leaves off.

    Returns
    -------
    Thrown
    """
    slips = slips or Slips()
    craft, pull = slipped(launch.craft, launch.pull, launch.columns, slips)
    down = np.asarray(float(launch.lowered) if flaps is None else flaps, float)
    if down.any():
        craft = with_flaps(craft, launch.columns, launch.flaps, down, TRIM_SPEED * launch.stall)
    held = launch.held
    runs = np.clip(np.asarray(held.throttle) * np.asarray(throttle), 0.0, 1.0)
    kept = 1 - np.asarray(untorqued, float)
    held = Held(held.pitch + trim, held.aileron * kept, held.rudder * kept, runs)
    throw = launch.throw._replace(
        speed=launch.throw.speed + np.asarray(faster), path=launch.throw.path + np.asarray(steeper),
        bank=launch.throw.bank + np.asarray(banked), runs=np.minimum(launch.throw.runs, runs),
    )  # fmt: skip
    blowing = launch.wind if wind is None else wind
    gusts = np.abs(blowing) if launch.gusts else 0.0
    air = Weather(
        blowing, gusts, launch.rising, seed=seed, builds=builds, speed=float(launch.trim.speed[0]),
        lasts=launch.seconds,
    )  # fmt: skip
    pilot: Pilot = hands_off(held)
    sticks = np.asarray(float(launch.held_by) if piloted is None else piloted, float)
    if sticks.any():
        who = launch.human
        pilot = replace(
            who, trim=held, aileron=who.aileron * sticks, pitch=who.pitch * sticks, rudder=who.rudder * sticks, _seen=[]
        )
    path = fly(
        craft, pull, throw.state(builds), pilot, seconds=launch.seconds, density=launch.density, air=air,
        tow=launch.tow, ground=launch.ground, every=every, stop=stop,
    )  # fmt: skip
    told = flown(craft, path, air)
    return Thrown(path, told, tuple(OUTCOMES[int(one)] for one in told.outcome))


def sticks_used(launch: Launching, thrown: Thrown) -> Array:
    """Return the pitch control that was held over a throw's path, trailing edge down, rad.

    Parameters
    ----------
    launch : Launching
    thrown : Thrown
        Thrown as planned, sticks and all.

    Returns
    -------
    ndarray, shape (k, n)
        What a pilot asks for as he sees it; the trim where nobody holds it.
    """
    times, states = thrown.path.time, thrown.path.state
    many = states.shape[2]
    if not launch.held_by:
        return np.full((len(times), many), float(np.asarray(launch.held.pitch)))
    who = replace(launch.human, trim=launch.held, _seen=[])
    return np.stack([
        np.broadcast_to(np.asarray(who(float(time), state).pitch, float), (many,))
        for time, state in zip(times, states, strict=True)
    ])  # fmt: skip
