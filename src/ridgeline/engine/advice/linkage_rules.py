"""Findings on linkages: throws missed, rods that bind, servos too weak or needlessly strong, play, ways round."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.radio import StickName
from ridgeline.engine.advice.linkage_edits import called, control_path, place_of, with_setting
from ridgeline.engine.advice.servo_rules import of_servo
from ridgeline.engine.advice.walk_rules import STICK_WORDS
from ridgeline.engine.controls.four_bar import NEAR_CENTRE
from ridgeline.engine.controls.inverse import LEAST_TRAVEL, settings_for
from ridgeline.engine.controls.rods import guides_for, rod_bears
from ridgeline.engine.controls.sense import FOLLOWS, wanted, way_of
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.register import CONTROL_PLAY, CONTROL_UP, SERVO_SHARE
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.engine.stages.linked import LinkedControl, Linking
from ridgeline.engine.stages.linking import control_size

#: A throw this far from its wish is told, rad.
OFF = math.radians(1.0)
#: Play at the trailing edge that lets a control flutter, of its chord (second part of the handbook §16.5).
_SLOP = 0.015
#: A rod is pressed by so much of what the servo can pull at its arm before it may buckle (chosen: half of its stall).
_PRESSED = 0.5
#: Guides are set no closer than this, m (chosen).
_NEAREST_GUIDES = 0.03
#: So many ways round are offered.
_WAYS = 2


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge every linkage."""
    found = report.results.linking
    if not found.rows:
        if found.bare and any(item.servo is not None for item in design.parts):
            yield Finding(
                "controls.unsaid",
                "settled",
                "controls",
                say("How the servos move the controls is not said."),
                say("Throws, servo loads and the radio are judged once it is."),
                lambda: _the_usual(design),
            )
        return
    good, idle = True, set()
    for row in found.rows:
        told = list(_of_row(design, report, row))
        good = good and all(finding.level == "settled" for finding in told)
        for finding in told:
            # Servos of one kind are told once.
            if finding.level == "settled" and finding.figures == (SERVO_SHARE.key(row.control.id),):
                if row.linkage.servo in idle:
                    continue
                idle.add(row.linkage.servo)
            yield finding
    slack = max(found.rows, key=lambda row: row.play)
    yield from _slack(design, slack, called(design.surfaces[slack.surface], slack.control))
    if good:
        yield _settled(design, found)


def _the_usual(design: Design) -> Iterator[Remedy]:
    usual = usual_linkages(design)
    changes = (Change("linkages", usual.linkages), Change("radio", usual.radio))
    yield Remedy("usual_linkages", say(f"Link them as usual: {len(usual.linkages)} linkages"), changes)


def _of_row(design: Design, report: Report, row: LinkedControl) -> Iterator[Finding]:
    surface = design.surfaces[row.surface]
    name = called(surface, row.control)
    yield from _ways_round(design, row, name)
    yield from _reach(design, row, name)
    yield from of_servo(design, report, row, name)
    yield from _pressed_rod(design, row, name)


def _angle(value: float) -> Measured:
    return Measured(value, "angle", 0)


# -- which way --------------------------------------------------------------------------------------------------------


def wrong_ways(design: Design, row: LinkedControl) -> tuple[tuple[str, StickName], ...]:
    """Return the sides and sticks for which a control goes the wrong way.

    Parameters
    ----------
    design : Design
    row : LinkedControl

    Returns
    -------
    tuple of (side, stick)
    """
    surface, radio = design.surfaces[row.surface], design.radio
    if radio is None:
        return ()
    return tuple(
        (side.side, stick)
        for side in row.sides
        if side.channel is not None
        for stick in FOLLOWS[row.control.kind]
        if way_of(side.angle(row.linkage, radio, {stick: 1.0})) == -wanted(surface, row.control.kind, side.side, stick)
    )


