"""What a design asks of a match: its airframe and wishes, the shelf to search, and how a match is fitted."""

from __future__ import annotations

import math
from collections.abc import Collection
from typing import Any, NamedTuple

import numpy as np

from ridgeline.design.axes import mean_disc, shaft
from ridgeline.design.carrying import free_of_mounts
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Pack, PowerTrain, Propeller
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import pack_on_rail
from ridgeline.engine.advice.match import Match, Wishes
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import drag, drag_sigma_of, thrust_left
from ridgeline.engine.geometry.clearance import LEAST_APART, LEAST_GROUND, clearance_of
from ridgeline.engine.power.aboard import called_aboard
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.discharge import Profile, discharge
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.scatter import Scatter, scatter_of, widened_past_mach
from ridgeline.engine.power.survey import Airframe, Survey
from ridgeline.engine.report import Report
from ridgeline.engine.roots import edge_in
from ridgeline.engine.sizing.matching import packs_in_hand
from ridgeline.engine.sizing.purposes import PURPOSES

#: A propeller this much larger or smaller is no neighbour, m.
_NEAR_SIZE = 0.045


def airframe_of(design: Design, report: Report) -> Airframe | None:
    """Return what carries the power train of a design; None before it has one, with wing and mass.

    Parameters
    ----------
    design : Design
    report : Report

    Returns
    -------
    Airframe or None
    """
    train, mass, speeds = design.power, report.results.masses, report.results.speeds
    ref, model, here = report.results.shape.reference, report.results.polar, report.results.air
    if train is None or mass.state is None or speeds is None or ref is None:
        return None
    links = ("motor", "esc", "propeller", "pack")
    own = np.array([part.component in links for part in design.parts])
    rest, x = mass.expected[~own], mass.items.place[~own, 0]
    place = {link: _place_of(design, link) for link in links}
    index = pack_on_rail(design)
    rail = design.parts[index].rail if index is not None and design.parts[index].component == "pack" else None
    front, back = (rail.front, rail.back) if rail is not None else (place["pack"], place["pack"])
    brief = design.brief
    return Airframe(
        rest=float(rest.sum()),
        rest_moment=float(rest @ x),
        motor_x=place["motor"],
        esc_x=place["esc"],
        propeller_x=place["propeller"],
        longer=_way_of(design),
        motor_length=train.motor.length,
        pack_front=front,
        pack_back=back,
        stall=speeds.stall,
        stall_mass=mass.state.mass,
        cruise_ratio=brief.cruise_ratio,
        air_density=here.density,
        viscosity=here.viscosity,
        temperature_c=brief.temperature_c,
        drag=model,
        profile=Profile(brief.climb_seconds, brief.full_share),
        motors=train.motors,
        pack_series=train.pack_series,
        pack_parallel=train.pack_parallel,
        lead_resistance=train.lead_resistance,
        receiver=report.value("power.receiver_load") or 0.0,
    )


def _way_of(design: Design) -> float:
    """Return how far the disc moves aft for each m of a longer motor: what hangs on the mount goes along."""
    assert design.power is not None
    if free_of_mounts(design):
        return 0.0
    mount = design.power.mounts[0]
    return shaft(mount)[0] * (-1.0 if mount.pusher else 1.0)


def _place_of(design: Design, link: str) -> float:
    assert design.power is not None
    found = [part.x for part in design.parts if part.component == link]
    return found[0] if found else mean_disc(design.power)[0]


def wishes_of(design: Design, report: Report) -> Wishes:
    """Return what the brief, the geometry and the balance ask of a power train.

    Parameters
    ----------
    design : Design
    report : Report

    Returns
    -------
    Wishes
    """
    train, brief = design.power, design.brief
    assert train is not None
    low = min(brief.thrust_ratio, PURPOSES[brief.purpose].thrust_ratio[1])
    index = pack_on_rail(design)
    rail = design.parts[index].rail if index is not None else None
    targets, ref = report.results.targets, report.results.shape.reference
    window = None
    if targets is not None and ref is not None:
        ends = (targets.first_throw[0], targets.settled[1])
        window = (ref.at(min(ends)), ref.at(max(ends)))
    return Wishes(
        thrust_ratio=low,
        seconds=brief.endurance,
        ceiling=brief.ceiling,
        largest_propeller=largest_propeller(design),
        bay=rail.back - rail.front if rail is not None else 1.0,
        balance=window,
    )


def largest_propeller(design: Design) -> float:
    """Return the largest propeller, m, that keeps 25 mm off the ground and clear of the airframe.

    Parameters
    ----------
    design : Design
        With a power train.

    Returns
    -------
    float
        Diameter, m.
    """
    train = design.power
    assert train is not None

    def fits(radius: float) -> bool:
        found = clearance_of(train, radius, design.surfaces, design.bodies, design.wheels)
        ground = found.ground is None or found.ground >= LEAST_GROUND
        return ground and (found.nearest is None or found.nearest >= LEAST_APART)

    low, high = 0.01, 0.5
    if fits(high):
        return 2 * high
    # Where not even a small disc clears, the present one is the builder's own decision.
    if not fits(low):
        return train.propeller.diameter
    return 2 * edge_in(fits, low, high, 1e-4)


