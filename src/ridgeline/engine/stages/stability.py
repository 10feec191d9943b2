"""Stages of stability: the lattice of the airframe, its neutral point, and the hand formula beside it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.engine.aero import neutral_point as hand
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, solve_airframe
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import TAILS, WINGS, Reference
from ridgeline.engine.stages.common import HANDBOOK, NO_WING, Outcome
from ridgeline.engine.stages.shape import Bodies, Shape

#: What a lattice with straight wakes and sections of a class is good for: 2 % of c̄ on the neutral point, 6 % of the
#: slope (90 %): most of it is the section's own slope.
LATTICE_SIGMA = 0.02 / BAND
SLOPE_SIGMA = 0.06 / BAND
NO_LATTICE = "the lattice finds no steady lift: surfaces cross or lie in one another"
#: Where the pencil-and-paper formula ends: it takes every wing to lift at its quarter chord (handbook of the trade §7).
HAND_LEAST_ASPECT, HAND_MOST_SWEEP = 3.0, math.radians(35)
NOT_OF_DELTAS = "the hand formula does not hold for deltas and strong sweep: they lift behind the quarter chord"
NOT_BY_HAND = "the hand formula does not hold for foreplanes and several wings"


def lattice(form: Shape, surfaces: tuple[Surface, ...]) -> Outcome[AirframeLattice | None]:
    """Panel and solve the airframe; None without a wing or where no sound solution exists."""
    if form.reference is None:
        return Outcome(None)
    try:
        model = solve_airframe(surfaces, form.reference)
    except np.linalg.LinAlgError:
        return Outcome(None)
    sound = (model.found.alpha.lift, model.neutral_fraction, model.found.zero.lift, model.found.zero.pitch)
    # A wing lifts at least by a third of its slender-wing slope; less means panels that cancel each other.
    least = math.pi * form.reference.aspect_ratio / 6
    if not np.isfinite(sound).all() or model.found.alpha.lift < min(least, 1.0) or abs(model.neutral_fraction) > 20:
        return Outcome(None)
    return Outcome(model)


@dataclass(frozen=True)
class Stability:
    """Lift slope 1/rad, the figure of the neutral point with bodies, and their forward shift (fractions of c̄)."""

    slope: float
    neutral: Figure
    body_shift: float
    tailless: bool
    foreplane: bool

    @property
    def neutral_fraction(self) -> float:
        """The neutral point, as a fraction of c̄."""
        assert self.neutral.value is not None
        return self.neutral.value


_KEYS = ("stability.cl_alpha", "stability.neutral_point_x", "stability.neutral_point_fraction")
_RATES = (
    "stability.cl_p",
    "stability.cm_q",
    "stability.cn_r",
    "wing.span_efficiency",
)
#: Bands of the rate derivatives, as shares: no body, no drag, no wash of the propeller, and for pitch and yaw the
#: pressure at the tail (held to two light aircraft, `bench/accuracy.py`).
_RATE_SIGMA = {"stability.cl_p": 0.15 / BAND, "stability.cm_q": 0.35 / BAND, "stability.cn_r": 0.35 / BAND}
_HAND = "stability.neutral_point_hand"


def stability(form: Shape, body: Bodies, model: AirframeLattice | None) -> Outcome[Stability | None]:
    """Give lift slope and neutral point by the lattice, and the hand formula beside them where it holds."""
    ref, tails = form.reference, form.tails
    if ref is None or tails is None:
        return Outcome(None, tuple(absent(key, NO_WING) for key in (*_KEYS, _HAND, *_RATES)))
    by_hand = _hand_check(form, body)
    if model is None:
        return Outcome(None, (*(absent(key, NO_LATTICE) for key in (*_KEYS, *_RATES)), by_hand))
    slope = model.found.alpha.lift
    shift = _body_shift(body, ref, slope)
    figures = _lattice_figures(model, ref, slope, shift)
    fraction = figures[2]
    assert fraction.value is not None
    tailless = not any(s.role in (*TAILS, "foreplane") for s in form.surfaces)
    result = Stability(slope, fraction, shift, tailless, tails.foreplane and not form.of(*TAILS))
    return Outcome(result, (*figures, by_hand, *_rate_figures(model, ref)))


def _body_shift(body: Bodies, ref: Reference, slope: float) -> float:
    slim = 20.0  # a boom this slender has no volume to speak of
    return sum(
        hand.body_shift(b.volume, b.fineness, ref.area, ref.mac, slope) for b in body.bodies if b.fineness < slim
    )


def _lattice_figures(model: AirframeLattice, ref: Reference, slope: float, shift: float) -> tuple[Figure, ...]:
    source = "docs/theory.md §7; Katz and Plotkin, Low-Speed Aerodynamics; Munk, NACA Report 184 for the body"
    lift = derive(
        "stability.cl_alpha",
        "{a} from the lattice",
        lambda a: a,
        {"a": Put(slope, "lift slope of all surfaces together", "per_radian", SLOPE_SIGMA * slope)},
        source=source,
    )
    fraction = derive(
        "stability.neutral_point_fraction",
        "¼ + {m} − {body}",
        lambda m, body: 0.25 + m - body,
        {
            "m": Put(-model.found.alpha.pitch / slope, "moment over lift, about ¼", "ratio", LATTICE_SIGMA),
            "body": Put(shift, "forward shift by the body", "ratio", 0.4 * shift),
        },
        source=source,
        note="all surfaces together with their wakes; the hand formula stands beside it as a check",
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
    return lift, place, fraction


def _rate_figures(model: AirframeLattice, ref: Reference) -> tuple[Figure, ...]:
    """Give rate derivatives about the quarter of the mean chord, and the span efficiency."""
    found = model.found
    values = {
        "stability.cl_p": found.roll_rate.roll,
        "stability.cm_q": found.pitch_rate.pitch,
        "stability.cn_r": found.yaw_rate.yaw,
    }
    source, note = "docs/theory.md §7", "about the quarter of the mean chord; bodies and propeller wash left out"
    figures = [
        derive(
            key,
            "{C} from the lattice",
            lambda C: C,
            {"C": Put(value, "surfaces together, antisymmetric case", "per_radian", _RATE_SIGMA[key] * abs(value))},
            source=source,
            note=note,
        )
        for key, value in values.items()
    ]
    k = Put(model.induced_k, "induced drag over lift squared, wake far aft", "ratio", 0.02 * model.induced_k)
    aspect = Put(ref.aspect_ratio, "aspect ratio", "ratio", 0.0, "wing.aspect_ratio")
    efficiency = derive(
        "wing.span_efficiency",
        "1/(π·{k}·{A})",
        lambda k, A: 1 / (math.pi * k * A),
        {"k": k, "A": aspect},
        source=source,
        note="one for the best single flat wing; several wings share the load and may pass it",
    )
    return (*figures, efficiency)


def _hand_check(form: Shape, body: Bodies) -> Figure:
    """Give the neutral point by the pencil-and-paper formula, or say why it does not hold."""
    ref, tails = form.reference, form.tails
    assert ref is not None and tails is not None
    if ref.wings > 1 or tails.foreplane:
        return absent(_HAND, NOT_BY_HAND)
    wing = form.of(*WINGS)[0]
    if wing.aspect_ratio < HAND_LEAST_ASPECT or abs(math.atan(wing.half_chord_sweep)) > HAND_MOST_SWEEP:
        return absent(_HAND, NOT_OF_DELTAS)
    a_w = hand.lift_slope(wing.aspect_ratio, wing.half_chord_sweep)
    tail = form.of(*TAILS)
    area = sum(t.area_h for t in tail)
    a_t = wash = 0.0
    if area > 0:
        a_t = sum(t.area_h * hand.lift_slope(t.aspect_ratio, t.half_chord_sweep) for t in tail) / area
        height = sum(t.area_h * t.z_mean for t in tail) / area - ref.z
        wash = hand.downwash_gradient(a_w, wing.aspect_ratio, height / ref.span)
    volume = tails.horizontal or 0.0
    simple = hand.hand_neutral_point(a_w, a_t, area / ref.area, volume, wash)
    shift = _body_shift(body, ref, simple.lift_slope)
    return derive(
        _HAND,
        "¼ + {eta}·{V_H}·({a_t}/{a})·(1 − {eps}) − {body}",
        lambda eta, V_H, a_t, a, eps, body: 0.25 + eta * V_H * a_t / a * (1 - eps) - body,
        {
            "eta": Put(hand.TAIL_PRESSURE_RATIO, "dynamic pressure at the tail", "ratio", hand.TAIL_PRESSURE_SIGMA),
            "V_H": Put(volume, "tail volume", "ratio", 0.0, "tail.volume_h" if tails.horizontal is not None else ""),
            "a_t": Put(a_t, "tail lift slope", "per_radian"),
            "a": Put(simple.lift_slope, "lift slope of wing and tail", "per_radian"),
            "eps": Put(wash, "downwash per angle", "ratio", 0.05),
            "body": Put(shift, "forward shift by the body", "ratio", 0.4 * shift),
        },
        source=f"docs/theory.md §7; {HANDBOOK} §7",
        note="a check by pencil and paper, not for foreplanes and several wings",
        model_sigma=hand.FORMULA_SIGMA,
    )
