"""What holds parts together: how a wing is seated, a motor mounted, a pack strapped, legs, booms and tails fixed."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Node, Sets, Whole, measure, sets
from ridgeline.design.identity import Ident, ident

#: What a fastening is: what holds a wing down, a motor, a pack, an aircraft on its legs, a boom, a tail, a servo.
FasteningKind = Literal[
    "bands",
    "bolts",
    "magnets",
    "tongue",
    "elbow",
    "screws",
    "bond",
    "prop_bands",
    "strap",
    "legs",
    "boom",
    "socket",
    "strut",
    "thread",
    "firewall",
    "blade_stop",
    "skid",
    "servo_seat",
    "lines",
]
#: What holds a wing out on its span, and so bears and bends with it; a thread pulls only.
BRACES: tuple[FasteningKind, ...] = ("strut", "thread")


class Fastening(Node):
    """One fastening. What its kind does not have is not read.

    ``of`` is the id of what it holds: a wing or tail, a motor mount, an item, a wheel, a body. A strut or thread runs
    from there to its foot on ``to``: a body, or another wing.
    """

    id: Ident = ident()
    kind: FasteningKind
    name: str = Field(min_length=1, max_length=120)
    of: Ident = Field("", description="id of what it holds")
    count: Whole = Field(1, ge=1, le=60, description="strands, bolts, screws, magnets, legs, straps, struts a side")
    size: float = measure(
        "length", "diameter of dowel, bolt, leg, boom, strut or thread; width of tape", 0.004, low=0.0002, high=0.2
    )
    hold: float | None = measure(
        "force",
        "pull of one strand, strap, screw or magnet as rated; by its kind when left out",
        None,
        low=0.01,
        high=5000.0,
    )
    length: float = measure(
        "length", "stick along the edge, leg, boom outside its socket, depth in it, bonded length", 0.05,
        low=0.001, high=5.0,
    )  # fmt: skip
    width: float = measure("length", "of what is bonded, or of a tongue", 0.03, low=0.001, high=1.0)
    sheet: float = measure("length", "thickness of what it bears on", 0.005, low=2e-4, high=0.1)
    angle: float = measure("angle", "of bands to the seat", 0.61, low=0.05, high=1.57)
    gap: float = measure("length", "between a magnet and its plate", 0.0, low=0.0, high=0.01)
    out: float = measure("length", "of an elbow, strut, thread or horn: out along the panel", 0.0, low=0.0, high=5.0)
    inner: float = measure("length", "bore of a boom or strut; 0 of what is solid", 0.0, low=0.0, high=0.2)
    to: Ident = Field("", description="id of what the foot of a strut or thread is on")
    foot: float = measure("length", "of a strut or thread: its foot out from the middle", 0.03, low=0.0, high=5.0)
    drop: float | None = measure(
        "length", "its foot below the wing, above it negative; by what it stands on when left out", None,
        low=-2.0, high=2.0,
    )  # fmt: skip
    softens_c: float | None = measure(
        "temperature", "at which what a motor is fixed to gives; by its kind when left out", None, low=30.0, high=400.0
    )
    modulus: float | None = measure(
        "modulus", "of leg, boom, strut or thread; by its kind when left out", None, low=1e6, high=1e13
    )
    bears: float | None = measure(
        "stress", "of what it bears on, or at which leg, boom, strut or thread gives; by its kind when left out", None,
        low=1e3, high=1e10,
    )  # fmt: skip
    sets: Sets = sets()
