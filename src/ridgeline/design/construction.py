"""How a surface or a body is built: its form, board, papers, spars, hinge, covering, glue and holes.

One description, from which its pieces follow, and from them what it weighs, bears and is cut from.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Whole, measure

#: How a lifting surface is built (second part of the handbook §15.1), ``bought`` as it came.
SurfaceForm = Literal["plate", "stepped", "curved", "folded", "folded_under", "ribbed", "core", "printed", "bought"]
#: How a body is built.
BodyForm = Literal["profile", "box", "stick", "folded_box", "printed", "carved", "bought"]
#: What lets a control turn.
HingeKind = Literal["tape", "glue", "printed", "none"]
#: Which side of a box is left out.
OpenSide = Literal["none", "top", "bottom"]
Peeled = Annotated[int, Field(ge=0, le=2, strict=True)]


class Board(Node):
    """Sheet a part is cut from; its constants are copied from the library."""

    material: str = Field("Foam board 5 mm", max_length=120)
    areal: float = measure("loading", "mass per area, papers on", 0.3, low=0.0, high=20.0)
    faced: Flag = Field(True, description="has a paper on either face, that can be peeled")
    peeled: Peeled = Field(0, description="paper faces peeled off")

    @property
    def papers(self) -> int:
        """How many of its faces still have a paper."""
        return 2 - self.peeled if self.faced else 0


class Covering(Node):
    """What is laid on all round: film, tape or paint."""

    material: str = Field("Food film", max_length=120)
    areal: float = measure("loading", "mass per area of one layer", 0.015, low=0.0, high=5.0)
    layers: float = measure("ratio", "layers or coats", 1.0, low=0.0, high=20.0)
    wall: float = measure(
        "wall_stiffness", "of one layer in shear, shear modulus times thickness; 0 of what bears nothing",
        0.0, low=0.0, high=1e7,
    )  # fmt: skip


class Printing(Node):
    """How a shell is printed."""

    material: str = Field("PLA", max_length=120)
    density: float = measure("density", "of the printed material", 1240.0, low=10.0, high=12000.0)
    line_width: float = measure("length", "width of one line", 0.00045, low=5e-5, high=0.01)
    perimeters: float = measure("ratio", "lines in the wall", 1.0, low=0.0, high=20.0)
    infill: float = measure("fraction", "share of the inside that is filled", 0.0, low=0.0, high=1.0)
    ribs: float = measure("fraction", "ribs and webs over the shell", 0.15, low=0.0, high=3.0)


class Spar(Node):
    """Stock that lies along a panel: a spar, a stiffener behind the nose, or a joiner between two halves.

    ``start`` and ``end`` are shares of the panel from its root; what goes ``through`` is one piece from side to side.
    Without ``modulus`` and ``strength``, copied from the library, nothing is known of what it bears.
    """

    material: str = Field("Carbon rod 3 mm", max_length=120)
    linear: float = measure("linear_mass", "mass per length", 0.011, low=0.0, high=5.0)
    width: float = measure("length", "across, along the chord", 0.003, low=1e-4, high=0.1)
    height: float = measure("length", "up and down", 0.003, low=1e-4, high=0.1)
    round: Flag = Field(True, description="a rod or tube of its height; a strip of width and height where not")
    inner: float = measure("length", "bore of a tube; 0 of what is solid", 0.0, low=0.0, high=0.1)
    sides: float = measure(
        "length", "thickness of a channel's web and flanges; 0 of a solid strip", 0.0, low=0.0, high=0.05
    )
    modulus: float | None = measure("modulus", "Young's modulus; empty where not known", None, low=1e6, high=1e13)
    strength: float | None = measure(
        "stress", "at which it breaks, or yields where it does that; empty where not known", None, low=1e4, high=1e10
    )
    yields: Flag = Field(False, description="bends for good before it breaks, as metal does")
    place: float = measure("fraction", "of the chord, behind the leading edge", 0.3, low=0.0, high=1.0)
    start: float = measure("fraction", "of the panel: its inner end", 0.0, low=0.0, high=1.0)
    end: float = measure("fraction", "of the panel: its outer end", 0.9, low=0.0, high=1.0)
    count: Whole = Field(1, ge=1, le=20, description="side by side")
    caps: Flag = Field(False, description="half of them along the upper skin and half along the lower")
    through: Flag = Field(True, description="one piece from side to side")
    sliding: Flag = Field(False, description="slides out, as a joiner of a wing that comes apart")

    def check(self) -> None:
        if self.end <= self.start:
            raise ValueError(f"its end, {self.end:g} of the panel, outside its start at {self.start:g}")
        if self.inner >= self.height:
            raise ValueError(f"a bore smaller than its outside, {self.height:g} m")
        if self.caps and self.count % 2:
            raise ValueError(f"as many along the upper skin as along the lower; {self.count} are an odd number")
        if not self.round and 2 * self.sides > min(self.width + self.sides, self.height):
            raise ValueError(f"sides that leave a channel hollow; {self.width:g} × {self.height:g} m is all of it")


class RootHold(Node):
    """What keeps a wing that turns on one spar from turning: a pin, a brace or bands, ``arm`` behind or before it."""

    arm: float = measure("length", "between the spar and what holds", 0.08, low=0.002, high=2.0)
    spring: float = measure("wall_stiffness", "force over give of what holds", 2e4, low=10.0, high=1e8)


class Holes(Node):
    """Round lightening holes in a row along each panel, clear of spars, hinges and edges."""

    count: Whole = Field(3, ge=1, le=200, description="in each panel")
    size: float = measure("length", "diameter", 0.04, low=0.002, high=1.0)
    land: float = measure("length", "left between a hole and the next edge, spar or hinge", 0.015, low=0.002, high=0.5)


class SurfaceBuild(Node):
    """How a lifting surface is built. What a form does not have is not read."""

    form: SurfaceForm = "plate"
    board: Board = Board()
    doubler: float = measure("fraction", "stepped: share of the chord doubled, from the nose", 0.4, low=0.05, high=1.0)
    reach: float = measure("fraction", "folded: share of the chord the second skin reaches", 1.0, low=0.2, high=1.0)
    strips: Whole = Field(2, ge=0, le=6, description="spar strips of board, one over the other, or webs between skins")
    strip_width: float = measure("length", "spar strips: width of one", 0.025, low=0.002, high=0.2)
    strip_place: float = measure("fraction", "spar strips: of the chord", 0.3, low=0.05, high=0.8)
    rib_spacing: float = measure("length", "between ribs", 0.1, low=0.01, high=2.0)
    foam: str = Field("EPP", max_length=120, description="core: the foam it is cut from")
    foam_density: float = measure("density", "core: of that foam", 25.0, low=2.0, high=2000.0)
    printing: Printing = Printing()
    covering: Covering | None = None
    spars: tuple[Spar, ...] = Field((), max_length=12)
    hinge: HingeKind = "tape"
    bead: float = measure("linear_mass", "glue: mass of a bead per length", 0.004, low=0.0, high=0.2)
    holes: Holes | None = None
    mass: float = measure("mass", "bought: all panels together", 0.1, low=0.0, high=20.0)
    root: RootHold | None = Field(None, description="where it turns on its spar; None where the root is held whole")
    seat_out: float | None = measure(
        "length", "edge of the seat, out from the middle; by the body under it when left out", None, low=0.0, high=2.0
    )


class BodyBuild(Node):
    """How a body is built. What a form does not have is not read."""

    form: BodyForm = "box"
    board: Board = Board()
    sheet: float = measure("length", "thickness of that board", 0.005, low=5e-5, high=0.05)
    doubler: float = measure(
        "fraction", "share of the length with doubled sides, from the nose", 0.5, low=0.0, high=1.0
    )
    formers: Whole = Field(3, ge=0, le=40, description="bulkheads")
    open: OpenSide = Field("none", description="side of a box that is left out")
    stock: str = Field("Carbon tube 4/2.5 mm", max_length=120, description="stick: what it is")
    linear: float = measure("linear_mass", "stick: mass per length", 0.0119, low=0.0, high=5.0)
    inner: float = measure("length", "stick: bore of a tube; 0 of what is solid", 0.0, low=0.0, high=0.2)
    modulus: float | None = measure(
        "modulus", "stick: Young's modulus; empty where not known", None, low=1e6, high=1e13
    )
    strength: float | None = measure(
        "stress", "stick: at which it breaks or yields; empty where not known", None, low=1e4, high=1e10
    )
    yields: Flag = Field(False, description="stick: bends for good before it breaks")
    foam: str = Field("XPS", max_length=120, description="carved: the foam")
    foam_density: float = measure("density", "carved: of that foam", 32.0, low=2.0, high=2000.0)
    hollow: float = measure("fraction", "carved: share of the inside cut out", 0.4, low=0.0, high=0.95)
    printing: Printing = Printing()
    covering: Covering | None = None
    bead: float = measure("linear_mass", "glue: mass of a bead per length", 0.004, low=0.0, high=0.2)
    mass: float = measure("mass", "bought: all of a pair together", 0.1, low=0.0, high=20.0)
