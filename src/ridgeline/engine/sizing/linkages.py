"""How the servos aboard are usually linked to their controls, and what the radio is set to for that."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.construction import SurfaceBuild
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, all_idents, numbered, references
from ridgeline.design.linkage import Hinge, HingeKind, Linkage
from ridgeline.design.parts import Item, Servo
from ridgeline.design.paths import Change, apply
from ridgeline.design.radio import Amount, Channel, Radio, Rate, StickName
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.throws import share_of, travel
from ridgeline.engine.build.seats import servo_mass
from ridgeline.engine.controls.clearing import blocked
from ridgeline.engine.controls.inverse import fitted, settings_for
from ridgeline.engine.controls.linkage import Throw, travel_of
from ridgeline.engine.controls.rods import guides_for
from ridgeline.engine.controls.sense import FOLLOWS, SideName, wanted
from ridgeline.engine.controls.servo import PLANNED, stall_torque
from ridgeline.engine.controls.yielding import base_for
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.report import Trial
from ridgeline.engine.results import given
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.linked import Linking

#: Holes of arms and horns as they are sold, m, by the mass of the servo, kg; all of them where its own do not do
#: (usual).
HOLES: tuple[tuple[float, tuple[float, ...], tuple[float, ...]], ...] = (
    (0.004, (0.004, 0.005, 0.006, 0.008), (0.006, 0.008, 0.010, 0.012)),
    (0.022, (0.006, 0.008, 0.010, 0.012), (0.009, 0.012, 0.015, 0.018)),
    (9.0, (0.012, 0.016, 0.020, 0.024), (0.018, 0.022, 0.027, 0.033, 0.040)),
)
#: A servo's shaft stands no nearer to the hinge and no farther over or under it than this, m (usual).
_NEAREST, _HIGHEST = 0.03, 0.06
#: Horns of a tail stand this far out from the inner end of their control, share of its length (usual).
_HORN_OUT = 0.15
#: Rods from the lightest on: stock, diameter, bore, modulus. One that half the servo's stall presses stands in guides
#: no closer than this, m (handbook of the trade §9: 100 to 150 mm), and longer ones have them anyway.
_RODS = (
    ("Steel wire 1 mm", 0.001, 0.0, 200e9),
    ("Steel wire 1.5 mm", 0.0015, 0.0, 200e9),
    ("Carbon rod 2 mm", 0.002, 0.0, 120e9),
    ("Carbon rod 3 mm", 0.003, 0.0, 120e9),
    ("Carbon tube 4/2.5 mm", 0.004, 0.0025, 120e9),
    ("Carbon tube 6/4 mm", 0.006, 0.004, 120e9),
)
#: A servo whose mass nothing tells is taken as the usual one, kg.
_PLAIN = 0.009
#: Stronger servos have longer arms, which ask for other holes: so often it is tried.
_ROUNDS = 5
_CLOSEST, _GUIDED, _GUIDES = 0.10, 0.30, 0.15
#: A rod at a slope is longer than its servo stands ahead.
_LONGER = 1.05
#: Rates and expo of the sticks, by whether the purpose is flown hard (handbook of the trade §9, 12).
_RATES = {"calm": (1.0, 0.7, 0.25), "hard": (1.0, 0.5, 0.35)}
_HARD = ("aerobatic", "speed", "sport")
_STICKS: tuple[StickName, ...] = ("roll", "pitch", "yaw")
#: What an outer motor takes of the rudder stick where nothing else yaws the aircraft.
_TURNS_BY_THRUST = 0.35
_SIDES: dict[SideName, str] = {"starboard": "stbd.", "port": "port"}
_HINGES: dict[str, HingeKind] = {"tape": "tape", "fold": "fold", "glue": "fillet", "printed": "printed", "rod": "rod"}


class Driven(NamedTuple):
    """A control, on which surface, the servo's item and whether each side has a servo of its own."""

    surface: int
    control: ControlSurface
    item: Item
    own: bool


