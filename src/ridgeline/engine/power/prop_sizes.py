"""Neighbouring propellers: the same family and pitch ratio in the sizes that are sold."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Propeller
from ridgeline.engine.power.exchange import exchange

INCH = 0.0254
HALF_INCH = 0.5 * INCH


def size_words(propeller: Propeller) -> str:
    """Return diameter by pitch in inches, as builders say it: ``8×6``."""
    return f"{propeller.diameter / INCH:g}×{propeller.pitch / INCH:.3g}"


def resized(propeller: Propeller, diameter: float) -> Propeller:
    """Return the same propeller in another diameter, its pitch ratio kept to the nearest half inch of pitch.

    Mass follows the 2.6th power of the diameter: moulded blades thin out less than they lengthen.
    """
    size = round(diameter / HALF_INCH) * HALF_INCH
    pitch = max(round(propeller.pitch / propeller.diameter * size / HALF_INCH), 2) * HALF_INCH
    mass = propeller.mass * (size / propeller.diameter) ** 2.6
    name = f"{propeller.family.replace('_', ' ').capitalize()} {size / INCH:g}×{pitch / INCH:g}"
    return propeller.model_copy(update={"name": name, "diameter": size, "pitch": pitch, "mass": mass})


def with_propeller(design: Design, propeller: Propeller) -> tuple[Change, ...]:
    """Return the edits that fit a propeller, its part following with its own estimate."""
    return exchange(design, "propeller", propeller, f"Propeller {size_words(propeller)}")
