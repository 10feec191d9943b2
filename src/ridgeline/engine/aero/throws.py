"""How far controls move: what the document says, or the usual starting throws by kind and purpose."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.engine.aero.airframe_lattice import FLAP_CONTROLS, PITCH_CONTROLS, ROLL_CONTROLS, YAW_CONTROLS
from ridgeline.engine.aero.flap import deflection_for, effective_deflection

#: Starting throws in degrees, each way (handbook of the trade §9): middle of the trainer's range; the second for
#: aerobatics. Mixed surfaces share their travel between their two jobs.
_USUAL = {
    "aileron": (15.0, 30.0),
    "elevator": (12.0, 30.0),
    "rudder": (22.0, 35.0),
    "ruddervator": (17.0, 32.0),
    "elevon": (22.0, 35.0),
    "flap": (30.0, 30.0),
    "flaperon": (35.0, 40.0),
}
#: Share of a mixed surface's travel for each job: elevon 12° pitch and 10° roll, flaperon 20° flap and 15° roll.
_SHARES = {
    ("elevon", "pitch"): 12 / 22,
    ("elevon", "roll"): 10 / 22,
    ("ruddervator", "pitch"): 0.7,
    ("ruddervator", "yaw"): 0.7,
    ("flaperon", "roll"): 15 / 35,
    ("flaperon", "flap"): 20 / 35,
}


@dataclass(frozen=True)
class Throws:
    """Full throws, rad: pitch up and down, roll, yaw, flaps down. Zero without such a control."""

    pitch_up: float
    pitch_down: float
    roll: float
    yaw: float
    flap: float


def travel(control: ControlSurface, purpose: str) -> tuple[float, float]:
    """Return how far a control goes up and down, rad.

    Parameters
    ----------
    control : ControlSurface
    purpose : str

    Returns
    -------
    up, down: float
        rad.
    """
    usual = math.radians(_USUAL[control.kind][1 if purpose == "aerobatic" else 0])
    up = control.up if control.up is not None else (0.0 if control.kind == "flap" else usual)
    return up, control.down if control.down is not None else usual


def share_of(kind: str, stick: str) -> float:
    """Return what of a control's travel one stick takes: all of it, or its share of a mixed one.

    Parameters
    ----------
    kind : str
        Of the control.
    stick : str

    Returns
    -------
    float
    """
    return _SHARES.get((kind, stick), 1.0)


def as_one(up: float, down: float) -> float:
    """Return the throw both ways that does as much as one up and one down, rad: a steep flap does less than its angle.

    Parameters
    ----------
    up, down : float
        rad.

    Returns
    -------
    float
    """
    return up if up == down else deflection_for(0.5 * (effective_deflection(up) + effective_deflection(down)))


def _least(values: Iterable[float]) -> float:
    return min(values, default=0.0)


def throws_of(surfaces: tuple[Surface, ...], purpose: str) -> Throws:
    """Return the throws of an airframe: the least of the controls that do one job together.

    Parameters
    ----------
    surfaces : tuple of Surface
    purpose : str

    Returns
    -------
    Throws
        rad.
    """
    controls = [control for surface in surfaces for control in surface.controls]

    def of(kinds: tuple[str, ...], job: str, way: int) -> float:
        return _least(travel(c, purpose)[way] * _SHARES.get((c.kind, job), 1.0) for c in controls if c.kind in kinds)

    roll = as_one(of(ROLL_CONTROLS, "roll", 0), of(ROLL_CONTROLS, "roll", 1))
    yaw = 0.5 * (of(YAW_CONTROLS, "yaw", 0) + of(YAW_CONTROLS, "yaw", 1))
    return Throws(
        of(PITCH_CONTROLS, "pitch", 0), of(PITCH_CONTROLS, "pitch", 1), roll, yaw, of(FLAP_CONTROLS, "flap", 1)
    )
