"""Findings on which way propellers turn: their torque, their hand, and the nut that holds them."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import Mount
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report

#: Share of the aileron that torque may take at launch before it is told: the rest rights it after a crooked throw.
#: Torque goes with the square of the throttle, near enough.
_TORQUE_SHARE = 0.6


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge which way the propellers turn."""
    if design.power is None:
        return
    yield from _torque(report)
    for index, mount in enumerate(design.power.mounts):
        yield from _hand(index, mount)
        yield from _nut(index, mount)


def nut_tightens(mount: Mount) -> bool:
    """Tell whether a plain right-handed nut is drawn tight by the drag of the propeller of a mount.

    Parameters
    ----------
    mount : Mount

    Returns
    -------
    bool

    Source
    ------
    The propeller lags behind its shaft. A right-handed nut is turned tight clockwise, seen from its own side: so where
    the shaft, seen from there, turns the other way. A puller's nut is seen from the front, a pusher's from behind.
    """
    return mount.clockwise != mount.pusher


def _torque(report: Report) -> Iterator[Finding]:
    """Say when full throttle at launch takes most of the aileron to hold against its torque."""
    needed, handled = report.value("launch.torque_aileron"), report.results.handling
    if needed is None or handled is None or handled.throws.roll <= 0:
        return
    share = abs(needed) / handled.throws.roll
    if share <= _TORQUE_SHARE:
        return
    yield Finding(
        "launch.torque",
        "look",
        "power",
        say(
            "Full throttle at launch takes {} of {} aileron to hold.",
            Measured(abs(needed), "angle", 1),
            Measured(handled.throws.roll, "angle", 1),
        ),
        say(
            f"Its torque rolls it {'left' if needed > 0 else 'right'} as it leaves, slow: "
            "launch at about {} throttle, then open up.",
            Measured(math.floor(20 * math.sqrt(_TORQUE_SHARE / share)) / 20, "fraction", 0),
        ),
        (),
        ("launch.torque_aileron",),
    )


def _hand(index: int, mount: Mount) -> Iterator[Finding]:
    """Say when a propeller turns against its hand: it then blows forward, weakly."""
    if mount.blows_back:
        return
    way, hand = ("clockwise" if mount.clockwise else "anticlockwise"), ("right" if mount.right_handed else "left")
    base = f"power.mounts[{index}]"
    yield Finding(
        f"power.hand.{index}",
        "stop",
        "power",
        say(f"A {hand}-handed propeller that turns {way} blows forward."),
        say("Seen from behind. Its front face, with the words, stays forward: turn the motor the other way instead."),
        (
            Remedy(
                "other_way",
                say("Swap two motor wires: it turns the other way"),
                (Change(f"{base}.clockwise", not mount.clockwise),),
            ),
            Remedy(
                "other_hand",
                say(f"Fit a {'left' if mount.right_handed else 'right'}-handed propeller"),
                (Change(f"{base}.right_handed", not mount.right_handed),),
            ),
        ),
    )


def _nut(index: int, mount: Mount) -> Iterator[Finding]:
    if mount.mirrored and mount.opposed:
        text = say("One propeller nut of the pair turns itself loose, the other tight.")
    elif not nut_tightens(mount):
        text = say("The propeller's drag turns a plain nut loose.")
    else:
        return
    reason = say("Use a locking nut or a left-handed thread there, and feel it before every flight. Pack unplugged.")
    yield Finding(f"power.nut.{index}", "settled", "power", text, reason)
