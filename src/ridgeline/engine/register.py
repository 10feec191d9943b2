"""The register of figures: every key there is, its label in a builder's words, and its quantity."""

from __future__ import annotations

from typing import NamedTuple


class Entry(NamedTuple):
    """One registered figure."""

    label: str
    quantity: str
    about: str


class Family(NamedTuple):
    """Figures there is one of for every thing of a kind: the key before and after that, what it is, and the figure.

    A place in the label takes what stands between them, where that is a word of the trade.
    """

    stem: str
    of: str
    entry: Entry
    end: str = ""

    def key(self, of: str) -> str:
        """Return the key of one of them."""
        return f"{self.stem}{of}{self.end}"

    def named(self, key: str) -> str | None:
        """Return what a key of them is of; None of another key."""
        if not (key.startswith(self.stem) and key.endswith(self.end) and len(key) > len(self.stem) + len(self.end)):
            return None
        return key[len(self.stem) : len(key) - len(self.end)]


#: The mass of a group of items, and what a fastening bears.
GROUP_MASS = Family("mass.group.", "group", Entry("{} mass", "mass", "sum of the items of one group"))
JOINT_SHARE = Family("structure.joint_share.", "id", Entry("Load on a joint", "fraction", "over what it may bear"))
#: Of every control by its id: how far its linkage moves it, what its servo and its rod do.
CONTROL_UP = Family("controls.", "id", Entry("Control up", "angle", "trailing edge, at full signal"), ".up")
CONTROL_DOWN = Family("controls.", "id", Entry("Control down", "angle", "trailing edge, at full signal"), ".down")
SERVO_SHARE = Family("controls.", "id", Entry("Servo at work", "fraction", "of its stall, in the dive"), ".servo_share")
HINGE_MOMENT = Family("controls.", "id", Entry("Hinge moment", "torque", "the worst in the dive"), ".hinge_moment")
ROD_LENGTH = Family("controls.", "id", Entry("Rod", "length", "between its holes"), ".rod_length")
CONTROL_PLAY = Family("controls.", "id", Entry("Free play", "angle", "of a control"), ".play")
DIFFERENTIAL = Family("controls.", "id", Entry("Differential", "ratio", "up over down"), ".differential")
CONTROL_GIVE = Family("controls.", "id", Entry("Control gives", "angle", "pushed back by the air of a dive"), ".give")
CONTROL_TIME = Family("controls.", "id", Entry("Time to full throw", "seconds", "from neutral, in cruise"), ".time")
CONTROL_CENTRE = Family("controls.", "id", Entry("Comes back within", "angle", "of its neutral"), ".centring")
CONTROL_STEPS = Family("controls.", "id", Entry("Steps to full throw", "count", "of the radio, from neutral"), ".steps")
CONTROL_FIGURES = (
    CONTROL_UP, CONTROL_DOWN, SERVO_SHARE, HINGE_MOMENT, ROD_LENGTH, CONTROL_PLAY, DIFFERENTIAL, CONTROL_GIVE,
    CONTROL_TIME, CONTROL_CENTRE, CONTROL_STEPS,
)  # fmt: skip
FAMILIES = (GROUP_MASS, JOINT_SHARE, *CONTROL_FIGURES)

