"""Every pack of the bin in its bay: the balance it can reach, and what it does to weight, thrust and time."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from ridgeline.design.document import Design
from ridgeline.design.parts import Rail
from ridgeline.design.paths import Change, apply
from ridgeline.design.power import Pack, PowerTrain
from ridgeline.engine.advice.balance_rules import pack_on_rail, pack_reach, rail_reach
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.report import Report, Trial
from ridgeline.engine.weights.levers import slide_for
from ridgeline.errors import DesignError

#: A pack goes into a bay that is short of it by no more than this, m: what measuring cannot tell.
_SLACK = 1e-9


@dataclass(frozen=True)
class PackOption:
    """One pack fitted: reachable balance, its figures with the pack slid to its best place, and the verdict.

    ``reach`` and ``balance`` are fractions of c̄; ``level`` is settled, look or stop; ``changes`` fit it.
    """

    pack: Pack
    reach: tuple[float, float] | None
    balance: float | None
    mass: float | None
    thrust_ratio: float | None
    endurance: float | None
    level: str
    verdict: Phrase
    changes: tuple[Change, ...]


def options(
    design: Design, report: Report, packs: Iterable[Pack], *, stop: Callable[[], bool] = lambda: False
) -> Iterator[PackOption]:
    """Yield each pack fitted to the design and slid as near the first throw as its bay lets it.

    Parameters
    ----------
    packs : iterable of Pack
        Those in the bin.
    stop : callable
        Asked between packs; a stopped search yields no more.
    """
    evaluator = report.trial()
    for pack in packs:
        if stop():
            return
        yield _option(design, pack, evaluator)


def _option(design: Design, pack: Pack, evaluator: Trial) -> PackOption:
    index = pack_on_rail(design)
    changes = exchange(design, "pack", pack, f"Pack {pack.name}")
    power = design.power
    if power is None or index is None:
        return _left_out(pack, "look", say("no power train with a pack on a rail"))
    rail = design.parts[index].rail
    assert rail is not None
    why = _why_not(pack, rail, power)
    if why is not None:
        return _left_out(pack, "stop", why)
    try:
        fitted = apply(design, changes)
    except DesignError as error:
        return _left_out(pack, "stop", say("{}", str(error.allowed)))
    report = evaluator(fitted)
    reach = pack_reach(fitted, report)
    slide = _best_place(fitted, report, index)
    if slide is not None:
        changes = (*changes, slide)
        report = evaluator(apply(fitted, (slide,)))
    level, verdict = _verdict(design, report)
    return PackOption(
        pack,
        reach,
        report.value("balance.cg_fraction"),
        report.value("mass.auw"),
        report.value("power.thrust_ratio"),
        report.value("flight.endurance"),
        level,
        verdict,
        changes,
    )


def _left_out(pack: Pack, level: str, why: Phrase) -> PackOption:
    return PackOption(pack, None, None, None, None, None, level, why, ())


def _why_not(pack: Pack, rail: Rail, power: PowerTrain) -> Phrase | None:
    """Say why a pack cannot be fitted at all: the room of the bay where that is known, then the cells."""
    room = rail.back - rail.front
    sides = sorted(side for side in (pack.width, pack.height) if side > 0)
    bay = sorted(side for side in (rail.width, rail.height) if side > 0)
    if pack.length > room + _SLACK:
        return say("{} long, the bay takes {}", Measured(pack.length, "length"), Measured(room, "length"))
    if len(sides) == len(bay) == 2 and (sides[0] > bay[0] + _SLACK or sides[1] > bay[1] + _SLACK):
        told = (Measured(value, "length", bare=k % 2 == 0) for k, value in enumerate((*sides[::-1], *bay[::-1])))
        return say("{} by {} across, the bay takes {} by {}", *told)
    cells = pack.cells * power.pack_series
    for words, takes in (("the ESC", power.esc.max_cells), ("the motor", power.motor.max_cells)):
        if cells > takes:
            return say("{} cells, {} takes {}", str(cells), words, str(takes))
    return None


def _best_place(design: Design, report: Report, index: int) -> Change | None:
    targets, state = report.results.targets, report.results.masses.state
    ref = report.results.shape.reference
    if targets is None or state is None or ref is None:
        return None
    moving = float(report.results.masses.expected[index])
    if moving <= 0:
        return None
    part = design.parts[index]
    front, back = rail_reach(part)
    full = slide_for(state.mass, moving, float(state.cg[0]), ref.at(targets.first_aim))
    return Change(f"parts[{index}].x", min(max(part.x + full, front), back))


def _verdict(design: Design, report: Report) -> tuple[str, Phrase]:
    """Say the worst thing about a pack, or that it fits."""
    targets, auw = report.results.targets, report.value("mass.auw")
    cg = report.value("balance.cg_fraction")
    if targets is None or cg is None or auw is None:
        return "look", say("no balance target yet")
    if cg > targets.settled[1] + 1e-6:
        return "stop", say("stays tail heavy")
    if auw > design.brief.ceiling:
        return "stop", say("over the ceiling by {}", Measured(auw - design.brief.ceiling, "mass"))
    current, limit = report.value("power.static_current"), report.wanted.get("power.static_current", (None, None))[1]
    if current is not None and limit is not None and current > limit:
        return "look", say("draws {}, {} is the most", Measured(current, "current"), Measured(limit, "current"))
    if cg < targets.first_throw[0] - 1e-6:
        return "look", say("stays nose heavy")
    if cg > targets.first_throw[1] + 1e-6:
        return "look", say("short of the first throw")
    endurance = report.value("flight.endurance")
    if endurance is not None and endurance < design.brief.endurance:
        wished = Measured(design.brief.endurance, "time")
        return "look", say("flies {}, {} wished", Measured(endurance, "time"), wished)
    return "settled", say("balances and lasts")
