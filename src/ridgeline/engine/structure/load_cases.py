"""Which loads an aircraft is judged by: pulls, pushes, gusts, rolls, flaps, a line, a touch-down."""

from __future__ import annotations

from typing import Literal, NamedTuple

from ridgeline.design.brief import Brief
from ridgeline.design.loads import Loads
from ridgeline.engine.structure.cases import gust_bears, gust_factor, landing_factor, swing_factor, swing_speed

#: Limit load factors by purpose (handbook of the trade §10; a camera flies as a trainer does), and the usual one.
LOAD_FACTOR = {
    "slow": 3.0,
    "trainer": 4.0,
    "camera": 4.0,
    "sport": 6.0,
    "aerobatic": 8.0,
    "speed": 8.0,
    "glider": 5.0,
}
_USUAL = 5.0
#: A push over the pull; a pull while it rolls over the pull; a pull with flaps down (second part of the handbook §16.1;
#: the roll after the rule of small full-size aeroplanes, the flaps chosen).
_PUSH, _ROLLING, _FLAPS = -0.4, 2 / 3, 2.0
#: Pull of a bungee or winch line over the weight (§16.1: three to five).
LINE_PULL = 4.0
#: What gives at a touch-down: belly foam or legs, m, and how much of it counts (§16.1).
_STROKE, _FOAM, _SPRING = 0.020, 1.0, 0.5

CaseKey = Literal["pull", "push", "gust", "dive_gust", "roll", "flaps", "line", "swing", "landing"]


class Case(NamedTuple):
    """One load case: lift over weight, how many times what hangs weighs (``inertia``), and at which speed, m/s.

    ``flap`` and ``roll`` tell that those controls are at full throw. ``swing`` is the load factor along the span.
    """

    key: CaseKey
    words: str
    lift: float
    inertia: float
    speed: float
    flap: bool = False
    roll: bool = False
    swing: float = 0.0


class Flown(NamedTuple):
    """What the cases hang on: speeds m/s (``dive`` None where not known), wing loading kg/m², mean chord m, slope."""

    stall: float
    cruise: float
    dive: float | None
    loading: float
    chord: float
    slope: float
    density: float
    flaps: bool
    rolls: bool
    legs: bool
    span: float


def design_factor(loads: Loads, brief: Brief) -> float:
    """Return the limit load factor: as wished, or by the purpose and how it is launched.

    Parameters
    ----------
    loads : Loads
    brief : Brief

    Returns
    -------
    float
    """
    return loads.factor if loads.factor is not None else usual_factor(brief.purpose)


def usual_factor(purpose: str) -> float:
    """Return the limit load factor of a purpose."""
    return LOAD_FACTOR.get(purpose, _USUAL)


def cases_of(loads: Loads, brief: Brief, flown: Flown) -> tuple[Case, ...]:
    """Return the load cases of an aircraft, the pull first.

    Parameters
    ----------
    loads : Loads
    brief : Brief
    flown : Flown

    Returns
    -------
    tuple of Case

    Source
    ------
    Second part of the handbook §16.1.
    """
    n, stall = design_factor(loads, brief), flown.stall
    corner = stall * n**0.5

    def gust(speed: float, up: float) -> float:
        added = gust_factor(speed, up, flown.slope, flown.loading, flown.chord, flown.density)
        return gust_bears(speed, stall, added)

    found = [
        Case("pull", f"a pull of {n:g} g", n, n, corner),
        Case("push", f"a push of {_PUSH * n:.2g} g".replace("-", "−"), _PUSH * n, _PUSH * n, max(flown.cruise, stall)),
        Case("gust", "a gust in cruise", *(2 * (gust(flown.cruise, loads.gust),)), flown.cruise),
    ]
    if flown.dive is not None:
        met = gust(flown.dive, 0.5 * loads.gust)
        found.append(Case("dive_gust", "a gust in a dive", met, met, flown.dive))
    if flown.rolls:
        found.append(Case("roll", "a pull while it rolls", _ROLLING * n, _ROLLING * n, corner, roll=True))
    if flown.flaps:
        most = min(_FLAPS, n)
        found.append(Case("flaps", "a pull with flaps down", most, most, stall * _FLAPS**0.5, flap=True))
    if brief.launch == "bungee":
        found.append(Case("line", "the pull of its line", 1 + LINE_PULL, 1.0, stall * (1 + LINE_PULL) ** 0.5))
    if loads.swung:
        fast = swing_speed(flown.span) if loads.swing_speed is None else loads.swing_speed
        along = swing_factor(fast, flown.span)
        found.append(Case("swing", "a launch by the wing tip", 1.0, 1.0, fast, swing=along))
    met = landing_factor(loads.sink, _STROKE, _SPRING if flown.legs else _FOAM)
    found.append(Case("landing", "a hard touch-down", 1.0, met, 1.2 * stall))
    return tuple(found)
