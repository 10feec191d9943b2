"""What the stages share: their outcome, the air, and the words for what is missing."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

from ridgeline.engine.figures import Figure

HANDBOOK = "handbook of the trade"


NO_WING = "there is no wing yet: lay out the airframe at the Brief"


NO_MASS = "nothing aboard has a mass yet"


NO_POWER = "there is no power train yet"


#: Figures of earlier stages, handed over whole.
Told = Mapping[str, Figure]


class Outcome(NamedTuple):
    """What a stage gives: its result for later stages, and its figures."""

    result: Any
    figures: tuple[Figure, ...] = ()


class Air(NamedTuple):
    """Density kg/m³ and dynamic viscosity Pa·s."""

    density: float
    viscosity: float
