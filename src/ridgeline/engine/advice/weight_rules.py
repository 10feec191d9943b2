"""Findings on the weight budget."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.hanging import hung
from ridgeline.design.paths import Change
from ridgeline.design.power import Pack
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.on_hand import smaller_packs
from ridgeline.engine.advice.savings import lighter_items
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import exchange, scaled
from ridgeline.engine.register import GROUP_MASS
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.weights.growth import growth_of
from ridgeline.engine.weights.items import ESTIMATE_SIGMA, kinds_of
from ridgeline.engine.weights.learning import learnt

#: Many countries change their rules at this mass (handbook of the trade §5).
RULE_THRESHOLD = 0.250
#: Outside its 90 % band a weight counts as clear of the threshold.
_ONE_SIDED = 0.05
_PACK_STEP_AH = 0.05
#: A pack with less than this share of the present one's capacity is another flight.
_LEAST_PACK = 0.4
#: A material this much off its estimate is worth a rescale.
_WORTH_LEARNING = 0.01
#: What has been weighed tells something once it is this share of the whole.
_TELLING_SHARE = 0.15


def chance_under(limit: float, mass: Figure) -> float:
    """Return the chance that a mass stays under a limit: normal on either side of its value.

    Parameters
    ----------
    limit : float
        kg.
    mass : Figure
        With its band.

    Returns
    -------
    float
        0 to 1.
    """
    assert mass.value is not None
    sigma = (mass.above if limit > mass.value else mass.below) / BAND
    if sigma <= 0:
        return 1.0 if mass.value <= limit else 0.0
    return 0.5 * (1 + math.erf((limit - mass.value) / (sigma * math.sqrt(2))))


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge all-up weight against the ceiling and the rule threshold."""
    auw = report.figures["mass.auw"]
    if auw.value is None:
        return
    yield _against_ceiling(design, report, auw)
    yield _threshold(auw)
    yield from _over_allowance(design, report)
    yield from _lost_recipes(design)
    yield from _loose(design)
    yield from _learnt(design, report)
    yield from _so_far(design, report)
    yield from _too_tight(design)


def _against_ceiling(design: Design, report: Report, auw: Figure) -> Finding:
    """Judge the weight to expect against the ceiling: over it as listed, over it once grown, or under it."""
    assert auw.value is not None
    ceiling, listed, reserve = design.brief.ceiling, report.value("mass.listed"), report.value("mass.reserve")
    now, limit = Measured(auw.value, "mass"), Measured(ceiling, "mass")
    over = auw.value - ceiling
    parts = (Measured(listed or 0.0, "mass"), Measured(reserve or 0.0, "mass"))
    chance = chance_under(ceiling, auw)
    if over <= 0:
        return Finding(
            "mass.under_ceiling",
            "settled",
            "weights",
            say("{} to finish under {}.", Measured(min(chance, 0.99), "fraction", 0), limit),
            say("{} as listed; {} is kept for what unweighed board, glue and leads still gain.", *parts),
            (),
            ("mass.auw", "mass.reserve"),
        )
    remedies = tuple(_lighten(design, report, over))
    if (listed or 0.0) > ceiling or chance < _ONE_SIDED:
        return Finding(
            "mass.over_ceiling",
            "stop",
            "weights",
            say("{} over the ceiling of {}.", Measured(over, "mass"), limit),
            say("It will come to {}: {} as listed, {} kept for growth.", now, *parts),
            remedies,
            ("mass.auw", "mass.ceiling"),
        )
    return Finding(
        "mass.no_reserve",
        "look",
        "weights",
        say("Likely to finish {} over the ceiling of {}.", Measured(over, "mass"), limit),
        say(
            "{} as listed, but unweighed board, glue and leads usually gain {}: {}. Weigh parts as they are built.",
            *parts,
            now,
        ),
        remedies,
        ("mass.auw", "mass.reserve"),
    )


def _over_allowance(design: Design, report: Report) -> Iterator[Finding]:
    """Say which groups weigh more than was allowed them."""
    for name, mass in report.results.masses.groups.items():
        limit = getattr(design.allowances, name)
        if limit is None or mass <= limit + 1e-9:
            continue
        words, over = say("Give it {}", Measured(mass, "mass")), Measured(mass - limit, "mass")
        yield Finding(
            f"mass.allowance.{name}",
            "look",
            "weights",
            say(f"{name.capitalize()}: {{}} over its allowance of {{}}.", over, Measured(limit, "mass")),
            say("Another group has to give that, or the ceiling is nearer."),
            (Remedy("allow", words, (Change(f"allowances.{name}", math.ceil(mass * 1000 - 1e-6) / 1000),)),),
            (GROUP_MASS.key(name),),
        )


