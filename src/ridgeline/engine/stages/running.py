"""The stage of the first throw that every edit can bear: the take-off run, and the balance that the trim tells."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Wheel
from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, thrust_left
from ridgeline.engine.aero.flap import effective_deflection
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.flight.air_forces import drag_coefficient
from ridgeline.engine.flight.run import GRASS, GRASS_SIGMA, LIFT_OFF, Stance, rotation_left, run_length, stance_of
from ridgeline.engine.power.full_throttle import FullThrottle
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome, Told
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.logged import Logged
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.motions import Motions

_KEY = "flight.takeoff_run"
_THROWN = ("throw.lowest_height", "throw.odds_climb")
_NOT_FLOWN = "flown when it is asked for: on First throw, or by the command line"
#: One sigma of a trim read off the radio, rad (chosen: a click or two), and of what else trims it than the balance:
#: incidences as built are known to three quarters of a degree (90 %).
_READ = math.radians(0.3)


@dataclass(frozen=True)
class Running:
    """The take-off: its run m, how it stands on its wheels, and what is left of the pitch control to lift the nose.

    ``left`` is None where no nose wheel is to be lifted.
    """

    run: float | None
    stance: Stance | None
    left: float | None


def running(
    motions: Motions | None,
    power: PowerTrain | None,
    full: FullThrottle | None,
    polar: DragModel | None,
    handled: Handling | None,
    wheels: tuple[Wheel, ...],
    mass: Masses,
    here: Air,
    brief: Brief,
    told: Told,
) -> Outcome[Running | None]:
    """Give the run over the ground, and how it stands."""
    thrown = tuple(
        absent(key, _NOT_FLOWN if motions is not None else "it needs wing and mass first") for key in _THROWN
    )
    if not wheels:
        return Outcome(None, (absent(_KEY, "it has no wheels"), *thrown))
    if motions is None or power is None or full is None or mass.state is None or polar is None:
        why = NO_POWER if power is None else "it needs wing, mass and a turning motor first"
        return Outcome(None, (absent(_KEY, why), *thrown))
    craft, stall = motions.craft, told["speed.stall"]
    assert stall.value is not None
    # On its wheels with the body level.
    lift = min(max(craft.lift_zero, 0.0), 0.7 * craft.lift_most)
    left = thrust_left(polar, power.propeller.diameter)
    thrust = np.asarray(full.point.thrust) * left
    drag = drag_coefficient(craft, full.speed, np.full_like(full.speed, lift), np.zeros_like(full.speed))
    load = 0.5 * here.density * full.speed**2 * craft.area

    def length(m: float, T: float, mu: float, V: float, w: float) -> float:
        force = thrust * (T / float(thrust[0])) - load * drag - mu * np.maximum(m * GRAVITY - load * lift, 0.0)
        found = run_length(full.speed, force, mass=m, lift_off=V, wind=w)
        return math.nan if found is None else found

    standing = told["power.static_thrust"]
    row = {
        "m": put(told["mass.auw"], "all-up weight"),
        "T": Put(float(thrust[0]), "thrust standing, less its wash", "force", _share(standing) * float(thrust[0])),
        "mu": Put(GRASS, "friction on short grass over the load", "ratio", GRASS_SIGMA),
        "V": Put(LIFT_OFF * stall.value, f"lifts off at {LIFT_OFF} of the stall", "speed", LIFT_OFF * stall.sigma),
        "w": Put(brief.head_wind, "wind of the brief", "speed"),
    }
    if not math.isfinite(length(*(one.value for one in row.values()))):
        figure = absent(_KEY, "thrust is less than drag and friction before it flies")
    else:
        figure = derive(_KEY, "∫ {m}·(V − {w})/(T(V) − D − μ·(m·g − L)) dV to {V}, with {T} and {mu}", length, row,
                        source="docs/theory.md §17", note="full throttle, body level, grass")  # fmt: skip
    places = np.array([(one.x, one.y, one.z - one.diameter / 2) for one in wheels])
    stance = stance_of(places, np.asarray(mass.state.cg))
    share = None
    if stance is not None and stance.behind > 0 and handled is not None:
        off = LIFT_OFF * stall.value
        pressed = 0.5 * here.density * off**2 * craft.area
        x, _z = craft.centre
        up = effective_deflection(handled.throws.pitch_up)
        most = up * pressed * (-craft.pitch_control * craft.chord + x * -craft.lift_control)
        steady = pressed * (craft.pitch_zero * craft.chord + x * lift)
        share = rotation_left(
            mass=craft.mass, behind=stance.behind, high=stance.high, most=most, steady=steady,
            thrust=float(np.interp(off, full.speed, thrust)), thrust_arm=0.0,
        )  # fmt: skip
    return Outcome(Running(figure.value, stance, share), (figure, *thrown))


def _share(figure: Figure) -> float:
    return 0.0 if figure.value is None else figure.sigma / max(abs(figure.value), 1e-9)


def flown_trim(motions: Motions | None, found: Logged, told: Told) -> Outcome[None]:
    """Give the balance point that the flown elevator trims tell, where nothing else is off."""
    key = "log.cg_by_trim"
    trims = [row.flight.trim_pitch for row in found.believed() if row.flight.trim_pitch is not None]
    if not trims:
        return Outcome(None, (absent(key, "no flight tells its elevator trim"),))
    level, now = told["trim.elevator"], told["balance.cg_fraction"]
    slope = None if motions is None else motions.trim_slope
    if motions is None or level.value is None or now.value is None or slope is None:
        return Outcome(None, (absent(key, "it needs wing, mass and a pitch control first"),))
    mean = -math.fsum(trims) / len(trims)
    return Outcome(None, (derive(
        key,
        "{x} + ({d} − {d_0})/{k}",
        lambda x, d, d_0, k: x + (d - d_0) / k,
        {
            "x": Put(now.value, "balance as reckoned", "fraction"),
            "d": Put(mean, f"elevator flown, {len(trims)} flights", "angle", _READ / math.sqrt(len(trims))),
            "d_0": put(level, "elevator reckoned in cruise"),
            "k": Put(slope, "elevator for the balance, trailing edge down, per mean chord", "angle", 0.1 * abs(slope)),
        },
        source="docs/theory.md §17",
        note="as if the trim came of the balance alone",
    ),))  # fmt: skip
