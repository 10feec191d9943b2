"""Pick a first power train from a shelf: the lightest that pulls enough, lasts long enough and holds its ratings."""

from __future__ import annotations

import math

import numpy as np

from ridgeline.design.brief import Brief
from ridgeline.design.power import Motor, Mount, Pack, PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.limits import MOTOR_HEAT_MINUTE
from ridgeline.engine.power.pack import RESERVE
from ridgeline.engine.power.propeller import tip_speed_limit
from ridgeline.engine.power.supply import with_supply
from ridgeline.engine.power.survey import Airframe, Survey
from ridgeline.engine.sizing.first_lift import first_cl_max

#: Mean electrical power of level flight with some climbing, W per kg of aircraft; only to rank packs by time, until a
#: whole flight of the airframe tells better.
MEAN_POWER = 45.0
_CELL_VOLTAGE = 3.7
PROP_OVER_SPAN = 0.30
#: A motor weighs this share of the aircraft it pulls, from a glider's to one that hovers (typical, wide).
_MOTOR_SHARE = (0.02, 0.25)
#: Supply for the servos an aircraft of a mass, kg, usually has, A.
_RECEIVER = ((0.5, 3.0), (0.2, 2.0), (0.0, 1.0))
#: A first choice keeps to the common kinds; the match offers the others.
FIRST_FAMILIES = ("thin_electric", "slow_fly", "tiny")
#: What a lack of thrust, time, pitch speed or a cool motor is worth in mass, over the aircraft (chosen).
_LACK, _SHORT, _SLOW, _HOT = 10.0, 2.0, 1.0, 2.0
#: Pitch speed over cruise at which level flight takes about half throttle.
PITCH_OVER_CRUISE = 2.0
#: Packs of these shares of the energy asked for are looked at, unless fewer than so many are: less lasts too short,
#: more is heavier than what a motor's current can ask for.
_ENERGY, _FEW = (0.6, 3.5), 6
#: A can turns propellers of about three to nine times its diameter, some of eleven.
_PROP_OVER_CAN = (3.0, 11.0)
#: A fan stands close about its motor.
FANS, _FAN_OVER_CAN = ("ducted_fan",), (1.8, 5.0)
#: A brushless motor of fewer poles makes speed rather than torque: for a fan, or a gear (typical: 2 to 6, against 12
#: and more of one with its can turning).
_POLES_FOR_PROPELLER = 8


def packs_in_hand(brief: Brief, shelf: Shelf) -> tuple[Pack, ...]:
    """Return the packs the brief names, or the whole shelf's when it names none that exist."""
    named = tuple(pack for pack in shelf.packs if pack.name in brief.packs)
    return named or shelf.packs


def packs_to_try(brief: Brief, own: tuple[Pack, ...], shelf: Shelf) -> tuple[Pack, ...]:
    """Return the packs of the builder's bin and those the brief names; the whole shelf's where there are none.

    Parameters
    ----------
    brief : Brief
    own : tuple of Pack
        In the bin.
    shelf : Shelf

    Returns
    -------
    tuple of Pack
        The bin's own in the place of one of that name.
    """
    mine = {pack.name for pack in own}
    named = tuple(pack for pack in shelf.packs if pack.name in brief.packs and pack.name not in mine)
    return (*own, *named) or shelf.packs


