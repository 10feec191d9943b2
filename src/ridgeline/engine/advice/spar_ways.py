"""Ways out with stock: the lightest spar that bears a surface's loads, solved by the search, with what it weighs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Spar
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.design.shelf import Material
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.geometry.placed import mean_chord_of
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Remedy, Report
from ridgeline.engine.results import given
from ridgeline.engine.sizing.building import RODS
from ridgeline.engine.sizing.forms import resectioned, thickness_of
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.engine.structure.choosing import Question, answers, fitted, question_of, shortest_end, with_spar_of
from ridgeline.engine.structure.half import half_of
from ridgeline.engine.structure.stock import Tried

#: A spar makes the aircraft heavier, and it must bear that too: this is kept beside what its own mass asks.
_KEPT = 1.005
#: Sections of flat tails.
_PLATES = ("rounded_plate", "sharp_plate")
#: Less than this is no change of weight, kg.
_NO_HEAVIER = 5e-5
#: A layout's wing bears a full pull at top speed where that weighs no more than this share of the aircraft (chosen).
_FEW = 0.01


def stock_of(report: Report) -> Sequence[Material]:
    """Return the stock that ways out may name: the shelf's, or the usual rods where the report has none."""
    return RODS if report.shelf is None else report.shelf.materials


def question(design: Design, report: Report, index: int, times: float = 1.0) -> Question | None:
    """Return what the main spar of a surface has to do; None where it cannot be judged.

    Parameters
    ----------
    design : Design
    report : Report
    index : int
        Of the surface.
    times : float
        The cases' loads over those of the design.

    Returns
    -------
    Question or None
    """
    found, half = report.results.bearing, report.results.beams[index]
    own = None if found is None else found.borne[index]
    if half is None or own is None:
        return None
    tip = design.loads.tip if design.surfaces[index].role == "wing" else 1.0
    return question_of(half, times * own.moment, times * own.shear, tip)


def lightest(asked: Question, stock: Sequence[Material], mass: float) -> Tried | None:
    """Return the lightest stock that holds with the weight it brings, kg of the whole aircraft; None without one."""
    for tried in answers(asked, stock):
        if not tried.holds:
            return None
        more = _KEPT * (1 + tried.mass / max(mass, 1e-6))
        if tried.share * more <= 1 and abs(tried.tip) * more <= asked.most_tip:
            return tried
    return None


def fitting(design: Design, index: int, asked: Question, tried: Tried) -> tuple[Change, ...]:
    """Return the edits that give a surface a spar of a stock that was tried; its items follow."""
    return with_spars(design, index, with_spar_of(design.surfaces[index], asked.which, fitted(asked, tried)))


def with_spars(design: Design, index: int, spars: tuple[Spar, ...]) -> tuple[Change, ...]:
    """Return the edits that give a surface other spars; what was weighed of them was of others, and goes."""
    surface = design.surfaces[index]
    assert surface.built is not None
    changes = changed_part(design, f"surfaces[{index}]", {"built": surface.built.model_copy(update={"spars": spars})})
    return tuple(found for change in changes for found in _of_spars(change, surface.id))


def _of_spars(change: Change, ident: str) -> Iterator[Change]:
    """Yield an edit, of items only that of the spars: what was learnt of the others stays."""
    item = change.value
    if not isinstance(item, Item):
        yield change
    elif _is_spars(item, ident):
        yield Change(change.path, item.model_copy(update={"weighed": None}))


def _is_spars(item: Item, ident: str) -> bool:
    return item.build is not None and item.build.of == ident and item.build.pieces == "spars"


def spar_gain(design: Design, report: Report, index: int, changes: tuple[Change, ...]) -> float:
    """Return what edits of a surface's spars add to the aircraft, kg: their items after less their items before."""
    ident = design.surfaces[index].id
    masses = report.results.masses.expected
    before = sum(float(m) for item, m in zip(design.parts, masses, strict=True) if _is_spars(item, ident))
    fresh = [c.value for c in changes if isinstance(c.value, Item) and _is_spars(c.value, ident)]
    return sum(item.count * (item.estimate or 0.0) for item in fresh) - before


def called(name: str, number: int) -> str:
    """Return what a stock is called: "2 × Carbon rod 3 mm"."""
    return name if number == 1 else f"{number} × {name}"


