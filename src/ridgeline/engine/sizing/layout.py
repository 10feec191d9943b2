"""Lay out an airframe from a brief: wing, tail, body, parts and power train, already near its balance."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import partial

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.hanging import hung
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, numbered
from ridgeline.design.paths import apply, put
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.weight_rules import RULE_THRESHOLD
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.build.making import glue_item, items_of
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.limits import CRUISE_THROTTLE
from ridgeline.engine.roots import root_in
from ridgeline.engine.sizing.airframe import airframe_surfaces
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.building import Plan, plans, with_spar
from ridgeline.engine.sizing.choices import choices_of
from ridgeline.engine.sizing.constraints import constraint_chart
from ridgeline.engine.sizing.first_mass import comes_to, sized_for
from ridgeline.engine.sizing.forms import FORM_WORDS
from ridgeline.engine.sizing.fuselages import frame_of
from ridgeline.engine.sizing.matching import MEAN_POWER, PROP_OVER_SPAN, first_power_train, usable_energy
from ridgeline.engine.sizing.outfit import carried_items, struts_between, wheels_for
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, Size, sized, within_the_document
from ridgeline.engine.stages.balancing import Balance
from ridgeline.errors import DesignError

#: Balance this near the aim needs no further lever, share of the mean chord.
_NEAR = 0.002
#: What the advice would offer first is done at once: by finding, which of its remedies. More throw than the purpose
#: wants, and a tail that the elevator would have to hold against in cruise.
_AT_ONCE = {
    "trim.cruise": "tail_incidence",
    "control.roll_high": "less_throw",
    "control.elevator_touchy": "less_throw",
}
#: A pack is chosen anew for what the chosen power train draws, so often, until it lasts this share of the wish.
_TRAINS, _LONG_ENOUGH = 3, 0.98
#: And for more thrust than wished, where it would not hold level flight with enough in hand.
_STRONGER, _MOST_THRUST = 1.15, 4.0
#: Room over what a draft draws, for the mass of the pack it asks for.
_OVER = 1.10
#: Aim where nothing says where the balance belongs, share of the mean chord.
_USUAL_AIM = 0.28
#: Where on from the shortest nose to the longest a draft is looked at (most balance thereabouts).
_MIDDLING = 0.4
#: Where a draft is taken to balance: a little ahead of the usual aim, as it is trimmed for the first throw.
_DRAFT_AIM = 0.24
#: A wing loaded harder than wished, step by step, where nothing else brings the ceiling in reach.
_HARDER = (1.0, 1.08, 1.16, 1.25, 1.35, 1.5, 1.7)
#: What the ratio says is right to within this: a way over it is not drafted while a lighter one may do.
_DOUBTED = 1.03
#: Who names the weight that many rules turn on wants to be under it with its error: the share aimed at, and how near to
#: it a ceiling means it, kg.
_SURE, _AT_THRESHOLD = 0.90, 0.005
#: A hair over the ceiling is told, and no reason to refuse.
_OVER_A_LITTLE = 1.02
#: So far over what is wanted the final choice of parts brings no way under it: it is not drafted to the end.
_HOPELESS = 1.05
#: Inside the chart's limit on the loading (as the starting values keep it).
_INSIDE = 0.98
#: Every third propeller of a shelf is enough to know the room one takes and about what it weighs.
_SKETCHED = 3
#: Nose lengths tried: motor and what stands before it m, pack lengths, mean chords (chosen, wide).
_BEHIND_MOTOR, _BEHIND_MOTOR_LONG, _PACKS_AHEAD, _CHORDS_AHEAD = 0.03, 0.05, 1.1, 2.0
_CANARD_SHORT, _CANARD_LONG = 1.1, 3.0
_TYPICAL_PACK, _TYPICAL_MOTOR, _BOOM_CLEAR = 0.05, 0.02, 0.012


@dataclass(frozen=True)
class Way:
    """One way to meet a brief: with its loading, the plan it is built by, the sizes, and the power train.

    ``expected`` kg is what it comes to, by the ratio until it is drafted.
    """

    brief: Brief
    plan: Plan
    size: Size
    expected: float
    train: PowerTrain | None = None


#: Told what is being tried, in a few words.
Tell = Callable[[str], None]


def lay_out(brief: Brief, shelf: Shelf, name: str = "Untitled", tell: Tell = lambda _step: None) -> Design:
    """Return a whole design for a brief, its wing placed so that it balances with the pack mid-bay.

    Parameters
    ----------
    brief : Brief
    shelf : Shelf
        Parts to choose the power train and servos from.
    name : str
        Name of the design.
    tell : callable, optional
        Told each step before it is taken: laying out takes about a second.

    Raises
    ------
    DesignError
        When the wishes leave no wing that is wider than deep, a tail of no size, sizes no document holds, or more
        weight than the ceiling however it is built; it says the smallest ceiling that would do.

    Source
    ------
    Sizes from the design point and tail volumes: docs/theory.md §§3–4; the wing's place is solved with the same
    `evaluate` that judges the result.
    """
    sized(brief, AIM_UNDER_CEILING * brief.ceiling)
    with within_the_document():
        way = _lightest_needed(brief, shelf, tell)
        tell("balancing it")
        return _balanced(brief, shelf, way, name, tell)


def _lightest_needed(brief: Brief, shelf: Shelf, tell: Tell) -> Way:
    """Return the first way, from the usual to the lightest, whose draft comes in under the ceiling."""
    best: Way | None = None
    under: Way | None = None
    passed: list[Way] = []
    wanted = _SURE * brief.ceiling if abs(brief.ceiling - RULE_THRESHOLD) <= _AT_THRESHOLD else brief.ceiling
    for way in _ways(brief):
        # Ways that the ratio says are too heavy are passed over while a lighter one may do.
        if way.expected > _DOUBTED * wanted:
            passed.append(way)
            continue
        tell(f"trying {FORM_WORDS[way.plan.wing.form]}")
        drafted = _drafted(way, shelf, wanted)
        if drafted.expected <= wanted:
            return drafted
        if drafted.expected <= brief.ceiling:
            under = under or drafted
        if best is None or drafted.expected < best.expected:
            best = drafted
    if under is not None:
        return under
    if best is None:
        best = _drafted(min(passed, key=lambda way: way.expected), shelf, wanted)
    if "ceiling" in brief.typed and best.expected > _OVER_A_LITTLE * brief.ceiling:
        raise _too_heavy(brief, best.expected)
    return best


def _too_heavy(brief: Brief, least: float) -> DesignError:
    return DesignError(
        "brief.ceiling",
        f"{1000 * brief.ceiling:.0f} g, where the lightest way to build this comes to about {1000 * least:.0f} g",
        f"a ceiling of {1000 * least / AIM_UNDER_CEILING:.0f} g or more, less to carry, a shorter flight or another "
        "build method",
    )


def _ways(brief: Brief) -> Iterator[Way]:
    """Yield ways to meet a brief: each plan at the wished loading, then the lightest at harder ones."""
    built = plans(brief)
    for plan in built:
        yield _way(brief, plan)
    if "wing_loading" in brief.typed:
        return
    most = _INSIDE * constraint_chart(brief).loading_high
    for harder in _HARDER[1:]:
        loading = min(harder * brief.wing_loading, most)
        if loading > brief.wing_loading:
            yield _way(brief.model_copy(update={"wing_loading": round(loading, 3)}), built[-1])
        if loading >= most:
            return


def _way(brief: Brief, plan: Plan) -> Way:
    brief = brief.model_copy(update={"controls": plan.controls})
    size = sized(brief, sized_for(brief, plan))
    return Way(brief, with_spar(plan, brief, size.mass, size.span), size, comes_to(brief, plan, size.mass))


def _drafted(way: Way, shelf: Shelf, wanted: float) -> Way:
    """Return a way with a power train for what its draft comes to, and with what that weighs, grown."""
    brief, size = way.brief, way.size
    sketch = shelf._replace(propellers=shelf.propellers[::_SKETCHED])
    way = replace(way, train=_train(brief, sketch, size, size.mass, way.plan))
    trial = Evaluator()
    draft = _assemble(way, shelf, _middling(way), "")
    expected, load = trial.value(draft, "mass.auw") or size.mass, trial.value(draft, "power.receiver_load") or 0.0
    if expected > _HOPELESS * wanted:
        return replace(way, expected=expected)
    power, wished = _mean_power(draft, trial), brief
    for _ in range(_TRAINS):
        way = replace(way, train=_train(wished, shelf, size, min(expected, size.mass), way.plan, power, load))
        draft = _assemble(way, shelf, _middling(way), "")
        lasts, held = trial.value(draft, "flight.endurance"), trial.value(draft, "flight.cruise_throttle")
        brief_flight = lasts is not None and lasts < _LONG_ENOUGH * brief.endurance
        weak = held is None or held > CRUISE_THROTTLE
        if not brief_flight and not weak:
            break
        # What is chosen draws more than what it was chosen by, or pulls too little in flight.
        power, expected = max(power, _mean_power(draft, trial)), trial.value(draft, "mass.auw") or expected
        if weak:
            wished = wished.model_copy(update={"thrust_ratio": min(_STRONGER * wished.thrust_ratio, _MOST_THRUST)})
    # A longer nose weighs more: what it comes to where it balances, between the shortest and the longest.
    ends = [_assemble(way, shelf, nose, "") for nose in _nose_limits(brief, size, way.train)]
    short, long = (_balance_of(draft, trial) for draft in ends)
    share = min(max((short - _DRAFT_AIM) / (short - long), 0.0), 1.0) if short > long else 1.0
    light, heavy = (trial.value(draft, "mass.auw") or size.mass for draft in ends)
    return replace(way, expected=light + share * (heavy - light))


def _middling(way: Way) -> float:
    """Return a nose between the shortest and the longest, m: near enough to balance to know what it draws."""
    short, long = _nose_limits(way.brief, way.size, way.train)
    return short + _MIDDLING * (long - short)


def _balance_of(design: Design, trial: Evaluator) -> float:
    """Return where a design balances, share of the mean chord, by its masses alone."""
    state, ref = trial.result(design, "masses").state, trial.result(design, "shape").reference
    return 0.0 if state is None or ref is None else float(ref.fraction(float(state.cg[0])))


def _balanced(wished: Brief, shelf: Shelf, way: Way, name: str, tell: Tell) -> Design:
    """Return the design of a way whose nose is as long as its balance asks for."""
    trial = Evaluator()

    def balance_at(nose: float) -> float:
        # A longer nose moves all surfaces together, so that their lattice is the same.
        return _balance_of(_assemble(way, shelf, nose, name), trial)

    def off(aim: float, nose: float) -> float:
        return balance_at(nose) - aim

    short, long = _nose_limits(way.brief, way.size, way.train)
    low, high = balance_at(short), balance_at(long)
    nose = 0.5 * (short + long)
    # The body's share of the neutral point goes with the nose: the aim is taken anew where the first answer lies.
    for close in (1e-3, 1e-4):
        aim = _aim(trial.result(_assemble(way, shelf, nose, name), "balance"))
        # A longer nose brings the balance forward of the wing.
        nearest = short if abs(low - aim) < abs(high - aim) else long
        between = (low - aim) * (high - aim) < 0
        nose = nearest
        if between:
            nose = root_in(partial(off, aim), short, long, close, low - aim, high - aim)
    design = _settled(_assemble(way, shelf, round(nose, 4), name))
    tell("setting its throws")
    design = _tamed(design)
    # The wishes stay as they were said: what gave way is told by the findings.
    kept = wished.model_copy(update={"controls": way.brief.controls})
    return design.model_copy(update={"brief": kept, "choices": choices_of(design, wished, way.plan)})


def _mean_power(draft: Design, trial: Evaluator) -> float:
    """Return what a draft draws on average over its flight, W per kg, and a little for the mass of its pack."""
    seconds, mass, train = trial.value(draft, "flight.endurance"), trial.value(draft, "mass.auw"), draft.power
    if not seconds or not mass or train is None:
        return MEAN_POWER
    return _OVER * usable_energy(train.pack) / (mass * seconds)


def _tamed(design: Design) -> Design:
    """Set the tail for cruise and give the controls no more throw than the purpose wants."""
    for _ in _AT_ONCE:
        found = (f for f in evaluate(design).findings if f.key in _AT_ONCE)
        ways = (way for f in found for way in f.remedies if way.key == _AT_ONCE.get(f.key))
        way = next(ways, None)
        if way is None:
            break
        design = apply(design, way.changes)
    return design


def _settled(design: Design) -> Design:
    """Put right what the nose length alone could not: slide the pack, then carry the tail servos in the tail."""
    design = _slid(design)
    balanced = Evaluator().result(design, "balance")
    place = _tail_servos(design)
    if balanced is None or place is None or balanced.cg_fraction > _aim(balanced) - _NEAR:
        return design
    tail = max(surface.x for surface in design.surfaces)
    return _slid(put(design, f"parts[{place}].x", tail))


def _tail_servos(design: Design) -> int | None:
    """Return the item of the servos that move the tail's controls."""
    moved = {c.id for s in design.surfaces if s.role in (*TAILS, "fin") for c in s.controls}
    return next((i for i, part in enumerate(design.parts) if part.servo and moved.intersection(part.drives)), None)


