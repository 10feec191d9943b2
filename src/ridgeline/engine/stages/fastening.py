"""The stage of what holds the aircraft together: each fastening's load over what it bears."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.brief import Brief
from ridgeline.design.fastening import Fastening
from ridgeline.design.hinges import mean_share
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS
from ridgeline.engine.aero.flap import effective_deflection, flap_effectiveness
from ridgeline.engine.aero.sections import SLOPE_FACTOR
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.placed import mean_chord_of, relative_sizes
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.stages.bearing import SLIP, TAIL_MOST, Bearing
from ridgeline.engine.stages.common import NO_MASS, Air, Outcome
from ridgeline.engine.stages.flexing import Flexed
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.standing import Standing
from ridgeline.engine.structure.fastened import Doing, Share, shares_of
from ridgeline.engine.structure.half import Half

#: Key of the figure of a fastening, before its id.
JOINT = "structure.joint_share."
#: One sigma of load over strength of a fastening, as a share (chosen: bands age, bonds and hands differ).
_SIGMA = 0.35 / BAND


@dataclass(frozen=True, eq=False)
class Held:
    """Fastenings with what each bears, nearest first, and what the aircraft does to them."""

    rows: tuple[tuple[Fastening, tuple[Share, ...]], ...]
    doing: Doing


def fastened(
    fastenings: tuple[Fastening, ...],
    found: Bearing | None,
    flex: Flexed | None,
    halves: tuple[Half | None, ...],
    mass: Masses,
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    stand: Standing | None,
    here: Air,
    brief: Brief,
) -> Outcome[Held | None]:
    """Judge every fastening."""
    if found is None or flex is None or mass.state is None:
        return Outcome(None, tuple(absent(JOINT + one.id, NO_MASS) for one in fastenings))
    doing = _doing(found, flex, halves, mass, parts, power, surfaces, bodies, stand, here, brief)
    rows = tuple((one, shares_of(one, doing)) for one in fastenings)
    return Outcome(Held(rows, doing), tuple(_figure(one, shares[0]) for one, shares in rows))


def _figure(one: Fastening, share: Share) -> Figure:
    return derive(
        JOINT + one.id,
        "{load}/{bears}",
        lambda load, bears: load / bears,
        {
            "load": Put(share.load, share.words, share.quantity),
            "bears": Put(share.bears, "may bear", share.quantity, _SIGMA * share.bears),
        },
        source="second part of the handbook §16.3, 16.6",
        note=one.name,
    )


def _doing(
    found: Bearing,
    flex: Flexed,
    halves: tuple[Half | None, ...],
    mass: Masses,
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    stand: Standing | None,
    here: Air,
    brief: Brief,
) -> Doing:
    assert mass.state is not None
    weights = mass.expected
    by_item = {item.id: float(m) for item, m in zip(parts, weights, strict=True)}
    places = {surface.id: k for k, surface in enumerate(surfaces)}
    mounts = {mount.id for mount in power.mounts} if power is not None else set()
    engine = 0.0 if power is None else power.motor.mass
    booms = {body.id: float(body.stations[-1].x - body.stations[0].x) for body in bodies}

    def masses(ident: str) -> float:
        if ident in places:
            hung = flex.hanging[places[ident]]
            return hung.total * (2 if surfaces[places[ident]].mirrored else 1)
        return engine if ident in mounts else by_item.get(ident, 0.0)

    def lengths(ident: str) -> float:
        return power.motor.length if power is not None and ident in mounts else booms.get(ident, 0.0)

    def elbows(ident: str, out: float) -> float:
        k = places.get(ident, found.main)
        own, half = found.borne[k], halves[k]
        return 0.0 if own is None or half is None else float(np.interp(out, half.y, np.abs(own.moment).max(axis=0)))

    def depths(ident: str, _out: float) -> float:
        surface = surfaces[places.get(ident, found.main)]
        return relative_sizes(surface)[0] * mean_chord_of(surface)

    pressure = 0.5 * here.density * (found.dive if found.dive is not None else 2 * found.cases[0].speed) ** 2
    tail, area, slope = _tail(surfaces, brief.purpose, pressure)
    landing = next(case.inertia for case in found.cases if case.key == "landing")
    motors = 1 if power is None else power.motors
    thrust = 0.0 if stand is None else stand.thrust / motors
    return Doing(
        found.factor, mass.state.mass, landing, thrust, tail, area, slope, pressure, masses, lengths, elbows, depths
    )


def _tail(surfaces: tuple[Surface, ...], purpose: str, pressure: float) -> tuple[float, float, float]:
    """Return the greatest load of tail or fin at a dynamic pressure, N, and area m² and lift slope of the tail."""
    plain = SLOPE_FACTOR * 2 * math.pi
    worst = area = slope = 0.0
    for surface in surfaces:
        if surface.role not in (*TAILS, "fin"):
            continue
        shape = measure_surface(surface)
        here = plain / (1 + plain / (math.pi * max(shape.aspect_ratio, 0.5)))
        effects = [
            flap_effectiveness(mean_share(surface, c)) * effective_deflection(max(travel(c, purpose)))
            for c in surface.controls
            if c.kind in PITCH_CONTROLS
        ]
        angle = SLIP if is_upright(surface) else max(effects, default=SLIP)
        worst = max(worst, float(pressure * shape.area * min(here * angle, TAIL_MOST)))
        if not is_upright(surface) and shape.area > area:
            area, slope = shape.area, here
    return worst, area, slope
