"""What the stages of an evaluation come to, for the sheets to draw and the advice to reason from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

from ridgeline.design.fastening import Fastening
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.control_effects import ControlEffects
from ridgeline.engine.aero.drag import DragModel
from ridgeline.engine.aero.drag_list import Hindrance
from ridgeline.engine.aero.glide import Glide
from ridgeline.engine.aero.throws import Throws
from ridgeline.engine.build.cut_up import Rooms
from ridgeline.engine.build.seats import Seats
from ridgeline.engine.geometry.clearance import Clearance
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.power.full_throttle import FullThrottle
from ridgeline.engine.power.supply import Draw
from ridgeline.engine.stages.balancing import Balance, Targets
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.clearing import Cleared
from ridgeline.engine.stages.common import Air
from ridgeline.engine.stages.fastening import Held
from ridgeline.engine.stages.flaps import Flaps
from ridgeline.engine.stages.flexing import Flexed
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.harnessing import Draws, Wired
from ridgeline.engine.stages.linked import Linking
from ridgeline.engine.stages.logged import Logged
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.motions import Motions
from ridgeline.engine.stages.resting import Resting
from ridgeline.engine.stages.running import Running
from ridgeline.engine.stages.shape import Bodies, Shape
from ridgeline.engine.stages.sideslip import Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.splicing import Spliced
from ridgeline.engine.stages.stability import Stability
from ridgeline.engine.stages.standing import Standing
from ridgeline.engine.stages.steering import ByThrust
from ridgeline.engine.stages.stick_answers import Sticks
from ridgeline.engine.stages.thrusting import Thrusting
from ridgeline.engine.stages.trimming import Trimmed
from ridgeline.engine.stages.twisting import Twisting
from ridgeline.engine.stages.washing import Washing
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.span_load import SpanLoad
from ridgeline.engine.weights.estimates import Extent

_T = TypeVar("_T")


def given(result: _T | None) -> _T:
    """Return a result that the caller has made sure of.

    Parameters
    ----------
    result : object or None

    Returns
    -------
    object
        The same one.

    Raises
    ------
    LookupError
        When it cannot be had after all: a mistake of the caller.
    """
    if result is None:
        raise LookupError("what this hangs on cannot be had")
    return result


@dataclass(frozen=True, slots=True)
class Results:
    """One field for every stage that hands something on, by the stage's name; None where it cannot be had."""

    air: Air
    shape: Shape
    body_sizes: Bodies
    followed: tuple[str, ...]
    seats: Seats
    rooms: Rooms
    extents: dict[str, Extent]
    masses: Masses
    lattice: AirframeLattice | None
    stability: Stability | None
    balance: Balance | None
    speeds: Speeds | None
    beams: tuple[Half | None, ...]
    spread: tuple[SpanLoad | None, ...]
    bracing: tuple[Fastening, ...]
    flexed: Flexed | None
    trim: Trimmed | None
    sideslip: Sideslip | None
    throws: Throws
    handling: Handling | None
    flaps: Flaps | None
    motions: Motions | None
    resting: Resting | None
    effects: ControlEffects | None
    sticking: Sticks | None
    steering: ByThrust | None
    clearances: Clearance | None
    standing: Standing | None
    pulling: FullThrottle | None
    drag_list: tuple[Hindrance, ...]
    polar: DragModel | None
    flight: FlightFigures | None
    gliding: Glide | None
    bearing: Bearing | None
    moving: Linking
    linking: Linking
    clearing: Cleared
    harness: Wired
    feeding: Draws
    twisting: Twisting | None
    fastened: Held | None
    splices: tuple[Spliced, ...]
    supplying: tuple[Draw, ...] | None
    washing: Washing | None
    thrusting: Thrusting | None
    logged: Logged
    running: Running | None

    @property
    def targets(self) -> Targets | None:
        """Where the balance point should be, or None while that is not known."""
        return None if self.balance is None else self.balance.targets
