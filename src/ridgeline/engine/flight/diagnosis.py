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
from ridgeline.engine.flight.inference import Ranked, Sighted, alike, odd, ranked, told_by, worth
from ridgeline.engine.flight.measurements import TESTABLE, Measurement, measured_of
from ridgeline.engine.flight.observed import UNKNOWNS, Modelled, Unknown, modelled
from ridgeline.engine.flight.seen import ABOUT, OPPOSED
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
#: A measurement so many sigmas off all others is told, and a sighting whose chance is under this.
_ODD, _UNLIKELY = 3.0, 0.08
#: So many causes, and tests that would tell them apart, are told; a cause that is told has this ln B at least.
CAUSES, TESTS, LEAST_EVIDENCE = 5, 3, 0.05


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
    measured = tuple(measured_of(design, report, flights, model))
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
