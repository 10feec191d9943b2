"""Every pack of the bin in its bay: the balance it can reach, and what it does to weight, thrust and time."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.design.power import Pack
from ridgeline.engine.advice.balance_rules import pack_on_rail, pack_reach, rail_reach
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.report import Report, Trial
from ridgeline.engine.weights.levers import slide_for
from ridgeline.errors import DesignError


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
    verdict: str
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
        return PackOption(pack, None, None, None, None, None, "look", "no power train with a pack on a rail", ())
    rail = design.parts[index].rail
    assert rail is not None
    if pack.length > rail.back - rail.front + 1e-9:
        return PackOption(pack, None, None, None, None, None, "stop", "too long for the bay", ())
    if pack.cells > power.esc.max_cells or pack.cells > power.motor.max_cells:
        return PackOption(pack, None, None, None, None, None, "stop", "more cells than ESC or motor take", ())
    try:
        fitted = apply(design, changes)
    except DesignError as error:
        return PackOption(pack, None, None, None, None, None, "stop", str(error.allowed), ())
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


def _verdict(design: Design, report: Report) -> tuple[str, str]:
    """Say the worst thing about a pack, or that it fits."""
    targets, auw = report.results.targets, report.value("mass.auw")
    cg = report.value("balance.cg_fraction")
    if targets is None or cg is None or auw is None:
        return "look", "no balance target yet"
    if cg > targets.settled[1] + 1e-6:
        return "stop", "stays tail heavy"
    if auw > design.brief.ceiling:
        return "stop", "over the ceiling"
    current, limit = report.value("power.static_current"), report.wanted.get("power.static_current", (None, None))[1]
    if current is not None and limit is not None and current > limit:
        return "look", "runs past a rating"
    if cg < targets.first_throw[0] - 1e-6:
        return "look", "stays nose heavy"
    if cg > targets.first_throw[1] + 1e-6:
        return "look", "short of the first throw"
    endurance = report.value("flight.endurance")
    if endurance is not None and endurance < design.brief.endurance:
        return "look", "flies shorter than wished"
    return "settled", "balances and lasts"
