"""Ways out for the power train that try a neighbour and keep it only when it helps and holds every rating."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.power import PowerTrain, Propeller
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.on_hand import larger_propellers, packs_of, smaller_propellers, steeper_propellers
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.exchange import exchange, scaled
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.engine.power.held_thrust import throttle_for_thrust
from ridgeline.engine.power.limits import CRUISE_THROTTLE, ESC_SHARE
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.prop_sizes import size_words, with_propeller
from ridgeline.engine.power.ratings import ratings
from ridgeline.engine.report import Remedy, Report

_STEEPEST = 1.0
#: No propeller is offered smaller than this, m.
_LEAST_SIZE = 0.0301
_LEAST_CRUISE_RATIO = 1.3


def fewer_cells(design: Design, report: Report, train: PowerTrain, most: int) -> Iterator[Remedy]:
    """Offer a pack of the energy there is now in the cells that motor and controller take."""
    cells = most // train.pack_series
    if cells < 1:
        return
    scale = train.pack.cells / cells
    capacity = round(train.pack.capacity_ah * scale, 1)
    shelf = packs_of(report, cells)
    if shelf is not None:
        alike = [p for p in shelf if 0.75 * capacity <= p.capacity_ah <= 1.35 * capacity]
        if not alike:
            return
        pack = min(alike, key=lambda p: abs(p.capacity_ah - capacity))
        words = say(f"Fit a {pack.name} pack: about the same energy")
        yield Remedy("fewer_cells", words, exchange(design, "pack", pack, f"Pack {pack.name}"))
        return
    pack = train.pack.model_copy(
        update={
            "name": f"{cells}S {1000 * capacity:.0f}",
            "cells": cells,
            "capacity_ah": capacity,
            "cell_resistance": scaled(train.pack.cell_resistance, 1 / scale),
        }
    )
    words = say(f"Fit a {pack.name} pack of the same energy")
    yield Remedy("fewer_cells", words, exchange(design, "pack", pack, f"Pack {pack.name}"))


def _holds(design: Design, train: PowerTrain, density: float) -> bool:
    """Tell whether a train keeps within its ratings standing at full throttle."""
    point = solve(chain(train, 1.0, design.brief.temperature_c), 1.0, 0.0, density)
    current, held = float(point.motor_current), ratings(train)
    return (
        current <= min(held.esc_current, train.motor.max_current)
        and float(point.pack_current) <= held.pack_current
        and float(point.motor_heat) <= held.motor_heat
    )


def steeper_propeller(
    design: Design, report: Report, pitch_speed: float = 0.0, throttle: float = 1.0
) -> Iterator[Remedy]:
    """Step the pitch up by half inches until the pitch speed, m/s, and the throttle in cruise are as wished."""
    train, here = design.power, report.results.air
    cruise, flown = report.value("speed.cruise"), report.results.flight
    if train is None or cruise is None or flown is None or train.propeller.table:
        return
    for prop in steeper_propellers(report, train.propeller, _STEEPEST):
        other = train.model_copy(update={"propeller": prop})
        if not _holds(design, other, here.density):
            return
        point = solve(chain(other, 1.0, design.brief.temperature_c), 1.0, 0.0, here.density)
        link = chain(other, MEAN_CHARGE, design.brief.temperature_c)
        level = float(throttle_for_thrust(link, flown.cruise_drag, cruise, here.density))
        speed = prop.pitch * float(point.rpm) / 60
        if speed >= pitch_speed and level <= throttle:
            words = say(
                f"Propeller {size_words(train.propeller)} → {size_words(prop)}: cruise at {{}}, {{}}",
                Measured(level, "fraction", 0),
                Measured(float(point.pack_current), "current"),
            )
            yield Remedy("steeper_propeller", words, with_propeller(design, prop))
            return


def slower_cruise(design: Design, report: Report) -> Iterator[Remedy]:
    """Offer the fastest cruise that the throttle allows, above a safe margin over the stall."""
    train, here, stall = design.power, report.results.air, report.value("speed.stall")
    model, mass = report.results.polar, report.value("mass.auw")
    if train is None or stall is None or model is None or mass is None:
        return
    from ridgeline.engine.aero.drag import drag, thrust_left

    link = chain(train, MEAN_CHARGE, design.brief.temperature_c)
    ratio = design.brief.cruise_ratio
    while ratio - 0.05 >= _LEAST_CRUISE_RATIO:
        ratio = round(ratio - 0.05, 2)
        needed = drag(model, ratio * stall, mass, here.density, here.viscosity)
        needed /= thrust_left(model, train.propeller.diameter)
        level = float(throttle_for_thrust(link, needed, ratio * stall, here.density))
        if level <= CRUISE_THROTTLE:
            words = say("Cruise at {}: {}", Measured(ratio * stall, "speed"), Measured(level, "fraction", 0))
            yield Remedy("slower_cruise", words, (Change("brief.cruise_ratio", ratio),))
            return


def standing_with(design: Design, train: PowerTrain, propeller: Propeller, air_density: float) -> tuple[float, float]:
    """Return thrust N and pack current A, standing on a full pack, with another propeller."""
    other = train.model_copy(update={"propeller": propeller})
    point = solve(chain(other, 1.0, design.brief.temperature_c), 1.0, 0.0, air_density)
    return float(point.thrust), float(point.pack_current)


def smaller_propeller(design: Design, report: Report, train: PowerTrain, limit: float) -> Iterator[Remedy]:
    """Step the diameter down by half inches until the current fits."""
    density = report.results.air.density
    for propeller in smaller_propellers(report, train.propeller, max(0.5 * train.propeller.diameter, _LEAST_SIZE)):
        thrust, current = standing_with(design, train, propeller, density)
        if current <= limit:
            changes = with_propeller(design, propeller)
            words = say(
                f"Propeller {size_words(train.propeller)} → {size_words(propeller)}: {{}}, thrust ratio {{}}",
                Measured(current, "current"),
                Measured(ratio_after(design, report, thrust, changes), "ratio"),
            )
            yield Remedy("smaller_propeller", words, changes)
            return


def ratio_after(design: Design, report: Report, thrust: float, changes: tuple[Change, ...]) -> float:
    """Return the thrust ratio that a thrust, N, gives once edits have changed the weight too."""
    mass = (report.value("mass.auw") or 0.0) + mass_gained(design, report, changes)
    return thrust / (mass * GRAVITY) if mass > 0 else 0.0


def larger_propeller(design: Design, report: Report, train: PowerTrain, needed: float) -> Iterator[Remedy]:
    """Step the diameter up by half inches to the thrust ratio, as long as every rating holds."""
    density = report.results.air.density
    esc, pack = train.motors * train.esc.max_current, ratings(train).pack_current
    for propeller in larger_propellers(report, train.propeller):
        thrust, current = standing_with(design, train, propeller, density)
        if current > min(ESC_SHARE * esc, pack, train.motors * train.motor.max_current):
            if report.shelf is None:
                return
            continue
        changes = with_propeller(design, propeller)
        ratio = ratio_after(design, report, thrust, changes)
        if ratio >= needed:
            words = say(
                f"Propeller {size_words(train.propeller)} → {size_words(propeller)}: ratio {{}}, {{}}",
                Measured(ratio, "ratio"),
                Measured(current, "current"),
            )
            yield Remedy("larger_propeller", words, changes)
            return


def cooler_propeller(design: Design, report: Report, train: PowerTrain) -> Iterator[Remedy]:
    """Find the current at which the motor keeps cool, and the propeller that draws no more."""
    here = report.results.air.density
    for propeller in smaller_propellers(report, train.propeller, max(0.5 * train.propeller.diameter, _LEAST_SIZE)):
        other = train.model_copy(update={"propeller": propeller})
        point = solve(chain(other, 1.0, design.brief.temperature_c), 1.0, 0.0, here)
        cool = float(point.motor_heat) <= ratings(other).motor_heat
        if cool and float(point.motor_current) <= train.motor.max_current:
            yield from smaller_propeller(design, report, train, float(point.pack_current) * (1 + 1e-9))
            return
