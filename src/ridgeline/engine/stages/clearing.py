"""The stage of clearances of controls: what meets, what a blade would strike, and horns in the way."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.power import PowerTrain
from ridgeline.engine.controls.clearing import Blocked, Meeting, Moving, Struck, blocked, meetings, plates, struck
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.controls.sense import SideName
from ridgeline.engine.stages.common import Outcome
from ridgeline.engine.stages.linked import Linking

Array = NDArray[np.float64]
_MIRROR = np.array([1.0, -1.0, 1.0])


@dataclass(frozen=True, eq=False)
class Cleared:
    """What comes into the way of what at full throw: found when it is asked for, since no figure hangs on it."""

    linked: Linking
    surfaces: tuple[Surface, ...]
    bodies: tuple[Body, ...]
    power: PowerTrain | None

    @cached_property
    def _moving(self) -> tuple[list[Moving], list[Array]]:
        moving = []
        for row in self.linked.rows:
            surface = self.surfaces[row.surface]
            sides: tuple[SideName, ...] = ("starboard", "port") if surface.mirrored else ("starboard",)
            throws = {side.side: side.throw for side in row.sides}
            moving += [Moving(surface, row.control, side, throws.get(side, row.wish)) for side in sides]
        return moving, _swung(moving)

    @cached_property
    def meetings(self) -> tuple[Meeting, ...]:
        """Controls that meet."""
        return meetings(*self._moving)

    @cached_property
    def struck(self) -> tuple[Struck, ...]:
        """Controls that come into a propeller."""
        if self.power is None:
            return ()
        moving, swung = self._moving
        return struck(moving, all_discs(self.power), 0.5 * self.power.propeller.diameter, swung)

    @cached_property
    def blocked(self) -> tuple[Blocked, ...]:
        """Horns in a body, or in the way of a wing that comes off."""
        rows = [row for row in self.linked.rows if row.linkage.kind != "direct"]
        return blocked([(row.linkage, self.surfaces[row.surface], row.control) for row in rows], self.bodies)


def _swung(moving: list[Moving]) -> list[Array]:
    """Return the plates of controls at both ends and neutral; a port one like its fellow is its image."""
    found: list[Array] = []
    known: dict[tuple[str, Throw], Array] = {}
    for one in moving:
        key = one.control.id, one.throw
        before = known.get(key)
        rows = plates(one, one.angles) if before is None or one.side == "starboard" else before * _MIRROR
        if one.side == "starboard":
            known[key] = rows
        found.append(rows)
    return found


def clearing(
    linked: Linking, surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], power: PowerTrain | None
) -> Outcome[Cleared]:
    """Swing every linked control from end to end past its neighbours, the propellers and the bodies."""
    return Outcome(Cleared(linked, surfaces, bodies, power))
