"""Ways out with braces: the lightest struts or thread from a wing to the body that let the spar it has bear."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.design.drag_items import DragItem
from ridgeline.design.fastening import Fastening
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.spar_ways import stock_of
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Remedy, Report
from ridgeline.engine.results import given
from ridgeline.engine.structure.bracing import drop_of
from ridgeline.engine.structure.fastened import stronger
from ridgeline.engine.structure.stock import bears_in_bending

#: Struts and threads meet the wing this far out, of the half span, and are at least so steep to it, the sine (chosen:
#: flatter ones pull hard and hold little).
_OUT, _STEEP = 0.5, 0.2
#: Sizes of a thread that are tried, m, and what it weighs, kg/m³ (polyester).
_THREADS, _POLYESTER = (0.0003, 0.0005, 0.0008, 0.0012), 1380.0
#: So many stocks are tried as struts, the lightest first; a brace comes to this share of what it bears.
_TRIED, _TO = 8, 0.97
#: The place of a brace along the chord.
_CHORD = 0.3


def brace_ways(design: Design, report: Report, index: int) -> Iterator[Remedy]:
    """Offer struts, and a thread where the wing stands high enough, that let a wing bear with the spar it has.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    index : int
        Of the surface.

    Yields
    ------
    Remedy
        None for a wing that is braced, stands on no body or too near its foot.
    """
    surface = design.surfaces[index]
    body = next((b for b in design.bodies if b.kind == "fuselage" and not b.mirrored), None)
    held, half = report.results.fastened, report.results.beams[index]
    if body is None or held is None or half is None or not surface.mirrored:
        return
    if any(surface.id in (one.of, one.to) for one in design.fastenings if one.kind in ("strut", "thread")):
        return
    out = round(half.seat + _OUT * (float(half.y[-1]) - half.seat), 3)
    foot = round(half.seat, 3)
    plain = Fastening(kind="strut", name="Wing struts", of=surface.id, to=body.id, out=out, foot=foot)
    drop = drop_of(plain, design.surfaces, design.bodies)
    if drop is None or abs(drop) < _STEEP * math.hypot(drop, out - foot):
        return
    long = math.hypot(drop, out - foot)
    stocks = sorted(
        (one for one in stock_of(report) if bears_in_bending(one) and not one.width and not one.yields),
        key=lambda one: one.constant,
    )
    for stock in stocks[:_TRIED]:
        sized = {"size": stock.thickness, "inner": stock.inner, "modulus": stock.modulus, "bears": stock.strength}
        way = _way(
            design, report, index, plain.model_copy(update=sized), long, stock.constant, f"Struts of {stock.name}"
        )
        if way is not None:
            yield way
            break
    for size in _THREADS if drop > 0 else ():
        thread = plain.model_copy(update={"kind": "thread", "name": "Tension thread", "size": size})
        linear = _POLYESTER * math.pi / 4 * size**2
        way = _way(design, report, index, thread, long, linear, "A thread of {} below it")
        if way is not None:
            yield way
            break


def _way(
    design: Design, report: Report, index: int, brace: Fastening, long: float, linear: float, words: str
) -> Remedy | None:
    """Return the edit that adds a brace, its pads as large as they must be; None where the wing or it would give."""
    trial = report.trial()
    numbered = brace.model_copy(update={"id": "brace"})
    held = trial.result(apply(design, (Change("fastenings[-]", numbered),)), "fastened")
    able = stronger(numbered, given(held).doing, _TO)
    if able is None or (able.size, able.count) != (brace.size, brace.count):
        return None
    changes = _changes(design.surfaces[index], able.model_copy(update={"id": ""}), long, linear)
    after = given(trial.result(apply(design, changes), "bearing"))
    own = after.borne[index]
    if own is None or own.greatest > 1:
        return None
    bears, gain = Measured(after.factor / max(own.greatest, 1e-6), "factor"), mass_gained(design, report, changes)
    size = [Measured(brace.size, "length", 1)] if "{}" in words else []
    return Remedy(
        brace.kind, say(words + ": bears {}, {} more", *size, bears, Measured(gain, "mass", 1)), tuple(changes)
    )


def _changes(surface: Surface, brace: Fastening, long: float, linear: float) -> tuple[Change, ...]:
    """Return the edits that add a brace with its mass and what it is in the wind."""
    middle = 0.5 * (brace.out + brace.foot)
    item = Item(
        name=brace.name,
        group="structure",
        basis="stock",
        count=2 * brace.count,
        mirrored=True,
        x=surface.x + _CHORD * surface.stations[0].chord,
        y=middle,
        z=surface.z,
        estimate=linear * long,
    )
    wind = DragItem(name=brace.name, kind="wire", count=2 * brace.count, length=long, width=max(brace.size, 1e-4))
    return (
        Change("fastenings[-]", brace),
        Change("parts[-]", item),
        Change("drag_items[-]", wind),
    )
