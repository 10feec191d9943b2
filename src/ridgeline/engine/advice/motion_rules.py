"""Findings on how the aircraft moves by itself: weathercock, Dutch roll, spiral. Amounts come from its own matrices."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.advice.control_edits import more_dihedral
from ridgeline.engine.advice.trials import proved
from ridgeline.engine.aero import lifting, modes
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.results import given

#: A spiral that doubles faster than this leaves no time to look away, s, and what a remedy brings it to;
#: a damping under this wags on, ratio, and what a remedy brings it to.
_QUICK_SPIRAL, _SLOW_SPIRAL, _WAGGING, _CALM = 4.0, 6.0, 0.05, 0.08
#: Weathercock under which the nose hunts or swings round, and what a remedy brings it to, 1/rad.
_LEAST_WEATHERCOCK, _FAIR_WEATHERCOCK = 0.02, 0.04
_MOST_FIN, _LEAST_FIN = 2.5, 0.5


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the motions in cruise in plain words."""
    if report.results.motions is None or report.results.handling is None:
        return
    yield from _weathercock(design, report)
    yield from _spiral(design, report)
    yield from _dutch_roll(design, report)


def _fins(design: Design) -> list[int]:
    return [i for i, s in enumerate(design.surfaces) if s.role == "fin"]


def _fin_share(design: Design, report: Report) -> tuple[lifting.Lateral, lifting.Lateral] | None:
    """Return what the fins alone give to sideslip and to yaw rate, about the quarter of the mean chord."""
    model, fins = given(report.results.lattice), _fins(design)
    sheets = [sheet for sheet, owner in enumerate(model.owner) if owner in fins]
    if not sheets:
        return None
    lattice = model.solver.lattice
    mine = np.isin(lattice.sheet, sheets)
    beta = lifting.lateral(lattice, np.where(mine, model.found.beta_circulation, 0.0), model.scale)
    rate = lifting.lateral(lattice, np.where(mine, model.found.yaw_circulation, 0.0), model.scale)
    return beta, rate


def _least_factor(wanted: Callable[[float], bool], factors: np.ndarray) -> float | None:
    return next((float(k) for k in factors if wanted(float(k))), None)


def stretched(design: Design, factor: float) -> Iterator[Change]:
    """Yield the edits that make every fin higher (or lower) by a factor."""
    for index in _fins(design):
        surface = design.surfaces[index]
        root = surface.stations[0].y
        stations = tuple(s.model_copy(update={"y": root + (s.y - root) * factor}) for s in surface.stations)
        controls = tuple(
            c.model_copy(update={"start": root + (c.start - root) * factor, "end": root + (c.end - root) * factor})
            for c in surface.controls
        )
        yield Change(f"surfaces[{index}].stations", stations)
        yield Change(f"surfaces[{index}].controls", controls)


def _fin_remedy(design: Design, report: Report, factor: float | None) -> Iterator[Remedy]:
    """Offer higher or lower fins, unless their volume is past what is usual on that side already."""
    if factor is None or abs(factor - 1) < 0.02:
        return
    volume, (low, high) = report.value("tail.volume_v"), report.wanted.get("tail.volume_v", (None, None))
    if volume is not None and (
        (factor > 1 and high is not None and volume >= high) or (factor < 1 and low is not None and volume <= low)
    ):
        return
    fin = design.surfaces[_fins(design)[0]]
    height = fin.stations[-1].y - fin.stations[0].y
    word = "higher" if factor > 1 else "lower"
    text = say(
        f"{fin.name} {word}, {{}} → {{}}", Measured(height, "length", bare=True), Measured(height * factor, "length")
    )
    yield Remedy("fin_height", text, tuple(stretched(design, factor)))


def _with_fin(design: Design, report: Report, factor: float) -> np.ndarray:
    """Return the sideways matrix with every fin's share multiplied."""
    across, share = given(report.results.motions).across, _fin_share(design, report)
    if share is None:
        return across.matrix
    (beta, rate), more = share, factor - 1
    return across.changed(
        side=more * beta.side, roll=more * beta.roll, yaw=more * beta.yaw, turn=more * rate.yaw
    ).matrix


def _with_dihedral(report: Report, turn: float) -> np.ndarray:
    """Return the sideways matrix with the wings turned up by an angle, rad."""
    found, model = given(report.results.motions), given(report.results.lattice)
    return found.across.changed(roll=turn * model.dihedral.roll).matrix


def _dihedral_remedy(design: Design, report: Report, turn: float | None) -> Iterator[Remedy]:
    if turn is not None:
        yield from more_dihedral(design, report, given(report.results.handling).dihedral + turn)


