"""The airframe: lifting surfaces as lists of stations, bodies as lists of cross-sections, wheels."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Sets, measure, sets
from ridgeline.design.construction import BodyBuild, SurfaceBuild
from ridgeline.design.identity import Ident, ident

Role = Literal["wing", "stabiliser", "fin", "v_tail", "foreplane"]
SectionForm = Literal[
    "sharp_plate",
    "rounded_plate",
    "stepped_plate",
    "curved_sheet",
    "folded",
    "flat_bottom",
    "semi_symmetrical",
    "symmetrical",
    "reflexed",
    "profile",
]
#: How a part comes off for transport: it stays on, comes off whole, in two halves, or apart at every inner station.
Joint = Literal["fixed", "off", "halves", "panels"]
ControlKind = Literal["aileron", "elevator", "rudder", "ruddervator", "elevon", "flap", "flaperon"]


class Station(Node):
    """One cut through a lifting surface, in the surface's own axes."""

    y: float = measure("length", "out from the surface's root, along the unfolded panel", low=0.0, high=5.0)
    chord: float = measure("length", "leading to trailing edge", low=0.001, high=3.0)
    x: float = measure("length", "leading edge behind the surface's origin", 0.0, low=-5.0, high=5.0)
    z: float = measure("length", "height over the surface's origin", 0.0, low=-3.0, high=3.0)
    twist: float = measure("angle", "nose-up positive, about the leading edge", 0.0, low=-0.6, high=0.6)


class ControlSurface(Node):
    """A hinged part of a surface, between two places along it."""

    id: Ident = ident()
    kind: ControlKind
    start: float = measure("length", "inner end, out from the root", low=0.0, high=5.0)
    end: float = measure("length", "outer end", low=0.001, high=5.0)
    chord_fraction: float = measure("fraction", "share of the chord behind the hinge", low=0.01, high=1.0)
    width: float | None = measure(
        "length", "behind the hinge at the inner end, instead of the share", None, low=0.001, high=3.0
    )
    width_out: float | None = measure(
        "length", "behind the hinge at the outer end; as at the inner where left out", None, low=0.001, high=3.0
    )
    up: float | None = measure("angle", "throw, trailing edge up; by kind when left out", None, low=0.0, high=1.4)
    down: float | None = measure("angle", "throw, trailing edge down; by kind when left out", None, low=0.0, high=1.4)
    neutral: float = measure("angle", "set at rest by hand, trailing edge down", 0.0, low=-0.7, high=0.7)

    def check(self) -> None:
        if self.end <= self.start:
            raise ValueError(f"its end {self.end:g} m to lie outside its start {self.start:g} m")


#: Stations nearer one another than this make no panel, m.
LEAST_PANEL = 1e-4

Share = Annotated[float, Field(ge=-0.6, le=1.6, strict=True)]


class Profile(Node):
    """A section read from a coordinate file: one closed outline over a unit chord.

    It runs from the trailing edge over the top to the nose and back along the bottom.
    """

    name: str = Field(min_length=1)
    points: tuple[tuple[Share, Share], ...] = Field(min_length=7, max_length=1000)


class Seat(Node):
    """Where a surface can be bolted on: places of its root fore and aft, and settings of its incidence, in steps."""

    front: float = measure("length", "foremost place of its root, behind the datum", low=-2.0, high=10.0)
    back: float = measure("length", "rearmost", low=-2.0, high=10.0)
    step: float = measure("length", "hole to hole; 0 for a rail", 0.0, low=0.0, high=1.0)
    low: float = measure("angle", "least incidence", 0.0, low=-0.7854, high=0.7854)
    high: float = measure("angle", "greatest incidence", 0.0, low=-0.7854, high=0.7854)
    angle_step: float = measure("angle", "setting to setting; 0 where any will do", 0.0, low=0.0, high=0.7854)

    def check(self) -> None:
        if self.back < self.front:
            raise ValueError(f"the rearmost place behind the foremost at {self.front:g} m")
        if self.high < self.low:
            raise ValueError("the greatest incidence over the least")


