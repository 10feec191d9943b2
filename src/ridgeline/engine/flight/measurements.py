"""What flights, scales and bench measured of an aircraft, beside what the model says it should have been."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight
from ridgeline.engine.flight.airspeed import airspeed_of, full_throttle_passes
from ridgeline.engine.flight.observed import Modelled
from ridgeline.engine.geometry.levelled import Off, bench_fit
from ridgeline.engine.geometry.reference import TAILS, WINGS, main_wing
from ridgeline.engine.power.pack import open_circuit_voltage
from ridgeline.engine.report import Report

#: One sigma of what is read at the field (chosen): angles of trims rad, shares of a roll's time, of a glide, of turns,
#: of a charger's resistance and of how alike a flight is to the brief's; kg and m of scale and supports; volts.
TRIM, POWER_TRIM, FLAP_TRIM, SIDE_TRIM = (math.radians(one) for one in (0.3, 0.4, 0.5, 0.4))
ROLL, GLIDE, TURNS, RESISTS, USE = 0.12, 0.12, 0.02, 0.12, 0.10
SCALE, SUPPORTS, VOLTS = 0.001, 0.0015, 0.018


class Measurement(NamedTuple):
    """Something measured in flight: what it is of, measured less reckoned, and one sigma of the measurement."""

    of: str
    residual: float
    sigma: float
    flights: int


#: What a test measures, and with how much noise: one sigma in the unit of its observable.
TESTABLE: dict[str, tuple[str, float]] = {
    "weigh": ("mass", SCALE),
    "supports": ("balance", SUPPORTS),
    "trim": ("trim_pitch", TRIM),
    "power_trim": ("trim_power", POWER_TRIM),
    "slow_trim": ("slow_trim", POWER_TRIM),
    "flap_trim": ("trim_flap", FLAP_TRIM),
    "roll_trim": ("trim_roll", SIDE_TRIM),
    "passes": ("top_speed", 0.04),
    "glide": ("glide_ratio", GLIDE),
    "charge": ("mean_current", USE),
    "turns": ("rpm", TURNS),
    "roll": ("roll_seconds", ROLL),
    "resistance": ("resistance", RESISTS),
    "tail_level": ("tail_level", math.radians(0.2)),
    "wing_level": ("wing", math.radians(0.2)),
    "tips_level": ("washout", math.radians(0.3)),
    "warp_level": ("warp", math.radians(0.3)),
    "shaft": ("down", math.radians(0.25)),
    "side": ("side", math.radians(0.25)),
    "throws": ("throws", 0.04),
    "play": ("play", math.radians(0.2)),
    "supply": ("supply", 0.4),
    "cooling": ("cooling", 0.4),
    "balance_blades": ("imbalance", 0.3),
    "stand": ("thrust", 0.03),
    "capacity": ("capacity", 0.02),
}


def _mean(values: Iterable[float | None]) -> tuple[float, int] | None:
    known = [value for value in values if value is not None]
    return (math.fsum(known) / len(known), len(known)) if known else None


def measured_of(design: Design, report: Report, flights: tuple[Flight, ...], model: Modelled) -> Iterable[Measurement]:
    """Yield what was measured in flights; entries that cannot be are left out.

    Parameters
    ----------
    design : Design
        The aircraft that flew.
    report : Report
        Of it.
    flights : tuple of Flight
    model : Modelled
        Of it.

    Yields
    ------
    Measurement
    """
    logged, values = report.results.logged, model.values
    doubted = {logged.rows[k].flight.id: {one.kind for one in doubts} for k, doubts in logged.doubts.items()}

    def believed(kind: str) -> tuple[Flight, ...]:
        return tuple(flight for flight in flights if kind not in doubted.get(flight.id, ()))

    level = report.value("trim.elevator")
    mass, state = report.value("mass.auw"), report.results.masses.state
    rows: list[tuple[str, tuple[float, int] | None, float | None, float]] = [
        ("mass", _mean(f.mass for f in flights), mass, SCALE),
        ("balance", _mean(f.balance for f in flights), None if state is None else float(state.cg[0]), SUPPORTS),
        ("trim_pitch", _mean(f.trim_pitch for f in flights), None if level is None else -level, TRIM),
        ("trim_power", _mean(f.trim_power for f in flights), values.get("trim_power"), POWER_TRIM),
        ("trim_flap", _mean(f.trim_flap for f in flights), values.get("trim_flap"), FLAP_TRIM),
        ("trim_roll", _mean(f.trim_roll for f in flights), values.get("trim_roll"), SIDE_TRIM),
        ("trim_yaw", _mean(f.trim_yaw for f in flights), values.get("trim_yaw"), SIDE_TRIM),
        ("roll_seconds", _logs(f.roll_seconds for f in flights), values.get("roll_seconds"), ROLL),
        ("glide_ratio", _logs(f.glide_ratio for f in flights), _log(report.value("glide.ratio")), GLIDE),
        ("rpm", _logs(f.rpm for f in flights), _log(report.value("power.static_rpm")), TURNS),
        ("resistance", _logs(f.resistance for f in flights), _log(_pack_resistance(report)), RESISTS),
    ]
    current = [
        row.mean for row in logged.rows
        if row.mean is not None and row.flight in flights and not doubted.get(row.flight.id)
    ]  # fmt: skip
    usual = report.value("flight.mean_current")
    if current and usual:
        mean = math.fsum(one.value for one in current) / len(current)
        share = math.sqrt(math.fsum((one.sigma / one.value) ** 2 for one in current)) / len(current)
        rows.append(("mean_current", (math.log(mean), len(current)), math.log(usual), math.hypot(share, USE)))
    fast = believed("speed")
    told = [
        one for f in fast if (one := airspeed_of(full_throttle_passes(f.passes), f.wind)) is not None
    ]  # fmt: skip
    top = report.value("speed.max")
    if told and top:
        mean = math.fsum(one.value for one in told) / len(told)
        share = math.sqrt(math.fsum((one.sigma / one.value) ** 2 for one in told)) / len(told)
        rows.append(("top_speed", (math.log(mean), len(told)), math.log(top), max(share, 0.01)))
    train = design.power
    if train is not None:
        left = [f for f in believed("left") if f.rested and f.put_back_ah and f.capacity_ah]
        if left and "rested" in values:
            off = [
                float(f.rested or 0.0)
                - float(open_circuit_voltage(train.pack, max(1 - (f.put_back_ah or 0.0) / f.capacity_ah, 0.02)))
                for f in left
            ]
            rows.append(("rested", (math.fsum(off) / len(off), len(off)), 0.0, VOLTS))
    yield from _on_the_bench(design)
    for of, mean_of, reckoned, sigma in rows:
        if mean_of is None or reckoned is None or of not in model.slopes:
            continue
        value, many = mean_of
        # A reading errs as much each time; half of that stays however often it is taken.
        yield Measurement(of, value - reckoned, sigma * math.sqrt(0.5 + 0.5 / many), many)


def _on_the_bench(design: Design) -> Iterable[Measurement]:
    """Yield what heights on the bench say of tail and tips against the drawing."""
    wings = [surface for surface in design.surfaces if surface.role in WINGS]
    if not design.as_built.levelled or not wings:
        return
    main = design.surfaces.index(main_wing(design.surfaces))
    fit = bench_fit(design.surfaces, design.as_built, main)
    for one in fit.surfaces if fit is not None else ():
        off: tuple[tuple[str, Off | None, float], ...] = ()
        if one.surface == main:
            off = ("washout", one.twist, -1.0), ("warp", one.warp, 1.0)
        elif design.surfaces[one.surface].role in (*TAILS, "foreplane"):
            off = (("tail_level", one.incidence, 1.0),)
        for of, told, sense in off:
            if told is not None:
                yield Measurement(of, sense * told.value, told.sigma, 1)


def _logs(values: Iterable[float | None]) -> tuple[float, int] | None:
    return _mean(None if value is None else math.log(value) for value in values)


def _log(value: float | None) -> float | None:
    return None if value is None or value <= 0 else math.log(value)


def _pack_resistance(report: Report) -> float | None:
    full = report.results.pulling
    return None if full is None else float(full.link.pack_resistance)
