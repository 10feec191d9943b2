"""The washing stage: what the propeller's wash and torque do to the controls, each as its own figure."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import all_discs, discs_of
from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS, YAW_CONTROLS, AirframeLattice
from ridgeline.engine.aero.drag import DragModel, thrust_left
from ridgeline.engine.aero.slipstream import (
    Strips,
    induced_speed,
    joined,
    pressure_gain,
    share_washed,
    strips_of,
    tube_radius,
    wash_speed,
)
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, later, put
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.full_throttle import THROTTLES, FullThrottle
from ridgeline.engine.sizing.constraints import throw_speed
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome, Told
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.standing import Standing

_SOURCE = "docs/theory.md §11"
_KEYS = (
    "control.elevator_wash",
    "control.rudder_wash",
    "control.elevator_standing",
    "control.rudder_standing",
    "launch.torque_aileron",
    "trim.torque_aileron",
    "trim.thrust_rudder",
)
#: A wash bends with the flow round the wing and swirls: what stands in it is known to 40 %, its speed to 20 % (90 %).
_SHARE_SIGMA, _SPEED_SIGMA = 0.4 / BAND, 0.2 / BAND
#: The wing behind a propeller straightens some of its swirl: torque as it comes through, 25 % (90 %).
_TORQUE_SIGMA = 0.25 / BAND
#: A take-off run or a bungee lets it go this far over the stall.
_RELEASE = 1.1
#: Stations of the drawn wash.
_ALONG = 24


@dataclass(frozen=True)
class Blown:
    """One control in the wash: its share in it, and its moment at full throw, N m, over `THROTTLES`.

    ``standing`` and ``slow`` are with the wash at no airspeed and at the stall speed; ``bare`` is without it there.
    """

    share: float
    standing: np.ndarray
    slow: np.ndarray
    bare: float


@dataclass(frozen=True)
class Tube:
    """The driven air behind one disc at full throttle: where it turns, stations behind it and radii there, m, (n,)."""

    place: tuple[float, float, float]
    behind: np.ndarray
    climbing: np.ndarray
    standing: np.ndarray


@dataclass(frozen=True)
class Washing:
    """Elevator and rudder in the wash (None without one), the torque standing, N m, and the speed of release, m/s.

    Torque that rolls the aircraft left is positive: that of propellers that turn clockwise, seen from behind.

    ``blown`` gives the driven air of each propeller, for the drawing; none of a ducted fan, which blows clear.
    """

    elevator: Blown | None
    rudder: Blown | None
    torque: float
    release: float
    blown: Callable[[], tuple[Tube, ...]] = field(repr=False, compare=False)

    @cached_property
    def tubes(self) -> tuple[Tube, ...]:
        """The driven air of each propeller."""
        return self.blown()


def washing(
    power: PowerTrain | None,
    surfaces: tuple[Surface, ...],
    model: AirframeLattice | None,
    polar: DragModel | None,
    stand: Standing | None,
    full: FullThrottle | None,
    flown: FlightFigures | None,
    here: Air,
    speed: Speeds | None,
    handled: Handling | None,
    mass: Masses,
    brief: Brief,
    told: Told,
) -> Outcome[Washing | None]:
    """Give elevator and rudder power in the wash, and what holds torque and side thrust."""
    given = (stand, full, model, flown, speed, handled)
    if power is None or any(one is None for one in given):
        why = NO_POWER if power is None else "it needs wing, mass and thrust first"
        return Outcome(None, tuple(absent(key, why) for key in _KEYS))
    assert stand and full and model and flown and speed and handled
    wash = _Wash(power, surfaces, model, polar, stand, full, flown, here, speed.stall)
    elevator, pitching = wash.control(
        PITCH_CONTROLS, ("control.elevator_wash", "control.elevator_standing"), told["control.cm_elevator"],
        handled.throws.pitch_up, model.scale.chord,
    )  # fmt: skip
    rudder, yawing = wash.control(
        YAW_CONTROLS, ("control.rudder_wash", "control.rudder_standing"), told["control.cn_rudder"],
        handled.throws.yaw, model.scale.span,
    )  # fmt: skip
    assert mass.state is not None
    thrown = brief.launch == "hand"
    release = throw_speed(mass.state.mass) + brief.head_wind if thrown else _RELEASE * speed.stall
    standing = power.turning * float(stand.point.shaft_power) / max(float(stand.point.omega), 1e-9)
    doubt = stand.sigmas["shaft_power"] / max(float(stand.point.shaft_power), 1e-9)
    words = "airspeed as it leaves the hand" if thrown else "airspeed as it leaves"
    figures = (
        *pitching,
        *yawing,
        _aileron("launch.torque_aileron", standing, doubt, release, words, model, here, told),
        _aileron("trim.torque_aileron", wash.torque, doubt, flown.climb_speed, "climbing speed", model, here, told),
        _rudder(power, flown, model, mass, here, told),
    )
    return Outcome(Washing(elevator, rudder, standing, release, wash.tubes), figures)


class _Wash:
    """The driven air of a train at full throttle, climbing and standing, and over the throttle."""

    def __init__(
        self,
        power: PowerTrain,
        surfaces: tuple[Surface, ...],
        model: AirframeLattice,
        polar: DragModel | None,
        stand: Standing,
        full: FullThrottle,
        flown: FlightFigures,
        here: Air,
        stall: float,
    ) -> None:
        self.surfaces, self.scale, self.density, self.stall = surfaces, model.scale, here.density, stall
        self.places = list(all_discs(power))
        # A ducted fan blows out behind its duct, clear of the tail.
        self.blows = power.propeller.family != "ducted_fan"
        self.radius, self.climb = 0.5 * power.propeller.diameter, flown.climb_speed
        disc = math.pi * self.radius**2
        pull = flown.thrust_at_climb / thrust_left(polar, power.propeller.diameter) / power.motors

        def near(thrust: object, v: float) -> np.ndarray:
            return np.atleast_1d(induced_speed(thrust, v, disc, here.density))  # type: ignore[arg-type]

        self.climbing, self.standing = near(pull, self.climb), near(stand.thrust / power.motors, 0.0)
        # On a fresh pack, at a standstill and at the stall speed.
        still, slow = (full.over_throttle(v)[0] / power.motors for v in (0.0, stall))
        _thrust, shaft, omega = full.over_throttle(self.climb)
        #: Airspeeds and speeds gained at the disc: over the throttle standing and at the stall speed, then climbing.
        count = len(THROTTLES)
        self.speeds = np.repeat([0.0, stall, self.climb], [count, count, 1])
        self.near = np.concatenate([near(still, 0.0), near(slow, stall), self.climbing])
        #: Of full throttle climbing, N m.
        self.torque = power.turning * float(shaft[-1]) / max(float(omega[-1]), 1e-9)

    def _in_wash(self, strips: list[Strips]) -> tuple[np.ndarray, np.ndarray]:
        """Return share and mean gained speed over all propellers, at each airspeed."""
        found = [share_washed(cut, self.radius, self.speeds, self.near) for cut in strips]
        share = np.sum([one for one, _ in found], axis=0)
        mean = np.sum([one * far for one, far in found], axis=0) / np.where(share > 0, share, 1.0)
        return np.minimum(share, 1.0), mean

    def tubes(self) -> tuple[Tube, ...]:
        """Return the driven air of each propeller, down to the hindmost surface."""
        if not self.blows:
            return ()
        end = max(s.x + max(r.x + r.chord for r in s.stations) for s in self.surfaces)
        found = []
        for place in self.places:
            behind = np.linspace(0.0, max(end - place[0], self.radius), _ALONG)
            radii = [
                tube_radius(self.radius, v, near, np.where(behind > 0, wash_speed(behind, self.radius, near), near))
                for v, near in ((self.climb, self.climbing), (0.0, self.standing))
            ]
            found.append(Tube(place, behind, *radii))
        return tuple(found)

    def control(
        self, kinds: tuple[str, ...], keys: tuple[str, str], power: Figure, throw: float, length: float
    ) -> tuple[Blown | None, tuple[Figure, Figure]]:
        """Return a control's power over the throttle, and its two figures."""
        hinged = [(s, c) for s in self.surfaces for c in s.controls if c.kind in kinds]
        if not hinged or power.value is None:
            return None, (absent(keys[0], power.why_not), absent(keys[1], power.why_not))
        strips = [joined([strips_of(s, c.start, c.end, place) for s, c in hinged]) for place in self.places]
        if not self.blows:
            strips = [cut._replace(behind=-np.ones(len(cut.behind))) for cut in strips]
        base = self.scale.area * length * abs(power.value) * throw
        share, far = self._in_wash(strips)
        moment = base * (0.5 * self.density * self.speeds**2 + share * pressure_gain(self.speeds, far, self.density))
        standing, slow = moment[: len(THROTTLES)], moment[len(THROTTLES) : -1]
        s, v = float(share[-1]), float(far[-1])
        rows = {
            "s": Put(s, "share of it in the wash", "fraction", _SHARE_SIGMA * s),
            "v": Put(v, "speed the air has gained there", "speed", _SPEED_SIGMA * v),
            "V": Put(self.climb, "climbing speed", "speed"),
        }
        note = "never counted on in a judgement: it goes when the throttle closes"
        ratio = derive(
            keys[0], "1 + {s}·{v}·(2·{V} + {v})/{V}²", lambda s, v, V: 1 + s * v * (2 * V + v) / V**2, rows,
            source=_SOURCE, note=note,
        )  # fmt: skip
        blown = Blown(s, standing, slow, base * 0.5 * self.density * self.stall**2)
        last = len(THROTTLES) - 1
        return blown, (ratio, self._standing(keys[1], float(share[last]), float(far[last]), power, throw, length))

    def _standing(self, key: str, share: float, far: float, power: Figure, throw: float, length: float) -> Figure:
        return derive(
            key,
            "½·{d}·{v}²·{s}·{S}·{l}·|{C}|·{e}",
            lambda d, v, s, S, l, C, e: 0.5 * d * v * v * s * S * l * abs(C) * e,  # noqa: E741
            {
                "d": Put(self.density, "air density", "density"),
                "v": Put(far, "speed of the wash there", "speed", _SPEED_SIGMA * far),
                "s": Put(share, "share of it in the wash", "fraction", _SHARE_SIGMA * share),
                "S": Put(self.scale.area, "wing area", "area"),
                "l": Put(length, "mean chord or span", "length"),
                "C": put(power),
                "e": Put(throw, "full throw", "angle"),
            },
            source=_SOURCE,
            note="a tail out of the wash has none: it answers only once it moves",
        )


