"""Findings on what was flown: entries that cannot be, packs that age, measured against predicted, repairs to weigh."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, all_idents, references
from ridgeline.design.parts import Hung, Item
from ridgeline.design.paths import Change
from ridgeline.engine.advice.flown_drag import learnt_from, taken_back, taken_in
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.battery import Told
from ridgeline.engine.flight.entries import Doubt
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.stages.logged import Logged

#: A pack that resists so much more than at first sags early (handbook §8: 1.5 to 2 times is old).
_AGED, _OLD = 1.3, 1.6
#: Of doubted flights so many are told at once, the latest first; of slips so many are offered.
_MOST, _OFFERED = 3, 2
#: A drag that differs by less than this from the reckoned one is not worth taking in.
_SAME_DRAG = 0.02


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the log."""
    logged = report.results.logged
    for place in sorted(logged.doubts, reverse=True)[:_MOST]:
        yield _doubted(design, logged, place, logged.doubts[place][0])
    yield from _packs(logged)
    yield from _speed(design, report)
    yield from _repairs(design)


def _doubted(design: Design, logged: Logged, place: int, doubt: Doubt) -> Finding:
    flight, key = logged.rows[place].flight, f"flights.doubt.{logged.rows[place].flight.id}"
    name = f"Flight {place + 1}"
    if doubt.kind == "current":
        words = say(f"{name} cannot be: {{}} in {{}}.", Measured(flight.put_back_ah or 0.0, "capacity"),
                    Measured(flight.aloft or 0.0, "flight_time"))  # fmt: skip
        why = say("That is {}; full throttle takes {} ± {}.", Measured(doubt.told, "current"),
                  Measured(doubt.most, "current", bare=True), Measured(BAND * doubt.sigma, "current"))  # fmt: skip
        return Finding(key, "look", "flights", words, why, tuple(_slips(logged, place)), ("power.static_current",))
    if doubt.kind == "capacity":
        words = say(f"{name} cannot be: {{}} went into a pack of {{}}.", Measured(doubt.told, "capacity"),
                    Measured(doubt.most, "capacity"))  # fmt: skip
        why = say("Another pack, two charges in one, or a digit too many.")
        return Finding(key, "look", "flights", words, why, tuple(_ten_times_less(flight, place)))
    if doubt.kind == "speed":
        words = say(f"{name} cannot be: {{}} in level flight.", Measured(doubt.told, "speed"))
        why = say("Anything over {} is a dive, a tail wind, or another length between the marks.",
                  Measured(doubt.most, "speed"))  # fmt: skip
        return Finding(key, "look", "flights", words, why, (), ("speed.max",))
    words = say(f"{name}: {{}} left by the charger, {{}} by the rested cells.",
                Measured(doubt.told, "fraction", 0), Measured(doubt.most, "fraction", 0))  # fmt: skip
    why = say("The pack was not full when it flew, had not rested, or holds less than is written on it.")
    return Finding(key, "settled", "flights", words, why)


def _slips(logged: Logged, place: int) -> Iterator[Remedy]:
    """Offer what was more likely meant, one for each of the two numbers."""
    row, offered = logged.rows[place], set[str]()
    for slip in logged.slips(place):
        if slip.field in offered or len(offered) == _OFFERED or row.mean is None:
            continue
        offered.add(slip.field)
        quantity = "capacity" if slip.field == "put_back_ah" else "flight_time"
        words = say("Enter {}: mean {} → {}", Measured(slip.value, quantity),
                    Measured(row.mean.value, "current", bare=True), Measured(slip.current, "current"))  # fmt: skip
        yield Remedy(f"slip_{slip.field}", words, (Change(f"flights[{place}].{slip.field}", slip.value),))


def _ten_times_less(flight: Flight, place: int) -> Iterator[Remedy]:
    meant = round((flight.put_back_ah or 0.0) / 10, 4)
    changes = (Change(f"flights[{place}].put_back_ah", meant),)
    yield Remedy("slip_put_back_ah", say("Enter {}", Measured(meant, "capacity")), changes)


