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
from ridgeline.engine.sizing.forms import FORM_OF, resectioned, thickness_of
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.engine.structure.choosing import Question, answers, fitted, question_of, reaching, with_spar_of
from ridgeline.engine.structure.half import half_of
from ridgeline.engine.structure.sleeves import Sleeve, sleeves, spar_strength
from ridgeline.engine.structure.stepped import stepped, steps_of
from ridgeline.engine.structure.stock import Tried

#: A spar makes the aircraft heavier, and it must bear that too: this is kept beside what its own mass asks.
_KEPT = 1.005
#: So many stocks are tried on a braced wing, each with its braces (chosen).
_BRACED_TRIES = 24
#: A spar in two steps is work: it is offered where it saves this share of the one in one piece (chosen).
_STEP_SAVES = 0.10
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


def lightest(asked: Question, stock: Sequence[Material], mass: float, *, made: bool = True) -> Tried | None:
    """Return the lightest stock that holds with the weight it brings, kg of the whole aircraft; None without one."""
    for tried in answers(asked, stock, made=made):
        if not tried.holds:
            return None
        more = _KEPT * (1 + tried.mass / max(mass, 1e-6))
        if tried.share * more <= 1 and abs(tried.tip) * more <= asked.most_tip:
            return tried
    return None


def fitting(design: Design, index: int, asked: Question, tried: Tried) -> tuple[Change, ...]:
    """Return the edits that give a surface a spar of a stock that was tried; its items follow."""
    return with_spars(design, index, with_spar_of(design.surfaces[index], asked.which, *fitted(asked, tried)))


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


def called(name: str, number: int, *, apart: bool = False) -> str:
    """Return what a stock is called: "2 × Carbon rod 3 mm", and where ``apart`` "Carbon rod 3 mm, front and rear"."""
    if apart:
        return f"{name}, front and rear"
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
    asked = reaching(asked)
    found = given(report.results.bearing)
    if any(end.half == index for brace in found.braced.braces for end in brace.ends):
        tried, share = _braced(design, report, index, asked, times)
    else:
        tried = lightest(asked, stock_of(report), state.mass)
        share = 1.0 if tried is None else _share(design, index, asked, tried)
    if tried is None:
        return ()
    changes = fitting(design, index, asked, tried)
    factor = times * found.factor / share
    words = f"{called(tried.material.name, tried.number, apart=tried.apart)}: bears {{}}, "
    bears, gain = Measured(factor, "factor"), spar_gain(design, report, index, changes)
    if abs(gain) < _NO_HEAVIER:
        return (Remedy("stock", say(words + "as heavy as now", bears), changes),)
    more = Measured(abs(gain), "mass", 1)
    return (Remedy("stock", say(words + f"{{}} {'more' if gain > 0 else 'less'}", bears, more), changes),)


def stepped_way(design: Design, report: Report, index: int) -> Remedy | None:
    """Offer a spar in two steps, where it weighs clearly less than the lightest in one.

    Parameters
    ----------
    design : Design
    report : Report
    index : int
        Of the surface.

    Returns
    -------
    Remedy or None
    """
    asked, state = question(design, report, index), given(report.results.masses.state)
    if asked is None or asked.start > 0:
        return None
    asked = reaching(asked)
    whole, found = lightest(asked, stock_of(report), state.mass), stepped(asked, stock_of(report))
    if found is None or (whole is not None and whole.mass - found.mass < max(_STEP_SAVES * whole.mass, _NO_HEAVIER)):
        return None
    spars = with_spar_of(design.surfaces[index], asked.which, *steps_of(asked, found))
    changes = with_spars(design, index, spars)
    out = Measured(found.step * asked.half.half_span + float(asked.half.y[0]), "length")
    gain = spar_gain(design, report, index, changes)
    words = f"{found.inner.name} to {{}}, then {found.outer.name}: {{}} {'more' if gain > 0 else 'less'}"
    return Remedy("stepped", say(words, out, Measured(abs(gain), "mass", 1)), changes)


