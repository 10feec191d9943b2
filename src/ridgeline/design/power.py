"""The power train: each link with the constants its model needs, copied from the library into the document."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field

from ridgeline.design.base import Flag, Node, Sets, Whole, measure, price, sets, stock
from ridgeline.design.identity import Ident, ident

PropFamily = Literal["slow_fly", "thin_electric", "wood", "folding", "wide", "tiny", "ducted_fan"]
MotorKind = Literal["brushless", "brushed"]


class Motor(Node):
    """An electric motor by its three constants and its limits."""

    name: str = Field(min_length=1)
    kind: MotorKind = "brushless"
    kv_rpm_per_v: float = measure("speed_constant", "speed constant", low=10.0, high=20000.0)
    resistance: float | None = measure(
        "resistance", "winding, terminal to terminal; empty follows from Kv and mass", None, low=0.0001, high=10.0
    )
    no_load_current: float | None = measure(
        "current", "at the no-load voltage; empty follows from Kv and mass", None, low=0.0, high=20.0
    )
    no_load_voltage: float = measure("voltage", "at which the no-load current was read", 10.0, low=0.5, high=60.0)
    mass: float = measure("mass", "one motor with its leads", low=0.0001, high=3.0)
    max_current: float = measure("current", "for half a minute", low=0.1, high=300.0)
    max_cells: Whole = Field(3, ge=1, le=14)
    diameter: float = measure("length", "of the can", 0.028, low=0.002, high=0.2)
    length: float = measure("length", "of the can", 0.026, low=0.002, high=0.2)
    shaft: float = measure("length", "diameter of the shaft; 0 where not known", 0.0, low=0.0, high=0.03)
    poles: Whole = Field(14, ge=2, le=60, description="magnets around the bell")
    brush_drop: float = measure("voltage", "lost at the brushes; 0 for brushless", 0.0, low=0.0, high=3.0)
    lag: float | None = measure(
        "seconds", "measured L/R of the winding; by the mass where not", None, low=0.0, high=0.01
    )
    stated_kv: float | None = measure("speed_constant", "as sold, where Kv was measured", None, low=10.0, high=20000.0)
    stated_resistance: float | None = measure("resistance", "as sold, where measured", None, low=0.0001, high=10.0)
    stated_no_load: float | None = measure("current", "as sold, where measured", None, low=0.0, high=20.0)
    kv_sigma: float | None = measure("fraction", "one sigma of a measured Kv", None, low=0.0, high=0.5)
    resistance_sigma: float | None = measure("fraction", "one sigma of a measured winding", None, low=0.0, high=1.0)
    lag_sigma: float | None = measure("fraction", "one sigma of a measured lag", None, low=0.0, high=1.0)
    no_load_sigma: float | None = measure(
        "fraction", "one sigma of a measured no-load current", None, low=0.0, high=1.0
    )
    price: float | None = price()
    stock: Whole | None = stock()
    bolt_circle: float = measure("length", "of the mounting holes; 0 where not known", 0.0, low=0.0, high=0.2)


class SpeedController(Node):
    """An electronic speed controller (ESC)."""

    name: str = Field(min_length=1)
    kind: MotorKind = "brushless"
    max_current: float = measure("current", "continuous rating", low=0.1, high=400.0)
    resistance: float | None = measure(
        "resistance", "on-resistance with its leads; empty follows from the rating", None, low=0.0, high=1.0
    )
    mass: float = measure("mass", "with leads", low=0.0001, high=1.0)
    max_cells: Whole = Field(4, ge=1, le=14)
    bec_current: float = measure("current", "what its receiver supply gives; 0 without one", 2.0, low=0.0, high=30.0)
    bec_linear: Flag = Field(False, description="the receiver supply burns off the voltage it does not need")
    max_erpm: float = measure("rotation", "electrical; 0 where not known", 240000.0, low=0.0, high=1e6)
    connector: str = Field("", max_length=40, description="plug towards the pack; empty where not known")
    price: float | None = price()
    stock: Whole | None = stock()


class ChargePoint(Node):
    """One row of a cell's own voltage curve: volts at no load over its state of charge."""

    charge: float = measure("fraction", "state of charge", low=0.0, high=1.0)
    volts: float = measure("voltage", "of one cell at no load", low=0.5, high=5.0)