def _learnt(design: Design, report: Report) -> Iterator[Finding]:
    """Say what weighed parts of a material tell of the unbuilt ones, and offer to rescale those."""
    for one in learnt(design, report.results.extents):
        parts = [design.parts[i] for i in one.open]
        if abs(one.ratio - 1) < _WORTH_LEARNING and all(p.build and p.build.known == one.sigma for p in parts):
            continue
        if all(p.build is not None and p.build.known is not None for p in parts) and abs(one.ratio - 1) < 1e-6:
            continue
        masses = report.results.masses.items.estimate
        now = sum(float(masses[i]) for i in one.open)
        names = ", ".join(p.name for p in parts[:3]) + (" and more" if len(parts) > 3 else "")
        side = "over" if one.ratio > 1 else "under"
        gap = abs(one.ratio - 1)
        words = (
            say(f"{one.material} came out {{}} {side}.", Measured(gap, "fraction", 0))
            if gap >= 0.005
            else say(f"{one.material} came out as estimated.")
        )
        reason = say(
            f"Not yet weighed of it: {names}, {{}} as estimated, {{}} at this rate, known to {{}} instead of {{}}.",
            Measured(now, "mass", 0),
            Measured(now * one.ratio, "mass", 0),
            Measured(BAND * one.sigma, "fraction", 0),
            Measured(BAND * ESTIMATE_SIGMA[parts[0].basis], "fraction", 0),
        )
        which = "it" if len(parts) == 1 else f"these {len(parts)}"
        text = say(f"Rescale {which}: {{}} → {{}}", Measured(now, "mass", 0), Measured(now * one.ratio, "mass", 0))
        remedy = Remedy("learn", text, one.changes())
        yield Finding(f"mass.learnt.{one.material}", "look", "weights", words, reason, (remedy,), ("mass.auw",))


def _so_far(design: Design, report: Report) -> Iterator[Finding]:
    """Say how what is weighed compares with what was estimated, and where the rest is heading."""
    items = report.results.masses.items
    grown = growth_of(items, design.brief.growth)
    estimated, weighed = (sum(getattr(g, name) for g in grown.groups) for name in ("estimated", "weighed"))
    if estimated < _TELLING_SHARE * float(items.mass.sum()):
        return
    share = weighed / estimated - 1
    side = "over" if share > 0 else "under"
    worst = max(grown.groups, key=lambda g: g.weighed - g.estimated)
    over = grown.finished + 1.28 * grown.sigma > design.brief.ceiling
    told = (
        say("What is weighed came out as estimated.")
        if abs(share) < 0.005
        else say(f"What is weighed came out {{}} {side}.", Measured(abs(share), "fraction", 0))
    )
    reason = say(
        f"{{}} against {{}} estimated; most over: {worst.group}, by {{}}. At this rate it finishes at {{}}.",
        Measured(weighed, "mass"),
        Measured(estimated, "mass"),
        Measured(max(worst.weighed - worst.estimated, 0.0), "mass"),
        Measured(grown.finished, "mass"),
    )
    yield Finding("mass.so_far", "look" if over else "settled", "weights", told, reason, (), ("mass.weighed",))


def _too_tight(design: Design) -> Iterator[Finding]:
    """Say when the pack is wider or higher than its bay."""
    power = design.power
    for part in (design.parts[i] for i in kinds_of(design.parts).links.get("pack", ())):
        if part.rail is None or power is None:
            continue
        pairs = (("wide", power.pack.width, part.rail.width), ("high", power.pack.height, part.rail.height))
        for word, size, room in pairs:
            if size and room and size > room + 1e-9:
                yield Finding(
                    f"mass.bay_{word}",
                    "stop",
                    "weights",
                    say(f"The pack is {{}} {word}, its bay {{}}.", Measured(size, "length"), Measured(room, "length")),
                    say("A pack pressed into place is a pack damaged: choose another, or widen the bay."),
                )


def _lost_recipes(design: Design) -> Iterator[Finding]:
    """Say when an item follows a surface or body that is no longer there."""
    there = {s.id for s in design.surfaces} | {b.id for b in design.bodies}
    built = [(i, design.parts[i]) for i in kinds_of(design.parts).built]
    lost = [(i, p) for i, p in built if p.build and p.build.of and p.build.of not in there]
    if not lost:
        return
    names = ", ".join(part.name for _i, part in lost[:3]) + (" and more" if len(lost) > 3 else "")
    changes = tuple(Change(f"parts[{i}].build", None) for i, p in lost if p.estimate is not None)
    yield Finding(
        "mass.lost_recipe",
        "look",
        "weights",
        say(f"{names}: made along a part that is gone."),
        say("Its last estimate counts until it follows another part or is weighed."),
        (Remedy("keep_estimate", say("Keep the last estimates"), changes),) if changes else (),
    )


def _loose(design: Design) -> Iterator[Finding]:
    """Name what was bolted to a part that was taken away, and offer to hang it on what it lies on now."""
    loose = [k for k, part in enumerate(design.parts) if part.loose]
    if not loose:
        return
    names = ", ".join(design.parts[k].name for k in loose[:3]) + (" and more" if len(loose) > 3 else "")
    freed = {k: design.parts[k].model_copy(update={"loose": ""}) for k in loose}
    again = hung(design.model_copy(update={"parts": tuple(freed.get(k, p) for k, p in enumerate(design.parts))}))
    changes = tuple(Change(f"parts[{k}]", again.parts[k]) for k in loose)
    where = " and ".join(dict.fromkeys(design.parts[k].loose for k in loose))
    yield Finding(
        "mass.loose",
        "look",
        "weights",
        say(f"{_plain(names)}: loose since {_plain(where)} was taken away."),
        say("They stay where they were and move with nothing. Hang them on a part, or leave them out."),
        (Remedy("hang", say("Hang them on what they lie on now"), changes),),
    )


