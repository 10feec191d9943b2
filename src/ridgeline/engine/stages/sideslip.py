"""The sideslip stage: yaw and roll from sideslip about the real balance point, bodies among them."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.engine.aero import lifting, washes
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.wing_body import body_under, roll_from_sideslip
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Put, absent, derive
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.flexing import Flexed
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

Array = NDArray[np.float64]
_KEYS = ("stability.cn_beta", "stability.cl_beta")
#: One-sigma shares: of what surfaces give in sideslip (fins blanketed by bodies and wakes, or backed by
#: them), of the body's yaw, of the wing's place on the body.
SURFACES_SIGMA, BODY_SIGMA, PLACE_SIGMA = 0.30 / BAND, 0.40 / BAND, 0.40 / BAND
#: One sigma of what the bend of the wings adds, as a share: as that of their stiffness.
BEND_SIGMA = 0.25 / BAND
#: What a body keeps of Munk's ideal moment across the wind (USAF DATCOM 5.2.3.1 for usual fuselages: two thirds to four
#: fifths of it).
BODY_KEPT = 0.75


@dataclass(frozen=True)
class Sideslip:
    """Derivatives by sideslip about the balance point in cruise, bodies included, 1/rad.

    ``roll`` starboard down, ``yaw`` nose to starboard, ``side`` to starboard; ``rise`` is how far the balance point
    lies over the lattice's moment centre, in spans; ``roll_by_turn`` the roll of a unit yaw rate that the lift gives,
    ``roll_by_lift`` what one more of lift coefficient adds to the roll.
    """

    roll: float
    yaw: float
    side: float
    rise: float
    roll_by_turn: float
    roll_by_lift: float


def sideslip(
    form: Shape,
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    mass: Masses,
    speed: Speeds | None,
    here: Air,
    flex: Flexed | None,
) -> Outcome[Sideslip | None]:
    """Give weathercock and dihedral effect about the balance point, with the lift of cruise."""
    if model is None or stable is None or balanced is None or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in _KEYS))
    scale, beta = model.scale, model.found.beta
    back = (balanced.cg_fraction - 0.25) * scale.chord / scale.span
    rise = (float(mass.state.cg[2]) - float(scale.centre[2])) / scale.span
    body = -BODY_KEPT * stable.body_shift * stable.slope * scale.chord / scale.span
    place = _by_place(form, surfaces, bodies)
    bend = 0.0 if flex is None else model.dihedral.roll * flex.dihedral
    slipped, turned = lifting.roll_of_lift(model.solver, scale, _cruise_wash(model, mass.state.mass, speed, here))
    side = Put(beta.side, "side force from sideslip", "per_radian", SURFACES_SIGMA * abs(beta.side))
    yaw = derive(
        "stability.cn_beta",
        "{C_n} + {C_Y}·{back} + {body}",
        lambda C_n, C_Y, back, body: C_n + C_Y * back + body,
        {
            "C_n": Put(
                beta.yaw, "surfaces, about the quarter chord", "per_radian", SURFACES_SIGMA * _fin_part(beta.yaw, side)
            ),
            "C_Y": side,
            "back": Put(back, "balance point behind it, in spans", "ratio"),
            "body": Put(body, "bodies, turning across the wind", "per_radian", BODY_SIGMA * abs(body)),
        },
        source="docs/theory.md §7, §10",
        note="about the balance point; without the wash of the propeller",
    )
    roll = derive(
        "stability.cl_beta",
        "{C_l} + {lift} − {C_Y}·{rise} + {place} + {bend}",
        lambda C_l, lift, C_Y, rise, place, bend: C_l + lift - C_Y * rise + place + bend,
        {
            "C_l": Put(
                beta.roll, "surfaces, about the wing's height", "per_radian", SURFACES_SIGMA * abs(beta.roll) + 0.003
            ),
            "lift": Put(slipped, "lift on sweep, in cruise", "per_radian", SURFACES_SIGMA * abs(slipped)),
            "C_Y": side,
            "rise": Put(rise, "balance point over it, in spans", "ratio", 0.003 / scale.span),
            "place": Put(place, "wings high or low on the body", "per_radian", PLACE_SIGMA * abs(place)),
            "bend": Put(bend, "wings bent up by the lift of cruise", "per_radian", BEND_SIGMA * abs(bend)),
        },
        source="docs/theory.md §7",
        note="about the balance point, with the lift of cruise",
    )
    assert yaw.value is not None and roll.value is not None
    # Lift by angle of attack alone: its loading is known already.
    more = model.found.alpha_circulation / model.found.alpha.lift
    by_lift = lifting.roll_of_slip(scale, model.solver.lattice, more)
    result = Sideslip(roll.value, yaw.value, beta.side, rise, turned, by_lift)
    return Outcome(result, (yaw, roll))


def _cruise_wash(model: AirframeLattice, mass: float, speed: Speeds | None, here: Air) -> Array:
    """Return the wash of the angle that carries the weight in cruise, shape (n,); of the built-in angles without it."""
    lattice, found = model.solver.lattice, model.found
    if speed is None or found.alpha.lift <= 0:
        return lattice.angle
    c_l = mass * GRAVITY / (0.5 * here.density * speed.cruise**2 * model.scale.area)
    return lattice.angle + (c_l - found.zero.lift) / found.alpha.lift * washes.wash_of_angle(lattice)


def _fin_part(yaw: float, side: Put) -> float:
    """Return what a share of the side force errs in yaw: at least the yaw itself."""
    return max(abs(yaw), 0.02 * abs(side.value))


def _by_place(form: Shape, surfaces: tuple[Surface, ...], bodies: tuple[Body, ...]) -> float:
    """Return C_lβ of the wings' places on their bodies, each by its share of the area."""
    ref = form.reference
    if ref is None:
        return 0.0
    found = []
    for surface, measured in zip(surfaces, form.surfaces, strict=True):
        here = body_under(surface, bodies) if surface.role in WINGS else None
        if here is not None:
            share = measured.area / ref.area
            found.append(share * roll_from_sideslip(measured.aspect_ratio, ref.span, surface.z, here))
    return math.fsum(found)
