"""What the model says of warmth, noise and shaking that were seen in the last flight, and what is done about them."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight, SightingKey
from ridgeline.design.paths import Change
from ridgeline.engine.flight.wake_cut import wakes_cut
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.pack import battery_current
from ridgeline.engine.report import Finding, Remedy, Report

#: Blades that cut a wake nearer than this are moved back first, m (chosen).
_CLEAR_OF_WAKE = 0.03
#: Past this tip Mach number a propeller is heard before anything else (handbook §8: noise rises with tip speed).
_LOUD = 0.45


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Tell what the model has to say of what was seen in the last flight of the newest version."""
    flight = last_flight(design)
    if flight is None:
        return
    place = design.flights.index(flight)
    for key in flight.seen:
        said = _SAID.get(key)
        told = None if said is None else said(design, report)
        if told is not None:
            words, why, ways, figures = told
            text = say(f"Flight {place + 1}: {words}")
            yield Finding(f"flights.seen.{key}", "look", "flights", text, why, ways, figures)


def last_flight(design: Design) -> Flight | None:
    """Return the last flight of the newest version that flew.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Flight or None
    """
    newest = max((flight.version for flight in design.flights), default=0)
    return next((flight for flight in reversed(design.flights) if flight.version == newest), None)


_Told = tuple[str, Phrase, tuple[Remedy, ...], tuple[str, ...]]


def _hot_motor(design: Design, report: Report) -> _Told | None:
    heat, inlet = report.value("power.motor_heat"), report.value("power.cooling_inlet")
    if design.power is None or heat is None:
        return None
    seconds, share = report.value("power.motor_seconds"), heat / (1000 * design.power.motor.mass)
    lasts = say("") if seconds is None else say(", 100 °C after {}", Measured(seconds, "seconds", 0))
    told = f"{{}} at full throttle, {share:.1f} W/g{lasts.template}. A cooler one: less pitch or diameter."
    why = say(told, Measured(heat, "power"), *lasts.values)
    return "the motor got hot.", why, _opened(design, inlet), ("power.motor_heat", "power.motor_seconds")


def _opened(design: Design, inlet: float | None) -> tuple[Remedy, ...]:
    """Offer the opening that the heat of a climb asks for, where a smaller one is told."""
    power = design.power
    if power is None or inlet is None or not 0 < power.cooling_inlet < inlet:
        return ()
    words = say("Open the inlet {} → {}, the exit half as large again", Measured(power.cooling_inlet, "area", 2),
                Measured(inlet, "area", 2))  # fmt: skip
    return (Remedy("open_inlet", words, (Change("power.cooling_inlet", inlet),)),)


def _hot_controller(design: Design, report: Report) -> _Told | None:
    current = report.value("power.static_current")
    if design.power is None or current is None:
        return None
    each = current / design.power.motors
    why = say("It carries {} of its {}; long part throttle heats it more than full. Give it wind.",
              Measured(each, "current"), Measured(design.power.esc.max_current, "current", 0))  # fmt: skip
    ways = _opened(design, report.value("power.cooling_inlet"))
    return "the controller got hot.", why, ways, ("power.static_current", "power.cooling_inlet")


def _hot_pack(design: Design, report: Report) -> _Told | None:
    current = report.value("power.static_current")
    if design.power is None or current is None:
        return None
    why = say("Full throttle takes {}; these packs give {} for long. Never charge one that is warm or puffed.",
              Measured(current, "current"), Measured(battery_current(design.power), "current", 0))  # fmt: skip
    return "the pack got hot.", why, (), ("power.static_current",)


def _noisy(design: Design, report: Report) -> _Told | None:
    mach, rpm = report.value("power.tip_mach"), report.value("power.static_rpm")
    if design.power is None or mach is None or rpm is None:
        return None
    tip = math.pi * design.power.propeller.diameter * rpm / 60
    cuts = [cut for cut in wakes_cut(design.surfaces, design.power) if cut.ahead < _CLEAR_OF_WAKE]
    told = "Its tips go {} at full throttle"
    told += ": larger and slower is quieter." if mach > _LOUD else ", which is not much."
    values: list[Measured | str] = [Measured(tip, "speed", 0)]
    if cuts:
        told += " Its blades cut the wake of the {} {} behind its edge: a spacer moves them back."
        values += [design.surfaces[cuts[0].surface].name.lower(), Measured(cuts[0].ahead, "length")]
    return "it was noisy.", say(told, *values), (), ("power.tip_mach",)


def _vibrates(design: Design, report: Report) -> _Told | None:
    rpm = report.value("power.static_rpm")
    if design.power is None or rpm is None:
        return None
    blades = design.power.propeller.blades
    told = f"The propeller turns {{}} times a second at full throttle, its {blades} blades {{}}. Balance it, look "
    told += (
        "for a nick or a bent shaft; if one throttle alone shakes, something answers at that speed: stiffen what hums."
    )
    why = say(told, Measured(rpm / 60, "count"), Measured(blades * rpm / 60, "count"))
    return "it shook.", why, (), ("power.static_rpm",)


_SAID: dict[SightingKey, Callable[[Design, Report], _Told | None]] = {
    "hot_motor": _hot_motor,
    "hot_controller": _hot_controller,
    "hot_pack": _hot_pack,
    "noisy": _noisy,
    "vibrates": _vibrates,
}
