"""Power off, the wind and the throw: glide, sink, slope wind, ground speeds, and the speed it leaves the hand with."""

from __future__ import annotations

from ridgeline.design.brief import Brief
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel
from ridgeline.engine.aero.glide import SLOPE_RISE, Glide, glide, slope_wind
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
    "glide.release_height",
    "glide.still_time",
    "launch.speed_ratio",
    "flight.ground_out",
    "flight.ground_home",
    "flight.wind_limit",
)
#: Wind of a first flight over the cruise speed (handbook of the trade §12).
_FIRST_WIND = 1 / 3


_SOURCE, _NOTE = "docs/theory.md §8", "propeller folded or off; a windmilling one costs a third of it"
_SPEED_SIGMA = 0.08
#: A hand lets go at this height, m; half of the energy over slow flight becomes height, 50 % (90 %, chosen); a bungee
#: pulls at three to five times the weight (second part of the handbook §10).
HAND_HEIGHT, _KEPT, _KEPT_SIGMA = 1.7, 0.5, 0.25 / BAND
_PULL, _PULL_SIGMA = 4.0, 1.0 / BAND


def gliding(
    model: DragModel | None, mass: Masses, speed: Speeds | None, here: Air, brief: Brief, *, told: Told
) -> Outcome[Glide | None]:
    """Give what it does with the motor off."""
    if model is None or mass.state is None or speed is None:
        return Outcome(None, tuple(absent(key, NO_WING if model is None else NO_MASS) for key in _KEYS))
    found = glide(model, mass.state.mass, speed.stall, here.density, here.viscosity)
    weight = mass.state.mass * GRAVITY
    W = Put(weight, "weight", "force")
    least = _drag_put(weight / found.ratio, "least drag", model.sigma)
    ratio = derive("glide.ratio", "{W}/{D}", lambda W, D: W / D, {"W": W, "D": least}, source=_SOURCE, note=_NOTE)
    V = Put(found.ratio_speed, "airspeed", "speed", _SPEED_SIGMA * found.ratio_speed)
    best = derive(
        "glide.ratio_speed", "{V} where the drag is least, {D}", lambda V, D: V, {"V": V, "D": least}, source=_SOURCE
    )
    V = Put(found.sink_speed, "airspeed", "speed", _SPEED_SIGMA * found.sink_speed)
    slowest = _drag_put(weight * found.sink / found.sink_speed, "drag there", model.sigma)
    row = {"D": slowest, "V": V._replace(sigma=0.0), "W": W}
    sink = derive("glide.sink", "{D}·{V}/{W}", lambda D, V, W: D * V / W, row, source=_SOURCE, note=_NOTE)
    slow = derive(
        "glide.sink_speed",
        "{V} where {D}·{V} is least",
        lambda V, D: V,
        {"V": V, "D": slowest},
        source=_SOURCE,
    )
    wind = derive(
        "glide.slope_wind",
        "{w}/{k}",
        slope_wind,
        {"w": put(sink), "k": Put(SLOPE_RISE, "rise of the air over the wind, at a 20° slope", "ratio", 0.1)},
        source=_SOURCE,
        note="up the slope; it must also be less than it flies, or it goes backwards",
    )
    height = _release(mass, brief, found.sink_speed)
    time = absent("glide.still_time", height.why_not)
    if height.value is not None:
        time = derive(
            "glide.still_time",
            "{h}/{w}",
            lambda h, w: h / w,
            {"h": put(height), "w": put(sink)},
            source=_SOURCE,
            note="still air, least sink all the way down",
        )
    figures = (ratio, best, sink, slow, wind, height, time, _throw(mass, brief, told), *_winds(brief, told))
    return Outcome(found, figures)


def _release(mass: Masses, brief: Brief, slow: float) -> Figure:
    """Give the height it glides down from: what is left of the speed of a throw, or of a bungee's pull."""
    key = "glide.release_height"
    assert mass.state is not None
    hand = Put(HAND_HEIGHT, "height of the hand", "length", 0.1)
    kept = Put(_KEPT, "share of it that is not lost to drag", "ratio", _KEPT_SIGMA)
    if brief.launch == "hand":
        thrown = throw_speed(mass.state.mass)
        return derive(
            key,
            "{h} + {k}·max({v}² − {V}², 0)/(2·{g})",
            lambda h, k, v, V, g: h + k * max(v**2 - V**2, 0.0) / (2 * g),
            {
                "h": hand,
                "k": kept,
                "v": Put(thrown, "thrown with 120 J", "speed", 0.2 / BAND * thrown),
                "V": Put(slow, "left to glide at", "speed"),
                "g": Put(GRAVITY, "gravity", "acceleration"),
            },
            source=_SOURCE,
            note="thrown level or a little up; a throw that stalls it gains nothing",
        )
    if brief.launch == "bungee":
        return derive(
            key,
            "{h} + {k}·½·{n}·{s}",
            lambda h, k, n, s: h + k * 0.5 * n * s,
            {
                "h": hand,
                "k": kept,
                "n": Put(_PULL, "line pull over weight", "ratio", _PULL_SIGMA),
                "s": Put(brief.ground_roll, "drawn back over the run available", "distance"),
            },
            source=_SOURCE,
            note="the pull falls to nothing over the run; stand clear of the line",
        )
    return absent(key, "it is not thrown, nor drawn up by a line")


def _drag_put(drag: float, label: str, share: float) -> Put:
    """Put a drag of the polar into a formula."""
    return Put(drag, label, "force", share * drag)


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
