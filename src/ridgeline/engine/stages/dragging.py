"""What stands in the wind: the drag list, the polar of the whole aircraft, and what its propellers blow on."""

from __future__ import annotations

import math
from dataclasses import replace

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.axes import all_discs
from ridgeline.design.drag_items import DragItem
from ridgeline.design.flights import Learnt
from ridgeline.design.parts import Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.drag import DragModel, drag_sigma_of, scrubbed
from ridgeline.engine.aero.drag_list import Hindrance, hindrances
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.aero.slipstream import Scrubbed, thrust_lost
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.power import thermal
from ridgeline.engine.stages.common import NO_POWER, NO_WING, Air, Last, Outcome
from ridgeline.engine.stages.shape import Bodies, Shape
from ridgeline.engine.stages.standing import Standing

_WASH, _LIST = "power.wash_drag", "drag.standing_out"
#: What stands in the wash is known to a half (90 %): turning flow, gaps, legs.
_WASH_SIGMA = 0.5 / BAND
#: Mounts, nacelles and the inflow's own drag, as a share of the thrust: what no airframe is without.
_LEAST_LOST = 0.01 / BAND
#: Airspeed at which cooling air must carry the heat, over the pitch speed: about where it climbs.
_CLIMB_SHARE = 0.5
_NAMED = 6


def drag_list(
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    wheels: tuple[Wheel, ...],
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    added: tuple[DragItem, ...],
    stand: Standing | None,
    here: Air,
    memory: Last | None = None,
) -> Outcome[tuple[Hindrance, ...]]:
    """List what stands in the wind beside wing, tail and the skin of the bodies."""
    found = hindrances(surfaces, bodies, wheels, parts, power, added, _inlet(bodies, power, stand, here))
    if memory is not None:
        found = memory.same(found)
    named = found[:_NAMED]
    row = {f"a_{k}": Put(one.drag_area, one.words, "drag_area", one.sigma) for k, one in enumerate(named)}
    rest = found[_NAMED:]
    if rest:
        # They err each on its own.
        sigma = math.sqrt(sum(one.sigma**2 for one in rest))
        row["rest"] = Put(sum(one.drag_area for one in rest), f"{len(rest)} smaller ones", "drag_area", sigma)
    figure = derive(
        _LIST,
        " + ".join(f"{{{name}}}" for name in row) or "nothing stands out",
        lambda **areas: sum(areas.values()),
        row,
        source="docs/theory.md §8",
        note="drag over dynamic pressure: a plate of this size across the wind drags about as much",
    )
    return Outcome(found, (figure,))


def _inlet(bodies: tuple[Body, ...], power: PowerTrain | None, stand: Standing | None, here: Air) -> float:
    """Return the opening for cooling air, m²: the one told, or else what the heat of full throttle asks for.

    A drive that no body encloses needs none.
    """
    if power is None or power.cooling_inlet > 0:
        return 0.0 if power is None else power.cooling_inlet
    enclosed = any(b.kind != "boom" and (b.built is None or b.built.form not in ("profile", "stick")) for b in bodies)
    if stand is None or not enclosed or power.propeller.family == "ducted_fan":
        return 0.0
    heat = power.motors * float(stand.point.esc_heat) + float(stand.point.pack_heat)
    speed = _CLIMB_SHARE * power.propeller.pitch * stand.rpm / 60
    return thermal.inlet_area(heat, speed, here.density) if speed > 0 else 0.0


def polar(
    form: Shape,
    body: Bodies,
    surfaces: tuple[Surface, ...],
    model_of: AirframeLattice | None,
    bodies: tuple[Body, ...],
    power: PowerTrain | None,
    listed: tuple[Hindrance, ...],
    learnt: Learnt,
) -> Outcome[DragModel | None]:
    """Collect what the drag of the whole aircraft needs, and what its propellers blow on."""
    ref = form.reference
    if ref is None:
        return Outcome(None, (absent(_WASH, NO_WING),))
    tail = [s for s in form.surfaces if s.role not in WINGS]
    tail_area = sum(s.area for s in tail)
    model = DragModel(
        area=ref.area,
        aspect_ratio=ref.aspect_ratio,
        mac=ref.mac,
        wing_section=section_of(next(s for s in surfaces if s.role in WINGS)),
        tail_area=tail_area,
        tail_chord=sum(s.area * s.mean_chord.length for s in tail) / tail_area if tail_area else 0.0,
        body_wetted=sum(b.wetted for b in body.bodies),
        body_length=max((b.length for b in body.bodies), default=0.0),
        standing_out=sum(one.drag_area for one in listed),
        washed=_washed(surfaces, bodies, power),
        factor=learnt.drag_factor or 1.0,
        sigma=drag_sigma_of(learnt),
    )
    if model_of is not None and model_of.induced_k > 0:
        efficiency = 1 / (math.pi * model_of.induced_k * ref.aspect_ratio)
        model = replace(
            model,
            span_efficiency=min(max(efficiency, 0.4), 2.0),
            body_planform=sum(b.planform for b in body.bodies),
            slope=model_of.found.alpha.lift,
            lift_level=model_of.found.zero.lift,
        )
    return Outcome(model, (_wash_lost(model, power),))


def _washed(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], power: PowerTrain | None) -> Scrubbed | None:
    """Return what the propellers blow on; a ducted fan blows clear of its own airframe."""
    if power is None or power.propeller.family == "ducted_fan":
        return None
    return scrubbed(surfaces, bodies, list(all_discs(power)))


def _wash_lost(model: DragModel, power: PowerTrain | None) -> Figure:
    """Give the share of the thrust that its own wash costs on what stands in it."""
    if power is None:
        return absent(_WASH, NO_POWER)
    diameter = power.propeller.diameter
    disc = math.pi * diameter**2 / 4 * power.motors
    lost = thrust_lost(model.washed, diameter)
    return derive(
        _WASH,
        "{f}/{A}",
        lambda f, A: f / A,
        {
            "f": Put(lost * disc, "drag areas in the wash", "drag_area", _WASH_SIGMA * lost * disc),
            "A": Put(disc, "discs", "area"),
        },
        source="docs/theory.md §11",
        model_sigma=_LEAST_LOST,
        note="taken off the thrust in flight, by as much at every speed; nothing behind the disc, nothing lost",
    )
