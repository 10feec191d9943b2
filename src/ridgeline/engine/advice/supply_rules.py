"""Findings on what the power train must also stand: cells, tips, controller, supply, wire, bench, one motor out."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import PowerTrain
from ridgeline.engine.advice.gain import mass_gained, with_gain
from ridgeline.engine.advice.on_hand import controller_of, lacking
from ridgeline.engine.bands import BAND
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.limits import TIP_MACH
from ridgeline.engine.power.pack import least_voltage
from ridgeline.engine.power.prop_sizes import HALF_INCH, resized, size_words, with_propeller
from ridgeline.engine.power.propeller import law_of, tip_speed_limit
from ridgeline.engine.power.supply import LINEAR_HEAT, gauge_for, linear_heat, wire_current, with_supply
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.constraints import RELEASE_OVER_STALL

#: A stated speed constant this far from the measured one is worth a word.
_KV_GAP = 0.03
#: Share of the full rudder one motor out may ask for.
_RUDDER_SHARE = 0.7

#: A cell pulled this far under its least is being ruined, V.
_DAMAGING = 0.4


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what hangs on the power train."""
    train = design.power
    if train is not None and report.value("power.static_thrust") is not None:
        yield from _kinds(train)
        yield from _cell_voltage(report, train)
        yield from _tips(design, report, train)
        yield from _controller(report, train)
        yield from _receiver(design, report, train)
        yield from _plugs(train)
        yield from _wire(report, train)
        yield from _bench(train)
        yield from _table(report, train)
        yield from _cooling(report, train)
        yield from _one_out(report)
    yield from _throw(report)


def _look(key: str, words: str, reason: str, *values: Measured, level: Level = "look", figure: str = "") -> Finding:
    """Make a finding whose sentence takes the first value and whose reason the others."""
    told = say(words, *values[: words.count("{}")])
    why = say(reason, *values[words.count("{}") :])
    return Finding(key, level, "power", told, why, (), (figure,) if figure else ())


def _kinds(train: PowerTrain) -> Iterator[Finding]:
    if train.motor.kind != train.esc.kind:
        motor, esc = train.motor.kind, train.esc.kind
        words, why = f"A {esc} controller does not turn a {motor} motor.", "Fit a controller of the motor's kind."
        yield _look("power.kinds", words, why, level="stop")


def _cell_voltage(report: Report, train: PowerTrain) -> Iterator[Finding]:
    volts, least = report.value("power.cell_voltage"), least_voltage(train.pack)
    if volts is None or volts >= least:
        return
    yield _look(
        "power.cell_voltage",
        "Full throttle pulls each cell down to {}.",
        "Under {} a cell is being damaged, and the controller may cut off: a larger pack, or a smaller propeller.",
        Measured(volts, "voltage", 2),
        Measured(least, "voltage", 1),
        level="stop" if volts < least - _DAMAGING else "look",
        figure="power.cell_voltage",
    )


