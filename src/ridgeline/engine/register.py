"""The register of figures: every key there is, its label in a builder's words, and its quantity."""

from __future__ import annotations

from typing import NamedTuple


class Entry(NamedTuple):
    """One registered figure."""

    label: str
    quantity: str
    about: str


REGISTER: dict[str, Entry] = {
    "mass.auw": Entry("All-up weight", "mass", "everything aboard, ready to fly"),
    "mass.ceiling": Entry("Ceiling", "mass", "heaviest acceptable all-up weight, from the brief"),
    "mass.weighed": Entry("Weighed so far", "mass", "items whose mass was read off a scale"),
    "mass.reserve": Entry("Growth reserve", "mass", "kept for what unweighed board, glue and leads still gain"),
    "wing.area": Entry("Wing area", "area", "projected, with the part inside the body"),
    "wing.span": Entry("Span", "length", "tip to tip of the widest wing"),
    "wing.aspect_ratio": Entry("Aspect ratio", "ratio", "span squared over area"),
    "wing.mac": Entry("Mean chord", "length", "mean aerodynamic chord"),
    "wing.mac_x_le": Entry("Mean chord leading edge", "length", "behind the datum"),
    "wing.mac_y": Entry("Mean chord out", "length", "from the centre line"),
    "wing.loading": Entry("Wing loading", "loading", "all-up weight over wing area"),
    "wing.cubic_loading": Entry("Cubic loading", "cubic_loading", "all-up weight over area to the power 1.5"),
    "wing.cl_max": Entry("Lift limit", "ratio", "greatest lift coefficient of the airframe"),
    "tail.volume_h": Entry("Tail volume", "ratio", "horizontal tail volume V_H"),
    "tail.volume_v": Entry("Fin volume", "coefficient", "vertical tail volume V_V"),
    "tail.arm": Entry("Tail arm", "length", "quarter chord to quarter chord"),
    "balance.cg_x": Entry("Balance point", "length", "behind the datum"),
    "balance.cg_y": Entry("Balance sideways", "length", "to starboard"),
    "balance.cg_z": Entry("Balance height", "length", "above the datum"),
    "balance.cg_fraction": Entry("Balance", "fraction", "balance point as a share of the mean chord"),
    "balance.cg_from_root": Entry("Behind root edge", "length", "where the balance marks go"),
    "balance.target_low": Entry("Balance, front limit", "fraction", "from the neutral point and the wanted margin"),
    "balance.target_high": Entry("Balance, rear limit", "fraction", "from the neutral point and the wanted margin"),
    "balance.first_flight": Entry("First throw", "fraction", "balance for the first flight"),
    "stability.cl_alpha": Entry("Lift slope", "per_radian", "whole aircraft"),
    "stability.neutral_point_x": Entry("Neutral point", "length", "behind the datum"),
    "stability.neutral_point_fraction": Entry("Neutral point", "fraction", "as a share of the mean chord"),
    "stability.neutral_point_hand": Entry("Neutral point by hand", "fraction", "check by the pencil-and-paper formula"),
    "stability.static_margin": Entry("Static margin", "fraction", "neutral point less balance point, in mean chords"),
    "stability.cm_alpha": Entry("Pitch stiffness", "per_radian", "moment slope about the balance point"),
    "stability.cn_beta": Entry("Weathercock", "per_radian", "yaw from sideslip, nose into the wind positive"),
    "stability.cl_beta": Entry("Dihedral effect", "per_radian", "roll from sideslip, away from the wind negative"),
    "stability.cl_p": Entry("Roll damping", "per_radian", "roll from p b/2V"),
    "stability.cm_q": Entry("Pitch damping", "per_radian", "pitch from q c/2V"),
    "stability.cn_r": Entry("Yaw damping", "per_radian", "yaw from r b/2V, surfaces without their drag"),
    "modes.pitch_half_time": Entry("Pitch settles", "seconds", "time to halve a pitch disturbance in cruise"),
    "modes.phugoid_period": Entry("Slow swing", "seconds", "period of the slow rise and fall in cruise"),
    "modes.roll_half_time": Entry("Roll settles", "seconds", "time to halve a roll rate"),
    "modes.dutch_roll_damping": Entry("Tail-wag damping", "ratio", "damping ratio of the Dutch roll"),
    "modes.spiral_double_time": Entry("Spiral doubles", "seconds", "time for a bank left alone to double"),
    "wing.span_efficiency": Entry("Span efficiency", "ratio", "of all surfaces together, from the wake far aft"),
    "stability.dihedral": Entry("Equivalent dihedral", "angle", "area-weighted over the panels, with their droop"),
    "stability.spiral_parameter": Entry("Spiral parameter", "ratio", "B: fin arm and dihedral against slow lift"),
    "control.cm_elevator": Entry("Elevator power", "per_radian", "pitch from elevator, trailing edge down"),
    "control.cl_aileron": Entry("Aileron power", "per_radian", "roll from ailerons, starboard up"),
    "control.cn_rudder": Entry("Rudder power", "per_radian", "yaw from rudder, nose to starboard"),
    "control.roll_helix": Entry("Roll helix", "ratio", "p b/2V at full throw; by rudder and dihedral without ailerons"),
    "control.roll_rate": Entry("Roll rate", "turn_rate", "at full throw in cruise"),
    "control.elevator_to_stall": Entry("Elevator to stall", "angle", "up, at the foremost wanted balance"),
    "control.pitch_sensitivity": Entry("Elevator, cruise to stall", "angle", "travel between cruise and stall"),
    "control.rudder_sideslip": Entry("Rudder for 10° sideslip", "angle", "held straight across the wind"),
    "flap.lift": Entry("Flap lift", "ratio", "lift coefficient the flaps add at a fixed angle"),
    "flap.drag": Entry("Flap drag", "coefficient", "profile drag coefficient the flaps add"),
    "flap.elevator": Entry("Elevator with flaps", "angle", "change that holds the nose when the flaps go down"),
    "speed.stall_flaps": Entry("Stall with flaps", "speed", "level, power off, flaps down"),
    "speed.approach": Entry("Approach speed", "speed", "1.3 times the stall speed, flaps down where there are any"),
    "flight.landing_slide": Entry("Landing slide", "distance", "from touch-down on short grass"),
    "trim.alpha": Entry("Body angle in cruise", "angle", "nose up positive"),
    "trim.elevator": Entry("Elevator in cruise", "angle", "trailing edge down positive"),
    "trim.wing_shim": Entry("Wing shim", "length", "under the leading edge, for the chosen body angle"),
    "trim.tail_shim": Entry("Tail shim", "length", "under the leading edge, for the chosen body angle"),
    "trim.reflex": Entry("Reflex", "length", "elevon trailing edges up in cruise"),
    "trim.reflex_sheets": Entry("Reflex in sheets", "ratio", "the same over the sheet's thickness"),
    "trim.aileron": Entry("Aileron held", "angle", "for balance sideways and unlike twist, starboard up positive"),
    "speed.stall_45": Entry("Stall in a 45° turn", "speed", "level turn, power off"),
    "speed.stall_60": Entry("Stall in a 60° turn", "speed", "level turn, power off"),
    "speed.stall": Entry("Stall speed", "speed", "level, power off"),
    "speed.cruise": Entry("Cruise speed", "speed", "the brief's multiple of the stall speed"),
    "speed.max": Entry("Top speed", "speed", "level, full throttle"),
    "power.static_thrust": Entry("Static thrust", "force", "standing, full throttle, full pack"),
    "power.static_current": Entry("Full throttle", "current", "pack current standing, full pack"),
    "power.static_power": Entry("Full-throttle power", "power", "drawn from the pack"),
    "power.static_rpm": Entry("Full-throttle speed", "rotation", "of the propeller"),
    "power.thrust_ratio": Entry("Thrust ratio", "ratio", "static thrust over weight"),
    "power.pitch_speed": Entry("Pitch speed", "speed", "pitch times turns, standing"),
    "power.motor_heat": Entry("Motor heat", "power", "one motor, full throttle, standing"),
    "flight.endurance": Entry("Endurance", "time", "to the reserve, 10 % of it at full throttle"),
    "flight.climb_rate": Entry("Climb", "speed", "best, full throttle"),
    "flight.climb_thrust_ratio": Entry("Thrust ratio climbing", "ratio", "thrust at climb speed over weight"),
    "flight.cruise_throttle": Entry("Cruise throttle", "fraction", "for level flight at cruise speed"),
}

#: The eight cells of the title block: the vital figures, always on.
TITLE_BLOCK = (
    "mass.auw",
    "wing.loading",
    "speed.stall",
    "balance.cg_fraction",
    "stability.static_margin",
    "power.thrust_ratio",
    "power.static_current",
    "flight.endurance",
)
