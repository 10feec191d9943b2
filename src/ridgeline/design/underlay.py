"""A photo or drawing laid under a view, to trace from; stored whole in the design."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ridgeline.design.base import Flag, Node, measure

ViewName = Literal["plan", "side", "front"]
#: Longest picture kept with a design, characters of base64 (about 6 MB of picture).
MOST_PICTURE = 8_000_000


class Underlay(Node):
    """A picture under one view. ``across`` and ``along`` place its upper left corner in that view's own axes.

    ``across`` runs to starboard (plan, front) or aft (side); ``along`` aft (plan) or down (side, front).
    """

    name: str = Field(min_length=1)
    view: ViewName = "plan"
    picture: Annotated[str, StringConstraints(max_length=MOST_PICTURE)] = Field(
        min_length=1, description="PNG or JPEG, base64"
    )
    across: float = measure("length", "left edge of the picture", 0.0, low=-20.0, high=20.0)
    along: float = measure("length", "upper edge of the picture", 0.0, low=-20.0, high=20.0)
    metres_per_pixel: float = measure("length", "size of one pixel of the picture", 0.001, low=1e-6, high=1.0)
    strength: float = measure("fraction", "how strongly it shows", 0.35, low=0.0, high=1.0)
    shown: Flag = True
