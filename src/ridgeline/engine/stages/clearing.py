"""The stage of clearances of controls: what meets, what a blade would strike, and horns in the way."""

from __future__ import annotations

from dataclasses import dataclass

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.power import PowerTrain
from ridgeline.engine.controls.clearing import Blocked, Meeting, Moving, Struck, blocked, meetings, plates, struck
from ridgeline.engine.controls.sense import SideName
from ridgeline.engine.stages.common import Outcome
from ridgeline.engine.stages.linked import Linking


@dataclass(frozen=True, eq=False)
class Cleared:
    """What comes into the way of what at full throw."""

    meetings: tuple[Meeting, ...]
    struck: tuple[Struck, ...]
    blocked: tuple[Blocked, ...]


def clearing(
    linked: Linking, surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], power: PowerTrain | None
) -> Outcome[Cleared]:
    """Swing every linked control from end to end past its neighbours, the propellers and the bodies."""
    moving = []
    for row in linked.rows:
        surface = surfaces[row.surface]
        sides: tuple[SideName, ...] = ("starboard", "port") if surface.mirrored else ("starboard",)
        throws = {side.side: side.throw for side in row.sides}
        moving += [Moving(surface, row.control, side, throws.get(side, row.wish)) for side in sides]
    discs = () if power is None else all_discs(power)
    radius = 0.0 if power is None else 0.5 * power.propeller.diameter
    horns = [(row.linkage, surfaces[row.surface], row.control) for row in linked.rows if row.linkage.kind != "direct"]
    swung = [plates(one, one.angles) for one in moving]
    return Outcome(Cleared(meetings(moving, swung), struck(moving, discs, radius, swung), blocked(horns, bodies)))