def first_power_train(
    brief: Brief,
    shelf: Shelf,
    mass: float,
    air_density: float,
    span: float,
    *,
    motors: int = 1,
    mean_power: float = MEAN_POWER,
    receiver: float = 0.0,
    pitch_over_cruise: float = PITCH_OVER_CRUISE,
    families: tuple[str, ...] = FIRST_FAMILIES,
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
    mean_power : float
        Drawn on average, W per kg of aircraft: what packs are ranked by.
    receiver : float
        What receiver and servos may draw at once, A, where it is known; else what a mass usually asks for.
    pitch_over_cruise : float
        Pitch speed wanted, standing, over the cruise speed.
    families : tuple of str
        Of propellers; ducted fans only among themselves.

    Returns
    -------
    PowerTrain or None
        None only when the shelf is empty. When nothing reaches the thrust, the strongest that holds its ratings.
    """
    packs = _of_an_energy(packs_in_hand(brief, shelf), mean_power * mass * brief.endurance)
    blades = tuple(p for p in shelf.propellers if p.diameter <= PROP_OVER_SPAN * span and p.family in families)
    if not (packs and blades and shelf.motors and shelf.escs):
        return None
    cans_on_shelf = _of_a_size(_of_a_kind(shelf.motors, families), mass / motors)
    survey = Survey(cans_on_shelf, blades, packs, shelf.escs, nothing_known(brief, mass, air_density, motors, receiver))
    cans = np.array([motor.diameter for motor in cans_on_shelf])[:, None]
    over_can = _FAN_OVER_CAN if families == FANS else _PROP_OVER_CAN
    cruise = brief.cruise_ratio * math.sqrt(2 * brief.wing_loading * GRAVITY / (air_density * first_cl_max(brief)))
    energy = np.array([usable_energy(pack) for pack in packs])[None]
    wanted, seconds = brief.thrust_ratio * mass * GRAVITY, energy / (mean_power * mass)
    short = np.clip(1 - seconds / brief.endurance, 0, None) if brief.endurance > 0 else 0.0
    best: tuple[float, int, int] | None = None
    for index, row in survey.rows():
        ratio = blades[index].diameter / cans
        sound = (
            (row.esc >= 0)
            & (row.thrust > 0)
            & (ratio > over_can[0])
            & (ratio < over_can[1])
            & (survey.cells <= survey.motor_cells)
        )
        sound &= (row.current <= survey.pack_limit) & (row.motor_current <= survey.motor_limit)
        sound &= math.pi * blades[index].diameter * row.rpm / 60 <= tip_speed_limit(blades[index])
        lack = np.clip(1 - row.thrust / wanted, 0, None) if wanted > 0 else 0.0
        slow = np.clip(1 - blades[index].pitch * row.rpm / 60 / (pitch_over_cruise * cruise), 0, None)
        hot = np.clip(row.heat / (survey.motor_mass * MOTOR_HEAT_MINUTE) - 1, 0, None)
        lacking = _LACK * lack + _SHORT * short + _SLOW * slow + _HOT * hot
        score = np.where(sound, row.mass + mass * lacking, np.inf)
        at = int(np.argmin(score))
        if np.isfinite(score.ravel()[at]) and (best is None or score.ravel()[at] < best[0]):
            best, found = (float(score.ravel()[at]), index, at), row
    if best is None:
        return None
    m, k = divmod(best[2], len(packs))
    mounts = (Mount(),) if motors == 1 else (Mount(y=0.1, mirrored=True),)
    esc = shelf.escs[int(found.esc[m, k])]
    if esc.bec_current < survey.airframe.receiver:
        esc = with_supply(esc, survey.airframe.receiver) or esc
    return PowerTrain(motor=cans_on_shelf[m], esc=esc, pack=packs[k], propeller=blades[best[1]], mounts=mounts)


def usable_energy(pack: Pack) -> float:
    """Return about the energy a pack gives down to its reserve, J.

    Parameters
    ----------
    pack : Pack

    Returns
    -------
    float
    """
    return (1 - RESERVE) * _CELL_VOLTAGE * 3600 * pack.cells * pack.capacity_ah


def _of_an_energy(packs: tuple[Pack, ...], needed: float) -> tuple[Pack, ...]:
    """Return the packs that hold about the energy asked for, J; all where few do, or none is asked for."""
    low, high = _ENERGY
    near = tuple(pack for pack in packs if low * needed <= usable_energy(pack) <= high * needed)
    return near if len(near) >= _FEW else packs


def _of_a_kind(motors: tuple[Motor, ...], families: tuple[str, ...]) -> tuple[Motor, ...]:
    """Return the motors that turn a propeller without a gear, for one; all for a fan, and where none does."""
    if families == FANS:
        return motors
    return tuple(m for m in motors if m.kind != "brushless" or m.poles >= _POLES_FOR_PROPELLER) or motors


def _of_a_size(motors: tuple[Motor, ...], share: float) -> tuple[Motor, ...]:
    """Return the motors of a mass that fits the aircraft mass each has to pull, kg; all when none does."""
    low, high = _MOTOR_SHARE
    return tuple(motor for motor in motors if low * share <= motor.mass <= high * share) or motors


def nothing_known(brief: Brief, mass: float, air_density: float, motors: int, receiver: float = 0.0) -> Airframe:
    """Return an airframe of which only the mass is known: the survey then says what stands still does."""
    return Airframe(
        rest=0.0,
        rest_moment=0.0,
        motor_x=0.0,
        esc_x=0.0,
        propeller_x=0.0,
        longer=0.0,
        motor_length=0.0,
        pack_front=0.0,
        pack_back=0.0,
        stall=1.0,
        stall_mass=mass,
        cruise_ratio=1.0,
        air_density=air_density,
        viscosity=1.8e-5,
        temperature_c=20.0,
        drag=None,
        profile=Profile(),
        motors=motors,
        receiver=receiver or next(amps for least, amps in _RECEIVER if mass >= least),
    )