def _ways_round(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    wrong = wrong_ways(design, row)
    radio = design.radio
    if not wrong or radio is None:
        return
    sides = {side for side, _stick in wrong}
    whose = name if len(sides) == len(row.sides) else f"{name}, {min(sides)}"
    alike = row.linkage.port == "alike" and FOLLOWS[row.control.kind][0] == "roll" and len(sides) == 1
    reason = (
        say("Both servos are built in the same way round, so that one signal turns both sides alike.")
        if alike
        else say("Tried on the bench before every first flight: a control that goes the wrong way ends it.")
    )
    changes = []
    for k, channel in enumerate(radio.channels):
        hit = any(
            side.channel is not None and side.channel.id == channel.id for side in row.sides if side.side in sides
        )
        if hit:
            changes.append(Change(f"radio.channels[{k}].reversed", not channel.reversed))
    names = ", ".join(radio.channels[int(c.path.split("[")[1].split("]")[0])].name for c in changes)
    way = Remedy("reverse", say(f"Reverse {names}"), tuple(changes))
    yield Finding(
        f"controls.way.{row.control.id}",
        "stop",
        "controls",
        say(f"{whose} goes the wrong way for {STICK_WORDS[wrong[0][1]]}."),
        reason,
        (way,),
        (CONTROL_UP.key(row.control.id),),
    )


# -- how far ----------------------------------------------------------------------------------------------------------


def _reach(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    first, wish = row.sides[0], row.wish
    here = (first.travel.turns >= first.low - 1e-9) & (first.travel.turns <= first.high + 1e-9)
    surface = first.travel.motion.surface[here]
    binds = bool((~(abs(surface) < math.inf)).any())
    near = min(float(first.travel.motion.at_arm[here].min()), float(first.travel.motion.at_horn[here].min()))
    off = max(abs(first.throw.up - wish.up), abs(first.throw.down - wish.down))
    if binds:
        text = say(f"{name} binds: {{}} up and {{}} down is as far as its rod reaches.", *map(_angle, first.throw))
        yield _throw_finding(design, row, "binds", "stop", text, say("The servo would stall against it and burn."))
    elif near < NEAR_CENTRE:
        text = say(f"{name} comes near over-centre: rod and arm end {{}} apart.", _angle(near))
        yield _throw_finding(design, row, "centre", "look", text, say("Below {} it may snap over and stay there.",
                                                                      _angle(NEAR_CENTRE)))  # fmt: skip
    elif off > OFF:
        text = say(f"{name} goes {{}} up, {{}} down; {{}} and {{}} are wished.",
                   *map(_angle, first.throw), *map(_angle, wish))  # fmt: skip
        yield _throw_finding(design, row, "throw", "look", text, _why_off(row))
    elif first.channel is not None and _travel_left(row) < LEAST_TRAVEL - 0.005:
        text = say(f"{name} uses {{}} of the radio's travel.", Measured(_travel_left(row), "fraction", 0))
        yield _throw_finding(design, row, "travel", "look", text,
                             say("Coarse steps: a nearer hole of the arm or a longer horn cures that."))  # fmt: skip
    elif first.corner is not None:
        yield from _corner(row, name)


def _travel_left(row: LinkedControl) -> float:
    channel = row.sides[0].channel
    assert channel is not None and channel.high is not None and channel.low is not None
    used = [end for end, throw in ((channel.high, row.wish.down), (channel.low, row.wish.up)) if throw > 0]
    return min(used, default=1.0)


def _why_off(row: LinkedControl) -> Phrase:
    one = row.linkage
    return say(
        "Arm {} and horn {}, square to the rod" + ("" if not one.clocked else f", {abs(one.clocked)} teeth off") + ".",
        Measured(one.arm + one.extension, "length", 1), Measured(one.horn, "length", 1),
    )  # fmt: skip


def _corner(row: LinkedControl, name: str) -> Iterator[Finding]:
    first = row.sides[0]
    assert first.corner is not None and first.channel is not None
    asked = sum(abs(part.amount) for part in first.channel.mix)
    wished = asked * max(row.wish)
    got = max(first.corner)
    if got >= wished - 2 * OFF:
        return
    yield Finding(
        f"controls.corner.{row.control.id}",
        "settled",
        "controls",
        say(f"{name}: both sticks together ask {{}}, its linkage ends at {{}}.", _angle(wished), _angle(got)),
        say("In the corner of both sticks one of them gets less than it asks: it is flown there seldom."),
        (),
        (CONTROL_UP.key(row.control.id),),
    )


def _throw_finding(design: Design, row: LinkedControl, key: str, level: Level, text: Phrase, reason: Phrase) -> Finding:
    return Finding(
        f"controls.{key}.{row.control.id}",
        level,
        "controls",
        text,
        reason,
        partial(_other_holes, design, row, take=key != "travel"),
        (CONTROL_UP.key(row.control.id),),
    )


def _other_holes(design: Design, row: LinkedControl, *, take: bool) -> Iterator[Remedy]:
    """Offer the settings that hit the wish, and to take what it gives as the wish."""
    for setting in settings_for(row.linkage, row.wish)[:_WAYS]:
        yield with_setting(design, row, setting)
    throw = row.sides[0].throw
    if take and throw.up + throw.down > 0:
        path = control_path(design, row)
        changes = (Change(f"{path}.up", round(throw.up, 4)), Change(f"{path}.down", round(throw.down, 4)))
        yield Remedy("take", say("Fly it with {} up, {} down", *map(_angle, throw)), changes)


# -- slack and rods ---------------------------------------------------------------------------------------------------


def _slack(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    chord = control_size(design.surfaces[row.surface], row.control)[1]
    if row.play <= _SLOP:
        return
    base = place_of(design, row)
    ways = []
    if row.linkage.hole_play > 5e-5:
        ways.append(Remedy("snug", say("Holes drilled to the wire: {} of play in each", Measured(5e-5, "length", 2)),
                           (Change(f"{base}.hole_play", 5e-5),)))  # fmt: skip
    yield Finding(
        f"controls.play.{row.control.id}",
        "settled",
        "controls",
        say(f"{name}: {{}} of free play, {{}} at its trailing edge.", Measured(row.play, "angle", 1),
            Measured(row.play * chord, "length", 1)),
        say("More than {} of its chord lets it flutter when it is fast.", Measured(_SLOP, "fraction", 1)),
        tuple(ways),
        (CONTROL_PLAY.key(row.control.id),),
    )  # fmt: skip


def _pressed_rod(design: Design, row: LinkedControl, name: str) -> Iterator[Finding]:
    one, base = row.linkage, place_of(design, row)
    if one.kind != "rod" or not row.stall:
        return
    pressed, bears = _PRESSED * row.stall / (one.arm + one.extension), rod_bears(one, row.rod)
    if pressed <= bears:
        return
    apart = guides_for(one, pressed)
    ways: tuple[Remedy, ...] = ()
    if apart >= _NEAREST_GUIDES:
        words = say("A guide every {}", Measured(apart, "length", 0))
        ways = (Remedy("guides", words, (Change(f"{base}.guides", round(apart, 4)),)),)
    free = min(one.guides, row.rod) if one.guides else row.rod
    yield Finding(
        f"controls.rod.{row.control.id}",
        "look",
        "controls",
        say(f"{name}: its rod buckles at {{}}; its servo can press {{}}.", Measured(bears, "force", 0),
            Measured(pressed, "force", 0)),
        say("{} of it stand free.", Measured(free, "length", 0)),
        ways,
        (),
    )  # fmt: skip


def _settled(design: Design, found: Linking) -> Finding:
    shares = [row for row in found.rows if row.share is not None]
    worst = max(shares, key=lambda row: row.share or 0.0, default=None)
    told = f"{len(found.rows)} linkages give" if len(found.rows) > 1 else "Its linkage gives"
    if worst is None:
        text = say(f"{told} the throws wished.")
        return Finding("controls.linked", "settled", "controls", text, say("No servo is named for them."))
    name = called(design.surfaces[worst.surface], worst.control)
    return Finding(
        "controls.linked",
        "settled",
        "controls",
        say(f"{told} the throws wished; servos work at {{}} at most.",
            Measured(worst.share or 0.0, "fraction", 0)),
        say(f"{name}: {{}} at the servo in a dive.", Measured(worst.torque, "torque", 2)),
        (),
        (SERVO_SHARE.key(worst.control.id),),
    )  # fmt: skip
