"""The throws of another design: taken over control by control, with the holes and the tooth that give them here."""

from __future__ import annotations

from typing import NamedTuple

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.linkage_edits import control_path, reaches, with_setting
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.controls.inverse import settings_for
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.stages.linked import Linking


class Alike(NamedTuple):
    """A control, what the other design throws there, and whether holes of this one's linkage give it."""

    surface: Surface
    control: ControlSurface
    throw: Throw
    reached: bool


class Taken(NamedTuple):
    """What is taken over: the edits, each control with its throw, and kinds that the other design has not."""

    changes: tuple[Change, ...]
    rows: tuple[Alike, ...]
    missing: tuple[str, ...]


def throws_like(design: Design, here: Linking, other: Design, there: Linking) -> Taken:
    """Return the edits that give every control the throws of the first like control of another design.

    Parameters
    ----------
    design : Design
    here : Linking
        Of the design.
    other : Design
    there : Linking
        Of the other design: its true throws are taken where it is linked, its wishes where it is not.

    Returns
    -------
    Taken
        Throws as angles: a mixed surface counts with its whole travel.
    """
    thrown = _thrown(other, there)
    changes: list[Change] = []
    rows, missing = [], []
    for k, surface in enumerate(design.surfaces):
        for j, control in enumerate(surface.controls):
            throw = thrown.get(control.kind)
            if throw is None:
                missing.append(control.kind)
                continue
            row = here.of(control.id)
            path = f"surfaces[{k}].controls[{j}]" if row is None else control_path(design, row)
            changes += [Change(f"{path}.up", round(throw.up, 4)), Change(f"{path}.down", round(throw.down, 4))]
            reached = row is None or reaches(row, throw)
            if row is not None and not reached:
                ways = settings_for(row.linkage, throw)
                reached = bool(ways)
                if ways:
                    changes += with_setting(design, row, ways[0]).changes
            rows.append(Alike(surface, control, throw, reached))
    return Taken(tuple(changes), tuple(rows), tuple(dict.fromkeys(missing)))


def _thrown(other: Design, there: Linking) -> dict[str, Throw]:
    """Return the throws of a design by the kind of control: of the first of each kind."""
    found: dict[str, Throw] = {}
    for surface in other.surfaces:
        for control in surface.controls:
            row = there.of(control.id)
            linked = row is not None and row.sides[0].channel is not None
            wished = Throw(*travel(control, other.brief.purpose))
            found.setdefault(control.kind, row.sides[0].throw if row is not None and linked else wished)
    return found