class Pack(Node):
    """A pack of cells: lithium polymer pouches unless it brings its own voltage curve and cut-off."""

    name: str = Field(min_length=1)
    cells: Whole = Field(ge=1, le=14)
    capacity_ah: float = measure("capacity", "rated", low=0.01, high=100.0)
    cell_resistance: float | None = measure(
        "resistance", "of one cell; empty follows from capacity and claimed C", None, low=5e-5, high=1.0
    )
    c_rating: float = measure("ratio", "claimed discharge over capacity, 1/h", 30.0, low=0.5, high=300.0)
    mass: float | None = measure(
        "mass", "with leads; empty follows from cells and capacity", None, low=0.0001, high=5.0
    )
    length: float = measure("length", "longest side", 0.1, low=0.002, high=0.5)
    width: float = measure("length", "middle side; 0 where not known", 0.0, low=0.0, high=0.3)
    height: float = measure("length", "shortest side; 0 where not known", 0.0, low=0.0, high=0.3)
    curve: tuple[ChargePoint, ...] = Field(
        (), max_length=40, description="its own volts over charge; a lithium polymer cell's where left out"
    )
    connector: str = Field("", max_length=40, description="plug; empty where not known")
    cut_off: float | None = measure(
        "voltage", "least a cell may be pulled to under load; 3.4 V where not", None, low=0.5, high=4.0
    )
    price: float | None = price()
    stock: Whole | None = stock()

    def check(self) -> None:
        rows = [(row.charge, row.volts) for row in self.curve]
        if rows and (rows[0][0] != 0 or rows[-1][0] != 1):
            raise ValueError("a voltage curve from empty (0) to full (1)")
        if any(b[0] <= a[0] or b[1] < a[1] for a, b in pairwise(rows)):
            raise ValueError("a voltage curve that rises with the charge, row by row")


class Advance(Node):
    """One row of a measured propeller: coefficients at an advance ratio."""

    advance: float = measure("ratio", "J = V/(n D)", low=0.0, high=3.0)
    thrust: float = measure("coefficient", "C_T = T/(d n² D⁴)", low=-0.5, high=0.5)
    power: float = measure("coefficient", "C_P = P/(d n³ D⁵)", low=-0.5, high=0.5)


class Propeller(Node):
    """A propeller by diameter, pitch, blades and family."""

    name: str = Field(min_length=1)
    family: PropFamily = "thin_electric"
    diameter: float = measure("length", "of the disc", low=0.0022, high=1.0)
    pitch: float = measure("length", "advance in one turn without slip", low=0.003, high=1.0)
    blades: Whole = Field(2, ge=2, le=4)
    mass: float = measure("mass", "one propeller", low=0.0001, high=1.0)
    bore: float = measure("length", "hole through the hub; 0 where not known", 0.0, low=0.0, high=0.03)
    table: tuple[Advance, ...] = Field((), max_length=200, description="measured coefficients that replace the family")
    thrust_factor: float = measure("ratio", "thrust measured over predicted", 1.0, low=0.2, high=3.0)
    power_factor: float = measure("ratio", "power measured over predicted", 1.0, low=0.2, high=3.0)
    factor_sigma: float | None = measure("fraction", "one sigma of measured factors", None, low=0.0, high=0.5)
    price: float | None = price()
    stock: Whole | None = stock()

    def check(self) -> None:
        if self.table:
            steps = [row.advance for row in self.table]
            if len(steps) < 3 or steps[0] > 0.2 or any(b <= a for a, b in pairwise(steps)):
                raise ValueError("three rows or more, from standing (J ≤ 0.2) upward")
            if self.table[0].thrust <= 0 or self.table[0].power <= 0:
                raise ValueError("a propeller that pulls and takes power when it stands")


class Mount(Node):
    """What a motor is screwed to, and which way its shaft points. A mirrored mount carries one on each side."""

    id: Ident = ident()
    x: float = measure("length", "firewall the motor is screwed to, behind the datum", 0.05, low=-1.0, high=10.0)
    y: float = measure("length", "shaft at the firewall, to starboard of the centre line", 0.0, low=-3.0, high=3.0)
    z: float = measure("length", "shaft at the firewall, above the datum", 0.0, low=-3.0, high=3.0)
    spacer: float = measure("length", "stand-off between firewall and motor", 0.0, low=0.0, high=0.3)
    adapter: float = measure("length", "from the motor's end to the propeller's disc", 0.008, low=0.0, high=0.3)
    inside: float | None = measure(
        "length", "measured inner diameter of a round nose its plate closes; by the body when left out", None,
        low=0.005, high=1.0,
    )  # fmt: skip
    mirrored: Flag = Field(False, description="has a like motor on the other side")
    pusher: Flag = Field(False, description="the propeller stands behind its motor")
    down: float = measure("angle", "shaft tilted down", 0.0, low=-0.5, high=0.5)
    right: float = measure("angle", "shaft turned right", 0.0, low=-0.5, high=0.5)
    clockwise: Flag = Field(True, description="turns clockwise, seen from behind the aircraft")
    right_handed: Flag = Field(True, description="its propeller pulls when it turns clockwise, seen from behind")
    opposed: Flag = Field(False, description="the like motor turns the other way, with a propeller of the other hand")

    @property
    def turns(self) -> tuple[int, ...]:
        """Ways its propellers turn, seen from behind: 1 clockwise, −1 the other way, starboard first."""
        here = 1 if self.clockwise else -1
        return (here, -here if self.opposed else here) if self.mirrored else (here,)

    @property
    def blows_back(self) -> bool:
        """Whether its propeller, turning as it does, drives the air aft."""
        return self.clockwise == self.right_handed


