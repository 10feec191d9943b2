"""The finished model, simulated: not quite what was predicted, as finished models are."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

#: Heavier than its estimates by this, and further aft, to port and higher by these, m.
_HEAVIER, _FURTHER_AFT, _TO_PORT, _HIGHER = 1.04, 0.004, 0.003, 0.005


@dataclass(frozen=True)
class FinishedModel:
    """Mass, kg, and balance point, m, of the model as it came out."""

    mass: float
    cg: tuple[float, float, float]

    @classmethod
    def of(cls, mass: float, cg: tuple[float, float, float]) -> FinishedModel:
        """Return how a model of a predicted mass and balance point came out.

        Parameters
        ----------
        mass : float
            Predicted, kg.
        cg : tuple of float
            Predicted, m.

        Returns
        -------
        FinishedModel
        """
        x, y, z = cg
        return cls(mass * _HEAVIER, (x + _FURTHER_AFT, y - _TO_PORT, z + _HIGHER))

    def seen_from_supports(self, tilt: float, line: Callable[[float], float]) -> tuple[float, float]:
        """Return where its balance point stands over the supports, x and y in m, when it is turned nose down.

        Parameters
        ----------
        tilt : float
            Nose down, rad.
        line : callable
            Height over the datum of the supports' line at a place along it, m.

        Returns
        -------
        tuple of float
        """
        x, y, z = self.cg
        return x - (z - line(x)) * math.tan(tilt), y
