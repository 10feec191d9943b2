"""Findings on the power train: thrust, current, heat, pitch speed, time."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.power import PowerTrain
from ridgeline.engine.advice.gain import mass_gained, with_gain
from ridgeline.engine.advice.on_hand import controller_of, lacking, larger_packs, stronger_pack
from ridgeline.engine.advice.power_remedies import (
    cooler_propeller,
    fewer_cells,
    larger_propeller,
    slower_cruise,
    smaller_propeller,
    steeper_propeller,
)
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.limits import CRUISE_THROTTLE, ESC_SHARE, MOTOR_HEAT_MINUTE, PITCH_OVER_STALL
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import continuous_current
from ridgeline.engine.power.propeller import PITCH_RATIOS, in_range
from ridgeline.engine.power.ratings import ratings
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.purposes import PURPOSES

#: A pack this much larger than the one there is is another aircraft's.
_MOST_LARGER = 2.5
#: A time that a clock of minutes cannot tell from the wish agrees with it: half a minute, s, or this share.
_CLOCK, _CLOCK_SHARE = 30.0, 0.05


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the power train standing and in flight."""
    if design.power is None or report.value("power.static_thrust") is None:
        if design.power is not None:
            why = report.figures["power.static_thrust"].why_not
            yield Finding(
                "power.stopped", "stop", "power", say("The motor does not turn."), say(f"{why}.".capitalize())
            )
        return
    yield from _law(design.power)
    yield from _cells(design, report, design.power)
    yield from _current(design, report, design.power)
    yield from _thrust(design, report, design.power)
    yield from _motor(design, report, design.power)
    yield from _flight(design, report)


def _law(train: PowerTrain) -> Iterator[Finding]:
    """Say when the propeller lies outside what its law was set by."""
    if in_range(train.propeller):
        return
    ratio = train.propeller.pitch / train.propeller.diameter
    low, high = (Measured(value, "ratio", 1) for value in PITCH_RATIOS)
    yield Finding(
        "power.propeller_law",
        "look",
        "power",
        say("A pitch of {} diameters is outside what is known.", Measured(ratio, "ratio")),
        say("The family law holds from {} to {}; its figures here are those of the nearer end.", low, high),
    )


