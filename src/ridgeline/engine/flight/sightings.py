"""What a pilot sees, in the words of the field, and which figures have something to say of it."""

from __future__ import annotations

from typing import NamedTuple

from ridgeline.design.flights import SightingKey


class Sighting(NamedTuple):
    """One line of the list: its words, and the figures that bear on it."""

    words: str
    figures: tuple[str, ...] = ()


SIGHTINGS: dict[SightingKey, Sighting] = {
    "steady": Sighting("steady, hands off", ("stability.static_margin",)),
    "up_trim": Sighting("needs up trim", ("balance.cg_fraction", "trim.elevator")),
    "down_trim": Sighting("needs down trim", ("balance.cg_fraction", "trim.elevator")),
    "power_up": Sighting("nose up with power", ("power.thrust_ratio",)),
    "power_down": Sighting("nose down with power", ("power.thrust_ratio",)),
    "tucks": Sighting("tucks as speed builds", ("stability.static_margin",)),
    "balloons": Sighting("balloons as speed builds", ("stability.static_margin",)),
    "touchy": Sighting("touchy, will not settle", ("control.pitch_sensitivity", "stability.static_margin")),
    "mushy": Sighting("mushy, will not flare", ("control.elevator_to_stall",)),
    "tip_stalls": Sighting("a tip stalls in turns", ("speed.stall_45",)),
    "drops_wing": Sighting("drops a wing on launch", ("speed.stall",)),
    "throw_drops": Sighting("drops off the throw", ("speed.stall", "power.thrust_ratio")),
    "rolls_with_power": Sighting("rolls off with power", ("power.thrust_ratio",)),
    "no_turn": Sighting("will not turn", ("control.roll_rate",)),
    "rolls_fast": Sighting("rolls too fast", ("control.roll_rate",)),
    "undamped": Sighting("rolls on when let go", ("stability.cl_p",)),
    "tail_wag": Sighting("tail wags", ("tail.volume_v",)),
    "hunts": Sighting("hunts in pitch", ("stability.static_margin",)),
    "flap_trim": Sighting("flaps change its trim", ("speed.stall_flaps",)),
    "flap_nothing": Sighting("flaps do nothing", ("speed.stall_flaps",)),
    "needs_throttle": Sighting("needs much throttle", ("flight.cruise_throttle",)),
    "throttle_steps": Sighting("level between two steps", ("control.throttle_step",)),
    "slower": Sighting("slower than predicted", ("speed.max",)),
    "faster": Sighting("faster than predicted", ("speed.max",)),
    "hot_motor": Sighting("hot motor", ("power.motor_rise", "power.motor_seconds", "power.cooling_inlet")),
    "hot_controller": Sighting("hot controller", ("power.static_current", "power.cooling_inlet")),
    "hot_pack": Sighting("hot pack", ("power.static_current",)),
    "brown_out": Sighting("radio faltered", ("power.receiver_load",)),
    "short_flight": Sighting("shorter than predicted", ("flight.endurance",)),
    "noisy": Sighting("noisy", ("power.tip_mach",)),
    "vibrates": Sighting("vibrates", ("power.static_rpm",)),
    "flutters": Sighting("shakes at speed", ("structure.reversal_speed",)),
}
#: Those that tell of nothing wrong.
WELL: tuple[SightingKey, ...] = ("steady",)
