"""What the builder knows to stand in the wind and no other part of the design tells: struts, wires, openings."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Node, Whole, measure

DragKind = Literal["wire", "strut", "faired_strut", "opening", "box", "plate_edge", "air_inlet"]


class DragItem(Node):
    """One kind of thing in the wind. Sizes are of one piece; ``count`` pieces are carried.

    ``length`` and ``width`` make the area its drag is counted over: across the flow, but for an opening, whose area is
    seen from above.
    """

    name: str = Field(min_length=1, max_length=60)
    kind: DragKind = "strut"
    count: Whole = Field(1, ge=1, le=100)
    length: float = measure("length", "of one piece", 0.1, low=0.001, high=5.0)
    width: float = measure("length", "across it: thickness of a wire or strut", 0.003, low=1e-4, high=1.0)
