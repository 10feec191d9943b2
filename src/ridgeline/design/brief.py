"""The brief: what the aircraft is for, and the wishes it is sized from."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ridgeline.design.base import Node, measure

Purpose = Literal[
    "trainer", "slow", "sport", "aerobatic", "short_field", "glider", "camera", "tailless", "speed", "scale"
]
BuildMethod = Literal["foam_board", "extruded_foam", "printed_foaming", "printed_plain"]
ControlScheme = Literal["rudder_elevator", "aileron_elevator", "full_house", "elevons", "none"]
Propulsion = Literal["electric", "none"]
Layout = Literal[
    "conventional",
    "low_wing",
    "t_tail",
    "v_tail",
    "inverted_v",
    "twin_fin",
    "twin_boom",
    "twin_fuselage",
    "canard",
    "plank",
    "swept",
    "forward_swept",
    "delta",
    "biplane",
    "triplane",
]
Launch = Literal["hand", "wheels", "bungee"]


class Brief(Node):
    """Wishes and the chosen design point. Sizing reads this and nothing else."""

    purpose: Purpose = "trainer"
    build_method: BuildMethod = "foam_board"
    controls: ControlScheme = "aileron_elevator"
    layout: Layout = "conventional"
    launch: Launch = "hand"
    propulsion: Propulsion = Field("electric", description="what drives it: a motor, or nothing")
    ceiling: float = measure("mass", "heaviest acceptable all-up weight", 0.8, low=0.05, high=25.0)
    span_limit: float = measure("length", "widest span that can be carried or built", 1.4, low=0.2, high=6.0)
    box_length: float | None = measure("length", "transport box, longest side", None, low=0.05, high=10.0)
    box_width: float | None = measure("length", "transport box, middle side", None, low=0.02, high=10.0)
    box_height: float | None = measure("length", "transport box, shortest side", None, low=0.02, high=10.0)
    payload: float = measure("mass", "what it carries", 0.0, low=0.0, high=10.0)
    head_wind: float = measure("speed", "wind to throw or take off into", 1.5, low=0.0, high=15.0)
    field: float = measure("distance", "across the space it is flown in", 100.0, low=5.0, high=2000.0)
    ground_roll: float = measure("distance", "take-off run available", 15.0, low=0.5, high=500.0)
    elevation: float = measure("distance", "field above sea level", 0.0, low=-400.0, high=5000.0)
    temperature_c: float = measure("temperature", "air temperature at the field", 15.0, low=-40.0, high=50.0)
    stall_speed: float = measure("speed", "stalls below", 8.5, above=1.0, high=30.0)
    climb_rate: float = measure("speed", "climbs at", 3.0, low=0.0, high=40.0)
    bank: float = measure("angle", "turns at this bank without sinking", 1.0472, low=0.0, high=1.3963)
    endurance: float = measure("time", "stays up", 720.0, low=0.0, high=6 * 3600.0)
    cruise_ratio: float = measure("ratio", "cruise speed over stall speed", 1.6, low=1.1, high=4.0)
    climb_seconds: float = measure("seconds", "full throttle after launch", 20.0, low=0.0, high=600.0)
    full_share: float = measure("fraction", "of the time after that at full throttle", 0.10, low=0.0, high=1.0)
    wing_loading: float = measure("loading", "design point: mass over wing area", 2.9, above=0.05, high=20.0)
    thrust_ratio: float = measure("ratio", "design point: static thrust over weight", 0.9, low=0.0, high=4.0)
    aspect_ratio: float = measure("ratio", "design point: span squared over area", 6.0, low=1.0, high=25.0)
    tail_volume_h: float = measure("ratio", "horizontal tail volume aimed at", 0.55, low=0.0, high=1.5)
    tail_volume_v: float = measure("coefficient", "vertical tail volume aimed at", 0.04, low=0.0, high=0.2)
    body_angle: float = measure("angle", "body to the air in cruise, where that is chosen", 0.0, low=-0.2, high=0.2)
    mark_out: float = measure("length", "balance marks, out from the centre line", 0.05, low=0.0, high=3.0)
    growth: float = measure(
        "fraction", "kept for growth, of board, glue and leads not weighed yet", 0.20, low=0.0, high=0.5
    )
    static_margin: float = measure("fraction", "static margin aimed at", 0.10, low=-0.1, high=0.4)
    packs: tuple[str, ...] = Field((), max_length=60, description="packs on hand, by library name")
    typed: tuple[str, ...] = Field(
        (), max_length=60, description="wishes the builder chose himself; the others follow the purpose"
    )
