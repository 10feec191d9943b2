"""What an aircraft is built to bear: its limit load factor, how far its tips may bend, how fast it may go."""

from __future__ import annotations

from pydantic import Field

from ridgeline.design.base import Flag, Node, measure


class Loads(Node):
    """Wishes of the structure. What is left out follows the purpose or the aircraft."""

    factor: float | None = measure(
        "factor", "limit load factor; by the purpose when left out", None, low=1.0, high=40.0
    )
    tip: float = measure("fraction", "most the tips may bend at it, of the half span", 0.10, low=0.005, high=0.6)
    dive_speed: float | None = measure(
        "speed", "fastest it is to be flown; by top speed or glide when left out", None, low=2.0, high=150.0
    )
    gust: float = measure("speed", "upward gust met in cruise; half of it in a dive", 6.0, low=0.0, high=20.0)
    sink: float = measure("speed", "of a hard touch-down", 1.0, low=0.0, high=6.0)
    swung: Flag = Field(False, description="launched by the wing tip, in a turn")
    swing_speed: float | None = measure(
        "speed", "it leaves the hand with, swung by the wing tip; by its span when left out", None, low=3.0, high=60.0
    )
