"""How an item's mass follows from the geometry: what it is made of, along what, and how much of it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, measure
from ridgeline.design.construction import Peeled
from ridgeline.design.identity import Ident

#: What is taken from the geometry: sheet over an area, a printed shell, stock or glue along a length, a covering; or
#: the pieces of the construction of what it follows.
BuildKind = Literal["sheet", "print", "length", "covering", "pieces"]
#: Which pieces of a construction an item of the weight table stands for.
PieceGroup = Literal["shell", "spars", "covering", "glue"]


class Build(Node):
    """A recipe that turns a surface's or a body's geometry into mass. Its constants are copied from the library.

    ``of`` is the id of the surface or body it follows; without one, ``extent`` is the area (m²) or length (m) itself,
    and pieces are those of every part that says how it is built.
    """

    kind: BuildKind
    material: str = Field("", max_length=120)
    of: Ident = Field("", description="id of the surface or body it follows")
    areal: float = measure("loading", "sheet or covering: mass per area", 0.3, low=0.0, high=20.0)
    density: float = measure("density", "print: of the printed material", 1240.0, low=0.0, high=12000.0)
    linear: float = measure("linear_mass", "stock, glue or tape: mass per length", 0.01, low=0.0, high=5.0)
    layers: float = measure("ratio", "layers, coats, or lengths side by side", 1.0, low=0.0, high=40.0)
    faced: Flag = Field(False, description="board with a paper on either face, that can be peeled")
    peeled: Peeled = Field(0, description="paper faces peeled off the board")
    line_width: float = measure("length", "print: width of one line", 0.00045, low=5e-5, high=0.01)
    perimeters: float = measure("ratio", "print: lines in the wall", 1.0, low=0.0, high=20.0)
    infill: float = measure("fraction", "print: share of the inside that is filled", 0.0, low=0.0, high=1.0)
    ribs: float = measure("fraction", "print: ribs and webs over the shell", 0.15, low=0.0, high=3.0)
    known: float | None = measure(
        "fraction", "one-sigma error of the estimate, once learnt; by its kind when left out", None, low=0.0, high=1.0
    )
    pieces: PieceGroup = Field("shell", description="pieces: which of the construction's")
    share: float = measure(
        "fraction",
        "that is there after cut-outs; over one for overlaps; of pieces what the scale says of like ones",
        1.0,
        low=0.0,
        high=5.0,
    )
    extent: float = measure("area", "area m², or length m, where it follows nothing", 0.0, low=0.0, high=100.0)
