"""What flights said of weight, balance, angles, thrust and pack: into the design by one press, out by another."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.flights import LEAST_DRAG, MOST_DRAG, Learnt, Taken, TakenKey
from ridgeline.design.paths import Change, get
from ridgeline.engine.flight.observed import Unknown
from ridgeline.engine.geometry.placed import tip_angles
from ridgeline.engine.geometry.reference import TAILS, WINGS
from ridgeline.engine.report import Report

#: Unknowns that have a place in the design.
TAKEN_IN: tuple[TakenKey, ...] = (
    "balance", "mass", "wing", "tail", "washout", "warp", "thrust", "drag", "resistance", "down", "side",
)  # fmt: skip

#: What is said with a figure that was learnt, and goes with it.
_SAID_WITH: dict[str, dict[str, object]] = {
    "balance": {"balance_sigma": 0.0},
    "mass": {"mass_sigma": 0.0},
    "drag_factor": {"drag_sigma": 0.0, "drag_from": ""},
}


def can_be_taken(design: Design, name: Unknown) -> bool:
    """Tell whether what flights say of an unknown has a place in the design.

    Parameters
    ----------
    design : Design
    name : str

    Returns
    -------
    bool
    """
    if name in ("thrust", "resistance", "down", "side"):
        return design.power is not None and (name != "resistance" or design.power.pack.cell_resistance is not None)
    return name in TAKEN_IN


def is_taken(design: Design, name: Unknown) -> bool:
    """Tell whether an unknown was taken from flights.

    Parameters
    ----------
    design : Design
    name : str

    Returns
    -------
    bool
    """
    return any(one.key == name for one in design.learnt.taken)


def taken(design: Design, report: Report, name: TakenKey, slip: float, sigma: float) -> tuple[Change, ...]:
    """Return the edits that take what flights say into the design.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    name : str
        What slipped.
    slip, sigma : float
        By how much, and one sigma of that, in the unit of `Slips`.

    Returns
    -------
    tuple of Change
        The last of them writes down what stood there before.
    """
    changes = tuple(_edits(design, report, name, slip))
    kept = list(design.learnt.taken)
    update: dict[str, object] = {}
    if name == "balance":
        update = {"balance": (design.learnt.balance or 0.0) + slip, "balance_sigma": min(sigma, 0.1)}
    elif name == "mass":
        state = report.results.masses.state
        weight = 0.0 if state is None else state.mass
        update = {"mass": (design.learnt.mass or 0.0) + slip * weight, "mass_sigma": min(sigma * weight, 2.0)}
    elif name == "drag":
        factor = (design.learnt.drag_factor or 1.0) * math.exp(slip)
        update = {"drag_factor": min(max(factor, LEAST_DRAG), MOST_DRAG), "drag_sigma": min(sigma, 1.0),
                  "drag_from": "flights together"}  # fmt: skip
    for change in changes:
        before = get(design, change.path)
        kept.append(Taken(key=name, path=change.path, before=before, after=float(change.value)))
    for field in ("balance", "mass", "drag_factor"):
        if field in update:
            after = float(update[field])  # type: ignore[arg-type]
            kept.append(Taken(key=name, path=f"learnt.{field}", before=getattr(design.learnt, field), after=after))
    learnt = design.learnt.model_copy(update={**update, "taken": tuple(kept)})
    return (*changes, Change("learnt", Learnt.model_validate(learnt.model_dump())))


def _edits(design: Design, report: Report, name: TakenKey, slip: float) -> Iterator[Change]:
    """Yield the edits of fields outside what is learnt."""
    wings = [k for k, one in enumerate(design.surfaces) if one.role in WINGS]
    tails = [k for k, one in enumerate(design.surfaces) if one.role in TAILS]
    tails = tails or [k for k, one in enumerate(design.surfaces) if one.role == "foreplane"]
    if name in ("wing", "tail"):
        for k in wings if name == "wing" else tails:
            yield Change(f"surfaces[{k}].incidence", design.surfaces[k].incidence + slip)
    elif name in ("washout", "warp"):
        for k in wings:
            surface = design.surfaces[k]
            if not surface.mirrored:
                continue
            chord, was = surface.stations[-1].chord, tip_angles(surface)
            by = (-slip, -slip) if name == "washout" else (slip, -slip)
            for side, angle, more in zip(("starboard", "port"), was, by, strict=True):
                yield Change(f"surfaces[{k}].warp_{side}", chord * math.tan(angle + more))
    elif design.power is None:
        return
    elif name == "thrust":
        yield Change("power.propeller.thrust_factor", design.power.propeller.thrust_factor * math.exp(slip))
    elif name == "resistance" and design.power.pack.cell_resistance is not None:
        yield Change("power.pack.cell_resistance", design.power.pack.cell_resistance * math.exp(slip))
    elif name in ("down", "side"):
        field = "down" if name == "down" else "right"
        for k, mount in enumerate(design.power.mounts):
            yield Change(f"power.mounts[{k}].{field}", getattr(mount, field) + slip)


def back_out(design: Design, name: TakenKey) -> tuple[Change, ...]:
    """Return the edits that put back what stood in the design before flights were taken in.

    Parameters
    ----------
    design : Design
    name : str

    Returns
    -------
    tuple of Change
        A field that was edited since keeps what it was edited to.
    """
    mine = [one for one in design.learnt.taken if one.key == name]
    kept = tuple(one for one in design.learnt.taken if one.key != name)
    changes: list[Change] = []
    update: dict[str, object] = {}
    # The latest first: what was taken twice goes back to how it was at first.
    for one in reversed(mine):
        if one.path.startswith("learnt."):
            field = one.path.removeprefix("learnt.")
            update[field] = one.before
            if one.before is None:
                update |= _SAID_WITH[field]
        elif get(design, one.path) == one.after or any(change.path == one.path for change in changes):
            changes = [change for change in changes if change.path != one.path]
            changes.append(Change(one.path, one.before))
    learnt = design.learnt.model_copy(update={**update, "taken": kept})
    return (*changes, Change("learnt", Learnt.model_validate(learnt.model_dump())))
