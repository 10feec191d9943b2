"""Neighbouring propellers: the same family and pitch ratio in the sizes that are sold."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Propeller
from ridgeline.engine.power.exchange import exchange

INCH = 0.0254
HALF_INCH = 0.5 * INCH
#: How near a tenth or a quarter of an inch, in those, a size by inches lies.
_TENTH = 0.01


def size_words(propeller: Propeller) -> str:
    """Return diameter by pitch as builders say it: ``8×6`` in inches, or ``65×45 mm`` where it is sold by those."""
    inches = propeller.diameter / INCH
    if abs(10 * inches - round(10 * inches)) < _TENTH or abs(4 * inches - round(4 * inches)) < _TENTH:
        return f"{inches:.4g}×{propeller.pitch / INCH:.3g}"
    return f"{1e3 * propeller.diameter:.0f}×{1e3 * propeller.pitch:.0f} mm"


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
