"""Across what length an angle of the document is a height, so that a builder may type either one for the other."""

from __future__ import annotations

from itertools import pairwise

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.typed import Arm


def arm_at(design: Design, route: tuple[str | int, ...]) -> Arm | None:
    """Return the arm of the value at a route, or None where an angle is only an angle and a length only a length.

    Incidence is a shim under one end of the root chord, twist and warp a trailing edge raised at their own chord,
    the cant a rise of the tip over the panel, and a throw the travel of the trailing edge at the control's inner end,
    where it is largest on a tapered surface.

    Parameters
    ----------
    design : Design
    route : tuple
        Steps of a path.

    Returns
    -------
    Arm or None
        m.
    """
    match route:
        case ("surfaces", int(index), *rest) if index < len(design.surfaces):
            return _of_surface(design.surfaces[index], tuple(rest))
    return None


def _of_surface(surface: Surface, rest: tuple[str | int, ...]) -> Arm | None:
    match rest:
        case ("incidence",):
            return Arm(surface.stations[0].chord)
        case ("cant",):
            return Arm(surface.stations[-1].y - surface.stations[0].y)
        case ("warp_starboard" | "warp_port",):
            return Arm(surface.stations[-1].chord)
        case ("stations", int(index), "twist") if index < len(surface.stations):
            return Arm(surface.stations[index].chord)
        case ("controls", int(index), "up" | "down") if index < len(surface.controls):
            control = surface.controls[index]
            return Arm(
                float(hinge_share(surface, control, control.start)) * chord_at(surface, control.start), swung=True
            )
    return None


def chord_at(surface: Surface, out: float) -> float:
    """Return the chord of a surface at a distance out from its root, m; beyond its ends that of the end.

    Parameters
    ----------
    surface : Surface
    out : float
        From the root, m.

    Returns
    -------
    float
        m.
    """
    stations = surface.stations
    if out <= stations[0].y:
        return stations[0].chord
    for inner, outer in pairwise(stations):
        if out <= outer.y:
            return inner.chord + (outer.chord - inner.chord) * (out - inner.y) / (outer.y - inner.y)
    return stations[-1].chord
