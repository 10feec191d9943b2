"""What the stages share: their outcome, the air, and the words for what is missing."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Generic, NamedTuple, TypeVar

from ridgeline.engine.figures import Figure

HANDBOOK = "handbook of the trade"


NO_WING = "there is no wing yet: lay out the airframe at the Brief"


NO_MASS = "nothing aboard has a mass yet"


NO_POWER = "there is no power train yet"


#: Figures of earlier stages, handed over whole.
Told = Mapping[str, Figure]


_T = TypeVar("_T", covariant=True)
_Equal = TypeVar("_Equal")


class Outcome(NamedTuple, Generic[_T]):
    """What a stage gives: its result for later stages, and its figures."""

    result: _T
    figures: tuple[Figure, ...] = ()


class Air(NamedTuple):
    """Density kg/m³ and dynamic viscosity Pa·s."""

    density: float
    viscosity: float


class Last:
    """What a stage gave last: an equal result is given again as the same object, so that what hangs on it stays."""

    def __init__(self) -> None:
        self._value: Any = None

    def same(self, found: _Equal) -> _Equal:
        """Return what was given last where it equals what is found, or else that.

        Parameters
        ----------
        found : object

        Returns
        -------
        object
        """
        if found != self._value:
            self._value = found
        result: _Equal = self._value
        return result
