"""What was seen on the bench: which way each control and motor went for each stick, when, and how it was set then."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import DAY, Node, Whole
from ridgeline.design.identity import Ident

#: What a walk asks for: every stick, and what happens when the link is lost.
Asked = Literal["roll", "pitch", "yaw", "flap", "throttle", "lost"]


class Seen(Node):
    """One movement as it was seen.

    ``way`` of a control is 1 for a trailing edge that went down (of what stands: to starboard), -1 up, 0 not at all; of
    a motor 1 where it pushes forward. With the link lost 0 is neutral and off.
    """

    of: Ident = Field(min_length=1, description="id of the linkage or the motor mount")
    side: Literal["starboard", "port"] = "starboard"
    stick: Asked
    way: Whole = Field(ge=-1, le=1)
    day: str = Field("", max_length=10, pattern=DAY, description="of the look, as 2026-11-26")
    setting: str = Field("", max_length=40, description="mark of servo, channel and mix as they were then")


class Changed(Node):
    """One thing that was taken to be wrong, or was changed: channels, outputs and sticks by their places."""

    kind: Literal["reverse", "swap", "mix", "turn", "around"]
    one: Whole = Field(ge=0, le=400)
    other: Whole = Field(-1, ge=-1, le=400)


class PastLook(Node):
    """What everything did after some changes: "+", "-" or "0" for each output and stick, "." where nobody looked."""

    steps: tuple[Changed, ...] = Field((), max_length=12)
    does: str = Field("", max_length=200, pattern=r"^[-+0.]*$")


class Tried(Node):
    """Looks at what is not right yet, what is taken to be wrong, and a mark of the radio and linkages after it."""

    looks: tuple[PastLook, ...] = Field((), max_length=12)
    steps: tuple[Changed, ...] = Field((), max_length=12, description="changed since the last look")
    wrong: tuple[Changed, ...] = Field((), max_length=6)
    mark: str = Field("", max_length=40)
