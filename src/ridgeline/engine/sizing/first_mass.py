"""What an aircraft will weigh before it is drawn: its pieces for a wing of a size, and what it carries by the ratio."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pydantic import ValidationError

from ridgeline.design.brief import Brief
from ridgeline.design.cutting import Cutting
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.build.cut_up import about_spliced, rooms_of
from ridgeline.engine.build.whole import pieces_of
from ridgeline.engine.kept import kept
from ridgeline.engine.sizing.airframe import airframe_surfaces
from ridgeline.engine.sizing.arrangements import arrangement_of, controls_for
from ridgeline.engine.sizing.building import Plan, plan_of, plans, with_spar
from ridgeline.engine.sizing.fuselages import frame_of
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, first_sizes, sized
from ridgeline.errors import DesignError

Array = NDArray[np.float64]
#: What the sheets take that a new design is laid out for.
_SHEETS = rooms_of(Cutting())
#: A receiver by the aircraft's mass, kg: full range, micro, and between (chosen from the usual classes).
RECEIVER_SHARE, RECEIVER_LEAST, RECEIVER_MOST = 0.015, 0.003, 0.012
#: Leads and connectors, and those along the span, kg and kg/m (chosen: 9 g/m of servo lead beyond what servos bring).
LEADS_LEAST, LEADS_PER_SPAN = 0.002, 0.008
#: Legs and wheels over the aircraft (usual).
LEGS_SHARE = 0.045
#: Motor, controller and propeller of a train, and per newton of its static thrust, kg (usual of the shipped classes).
POWER_MASS_BASE, POWER_MASS_PER_NEWTON = 0.006, 0.0105
#: Pack mass per second of flight and kilogram aboard: 7.2 g/Wh at 60 W/kg mean draw, 20 % kept back; and its leads, kg.
PACK_SHARE_PER_SECOND = 0.0072 * 60 / 3600 / 0.8
PACK_LEADS = 0.003
#: No pack is lighter than this share of what it flies (usual).
PACK_LEAST_SHARE = 0.06
#: A pack for the radio alone: by the aircraft's mass, and its limits, kg.
RADIO_PACK_SHARE, RADIO_PACK_LEAST, RADIO_PACK_MOST = 0.06, 0.005, 0.100
#: Wing sizes the airframe is weighed at, over the one its ceiling asks for, to read it between.
_WEIGHED_AT = (0.25, 0.6, 1.0, 1.7)
#: A wing is sized for less than the ceiling where the aircraft comes out lighter than this share of what it is sized
#: for, but for no less than the other share of the aim (chosen: it still agrees with the wish, and is the same size).
_AGREES, _LEAST_OF_AIM, _HALVINGS = 0.87, 0.75, 6
#: Nose ahead of the wing where nothing is balanced yet, m over the root chord.
_NOSE = 0.9


def pack_mass(brief: Brief, mass: float) -> float:
    """Return a first pack mass for the wished time, kg, at least 6 % of the aircraft.

    Parameters
    ----------
    brief : Brief
    mass : float
        All-up, kg.

    Returns
    -------
    float
        kg.
    """
    if brief.propulsion == "none":
        return 0.0 if brief.controls == "none" else radio_pack_mass(mass)
    return PACK_LEADS + mass * max(PACK_LEAST_SHARE, PACK_SHARE_PER_SECOND * brief.endurance)


def radio_pack_mass(mass: float) -> float:
    """Return what a pack that feeds the radio alone weighs, kg.

    Parameters
    ----------
    mass : float
        All-up, kg.

    Returns
    -------
    float

    Source
    ------
    From a single 150 mAh cell in the smallest to four AA-sized cells in the largest (typical).
    """
    return min(max(RADIO_PACK_SHARE * mass, RADIO_PACK_LEAST), RADIO_PACK_MOST)


def receiver_mass(mass: float) -> float:
    """Return what a receiver for an aircraft of a mass weighs, kg."""
    return min(max(RECEIVER_SHARE * mass, RECEIVER_LEAST), RECEIVER_MOST)


def leads_mass(span: float) -> float:
    """Return what leads and connectors weigh for a span, kg."""
    return LEADS_LEAST + LEADS_PER_SPAN * span


def servo_count(brief: Brief, controls: str) -> int:
    """Return how many servos a layout's scheme of controls takes."""
    facts, scheme = arrangement_of(brief.layout), controls_for(brief.layout, controls)
    if scheme == "none":
        return 0
    rolling = 0 if scheme == "rudder_elevator" else 2
    rest = {"tail": 2, "canard": 1, "tailless": 0}[facts.family]
    return rolling * facts.wings + rest


def carried_mass(brief: Brief, plan: Plan, mass: float, span: float) -> float:
    """Return what is aboard beside airframe, power and pack, kg: radio, legs and what it carries.

    Parameters
    ----------
    brief : Brief
    plan : Plan
    mass : float
        All-up, kg.
    span : float
        m.

    Returns
    -------
    float
    """
    servos = servo_count(brief, plan.controls) * plan.servo_share * mass
    legs = LEGS_SHARE * mass if brief.launch == "wheels" else 0.0
    if plan.controls == "none" and brief.propulsion == "none":
        return brief.payload + legs
    # Leads gain until they fly, as glue does.
    return brief.payload + servos + receiver_mass(mass) + (1 + brief.growth) * leads_mass(span) + legs