def _slid(design: Design) -> Design:
    """Slide the pack towards the balance of a first throw, as far as its rail lets it."""
    report = evaluate(design)
    balanced = report.results.balance
    aim = _aim(balanced)
    if balanced is None or abs(balanced.cg_fraction - aim) < _NEAR:
        return design
    slides = (r for r in levers_to(design, report, aim) if r.key == "slide_pack")
    return next((apply(design, remedy.changes) for remedy in slides), design)


def _aim(balanced: Balance | None) -> float:
    return _USUAL_AIM if balanced is None or balanced.targets is None else balanced.targets.first_aim


def _train(
    brief: Brief,
    shelf: Shelf,
    size: Size,
    mass: float,
    plan: Plan,
    mean_power: float = MEAN_POWER,
    receiver: float = 0.0,
) -> PowerTrain | None:
    """Return a power train that fits the layout: a disc between booms stays between them, two motors share the work."""
    span = size.span
    if brief.layout == "twin_boom":
        out = next(s.y for s in airframe_surfaces(brief, size, size.mac, plan) if s.role == "fin")
        span = min(span, 2 * (out - _BOOM_CLEAR) / PROP_OVER_SPAN)
    motors = 2 if arrangement_of(brief.layout).motor == "each_body" else 1
    air_density = density(brief.elevation, brief.temperature_c)
    return first_power_train(
        brief, shelf, mass, air_density, span, motors=motors, mean_power=mean_power, receiver=receiver
    )


