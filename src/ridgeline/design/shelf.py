"""A shelf of parts to choose from: the shipped library, or a builder's own bin."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import Field

from ridgeline.design.base import Node, measure
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController


class Servo(Node):
    """A servo by its class."""

    name: str = Field(min_length=1)
    mass: float = measure("mass", "with its lead", low=0.0001, high=0.5)
    stall_torque: float = measure("torque", "at 5 V", low=0.0001, high=20.0)
    stall_current: float = measure("current", "at 5 V", low=0.01, high=20.0)
    seconds_per_60_deg: float = measure("ratio", "speed at 5 V", low=0.005, high=5.0)


class Material(Node):
    """A material by its mass per area, volume or length; ``amount`` is in ``unit``."""

    name: str = Field(min_length=1)
    kind: str
    amount: float = measure("ratio", "mass per area, volume or length", above=0.0)
    unit: str


class Shelf(NamedTuple):
    """What there is to choose from, each kind in order of size."""

    motors: tuple[Motor, ...]
    propellers: tuple[Propeller, ...]
    packs: tuple[Pack, ...]
    escs: tuple[SpeedController, ...]
    servos: tuple[Servo, ...]
    materials: tuple[Material, ...]
