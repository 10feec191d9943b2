"""What has mass: items with a place, a group, an estimate, and the weighed value that replaces it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Sets, Whole, measure, sets
from ridgeline.design.build import Build
from ridgeline.design.identity import Ident, ident

Group = Literal["airframe", "adhesive", "structure", "radio", "power", "battery", "payload", "gear", "ballast"]
#: How an estimate was come by; decides its band and which estimates err together.
Basis = Literal["library", "sheet", "print", "adhesive", "stock"]
Component = Literal["motor", "esc", "pack", "propeller", "motor_leads"]


class Size(Node):
    """Extent of an item along the axes, all of it evenly filled."""

    length: float = measure("length", "fore and aft", 0.0, low=0.0, high=10.0)
    width: float = measure("length", "side to side, of one piece", 0.0, low=0.0, high=10.0)
    height: float = measure("length", "up and down", 0.0, low=0.0, high=3.0)


class Rail(Node):
    """The bay an item can slide in, fore and aft. Nothing else goes there."""

    front: float = measure("length", "front end of the room, behind the datum", low=-2.0, high=10.0)
    back: float = measure("length", "back end of the room, behind the datum", low=-2.0, high=10.0)
    item_length: float = measure("length", "length of the item on the rail", low=0.002, high=1.0)
    width: float = measure("length", "clear width of the bay; 0 where it was not measured", 0.0, low=0.0, high=1.0)
    height: float = measure("length", "clear height of the bay; 0 where it was not measured", 0.0, low=0.0, high=1.0)

    def check(self) -> None:
        if self.back - self.front < self.item_length - 1e-9:
            raise ValueError(
                f"room for the item; {self.back - self.front:g} m of rail holds no {self.item_length:g} m item"
            )


class Servo(Node):
    """A servo by its class. Left empty, torque, currents and speed follow from the mass."""

    name: str = Field("", max_length=120)
    mass: float | None = measure("mass", "with its lead; empty where the item tells it", None, low=0.0001, high=0.5)
    stall_torque: float | None = measure("torque", "at 5 V; empty follows from mass", None, low=0.0001, high=20.0)
    stall_current: float | None = measure("current", "at 5 V; empty follows from mass", None, low=0.01, high=20.0)
    working_current: float | None = measure(
        "current", "at work, at 5 V; empty follows from the stalled current", None, low=0.001, high=20.0
    )
    seconds_per_60_deg: float | None = measure(
        "ratio", "speed at 5 V; empty where not known", None, low=0.005, high=5.0
    )


class Hung(Node):
    """Where an item hangs on the part that carries it, in the axes of that.

    On a surface: ``out`` along the panel, ``share`` of the local chord, ``up`` over the chord line. In a body, and at a
    motor mount: ``back``, ``out`` and ``up`` from the body's origin, the firewall, a motor's middle, or the disc.
    """

    to: Ident = Field(min_length=1, description="id of the surface, body or motor mount")
    back: float = measure("length", "behind the origin of a body or mount", 0.0, low=-12.0, high=12.0)
    out: float = measure("length", "out along the panel, or to starboard of a body's middle", 0.0, low=-8.0, high=8.0)
    up: float = measure("length", "over the chord line, or over the origin", 0.0, low=-8.0, high=8.0)
    share: float = measure("fraction", "of a surface's chord, behind the leading edge", 0.0, low=-1e4, high=1e4)
    port: Flag = Field(False, description="on the port one of a pair")


class Item(Node):
    """One kind of thing aboard. Masses are for one piece; ``count`` pieces are carried.

    A mirrored item has its pieces shared between port and starboard at ``±y``.
    """

    id: Ident = ident()
    name: str = Field(min_length=1)
    group: Group
    basis: Basis = "library"
    count: Whole = Field(1, ge=1, le=500)
    on: Hung | None = Field(None, description="what carries it, and where on that; its place follows")
    loose: str = Field("", max_length=200, description="what carried it before that was taken away")
    x: float = measure("length", "centre behind the datum", 0.0, low=-2.0, high=10.0)
    y: float = measure("length", "centre to starboard", 0.0, low=-5.0, high=5.0)
    z: float = measure("length", "centre above the datum", 0.0, low=-3.0, high=3.0)
    mirrored: Flag = False
    estimate: float | None = measure(
        "mass", "estimated mass of one piece; negative for what is cut out", None, low=-20.0, high=20.0
    )
    weighed: float | None = measure(
        "mass", "weighed mass of one piece; negative for what was cut out and weighed", None, low=-20.0, high=20.0
    )
    place_sigma: float = measure("length", "how well its place is known, one sigma", 0.004, low=0.0, high=0.5)
    component: Component | None = Field(None, description="takes its estimate from the power train")
    servo: Servo | None = Field(None, description="that the pieces are servos, and which")
    drives: tuple[Ident, ...] = Field((), max_length=20, description="ids of the controls its servos move")
    harness: Literal["receiver", "leads"] | None = Field(None, description="that it is the receiver, or all its leads")
    rail: Rail | None = None
    build: Build | None = Field(None, description="takes its estimate from the geometry")
    size: Size | None = Field(None, description="extent, where it matters for the inertia")
    sets: Sets = sets()

    def check(self) -> None:
        if self.estimate is None and self.component is None and self.weighed is None and self.build is None:
            if self.servo is not None and self.servo.mass is not None:
                return
            raise ValueError("an estimate, a weighed value, a recipe, or a power-train component to take it from")


class Allowances(Node):
    """What each group may weigh; left out where nothing was set."""

    airframe: float | None = measure("mass", "built shell", None, low=0.0, high=25.0)
    adhesive: float | None = measure("mass", "glue, tape and covering", None, low=0.0, high=25.0)
    structure: float | None = measure("mass", "spars, tubes, mounts", None, low=0.0, high=25.0)
    radio: float | None = measure("mass", "receiver, servos, leads", None, low=0.0, high=25.0)
    power: float | None = measure("mass", "motor, ESC, propeller", None, low=0.0, high=25.0)
    battery: float | None = measure("mass", "flight packs", None, low=0.0, high=25.0)
    payload: float | None = measure("mass", "what it carries", None, low=0.0, high=25.0)
    gear: float | None = measure("mass", "wheels, legs, skids", None, low=0.0, high=25.0)
    ballast: float | None = measure("mass", "dead weight", None, low=0.0, high=25.0)
