"""Two light aircraft of the textbooks, a fifth of their size: geometry by the published three-views, and derivatives.

Coefficients do not know the scale. Geometry is rounded to some 3 %, derivatives are as printed, both about the balance
point given there; power effects are in the printed values and not in ours.
"""

import math
from dataclasses import dataclass
from types import MappingProxyType

from ridgeline.design.airframe import Body, BodyStation, ControlSurface, Station, Surface
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.engine.aero import lifting, washes
from ridgeline.engine.pipeline import evaluate

FEET = 0.3048 / 5


@dataclass(frozen=True)
class LightAircraft:
    name: str
    source: str
    design: Design
    published: MappingProxyType


def _design(name, wing, tail, fin, body, cg):
    """Lengths in feet: stations as (y, chord, x of leading edge, z); controls by kind, start, end, chord share."""

    def surface(label, role, place, stations, controls, **more):
        x, z = place
        return Surface(
            name=label,
            role=role,
            x=x * FEET,
            z=z * FEET,
            section="flat_bottom" if role == "wing" else "symmetrical",
            thickness=0.12 * stations[0][1] * FEET,
            stations=tuple(Station(y=y * FEET, chord=c * FEET, x=a * FEET, z=b * FEET) for y, c, a, b in stations),
            controls=tuple(
                ControlSurface(kind=k, start=s * FEET, end=e * FEET, chord_fraction=f) for k, s, e, f in controls
            ),
            **more,
        )

    stations = tuple(BodyStation(x=x * FEET, width=w * FEET, height=h * FEET, z=z * FEET) for x, w, h, z in body)
    x_cg, z_cg = cg
    return Design(
        name=name,
        surfaces=(
            surface("Wing", "wing", *wing, incidence=math.radians(1.0)),
            surface("Tail", "stabiliser", *tail),
            surface("Fin", "fin", *fin, cant=math.pi / 2, mirrored=False),
        ),
        bodies=(Body(name="Fuselage", stations=stations, rounding=0.5),),
        parts=(
            Item(name="All of it", group="airframe", x=x_cg * FEET, z=z_cg * FEET, estimate=8.0),
            Item(name="Ahead", group="ballast", x=(x_cg - 1) * FEET, z=z_cg * FEET, estimate=0.5),
            Item(name="Behind", group="ballast", x=(x_cg + 1) * FEET, z=z_cg * FEET, estimate=0.5),
        ),
    )


#: Low wing of 33.4 ft and 184 ft², taper 0.54, dihedral 7.5°; balance at 29.5 % of a mean chord of 5.7 ft.
#: Its fin is not told there: what hangs on the fin is left out.
LOW_WING = LightAircraft(
    "low-wing tourer, 184 ft²",
    "Nelson, Flight Stability and Automatic Control, app. B (after Teper, STI Report 176-1)",
    _design(
        "Low-wing tourer",
        ((6.3, -1.1), ((0, 7.2, 0, 0), (16.7, 3.9, 0.85, 2.2)), (("aileron", 10.2, 16.2, 0.22),)),
        ((23.6, 1.2), ((0, 4.0, 0, 0), (6.55, 2.6, 0.9, 0)), (("elevator", 0.4, 6.5, 0.33),)),
        ((23.4, 1.0), ((0, 4.4, 0, 0), (4.4, 2.2, 1.6, 0)), (("rudder", 0.2, 4.3, 0.40),)),
        ((0, 2.4, 2.6, 0), (4, 3.8, 3.8, 0), (9, 4.0, 5.0, 0.5), (15, 3.2, 4.0, 0.4), (27, 0.6, 1.2, 0.6)),
        (6.3 + 0.38 + 0.295 * 5.7, -0.1),
    ),
    MappingProxyType(
        {
            "stability.cl_alpha": 4.44,
            "stability.cm_alpha": -0.683,
            "stability.cm_q": -9.96,
            "stability.cl_beta": -0.074,
            "stability.cl_p": -0.410,
            "control.cl_aileron": 0.134,
            "control.cm_elevator": -0.923,
        }
    ),
)

#: High wing of 35.8 ft and 174 ft², constant chord to 8.3 ft, dihedral 1.7°; balance at 26.4 % of 4.9 ft.
HIGH_WING = LightAircraft(
    "high-wing tourer, 174 ft²",
    "Roskam, Airplane Flight Dynamics and Automatic Flight Controls, app. B, airplane A",
    _design(
        "High-wing tourer",
        (
            (5.6, 2.1),
            ((0, 5.33, 0, 0), (8.3, 5.33, 0, 0.25), (17.9, 3.71, 0.35, 0.54)),
            (("aileron", 8.4, 17.0, 0.22),),
        ),
        ((21.2, -0.2), ((0, 4.4, 0, 0), (5.67, 2.5, 1.0, 0)), (("elevator", 0.3, 5.6, 0.42),)),
        ((20.8, 0.3), ((0, 5.0, 0, 0), (5.6, 2.3, 3.3, 0)), (("rudder", 0.3, 5.4, 0.40),)),
        ((0, 2.2, 2.6, -0.4), (4, 3.6, 4.0, -0.2), (8, 3.6, 5.0, 0), (12, 3.0, 4.0, 0.1), (26.5, 0.4, 1.0, 0.2)),
        (5.6 + 0.07 + 0.264 * 4.9, -0.3),
    ),
    MappingProxyType(
        {
            "stability.cl_alpha": 4.6,
            "stability.cm_alpha": -0.89,
            "stability.cm_q": -12.4,
            "stability.cl_beta": -0.089,
            "stability.cn_beta": 0.065,
            "stability.cl_p": -0.47,
            "stability.cn_r": -0.099,
            "control.cl_aileron": 0.178,
            "control.cn_rudder": 0.0657,
            "control.cm_elevator": -1.28,
        }
    ),
)
AIRCRAFT = (LOW_WING, HIGH_WING)


def derivatives_of(aircraft):
    """Return value and one-sigma error of every figure that the source prints."""
    report = evaluate(aircraft.design)
    return {key: (report.figures[key].value, report.figures[key].sigma) for key in aircraft.published}


@dataclass(frozen=True)
class TurningRoll:
    """C_lr as printed for an aircraft, at a lift coefficient."""

    aircraft: LightAircraft
    lift: float
    published: float


TURNING_ROLLS = (TurningRoll(LOW_WING, 0.41, 0.107), TurningRoll(HIGH_WING, 0.31, 0.0798))


def roll_by_turn_of(case):
    """Return C_lr about the balance point at the lift coefficient of the source."""
    results = evaluate(case.aircraft.design).results
    model, slip = results.lattice, results.sideslip
    lattice, found = model.solver.lattice, model.found
    angle = (case.lift - found.zero.lift) / found.alpha.lift
    wash = lattice.angle + angle * washes.wash_of_angle(lattice)
    _slipped, turned = lifting.roll_of_lift(model.solver, model.scale, wash)
    return found.yaw_rate.roll - found.yaw_rate.side * slip.rise + turned
