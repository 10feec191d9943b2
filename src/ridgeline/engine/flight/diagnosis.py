"""From the log to ranked causes: what was measured and seen, against what the model says it should have been."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight, SightingKey
from ridgeline.design.keeping import at, same_aircraft
from ridgeline.engine.flight.airspeed import airspeed_of, full_throttle_passes
from ridgeline.engine.flight.inference import Ranked, Sighted, alike, odd, ranked, told_by, worth
from ridgeline.engine.flight.observed import UNKNOWNS, Modelled, Unknown, modelled
from ridgeline.engine.flight.seen import ABOUT, OPPOSED
from ridgeline.engine.geometry.levelled import Off, bench_fit
from ridgeline.engine.geometry.reference import TAILS, WINGS, main_wing
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
#: One sigma of what is read at the field (chosen): angles of trims rad, shares of a roll's time, of a glide, of turns,
#: of a charger's resistance and of how alike a flight is to the brief's; kg and m of scale and supports; volts.
_TRIM, _POWER_TRIM, _FLAP_TRIM, _SIDE_TRIM = (math.radians(one) for one in (0.3, 0.4, 0.5, 0.4))
_ROLL, _GLIDE, _TURNS, _RESISTS, _USE = 0.12, 0.12, 0.02, 0.12, 0.10
_SCALE, _SUPPORTS, _VOLTS = 0.001, 0.0015, 0.018
#: A measurement so many sigmas off all others is told, and a sighting whose chance is under this.
_ODD, _UNLIKELY = 3.0, 0.08
#: So many causes, and tests that would tell them apart, are told; a cause that is told has this ln B at least.
CAUSES, TESTS, LEAST_EVIDENCE = 5, 3, 0.3


class Measurement(NamedTuple):
    """Something measured in flight: what it is of, measured less reckoned, and one sigma of the measurement."""

    of: str
    residual: float
    sigma: float
    flights: int


class Cause(NamedTuple):
    """Something that may have slipped: its chance, ln B, by how much it would have, one sigma of that.

    ``seen_by`` are the measurements and sightings that it goes with most, the most first.
    """

    name: Unknown
    chance: float
    evidence: float
    slip: float
    slip_sigma: float
    seen_by: tuple[str, ...]


class Test(NamedTuple):
    """Something to measure next, what it would tell (nats), and the noise it is taken with."""

    key: str
    worth: float
    sigma: float


class Contradiction(NamedTuple):
    """What does not go together: two sightings, or one measurement or sighting with all the rest."""

    one: str
    other: str
    sigmas: float


@dataclass(frozen=True)
class Diagnosis:
    """What the flights of one version say.

    ``causes`` are ranked; ``nothing`` is the chance that none of them slipped. ``learnt`` gives mean and one sigma of
    every unknown after the flights, ``before`` one sigma before.
    """

    model: Modelled
    flights: tuple[Flight, ...]
    measured: tuple[Measurement, ...]
    seen: tuple[SightingKey, ...]
    causes: tuple[Cause, ...]
    nothing: float
    learnt: Mapping[Unknown, tuple[float, float]]
    before: Mapping[Unknown, float]
    tests: tuple[Test, ...]
    contradictions: tuple[Contradiction, ...]
    covariance: Array


#: What a test measures, and with how much noise: one sigma in the unit of its observable.
TESTABLE: dict[str, tuple[str, float]] = {
    "weigh": ("mass", _SCALE),
    "supports": ("balance", _SUPPORTS),
    "trim": ("trim_pitch", _TRIM),
    "power_trim": ("trim_power", _POWER_TRIM),
    "slow_trim": ("slow_trim", _POWER_TRIM),
    "flap_trim": ("trim_flap", _FLAP_TRIM),
    "roll_trim": ("trim_roll", _SIDE_TRIM),
    "passes": ("top_speed", 0.04),
    "glide": ("glide_ratio", _GLIDE),
    "charge": ("mean_current", _USE),
    "turns": ("rpm", _TURNS),
    "roll": ("roll_seconds", _ROLL),
    "resistance": ("resistance", _RESISTS),
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


def newest_flights(flights: Sequence[Flight]) -> tuple[Flight, ...]:
    """Return the flights of the newest version that flew.

    Parameters
    ----------
    flights : sequence of Flight

    Returns
    -------
    tuple of Flight
    """
    newest = max((flight.version for flight in flights), default=0)
    return tuple(flight for flight in flights if flight.version == newest)


def as_flown(design: Design) -> Design:
    """Return the aircraft that the newest flights flew, with the log and what was learnt.

    Parameters
    ----------
    design : Design

    Returns
    -------
    Design
        The design itself where it is that aircraft still, or that version was not kept.
    """
    flights = newest_flights(design.flights)
    if not flights or not any(one.number == flights[0].version for one in design.versions):
        return design
    was = at(design, flights[0].version)
    if same_aircraft(was, design):
        return design
    return was.model_copy(update={name: getattr(design, name) for name in ("flights", "log_book", "first_throw")})


def diagnosed(design: Design, report: Report, model: Modelled | None = None) -> Diagnosis | None:
    """Return what the flights of the newest version say.

    Parameters
    ----------
    design : Design
        The aircraft that flew, with its log.
    report : Report
        Of the design.
    model : Modelled, optional
        Of the design, where that is known already.

    Returns
    -------
    Diagnosis or None
        None where nothing was flown, or the design cannot be.

    Source
    ------
    docs/theory.md §18.
    """
    flights = newest_flights(design.flights)
    model = modelled(design, report) if model is None and flights else model
    if not flights or model is None:
        return None
    measured = tuple(_measured(design, report, flights, model))
    seen = tuple(dict.fromkeys(key for flight in flights for key in flight.seen))
    sightings = tuple((key, one) for key in seen if (one := _sighted(key, model)) is not None)
    slopes = np.array([model.slopes[one.of] for one in measured]).reshape(-1, len(UNKNOWNS))
    errors = np.diag([one.sigma**2 for one in measured])
    residual = np.array([one.residual for one in measured])
    found = ranked(slopes, errors, model.prior, residual, [one for _key, one in sightings])
    labels = [*(one.of for one in measured), *(key for key, _one in sightings)]
    causes = tuple(_causes(found, model, labels, measured, sightings))
    learnt = {
        name: (float(found.posterior.mean[k]), float(math.sqrt(max(found.posterior.covariance[k, k], 0.0))))
        for k, name in enumerate(UNKNOWNS)
    }
    return Diagnosis(
        model,
        flights,
        measured,
        seen,
        causes,
        found.nothing,
        learnt,
        dict(zip(UNKNOWNS, model.sigmas.tolist(), strict=True)),
        tuple(_tests(found, model, causes, {one.of for one in measured})),
        tuple(_contradictions(seen, measured, sightings, slopes, errors, model, residual)),
        found.posterior.covariance,
    )


def _mean(values: Iterable[float | None]) -> tuple[float, int] | None:
    known = [value for value in values if value is not None]
    return (math.fsum(known) / len(known), len(known)) if known else None


def _measured(design: Design, report: Report, flights: tuple[Flight, ...], model: Modelled) -> Iterable[Measurement]:
    """Yield what was measured in these flights; entries that cannot be are left out."""
    logged, values = report.results.logged, model.values
    doubted = {logged.rows[k].flight.id: {one.kind for one in doubts} for k, doubts in logged.doubts.items()}

    def believed(kind: str) -> tuple[Flight, ...]:
        return tuple(flight for flight in flights if kind not in doubted.get(flight.id, ()))

    level = report.value("trim.elevator")
    mass, state = report.value("mass.auw"), report.results.masses.state
    rows: list[tuple[str, tuple[float, int] | None, float | None, float]] = [
        ("mass", _mean(f.mass for f in flights), mass, _SCALE),
        ("balance", _mean(f.balance for f in flights), None if state is None else float(state.cg[0]), _SUPPORTS),
        ("trim_pitch", _mean(f.trim_pitch for f in flights), None if level is None else -level, _TRIM),
        ("trim_power", _mean(f.trim_power for f in flights), values.get("trim_power"), _POWER_TRIM),
        ("trim_flap", _mean(f.trim_flap for f in flights), values.get("trim_flap"), _FLAP_TRIM),
        ("trim_roll", _mean(f.trim_roll for f in flights), values.get("trim_roll"), _SIDE_TRIM),
        ("trim_yaw", _mean(f.trim_yaw for f in flights), values.get("trim_yaw"), _SIDE_TRIM),
        ("roll_seconds", _logs(f.roll_seconds for f in flights), values.get("roll_seconds"), _ROLL),
        ("glide_ratio", _logs(f.glide_ratio for f in flights), _log(report.value("glide.ratio")), _GLIDE),
        ("rpm", _logs(f.rpm for f in flights), _log(report.value("power.static_rpm")), _TURNS),
        ("resistance", _logs(f.resistance for f in flights), _log(_pack_resistance(report)), _RESISTS),
    ]
    current = [
        row.mean for row in logged.rows
        if row.mean is not None and row.flight in flights and not doubted.get(row.flight.id)
    ]  # fmt: skip
    usual = report.value("flight.mean_current")
    if current and usual:
        mean = math.fsum(one.value for one in current) / len(current)
        share = math.sqrt(math.fsum((one.sigma / one.value) ** 2 for one in current)) / len(current)
        rows.append(("mean_current", (math.log(mean), len(current)), math.log(usual), math.hypot(share, _USE)))
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
            from ridgeline.engine.power.pack import open_circuit_voltage

            off = [
                float(f.rested or 0.0)
                - float(open_circuit_voltage(train.pack, max(1 - (f.put_back_ah or 0.0) / f.capacity_ah, 0.02)))
                for f in left
            ]
            rows.append(("rested", (math.fsum(off) / len(off), len(off)), 0.0, _VOLTS))
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


def _sighted(key: SightingKey, model: Modelled) -> Sighted | None:
    about = ABOUT.get(key)
    if about is None or about.of not in model.slopes:
        return None
    value = model.values[about.of]
    over, under = (None if one is None else one + (value if about.apart else 0.0) for one in (about.over, about.under))
    return Sighted(model.slopes[about.of], value, about.sigma, over, under)


def _causes(
    found: Ranked, model: Modelled, labels: list[str], measured: Sequence[Measurement],
    sightings: Sequence[tuple[SightingKey, Sighted]],
) -> Iterable[Cause]:  # fmt: skip
    order = sorted(range(len(UNKNOWNS)), key=lambda k: -float(found.chances[k]))
    rows = [model.slopes[one.of] / one.sigma for one in measured] + [one.slopes / one.sigma for _key, one in sightings]
    for k in order[:CAUSES]:
        if found.evidence[k] < LEAST_EVIDENCE:
            continue
        post = found.posterior
        # What a slip of one sigma would show in, beside the noise of each.
        shows = [abs(float(row[k])) * model.sigmas[k] for row in rows]
        best = sorted(range(len(labels)), key=lambda j: -shows[j])
        yield Cause(
            UNKNOWNS[k], float(found.chances[k]), float(found.evidence[k]), float(post.slip[k]),
            float(post.slip_sigma[k]), tuple(labels[j] for j in best[:3] if shows[j] > 0.1),
        )  # fmt: skip


def _tests(found: Ranked, model: Modelled, causes: Sequence[Cause], done: set[str]) -> Iterable[Test]:
    """Yield what would tell the likeliest causes apart best, of what was not measured yet."""
    n = len(UNKNOWNS)
    cover = found.posterior.covariance.copy()
    chances = np.array([one.chance for one in causes])
    shifts = np.zeros((len(causes), n))
    for row, one in enumerate(causes):
        shifts[row, UNKNOWNS.index(one.name)] = one.slip
    middle = chances @ shifts
    for chance, shift in zip(chances, shifts, strict=True):
        cover = cover + chance * np.outer(shift - middle, shift - middle)
    rated = []
    for key, (of, sigma) in TESTABLE.items():
        if of in done:
            continue
        slope = model.slopes.get(of)
        if slope is None:
            if of not in UNKNOWNS:
                continue
            slope = np.eye(n)[UNKNOWNS.index(of)]
        rated.append(Test(key, worth(slope, sigma**2, cover), sigma))
    yield from sorted(rated, key=lambda one: -one.worth)[:TESTS]


def _contradictions(
    seen: Sequence[SightingKey], measured: Sequence[Measurement], sightings: Sequence[tuple[SightingKey, Sighted]],
    slopes: Array, errors: Array, model: Modelled, residual: Array,
) -> Iterable[Contradiction]:  # fmt: skip
    for one, other in OPPOSED:
        if one in seen and other in seen:
            yield Contradiction(one, other, 0.0)
    if len(measured) > 1:
        for row, sigmas in zip(measured, odd(slopes, errors, model.prior, residual), strict=True):
            if abs(sigmas) > _ODD:
                yield Contradiction(row.of, "", float(sigmas))
    told = {key for pair in OPPOSED if pair[0] in seen and pair[1] in seen for key in pair}
    # A sighting that what was measured all but rules out, even where a cause has slipped.
    if len(measured):
        wide = model.prior * 9
        after = ranked(slopes, errors, wide, residual).posterior
        for key, sighting in sightings:
            slopes_of = sighting.slopes
            value = sighting.value + float(slopes_of @ after.mean)
            chance = math.exp(told_by(sighting, value, float(slopes_of @ after.covariance @ slopes_of)).chance)
            if key not in told and chance < _UNLIKELY:
                yield Contradiction(key, "", 0.0)


class Explained(NamedTuple):
    """A measurement less what was reckoned, and what the causes together make of it, the most first."""

    of: str
    residual: float
    parts: tuple[tuple[Unknown, float], ...]


def explained(found: Diagnosis) -> tuple[Explained, ...]:
    """Return what everything that was learnt makes of each measurement.

    Parameters
    ----------
    found : Diagnosis

    Returns
    -------
    tuple of Explained
        ``parts`` are slopes times means of the unknowns, in the unit of the residual.
    """
    rows = []
    for one in found.measured:
        slopes = found.model.slopes[one.of]
        parts = [(name, float(slopes[k]) * found.learnt[name][0]) for k, name in enumerate(UNKNOWNS)]
        parts.sort(key=lambda row: -abs(row[1]))
        rows.append(Explained(one.of, one.residual, tuple(row for row in parts[:4] if abs(row[1]) > 0)))
    return tuple(rows)


def told_apart(model: Modelled, measured: Sequence[Measurement]) -> tuple[Array, Array]:
    """Return how alike causes look by what was measured, and one sigma's worth of each, (n, n) and (n,).

    Parameters
    ----------
    model : Modelled
    measured : sequence of Measurement

    Returns
    -------
    cosines : ndarray, shape (n, n)
    shows : ndarray, shape (n,)
        How many sigmas of the measurements a slip of three of its own sigmas shows in.
    """
    slopes = np.array([model.slopes[one.of] for one in measured]).reshape(-1, len(UNKNOWNS))
    errors = np.diag([one.sigma**2 for one in measured])
    whole = slopes @ model.prior @ slopes.T + errors
    shows = 3 * model.sigmas * np.sqrt(np.einsum("mi,mi->i", slopes, np.linalg.solve(whole, slopes)))
    return alike(slopes, errors, model.prior), shows
