"""Stages of stability: neutral point, speeds, and the balance point against its targets."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.engine.aero import neutral_point as hand
from ridgeline.engine.aero import stall
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.sections import CL_MAX_SIGMA
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import (
    TAILS,
    WINGS,
    Reference,
)
from ridgeline.engine.sizing.purposes import (
    FIRST_THROW_TAILED,
    FIRST_THROW_TAILLESS,
    PURPOSES,
    middle,
)
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_WING, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Bodies, Shape


@dataclass(frozen=True)
class Stability:
    """Hand-formula stability of one wing with or without a tail; None fields with the reason when not valid."""

    wing_slope: float
    tail_slope: float
    slope: float
    downwash: float
    tail_ratio: float
    neutral_fraction: float
    neutral_sigma: float
    tailless: bool


def stability(form: Shape, body: Bodies) -> Outcome:
    """Give lift slope and neutral point by hand formula, or say why it does not hold."""
    keys = ("stability.cl_alpha", "stability.neutral_point_x", "stability.neutral_point_fraction")
    ref, tails = form.reference, form.tails
    if ref is None or tails is None:
        return Outcome(None, tuple(absent(key, NO_WING) for key in keys))
    if ref.wings > 1 or tails.foreplane:
        why = "the hand formula does not hold for foreplanes and several wings; a lattice will"
        return Outcome(None, tuple(absent(key, why) for key in keys))
    wing = form.of(*WINGS)[0]
    wing_slope = hand.lift_slope(wing.aspect_ratio, wing.half_chord_sweep)
    tail = form.of(*TAILS)
    tail_area = sum(t.area_h for t in tail)
    tail_slope = downwash = 0.0
    if tail_area > 0:
        tail_slope = sum(t.area_h * hand.lift_slope(t.aspect_ratio, t.half_chord_sweep) for t in tail) / tail_area
        height = sum(t.area_h * t.z_mean for t in tail) / tail_area - ref.z
        downwash = hand.downwash_gradient(wing_slope, wing.aspect_ratio, height / ref.span)
    ratio, volume = tail_area / ref.area, tails.horizontal or 0.0
    simple = hand.hand_neutral_point(wing_slope, tail_slope, ratio, volume, downwash)
    shift = sum(
        hand.body_shift(b.volume, b.fineness, ref.area, ref.mac, simple.lift_slope)
        for b in body.bodies
        if b.fineness < 20
    )
    result = Stability(
        wing_slope, tail_slope, simple.lift_slope, downwash, ratio, simple.fraction - shift, 0.0, tail_area == 0
    )
    figures = _stability_figures(result, ref, volume, shift)
    # The band of the neutral point goes on into margin, targets and trim.
    return Outcome(replace(result, neutral_sigma=figures[2].sigma), figures)


def _stability_figures(s: Stability, ref: Reference, volume: float, shift: float) -> tuple[Figure, ...]:
    source = f"docs/theory.md §7; {HANDBOOK} §7; Munk, NACA Report 184 for the body"
    eta = Put(hand.TAIL_PRESSURE_RATIO, "dynamic pressure at the tail", "ratio", hand.TAIL_PRESSURE_SIGMA)
    a_w = Put(s.wing_slope, "wing lift slope", "per_radian")
    a_t = Put(s.tail_slope, "tail lift slope", "per_radian")
    wash = Put(s.downwash, "downwash per angle", "ratio", 0.05)
    ratio = Put(s.tail_ratio, "tail area over wing area", "ratio")
    slope = derive(
        "stability.cl_alpha",
        "{a_w} + {eta}·{S_t}·{a_t}·(1 − {eps})",
        lambda a_w, eta, S_t, a_t, eps: a_w + eta * S_t * a_t * (1 - eps),
        {"a_w": a_w, "eta": eta, "S_t": ratio, "a_t": a_t, "eps": wash},
        source=source,
        model_sigma=0.04 * s.slope,
    )
    fraction = derive(
        "stability.neutral_point_fraction",
        "¼ + {eta}·{V_H}·({a_t}/{a})·(1 − {eps}) − {body}",
        lambda eta, V_H, a_t, a, eps, body: 0.25 + eta * V_H * a_t / a * (1 - eps) - body,
        {
            "eta": eta,
            "V_H": Put(volume, "tail volume", "ratio", 0.0, "tail.volume_h"),
            "a_t": a_t,
            "a": Put(s.slope, "lift slope of the whole aircraft", "per_radian", 0.0, "stability.cl_alpha"),
            "eps": wash,
            "body": Put(shift, "forward shift by the body", "ratio", 0.4 * shift),
        },
        source=source,
        note="hand formula; a lifting-surface solution takes its place later",
        model_sigma=hand.FORMULA_SIGMA,
    )
    place = derive(
        "stability.neutral_point_x",
        "{x_mac} + {n}·{mac}",
        lambda x_mac, n, mac: x_mac + n * mac,
        {
            "x_mac": Put(ref.mac_x_le, "leading edge of the mean chord", "length", 0.0, "wing.mac_x_le"),
            "n": put(fraction, "neutral point"),
            "mac": Put(ref.mac, "mean chord", "length", 0.0, "wing.mac"),
        },
        source=source,
    )
    return slope, place, fraction


@dataclass(frozen=True)
class Speeds:
    """Lift limit and speeds m/s; None without wing or mass."""

    cl_max: float
    stall: float
    cruise: float


def speeds(form: Shape, mass: Masses, here: Air, brief: Brief, surfaces: tuple[Surface, ...]) -> Outcome:
    """Give lift limit, stall speed and cruise speed."""
    keys = ("wing.cl_max", "speed.stall", "speed.cruise")
    if form.reference is None or mass.state is None:
        why = NO_WING if form.reference is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    ref, state = form.reference, mass.state
    wing = next(s for s in surfaces if s.role in WINGS)
    limit = stall.airframe_cl_max(wing.section, state.mass, here.density, here.viscosity, ref.area, ref.mac)
    cl_max = derive(
        "wing.cl_max",
        "{k}·{c_lmax}",
        lambda k, c_lmax: k * c_lmax,
        {
            "k": Put(stall.AIRFRAME_SHARE, "airframe over section", "ratio", stall.AIRFRAME_SHARE_SIGMA),
            "c_lmax": Put(
                limit / stall.AIRFRAME_SHARE,
                "section lift limit at the stall",
                "ratio",
                CL_MAX_SIGMA * limit / stall.AIRFRAME_SHARE,
            ),
        },
        source=f"{HANDBOOK} §14",
    )
    slowest = derive(
        "speed.stall",
        "√(2·{m}·{g}/({d}·{S}·{C_Lmax}))",
        lambda m, g, d, S, C_Lmax: math.sqrt(2 * m * g / (d * S * C_Lmax)),
        {
            "m": Put(state.mass, "all-up weight", "mass", state.sigma_mass, "mass.auw"),
            "g": Put(GRAVITY, "gravity", "acceleration"),
            "d": Put(here.density, "air density", "density", 0.01 * here.density),
            "S": Put(ref.area, "wing area", "area", 0.006 * ref.area),
            "C_Lmax": put(cl_max),
        },
        source="docs/theory.md §3",
    )
    cruise = derive(
        "speed.cruise",
        "{r}·{V_s}",
        lambda r, V_s: r * V_s,
        {"r": Put(brief.cruise_ratio, "cruise over stall, from the brief", "ratio"), "V_s": put(slowest)},
        source="the brief",
    )
    assert slowest.value is not None and cruise.value is not None
    return Outcome(Speeds(limit, slowest.value, cruise.value), (cl_max, slowest, cruise))


@dataclass(frozen=True)
class Balance:
    """Balance as fractions of c̄: now, neutral point, aim, and first throw (None where unknown)."""

    cg_fraction: float
    neutral: float | None
    target: tuple[float, float] | None
    aim: float | None
    first_throw: tuple[float, float] | None
    tailless: bool


def balance(form: Shape, mass: Masses, stable: Stability | None, brief: Brief) -> Outcome:
    """Compare the centre of gravity with the neutral point and the wanted margin."""
    keys = (
        "balance.cg_fraction",
        "balance.cg_from_root",
        "balance.target_low",
        "balance.target_high",
        "balance.first_flight",
        "stability.static_margin",
        "stability.cm_alpha",
    )
    ref, state = form.reference, mass.state
    if ref is None or state is None:
        why = NO_WING if ref is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    cg_x = Put(float(state.cg[0]), "balance point", "length", float(state.sigma_cg[0]), "balance.cg_x")
    fraction = derive(
        "balance.cg_fraction",
        "({x_cg} − {x_mac})/{mac}",
        lambda x_cg, x_mac, mac: (x_cg - x_mac) / mac,
        {
            "x_cg": cg_x,
            "x_mac": Put(ref.mac_x_le, "leading edge of the mean chord", "length", 0.0, "wing.mac_x_le"),
            "mac": Put(ref.mac, "mean chord", "length", 0.0, "wing.mac"),
        },
        source="docs/theory.md §6",
    )
    from_root = derive(
        "balance.cg_from_root",
        "{x_cg} − {x_root}",
        lambda x_cg, x_root: x_cg - x_root,
        {"x_cg": cg_x, "x_root": Put(ref.x_root_le, "root leading edge", "length")},
        source="docs/theory.md §6",
    )
    assert fraction.value is not None
    if stable is None:
        why = "the neutral point of this layout needs a lifting-surface solution"
        result = Balance(fraction.value, None, None, None, None, False)
        return Outcome(result, (fraction, from_root, *(absent(key, why) for key in keys[2:])))
    return _balance_targets(fraction, from_root, stable, brief)


def _balance_targets(fraction: Figure, from_root: Figure, stable: Stability, brief: Brief) -> Outcome:
    assert fraction.value is not None
    neutral = Put(
        stable.neutral_fraction,
        "neutral point",
        "fraction",
        stable.neutral_sigma,
        "stability.neutral_point_fraction",
    )
    low_margin, high_margin = PURPOSES[brief.purpose].static_margin
    source = f"{HANDBOOK} §§3, 6: from the neutral point and the margin the purpose wants"

    def target(key: str, margin: float, label: str) -> Figure:
        row = {"n": neutral, "SM": Put(margin, label, "fraction")}
        return derive(key, "{n} − {SM}", lambda n, SM: n - SM, row, source=source)

    front = target("balance.target_low", high_margin, "greatest margin wanted")
    back = target("balance.target_high", low_margin, "least margin wanted")
    ahead = FIRST_THROW_TAILLESS if stable.tailless else FIRST_THROW_TAILED
    aim = stable.neutral_fraction - brief.static_margin
    first = derive(
        "balance.first_flight",
        "{n} − {SM} − {ahead}",
        lambda n, SM, ahead: n - SM - ahead,
        {
            "n": neutral,
            "SM": Put(brief.static_margin, "margin aimed at", "fraction"),
            "ahead": Put(middle(ahead), "ahead of it for a first flight", "fraction"),
        },
        source=source,
    )
    margin = derive(
        "stability.static_margin",
        "{n} − {cg}",
        lambda n, cg: n - cg,
        {"n": neutral, "cg": put(fraction, "balance point")},
        source="docs/theory.md §7",
    )
    assert margin.value is not None
    stiffness = derive(
        "stability.cm_alpha",
        "−{a}·{SM}",
        lambda a, SM: -a * SM,
        {"a": Put(stable.slope, "lift slope", "per_radian", 0.04 * stable.slope), "SM": put(margin)},
        source="docs/theory.md §7",
    )
    result = Balance(
        fraction.value,
        stable.neutral_fraction,
        (stable.neutral_fraction - high_margin, stable.neutral_fraction - low_margin),
        aim,
        (aim - ahead[1], aim - ahead[0]),
        stable.tailless,
    )
    return Outcome(result, (fraction, from_root, front, back, first, margin, stiffness))
