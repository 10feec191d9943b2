"""The clearances stage: propeller discs against ground and airframe."""

from __future__ import annotations

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.power import PowerTrain
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.clearance import Clearance, clearance_of
from ridgeline.engine.stages.common import NO_POWER, Outcome

_KEYS = ("clearance.ground", "clearance.disc")
#: How well an outline in a drawing says where a built part stands, m (one sigma).
_SIGMA = 0.002


def clearances(
    power: PowerTrain | None, surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], wheels: tuple[Wheel, ...]
) -> Outcome[Clearance | None]:
    """Give how far the discs stand from the ground and from the nearest part."""
    if power is None:
        return Outcome(None, tuple(absent(key, NO_POWER) for key in _KEYS))
    found = clearance_of(power, 0.5 * power.propeller.diameter, surfaces, bodies, wheels)
    source, note = "geometry of the drawing", "tip circle, with the shaft's tilt"

    def figure(key: str, value: float | None, label: str, why: str) -> Figure:
        if value is None:
            return absent(key, why)
        radius = 0.5 * power.propeller.diameter
        row = {
            "a": Put(value + radius, label, "length", _SIGMA),
            "D": Put(power.propeller.diameter, "propeller diameter", "length"),
        }
        return derive(key, "{a} − {D}/2", lambda a, D: a - D / 2, row, source=source, note=note)

    return Outcome(
        found,
        (
            figure(
                _KEYS[0],
                found.ground,
                "hub over the ground, by the lowest tip",
                "it has no wheels to stand on",
            ),
            figure(_KEYS[1], found.nearest, f"hub to {found.part}, by the nearest tip", "nothing is near a disc"),
        ),
    )
