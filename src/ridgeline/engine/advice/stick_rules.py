"""Findings on what the sticks do: the nose against the turn, differential, flaps and power mixed in, hands off."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.design.radio import Amount, Channel, Radio, StickName
from ridgeline.engine.advice.control_edits import angle, controls_of
from ridgeline.engine.advice.linkage_edits import reaches, with_setting
from ridgeline.engine.aero.airframe_lattice import PITCH_CONTROLS
from ridgeline.engine.aero.flap import deflection_for, effective_deflection
from ridgeline.engine.aero.throws import share_of, travel
from ridgeline.engine.controls.inverse import settings_for
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.roots import root_in
from ridgeline.engine.stages.linking import control_size
from ridgeline.engine.stages.stick_answers import Sticks

#: The nose swings this far against a full roll stick near the stall before it is told, rad; less than this of the roll
#: left once it has swung is a look; up over down of a differential that counts as one (chosen).
TOLD, LEFT_OF_ROLL, DIFFERENTIAL = math.radians(6.0), 0.35, 1.3
#: What is offered: up over down; rudder in steps of this, no more than so much (chosen).
_OFFERED, _STEP, _MOST_RUDDER = 2.0, 0.05, 0.8
#: Down over up of ailerons that go the wrong way round; flaperons leave so much of the roll at least, and so much where
#: they are set anew (chosen).
WRONG_WAY, LEAST_LEFT, _SET_LEFT = 1.15, 0.50, 0.60
#: Flaps or full throttle that ask for so much elevator want a mix, rad; one within this share of it will do (chosen).
MIXED, _NEAR = math.radians(1.5), 0.4
#: Let go, it trims between so many times its stall and so many times its cruise; a control is set at rest by no more
#: than this, rad (chosen).
_SLOWEST, _FASTEST, _MOST_AT_REST = 1.1, 1.3, math.radians(12.0)


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what the sticks do."""
    sticks = report.results.sticking
    if sticks is None:
        return
    yield from _wrong_differential(design)
    yield from _against(design, report, sticks)
    yield from _flaperon(design, report)
    yield from _at_rest(design, report)
    yield from _thrust_sense(design, report)
    if design.radio is not None:
        yield from _mixed(design, report, sticks, "flap", "flap.elevator")
        yield from _mixed(design, report, sticks, "throttle", "trim.thrust_elevator")


# -- the nose against the turn ----------------------------------------------------------------------------------------


def _wrong_differential(design: Design) -> Iterator[Finding]:
    for i, j, surface, control in controls_of(design, ("aileron",)):
        up, down = travel(control, design.brief.purpose)
        if down <= WRONG_WAY * up:
            continue
        changes = (Change(f"surfaces[{i}].controls[{j}].up", down), Change(f"surfaces[{i}].controls[{j}].down", up))
        yield Finding(
            f"sticks.differential.{control.id}",
            "look",
            "controls",
            say("{}: the aileron that goes down goes farther than the one that goes up.", surface.name),
            say("It drags the nose out of the turn it begins, most of all when slow."),
            (Remedy("other_way_round", say("{} up and {} down", angle(down), angle(up)), changes),),
        )


def _against(design: Design, report: Report, sticks: Sticks) -> Iterator[Finding]:
    against = report.value("control.adverse_yaw")
    slow = sticks.of("roll", slow=True)
    if against is None or slow is None or slow.turned is None:
        return
    weak = slow.turned.held < LEFT_OF_ROLL * slow.turned.first
    if against < TOLD and not weak:
        return
    rate = report.value("control.roll_slow")
    text = say("Near the stall a full roll stick leaves the nose {} behind.", angle(against, 0))
    if weak and rate is not None:
        text = say("Near the stall ailerons swing the nose, and hardly roll it: {} are left.",
                   Measured(rate, "turn_rate", 0))  # fmt: skip
    yield Finding(
        "sticks.against",
        "look" if weak else "settled",
        "controls",
        text,
        say("The half that lifts more also drags more. Turn with rudder when slow."),
        partial(_brought_round, design, report, sticks, against),
        ("control.adverse_yaw", "control.adverse_yaw_alike", "control.roll_slow"),
    )


def _brought_round(design: Design, report: Report, sticks: Sticks, against: float) -> Iterator[Remedy]:
    yield from _apart(design, report, against)
    yield from _with_rudder(design, report, sticks)