def _tips(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    rpm, mach = report.value("power.static_rpm"), report.value("power.tip_mach")
    if rpm is None or mach is None:
        return
    tip, limit = math.pi * train.propeller.diameter * rpm / 60, tip_speed_limit(train.propeller)
    if tip <= limit and mach <= TIP_MACH:
        return
    most = min(limit, TIP_MACH * tip / mach)
    family = train.propeller.family.replace("_", " ")
    yield Finding(
        "power.propeller_speed",
        "stop" if tip > 1.15 * limit else "look",
        "power",
        say("{} is too fast for this propeller.", Measured(rpm, "rotation", 0)),
        say(
            f"A {family} propeller of this size is made for {{}}; a blade that lets go is a knife.",
            Measured(rpm * most / tip, "rotation", 0),
        ),
        tuple(_smaller(design, train, most / tip)),
        ("power.static_rpm", "power.tip_mach"),
    )


def _smaller(design: Design, train: PowerTrain, share: float) -> Iterator[Remedy]:
    """Offer a propeller whose tips are slower: a smaller one turns faster, by less than its size."""
    size = train.propeller.diameter * share**1.5
    size = max(math.floor(size / HALF_INCH) * HALF_INCH, 2 * HALF_INCH)
    if size < train.propeller.diameter and train.propeller.family != "ducted_fan":
        prop = resized(train.propeller, size)
        words = say(f"Propeller {size_words(train.propeller)} → {size_words(prop)}")
        yield Remedy("smaller_propeller", words, with_propeller(design, prop))


def _controller(report: Report, train: PowerTrain) -> Iterator[Finding]:
    electric = report.value("power.erpm")
    if electric is None or train.esc.max_erpm <= 0 or electric <= train.esc.max_erpm:
        return
    yield _look(
        "power.erpm",
        "The controller cannot follow {}.",
        "Electrical turns at full throttle; it is made for {}. A sweep with the propeller off finds the stutter.",
        Measured(electric, "rotation", 0),
        Measured(train.esc.max_erpm, "rotation", 0),
        level="stop",
        figure="power.erpm",
    )


def _receiver(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    load, esc = report.value("power.receiver_load"), train.esc
    stand = report.results.standing
    if load is None or stand is None or not report.results.supplying:
        return
    if esc.bec_current <= 0:
        why = "This controller gives none: plan {} from a supply or a pack of its own."
        words = "The receiver needs a supply of its own."
        yield _look("power.receiver_supply", words, why, Measured(load, "current"), figure="power.receiver_load")
    elif load > esc.bec_current:
        reason = say(
            "The controller's supply gives {}; an overloaded one drops the radio. A separate supply does it too.",
            Measured(esc.bec_current, "current"),
        )
        stronger = tuple(_stronger_supply(design, report, train, load))
        yield Finding(
            "power.receiver_supply",
            "stop" if load > 1.3 * esc.bec_current else "look",
            "power",
            say("The servos may draw {} at once.", Measured(load, "current")),
            reason if stronger else lacking(reason, "one of {} or more", Measured(load, "current")),
            stronger,
            ("power.receiver_load",),
        )
    elif esc.bec_linear:
        volts = stand.chain.open_circuit
        heat = linear_heat(volts, load)
        if heat > LINEAR_HEAT:
            yield _look(
                "power.linear_supply",
                "The linear supply burns {}.",
                "It drops {} to 5 V; more than {} and it shuts down. Fit a switching supply or fewer cells.",
                Measured(heat, "power", 1),
                Measured(volts, "voltage"),
                Measured(LINEAR_HEAT, "power", 1),
                figure="power.receiver_load",
            )


def _stronger_supply(design: Design, report: Report, train: PowerTrain, load: float) -> Iterator[Remedy]:
    """Offer a controller of the same rating with the next supply that is sold, 6 g heavier."""
    esc = with_supply(train.esc, load)
    if report.shelf is not None:
        esc = controller_of(report, train.esc, train.esc.max_current, train.cells, load)
    if esc is None:
        return
    changes = exchange(design, "esc", esc, esc.name)
    words = with_gain(f"A controller with a {esc.bec_current:.0f} A supply", mass_gained(design, report, changes))
    yield Remedy("stronger_supply", words, changes)


def _plugs(train: PowerTrain) -> Iterator[Finding]:
    """Say that the pack's plug and the controller's are not alike."""
    one, other = train.pack.connector.strip(), train.esc.connector.strip()
    if one and other and one.casefold() != other.casefold():
        yield Finding(
            "power.plug",
            "look",
            "power",
            say("The pack's plug, {}, does not go into the controller's, {}.", one, other),
            say("Solder one of them anew, poles checked twice; an adapter costs volts and is one more loose joint."),
        )


def _wire(report: Report, train: PowerTrain) -> Iterator[Finding]:
    current = report.value("power.static_current")
    if train.lead_awg is None or current is None or current <= wire_current(train.lead_awg):
        return
    gauge = gauge_for(current)
    yield Finding(
        "power.wire",
        "look" if current < 1.4 * wire_current(train.lead_awg) else "stop",
        "power",
        say(f"{train.lead_awg} AWG leads are thin for {{}}.", Measured(current, "current")),
        say(
            "They carry {} continuously; hot leads melt solder and sag the pack.",
            Measured(wire_current(train.lead_awg), "current", 0),
        ),
        (Remedy("thicker_wire", say(f"Use {gauge} AWG"), (Change("power.lead_awg", gauge),)),),
        ("power.static_current",),
    )


def _bench(train: PowerTrain) -> Iterator[Finding]:
    motor = train.motor
    if motor.kv_sigma is None or motor.stated_kv is None:
        return
    share = motor.kv_rpm_per_v / motor.stated_kv - 1
    far = abs(share) > _KV_GAP
    side = "over" if share > 0 else "under"
    yield Finding(
        "power.measured_kv",
        "settled",
        "power",
        say(
            f"Kv measured {{}} {side} what was stated." if far else "Kv is as stated, within {}.",
            Measured(abs(share), "fraction", 1),
        ),
        say(
            "{} on the bench, ± {}; {} stated. The measured constants are used.",
            Measured(motor.kv_rpm_per_v, "speed_constant", 0),
            Measured(BAND * motor.kv_sigma, "fraction", 1),
            Measured(motor.stated_kv, "speed_constant", 0),
        ),
        (),
        ("power.static_rpm",),
    )


def _table(report: Report, train: PowerTrain) -> Iterator[Finding]:
    top, rpm = report.value("speed.max"), report.value("power.static_rpm")
    if not train.propeller.table or top is None or rpm is None:
        return
    reach = law_of(train.propeller).valid_to
    fastest = top / (rpm / 60 * train.propeller.diameter)
    if fastest > reach:
        yield _look(
            "power.table_reach",
            "Top speed lies past the propeller's table.",
            "The table ends at J = {}; top speed is near {}. Beyond it the last slope is carried on.",
            Measured(reach, "ratio"),
            Measured(fastest, "ratio"),
            figure="speed.max",
        )


def _cooling(report: Report, train: PowerTrain) -> Iterator[Finding]:
    needed = report.value("power.cooling_inlet")
    if needed is None or train.cooling_inlet <= 0 or train.cooling_inlet >= needed:
        return
    yield _look(
        "power.cooling",
        "The cooling inlet is small: {}.",
        "{} carry the heat of a climb away, and an exit half as large again.",
        Measured(train.cooling_inlet, "area"),
        Measured(needed, "area"),
        figure="power.cooling_inlet",
    )


def _one_out(report: Report) -> Iterator[Finding]:
    rudder, handled = report.value("power.one_out_rudder"), report.results.handling
    if rudder is None or handled is None:
        return
    full = handled.throws.yaw
    held = abs(rudder) <= _RUDDER_SHARE * full
    yield Finding(
        "power.one_out",
        "settled" if held else "look",
        "power",
        say("With one motor out {} of rudder hold it.", Measured(abs(rudder), "angle", 0)),
        say(
            "{} is full rudder. Close the throttle first, then land ahead."
            if held
            else "Full rudder is {}: move the motors inward, or close the throttle and land ahead.",
            Measured(full, "angle", 0),
        ),
        (),
        ("power.one_out_rudder",),
    )


def _throw(report: Report) -> Iterator[Finding]:
    ratio = report.value("launch.speed_ratio")
    if ratio is None:
        return
    short = ratio < RELEASE_OVER_STALL
    yield Finding(
        "launch.throw",
        ("stop" if ratio < 0.9 else "look") if short else "settled",
        "power",
        say("It leaves the hand at {} times the stall.", Measured(ratio, "ratio")),
        say(
            "A firm throw into the brief's wind; {} and more is wanted. A tail wind subtracts"
            + ("." if report.results.standing is None else "; keep clear of the disc."),
            Measured(RELEASE_OVER_STALL, "ratio"),
        ),
        (),
        ("launch.speed_ratio",),
    )
