"""Findings on strength: what wings, tails and foreplanes bear, how far they bend, what a full pull can do."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.brace_ways import brace_ways
from ridgeline.engine.advice.spar_ways import called, hollow_way, stock_of, stock_ways
from ridgeline.engine.geometry.reference import LIFTING, WINGS
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.offers import changed_part, first_build
from ridgeline.engine.stages.bearing import Bearing, Borne
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.half import NOT_BUILT, NOT_KNOWN, Half, spar_section, why_not
from ridgeline.engine.structure.sections import allowed
from ridgeline.engine.structure.stock import bears_in_bending, of_stock

#: A design is not built for less than this, and factors are told in tenths.
_LEAST_FACTOR, _STEP = 1.5, 0.1
#: A wing over what it may bear by more than its loads are known by is a stop, one a hair over it is a look; of a tail,
#: whose loads are told more coarsely, it is a stop where the reserve is used up.
_SURELY = 1.15
#: Tries of a lower load factor, and how far under the last one the next goes.
_TRIES, _LOWER = 4, 0.97
#: Cases that a lower load factor lightens.
_OF_FACTOR = ("pull", "push", "roll")


def level_of(surface: Surface, own: Borne) -> Level:
    """Return how a surface is judged by the greatest share of what it bears."""
    if own.greatest <= 1 + 1e-9:
        return "settled"
    return "stop" if own.greatest > (_SURELY if surface.role in WINGS else ULTIMATE) else "look"


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what every surface bears."""
    found = report.results.bearing
    if found is None:
        return
    for index, (half, own) in enumerate(zip(report.results.beams, found.borne, strict=True)):
        if half is not None and own is not None:
            yield from _bears(design, report, found, index, half, own)
        elif index == found.main:
            yield from _unknown(design, report, index)
    yield from _pull(design, report, found)


def _bears(design: Design, report: Report, found: Bearing, index: int, half: Half, own: Borne) -> Iterator[Finding]:
    surface, share = design.surfaces[index], own.greatest
    wing = surface.role in WINGS
    key = "structure.wing" if index == found.main else f"structure.{'wing' if wing else 'tail'}.{surface.id}"
    what = _called(half, own)
    case = found.cases[own.worst].key if surface.role in LIFTING else ""
    level = level_of(surface, own)
    if level == "settled":
        if wing:
            yield from _settled(key, design, report, found, index, half, own)
        return
    if case in _OF_FACTOR:
        text = say(f"{_whose(design, index)}{what} bears {{}} of {{}}.", *_factors(found.factor / share, found.factor))
    else:
        text = say(
            f"{_whose(design, index)}{what} bears {{}} of {own.words[own.worst]}.", Measured(1 / share, "fraction", 0)
        )
    yield Finding(
        key,
        level,
        "structure",
        text,
        _why(half, own),
        partial(_ways_to_bear, design, report, found, index, share if wing and case in _OF_FACTOR else None),
        ("structure.wing_share",) if index == found.main else (),
    )


def _ways_to_bear(design: Design, report: Report, found: Bearing, index: int, share: float | None) -> Iterator[Remedy]:
    """Yield stock that bears, a tail built hollow where none does, and to build for less, at a share of a pull."""
    stock = stock_ways(design, report, index)
    yield from stock
    if not stock and design.surfaces[index].role not in WINGS:
        yield from hollow_way(design, report, index)
    if design.surfaces[index].role in WINGS:
        yield from brace_ways(design, report, index)
    if share is not None:
        yield from _gentler(design, report, found, index, share)


def _whose(design: Design, index: int) -> str:
    """Return whose part is meant, where that is not plain: "Tailplane: the "."""
    wings = [k for k, s in enumerate(design.surfaces) if s.role in WINGS]
    return "The " if wings == [index] else f"{design.surfaces[index].name}: the "


def _called(half: Half, own: Borne) -> str:
    if not half.spar_here[own.at]:
        return {"paper": "paper skin", "foam": "foam", "plastic": "printed skin"}[half.skins.facing]
    return "spar"


def _factors(now: float, wanted: float) -> tuple[Measured, Measured]:
    return Measured(now, "factor"), Measured(wanted, "factor")


def _why(half: Half, own: Borne) -> Phrase:
    """Say the stress there against what is allowed."""
    moment, place = abs(float(own.moment[own.worst, own.at])), float(half.y[own.at])
    where = "at the seat" if place <= half.seat + 1e-6 else "{} out"
    values = [Measured(moment, "torque", 2)] + ([] if place <= half.seat + 1e-6 else [Measured(place, "length")])
    if half.spar_here[own.at]:
        at = own.at
        bending = half.spar_bending[:, at]
        k = int(bending.argmax())
        spar = half.spars[k]
        if spar.strength is not None:
            share = float(bending[k] / bending.sum())
            stress = moment * share / (spar.count * spar_section(spar).modulus)
            most = allowed(spar.strength, brittle=not spar.yields)
            return say(
                f"{{}} {where} make {{}} in {called(spar.material, spar.count)}, where {{}} are allowed.",
                *values, Measured(stress, "stress", 0), Measured(most, "stress", 0),
            )  # fmt: skip
    bears = float(half.bears[own.at])
    return say(f"{{}} {where}; it may carry {{}}.", *values, Measured(bears, "torque", 2))


