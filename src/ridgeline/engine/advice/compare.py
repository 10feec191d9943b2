"""Sets side by side, and what is swapped between two of them: old part, new part, and what the swap does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.configurations import Part, fit, name_of
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.power import Motor, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.report import Report, Trial

#: A shaft or hole this much off does not fit, m; a pack may fill its bay to the last half millimetre.
_CLEAR = 5e-5


@dataclass(frozen=True)
class FittedSet:
    """One set evaluated: its id and name, the design with it fitted, its report, and the verdict on its balance."""

    ident: str
    name: str
    design: Design
    report: Report
    level: str
    verdict: str


def compare(design: Design, report: Report) -> tuple[FittedSet, ...]:
    """Evaluate every set of a design; one without sets is a set of one.

    Parameters
    ----------
    design : Design
    report : Report
        Of the fitted set.

    Returns
    -------
    tuple of FittedSet
        In the order of the sets.
    """
    trial = report.trial()
    if not design.configurations:
        return (_fitted(design, trial),)
    return tuple(_fitted(fit(design, one.id), trial) for one in design.configurations)


def _fitted(design: Design, trial: Trial) -> FittedSet:
    report = trial(design)
    stops = [f for f in report.findings if f.level == "stop"]
    looks = [f for f in report.findings if f.level == "look"]
    level = "stop" if stops else ("look" if looks else "settled")
    worst = next(iter(stops or looks), None)
    more = len(stops) + len(looks) - 1
    words = "nothing to look at" if worst is None else worst.key
    name = name_of(design, design.fitted)
    return FittedSet(design.fitted, name, design, report, level, words if more < 1 else f"{words}, {more} more")


Link = Motor | SpeedController | Pack | Propeller


@dataclass(frozen=True)
class Swapped:
    """One part exchanged between two sets. ``old`` or ``new`` is None where one set flies without.

    ``mass`` is the change of all pieces, kg, None for shapes, whose mass their items carry; ``moment`` kg m about the
    datum; ``current`` the change of its rating, A; ``fit`` says what has to fit, ``fits`` whether it does, None when
    that is not known.
    """

    old: Part | Link | None
    new: Part | Link | None
    mass: float | None
    moment: float | None
    current: float | None
    fit: Phrase
    fits: bool | None


def swapped(one: FittedSet, other: FittedSet) -> tuple[Swapped, ...]:
    """Return what is exchanged going from one set to another, heaviest change first.

    Parameters
    ----------
    one, other : FittedSet

    Returns
    -------
    tuple of Swapped
    """
    links = {_link_of(swap): swap for swap in _links(one.design.power, other.design.power)}
    found = [_with_link(swap, links) for swap in _items(one, other)]
    found.sort(key=lambda s: -abs(s.mass or 0.0))
    return (*found, *links.values(), *_shapes(one.design, other.design))


def _link_of(swap: Swapped) -> str:
    """Return which link of a train is exchanged; "" for the train as a whole."""
    kinds = {Motor: "motor", SpeedController: "esc", Pack: "pack", Propeller: "propeller"}
    return kinds.get(type(swap.new if swap.new is not None else swap.old), "")  # type: ignore[arg-type]


def _with_link(swap: Swapped, links: dict[str, Swapped]) -> Swapped:
    """Return the exchange of a link with the mass of the item that carries it: each is told once."""
    item = swap.new if swap.new is not None else swap.old
    link = links.pop(item.component or "", None) if isinstance(item, Item) and item.component else None
    if link is None:
        return swap
    fit = swap.fit if swap.fit.template else link.fit
    if swap.fit.template and link.fit.template:
        fit = say(f"{swap.fit.template}; {link.fit.template}", *swap.fit.values, *link.fit.values)
    fits = link.fits if swap.fits is None else (swap.fits if link.fits is None else swap.fits and link.fits)
    return replace(link, mass=swap.mass, moment=swap.moment, fit=fit, fits=fits)


def _item_rows(fitted: FittedSet) -> dict[str, tuple[Item, float]]:
    masses = fitted.report.results.masses.items.mass
    return {part.id: (part, float(m)) for part, m in zip(fitted.design.parts, masses, strict=True)}


def _items(one: FittedSet, other: FittedSet) -> Iterator[Swapped]:
    """Yield items that differ: versions of one item, or of one link, or what comes and goes."""
    old, new = _item_rows(one), _item_rows(other)
    gone = [name for name in old if name not in new]
    come = [name for name in new if name not in old]
    for name in [n for n in old if n in new]:
        (a, ma), (b, mb) = old[name], new[name]
        if a.model_copy(update={"sets": ()}) != b.model_copy(update={"sets": ()}) or abs(ma - mb) > 1e-9:
            yield _item_swap(a, ma, b, mb)
    for name in gone:
        a, ma = old[name]
        like = next((n for n in come if _same_task(a, new[n][0])), None)
        if like is None:
            yield _item_swap(a, ma, None, 0.0)
        else:
            come.remove(like)
            yield _item_swap(a, ma, *new[like])
    for name in come:
        yield _item_swap(None, 0.0, *new[name])


def _same_task(one: Item, other: Item) -> bool:
    return one.group == other.group and one.component == other.component


def _item_swap(old: Item | None, old_mass: float, new: Item | None, new_mass: float) -> Swapped:
    moment = (new.x * new_mass if new else 0.0) - (old.x * old_mass if old else 0.0)
    fits, words = None, say("")
    if new is not None and new.rail is not None:
        room = new.rail.back - new.rail.front
        fits, words = (
            True,
            say("{} long in a bay of {}", *(Measured(v, "length") for v in (new.rail.item_length, room))),
        )
    return Swapped(old, new, new_mass - old_mass, moment, None, words, fits)


def _links(old: PowerTrain | None, new: PowerTrain | None) -> Iterator[Swapped]:
    """Yield motors, ESCs, packs and propellers that differ, with what must fit."""
    if old is None or new is None:
        if old is not new:
            yield Swapped(old, new, None, None, None, say("the power train as a whole"), None)
        return
    for link in ("motor", "esc", "pack", "propeller"):
        a, b = getattr(old, link), getattr(new, link)
        if a != b:
            yield swap_of(a, b, new)


def swap_of(old: Link, new: Link, train: PowerTrain) -> Swapped:
    """Compare an old and a new link of a power train: mass, rated current, and what has to fit."""
    current = None
    if isinstance(old, Motor | SpeedController) and isinstance(new, Motor | SpeedController):
        current = new.max_current - old.max_current
    fits, words = _fits(old, new, train)
    return Swapped(old, new, mass_of(new) - mass_of(old), None, current, words, fits)


def _fits(old: object, new: object, train: PowerTrain) -> tuple[bool | None, Phrase]:
    if isinstance(new, Motor) and isinstance(old, Motor):
        return _motor_fits(old, new)
    if isinstance(new, Propeller):
        shaft, bore = train.motor.shaft, new.bore
        if not shaft or not bore:
            return None, say("measure shaft and bore")
        sizes = (Measured(bore, "length", 1), Measured(shaft, "length", 1))
        if abs(bore - shaft) <= _CLEAR:
            return True, say("bore {} on a shaft of {}", *sizes)
        # A larger bore takes a collar; a smaller one is no reason to drill a hub.
        told = "bore {} over a shaft of {}: collar" if bore > shaft else "bore {} under the shaft of {}"
        return bore > shaft, say(told, *sizes)
    if isinstance(new, Pack):
        cells = min(train.esc.max_cells, train.motor.max_cells)
        return new.cells <= cells, say(f"{new.cells} cells; ESC and motor take {cells}")
    if isinstance(new, SpeedController):
        cells = train.pack.cells
        return cells <= new.max_cells, say(f"takes {new.max_cells} cells; the pack has {cells}")
    return None, say("")


def _motor_fits(old: Motor, new: Motor) -> tuple[bool | None, Phrase]:
    if not old.bolt_circle or not new.bolt_circle:
        return None, say("measure the mounting holes")
    sizes = (Measured(new.bolt_circle, "length", 0), Measured(old.bolt_circle, "length", 0))
    if abs(new.bolt_circle - old.bolt_circle) <= 5e-4:
        return True, say("holes on {}, as before", sizes[0])
    return False, say("holes on {}, the mount has {}", *sizes)


def _shapes(one: Design, other: Design) -> Iterator[Swapped]:
    """Yield surfaces, bodies and wheels that differ."""
    for kind in ("surfaces", "bodies", "wheels"):
        old = {part.id: part for part in getattr(one, kind)}
        new = {part.id: part for part in getattr(other, kind)}
        for ident in [*old, *(n for n in new if n not in old)]:
            a, b = old.get(ident), new.get(ident)
            if _bare(a) != _bare(b):
                yield Swapped(a, b, None, None, None, _shape_words(a, b), None)


def _bare(part: Surface | Body | Wheel | None) -> object:
    return None if part is None else part.model_copy(update={"sets": ()})


def _shape_words(old: object, new: object) -> Phrase:
    if isinstance(old, Surface) and isinstance(new, Surface):
        spans = [Measured((2 if s.mirrored else 1) * s.stations[-1].y, "length") for s in (old, new)]
        return say("{} → {} from tip to tip", *spans)
    return say("comes off") if new is None else (say("goes on") if old is None else say("other shape"))
