"""Builds of a design: what each is off by, drawn from the design's own bands, and thrown as it was drawn."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.document import Design
from ridgeline.engine.aero.drag import drag_sigma_of
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.slips import Slips
from ridgeline.engine.flight.throwing import Launching, Thrown, throw_all
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.report import Report

Array = NDArray[np.float64]
#: One sigma of what nobody writes down: incidence rad (half a degree to one, §18), a tip's trailing edge m, thrust as a
#: share, a throw's speed as a share (handbook §3: 20 %), its path and bank rad, and the wind m/s (chosen).
INCIDENCE, EDGE, THRUST = math.radians(0.75) / BAND, 0.002 / BAND, 0.10 / BAND
SPEED, PATH, BANKED, WIND = 0.20 / BAND, math.radians(6.0) / BAND, math.radians(6.0) / BAND, 1.5 / BAND
#: What is shared with the sampler of the odds: names of what is drawn.
DRAWN = (
    *("balance", "mass", "neutral", "lift_most", "wing", "tail", "warp", "thrust", "drag"),
    *("speed", "path", "bank", "wind"),
)


class Draws(NamedTuple):
    """What each build is off by, (n,), in its own unit, and the one-sigma error of each."""

    values: Mapping[str, Array]
    sigmas: Mapping[str, float]


def sigmas_of(design: Design, report: Report, launch: Launching) -> dict[str, float]:
    """Return one sigma of everything that is drawn, from the design's own bands.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    launch : Launching

    Returns
    -------
    dict
        By the names of `DRAWN`, in the unit of each.
    """
    found, figures = report.results, report.figures
    state = found.masses.state
    mass, lift, neutral = figures["mass.auw"], figures["wing.cl_max"], figures["stability.neutral_point_fraction"]
    tip = min((s.stations[-1].chord for s in design.surfaces if s.role in WINGS), default=launch.craft.chord)
    thrust = figures["power.static_thrust"]
    return {
        "balance": float(state.sigma_cg[0]) if state is not None else 0.003,
        "mass": (mass.sigma or 0.0) / (mass.value or 1.0),
        "neutral": neutral.sigma or 0.02 / BAND,
        "lift_most": (lift.sigma or 0.0) / (lift.value or 1.0),
        "wing": INCIDENCE,
        "tail": INCIDENCE,
        "warp": EDGE / tip,
        "thrust": (thrust.sigma or 0.0) / (thrust.value or 1.0) or THRUST,
        "drag": drag_sigma_of(design.learnt),
        "speed": SPEED * float(launch.throw.speed),
        "path": PATH,
        "bank": BANKED,
        "wind": WIND,
    }


def drawn(sigmas: Mapping[str, float], builds: int, seed: int) -> Draws:
    """Draw builds; the first is the one that was reckoned.

    Parameters
    ----------
    sigmas : mapping
    builds : int
    seed : int

    Returns
    -------
    Draws
    """
    chance = np.random.default_rng(seed).normal(size=(len(DRAWN), builds))
    # Within two and a half sigma: what lies further out is seen before it is thrown.
    chance = np.clip(chance, -2.5, 2.5)
    chance[:, 0] = 0.0
    return Draws({name: sigmas[name] * row for name, row in zip(DRAWN, chance, strict=True)}, dict(sigmas))


def thrown_as(
    launch: Launching, values: Mapping[str, Array], *, seed: int, throttle: Any = 1.0, trim: Any = 0.0,
    piloted: Any = None, stop: Callable[[float], bool] | None = None,
) -> Thrown:  # fmt: skip
    """Throw builds as they were drawn.

    Parameters
    ----------
    launch : Launching
    values : mapping
        Of the names of `DRAWN`, each (n,).
    seed : int
        Of the gusts.
    throttle : float or ndarray
        Times what is planned.
    trim : float or ndarray
        Added to the pitch control, rad.
    piloted : ndarray, optional
        1 where somebody holds the sticks; as planned without.
    stop : callable, optional

    Returns
    -------
    Thrown
    """
    slips = Slips(**{name: values[name] for name in Slips._fields if name in values})
    # Nobody throws slower than half of what was meant.
    faster = np.maximum(values["speed"], -0.5 * float(launch.throw.speed))
    return throw_all(
        launch, slips, builds=len(values["mass"]), wind=launch.wind + values["wind"], throttle=throttle, faster=faster,
        steeper=values["path"], banked=values["bank"], trim=trim, piloted=piloted, seed=seed, every=10, stop=stop,
    )  # fmt: skip