class _Table(NamedTuple):
    """Masses a wing is sized for, and what airframes of that size weigh, (n,) kg each."""

    sized_for: Array
    weighs: Array

    def at(self, mass: ArrayLike) -> Array:
        """Return what an airframe sized for a mass weighs, kg; beyond the table in proportion to its ends."""
        wanted = np.asarray(mass, float)
        held = np.clip(wanted, self.sized_for[0], self.sized_for[-1])
        result: Array = np.interp(held, self.sized_for, self.weighs) * wanted / held
        return result


@kept(64)
def _airframe_table(brief: Brief, plan: Plan) -> _Table:
    """Weigh airframes of some sizes; sizes no document holds are left out."""
    found = []
    for share in _WEIGHED_AT:
        mass = share * brief.ceiling
        try:
            found.append((mass, airframe_mass(brief, plan, mass)))
        except (DesignError, ValidationError):
            continue
    # Where no airframe comes of the wishes at all it is said elsewhere: here it leaves room for nothing else.
    rows = np.array(found or [(brief.ceiling, brief.ceiling)])
    return _Table(rows[:, 0], rows[:, 1])


def airframe_mass(brief: Brief, plan: Plan, mass: float) -> float:
    """Return what an airframe sized for a mass weighs with what it gains until it flies, kg.

    Parameters
    ----------
    brief : Brief
    plan : Plan
    mass : float
        All-up, kg, that wing and tail are sized for.

    Returns
    -------
    float

    Source
    ------
    The pieces of what would be laid out, splices by their number alone: docs/theory.md §5.
    """
    size = sized(brief, mass)
    plan = with_spar(plan, brief, mass, size.span)
    surfaces = airframe_surfaces(brief, size, _NOSE * size.root, plan)
    bodies = frame_of(brief, size, surfaces, None, plan).bodies
    grown = {"shell": 1 + brief.growth, "covering": 1 + brief.growth, "glue": 1 + brief.growth}
    pieces = pieces_of(surfaces, bodies)
    return sum(piece.total * grown.get(piece.group, 1.0) * (1 + about_spliced(piece, _SHEETS)) for piece in pieces)


def sized_for(brief: Brief, plan: Plan | None = None) -> float:
    """Return the mass a brief's wing is sized for, kg: near the ceiling, and near what the aircraft will weigh.

    Parameters
    ----------
    brief : Brief
    plan : Plan, optional
        How it is built; the usual way when left out.

    Returns
    -------
    float
        At most `AIM_UNDER_CEILING` of the ceiling. Less where the aircraft would come out so much lighter than it that
        its loading no longer agrees with the wish, but never so little that it is another size of aircraft.
    """
    used, most = plan or plan_of(brief), AIM_UNDER_CEILING * brief.ceiling
    low, high = _LEAST_OF_AIM * most, most
    if comes_to(brief, used, high) >= _AGREES * high:
        return high
    if comes_to(brief, used, low) < _AGREES * low:
        return low
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        if comes_to(brief, used, middle) >= _AGREES * middle:
            low = middle
        else:
            high = middle
    return low


def comes_to(brief: Brief, plan: Plan, mass: float) -> float:
    """Return what an aircraft whose wing is sized for a mass will weigh, kg: airframe, radio, power, pack and payload.

    Parameters
    ----------
    brief : Brief
    plan : Plan
    mass : float
        kg.

    Returns
    -------
    float
    """
    airframe = float(_airframe_table(brief, plan).at(mass))
    power = 0.0
    if brief.propulsion != "none":
        power = POWER_MASS_BASE + POWER_MASS_PER_NEWTON * brief.thrust_ratio * mass * GRAVITY
    return airframe + carried_mass(brief, plan, mass, first_sizes(brief, mass).span) + power + pack_mass(brief, mass)


@kept(64)
def likely_plan(brief: Brief) -> Plan:
    """Return the way a brief is likely to be built: the first, from the usual on, that comes in under the ceiling.

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    Plan
        The lightest where none does.
    """
    ways = plans(brief)
    return next((way for way in ways if comes_to(brief, way, sized_for(brief, way)) <= brief.ceiling), ways[-1])


def spare_for_power(brief: Brief, loading: ArrayLike) -> Array:
    """Return what the ceiling leaves for thrust over wing loadings, built the lightest way, kg of power train.

    Parameters
    ----------
    brief : Brief
    loading : array_like, shape (n,)
        kg/m².

    Returns
    -------
    ndarray, shape (n,)
        Negative where nothing is left.
    """
    mass = brief.ceiling
    # A wing of another loading is that of another mass at the design point.
    plan = plans(brief)[-1]
    airframe = _airframe_table(brief, plan).at(mass * brief.wing_loading / np.asarray(loading, float))
    fixed = carried_mass(brief, plan, mass, first_sizes(brief, mass).span) + pack_mass(brief, mass)
    result: Array = mass - fixed - airframe - POWER_MASS_BASE
    return result
