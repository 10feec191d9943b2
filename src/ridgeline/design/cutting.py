"""What pieces are cut from and how: sheets on hand, kerf, slots, pieces laid; and the printer of what is printed."""

from __future__ import annotations

from pydantic import Field

from ridgeline.design.base import Flag, Node, Whole, measure


class SheetStock(Node):
    """Sheets of one size on hand, of boards of a material; of any where that is left out."""

    material: str = Field("", max_length=120, description="board it is of; any where left out")
    width: float = measure("length", "across the grain", 0.508, low=0.02, high=5.0)
    length: float = measure("length", "along the grain", 0.762, low=0.02, high=10.0)
    count: Whole = Field(20, ge=0, le=1000, description="on hand")
    price: float | None = measure("ratio", "of one, in the builder's money", None, low=0.0, high=1e6)


#: Ply that mounts and horns come from, and the offcuts of it that are at hand.
PLY_3, PLY_2 = "Birch ply 3 mm", "Birch ply 2 mm"
_PLY = tuple(SheetStock(material=ply, width=0.1, length=0.3, count=4) for ply in (PLY_3, PLY_2))


class LaidPiece(Node):
    """A piece laid by hand: its key, on which sheet, where its corner lies and how it is turned."""

    piece: str = Field(min_length=1, max_length=80)
    sheet: Whole = Field(0, ge=0, le=999)
    x: float = measure("length", "from the sheet's edge, across", low=-1.0, high=10.0)
    y: float = measure("length", "from the sheet's edge, along", low=-1.0, high=10.0)
    turn: float = measure("angle", "turned anticlockwise", 0.0, low=-7.0, high=7.0)


class Printer(Node):
    """What printed parts are cut to: the bed, the room left over a part, and the clearance of what slides in."""

    width: float = measure("length", "of the bed", 0.22, low=0.03, high=5.0)
    depth: float = measure("length", "of the bed", 0.22, low=0.03, high=5.0)
    height: float = measure("length", "over the bed", 0.25, low=0.03, high=5.0)
    clear: float = measure("length", "left over a part", 0.005, low=0.0, high=0.02)
    clearance: float = measure("fine_length", "of rods in channels, on the diameter", 0.00025, low=0.0, high=0.002)


class Cutting(Node):
    """How the flat patterns are cut."""

    sheets: tuple[SheetStock, ...] = Field((SheetStock(), *_PLY), max_length=40)
    kerf: float = measure("fine_length", "the tool takes away; a knife nothing", 0.0, low=0.0, high=0.005)
    slot_fit: float = measure("fine_length", "slots are narrower than the board", 0.0002, low=-0.002, high=0.002)
    gap: float = measure("length", "between pieces on a sheet", 0.004, low=0.0, high=0.1)
    edge: float = measure("length", "kept from the sheet's edge", 0.002, low=0.0, high=0.2)
    grain: Flag = Field(True, description="pieces keep to the grain: along it or turned round, not across")
    laid: tuple[LaidPiece, ...] = Field((), max_length=1000, description="pieces laid by hand")