def _nose_limits(brief: Brief, size: Size, train: PowerTrain | None) -> tuple[float, float]:
    pack = train.pack.length if train else _TYPICAL_PACK
    motor = train.motor.length if train else _TYPICAL_MOTOR
    if arrangement_of(brief.layout).family == "canard":
        short = _CANARD_SHORT * size.mac
        return short, short + _PACKS_AHEAD * pack + _CANARD_LONG * size.mac
    return motor + _BEHIND_MOTOR, motor + _BEHIND_MOTOR_LONG + _PACKS_AHEAD * pack + _CHORDS_AHEAD * size.mac


def _assemble(way: Way, shelf: Shelf, nose: float, name: str) -> Design:
    brief, size, train, plan = way.brief, way.size, way.train, way.plan
    numbers = Numbers(())
    surfaces = tuple(numbered(s, KIND_OF["surfaces"], numbers) for s in airframe_surfaces(brief, size, nose, plan))
    frame = frame_of(brief, size, surfaces, train, plan)
    bodies = tuple(numbered(body, KIND_OF["bodies"], numbers) for body in frame.bodies)
    frame = frame._replace(bodies=bodies)
    if train is not None:
        train = train.model_copy(update={"mounts": frame.mounts})
    wheels = wheels_for(size, surfaces, train, frame) if brief.launch == "wheels" else ()
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