def _weathercock(design: Design, report: Report) -> Iterator[Finding]:
    stiffness = given(report.results.handling).yaw_stiffness
    if stiffness >= _LEAST_WEATHERCOCK:
        return
    share = _fin_share(design, report)
    factor = None
    if share is not None and share[0].yaw > 1e-4:
        factor = 1 + (_FAIR_WEATHERCOCK - stiffness) / share[0].yaw
        factor = factor if factor <= _MOST_FIN else None
    yield Finding(
        "modes.weathercock",
        "stop" if stiffness <= 0 else "look",
        "shape",
        say("The nose does not follow the wind." if stiffness <= 0 else "The nose follows the wind only weakly."),
        say(
            "Weathercock {} with the body's share; {} and more is usual. The fin is too small or too near.",
            Measured(stiffness, "coefficient"),
            Measured(_FAIR_WEATHERCOCK, "ratio"),
        ),
        proved(design, report, _fin_remedy(design, report, factor), _stiffness, _LEAST_WEATHERCOCK),
        ("stability.cn_beta",),
    )


def _doubling(matrix: np.ndarray) -> float:
    spiral = modes.sideways(matrix).spiral
    return math.inf if spiral is None or spiral.rate <= 0 else spiral.half_time


def _spiral(design: Design, report: Report) -> Iterator[Finding]:
    figure = report.figures["modes.spiral_double_time"]
    spiral, soonest = figure.value, figure.low
    if spiral is None or soonest is None:
        return
    quick = spiral < _QUICK_SPIRAL
    remedies: tuple[Remedy, ...] = ()
    if quick:
        turn = _least_factor(
            lambda a: _doubling(_with_dihedral(report, a)) >= _SLOW_SPIRAL, np.radians(np.arange(0.25, 12, 0.25))
        )
        low = None
        # A smaller fin slows a spiral too, as long as the nose still follows the wind.
        share = _fin_share(design, report)
        if share is not None:
            low = _least_factor(
                lambda k: _doubling(_with_fin(design, report, k)) >= _SLOW_SPIRAL, np.arange(0.98, _LEAST_FIN, -0.02)
            )
            left = given(report.results.handling).yaw_stiffness + ((low or 1) - 1) * share[0].yaw
            low = low if left >= _FAIR_WEATHERCOCK else None
        ways = (*_dihedral_remedy(design, report, turn), *_fin_remedy(design, report, low))
        remedies = proved(design, report, ways, _doubling_time, _QUICK_SPIRAL)
    yield Finding(
        "modes.spiral",
        "look" if quick else "settled",
        "shape",
        say("Left alone, a bank doubles in {} s.", Measured(spiral, "ratio", 0 if spiral >= 10 else 1)),
        say(
            "More dihedral or less fin slows that."
            if quick
            else "Slow enough to be corrected without thinking; {} s at the soonest.",
            *(() if quick else (Measured(soonest, "ratio", 0),)),
        ),
        remedies,
        ("modes.spiral_double_time",),
    )


def _damping(matrix: np.ndarray) -> float:
    swing = modes.sideways(matrix).dutch_roll
    return 1.0 if swing is None else swing.damping


def _swing(report: Report) -> float:
    return report.figures["modes.dutch_roll_damping"].value or 1.0


def _doubling_time(report: Report) -> float:
    return report.figures["modes.spiral_double_time"].value or math.inf


def _stiffness(report: Report) -> float:
    handled = report.results.handling
    return -math.inf if handled is None else float(handled.yaw_stiffness)


def _dutch_roll(design: Design, report: Report) -> Iterator[Finding]:
    dutch = report.value("modes.dutch_roll_damping")
    if dutch is None or dutch >= _WAGGING:
        return
    # A higher fin reaches further too, so that the matrices promise too little: what is only enough will do.
    fins, turns = np.arange(1.02, _MOST_FIN, 0.02), np.radians(np.arange(0.25, 12, 0.25))
    fin = turn = None
    for wanted in (_CALM, _WAGGING):
        if fin is None and _fins(design):
            fin = _least_factor(lambda k, w=wanted: _damping(_with_fin(design, report, k)) >= w, fins)  # type: ignore[misc]
        if turn is None:
            turn = _least_factor(lambda a, w=wanted: _damping(_with_dihedral(report, -a)) >= w, turns)  # type: ignore[misc]
    down = None if turn is None or given(report.results.handling).dihedral - turn < 0 else -turn
    ways = (*_fin_remedy(design, report, fin), *_dihedral_remedy(design, report, down))
    yield Finding(
        "modes.dutch_roll",
        "look",
        "shape",
        say("The tail wags on: damping {}.", Measured(dutch, "ratio")),
        say("More fin, or less dihedral, calms it; 0.05 and more is comfortable."),
        proved(design, report, ways, _swing, _WAGGING),
        ("modes.dutch_roll_damping",),
    )