def _packs(logged: Logged) -> Iterator[Finding]:
    for pack, trend in logged.trends.items():
        share = trend.last / trend.first if trend.first > 0 else 1.0
        # A trend within its own scatter is none.
        certain = trend.each > BAND * trend.sigma
        level: Level = "look" if share > _OLD and certain else "settled"
        if share > _AGED and certain:
            words = say("Pack {} resists {} more than at first.", pack, Measured(share - 1, "fraction", 0))
            why = say("From {} to {} in " + f"{trend.readings} readings: it sags earlier, and gets warmer.",
                      Measured(trend.first, "resistance"), Measured(trend.last, "resistance"))  # fmt: skip
            yield Finding(f"flights.pack.{pack}", level, "flights", words, why)


def _speed(design: Design, report: Report) -> Iterator[Finding]:
    """Measured top speed against the predicted one, and what it says of the drag."""
    measured, reckoned = report.figures["log.top_speed"], report.figures["speed.max"]
    taken = design.learnt.drag_factor
    if taken is not None:
        words = say("Drag as flown: {} of what is reckoned.", Measured(taken, "ratio"))
        band = Measured(BAND * design.learnt.drag_sigma * taken, "ratio")
        why = say(f"Taken from {design.learnt.drag_from or 'flights'}, ± {{}}.", band)
        back = Remedy("drag_back", say("Take it back: drag as reckoned"), (taken_back(design),))
        yield Finding("flights.drag", "settled", "flights", words, why, (back,), ("speed.max",))
        return
    if measured.value is None or reckoned.value is None:
        return
    found = learnt_from(report, Told(measured.value, measured.sigma))
    gap = measured.value - reckoned.value
    error = math.hypot(measured.sigma, reckoned.sigma)
    words = say(f"It flies {{}}: {{}} {'faster' if gap > 0 else 'slower'} than predicted.",
                Measured(measured.value, "speed"), Measured(abs(gap), "speed"))  # fmt: skip
    bands = [Measured(BAND * one.sigma, "speed") for one in (reckoned, measured)]
    why = say("Predicted {} ± {}, measured ± {}.", Measured(reckoned.value, "speed", bare=True), *bands)
    ways: tuple[Remedy, ...] = ()
    if found is not None and found.drag_factor is not None and abs(found.drag_factor - 1) > _SAME_DRAG:
        told = say("Take it in: drag × {} ± {}", Measured(found.drag_factor, "ratio"),
                   Measured(BAND * found.drag_sigma * found.drag_factor, "ratio"))  # fmt: skip
        price = say("the rest may be thrust: a bench tells them apart")
        ways = (Remedy("drag_in", told, (taken_in(design, found),), price),)
    level: Level = "look" if abs(gap) > BAND * error else "settled"
    yield Finding("flights.speed", level, "flights", words, why, ways, ("log.top_speed", "speed.max"))


def _repairs(design: Design) -> Iterator[Finding]:
    """Offer to carry what a repair weighs: it flies along from then on."""
    known = {item.id for item in design.parts}
    for place, flight in enumerate(design.flights):
        if not flight.repair or flight.carried in known:
            continue
        ways = tuple(_added(design, flight, place))
        words = say(f"The repair after flight {place + 1} weighs {{}}.", Measured(flight.repair, "mass", 1))
        why = say("It is not among the weights yet." if ways else "Say which part was mended: it is weighed there.")
        yield Finding(f"flights.repair.{flight.id}", "look", "flights", words, why, ways, ("mass.auw",))


def _added(design: Design, flight: Flight, place: int) -> Iterator[Remedy]:
    on = _middle_of(design, flight.repaired)
    if on is None:
        return
    numbers = Numbers([*all_idents(design), *all_idents(design.aside), *references(design)])
    item = Item(
        id=numbers.fresh(KIND_OF["parts"].prefix),
        name=f"Repair after flight {place + 1}",
        group="adhesive",
        basis="adhesive",
        weighed=flight.repair,
        on=on[1],
    )
    words = say("Carry {} on {}", Measured(flight.repair or 0.0, "mass", 1), on[0])
    yield Remedy("repair_in", words, (Change("parts[-]", item), Change(f"flights[{place}].carried", item.id)))


def _middle_of(design: Design, ident: str) -> tuple[str, Hung] | None:
    """Return the name and the middle of a surface or body: which side of a pair was mended nobody said."""
    for surface in design.surfaces:
        if surface.id == ident:
            out = 0.0 if surface.mirrored else 0.5 * surface.stations[-1].y
            return surface.name, Hung(to=ident, out=out, share=0.5)
    for body in design.bodies:
        if body.id == ident and body.stations:
            return body.name, Hung(to=ident, back=(body.stations[0].x + body.stations[-1].x) / 2)
    return None
