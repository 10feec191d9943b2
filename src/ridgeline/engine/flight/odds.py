"""The odds of a first throw: many builds drawn from what is not known of the design, each flown."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.stats import rankdata

from ridgeline.design.document import Design
from ridgeline.engine.flight.builds import Draws, drawn, sigmas_of, thrown_as
from ridgeline.engine.flight.launch import OUTCOMES, Outcome
from ridgeline.engine.flight.throwing import Launching, Thrown
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
#: Builds drawn, and the rank correlation under which it is noise with so many (second part of the handbook §18).
BUILDS, NOISE = 200, 0.14
#: Each is flown for so long, s; so many of the builds with nobody at the sticks, and with each remedy (chosen, so that
#: all of it takes some seconds).
LASTS, ALONE, AGAIN = 4.5, 60, 40
#: Past this share all come away well.
_ALL = 0.97
#: So many of the paths are kept for the fan.
_FAN = 60
#: A remedy is weighed by what it gains over this and its own mass, kg: those that weigh nothing are not all alike.
_HANDLING = 0.005


class Matter(NamedTuple):
    """An error that matters: its name, the rank correlation of it with the height reached, and its one sigma."""

    name: str
    correlation: float
    sigma: float


class Better(NamedTuple):
    """What raises the odds: which draw is moved by how much, the mass it takes kg, and the odds with it."""

    name: str
    by: float
    mass: float
    odds: float


class Became(NamedTuple):
    """What became of the builds: shares by outcome, the share that came away well, and one sigma of that."""

    shares: Mapping[Outcome, float]
    well: float
    sigma: float


@dataclass(frozen=True)
class Odds:
    """What became of the builds with somebody at the sticks and with nobody, what matters, what helps, and the fan.

    A build came away well when it climbs or stays level; without a motor when it comes down without stall or roll.
    ``held_by`` tells whose flights matters and remedies are of, and the fan; ``lowest`` is the least height of the
    build that was reckoned and one sigma of that, m.
    """

    piloted: Became
    alone: Became
    held_by: bool
    matters: tuple[Matter, ...]
    better: tuple[Better, ...]
    fan: tuple[Array, Array, tuple[Outcome, ...]]
    lowest: tuple[float, float]
    builds: int

    @property
    def judged(self) -> Became:
        """Those that matters and remedies are of."""
        return self.piloted if self.held_by else self.alone


def _well(thrown: Thrown, launch: Launching) -> NDArray[np.bool_]:
    """Tell which builds came away well: climbing or level; without a motor down without stall or roll."""
    if launch.pull is None or float(launch.held.throttle) == 0.0:
        return np.array([one in ("climbs", "holds", "sinks") for one in thrown.outcome])
    return np.array([one in ("climbs", "holds") for one in thrown.outcome])


def _reached(thrown: Thrown) -> Array:
    """Height at the end, and for what came down the sooner the lower: what is ranked."""
    ended = np.where(np.isfinite(thrown.path.landed), thrown.path.landed - 60.0, thrown.told.ends)
    found: Array = np.where([one in ("climbs", "holds") for one in thrown.outcome], 1000.0, 0.0) + ended
    return found


def ranked(values: Mapping[str, Array], reached: Array, sigmas: Mapping[str, float]) -> tuple[Matter, ...]:
    """Return which errors matter, the most first: rank correlations with what was reached that are not noise.

    Parameters
    ----------
    values : mapping
        Draws by name, each (n,).
    reached : ndarray, shape (n,)
    sigmas : mapping

    Returns
    -------
    tuple of Matter

    Source
    ------
    Spearman; under 0.14 it is noise with 200 draws: second part of the handbook §18.
    """
    order, found = rankdata(reached), []
    if np.ptp(order) == 0:
        return ()
    for name, row in values.items():
        if sigmas[name] > 0 and np.ptp(row) > 0:
            found.append(Matter(name, float(np.corrcoef(rankdata(row), order)[0, 1]), sigmas[name]))
    noise = NOISE * math.sqrt(BUILDS / len(reached))
    told = [one for one in found if abs(one.correlation) >= noise]
    return tuple(sorted(told, key=lambda one: -abs(one.correlation)))


class Lever(NamedTuple):
    """Something that can be done before the throw: which draw it moves, by how much, and the mass it takes, kg."""

    name: str
    by: float
    mass: float = 0.0


def ballast_of(design: Design, report: Report, by: float) -> float:
    """Return what moves the balance where no pack slides, at the nose or at the tail, kg.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    by : float
        Aft, m.

    Returns
    -------
    float
        Nothing where a pack is aboard, which slides for nothing.
    """
    state = report.results.masses.state
    if design.power is not None or state is None:
        return 0.0
    place, _high = ballast_place(design, by)
    reach = abs(float(state.cg[0]) + by - place)
    return state.mass * abs(by) / max(reach, 0.01)


def ballast_place(design: Design, by: float) -> tuple[float, float]:
    """Return where weight is added that moves the balance forward, or aft: the ends of the aircraft, m.

    Parameters
    ----------
    design : Design
    by : float
        Aft, m.

    Returns
    -------
    x, z : float
    """
    ends = [(s.x, s.z) for body in design.bodies for s in body.sections]
    for surface in design.surfaces:
        ends += [(surface.x + s.x, surface.z + s.z) for s in surface.stations]
        ends += [(surface.x + s.x + s.chord, surface.z + s.z) for s in surface.stations]
    return min(ends) if by < 0 else max(ends)


def _levers(design: Design, report: Report, launch: Launching) -> list[Lever]:
    """Return what can be done: balance by the pack or by weight, throw, wind, throttle and trim, each way."""
    speed = float(launch.throw.speed)
    levers = [Lever("balance", by, ballast_of(design, report, by)) for by in (-0.010, -0.005, 0.005, 0.010)]
    levers += [Lever("path", math.radians(by)) for by in (-5.0, 5.0)]
    levers += [Lever("wind", 2.0), Lever("trim", math.radians(-1.0)), Lever("trim", math.radians(1.0))]
    if launch.kind == "hand":
        levers.append(Lever("speed", 0.12 * speed))
    if launch.pull is not None and 0 < float(launch.held.throttle) < 0.99:
        levers.append(Lever("throttle", 1.0 / float(launch.held.throttle) - 1.0))
    levers.append(Lever("mass", -0.05))
    return levers


def _guessed(lever: Lever, draws: Draws, well: NDArray[np.bool_], slope: Mapping[str, float]) -> float:
    """Guess the odds with a lever from the builds flown already: those drawn near there count the more."""
    sigma = draws.sigmas.get(lever.name, 0.0)
    if lever.name in draws.values and sigma > 0 and abs(lever.by) < 2.5 * sigma:
        row = draws.values[lever.name]
        weight = np.exp((2 * row * lever.by - lever.by**2) / (2 * sigma**2))
        return float((weight * well).sum() / weight.sum())
    return min(max(float(well.mean()) + slope.get(lever.name, 0.0) * lever.by, 0.0), 1.0)


def odds_of(
    design: Design, report: Report, launch: Launching, *, builds: int = BUILDS, seed: int = 1, remedies: bool = True,
    progress: Callable[[float], bool] | None = None,
) -> Odds | None:  # fmt: skip
    """Fly many builds and tell what became of them, what matters, and what helps most.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching
    builds : int
    seed : int
    remedies : bool
        Whether the three best remedies are flown again.
    progress : callable, optional
        Asked with the share done; True leaves off.

    Returns
    -------
    Odds or None
        None where it was left off.
    """
    halves = 0.5 if remedies else 1.0
    left = [False]

    def asked(share: float, start: float, part: float) -> bool:
        left[0] = left[0] or (progress is not None and progress(start + part * share))
        return left[0]

    draws = drawn(sigmas_of(design, report, launch), builds, seed)
    launch, alone = replace(launch, seconds=min(launch.seconds, LASTS)), min(builds, ALONE)
    both = {name: np.concatenate([row, row[:alone]]) for name, row in draws.values.items()}
    sticks = np.repeat((1.0, 0.0), (builds, alone))
    thrown = thrown_as(launch, both, seed=seed, piloted=sticks, stop=lambda share: asked(share, 0.0, halves))
    if left[0]:
        return None
    well, reached = _well(thrown, launch), _reached(thrown)
    groups = slice(0, builds), slice(builds, builds + alone)
    became = [_became(thrown.outcome[mine], well[mine]) for mine in groups]
    # A good pilot hides what is wrong: where all come away with one, what matters shows with none.
    held_by = became[0].well < _ALL
    mine = groups[0] if held_by else groups[1]
    judged = Draws({name: row[mine] for name, row in both.items()}, draws.sigmas)
    matters = ranked(judged.values, reached[mine], draws.sigmas)
    better: tuple[Better, ...] = ()
    share = float(well[mine].mean())
    if remedies and share < 1.0:
        levers = _levers(design, report, launch)
        found = _flown_again(
            launch, levers, judged, well[mine], seed, held_by, lambda part: asked(part, halves, 1 - halves)
        )
        if left[0]:
            return None
        better = tuple(one for one in found if one.odds > share)
    fan = slice(mine.start, min(mine.start + _FAN, mine.stop))
    # As it is planned, whoever's flights are judged.
    lowest = thrown.told.lowest[groups[0] if launch.held_by else groups[1]]
    return Odds(
        became[0],
        became[1],
        held_by,
        matters,
        better,
        (thrown.path.state[:, 0, fan], thrown.path.height[:, fan], thrown.outcome[fan]),
        (float(lowest[0]), float(lowest.std())),
        builds,
    )


def _became(outcome: tuple[Outcome, ...], well: NDArray[np.bool_]) -> Became:
    share, many = float(well.mean()), len(well)
    sigma = math.sqrt(max(share * (1 - share), 1 / many) / many)
    return Became({one: outcome.count(one) / many for one in OUTCOMES}, share, sigma)


def _flown_again(
    launch: Launching,
    levers: list[Lever],
    draws: Draws,
    well: NDArray[np.bool_],
    seed: int,
    held_by: bool,
    stop: Callable[[float], bool],
) -> tuple[Better, ...]:
    """Fly the three most promising remedies with the same builds, all at once; the most for its mass first."""
    slope: dict[str, float] = {}
    for name, row in draws.values.items():
        if draws.sigmas[name] > 0:
            slope[name] = float(np.cov(row, well)[0, 1] / max(float(row.var()), 1e-30))
    # More throttle is more thrust; a trim is an angle of the tail, near enough to choose by.
    slope["throttle"], slope["trim"] = slope.get("thrust", 0.0), slope.get("tail", 0.0) * 0.5
    start = float(well.mean())

    def worth(lever: Lever) -> float:
        return (_guessed(lever, draws, well, slope) - start) / (_HANDLING + lever.mass)

    best: list[Lever] = []
    for lever in sorted(levers, key=worth, reverse=True):
        if lever.name not in {one.name for one in best}:
            best.append(lever)
    best = best[:3]
    n, many = min(len(well), AGAIN), len(best)
    values = {name: np.tile(row[:n], many) for name, row in draws.values.items()}
    throttle, trim = np.ones(n * many), np.zeros(n * many)
    for k, lever in enumerate(best):
        mine = slice(k * n, (k + 1) * n)
        if lever.name == "throttle":
            throttle[mine] += lever.by
        elif lever.name == "trim":
            trim[mine] += lever.by
        else:
            values[lever.name][mine] += lever.by
    thrown = thrown_as(launch, values, seed=seed, throttle=throttle, trim=trim, piloted=float(held_by), stop=stop)
    again = _well(thrown, launch)
    # The same builds with and without: what differs is the remedy's.
    gains = again.reshape(many, n).mean(axis=1) - well[:n].mean()
    found = [
        Better(lever.name, lever.by, lever.mass, min(max(start + float(gain), 0.0), 1.0))
        for lever, gain in zip(best, gains, strict=True)
    ]
    return tuple(sorted(found, key=lambda one: -(one.odds - start) / (_HANDLING + one.mass)))
