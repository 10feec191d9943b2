"""The stage of what holds the aircraft together: each fastening's load over what it bears."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.brief import Brief
from ridgeline.design.fastening import Fastening
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.servo import stall_torque
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.placed import relative_sizes
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.register import JOINT_SHARE
from ridgeline.engine.stages.bearing import Bearing, tail_lift, tail_slope
from ridgeline.engine.stages.common import NO_MASS, Air, Outcome
from ridgeline.engine.stages.flexing import Flexed, settled
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.standing import Standing
from ridgeline.engine.structure.beam import Force, carried
from ridgeline.engine.structure.bracing import braced, braces_of
from ridgeline.engine.structure.fastened import shares_of
from ridgeline.engine.structure.fastening_laws import Doing, Motor, Plate, Pull, Share, Tail
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.span_load import within_seat

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
    braces: tuple[Fastening, ...],
) -> Outcome[Held | None]:
    """Judge every fastening."""
    if found is None or flex is None or mass.state is None:
        return Outcome(None, tuple(absent(JOINT_SHARE.key(one.id), NO_MASS) for one in fastenings))
    weighed = {item.id: float(m) for item, m in zip(parts, mass.expected, strict=True)}
    pressure = 0.5 * here.density * (found.dive if found.dive is not None else 2 * found.cases[0].speed) ** 2
    tail = Tail(*_tail(surfaces, brief.purpose, pressure), pressure)
    parted = _Parts(surfaces, bodies, parts, power, weighed, flex, found, halves, braces)
    landing = next(case.inertia for case in found.cases if case.key == "landing")
    doing = Doing(
        found.factor,
        mass.state.mass,
        landing,
        _motor(power, stand),
        tail,
        parted.mass,
        parted.length,
        parted.elbow,
        parted.depth,
        parted.servo,
        parted.plate,
        parted.pull,
        found.swing,
        brief.temperature_c,
    )
    rows = tuple((one, shares_of(one, doing)) for one in fastenings)
    return Outcome(Held(rows, doing), tuple(_figure(one, shares[0]) for one, shares in rows))


def _motor(power: PowerTrain | None, stand: Standing | None) -> Motor:
    """Return what one motor does standing at full throttle; nothing without one."""
    if power is None or stand is None:
        return Motor()
    speed = max(float(stand.point.omega), 1e-6)
    torque, warm = float(stand.point.shaft_power) / speed, float(stand.point.winding_rise)
    radius = 0.5 * power.propeller.diameter
    return Motor(stand.thrust / power.motors, torque, warm, power.propeller.blades, radius)


def _figure(one: Fastening, share: Share) -> Figure:
    return derive(
        JOINT_SHARE.key(one.id),
        "{load}/{bears}",
        lambda load, bears: load / bears,
        {
            "load": Put(share.load, share.acts, share.quantity),
            "bears": Put(share.bears, "may bear", share.quantity, _SIGMA * share.bears),
        },
        source="second part of the handbook §16.3, 16.6",
        note=one.name,
    )


class _Parts(NamedTuple):
    """What fastenings ask of the parts they hold, by their ids."""

    surfaces: tuple[Surface, ...]
    bodies: tuple[Body, ...]
    parts: tuple[Item, ...]
    power: PowerTrain | None
    weighed: dict[str, float]
    flex: Flexed
    found: Bearing
    halves: tuple[Half | None, ...]
    braces: tuple[Fastening, ...]

    def _place(self, ident: str) -> int | None:
        return next((k for k, surface in enumerate(self.surfaces) if surface.id == ident), None)

    def _is_mount(self, ident: str) -> bool:
        return self.power is not None and any(mount.id == ident for mount in self.power.mounts)

    def mass(self, ident: str) -> float:
        """Return the mass of a surface with what hangs on it, of a motor at its mount, or of an item, kg."""
        place = self._place(ident)
        if place is not None:
            return self.flex.hanging[place].total * (2 if self.surfaces[place].mirrored else 1)
        return self.power.motor.mass if self.power and self._is_mount(ident) else self.weighed.get(ident, 0.0)

    def length(self, ident: str) -> float:
        """Return the length of a motor before its mount, or of a body, m; nothing of others."""
        if self.power is not None and self._is_mount(ident):
            return self.power.motor.length
        found = (body for body in self.bodies if body.id == ident)
        return next((float(body.stations[-1].x - body.stations[0].x) for body in found), 0.0)

    def elbow(self, ident: str, out: float) -> float:
        """Return the worst moment of a wing, or of the main wing, at a place out, N m."""
        place = self._place(ident)
        k = self.found.main if place is None else place
        own, half = self.found.borne[k], self.halves[k]
        return 0.0 if own is None or half is None else float(np.interp(out, half.y, np.abs(own.moment).max(axis=0)))

    def depth(self, ident: str, out: float) -> float:
        """Return how deep a wing is at a place out, m."""
        place = self._place(ident)
        surface = self.surfaces[self.found.main if place is None else place]
        chord = np.interp(out, [s.y for s in surface.stations], [s.chord for s in surface.stations])
        return relative_sizes(surface)[0] * float(chord)

    def servo(self, ident: str) -> float:
        """Return the torque at which a servo stalls, N m; nothing of what is none."""
        item = next((item for item in self.parts if item.id == ident and item.servo is not None), None)
        if item is None or item.servo is None:
            return 0.0
        return stall_torque(item.servo, self.weighed[ident] / item.count)

    def plate(self, ident: str, out: float, force: float) -> Plate | None:
        """Return what a force square to a surface at a place out does to it; None where that is not known."""
        place = self._place(ident)
        half = None if place is None else self.halves[place]
        if half is None or not half.y[0] < out <= half.y[-1]:
            return None
        load = within_seat(carried(half.y, np.zeros_like(half.y), [Force(out, force)]), half.y, half.seat)
        share = load.moment / np.maximum(half.bears, 1e-9)
        at = int(np.argmax(share))
        bend = float(np.interp(out, half.y, settled(half, load)))
        return Plate(float(load.moment[at]), float(half.bears[at]), bend)

    def pull(self, one: Fastening) -> Pull | None:
        """Return what a strut or thread does in all cases, as it is said now; None where it holds nothing."""
        others = tuple(one if other.id == one.id else other for other in self.braces)
        every = others if any(other is one for other in others) else (*others, one)
        found = braced(self.halves, self.found.free, braces_of(every, self.surfaces, self.bodies, self.halves))
        index = next((k for k, brace in enumerate(found.braces) if brace.ident == one.id), None)
        if index is None:
            return None
        along = found.pulls[:, index]
        return Pull(max(float(along.max()), 0.0), max(float(-along.min()), 0.0), found.braces[index].long)


def _tail(surfaces: tuple[Surface, ...], purpose: str, pressure: float) -> tuple[float, float, float]:
    """Return the greatest load of tail or fin at a dynamic pressure, N, and area m² and lift slope of the tail."""
    worst = area = slope = 0.0
    for surface in surfaces:
        if surface.role not in (*TAILS, "fin"):
            continue
        size = measure_surface(surface).area
        worst = max(worst, float(pressure * size * tail_lift(surface, purpose)))
        if not is_upright(surface) and size > area:
            area, slope = size, tail_slope(surface)
    return worst, area, slope
