"""Controls that pass one another at full throw: the lesser of both is cut back where they would meet."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.controls.clearing import Moving, meetings, start_for
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.controls.sense import SideName

#: Cutting one pair may leave another to be cut (chosen).
_ROUNDS = 6


def passing_controls(design: Design) -> Design:
    """Return a design whose controls pass one another at the throws wished.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Design
    """
    for _ in range(_ROUNDS):
        met = meetings(_moving(design))
        if not met:
            return design
        ways = []
        for one, other in ((met[0].one, met[0].other), (met[0].other, met[0].one)):
            start = start_for(one, other)
            if start is not None:
                ways.append((start - one.control.start, one, start))
        if not ways:
            return design
        _cut, one, start = min(ways, key=lambda way: way[0])
        design = design.model_copy(
            update={
                "surfaces": tuple(
                    surface.model_copy(
                        update={
                            "controls": tuple(
                                c.model_copy(update={"start": start}) if c.id == one.control.id else c
                                for c in surface.controls
                            )
                        }
                    )
                    if any(c.id == one.control.id for c in surface.controls)
                    else surface
                    for surface in design.surfaces
                )
            }
        )
    return design


def _moving(design: Design) -> list[Moving]:
    found = []
    for surface in design.surfaces:
        sides: tuple[SideName, ...] = ("starboard", "port") if surface.mirrored else ("starboard",)
        for control in surface.controls:
            throw = Throw(*travel(control, design.brief.purpose))
            found += [Moving(surface, control, side, throw) for side in sides]
    return found