def _aileron(
    key: str, torque: float, doubt: float, v: float, words: str, model: AirframeLattice, here: Air, told: Told
) -> Figure:
    """Give the aileron, to the right, that holds the torque of the propellers."""
    power = told["control.cl_aileron"]
    if power.value is None:
        return absent(key, "nothing rolls it: no ailerons, elevons or flaperons")
    q = 0.5 * here.density * v * v
    return derive(
        key,
        "{Q}/({q}·{S}·{b}·|{C}|)",
        lambda Q, q, S, b, C: Q / (q * S * b * abs(C)),
        {
            "Q": Put(torque, "torque of full throttle", "torque", math.hypot(_TORQUE_SIGMA, doubt) * abs(torque)),
            "q": Put(q, f"dynamic pressure at {words}", "pressure", 0.2 * q),
            "S": Put(model.scale.area, "wing area", "area"),
            "b": Put(model.scale.span, "span", "length"),
            "C": put(power),
        },
        source=_SOURCE,
        note="to the right positive; propellers that turn clockwise, seen from behind, roll it left; pairs that turn "
        "against each other need none",
    )


def _rudder(
    power: PowerTrain, flown: FlightFigures, model: AirframeLattice, mass: Masses, here: Air, told: Told
) -> Figure:
    """Give the rudder, to the right, that holds what thrust off the middle or turned aside does to the nose."""
    key, worth = "trim.thrust_rudder", told["control.cn_rudder"]
    if worth.value is None or abs(worth.value) < 1e-4:
        return absent(key, "there is no rudder")
    assert mass.state is not None
    x, y = float(mass.state.cg[0]), float(mass.state.cg[1])
    # Nose to the right: a shaft turned right pulls the nose there, thrust to starboard of the balance turns it left.
    # The like motor of a mirrored mount is turned the other way.
    arm = sum(
        (side * math.sin(mount.right) * (x - px) - math.cos(mount.right) * (py - y)) / power.motors
        for mount in power.mounts
        for side, (px, py, _pz) in zip((1, -1), discs_of(mount, power), strict=False)
    )
    q = 0.5 * here.density * flown.climb_speed**2
    pull = flown.thrust_at_climb
    return derive(
        key,
        "−{T}·{l}/({q}·{S}·{b}·|{C}|)",
        lambda T, l, q, S, b, C: -T * l / (q * S * b * abs(C)),  # noqa: E741
        {
            "T": later(pull, "thrust, climbing", "force", lambda: flown.sigmas["thrust_at_climb"]),
            "l": Put(arm, "its arm, nose to the right", "length", 0.002),
            "q": Put(q, "dynamic pressure at climbing speed", "pressure"),
            "S": Put(model.scale.area, "wing area", "area"),
            "b": Put(model.scale.span, "span", "length"),
            "C": put(worth),
        },
        source=_SOURCE,
        note="to the right positive; swirl and blades at an angle come on top, to the left for clockwise propellers",
    )
