"""How servos move controls: servo, arm, rod and horn at their true sizes, in the control's own axes.

At the horn: x aft from the hinge, y out along it, z up. One linkage of a pair stands for the starboard side; port is
its mirror image, or has its servo the same way round.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Sets, Whole, measure, sets
from ridgeline.design.identity import Ident, ident

#: What runs from servo to control: a rod, two lines, one line against a spring, a rod that is twisted, or nothing.
LinkageKind = Literal["rod", "pull_pull", "spring_line", "torque_rod", "direct"]
#: Which way the servo's shaft looks, and which way its arm points at neutral.
Facing = Literal["out", "in", "up", "down"]
ArmSide = Literal["below", "above", "out", "in"]
HingeKind = Literal["tape", "fold", "fillet", "silicone", "printed", "rod", "sewn"]
#: Radii of holes in an arm or a horn, m.
Holes = Annotated[tuple[Annotated[float, Field(ge=0.002, le=0.2, strict=True)], ...], Field(max_length=12)]


class Hinge(Node):
    """How a control hangs. Gap, play and friction are left out where they were not measured: by its kind then."""

    kind: HingeKind = "tape"
    gap: float = measure("length", "between surface and control", 0.0005, low=0.0, high=0.02)
    bevel: float = measure("angle", "cut off the control's nose, so that it can go down", 0.79, low=0.0, high=1.2)
    play: float | None = measure("angle", "free play at the hinge itself", None, low=0.0, high=0.5)
    friction: float | None = measure("torque", "that turns it without air", None, low=0.0, high=5.0)


class Linkage(Node):
    """What moves one control, or one on each side.

    ``arm`` and ``horn`` are radii of the holes in use, ``ahead`` and ``up`` where the servo's shaft stands from the
    hinge. The arm stands square to the rod at neutral, ``clocked`` teeth ahead of that.
    """

    id: Ident = ident()
    control: Ident = Field(min_length=1, description="id of the control it moves")
    servo: Ident = Field("", description="id of the item whose servo moves it")
    kind: LinkageKind = "rod"
    out: float | None = measure(
        "length", "its horn, out along the panel; the middle of the control when left out", None, low=0.0, high=5.0
    )
    ahead: float = measure("length", "servo's shaft ahead of the hinge", 0.06, low=-0.2, high=3.0)
    up: float = measure("length", "servo's shaft over the hinge, below it negative", 0.0, low=-0.3, high=0.3)
    aside: float | None = measure(
        "length", "servo's shaft farther out than the horn; so that the rod runs straight when left out", None,
        low=-1.0, high=1.0,
    )  # fmt: skip
    facing: Facing = "out"
    port: Literal["mirrored", "alike", "joined", "opposed"] = Field(
        "mirrored", description="the other side: its own servo, mirrored or the same way round; or moved by this one"
    )
    backwards: Literal["neither", "starboard", "port", "both"] = Field(
        "neither", description="sides whose servo turns the other way for a rising pulse"
    )
    arm_to: ArmSide = "below"
    arm: float = measure("length", "radius of the hole of the arm", 0.008, low=0.002, high=0.2)
    arm_holes: Holes = (0.006, 0.008, 0.010, 0.012)
    extension: float = measure("length", "added to the arm", 0.0, low=0.0, high=0.2)
    teeth: Whole = Field(25, ge=10, le=60, description="of the servo's spline")
    clocked: Whole = Field(0, ge=-15, le=15, description="teeth the arm stands ahead of square")
    arm_angle: float = measure("angle", "ahead of that besides", 0.0, low=-1.6, high=1.6)
    travel: float = measure("angle", "of the servo each way at full pulse", 0.7854, low=0.1, high=2.1)
    horn: float = measure("length", "radius of the hole of the horn", 0.012, low=0.002, high=0.2)
    horn_holes: Holes = (0.009, 0.012, 0.015, 0.018)
    horn_ahead: float = measure("length", "hole of the horn ahead of the hinge, behind it negative", 0.0, low=-0.1,
                                high=0.1)  # fmt: skip
    horn_below: Flag = True
    base: float = measure("length", "of the horn on the control, along the chord", 0.015, low=0.001, high=0.2)
    rod: str = Field("Steel wire 1 mm", max_length=120, description="stock of the rod or line")
    rod_size: float = measure("length", "its diameter", 0.001, low=1e-4, high=0.02)
    rod_inner: float = measure("length", "its bore", 0.0, low=0.0, high=0.02)
    rod_modulus: float = measure("modulus", "its Young's modulus", 200e9, low=1e6, high=1e13)
    rod_long: float | None = measure(
        "length", "between its holes; what leaves the control at neutral when left out", None, low=0.005, high=3.0
    )
    guides: float = measure("length", "between guides of the rod; 0 without", 0.0, low=0.0, high=3.0)
    hole_play: float = measure("length", "at each end of the rod", 0.0001, low=0.0, high=0.003)
    gear_play: float = measure("angle", "of the servo", 0.009, low=0.0, high=0.2)
    preload: float = measure("force", "of lines or spring at neutral", 1.0, low=0.0, high=100.0)
    spring: float = measure("wall_stiffness", "of the spring that pulls back", 50.0, low=0.1, high=1e5)
    hinge: Hinge = Hinge()
    sets: Sets = sets()

    def check(self) -> None:
        if self.rod_inner >= self.rod_size:
            raise ValueError(f"a bore smaller than the rod's outside, {self.rod_size:g} m")
        upright = self.facing in ("out", "in")
        if upright != (self.arm_to in ("below", "above")):
            raise ValueError(
                "an arm that points below or above where the servo lies on its side, out or in where it lies flat"
            )
