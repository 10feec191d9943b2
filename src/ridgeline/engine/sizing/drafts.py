"""Drafts: one way to meet a brief, put together with a power train for what it comes to, before it is balanced."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ridgeline.design.airframe import Wheel
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.hanging import hung
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, numbered
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.build.making import glue_item, items_of
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.power.limits import CRUISE_THROTTLE
from ridgeline.engine.sizing.airframe import airframe_surfaces
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.building import Plan, is_light, with_spar
from ridgeline.engine.sizing.first_mass import comes_to, sized_for
from ridgeline.engine.sizing.fuselages import frame_of
from ridgeline.engine.sizing.matching import (
    MEAN_POWER,
    PITCH_OVER_CRUISE,
    PROP_OVER_SPAN,
    first_power_train,
    usable_energy,
)
from ridgeline.engine.sizing.outfit import carried_items, struts_between, wheels_for
from ridgeline.engine.sizing.sizes import Size, sized
from ridgeline.engine.stages.twisting import OVER_DIVE

#: A pack is chosen anew for what the chosen power train draws, so often, until it lasts this share of the wish.
_TRAINS, _LONG_ENOUGH = 3, 0.98
#: Where it would not hold level flight with enough in hand: for more pitch speed than usual up to so much over the
#: cruise speed, and then for more thrust than wished.
_STEEPER, _STEEP_ENOUGH, _STRONGER, _MOST_THRUST = 1.2, 2.5, 1.15, 4.0
#: Room over what a draft draws, for the mass of the pack it asks for.
_OVER = 1.10
#: Where on from the shortest nose to the longest a draft is looked at (most balance thereabouts).
_MIDDLING = 0.4
#: Where a draft is taken to balance: a little ahead of the usual aim, as it is trimmed for the first throw.
_DRAFT_AIM = 0.24
#: So far over what is wanted the final choice of parts brings no way under it: it is not drafted to the end.
_HOPELESS = 1.05
#: Every third propeller of a shelf is enough to know the room one takes and about what it weighs.
_SKETCHED = 3
#: What is chosen in the end turns a propeller of about the sketch's size: its diameter over that at least and at most.
_ABOUT = (0.65, 1.5)
#: Nose lengths tried: motor and what stands before it m, pack lengths, mean chords (chosen, wide).
_BEHIND_MOTOR, _BEHIND_MOTOR_LONG, _PACKS_AHEAD, _CHORDS_AHEAD = 0.03, 0.05, 1.1, 2.0
_CANARD_SHORT, _CANARD_LONG = 1.1, 3.0
_TYPICAL_PACK, _TYPICAL_MOTOR, _BOOM_CLEAR = 0.05, 0.02, 0.012


@dataclass(frozen=True)
class Way:
    """One way to meet a brief: with its loading, the plan it is built by, the sizes, and the power train.

    ``expected`` kg is what it comes to, by the ratio until it is drafted; ``lacks`` is what its power train then lacks
    of the time wished and of an easy cruise, and its wing of a twist that bears level flight, shares.
    """

    brief: Brief
    plan: Plan
    size: Size
    expected: float
    train: PowerTrain | None = None
    lacks: float = 0.0


def way_of(brief: Brief, plan: Plan) -> Way:
    """Return a way to meet a brief by a plan, sized for what it will weigh.

    Parameters
    ----------
    brief : Brief
    plan : Plan

    Returns
    -------
    Way
        Without a power train.
    """
    brief = brief.model_copy(update={"controls": plan.controls})
    size = sized(brief, sized_for(brief, plan))
    return Way(brief, with_spar(plan, brief, size.mass, size.span), size, comes_to(brief, plan, size.mass))


def drafted(way: Way, shelf: Shelf, wanted: float) -> Way:
    """Return a way with a power train for what its draft comes to, and with what that weighs, grown.

    Parameters
    ----------
    way : Way
    shelf : Shelf
    wanted : float
        Far over this it is not drafted to the end, kg.

    Returns
    -------
    Way
    """
    brief, size = way.brief, way.size
    sketch = shelf._replace(propellers=shelf.propellers[::_SKETCHED])
    way = replace(way, train=_train(brief, sketch, size, size.mass, way.plan))
    trial = Evaluator()
    draft = assembled(way, shelf, middling(way), "")
    expected, load = trial.value(draft, "mass.auw") or size.mass, trial.value(draft, "power.receiver_load") or 0.0
    if expected > _HOPELESS * wanted:
        return replace(way, expected=expected)
    if way.train is not None:
        turned = way.train.propeller.diameter
        near = tuple(p for p in shelf.propellers if _ABOUT[0] <= p.diameter / turned <= _ABOUT[1])
        shelf = shelf._replace(propellers=near)
    power, wished, pitch = _mean_power(draft, trial), brief, PITCH_OVER_CRUISE
    best: tuple[float, Way] | None = None
    for _ in range(_TRAINS):
        way = replace(way, train=_train(wished, shelf, size, min(expected, size.mass), way.plan, power, load, pitch))
        draft = assembled(way, shelf, middling(way), "")
        if way.train is None and brief.propulsion == "none":
            break
        lasts, held = trial.value(draft, "flight.endurance"), trial.value(draft, "flight.cruise_throttle")
        short = 0.0 if lasts is None else max(_LONG_ENOUGH - lasts / max(brief.endurance, 1.0), 0.0)
        weak = max((1.0 if held is None else held) - CRUISE_THROTTLE, 0.0)
        if best is None or short + weak < best[0]:
            best = short + weak, way
        if best[0] == 0.0:
            break
        # What is chosen draws more than what it was chosen by, or pulls too little in flight.
        power, expected = max(power, _mean_power(draft, trial)), trial.value(draft, "mass.auw") or expected
        if weak and _pitch_of(draft, trial) < _STEEP_ENOUGH:
            pitch *= _STEEPER
        elif weak:
            wished = wished.model_copy(update={"thrust_ratio": min(_STRONGER * wished.thrust_ratio, _MOST_THRUST)})
    lacks, way = best or (0.0, way)
    lacks += _twists(assembled(way, shelf, middling(way), ""), trial)
    # A longer nose weighs more: what it comes to where it balances, between the shortest and the longest.
    ends = [assembled(way, shelf, nose, "") for nose in nose_limits(brief, size, way.train)]
    short, long = (balance_of(draft, trial) for draft in ends)
    share = min(max((short - _DRAFT_AIM) / (short - long), 0.0), 1.0) if short > long else 1.0
    light, heavy = (trial.value(draft, "mass.auw") or size.mass for draft in ends)
    return replace(way, expected=light + share * (heavy - light), lacks=lacks)


def _twists(draft: Design, trial: Evaluator) -> float:
    """Return by how much a draft's ailerons reverse, or its wing twists off, too early for level flight: a share.

    What is safe there may be told never to dive; what is light and slow is not flown at full throttle for long.
    """
    if is_light(draft.brief):
        return 0.0
    twist, found = trial.result(draft, "twisting"), trial.result(draft, "bearing")
    if twist is None or found.top is None:
        return 0.0
    short: float = 1 - min(twist.reversal, twist.divergence) / (OVER_DIVE * found.top)
    return max(short, 0.0)


def _pitch_of(design: Design, trial: Evaluator) -> float:
    """Return the pitch speed, standing, over the cruise speed; nothing where it cannot be had."""
    pitch, cruise = trial.value(design, "power.pitch_speed"), trial.value(design, "speed.cruise")
    return pitch / cruise if pitch and cruise else 0.0


def middling(way: Way) -> float:
    """Return a nose between the shortest and the longest, m: near enough to balance to know what it draws.

    Parameters
    ----------
    way : Way

    Returns
    -------
    float
        m.
    """
    short, long = nose_limits(way.brief, way.size, way.train)
    return short + _MIDDLING * (long - short)


def balance_of(design: Design, trial: Evaluator) -> float:
    """Return where a design balances by its masses alone.

    Parameters
    ----------
    design : Design
    trial : Evaluator

    Returns
    -------
    float
        Share of the mean chord.
    """
    state, ref = trial.result(design, "masses").state, trial.result(design, "shape").reference
    return 0.0 if state is None or ref is None else float(ref.fraction(float(state.cg[0])))


def _mean_power(draft: Design, trial: Evaluator) -> float:
    """Return what a draft draws on average over its flight, W per kg, and a little for the mass of its pack."""
    seconds, mass, train = trial.value(draft, "flight.endurance"), trial.value(draft, "mass.auw"), draft.power
    if not seconds or not mass or train is None:
        return MEAN_POWER
    return _OVER * usable_energy(train.pack) / (mass * seconds)


def _train(
    brief: Brief,
    shelf: Shelf,
    size: Size,
    mass: float,
    plan: Plan,
    mean_power: float = MEAN_POWER,
    receiver: float = 0.0,
    pitch_over_cruise: float = PITCH_OVER_CRUISE,
) -> PowerTrain | None:
    """Return a power train that fits the layout: a disc between booms stays between them, two motors share the work."""
    if brief.propulsion == "none":
        return None
    span = size.span
    if brief.layout == "twin_boom":
        out = next(s.y for s in airframe_surfaces(brief, size, size.mac, plan) if s.role == "fin")
        span = min(span, 2 * (out - _BOOM_CLEAR) / PROP_OVER_SPAN)
    motors = 2 if arrangement_of(brief.layout).motor == "each_body" else 1
    air_density = density(brief.elevation, brief.temperature_c)
    return first_power_train(
        brief,
        shelf,
        mass,
        air_density,
        span,
        motors=motors,
        mean_power=mean_power,
        receiver=receiver,
        pitch_over_cruise=pitch_over_cruise,
    )


def nose_limits(brief: Brief, size: Size, train: PowerTrain | None) -> tuple[float, float]:
    """Return the shortest and the longest nose tried, m.

    Parameters
    ----------
    brief : Brief
    size : Size
    train : PowerTrain or None

    Returns
    -------
    shortest, longest : float
        Of the wing's root leading edge behind the datum, m.
    """
    pack = train.pack.length if train else _TYPICAL_PACK
    motor = train.motor.length if train else _TYPICAL_MOTOR
    if arrangement_of(brief.layout).family == "canard":
        short = _CANARD_SHORT * size.mac
        return short, short + _PACKS_AHEAD * pack + _CANARD_LONG * size.mac
    return motor + _BEHIND_MOTOR, motor + _BEHIND_MOTOR_LONG + _PACKS_AHEAD * pack + _CHORDS_AHEAD * size.mac


def assembled(way: Way, shelf: Shelf, nose: float, name: str) -> Design:
    """Put a way together as a design.

    Parameters
    ----------
    way : Way
    shelf : Shelf
        To choose servos from.
    nose : float
        The wing's root leading edge behind the datum, m.
    name : str

    Returns
    -------
    Design
        With every item hung on what carries it.
    """
    brief, size, train, plan = way.brief, way.size, way.train, way.plan
    numbers = Numbers(())
    surfaces = tuple(numbered(s, KIND_OF["surfaces"], numbers) for s in airframe_surfaces(brief, size, nose, plan))
    frame = frame_of(brief, size, surfaces, train, plan)
    bodies = tuple(numbered(body, KIND_OF["bodies"], numbers) for body in frame.bodies)
    frame = frame._replace(bodies=bodies)
    if train is not None:
        train = train.model_copy(update={"mounts": frame.mounts})
    wheels: tuple[Wheel, ...] = ()
    if brief.launch == "wheels":
        wheels = wheels_for(size.span, size.root, surfaces[0].x, surfaces, train, frame)
    built = [item for part in (*surfaces, *bodies) for item in items_of(part)]
    glue = glue_item(surfaces, bodies)
    struts, in_the_wind = struts_between(surfaces[: arrangement_of(brief.layout).wings])
    parts = (
        *built,
        *(() if glue is None else (glue,)),
        *struts,
        *carried_items(brief, shelf, size, train, surfaces, frame, wheels, plan),
    )
    made = Design(
        name=name or "Draft",
        brief=brief,
        surfaces=surfaces,
        bodies=bodies,
        wheels=wheels,
        parts=parts,
        drag_items=in_the_wind,
        power=train,
    )
    result: Design = hung(made)
    return result
