"""Lay out an airframe from a brief: wing, tail, body, parts and power train, already near its balance."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.paths import apply, put
from ridgeline.design.shelf import Shelf
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.rate_rules import set_rates
from ridgeline.engine.advice.spar_ways import with_sized_spars
from ridgeline.engine.advice.weight_rules import RULE_THRESHOLD
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.results import given
from ridgeline.engine.roots import root_in
from ridgeline.engine.sizing.building import RODS, plans
from ridgeline.engine.sizing.choices import choices_of, given_way_of
from ridgeline.engine.sizing.constraints import loading_limit
from ridgeline.engine.sizing.drafts import Way, assembled, balance_of, drafted, nose_limits, way_of
from ridgeline.engine.sizing.forms import FORM_WORDS
from ridgeline.engine.sizing.held_together import usual_fastenings
from ridgeline.engine.sizing.linkages import linked_up
from ridgeline.engine.sizing.passing import passing_controls
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, sized, within_the_document
from ridgeline.engine.sizing.stiffening import stiffened, tails_stiffened
from ridgeline.engine.stages.balancing import Balance
from ridgeline.errors import DesignError

#: Balance this near the aim needs no further lever, share of the mean chord.
_NEAR = 0.002
#: What the advice would offer first is done at once: by finding, which of its remedies. More throw than the purpose
#: wants, a tail that the elevator would have to hold against in cruise, and a bank that steepens too quickly.
_AT_ONCE = {
    "trim.cruise": "tail_incidence",
    "modes.spiral": "more_dihedral",
    "control.roll_high": "less_throw",
    "control.elevator_touchy": "less_throw",
}
#: Aim where nothing says where the balance belongs, share of the mean chord.
_USUAL_AIM = 0.28
#: A wing loaded harder than wished, step by step, where nothing else brings the ceiling in reach.
_HARDER = (1.0, 1.08, 1.16, 1.25, 1.35, 1.5, 1.7)
#: What the ratio says is right to within this: a way over it is not drafted while a lighter one may do.
_DOUBTED = 1.03
#: Who names the weight that many rules turn on wants to be under it with its error: the share aimed at, and how near to
#: it a ceiling means it, kg.
_SURE, _AT_THRESHOLD = 0.90, 0.005
#: Nor is it good to be so near over it that only the scale can tell; what that counts beside what a power train lacks.
_SURELY_OVER, _UNSURE = 1.12, 0.05
#: So many drafts under the ceiling are looked at until one leaves nothing to be wished for.
_LOOKED_AT = 3
#: A hair over the ceiling is told, and no reason to refuse.
_OVER_A_LITTLE = 1.02
#: Inside the chart's limit on the loading (as the starting values keep it).
_INSIDE = 0.98
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
    """Return the first way, from the usual to the lightest, whose draft comes in under the ceiling and wants nothing.

    Where one under the ceiling leaves something to be wished for, few lighter ones are looked at.
    """
    best: Way | None = None
    under: Way | None = None
    good: list[Way] = []
    passed: list[Way] = []
    wanted = _SURE * brief.ceiling if abs(brief.ceiling - RULE_THRESHOLD) <= _AT_THRESHOLD else brief.ceiling
    for way in _ways(brief):
        # Ways that the ratio says are too heavy are passed over while a lighter one may do.
        if way.expected > _DOUBTED * wanted:
            passed.append(way)
            continue
        tell(f"trying {FORM_WORDS[way.plan.wing.form]}")
        draft = drafted(way, shelf, wanted)
        if draft.expected <= wanted:
            good.append(draft)
            if not _wanting(draft) or len(good) >= _LOOKED_AT:
                break
        elif draft.expected <= brief.ceiling:
            under = under or draft
        if best is None or draft.expected < best.expected:
            best = draft
    if good or under is not None:
        return min(good, key=_wanting) if good else given(under)
    if best is None:
        best = drafted(min(passed, key=lambda way: way.expected), shelf, wanted)
    if "ceiling" in brief.typed and best.expected > _OVER_A_LITTLE * brief.ceiling:
        raise _too_heavy(brief, best.expected)
    return best


def _wanting(draft: Way) -> float:
    """Return what a draft leaves to be wished for: of its power train, and that the scale must tell whether rules turn.

    The ceiling itself stands over the threshold, or what comes in under it would be sure of it.
    """
    near = _SURE * RULE_THRESHOLD < draft.expected < _SURELY_OVER * RULE_THRESHOLD
    return draft.lacks + (_UNSURE if near and draft.brief.ceiling > RULE_THRESHOLD + _AT_THRESHOLD else 0.0)


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
        yield way_of(brief, plan)
    if "wing_loading" in brief.typed:
        return
    most = _INSIDE * loading_limit(brief)
    for harder in _HARDER[1:]:
        loading = min(harder * brief.wing_loading, most)
        if loading > brief.wing_loading:
            yield way_of(brief.model_copy(update={"wing_loading": round(loading, 3)}), built[-1])
        if loading >= most:
            return


def _balanced(wished: Brief, shelf: Shelf, way: Way, name: str, tell: Tell) -> Design:
    """Return the design of a way whose nose is as long as its balance asks for."""
    trial = Evaluator()

    def balance_at(nose: float) -> float:
        # A longer nose moves all surfaces together, so that their lattice is the same.
        return balance_of(assembled(way, shelf, nose, name), trial)

    def off(aim: float, nose: float) -> float:
        return balance_at(nose) - aim

    short, long = nose_limits(way.brief, way.size, way.train)
    low, high = balance_at(short), balance_at(long)
    nose = 0.5 * (short + long)
    # The body's share of the neutral point goes with the nose: the aim is taken anew where the first answer lies.
    for close in (1e-3, 1e-4):
        aim = _aim(trial.result(assembled(way, shelf, nose, name), "balance"))
        # A longer nose brings the balance forward of the wing.
        nearest = short if abs(low - aim) < abs(high - aim) else long
        between = (low - aim) * (high - aim) < 0
        nose = nearest
        if between:
            nose = root_in(partial(off, aim), short, long, close, low - aim, high - aim)
    tell("choosing its spars")
    design = assembled(way, shelf, round(nose, 4), name)
    design = with_sized_spars(design, trial(design), RODS)
    design = _settled(stiffened(_held(design, trial), trial), trial)
    tell("setting its throws")
    design = _tamed(design, trial)
    # What was set since moved its loads a little.
    design = tails_stiffened(with_sized_spars(design, trial(design), RODS), trial)
    design = _heeded(_slid(design, trial), trial)
    tell("holding it together")
    design = design.model_copy(update={"fastenings": usual_fastenings(design, trial(design))})
    tell("linking its controls")
    design = passing_controls(design)
    before, design = design.parts, linked_up(design, trial, shelf)
    if design.parts != before:
        # Stronger servos weigh more.
        design = _settled(design, trial)
    rates = set_rates(design, trial(design))
    if rates is not None:
        design = apply(design, [rates])
    # The wishes stay as they were said: what gave way is told by the findings. A starting value nobody typed gives way
    # to what is drawn.
    given_way = given_way_of(trial(design), wished)
    kept = wished.model_copy(update={"controls": way.brief.controls, **given_way})
    choices = choices_of(design, wished, way.plan, given_way)
    return design.model_copy(update={"brief": kept, "choices": choices})


def _held(design: Design, trial: Evaluator) -> Design:
    """Build tails that no stock in a plate could hold in the way the advice offers first."""
    report = trial(design)
    bearing = report.results.bearing
    for index, own in enumerate(() if bearing is None else bearing.borne):
        # Few are: findings cost what they solve.
        if own is None or own.greatest <= 1 or index == given(bearing).main:
            continue
        key = f"structure.tail.{design.surfaces[index].id}"
        found = next((f for f in trial(design).findings if f.key == key), None)
        if found is not None and found.remedies:
            design = apply(design, found.remedies[0].changes)
    return design


#: What is heeded rather than cured: the load factor, and the speed, up to which it may be flown.
_HEEDED = ("structure.pull", "structure.reversal", "structure.divergence")


def _heeded(design: Design, trial: Evaluator) -> Design:
    """Write down up to what it may be flown, where a full pull or a dive could ask for more than the wing bears."""
    report = trial(design)
    for key in _HEEDED:
        found = next((f for f in report.findings if f.key == key and f.level == "look"), None)
        heed = None if found is None else next((way for way in found.remedies if way.key == "heed"), None)
        if heed is not None:
            design = apply(design, heed.changes)
            report = trial(design)
    return design


def _tamed(design: Design, trial: Evaluator) -> Design:
    """Set the tail for cruise and give the controls no more throw than the purpose wants."""
    for _ in _AT_ONCE:
        found = (f for f in trial(design).findings if f.key in _AT_ONCE)
        ways = (way for f in found for way in f.remedies if way.key == _AT_ONCE.get(f.key))
        way = next(ways, None)
        if way is None:
            break
        design = apply(design, way.changes)
    return design


def _settled(design: Design, trial: Evaluator) -> Design:
    """Put right what the nose length alone could not: slide the pack, then carry the tail servos in the tail."""
    design = _slid(design, trial)
    if design.power is None and not any(part.rail for part in design.parts):
        return _coined(design, trial)
    balanced = trial.result(design, "balance")
    place = _tail_servos(design)
    if balanced is None or place is None or balanced.cg_fraction > _aim(balanced) - _NEAR:
        return design
    tail = max(surface.x for surface in design.surfaces)
    return _slid(put(design, f"parts[{place}].x", tail), trial)


def _coined(design: Design, trial: Evaluator) -> Design:
    """Put the coins in that balance a toss glider for its first throw."""
    aim = _aim(trial.result(design, "balance"))
    coins = (r for r in levers_to(design, trial(design), aim) if r.key == "coins")
    return next((apply(design, remedy.changes) for remedy in coins), design)


def _tail_servos(design: Design) -> int | None:
    """Return the item of the servos that move the tail's controls."""
    moved = {c.id for s in design.surfaces if s.role in (*TAILS, "fin") for c in s.controls}
    return next((i for i, part in enumerate(design.parts) if part.servo and moved.intersection(part.drives)), None)


def _slid(design: Design, trial: Evaluator) -> Design:
    """Slide the pack towards the balance of a first throw, as far as its rail lets it."""
    balanced = trial.result(design, "balance")
    aim = _aim(balanced)
    if balanced is None or abs(balanced.cg_fraction - aim) < _NEAR:
        return design
    slides = (r for r in levers_to(design, trial(design), aim) if r.key == "slide_pack")
    return next((apply(design, remedy.changes) for remedy in slides), design)


def _aim(balanced: Balance | None) -> float:
    return _USUAL_AIM if balanced is None or balanced.targets is None else balanced.targets.first_aim
