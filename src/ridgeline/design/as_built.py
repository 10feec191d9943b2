"""What was measured of the finished airframe on the bench: heights of edges, and lengths from tips to tail."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Node, measure
from ridgeline.design.identity import Ident


class Levelled(Node):
    """Heights of the two edges of a surface over the bench, at one place along it on one side."""

    of: Ident = Field(min_length=1, description="id of the surface")
    side: Literal["starboard", "port"] = "starboard"
    out: float = measure("length", "out along the panel from the surface's root", low=0.0, high=5.0)
    leading: float = measure("length", "leading edge over the bench", low=-3.0, high=5.0)
    trailing: float = measure("length", "trailing edge over the bench, control at neutral", low=-3.0, high=5.0)


class Diagonal(Node):
    """Lengths from both tips of a surface, at the trailing edge, to one point on the centre line behind or ahead."""

    of: Ident = Field(min_length=1, description="id of the surface")
    to: float = measure("length", "that point, behind the datum", low=-3.0, high=12.0)
    starboard: float = measure("length", "from the starboard tip", low=0.01, high=15.0)
    port: float = measure("length", "from the port tip", low=0.01, high=15.0)


class AsBuilt(Node):
    """The airframe as it came out, as far as it was measured."""

    levelled: tuple[Levelled, ...] = Field((), max_length=400)
    diagonals: tuple[Diagonal, ...] = Field((), max_length=40)
    height_sigma: float = measure("fine_length", "one sigma of a height", 0.0005, low=0.00002, high=0.02)
    length_sigma: float = measure("fine_length", "one sigma of a length from tip to tail", 0.001, low=0.0001, high=0.05)