def _apart(design: Design, report: Report, against: float) -> Iterator[Remedy]:
    """Offer a differential with the same roll, where there is none yet."""
    changes, told = [], None
    for i, j, _surface, control in controls_of(design, ("aileron",)):
        up, down = travel(control, design.brief.purpose)
        if down <= 0 or up / down >= DIFFERENTIAL:
            return
        wanted = effective_deflection(up) + effective_deflection(down)
        if wanted >= effective_deflection(0.8) + effective_deflection(0.4):
            return
        more = root_in(
            lambda u: effective_deflection(u) + effective_deflection(u / _OFFERED) - wanted,  # noqa: B023
            0.0, 0.8, 1e-5,
        )  # fmt: skip
        told = round(more, 4), round(more / _OFFERED, 4)
        changes += [Change(f"surfaces[{i}].controls[{j}].up", told[0]),
                    Change(f"surfaces[{i}].controls[{j}].down", told[1])]  # fmt: skip
        row = report.results.linking.of(control.id)
        if row is not None and not reaches(row, Throw(*told)):
            # Other holes or another tooth may be what reaches it.
            ways = settings_for(row.linkage, Throw(*told))
            changes += with_setting(design, row, ways[0]).changes if ways else ()
    if told is None:
        return
    left = report.trial().value(apply(design, changes), "control.adverse_yaw")
    if left is not None and left < against - math.radians(0.1):
        words = say("Ailerons {} up, {} down, for the same roll: nose {} behind", angle(told[0]), angle(told[1]),
                    angle(left, 1))  # fmt: skip
        yield Remedy("differential", words, tuple(changes))


def _with_rudder(design: Design, report: Report, sticks: Sticks) -> Iterator[Remedy]:
    """Offer as much rudder on the roll stick as keeps the nose on its way near the stall."""
    roll, yaw = sticks.of("roll", slow=True), sticks.of("yaw", slow=True)
    radio = design.radio
    if radio is None or roll is None or yaw is None or roll.turned is None or yaw.turned is None:
        return
    if yaw.turned.swing <= 0:
        return
    amount = min(math.floor(-roll.turned.swing / yaw.turned.swing / _STEP + 0.5) * _STEP, _MOST_RUDDER)
    changes = list(mixed_in(radio, "roll", "yaw", amount))
    if amount < _STEP or not changes:
        return
    left = report.trial().value(apply(design, changes), "control.adverse_yaw")
    if left is not None:
        words = say("Mix {} of rudder into the roll stick: nose {} behind", Measured(amount, "fraction", 0),
                    angle(max(left, 0.0), 1))  # fmt: skip
        yield Remedy("rudder_mix", words, tuple(changes))


def mixed_in(radio: Radio, stick: StickName, into: StickName, amount: float) -> Iterator[Change]:
    """Yield the edits that let one stick move what another moves.

    Parameters
    ----------
    radio : Radio
    stick : str
        That is mixed in, in place of what of it was mixed in there by itself.
    into : str
        Whose channels take it.
    amount : float
        Of the throw of ``into``, for the stick at full.

    Yields
    ------
    Change
    """
    for k, channel in enumerate(radio.channels):
        mine = next((part for part in channel.mix if part.stick == into), None)
        if mine is None:
            continue
        own = any(part.stick == stick for part in channel.mix)
        if own and stick in ("roll", "pitch"):
            # An elevon or a flaperon rolls by itself.
            continue
        kept = tuple(part for part in channel.mix if part.stick != stick)
        if len(kept) < 6:
            part = Amount(stick=stick, amount=round(amount * mine.amount, 4))
            yield Change(f"radio.channels[{k}].mix", (*kept, part))


# -- flaps and power --------------------------------------------------------------------------------------------------


def _flaperon(design: Design, report: Report) -> Iterator[Finding]:
    left = report.value("flap.roll_left")
    handled, flap = report.results.handling, report.results.flaps
    if left is None or handled is None or flap is None or left >= LEAST_LEFT:
        return
    yield Finding(
        "sticks.flaperon",
        "look",
        "controls",
        say("Flaps down, the flaperons keep {} of their roll.", Measured(left, "fraction", 0)),
        say("The half that goes farther down gains no lift there: it stalls instead."),
        partial(_less_flap, design, flap.setting, handled.throws.roll),
        ("flap.roll_left",),
    )


def roll_left(flap: float, roll: float) -> float:
    """Return what flaperons keep of their roll with the flaps down.

    Parameters
    ----------
    flap, roll : float
        Deflections, rad.

    Returns
    -------
    float
    """
    apart = effective_deflection(flap + roll) - effective_deflection(flap - roll)
    return 0.5 * apart / effective_deflection(roll)


def _less_flap(design: Design, setting: float, roll: float) -> Iterator[Remedy]:
    if roll_left(0.0, roll) < _SET_LEFT or roll <= 0:
        return
    less = root_in(lambda f: roll_left(f, roll) - _SET_LEFT, 0.0, setting, 1e-5)
    radio = design.radio
    changes: list[Change] = []
    if radio is not None and any(part.stick == "flap" for c in radio.channels for part in c.mix):
        for k, channel in enumerate(radio.channels):
            mix = tuple(
                part.model_copy(update={"amount": round(part.amount * less / setting, 4)})
                if part.stick == "flap" and any(other.stick == "roll" for other in channel.mix)
                else part
                for part in channel.mix
            )
            if mix != channel.mix:
                changes.append(Change(f"radio.channels[{k}].mix", mix))
    else:
        for i, j, _surface, _control in controls_of(design, ("flaperon",)):
            down = less / share_of("flaperon", "flap")
            changes.append(Change(f"surfaces[{i}].controls[{j}].down", round(down, 4)))
    if changes:
        words = say("Let them down by {}: {} of the roll is left", angle(less, 0), Measured(_SET_LEFT, "fraction", 0))
        yield Remedy("less_flap", words, tuple(changes))