def _braced(design: Design, report: Report, index: int, asked: Question, times: float) -> tuple[Tried | None, float]:
    """Return the lightest stock that bears a braced wing, and its share: a stiffer spar leaves its braces less."""
    trial = report.trial()
    for tried in answers(asked, stock_of(report))[:_BRACED_TRIES]:
        if not tried.fits:
            continue
        after = trial.result(apply(design, fitting(design, index, asked, tried)), "bearing")
        own = None if after is None else after.borne[index]
        if own is not None and times * own.greatest <= 1:
            return tried, times * max(own.greatest, 1e-6)
    return None, 1.0


def _share(design: Design, index: int, asked: Question, tried: Tried) -> float:
    """Return what the loads come to over what the surface bears with another spar, skins beyond it and all."""
    surface = design.surfaces[index]
    assert surface.built is not None
    spars = with_spar_of(surface, asked.which, *fitted(asked, tried))
    built = surface.built.model_copy(update={"spars": spars})
    half = given(half_of(surface.model_copy(update={"built": built}), asked.half.seat))
    moment = np.interp(half.y, asked.half.y, asked.greatest)
    return max(float((moment / half.bears).max()), 1e-6)


def joiners(design: Design, report: Report, index: int, *, broken: bool) -> tuple[Sleeve, ...]:
    """Return what joins the main spar of a surface in its middle, or mends it to all it may carry, the lightest first.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    index : int
        Of the surface.
    broken : bool
        Mended where it broke: the loads there are not known, so that it is to bear all the spar could.

    Returns
    -------
    tuple of Sleeve
        None without a spar.
    """
    found, asked = report.results.bearing, question(design, report, index)
    own = None if found is None else found.borne[index]
    if asked is None or asked.which is None or own is None:
        return ()
    spar = asked.half.spars[asked.which]
    moment = spar_strength(spar) if broken else float(asked.greatest[asked.half.at_seat])
    return sleeves(spar, stock_of(report), moment, float(np.abs(own.shear).max()))


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
    if surface.built is None or FORM_OF.get(surface.section) != "plate" or asked is None or found is None:
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
    fresh = reaching(question_of(half, moment, shear, 1.0))
    # It lifts as it did, and weighs more: the loads of a tail come of air alone.
    tried = next((one for one in answers(fresh, stock_of(report)) if one.holds), None)
    if tried is not None and np.any(fresh.greatest > half.bears):
        assert built.built is not None
        fields = {**fields, "built": built.built.model_copy(
            update={"spars": with_spar_of(built, fresh.which, *fitted(fresh, tried))})}  # fmt: skip
    elif np.any(fresh.greatest > half.bears):
        return ()
    changes = changed_part(design, f"surfaces[{index}]", fields)
    gain = mass_gained(design, report, changes)
    words = say(f"{{}} hollow, {{}} thick: {{}} {'more' if gain >= 0 else 'less'}",
                surface.name, Measured(built.thickness, "length", 0), Measured(abs(gain), "mass", 1))  # fmt: skip
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
    # A layout takes what every shop has: strips of board and channels are for who asks for them.
    bought = [material for material in stock if not material.sides]
    for index in range(len(design.surfaces)):
        asked = question(design, report, index)
        if asked is None:
            continue
        asked = reaching(asked)
        tried = lightest(asked, bought, state.mass, made=False)
        if index == found.main and found.pull is not None and found.pull > found.factor and tried is not None:
            # It need not bend less then.
            harder = asked._replace(greatest=found.pull / found.factor * asked.greatest)
            stronger = lightest(harder, bought, state.mass, made=False)
            if stronger is not None and stronger.mass - tried.mass <= _FEW * state.mass:
                tried = stronger
        if tried is not None and _differs(design.surfaces[index], asked, tried):
            design = apply(design, fitting(design, index, asked, tried))
    return design


def _differs(surface: Surface, asked: Question, tried: Tried) -> bool:
    if asked.which is None:
        return bool(np.any(asked.greatest > asked.half.bears))
    assert surface.built is not None
    return (surface.built.spars[asked.which],) != fitted(asked, tried)
