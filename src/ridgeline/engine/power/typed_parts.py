"""What a constant of a part comes to where nobody has typed it, for the field that shows it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.engine.power.classes import cell_resistance_of, idle_of, mass_of, on_resistance_of, winding_of
from ridgeline.engine.power.pack import least_voltage

_OF_CLASS: dict[type, dict[str, Callable[[Any], float]]] = {
    Motor: {"resistance": winding_of, "no_load_current": idle_of},
    SpeedController: {"resistance": on_resistance_of},
    Pack: {"cell_resistance": cell_resistance_of, "mass": mass_of, "cut_off": least_voltage},
    Propeller: {},
}


def of_class(part: Motor | SpeedController | Pack | Propeller, field: str) -> float | None:
    """Return what an empty field of a part stands for, in its stored unit; None where nothing follows from others.

    Parameters
    ----------
    part : Motor, SpeedController, Pack or Propeller
        As typed.
    field : str
        Name of the field.
    """
    found = _OF_CLASS[type(part)].get(field)
    return None if found is None else found(part)