def stock_ways(design: Design, report: Report, index: int, times: float = 1.0) -> tuple[Remedy, ...]:
    """Offer the lightest stock that bears a surface, where it stands and, if the skins ask for it, longer.

    Parameters
    ----------
    design : Design
    report : Report
    index : int
        Of the surface.
    times : float
        The cases' loads over those of the design.

    Returns
    -------
    tuple of Remedy
    """
    asked, state = question(design, report, index, times), given(report.results.masses.state)
    if asked is None:
        return ()
    end = shortest_end(asked)
    if end > asked.end:
        asked = asked._replace(end=end)
    tried = lightest(asked, stock_of(report), state.mass)
    if tried is None:
        return ()
    changes = fitting(design, index, asked, tried)
    factor = times * given(report.results.bearing).factor / _share(design, index, asked, tried)
    words = f"{called(tried.material.name, tried.number)}: bears {{}}, "
    bears, gain = Measured(factor, "factor"), spar_gain(design, report, index, changes)
    if abs(gain) < _NO_HEAVIER:
        return (Remedy("stock", say(words + "as heavy as now", bears), changes),)
    more = Measured(abs(gain), "mass", 1)
    return (Remedy("stock", say(words + f"{{}} {'more' if gain > 0 else 'less'}", bears, more), changes),)


def _share(design: Design, index: int, asked: Question, tried: Tried) -> float:
    """Return what the loads come to over what the surface bears with another spar, skins beyond it and all."""
    surface = design.surfaces[index]
    assert surface.built is not None
    spars = with_spar_of(surface, asked.which, fitted(asked, tried))
    built = surface.built.model_copy(update={"spars": spars})
    half = given(half_of(surface.model_copy(update={"built": built}), asked.half.seat))
    moment = np.interp(half.y, asked.half.y, asked.greatest)
    return max(float((moment / half.bears).max()), 1e-6)


def hollow_way(design: Design, report: Report, index: int) -> tuple[Remedy, ...]:
    """Offer to build a tail that no stock can hold hollow, with ribs and the lightest spar that holds it then.

    Parameters
    ----------
    design : Design
    report : Report
    index : int
        Of the surface.

    Returns
    -------
    tuple of Remedy
    """
    surface, found, asked = design.surfaces[index], report.results.bearing, question(design, report, index)
    if surface.built is None or surface.section not in _PLATES or asked is None or found is None:
        return ()
    thick = thickness_of("symmetrical", mean_chord_of(surface), surface.sheet)
    fields = {**resectioned(surface, "symmetrical"), "thickness": round(thick, 4)}
    built = surface.model_copy(update=fields)
    half = half_of(built, asked.half.seat)
    if half is None:
        return ()
    own = given(found.borne[index])
    moment, shear = (
        np.array([np.interp(half.y, asked.half.y, row) for row in rows]) for rows in (own.moment, own.shear)
    )
    fresh = question_of(half, moment, shear, 1.0)
    fresh = fresh._replace(end=max(fresh.end, shortest_end(fresh)))
    # It lifts as it did, and weighs more: the loads of a tail come of air alone.
    tried = next((one for one in answers(fresh, stock_of(report)) if one.holds), None)
    if tried is not None and np.any(fresh.greatest > half.bears):
        assert built.built is not None
        fields = {**fields, "built": built.built.model_copy(
            update={"spars": with_spar_of(built, fresh.which, fitted(fresh, tried))})}  # fmt: skip
    elif np.any(fresh.greatest > half.bears):
        return ()
    changes = changed_part(design, f"surfaces[{index}]", fields)
    gain = mass_gained(design, report, changes)
    words = say(f"{surface.name} hollow, {built.thickness * 1e3:.0f} mm thick: {{}} {'more' if gain >= 0 else 'less'}",
                Measured(abs(gain), "mass", 1))  # fmt: skip
    return (Remedy("hollow", words, changes),)


def with_sized_spars(design: Design, report: Report, stock: Sequence[Material]) -> Design:
    """Return a design whose surfaces have the lightest spars that bear them; those whose skins bear alone get none.

    A wing's also bears a full pull at top speed, where that asks for few grams more.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    stock : sequence of Material

    Returns
    -------
    Design
    """
    state, found = report.results.masses.state, report.results.bearing
    if state is None or found is None:
        return design
    for index in range(len(design.surfaces)):
        asked = question(design, report, index)
        if asked is None:
            continue
        asked = asked._replace(end=max(asked.end, shortest_end(asked)))
        tried = lightest(asked, stock, state.mass)
        if index == found.main and found.pull is not None and found.pull > found.factor and tried is not None:
            # It need not bend less then.
            harder = asked._replace(greatest=found.pull / found.factor * asked.greatest)
            stronger = lightest(harder, stock, state.mass)
            if stronger is not None and stronger.mass - tried.mass <= _FEW * state.mass:
                tried = stronger
        if tried is not None and _differs(design.surfaces[index], asked, tried):
            design = apply(design, fitting(design, index, asked, tried))
    return design


def _differs(surface: Surface, asked: Question, tried: Tried) -> bool:
    if asked.which is None:
        return bool(np.any(asked.greatest > asked.half.bears))
    assert surface.built is not None
    return surface.built.spars[asked.which] != fitted(asked, tried)
