"""The list a model is set up by before it flies: made from what it has, in the order it is done."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from hashlib import sha1
from typing import Any, Literal, NamedTuple

import numpy as np
from pydantic import BaseModel

from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.design.fastening import FasteningKind
from ridgeline.engine.advice.benched import Benched, benched, stands
from ridgeline.engine.advice.linkage_edits import called
from ridgeline.engine.bands import BAND
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.register import CONTROL_DOWN, CONTROL_UP
from ridgeline.engine.report import Report
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.weights.rollup import MassState
from ridgeline.engine.weights.without import without

State = Literal["open", "done", "again", "wrong"]
#: A throw may be off by this, rad, or this share of itself, before it is set again (chosen: a degree is seen).
_THROW, _THROW_SHARE = 0.0175, 0.10
#: A pack is charged from this voltage a cell on, and no cell holds more than this, V.
_CHARGED, _FULL = 4.1, 4.25
#: The balance may be off by this besides its band, m (a finger and a mark); a wing that hangs by this is not level, m.
_FINGER, _LEVEL = 0.002, 0.003
#: Of the reckoned time the timer of a first flight rings after this share.
_TIMER = 0.5
#: Full throttle may take this share more or less than predicted on top of its band before it is looked into.
_CURRENT_SHARE = 0.05


class Line(NamedTuple):
    """One line of the list.

    ``key`` and ``of`` (the id of a part, where there are several) name it; ``told`` is what is wished beside the words.
    What is read is of a ``quantity`` within ``low`` and ``high``. ``daily`` is looked at anew every day it flies,
    ``bare`` with the propeller off. Where it is seen by walking round the controls ``walked`` says how far that is.
    ``mark`` is of all it hangs on.
    """

    key: str
    of: str
    words: str
    told: Phrase
    mark: str
    quantity: str = ""
    low: float | None = None
    high: float | None = None
    daily: bool = False
    bare: bool = True
    walked: State | None = None

    @property
    def place(self) -> tuple[str, str]:
        """What it is known by."""
        return self.key, self.of


def mark_of(*parts: object) -> str:
    """Return a mark of parts of a design: another one after any change of those.

    Parameters
    ----------
    *parts : object
        Nodes, lists of nodes, values.

    Returns
    -------
    str
    """
    return sha1(repr([_plain(part) for part in parts]).encode(), usedforsecurity=False).hexdigest()[:12]


def _plain(part: object) -> object:
    if isinstance(part, BaseModel):
        return part.model_dump()
    if isinstance(part, list | tuple):
        return [_plain(one) for one in part]
    return part


def setup_list(design: Design, report: Report) -> tuple[Line, ...]:
    """Return the lines of a design, in the order they are done; only of what it has.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    tuple of Line

    Source
    ------
    Handbook of the trade §12: the order, and the propeller off until its line.
    """
    here = benched(design, report.results.linking)
    lines = [line for make in _MAKERS for line in make(design, report, here)]
    # What is signed at the end is signed for the whole list.
    whole = mark_of([line.mark for line in lines])
    return (*lines, Line("signed", "", "Signed off", say("pilot and day"), whole, daily=True, bare=False))


Maker = Callable[[Design, Report, Benched | None], Iterator[Line]]


def _electrics(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    power = design.power
    if power is not None:
        plug = power.pack.connector
        told = say("{} plug, plus to plus", plug) if plug else say("plus to plus")
        mark = mark_of(power.pack.connector, power.esc, power.packs, power.cells)
        yield Line("plugs", "", "Plugs, polarity", told, mark)


def _walk(design: Design, report: Report, here: Benched | None) -> Iterator[Line]:
    if here is None:
        return
    asked = [(k, stick, way) for k, stick, way in here.asks() if stick != "lost"]
    yield _walked("directions", "Directions", design, here, asked)


def _walked(key: str, words: str, design: Design, here: Benched, asked: Iterable[tuple[int, Any, int]]) -> Line:
    """A line that is done by walking round the controls, and says how far that is."""
    rows = list(asked)
    seen = [stands(design, here.outputs[k], stick) for k, stick, _way in rows]
    wrong = any(one is not None and one.way != way for one, (_k, _s, way) in zip(seen, rows, strict=True))
    many = sum(one is not None for one in seen)
    state: State = "wrong" if wrong else ("done" if many == len(rows) else "open")
    told = say("one went wrong") if wrong else say(f"{many} of {len(rows)} seen")
    return Line(key, "", words, told, "", walked=state)


#: Which way a control goes, and what stands: trailing edge to port where a level one goes up.
_LEVEL_WAYS = {"up": "up", "down": "down"}
_UPRIGHT_WAYS = {"up": "left", "down": "right"}


def _throws(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    linking = report.results.linking
    if linking.rows:
        yield Line("centred", "", "Centred", say("trims at zero"), mark_of(design.linkages, design.radio))
    for row in linking.rows:
        surface = design.surfaces[row.surface]
        name, words_of = called(surface, row.control), _LEVEL_WAYS if not is_upright(surface) else _UPRIGHT_WAYS
        for family, way in ((CONTROL_UP, "up"), (CONTROL_DOWN, "down")):
            figure = report.figures.get(family.key(row.control.id))
            if figure is None or figure.value is None or figure.value < _THROW:
                continue
            off = max(_THROW, _THROW_SHARE * figure.value)
            words = f"{name[:1].upper()}{name[1:]} {words_of[way]}"
            mark = mark_of(row.linkage, row.control, design.radio)
            told = say("{}", Measured(figure.value, "angle"))
            low, high = figure.value - off, figure.value + off
            yield Line(f"throw_{way}", row.control.id, words, told, mark, "angle", low, high)


def _gyro(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    gyro = None if design.radio is None else design.radio.gyro
    if gyro is not None and gyro.axes:
        many = len(gyro.axes)
        mark = mark_of(gyro, design.linkages, design.power and design.power.motor)
        yield Line("gyro", "", "Gyro opposes", say(f"{many} ax{'i' if many == 1 else 'e'}s"), mark)


def _motors(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    power = design.power
    if power is None:
        return
    for mount in power.mounts:
        ways = ["right" if way > 0 else "left" for way in mount.turns]
        told = say(" and ".join(dict.fromkeys(ways)) + " hand, from behind")
        many = (
            "Motor turns"
            if len(power.mounts) == 1 and not mount.mirrored
            else "Motors turn"
            if mount.mirrored
            else "Motor turns"
        )
        mark = mark_of(mount, power.motor, power.esc, design.radio)
        yield Line("motor", mount.id, many, told, mark)
    yield Line("sweep", "", "Throttle sweep", say("slowly up, no stutter"), mark_of(power.motor, power.esc))


def _switches(design: Design, report: Report, here: Benched | None) -> Iterator[Line]:
    radio = design.radio
    if radio is None:
        return
    flaps = any(part.stick == "flap" for channel in radio.channels for part in channel.mix)
    if flaps or radio.rates:
        told = " and ".join([*(["flaps up"] if flaps else []), *(["rate as launched"] if radio.rates else [])])
        yield Line("switches", "", "Switches", say(told), mark_of(radio.rates, radio.channels), daily=True)
    if here is not None:
        yield _walked("failsafe", "Failsafe", design, here, [one for one in here.asks() if one[1] == "lost"])
    yield Line("range", "", "Range, 30 paces", say("no twitch"), mark_of(design.power and design.power.esc), daily=True)


def absent_now(design: Design) -> tuple[str, ...]:
    """Return the ids of the items that are not on while the model is balanced: its propellers unless others are said.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of str
    """
    if design.log_book.absent is not None:
        return design.log_book.absent
    return tuple(item.id for item in design.parts if item.component == "propeller")


def state_now(design: Design, masses: Masses) -> MassState | None:
    """Return mass and balance as the scale and the finger ought to find them now; None where nothing is aboard.

    Parameters
    ----------
    design : Design
    masses : Masses
        Of the design.

    Returns
    -------
    MassState or None
    """
    absent = absent_now(design)
    off = np.array([item.id in absent for item in design.parts], np.bool_)
    if masses.state is None or not off.any():
        return masses.state
    return without(masses.items, design.brief.growth, off)


def _balance(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    masses, targets, ref = report.results.masses, report.results.targets, report.results.shape.reference
    state = masses.state
    if state is None:
        return
    now = state_now(design, masses)
    weights = mark_of(design.parts, design.power)
    if now is not None:
        off = BAND * float(now.sigma_cg[0]) + _FINGER
        low, high = float(now.cg[0]) - off, float(now.cg[0]) + off
        if targets is not None and ref is not None:
            # What is not on shifts the window of the first throw as it shifts the balance.
            shift = float(now.cg[0] - state.cg[0])
            low, high = (ref.at(share) + shift for share in targets.first_throw)
            low, high = low - _FINGER, high + _FINGER
        told = say("at {} to {}", Measured(low, "length", bare=True), Measured(high, "length"))
        yield Line("balance", "", "Balance", told, weights, "length", low, high)
        yield Line("sideways", "", "Sideways", say("level, or {}", Measured(_LEVEL, "length")), weights, "length",
                   -_LEVEL, _LEVEL)  # fmt: skip


#: What a fastening is looked at as, where it is undone and done again at the field.
_UNDONE: dict[FasteningKind, str] = {
    "bands": "bands", "bolts": "bolts", "magnets": "magnets", "tongue": "tongue", "prop_bands": "bands",
    "strut": "struts", "thread": "thread",
}  # fmt: skip


def _held(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    if design.linkages:
        yield Line("screws", "", "Screws, arms", say("the short screw in the arm"), mark_of(design.linkages))
    found = [one for one in design.fastenings if one.kind in _UNDONE]
    if found:
        kinds = ", ".join(dict.fromkeys(f"{one.count} {_UNDONE[one.kind]}" for one in found))
        yield Line("fastened", "", "Fastened", say("{}", kinds), mark_of(found), daily=True)
    power = design.power
    if power is not None:
        low, high = _CHARGED * power.cells, _FULL * power.cells
        told = say("{} to {}", Measured(low, "voltage", bare=True), Measured(4.2 * power.cells, "voltage"))
        mark = mark_of(power.pack, power.packs)
        yield Line("pack", "", "Pack strapped, charged", told, mark, "voltage", low, high, daily=True)


def _field(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    endurance, wind = report.value("flight.endurance"), report.value("flight.wind_limit")
    if endurance is not None:
        told = say("{} at first", Measured(_TIMER * endurance, "time"))
        yield Line("timer", "", "Timer", told, mark_of(design.power), "flight_time", 10.0, endurance, daily=True)
    if wind is not None:
        told = say("under {}", Measured(wind, "speed"))
        yield Line("wind", "", "Wind", told, "", "speed", 0.0, wind, daily=True)
    yield Line("field", "", "Field and people", say("allowed, and clear"), "", daily=True)


def _propeller(design: Design, report: Report, _here: Benched | None) -> Iterator[Line]:
    power = design.power
    if power is None:
        return
    mark = mark_of(power.propeller, power.mounts)
    fan = power.propeller.family == "ducted_fan"
    yield Line("propeller", "", "Fan clear" if fan else "Propeller on", say("clear of the disc"), mark, daily=True,
               bare=False)  # fmt: skip
    figure = report.figures["power.static_current"]
    if figure.value is not None:
        off = BAND * figure.sigma + _CURRENT_SHARE * figure.value
        told = say("{} ± {}, held", Measured(figure.value, "current", bare=True), Measured(off, "current"))
        mark = mark_of(power)
        low, high = figure.value - off, figure.value + off
        yield Line("full", "", "Full throttle, 5 s", told, mark, "current", low, high, bare=False)


_MAKERS: tuple[Maker, ...] = (
    _electrics, _walk, _throws, _gyro, _motors, _switches, _balance, _held, _field, _propeller
)  # fmt: skip
