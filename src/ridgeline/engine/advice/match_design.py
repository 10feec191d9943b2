"""What a design asks of a match: its airframe and wishes, the shelf to search, and how a match is fitted."""

from __future__ import annotations

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Pack, PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import pack_on_rail
from ridgeline.engine.advice.match import Match, Wishes
from ridgeline.engine.figures import Report
from ridgeline.engine.geometry.clearance import clearance_of
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.power.survey import Airframe, Survey
from ridgeline.engine.sizing.matching import packs_in_hand
from ridgeline.engine.sizing.purposes import PURPOSES

GROUND_CLEARANCE, _PART_CLEARANCE = 0.025, 0.004


def airframe_of(design: Design, report: Report) -> Airframe | None:
    """Return what carries the power train of a design; None before it has one, with wing and mass."""
    train, mass, speeds = design.power, report.results["masses"], report.results["speeds"]
    ref, model, here = report.results["shape"].reference, report.results["polar"], report.results["air"]
    if train is None or mass.state is None or speeds is None or ref is None:
        return None
    links = ("motor", "esc", "propeller", "pack")
    own = np.array([part.component in links for part in design.parts])
    rest, x = mass.items.mass[~own], mass.items.place[~own, 0]
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


def _place_of(design: Design, link: str) -> float:
    assert design.power is not None
    found = [part.x for part in design.parts if part.component == link]
    return found[0] if found else design.power.x


def wishes_of(design: Design, report: Report) -> Wishes:
    """Return what the brief, the geometry and the balance ask of a power train."""
    train, brief = design.power, design.brief
    assert train is not None
    low = min(brief.thrust_ratio, PURPOSES[brief.purpose].thrust_ratio[1])
    index = pack_on_rail(design)
    rail = design.parts[index].rail if index is not None else None
    balanced, ref = report.results["balance"], report.results["shape"].reference
    window = None
    if balanced is not None and balanced.target is not None and ref is not None:
        ends = (balanced.first_throw[0], balanced.target[1])
        window = (ref.mac_x_le + min(ends) * ref.mac, ref.mac_x_le + max(ends) * ref.mac)
    return Wishes(
        thrust_ratio=low,
        seconds=brief.endurance,
        ceiling=brief.ceiling,
        largest_propeller=largest_propeller(design),
        bay=rail.back - rail.front if rail is not None else 1.0,
        balance=window,
    )


def largest_propeller(design: Design) -> float:
    """Return the largest propeller, m, that keeps 25 mm off the ground and clear of the airframe."""
    train = design.power
    assert train is not None

    def fits(radius: float) -> bool:
        found = clearance_of(train.mounts, radius, design.surfaces, design.bodies, design.wheels)
        ground = found.ground is None or found.ground >= GROUND_CLEARANCE
        return ground and (found.nearest is None or found.nearest >= _PART_CLEARANCE)

    low, high = 0.01, 0.5
    if fits(high):
        return 2 * high
    # Where not even a small disc clears, the present one is the builder's own decision.
    if not fits(low):
        return train.propeller.diameter
    for _ in range(12):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if fits(middle) else (low, middle)
    return max(2 * low, 0.0)


def candidates(design: Design, shelf: Shelf, report: Report) -> Survey | None:
    """Return the survey of a shelf on a design: fans only where there is one, and the packs the brief names."""
    frame = airframe_of(design, report)
    if frame is None or design.power is None:
        return None
    fan = design.power.propeller.family == "ducted_fan"
    blades = tuple(p for p in shelf.propellers if (p.family == "ducted_fan") == fan)
    return Survey(shelf.motors, blades, packs_in_hand(design.brief, shelf), shelf.escs, frame)


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
        *exchange(design, "motor", match.motor, match.motor.name.replace("Outrunner", "Motor").partition(",")[0]),
        *exchange(design, "esc", match.esc, match.esc.name),
        *exchange(design, "propeller", match.propeller, f"Propeller {size_words(match.propeller)}"),
        *exchange(design, "pack", match.pack, f"Pack {match.pack.name}"),
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


def neighbours(train: PowerTrain, shelf: Shelf) -> dict[str, tuple[PowerTrain, ...]]:
    """Return one-link variations: same motor, other propeller; same propeller, one cell more or less."""
    ratio = train.propeller.diameter
    props = [p for p in shelf.propellers if abs(p.diameter - ratio) < 0.045 and p.family != "ducted_fan"]
    by_cells: dict[int, Pack] = {}
    energy = train.pack.cells * train.pack.capacity_ah
    for pack in sorted(shelf.packs, key=lambda p: abs(p.cells * p.capacity_ah - energy)):
        by_cells.setdefault(pack.cells, pack)
    near = [by_cells[c] for c in sorted(by_cells) if abs(c - train.pack.cells) == 1]
    return {
        "propeller": tuple(train.model_copy(update={"propeller": p}) for p in props),
        "pack": tuple(train.model_copy(update={"pack": p}) for p in near),
    }
