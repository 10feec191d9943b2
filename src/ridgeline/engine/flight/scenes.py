"""Other moments flown on paper: a landing approach, one motor of two stopped, and a turn down the wind."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design
from ridgeline.engine.flight.craft import Held, Number
from ridgeline.engine.flight.ghosts import GhostKey, ghosts_of, with_ghosts
from ridgeline.engine.flight.launch import OUTCOMES, Weather, flown, hands_off
from ridgeline.engine.flight.modelled import pull_of
from ridgeline.engine.flight.six_degrees import TURNED, VELOCITY, fly, still_air, to_body
from ridgeline.engine.flight.throwing import TRIM_SPEED, Launching, Thrown, with_flaps
from ridgeline.engine.flight.trimmed import steady
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
Scene = Literal["throw", "approach", "engine_out", "downwind"]
#: Ways a moment is flown beside the first: ghosts of a throw, and those of the other moments.
SceneKey = GhostKey | Literal["lowered", "held", "calm", "in_gusts"]
#: What each is, in words.
GHOST_NAMES: dict[SceneKey, str] = {
    "aft": "balance 10 mm aft", "fore": "balance 10 mm forward", "tail_wind": "tail wind", "half": "half throttle",
    "torque": "torque untrimmed", "flaps": "flap switch wrong", "lowered": "flaps down",
    "held": "somebody at the sticks", "calm": "in calm air", "in_gusts": "in gusts",
}  # fmt: skip
#: An approach and a stopped motor begin so high, m, and a turn; how long each is flown at most, s (chosen).
APPROACH, CLIMBING, TURNING = 12.0, 10.0, 30.0
_APPROACH_SECONDS, _OUT_SECONDS, _TURN_SECONDS = 20.0, 6.0, 10.0
#: A turn is banked so far, rad, in this wind, m/s (chosen: a third of a usual cruise).
BANKED, WINDY = math.radians(35.0), 4.0
#: A wind so strong comes in gusts beside the steady one, m/s.
_GUSTS = 4.0


def scenes_of(design: Design, launch: Launching) -> tuple[Scene, ...]:
    """Return which moments can be flown of a design.

    Parameters
    ----------
    design : Design
    launch : Launching

    Returns
    -------
    tuple of str
    """
    scenes: list[Scene] = ["throw", "approach"]
    if design.power is not None and len({round(y, 3) for _x, y, _z in all_discs(design.power)}) > 1:
        scenes.append("engine_out")
    if launch.pull is not None and (launch.human.aileron or launch.human.rudder):
        scenes.append("downwind")
    return tuple(scenes)


def fly_scene(
    scene: Scene, design: Design, report: Report, launch: Launching, *, seed: int = 1,
    stop: Callable[[float], bool] | None = None,
) -> tuple[tuple[SceneKey, ...], Thrown, Launching]:  # fmt: skip
    """Fly a moment, and beside it what it is compared with.

    Parameters
    ----------
    scene : str
    design : Design
    report : Report
        Of the design.
    launch : Launching
        Its first throw.
    seed : int
        Of gusts.
    stop : callable, optional

    Returns
    -------
    keys : tuple of str
        What is flown beside the first, in the order of the builds.
    thrown : Thrown
    flown : Launching
        What it was flown with.
    """
    if scene == "throw":
        keys = ghosts_of(design, launch)
        return keys, with_ghosts(launch, keys, seed=seed, stop=stop), launch
    if scene == "approach":
        return approach(launch, stop=stop)
    if scene == "engine_out":
        return engine_out(design, report, launch, stop=stop)
    return downwind(launch, seed=seed, stop=stop)


def approach(
    launch: Launching, *, stop: Callable[[float], bool] | None = None
) -> tuple[tuple[SceneKey, ...], Thrown, Launching]:
    """Glide in from a height at 1.3 of the stall, trimmed for it, without flaps and with them down.

    Parameters
    ----------
    launch : Launching
    stop : callable, optional

    Returns
    -------
    keys, thrown, flown
        As `fly_scene` has them; ``lowered`` where there are flaps.
    """
    has = launch.flaps.angle > 0
    down = np.array([0.0, 1.0] if has else [0.0])
    speed = TRIM_SPEED * launch.stall / np.sqrt(1 + down * launch.flaps.limit)
    craft = with_flaps(launch.craft, launch.columns, launch.flaps, down, float(speed[0])) if has else launch.craft
    glide = steady(craft, None, speed=speed, density=launch.density)
    keys: tuple[SceneKey, ...] = ("lowered",) if has else ()
    if glide is None:
        return keys[:0], with_ghosts(launch, (), stop=stop), launch
    seconds = _APPROACH_SECONDS
    used = replace(launch, seconds=seconds, held=Held(float(glide.pitch[0])), held_by=False, pull=None)
    path = fly(
        craft, None, glide.state(APPROACH), hands_off(glide.held), seconds=seconds, density=launch.density,
        ground=launch.ground, stop=stop,
    )  # fmt: skip
    told = flown(craft, path, still_air)
    return keys, Thrown(path, told, tuple(OUTCOMES[int(one)] for one in told.outcome)), used


def engine_out(
    design: Design, report: Report, launch: Launching, *, stop: Callable[[float], bool] | None = None
) -> tuple[tuple[SceneKey, ...], Thrown, Launching]:
    """Stop the motors of one side in a full-throttle climb: hands off, and with somebody at the sticks.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching
    stop : callable, optional

    Returns
    -------
    keys, thrown, flown
        As `fly_scene` has them; ``held`` with a pilot.
    """
    whole = pull_of(design, report)
    assert whole is not None and design.power is not None
    discs = np.array(all_discs(design.power))
    cg = report.results.masses.state
    middle = 0.0 if cg is None else float(cg.cg[1])
    running = discs[discs[:, 1] - middle > 1e-3]
    share = len(running) / len(discs)
    _x, _y, z = whole.at
    half = replace(
        whole, thrust=whole.thrust * share, torque=whole.torque * share,
        at=(whole.at[0], float(running[:, 1].mean() - middle), z), sense=whole.sense,
    )  # fmt: skip
    climb = steady(launch.craft, whole, speed=1.4 * launch.stall, density=launch.density, throttle=1.0)
    if climb is None:
        return (), with_ghosts(launch, (), stop=stop), launch
    who = launch.human
    sticks = np.array([0.0, 1.0])
    trim = Held(float(climb.pitch[0]), throttle=1.0)
    # He lets the nose down to fly on, not to climb.
    pilot = replace(
        who, trim=trim, aileron=who.aileron * sticks, pitch=who.pitch * sticks, rudder=who.rudder * sticks,
        wished=float(climb.alpha[0]), _seen=[],
    )  # fmt: skip
    start = np.repeat(climb.state(CLIMBING), 2, axis=1)
    used = replace(launch, seconds=_OUT_SECONDS, held=trim, human=replace(pilot, _seen=[]), held_by=True, pull=half)
    path = fly(launch.craft, half, start, pilot, seconds=_OUT_SECONDS, density=launch.density, stop=stop)
    told = flown(launch.craft, path, still_air)
    return ("held",), Thrown(path, told, tuple(OUTCOMES[int(one)] for one in told.outcome)), used


def downwind(
    launch: Launching, *, seed: int = 1, stop: Callable[[float], bool] | None = None
) -> tuple[tuple[SceneKey, ...], Thrown, Launching]:
    """Turn from flying up the wind to flying down it, banked by the pilot: in steady wind, in calm, and in gusts.

    Parameters
    ----------
    launch : Launching
    seed : int
        Of the gusts.
    stop : callable, optional

    Returns
    -------
    keys, thrown, flown
        As `fly_scene` has them. In a wind that is the same everywhere the airspeed is that of calm air, to the last
        digit; over the ground it is carried along.
    """
    keys: tuple[SceneKey, ...] = ("calm", "in_gusts")
    craft, pull, density = launch.craft, launch.pull, launch.density
    speed = 1.5 * launch.stall
    level = None if pull is None else steady(craft, pull, speed=speed, density=density, path=0.0)
    level = level or steady(craft, None, speed=speed, density=density)
    if level is None:
        return (), with_ghosts(launch, (), stop=stop), launch
    who, wind = replace(launch.human, trim=level.held), np.array([WINDY, 0.0, WINDY])
    alpha = float(level.alpha[0] + level.path[0])
    pilot_of = replace(who, wished=alpha + math.radians(2.0), banks=0.0, _seen=[])

    def pilot(time: float, state: Array) -> Held:
        pilot_of.banks = BANKED if time > 1.0 else 0.0
        held = pilot_of(time, state)
        return held._replace(throttle=level.throttle[0] * 1.15)

    weather = Weather(0.0, np.array([0.0, 0.0, _GUSTS]), seed=seed, builds=3, speed=speed, lasts=_TURN_SECONDS)

    def air(time: float, height: Array) -> tuple[Number, Number, Number]:
        along, right, up = weather(time, height)
        return along - wind, right, up

    start = level.state(TURNING)
    states = np.repeat(start, 3, axis=1)
    # Over the ground it is slower by the wind it flies against.
    carried = np.zeros((3, 3))
    carried[0] = -wind
    states[VELOCITY] += to_body(states[TURNED], carried)
    used = replace(launch, seconds=_TURN_SECONDS, held=level.held, held_by=True)
    path = fly(craft, pull, states, pilot, seconds=_TURN_SECONDS, density=density, air=air, stop=stop)
    told = flown(craft, path, air)
    return keys, Thrown(path, told, tuple(OUTCOMES[int(one)] for one in told.outcome)), used
