"""What was flown: every flight as it was written down at the field, and what was taken from it into the design."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import DAY, Flag, Node, Whole, measure
from ridgeline.design.identity import Ident

Launched = Literal["hand", "wheels", "bungee", "tow", "slope"]
#: What a pilot sees, by its key; the words and what the model has to say of each are the engine's.
SightingKey = Literal[
    "up_trim", "down_trim", "power_up", "power_down", "tucks", "balloons", "touchy", "mushy", "tip_stalls",
    "drops_wing", "rolls_with_power", "no_turn", "rolls_fast", "undamped", "tail_wag", "hunts", "flap_trim",
    "flap_nothing", "needs_throttle", "throttle_steps", "slower", "faster", "hot_motor", "hot_controller", "hot_pack",
    "brown_out", "short_flight", "noisy", "vibrates", "flutters", "throw_drops", "steady",
]  # fmt: skip


class SpeedPass(Node):
    """A level pass over a measured length, or past something that measures speed over the ground."""

    way: Literal["up", "down", "across"] = Field("across", description="up the wind, down it, or across")
    throttle: float = measure("fraction", "held", 1.0, low=0.0, high=1.0)
    speed: float | None = measure("speed", "over the ground, where that was measured", None, low=0.5, high=120.0)
    length: float | None = measure("distance", "between the marks", None, low=2.0, high=2000.0)
    seconds: float | None = measure("seconds", "from mark to mark", None, low=0.1, high=600.0)

    def check(self) -> None:
        if self.speed is None and (self.length is None or self.seconds is None):
            raise ValueError("a speed, or a length and the seconds it took")

    @property
    def over_ground(self) -> float:
        """Speed over the ground, m/s."""
        if self.speed is not None:
            return self.speed
        assert self.length is not None and self.seconds is not None
        return self.length / self.seconds


class Moment(Node):
    """A moment of a recorded flight, the mean of some seconds; what the recorder does not tell is left out."""

    at: float = measure("seconds", "after the first row", low=0.0, high=36000.0)
    voltage: float | None = measure("voltage", "of the pack under load", None, low=0.0, high=70.0)
    current: float | None = measure("current", "drawn from the pack", None, low=-5.0, high=400.0)
    speed: float | None = measure("speed", "through the air", None, low=0.0, high=150.0)
    ground_speed: float | None = measure("speed", "over the ground", None, low=0.0, high=150.0)
    height: float | None = measure("distance", "over the start", None, low=-2000.0, high=5000.0)
    rpm: float | None = measure("rotation", "of the propeller", None, low=0.0, high=100000.0)
    throttle: float | None = measure("fraction", "asked for", None, low=0.0, high=1.0)


class Flight(Node):
    """One flight. What was not looked at is left out."""

    id: Ident = Field("", description="what it is called for good; numbered by the design when left out")
    day: str = Field("", max_length=10, pattern=DAY, description="as 2026-11-26")
    version: Whole = Field(1, ge=1, le=100_000, description="of the aircraft that flew")
    fitted: Ident = Field("", description="id of the set that flew; none where there is one only")
    pack: str = Field("", max_length=40, description="what is written on the pack")
    cells: Whole = Field(0, ge=0, le=14, description="in series, of what was aboard; 0 without a motor")
    capacity_ah: float = measure("capacity", "of what was aboard", 0.0, low=0.0, high=400.0)
    mass: float | None = measure("mass", "it flew at, where it was weighed", None, low=0.02, high=40.0)
    balance: float | None = measure(
        "length", "behind the datum, where it was put on supports", None, low=-2.0, high=10.0
    )
    launch: Launched = "hand"
    wind: float | None = measure("speed", "at the field", None, low=0.0, high=25.0)
    gusts: float | None = measure("speed", "the strongest", None, low=0.0, high=40.0)
    temperature_c: float | None = measure("temperature", "of the air", None, low=-40.0, high=50.0)
    trim_pitch: float | None = measure("angle", "of elevator, trailing edge up: a pull", None, low=-0.7, high=0.7)
    trim_roll: float | None = measure("angle", "of ailerons, to the right", None, low=-0.7, high=0.7)
    trim_yaw: float | None = measure("angle", "of rudder, to the right", None, low=-0.7, high=0.7)
    aloft: float | None = measure("flight_time", "from launch to landing", None, low=1.0, high=36000.0)
    put_back_ah: float | None = measure("capacity", "by the charger afterwards", None, low=0.0, high=400.0)
    rested: float | None = measure("cell_voltage", "of one cell, a quarter of an hour after", None, low=2.0, high=4.4)
    trim_power: float | None = measure(
        "angle", "of elevator, trailing edge up, that full throttle takes more than cruise", None, low=-0.7, high=0.7
    )
    trim_flap: float | None = measure(
        "angle", "of elevator, trailing edge up, that flaps take more", None, low=-0.7, high=0.7
    )
    roll_seconds: float | None = measure("seconds", "of one whole roll at full stick", None, low=0.1, high=60.0)
    glide_ratio: float | None = measure("glide", "power off, by height and distance", None, low=1.0, high=60.0)
    rpm: float | None = measure("rotation", "at full throttle, standing", None, low=100.0, high=100000.0)
    resistance: float | None = measure("resistance", "of the pack, by the charger", None, low=0.0005, high=5.0)
    passes: tuple[SpeedPass, ...] = Field((), max_length=40)
    seen: tuple[SightingKey, ...] = Field((), max_length=40, description="picked from the list")
    words: str = Field("", max_length=1000, description="what else was seen")
    changed: str = Field("", max_length=400, description="since the flight before")
    damage: str = Field("", max_length=400)
    repair: float | None = measure("mass", "of glue, tape and board it was mended with", None, low=0.0, high=5.0)
    repaired: Ident = Field("", description="id of the part that was mended")
    carried: Ident = Field("", description="id of the item that the repair is carried as")
    record: tuple[Moment, ...] = Field((), max_length=120, description="by the recorder, a moment every few seconds")

    def check(self) -> None:
        if any(a.at >= b.at for a, b in zip(self.record, self.record[1:], strict=False)):
            raise ValueError("moments of a record one after the other")
        if len(set(self.seen)) < len(self.seen):
            raise ValueError("each sighting once")


#: A drag further off than this is no drag of this aircraft, times the reckoned.
LEAST_DRAG, MOST_DRAG = 0.3, 3.0


TakenKey = Literal["balance", "mass", "wing", "tail", "washout", "warp", "thrust", "drag", "resistance", "down", "side"]


class Taken(Node):
    """A figure that was taken from the flights into the design, and what stood there before."""

    key: TakenKey
    path: str = Field(min_length=1, max_length=200, description="of the field that was changed")
    before: float | None = Field(None, ge=-1e6, le=1e6, strict=True, description="that stood there, in its stored unit")
    after: float = Field(ge=-1e6, le=1e6, strict=True)


class Learnt(Node):
    """What flights said of the aircraft and was taken into the design: it replaces what was reckoned."""

    drag_factor: float | None = measure(
        "ratio", "drag of what carries nothing, over the reckoned", None, low=LEAST_DRAG, high=MOST_DRAG
    )
    drag_sigma: float = measure("fraction", "one sigma of that, a share of the whole drag", 0.0, low=0.0, high=1.0)
    drag_from: str = Field("", max_length=80, description="what it was found from")
    balance: float | None = measure("length", "further aft than by its items", None, low=-0.3, high=0.3)
    balance_sigma: float = measure("length", "one sigma of the balance then", 0.0, low=0.0, high=0.1)
    mass: float | None = measure("mass", "more than by its items and what is kept", None, low=-10.0, high=10.0)
    mass_sigma: float = measure("mass", "one sigma of the weight then", 0.0, low=0.0, high=2.0)
    taken: tuple[Taken, ...] = Field((), max_length=40, description="fields that were changed by what flights said")


class LogBook(Node):
    """How the log is kept at the field: what a click of a trim is, who signs, and what is not on yet."""

    click: float = measure("fraction", "of full throw that one click of a trim is", 0.01, low=0.0005, high=0.2)
    pilot: str = Field("", max_length=40, description="letters that sign")
    absent: tuple[Ident, ...] | None = Field(
        None, max_length=200, description="ids of items not on while it is balanced; its propellers when left out"
    )


class Signed(Node):
    """A line of the setup list that was looked at: which, of what, by whom, what was read, and how all was then."""

    line: Ident = Field(min_length=1, description="which line of the list")
    of: Ident = Field("", description="id of the part it is about, where there are several")
    day: str = Field("", max_length=10, pattern=DAY, description="of the look")
    by: str = Field("", max_length=40)
    read: float | None = Field(None, ge=-1e6, le=1e6, strict=True, description="what was read, in its stored unit")
    good: Flag = True
    setting: str = Field("", max_length=40, description="mark of all it hangs on, as that was then")
