"""What raises the odds of a throw, in words and as edits; and the errors that matter, in words."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.pack_slide import pack_slid
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.odds import Better, Matter, ballast_place
from ridgeline.engine.flight.throwing import Launching
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Report
from ridgeline.engine.weights.levers import ballast_item

_MATTERS: dict[str, tuple[str, str]] = {
    "balance": ("balance", "length"), "mass": ("weight", "fraction"), "neutral": ("neutral point", "fraction"),
    "lift_most": ("lift limit", "fraction"), "wing": ("wing set", "angle"), "tail": ("tail set", "angle"),
    "warp": ("warp", "angle"), "thrust": ("thrust", "fraction"), "drag": ("drag", "fraction"),
    "speed": ("speed of the throw", "speed"), "path": ("its angle", "angle"), "bank": ("its bank", "angle"),
    "wind": ("wind", "speed"),
}  # fmt: skip


def matter_words(one: Matter) -> Phrase:
    """Return an error that matters, with its band.

    Parameters
    ----------
    one : Matter

    Returns
    -------
    Phrase
    """
    words, quantity = _MATTERS[one.name]
    return say(f"{words} ± {{}}", Measured(BAND * one.sigma, quantity))


def way_words(design: Design, report: Report, way: Better) -> Phrase:
    """Return what raises the odds, in words.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    way : Better

    Returns
    -------
    Phrase
    """
    more = way.by > 0
    if way.name == "balance":
        slid = pack_slid(design, report, way.by)
        side = "aft" if more else "forward"
        if slid is not None and slid.whole:
            return say(f"Slide pack {{}} {side}", Measured(abs(slid.move), "length"))
        if way.mass > 0:
            return say(f"{{}} at the {'tail' if more else 'nose'}", Measured(way.mass, "mass"))
        return say(f"Balance {{}} further {side}", Measured(abs(way.by), "length"))
    if way.name == "path":
        return say(f"Throw {{}} {'steeper' if more else 'flatter'}", Measured(abs(way.by), "angle", 0))
    if way.name == "wind":
        return say("Wait for {} more head wind", Measured(way.by, "speed"))
    if way.name == "trim":
        return say(f"{{}} {'less' if more else 'more'} up trim", Measured(abs(way.by), "angle"))
    if way.name == "speed":
        return say("Throw {} faster", Measured(way.by, "speed"))
    if way.name == "throttle":
        return say("Open the throttle fully")
    return say("{} lighter", Measured(abs(way.by), "fraction", 0))


def edits_of(design: Design, report: Report, launch: Launching, way: Better) -> tuple[Change, ...]:
    """Return the edits that do what raises the odds; none where only the builder can.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching
    way : Better

    Returns
    -------
    tuple of Change
    """
    plan = design.first_throw
    if way.name == "balance":
        slid = pack_slid(design, report, way.by)
        if slid is not None and slid.whole:
            return (Change(f"parts[{slid.part}].x", slid.place),)
        if way.mass > 0:
            x, z = ballast_place(design, way.by)
            name = "Tail weight" if way.by > 0 else "Nose weight"
            return (Change("parts[-]", ballast_item(name, round(way.mass, 4), (x, 0.0, z))),)
        return ()
    if way.name == "path":
        return (Change("first_throw.angle", round(min(max(plan.angle + way.by, -0.7), 1.4), 4)),)
    if way.name == "trim":
        pull = -float(launch.held.pitch) - way.by
        return (Change("first_throw.trim", round(min(max(pull, -0.7), 0.7), 5)),)
    if way.name == "throttle":
        return (Change("first_throw.throttle", 1.0),)
    if way.name == "speed":
        return (Change("first_throw.speed", round(min(float(launch.throw.speed) + way.by, 60.0), 2)),)
    if way.name == "wind":
        return (Change("first_throw.wind", round(min(plan.wind + way.by, 25.0), 2)),)
    return ()