#: A horn that would stand inside a body is moved out by steps of this, m.
_ASIDE = 0.005
#: Horns rock on their bases by no more of the throw than this (chosen).
_ROCKS = 0.06


@dataclass(frozen=True)
class Linked:
    """Linkages and the radio that is set for them."""

    linkages: tuple[Linkage, ...]
    radio: Radio | None


def linked_up(design: Design, trial: Trial, shelf: Shelf) -> Design:
    """Return a design with its usual linkages and radio, and with servos that can do what their controls ask.

    Parameters
    ----------
    design : Design
    trial : Trial
    shelf : Shelf

    Returns
    -------
    Design
    """
    for _ in range(_ROUNDS):
        usual = usual_linkages(design)
        design = design.model_copy(update={"linkages": usual.linkages, "radio": usual.radio})
        found: Linking = trial.result(design, "linking")
        weak = {row.linkage.servo for row in found.rows if row.share is not None and row.share > PLANNED}
        if not weak:
            return based(design, found)
        slower = _slower(found, trial.result(design, "bearing"))
        if slower is not None:
            design = apply(design, (Change("loads.dive_speed", slower),))
            continue
        for k, item in enumerate(design.parts):
            if item.id in weak:
                torque = max(row.torque for row in found.rows if row.linkage.servo == item.id)
                stronger = next(iter(passing(shelf.servos, torque)), None)
                if stronger is not None:
                    design = apply(design, with_servo(k, stronger))
    # Other servos have other arms.
    usual = usual_linkages(design)
    design = design.model_copy(update={"linkages": usual.linkages, "radio": usual.radio})
    return based(design, trial.result(design, "linking"))


def based(design: Design, found: Linking) -> Design:
    """Return a design whose horns have bases that rock little in a dive.

    Parameters
    ----------
    design : Design
    found : Linking
        Of the design.

    Returns
    -------
    Design
    """
    rows = {row.linkage.id: row for row in found.rows}
    made = []
    for one in design.linkages:
        row = rows.get(one.id)
        rocks = 0.0 if row is None else _ROCKS * max(row.sides[0].throw)
        if row is not None and rocks > 0 and row.given.horn > rocks:
            one = one.model_copy(update={"base": round(math.ceil(1000 * base_for(row.moment, rocks)) / 1000, 4)})
        made.append(one)
    return design.model_copy(update={"linkages": tuple(made)})


def _slower(found: Linking, bearing: Bearing | None) -> float | None:
    """Return the dive speed that its servos hold, no less than its top speed, m/s; None where it is that already."""
    if bearing is None or bearing.dive is None or bearing.top is None:
        return None
    worst = max(row.share or 0.0 for row in found.rows)
    # The moments go with the square of the speed.
    able = bearing.dive * math.sqrt(PLANNED / worst)
    slower = math.floor(10 * max(able, bearing.top)) / 10 if able > bearing.top else math.ceil(10 * bearing.top) / 10
    return slower if slower < bearing.dive - 0.05 else None


def with_servo(place: int, servo: Servo) -> tuple[Change, ...]:
    """Return the edits that give an item another servo: what was weighed or estimated was of the old one."""
    base = f"parts[{place}]"
    return Change(f"{base}.servo", servo), Change(f"{base}.weighed", None), Change(f"{base}.estimate", None)


def passing(servos: Iterable[Servo], torque: float) -> list[Servo]:
    """Return the servos that a torque, N m, leaves on half of their stall, the lightest first."""
    able = [one for one in servos if one.mass and PLANNED * stall_torque(one, one.mass) >= torque]
    return sorted(able, key=lambda one: one.mass or 0.0)


def driven(design: Design) -> tuple[Driven, ...]:
    """Return which servo moves which control: as items say, else by where they are.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Driven
    """
    servos = [item for item in design.parts if item.servo is not None]
    found: dict[str, tuple[Item, int]] = {}
    for item in servos:
        for ident in item.drives:
            found.setdefault(ident, (item, len(item.drives)))
    rows = []
    for k, surface in enumerate(design.surfaces):
        for control in surface.controls:
            servo, shared = found.get(control.id) or _near(design, surface, servos)
            if servo is not None:
                rows.append(Driven(k, control, servo, surface.mirrored and servo.count > shared))
    return tuple(rows)


