"""What the items are called that carry the parts of a power train."""

from __future__ import annotations

from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.engine.power.prop_sizes import size_words


def called_aboard(part: Motor | SpeedController | Pack | Propeller) -> str:
    """Return what the item of a fitted part is called.

    Parameters
    ----------
    part : Node
        Of a power train.

    Returns
    -------
    str
    """
    if isinstance(part, Motor):
        return f"Motor {part.name.partition(',')[0].removeprefix('Outrunner ')}"
    if isinstance(part, Pack):
        return f"Pack {part.name}"
    if isinstance(part, Propeller):
        return part.name if part.family == "ducted_fan" else f"Propeller {size_words(part)}"
    return part.name
