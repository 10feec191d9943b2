"""A shelf of parts to choose from: the shipped library, or a builder's own bin."""

from __future__ import annotations

from typing import Literal, NamedTuple

from pydantic import Field

from ridgeline.design.base import Flag, Node, measure, price
from ridgeline.design.parts import Group, Servo
from ridgeline.design.power import Motor, Pack, Propeller, SpeedController

MaterialKind = Literal["sheet", "covering", "bulk", "print", "length"]


class Material(Node):
    """A material by its mass per area, volume or length; ``amount`` is in ``unit``.

    ``kind`` is what it is: sheet, bulk, print, length (stock, leads, beads), or what is laid on: covering. ``faced``
    board has papers that can be peeled. ``thickness`` m is that of sheet, or the diameter of a rod or tube, whose bore
    is ``inner`` m; a strip has a ``width`` m along the chord and stands ``thickness`` high, and is a channel where it
    has ``sides`` m thick, its web upright. ``strength`` Pa is what it
    bears in bending at ultimate load, or the yield of what ``yields``. What has none of them is known by its mass.
    """

    name: str = Field(min_length=1)
    kind: MaterialKind
    faced: Flag = False
    amount: float = measure("ratio", "mass per area, volume or length", above=0.0)
    unit: str
    thickness: float = measure("length", "of sheet; diameter of a rod or tube", 0.0, low=0.0, high=0.2)
    inner: float = measure("length", "bore of a tube", 0.0, low=0.0, high=0.2)
    strength: float = measure("stress", "allowable stress in bending", 0.0, low=0.0, high=1e10)
    modulus: float = measure("modulus", "Young's modulus", 0.0, low=0.0, high=1e13)
    width: float = measure("length", "of a strip, along the chord; 0 of what is round", 0.0, low=0.0, high=0.2)
    sides: float = measure(
        "length", "thickness of a channel's web and flanges; 0 of what is none", 0.0, low=0.0, high=0.05
    )
    yields: Flag = False
    price: float | None = price()
    softens_c: float | None = measure(
        "temperature", "at which it gives under load; empty where that is not known", None, low=20.0, high=400.0
    )
    wall: float = measure("wall_stiffness", "of what is laid on: in shear, of one layer", 0.0, low=0.0, high=1e7)

    @property
    def constant(self) -> float:
        """Return its mass per area, volume or length in stored units: kg/m², kg/m³ or kg/m."""
        return self.amount / (1.0 if self.kind in ("print", "bulk") else 1000.0)


FittingKind = Literal["receiver", "wheel", "horn", "linkage", "hinge", "gear", "fastener", "payload"]


class Fitting(Node):
    """A small part that is bought by the piece: what it counts to, its mass and its extent."""

    name: str = Field(min_length=1)
    kind: FittingKind
    group: Group
    mass: float = measure("mass", "of one", low=0.00001, high=20.0)
    length: float = measure("length", "fore and aft as usually fitted", 0.0, low=0.0, high=10.0)
    width: float = measure("length", "side to side", 0.0, low=0.0, high=10.0)
    height: float = measure("length", "up and down", 0.0, low=0.0, high=3.0)


class Shelf(NamedTuple):
    """What there is to choose from, each kind in order of size."""

    motors: tuple[Motor, ...]
    propellers: tuple[Propeller, ...]
    packs: tuple[Pack, ...]
    escs: tuple[SpeedController, ...]
    servos: tuple[Servo, ...]
    materials: tuple[Material, ...]
    fittings: tuple[Fitting, ...] = ()