REGISTER: dict[str, Entry] = {
    "mass.auw": Entry("All-up weight", "mass", "as it will fly: everything aboard, and what the unweighed still gains"),
    "mass.ceiling": Entry("Ceiling", "mass", "heaviest acceptable all-up weight, from the brief"),
    "mass.weighed": Entry("Weighed so far", "mass", "items whose mass was read off a scale"),
    "mass.listed": Entry("Weight as listed", "mass", "the items alone, without what they still gain"),
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
    "stability.neutral_in_flight": Entry(
        "Neutral point in flight", "fraction", "in cruise, with the balance point at its own height"
    ),
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
    "modes.spiral_rate": Entry("Spiral growth", "growth", "of a bank left alone in cruise; negative is given back"),
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
    "trim.rest_speed": Entry("Trims by itself at", "speed", "sticks let go, controls as they are set at rest"),
    "trim.rest_balance": Entry("Balance for cruise", "fraction", "that trims it there with controls at rest"),
    "control.pitch_arm": Entry("Arm of the elevator", "ratio", "behind the balance point, in mean chords"),
    "control.pitch_as_tailed": Entry("Pitches as a tailed one at", "speed", "full pull against a usual tailed plane's"),
    "control.throttle_step": Entry("Climb by a step of throttle", "speed", "one of a hundred, about level cruise"),
    "control.thrust_yaw": Entry("Yaw by thrust", "torque", "full rudder stick on the throttles, level cruise"),
    "control.thrust_slip": Entry("Nose by thrust", "angle", "that yaw against the weathercock"),
    "control.thrust_slip_bare": Entry("Nose by thrust, no fin", "angle", "the same without what stands upright"),
    "control.thrust_roll": Entry("Roll by thrust", "turn_rate", "through the dihedral, once the nose has swung"),
    "control.thrust_radius": Entry("Flat turn by thrust", "distance", "before it banks: fins alone bring it round"),
    "control.adverse_yaw": Entry("Nose against the turn", "angle", "full roll stick near the stall, settled"),
    "control.adverse_yaw_alike": Entry("Nose against it, throws alike", "angle", "without differential"),
    "control.roll_slow": Entry("Roll near the stall", "turn_rate", "full stick, once the nose has swung"),
    "control.pull": Entry("Load factor of a full pull", "ratio", "in a level turn at cruise speed"),
    "control.turn_radius": Entry("Turn, high rate", "distance", "radius of a full pull in cruise, level"),
    "control.turn_radius_low": Entry("Turn, low rate", "distance", "radius of a full pull in cruise, level"),
    "control.roll_rate_low": Entry("Roll rate, low rate", "turn_rate", "at full stick in cruise"),
    "flap.roll_left": Entry("Roll left with flaps down", "fraction", "of that of flaperons at neutral"),
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
    "trim.thrust_elevator": Entry("Elevator for full throttle", "angle", "holds the nose when the throttle opens"),
    "balance.hang_depth": Entry("Balance point under the marks", "length", "held on the fingertips under the wing"),
    "balance.hang_per_degree": Entry("Off balance for one degree", "length", "how sharply it hangs at the marks"),
    "balance.mark": Entry("Balance mark", "length", "behind the leading edge where the marks stand"),
    "trim.aileron": Entry("Aileron held", "angle", "for balance sideways and unlike twist, starboard up positive"),
    "structure.load_factor": Entry("Built to", "factor", "limit load factor, by wish or purpose"),
    "structure.splice_share": Entry("Load on a splice", "fraction", "in the skin, over what its glue may bear"),
    "structure.wing_share": Entry("Wing's load", "fraction", "over what it may bear at limit load, the worst case"),
    "structure.tip_limit": Entry("Tips at limit load", "length", "up"),
    "structure.droop": Entry("Droop at rest", "length", "tips down by their own weight, held at the seat"),
    "structure.flight_bend": Entry("Bend in flight", "length", "tips up at 1 g, in cruise"),
    "structure.reversal_speed": Entry("Ailerons reverse at", "speed", "the wing twists as much as they turn it"),
    "structure.divergence_speed": Entry("Wing twists off at", "speed", "divergence: the twist feeds itself"),
    "structure.effectiveness_cruise": Entry(
        "Aileron left in cruise", "fraction", "of what a wing that does not twist has"
    ),
    "structure.dive_speed": Entry("Dive speed", "speed", "fastest it is judged at"),
    "speed.stall_45": Entry("Stall in a 45° turn", "speed", "level turn, power off"),
    "speed.stall_60": Entry("Stall in a 60° turn", "speed", "level turn, power off"),
    "speed.stall": Entry("Stall speed", "speed", "level, power off"),
    "speed.cruise": Entry("Cruise speed", "speed", "the brief's multiple of the stall speed"),
    "speed.max": Entry("Top speed", "speed", "level, full throttle"),
    "clearance.ground": Entry("Ground clearance", "length", "propeller disc over the ground"),
    "clearance.disc": Entry("Disc clearance", "length", "propeller disc to the nearest part of the airframe"),
    "power.static_thrust": Entry("Static thrust", "force", "standing, full throttle, full pack"),
    "power.static_current": Entry("Full throttle", "current", "pack current standing, full pack"),
    "power.static_power": Entry("Full-throttle power", "power", "drawn from the pack"),
    "power.static_rpm": Entry("Full-throttle speed", "rotation", "of the propeller"),
    "power.thrust_ratio": Entry("Thrust ratio", "ratio", "static thrust over weight"),
    "power.disc_ratio": Entry("Disc limit over weight", "ratio", "what an ideal disc of the size would pull"),
    "power.pitch_speed": Entry("Pitch speed", "speed", "pitch times turns, standing"),
    "power.pitch_ratio": Entry("Pitch speed over stall", "ratio", "2.5 to 3 and more is usual"),
    "power.motor_heat": Entry("Motor heat", "power", "one motor, full throttle, standing"),
    "power.cell_voltage": Entry("Volts a cell", "voltage", "standing, full throttle, full pack"),
    "power.efficiency": Entry("Thrust per watt", "ratio", "grams of static thrust per watt drawn"),
    "power.tip_mach": Entry("Tip Mach number", "ratio", "of the propeller, standing, full throttle"),
    "power.erpm": Entry("Electrical speed", "rotation", "what the controller must follow, full throttle"),
    "power.motor_rise": Entry("Motor over the air", "temperature_rise", "kept at full throttle, standing"),
    "power.motor_seconds": Entry("Full throttle to 100 °C", "seconds", "from cold"),
    "power.cooling_inlet": Entry("Cooling inlet", "area", "for the heat of a climb; the exit half as large again"),
    "radio.supply_typical": Entry("Receiver supply at work", "current", "receiver, and all servos as they work"),
    "radio.supply_moving": Entry("Receiver supply, all moving", "current", "each against what it bears in a dive"),
    "radio.supply_stalled": Entry("Receiver supply, one stalled", "current", "all at work, and the largest stalled"),
    "radio.bec_heat": Entry("Receiver supply, heat", "power", "of the controller's supply, servos at work"),
    "harness.shortest_margin": Entry("Spare lead", "length", "left of the scarcest lead over its way and its slack"),
    "harness.mass": Entry("Extension leads", "mass", "all that is plugged in between servos and receiver"),
    "harness.apart": Entry("Signal from power", "length", "the nearest a signal lead comes to one of motor or pack"),
    "power.receiver_load": Entry("Receiver supply", "current", "servos working, the largest stalled"),
    "power.one_out_rudder": Entry("Rudder, one motor out", "angle", "holds it straight at climbing speed"),
    "power.wash_drag": Entry("Thrust lost to wash", "fraction", "of the thrust, on what stands behind the propeller"),
    "speed.bare": Entry("Top speed, bare", "speed", "with nothing standing in the wind"),
    "drag.standing_out": Entry("What stands out", "drag_area", "drag area of wheels, noses, horns and the like"),
    "control.elevator_wash": Entry("Elevator in the wash", "ratio", "power at full throttle over none, climbing"),
    "control.rudder_wash": Entry("Rudder in the wash", "ratio", "power at full throttle over none, climbing"),
    "control.elevator_standing": Entry("Elevator, standing", "torque", "full throw and throttle at no airspeed"),
    "control.rudder_standing": Entry("Rudder, standing", "torque", "full throw and throttle at no airspeed"),
    "launch.torque_aileron": Entry("Aileron at launch", "angle", "holds the torque of full throttle as it leaves"),
    "trim.torque_aileron": Entry("Aileron for torque", "angle", "holds the torque of full throttle, climbing"),
    "trim.thrust_rudder": Entry("Rudder for side thrust", "angle", "full throttle against none, climbing"),
    "control.thrust_turn": Entry("Roll by thrust of one side", "turn_rate", "the other side idle, climbing"),
    "stability.propeller_shift": Entry("Forward shift by propeller", "fraction", "of the neutral point, by its blades"),
    "flight.mean_current": Entry("Mean current", "current", "of a flight by the brief's profile"),
    "flight.endurance": Entry("Endurance", "time", "down to the reserve, by the brief's profile"),
    "flight.range": Entry("Range", "distance", "level at cruise in still air"),
    "flight.radius": Entry("There and back", "distance", "in the brief's wind"),
    "flight.climb_angle": Entry("Steepest climb", "angle", "full throttle"),
    "flight.ground_out": Entry("Ground speed out", "speed", "in cruise, against the brief's wind"),
    "flight.ground_home": Entry("Ground speed home", "speed", "in cruise, with the brief's wind"),
    "flight.takeoff_run": Entry("Take-off run", "distance", "to 1.1 of the stall on grass, in the brief's wind"),
    "throw.lowest_height": Entry("Lowest after the throw", "distance", "over the ground, flown on paper"),
    "throw.odds_climb": Entry("Throws that come away", "fraction", "of builds within the bands, with a pilot"),
    "flight.wind_limit": Entry("Wind limit, first flight", "speed", "a third of the cruise speed"),
    "log.flights": Entry("Flights", "count", "written down in the log"),
    "log.minutes": Entry("In the air", "flight_time", "all timed flights of the log"),
    "log.mean_current": Entry("Mean current, measured", "current", "by what was put back and the time aloft"),
    "log.cg_by_trim": Entry("Balance by the trim", "fraction", "that the flown elevator tells, if nothing else is off"),
    "log.top_speed": Entry("Top speed, measured", "speed", "airspeed by passes at full throttle"),
    "glide.ratio": Entry("Best glide", "glide", "power off"),
    "glide.ratio_speed": Entry("Best glide speed", "speed", "power off"),
    "glide.sink": Entry("Least sink", "speed", "power off"),
    "glide.sink_speed": Entry("Least sink speed", "speed", "power off"),
    "glide.slope_wind": Entry("Wind to stay up", "speed", "up a 20° slope"),
    "glide.release_height": Entry("Release height", "distance", "of a throw, or of a bungee"),
    "glide.still_time": Entry("Still-air time", "seconds", "from the release height"),
    "launch.speed_ratio": Entry("Throw over stall", "ratio", "release speed and head wind over the stall speed"),
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
#: Those of a design without a motor.
GLIDER_BLOCK = (
    "mass.auw",
    "wing.loading",
    "speed.stall",
    "balance.cg_fraction",
    "stability.static_margin",
    "glide.ratio",
    "glide.sink",
    "glide.release_height",
    "glide.slope_wind",
)


def vital(power: object | None) -> tuple[str, ...]:
    """Return the vital figures of a design.

    Parameters
    ----------
    power : PowerTrain or None
        What drives it.

    Returns
    -------
    tuple of str
        Keys of figures.
    """
    return GLIDER_BLOCK if power is None else TITLE_BLOCK


def entry_of(key: str) -> Entry:
    """Return what is registered of a figure, by itself or as one of a family.

    Parameters
    ----------
    key : str

    Returns
    -------
    Entry

    Raises
    ------
    KeyError
        Of a key that is not registered.
    """
    if key in REGISTER:
        return REGISTER[key]
    for family in FAMILIES:
        of = family.named(key)
        if of is not None:
            return family.entry._replace(label=family.entry.label.replace("{}", of.capitalize()))
    raise KeyError(key)
