"""The thrusting stage: what full throttle does to the trim, and the shaft angle that would leave it alone."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ridgeline.design.axes import discs_of
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.trim import control_per_moment
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Put, absent, derive, later
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.stability import Stability

_KEY = "trim.thrust_elevator"


@dataclass(frozen=True)
class Thrusting:
    """Moment of full throttle about the balance point, N m nose up, and two ways to have none.

    ``level_shaft`` is the shaft's angle, rad down (None where one angle does not do); ``rise`` how much higher the
    thrust lines would stand, m, with the balance point where it is.
    """

    moment: float
    level_shaft: float | None
    rise: float


def thrusting(
    power: PowerTrain | None,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    mass: Masses,
    flown: FlightFigures | None,
    here: Air,
) -> Outcome[Thrusting | None]:
    """Give the elevator that holds the nose when the throttle opens at climbing speed."""
    if power is None or flown is None or model is None or stable is None or balanced is None or mass.state is None:
        return Outcome(None, (absent(_KEY, NO_POWER if power is None else "it needs mass, lift and thrust first"),))
    x, z = float(mass.state.cg[0]), float(mass.state.cg[2])
    thrust = flown.thrust_at_climb
    each = thrust / power.motors
    moment = sum(
        each * (-(pz - z) * math.cos(mount.down) + (px - x) * math.sin(mount.down))
        for mount in power.mounts
        for px, _py, pz in discs_of(mount, power)
    )
    first = power.mounts[0]
    ahead, alike = first.x - x, all((m.x, m.z) == (first.x, first.z) for m in power.mounts)
    # A shaft whose line passes the balance point: one angle for all only where all stand alike.
    level = math.atan((first.z - z) / ahead) if alike and abs(ahead) > 1e-3 else None
    result = Thrusting(moment, level, moment / thrust if thrust > 0 else 0.0)
    if model.pitch_control is None:
        return Outcome(result, (absent(_KEY, "there is no pitch control"),))
    load = 0.5 * here.density * flown.climb_speed**2 * model.scale.area * model.scale.chord
    per = control_per_moment(model, balanced.shift)
    if per is None:
        return Outcome(result, (absent(_KEY, "lift and moment do not fix one trim here"),))

    def doubt() -> float:
        return flown.sigmas["thrust_at_climb"] / max(abs(thrust), 1e-9) * abs(moment) + 0.002 * thrust

    figure = derive(
        _KEY,
        "{k}·{M}/{q_S_c}",
        lambda k, M, q_S_c: k * M / q_S_c,
        {
            "k": Put(per, "elevator per moment coefficient at the same lift", "ratio", 0.15 / BAND * abs(per)),
            "M": later(moment, "moment of full throttle, nose up", "torque", doubt),
            "q_S_c": Put(load, "dynamic pressure at climbing speed × area × chord", "torque"),
        },
        source="docs/theory.md §11",
        note="trailing edge down positive; without the wash of the propeller on the tail",
    )
    return Outcome(result, (figure,))