def _near(design: Design, surface: Surface, servos: list[Item]) -> tuple[Item | None, int]:
    """Return the servo without a control of its own that moves those of a surface: on it, or in a body nearest."""
    free = [item for item in servos if not item.drives]
    on = next((item for item in free if item.on is not None and item.on.to == surface.id), None)
    if on is not None:
        return on, 1
    tail = surface.role in (*TAILS, "fin", "foreplane")
    bodies = [item for item in free if tail and (item.on is None or all(item.on.to != s.id for s in design.surfaces))]
    # Two in the fuselage are one each for what stands and what lies; a payload's servo is none of them.
    able = [item for item in bodies if item.group != "payload"]
    nearest = max(able, key=lambda item: (item.count, -abs(item.x - surface.x)), default=None)
    roles = {s.role for s in design.surfaces if s.controls and s.role in (*TAILS, "fin", "foreplane")}
    return nearest, max(len(roles), 1)


def usual_linkages(design: Design) -> Linked:
    """Return how the servos aboard are usually linked to their controls, and the radio set for the throws wished.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Linked
        With ids; no radio where nothing is aboard that it could move.
    """
    numbers = Numbers([*all_idents(design), *all_idents(design.aside), *references(design)])
    linkages, channels = [], []
    for row in driven(design):
        one = numbered(_linked(design, row), KIND_OF["linkages"], numbers)
        linkages.append(one)
        channels += list(_channels(design, row, one))
    channels += list(_motors(design))
    if not channels:
        return Linked(tuple(linkages), None)
    way = "hard" if design.brief.purpose in _HARD else "calm"
    high, low, expo = _RATES[way]
    used = {part.stick for channel in channels for part in channel.mix}
    rates = tuple(Rate(stick=stick, high=high, low=low, expo=expo) for stick in _STICKS if stick in used)
    radio = Radio(channels=tuple(channels), rates=rates)
    return Linked(tuple(linkages), numbered(radio, KIND_OF["radio"], numbers))


def _place(design: Design, row: Driven) -> tuple[float, float, float]:
    """Return the horn's place out, and the servo's shaft ahead of the hinge and over it, m."""
    surface, control, item = design.surfaces[row.surface], row.control, row.item
    on_it = item.on is not None and item.on.to == surface.id
    inner = control.start + _HORN_OUT * (control.end - control.start)
    out = min(max(item.on.out, control.start), control.end) if on_it and item.on is not None else inner
    chords = np.interp(out, [s.y for s in surface.stations], [s.chord for s in surface.stations])
    lead = np.interp(out, [s.y for s in surface.stations], [s.x for s in surface.stations])
    hinge = surface.x + float(lead) + (1 - float(hinge_share(surface, control, [out])[0])) * float(chords)
    ahead = max(hinge - item.x, _NEAREST)
    if on_it or is_upright(surface):
        return round(out, 4), round(ahead, 4), 0.0
    up = min(max(item.z - surface.z, -_HIGHEST), _HIGHEST)
    return round(out, 4), round(ahead, 4), round(up, 4)