class Surface(Node):
    """A lifting surface. ``cant`` turns its panels up about the root: 0 a wing, 90° a fin, between them a V."""

    id: Ident = ident()
    name: str = Field(min_length=1)
    role: Role
    mirrored: Flag = Field(True, description="has a like panel on the other side")
    x: float = measure("length", "root leading edge behind the datum", 0.0, low=-2.0, high=10.0)
    y: float = measure("length", "root to starboard of the centre line", 0.0, low=-3.0, high=3.0)
    z: float = measure("length", "root above the datum", 0.0, low=-3.0, high=3.0)
    cant: float = measure("angle", "panels turned up from horizontal", 0.0, low=-1.5708, high=1.5708)
    incidence: float = measure("angle", "to the body axis, nose up positive", 0.0, low=-0.7854, high=0.7854)
    section: SectionForm = "flat_bottom"
    thickness: float = measure("length", "greatest thickness", 0.01, low=0.0002, high=0.3)
    sheet: float = measure("length", "thickness of the sheet it is made of", 0.005, low=5e-5, high=0.05)
    profile: Profile | None = Field(None, description="outline of a section read from coordinates")
    droop: float | None = measure(
        "length",
        "measured: tips up under load in flight, down negative; computed when left out",
        None,
        low=-1.0,
        high=1.0,
    )
    warp_starboard: float = measure("length", "measured: tip trailing edge too low, starboard", 0.0, low=-0.2, high=0.2)
    warp_port: float = measure("length", "measured: tip trailing edge too low, port", 0.0, low=-0.2, high=0.2)
    stations: tuple[Station, ...] = Field(min_length=2, max_length=60)
    controls: tuple[ControlSurface, ...] = Field((), max_length=20)
    joint: Joint = Field("fixed", description="how it comes off for transport")
    seat: Seat | None = Field(None, description="where it can be bolted on; None where it cannot be moved")
    built: SurfaceBuild | None = Field(None, description="how it is built, where that is said; its pieces follow")
    sets: Sets = sets()

    def check(self) -> None:
        if self.section == "profile" and self.profile is None:
            raise ValueError("a built form, or a profile read from a coordinate file")
        for index, (inner, outer) in enumerate(pairwise(self.stations)):
            if outer.y - inner.y < LEAST_PANEL:
                raise ValueError(
                    f"stations from root to tip; station {index + 2} at {outer.y:g} m is not outside "
                    f"station {index + 1} at {inner.y:g} m"
                )


class BodyStation(Node):
    """One cross-section of a body."""

    x: float = measure("length", "behind the body's origin", low=-2.0, high=10.0)
    width: float = measure("length", "full width", low=0.0, high=2.0)
    height: float = measure("length", "full height", low=0.0, high=2.0)
    z: float = measure("length", "height of its middle over the body's origin", 0.0, low=-3.0, high=3.0)
    rounding: float | None = measure(
        "fraction", "0 a box, 1 an ellipse; as the body's where left out", None, low=0.0, high=1.0
    )


class Body(Node):
    """A fuselage, pod or boom as cross-sections from nose to tail."""

    id: Ident = ident()
    name: str = Field(min_length=1)
    kind: Literal["fuselage", "pod", "boom"] = "fuselage"
    mirrored: Flag = False
    x: float = measure("length", "origin behind the datum; its sections count from there", 0.0, low=-2.0, high=10.0)
    y: float = measure("length", "to starboard of the centre line", 0.0, low=-3.0, high=3.0)
    z: float = measure("length", "origin above the datum", 0.0, low=-3.0, high=3.0)
    rounding: float = measure("fraction", "0 a box, 1 an ellipse", 0.0, low=0.0, high=1.0)
    stations: tuple[BodyStation, ...] = Field(min_length=2, max_length=60)
    joint: Joint = Field("fixed", description="how it comes off, or apart, for transport")
    built: BodyBuild | None = Field(None, description="how it is built, where that is said; its pieces follow")
    sets: Sets = sets()

    def check(self) -> None:
        for inner, outer in pairwise(self.stations):
            if outer.x <= inner.x:
                raise ValueError("cross-sections from nose to tail, each behind the one before")

    @property
    def roundings(self) -> tuple[float, ...]:
        """How round each cross-section is: 0 a box, 1 an ellipse."""
        return tuple(self.rounding if s.rounding is None else s.rounding for s in self.stations)

    @property
    def sections(self) -> tuple[BodyStation, ...]:
        """The cross-sections in aircraft axes."""
        if self.x == 0 and self.z == 0:
            return self.stations
        return tuple(s.model_copy(update={"x": self.x + s.x, "z": self.z + s.z}) for s in self.stations)


class Wheel(Node):
    """A wheel at its axle."""

    id: Ident = ident()
    name: str = "wheel"
    mirrored: Flag = True
    x: float = measure("length", "axle behind the datum", low=-2.0, high=10.0)
    y: float = measure("length", "to starboard", 0.0, low=-3.0, high=3.0)
    z: float = measure("length", "axle height", low=-3.0, high=3.0)
    diameter: float = measure("length", "over the tyre", low=0.003, high=0.5)
    sets: Sets = sets()