def _gentler(design: Design, report: Report, found: Bearing, index: int, share: float) -> Iterator[Remedy]:
    """Offer to build for what it bears, with the speed up to which a full pull is allowed then."""
    trial, stall = report.trial(), report.value("speed.stall")
    factor = found.factor / share
    for _ in range(_TRIES):
        least = math.floor(factor / _STEP + 1e-9) * _STEP
        if least < _LEAST_FACTOR or stall is None:
            return
        changes = (Change("loads.factor", round(least, 1)),)
        after = trial.result(apply(design, changes), "bearing")
        own = None if after is None else after.borne[index]
        if own is not None and own.greatest <= 1:
            words = say("Build for {}: pull hard below {} only", Measured(least, "factor"),
                        Measured(stall * math.sqrt(least), "speed"))  # fmt: skip
            yield Remedy("gentler", words, changes)
            return
        factor = _LOWER * least


def _settled(
    key: str, design: Design, report: Report, found: Bearing, index: int, half: Half, own: Borne
) -> Iterator[Finding]:
    text = say(f"{_whose(design, index)}{_called(half, own)} bears {{}}; {{}} is asked.",
               *_factors(found.factor / max(own.greatest, 1e-6), found.factor))  # fmt: skip
    tip, most = abs(float(own.bend[-1])), design.loads.tip * half.half_span
    share = Measured(half.skin_share, "fraction", 0)
    reason = say("Worst: " + own.words[own.worst] + ". The skins give {} of the stiffness" + (
        " and no strength: the seat cuts them." if half.spar_here.any() else "."), share)  # fmt: skip
    yield Finding(key, "settled", "structure", text, reason, (), ("structure.wing_share",))
    if tip > most * (1 + 1e-9):
        yield Finding(
            "structure.tip" if index == found.main else f"structure.tip.{design.surfaces[index].id}",
            "look",
            "structure",
            say("The tips bend up {} in a pull of {}.", Measured(tip, "length"), Measured(found.factor, "factor")),
            say("{} of the half span is wished at most: {}.", Measured(design.loads.tip, "fraction", 0),
                Measured(most, "length")),
            partial(stock_ways, design, report, index),
            ("structure.tip_limit",),
        )  # fmt: skip


def _unknown(design: Design, report: Report, index: int) -> Iterator[Finding]:
    surface = design.surfaces[index]
    why = why_not(surface)
    ways: list[Remedy] = []
    path = f"surfaces[{index}]"
    if why == NOT_KNOWN and surface.built is not None:
        known = {material.name: material for material in stock_of(report) if bears_in_bending(material)}
        if all(spar.modulus is not None or spar.material in known for spar in surface.built.spars):
            spars = tuple(
                spar if spar.modulus is not None and spar.strength is not None else of_stock(spar, known[spar.material])
                for spar in surface.built.spars
            )
            built = surface.built.model_copy(update={"spars": spars})
            ways.append(Remedy("known_stock", say("Take its constants from the shelf"),
                               changed_part(design, path, {"built": built})))  # fmt: skip
    if why == NOT_BUILT:
        plain = first_build(surface, design.brief)
        ways.append(Remedy("say_built", say("Say it is built as the Brief would: " + plain.form.replace("_", " ")),
                           changed_part(design, path, {"built": plain})))  # fmt: skip
    yield Finding(
        "structure.unknown",
        "settled",
        "structure",
        say(f"What {surface.name} bears is not known."),
        say(why[0].upper() + why[1:] + "."),
        tuple(ways),
    )


def _pull(design: Design, report: Report, found: Bearing) -> Iterator[Finding]:
    """Say what a full pull at top speed reaches, against what the wing bears."""
    own = found.borne[found.main]
    stall, top = report.value("speed.stall"), report.value("speed.max")
    if own is None or found.pull is None or stall is None or top is None or found.pull <= found.factor:
        return
    bears = found.factor / max(float(own.share[0].max()), 1e-6)
    held = bears >= found.pull
    level: Level = "settled" if held or design.loads.factor is not None else "look"
    reason = (
        say("{} over {}, squared; the wing bears {}.", Measured(top, "speed", bare=True), Measured(stall, "speed"),
            Measured(bears, "factor"))
        if held
        else say("{} over {}, squared; {} comes at {}: no full pull above that.", Measured(top, "speed", bare=True),
                 Measured(stall, "speed"), Measured(found.factor, "factor"),
                 Measured(stall * math.sqrt(found.factor), "speed"))
    )  # fmt: skip
    yield Finding(
        "structure.pull",
        level,
        "structure",
        say("A full pull at top speed makes {}.", Measured(found.pull, "factor")),
        reason,
        partial(_ways_of_pull, design, report, found) if level == "look" else (),
        ("structure.load_factor", "speed.max", "speed.stall"),
    )


def _ways_of_pull(design: Design, report: Report, found: Bearing) -> Iterator[Remedy]:
    """Yield stock that bears a full pull at top speed, and to keep to what it is built to."""
    assert found.pull is not None
    yield from stock_ways(design, report, found.main, found.pull / found.factor)
    words = say("Keep it at {}: heed that speed", Measured(found.factor, "factor"))
    yield Remedy("heed", words, (Change("loads.factor", round(found.factor, 1)),))