def _linked(design: Design, row: Driven) -> Linkage:
    """Return the linkage of a control, with the holes and the tooth that give its throws best."""
    out, ahead, up = _place(design, row)
    surface = design.surfaces[row.surface]
    one = Linkage(
        control=row.control.id,
        servo=row.item.id,
        out=out,
        ahead=ahead,
        up=up,
        port="mirrored" if row.own else "joined" if _turn_alike(surface, row.control) else "opposed",
        hinge=Hinge(kind=hinge_kind(surface.built)),
    )
    while blocked([(one, surface, row.control)], design.bodies) and out + _ASIDE < row.control.end:
        # Beside the body: a horn inside it strikes its wall.
        out = round(out + _ASIDE, 4)
        one = one.model_copy(update={"out": out})
    wish = Throw(*travel(row.control, design.brief.purpose))
    mass = servo_mass(row.item) or _PLAIN
    own = next((arms, horns) for most, arms, horns in HOLES if mass <= most)
    every = tuple(tuple(sorted({hole for holes in kinds for hole in holes})) for kinds in
                  ([arms for _m, arms, _h in HOLES], [horns for _m, _a, horns in HOLES]))  # fmt: skip
    for arms, horns in (own, every):
        found = settings_for(one, wish, arms, horns)
        if found:
            holes = {
                "arm_holes": tuple(sorted({*own[0], found[0].arm})),
                "horn_holes": tuple(sorted({*own[1], found[0].horn})),
            }
            one = fitted(one, found[0]).model_copy(update=holes)
            break
    return _with_rod(one, ahead, 0.5 * stall_torque(given(row.item.servo), mass) / one.arm)


def _turn_alike(surface: Surface, control: ControlSurface) -> bool:
    """Tell whether both sides of a control go the same way, seen by either panel, for its first stick."""
    stick = FOLLOWS[control.kind][0]
    return wanted(surface, control.kind, "starboard", stick) == wanted(surface, control.kind, "port", stick)


def _with_rod(one: Linkage, long: float, push: float) -> Linkage:
    """Return a linkage with the lightest rod that a push does not buckle, in guides where it needs them."""
    for stock, size, inner, modulus in _RODS:
        trial = one.model_copy(
            update={"rod": stock, "rod_size": size, "rod_inner": inner, "rod_modulus": modulus, "guides": 0.0}
        )
        apart = guides_for(trial, push)
        if apart >= _LONGER * long and long <= _GUIDED:
            return trial
        if apart >= _CLOSEST:
            return trial.model_copy(update={"guides": round(min(apart, _GUIDES), 4)})
    return trial.model_copy(update={"guides": round(apart, 4)})


def hinge_kind(built: SurfaceBuild | None) -> HingeKind:
    """Return how a surface's controls hang, by how it is built; tape where that is not said."""
    return "tape" if built is None else _HINGES.get(built.hinge, "tape")


def _channels(design: Design, row: Driven, one: Linkage) -> Iterator[Channel]:
    """Yield a channel for each servo of a control."""
    surface, control = design.surfaces[row.surface], row.control
    sides: tuple[SideName, ...] = ("starboard", "port") if row.own else ("starboard",)
    for side in sides:
        mix = tuple(
            Amount(
                stick=stick, amount=round(wanted(surface, control.kind, side, stick) * share_of(control.kind, stick), 4)
            )
            for stick in FOLLOWS[control.kind]
        )
        rises_down = float(travel_of(one, side).at(0.05)) > 0
        name = f"{_SIDES[side]} {control.kind}" if row.own else control.kind
        yield Channel(
            name=name,
            moves=(one.id,),
            side=side if row.own else "both",
            mix=mix,
            reversed=not rises_down,
        )


def _motors(design: Design) -> Iterator[Channel]:
    """Yield the throttle's channels: one for all motors, or one a side where they turn the aircraft."""
    power = design.power
    if power is None:
        return
    mounts = tuple(mount.id for mount in power.mounts)
    yaws = any("yaw" in FOLLOWS[c.kind] for s in design.surfaces for c in s.controls)
    apart = [mount for mount in power.mounts if mount.mirrored or abs(mount.y) > 0.01]
    if yaws or power.motors < 2 or not apart:
        yield Channel(name="throttle", moves=mounts, mix=(Amount(stick="throttle"),))
        return
    ways: tuple[tuple[SideName, float], ...] = (("starboard", -1.0), ("port", 1.0))
    for side, way in ways:
        mine = tuple(m.id for m in power.mounts if m.mirrored or (m.y > 0) == (side == "starboard"))
        yield Channel(
            name=f"{_SIDES[side]} throttle",
            moves=mine,
            side=side,
            mix=(Amount(stick="throttle"), Amount(stick="yaw", amount=way * _TURNS_BY_THRUST)),
        )
