"""Power off, and the throw: glide, sink, the slope wind that holds it, and the speed it leaves the hand with."""

from __future__ import annotations

from ridgeline.design.brief import Brief
from ridgeline.engine.aero.drag import DRAG_SIGMA, DragModel
from ridgeline.engine.aero.glide import SLOPE_RISE, glide, slope_wind
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.sizing.constraints import throw_speed
from ridgeline.engine.stages.common import NO_MASS, NO_WING, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds

_KEYS = (
    "glide.ratio",
    "glide.ratio_speed",
    "glide.sink",
    "glide.sink_speed",
    "glide.slope_wind",
    "launch.speed_ratio",
)


def gliding(model: DragModel | None, mass: Masses, speed: Speeds | None, here: Air, brief: Brief) -> Outcome:
    """Give what it does with the motor off."""
    if model is None or mass.state is None or speed is None:
        return Outcome(None, tuple(absent(key, NO_WING if model is None else NO_MASS) for key in _KEYS))
    found = glide(model, mass.state.mass, speed.stall, here.density, here.viscosity)
    source, note = "docs/theory.md §8", "propeller folded or off; a windmilling one costs a third of it"
    ratio = derive(
        "glide.ratio",
        "{r}",
        lambda r: r,
        {"r": Put(found.ratio, "largest weight over drag", "ratio", DRAG_SIGMA * found.ratio)},
        source=source,
        note=note,
    )
    best = derive(
        "glide.ratio_speed",
        "{V}",
        lambda V: V,
        {"V": Put(found.ratio_speed, "where drag is least", "speed", 0.08 * found.ratio_speed)},
        source=source,
    )
    sink = derive(
        "glide.sink",
        "{w}",
        lambda w: w,
        {"w": Put(found.sink, "least drag times speed over weight", "speed", DRAG_SIGMA * found.sink)},
        source=source,
        note=note,
    )
    slow = derive(
        "glide.sink_speed",
        "{V}",
        lambda V: V,
        {"V": Put(found.sink_speed, "where drag times speed is least", "speed", 0.08 * found.sink_speed)},
        source=source,
    )
    wind = derive(
        "glide.slope_wind",
        "{w}/{k}",
        slope_wind,
        {"w": put(sink), "k": Put(SLOPE_RISE, "rise of the air over the wind, at a 20° slope", "ratio", 0.1)},
        source=source,
        note="up the slope; it must also be less than it flies, or it goes backwards",
    )
    return Outcome(found, (ratio, best, sink, slow, wind, _throw(mass, speed, brief)))


def _throw(mass: Masses, speed: Speeds, brief: Brief) -> Figure:
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
            "v": Put(thrown, "thrown with 120 J", "speed", 0.2 / 1.645 * thrown),
            "w": Put(brief.head_wind, "head wind", "speed", 0.2 * brief.head_wind),
            "V_s": Put(speed.stall, "stall speed", "speed", 0.04 * speed.stall, "speed.stall"),
        },
        source="docs/theory.md §3",
        note="1.1 to 1.2 is enough with the motor pulling; a tail wind subtracts",
    )
