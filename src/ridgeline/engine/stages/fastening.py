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
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.placed import mean_chord_of, relative_sizes
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.stages.bearing import Bearing, tail_lift, tail_slope
from ridgeline.engine.stages.common import NO_MASS, Air, Outcome
from ridgeline.engine.stages.flexing import Flexed
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.standing import Standing
from ridgeline.engine.structure.fastened import Doing, Share, Tail, shares_of
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
    weighed = {item.id: float(m) for item, m in zip(parts, mass.expected, strict=True)}
    thrust = 0.0 if stand is None or power is None else stand.thrust / power.motors
    pressure = 0.5 * here.density * (found.dive if found.dive is not None else 2 * found.cases[0].speed) ** 2
    tail = Tail(*_tail(surfaces, brief.purpose, pressure), pressure)
    parted = _Parts(surfaces, bodies, power, weighed, flex, found, halves)
    landing = next(case.inertia for case in found.cases if case.key == "landing")
    doing = Doing(
        found.factor, mass.state.mass, landing, thrust, tail, parted.mass, parted.length, parted.elbow, parted.depth
    )
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


class _Parts(NamedTuple):
    """What fastenings ask of the parts they hold, by their ids."""

    surfaces: tuple[Surface, ...]
    bodies: tuple[Body, ...]
    power: PowerTrain | None
    weighed: dict[str, float]
    flex: Flexed
    found: Bearing
    halves: tuple[Half | None, ...]

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

    def depth(self, ident: str, _out: float) -> float:
        """Return how deep a wing is, m."""
        place = self._place(ident)
        surface = self.surfaces[self.found.main if place is None else place]
        return relative_sizes(surface)[0] * mean_chord_of(surface)


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
