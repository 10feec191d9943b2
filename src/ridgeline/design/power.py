"""The power train: each link with the constants its model needs, copied from the library into the document."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from ridgeline.design.base import Node, Sets, measure, sets

PropFamily = Literal["slow_fly", "thin_electric", "wood", "folding"]


class Motor(Node):
    """An electric motor by its three constants and its limits."""

    name: str = Field(min_length=1)
    kv_rpm_per_v: float = measure("speed_constant", "speed constant", above=0.0, high=20000.0)
    resistance: float = measure("resistance", "winding, terminal to terminal", above=0.0, high=10.0)
    no_load_current: float = measure("current", "at the no-load voltage", low=0.0, high=20.0)
    no_load_voltage: float = measure("voltage", "at which the no-load current was read", 10.0, low=0.5, high=60.0)
    mass: float = measure("mass", "one motor with its leads", above=0.0, high=3.0)
    max_current: float = measure("current", "for half a minute", above=0.0, high=300.0)
    max_cells: int = Field(3, ge=1, le=14)
    diameter: float = measure("length", "of the can", 0.028, above=0.0, high=0.2)
    length: float = measure("length", "of the can", 0.026, above=0.0, high=0.2)
    shaft: float = measure("length", "diameter of the shaft; 0 where not known", 0.0, low=0.0, high=0.03)
    bolt_circle: float = measure("length", "of the mounting holes; 0 where not known", 0.0, low=0.0, high=0.2)


class SpeedController(Node):
    """An electronic speed controller (ESC)."""

    name: str = Field(min_length=1)
    max_current: float = measure("current", "continuous rating", above=0.0, high=400.0)
    resistance: float = measure("resistance", "on-resistance with its leads", 0.005, low=0.0, high=1.0)
    mass: float = measure("mass", "with leads", above=0.0, high=1.0)
    max_cells: int = Field(4, ge=1, le=14)


class Pack(Node):
    """A lithium polymer pack."""

    name: str = Field(min_length=1)
    cells: int = Field(ge=1, le=14)
    capacity_ah: float = measure("capacity", "rated", above=0.0, high=100.0)
    cell_resistance: float = measure("resistance", "of one cell", above=0.0, high=1.0)
    c_rating: float = measure("ratio", "claimed discharge over capacity, 1/h", 30.0, above=0.0, high=300.0)
    mass: float = measure("mass", "with leads", above=0.0, high=5.0)
    length: float = measure("length", "longest side", 0.1, above=0.0, high=0.5)
    width: float = measure("length", "middle side; 0 where not known", 0.0, low=0.0, high=0.3)
    height: float = measure("length", "shortest side; 0 where not known", 0.0, low=0.0, high=0.3)


class Propeller(Node):
    """A propeller by diameter, pitch, blades and family."""

    name: str = Field(min_length=1)
    family: PropFamily = "thin_electric"
    diameter: float = measure("length", "of the disc", above=0.02, high=1.0)
    pitch: float = measure("length", "advance in one turn without slip", above=0.0, high=1.0)
    blades: int = Field(2, ge=2, le=4)
    mass: float = measure("mass", "one propeller", above=0.0, high=0.5)
    bore: float = measure("length", "hole through the hub; 0 where not known", 0.0, low=0.0, high=0.03)


class Mount(Node):
    """Where a propeller turns, and which way its shaft points. A mirrored mount carries one on each side."""

    x: float = measure("length", "propeller disc behind the datum", 0.015, low=-1.0, high=10.0)
    y: float = measure("length", "shaft to starboard of the centre line", 0.0, low=-3.0, high=3.0)
    z: float = measure("length", "thrust line above the datum", 0.0, low=-3.0, high=3.0)
    mirrored: bool = Field(False, description="has a like motor on the other side")
    pusher: bool = Field(False, description="the propeller stands behind its motor")
    down: float = measure("angle", "shaft tilted down", 0.0, low=-0.5, high=0.5)
    right: float = measure("angle", "shaft turned right", 0.0, low=-0.5, high=0.5)

    @property
    def places(self) -> tuple[tuple[float, float, float], ...]:
        """Places of the propeller discs, m."""
        if self.mirrored:
            return (self.x, self.y, self.z), (self.x, -self.y, self.z)
        return ((self.x, self.y, self.z),)


class PowerTrain(Node):
    """One motor, propeller and ESC kind, one of each at every mount, on one pack."""

    motor: Motor
    esc: SpeedController
    pack: Pack
    propeller: Propeller
    mounts: tuple[Mount, ...] = Field((Mount(),), min_length=1, max_length=4)
    lead_resistance: float = measure("resistance", "leads and connectors", 0.004, low=0.0, high=1.0)
    sets: Sets = sets()

    @model_validator(mode="after")
    def _few_enough(self) -> PowerTrain:
        if self.motors > 4:
            raise ValueError(f"one to four motors; these mounts carry {self.motors}")
        return self

    @property
    def motors(self) -> int:
        """Number of motors over all mounts."""
        return sum(2 if mount.mirrored else 1 for mount in self.mounts)

    @property
    def x(self) -> float:
        """Disc of the first mount behind the datum, m."""
        return self.mounts[0].x

    @property
    def z(self) -> float:
        """Mean height of the thrust lines over the datum, m."""
        return sum(z for mount in self.mounts for _x, _y, z in mount.places) / self.motors
