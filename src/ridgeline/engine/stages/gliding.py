"""Power off, the wind and the throw: glide, sink, slope wind, ground speeds, and the speed it leaves the hand with."""

from __future__ import annotations

from ridgeline.design.brief import Brief
from ridgeline.engine.aero.drag import DRAG_SIGMA, DragModel
from ridgeline.engine.aero.glide import SLOPE_RISE, glide, slope_wind
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.sizing.constraints import throw_speed
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds

_KEYS = (
    "glide.ratio",
    "glide.ratio_speed",
    "glide.sink",
    "glide.sink_speed",
    "glide.slope_wind",
    "launch.speed_ratio",
    "flight.ground_out",
    "flight.ground_home",
    "flight.wind_limit",
)
#: Wind of a first flight over the cruise speed (handbook of the trade §12).
_FIRST_WIND = 1 / 3


_SOURCE, _NOTE = "docs/theory.md §8", "propeller folded or off; a windmilling one costs a third of it"
_SPEED_SIGMA = 0.08


def gliding(
    model: DragModel | None, mass: Masses, speed: Speeds | None, here: Air, brief: Brief, *, told: Told
) -> Outcome:
    """Give what it does with the motor off."""
    if model is None or mass.state is None or speed is None:
        return Outcome(None, tuple(absent(key, NO_WING if model is None else NO_MASS) for key in _KEYS))
    found = glide(model, mass.state.mass, speed.stall, here.density, here.viscosity)
    ratio = _as_found("glide.ratio", found.ratio, "ratio", "largest weight over drag", DRAG_SIGMA, _NOTE)
    best = _as_found("glide.ratio_speed", found.ratio_speed, "speed", "where drag is least", _SPEED_SIGMA)
    sink = _as_found("glide.sink", found.sink, "speed", "least drag times speed over weight", DRAG_SIGMA, _NOTE)
    slow = _as_found("glide.sink_speed", found.sink_speed, "speed", "where drag times speed is least", _SPEED_SIGMA)
    wind = derive(
        "glide.slope_wind",
        "{w}/{k}",
        slope_wind,
        {"w": put(sink), "k": Put(SLOPE_RISE, "rise of the air over the wind, at a 20° slope", "ratio", 0.1)},
        source=_SOURCE,
        note="up the slope; it must also be less than it flies, or it goes backwards",
    )
    return Outcome(found, (ratio, best, sink, slow, wind, _throw(mass, brief, told), *_winds(brief, told)))


def _as_found(key: str, value: float, quantity: str, label: str, share: float, note: str = "") -> Figure:
    """Give a figure read off a curve, with its one-sigma share."""
    return derive(key, "{x}", lambda x: x, {"x": Put(value, label, quantity, share * value)}, source=_SOURCE, note=note)


def _winds(brief: Brief, told: Told) -> tuple[Figure, ...]:
    """Give the ground speeds against and with the wind, and how much of it a first flight bears."""
    flown = put(told["speed.cruise"], "cruise speed")
    row = {"V": flown, "w": Put(brief.head_wind, "wind of the brief", "speed")}
    words = "airspeed keeps it up, not ground speed"
    return (
        derive("flight.ground_out", "{V} − {w}", lambda V, w: V - w, row, source=_SOURCE, note=words),
        derive("flight.ground_home", "{V} + {w}", lambda V, w: V + w, row, source=_SOURCE, note=words),
        derive(
            "flight.wind_limit",
            "{k}·{V}",
            lambda k, V: k * V,
            {"k": Put(_FIRST_WIND, "share for a first flight", "ratio"), "V": flown},
            source=f"{HANDBOOK} §12",
            note="gusts count as wind; less is better",
        ),
    )


def _throw(mass: Masses, brief: Brief, told: Told) -> Figure:
    """Compare the speed it leaves the hand with, head wind added, with the stall."""
    if brief.launch != "hand":
        return absent("launch.speed_ratio", "it is not launched by hand")
    assert mass.state is not None
    thrown = throw_speed(mass.state.mass)
    return derive(
        "launch.speed_ratio",
        "({v} + {w})/{V_s}",
        lambda v, w, V_s: (v + w) / V_s,
        {
            "v": Put(thrown, "thrown with 120 J", "speed", 0.2 / BAND * thrown),
            "w": Put(brief.head_wind, "head wind", "speed", 0.2 * brief.head_wind),
            "V_s": put(told["speed.stall"], "stall speed"),
        },
        source="docs/theory.md §3",
        note="1.1 to 1.2 is enough with the motor pulling; a tail wind subtracts",
    )