def candidates(
    design: Design, shelf: Shelf, report: Report, scope: str = "all", own: Collection[str] = ()
) -> Survey | None:
    """Return the survey of a shelf on a design; None before there is a power train on a wing.

    Fans are looked at only where there is one. What may be chosen freely keeps to the packs the brief names; a scope
    that changes one link keeps the others as they are fitted.

    Parameters
    ----------
    scope : str
        ``all``, ``bin`` (what lies there), or the one link that may change: ``motor``, ``propeller``, ``pack``.
    own : collection of str
        Names of the parts in the builder's bin.
    """
    frame, train = airframe_of(design, report), design.power
    if frame is None or train is None:
        return None
    fan = train.propeller.family == "ducted_fan"
    blades = tuple(p for p in shelf.propellers if (p.family == "ducted_fan") == fan)
    shelf = shelf._replace(propellers=blades)
    if scope == "bin":
        kept = {kind: tuple(p for p in getattr(shelf, kind) if p.name in own) for kind in _CHOSEN}
        shelf = shelf._replace(**kept)
    if scope in ("all", "bin"):
        shelf = shelf._replace(packs=packs_in_hand(design.brief, shelf))
    else:
        shelf = _one_link(train, shelf, scope)
    return Survey(shelf.motors, shelf.propellers, shelf.packs, shelf.escs, frame)


_CHOSEN = ("motors", "propellers", "packs")


def _one_link(train: PowerTrain, shelf: Shelf, link: str) -> Shelf:
    """Keep what is fitted, and offer its neighbours in one link, the fitted part first."""
    near: tuple[Any, ...] = {
        "motor": shelf.motors,
        "propeller": near_propellers(train, shelf),
        "pack": near_packs(train, shelf),
    }[link]
    same = shelf._replace(motors=(train.motor,), propellers=(train.propeller,), packs=(train.pack,))
    fitted: Any = getattr(train, link)
    return same._replace(**{f"{link}s": (fitted, *(p for p in near if p.name != fitted.name))})


def fit(design: Design, match: Match, aim: float | None = None) -> tuple[Change, ...]:
    """Return the edits that fit a match as one step, the pack slid to where it balances best.

    Parameters
    ----------
    aim : float, optional
        Balance point wanted, m; the pack goes as near as its bay lets it.
    """
    train = design.power
    assert train is not None and match.esc is not None
    changes = [
        *exchange(design, "motor", match.motor, called_aboard(match.motor)),
        *exchange(design, "esc", match.esc, called_aboard(match.esc)),
        *exchange(design, "propeller", match.propeller, called_aboard(match.propeller)),
        *exchange(design, "pack", match.pack, called_aboard(match.pack)),
    ]
    index = pack_on_rail(design)
    if aim is not None and index is not None and design.parts[index].component == "pack":
        rail = design.parts[index].rail
        assert rail is not None
        length = min(match.pack.length, rail.back - rail.front)
        ends = rail.front + length / 2, rail.back - length / 2
        low, high = match.balance
        share = 0.5 if high - low < 1e-9 else (aim - low) / (high - low)
        changes.append(Change(f"parts[{index}].x", ends[0] + min(max(share, 0.0), 1.0) * (ends[1] - ends[0])))
    return tuple(changes)


class Doubts(NamedTuple):
    """One-sigma errors of a match by what is not known of its parts: thrust ratio, full throttle A, time aloft s."""

    ratio: float
    current: float
    seconds: float


def doubts_of(design: Design, report: Report, match: Match) -> Doubts:
    """Return how far a match may be from what it promises.

    Parameters
    ----------
    design : Design
        With a power train, whose mounts and wiring the match would be fitted to.
    """
    assert design.power is not None
    parts = {"motor": match.motor, "propeller": match.propeller, "pack": match.pack, "bench_fit": None}
    train = design.power.model_copy(update=parts | ({} if match.esc is None else {"esc": match.esc}))
    air, temperature = report.results.air, design.brief.temperature_c
    link = chain(train, 1.0, temperature)
    link = widened_past_mach(link, float(solve(link, 1.0, 0.0, air.density).omega))
    scatter = scatter_of(train, link, drag_sigma_of(design.learnt))
    moved = solve(scatter.moved(link), 1.0, 0.0, air.density)
    ratio, current = (float(scatter.sigma(v)) for v in (moved.thrust / (match.mass * GRAVITY), moved.pack_current))
    return Doubts(ratio, current, _time_doubt(design, report, match, train, scatter))


def _time_doubt(design: Design, report: Report, match: Match, train: PowerTrain, scatter: Scatter) -> float:
    """Return the one-sigma error of a match's time aloft, s, by the stepped discharge's share of it."""
    model, speeds, air = report.results.polar, report.results.speeds, report.results.air
    auw = report.value("mass.auw")
    if model is None or speeds is None or auw is None:
        return 0.0
    cruise = speeds.cruise * math.sqrt(match.mass / auw)
    level = float(drag(model, cruise, match.mass, air.density, air.viscosity))
    flown = discharge(
        train,
        drag_level=level / thrust_left(model, train.propeller.diameter),
        speed_level=cruise,
        speed_climb=cruise,
        air_density=air.density,
        temperature_c=design.brief.temperature_c,
        profile=Profile(design.brief.climb_seconds, design.brief.full_share),
        scatter=scatter,
    )
    return 0.0 if flown is None or flown.total <= 0 else match.seconds * flown.total_sigma / flown.total


def near_propellers(train: PowerTrain, shelf: Shelf) -> tuple[Propeller, ...]:
    """Return the propellers of about the size that is fitted."""
    size = train.propeller.diameter
    return tuple(p for p in shelf.propellers if abs(p.diameter - size) < _NEAR_SIZE and p.family != "ducted_fan")


def near_packs(train: PowerTrain, shelf: Shelf) -> tuple[Pack, ...]:
    """Return the packs of one cell more and one less that come nearest to the energy of the one fitted."""
    energy = train.pack.cells * train.pack.capacity_ah
    found = []
    for cells in (train.pack.cells - 1, train.pack.cells + 1):
        packs = [p for p in shelf.packs if p.cells == cells]
        found += sorted(packs, key=lambda p: abs(p.cells * p.capacity_ah - energy))[:1]
    return tuple(found)