def _plain(words: str) -> str:
    """Return a builder's words so that a sentence takes them as they are."""
    return words.replace("{", "(").replace("}", ")")


def _threshold(auw: Figure) -> Finding:
    """Compare the weight with the mass at which many rules begin, the error included."""
    assert auw.value is not None
    mass = auw.value
    limit, now = Measured(RULE_THRESHOLD, "mass"), Measured(mass, "mass")
    apart, chance = Measured(abs(mass - RULE_THRESHOLD), "mass"), chance_under(RULE_THRESHOLD, auw)
    to_be_under = Measured(chance, "fraction", 0)
    if mass <= RULE_THRESHOLD:
        text = say("{} below the {} many rules turn on.", apart, limit)
        reason = say("{} to expect, {} to stay under; check with your authority.", now, to_be_under)
        return Finding("mass.rules", "settled" if chance > 0.9 else "look", "weights", text, reason)
    if chance > _ONE_SIDED:
        text = say("{} over the {} many rules turn on: within the error.", apart, limit)
        reason = say("Only the scale can tell: {} to expect, {} to be under. Ask your authority.", now, to_be_under)
        return Finding("mass.rules", "look", "weights", text, reason, (), ("mass.auw",))
    reason = say("Many countries ask for registration and marking; check with your authority.")
    return Finding("mass.rules", "settled", "weights", say("Above {} rules change.", limit), reason)


def _lighten(design: Design, report: Report, over: float) -> Iterator[Remedy]:
    """Offer a smaller pack where that alone is enough, what saves most elsewhere, and a higher ceiling."""
    yield from _smaller_pack(design, report, over)
    lighter = lighter_items(design, report, over)
    for number, (one, saved) in enumerate(lighter, 1):
        words = Phrase(f"{{}} lighter: {one.text.template}", (Measured(saved, "mass"), *one.text.values))
        yield Remedy(f"lighten_{number}", words, tuple(one.changes), one.price)
    together = [change for one, _saved in lighter for change in one.changes]
    saved = -mass_gained(design, report, together)
    if saved >= over > max((alone for _one, alone in lighter), default=math.inf):
        words = say("Those together: {} lighter", Measured(saved, "mass"))
        yield Remedy("lighten_together", words, tuple(together))
    higher = math.ceil((design.brief.ceiling + over) / 0.01 - 1e-9) * 0.01
    yield Remedy(
        "raise_ceiling",
        say(
            "Raise the ceiling {} → {}",
            Measured(design.brief.ceiling, "mass", bare=True),
            Measured(higher, "mass"),
        ),
        (Change("brief.ceiling", round(higher, 6)),),
    )


def _lighter_pack(report: Report, pack: Pack, held: float, most: float) -> Pack | None:
    """Return the largest pack of the same cells that weighs no more than a mass, kg; None where it would be too small.

    Of a shelf, one of it; otherwise the present one with less in it, by what it weighs now.
    """
    least = _LEAST_PACK * pack.capacity_ah
    if report.shelf is not None:
        fitting = (p for p in smaller_packs(report, pack) if mass_of(p) <= most and p.capacity_ah >= least)
        return next(fitting, None)
    capacity = math.floor(pack.capacity_ah * most / held / _PACK_STEP_AH + 1e-9) * _PACK_STEP_AH
    if capacity < max(least, _PACK_STEP_AH):
        return None
    scale = capacity / pack.capacity_ah
    return pack.model_copy(
        update={
            "name": f"{pack.cells}S {capacity * 1000:.0f}",
            "capacity_ah": capacity,
            "cell_resistance": scaled(pack.cell_resistance, 1 / scale),
            "mass": held * scale,
        }
    )


def _smaller_pack(design: Design, report: Report, over: float) -> Iterator[Remedy]:
    """Offer a smaller pack where that alone is enough."""
    place = next(iter(kinds_of(design.parts).links.get("pack", ())), None)
    if design.power is not None and place is not None:
        pack = design.power.pack
        part = design.parts[place]
        held = part.weighed if part.weighed is not None else (part.estimate or mass_of(pack))
        fresh = _lighter_pack(report, pack, held, held - over / part.count)
        if fresh is not None:
            saved = (held - mass_of(fresh)) * part.count
            yield Remedy(
                "smaller_pack",
                say(
                    "Pack {} → {}: {} lighter",
                    Measured(pack.capacity_ah, "capacity", bare=True),
                    Measured(fresh.capacity_ah, "capacity"),
                    Measured(saved, "mass"),
                ),
                exchange(design, "pack", fresh, f"Pack {fresh.name}"),
                say("less time in the air"),
            )
