"""Pick a first power train from a shelf: the lightest that pulls enough, lasts long enough and holds its ratings."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.brief import Brief
from ridgeline.design.power import Motor, Mount, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.power.limits import ESC_SHARE
from ridgeline.engine.power.operating_point import chain, solve
from ridgeline.engine.power.pack import RESERVE, continuous_current

#: Mean electrical power of level flight with some climbing, W per kg of aircraft; only to rank packs by time.
_MEAN_POWER = 45.0
_CELL_VOLTAGE = 3.7
PROP_OVER_SPAN = 0.30
#: Lift limit assumed before there is an airframe; only to know the speed the propeller must outrun.
_LIFT_LIMIT = 0.95


def packs_in_hand(brief: Brief, shelf: Shelf) -> tuple[Pack, ...]:
    """Return the packs the brief names, or the whole shelf's when it names none that exist."""
    named = tuple(pack for pack in shelf.packs if pack.name in brief.packs)
    return named or shelf.packs


def first_power_train(
    brief: Brief, shelf: Shelf, mass: float, air_density: float, span: float, *, motors: int = 1
) -> PowerTrain | None:
    """Return the lightest power train for the thrust ratio and time of a brief.

    Parameters
    ----------
    mass : float
        All-up mass aimed at, kg.
    span : float
        Wing span, m; a propeller over 0.3 of it looks and flies wrong.
    motors : int
        1, or 2 for a like motor on each side.

    Returns
    -------
    PowerTrain or None
        None only when the shelf is empty. When nothing reaches the thrust, the strongest that holds its ratings.
    """
    wanted = brief.thrust_ratio * mass * GRAVITY
    cruise = brief.cruise_ratio * math.sqrt(2 * brief.wing_loading * GRAVITY / (air_density * _LIFT_LIMIT))
    mounts = (Mount(),) if motors == 1 else (Mount(y=0.1, mirrored=True),)
    best: tuple[float, PowerTrain] | None = None
    for motor, propeller, pack in _combinations(brief, shelf, span):
        esc = shelf.escs[-1]
        train = PowerTrain(motor=motor, esc=esc, pack=pack, propeller=propeller, mounts=mounts)
        point = solve(chain(train), 1.0, 0.0, air_density)
        thrust, current = float(point.thrust), float(point.pack_current)
        if current > min(motors * motor.max_current, continuous_current(pack)) or thrust <= 0:
            continue
        fitting = _smallest_esc(shelf, current / motors, pack.cells)
        if fitting is None:
            continue
        train = train.model_copy(update={"esc": fitting})
        pitch_speed = propeller.pitch * float(point.rpm) / 60
        score = _score(train, thrust, wanted, brief.endurance, mass) + mass * max(0.0, 1 - pitch_speed / (1.6 * cruise))
        if best is None or score < best[0]:
            best = (score, train)
    return best[1] if best else None


def _combinations(brief: Brief, shelf: Shelf, span: float) -> Iterator[tuple[Motor, Propeller, Pack]]:
    for pack in packs_in_hand(brief, shelf):
        for motor in shelf.motors:
            if pack.cells > motor.max_cells:
                continue
            for propeller in shelf.propellers:
                # A can turns propellers of about three to nine times its diameter.
                if propeller.diameter <= PROP_OVER_SPAN * span and 3 < propeller.diameter / motor.diameter < 11:
                    yield motor, propeller, pack


def _smallest_esc(shelf: Shelf, current: float, cells: int) -> SpeedController | None:
    fitting = [esc for esc in shelf.escs if esc.max_current * ESC_SHARE >= current and cells <= esc.max_cells]
    return min(fitting, key=lambda esc: esc.mass, default=None)


def _score(train: PowerTrain, thrust: float, wanted: float, endurance: float, mass: float) -> float:
    """Return kilograms carried, plus a fine for thrust or time missing that outweighs any saving."""
    carried = train.motors * (train.motor.mass + train.esc.mass + train.propeller.mass) + train.pack.mass
    energy = (1 - RESERVE) * train.pack.cells * _CELL_VOLTAGE * train.pack.capacity_ah * 3600
    seconds = energy / (_MEAN_POWER * mass)
    lack = max(0.0, 1 - thrust / wanted) if wanted > 0 else 0.0
    short = max(0.0, 1 - seconds / endurance) if endurance > 0 else 0.0
    return carried + mass * (10 * lack + 2 * short)