def _mixed(design: Design, report: Report, sticks: Sticks, stick: StickName, key: str) -> Iterator[Finding]:
    """Say when flaps or power ask for elevator that nothing mixes in."""
    asked, radio = report.value(key), design.radio
    pulled = next((one for one in sticks.standing if one.stick == "pitch"), None)
    if asked is None or radio is None or pulled is None or abs(asked) < MIXED:
        return
    full = next(iter(pulled.angles.values()))[0]
    if abs(full) < 1e-3:
        return
    amount = round(asked / full, 2)
    if abs(_present(radio.channels, stick) - amount) < _NEAR * abs(amount) or abs(amount) > 1:
        return
    changes = tuple(mixed_in(radio, stick, "pitch", amount))
    name = {"flap": "Flaps down", "throttle": "Full throttle"}[stick]
    way = "down" if asked > 0 else "up"
    ways = (Remedy("mix", say(f"Mix {{}} of elevator {way} into it", Measured(abs(amount), "fraction", 0)), changes),)
    yield Finding(
        f"sticks.mix_{stick}",
        "settled",
        "controls",
        say(f"{name} asks for {{}} of elevator {way}.", angle(abs(asked))),
        say("Hold it by hand on the first flights; mix it in once it has been felt."),
        ways if changes else (),
        (key,),
    )


def _present(channels: tuple[Channel, ...], stick: StickName) -> float:
    """Return how much of the pitch throw a stick asks for by the mixes that there are."""
    for channel in channels:
        pitch = next((part.amount for part in channel.mix if part.stick == "pitch"), 0.0)
        mine = next((part.amount for part in channel.mix if part.stick == stick), None)
        if pitch and mine is not None and not any(part.stick == "roll" for part in channel.mix):
            return mine / pitch
    return 0.0


def _at_rest(design: Design, report: Report) -> Iterator[Finding]:
    """Say when it trims far from its cruise with the sticks let go, and how its control is set by hand."""
    resting, wanted = report.results.resting, report.value("trim.elevator")
    cruise, stall = report.value("speed.cruise"), report.value("speed.stall")
    if resting is None or wanted is None or cruise is None or stall is None:
        return
    flown = resting.speed
    if flown is not None and stall * _SLOWEST <= flown <= cruise * _FASTEST:
        return
    angles = deflection_for(wanted)
    changes, edge = [], 0.0
    for i, j, surface, control in controls_of(design, PITCH_CONTROLS):
        changes.append(Change(f"surfaces[{i}].controls[{j}].neutral", round(angles, 4)))
        edge = 2 * control_size(surface, control)[1] * math.sin(0.5 * abs(angles))
    way = "down" if angles > 0 else "up"
    text = (
        say("Sticks let go, it trims at no speed.")
        if flown is None
        else say("Sticks let go, it trims at {}.", Measured(flown, "speed", 1))
    )
    words = say(f"Set it {{}} {way} at rest, {{}} at its edge", angle(abs(angles)), Measured(edge, "length", 1))
    yield Finding(
        "sticks.rest",
        "settled",
        "controls",
        text,
        say("Cruise is {}. What is set by hand at rest moves that, and so does the balance.",
            Measured(cruise, "speed", 1)),
        (Remedy("at_rest", words, tuple(changes)),) if changes and abs(angles) < _MOST_AT_REST else (),
        ("trim.rest_speed", "trim.rest_balance"),
    )  # fmt: skip


def _thrust_sense(design: Design, report: Report) -> Iterator[Finding]:
    """Say when the throttles turn it against the rudder stick, as after two motors or their leads were swapped."""
    moment, radio = report.value("control.thrust_yaw"), design.radio
    if moment is None or radio is None or moment >= 0:
        return
    changes = []
    for k, channel in enumerate(radio.channels):
        if any(part.stick == "throttle" for part in channel.mix):
            mix = tuple(part.model_copy(update={"amount": -part.amount}) if part.stick == "yaw" else part
                        for part in channel.mix)  # fmt: skip
            if mix != channel.mix:
                changes.append(Change(f"radio.channels[{k}].mix", mix))
    yield Finding(
        "sticks.thrust",
        "stop",
        "controls",
        say("The throttles turn it left for a rudder stick to the right."),
        say("So it is after two motors, or their leads, were swapped. A gyro on them would spin it round."),
        (Remedy("turn_over", say("Turn the rudder's share of the throttles over"), tuple(changes)),),
        ("control.thrust_yaw",),
    )
