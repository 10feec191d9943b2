"""The figures of the sticks: the nose against the turn, roll near the stall, turns and rolls at the rates."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from ridgeline.design.radio import Radio
from ridgeline.engine.aero.flap import effective_deflection
from ridgeline.engine.bands import BAND
from ridgeline.engine.controls.answers import Pull, Sideways, turn_radius, turned
from ridgeline.engine.controls.rates import Answering
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.stages.flaps import Flaps
from ridgeline.engine.stages.handling import POWER_SIGMA, Handling
from ridgeline.engine.stages.stick_answers import Answer, Sticks, rate_of

ADVERSE = ("control.adverse_yaw", "control.adverse_yaw_alike", "control.roll_slow")
TURNS = ("control.pull", "control.turn_radius", "control.turn_radius_low", "control.roll_rate_low")
LEFT = "flap.roll_left"
_SOURCE = "docs/theory.md §14"
#: One sigma, as a share, of the yaw that goes with ailerons: the wing's lift makes most of it, drag of flaps the rest;
#: and of what a pull takes.
_YAW_SIGMA, _PULL_SIGMA = 0.35 / BAND, 0.25 / BAND
#: Near the stall: this many times its speed (chosen).
SLOW = 1.1


def adverse_figures(found: Sticks, by: Sideways) -> list[Figure]:
    """Give the swing of the nose against a full roll stick near the stall, with throws alike besides, and its roll.

    Parameters
    ----------
    found : Sticks
    by : Sideways
        Near the stall.

    Returns
    -------
    list of Figure
    """
    answer, alike = found.of("roll", slow=True), found.alike
    if answer is None or alike is None:
        return [absent(key, "there is no roll control") for key in ADVERSE]
    if answer.turned is None or alike.turned is None:
        return [absent(key, "the nose does not follow the wind") for key in ADVERSE]

    def against(C_l: float, C_n: float, C_lb: float, C_nb: float, C_lp: float, C_np: float) -> float:
        settled = turned(C_l, C_n, Sideways(C_lb, C_nb, C_lp, C_np))
        return math.nan if settled is None else -settled.swing

    def terms(one: Answer) -> dict[str, Put]:
        return {
            "C_l": Put(one.roll, "roll of the stick", "ratio", POWER_SIGMA * abs(one.roll)),
            "C_n": Put(one.yaw, "its yaw: of the wing's lift, and the drag of flaps", "ratio",
                       _YAW_SIGMA * abs(one.yaw)),
            "C_lb": Put(by.roll_by_slip, "roll by sideslip", "per_radian", 0.2 / BAND * abs(by.roll_by_slip)),
            "C_nb": Put(by.yaw_by_slip, "weathercock", "per_radian", 0.3 / BAND * by.yaw_by_slip),
            "C_lp": Put(by.roll_by_roll, "roll damping", "ratio", 0.15 / BAND * abs(by.roll_by_roll)),
            "C_np": Put(by.yaw_by_roll, "yaw of rolling", "ratio", 0.3 / BAND * abs(by.yaw_by_roll)),
        }  # fmt: skip

    formula = "({C_n}·{C_lp} − {C_l}·{C_np})/({C_lb}·{C_np} − {C_lp}·{C_nb})"
    note = f"full stick at {SLOW:g} times the stall speed, once it has settled; positive is against the turn"
    figures = [derive(key, formula, against, terms(one), source=_SOURCE, note=note)
               for key, one in zip(ADVERSE[:2], (answer, alike), strict=True)]  # fmt: skip
    model_speed, span = answer.speed, found.span

    def rolls(C_l: float, C_n: float, C_lb: float, C_nb: float, C_lp: float, C_np: float, V: float, b: float) -> float:
        settled = turned(C_l, C_n, Sideways(C_lb, C_nb, C_lp, C_np))
        return math.nan if settled is None else settled.held * 2 * V / b

    figures.append(derive(
        ADVERSE[2], "({C_nb}·{C_l} − {C_lb}·{C_n})/({C_lb}·{C_np} − {C_lp}·{C_nb})·2·{V}/{b}", rolls,
        {**terms(answer), "V": Put(model_speed, "speed", "speed"), "b": Put(span, "span", "length")},
        source=_SOURCE, note=f"full stick at {SLOW:g} times the stall speed, once the nose has swung",
    ))  # fmt: skip
    return figures


def turn_figures(found: Sticks, full: Answering, radio: Radio | None) -> list[Figure]:
    """Give what a full pull comes to in cruise, and turns and roll at the rates.

    Parameters
    ----------
    found : Sticks
    full : Answering
    radio : Radio or None

    Returns
    -------
    list of Figure
    """
    figures: list[Figure] = []
    pull = found.pull
    if pull is None:
        figures += [absent(key, "no pitch control, or no trim it could fix") for key in TURNS[:3]]
    else:
        terms = {
            "e": Put(found.up, "elevator from level flight to full throw, as it counts", "angle",
                     POWER_SIGMA * found.up),
            "a": Put(pull.per_lift, "elevator per lift coefficient", "angle", _PULL_SIGMA * pull.per_lift),
            "d": Put(pull.per_rate, "elevator per pitch rate", "angle", _PULL_SIGMA * pull.per_rate),
            "C_L": Put(pull.lift, "lift coefficient in cruise", "ratio"),
            "n_s": Put(pull.most, "load factor at which it stalls", "ratio", 0.1 / BAND * pull.most),
            "V": Put(pull.speed, "cruise speed", "speed"),
        }  # fmt: skip

        def load(e: float, a: float, d: float, C_L: float, n_s: float, V: float, r: float = 1.0) -> float:
            return Pull(a, d, C_L, V, pull.chord, n_s).load(e * r)

        figures.append(derive(TURNS[0], "{a}·{C_L}·(n − 1) + {d}·(g/{V})·(n − 1/n)·c/(2·{V}) = {e}, no more than {n_s}",
                              load, terms, source=_SOURCE, note="in a level turn, all of the throw"))  # fmt: skip
        for key, high in ((TURNS[1], True), (TURNS[2], False)):
            figures.append(_radius(key, terms, load, rate_of(radio, "pitch", high=high)))
    if full.roll is None:
        return [*figures, absent(TURNS[3], "there is no roll control")]
    figures.append(derive(
        TURNS[3], "{p}·{r}", lambda p, r: p * r,
        {"p": Put(full.roll, "roll rate at full throw, in cruise", "turn_rate", POWER_SIGMA * abs(full.roll)),
         "r": Put(rate_of(radio, "roll", high=False), "the low rate", "fraction")},
        source=_SOURCE,
    ))  # fmt: skip
    return figures


def _radius(key: str, terms: Mapping[str, Put], load: Callable[..., float], rate: float) -> Figure:
    if not math.isfinite(turn_radius(terms["V"].value, load(**{name: term.value for name, term in terms.items()},
                                                            r=rate))):  # fmt: skip
        return absent(key, "a full pull does not turn it")
    rows = {**terms, "r": Put(rate, "the rate", "fraction")}
    return derive(
        key, "{V}²/(g·√(n² − 1)), n by {r}·{e}, {a}, {d}, {C_L} and {n_s}",
        lambda e, a, d, C_L, n_s, V, r: turn_radius(V, load(e, a, d, C_L, n_s, V, r)), rows,
        source=_SOURCE, note="a level turn in cruise; it needs the thrust to stay level",
    )  # fmt: skip


def left_figure(handled: Handling, flap: Flaps | None) -> Figure:
    """Give what flaperons keep of their roll with the flaps down.

    Parameters
    ----------
    handled : Handling
    flap : Flaps or None

    Returns
    -------
    Figure
    """
    roll = handled.throws.roll
    if flap is None or flap.roll_left >= 1.0 or roll <= 0:
        return absent(LEFT, "flaps and ailerons are not the same surfaces")
    return derive(
        LEFT, "(e({f} + {a}) − e({f} − {a}))/(2·e({a}))",
        lambda f, a: 0.5 * (effective_deflection(f + a) - effective_deflection(f - a)) / effective_deflection(a),
        {"f": Put(flap.setting, "flaps down", "angle", math.radians(1.0)),
         "a": Put(roll, "aileron", "angle", math.radians(1.0))},
        source="docs/theory.md §12", note="what a large deflection is still worth",
    )  # fmt: skip
