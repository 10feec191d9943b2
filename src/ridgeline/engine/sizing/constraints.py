"""The constraint chart: which wing loadings and thrust ratios meet the wishes of the brief."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.brief import Brief
from ridgeline.engine.aero.atmosphere import GRAVITY, density
from ridgeline.engine.flight.run import GRASS, LIFT_OFF
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.engine.sizing.first_lift import first_cl_max
from ridgeline.engine.sizing.first_mass import POWER_MASS_PER_NEWTON, spare_for_power
from ridgeline.engine.sizing.purposes import PURPOSES, loading_range, middle
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING

Array = NDArray[np.float64]
#: Drag assumed before there is an airframe; typical of this trade's sections at Re 10⁵.
FIRST_CD_0 = 0.045
_SPAN_EFFICIENCY = 0.8
#: Thrust left at climb or turn speed over static thrust, for propellers with a pitch speed near 3 stall speeds.
FLIGHT_THRUST_SHARE = 0.75
#: Energy of a throw and the mass of the arm that shares it (handbook of the trade §3, ±20 %).
THROW_ENERGY, ARM_MASS = 120.0, 1.3
RELEASE_OVER_STALL = 1.15
_CLIMB_OVER_STALL = 1.3


@dataclass(frozen=True)
class Constraint:
    """One wish as a line on the chart. Vertical lines carry ``loading``; others ``thrust_ratio`` over it.

    ``side`` says which side is forbidden: above/below a curve, left/right of a vertical line.
    """

    key: str
    label: str
    side: Literal["above", "below", "left", "right"]
    loading: float | None = None
    thrust_ratio: Array | None = None


@dataclass(frozen=True)
class ConstraintChart:
    """All lines over a loading axis (kg/m², shape (n,)), the feasible ground, and the habit box."""

    loading: Array
    lines: tuple[Constraint, ...]
    floor: Array
    roof: Array
    loading_low: float
    loading_high: float
    ruling_high: str
    ruling_floor: str


#: Starting values keep this far inside limits: of the loading above and below, and over the thrust needed (chosen).
_INSIDE_HIGH, _INSIDE_LOW, _AT_MOST, _OVER_FLOOR = 0.92, 1.02, 0.98, 1.1


#: Estimates of a few percent: so much of the ceiling, as a thrust ratio, is kept free of wishes (chosen).
_ROOM = 0.03 / (POWER_MASS_PER_NEWTON * GRAVITY)
#: A loading that leaves room only a little past what is usual is taken at what is usual.
_A_LITTLE_OVER = 1.04


#: Heavier than this nobody throws it alone, kg: laid out for wheels unless told otherwise (chosen).
THROWN_TO = 2.5


def throw_speed(mass: float) -> float:
    """Return the release speed of a hand launch in still air, m/s, ±20 %.

    Parameters
    ----------
    mass : float
        kg.

    Returns
    -------
    float
        m/s.

    Source
    ------
    √(120 J/(m + 1.3 kg)): handbook of the trade §3.
    """
    return math.sqrt(THROW_ENERGY / (mass + ARM_MASS))


def loading_for_stall(stall: float, air_density: float, cl_max: float) -> float:
    """Return the wing loading whose stall speed is ``stall``, kg/m².

    Parameters
    ----------
    stall : float
        m/s.
    air_density : float
        kg/m³.
    cl_max : float

    Returns
    -------
    float
        kg/m².
    """
    return 0.5 * air_density * stall**2 * cl_max / GRAVITY


def first_aspect_ratio(brief: Brief) -> float:
    """Return the smallest aspect ratio the purpose is content with."""
    return float(PURPOSES[brief.purpose].aspect_ratio[0])


def constraint_chart(
    brief: Brief, count: int = 121, cl_max: float | None = None, mass: float | None = None
) -> ConstraintChart:
    """Draw the wishes of a brief as lines over wing loading.

    Parameters
    ----------
    brief : Brief
    count : int
        Samples along the loading axis.
    cl_max : float, optional
        Lift limit of the airframe; before there is any, that of what would be laid out.
    mass : float, optional
        What is thrown and has to fit the span, kg: the airframe's all-up weight; before there is any, the ceiling.

    Source
    ------
    docs/theory.md §3, each line derived there from level, climbing, turning and rolling flight.
    """
    d = density(brief.elevation, brief.temperature_c)
    mass = brief.ceiling if mass is None else mass
    cl_max = first_cl_max(brief) if cl_max is None else cl_max
    habit = PURPOSES[brief.purpose].loading
    stall_loading = loading_for_stall(brief.stall_speed, d, cl_max)
    axis_high = max(1.25 * max(habit[1], brief.wing_loading), 1.15 * stall_loading)
    axis_low = 0.5 * min(habit[0], brief.wing_loading)
    loading = np.linspace(axis_low, axis_high, count)

    stall = np.sqrt(2 * loading * GRAVITY / (d * cl_max))
    induced = 1 / (math.pi * brief.aspect_ratio * _SPAN_EFFICIENCY)
    weight = loading * GRAVITY

    def level_ratio(speed: Array, load_factor: float) -> Array:
        q = 0.5 * d * speed**2
        return q * FIRST_CD_0 / weight + induced * load_factor**2 * weight / q

    climb_speed = _CLIMB_OVER_STALL * stall
    climb = (brief.climb_rate / climb_speed + level_ratio(climb_speed, 1.0)) / FLIGHT_THRUST_SHARE
    turn = level_ratio(brief.cruise_ratio * stall, 1 / math.cos(brief.bank)) / FLIGHT_THRUST_SHARE
    lines = [
        Constraint("ceiling", "ceiling", "above", thrust_ratio=_ceiling_line(brief, loading)),
        Constraint("span", "span", "left", loading=mass * first_aspect_ratio(brief) / brief.span_limit**2),
    ]
    for key, words, limit in _most_loading(brief, d, cl_max, mass):
        lines.append(Constraint(key, words, "right", loading=limit))
    if brief.propulsion == "none":
        # Nothing pulls: only the loading is a choice.
        return _chart(loading, lines[1:])
    lines += [
        Constraint("climb", "climb", "below", thrust_ratio=climb),
        Constraint("turn", "turn", "below", thrust_ratio=turn),
    ]
    if brief.launch == "wheels":
        lines.append(
            Constraint("roll", "ground roll", "below", thrust_ratio=_ground_roll_line(brief, loading, d, cl_max))
        )
    return _chart(loading, lines)


def loading_limit(brief: Brief) -> float:
    """Return the greatest wing loading that stall and launch allow a brief, as its chart has it, kg/m².

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    float
        kg/m².
    """
    d = density(brief.elevation, brief.temperature_c)
    return min(limit for _key, _words, limit in _most_loading(brief, d, first_cl_max(brief), brief.ceiling))


def _most_loading(brief: Brief, air_density: float, cl_max: float, mass: float) -> Iterator[tuple[str, str, float]]:
    """Yield what limits the loading from above: its key, its words, and the limit, kg/m²."""
    yield "stall", "stall", loading_for_stall(brief.stall_speed, air_density, cl_max)
    if brief.launch == "hand":
        release = (throw_speed(mass) + brief.head_wind) / RELEASE_OVER_STALL
        yield "hand", "hand launch", loading_for_stall(release, air_density, cl_max)


def _ceiling_line(brief: Brief, loading: Array) -> Array:
    """Return the thrust ratio whose power train the ceiling leaves room for, by the pieces of what is laid out."""
    return spare_for_power(brief, loading) / (POWER_MASS_PER_NEWTON * brief.ceiling * GRAVITY)


def _ground_roll_line(brief: Brief, loading: Array, air_density: float, cl_max: float) -> Array:
    stall = np.sqrt(2 * loading * GRAVITY / (air_density * cl_max))
    ground_speed = np.maximum(LIFT_OFF * stall - brief.head_wind, 0.0)
    return ground_speed**2 / (2 * GRAVITY * brief.ground_roll) + GRASS


def _chart(loading: Array, lines: list[Constraint]) -> ConstraintChart:
    below = [line for line in lines if line.side == "below" and line.thrust_ratio is not None]
    above = [line.thrust_ratio for line in lines if line.side == "above" and line.thrust_ratio is not None]
    stack = np.array([line.thrust_ratio for line in below] or [np.zeros_like(loading)])
    right = sorted((line.loading, line.key) for line in lines if line.side == "right" and line.loading is not None)
    left = max((line.loading for line in lines if line.side == "left" and line.loading is not None), default=0.0)
    high, ruling_high = right[0]
    at = int(np.argmin(np.abs(loading - min(high, loading[-1]))))
    return ConstraintChart(
        loading=loading,
        lines=tuple(lines),
        floor=stack.max(axis=0),
        roof=np.min(np.array(above), axis=0) if above else np.zeros_like(loading),
        loading_low=left,
        loading_high=high,
        ruling_high=ruling_high,
        ruling_floor=below[int(np.argmax(stack[:, at]))].key if below else "",
    )


def _layout_for(layout: str, tailless: bool) -> str:
    """Keep the layout where it suits the purpose: tailless asks for one without a tail, the others for one with."""
    if tailless == (arrangement_of(layout).family == "tailless"):
        return layout
    return "swept" if tailless else "conventional"


def start_brief(brief: Brief, purpose: str) -> Brief:
    """Return a brief with the starting values of a purpose, its design point inside the feasible ground if any.

    Parameters
    ----------
    brief : Brief
        Whose ``typed`` wishes are kept, but for a layout that the purpose cannot have. What is too heavy to throw
        gets wheels.
    purpose : str

    Returns
    -------
    Brief

    Source
    ------
    Middle of each range of the handbook's table; loading held 8 % under the ruling limit.
    """
    values = PURPOSES[purpose]
    span = brief.span_limit
    tailless = purpose == "tailless"
    thrown_too_heavy = brief.launch == "hand" and brief.ceiling > THROWN_TO and "launch" not in brief.typed
    wished = middle(loading_range(purpose, AIM_UNDER_CEILING * brief.ceiling))
    # The design point too begins anew: what follows must not hang on what stood there before.
    starting = {
        "aspect_ratio": middle(values.aspect_ratio),
        "tail_volume_h": middle(values.volume_h),
        "tail_volume_v": middle(values.volume_v),
        "static_margin": middle(values.static_margin),
        "cruise_ratio": values.cruise_ratio,
        "wing_loading": wished,
        "thrust_ratio": middle(values.thrust_ratio),
    }
    draft = Brief.model_validate(
        brief.model_dump()
        | {name: value for name, value in starting.items() if name not in brief.typed}
        | {
            "purpose": purpose,
            "launch": "wheels" if thrown_too_heavy else brief.launch,
            "layout": _layout_for(brief.layout, tailless),
            "controls": "elevons"
            if tailless
            else ("aileron_elevator" if brief.controls == "elevons" else brief.controls),
            "span_limit": span,
        }
    )
    chart = constraint_chart(draft)
    low, high = values.thrust_ratio
    if "wing_loading" in brief.typed:
        loading = brief.wing_loading
    else:
        inside = _INSIDE_HIGH * chart.loading_high
        loading = max(min(wished, inside), min(_INSIDE_LOW * chart.loading_low, _AT_MOST * chart.loading_high))
        usual = loading_range(purpose, AIM_UNDER_CEILING * brief.ceiling)[1]
        if brief.propulsion != "none":
            loading = _with_room(chart, loading, inside, low)
        loading = round(usual if usual < loading < _A_LITTLE_OVER * usual else loading, 3)
    floor = float(np.interp(loading, chart.loading, chart.floor))
    roof = float(np.interp(loading, chart.loading, chart.roof))
    thrust = min(max(0.5 * (low + high), _OVER_FLOOR * floor), max(roof - _ROOM, _INSIDE_LOW * floor))
    thrust = brief.thrust_ratio if "thrust_ratio" in brief.typed else round(max(thrust, 0.0), 3)
    if brief.propulsion == "none":
        thrust = 0.0
    return draft.model_copy(update={"wing_loading": loading, "thrust_ratio": thrust})


def _with_room(chart: ConstraintChart, loading: float, most: float, thrust: float) -> float:
    """Return the least loading from one wished on up to ``most`` at which the ceiling leaves the thrust needed."""
    ahead = (chart.loading >= loading) & (chart.loading <= most)
    spare = chart.roof - _ROOM - np.maximum(_OVER_FLOOR * chart.floor, thrust)
    if np.interp(loading, chart.loading, spare) >= 0 or not ahead.any():
        return loading
    fits = ahead & (spare >= 0)
    at = int(np.argmax(fits)) if fits.any() else int(np.argmax(np.where(ahead, spare, -np.inf)))
    return float(chart.loading[at])