def _cells(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    most = min(train.motor.max_cells, train.esc.max_cells)
    if train.cells <= most:
        return
    weakest = "motor" if train.motor.max_cells <= train.esc.max_cells else "ESC"
    yield Finding(
        "power.cells",
        "stop",
        "power",
        say(f"{train.cells} cells are too many: the {weakest} takes {most}."),
        say("It burns out at the first full throttle, perhaps on the bench in front of you."),
        tuple(fewer_cells(design, report, train, most)),
    )


def _current(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    current = report.value("power.static_current") or 0.0
    esc, pack = train.motors * train.esc.max_current, ratings(train).pack_current
    now = Measured(current, "current")
    if current > ESC_SHARE * esc:
        over = current > esc
        reason = say("A fifth of the rating is kept back: {} at most.", Measured(ESC_SHARE * esc, "current"))
        bigger, each = tuple(_bigger_esc(design, report, train, current)), current / train.motors / ESC_SHARE
        yield Finding(
            "power.esc_current",
            "stop" if over else "look",
            "power",
            say(
                "{} is over the ESC's {}." if over else "{} leaves the {} ESC little in hand.",
                now,
                Measured(esc, "current", 0),
            ),
            reason if bigger else lacking(reason, "about {} for each motor", Measured(each, "current", 0)),
            (*smaller_propeller(design, report, train, ESC_SHARE * esc), *bigger),
            ("power.static_current",),
        )
    if current > pack:
        claimed = say(f"Claimed {train.pack.c_rating:.0f} C, of which 60 % and at most 30 C are to be counted on.")
        stronger = tuple(_bigger_pack(design, report, train, current))
        yield Finding(
            "power.pack_current",
            "stop" if current > 1.3 * pack else "look",
            "power",
            say("{} is more than the pack gives: {}.", now, Measured(pack, "current", 0)),
            claimed if stronger else lacking(claimed, "{} or more to count on", Measured(current, "current", 0)),
            (*smaller_propeller(design, report, train, pack), *stronger),
            ("power.static_current",),
        )
    if current <= min(ESC_SHARE * esc, pack):
        yield Finding(
            "power.current",
            "settled",
            "power",
            say("{} at full throttle is within every rating.", now),
            say("ESC {}, pack {} to count on.", Measured(esc, "current", 0), Measured(pack, "current", 0)),
            (),
            ("power.static_current",),
        )


def _bigger_esc(design: Design, report: Report, train: PowerTrain, current: float) -> Iterator[Remedy]:
    esc = controller_of(report, train.esc, current / train.motors / ESC_SHARE, train.cells)
    if esc is None:
        return
    # A bigger controller has less resistance and so lets a little more current through: size it for that.
    link = chain(train.model_copy(update={"esc": esc}), 1.0, design.brief.temperature_c)
    drawn = float(solve(link, 1.0, 0.0, report.results.air.density).pack_current)
    esc = controller_of(report, train.esc, drawn / train.motors / ESC_SHARE, train.cells)
    if esc is None:
        return
    changes = exchange(design, "esc", esc, esc.name)
    words = with_gain(f"Fit a {esc.max_current:.0f} A ESC", mass_gained(design, report, changes))
    yield Remedy("bigger_esc", words, changes)


def _bigger_pack(design: Design, report: Report, train: PowerTrain, current: float) -> Iterator[Remedy]:
    pack = stronger_pack(report, train, current)
    if pack is None:
        return
    named = f"Pack {pack.name}: {{}} to count on"
    same = f"Same size of pack in {pack.c_rating:.0f} C: {{}} to count on"
    words = say(same if report.shelf is None else named, Measured(continuous_current(pack), "current", 0))
    yield Remedy("stronger_pack", words, exchange(design, "pack", pack, f"Pack {pack.name}"))


def _thrust(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    ratio, auw = report.value("power.thrust_ratio"), report.value("mass.auw")
    if ratio is None or auw is None:
        return
    low, high = PURPOSES[design.brief.purpose].thrust_ratio
    climbing = report.value("flight.climb_thrust_ratio")
    now, bottom, top = Measured(ratio, "ratio"), Measured(low, "ratio", 1), Measured(high, "ratio", 1)
    if ratio < low:
        lose = auw - auw * ratio / low
        yield Finding(
            "power.thrust_low",
            "look" if ratio > 0.7 * low else "stop",
            "power",
            say("Thrust ratio {} is low: {} to {} is usual.", now, bottom, top),
            say("It climbs poorly and lives at full throttle; or lose {}.", Measured(lose, "mass")),
            tuple(larger_propeller(design, report, train, low)),
            ("power.thrust_ratio",),
        )
        return
    vertical = climbing is not None and climbing > 1.0
    yield Finding(
        "power.thrust",
        "settled",
        "power",
        say(
            "It climbs straight up." if vertical else "Thrust ratio {} is enough; it will not hang on it.",
            now,
        ),
        say(
            "{} standing, {} at climb speed, where vertical flight is judged.",
            now,
            Measured(climbing or 0.0, "ratio"),
        ),
        (),
        ("power.thrust_ratio", "flight.climb_thrust_ratio"),
    )


def _motor(design: Design, report: Report, train: PowerTrain) -> Iterator[Finding]:
    heat = report.value("power.motor_heat")
    current = (report.value("power.static_current") or 0.0) / train.motors
    if heat is None:
        return
    ratio = heat / train.motor.mass
    density = f"{ratio / 1000:.2f} W/g"
    warm, most = ratio > MOTOR_HEAT_MINUTE, train.motor.max_current
    hot = warm or current > most
    text = say(f"The motor runs {'hot' if warm else 'cool enough'}: {density}.")
    if hot and not warm:
        text = say("The motor draws {}, and {} is its most.", Measured(current, "current"), Measured(most, "current"))
    level: Level = "look" if ratio < 1.5 * MOTOR_HEAT_MINUTE and current < 1.3 * train.motor.max_current else "stop"
    yield Finding(
        "power.motor_hot" if hot else "power.motor_cool",
        level if hot else "settled",
        "power",
        text,
        say(
            "{} of heat in {} of motor at full throttle; "
            f"{MOTOR_HEAT_MINUTE / 1000:.2f} W/g for a minute and {{}} are the limits.",
            Measured(heat, "power"),
            Measured(train.motor.mass, "mass"),
            Measured(train.motor.max_current, "current", 0),
        ),
        tuple(cooler_propeller(design, report, train)) if hot else (),
        ("power.motor_heat", "power.motor_seconds"),
    )


def _flight(design: Design, report: Report) -> Iterator[Finding]:
    pitch, stall = report.value("power.pitch_speed"), report.value("speed.stall")
    over_stall = report.value("power.pitch_ratio")
    if pitch is not None and stall is not None and over_stall is not None:
        ratio = Measured(over_stall, "ratio", 1)
        low = over_stall < PITCH_OVER_STALL
        yield Finding(
            "power.pitch_speed",
            "look" if low else "settled",
            "power",
            say(
                "Pitch speed is only {} times the stall." if low else "Pitch speed is {} times the stall.",
                ratio,
            ),
            say("{} standing; 2.5 to 3 or more is usual.", Measured(pitch, "speed", 0)),
            tuple(steeper_propeller(design, report, pitch_speed=PITCH_OVER_STALL * stall)) if low else (),
            ("power.pitch_ratio", "power.pitch_speed", "speed.stall"),
        )
    throttle = report.figures.get("flight.cruise_throttle")
    if throttle is not None and throttle.value is None and stall is not None:
        yield Finding(
            "flight.no_cruise",
            "stop",
            "power",
            say("It does not hold level flight."),
            say(f"{throttle.why_not}.".capitalize()),
        )
    elif throttle is not None and throttle.value is not None:
        much = throttle.value > CRUISE_THROTTLE
        yield Finding(
            "flight.cruise_throttle",
            "look" if much else "settled",
            "power",
            say("Level flight needs {} throttle.", Measured(throttle.value, "fraction", 0)),
            say("About half is the wish, {} the limit.", Measured(CRUISE_THROTTLE, "fraction", 0)),
            tuple(_less_throttle(design, report)) if much else (),
            ("flight.cruise_throttle",),
        )
    yield from _endurance(design, report)


def _less_throttle(design: Design, report: Report) -> Iterator[Remedy]:
    yield from steeper_propeller(design, report, throttle=CRUISE_THROTTLE)
    yield from slower_cruise(design, report)


def _endurance(design: Design, report: Report) -> Iterator[Finding]:
    minutes = report.value("flight.endurance")
    if minutes is None:
        return
    wish = design.brief.endurance
    short = minutes < wish - min(_CLOCK, _CLOCK_SHARE * wish)
    yield Finding(
        "flight.endurance",
        "look" if short else "settled",
        "power",
        say("It stays up {}, {} wished.", Measured(minutes, "time"), Measured(wish, "time")),
        say(
            "{} climbing, then {} of the time full throttle; a fifth stays in the pack.",
            Measured(design.brief.climb_seconds, "seconds", 0),
            Measured(design.brief.full_share, "fraction", 0),
        ),
        tuple(_larger_pack(design, report, minutes)) if short else (),
        ("flight.endurance",),
    )


def _larger_pack(design: Design, report: Report, seconds: float) -> Iterator[Remedy]:
    """Offer the same cells in the capacity that lasts as wished, its own mass flown along."""
    train = design.power
    if train is None or seconds <= 0:
        return
    pack = train.pack
    for fresh in larger_packs(report, pack):
        scale = fresh.capacity_ah / pack.capacity_ah
        added = (mass_of(fresh) - mass_of(pack)) * train.packs
        # Level flight costs power by mass to the 3/2 power at a fixed lift coefficient.
        heavier = 1 + added / design.brief.ceiling
        if seconds * scale / heavier**1.5 < 1.02 * design.brief.endurance:
            continue
        if scale > _MOST_LARGER:
            return
        changes = exchange(design, "pack", fresh, f"Pack {fresh.name}")
        yield Remedy(
            "larger_pack", with_gain(f"Fit a {fresh.name} pack", mass_gained(design, report, changes)), changes
        )
        return