class BenchRow(Node):
    """One settled reading of one motor, volts and amperes before the controller: two of them, or more."""

    throttle: float | None = measure("fraction", "asked for; full where not told", None, low=0.0, high=1.0)
    voltage: float | None = measure("voltage", "before the controller", None, low=0.0, high=70.0)
    current: float | None = measure("current", "drawn by one motor's controller", None, low=0.0, high=400.0)
    rpm: float | None = measure("rotation", "of the propeller", None, low=0.0, high=100000.0)
    thrust: float | None = measure("force", "of one propeller", None, low=-50.0, high=500.0)
    power: float | None = measure("power", "drawn by one motor's controller", None, low=0.0, high=20000.0)

    def check(self) -> None:
        told = [name for name in READINGS if getattr(self, name) is not None]
        if len(told) < 2 or not any(name in told for name in ("current", "rpm", "thrust", "power")):
            raise ValueError("two or more of volts, amperes, rpm, thrust, watts and throttle, one of them measured")


#: What a reading of the bench may tell.
READINGS = ("throttle", "voltage", "current", "rpm", "thrust", "power")
Logarithm = Annotated[float, Field(ge=-5.0, le=5.0, strict=True)]


class Fitted(Node):
    """How motor and propeller may still err together after a bench: holds while their constants are these."""

    values: tuple[float, ...] = Field(min_length=6, max_length=6, description="Kv, R, L/R, I0, power, thrust factor")
    steps: tuple[Logarithm, ...] = Field(
        min_length=36, max_length=36, description="six independent one-sigma steps of their logarithms, row by row"
    )


class PowerTrain(Node):
    """One motor, propeller and ESC kind, one of each at every mount, on one pack."""

    id: Ident = ident()
    motor: Motor
    esc: SpeedController
    pack: Pack
    propeller: Propeller
    mounts: tuple[Mount, ...] = Field((Mount(),), min_length=1, max_length=4)
    pack_series: Whole = Field(1, ge=1, le=4, description="packs one after another")
    pack_parallel: Whole = Field(1, ge=1, le=4, description="packs side by side")
    lead_resistance: float = measure("resistance", "leads and connectors", 0.004, low=0.0, high=1.0)
    lead_awg: Whole | None = Field(None, ge=4, le=30, description="wire gauge of the pack's leads")
    motor_lead: float = measure("length", "between controller and motor beyond their own leads", 0.0, low=0.0, high=3.0)
    motor_lead_awg: Whole = Field(16, ge=4, le=30, description="wire gauge of those")
    bench: tuple[BenchRow, ...] = Field((), max_length=2000, fail_fast=True, description="rows of the thrust stand")
    bench_fit: Fitted | None = None
    cooling_inlet: float = measure("area", "opening for cooling air; 0 where not known", 0.0, low=0.0, high=0.1)
    sets: Sets = sets()

    def check(self) -> None:
        if self.motors > 4:
            raise ValueError(f"one to four motors; these mounts carry {self.motors}")
        if self.cells > 14:
            raise ValueError(f"14 cells in series at most; these packs make {self.cells}")

    @property
    def motors(self) -> int:
        """Number of motors over all mounts."""
        return sum(2 if mount.mirrored else 1 for mount in self.mounts)

    @property
    def turning(self) -> int:
        """Motors that turn clockwise, seen from behind, over those that turn the other way."""
        return sum(way for mount in self.mounts for way in mount.turns)

    @property
    def packs(self) -> int:
        """Number of packs."""
        return self.pack_series * self.pack_parallel

    @property
    def cells(self) -> int:
        """Cells in series over all packs."""
        return self.pack.cells * self.pack_series

    @property
    def capacity_ah(self) -> float:
        """Capacity of all packs together."""
        return self.pack.capacity_ah * self.pack_parallel
