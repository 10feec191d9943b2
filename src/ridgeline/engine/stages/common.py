"""What the stages share: their outcome, the air, and the words for what is missing."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Generic, NamedTuple, TypeVar

from ridgeline.engine.figures import Figure

HANDBOOK = "handbook of the trade"


NO_WING = "there is no wing yet: lay out the airframe at the Brief"


NO_MASS = "nothing aboard has a mass yet"


NO_POWER = "there is no power train yet"


#: Figures of earlier stages, handed over whole.
Told = Mapping[str, Figure]


_T = TypeVar("_T", covariant=True)


class Outcome(NamedTuple, Generic[_T]):
    """What a stage gives: its result for later stages, and its figures."""

    result: _T
    figures: tuple[Figure, ...] = ()


class Air(NamedTuple):
    """Density kg/m³ and dynamic viscosity Pa·s."""

    density: float
    viscosity: float
